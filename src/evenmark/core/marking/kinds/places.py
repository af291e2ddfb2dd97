"""Places: `position`, `distance`, `free-ends`, and how far a free curve lies from the one asked for."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, distance
from evenmark.core.linework.model import AnyFeature, ArcFeature, Edge, Free
from evenmark.core.marking.curves import curve_off
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure, near_size
from evenmark.core.marking.kinds.common import (
    NOTHING,
    as_a,
    drawn_place,
    feature_of,
    key_place,
    lacking,
)
from evenmark.core.marking.kinds.said import along as along_direction
from evenmark.core.marking.kinds.said import ask_along
from evenmark.core.marking.model import Requirement, RuleError

Floats = NDArray[np.float64]


def ask_position(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask a corner, meeting, circle, arc centre or free curve where it is."""
    feature = feature_of(r, s)
    band = min(s.tolerances.near, tol.NEAR_SHARE * s.key.extent)
    if isinstance(feature, Free):
        return Ask(r, feature, feature.at, feature.at, s.tolerances.position, band)
    return Ask(r, feature, feature.at, key_place(feature), s.tolerances.position, band)


def position(a: Ask, exam: Examination) -> Measure:
    """Measure a place after placement; of a free curve, the point that lies farthest from the curve asked
    for."""
    key, expected = a.feature, a.expected
    assert isinstance(expected, tuple)
    assert key is not None
    if isinstance(key, Free):
        drawn = exam.drawn_for.get(key.id)
        if not isinstance(drawn, Free):
            return NOTHING
        off, at = curve_off(key, drawn)
        return Measure(at, off)
    measured = drawn_place(key, exam)
    if measured is None:
        return NOTHING
    return Measure(measured, distance(expected, measured))


# what touches nothing


def ask_free_ends(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask an edge or arc that touches nothing for the places of its ends, which no corner says."""
    f = as_a(feature_of(r, s), Edge, ArcFeature)
    band = min(s.tolerances.near, tol.NEAR_SHARE * s.key.extent)
    return Ask(r, f, f.at, f.start, s.tolerances.position, band)


def free_ends(a: Ask, exam: Examination) -> Measure:
    """Measure the end that is off most, each against its own place, and the middle of an arc: it may lie on
    the other side."""
    key = as_a(a.feature, Edge, ArcFeature)
    drawn = exam.drawn_for.get(key.id)
    found = exam.ends_for.get(key.id)
    if drawn is None or found is None:
        return NOTHING
    pairs = [(key.start, found[0]), (key.end, found[1])]
    if isinstance(key, ArcFeature) and isinstance(drawn, ArcFeature):
        pairs.append((key.at, drawn.at))
    asked, there = max(pairs, key=lambda pair: distance(*pair))
    return Measure(there, distance(asked, there), expected=asked)


# distances


def apart(a: Point | Edge, b: Point | Edge) -> float:
    """Return what a dimension between two things states: between points, from a point square to an edge,
    between parallels."""
    if isinstance(a, Edge) and isinstance(b, Edge):
        return distance_to_supporting_line(b.at, a.start, a.end)
    if isinstance(a, Edge):
        return distance_to_supporting_line(b, a.start, a.end)  # type: ignore[arg-type]
    if isinstance(b, Edge):
        return distance_to_supporting_line(a, b.start, b.end)
    return distance(a, b)


def ask_distance(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask two features for their distance, in a direction where one is said. Raises RuleError for edges that
    are not parallel in the key."""
    if r.direction is not None:
        return ask_along(r, s)
    a, b = feature_of(r, s), feature_of(r, s, 1)
    if isinstance(a, Edge) and isinstance(b, Edge):
        turn = direction_difference_deg(direction_deg(a.start, a.end), direction_deg(b.start, b.end))
        if abs(turn) > s.tolerances.angle_deg:
            raise RuleError(
                f"Requirement {r.id}: {a.id} and {b.id} are not parallel, so they have no one distance."
            )
    ends = [f if isinstance(f, Edge) else key_place(f) for f in (a, b)]
    expected = apart(ends[0], ends[1])
    p, q = (f.at for f in (a, b))
    at = ((p[0] + q[0]) / 2, (p[1] + q[1]) / 2)
    return Ask(r, a, at, expected, s.tolerances.length, near_size(expected, s.tolerances), b)


def drawn_distance(a: Ask, exam: Examination) -> Measure:
    """Measure a distance between what was drawn for two features."""
    if a.r.direction is not None:
        return along_direction(a, exam)
    first, second = a.feature, a.data
    assert first is not None
    ends = [_place_or_edge(f, exam) for f in (first, second)]
    if ends[0] is None or ends[1] is None:
        return lacking(a.r.features, exam) or NOTHING
    measured = apart(ends[0], ends[1])
    return Measure(measured, measured - a.number)


def _place_or_edge(f: AnyFeature, exam: Examination) -> Point | Edge | None:
    if isinstance(f, Edge):
        drawn = exam.drawn_for.get(f.id)
        return drawn if isinstance(drawn, Edge) else None
    return drawn_place(f, exam)


# axes


KINDS = (
    Kind(
        name="position",
        title="Positions",
        word="position",
        listed=8,
        of=("ktacf",),
        more="",
        least=0,
        ask=ask_position,
        measure=position,
        unit="length",
        weight=3,
        weight_by_sheet=1,
        part="unsaid",
        settles="place",
        of_centres=False,
        habit="",
        rank=8,
        watched=True,
        own=True,
        met_where_exact="own",
        marks_its_feature=True,
    ),
    Kind(
        name="distance",
        title="Distances",
        word="distance to",
        listed=10,
        of=("ktacex", "ktacex"),
        more="",
        least=0,
        ask=ask_distance,
        measure=drawn_distance,
        unit="length",
        weight=4,
        weight_by_sheet=1,
        part="read",
        settles="said",
        of_centres=False,
        habit="",
        rank=2,
        watched=False,
        own=True,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="free-ends",
        title="Free ends",
        word="places of its ends",
        listed=9,
        of=("ea",),
        more="",
        least=0,
        ask=ask_free_ends,
        measure=free_ends,
        unit="length",
        weight=3,
        weight_by_sheet=1,
        part="unsaid",
        settles="place",
        of_centres=False,
        habit="",
        rank=None,
        watched=True,
        own=True,
        met_where_exact="",
        marks_its_feature=True,
    ),
)
