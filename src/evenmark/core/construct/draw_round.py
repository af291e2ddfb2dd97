"""Steps that draw circles, arcs, rectangles and polygons."""

from __future__ import annotations

import math
from fractions import Fraction
from typing import Any

from evenmark.core.construct.directions import unit_between
from evenmark.core.construct.making import Build, Making
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Ref
from evenmark.core.construct.state import XY, Broken, Corner, plain
from evenmark.core.geometry import arcs, circles, nearest
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.exact import Number, cosine, sine
from evenmark.core.geometry.lines import Straight, side_of
from evenmark.core.geometry.points import Point, distance

MOST_CORNERS = 1_000
_HALF = Fraction(1, 2)


def half(value: Number) -> Number:
    """Return half of a number, exact if it is."""
    return value / 2 if isinstance(value, float) else value * _HALF


def _circle(c: Context, s: dict[str, Any], made: Making) -> None:
    center = c.point(s["centre"])
    if "through" in s:
        x, y = c.point(s["through"])
        c.last = center
        far: Number = x - center[0] if y == center[1] else y - center[1] if x == center[0] else 0
        radius = (-far if far < 0 else far) or distance(plain(center), plain((x, y)))
        if radius == 0:
            raise Broken("The point is the centre itself: the circle would have no size.")
    elif "radius" in s:
        radius = c.length(s["radius"], "radius")
    else:
        radius = half(c.length(s["diameter"], "diameter"))
    made.circle(center, radius)


def _across(c: Context, s: dict[str, Any], made: Making) -> None:
    (ax, ay), (bx, by) = (c.point(p) for p in s["points"])
    diameter = distance(plain((ax, ay)), plain((bx, by)))
    if diameter == 0.0:
        raise Broken("The two points are one: the circle would have no size.")
    made.circle((half(ax + bx), half(ay + by)), diameter / 2)


def _through(c: Context, s: dict[str, Any], made: Making) -> None:
    _in_line(arcs.through(*(c.place(p) for p in s["points"])), made)


def _in_line(found: Round | None, made: Making, begins: Point | None = None) -> None:
    """Draw what goes through three points. Raises Broken where they are in line."""
    if found is None:
        raise Broken("The three points lie in one line: nothing round goes through them.")
    made.add(found, begins=begins)


def _touching_at(c: Context, s: dict[str, Any], made: Making) -> None:
    thing, radius = c.curve(s["of"]), float(c.length(s["radius"], "radius"))
    _fits(thing, s["side"])
    at = nearest.on_carrier(thing, c.place(s["at"]))
    found = circles.touching_at(thing, at, radius, s["side"])
    if found is None or (isinstance(thing, Round) and s["side"] == "inside" and radius >= thing.radius):
        raise Broken(f"A circle of radius {radius:g} does not lie {s['side']} there and touch it.")
    made.add(found)


def _fits(thing: Curve, side: str) -> None:
    if side not in circles.sides_of(thing):
        said = " or ".join(circles.sides_of(thing))
        raise Broken(f"It has no side {side!r}: say {said}.")


def _touching(c: Context, s: dict[str, Any], made: Making) -> None:
    things, sides = [c.curve(ref) for ref in s["of"]], s["sides"]
    for thing, side in zip(things, sides, strict=True):
        _fits(thing, side)
    if s["radius"] is not None:
        radius = float(c.length(s["radius"], "radius"))
        found = circles.touching_two(things[0], things[1], radius)
    else:
        found = circles.touching_three(things[0], things[1], things[2])
    there = [t.circle for t in found if _as_said(t.sides, sides, t.circle, things)]
    if not there:
        raise Broken(_no_such_circle(found))
    which = {None: 0, "first": 0, "second": 1}[s["which"]]
    if which >= len(there):
        raise Broken("There is only one such circle.")
    if len(there) > 1 and s["which"] is None:
        raise Broken("There are two such circles: say first or second, from left to right, then from below.")
    made.add(there[which])


