"""Dimensions: between points, of edges, radii, diameters, angles; and rows of them.

Figures stand as `drawing.placed` puts them; rows are spaced after ISO 129-1 (from memory).
"""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import DIMENSIONS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import FEATURES, Expression, Ref
from evenmark.core.construct.slots import ROUND, STRAIGHT, more, slot
from evenmark.core.construct.state import Broken, plain
from evenmark.core.construct.things import ends_of
from evenmark.core.construct.words import Unreadable
from evenmark.core.drawing import placed
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.placed import Shown
from evenmark.core.geometry import arcs
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import Straight, beside, far_along, meet, side_of
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import Point, direction_deg, distance, in_sweep, middle

ROW = 2.3
"""How far dimensions from one edge stand apart, as a share of the height of their values."""
PARTS_OF_INCH = 64
MOST_TIMES = 200


class Figure(NamedTuple):
    """Where a value stands, for how many features it holds, and whether it stands in brackets."""

    at: Expression
    times: Typed | None
    brackets: bool


class SizeBetween(NamedTuple):
    """A dimension between two points: horizontal, vertical, or along."""

    points: tuple[Expression, Expression]
    way: str
    figure: Figure


class SizeOfEdge(NamedTuple):
    """The length of an edge."""

    of: Ref
    figure: Figure


class SizeRadius(NamedTuple):
    """The radius of something round."""

    of: Ref
    figure: Figure


class SizeDiameter(NamedTuple):
    """The diameter of something round."""

    of: Ref
    figure: Figure


class SizeAngle(NamedTuple):
    """The angle between two edges in which the figure stands."""

    first: Ref
    second: Ref
    figure: Figure


class SizesFrom(NamedTuple):
    """Dimensions from the first point to each of the others, each line farther out."""

    points: tuple[Expression, ...]
    way: str
    at: Expression


class SizesInRow(NamedTuple):
    """Dimensions one after the other in one line."""

    points: tuple[Expression, ...]
    way: str
    at: Expression


def _read_size(r: Reader) -> Meaning:
    r.first("What is measured")
    if r.takes("radius"):
        round_ = r.feature(ROUND)
        return SizeRadius(round_, _read_figure(r))
    if r.takes("diameter"):
        round_ = r.feature(ROUND)
        return SizeDiameter(round_, _read_figure(r))
    if r.takes("angle"):
        f = r.feature(STRAIGHT)
        r.another("The second edge")
        g = r.feature(STRAIGHT)
        return SizeAngle(f, g, _read_figure(r))
    if r.begins_feature(FEATURES):
        edge = r.feature(STRAIGHT)
        return SizeOfEdge(edge, _read_figure(r))
    p = r.point()
    r.another("The second point")
    q = r.point()
    r.another("Horizontal, vertical or along")
    way = r.one_of((*_WAYS, "along"), "which way", _OLDER_WAYS)
    return SizeBetween((p, q), way, _read_figure(r))


def _read_figure(r: Reader) -> Figure:
    slot(r, "Where its value stands", "at")
    at = r.point()
    times = r.number() if more(r, "times") else None
    brackets = more(r, "brackets")
    if times is None and more(r, "times"):
        times = r.number()
    return Figure(at, times, brackets)


_WAYS = ("horizontal", "vertical")
_OLDER_WAYS = {"across": "horizontal", "up": "vertical"}


def _needs_in_a_chain(r: Reader) -> None:
    if not r.takes_older("in", "a", "row", shown="in a chain"):
        r.needs("in", "a", "chain")


def _read_sizes(r: Reader) -> Meaning:
    meaning: type[SizesFrom] | type[SizesInRow] = SizesInRow
    if r.takes("from"):
        meaning = SizesFrom
    else:
        _needs_in_a_chain(r)
    r.first("The first point")
    points = [r.point()]
    while True:
        r.another("The next point, or which way")
        if (r.begins(*_WAYS) or r.peek() in _OLDER_WAYS) and not _begins_point(r):
            break
        points.append(r.point())
    if len(points) < 2:
        raise Unreadable("A dimension needs two points. Say another one.", r.at)
    way = r.one_of(_WAYS, "which way", _OLDER_WAYS)
    slot(r, "Where the values stand", "at")
    return meaning(tuple(points), way, r.point())


