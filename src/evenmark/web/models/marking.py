"""The Marking place, and what an instructor does there."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from typing import Any, Literal

from pydantic import ConfigDict, Field, FiniteFloat

from evenmark.web.models.base import Model, Point, ReturnedWord, State, Verdict
from evenmark.web.models.exercises import LayerOut, Scene
from evenmark.web.models.issues import IssueHead


class ItemOut(Model):
    """One thing that `clean` counts."""

    code: str
    at: Point
    layer: str
    feature: str | None
    charged: bool


class SketchMark(Model):
    """One thing drawn between key and attempt: a span from a to b, an arrow back from a to b, an angle about
    a (b: start and sweep in degrees, counter-clockwise), or a radius from a (b: radius and direction in
    degrees)."""

    model_config = ConfigDict(extra="forbid", from_attributes=True, populate_by_name=True)

    what: Literal["span", "turn", "reach", "back"] = Field(alias="as")
    tone: Literal["asked", "drawn"]
    a: Point
    b: Point
    says: str


class EngineVerdict(Model):
    """What the engine itself found, where a person set another verdict."""

    verdict: Verdict
    earned: float


class LessonLine(Model):
    """What was asked and what was drawn, in words."""

    finding: int
    name: str
    asked: str | None
    drawn: str | None


class LessonOut(Model):
    """What there is to learn from a slip."""

    lines: list[LessonLine]
    more: int
    avoid: str


class FindingOut(Model):
    """A finding as the instructor sees it; places are in the key's scene."""

    id: int
    kind: str
    name: str
    features: list[str]
    partners: list[str]
    layer: str | None
    at: Point | None
    seen_at: Point | None
    expected: float | Point | str | None
    measured: float | Point | str | None
    deviation: float | None
    tolerance: float | None
    verdict: Verdict
    earned: float
    possible: float
    taken: float | None = None
    lost_with: int | None = None
    causes: list[int]
    follows: int | None
    why: str | None = None
    items: list[ItemOut]
    sketch: list[SketchMark]
    engine: EngineVerdict | None = None
    reason: str | None = None


class CauseOut(Model):
    """A cause with what it costs."""

    id: int
    code: str
    title: str
    explains: list[int]
    says: str
    costs: float
    set_aside: bool
    lesson: LessonOut
    candidates: list[str] = []


class NoteOut(Model):
    """A note."""

    code: str
    says: str


class PlacementOut(Model):
    """The motion that lays the attempt on the key."""

    policy: str
    scale: float
    mirror: bool
    turn: float
    shift: Point
    views: list[Any]


class MarksOut(Model):
    """A mark sheet as the instructor sees it."""

    unit: str
    placement: PlacementOut
    earned: float
    possible: float
    findings: list[FindingOut]
    causes: list[CauseOut]
    notes: list[NoteOut]


class TryRef(Model):
    """One of a student's tries."""

    attempt_id: int
    number: int


class CommentOut(Model):
    """A comment, pinned to a place, a finding, or neither."""

    act: int
    number: int
    finding: int | None
    text: str
    at: Point | None
    by: str
    when: datetime


class HistoryRow(Model):
    """Something that happened to the marks of an attempt."""

    at: datetime
    who: str
    says: str
    act: int | None
    stands: bool
    undoes: bool


class Told(Model):
    """A finding as one of two engines saw it."""

    verdict: Verdict
    earned: float
    measured: float | Point | str | None


class DifferenceRow(Model):
    """A finding on which two mark sheets differ."""

    finding: int
    name: str
    kind: str
    before: Told | None
    after: Told | None


class DiffersOut(Model):
    """What a newer engine sees otherwise."""

    same: bool
    findings: list[DifferenceRow]
    causes_gone: list[str]
    causes_come: list[str]
    earned: tuple[float, float]
    engine_before: str
    engine_after: str


class MarkingOut(Model):
    """One attempt over its key."""

    attempt_id: int
    issue: IssueHead
    student: str
    try_number: int
    tries: list[TryRef]
    file_name: str
    drawn_here: bool
    handed_in_at: datetime
    late: bool
    state: State
    trouble: str | None
    place: int
    of: int
    previous: int | None
    next: int | None
    key: Scene
    drawn: Scene | None
    marks: MarksOut | None
    engine_version: str | None
    outdated: bool
    next_open: int | None
    only: str | None
    only_name: str | None
    returned: ReturnedWord
    returned_earned: float | None
    comments: list[CommentOut]
    history: list[HistoryRow]
    layers_asked: list[LayerOut]
    layers_drawn: list[LayerOut]
    differs: DiffersOut | None


class OverrideIn(Model):
    """Another verdict for a finding, and why."""

    finding: int
    verdict: Verdict
    reason: str = Field(max_length=4000)
    marks: Decimal | None = Field(default=None, max_digits=12, decimal_places=6)


class CommentIn(Model):
    """A comment; ``at`` is a place of the key's scene."""

    text: str = Field(max_length=4000)
    finding: int | None = None
    at: tuple[FiniteFloat, FiniteFloat] | None = None


class UndoIn(Model):
    """What to take back; the newest if nothing is named."""

    act: int | None = None
