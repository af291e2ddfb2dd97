"""A student's work and results."""

from __future__ import annotations

from datetime import datetime

from evenmark.web.models.base import Detail, Examines, Model, Point, State, Verdict, YourStepOut
from evenmark.web.models.exercises import ReadingOut, Scene
from evenmark.web.models.issues import IssueHead
from evenmark.web.models.marking import CauseOut, CommentOut, NoteOut, SketchMark


class OwnHead(IssueHead):
    """Something issued, with the student's own date and tries, and why nothing is handed in, if so."""

    tries_left: int
    allowed: bool
    shut: str | None
    shut_says: str | None


class EarlierRow(Model):
    """An older revision of an exercise, with how it went."""

    id: int
    revision: int
    title: str
    handed_in: int
    best: float | None
    possible: float | None


class WorkRow(OwnHead):
    """An exercise in a student's list."""

    left: bool
    handed_in: int
    waiting: bool
    best: float | None
    possible: float | None
    earlier: list[EarlierRow]


class WorkRows(Model):
    """A student's work."""

    work: list[WorkRow]


class AttemptRow(Model):
    """One of a student's own tries."""

    attempt_id: int
    number: int
    file_name: str
    handed_in_at: datetime
    late: bool
    state: State
    trouble: str | None
    earned: float | None
    possible: float | None


class ToldLayer(Model):
    """A layer that is asked for, with its look in words where one is asked."""

    name: str
    role: str | None
    colour: str | None
    swatch: str | None
    line_type: str | None
    weight: float | None


class ToldTolerances(Model):
    """How exactly a drawing is held against its key."""

    length: float
    position: float
    angle_deg: float


class MarkedKind(Model):
    """What marks are given for."""

    title: str
    marks: float


class WorkPage(OwnHead):
    """One exercise as its student sees it."""

    text: str
    unit: str
    any_unit: bool
    placement: str
    examines: Examines
    tolerances: ToldTolerances
    exact_layers: bool
    layers: list[ToldLayer]
    marked: list[MarkedKind]
    charged: list[str]
    earlier: list[EarlierRow]
    left: bool
    start_name: str | None
    attempts: list[AttemptRow]


class IntakeOut(Model):
    """A file laid in but not yet handed in."""

    intake_id: int
    file_name: str
    reading: ReadingOut
    scene: Scene


class UnderstoodOut(Model):
    """What is understood of a draft on the board before it is handed in, and the tries that there are;
    ``handed_in`` is the attempt as which it was handed in already just as it stands."""

    reading: ReadingOut
    scene: Scene
    tries: int
    tries_left: int
    past_due: bool
    handed_in: int | None


class HandedIn(Model):
    """What was handed in."""

    attempt_id: int


class OwnFinding(Model):
    """A finding as its student sees it; no sizes unless the exercise allows them."""

    id: int
    kind: str
    name: str
    verdict: Verdict
    earned: float
    possible: float
    taken: float | None
    follows: int | None
    causes: list[int]
    at: Point | None
    partners: list[str]
    expected: float | Point | str | None
    measured: float | Point | str | None
    deviation: float | None
    why: str | None = None
    reason: str | None
    by_hand: bool
    yours: list[YourStepOut]
    sketch: list[SketchMark]


class OwnResult(Model):
    """A student's own result."""

    attempt_id: int
    issue: IssueHead
    number: int
    file_name: str
    handed_in_at: datetime
    late: bool
    state: State
    ahead: int | None
    trouble: str | None
    tries_left: int
    shut: str | None
    detail: Detail
    earned: float | None
    possible: float | None
    verdicts: dict[Verdict, int] | None
    board_id: int | None
    drawn: Scene | None
    findings: list[OwnFinding]
    causes: list[CauseOut]
    comments: list[CommentOut]
    notes: list[NoteOut]
    unit: str | None
