"""What a sheet says in figures, as it is measured on an attempt: distances across, up or along between the
places that a dimension names, diameters, arcs by their length, and edges in line.

- *place*: as in `dimensioning.measured`: a corner, meeting or centre, a loose end, the rim of something
  round, or a straight piece.

A size that holds for several features is measured on the one that is off most.
"""

from __future__ import annotations

import math

from evenmark.core.dimensioning.measured import MeasuredPlace, point_of
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point, middle
from evenmark.core.linework.model import AnyFeature, ArcFeature, CircleFeature, Edge
from evenmark.core.linework.sharp import crossing, sharp_at
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure, near_size
from evenmark.core.marking.kinds.common import NOTHING, as_a, drawn_place, feature_of, lacking
from evenmark.core.marking.model import Requirement, RuleError

_PART_OF = {"": "ktacx", "0": "ea", "1": "ea", "rim+": "ac", "rim-": "ac", "carrier": "e", "sharp": "ea"}
"""The parts that a size can be measured from, with the letters of the features that have them."""


def part_of(place: MeasuredPlace) -> str:
    """Return how a requirement writes which part of a feature a size is measured from."""
    return place.part if place.part != "rim" else "rim+" if place.sign > 0 else "rim-"


def place_of(feature: str, part: str) -> MeasuredPlace:
    """Return the place that a requirement names."""
    if part.startswith("rim"):
        return MeasuredPlace(feature, "rim", 1.0 if part == "rim+" else -1.0)
    return MeasuredPlace(feature, part)


def places_of(r: Requirement) -> tuple[MeasuredPlace, ...]:
    """Return the places that a requirement is measured between."""
    return tuple(map(place_of, r.features, r.parts or ("", "")))


# distances in a direction


