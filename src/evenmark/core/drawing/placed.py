"""Dimensions from what they measure and a place for the figure: the line of a length goes through the place,
and its figure stands above it there; that of a circle or arc is touched on the side of the place."""

from __future__ import annotations

import math
from dataclasses import asdict, dataclass

from evenmark.core.drawing.annotations import USUAL_HEIGHT, Dimension, measure
from evenmark.core.drawing.picture import ABOVE, readable
from evenmark.core.geometry.deterministic import cos_sin, turn_of
from evenmark.core.geometry.points import Point, distance, middle, point_on


@dataclass(frozen=True, slots=True)
class Shown:
    """How a dimension is shown: what stands beside its value, how the value is written, the height of its
    lettering in drawing units, and its layer."""

    before: str = ""
    after: str = ""
    decimals: int = 2
    fractions: bool = False
    height: float = USUAL_HEIGHT
    layer: str = "0"


def linear(a: Point, b: Point, turn_deg: float, place: Point, shown: Shown = Shown()) -> Dimension:
    """Return the distance of two points along a direction."""
    turn = turn_deg % 180.0
    return Dimension(
        kind="linear",
        points=(a, b),
        measured=measure("linear", (a, b), turn),
        turn_deg=turn,
        line=place,
        at=_above(place, turn, shown),
        **asdict(shown),
    )


def _above(place: Point, turn_deg: float, shown: Shown) -> Point:
    """Return where the middle of a figure stands whose line goes through a place: above it, or in it on inch
    sheets, which show parts."""
    if shown.fractions:
        return place
    up = math.radians(readable(turn_deg) + 90.0)
    off = shown.height * (0.5 + ABOVE)
    x, y = (0.0, 1.0) if readable(turn_deg) == 0.0 else cos_sin(up)
    return (place[0] + x * off, place[1] + y * off)


def _toward(center: Point, radius: float, place: Point) -> Point:
    away = distance(center, place)
    if away == 0.0:
        return (center[0] + radius, center[1])
    return (
        center[0] + (place[0] - center[0]) / away * radius,
        center[1] + (place[1] - center[1]) / away * radius,
    )


def of_radius(
    center: Point, radius: float, place: Point, touch: Point | None = None, shown: Shown = Shown()
) -> Dimension:
    """Return the radius of a circle or arc, touched at a point, else on the side of the place."""
    points = (center, touch or _toward(center, radius, place))
    return Dimension(kind="radius", points=points, measured=distance(*points), at=place, **asdict(shown))


def of_diameter(center: Point, radius: float, place: Point, shown: Shown = Shown()) -> Dimension:
    """Return the diameter of a circle, its line toward the place."""
    x, y = _toward(center, radius, place)
    points = ((2 * center[0] - x, 2 * center[1] - y), (x, y))
    at = place
    if distance(center, place) < radius:  # the figure stands on the line, inside
        turn = math.degrees(turn_of(y - center[1], x - center[0])) % 180.0
        at = _above(middle(center, place) if place == center else place, turn, shown)
    return Dimension(kind="diameter", points=points, measured=distance(*points), at=at, **asdict(shown))


def of_angle(vertex: Point, a: Point, b: Point, place: Point, shown: Shown = Shown()) -> Dimension:
    """Return the angle at a vertex between the ways to two points, its arc through the place."""
    points = (vertex, a, b)
    turn = turn_of(place[1] - vertex[1], place[0] - vertex[0])
    off = 0.0 if shown.fractions else shown.height * (0.5 + ABOVE)
    at = point_on(vertex, distance(vertex, place) + off, turn)
    return Dimension(
        kind="angular",
        points=points,
        measured=measure("angular", points, 0.0),
        at=at,
        line=place,
        **asdict(shown),
    )
