"""What one examination looks at, and what it gives back for each requirement.

- *ask*: a requirement made ready for a key. *Measure*: what was found for it, before any verdict.
- *examination*: the key, the placed drawing, their pairing and the rules, together.
"""

from __future__ import annotations

from collections import ChainMap
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from evenmark.core.drawing.roles import Role, role_of, stated_role
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.similarities import STILL, Similarity
from evenmark.core.linework.model import AnyFeature, ArcFeature, CircleFeature, Edge, Feature, Linework, View
from evenmark.core.linework.relations import joints
from evenmark.core.marking.match import Pairing
from evenmark.core.marking.model import Finding, Item, Requirement, RuleSet, Value
from evenmark.core.marking.shapes import Table

ABSENT = "absent"
FOLLOWS = "follows"
_NUMBERS = {"e": slice(1, 4), "a": slice(1, 6), "c": slice(1, 4)}
"""Where an edge, arc or circle has its numbers and its layer."""


class Ask(NamedTuple):
    """A requirement made ready for a key: what it expects, where, how exactly, and of which feature.

    ``near`` is the width of the near band, 0 for none; where the band depends on what was drawn, the measure
    gives it.
    """

    r: Requirement
    feature: AnyFeature | None = None
    at: Point | None = None
    expected: Value = None
    allowed: float | None = None
    near: float = 0.0
    data: Any = None

    @property
    def number(self) -> float:
        """What is expected, where it is a number. Raises TypeError for any other."""
        if not isinstance(self.expected, int | float):
            raise TypeError(f"{self.r.kind} expects {self.expected!r}, which is no number")
        return self.expected


@dataclass(frozen=True, kw_only=True)
class MarkingSetting:
    """What a requirement is asked in: the key, the rules, the tolerances that hold where a requirement states
    none, and the views."""

    key: Linework
    rules: RuleSet
    tolerances: tol.Tolerances
    joints: dict[tuple[str, str], tuple[int | None, int | None]]
    views: dict[str, View] = field(default_factory=dict)
    spared: Mapping[str, float] = field(default_factory=dict)
    """By how much more a feature may be off because the key itself is flawed there."""

    def role(self, layer: str) -> Role:
        """Return the role of a layer; outline where none is said."""
        return role_of(self.rules.roles, layer)

    @cached_property
    def centers(self) -> tuple[list[ArcFeature | CircleFeature], NDArray[np.float64]]:
        """The round features that an axis can run through the centres of, and those centres as rows."""
        rounds = [c for c in self.key.rounds if self.role(c.layer) != "construction"]
        return rounds, np.array([c.center for c in rounds], np.float64).reshape(-1, 2)

    @cached_property
    def seen(self) -> tuple[list[Edge | ArcFeature | CircleFeature], NDArray[np.float64]]:
        """The edges, arcs and circles that an axis can be the axis of, and their boxes as rows."""
        everything: tuple[Edge | ArcFeature | CircleFeature, ...] = (*self.key.edges, *self.key.rounds)
        curves = [f for f in everything if self.role(f.layer) in ("outline", "hidden")]
        rows = []
        for f in curves:
            if isinstance(f, Edge):
                (x0, y0), (x1, y1) = f.start, f.end
                rows.append((min(x0, x1), min(y0, y1), max(x0, x1), max(y0, y1)))
            else:
                (x, y), r = f.center, f.radius
                rows.append((x - r, y - r, x + r, y + r))
        return curves, np.array(rows, np.float64).reshape(-1, 4)


class Asked:
    """Everything that is asked of a key, in order, by id and by kind; worked out once a key."""

    def __init__(self, asks: tuple[Ask, ...]) -> None:
        self.all = asks
        self.by_id: dict[int, Ask] = {a.r.id: a for a in asks}
        self.rows: dict[int, int] = {a.r.id: n for n, a in enumerate(asks)}
        """Where each stands."""
        self._by_kind: dict[str, list[Ask]] = {}
        for a in asks:
            self._by_kind.setdefault(a.r.kind, []).append(a)
        self.known: dict[str, Any] = {}
        """What was worked out once from the key, by name."""
        self.tangents: dict[str, list[str]] = {}
        """The features that each feature is asked to touch."""
        for a in self.of("tangent"):
            b, c = a.r.features
            self.tangents.setdefault(b, []).append(c)
            self.tangents.setdefault(c, []).append(b)

    @cached_property
    def by_feature(self) -> dict[str, tuple[Ask, ...]]:
        """Everything that is asked of each feature, alone or with others."""
        out: dict[str, list[Ask]] = {}
        for a in self.all:
            for i in dict.fromkeys(a.r.features):
                out.setdefault(i, []).append(a)
        return {i: tuple(asks) for i, asks in out.items()}

    @cached_property
    def layers(self) -> dict[str, list[str]]:
        """The features that are asked for each layer."""
        out: dict[str, list[str]] = {}
        for a in self.of("layer"):
            out.setdefault(str(a.expected), []).append(a.r.features[0])
        return out

    def replaced(self, findings: list[Finding], changed: Mapping[int, Finding]) -> list[Finding]:
        """Return findings, one for everything that is asked and in its order, with some changed, by id."""
        if not changed:
            return findings
        out = findings.copy()
        for i, f in changed.items():
            out[self.rows[i]] = f
        return out

    def of(self, *kinds: str) -> list[Ask]:
        """Return what is asked of some kinds."""
        return [a for kind in kinds for a in self._by_kind.get(kind, ())]


