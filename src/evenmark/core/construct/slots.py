"""What the readers of sentences share: slots and choices."""

from __future__ import annotations

from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Ref

LINES = ("dashed", "chain", "continuous")
"""How a line can be drawn."""
LEFT_RIGHT = ("left", "right")
STRAIGHT = ("edge", "guide")
CURVES = ("edge", "guide", "arc", "circle")
ROUND = ("arc", "circle")
ANCHORS_ACROSS, ANCHORS_UP = ("left", "centre", "right"), ("top", "middle", "baseline", "bottom")


def sides_of(ref: Ref) -> tuple[str, ...]:
    """Return the sides of a feature on which a circle that touches it can lie."""
    return LEFT_RIGHT if ref.kind in STRAIGHT else ("inside", "outside", "around")


def more(r: Reader, *words: str) -> bool:
    """Pass over the next slot's first words if they are these; say whether they were."""
    before = r.mark()
    if r.next_slot() and r.takes(*words):
        return True
    r.back(before)
    return False


def choice(r: Reader, words: tuple[str, ...]) -> str | None:
    """Pass over the next slot if it is one of some words, and return it."""
    for word in words:
        if more(r, *word.split()):
            return word
    return None


def slot(r: Reader, what: str, *words: str) -> None:
    """Pass over the sign between slots and the words that have to begin the next. Raises Unreadable."""
    r.another(what)
    if words:
        r.needs(*words)


def begins_a_point(r: Reader, word: str) -> bool:
    """Say whether a word begins a point of a feature here (``centre of circle 1``)."""
    before = r.mark()
    found = r.takes(word, "of")
    r.back(before)
    return found
