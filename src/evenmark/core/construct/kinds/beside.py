"""Straight pieces that follow from others: parallels, perpendiculars, bisectors, the shortest between two."""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import unit_between, unit_of
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Expression, Reader, Ref
from evenmark.core.construct.slots import CURVES, STRAIGHT, more, slot
from evenmark.core.construct.state import XY, Broken
from evenmark.core.geometry import lines, nearest, offsets
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.numbers import Typed

MOST_COPIES = 1_000
_PARALLEL_SIDES = ("left", "right", "inside", "outside")


class Parallel(NamedTuple):
    """Parallels of a feature, each a gap farther to one side."""

    of: Ref
    gap: Typed
    side: str
    times: Typed | None


class Perpendicular(NamedTuple):
    """A line of a length, perpendicular to a feature at a place, to one side."""

    of: Ref
    at: Expression
    length: Typed
    side: str


class PerpendicularFrom(NamedTuple):
    """A line from a point, perpendicular to a feature, down to it."""

    of: Ref
    start: Expression


class BisectorOfEdges(NamedTuple):
    """A line of a length from where two edges meet, halfway between them."""

    first: Ref
    second: Ref
    length: Typed


class BisectorOfPoints(NamedTuple):
    """A line of a length from the second of three points, halfway between the ways to the others."""

    points: tuple[Expression, Expression, Expression]
    length: Typed


class Shortest(NamedTuple):
    """The shortest line between two features."""

    first: Ref
    second: Ref


def _read_parallel(r: Reader) -> Parallel:
    r.first("Parallel to what")
    f = r.feature(CURVES)
    slot(r, "The gap", "gap")
    gap = r.number()
    r.another("Which side")
    side = r.one_of(_PARALLEL_SIDES, "which side")
    return Parallel(f, gap, side, r.number() if more(r, "times") else None)


def _read_square(r: Reader) -> Meaning:
    r.first("Square to what")
    f = r.feature(CURVES)
    r.another("At which point, or from which")
    if r.takes("from"):
        return PerpendicularFrom(f, r.point())
    r.needs("at")
    at = r.point()
    slot(r, "The length", "length")
    length = r.number()
    r.another("Which side")
    return Perpendicular(f, at, length, r.one_of(_PARALLEL_SIDES, "which side"))


def _read_bisector(r: Reader) -> Meaning:
    r.first("The first side, or a point on it")
    if r.begins_feature(STRAIGHT):
        f = r.feature(STRAIGHT)
        r.another("The second edge")
        g = r.feature(STRAIGHT)
        slot(r, "The length", "length")
        return BisectorOfEdges(f, g, r.number())
    p = r.point()
    r.another("The second point")
    q = r.point()
    r.another("The third point")
    points = (p, q, r.point())
    slot(r, "The length", "length")
    return BisectorOfPoints(points, r.number())


def _read_shortest(r: Reader) -> Shortest:
    r.first("From what")
    f = r.feature(CURVES)
    r.another("The second feature")
    return Shortest(f, r.feature(CURVES))


def _parallel(c: Context, s: Parallel, made: ChangeSet) -> None:
    f, gap = c.feature(s.of), c.length(s.gap, "gap")
    times = c.count(s.times, "parallels", 1, MOST_COPIES) if s.times is not None else 1
    if isinstance(f.shape, Straight) and s.side not in ("left", "right"):
        raise Broken("An edge has a left and a right side, seen along it.")
    for k in range(1, times + 1):
        found = offsets.beside(f.shape, float(gap * k), s.side)
        if found is None:
            raise Broken(f"The radius is {c.round(s.of).radius:g}: there is no parallel so far inside.")
        made.add(found, _parallel_ends(f.exact, f.shape, gap * k, s.side))


def _parallel_ends(exact: tuple[XY, ...], shape: Curve, gap: Number, side: str) -> tuple[XY, ...]:
    """Return the ends of a parallel as exactly as they are known: along the axes, as those of its edge."""
    if isinstance(shape, Round):
        return exact
    if len(exact) != 2:
        return ()
    ux, uy = unit_between(*exact)
    off = gap if side == "left" else -gap
    return tuple((x - uy * off, y + ux * off) for x, y in exact)


def _perpendicular(c: Context, s: Perpendicular, made: ChangeSet) -> None:
    shape, length = c.curve(s.of), c.length(s.length, "length")
    at = nearest.on(shape, c.place(s.at))
    (ux, uy) = unit_of(shape, at)
    side = {"inside": "left", "outside": "right"}.get(s.side, s.side)
    across = lines.left_of((ux, uy)) if side == "left" else (uy, -ux)
    end = lines.beside(at, across, float(length))
    made.edge(at, end)
    c.last = end


def _perpendicular_from(c: Context, s: PerpendicularFrom, made: ChangeSet) -> None:
    p = c.point(s.start)
    foot = c.point(Expression("foot", (s.of, s.start)))
    made.edge(p, foot)


def _bisector_of_edges(c: Context, s: BisectorOfEdges, made: ChangeSet) -> None:
    length = float(c.length(s.length, "length"))
    f, g = c.straight(s.first), c.straight(s.second)
    at, way = lines.meet(f, g), lines.bisector(f, g)
    if at is None or way is None:
        raise Broken("The edges are parallel: a centre line lies half way between them.")
    end = lines.beside(at, way, length)
    made.edge(at, end)
    c.last = end


def _bisector_of_points(c: Context, s: BisectorOfPoints, made: ChangeSet) -> None:
    length = float(c.length(s.length, "length"))
    p, q, r = (c.place(said) for said in s.points)
    way = lines.between(q, p, r)
    if way is None:
        raise Broken("Two of the points are one: they hold no angle.")
    end = lines.beside(q, way, length)
    made.edge(q, end)
    c.last = end


def _shortest(c: Context, s: Shortest, made: ChangeSet) -> None:
    found = nearest.shortest(c.curve(s.first), c.curve(s.second))
    if found.length == 0.0:
        raise Broken("They touch or cross: there is nothing between them.")
    made.edge(*found)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("parallel", _read_parallel, (
        SentenceKind("parallel", Parallel, _parallel, DRAWS, (
            Offer("draw", 14, "parallel", "parallel ", "gap at a distance copy beside",
                  "line 0, 0; 40, 10|parallel edge 1; gap 10; left"),
        )),
    )),
    FirstWord("square", _read_square, (
        SentenceKind("square", Perpendicular, _perpendicular, DRAWS, (
            Offer("draw", 15, "square to a line", "square ", "perpendicular normal right angle",
                  "line 0, 0; 40, 10|square edge 1; at 20, 5; length 18; left"),
        )),
        SentenceKind("square from", PerpendicularFrom, _perpendicular_from, DRAWS, ()),
    )),
    FirstWord("bisector", _read_bisector, (
        SentenceKind("bisector", BisectorOfEdges, _bisector_of_edges, DRAWS, (
            Offer("draw", 17, "bisector", "bisector ", "halve angle half",
                  "line 0, 0; 40, 0|line 0, 0; 0, 30|bisector edge 1; edge 2; length 34"),
        )),
        SentenceKind("bisector of points", BisectorOfPoints, _bisector_of_points, DRAWS, ()),
    )),
    FirstWord("shortest", _read_shortest, (
        SentenceKind("shortest", Shortest, _shortest, DRAWS, (
            Offer("draw", 18, "shortest link", "shortest ", "distance nearest connection",
                  "circle 0, 0; radius 12|circle 40, 0; radius 7|shortest circle 1; circle 2"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``parallel``, ``square``, ``bisector`` or ``shortest``."""