def _begins_point(r: Reader) -> bool:
    """Say whether a word for a way begins a point here (up 12) rather than ending the points."""
    before = r.mark()
    r.takes(r.peek())
    out = not r.slot_ends
    r.back(before)
    return out


def _shown(c: Context, figure: Figure, made: ChangeSet) -> Shown:
    """Return how a size looks: what stands beside its figure, its height, its layer."""
    before, after = "", ""
    if figure.times is not None:
        before = f"{c.count(figure.times, 'features', 1, MOST_TIMES)} × "
    if figure.brackets:
        before, after = f"{before}(", ")"
    return replace(_plain(c, made), before=before, after=after)


def _plain(c: Context, made: ChangeSet) -> Shown:
    return Shown(height=c.setting.height, layer=made.layer)


def _in_parts(c: Context, value: float, shown: Shown) -> Shown:
    """Return how a length is shown: on an inch sheet in parts where it is some."""
    if not c.setting.unit.imperial:
        return shown
    parts = value * PARTS_OF_INCH
    if abs(parts - round(parts)) <= tol.SHOWN_AS_ZERO * PARTS_OF_INCH * (1.0 + value):
        return replace(shown, fractions=True)
    return replace(shown, decimals=4)


def _put(d: Dimension, made: ChangeSet) -> None:
    if d.measured <= 0.0:
        raise Broken("The two points are in line that way, so the value would be 0. Choose another way.")
    made.note("size", d, d.at)


def _linear(c: Context, a: Point, b: Point, way: str, place: Point, shown: Shown, made: ChangeSet) -> None:
    turn = {"horizontal": 0.0, "vertical": 90.0}[way] if way != "along" else direction_deg(a, b)
    size = placed.linear(a, b, turn, place).measured
    _put(placed.linear(a, b, turn, place, _in_parts(c, size, shown)), made)


def _between(c: Context, s: SizeBetween, made: ChangeSet) -> None:
    a, b = (c.place(p) for p in s.points)
    _linear(c, a, b, s.way, c.place(s.figure.at), _shown(c, s.figure, made), made)


def _of_edge(c: Context, s: SizeOfEdge, made: ChangeSet) -> None:
    a, b = (plain(p) for p in ends_of(c.drawn(s.of)))
    if c.drawn(s.of).endless:
        raise Broken("A guide has no length. Choose an edge.")
    _linear(c, a, b, "along", c.place(s.figure.at), _shown(c, s.figure, made), made)


def _radius(c: Context, s: SizeRadius, made: ChangeSet) -> None:
    r, place = c.round(s.of), c.place(s.figure.at)
    shown = _in_parts(c, r.radius, _shown(c, s.figure, made))
    touch = None
    if not r.whole and not in_sweep(arcs.turn_to(place, r.center), r.start_rad, r.sweep_rad):
        touch = r.middle  # the arc is not there where the figure stands
    _put(placed.of_radius(r.center, r.radius, place, touch, shown), made)


def _diameter(c: Context, s: SizeDiameter, made: ChangeSet) -> None:
    r, place = c.round(s.of), c.place(s.figure.at)
    shown = _in_parts(c, 2 * r.radius, _shown(c, s.figure, made))
    _put(placed.of_diameter(r.center, r.radius, place, shown), made)


def _angle(c: Context, s: SizeAngle, made: ChangeSet) -> None:
    f, g, place = c.straight(s.first), c.straight(s.second), c.place(s.figure.at)
    vertex = meet(f, g)
    if vertex is None:
        raise Broken("The edges are parallel, so there is no angle. Choose others.")
    legs = _legs(vertex, f, g, place)
    if legs is None:
        raise Broken("The value stands on one of the edges. Put it between them.")
    _put(placed.of_angle(vertex, *legs, place, _shown(c, s.figure, made)), made)