def ask_along(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask for a distance in a direction between two places. Raises RuleError for a part that its feature does
    not have."""
    parts = r.parts or ("", "")
    if len(parts) != 2 or any(p not in _PART_OF for p in parts) or r.direction is None:
        raise RuleError(f"Requirement {r.id}: name two parts, each one of: {', '.join(map(repr, _PART_OF))}.")
    for i, part in zip(r.features, parts, strict=True):
        if i[0] not in _PART_OF[part]:
            raise RuleError(f"Requirement {r.id}: {i} has no part {part!r} to measure from.")
    places = tuple(place_of(i, p) for i, p in zip(r.features, parts, strict=True))
    turn = math.radians(r.direction)
    u = (math.cos(turn), math.sin(turn))
    p, q = (point_of(place, r.direction, s.key) for place in places)
    way = (q[0] - p[0]) * u[0] + (q[1] - p[1]) * u[1]
    first = s.key.by_id[r.features[0]]
    at = middle(_seen(first), _seen(s.key.by_id[r.features[1]]))
    expected = abs(way)
    return Ask(
        r,
        first,
        at,
        expected,
        s.tolerances.length,
        near_size(expected, s.tolerances),
        (places, u, math.copysign(1.0, way)),
    )


def _seen(f: AnyFeature) -> Point:
    return f.center if isinstance(f, ArcFeature | CircleFeature) else f.at


def along(a: Ask, exam: Examination) -> Measure:
    """Measure a distance in a direction between what was drawn for two places; the other way round it is
    negative."""
    places, u, sign = a.data
    p, q = (_drawn(place, u, exam) for place in places)
    if p is None or q is None:
        return lacking_places(a.r.features, exam) or NOTHING
    (px, py), (qx, qy) = p, q
    measured = float(sign * ((qx - px) * u[0] + (qy - py) * u[1]))
    return Measure(measured, measured - a.number)


def lacking_places(features: tuple[str, ...], exam: Examination) -> Measure | None:
    """Return what to say where some or all of the features of a size were not drawn, corners by the curves
    that end there."""
    curves: list[str] = []
    for i in features:
        joint = exam.key.meetings.get(i)
        curves += [e for e, _ in joint.ends] if joint is not None else [i]
    return lacking(tuple(dict.fromkeys(curves)), exam)


def _drawn(place: MeasuredPlace, u: Point, exam: Examination) -> Point | None:
    if place.part in ("0", "1"):
        return exam.drawn_end(place.feature, int(place.part))
    if place.part == "carrier":
        drawn = exam.drawn_for.get(place.feature)
        return drawn.at if isinstance(drawn, Edge) else None
    if place.part == "sharp":
        sharp = sharp_at(exam.key, place.feature)
        beside = [exam.drawn_for.get(i) for i in (sharp.before, sharp.after)] if sharp is not None else []
        edges = [e for e in beside if isinstance(e, Edge)]
        return crossing(*edges) if len(edges) == 2 else None
    if place.part == "rim":
        drawn = exam.drawn_for.get(place.feature)
        if not isinstance(drawn, ArcFeature | CircleFeature):
            return None
        reach = place.sign * drawn.radius
        return (drawn.center[0] + reach * u[0], drawn.center[1] + reach * u[1])
    return drawn_place(exam.key.by_id[place.feature], exam)


# round things


def _worst(a: Ask, exam: Examination, times: float) -> Measure:
    """Measure what is off most among several round features; ``times`` the radius."""
    missing = lacking(a.r.features, exam)
    if missing is not None:
        return missing
    worst: tuple[float, float, AnyFeature] | None = None
    for i in a.r.features:
        drawn = exam.drawn_for[i]
        if not isinstance(drawn, ArcFeature | CircleFeature):
            return NOTHING
        off = times * drawn.radius - a.number
        if worst is None or abs(off) > abs(worst[1]):
            worst = (times * drawn.radius, off, exam.key.by_id[i])
    assert worst is not None
    at = worst[2].at if len(a.r.features) > 1 else None
    return Measure(worst[0], worst[1], at=at)


def ask_diameter(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask circles or arcs of one size for their diameter."""
    f = as_a(feature_of(r, s), ArcFeature, CircleFeature)
    return Ask(r, f, f.at, 2 * f.radius, s.tolerances.length, near_size(2 * f.radius, s.tolerances))


def diameter(a: Ask, exam: Examination) -> Measure:
    """Measure a diameter: the one that is off most."""
    return _worst(a, exam, 2.0)


def ask_radius(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask circles or arcs of one size for their radius."""
    f = as_a(feature_of(r, s), ArcFeature, CircleFeature)
    return Ask(r, f, f.at, f.radius, s.tolerances.length, near_size(f.radius, s.tolerances))


def radius(a: Ask, exam: Examination) -> Measure:
    """Measure a radius: the one that is off most."""
    return _worst(a, exam, 1.0)


def ask_arc_length(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask an arc for its length along the curve."""
    f = as_a(feature_of(r, s), ArcFeature)
    expected = f.radius * f.sweep_rad
    return Ask(r, f, f.at, expected, s.tolerances.length, near_size(expected, s.tolerances))


def arc_length(a: Ask, exam: Examination) -> Measure:
    """Measure the length of an arc along the curve."""
    drawn = exam.drawn_for.get(a.r.features[0])
    if not isinstance(drawn, ArcFeature):
        return NOTHING
    measured = drawn.radius * drawn.sweep_rad
    return Measure(measured, measured - a.number)


# in line


def ask_in_line(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask two edges to lie on one line."""
    f = as_a(feature_of(r, s), Edge)
    return Ask(r, f, middle(f.at, _seen(feature_of(r, s, 1))), 0.0, s.tolerances.position)


def in_line(a: Ask, exam: Examination) -> Measure:
    """Measure how far the ends of the second edge lie from the supporting line of the first."""
    missing = lacking(a.r.features, exam)
    if missing is not None:
        return missing
    one, other = (exam.drawn_for[i] for i in a.r.features)
    if not isinstance(one, Edge) or not isinstance(other, Edge):
        return NOTHING
    off = max(distance_to_supporting_line(p, one.start, one.end) for p in other.ends)
    return Measure(off, off)


KINDS = (
    Kind(
        name="radius",
        title="Radii",
        word="radius",
        listed=4,
        of=("ac",),
        more="ac",
        least=0,
        ask=ask_radius,
        measure=radius,
        unit="length",
        weight=4,
        weight_by_sheet=1,
        part="unsaid",
        settles="size",
        of_centres=False,
        habit="",
        rank=4,
        watched=True,
        own=True,
        met_where_exact="own",
        marks_its_feature=True,
    ),
    Kind(
        name="diameter",
        title="Diameters",
        word="diameter",
        listed=5,
        of=("ac",),
        more="ac",
        least=0,
        ask=ask_diameter,
        measure=diameter,
        unit="length",
        weight=4,
        weight_by_sheet=1,
        part="unsaid",
        settles="said",
        of_centres=False,
        habit="",
        rank=3,
        watched=False,
        own=True,
        met_where_exact="",
        marks_its_feature=True,
    ),
    Kind(
        name="arc-length",
        title="Lengths of arcs",
        word="length along the arc",
        listed=6,
        of=("a",),
        more="",
        least=0,
        ask=ask_arc_length,
        measure=arc_length,
        unit="length",
        weight=4,
        weight_by_sheet=1,
        part="unsaid",
        settles="said",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=True,
        met_where_exact="",
        marks_its_feature=True,
    ),
    Kind(
        name="in-line",
        title="In line",
        word="in line with",
        listed=17,
        of=("e", "e"),
        more="",
        least=0,
        ask=ask_in_line,
        measure=in_line,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="implied",
        rank=None,
        watched=False,
        own=True,
        met_where_exact="",
        marks_its_feature=False,
    ),
)
