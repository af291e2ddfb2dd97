"""Words and signs of a sentence, from left to right: what stands next, and what was expected instead."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import NamedTuple

MOST_LETTERS = 20_000
"""A longer sentence is refused."""
_BLANK = re.compile(r"\s*")
_WORD = re.compile(r"[^\W\d_][\w'’]*", re.UNICODE)
_QUOTED = re.compile(r'"((?:[^"\\]|\\.)*)"')
_SAME = {"center": "centre", "dia": "diameter", "rad": "radius"}
OLDER = {
    "size": "dimension",
    "sizes": "dimensions",
    "square": "perpendicular",
    "level": "horizontal",
    "plumb": "vertical",
}
"""Words of sentences from before, and the trade's word for each: both are read, the trade's is shown. More
are read as such where they stand: `Words.takes_older`, `Words.one_of`."""


class Renewal(NamedTuple):
    """Where an older word stands in a text, and the word that is shown for it."""

    begin: int
    end: int
    word: str


NO_OLDER: Mapping[str, str] = {}


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
            raise Unreadable(
                f"A sentence may have {MOST_LETTERS} letters at most. Make two of it.", MOST_LETTERS
            )
        self.text = text
        self.at = 0
        self._seen_at, self._seen, self._behind = -1, "", 0
        self._begins, self._raw = 0, ""
        self.renewals: list[Renewal] = []
        """The older words that were read so far, as they stand in the text."""

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
            self._raw = _SAME.get(word, word)
            self._seen = OLDER.get(self._raw, self._raw)
            self._begins, self._behind = self.at, found.end() if found else self.at
            self._seen_at = self.at
        return self._seen

    def word_behind(self) -> str | None:
        """Return the word behind the next one, in small letters; nothing where none stands there, None at the
        end of the text."""
        self.peek()
        rest = self.text[self._behind :].lstrip()
        found = _WORD.match(rest)
        return found.group().lower() if found else "" if rest else None

    def mark(self) -> tuple[int, ...]:
        """Return where reading stands, to come back to."""
        return (self.at,)

    def back(self, mark: tuple[int, ...]) -> None:
        """Go back to where reading stood, as if nothing had been read since."""
        self._return(mark[0])

    def _return(self, at: int) -> None:
        self.at = at
        while self.renewals and self.renewals[-1].begin >= at:
            self.renewals.pop()

    def begins(self, *words: str) -> bool:
        """Say whether one of some words stands here."""
        return self.peek() in words

    def takes(self, *words: str) -> bool:
        """Pass over a phrase if it stands here; say whether it did."""
        before = self.at
        for word in words:
            if self.peek() != word:
                self._return(before)
                return False
            self.pass_word()
        return True

    def takes_older(self, *words: str, shown: str) -> bool:
        """Pass over a phrase of sentences from before if it stands here, and note what is shown for it; say
        whether it did."""
        before, begins = self.at, -1
        for word in words:
            self.peek()
            begins = self._begins if begins < 0 else begins
            if self._raw != word:
                self._return(before)
                return False
            self.at = self._behind
        self.renewals.append(Renewal(begins, self.at, shown))
        return True

    def takes_tangent_to(self) -> bool:
        """Pass over ``tangent to``, or ``touching`` as it was said before, if it stands here; say whether it
        did."""
        return self.takes("tangent", "to") or self.takes_older("touching", shown="tangent to")

    def one_of(self, words: tuple[str, ...], what: str = "", older: Mapping[str, str] = NO_OLDER) -> str:
        """Return which of some words stands here; ``older`` gives what is read for another one. Raises
        Unreadable."""
        word = self.peek()
        if word in older:
            self.renewals.append(Renewal(self._begins, self._behind, older[word]))
            self.at = self._behind
            return older[word]
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
        if self._raw in OLDER:
            self.renewals.append(Renewal(self._begins, self._behind, self._seen))
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
            raise Unreadable(f"{what} is missing here. Say it.", self.at)

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
            raise self.expected('a text in quotation marks ("...")')
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
