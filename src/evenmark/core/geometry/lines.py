"""Straight pieces and the endless lines that they lie on: feet, sides, parallels, squares, bisectors.

- *straight*: a piece from a start to an end; seen along it, its left is where a counter-clockwise quarter
  turn points. *Supporting line*: the endless line that it lies on.

A function that may have several answers returns them by name; one that has none returns nothing. Lengths in
drawing units, angles in radians unless the name says degrees.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance, middle


class Straight(NamedTuple):
    """A straight piece from a start to an end."""

    start: Point
    end: Point

    @property
    def length(self) -> float:
        """Distance of the ends."""
        return distance(self.start, self.end)

    @property
    def middle(self) -> Point:
        """Half way along."""
        return middle(self.start, self.end)

    @property
    def unit(self) -> Point:
        """One unit along it; nothing in any direction for a piece of no length.

        >>> Straight((0, 0), (0, -3)).unit
        (0.0, -1.0)
        """
        dx, dy = self.end[0] - self.start[0], self.end[1] - self.start[1]
        long = math.hypot(dx, dy)
        return (dx / long, dy / long) if long else (0.0, 0.0)

    @property
    def turned_round(self) -> Straight:
        """The same piece from its end to its start."""
        return Straight(self.end, self.start)


def left_of(unit: Point) -> Point:
    """Return a direction turned by a quarter, counter-clockwise."""
    return (0.0 - unit[1], unit[0])


def beside(p: Point, along: Point, by: float) -> Point:
    """Return the point that lies ``by`` from ``p`` in a direction of unit length."""
    return (p[0] + along[0] * by, p[1] + along[1] * by)


def side_of(p: Point, line: Straight) -> float:
    """Return how far a point lies to the left of a supporting line; negative to its right."""
    (x0, y0), (ux, uy) = line.start, line.unit
    return ux * (p[1] - y0) - uy * (p[0] - x0)


def far_along(p: Point, line: Straight) -> float:
    """Return how far along a supporting line, from its start, the foot of a point lies."""
    (x0, y0), (ux, uy) = line.start, line.unit
    return ux * (p[0] - x0) + uy * (p[1] - y0)


def distance_to_supporting_line(point: Point, a: Point, b: Point) -> float:
    """Return the distance of a point from the endless line through two points; from ``a`` if they
    coincide."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    length = math.hypot(dx, dy)
    if length == 0.0:
        return distance(point, a)
    return abs(dx * (point[1] - a[1]) - dy * (point[0] - a[0])) / length


def along_supporting_line(point: Point, a: Point, b: Point) -> float:
    """Return how far along from ``a`` toward ``b`` the foot of a point lies; 0 if they coincide."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    length = math.hypot(dx, dy)
    return 0.0 if length == 0.0 else ((point[0] - a[0]) * dx + (point[1] - a[1]) * dy) / length


def image(p: Point, line: Straight) -> Point:
    """Return the mirror image of a point about a supporting line."""
    x, y = foot(p, line)
    return (2.0 * x - p[0], 2.0 * y - p[1])


def foot(p: Point, line: Straight) -> Point:
    """Return the foot of a point on a supporting line, exact on level and plumb ones.

    >>> foot((3.0, 7.0), Straight((0.0, 0.1), (9.0, 0.1)))
    (3.0, 0.1)
    """
    (x0, y0), (x1, y1) = line
    if y0 == y1:
        return (p[0], y0)
    if x0 == x1:
        return (x0, p[1])
    return beside(line.start, line.unit, far_along(p, line))


def parallel(line: Straight, gap: float) -> Straight:
    """Return the piece that lies ``gap`` to the left, of equal length; to the right where the gap is
    negative."""
    across = left_of(line.unit)
    return Straight(beside(line.start, across, gap), beside(line.end, across, gap))


def are_parallel(a: Straight, b: Straight) -> bool:
    """Say whether two supporting lines have one direction, as far as arithmetic can tell."""
    (ax, ay), (bx, by) = a.unit, b.unit
    return abs(ax * by - ay * bx) <= tol.NO_CROSSING_SINE


def meet(a: Straight, b: Straight) -> Point | None:
    """Return where two supporting lines cross, exact in what is level or plumb; None where they are parallel.

    >>> meet(Straight((0.0, 0.1), (5.0, 0.1)), Straight((0.3, 4.0), (0.3, 9.0)))
    (0.3, 0.1)
    """
    (ax, ay), (bx, by) = a.start, b.start
    ux, uy = a.end[0] - ax, a.end[1] - ay
    vx, vy = b.end[0] - bx, b.end[1] - by
    cross = ux * vy - uy * vx
    if abs(cross) <= tol.NO_CROSSING_SINE * math.hypot(ux, uy) * math.hypot(vx, vy):
        return None
    t = ((bx - ax) * vy - (by - ay) * vx) / cross
    x, y = ax + t * ux, ay + t * uy
    if ux == 0.0 or vx == 0.0:
        x = ax if ux == 0.0 else bx
    if uy == 0.0 or vy == 0.0:
        y = ay if uy == 0.0 else by
    return (x, y)


def bisector(a: Straight, b: Straight) -> Point | None:
    """Return the direction that halves the angle between two edges that holds both their far ends, seen from
    where their supporting lines cross; None for parallel ones.

    The far end of an edge is the one farther from the crossing.
    """
    at = meet(a, b)
    if at is None:
        return None
    return between(at, max(a, key=lambda p: distance(p, at)), max(b, key=lambda p: distance(p, at)))


def between(at: Point, p: Point, q: Point) -> Point | None:
    """Return the direction that halves the angle at a point between the ways to two others; square to both
    where they lie opposite, on the left of the way to the first; None where one of them is the point
    itself."""
    u, v = Straight(at, p).unit, Straight(at, q).unit
    if u == (0.0, 0.0) or v == (0.0, 0.0):
        return None
    x, y = u[0] + v[0], u[1] + v[1]
    long = math.hypot(x, y)
    if long <= tol.NO_CROSSING_SINE:
        return left_of(u)
    return (x / long, y / long)


def halfway(a: Straight, b: Straight) -> Straight | None:
    """Return the line half way between two edges: of parallels the one in the middle, over the stretch that
    either of them takes; of others None, since theirs is a bisector."""
    if not are_parallel(a, b):
        return None
    gap = side_of(b.start, a)
    line = parallel(a, gap / 2)
    far = sorted(far_along(p, line) for p in (*a, *b))
    return Straight(beside(line.start, line.unit, far[0]), beside(line.start, line.unit, far[-1]))
