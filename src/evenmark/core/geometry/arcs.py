"""Arcs of circles in the ways that files state them. Angles in radians unless the name says degrees.

An arc is centre, radius, start angle and a counter-clockwise sweep in (0, 2 pi].
"""

from __future__ import annotations

import math
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.deterministic import tangent, turn_of
from evenmark.core.geometry.lines import Straight, beside, left_of, meet, side_of
from evenmark.core.geometry.points import TAU, Point, distance, in_sweep, middle, point_on

RoundPiece = tuple[Point, float, float, float]
"""Centre, radius, start (rad), sweep (rad, counter-clockwise, positive)."""


def from_bulge(start: Point, end: Point, bulge: float) -> RoundPiece:
    """Return the arc of a polyline segment with a bulge that is not zero.

    The bulge is the tangent of a quarter of the included angle, negative for a clockwise arc (DXF reference,
    LWPOLYLINE, group code 42). With chord c and bulge b the radius is c (1 + b^2) / (4 |b|); the centre lies
    c (1 - b^2) / (4 b) to the left of the chord's middle.

    >>> center, radius, begin, sweep = from_bulge((0, 0), (2, 0), 1.0)
    >>> center, radius, round(math.degrees(begin)) % 360, round(math.degrees(sweep))
    ((1.0, 0.0), 1.0, 180, 180)
    """
    dx, dy = end[0] - start[0], end[1] - start[1]
    side = (1.0 - bulge * bulge) / (4.0 * bulge)
    center = ((start[0] + end[0]) / 2 - dy * side, (start[1] + end[1]) / 2 + dx * side)
    radius = math.hypot(dx, dy) * (1.0 + bulge * bulge) / (4.0 * abs(bulge))
    sweep = 4.0 * turn_of(abs(bulge), 1.0)
    first = start if bulge > 0 else end
    begin = turn_of(first[1] - center[1], first[0] - center[0])
    return center, radius, begin, sweep


def from_degrees(center: Point, radius: float, start_deg: float, end_deg: float) -> RoundPiece:
    """Return the arc between two angles in degrees, counter-clockwise; equal angles mean the whole circle.

    >>> round(math.degrees(from_degrees((0, 0), 1, 350, 10)[3]), 9)
    20.0
    """
    sweep = (end_deg - start_deg) % 360.0
    if sweep == 0.0:
        sweep = 360.0
    return center, radius, math.radians(start_deg % 360.0), math.radians(sweep)


def bulge_of(sweep_rad: float) -> float:
    """Return the bulge of a counter-clockwise sweep."""
    return tangent(sweep_rad / 4.0)


class Round(NamedTuple):
    """A round piece: counter-clockwise from a start; a sweep of a full turn is a circle."""

    center: Point
    radius: float
    start_rad: float = 0.0
    sweep_rad: float = TAU

    @property
    def whole(self) -> bool:
        """Whether it is a circle."""
        return self.sweep_rad >= TAU

    @property
    def start(self) -> Point:
        """Where the sweep begins."""
        return on_round(self, self.start_rad)

    @property
    def end(self) -> Point:
        """Where the sweep ends."""
        return on_round(self, self.start_rad + self.sweep_rad)

    @property
    def middle(self) -> Point:
        """Half way along."""
        return on_round(self, self.start_rad + self.sweep_rad / 2)

    @property
    def length(self) -> float:
        """How long the curve is."""
        return self.radius * self.sweep_rad

    @property
    def circle(self) -> Round:
        """The circle that it lies on."""
        return Round(self.center, self.radius)


Curve = Straight | Round

_QUARTERS = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))


def on_round(r: Round, turn_rad: float) -> Point:
    """Return the point of a circle at an angle from +x, exact at quarter turns.

    >>> on_round(Round((1.0, 2.0), 3.0), math.pi / 2)
    (1.0, 5.0)
    """
    quarters = turn_rad / (math.pi / 2)
    nearest = round(quarters)
    if abs(quarters - nearest) <= tol.SAME_TURN_RAD:
        x, y = _QUARTERS[nearest % 4]
        return (r.center[0] + r.radius * x, r.center[1] + r.radius * y)
    return point_on(r.center, r.radius, turn_rad)


def quarter_points(center: Point, radius: float, start_rad: float, sweep_rad: float) -> list[Point]:
    """Return the points at 0, 90, 180 and 270 degrees that an arc passes, exactly.

    >>> quarter_points((1.0, 2.0), 3.0, 0.1, math.pi)
    [(1.0, 5.0), (-2.0, 2.0)]
    """
    (x, y), quarter = center, math.pi / 2
    passed = (n for n in range(4) if (n * quarter - start_rad) % TAU <= sweep_rad)
    return [(x + radius * _QUARTERS[n][0], y + radius * _QUARTERS[n][1]) for n in passed]


