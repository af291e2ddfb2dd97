"""Points of the drawing plane and the few things that are asked of them. Lengths in drawing units, angles as
named."""

from __future__ import annotations

import math

from evenmark.core.geometry.deterministic import cos_sin, turn_of

Point = tuple[float, float]
Box = tuple[float, float, float, float]
"""Left, bottom, right, top."""

TAU = 2 * math.pi


def distance(a: Point, b: Point) -> float:
    """Return the distance of two points."""
    return math.hypot(b[0] - a[0], b[1] - a[1])


def middle(a: Point, b: Point) -> Point:
    """Return the point half way."""
    return ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)


def direction_deg(a: Point, b: Point) -> float:
    """Return the direction of an undirected edge from +x, in [0, 180) degrees.

    >>> direction_deg((0, 0), (0, -1)), direction_deg((1, 0), (0, 0))
    (90.0, 0.0)
    """
    turn = math.degrees(turn_of(b[1] - a[1], b[0] - a[0])) % 180.0
    return 0.0 if turn == 180.0 else turn


def direction_difference_deg(a_deg: float, b_deg: float) -> float:
    """Return how far two undirected directions are apart, signed, in (-90, 90]: b - a the short way round.

    >>> direction_difference_deg(179.0, 1.0), direction_difference_deg(10.0, 5.0)
    (2.0, -5.0)
    """
    off = (b_deg - a_deg) % 180.0
    return off - 180.0 if off > 90.0 else off


def point_on(center: Point, radius: float, at_rad: float) -> Point:
    """Return the point of a circle at an angle from +x."""
    cos, sin = cos_sin(at_rad)
    return (center[0] + radius * cos, center[1] + radius * sin)


def in_sweep(angle_rad: float, start_rad: float, sweep_rad: float, spare_rad: float = 0.0) -> bool:
    """Say whether an angle lies in the counter-clockwise sweep from a start, widened by ``spare_rad`` at both
    ends."""
    off = (angle_rad - start_rad + spare_rad) % TAU
    return off <= sweep_rad + 2 * spare_rad


def box_of(points: list[Point]) -> Box | None:
    """Return the box of points, or None for none."""
    if not points:
        return None
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return (min(xs), min(ys), max(xs), max(ys))