def _legs(vertex: Point, f: Straight, g: Straight, place: Point) -> tuple[Point, Point] | None:
    """Return a point on each edge's supporting line so that the place lies between the ways to them."""
    reach = max(distance(vertex, place), 1.0)
    for u in (1.0, -1.0):
        for v in (1.0, -1.0):
            a, b = beside(vertex, f.unit, u * reach), beside(vertex, g.unit, v * reach)
            turn = side_of(b, Straight(vertex, a))
            if (
                turn * side_of(place, Straight(vertex, a)) > 0
                and turn * side_of(place, Straight(vertex, b)) < 0
            ):
                return _end_toward(f, vertex, a), _end_toward(g, vertex, b)
    return None


def _end_toward(edge: Straight, vertex: Point, toward: Point) -> Point:
    """Return the end of an edge that lies farthest out along a leg; the point itself where none does."""
    leg = Straight(vertex, toward)
    far = max(edge, key=lambda p: far_along(p, leg))
    return far if far_along(far, leg) > leg.length * tol.WELD_SHARE else toward


def _from_one(c: Context, s: SizesFrom, made: ChangeSet) -> None:
    first, *others = (c.place(p) for p in s.points)
    place, shown = c.place(s.at), _plain(c, made)
    at = 1 if s.way == "horizontal" else 0
    step = ROW * c.setting.height * (1.0 if place[at] >= first[at] else -1.0)
    for k, p in enumerate(others):
        _linear(c, first, p, s.way, _in_line(first, p, place[at] + k * step, at), shown, made)


def _in_line(a: Point, b: Point, level: float, at: int) -> Point:
    """Return a point of the line of a size between two points: half way, at a level across or up."""
    mid = middle(a, b)
    return (mid[0], level) if at == 1 else (level, mid[1])


def _in_row(c: Context, s: SizesInRow, made: ChangeSet) -> None:
    points = [c.place(p) for p in s.points]
    place, shown = c.place(s.at), _plain(c, made)
    at = 1 if s.way == "horizontal" else 0
    for a, b in pairwise(points):
        _linear(c, a, b, s.way, _in_line(a, b, place[at], at), shown, made)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("dimension", _read_size, (
        SentenceKind("dimension", SizeBetween, _between, DIMENSIONS, (
            Offer("annotate", 1, "dimension between two points", "dimension ",
                  "line 0, 0; 40, 0|dimension 0, 0; 40, 0; horizontal; at 20, -12"),
        )),
        SentenceKind("dimension of", SizeOfEdge, _of_edge, DIMENSIONS, (
            Offer("annotate", 2, "dimension of an edge", "dimension ",
                  "line 0, 0; 36, 16|dimension edge 1; at 14, 16"),
        )),
        SentenceKind("dimension radius", SizeRadius, _radius, DIMENSIONS, (
            Offer("annotate", 3, "radius", "dimension radius ",
                  "arc centre 0, 0; from 20, 0; turn 120|dimension radius arc 1; at 22, 22"),
        )),
        SentenceKind("dimension diameter", SizeDiameter, _diameter, DIMENSIONS, (
            Offer("annotate", 4, "diameter", "dimension diameter ",
                  "circle 0, 0; radius 12|dimension diameter circle 1; at 24, 18"),
        )),
        SentenceKind("dimension angle", SizeAngle, _angle, DIMENSIONS, (
            Offer("annotate", 5, "angle", "dimension angle ",
                  "line 0, 0; 40, 0|line 0, 0; 30, 24|dimension angle edge 1; edge 2; at 26, 8"),
        )),
    )),
    FirstWord("dimensions", _read_sizes, (
        SentenceKind("dimensions from", SizesFrom, _from_one, DIMENSIONS, (
            Offer("annotate", 6, "dimensions from one edge", "dimensions from ",
                  "line 0, 0; 40, 0|dimensions from 0, 0; 18, 0; 40, 0; horizontal; at 0, -9"),
        )),
        SentenceKind("dimensions in a chain", SizesInRow, _in_row, DIMENSIONS, (
            Offer("annotate", 7, "dimensions in a chain", "dimensions in a chain ",
                  "line 0, 0; 40, 0|dimensions in a chain 0, 0; 18, 0; 40, 0; horizontal; at 0, -12"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``dimension`` or ``dimensions``."""
