"""What is kept as JSON beside the tables' columns: its shape."""

from __future__ import annotations

from typing import NotRequired, Required, TypedDict

from evenmark.core.marking.marks_types import MarksJson, PlaceJson
from evenmark.core.marking.model import Verdict
from evenmark.core.sheet.marked import Mark
from evenmark.core.sheet.tracing import Tracing


class YourStep(TypedDict):
    """A step of the board that drew something, by its id, and how the board calls what it drew: ``circle 4``,
    or ``step 2`` of what is one outline."""

    step: int
    says: str


class KeptSheet(TypedDict):
    """A mark sheet with what the pages show beside it; findings by their number as text. ``yours`` says of
    what was drawn on the board, by its id, which steps drew it."""

    key: NotRequired[int]
    marks: MarksJson
    drawn: Tracing
    partners: dict[str, str]
    places: dict[str, PlaceJson]
    sketches: NotRequired[dict[str, list[Mark]]]
    yours: NotRequired[dict[str, list[YourStep]]]


class Summary(TypedDict):
    """What lists and grids show of a mark sheet; an older release kept no findings by verdict."""

    verdicts: dict[str, int]
    by_verdict: NotRequired[dict[str, list[int]]]
    causes: list[str]
    key: int
    share: float


class ActDetail(TypedDict, total=False):
    """What an act says: another verdict with its reason, the marks where they were said and which accepted
    key it was for; or a comment with its place."""

    verdict: Verdict
    reason: str
    marks: float | None
    key: int
    text: str
    at: PlaceJson | None


class HeldAct(ActDetail):
    """An act that stands: its number, what it is about, by whom, and when."""

    act: Required[int]
    finding: Required[int | None]
    by: Required[str]
    when: Required[str]


class Held(TypedDict, total=False):
    """Overrides and comments as they stand; empty when there are none."""

    overrides: list[HeldAct]
    comments: list[HeldAct]


About = TypedDict("About", {"issue": int, "class": int, "student": int}, total=False)
"""What an export is made of, by numbers."""
