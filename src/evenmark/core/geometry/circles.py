"""Circles that touch one, two or three things: points, straight pieces, circles and arcs.

- *side*: where the new circle lies. Of a straight piece ``left`` or ``right``, seen along it; of a circle or
  arc ``outside`` (apart from it), ``inside`` (touching it from within, the smaller one) or ``around`` (with
  it inside). A point has no side: the circle passes through it.
- *reach of a centre*: what touches two things has its centre where two lines or circles cross: parallels, and
  circles of a radius that is larger or smaller by the new one's.

Where sides leave two answers, they stand from left to right, then from below. An arc counts with its whole
circle, a straight piece with its supporting line: whether the touch point lies on the piece is for the caller
to say."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import product
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.crossings import crossings
from evenmark.core.geometry.lines import Straight, parallel, side_of
from evenmark.core.geometry.nearest import on_supporting_line
from evenmark.core.geometry.points import Point, distance

Thing = Point | Straight | Round
"""What a circle can touch; a point is passed through."""
STRAIGHT_SIDES = ("left", "right")
ROUND_SIDES = ("outside", "inside", "around")
_Row = tuple[float, float, float, float, float]
_STEPS = 4
"""Newton steps that take what is left of rounding off a circle: each doubles the digits that are right."""


class Touching(NamedTuple):
    """A circle that touches things, with the side of each on which it lies (none of a point)."""

    circle: Round
    sides: tuple[str, ...]


def sides_of(thing: Thing) -> tuple[str, ...]:
    """Return the sides on which a circle can touch a thing."""
    if isinstance(thing, Straight):
        return STRAIGHT_SIDES
    return ROUND_SIDES if isinstance(thing, Round) else ("",)


def touching_at(thing: Straight | Round, at: Point, radius: float, side: str) -> Round | None:
    """Return the circle of a radius that touches a straight piece or circle at one of its points, on a side;
    None where it cannot lie there: inside a smaller circle, around a larger one."""
    if isinstance(thing, Straight):
        beside = parallel(thing, radius if side == "left" else -radius)
        (x, y), (x0, y0) = at, thing.start
        return Round((beside.start[0] + x - x0, beside.start[1] + y - y0), radius)
    ux, uy = Straight(thing.center, at).unit
    off = {"outside": thing.radius + radius, "inside": thing.radius - radius, "around": thing.radius - radius}
    if side == "around" and radius < thing.radius:
        return None
    return Round((thing.center[0] + ux * off[side], thing.center[1] + uy * off[side]), radius)


def touching_two(f: Thing, g: Thing, radius: float) -> list[Touching]:
    """Return every circle of a radius that touches two things, from left to right, then from below."""
    found = []
    for one, other in product(sides_of(f), sides_of(g)):
        a, b = _centers(f, one, radius), _centers(g, other, radius)
        if a is None or b is None:
            continue
        for center in _common(a, b):
            found.append(Touching(Round(center, radius), (one, other)))
    return _in_order(_each_once(found))


def touching_three(f: Thing, g: Thing, h: Thing) -> list[Touching]:
    """Return every circle that touches three things (Apollonius' problem), from left to right, then from
    below.

    With w = x^2 + y^2 - r^2 each thing and side is a linear equation in x, y, r and w; three of them leave a
    line, which meets that quadric in at most two points (Lie's sphere geometry, from memory). Of a circle,
    inside and around are one equation.
    """
    things = (f, g, h)
    origin = _middle_of(things)
    size = max(1.0, *(_extent(t, origin) for t in things))
    found = []
    kinds = [("in", "out") if isinstance(t, Round) else sides_of(t) for t in things]
    for sides in product(*kinds):
        rows = [_row(t, side, origin, size) for t, side in zip(things, sides, strict=True)]
        for x, y, r in _on_the_quadric(rows):
            center, radius = (origin[0] + x * size, origin[1] + y * size), abs(r) * size
            circle = _settled(Round(center, radius), things)
            if circle is not None:
                found.append(Touching(circle, tuple(_side(circle, t) for t in things)))
    return _in_order(_each_once([t for t in found if _is_one(t.circle, things, size)]))


def _centers(thing: Thing, side: str, radius: float) -> Straight | Round | Point | None:
    """Return where the centres of circles of a radius lie that touch a thing on a side."""
    if isinstance(thing, Straight):
        return parallel(thing, radius if side == "left" else -radius)
    if not isinstance(thing, Round):
        return Round(thing, radius)
    off = {
        "outside": thing.radius + radius,
        "inside": thing.radius - radius,
        "around": radius - thing.radius,
    }[side]
    if off < 0.0:
        return None
    return Round(thing.center, off) if off > 0.0 else thing.center


def _common(a: Straight | Round | Point, b: Straight | Round | Point) -> list[Point]:
    if isinstance(a, Straight | Round) and isinstance(b, Straight | Round):
        return crossings(a, b, endless=True)
    point, other = (a, b) if not isinstance(a, Straight | Round) else (b, a)
    assert not isinstance(point, Straight | Round)
    foot = on_supporting_line(other, point) if isinstance(other, Straight | Round) else other
    return [point] if distance(foot, point) <= tol.TOUCHES_SHARE * (1.0 + distance(point, (0.0, 0.0))) else []


def _row(thing: Thing, side: str, origin: Point, size: float) -> _Row:
    """Return a thing as a linear equation a x + b y + c r + d w = e, with lengths in ``size`` from
    ``origin``."""
    if isinstance(thing, Straight):
        ux, uy = thing.unit
        x, y = (thing.start[0] - origin[0]) / size, (thing.start[1] - origin[1]) / size
        # side_of(centre) = r on the left, -r on the right
        return (-uy, ux, -1.0 if side == "left" else 1.0, 0.0, -uy * x + ux * y)
    center, radius = (thing.center, thing.radius) if isinstance(thing, Round) else (thing, 0.0)
    x, y, r = (center[0] - origin[0]) / size, (center[1] - origin[1]) / size, radius / size
    sign = -1.0 if side == "out" else 1.0
    # (X - x)^2 + (Y - y)^2 = (R + r)^2 outside, (R - r)^2 inside
    return (-2.0 * x, -2.0 * y, 2.0 * sign * r, 1.0, r * r - x * x - y * y)


def _on_the_quadric(rows: Sequence[_Row]) -> list[tuple[float, float, float]]:
    """Return x, y, r where three linear equations in x, y, r, w hold and w = x^2 + y^2 - r^2."""
    found = _line_of(rows)
    if found is None:
        return []
    p, q = found
    a = q[0] * q[0] + q[1] * q[1] - q[2] * q[2]
    b = 2.0 * (p[0] * q[0] + p[1] * q[1] - p[2] * q[2]) - q[3]
    c = p[0] * p[0] + p[1] * p[1] - p[2] * p[2] - p[3]
    return [(p[0] + t * q[0], p[1] + t * q[1], p[2] + t * q[2]) for t in _roots(a, b, c) if math.isfinite(t)]


def _roots(a: float, b: float, c: float) -> list[float]:
    """Return the real roots of a quadratic, of a linear equation where nothing is squared."""
    scale = max(abs(a), abs(b), abs(c))
    if scale == 0.0:
        return []
    if abs(a) <= tol.RANK_SHARE * scale:
        return [-c / b] if abs(b) > tol.RANK_SHARE * scale else []
    square = b * b - 4.0 * a * c
    if square < -tol.TOUCHES_SHARE * (b * b + abs(4.0 * a * c)):
        return []
    root = math.sqrt(max(0.0, square))
    half = -(b + math.copysign(root, b)) / 2.0
    return [half / a, c / half] if half else [0.0]


def _line_of(rows: Sequence[_Row]) -> tuple[list[float], list[float]] | None:
    """Return a point and a direction of what three linear equations in four unknowns leave, by elimination
    with full pivoting; None where they depend on each other."""
    m = [list(row) for row in rows]
    columns = list(range(4))
    for k in range(3):
        i, j = max(
            ((i, j) for i in range(k, 3) for j in range(k, 4)),
            key=lambda ij: abs(m[ij[0]][columns[ij[1]]]),
        )
        m[k], m[i] = m[i], m[k]
        columns[k], columns[j] = columns[j], columns[k]
        pivot = m[k][columns[k]]
        if abs(pivot) <= tol.RANK_SHARE:
            return None
        for other in range(3):
            if other != k:
                part = m[other][columns[k]] / pivot
                m[other] = [v - part * w for v, w in zip(m[other], m[k], strict=True)]
    point, way = [0.0] * 4, [0.0] * 4
    free = columns[3]
    way[free] = 1.0
    for k in range(3):
        pivot = m[k][columns[k]]
        point[columns[k]] = m[k][4] / pivot
        way[columns[k]] = -m[k][free] / pivot
    return point, way


def _off(circle: Round, thing: Thing) -> tuple[float, Point, float]:
    """Return by how much a circle misses touching a thing, how that grows with its centre, and with its
    radius."""
    (x, y), r = circle.center, circle.radius
    if isinstance(thing, Straight):
        ux, uy = thing.unit
        side = side_of(circle.center, thing)
        sign = math.copysign(1.0, side)
        return abs(side) - r, (-uy * sign, ux * sign), -1.0
    center, radius = (thing.center, thing.radius) if isinstance(thing, Round) else (thing, 0.0)
    apart = distance(circle.center, center)
    grows = ((x - center[0]) / apart, (y - center[1]) / apart) if apart else (0.0, 0.0)
    options = (
        (apart - radius - r, grows, -1.0),
        (apart - (radius - r), grows, 1.0),
        (apart - (r - radius), grows, -1.0),
    )
    return min(options, key=lambda o: abs(o[0]))


def _settled(circle: Round, things: Sequence[Thing]) -> Round | None:
    """Return a circle after a few Newton steps, so that it touches to the last digits."""
    for _ in range(_STEPS):
        offs = [_off(circle, t) for t in things]
        if max(abs(o[0]) for o in offs) == 0.0:
            return circle
        step = _solved([(gx, gy, gr, -off) for off, (gx, gy), gr in offs])
        if step is None:
            return circle
        x, y, r = circle.center[0] + step[0], circle.center[1] + step[1], circle.radius + step[2]
        if not r > 0.0:
            return None
        better = Round((x, y), r)
        if max(abs(_off(better, t)[0]) for t in things) >= max(abs(o[0]) for o in offs):
            return circle
        circle = better
    return circle


def _solved(rows: Sequence[tuple[float, float, float, float]]) -> tuple[float, float, float] | None:
    """Return the solution of three linear equations by Cramer's rule; None where they depend on each
    other."""
    (a, b, c, p), (d, e, f, q), (g, h, i, r) = rows
    det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)
    if abs(det) <= tol.RANK_SHARE:
        return None
    x = p * (e * i - f * h) - b * (q * i - f * r) + c * (q * h - e * r)
    y = a * (q * i - f * r) - p * (d * i - f * g) + c * (d * r - q * g)
    z = a * (e * r - q * h) - b * (d * r - q * g) + p * (d * h - e * g)
    return x / det, y / det, z / det


def _side(circle: Round, thing: Thing) -> str:
    """Return on which side of a thing a circle lies that touches it."""
    if isinstance(thing, Straight):
        return "left" if side_of(circle.center, thing) > 0.0 else "right"
    if not isinstance(thing, Round):
        return ""
    apart = distance(circle.center, thing.center)
    ways: dict[str, Callable[[], float]] = {
        "outside": lambda: apart - thing.radius - circle.radius,
        "inside": lambda: apart - (thing.radius - circle.radius),
        "around": lambda: apart - (circle.radius - thing.radius),
    }
    return min(ways, key=lambda side: abs(ways[side]()))


def _is_one(circle: Round, things: Sequence[Thing], size: float) -> bool:
    """Say whether a circle has a size and touches all things, and is none of them itself."""
    reach = tol.TOUCHES_SHARE * (size + circle.radius)
    if circle.radius <= reach or any(abs(_off(circle, t)[0]) > reach for t in things):
        return False
    return not any(
        isinstance(t, Round)
        and distance(t.center, circle.center) <= reach
        and abs(t.radius - circle.radius) <= reach
        for t in things
    )


def _each_once(found: list[Touching]) -> list[Touching]:
    """Return circles without those that are there already, as one that touches by two names."""
    out: list[Touching] = []
    for t in found:
        c = t.circle
        reach = tol.TOUCHES_SHARE * (1.0 + c.radius + distance(c.center, (0.0, 0.0)))
        if not any(
            distance(c.center, o.circle.center) <= reach and abs(c.radius - o.circle.radius) <= reach
            for o in out
        ):
            out.append(t)
    return out


def _in_order(found: list[Touching]) -> list[Touching]:
    return sorted(found, key=lambda t: (t.circle.center, t.circle.radius))


def _middle_of(things: Sequence[Thing]) -> Point:
    places = [_place(t) for t in things]
    return (math.fsum(x for x, _ in places) / len(places), math.fsum(y for _, y in places) / len(places))


def _place(thing: Thing) -> Point:
    if isinstance(thing, Straight):
        return thing.middle
    return thing.center if isinstance(thing, Round) else thing


def _extent(thing: Thing, origin: Point) -> float:
    if isinstance(thing, Straight):
        return max(distance(p, origin) for p in thing)
    center, radius = (thing.center, thing.radius) if isinstance(thing, Round) else (thing, 0.0)
    return distance(center, origin) + radius