def turn_to(p: Point, center: Point) -> float:
    """Return the direction from a centre to a point, in [0, 2 pi)."""
    turn = turn_of(p[1] - center[1], p[0] - center[0]) % TAU
    return 0.0 if turn >= TAU else turn


def passes(r: Round, p: Point, reach: float) -> bool:
    """Say whether a point of the circle that an arc lies on lies on the arc itself, its ends widened by a
    reach."""
    return r.whole or in_sweep(turn_to(p, r.center), r.start_rad, r.sweep_rad, reach / r.radius)


def through(a: Point, b: Point, c: Point) -> Round | None:
    """Return the circle through three points; None when they are in line."""
    ux, uy = b[0] - a[0], b[1] - a[1]
    vx, vy = c[0] - a[0], c[1] - a[1]
    cross = 2.0 * (ux * vy - uy * vx)
    if abs(cross) <= 2.0 * tol.NO_CROSSING_SINE * math.hypot(ux, uy) * math.hypot(vx, vy):
        return None
    uu, vv = ux * ux + uy * uy, vx * vx + vy * vy
    x, y = (vy * uu - uy * vv) / cross, (ux * vv - vx * uu) / cross
    return Round((a[0] + x, a[1] + y), math.hypot(x, y))


def arc_through(a: Point, b: Point, c: Point) -> Round | None:
    """Return the arc from one point through another to a third; None when they are in line."""
    found = through(a, b, c)
    if found is None:
        return None
    first, last = (a, c) if side_of(b, Straight(a, c)) < 0.0 else (c, a)
    return between_points(found, first, last)


def between_points(circle: Round, first: Point, last: Point) -> Round:
    """Return the arc of a circle from one of its points counter-clockwise to another; the whole circle where
    they are one."""
    start = turn_to(first, circle.center)
    sweep = (turn_to(last, circle.center) - start) % TAU
    return Round(circle.center, circle.radius, start, sweep or TAU)


def of_radius(a: Point, b: Point, radius: float, side: str, *, long: bool = False) -> Round | None:
    """Return the arc of a radius between two points whose centre lies on a side (left, right) of the way from
    the first to the second; ``long`` for the larger of the two. None where the radius is too small.

    Of the arcs with one centre the smaller sweeps less than half a turn.
    """
    chord = distance(a, b)
    half = chord / 2
    if chord == 0.0 or radius < half * (1.0 - tol.TOUCHES_SHARE):
        return None
    off = math.sqrt(max(0.0, (radius - half) * (radius + half)))
    across = left_of(Straight(a, b).unit)
    center = beside(middle(a, b), across, off if side == "left" else -off)
    # with the centre on its left an arc of less than half a turn is run through counter-clockwise
    ccw = (side == "left") != long
    first, last = (a, b) if ccw else (b, a)
    return between_points(Round(center, radius), first, last)


def leaving(a: Point, way: Point, b: Point) -> Round | Straight | None:
    """Return the arc that leaves a point in a direction of unit length and ends at another; straight where
    that lies ahead, None where it lies behind or is the point itself."""
    chord = Straight(a, b)
    if chord.length == 0.0:
        return None
    across = left_of(way)
    off = side_of(b, Straight(a, beside(a, way, 1.0)))
    if abs(off) <= tol.NO_CROSSING_SINE * chord.length:
        ahead = (b[0] - a[0]) * way[0] + (b[1] - a[1]) * way[1]
        return chord if ahead > 0.0 else None
    radius = chord.length**2 / (2.0 * off)  # positive where the centre lies on the left
    circle = Round(beside(a, across, radius), abs(radius))
    return between_points(circle, a, b) if radius > 0.0 else between_points(circle, b, a)


def inscribed(a: Straight, b: Straight, c: Straight) -> Round | None:
    """Return the circle that touches three edges from inside the triangle of their supporting lines; None
    where two of them are parallel."""
    corners = [meet(a, b), meet(b, c), meet(c, a)]
    p, q, r = corners
    if p is None or q is None or r is None:
        return None
    # each corner counts as much as the side opposite to it is long
    weights = [distance(q, r), distance(r, p), distance(p, q)]
    total = math.fsum(weights)
    if total == 0.0:
        return None
    x = math.fsum(w * k[0] for w, k in zip(weights, (p, q, r), strict=True)) / total
    y = math.fsum(w * k[1] for w, k in zip(weights, (p, q, r), strict=True)) / total
    return Round((x, y), abs(side_of((x, y), a)))
