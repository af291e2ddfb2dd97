"""The words of marking as values: requirement, rule set, finding, cause, mark sheet.

- *requirement*: one statement about key features, with a weight; *finding*: one requirement held against one
  attempt.
- *cause*: the slip that explains findings. *possible*, *earned*: marks.
- Verdicts: ``met`` within tolerance, ``near`` within the near band, ``missed``, ``absent`` (nothing drawn for
  it), ``follows`` (met once an earlier finding is repaired).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any, Literal, NamedTuple

from evenmark.core.dimensioning.deciding import Decision
from evenmark.core.drawing.roles import Role
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.similarities import STILL, Similarity
from evenmark.core.geometry.tolerance import Tolerances
from evenmark.core.linework.model import View

Policy = Literal["as-drawn", "slide", "slide-and-turn"]
Verdict = Literal["met", "near", "missed", "absent", "follows"]
POLICIES: tuple[Policy, ...] = ("as-drawn", "slide", "slide-and-turn")
Examines = Literal["model", "sheet"]
WordingBy = Literal["fixed", "pattern", "field"]
Value = float | Point | str | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Requirement:
    """One statement about one or more key features, or about a layer, or about the whole drawing.

    ``tolerance`` and ``near`` are None where the rule set's own hold; ``weight`` shares out the marks among
    requirements that are on. For `distance`: ``direction`` in degrees is that in which it is measured, None
    for the shortest way; ``parts`` says what of each feature (see `kinds.said`). ``size`` is the dimension of
    the key that says it. For `wording`: ``by`` says whether the key's own wording is asked, a pattern, or
    a field of the student that ``pattern`` names; ``any_case`` lets the letter case go. For `axis`: ``low``
    and ``high`` bound the overshoot.
    """

    id: int
    kind: str
    features: tuple[str, ...] = ()
    layer: str | None = None
    weight: float = 1.0
    tolerance: float | None = None
    near: float | None = None
    on: bool = True
    by: WordingBy = "fixed"
    pattern: str = ""
    any_case: bool = False
    low: float | None = None
    high: float | None = None
    direction: float | None = None
    parts: tuple[str, ...] = ()
    size: str = ""


Listing = Literal["feature", "sheet"]


@dataclass(frozen=True, kw_only=True, slots=True)
class Charges:
    """What is taken away instead of earned, in marks of an exercise of 100: for the whole drawing standing
    otherwise than allowed (``mirrored`` for one that is mirrored), for ``each`` thing of `clean`, at most
    ``most`` together, of which at most ``twice`` for what is drawn twice.

    ``floor`` is what an independent slip costs at least, ``floor_sizes`` one of a size or place, half of
    it where it is near, ``floor_missing`` something that was not drawn, ``floor_views`` how views stand;
    ``size_most`` and ``missing_most`` are what a size and something that was not drawn cost at most,
    ``habit_most`` one habit, a wrong layer or a wrong look, however often it was done. What is taken for
    floors comes to ``floors_most`` together at most. What follows something not drawn earns the share
    ``beside_absent`` of what else was drawn rightly; what follows a slip earns in full as long as the
    share ``enough`` of the drawing is right, less than that in proportion: another part is no slip of
    this one. With ``habits``, layers, joints, whole edges and looks earn only for features whose size and
    place are met.
    """

    whole: float = 20.0
    mirrored: float = 30.0
    each: float = 1.0
    most: float = 25.0
    twice: float = 15.0
    floor: float = 3.0
    floor_sizes: float = 5.0
    size_most: float = 8.0
    floor_missing: float = 7.0
    missing_most: float = 10.0
    floor_views: float = 10.0
    habit_most: float = 10.0
    floors_most: float = 18.0
    beside_absent: float = 0.65
    enough: float = 0.5
    habits: bool = True


@dataclass(frozen=True, kw_only=True)
class RuleSet:
    """What an exercise examines, how exactly, and for how many marks.

    ``unit`` is the symbol of the key's unit where its file declares none. ``roles`` maps layer names to
    roles. ``exact_layers`` makes the letter case of layer names count; ``any_unit`` converts sizes
    between declared units. ``kind_marks`` and ``feature_marks`` fix the marks of all requirements of a
    kind or about a feature together; what is left goes by weight. ``clutter_each`` and ``clutter_cap``
    say what one charged item of `clean` costs and what all cost at most (a fifth of the marks of `clean`,
    and all of them, if unsaid). ``given`` names key features that the student received in a start
    drawing. ``views`` are the key's views; None lets them be found. ``examines`` says whether the model
    counts or the sheet layout. ``numbered`` has the students' sheet show the number of each size as it
    stands in the list. ``listing`` says what is proposed where there are no ``requirements``:
    feature by feature, or by what the sheet says; None lets the key decide: by the sheet where its sizes
    settle every feature. ``charges`` of None are those of version 1, where `whole` and `clean` earn.
    ``ties`` says what dimensions of the key measure that end on nothing, ``taken`` what is or is not
    taken as read against the rule (see `dimensioning.taken`), by id. ``decided`` says, by the id of a
    dimension whose value is not what it measures, which of the two holds (see `dimensioning.deciding`).
    """

    unit: str | None = None
    placement: Policy = "as-drawn"
    tolerances: Tolerances | None = None
    near_share: float = 0.5
    marks: float = 100.0
    any_unit: bool = True
    exact_layers: bool = False
    unit_charge: float = 0.0
    kind_marks: dict[str, float] = field(default_factory=dict)
    feature_marks: dict[str, float] = field(default_factory=dict)
    clutter_each: float | None = None
    clutter_cap: float | None = None
    given: tuple[str, ...] = ()
    views: tuple[View, ...] | None = None
    examines: Examines = "model"
    numbered: bool = False
    listing: Listing | None = None
    charges: Charges | None = Charges()
    ties: dict[str, tuple[str, ...]] = field(default_factory=dict)
    taken: dict[str, bool] = field(default_factory=dict)
    decided: dict[str, Decision] = field(default_factory=dict)
    roles: dict[str, Role] = field(default_factory=dict)
    requirements: tuple[Requirement, ...] | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Item:
    """One thing that `clean` counts: its code, place and layer; not charged when an absent feature already
    is."""

    code: str
    at: Point
    layer: str
    feature: str | None = None
    charged: bool = True


class Finding(NamedTuple):
    """One requirement held against one attempt; lengths in key units."""

    id: int
    kind: str
    features: tuple[str, ...]
    layer: str | None
    at: Point | None
    expected: Value
    measured: Value
    deviation: float | None
    tolerance: float | None
    verdict: Verdict
    causes: tuple[int, ...] = ()
    follows: int | None = None
    items: tuple[Item, ...] = ()
    what: str = ""
    """Which number it is, where a kind measures one of several: of a centre line its offset, direction or
    overshoot."""

    @property
    def root(self) -> int:
        """The finding that is charged for this one: what it follows, else itself."""
        return self.id if self.follows is None else self.follows


@dataclass(frozen=True, kw_only=True, slots=True)
class Cause:
    """A slip: its code, the findings it explains, and one plain sentence with the numbers in it; ``about`` is
    the finding of what was done, where it is known."""

    id: int
    code: str
    explains: tuple[int, ...]
    says: str
    candidates: tuple[str, ...] = ()
    about: int | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class SheetNote:
    """Something that the reader of a mark sheet should know and that costs nothing by itself."""

    code: str
    says: str


@dataclass(frozen=True, kw_only=True)
class MarkSheet:
    """All findings, causes and the score of one attempt.

    ``earned`` is what all findings earned less what is taken away. ``earned_for`` and ``possible_for``
    give the marks of each finding by its id. ``partners`` maps key features to the ids of what was drawn
    for them; ``motion`` lays the attempt, in key units, on the key, and ``view_motions`` each view that
    was placed on its own, after it.
    """

    unit: str
    policy: Policy
    motion: Similarity = STILL
    earned: Decimal = Decimal(0)
    possible: Decimal = Decimal(0)
    findings: tuple[Finding, ...] = ()
    causes: tuple[Cause, ...] = ()
    notes: tuple[SheetNote, ...] = ()
    earned_for: dict[int, Decimal] = field(default_factory=dict)
    possible_for: dict[int, Decimal] = field(default_factory=dict)
    partners: dict[str, str] = field(default_factory=dict)
    view_motions: dict[str, Similarity] = field(default_factory=dict)
    taken_for: dict[int, Decimal] = field(default_factory=dict)
    """What is taken away beside what was not earned, by finding."""
    words: dict[int, str] = field(default_factory=dict)
    """What each size of the sheet measures, by finding."""
    written: Callable[[], Any] = field(default=lambda: None, repr=False, compare=False)
    """What is written of the key's met findings again and again (see `marks_json`), None where it is not
    known."""
    lost_with: dict[int, int] = field(default_factory=dict)
    """For each habit that earned nothing, the finding of the size or place that is not right."""


class RuleError(ValueError):
    """A rule set is not usable: says what is wrong with it and what to do."""
