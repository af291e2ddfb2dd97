"""Relations between features: `tangent`, `perpendicular`, `parallel`, `included-angle`, `concentric`, and how
ends meet: `joined`, `closed`, `whole-edge`, `one-piece`."""

from __future__ import annotations

import math
from itertools import combinations

import numpy as np
from scipy.spatial import ConvexHull, QhullError

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_carrier, distance_to_carrier
from evenmark.core.geometry.points import Point, distance, in_sweep
from evenmark.core.linework.model import Arc, Circle, Corner, Edge, Feature, Free, Outline, Tee
from evenmark.core.linework.relations import between_deg, off_square, tangent_off
from evenmark.core.marking.curves import to_path
from evenmark.core.marking.examination import Ask, Examination, Kind, Measure, Setting
from evenmark.core.marking.kinds.common import NOTHING, PARTLY, angle_band, feature_of, lacking
from evenmark.core.marking.model import Requirement, RuleError

_FEW_ENDS = 64
"""Ends at one corner of which every two are compared."""


def ask_tangent(r: Requirement, s: Setting) -> Ask:
    """Ask a circle or arc and another feature to touch; where they are joined, at the exact touch point."""
    curve: Arc | Circle = feature_of(r, s)  # type: ignore[assignment]
    other = s.key.curves[r.features[1]]
    end = s.joints.get((other.id, curve.id), (None, None))[0]
    at = curve.at if end is None or isinstance(other, Circle) else other.ends[end]
    return Ask(r, curve, at, 0.0, s.tolerances.length)


def tangent(a: Ask, exam: Examination) -> Measure:
    """Measure how far two features are from tangent."""
    b_id, a_id = a.r.features
    one, other = exam.drawn_for.get(a_id), exam.drawn_for.get(b_id)
    if one is None and other is None:
        return NOTHING
    if not isinstance(one, Edge | Arc | Circle) or not isinstance(other, Arc | Circle):
        return PARTLY
    end_a, end_b = exam.key_joints.get((a_id, b_id), (None, None))
    if end_a is not None and exam.flipped(a_id):
        end_a = 1 - end_a
    if end_b is not None and exam.flipped(b_id):
        end_b = 1 - end_b
    off = tangent_off(one, other, end_a, end_b)
    return Measure(off, off)


# angles between


def _two(r: Requirement, s: Setting) -> tuple[Feature, Feature]:
    """Return the two features, an edge first."""
    a, b = feature_of(r, s), feature_of(r, s, 1)
    if not isinstance(a, Edge):
        a, b = b, a
    if not isinstance(a, Edge) or r.features[0] == r.features[1]:
        raise RuleError(f"Requirement {r.id}: {r.kind} is asked of two edges, or of an edge and a curve.")
    return a, b  # type: ignore[return-value]


def ask_angular(r: Requirement, s: Setting) -> Ask:
    """Ask two features to be square or parallel to each other, or two edges for the angle between them."""
    a, b = _two(r, s)
    at = _meeting(a, b) or a.at
    if r.kind == "included-angle":
        ends = _shared(r.features, s) if isinstance(b, Edge) else None
        assert isinstance(a, Edge)
        assert isinstance(b, Edge)
        return Ask(r, a, at, _included(a, b, ends), s.tolerances.angle_deg, data=(b.id, ends))
    return Ask(r, a, at, 0.0, s.tolerances.angle_deg, data=(b.id, None))


def _meeting(a: Feature, b: Feature) -> Point | None:
    for p in getattr(a, "ends", ()):
        for q in getattr(b, "ends", ()):
            if distance(p, q) <= tol.SLACK_SHARE * (1.0 + abs(p[0]) + abs(p[1])):
                return p  # type: ignore[no-any-return]
    return None


def _shared(features: tuple[str, ...], s: Setting) -> tuple[int, int] | None:
    """Return by which ends two edges meet at a corner."""
    for i in (0, 1):
        corner = s.key.corner_of.get((features[0], i))
        for j in (0, 1):
            if corner is not None and (features[1], j) in corner.ends:
                return i, j
    return None


def _included(a: Edge, b: Edge, ends: tuple[int, int] | None) -> float:
    """Return the angle between two edges: from their corner 0 to 180 degrees, without one 0 to 90."""
    if ends is None:
        return abs(between_deg(a, b))
    i, j = ends
    (ax, ay), (bx, by) = _away(a, i), _away(b, j)
    return abs(math.degrees(math.atan2(ax * by - ay * bx, ax * bx + ay * by)))


def _away(e: Edge, end: int) -> Point:
    here, there = e.ends[end], e.ends[1 - end]
    return (there[0] - here[0], there[1] - here[1])


def angular(a: Ask, exam: Examination) -> Measure:
    """Measure an angle between two drawn features against what is asked."""
    assert a.feature is not None
    other, ends = a.data
    missing = lacking((a.feature.id, other), exam)
    if missing is not None:
        return missing
    one, two = exam.drawn_for[a.feature.id], exam.drawn_for[other]
    if not isinstance(one, Edge):
        return PARTLY
    if a.r.kind == "included-angle":
        assert isinstance(two, Edge)
        if ends is not None:
            ends = (ends[0] ^ exam.flipped(a.feature.id), ends[1] ^ exam.flipped(other))
        measured = _included(one, two, ends)
        off = measured - a.expected  # type: ignore[operator]
    else:
        found = (
            abs(between_deg(one, two))
            if a.r.kind == "parallel" and isinstance(two, Edge)
            else off_square(one, two)
        )
        if found is None:
            return PARTLY
        measured = off = found
    shorter = min(one.length, two.length) if isinstance(two, Edge) else one.length
    aside = shorter * math.sin(math.radians(min(90.0, abs(off))))
    return Measure(measured, off, near=angle_band(aside, shorter, exam))


