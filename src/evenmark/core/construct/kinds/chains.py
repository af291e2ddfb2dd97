"""Chains: lines and arcs one behind the other, which are one outline."""

from __future__ import annotations

from typing import Literal, NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import unit_of
from evenmark.core.construct.kinds.arcs import arc_of_radius
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression
from evenmark.core.construct.slots import LEFT_RIGHT
from evenmark.core.construct.state import XY, Broken, plain
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry import arcs
from evenmark.core.geometry.arcs import Curve
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import Point, distance


class Piece(NamedTuple):
    """One piece of a chain: a line or an arc that leaves smoothly, goes through a point or has a radius; and
    where it ends."""

    how: Literal["line", "smooth", "through", "radius"]
    to: Expression
    through: Expression | None = None
    radius: Typed | None = None
    side: str = ""
    long: bool = False


class Chain(NamedTuple):
    """Pieces one behind the other, closed to where they start or not."""

    start: Expression
    pieces: tuple[Piece, ...]
    close: bool


def _read(r: Reader) -> Chain:
    r.first("Where it starts")
    start = r.point()
    pieces: list[Piece] = []
    close = False
    while True:
        before = r.mark()
        if not r.next_slot():
            break
        if r.takes("close"):
            close = True
            break
        if r.begins("layer", "line"):
            r.back(before)
            break
        pieces.append(_read_piece(r))
    if not pieces:
        raise Unreadable("Where the chain goes is missing here. Say a point.", r.at)
    return Chain(start, tuple(pieces), close)


def _read_piece(r: Reader) -> Piece:
    if r.takes("tangent", "arc", "to") or r.takes_older("smooth", "arc", "to", shown="tangent arc to"):
        return Piece("smooth", r.point())
    if r.takes("arc", "through"):
        p = r.point()
        r.needs("to")
        return Piece("through", r.point(), through=p)
    if r.takes("arc", "to"):
        p = r.point()
        r.needs("radius")
        radius = r.number()
        side = r.one_of(LEFT_RIGHT, "on which side the centre lies")
        return Piece("radius", p, None, radius, side, r.takes("long"))
    return Piece("line", r.point())


def _build(c: Context, s: Chain, made: ChangeSet) -> None:
    start = here = c.point(s.start)
    made.group = made.next_group()
    way: Point | None = None
    for piece in s.pieces:
        here, way = _drawn(c, piece, here, way, made)
        c.last = here
    if s.close and plain(here) != plain(start):
        made.edge(here, start)
    if s.close:
        c.last = start
    features = [change.after for change in made.changes if change.after is not None]
    made.corners = [(f.ref, 0) for f in features]
    if not s.close and features:
        made.corners.append((features[-1].ref, 1))


def _drawn(c: Context, piece: Piece, here: XY, way: Point | None, made: ChangeSet) -> tuple[XY, Point]:
    """Draw one piece of a chain; return where it ends, and in which direction."""
    a = plain(here)
    if piece.how == "line":
        there = c.point(piece.to)
        made.edge(here, there)
        return there, Straight(a, plain(there)).unit
    through = c.place(piece.through) if piece.through is not None else None
    there = c.point(piece.to)
    shape = _arc(c, piece, a, way, through, plain(there))
    made.add(shape, (here, there) if isinstance(shape, Straight) else (shape.center,), begins=a)
    if isinstance(shape, Straight):
        return there, shape.unit
    ccw = distance(shape.start, a) <= distance(shape.end, a)
    (ux, uy) = unit_of(shape, plain(there))
    return there, (ux, uy) if ccw else (-ux, -uy)


def _arc(c: Context, piece: Piece, a: Point, way: Point | None, through: Point | None, b: Point) -> Curve:
    """Return the arc of a piece from one point to another; a smooth one may be straight. Raises Broken."""
    if piece.how == "smooth":
        if way is None:
            raise Broken("A tangent arc needs a line or arc before it. Begin with one.")
        smooth = arcs.leaving(a, way, b)
        if smooth is None:
            raise Broken("No tangent arc ends there. Choose another point.")
        return smooth
    if through is not None:
        found = arcs.arc_through(a, through, b)
        if found is None:
            raise Broken("The three points are in one line, so no arc goes through them. Move one.")
        return found
    assert piece.radius is not None
    return arc_of_radius(a, b, float(c.length(piece.radius, "radius")), piece.side, long=piece.long)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("chain", _read, (
        SentenceKind("chain", Chain, _build, DRAWS, (
            Offer("draw", 2, "chain of lines", "chain ",
                  "chain 0, 0; right 30; up 14; left 12; up 14; left 18; close"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``chain``."""