def keeps_to(drawn: Edge, edge: Edge, exam: Examination) -> bool:
    """Say whether a drawn edge lies on the supporting line of its key edge, within the tolerance of
    places."""
    reach = exam.tolerances.position
    return all(
        tol.within(distance_to_supporting_line(p, edge.start, edge.end), reach, exam.slack)
        for p in drawn.ends
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class Kind:
    """A kind of requirement: all that varies with it. Nothing is left to a default, so that a new kind does
    not pass the type check until all of it is said; sets and tables of kinds follow from these records.

    What it is called: ``title`` for all checks of a kind together, ``word`` in the name of one; ``listed`` is
    its place among the titles.

    What it is asked of: ``of`` gives, for each feature in turn, the letters that its id may begin with;
    ``more`` those of any further features, of which there must be at least ``least``. ``ask`` makes it ready
    for a key, ``measure`` measures it on an attempt, in a ``unit``. ``own``: its measuring looks at nothing
    but what was drawn for the features of the requirement. ``met_where_exact``: it is met where its ``own``
    feature, or ``all`` of them, lie on the key everywhere. ``watched``: it is examined although nobody asks,
    to find where a slip was made.

    What it is worth: ``weight`` within a feature, for a list by feature; ``weight_by_sheet`` beside other
    lines of its part, and ``part``, for a list by the sheet;
    ``settles``: it says of a feature its ``size`` or its ``place``, a size that is ``said`` between
    features, or how ``views`` stand; ``of_centres``: it asks for places alone. A ``habit`` earns only for
    a feature whose size and place are met, what is ``implied`` by the sheet likewise; one that many
    features ``share`` is a slip of its own. ``rank``: which of several kinds stands for a slip, first to
    last. ``marks_its_feature``: missing it marks its feature on page, PDF and DXF.
    """

    name: str
    title: str
    word: str
    listed: int
    of: tuple[str, ...]
    more: str
    least: int
    ask: Callable[[Requirement, MarkingSetting], Ask]
    measure: Callable[[Ask, Examination], Measure]
    unit: Literal["length", "degrees", "area", "count"]
    weight: int
    weight_by_sheet: float
    part: Literal["charged", "layers", "look", "unsaid", "read"]
    settles: Literal["", "size", "place", "said", "views"]
    of_centres: bool
    habit: Literal["", "habit", "implied", "shared"]
    rank: int | None
    watched: bool
    own: bool
    met_where_exact: Literal["", "own", "all"]
    marks_its_feature: bool

    def fits(self, features: tuple[str, ...]) -> bool:
        """Say whether the kind can be asked of these features."""
        n = len(self.of)
        return (
            len(features) >= n + self.least
            and (bool(self.more) or len(features) == n)
            and all(i[:1] in letters for i, letters in zip(features, self.of, strict=False))
            and all(i[:1] in self.more for i in features[n:])
        )


class Measure(NamedTuple):
    """What was found for one requirement.

    ``state`` is absent or follows where there was nothing to measure; ``agrees`` decides where there is no
    number to compare. ``near``, ``at`` and ``expected`` are given where they depend on what was drawn, and
    hold before those of the asking; ``what`` says which number it is, where it may be one of several.
    """

    measured: Value = None
    deviation: float | None = None
    state: str | None = None
    agrees: bool | None = None
    near: float | None = None
    at: Point | None = None
    expected: Value = None
    items: tuple[Item, ...] = ()
    what: str = ""


@dataclass(frozen=True, kw_only=True)
class Examination:
    """Everything one examination looks at: the key, the placed drawing, the pairing and the rules."""

    key: Linework
    drawn: Linework
    pairing: Pairing
    rules: RuleSet
    tolerances: tol.Tolerances
    slack: float
    key_joints: dict[tuple[str, str], tuple[int | None, int | None]] = field(default_factory=dict)
    drawn_tables: dict[str, Table] = field(default_factory=dict)
    aside: frozenset[str] = frozenset()
    """Key features that nobody has to draw."""
    spared: Mapping[str, float] = field(default_factory=dict)
    """By how much more a feature may be off because the key itself is flawed there."""
    whole: Measure = field(default_factory=Measure)
    whole_motion: Similarity = STILL
    view_shifts: Mapping[str, Point] = field(default_factory=dict)
    """How far each view that was placed on its own had to be moved, by view id."""
    fields: Mapping[str, str] = field(default_factory=dict)
    """What the sheet should say of its student, by field: name, group, date."""
    repaired: frozenset[str] = frozenset()
    """Key features that are taken as drawn rightly, to see what would follow."""
    unrepaired: Examination | None = None

    def with_repaired(self, features: frozenset[str]) -> Examination:
        """Return the examination in which some key features were drawn rightly."""
        return replace(self, repaired=features, unrepaired=self)

    @cached_property
    def drawn_for(self) -> Mapping[str, Feature]:
        """The drawn features by the id of the key feature that they were meant as."""
        if self.unrepaired is not None:
            right: dict[str, Feature] = {i: self.key.curves[i] for i in self.repaired}
            return ChainMap(right, self.unrepaired.drawn_for)  # type: ignore[arg-type]
        feature, partners = self.drawn.feature, self.pairing.partners
        out: dict[str, Feature] = {i: feature(p.id) for i, p in partners.items()}  # type: ignore[misc]
        out.update(self.pairing.merged)
        return out

    @cached_property
    def exact(self) -> frozenset[str]:
        """The key features on which what was drawn lies everywhere."""
        return frozenset(i for i, partner in self.pairing.partners.items() if partner.exact)

    @cached_property
    def alike(self) -> frozenset[str]:
        """The edges, arcs and circles of the key for which the same was drawn, to the last bit and on the
        same layer."""
        key, drawn, merged = self.key.curves.get, self.drawn.curves.get, self.pairing.merged
        out = []
        for i, (j, flipped, exact) in self.pairing.partners.items():
            f, made, numbers = key(i), drawn(j), _NUMBERS.get(i[0])
            if numbers is None or f is None or made is None or flipped or not exact:
                continue
            if made[numbers] == f[numbers] and i not in merged:
                out.append(i)
        return frozenset(out)

    def partner(self, feature: str) -> Feature | None:
        """Return the drawn feature of a key feature."""
        return self.drawn_for.get(feature)

    @cached_property
    def ends_for(self) -> Mapping[str, tuple[Point, Point]]:
        """Where the drawn ends of open key features are, start and end as the key has them."""
        if self.unrepaired is not None:
            right = {i: self.key.curves[i] for i in self.repaired if i in self.key.curves}
            ends = {i: c.ends for i, c in right.items() if not isinstance(c, CircleFeature)}
            return ChainMap(ends, self.unrepaired.ends_for)  # type: ignore[arg-type]
        drawn, out = self.drawn.curves, {}
        for i, partner in self.pairing.partners.items():
            curve = self.pairing.merged.get(i) or drawn.get(partner.id)
            if curve is not None and not isinstance(curve, CircleFeature):
                start, end = curve[1:3] if isinstance(curve, Edge) else curve.ends
                out[i] = (end, start) if partner.flipped else (start, end)
        return out

    def flipped(self, feature: str) -> bool:
        """Say whether the drawn end of a key feature answers to its start."""
        partner = self.pairing.partners.get(feature)
        return partner is not None and partner.flipped and feature not in self.repaired

    def drawn_end(self, feature: str, which: int) -> Point | None:
        """Return where the drawn counterpart of a key feature's end is."""
        ends = self.ends_for.get(feature)
        return ends[which] if ends else None

    def layer_key(self, name: str) -> str:
        """Return a layer name as it is compared."""
        return name if self.rules.exact_layers else name.casefold()

    def role(self, layer: str) -> Role | None:
        """Return the role that the rule set gives a layer, None where it gives none."""
        return stated_role(self.rules.roles, layer)


def joint_table(key: Linework) -> dict[tuple[str, str], tuple[int | None, int | None]]:
    """Return which ends touch at the joints of a key, by pair of features."""
    return {(a, b): (end_a, end_b) for a, b, end_a, end_b in joints(key)}


def near_size(expected: float, tolerances: tol.Tolerances) -> float:
    """Return the near band of a size: the smaller of the fixed band and a twentieth of the size."""
    return min(tolerances.near, tol.NEAR_SHARE * abs(expected))
