"""Ellipses that are kept as points on them, at equal steps of their parameter: their axes, and what lies
between them and their chords."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.deterministic import cos_sin
from evenmark.core.geometry.points import TAU, Point, distance

MOST_CHORDS = 360
"""Chords that a free curve is taken as where it encloses something."""
FEWEST = 16
"""Points that are an ellipse rather than a polygon."""


class Axes(NamedTuple):
    """An ellipse: its centre, and the ways from there to its first point and to the one a quarter on."""

    center: Point
    first: Point
    second: Point

    @property
    def major(self) -> Point:
        """The way to an end of the long axis."""
        return self.first if math.hypot(*self.first) >= math.hypot(*self.second) else self.second

    @property
    def ratio(self) -> float:
        """Short axis / long axis."""
        short, long = sorted((math.hypot(*self.first), math.hypot(*self.second)))
        return short / long


class BeyondChord(NamedTuple):
    """What lies between a chord of an ellipse and its arc: the area, and how much longer the arc is."""

    area: float
    length: float


def axes_of(points: Sequence[Point]) -> Axes | None:
    """Return the ellipse of closed points that lie on it at equal steps of its parameter, the first at an end
    of an axis, as they are kept of a whole one; None for any others."""
    n = len(points) - 1
    if n < FEWEST or n % 4 or points[0] != points[-1]:
        return None
    (x0, y0), (x1, y1), (x2, y2) = points[0], points[n // 2], points[n // 4]
    cx, cy = (x0 + x1) / 2, (y0 + y1) / 2
    (ax, ay), (bx, by) = (x0 - cx, y0 - cy), (x2 - cx, y2 - cy)
    short, long = sorted((math.hypot(ax, ay), math.hypot(bx, by)))
    far = max(max(map(abs, p)) for p in points)
    reach = tol.SAME_CURVE_SHARE * max(long, far * tol.FAR_FROM_ORIGIN_SHARE)
    if not short > 0.0 or abs(ax * bx + ay * by) > reach * long:
        return None
    for k, p in enumerate(points):
        cos, sin = cos_sin(TAU * k / n)
        if distance(p, (cx + cos * ax + sin * bx, cy + cos * ay + sin * by)) > reach:
            return None
    return Axes((cx, cy), (ax, ay), (bx, by))


def thinned(points: Sequence[Point]) -> list[Point]:
    """Return some of the points along a curve, its ends among them, at equal steps where there are such: few
    enough to look for what they enclose.

    >>> len(thinned([(float(k), 0.0) for k in range(1441)])), thinned([(0.0, 0.0), (1.0, 2.0)])
    (361, [(0.0, 0.0), (1.0, 2.0)])
    """
    n = len(points) - 1
    least = -(-n // MOST_CHORDS)
    step = next((k for k in range(least, 4 * least) if n % k == 0), least)
    return [*points[:-1:step], points[-1]]


def beyond_chords(points: Sequence[Point], axes: Axes) -> list[BeyondChord]:
    """Return what lies beyond each chord of an ellipse: a segment of it, ab (t - sin t) / 2 for a step t; its
    arc by Simpson's rule, which is right to the last digit over so small a step."""
    n = len(points) - 1
    a, b, step = math.hypot(*axes.first), math.hypot(*axes.second), TAU / n
    area = a * b * (step - cos_sin(step)[1]) / 2

    def speed(t: float) -> float:
        cos, sin = cos_sin(t)
        return math.hypot(a * sin, b * cos)

    out = []
    for k in range(n):
        t = TAU * k / n
        arc = (speed(t) + 4 * speed(t + step / 2) + speed(t + step)) * step / 6
        out.append(BeyondChord(area, arc - distance(points[k], points[k + 1])))
    return out
