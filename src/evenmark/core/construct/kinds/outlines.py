"""Closed outlines: rectangles and regular polygons."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import half, unit_between
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import LEFT_RIGHT, more
from evenmark.core.construct.state import XY, Broken, Corner, plain
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry import arcs
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.exact import Number, cosine, sine
from evenmark.core.geometry.lines import Straight, side_of
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import distance

MOST_CORNERS = 1_000


class Rectangle(NamedTuple):
    """A rectangle from a corner to the other one, or of a width and a height; turned, rounded."""

    first: Expression
    second: Expression | None
    width: Typed | None
    height: Typed | None
    turned: Typed | None
    rounded: Typed | None


class Polygon(NamedTuple):
    """A regular polygon about a centre, inside or outside of a circle."""

    corners: Typed
    centre: Expression
    how: str
    radius: Typed
    turned: Typed | None


class PolygonOnEdge(NamedTuple):
    """A regular polygon to one side of its first edge."""

    corners: Typed
    start: Expression
    end: Expression
    side: str


def _read_rectangle(r: Reader) -> Rectangle:
    r.first("Its first corner")
    first = r.point()
    r.another("The other corner, or width by height")
    before = r.mark()
    second = width = height = None
    try:
        width = r.number()
        if not r.takes("by"):
            raise r.expected("'by'")
        height = r.number()
    except Unreadable:
        r.back(before)
        width = None
        second = r.point()
    turned = r.number() if more(r, "turned") else None
    rounded = r.number() if more(r, "rounded") else None
    if turned is None:
        turned = r.number() if more(r, "turned") else None
    return Rectangle(first, second, width, height, turned, rounded)


def _read_polygon(r: Reader) -> Meaning:
    r.first("How many corners")
    corners = r.number()
    r.another("Its centre, or an edge")
    if r.one_of(("centre", "edge"), "its centre, or an edge") == "edge":
        start = r.point()
        r.another("Where the edge ends")
        end = r.point()
        r.another("Which side")
        return PolygonOnEdge(corners, start, end, r.one_of(LEFT_RIGHT, "which side"))
    centre = r.point()
    r.another("Inside or outside of which circle")
    how = r.one_of(("inside", "outside"), "inside or outside of a circle")
    radius = r.number()
    return Polygon(corners, centre, how, radius, r.number() if more(r, "turned") else None)


def _rectangle(c: Context, s: Rectangle, made: ChangeSet) -> None:
    x, y = c.point(s.first)
    turn = c.number(s.turned) if s.turned is not None else 0
    cos, sin = cosine(turn), sine(turn)
    if s.second is not None:
        x1, y1 = c.point(s.second)
        dx, dy = x1 - x, y1 - y
        width, height = dx * cos + dy * sin, dy * cos - dx * sin
    else:
        assert s.width is not None
        assert s.height is not None
        width, height = c.length(s.width, "width"), c.length(s.height, "height")
    if width == 0 or height == 0:
        raise Broken("The rectangle would have no size. Change a corner.")

    def at(u: Number, v: Number) -> XY:
        if s.turned is None:
            return (x + u, y + v)
        return (x + u * cos - v * sin, y + u * sin + v * cos)

    # edges: bottom, right, top, left, turned with it; corners from the first point, counter-clockwise
    low, high = (0, height) if height > 0 else (height, 0)
    left, right = (0, width) if width > 0 else (width, 0)
    corners = [at(left, low), at(right, low), at(right, high), at(left, high)]
    first = (0 if height > 0 else 3) if width > 0 else (1 if height > 0 else 2)
    if s.rounded is not None:
        made.corners = _rounded_chain(corners, float(c.length(s.rounded, "radius")), made)
    else:
        made.corners = _closed_chain(corners, made)
    made.corners = made.corners[first:] + made.corners[:first]


def _closed_chain(corners: list[XY], made: ChangeSet) -> list[Corner]:
    """Draw a closed chain of edges; return its corners. Raises Broken."""
    n = len(corners)
    made.group = made.next_group()
    return [(made.edge(corners[k], corners[(k + 1) % n]), 0) for k in range(n)]


def _rounded_chain(corners: list[XY], radius: float, made: ChangeSet) -> list[Corner]:
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
            raise Broken("A corner is too flat to be rounded. Leave rounding out.")
        # radius / tan(half the angle), exact for square ones
        back = radius * (1.0 + ux * vx + uy * vy) / across
        backs.append(back)
        ends.append(((x + ux * back, y + uy * back), (x + vx * back, y + vy * back)))
    edges: list[Ref | None] = []
    for k, side in enumerate(sides):
        spare = side - backs[k] - backs[(k + 1) % n]
        if spare < -side * tol.TOUCHES_SHARE:
            raise Broken(f"A radius of {radius:g} is too large for an edge of {side:g}. Type less.")
        a, b = ends[k][1], ends[(k + 1) % n][0]
        edges.append(made.edge(a, b) if spare > side * tol.TOUCHES_SHARE else None)
    for k in range(1, n + 1):
        a, b = ends[k % n]
        left = side_of(points[(k + 1) % n], Straight(points[k - 1], points[k % n])) > 0.0
        arc = arcs.of_radius(a, b, radius, "left" if left else "right")
        if arc is None:
            raise Broken("A corner is too flat to be rounded. Leave rounding out.")
        made.add(arc)
    return [(edges[k - 1], edges[k]) for k in range(n)]


def _polygon(c: Context, s: Polygon, made: ChangeSet) -> None:
    n = c.count(s.corners, "corners", 3, MOST_CORNERS)
    x, y = c.point(s.centre)
    radius = c.length(s.radius, "radius")
    turn: Number = c.number(s.turned) if s.turned is not None else 90
    step = Fraction(360, n)
    if s.how == "outside":  # about the circle: its edges touch it, the first one's middle at the angle
        radius = radius / cosine(half(step))
        turn = turn - half(step) if not isinstance(turn, float) else turn - float(step) / 2
    corners: list[XY] = []
    for k in range(n):
        at = turn + step * k if not isinstance(turn, float) else turn + float(step) * k
        corners.append((x + radius * cosine(at), y + radius * sine(at)))
    made.corners = _closed_chain(corners, made)


def _polygon_on_edge(c: Context, s: PolygonOnEdge, made: ChangeSet) -> None:
    n = c.count(s.corners, "corners", 3, MOST_CORNERS)
    corners = [c.point(s.start), c.point(s.end)]
    (ax, ay), (bx, by) = corners
    dx, dy = bx - ax, by - ay
    step = Fraction(360, n) if s.side == "left" else -Fraction(360, n)
    x, y = bx, by
    for k in range(1, n - 1):
        cos, sin = cosine(step * k), sine(step * k)
        x, y = x + dx * cos - dy * sin, y + dx * sin + dy * cos
        corners.append((x, y))
    made.corners = _closed_chain(corners, made)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("rectangle", _read_rectangle, (
        SentenceKind("rectangle", Rectangle, _rectangle, DRAWS, (
            Offer("draw", 4, "rectangle", "rectangle ",
                  "rectangle 0, 0; 40 by 26"),
        )),
    )),
    FirstWord("polygon", _read_polygon, (
        SentenceKind("polygon", Polygon, _polygon, DRAWS, (
            Offer("draw", 11, "regular polygon", "polygon ",
                  "polygon 6; centre 0, 0; inside 16"),
        )),
        SentenceKind("polygon edge", PolygonOnEdge, _polygon_on_edge, DRAWS, ()),
    )),
)
# fmt: on
"""Sentences that begin with ``rectangle`` or ``polygon``."""