def _as_said(found: tuple[str, ...], sides: tuple[str, ...], circle: Round, things: list[Curve]) -> bool:
    """Say whether a circle lies on the sides that were said: inside is from within, or around where nothing
    of its size could be within."""
    for has, said, thing in zip(found, sides, things, strict=True):
        within = (
            said == "inside" and has == "around" and isinstance(thing, Round) and circle.radius > thing.radius
        )
        if has != said and not within:
            return False
    return True


def _no_such_circle(found: list[circles.Touching]) -> str:
    if not found:
        return "No circle touches them all."
    there = "; ".join(dict.fromkeys(", ".join(side for side in t.sides if side) for t in found))
    return f"No circle touches them on these sides; there is one for: {there}."


def _arc_through(c: Context, s: dict[str, Any], made: Making) -> None:
    a, b, p = (c.place(said) for said in s["points"])
    _in_line(arcs.arc_through(a, b, p), made, begins=a)


def _arc_centre(c: Context, s: dict[str, Any], made: Making) -> None:
    center = c.point(s["centre"])
    start, turn = c.place(s["start"]), float(c.number(s["turn"]))
    radius = distance(plain(center), start)
    if radius == 0.0 or turn == 0.0:
        raise Broken("The arc would have no size.")
    if abs(turn) > 360.0:
        raise Broken("An arc turns by 360° at most.")
    begin, sweep = arcs.turn_to(start, plain(center)), math.radians(abs(turn))
    made.add(
        Round(plain(center), radius, (begin if turn > 0 else begin - sweep) % math.tau, sweep),
        (center,),
        begins=start,
    )


def _arc(c: Context, s: dict[str, Any], made: Making) -> None:
    a, b, radius = c.place(s["start"]), c.place(s["end"]), float(c.length(s["radius"], "radius"))
    found = arcs.of_radius(a, b, radius, s["side"], long=s["long"])
    if found is None:
        least = distance(a, b) / 2
        raise Broken(f"The points are {2 * least:g} apart: the radius has to be at least {least:g}.")
    made.add(found, begins=a)


def _rectangle(c: Context, s: dict[str, Any], made: Making) -> None:
    x, y = c.point(s["first"])
    turn = c.number(s["turned"]) if s["turned"] is not None else 0
    cos, sin = cosine(turn), sine(turn)
    if "second" in s:
        x1, y1 = c.point(s["second"])
        dx, dy = x1 - x, y1 - y
        width, height = dx * cos + dy * sin, dy * cos - dx * sin
    else:
        width, height = c.length(s["width"], "width"), c.length(s["height"], "height")
    if width == 0 or height == 0:
        raise Broken("The rectangle would have no size.")

    def at(u: Number, v: Number) -> XY:
        if s["turned"] is None:
            return (x + u, y + v)
        return (x + u * cos - v * sin, y + u * sin + v * cos)

    # edges: bottom, right, top, left, turned with it; corners from the first point, counter-clockwise
    low, high = (0, height) if height > 0 else (height, 0)
    left, right = (0, width) if width > 0 else (width, 0)
    corners = [at(left, low), at(right, low), at(right, high), at(left, high)]
    first = (0 if height > 0 else 3) if width > 0 else (1 if height > 0 else 2)
    if s["rounded"] is not None:
        made.corners = rounded_chain(corners, float(c.length(s["rounded"], "radius")), made)
    else:
        made.corners = closed_chain(corners, made)
    made.corners = made.corners[first:] + made.corners[:first]


def closed_chain(corners: list[XY], made: Making) -> list[Corner]:
    """Draw a closed chain of edges; return its corners. Raises Broken."""
    n = len(corners)
    made.group = made.next_group()
    return [(made.edge(corners[k], corners[(k + 1) % n]), 0) for k in range(n)]


