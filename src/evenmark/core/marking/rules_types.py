"""Rule sets as they are kept and sent (`docs/formats/rules.md`): the shape of their JSON."""

from __future__ import annotations

from typing import TypedDict

from evenmark.core.dimensioning.deciding import Decision
from evenmark.core.drawing.roles import Role
from evenmark.core.marking.model import Examines, Listing, Policy, WordingBy


class RequirementJson(TypedDict, total=False):
    """A requirement; what only some kinds have is left out where it is not said. The last four follow from
    the key."""

    id: int
    kind: str
    features: list[str]
    layer: str | None
    weight: float
    tolerance: float | None
    near: float | None
    on: bool
    by: WordingBy
    pattern: str
    any_case: bool
    direction: float
    parts: list[str]
    size: str
    low: float
    high: float
    marks: float
    expected: float | list[float] | str | None
    of: str
    part: str


class TolerancesJson(TypedDict):
    """By how much what is drawn may be off."""

    length: float
    position: float
    angle_deg: float
    near: float


class ViewJson(TypedDict):
    """A view of the key: left, bottom, right, top in key units."""

    id: str
    name: str
    box: list[float]


class RulesJson(TypedDict, total=False):
    """A rule set; what is not said is as usual."""

    format: str
    version: int
    unit: str | None
    placement: Policy
    tolerances: TolerancesJson
    near_share: float
    marks: float
    any_unit: bool
    exact_layers: bool
    unit_charge: float
    kind_marks: dict[str, float]
    feature_marks: dict[str, float]
    clutter_each: float
    clutter_cap: float
    given: list[str]
    views: list[ViewJson]
    examines: Examines
    numbered: bool
    listing: Listing | None
    charges: dict[str, float | bool]
    ties: dict[str, list[str]]
    taken: dict[str, bool]
    decided: dict[str, Decision]
    roles: dict[str, Role]
    requirements: list[RequirementJson]
