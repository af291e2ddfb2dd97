"""A sentence being written: what is wanted next, which answers there are, and where its slots stand.

The readers of sentences are asked themselves: a sentence that ends early is read by a reader that notes down
what would have been taken where it ends. Nothing about a kind of sentence is written twice.

- *span*: a slot, or a part of one, that can be written over: from, to, and what stands there.
- *wanted*: what may stand at a place: words to choose from, a point, a feature, a number, a wording, a name.
"""

from __future__ import annotations

# ruff: noqa: D102 (what the methods of Noting mean is said at those of Reader)
import re
from collections.abc import Callable, Iterable, Mapping
from contextlib import suppress
from typing import Any, NamedTuple, TypeVar

from evenmark.core.construct.kinds import WORDS
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import FEATURES, Expression, Ref
from evenmark.core.construct.sentences import Sentence, read_by
from evenmark.core.construct.words import NO_OLDER, Unreadable
from evenmark.core.geometry.exact import Exact
from evenmark.core.geometry.numbers import Typed

MOST_ANSWERS = 24
_OPEN = re.compile(r"\s*\(\s*")
_STEM = re.compile(r"[^\W\d_][\w'’]*\Z")

T = TypeVar("T")


class Span(NamedTuple):
    """Where a part of a sentence stands: ``kind`` as `Wanted` has it, with the kinds of features."""

    begin: int
    end: int
    kind: str
    kinds: tuple[str, ...] = ()
    value: Any = None
    """What was understood of it."""


class Wanted(NamedTuple):
    """One thing that may stand at a place. ``kind`` is word, point, feature, part (the number of a feature
    whose kind stands there), things, number, direction, shift, wording, name or sign; ``says`` the word or
    sign, or what a name is for; ``kinds`` which features."""

    kind: str
    says: str = ""
    kinds: tuple[str, ...] = ()


class Completion(NamedTuple):
    """A sentence as far as it is written.

    ``sentence`` is what it says where it is whole, ``wrong`` why it cannot be read (with the place). What is
    wanted is so at the caret: it would replace the letters from ``begin`` to ``end``; ``about`` says in words
    what the slot is for, ``stem`` is the part of a word that is written there already.
    """

    sentence: Sentence | None
    wrong: Unreadable | None
    spans: tuple[Span, ...]
    wanted: tuple[Wanted, ...]
    about: str
    begin: int
    end: int
    stem: str


class CompletionReader(Reader):
    """A reader that notes down what it would have taken at the end of its text, and where parts stand."""

    def __init__(self, text: str, id_of: Callable[[int], int | None], inch: Exact = 1) -> None:
        super().__init__(text, id_of, inch)
        self.noted: list[Wanted] = []
        self.spans: list[Span] = []
        self.about = ""
        self._within = 0

    @property
    def ended(self) -> bool:
        """Whether nothing more is written."""
        return not self.text[self.at :].strip()

    def note(self, kind: str, says: str = "", kinds: tuple[str, ...] = ()) -> None:
        """Note down what would be taken here, at the end and not within what is noted as a whole."""
        if self.ended and not self._within:
            found = Wanted(kind, says, kinds)
            if found not in self.noted:
                self.noted.append(found)

    def mark(self) -> tuple[int, ...]:
        return (*super().mark(), len(self.spans))

    def back(self, mark: tuple[int, ...]) -> None:
        super().back(mark)
        del self.spans[mark[2] :]

    def _whole(self, kind: str, kinds: tuple[str, ...], read: Callable[[], T]) -> T:
        """Read a part; where it ends before it begins, note it as a whole, without all that it may be."""
        self.note(kind, "", kinds)
        outer = self.ended
        self._within += outer
        self.skip()
        begin, place = self.at, len(self.spans)
        try:
            out = read()
        finally:
            self._within -= outer
        self.spans.insert(place, Span(begin, self.at, kind, kinds, out))
        return out

    # what the readers of sentences ask for

    def begins(self, *words: str) -> bool:
        for word in words:
            self.note("word", word)
        return super().begins(*words)

    def begins_feature(self, kinds: tuple[str, ...]) -> bool:
        self.note("feature", "", kinds)
        return super().begins_feature(kinds)

    def takes(self, *words: str) -> bool:
        before = self.mark()
        for n, word in enumerate(words):
            if self.peek() != word:
                self.note("word", " ".join(words[n:]))
                self.back(before)
                return False
            self.pass_word()
        return True

    def one_of(self, words: tuple[str, ...], what: str = "", older: Mapping[str, str] = NO_OLDER) -> str:
        for word in words:
            self.note("word", word)
        if self.ended and what and not self._within and not self.about:
            self.about = what
        self.skip()
        begin = self.at
        out = super().one_of(words, what, older)
        if not self._within:
            self.spans.append(Span(begin, self.at, "word"))
        return out

    def sign(self, sign: str) -> bool:
        if sign != "(":
            self.note("sign", sign)
        return super().sign(sign)

    def next_slot(self) -> bool:
        self.note("sign", ";")
        out = super().next_slot()
        if out:
            self.about = ""
        return out

    def first(self, what: str) -> None:
        self.about = what

    def another(self, what: str) -> None:
        super().another(what)
        self.about = what

    def _goes_on_with(self, words: tuple[str, ...]) -> bool:
        # behind a blank the word may still become what it begins
        return super()._goes_on_with(words) or (self.word_behind() is None and self.text[-1:].isspace())

    def number(self) -> Typed:
        return self._whole("number", (), super().number)

    def feature(self, kinds: tuple[str, ...] = FEATURES) -> Ref:
        return self.reference(kinds)

    def reference(self, kinds: tuple[str, ...]) -> Ref:
        return self._whole("feature", kinds, lambda: self._referred(kinds))

    def _referred(self, kinds: tuple[str, ...]) -> Ref:
        self.skip()
        begin = self.at
        try:
            return super().reference(kinds)
        except Unreadable:
            if self.at > begin:
                self.note("part", self.text[begin : self.at].strip().lower(), kinds)
            raise

    @property
    def at_thing(self) -> bool:
        self.note("things")
        return super().at_thing

    def things(self) -> Expression:
        return self._whole("things", (*FEATURES, "step"), super().things)

    def point(self) -> Expression:
        return self._whole("point", (), super().point)

    def way(self) -> Expression:
        return self._whole("direction", (), super().way)

    def shift(self) -> Expression:
        self.note("word", "from")
        self.note("word", "by")
        return self._whole("shift", (), super().shift)

    def quoted(self) -> str:
        return self._whole("wording", (), super().quoted)

    def word_as_written(self) -> str:
        self.note("name", "a name")
        return super().word_as_written()

    def _layer_of_things(self) -> str:
        self.note("name", "the name of a layer")
        return super()._layer_of_things()

    def _window_stands_here(self) -> bool:
        if _OPEN.fullmatch(self.text, self.at):
            self.noted.append(Wanted("word", "inside"))
        return super()._window_stands_here()

    def name(self, what: str) -> str:
        self.note("name", what)
        self.skip()
        begin = self.at
        out = super().name(what)
        self.spans.append(Span(begin, self.at, "name"))
        return out


