"""Mark sheets as they are kept and sent (`docs/formats/marks.md`): the shape of their JSON."""

from __future__ import annotations

from typing import NotRequired, TypedDict

from evenmark.core.marking.model import Verdict

Number = float | int
PlaceJson = list[float]
ValueJson = Number | str | PlaceJson | None


class ItemJson(TypedDict):
    """One thing of a finding about what is left over."""

    code: str
    at: PlaceJson | None
    layer: str | None
    feature: str | None
    charged: bool


class EngineJson(TypedDict):
    """What the engine gave where a person has set another verdict."""

    verdict: Verdict
    earned: Number


class BesidesJson(TypedDict, total=False):
    """What only some findings have: why they did not earn their marks, a layer, what they measure, items; and
    what a person decided."""

    lost_with: int
    why: str
    taken: Number
    layer: str
    of: str
    items: list[ItemJson]
    engine: EngineJson
    reason: str


class FindingJson(BesidesJson):
    """What became of one requirement."""

    id: int
    kind: str
    features: list[str]
    at: PlaceJson | None
    expected: ValueJson
    measured: ValueJson
    deviation: ValueJson
    tolerance: ValueJson
    verdict: Verdict
    earned: Number
    possible: Number
    causes: list[int]
    follows: int | None


class CauseJson(TypedDict):
    """What happened, and which findings it explains."""

    id: int
    code: str
    explains: list[int]
    says: str
    candidates: NotRequired[list[str]]
    set_aside: NotRequired[bool]


class NoteJson(TypedDict):
    """Something else that is to be said."""

    code: str
    says: str


class ScoreJson(TypedDict):
    """Marks, of how many."""

    earned: Number
    possible: Number


class ViewShiftJson(TypedDict):
    """By how much a view was moved."""

    view: str
    shift: PlaceJson


class PlacementJson(TypedDict):
    """How the drawing was laid on its key."""

    policy: str
    scale: Number
    mirror: bool
    turn: Number
    shift: PlaceJson
    views: list[ViewShiftJson]


class MarksJson(TypedDict):
    """A mark sheet."""

    format: str
    version: int
    attempt: str
    unit: str
    placement: PlacementJson
    score: ScoreJson
    findings: list[FindingJson]
    causes: list[CauseJson]
    notes: list[NoteJson]
