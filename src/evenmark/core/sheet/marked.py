"""A drawing with its marks, as values that a printed sheet or a marked file is made from; places are in key
units, as the drawing was laid on the key."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypedDict

from evenmark.core.geometry.points import Point
from evenmark.core.sheet.tracing import Tracing

Mark = TypedDict("Mark", {"as": str, "tone": str, "a": list[float], "b": list[float], "says": str})
"""One thing of a sketch (`marking.sketch`); what ``a`` and ``b`` are goes by what it is drawn as."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Balloon:
    """A numbered finding at its place."""

    id: int
    at: Point
    verdict: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Pin:
    """A comment, at its place if it has one."""

    number: int
    text: str
    by: str
    at: Point | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Lesson:
    """A slip: what happened, what was asked and drawn line by line, how to avoid it, and what it costs."""

    says: str
    lines: tuple[str, ...]
    avoid: str
    explains: tuple[int, ...]
    costs: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Row:
    """A line of the inspection list, in words; ``reason`` where a person set the verdict."""

    id: int
    name: str
    asked: str
    drawn: str
    off: str
    verdict: str
    marks: str
    reason: str = ""


def letter(number: int) -> str:
    """Return the letter of a comment, so that it is not taken for a finding's number: A to Z, then AA.

    >>> letter(1), letter(26), letter(27)
    ('A', 'Z', 'AA')
    """
    out = ""
    while number:
        number, rest = divmod(number - 1, 26)
        out = chr(65 + rest) + out
    return out


@dataclass(frozen=True, kw_only=True)
class MarkedSheet:
    """Everything that a marked drawing shows. ``drawn`` is the tracing of the drawing as it was laid on the
    key; ``wrong`` are its features drawn in red; ``key`` is the key's tracing where the reader may see it."""

    title: str
    student: str
    group: str
    handed_in: str
    file: str
    score: str
    unit: str
    unit_mm: float
    drawn: Tracing
    wrong: frozenset[str] = frozenset()
    sketches: tuple[Mark, ...] = ()
    balloons: tuple[Balloon, ...] = ()
    pins: tuple[Pin, ...] = ()
    lessons: tuple[Lesson, ...] = ()
    rows: tuple[Row, ...] = ()
    notes: tuple[str, ...] = ()
    key: Tracing | None = None
