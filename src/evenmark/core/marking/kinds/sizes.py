"""Sizes: `length`, `angle`, `sweep`, and of outlines `area` and `perimeter`."""

from __future__ import annotations

import itertools
import math

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, distance
from evenmark.core.linework.model import ArcFeature, Edge, Free, Outline
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure, near_size
from evenmark.core.marking.kinds.common import NOTHING, angle_band, as_a, feature_of, lacking
from evenmark.core.marking.model import Requirement


def ask_length(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask an edge for its length."""
    edge = as_a(feature_of(r, s), Edge)
    return Ask(r, edge, edge.at, edge.length, s.tolerances.length, near_size(edge.length, s.tolerances))


def length(a: Ask, exam: Examination) -> Measure:
    """Measure an edge."""
    drawn: Edge | None = exam.drawn_for.get(a.feature.id)  # type: ignore[assignment, union-attr]
    if drawn is None:
        return NOTHING
    measured = drawn.length
    return Measure(measured, measured - a.number)


def ask_angle(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask an edge for its direction from +x, in [0, 180) degrees."""
    edge = as_a(feature_of(r, s), Edge)
    return Ask(r, edge, edge.at, direction_deg(edge.start, edge.end), s.tolerances.angle_deg)


def angle(a: Ask, exam: Examination) -> Measure:
    """Measure a direction; which of two opposite ones says nothing."""
    key = as_a(a.feature, Edge)
    drawn: Edge | None = exam.drawn_for.get(key.id)  # type: ignore[assignment]
    if drawn is None:
        return NOTHING
    measured = direction_deg(drawn.start, drawn.end)
    off = abs(direction_difference_deg(a.number, measured))
    if off <= exam.tolerances.angle_deg:
        return Measure(measured, off)
    aside = drawn.length * math.sin(math.radians(off))
    return Measure(measured, off, near=angle_band(aside, key.length, exam))


def ask_sweep(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask an arc for its included angle in degrees."""
    arc = as_a(feature_of(r, s), ArcFeature)
    return Ask(r, arc, arc.at, math.degrees(arc.sweep_rad), s.tolerances.angle_deg)


def bulges_otherwise(key: ArcFeature, exam: Examination) -> bool:
    """Say whether what was drawn for an arc lies on the other side of the line between its ends."""
    drawn, ends = exam.drawn_for.get(key.id), exam.ends_for.get(key.id)
    if key.id in exam.exact or not isinstance(drawn, ArcFeature) or ends is None:
        return False
    asked, made = _side(*key.ends, key.at), _side(*ends, drawn.at)
    (a, b), (p, q) = key.ends, ends
    alike = (b[0] - a[0]) * (q[0] - p[0]) + (b[1] - a[1]) * (q[1] - p[1]) > 0.0
    return alike and asked * made < 0.0


def _side(a: Point, b: Point, p: Point) -> float:
    return (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])


def sweep(a: Ask, exam: Examination) -> Measure:
    """Measure an included angle; that of an arc on the other side of its ends is negative."""
    key = as_a(a.feature, ArcFeature)
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, ArcFeature):
        return NOTHING
    measured = math.degrees(drawn.sweep_rad)
    if bulges_otherwise(key, exam):
        return Measure(-measured, -measured - a.number)
    off = measured - a.number
    if abs(off) <= exam.tolerances.angle_deg:
        return Measure(measured, off)
    aside = drawn.radius * math.sin(math.radians(min(90.0, abs(off))))
    return Measure(measured, off, near=angle_band(aside, key.radius * key.sweep_rad, exam))


# outlines

Piece = tuple[Point, Point, Edge | ArcFeature | Free, bool]
"""Where a member of an outline is entered and left, what it is, and whether it is run through from its end to
its start."""


def round_of(pieces: list[Piece]) -> tuple[float, float]:
    """Return the area inside a chain and its perimeter; the area of an arc's segment is r^2 (t - sin t) /
    2."""
    ox, oy = pieces[0][0]
    area = total = 0.0
    for a, b, curve, back in pieces:
        area += ((a[0] - ox) * (b[1] - oy) - (b[0] - ox) * (a[1] - oy)) / 2
        if isinstance(curve, ArcFeature):
            t, r = curve.sweep_rad, curve.radius
            area += (-1 if back else 1) * r * r * (t - math.sin(t)) / 2
            total += r * t
        elif isinstance(curve, Free):
            points = curve.points[::-1] if back else curve.points
            px, py = points[0]
            for (x0, y0), (x1, y1) in itertools.pairwise(points):
                area += ((x0 - px) * (y1 - py) - (x1 - px) * (y0 - py)) / 2
                total += distance((x0, y0), (x1, y1))
        else:
            total += distance(a, b)
    return abs(area), total


def _ask_round(r: Requirement, s: MarkingSetting, which: int) -> Ask:
    outline = as_a(feature_of(r, s), Outline)
    pieces: list[Piece] = []
    for i, back in outline.members:
        curve: Edge | ArcFeature | Free = s.key.curves[i]  # type: ignore[assignment]
        a, b = curve.ends
        pieces.append((b, a, curve, True) if back else (a, b, curve, False))
    both = round_of(pieces)
    expected, perimeter = both[which], both[1]
    allowed = s.tolerances.length * (len(pieces) if which else perimeter)
    near = min(s.tolerances.near * (1 if which else perimeter), tol.NEAR_SHARE * expected)
    return Ask(r, outline, outline.at, expected, allowed, near)


def ask_area(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask an outline for the area inside; its tolerance is that of lengths times the perimeter."""
    return _ask_round(r, s, 0)


def ask_perimeter(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask an outline for its perimeter; its tolerance is that of lengths for each piece."""
    return _ask_round(r, s, 1)


def _measure_round(a: Ask, exam: Examination, which: int) -> Measure:
    outline = as_a(a.feature, Outline)
    ids = tuple(i for i, _ in outline.members)
    missing = lacking(ids, exam)
    if missing is not None:
        return missing
    pieces: list[Piece] = []
    for i, back in outline.members:
        start, end = exam.ends_for[i]
        curve: Edge | ArcFeature | Free = exam.drawn_for[i]  # type: ignore[assignment]
        first, last = (end, start) if back else (start, end)
        pieces.append((first, last, curve, back != exam.flipped(i)))
    measured = round_of(pieces)[which]
    return Measure(measured, measured - a.number)


def area(a: Ask, exam: Examination) -> Measure:
    """Measure the area inside what was drawn, straight across any gap."""
    return _measure_round(a, exam, 0)


def perimeter(a: Ask, exam: Examination) -> Measure:
    """Measure the perimeter."""
    return _measure_round(a, exam, 1)


KINDS = (
    Kind(
        name="length",
        title="Lengths",
        word="length",
        listed=2,
        of=("e",),
        more="",
        least=0,
        ask=ask_length,
        measure=length,
        unit="length",
        weight=4,
        weight_by_sheet=1,
        part="unsaid",
        settles="size",
        of_centres=False,
        habit="",
        rank=1,
        watched=True,
        own=True,
        met_where_exact="own",
        marks_its_feature=True,
    ),
    Kind(
        name="angle",
        title="Directions",
        word="direction",
        listed=3,
        of=("e",),
        more="",
        least=0,
        ask=ask_angle,
        measure=angle,
        unit="degrees",
        weight=4,
        weight_by_sheet=1,
        part="read",
        settles="size",
        of_centres=False,
        habit="implied",
        rank=6,
        watched=True,
        own=True,
        met_where_exact="own",
        marks_its_feature=True,
    ),
    Kind(
        name="sweep",
        title="Included angles",
        word="included angle",
        listed=7,
        of=("a",),
        more="",
        least=0,
        ask=ask_sweep,
        measure=sweep,
        unit="degrees",
        weight=4,
        weight_by_sheet=1,
        part="unsaid",
        settles="size",
        of_centres=False,
        habit="",
        rank=7,
        watched=True,
        own=True,
        met_where_exact="own",
        marks_its_feature=True,
    ),
    Kind(
        name="area",
        title="Areas",
        word="area",
        listed=22,
        of=("o",),
        more="",
        least=0,
        ask=ask_area,
        measure=area,
        unit="area",
        weight=4,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=True,
        met_where_exact="",
        marks_its_feature=True,
    ),
    Kind(
        name="perimeter",
        title="Perimeters",
        word="perimeter",
        listed=23,
        of=("o",),
        more="",
        least=0,
        ask=ask_perimeter,
        measure=perimeter,
        unit="length",
        weight=4,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=True,
        met_where_exact="",
        marks_its_feature=True,
    ),
)
