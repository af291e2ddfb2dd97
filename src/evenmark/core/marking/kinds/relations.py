"""Relations between features: `tangent`, `perpendicular`, `parallel`, `included-angle`, `concentric`."""

from __future__ import annotations

import math

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Feature
from evenmark.core.linework.relations import between_deg, off_square, tangent_off
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure
from evenmark.core.marking.kinds.common import NOTHING, PARTLY, angle_band, as_a, feature_of, lacking
from evenmark.core.marking.model import Requirement, RuleError


def ask_tangent(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask a circle or arc and another feature to touch; where they are joined, at the exact touch point."""
    curve = as_a(feature_of(r, s), ArcFeature, CircleFeature)
    other = s.key.curves[r.features[1]]
    end = s.joints.get((other.id, curve.id), (None, None))[0]
    at = curve.at if end is None or isinstance(other, CircleFeature) else other.ends[end]
    return Ask(r, curve, at, 0.0, s.tolerances.length)


def tangent(a: Ask, exam: Examination) -> Measure:
    """Measure how far two features are from tangent."""
    b_id, a_id = a.r.features
    one, other = exam.drawn_for.get(a_id), exam.drawn_for.get(b_id)
    if one is None and other is None:
        return NOTHING
    if not isinstance(one, Edge | ArcFeature | CircleFeature) or not isinstance(
        other, ArcFeature | CircleFeature
    ):
        return PARTLY
    end_a, end_b = exam.key_joints.get((a_id, b_id), (None, None))
    if end_a is not None and exam.flipped(a_id):
        end_a = 1 - end_a
    if end_b is not None and exam.flipped(b_id):
        end_b = 1 - end_b
    off = tangent_off(one, other, end_a, end_b)
    return Measure(off, off)


# angles between


def _two(r: Requirement, s: MarkingSetting) -> tuple[Feature, Feature]:
    """Return the two features, an edge first."""
    a, b = feature_of(r, s), feature_of(r, s, 1)
    if not isinstance(a, Edge):
        a, b = b, a
    if not isinstance(a, Edge) or r.features[0] == r.features[1]:
        raise RuleError(f"Requirement {r.id}: {r.kind} is asked of two edges, or of an edge and a curve.")
    return a, b  # type: ignore[return-value]


def ask_angular(r: Requirement, s: MarkingSetting) -> Ask:
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


def _shared(features: tuple[str, ...], s: MarkingSetting) -> tuple[int, int] | None:
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
        off = measured - a.number
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


def ask_concentric(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask two round features for one centre."""
    a = as_a(feature_of(r, s), ArcFeature, CircleFeature)
    return Ask(r, a, a.center, 0.0, s.tolerances.position)


def concentric(a: Ask, exam: Examination) -> Measure:
    """Measure how far apart two centres are."""
    missing = lacking(a.r.features, exam)
    if missing is not None:
        return missing
    one, two = (exam.drawn_for[i] for i in a.r.features)
    if not isinstance(one, ArcFeature | CircleFeature) or not isinstance(two, ArcFeature | CircleFeature):
        return PARTLY
    off = distance(one.center, two.center)
    return Measure(off, off)


KINDS = (
    Kind(
        name="tangent",
        title="Tangency",
        word="tangent to",
        listed=13,
        of=("ac", "eac"),
        more="",
        least=0,
        ask=ask_tangent,
        measure=tangent,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="implied",
        rank=10,
        watched=True,
        own=True,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="perpendicular",
        title="Perpendicular",
        word="perpendicular to",
        listed=14,
        of=("eac", "eac"),
        more="",
        least=0,
        ask=ask_angular,
        measure=angular,
        unit="degrees",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="implied",
        rank=None,
        watched=True,
        own=True,
        met_where_exact="all",
        marks_its_feature=False,
    ),
    Kind(
        name="parallel",
        title="Parallel",
        word="parallel to",
        listed=15,
        of=("e", "e"),
        more="",
        least=0,
        ask=ask_angular,
        measure=angular,
        unit="degrees",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="implied",
        rank=None,
        watched=True,
        own=True,
        met_where_exact="all",
        marks_its_feature=False,
    ),
    Kind(
        name="included-angle",
        title="Angles between edges",
        word="angle to",
        listed=11,
        of=("e", "e"),
        more="",
        least=0,
        ask=ask_angular,
        measure=angular,
        unit="degrees",
        weight=4,
        weight_by_sheet=1,
        part="read",
        settles="said",
        of_centres=False,
        habit="",
        rank=5,
        watched=False,
        own=True,
        met_where_exact="all",
        marks_its_feature=False,
    ),
    Kind(
        name="concentric",
        title="Concentric",
        word="concentric with",
        listed=16,
        of=("ac", "ac"),
        more="",
        least=0,
        ask=ask_concentric,
        measure=concentric,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=True,
        habit="implied",
        rank=None,
        watched=True,
        own=True,
        met_where_exact="all",
        marks_its_feature=False,
    ),
)
