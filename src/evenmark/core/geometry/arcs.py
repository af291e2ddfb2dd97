"""Arcs of circles in the ways that files state them. Angles in radians unless the name says degrees.

An arc is centre, radius, start angle and a counter-clockwise sweep in (0, 2 pi].
"""

from __future__ import annotations

import math

from evenmark.core.geometry.points import TAU, Point

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
    sweep = 4.0 * math.atan(abs(bulge))
    first = start if bulge > 0 else end
    begin = math.atan2(first[1] - center[1], first[0] - center[0])
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
    return math.tan(sweep_rad / 4.0)


def middle_angle(start_rad: float, sweep_rad: float) -> float:
    """Return the angle half way along an arc, in [0, 2 pi)."""
    return (start_rad + sweep_rad / 2.0) % TAU
