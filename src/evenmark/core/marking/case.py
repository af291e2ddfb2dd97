"""What one examination looks at, and what it gives back for each requirement.

- *ask*: a requirement made ready for a key. *Measure*: what was found for it, before any verdict.
- *case*: the key, the placed drawing, their pairing and the rules, together.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.motions import STILL, Motion
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import AnyFeature, Circle, Curve, Linework, Text
from evenmark.core.marking.match import Pairing
from evenmark.core.marking.model import Item, Requirement, Role, RuleSet, Value
from evenmark.core.marking.relations import joints
from evenmark.core.marking.shapes import Table

ABSENT = "absent"
FOLLOWS = "follows"


class Ask(NamedTuple):
    """A requirement made ready for a key: what it expects, where, how exactly, and of which feature.

    ``near`` is the width of the near band, 0 for none; where the band depends on what was drawn, the measure gives it.
    """

    r: Requirement
    feature: AnyFeature | None = None
    at: Point | None = None
    expected: Value = None
    allowed: float | None = None
    near: float = 0.0


class Measure(NamedTuple):
    """What was found for one requirement.

    ``state`` is absent or follows where there was nothing to measure; ``agrees`` decides where there is no number to compare.
    ``near``, ``at`` and ``expected`` are given where they depend on what was drawn, and hold before those of the asking.
    """

    measured: Value = None
    deviation: float | None = None
    state: str | None = None
    agrees: bool | None = None
    near: float | None = None
    at: Point | None = None
    expected: Value = None
    items: tuple[Item, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Case:
    """Everything one examination looks at: the key, the placed drawing, the pairing and the rules."""

    key: Linework
    drawn: Linework
    pairing: Pairing
    rules: RuleSet
    tolerances: tol.Tolerances
    slack: float
    key_joints: dict[tuple[str, str], tuple[int | None, int | None]] = field(default_factory=dict)
    drawn_tables: dict[str, Table] = field(default_factory=dict)
    whole: Measure = field(default_factory=Measure)
    whole_motion: Motion = STILL

    @cached_property
    def drawn_for(self) -> dict[str, Curve | Text]:
        """The drawn features by the id of the key feature that they were meant as."""
        known = self.drawn.by_id
        return {i: known[partner.id] for i, partner in self.pairing.partners.items()}  # type: ignore[misc]

    @cached_property
    def exact(self) -> frozenset[str]:
        """The key features on which what was drawn lies everywhere."""
        return frozenset(i for i, partner in self.pairing.partners.items() if partner.exact)

    def partner(self, feature: str) -> Curve | Text | None:
        """Return the drawn feature of a key feature."""
        return self.drawn_for.get(feature)

    @cached_property
    def ends_for(self) -> dict[str, tuple[Point, Point]]:
        """Where the drawn ends of open key features are, start and end as the key has them."""
        drawn, out = self.drawn.curves, {}
        for i, partner in self.pairing.partners.items():
            curve = drawn.get(partner.id)
            if curve is not None and not isinstance(curve, Circle):
                start, end = curve.ends
                out[i] = (end, start) if partner.flipped else (start, end)
        return out

    def drawn_end(self, feature: str, which: int) -> Point | None:
        """Return where the drawn counterpart of a key feature's end is."""
        ends = self.ends_for.get(feature)
        return ends[which] if ends else None

    def layer_key(self, name: str) -> str:
        """Return a layer name as it is compared."""
        return name if self.rules.exact_layers else name.casefold()

    def role(self, layer: str) -> Role | None:
        """Return the role that the rule set gives a layer."""
        return self.rules.roles.get(layer) or self.rules.roles.get(layer.casefold())


def joint_table(key: Linework) -> dict[tuple[str, str], tuple[int | None, int | None]]:
    """Return which ends touch at the joints of a key, by pair of features."""
    return {(a, b): (end_a, end_b) for a, b, end_a, end_b in joints(key)}


def near_size(expected: float, tolerances: tol.Tolerances) -> float:
    """Return the near band of a size: the smaller of the fixed band and a twentieth of the size."""
    return min(tolerances.near, tol.NEAR_SHARE * abs(expected))
