"""Measure: what each kind of requirement asks of a key, and what it finds on one placed and paired attempt.

Two functions a kind where both differ, listed in ASKS and KINDS. What is asked is worked out once a key.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from itertools import combinations

import numpy as np
from scipy.spatial import cKDTree

from evenmark.core.drawing.model import Style
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import (
    Point,
    along_carrier,
    direction_deg,
    direction_difference_deg,
    distance,
    distance_to_carrier,
    in_sweep,
)
from evenmark.core.linework.model import Arc, Circle, Corner, Curve, Edge, Linework, Outline, Tee, Text
from evenmark.core.marking.case import ABSENT, FOLLOWS, Ask, Case, Measure, near_size
from evenmark.core.marking.match import displacement
from evenmark.core.marking.model import Item, Requirement
from evenmark.core.marking.relations import tangent_off

NOTHING = Measure(state=ABSENT)
PARTLY = Measure(state=FOLLOWS)
Tolerances = tol.Tolerances
Joints = dict[tuple[str, str], tuple[int | None, int | None]]


def ask(r: Requirement, key: Linework, tolerances: Tolerances, joints: Joints) -> Ask:
    """Return what a requirement asks for, read off the key."""
    feature = key.by_id[r.features[0]] if r.features else None
    if isinstance(feature, Edge) and r.kind in ("length", "angle"):
        if r.kind == "length":
            expected, allowed = feature.length, tolerances.length
            return Ask(r, feature, feature.at, expected, allowed, near_size(expected, tolerances))
        return Ask(r, feature, feature.at, direction_deg(feature.start, feature.end), tolerances.angle_deg)
    if isinstance(feature, Arc | Circle) and r.kind == "radius":
        band = near_size(feature.radius, tolerances)
        return Ask(r, feature, feature.at, feature.radius, tolerances.length, band)
    if isinstance(feature, Arc) and r.kind == "sweep":
        return Ask(r, feature, feature.at, math.degrees(feature.sweep_rad), tolerances.angle_deg)
    if feature is not None and r.kind == "position":
        place = feature.center if isinstance(feature, Arc | Circle) else feature.at
        band = min(tolerances.near, tol.NEAR_SHARE * key.extent)
        return Ask(r, feature, feature.at, place, tolerances.position, band)
    if feature is not None and r.kind in ("joined", "closed"):
        return Ask(r, feature, feature.at, 0.0, tolerances.length)
    if isinstance(feature, Arc | Circle) and r.kind == "tangent":
        other = key.curves[r.features[1]]
        end = joints.get((other.id, feature.id), (None, None))[0]
        at = feature.at if end is None or isinstance(other, Circle) else other.ends[end]
        return Ask(r, feature, at, 0.0, tolerances.length)
    if isinstance(feature, Edge | Arc | Circle | Text) and r.kind == "layer":
        return Ask(r, feature, feature.at, feature.layer)
    if r.kind == "layer-style":
        assert r.layer is not None
        asked = key.layers[r.layer].style
        return Ask(r, None, None, say_style(asked, asked))
    return Ask(r, None, None, 0.0 if r.kind == "clean" else None, 0.0 if r.kind == "clean" else None)


# sizes


def _length(a: Ask, case: Case) -> Measure:
    drawn: Edge | None = case.drawn_for.get(a.feature.id)  # type: ignore[assignment, union-attr]
    if drawn is None:
        return NOTHING
    measured = drawn.length
    return Measure(measured, measured - a.expected)  # type: ignore[operator]


def _radius(a: Ask, case: Case) -> Measure:
    drawn: Arc | Circle | None = case.drawn_for.get(a.feature.id)  # type: ignore[assignment, union-attr]
    if drawn is None:
        return NOTHING
    return Measure(drawn.radius, drawn.radius - a.expected)  # type: ignore[operator]


def _angle(a: Ask, case: Case) -> Measure:
    key: Edge = a.feature  # type: ignore[assignment]
    drawn: Edge | None = case.drawn_for.get(key.id)  # type: ignore[assignment]
    if drawn is None:
        return NOTHING
    measured = direction_deg(drawn.start, drawn.end)
    off = abs(direction_difference_deg(a.expected, measured))  # type: ignore[arg-type]
    if off <= case.tolerances.angle_deg:
        return Measure(measured, off)
    aside = drawn.length * math.sin(math.radians(off))
    return Measure(measured, off, near=_near_angle(aside, key.length, case))


def _sweep(a: Ask, case: Case) -> Measure:
    key: Arc = a.feature  # type: ignore[assignment]
    drawn: Arc | None = case.drawn_for.get(key.id)  # type: ignore[assignment]
    if drawn is None:
        return NOTHING
    measured = math.degrees(drawn.sweep_rad)
    off = measured - a.expected  # type: ignore[operator]
    if abs(off) <= case.tolerances.angle_deg:
        return Measure(measured, off)
    aside = drawn.radius * math.sin(math.radians(min(90.0, abs(off))))
    return Measure(measured, off, near=_near_angle(aside, key.radius * key.sweep_rad, case))


def _near_angle(aside: float, length: float, case: Case) -> float:
    """Return the near band of an angle: none where the far end of the piece is off by more than the band of its length."""
    band = near_size(length, case.tolerances)
    return tol.NEAR_ANGLE_DEG if tol.within(aside, band, case.slack) else 0.0


# places


def _position(a: Ask, case: Case) -> Measure:
    key, expected = a.feature, a.expected
    assert isinstance(expected, tuple)
    measured: Point | None = None
    if isinstance(key, Arc | Circle):
        drawn: Arc | Circle | None = case.drawn_for.get(key.id)  # type: ignore[assignment]
        measured = drawn.center if drawn is not None else None
    else:
        joint: Corner | Tee = key  # type: ignore[assignment]
        best = math.inf
        for i, which in joint.ends:
            p = case.drawn_end(i, which)
            if p is not None and (off := distance(p, expected)) < best:
                best, measured = off, p
    if measured is None:
        return NOTHING
    return Measure(measured, distance(expected, measured))


# relations


def _joined(a: Ask, case: Case) -> Measure:
    key: Corner | Tee = a.feature  # type: ignore[assignment]
    ends = [case.drawn_end(i, w) for i, w in key.ends]
    found = [p for p in ends if p is not None]
    on = case.drawn_for.get(key.on) if isinstance(key, Tee) else None
    if not found and on is None:
        return NOTHING
    if len(found) < len(ends) or (isinstance(key, Tee) and on is None):
        return PARTLY
    if on is not None:
        gap = max(_to_curve(p, on) for p in found)  # type: ignore[arg-type]
    elif len(found) == 2:
        gap = distance(found[0], found[1])
    else:
        gap = max(distance(p, q) for p, q in combinations(found, 2))
    return Measure(gap, gap)


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


def _closed(a: Ask, case: Case) -> Measure:
    key: Outline = a.feature  # type: ignore[assignment]
    present = sum(1 for i, _ in key.members if i in case.drawn_for)
    if present < len(key.members):
        return PARTLY if present else NOTHING
    worst, at = 0.0, key.at
    before, was_back = key.members[-1]
    there = case.drawn_end(before, 0 if was_back else 1)
    for n, (i, back) in enumerate(key.members):
        here = case.drawn_end(i, 1 if back else 0)
        gap = distance(here, there) if here and there else 0.0
        if gap > worst:
            worst, at = gap, case.key.by_id[key.corners[n]].at
        there = case.drawn_end(i, 0 if back else 1)
    return Measure(worst, worst, at=at)


def _tangent(ask_: Ask, case: Case) -> Measure:
    b_id, a_id = ask_.r.features
    a, b = case.drawn_for.get(a_id), case.drawn_for.get(b_id)
    if a is None and b is None:
        return NOTHING
    if not isinstance(a, Edge | Arc | Circle) or not isinstance(b, Arc | Circle):
        return PARTLY
    end_a, end_b = case.key_joints.get((a_id, b_id), (None, None))
    partners = case.pairing.partners
    if end_a is not None and partners[a_id].flipped:
        end_a = 1 - end_a
    if end_b is not None and partners[b_id].flipped:
        end_b = 1 - end_b
    off = tangent_off(a, b, end_a, end_b)
    return Measure(off, off)


# layers and the whole


def _layer(a: Ask, case: Case) -> Measure:
    drawn = case.drawn_for.get(a.feature.id)  # type: ignore[union-attr]
    if drawn is None:
        return NOTHING
    same = drawn.layer == a.expected or case.layer_key(drawn.layer) == case.layer_key(str(a.expected))
    return Measure(drawn.layer, agrees=same)


def _layer_style(a: Ask, case: Case) -> Measure:
    assert a.r.layer is not None
    asked, wanted = case.key.layers[a.r.layer].style, case.layer_key(a.r.layer)
    found = next((layer for n, layer in case.drawn.layers.items() if case.layer_key(n) == wanted), None)
    if found is None:
        return NOTHING
    said, expected = say_style(found.style, asked), say_style(asked, found.style)
    return Measure(said, agrees=same_style(asked, found.style), expected=expected)


def same_style(asked: Style, found: Style) -> bool:
    """Say whether two styles look the same; a weight that one of the files cannot state is not held against it."""
    weights = asked.weight is None or found.weight is None or asked.weight == found.weight
    return asked.color == found.color and asked.line_type == found.line_type and weights


def say_style(style: Style, other: Style) -> str:
    """Say a style in words; the weight only where both files state one."""
    weight = f", {style.weight:.2f} mm" if style.weight is not None and other.weight is not None else ""
    return f"colour {style.color}, {style.line_type}{weight}"


def _whole(_a: Ask, case: Case) -> Measure:
    return case.whole if case.pairing.paired else NOTHING


def _clean(_a: Ask, case: Case) -> Measure:
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
    count = float(sum(1 for item in items if item.charged))
    return Measure(count, count, items=tuple(items))


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


KINDS: dict[str, Callable[[Ask, Case], Measure]] = {
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
