"""Words and signs of a sentence, from left to right: what stands next, and what was expected instead."""

from __future__ import annotations

import re

MOST_LETTERS = 20_000
"""A longer sentence is refused."""
_BLANK = re.compile(r"\s*")
_WORD = re.compile(r"[^\W\d_][\w'’]*", re.UNICODE)
_QUOTED = re.compile(r'"((?:[^"\\]|\\.)*)"')
_SAME = {"center": "centre", "dia": "diameter", "rad": "radius"}


class Unreadable(ValueError):
    """A sentence cannot be read: says what was expected, with ``at``, the place of the character; ``ends``
    that a slot is whole before it."""

    def __init__(self, says: str, at: int, *, ends: bool = False) -> None:
        super().__init__(says)
        self.says, self.at, self.ends = says, at, ends


def remark_begins(line: str) -> int:
    """Return where a remark begins behind a sentence; the end where there is none. A sign within a wording,
    and one before the id of a step, begin none."""
    if "#" not in line:
        return len(line)
    quoted = passed = False
    for n, letter in enumerate(line):
        if passed:
            passed = False
        elif quoted:
            quoted, passed = letter != '"', letter == "\\"
        elif letter == '"':
            quoted = True
        elif letter == "#" and not line[n + 1 : n + 2].isdigit():
            return n
    return len(line)


class Words:
    """A sentence, and the place up to which it was read."""

    def __init__(self, text: str) -> None:
        if len(text) > MOST_LETTERS:
            raise Unreadable(f"A sentence may have {MOST_LETTERS} letters at most.", MOST_LETTERS)
        self.text = text
        self.at = 0
        self._seen_at, self._seen, self._behind = -1, "", 0

    def skip(self) -> None:
        """Pass over blanks."""
        if self.at < len(self.text) and self.text[self.at].isspace():
            found = _BLANK.match(self.text, self.at)
            assert found is not None
            self.at = found.end()

    def peek(self) -> str:
        """Return the next word in small letters; nothing where there is none."""
        if self._seen_at != self.at:  # the same place is looked at again and again
            self.skip()
            found = _WORD.match(self.text, self.at)
            word = found.group().lower() if found else ""
            self._seen, self._behind = _SAME.get(word, word), found.end() if found else self.at
            self._seen_at = self.at
        return self._seen

    def mark(self) -> tuple[int, ...]:
        """Return where reading stands, to come back to."""
        return (self.at,)

    def back(self, mark: tuple[int, ...]) -> None:
        """Go back to where reading stood, as if nothing had been read since."""
        self.at = mark[0]

    def begins(self, *words: str) -> bool:
        """Say whether one of some words stands here."""
        return self.peek() in words

    def takes(self, *words: str) -> bool:
        """Pass over a phrase if it stands here; say whether it did."""
        before = self.at
        for word in words:
            if self.peek() != word:
                self.at = before
                return False
            self.pass_word()
        return True

    def one_of(self, words: tuple[str, ...], what: str = "") -> str:
        """Return which of some words stands here. Raises Unreadable."""
        word = self.peek()
        if word not in words:
            said = ", ".join(words[:-1]) + (" or " if len(words) > 1 else "") + words[-1]
            raise self.expected(f"{what + ': ' if what else ''}{said}")
        self.pass_word()
        return word

    def needs(self, *words: str) -> None:
        """Pass over a phrase that has to stand here. Raises Unreadable."""
        if not self.takes(*words):
            raise self.expected(repr(" ".join(words)))

    def sign(self, sign: str) -> bool:
        """Pass over a sign if it stands here; say whether it did."""
        self.skip()
        if not self.text.startswith(sign, self.at):
            return False
        self.at += len(sign)
        return True

    def word_as_written(self) -> str:
        """Pass over the next word and return it as it is written; nothing where there is none."""
        self.skip()
        found = _WORD.match(self.text, self.at)
        if found is None:
            return ""
        self.at = found.end()
        return found.group()

    def pass_word(self) -> None:
        """Pass over the word that was looked at last."""
        self.at = self._behind

    @property
    def slot_ends(self) -> bool:
        """Whether a slot, or the sentence, ends here."""
        self.skip()
        return self.at >= len(self.text) or self.text[self.at] in ";·"

    @property
    def all_read(self) -> bool:
        """Whether nothing is left."""
        self.skip()
        return self.at >= len(self.text)

    def next_slot(self) -> bool:
        """Pass over the sign between slots; say whether another slot follows. Raises Unreadable where
        something else stands here."""
        self.skip()
        if self.at >= len(self.text):
            return False
        if self.text[self.at] not in ";·":
            raise self.expected("';' or the end", ends=True)
        self.at += 1
        return True

    def first(self, what: str) -> None:
        """Say what the part that comes next is for, where no sign between slots stands before it."""

    def another(self, what: str) -> None:
        """Pass over the sign between slots, where another has to follow. Raises Unreadable."""
        if not self.next_slot():
            raise Unreadable(f"{what} is missing here.", self.at)

    def expected(self, what: str, *, ends: bool = False) -> Unreadable:
        """Return the error that something else was expected here."""
        self.skip()
        found = re.match(r"\S{1,20}", self.text[self.at :])
        there = f", not {found.group()!r}" if found else ""
        return Unreadable(f"Expected {what}{there}.", self.at, ends=ends)

    def quoted(self) -> str:
        """Return a quoted wording; inside, a stroke goes before a quotation mark and before a stroke. Raises
        Unreadable."""
        self.skip()
        found = _QUOTED.match(self.text, self.at)
        if found is None:
            raise self.expected('a wording in quotation marks ("...")')
        self.at = found.end()
        return re.sub(r"\\(.)", r"\1", found.group(1))

    def name(self, what: str) -> str:
        """Return a name as it is written, up to the end of the slot; quoted if it holds a semicolon. Raises
        Unreadable."""
        self.skip()
        if self.text[self.at : self.at + 1] == '"':
            return self.quoted()
        found = re.match(r"[^;·]*", self.text[self.at :])
        name = found.group().strip() if found else ""
        if not name:
            raise self.expected(what)
        self.at += len(found.group()) if found else 0
        return name
