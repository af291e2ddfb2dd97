"""Examine: each requirement held against one placed and paired attempt.

One function a kind, listed in KINDS; each gives a Measure. Verdicts use unrounded numbers (marking.md, Verdicts).
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from itertools import combinations

import numpy as np
from scipy.spatial import cKDTree

from evenmark.core.drawing.model import Style
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.motions import STILL, Motion
from evenmark.core.geometry.points import (
    Point,
    along_carrier,
    direction_deg,
    direction_difference_deg,
    distance,
    distance_to_carrier,
    in_sweep,
)
from evenmark.core.linework.model import (
    AnyFeature,
    Arc,
    Circle,
    Corner,
    Curve,
    Edge,
    Linework,
    Outline,
    Tee,
    Text,
    end_point,
)
from evenmark.core.marking.match import Pairing, Partner, displacement
from evenmark.core.marking.model import Finding, Item, Requirement, Role, RuleSet, Value, Verdict
from evenmark.core.marking.relations import joints, tangent_off
from evenmark.core.marking.shapes import Table

ABSENT = "absent"
FOLLOWS = "follows"


@dataclass(frozen=True, kw_only=True, slots=True)
class Measure:
    """What a requirement's examination found. ``state`` is absent or follows where there was nothing to measure.

    ``needs`` names the key features whose absence it follows; ``near`` is the width of the near band, 0 for none.
    """

    at: Point | None = None
    expected: Value = None
    measured: Value = None
    deviation: float | None = None
    tolerance: float | None = None
    near: float = 0.0
    state: str | None = None
    agrees: bool | None = None
    needs: tuple[str, ...] = ()
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

    def partner(self, feature: str) -> Curve | Text | None:
        """Return the drawn feature of a key feature."""
        partner = self.pairing.partners.get(feature)
        return self.drawn.by_id[partner.id] if partner else None  # type: ignore[return-value]

    def exact(self, feature: str) -> bool:
        """Say whether what was drawn lies on the key feature everywhere."""
        partner = self.pairing.partners.get(feature)
        return partner is not None and partner.exact

    def drawn_end(self, feature: str, which: int) -> Point | None:
        """Return where the drawn counterpart of a key feature's end is."""
        partner: Partner | None = self.pairing.partners.get(feature)
        if partner is None:
            return None
        curve = self.drawn.curves[partner.id]
        if isinstance(curve, Circle):
            return None
        return end_point(curve, 1 - which if partner.flipped else which)

    def near_size(self, expected: float) -> float:
        """Return the near band of a size: the smaller of the fixed band and a twentieth of the size."""
        return min(self.tolerances.near, tol.NEAR_SHARE * abs(expected))

    def layer_key(self, name: str) -> str:
        """Return a layer name as it is compared."""
        return name if self.rules.exact_layers else name.casefold()

    def role(self, layer: str) -> Role | None:
        """Return the role that the rule set gives a layer."""
        return self.rules.roles.get(layer) or self.rules.roles.get(layer.casefold())


def examine(requirements: tuple[Requirement, ...], case: Case) -> list[Finding]:
    """Return one finding for each requirement that is on, in order, marks not yet given."""
    findings = [_finding(r, KINDS[r.kind](r, case), case) for r in requirements if r.on]
    return _resolve_follows(findings, case)


def _finding(r: Requirement, m: Measure, case: Case) -> Finding:
    tolerance = r.tolerance if r.tolerance is not None else m.tolerance
    return Finding(
        id=r.id,
        kind=r.kind,
        features=r.features,
        layer=r.layer,
        at=m.at,
        expected=m.expected,
        measured=m.measured,
        deviation=m.deviation,
        tolerance=tolerance,
        verdict=_verdict(r, m, tolerance, case),
        items=m.items,
    )


def _verdict(r: Requirement, m: Measure, tolerance: float | None, case: Case) -> Verdict:
    if m.state == ABSENT:
        return "absent"
    if m.state == FOLLOWS:
        return "follows"
    if m.agrees is not None and (m.agrees is True or m.deviation is None):
        return "met" if m.agrees else "missed"
    if m.deviation is None or tolerance is None:
        return "missed"
    if r.tolerance is None and r.kind in _OWN and r.features and case.exact(r.features[0]):
        return "met"
    if tol.within(m.deviation, tolerance, case.slack):
        return "met"
    near = r.near if r.near is not None else m.near
    return "near" if near and tol.within(m.deviation, near, case.slack) else "missed"