def complete(text: str, caret: int, id_of: Callable[[int], int | None], inch: Exact = 1) -> Completion:
    """Return how a sentence stands that is being written, and what is wanted at the caret."""
    whole = CompletionReader(text, id_of, inch)
    sentence: Sentence | None = None
    wrong: Unreadable | None = None
    try:
        sentence = read_by(whole)
    except Unreadable as why:
        wrong = why
    begin, end = _place(text, min(max(caret, 0), len(text)), whole.spans)
    stem = text[begin:end]
    noted, about = wanted(text[:begin], id_of, inch)
    return Completion(sentence, wrong, tuple(whole.spans), noted, about, begin, end, stem)


def _place(text: str, caret: int, spans: Iterable[Span]) -> tuple[int, int]:
    """Return what would be written over at a caret: the innermost part that it stands in or behind, or the
    word that is being written there."""
    inside = [s for s in spans if s.begin <= caret <= s.end and s.begin < s.end]
    if inside:
        found = min(inside, key=lambda s: (s.end - s.begin, -s.begin))
        if not (caret == len(text) and text[found.end :].isspace()):
            return found.begin, found.end
    begun = _STEM.search(text[:caret])
    return (begun.start(), caret) if begun is not None else (caret, caret)


def wanted(text: str, id_of: Callable[[int], int | None], inch: Exact = 1) -> tuple[tuple[Wanted, ...], str]:
    """Return what may follow a sentence that is written so far, and in words what the slot is for; nothing
    where what is written cannot be read."""
    if not text.strip():
        return tuple(Wanted("word", word) for word in WORDS), "what to do"
    r = CompletionReader(text, id_of, inch)
    with suppress(Unreadable):  # what was noted at the end was so in one of the ways to read it
        read_by(r)
    signs_alone = all(x.kind == "sign" for x in r.noted)
    return tuple(r.noted), "" if signs_alone else r.about


def answers(
    text: str, id_of: Callable[[int], int | None], inch: Exact = 1, *, deep: int = 3
) -> tuple[str, ...]:
    """Return the words that may follow, joined where words alone follow on words: ``outer left``."""
    out: list[str] = []
    found, _ = wanted(text, id_of, inch)
    space = "" if not text or text[-1].isspace() else " "
    for one in found:
        if one.kind != "word":
            continue
        further = f"{text}{space}{one.says} "
        after, _ = wanted(further, id_of, inch) if deep > 1 else ((), "")
        if after and all(w.kind == "word" for w in after):
            out += [f"{one.says} {more}" for more in answers(further, id_of, inch, deep=deep - 1)]
        else:
            out.append(one.says)
    return tuple(dict.fromkeys(out))[:MOST_ANSWERS]
