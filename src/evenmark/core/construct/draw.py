"""Steps that draw straight pieces: lines, chains, parallels, squares, bisectors."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from evenmark.core.construct.directions import unit_between, unit_of
from evenmark.core.construct.making import Build, Making
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Said
from evenmark.core.construct.state import XY, Broken, plain
from evenmark.core.geometry import arcs, lines, nearest, offsets, tangents
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.exact import cosine, sine
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Point, distance

MOST_COPIES = 1_000


def _line(c: Context, s: dict[str, Any], made: Making) -> None:
    a = c.point(s["start"])
    made.edge(a, c.point(s["end"]))


def _line_middle(c: Context, s: dict[str, Any], made: Making) -> None:
    x, y = c.point(s["at"])
    length = c.length(s["length"], "length")
    ux, uy = c.angle_from((x, y), s["toward"])
    half = length * Fraction(1, 2) if not isinstance(length, float) else length / 2
    made.edge((x - ux * half, y - uy * half), (x + ux * half, y + uy * half))


def _line_at(c: Context, s: dict[str, Any], made: Making) -> None:
    x, y = c.point(s["start"])
    edge = c.feature(s["to"])
    if len(edge.exact) == 2:
        ux, uy = unit_between(*edge.exact)
    else:
        ux, uy = c.straight(s["to"]).unit
    turn, length = c.number(s["angle"]), c.length(s["length"], "length")
    cos, sin = cosine(turn), sine(turn)
    end = (x + (ux * cos - uy * sin) * length, y + (ux * sin + uy * cos) * length)
    made.edge((x, y), end)
    c.last = end


def _line_square_to(c: Context, s: dict[str, Any], made: Making) -> None:
    found = nearest.square_to_both(c.curve(s["of"]), c.curve(s["to"]))
    if not found:
        raise Broken("No edge between them is square to both.")
    made.edge(*found[0])


def _touching_from(c: Context, s: dict[str, Any], made: Making) -> None:
    p, circle = c.point(s["from"]), c.round(s["of"])
    found = tangents.touching_from(plain(p), circle)
    if not found:
        raise Broken("The point lies inside the circle: no line from it touches it.")
    made.edge(p, found[s["side"]])


def _touching_at(c: Context, s: dict[str, Any], made: Making) -> None:
    circle, length = c.round(s["of"]), c.length(s["length"], "length")
    at = nearest.on_carrier(circle, c.place(s["at"]))
    made.edge(*tangents.touching_at(circle, at, float(length)))


def _touching_both(c: Context, s: dict[str, Any], made: Making) -> None:
    found = tangents.touching_both(c.round(s["of"]), c.round(s["and"]))
    if s["which"] not in found:
        others = ", ".join(found) or "none at all"
        raise Broken(f"These circles have no {s['which']} line; there is: {others}.")
    made.edge(*found[s["which"]])


def _chain(c: Context, s: dict[str, Any], made: Making) -> None:
    start = here = c.point(s["start"])
    made.group = made.next_group()
    way: Point | None = None
    for move in s["moves"]:
        here, way = _moved(c, move, here, way, made)
        c.last = here
    if s["close"] and plain(here) != plain(start):
        made.edge(here, start)
    if s["close"]:
        c.last = start
    pieces = [change.after for change in made.changes if change.after is not None]
    made.corners = [(f.ref, 0) for f in pieces]
    if not s["close"] and pieces:
        made.corners.append((pieces[-1].ref, 1))


def _moved(c: Context, move: Said, here: XY, way: Point | None, made: Making) -> tuple[XY, Point]:
    """Draw one piece of a chain; return where it ends, and in which direction."""
    a = plain(here)
    if move.how == "to":
        there = c.point(move.parts[0])
        made.edge(here, there)
        return there, Straight(a, plain(there)).unit
    through: Point | None = None
    if move.how == "through":
        through = c.place(move.parts[0])
    there = c.point(move.parts[-1] if move.how == "through" else move.parts[0])
    b = plain(there)
    shape: Curve | None
    if move.how == "smooth":
        if way is None:
            raise Broken("A smooth arc needs a piece before it to leave smoothly from.")
        shape = arcs.leaving(a, way, b)
        if shape is None:
            raise Broken("No arc leaves the piece before smoothly and ends there: the point lies behind it.")
    elif move.how == "through":
        assert through is not None
        shape = arcs.arc_through(a, through, b)
        if shape is None:
            raise Broken("The three points lie in one line: no arc goes through them.")
    else:
        _, radius, side, long = move.parts
        shape = _of_radius(a, b, float(c.length(radius, "radius")), side, long=long)
    made.add(shape, (here, there) if isinstance(shape, Straight) else (shape.center,), begins=a)
    if isinstance(shape, Straight):
        return there, shape.unit
    ccw = distance(shape.start, a) <= distance(shape.end, a)
    (ux, uy) = unit_of(shape, b)
    return there, (ux, uy) if ccw else (-ux, -uy)


def _of_radius(a: Point, b: Point, radius: float, side: str, *, long: bool) -> Round:
    found = arcs.of_radius(a, b, radius, side, long=long)
    if found is None:
        least = distance(a, b) / 2
        raise Broken(f"The points are {2 * least:g} apart: the radius has to be at least {least:g}.")
    return found


def _parallel(c: Context, s: dict[str, Any], made: Making) -> None:
    f, gap = c.feature(s["of"]), c.length(s["gap"], "gap")
    times = c.count(s["times"], "parallels", 1, MOST_COPIES) if s["times"] is not None else 1
    side = s["side"]
    if isinstance(f.shape, Straight) and side not in ("left", "right"):
        raise Broken("An edge has a left and a right side, seen along it.")
    for k in range(1, times + 1):
        found = offsets.beside(f.shape, float(gap * k), side)
        if found is None:
            raise Broken(f"The radius is {c.round(s['of']).radius:g}: there is no parallel so far inside.")
        made.add(found, _parallel_ends(f.exact, f.shape, gap * k, side))


def _parallel_ends(exact: tuple[XY, ...], shape: Curve, gap: Any, side: str) -> tuple[XY, ...]:
    """Return the ends of a parallel as exactly as they are known: along the axes, as those of its edge."""
    if isinstance(shape, Round):
        return exact
    if len(exact) != 2:
        return ()
    ux, uy = unit_between(*exact)
    off = gap if side == "left" else -gap
    return tuple((x - uy * off, y + ux * off) for x, y in exact)


def _square(c: Context, s: dict[str, Any], made: Making) -> None:
    shape, length = c.curve(s["of"]), c.length(s["length"], "length")
    at = nearest.on(shape, c.place(s["at"]))
    (ux, uy) = unit_of(shape, at)
    side = {"inside": "left", "outside": "right"}.get(s["side"], s["side"])
    across = lines.left_of((ux, uy)) if side == "left" else (uy, -ux)
    end = lines.beside(at, across, float(length))
    made.edge(at, end)
    c.last = end


def _square_from(c: Context, s: dict[str, Any], made: Making) -> None:
    p = c.point(s["from"])
    foot = c.point(Said("foot", (s["of"], s["from"])))
    made.edge(p, foot)


def _bisector(c: Context, s: dict[str, Any], made: Making) -> None:
    length = float(c.length(s["length"], "length"))
    if "points" in s:
        p, q, r = (c.place(said) for said in s["points"])
        at, way = q, lines.between(q, p, r)
        if way is None:
            raise Broken("Two of the points are one: they hold no angle.")
    else:
        f, g = c.straight(s["of"]), c.straight(s["and"])
        crossing, way = lines.meet(f, g), lines.bisector(f, g)
        if crossing is None or way is None:
            raise Broken("The edges are parallel: a centre line lies half way between them.")
        at = crossing
    end = lines.beside(at, way, length)
    made.edge(at, end)
    c.last = end


def _shortest(c: Context, s: dict[str, Any], made: Making) -> None:
    found = nearest.shortest(c.curve(s["of"]), c.curve(s["to"]))
    if found.length == 0.0:
        raise Broken("They touch or cross: there is nothing between them.")
    made.edge(*found)


def _point(c: Context, s: dict[str, Any], made: Making) -> None:
    made.points[s["name"]] = c.point(s["at"])


KINDS: dict[str, Build] = {
    "line": _line,
    "line middle": _line_middle,
    "line at": _line_at,
    "line square to": _line_square_to,
    "line touching from": _touching_from,
    "line touching at": _touching_at,
    "line touching both": _touching_both,
    "chain": _chain,
    "parallel": _parallel,
    "square": _square,
    "square from": _square_from,
    "bisector": _bisector,
    "shortest": _shortest,
    "point": _point,
}
"""How each kind of step is built."""
