"""What the API takes and gives, typed; the front end's types are generated from these."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

Point = tuple[float, float]
Verdict = Literal["met", "near", "missed", "absent", "follows"]
Detail = Literal["score", "checks", "numbers"]
State = Literal["none", "waiting", "marked", "failed"]


class Model(BaseModel):
    """Root of all: unknown fields are refused."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)


class Problem(Model):
    """Why a request was refused: a code for the page, a sentence for the person."""

    code: str
    says: str


class Done(Model):
    """It is done."""

    says: str


# people


class SignInIn(Model):
    """Name and password."""

    sign_in: str = Field(max_length=200)
    password: str = Field(max_length=400)


class JoinIn(Model):
    """A new student account, made with a class's join code."""

    code: str = Field(max_length=20)
    name: str = Field(max_length=200)
    sign_in: str = Field(max_length=200)
    password: str = Field(max_length=400)


class CodeIn(Model):
    """A join code."""

    code: str = Field(max_length=20)


class PasswordIn(Model):
    """The present password and the next."""

    old: str = Field(max_length=400)
    new: str = Field(max_length=400)


class PersonOut(Model):
    """Who somebody is."""

    id: int
    name: str
    sign_in: str
    role: Literal["instructor", "student"]
    school: str


class SchoolIn(Model):
    """What stands as school on an instructor's sheets."""

    school: str = Field(max_length=200)


class SessionOut(Model):
    """Who is signed in, if anybody, and what pages must send along with every change."""

    person: PersonOut | None
    guard: str | None


# classes


class ClassIn(Model):
    """A class's name."""

    name: str = Field(max_length=200)


class ClassRow(Model):
    """A class in a list."""

    id: int
    name: str
    join_code: str
    students: int


class ClassRows(Model):
    """An instructor's classes."""

    classes: list[ClassRow]


class StudentRow(Model):
    """A student in a class."""

    id: int
    name: str
    sign_in: str


class RosterRow(Model):
    """What became of one row of a roster."""

    line: int
    name: str
    sign_in: str
    outcome: Literal["made", "enrolled", "known", "left-out"]
    says: str
    password: str | None


class RosterOut(Model):
    """What became of a roster."""

    rows: list[RosterRow]


# exercises


class IssueHead(Model):
    """What was issued to whom."""

    id: int
    revision_id: int
    revision: int
    title: str
    class_id: int
    class_name: str
    due_at: datetime
    issued_at: datetime
    tries: int
    detail: Detail
    past_due: bool


class IssueRow(IssueHead):
    """An issue with how far the class is."""

    students: int
    handed_in: int
    waiting: int
    failed: int


class ClassPage(ClassRow):
    """One class in full."""

    students: list[StudentRow]  # type: ignore[assignment]
    issues: list[IssueRow]


class ExerciseRow(Model):
    """An exercise in a list."""

    revision_id: int
    exercise_id: int
    number: int
    title: str
    key_name: str
    changed_at: datetime
    issued: bool
    classes: list[str]


class ExerciseRows(Model):
    """An instructor's exercises."""

    exercises: list[ExerciseRow]


class SceneText(Model):
    """Lettering in a scene."""

    id: str | None = None
    layer: str | None = None
    wording: str
    at: Point
    anchor: str
    height: float
    turn: float


class SceneFeature(Model):
    """Something drawn, as a path."""

    id: str
    kind: Literal["edge", "arc", "circle", "curve"]
    path: str
    layer: str
    role: str
    line_type: str
    at: Point


class SceneJoint(Model):
    """A corner or tee."""

    id: str
    at: Point


class SceneOutline(Model):
    """A closed outline."""

    id: str
    members: list[str]
    at: Point


class SceneAnnotations(Model):
    """Pictures of dimensions."""

    path: str
    texts: list[SceneText]


class SceneClutter(Model):
    """Something that simplifying took out."""

    code: str
    at: Point


class Scene(Model):
    """What the browser draws: y downward, relative to an origin."""

    box: tuple[float, float, float, float]
    origin: Point
    features: list[SceneFeature]
    joints: list[SceneJoint]
    outlines: list[SceneOutline]
    texts: list[SceneText]
    annotations: SceneAnnotations
    unit: str | None = None
    clutter: list[SceneClutter] = []


class TolerancesModel(Model):
    """Default tolerances of a rule set."""

    length: float
    position: float
    angle_deg: float
    near: float


class ViewModel(Model):
    """A view of a key."""

    id: str
    name: str
    box: tuple[float, float, float, float]


class Finer(Model):
    """What only some kinds of requirement have."""

    by: Literal["fixed", "pattern", "field"] = "fixed"
    pattern: str = ""
    any_case: bool = False
    low: float | None = None
    high: float | None = None


class RequirementOut(Finer):
    """A requirement with its name, marks and what it expects."""

    id: int
    kind: str
    name: str
    features: list[str]
    layer: str | None
    weight: float
    tolerance: float | None
    near: float | None
    on: bool
    marks: float
    expected: float | Point | str | None


class Sharing(Model):
    """How marks are shared beyond weights, what was given, and the key's views."""

    kind_marks: dict[str, float] = {}
    feature_marks: dict[str, float] = {}
    clutter_each: float | None = None
    clutter_cap: float | None = None
    given: list[str] = []
    views: list[ViewModel] | None = None