def ask_concentric(r: Requirement, s: Setting) -> Ask:
    """Ask two round features for one centre."""
    a: Arc | Circle = feature_of(r, s)  # type: ignore[assignment]
    return Ask(r, a, a.center, 0.0, s.tolerances.position)


def concentric(a: Ask, exam: Examination) -> Measure:
    """Measure how far apart two centres are."""
    missing = lacking(a.r.features, exam)
    if missing is not None:
        return missing
    one, two = (exam.drawn_for[i] for i in a.r.features)
    if not isinstance(one, Arc | Circle) or not isinstance(two, Arc | Circle):
        return PARTLY
    off = distance(one.center, two.center)
    return Measure(off, off)


# how ends meet


def ask_zero(r: Requirement, s: Setting) -> Ask:
    """Ask for a gap of nothing."""
    feature = feature_of(r, s)
    return Ask(r, feature, feature.at, 0.0, s.tolerances.length)


def joined(a: Ask, exam: Examination) -> Measure:
    """Measure the largest distance between the ends of a corner, or from the ends of a meeting to the curve
    they end on."""
    key: Corner | Tee = a.feature  # type: ignore[assignment]
    ends = [exam.drawn_end(i, w) for i, w in key.ends]
    found = [p for p in ends if p is not None]
    on = exam.drawn_for.get(key.on) if isinstance(key, Tee) else None
    if not found and on is None:
        return NOTHING
    if len(found) < len(ends) or (isinstance(key, Tee) and on is None):
        return PARTLY
    if on is not None:
        gap = max(to_curve(p, on) for p in found)
    elif len(found) == 2:
        gap = distance(found[0], found[1])
    else:
        gap = _widest(found)
    return Measure(gap, gap)


def _widest(points: list[Point]) -> float:
    """Return the largest distance between points, through their hull where there are very many."""
    distinct = list(dict.fromkeys(points))
    if len(distinct) > _FEW_ENDS:
        rows = np.array(distinct)
        try:
            distinct = [(float(x), float(y)) for x, y in rows[ConvexHull(rows).vertices].tolist()]
        except QhullError:  # they lie on one line: the ends of its order are the farthest apart
            distinct = [min(distinct), max(distinct)]
    return max((distance(p, q) for p, q in combinations(distinct, 2)), default=0.0)


def to_curve(p: Point, curve: Feature) -> float:
    """Return the distance of a point from a curve: its carrier where the foot falls on it, else its nearer
    end."""
    if isinstance(curve, Edge):
        along = along_carrier(p, curve.start, curve.end)
        if 0.0 <= along <= curve.length:
            return distance_to_carrier(p, curve.start, curve.end)
        return min(distance(p, curve.start), distance(p, curve.end))
    if isinstance(curve, Free):
        return float(to_path(np.array([p]), np.array(curve.points))[0])
    assert isinstance(curve, Arc | Circle)
    if isinstance(curve, Arc):
        turn = math.atan2(p[1] - curve.center[1], p[0] - curve.center[0])
        if not in_sweep(turn, curve.start_rad, curve.sweep_rad):
            return min(distance(p, curve.start), distance(p, curve.end))
    return abs(distance(p, curve.center) - curve.radius)


def closed(a: Ask, exam: Examination) -> Measure:
    """Measure the largest gap in the chain of an outline, and say where it is."""
    key: Outline = a.feature  # type: ignore[assignment]
    missing = lacking(tuple(i for i, _ in key.members), exam)
    if missing is not None:
        return missing
    worst, at = 0.0, key.at
    before, was_back = key.members[-1]
    there = exam.drawn_end(before, 0 if was_back else 1)
    for n, (i, back) in enumerate(key.members):
        here = exam.drawn_end(i, 1 if back else 0)
        gap = distance(here, there) if here and there else 0.0
        if gap > worst:
            worst, at = gap, exam.key.by_id[key.corners[n]].at
        there = exam.drawn_end(i, 0 if back else 1)
    return Measure(worst, worst, at=at)


def whole_edge(a: Ask, exam: Examination) -> Measure:
    """Measure the largest gap inside an edge that was drawn in pieces."""
    assert a.feature is not None
    if a.feature.id not in exam.drawn_for:
        return NOTHING
    gap = exam.pairing.gaps.get(a.feature.id, 0.0) if a.feature.id not in exam.repaired else 0.0
    return Measure(gap, gap)


def ask_one_piece(r: Requirement, s: Setting) -> Ask:
    """Ask an outline to be one object."""
    feature = feature_of(r, s)
    return Ask(r, feature, feature.at, "1 object")


def one_piece(a: Ask, exam: Examination) -> Measure:
    """Count the objects of the file that an outline is made of."""
    outline: Outline = a.feature  # type: ignore[assignment]
    ids = tuple(i for i, _ in outline.members)
    missing = lacking(ids, exam)
    if missing is not None:
        return missing
    sources = {source for i in ids for source in getattr(exam.drawn_for[i], "sources", ())}
    said = "1 object" if len(sources) == 1 else f"{len(sources)} objects"
    return Measure(said, agrees=len(sources) == 1)


KINDS = (
    Kind("tangent", ("ac", "eac"), ask_tangent, tangent),
    Kind("perpendicular", ("eac", "eac"), ask_angular, angular),
    Kind("parallel", ("e", "e"), ask_angular, angular),
    Kind("included-angle", ("e", "e"), ask_angular, angular),
    Kind("concentric", ("ac", "ac"), ask_concentric, concentric),
    Kind("joined", ("kt",), ask_zero, joined),
    Kind("closed", ("o",), ask_zero, closed),
    Kind("whole-edge", ("e",), ask_zero, whole_edge),
    Kind("one-piece", ("o",), ask_one_piece, one_piece),
)
