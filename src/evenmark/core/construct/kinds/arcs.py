"""Arcs: by their centre, through three points, by ends and radius."""

from __future__ import annotations

import math
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.circles import draw_through, read_three_points
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression
from evenmark.core.construct.slots import LEFT_RIGHT, begins_a_point, more, slot
from evenmark.core.construct.state import Broken, plain
from evenmark.core.geometry import arcs
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import Point, distance


class ArcByEnds(NamedTuple):
    """An arc from one point to another, of a radius, with its centre on one side."""

    start: Expression
    end: Expression
    radius: Typed
    side: str
    long: bool


class ArcThrough(NamedTuple):
    """An arc from the first of three points through the second to the third."""

    points: tuple[Expression, Expression, Expression]


class ArcByCentre(NamedTuple):
    """An arc about a centre, from a point, by an angle."""

    centre: Expression
    start: Expression
    turn: Typed


def _read(r: Reader) -> Meaning:
    if r.takes("through"):
        return ArcThrough(read_three_points(r))
    if r.begins("centre") and not begins_a_point(r, "centre"):
        r.needs("centre")
        r.first("Its centre")
        center = r.point()
        slot(r, "Where it begins", "from")
        start = r.point()
        slot(r, "How far it turns", "turn")
        return ArcByCentre(center, start, r.number())
    r.first("Where it starts")
    start = r.point()
    r.another("Where it ends")
    end = r.point()
    slot(r, "The radius", "radius")
    radius = r.number()
    r.another("On which side the centre lies")
    side = r.one_of(LEFT_RIGHT, "on which side the centre lies")
    return ArcByEnds(start, end, radius, side, more(r, "long"))


def _through(c: Context, s: ArcThrough, made: ChangeSet) -> None:
    a, b, p = (c.place(said) for said in s.points)
    draw_through(arcs.arc_through(a, b, p), made, begins=a)


def _by_centre(c: Context, s: ArcByCentre, made: ChangeSet) -> None:
    center = c.point(s.centre)
    start, turn = c.place(s.start), float(c.number(s.turn))
    radius = distance(plain(center), start)
    if radius == 0.0 or turn == 0.0:
        raise Broken("The arc would have no size. Change its points or angle.")
    if abs(turn) > 360.0:
        raise Broken("An arc turns by at most 360°. Type less.")
    begin, sweep = arcs.turn_to(start, plain(center)), math.radians(abs(turn))
    made.add(
        Round(plain(center), radius, (begin if turn > 0 else begin - sweep) % math.tau, sweep),
        (center,),
        begins=start,
    )


def _by_ends(c: Context, s: ArcByEnds, made: ChangeSet) -> None:
    a, b, radius = c.place(s.start), c.place(s.end), float(c.length(s.radius, "radius"))
    made.add(arc_of_radius(a, b, radius, s.side, long=s.long), begins=a)


def arc_of_radius(a: Point, b: Point, radius: float, side: str, *, long: bool) -> Round:
    """Return the arc between two points of a radius. Raises Broken where it is too small."""
    found = arcs.of_radius(a, b, radius, side, long=long)
    if found is None:
        least = distance(a, b) / 2
        raise Broken(f"The points are {2 * least:g} apart. The radius has to be at least {least:g}.")
    return found


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("arc", _read, (
        SentenceKind("arc", ArcByEnds, _by_ends, DRAWS, (
            Offer("draw", 7, "arc by ends and radius", "arc ",
                  "arc 0, 0; 40, 0; radius 26; left"),
        )),
        SentenceKind("arc through", ArcThrough, _through, DRAWS, (
            Offer("draw", 6, "arc through three points", "arc through ",
                  "arc through 0, 0; 16, 14; 40, 0"),
        )),
        SentenceKind("arc centre", ArcByCentre, _by_centre, DRAWS, (
            Offer("draw", 5, "arc by centre", "arc centre ",
                  "arc centre 0, 0; from 20, 0; turn 120"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``arc``."""