class RulesOut(Sharing):
    """A rule set, complete."""

    unit: str
    placement: Literal["as-drawn", "slide", "slide-and-turn"]
    tolerances: TolerancesModel
    near_share: float
    marks: float
    any_unit: bool
    exact_layers: bool
    unit_charge: float
    roles: dict[str, str]
    requirements: list[RequirementOut]


class LayerOut(Model):
    """A layer as read."""

    name: str
    color: int | str
    line_type: str
    weight: float | None
    shown: bool
    features: int


class OddityOut(Model):
    """Something odd in a file."""

    code: str
    says: str
    count: int


class SheetViewOut(Model):
    """A view on a sheet layout."""

    box: tuple[float, float, float, float]
    center: Point
    scale: float
    turn: float


class SheetOut(Model):
    """A sheet layout as read."""

    name: str
    paper: Point | None
    objects: int
    views: list[SheetViewOut]


class ReadingOut(Model):
    """What was understood of a file."""

    format: str
    version: int
    file: str
    written_as: str
    unit: str | None
    box: tuple[float, float, float, float] | None
    layers: list[LayerOut]
    counts: dict[str, int]
    sheets: list[SheetOut] = []
    oddities: list[OddityOut]
    refused: Problem | None


class ExercisePage(Model):
    """One revision of an exercise in full."""

    revision_id: int
    exercise_id: int
    number: int
    newest: int
    title: str
    text: str
    key_name: str
    issued_at: datetime | None
    changed_at: datetime
    rules: RulesOut
    scene: Scene
    reading: ReadingOut
    issues: list[IssueRow]


class RequirementIn(Finer):
    """A requirement as it is kept."""

    id: int
    kind: str
    features: list[str]
    layer: str | None = None
    weight: float
    tolerance: float | None = None
    near: float | None = None
    on: bool


class RulesIn(Sharing):
    """A rule set as it is kept."""

    unit: str
    placement: Literal["as-drawn", "slide", "slide-and-turn"]
    tolerances: TolerancesModel
    near_share: float
    marks: float
    any_unit: bool
    exact_layers: bool
    unit_charge: float
    roles: dict[str, str]
    requirements: list[RequirementIn]


class ExerciseChange(Model):
    """What to change of an exercise."""

    title: str | None = None
    text: str | None = None
    rules: RulesIn | None = None


class IssueIn(Model):
    """To whom, until when, how often, and how much is shown."""

    class_id: int
    due_at: AwareDatetime
    tries: int = Field(ge=1, le=99)
    detail: Detail


# results


class Latest(Model):
    """An attempt that came in lately."""

    attempt_id: int
    issue_id: int
    student: str
    title: str
    class_name: str
    handed_in_at: datetime
    state: State
    earned: float | None
    possible: float | None


class CauseCount(Model):
    """A slip and how many drawings show it."""

    code: str
    title: str
    students: int


class DeskOut(Model):
    """What needs attention now."""

    issues: list[IssueRow]
    latest: list[Latest]
    causes: list[CauseCount]


class CauseTitle(Model):
    """A slip by name."""

    code: str
    title: str


class ResultRow(Model):
    """A student in a class's results."""

    student_id: int
    name: str
    attempt_id: int | None
    try_number: int
    handed_in_at: datetime | None
    late: bool
    state: State
    trouble: str | None
    verdicts: dict[Verdict, int] | None
    causes: list[CauseTitle]
    earned: float | None
    possible: float | None


class MissedCheck(Model):
    """A check that many missed."""

    finding: int
    name: str
    students: int
    of: int


class ClassResults(Model):
    """A class at a glance."""

    issue: IssueHead
    students: list[ResultRow]
    missed: list[MissedCheck]


class ItemOut(Model):
    """One thing that `clean` counts."""

    code: str
    at: Point
    layer: str
    feature: str | None
    charged: bool


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
    causes: list[int]
    follows: int | None
    why: str | None = None
    items: list[ItemOut]


class CauseOut(Model):
    """A cause with what it costs."""

    id: int
    code: str
    title: str
    explains: list[int]
    says: str
    costs: float
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


class MarkingOut(Model):
    """One attempt over its key."""

    attempt_id: int
    issue: IssueHead
    student: str
    try_number: int
    tries: list[TryRef]
    file_name: str
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


# students


class WorkRow(IssueHead):
    """An exercise in a student's list."""

    tries_left: int
    handed_in: int
    waiting: bool
    best: float | None
    possible: float | None


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


class WorkPage(IssueHead):
    """One exercise as its student sees it."""

    text: str
    unit: str
    placement: str
    layers: list[str]
    tries_left: int
    attempts: list[AttemptRow]


class IntakeOut(Model):
    """A file laid in but not yet handed in."""

    intake_id: int
    file_name: str
    reading: ReadingOut
    scene: Scene


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
    follows: int | None
    causes: list[int]
    at: Point | None
    drawn: list[str]
    expected: float | Point | str | None
    measured: float | Point | str | None
    deviation: float | None
    why: str | None = None


class OwnResult(Model):
    """A student's own result."""

    attempt_id: int
    issue: IssueHead
    number: int
    file_name: str
    handed_in_at: datetime
    late: bool
    state: State
    trouble: str | None
    tries_left: int
    detail: Detail
    earned: float | None
    possible: float | None
    verdicts: dict[Verdict, int] | None
    drawn: Scene | None
    findings: list[OwnFinding]
    causes: list[CauseOut]
    notes: list[NoteOut]
    unit: str | None