_OWN = frozenset({"length", "angle", "radius", "sweep", "position"})
"""What is met when a feature lies on its key feature everywhere, unless the instructor set that tolerance."""


def _resolve_follows(findings: list[Finding], case: Case) -> list[Finding]:
    """Name, for each finding that follows, the absent one that it follows."""
    first_absent: dict[str, int] = {}
    for f in findings:
        if f.verdict == "absent" and len(f.features) == 1:
            first_absent.setdefault(f.features[0], f.id)
    out = []
    for f in findings:
        if f.verdict == "follows":
            missing = [first_absent[i] for i in _parts(f, case.key) if i in first_absent]
            f = replace(f, follows=missing[0]) if missing else replace(f, verdict="absent")
        out.append(f)
    return out


def _parts(f: Finding, key: Linework) -> list[str]:
    """Return the curves that a finding's features are made of."""
    out: list[str] = []
    for i in f.features:
        feature: AnyFeature = key.by_id[i]
        if isinstance(feature, Corner | Tee):
            out += [e for e, _ in feature.ends]
            if isinstance(feature, Tee):
                out.append(feature.on)
        elif isinstance(feature, Outline):
            out += [m for m, _ in feature.members]
        else:
            out.append(i)
    return out


# sizes


def _length(r: Requirement, case: Case) -> Measure:
    key = case.key.by_id[r.features[0]]
    assert isinstance(key, Edge)
    drawn = case.partner(key.id)
    if not isinstance(drawn, Edge):
        return Measure(at=key.at, expected=key.length, tolerance=case.tolerances.length, state=ABSENT)
    return _scalar(key.at, key.length, drawn.length, case.tolerances.length, case.near_size(key.length))


def _radius(r: Requirement, case: Case) -> Measure:
    key = case.key.by_id[r.features[0]]
    assert isinstance(key, Arc | Circle)
    drawn = case.partner(key.id)
    if not isinstance(drawn, Arc | Circle):
        return Measure(at=key.at, expected=key.radius, tolerance=case.tolerances.length, state=ABSENT)
    return _scalar(key.at, key.radius, drawn.radius, case.tolerances.length, case.near_size(key.radius))


def _scalar(at: Point, expected: float, measured: float, tolerance: float, near: float) -> Measure:
    return Measure(
        at=at,
        expected=expected,
        measured=measured,
        deviation=measured - expected,
        tolerance=tolerance,
        near=near,
    )


def _angle(r: Requirement, case: Case) -> Measure:
    key = case.key.by_id[r.features[0]]
    assert isinstance(key, Edge)
    expected = direction_deg(key.start, key.end)
    drawn = case.partner(key.id)
    if not isinstance(drawn, Edge):
        return Measure(at=key.at, expected=expected, tolerance=case.tolerances.angle_deg, state=ABSENT)
    measured = direction_deg(drawn.start, drawn.end)
    off = abs(direction_difference_deg(expected, measured))
    aside = drawn.length * math.sin(math.radians(off))
    near = tol.NEAR_ANGLE_DEG if tol.within(aside, case.near_size(key.length), case.slack) else 0.0
    return Measure(
        at=key.at,
        expected=expected,
        measured=measured,
        deviation=off,
        tolerance=case.tolerances.angle_deg,
        near=near,
    )


def _sweep(r: Requirement, case: Case) -> Measure:
    key = case.key.by_id[r.features[0]]
    assert isinstance(key, Arc)
    expected = math.degrees(key.sweep_rad)
    drawn = case.partner(key.id)
    if not isinstance(drawn, Arc):
        return Measure(at=key.at, expected=expected, tolerance=case.tolerances.angle_deg, state=ABSENT)
    measured = math.degrees(drawn.sweep_rad)
    aside = drawn.radius * math.sin(math.radians(min(90.0, abs(measured - expected))))
    near = (
        tol.NEAR_ANGLE_DEG
        if tol.within(aside, case.near_size(key.radius * key.sweep_rad), case.slack)
        else 0.0
    )
    return _scalar(key.at, expected, measured, case.tolerances.angle_deg, near)


# places


