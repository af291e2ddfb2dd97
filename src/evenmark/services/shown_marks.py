"""Marks as pages and prints show them: findings named and placed in a scene, slips with what they cost."""

from __future__ import annotations

from datetime import datetime
from typing import NotRequired, TypedDict

from evenmark.core.marking.advice import LessonJson
from evenmark.core.marking.differences import DifferencesJson
from evenmark.core.marking.marks_types import (
    CauseJson,
    EngineJson,
    ItemJson,
    NoteJson,
    Number,
    PlaceJson,
    PlacementJson,
    ValueJson,
)
from evenmark.core.marking.model import Verdict
from evenmark.core.marking.reading_json import LayerJson
from evenmark.core.sheet.marked import Mark
from evenmark.core.sheet.scene import Scene
from evenmark.services.acts import HistoryRow
from evenmark.services.issues import IssueHead
from evenmark.store.kept import HeldAct, YourStep


class ShownFinding(TypedDict):
    """A finding as whoever may read it sees it."""

    id: int
    kind: str
    name: str
    verdict: Verdict
    earned: Number
    possible: Number
    taken: NotRequired[Number | None]
    follows: int | None
    causes: list[int]
    at: PlaceJson | None
    partners: list[str]
    expected: ValueJson
    measured: ValueJson
    deviation: ValueJson
    why: NotRequired[str | None]
    reason: NotRequired[str | None]
    sketch: list[Mark]


class FindingView(ShownFinding):
    """A finding as the instructor sees it; places are in the key's scene."""

    features: list[str]
    layer: str | None
    seen_at: PlaceJson | None
    tolerance: ValueJson
    lost_with: NotRequired[int]
    items: list[ItemJson]
    engine: NotRequired[EngineJson]


class OwnFinding(ShownFinding):
    """A finding as its student sees it; places are in the scene of what was drawn. ``yours`` are the steps of
    the board that drew what it is about."""

    by_hand: bool
    yours: list[YourStep]


class ShownCause(CauseJson):
    """A slip with what it costs, and what there is to learn from it."""

    title: str
    costs: float
    lesson: LessonJson


class ShownComment(HeldAct):
    """A comment with its number; its place is in a scene."""

    number: int


class MarksView(TypedDict):
    """A mark sheet as the instructor sees it."""

    unit: str
    placement: PlacementJson
    earned: Number
    possible: Number
    findings: list[FindingView]
    causes: list[ShownCause]
    notes: list[NoteJson]


class ResultHead(TypedDict):
    """Whose try it is, of what, and how far it is."""

    attempt_id: int
    issue: IssueHead
    file_name: str
    handed_in_at: datetime
    late: bool
    state: str
    trouble: str | None


class OwnResult(ResultHead):
    """A student's own result, with as much detail as the exercise allows; while it waits, how many drawings
    are marked before it (``ahead``); the board that it was drawn on, where there was one."""

    number: int
    ahead: int | None
    tries_left: int
    shut: str | None
    detail: str
    earned: float | None
    possible: float | None
    verdicts: dict[str, int] | None
    board_id: int | None
    drawn: Scene | None
    findings: list[OwnFinding]
    causes: list[ShownCause]
    comments: list[ShownComment]
    notes: list[NoteJson]
    unit: str | None


class TryRef(TypedDict):
    """One of a student's tries."""

    attempt_id: int
    number: int


class MarkingHead(ResultHead):
    """Whose attempt it is, of what, and when it came."""

    student: str
    try_number: int
    tries: list[TryRef]
    drawn_here: bool


class Neighbours(TypedDict):
    """Who comes before and after in the class."""

    place: int
    of: int
    previous: int | None
    next: int | None
    next_open: int | None
    only: str | None
    only_name: str | None


class DiffersView(DifferencesJson):
    """What a newer engine sees otherwise, and which two they were."""

    engine_before: str
    engine_after: str


class AsMarked(TypedDict):
    """What a mark sheet says, with what was decided about it since."""

    drawn: Scene
    marks: MarksView
    returned: str
    comments: list[ShownComment]
    differs: DiffersView | None


class AttemptPage(MarkingHead, Neighbours):
    """One attempt over its key."""

    key: Scene
    drawn: Scene | None
    marks: MarksView | None
    engine_version: str | None
    outdated: bool
    returned: str
    returned_earned: float | None
    comments: list[ShownComment]
    history: list[HistoryRow]
    layers_asked: list[LayerJson]
    layers_drawn: list[LayerJson]
    differs: DiffersView | None
