"""Sentences of mark sheets from before, in the words of today: what was kept is never changed, and what is
read of it says things as new mark sheets do.

Only words change: numbers, codes and what follows from what stay as they were marked.
"""

from __future__ import annotations

import re
from collections.abc import Callable

from evenmark.core.marking.marks_types import CauseJson, MarksJson, NoteJson

SINCE = (3, 6)
"""The first version of the engine whose sentences are in the words of today."""

_LEFT = "(?=drawn|left in the drawing|so short|no longer)"


def _off(found: re.Match[str]) -> str:
    left, across, below, up = found.groups()
    beside = f"{across} to the {'left' if left else 'right'}"
    over = f"{up} {'below' if below else 'above'}"
    if up.startswith("0 "):
        return f" is {beside} of "
    return f" is {over} " if across.startswith("0 ") else f" is {beside} and {over} "


_WORDS: tuple[tuple[re.Pattern[str], str | Callable[[re.Match[str]], str]], ...] = tuple(
    (re.compile(pattern), today)
    for pattern, today in (
        (r"^1 stretch is drawn twice", "1 line or arc was drawn twice"),
        (r"^(\d+) stretches are drawn twice", r"\1 lines or arcs were drawn twice"),
        (r"^1 object is drawn that was not asked for", "1 extra object was drawn"),
        (r"^(\d+) objects are drawn that was not asked for", r"\1 extra objects were drawn"),
        (rf"^(1 (?:construction line|arc|object|given object)) is {_LEFT}", r"\1 was "),
        (rf"^(\d+ (?:construction lines|arcs|objects|given objects)) are {_LEFT}", r"\1 were "),
        (r"so short that nothing can be seen of it", "too short to be seen"),
        (r"no longer as the start drawing had it", "changed from the start drawing"),
        (r"past the meeting point", "past the junction"),
        (r"past (\d+) meeting points", r"past \1 junctions"),
        (r"the meeting point at", "the junction at"),
        (r"^(The edge .*?) touches (the .*?) on its other side", r"\1 is tangent to \2, on its other side"),
        (r"^(The edge .*?) touches (the .*? of radius .*?) instead of the one",
         r"\1 is tangent to \2, not to the one"),
        (r"where what has no layer of its own lands", "the default layer"),
        (r"so that hidden reads as visible", "so that hidden edges look visible"),
        (r"^The lettering", "The text"),
        (r"^(\d+) pieces of lettering were", r"\1 texts were"),
        (r"in just these capitals and small letters", "with these upper and lower case letters"),
        (r"no wording, height or place", "no text, height or place"),
        (r" stands by its ", " is placed by its "),
        (r"has its across and up exchanged", "has horizontal and vertical swapped"),
        (r"goes across the wrong way: a sign", "goes left instead of right or the reverse: a sign"),
        (r"goes up or down the wrong way: a sign", "goes up instead of down or the reverse: a sign"),
        (r"across and up were exchanged", "horizontal and vertical were swapped"),
        (r"sizes given from one base were each", "baseline dimensions were each"),
        (r"sizes given from hole to hole were all", "chain dimensions were all"),
        (r"^What hangs together with the", "Everything connected to the"),
        (r"is mirrored as one\.", "is mirrored as a whole."),
        (r"(is turned by .*?) as one\b", r"\1 as a whole"),
        (r"(\d+) more thing(s?) were moved as one: they stand",
         r"\1 more object\2 were moved together: they are"),
        (r"every size is right, and the shape is another one", "every size is right, but the shape is not"),
        (r"A free curve stands for the", "A free curve was drawn for the"),
        (r"laid otherwise between its neighbours", "placed differently between its neighbours"),
        (r"what hangs on it is right once it is", "what depends on it is right once it is"),
        (r"coordinates as a rounded display shows them", "the coordinates of a rounded display"),
        (r"All coordinates are those of a display that is rounded to",
         "All coordinates were taken from a display rounded to"),
        (r"(?<=The whole drawing) stands (-?)(\S+ \S+) across and (-?)(\S+ \S+) up from (?=where)", _off),
        (r"was left where the start drawing had it", "was left where it was in the start drawing"),
        (r" stands (\S+ \S+ (?:to the|above|below|from))", r" is \1"),
        (r"\bwere exchanged\b", "were swapped"),
        (r"(?<![\w.−-])-(?=\d)", "−"),
    )
)  # fmt: skip


def in_words_of_today(marks: MarksJson, version: str) -> MarksJson:
    """Return a mark sheet's JSON by a version of the engine, its sentences in the words of today."""
    if _number(version) >= SINCE:
        return marks
    causes: list[CauseJson] = [{**c, "says": said_today(c["says"])} for c in marks["causes"]]
    notes: list[NoteJson] = [{**n, "says": said_today(n["says"])} for n in marks["notes"]]
    return {**marks, "causes": causes, "notes": notes}


def said_today(says: str) -> str:
    """Return a sentence in the words of today.

    >>> said_today("2 objects are drawn that was not asked for (at -1, 2; 3, 4).")
    '2 extra objects were drawn (at −1, 2; 3, 4).'
    >>> said_today("The step of 24, 10 has its across and up exchanged: 10, 24 was drawn.")
    'The step of 24, 10 has horizontal and vertical swapped: 10, 24 was drawn.'
    """
    for pattern, today in _WORDS:
        says = pattern.sub(today, says)
    return says


def _number(version: str) -> tuple[int, ...]:
    found = tuple(int(part) for part in version.split(".") if part.isdigit())
    return found or (0,)