def _position(r: Requirement, case: Case) -> Measure:
    key = case.key.by_id[r.features[0]]
    near = min(case.tolerances.near, tol.NEAR_SHARE * max(case.key.extent, 0.0))
    if isinstance(key, Corner | Tee):
        expected = key.at
        ends = [p for p in (case.drawn_end(i, w) for i, w in key.ends) if p is not None]
        measured = min(ends, key=lambda p: distance(p, expected)) if ends else None
    else:
        assert isinstance(key, Arc | Circle)
        expected = key.center
        drawn = case.partner(key.id)
        measured = drawn.center if isinstance(drawn, Arc | Circle) else None
    at = key.at
    if measured is None:
        return Measure(at=at, expected=expected, tolerance=case.tolerances.position, state=ABSENT)
    return Measure(
        at=at,
        expected=expected,
        measured=measured,
        deviation=distance(expected, measured),
        tolerance=case.tolerances.position,
        near=near,
    )


# relations


def _joined(r: Requirement, case: Case) -> Measure:
    key = case.key.by_id[r.features[0]]
    assert isinstance(key, Corner | Tee)
    ends = [case.drawn_end(i, w) for i, w in key.ends]
    found = [p for p in ends if p is not None]
    base = Measure(at=key.at, expected=0.0, tolerance=case.tolerances.length, state=FOLLOWS)
    if isinstance(key, Tee):
        on = case.partner(key.on)
        if not found and on is None:
            return _absent(base)
        if on is None or len(found) < len(ends):
            return base
        gap = max(_to_curve(p, on) for p in found)  # type: ignore[arg-type]
    else:
        if not found:
            return _absent(base)
        if len(found) < len(ends):
            return base
        gap = max(distance(p, q) for p, q in combinations(found, 2))
    return Measure(at=key.at, expected=0.0, measured=gap, deviation=gap, tolerance=case.tolerances.length)


def _absent(m: Measure) -> Measure:
    return Measure(at=m.at, expected=m.expected, tolerance=m.tolerance, state=ABSENT)


def _to_curve(p: Point, curve: Curve) -> float:
    """Return the distance of a point from a curve: its carrier where the foot falls on it, else its nearer end."""
    if isinstance(curve, Edge):
        along = along_carrier(p, curve.start, curve.end)
        if 0.0 <= along <= curve.length:
            return distance_to_carrier(p, curve.start, curve.end)
        return min(distance(p, curve.start), distance(p, curve.end))
    if isinstance(curve, Arc):
        turn = math.atan2(p[1] - curve.center[1], p[0] - curve.center[0])
        if not in_sweep(turn, curve.start_rad, curve.sweep_rad):
            return min(distance(p, curve.start), distance(p, curve.end))
    return abs(distance(p, curve.center) - curve.radius)


def _closed(r: Requirement, case: Case) -> Measure:
    key = case.key.by_id[r.features[0]]
    assert isinstance(key, Outline)
    base = Measure(at=key.at, expected=0.0, tolerance=case.tolerances.length, state=FOLLOWS)
    present = [case.pairing.partners.get(i) is not None for i, _ in key.members]
    if not any(present):
        return _absent(base)
    if not all(present):
        return base
    worst, at = 0.0, key.at
    for n, (i, back) in enumerate(key.members):
        before, was_back = key.members[n - 1]
        here = case.drawn_end(i, 1 if back else 0)
        there = case.drawn_end(before, 0 if was_back else 1)
        gap = distance(here, there) if here and there else 0.0
        if gap > worst:
            worst, at = gap, case.key.by_id[key.corners[n]].at
    return Measure(at=at, expected=0.0, measured=worst, deviation=worst, tolerance=case.tolerances.length)


def _tangent(r: Requirement, case: Case) -> Measure:
    b_id, a_id = r.features
    key_a, key_b = case.key.curves[a_id], case.key.curves[b_id]
    ends = case.key_joints.get((a_id, b_id), (None, None))
    at = key_a.ends[ends[0]] if ends[0] is not None and isinstance(key_a, Edge | Arc) else key_b.at
    a, b = case.partner(a_id), case.partner(b_id)
    base = Measure(at=at, expected=0.0, tolerance=case.tolerances.length, state=FOLLOWS)
    if a is None and b is None:
        return _absent(base)
    if not isinstance(a, Edge | Arc | Circle) or not isinstance(b, Arc | Circle):
        return base
    drawn_ends = tuple(
        (1 - e if case.pairing.partners[i].flipped else e) if e is not None else None
        for i, e in ((a_id, ends[0]), (b_id, ends[1]))
    )
    off = tangent_off(a, b, drawn_ends[0], drawn_ends[1])
    return Measure(at=at, expected=0.0, measured=off, deviation=off, tolerance=case.tolerances.length)


