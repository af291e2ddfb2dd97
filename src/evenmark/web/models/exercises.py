"""Exercises, their keys and rules, and what was issued."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import AwareDatetime, Field

from evenmark.core.dimensioning.deciding import Decision
from evenmark.core.marking.model import Charges
from evenmark.web.models.base import Examines, Model, Point, Problem
from evenmark.web.models.issues import IssueRow
from evenmark.web.models.proof import FlawOut


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
    archived: bool


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
    """What the browser draws: y downward. Scenes of one answer lie on each other as they are."""

    box: tuple[float, float, float, float]
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
    direction: float | None = None
    parts: list[str] = []
    size: str = ""


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
    of: str | None = None
    part: str | None = None


class ChargesModel(Model):
    """What is taken away instead of earned; revisions that are older than an amount have its usual one."""

    whole: float
    mirrored: float
    each: float
    most: float
    twice: float
    floor: float
    floor_sizes: float
    size_most: float = Charges().size_most
    missing_most: float = Charges().missing_most
    floor_missing: float = Charges().floor_missing
    floor_views: float = Charges().floor_views
    habit_most: float = Charges().habit_most
    floors_most: float
    beside_absent: float
    enough: float
    habits: bool


class Sharing(Model):
    """How marks are shared beyond weights, what is charged, what was given, and the key's views."""

    listing: Literal["feature", "sheet"] = "feature"
    numbered: bool = False
    charges: ChargesModel | None = None
    ties: dict[str, list[str]] = {}
    taken: dict[str, bool] = {}
    decided: dict[str, Decision] = {}

    kind_marks: dict[str, float] = {}
    feature_marks: dict[str, float] = {}
    clutter_each: float | None = None
    clutter_cap: float | None = None
    examines: Examines = "model"
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
    names: dict[str, str] = {}
    """What the features of the key are called, by id."""


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


class FileOut(Model):
    """A start drawing, or another key that is accepted."""

    id: int
    part: Literal["start", "key"]
    name: str


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
    archived: bool
    rules: RulesOut
    scene: Scene
    reading: ReadingOut
    flaws: list[FlawOut]
    issues: list[IssueRow]
    files: list[FileOut]


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
    """A rule set as it is kept; what features are called is read over."""

    names: dict[str, str] = Field(default={}, exclude=True)

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
    based_on: AwareDatetime | None = None
    """When the revision had last changed as the page knows it; what somebody changed since is not
    overwritten."""


class ExerciseGoes(Model):
    """What is deleted with an exercise."""

    issues: int
    classes: int
    attempts: int
    students: int
