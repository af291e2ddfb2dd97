"""References: how a sentence names what earlier steps made.

- *reference*: a part that an earlier step made: ``edge 3.2``. In a document that is kept it holds the step's
  id (``edge #7.2``), which never changes; shown numbers follow the list.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, NamedTuple

from evenmark.core.construct.words import Renewal, Unreadable, Words
from evenmark.core.geometry.exact import Exact

FEATURES = ("edge", "arc", "circle", "text", "size", "note", "hatch", "guide", "curve")
"""What a step can make that later steps can name."""
NAMED = {"size": "dimension"}
"""How a kind of feature is called in a sentence, where its kind has another word."""
CALLED = {"dimension": "size", "line": "edge"}
"""Which kind a word means that is followed by a number."""
_REFERENCE = re.compile(r"(#?)(\d+)(?:\.(\d+))?(?!\d)")


class Expression(NamedTuple):
    """A part of a sentence: how it was said, and what it is made of."""

    how: str
    parts: tuple[Any, ...] = ()


class Ref(NamedTuple):
    """A part that a step made, by the step's id: a feature by its kind and number (None for the only one), or
    ``step`` for all of them."""

    kind: str
    step: int
    part: int | None = None

    @property
    def called(self) -> str:
        """What its kind is called in sentences."""
        return NAMED.get(self.kind, self.kind)


class StepMention(NamedTuple):
    """Where in a text the number of a step stands: from, to, and the step's id."""

    begin: int
    end: int
    step: int


class ReferenceReader(Words):
    """Reads the references of a sentence."""

    def __init__(self, text: str, id_of: Callable[[int], int | None], inch: Exact = 1) -> None:
        super().__init__(text)
        self.id_of, self.inch = id_of, inch
        self.deep = 0
        self.places: list[StepMention] = []
        self.taken: dict[int, tuple[Any, bool]] = {}
        """What was made of the digits that begin at a place: a plain number and whether it is negative, or a
        reference."""

    def mark(self) -> tuple[int, ...]:
        """Return where reading stands, and how many steps it has named."""
        return (self.at, len(self.places))

    def back(self, mark: tuple[int, ...]) -> None:
        """Go back to where reading stood."""
        self._return(mark[0])
        del self.places[mark[1] :]

    def begins_feature(self, kinds: tuple[str, ...]) -> bool:
        """Say whether a feature of some kinds stands here."""
        return self._feature_kind() in kinds

    def _feature_kind(self) -> str:
        """Return the kind of feature that is named here by a word and a number; nothing where none is. ``line
        1`` is an edge; words that may as well be values of that name are so where no number follows."""
        word = self.peek()
        if word not in CALLED:
            return word
        numbered = _REFERENCE.match(self.text[self._behind :].lstrip())
        return CALLED[word] if numbered or self.word_behind() is None else ""

    def reference(self, kinds: tuple[str, ...]) -> Ref:
        """Return a reference to something of some kinds. Raises Unreadable."""
        word, kind = self.peek(), self._feature_kind()
        if kind not in kinds:
            word = self.one_of(tuple(NAMED.get(k, k) for k in kinds), "what an earlier step made")
            kind = CALLED.get(word, word)
        else:
            if word == "line":
                self.renewals.append(Renewal(self._begins, self._behind, kind))
            self.one_of((word,))
        self.skip()
        found = _REFERENCE.match(self.text, self.at)
        if found is None:
            raise self.expected("the number of a step")
        mark, step, part = found.groups()
        number = int(step[:9])
        known = number if mark else self.id_of(number)
        if known is None:
            raise Unreadable(f"There is no step {number} before this one. Name an earlier one.", self.at)
        self.places.append(StepMention(found.start(), found.start() + len(mark) + len(step), known))
        self.at = found.end()
        ref = Ref(kind, known, int(part[:9]) if part else None)
        self.taken[found.start()] = (ref, False)
        return ref

    def feature(self, kinds: tuple[str, ...] = FEATURES) -> Ref:
        """Return a reference to a feature. Raises Unreadable."""
        return self.reference(kinds)