# layers and the whole


def _layer(r: Requirement, case: Case) -> Measure:
    key = case.key.by_id[r.features[0]]
    assert isinstance(key, Edge | Arc | Circle | Text)
    drawn = case.partner(key.id)
    if drawn is None:
        return Measure(at=key.at, expected=key.layer, state=ABSENT)
    same = case.layer_key(drawn.layer) == case.layer_key(key.layer)
    return Measure(at=key.at, expected=key.layer, measured=drawn.layer, agrees=same)


def _layer_style(r: Requirement, case: Case) -> Measure:
    assert r.layer is not None
    asked = case.key.layers[r.layer].style
    found = next(
        (
            layer
            for n, layer in case.drawn.layers.items()
            if case.layer_key(n) == case.layer_key(r.layer or "")
        ),
        None,
    )
    if found is None:
        return Measure(expected=say_style(asked, asked), state=ABSENT)
    return Measure(
        expected=say_style(asked, found.style),
        measured=say_style(found.style, asked),
        agrees=same_style(asked, found.style),
    )


def same_style(asked: Style, found: Style) -> bool:
    """Say whether two styles look the same; a weight that one of the files cannot state is not held against it."""
    weights = asked.weight is None or found.weight is None or asked.weight == found.weight
    return asked.color == found.color and asked.line_type == found.line_type and weights


def say_style(style: Style, other: Style) -> str:
    """Say a style in words; the weight only where both files state one."""
    weight = f", {style.weight:.2f} mm" if style.weight is not None and other.weight is not None else ""
    return f"colour {style.color}, {style.line_type}{weight}"


def _whole(_r: Requirement, case: Case) -> Measure:
    if not case.pairing.paired:
        return Measure(state=ABSENT)
    return case.whole


def _clean(_r: Requirement, case: Case) -> Measure:
    items = [Item(code=c.code, at=c.at, layer=c.layer) for c in case.drawn.clutter]
    lacking = {"e": 0, "a": 0, "c": 0}
    for i in case.key.curves:
        if i not in case.pairing.partners:
            lacking[i[0]] += 1
    doubling = _doubling(case)
    for i in case.pairing.spare:
        f = case.drawn.curves[i]
        construction = case.role(f.layer) == "construction"
        charged = construction or lacking[i[0]] <= 0
        if not charged:
            lacking[i[0]] -= 1
        code = "construction-left" if construction else "drawn-twice" if i in doubling else "spare"
        items.append(Item(code=code, at=f.at, layer=f.layer, feature=i, charged=charged))
    count = sum(1 for item in items if item.charged)
    return Measure(
        expected=0.0, measured=float(count), deviation=float(count), agrees=count == 0, items=tuple(items)
    )


def _doubling(case: Case) -> set[str]:
    """Return the spare features that lie on the partner of some key feature: something was drawn twice."""
    out: set[str] = set()
    spare = set(case.pairing.spare)
    if not spare:
        return out
    reach = case.tolerances.position + case.slack
    for table in case.drawn_tables.values():
        own = np.array([i in spare for i in table.ids], dtype=bool)
        extra, used = table.only(np.nonzero(own)[0]), table.only(np.nonzero(~own)[0])
        if len(extra) and len(used):
            _, near = cKDTree(used.place).query(extra.place)
            off, _ = displacement(extra, used, np.arange(len(extra)), np.asarray(near).astype(np.int64))
            out.update(extra.ids[i] for i in np.nonzero(off <= reach)[0].tolist())
    return out


KINDS: dict[str, Callable[[Requirement, Case], Measure]] = {
    "whole": _whole,
    "length": _length,
    "angle": _angle,
    "position": _position,
    "radius": _radius,
    "sweep": _sweep,
    "tangent": _tangent,
    "joined": _joined,
    "closed": _closed,
    "layer": _layer,
    "layer-style": _layer_style,
    "clean": _clean,
}
"""Every requirement kind that this engine examines."""


def joint_table(key: Linework) -> dict[tuple[str, str], tuple[int | None, int | None]]:
    """Return which ends touch at the joints of a key, by pair of features."""
    return {(a, b): (end_a, end_b) for a, b, end_a, end_b in joints(key)}
