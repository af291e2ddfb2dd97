"""Straight pieces that follow from others: perpendiculars, bisectors, the shortest between two."""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import unit_of
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import CURVES, STRAIGHT, slot
from evenmark.core.construct.state import Broken
from evenmark.core.geometry import lines, nearest
from evenmark.core.geometry.numbers import Typed

_SIDES = ("left", "right", "inside", "outside")


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


def _read_perpendicular(r: Reader) -> Meaning:
    r.first("Perpendicular to what")
    f = r.feature(CURVES)
    r.another("At which point, or from which")
    if r.takes("from"):
        return PerpendicularFrom(f, r.point())
    r.needs("at")
    at = r.point()
    slot(r, "The length", "length")
    length = r.number()
    r.another("Which side")
    return Perpendicular(f, at, length, r.one_of(_SIDES, "which side"))


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
        raise Broken("The edges are parallel and have no bisector. Use a centre line.")
    end = lines.beside(at, way, length)
    made.edge(at, end)
    c.last = end


def _bisector_of_points(c: Context, s: BisectorOfPoints, made: ChangeSet) -> None:
    length = float(c.length(s.length, "length"))
    p, q, r = (c.place(said) for said in s.points)
    way = lines.between(q, p, r)
    if way is None:
        raise Broken("Two of the points are the same, so there is no angle. Choose another one.")
    end = lines.beside(q, way, length)
    made.edge(q, end)
    c.last = end


def _shortest(c: Context, s: Shortest, made: ChangeSet) -> None:
    found = nearest.shortest(c.curve(s.first), c.curve(s.second))
    if found.length == 0.0:
        raise Broken("They touch or cross, so nothing is between them. Choose others.")
    made.edge(*found)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("perpendicular", _read_perpendicular, (
        SentenceKind("perpendicular", Perpendicular, _perpendicular, DRAWS, (
            Offer("draw", 18, "perpendicular to a line", "perpendicular ",
                  "line 0, 0; 40, 10|perpendicular edge 1; at 20, 5; length 18; left"),
        )),
        SentenceKind("perpendicular from", PerpendicularFrom, _perpendicular_from, DRAWS, ()),
    )),
    FirstWord("bisector", _read_bisector, (
        SentenceKind("bisector", BisectorOfEdges, _bisector_of_edges, DRAWS, (
            Offer("draw", 20, "bisector", "bisector ",
                  "line 0, 0; 40, 0|line 0, 0; 0, 30|bisector edge 1; edge 2; length 34"),
        )),
        SentenceKind("bisector of points", BisectorOfPoints, _bisector_of_points, DRAWS, ()),
    )),
    FirstWord("shortest", _read_shortest, (
        SentenceKind("shortest", Shortest, _shortest, DRAWS, (
            Offer("draw", 21, "shortest link", "shortest ",
                  "circle 0, 0; radius 12|circle 40, 0; radius 7|shortest circle 1; circle 2"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``square``, ``bisector`` or ``shortest``."""
