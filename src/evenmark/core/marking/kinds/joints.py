"""How ends meet: `joined`, `closed`, `whole-edge`, `one-piece`."""

from __future__ import annotations

import math
from itertools import combinations

import numpy as np
from scipy.spatial import ConvexHull, QhullError

from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Point, distance, in_sweep
from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge, Feature, Free, Outline, Tee
from evenmark.core.marking.curves import to_path
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure
from evenmark.core.marking.kinds.common import NOTHING, PARTLY, as_a, feature_of, lacking
from evenmark.core.marking.model import Requirement

_FEW_ENDS = 64
"""Ends at one corner of which every two are compared."""


def ask_zero(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask for a gap of nothing."""
    feature = feature_of(r, s)
    return Ask(r, feature, feature.at, 0.0, s.tolerances.length)


def joined(a: Ask, exam: Examination) -> Measure:
    """Measure the largest distance between the ends of a corner, or from the ends of a meeting to the curve
    they end on."""
    key = as_a(a.feature, Corner, Tee)
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
    """Return the distance of a point from a curve: its supporting line where the foot falls on it, else its
    nearer end."""
    if isinstance(curve, Edge):
        along = along_supporting_line(p, curve.start, curve.end)
        if 0.0 <= along <= curve.length:
            return distance_to_supporting_line(p, curve.start, curve.end)
        return min(distance(p, curve.start), distance(p, curve.end))
    if isinstance(curve, Free):
        return float(to_path(np.array([p]), np.array(curve.points))[0])
    assert isinstance(curve, ArcFeature | CircleFeature)
    if isinstance(curve, ArcFeature):
        turn = math.atan2(p[1] - curve.center[1], p[0] - curve.center[0])
        if not in_sweep(turn, curve.start_rad, curve.sweep_rad):
            return min(distance(p, curve.start), distance(p, curve.end))
    return abs(distance(p, curve.center) - curve.radius)


def closed(a: Ask, exam: Examination) -> Measure:
    """Measure the largest gap in the chain of an outline, and say where it is."""
    key = as_a(a.feature, Outline)
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


def ask_one_piece(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask an outline to be one object."""
    feature = feature_of(r, s)
    return Ask(r, feature, feature.at, "1 object")


def one_piece(a: Ask, exam: Examination) -> Measure:
    """Count the objects of the file that an outline is made of."""
    outline = as_a(a.feature, Outline)
    ids = tuple(i for i, _ in outline.members)
    missing = lacking(ids, exam)
    if missing is not None:
        return missing
    sources = {source for i in ids for source in getattr(exam.drawn_for[i], "sources", ())}
    said = "1 object" if len(sources) == 1 else f"{len(sources)} objects"
    return Measure(said, agrees=len(sources) == 1)


KINDS = (
    Kind(
        name="joined",
        title="Joined ends",
        word="ends meet",
        listed=18,
        of=("kt",),
        more="",
        least=0,
        ask=ask_zero,
        measure=joined,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="habit",
        rank=9,
        watched=True,
        own=True,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="closed",
        title="Closed outlines",
        word="closed",
        listed=19,
        of=("o",),
        more="",
        least=0,
        ask=ask_zero,
        measure=closed,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="habit",
        rank=None,
        watched=True,
        own=True,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="whole-edge",
        title="Edges without gaps",
        word="without a gap",
        listed=20,
        of=("e",),
        more="",
        least=0,
        ask=ask_zero,
        measure=whole_edge,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="habit",
        rank=None,
        watched=True,
        own=True,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="one-piece",
        title="Outlines of one object",
        word="one object",
        listed=21,
        of=("o",),
        more="",
        least=0,
        ask=ask_one_piece,
        measure=one_piece,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
)