def rounded_chain(corners: list[XY], radius: float, made: Making) -> list[Corner]:
    """Draw a closed chain with its corners rounded: edges in their order, then the arc of each corner, from
    the one after the first edge on; return where its corners were. Raises Broken."""
    n = len(corners)
    made.group = made.next_group()
    points = [plain(p) for p in corners]
    sides = [distance(p, q) for p, q in zip(points, [*points[1:], points[0]], strict=True)]
    backs, ends = [], []
    for k, (x, y) in enumerate(points):
        ux, uy = map(float, unit_between(points[k], points[k - 1]))
        vx, vy = map(float, unit_between(points[k], points[(k + 1) % n]))
        across = abs(ux * vy - uy * vx)
        if across <= tol.NO_CROSSING_SINE:
            raise Broken("A corner is too flat to be rounded.")
        back = (
            radius * (1.0 + ux * vx + uy * vy) / across
        )  # radius / tan(half the angle), exact for square ones
        backs.append(back)
        ends.append(((x + ux * back, y + uy * back), (x + vx * back, y + vy * back)))
    edges: list[Ref | None] = []
    for k, side in enumerate(sides):
        spare = side - backs[k] - backs[(k + 1) % n]
        if spare < -side * tol.TOUCHES_SHARE:
            raise Broken(f"A radius of {radius:g} is too large for an edge that is {side:g} long.")
        a, b = ends[k][1], ends[(k + 1) % n][0]
        edges.append(made.edge(a, b) if spare > side * tol.TOUCHES_SHARE else None)
    for k in range(1, n + 1):
        a, b = ends[k % n]
        left = side_of(points[(k + 1) % n], Straight(points[k - 1], points[k % n])) > 0.0
        arc = arcs.of_radius(a, b, radius, "left" if left else "right")
        if arc is None:
            raise Broken("A corner is too flat to be rounded.")
        made.add(arc)
    return [(edges[k - 1], edges[k]) for k in range(n)]


def _polygon(c: Context, s: dict[str, Any], made: Making) -> None:
    n = c.count(s["corners"], "corners", 3, MOST_CORNERS)
    x, y = c.point(s["centre"])
    radius = c.length(s["radius"], "radius")
    turn: Number = c.number(s["turned"]) if s["turned"] is not None else 90
    step = Fraction(360, n)
    if s["how"] == "outside":  # about the circle: its edges touch it, the first one's middle at the angle
        radius = radius / cosine(step * _HALF)
        turn = turn - step * _HALF if not isinstance(turn, float) else turn - float(step) / 2
    corners: list[XY] = []
    for k in range(n):
        at = turn + step * k if not isinstance(turn, float) else turn + float(step) * k
        corners.append((x + radius * cosine(at), y + radius * sine(at)))
    made.corners = closed_chain(corners, made)


def _polygon_edge(c: Context, s: dict[str, Any], made: Making) -> None:
    n = c.count(s["corners"], "corners", 3, MOST_CORNERS)
    corners = [c.point(s["start"]), c.point(s["end"])]
    (ax, ay), (bx, by) = corners
    dx, dy = bx - ax, by - ay
    step = Fraction(360, n) if s["side"] == "left" else -Fraction(360, n)
    x, y = bx, by
    for k in range(1, n - 1):
        cos, sin = cosine(step * k), sine(step * k)
        x, y = x + dx * cos - dy * sin, y + dx * sin + dy * cos
        corners.append((x, y))
    made.corners = closed_chain(corners, made)


KINDS: dict[str, Build] = {
    "circle": _circle,
    "circle across": _across,
    "circle through": _through,
    "circle touching at": _touching_at,
    "circle touching": _touching,
    "arc through": _arc_through,
    "arc centre": _arc_centre,
    "arc": _arc,
    "rectangle": _rectangle,
    "polygon": _polygon,
    "polygon edge": _polygon_edge,
}
"""How each kind of step is built."""
