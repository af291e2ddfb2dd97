"""Slots with round ends, and ellipses."""

from __future__ import annotations

import math
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import half, unit_between
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression
from evenmark.core.construct.slots import begins_a_point, more, slot
from evenmark.core.construct.state import XY, Broken, plain
from evenmark.core.construct.words import Unreadable
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import FreeCurve
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Round, turn_to
from evenmark.core.geometry.deterministic import cos_sin
from evenmark.core.geometry.exact import Number, cosine, sine
from evenmark.core.geometry.lines import Straight, side_of
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import TAU, distance

ALONG_AN_ELLIPSE = 1_440
"""Along how many points an ellipse is kept; one of them on each end of its axes."""


class Slot(NamedTuple):
    """A slot with round ends, by the centres of its ends and its width."""

    first: Expression
    second: Expression
    width: Typed


class SlotByLength(NamedTuple):
    """A slot with round ends about its middle: how long it is over all, and how wide; turned."""

    middle: Expression
    length: Typed
    width: Typed
    turned: Typed | None


class Ellipse(NamedTuple):
    """An ellipse about its centre: how wide and how high it is; turned."""

    centre: Expression
    width: Typed
    height: Typed
    turned: Typed | None


class EllipseByAxes(NamedTuple):
    """An ellipse about its centre, with the end of one axis; a third point is as far from that axis as the
    other one is long from the centre."""

    centre: Expression
    end: Expression
    other: Expression


def _two_lengths(r: Reader) -> tuple[Typed, Typed]:
    first = r.number()
    r.needs("by")
    return first, r.number()


def _read_slot(r: Reader) -> Meaning:
    r.first("The centre of its first end, or its middle")
    if not begins_a_point(r, "middle") and r.takes("middle"):
        middle = r.point()
        r.another("Its length by its width")
        length, width = _two_lengths(r)
        return SlotByLength(middle, length, width, r.number() if more(r, "turned") else None)
    first = r.point()
    r.another("The centre of its second end")
    second = r.point()
    slot(r, "Its width", "width")
    return Slot(first, second, r.number())


def _read_ellipse(r: Reader) -> Meaning:
    r.first("Its centre")
    centre = r.point()
    r.another("The end of an axis, or width by height")
    before = r.mark()
    try:
        width, height = _two_lengths(r)
    except Unreadable:
        r.back(before)
        end = r.point()
        r.another("How far the other axis goes")
        return EllipseByAxes(centre, end, r.point())
    return Ellipse(centre, width, height, r.number() if more(r, "turned") else None)


def _slot(c: Context, s: Slot, made: ChangeSet) -> None:
    first, second = c.point(s.first), c.point(s.second)
    width = c.length(s.width, "width")
    if plain(first) == plain(second):
        raise Broken("Both end centres are the same point. Draw a circle instead.")
    _round_ended(first, second, half(width), made)


def _slot_by_length(c: Context, s: SlotByLength, made: ChangeSet) -> None:
    x, y = c.point(s.middle)
    length, width = c.length(s.length, "length"), c.length(s.width, "width")
    if length <= width:
        raise Broken("The slot is not longer than wide. Make it longer.")
    turn: Number = c.number(s.turned) if s.turned is not None else 0
    off = half(length - width)
    dx, dy = off * cosine(turn), off * sine(turn)
    _round_ended((x - dx, y - dy), (x + dx, y + dy), half(width), made)


def _round_ended(first: XY, second: XY, radius: Number, made: ChangeSet) -> None:
    """Draw a slot counter-clockwise: the edge on the right of the way from one centre to the other, the arc
    about the second, the other edge, the arc about the first."""
    ux, uy = unit_between(first, second)

    def beside(p: XY, by: Number) -> XY:
        return (p[0] - uy * by, p[1] + ux * by)

    made.group = made.next_group()
    right, left = beside(second, -radius), beside(second, radius)
    refs = [made.edge(beside(first, -radius), right)]
    refs.append(made.add(_half_turn(second, right, radius), (second,)))
    refs.append(made.edge(left, beside(first, radius)))
    refs.append(made.add(_half_turn(first, beside(first, radius), radius), (first,)))
    made.corners = [(ref, 0) for ref in refs]


def _half_turn(center: XY, start: XY, radius: Number) -> Round:
    return Round(plain(center), float(radius), turn_to(plain(start), plain(center)), math.pi)


def _ellipse(c: Context, s: Ellipse, made: ChangeSet) -> None:
    centre = c.point(s.centre)
    width, height = c.length(s.width, "width"), c.length(s.height, "height")
    turn: Number = c.number(s.turned) if s.turned is not None else 0
    _draw_ellipse(centre, (cosine(turn), sine(turn)), half(width), half(height), made)


def _ellipse_by_axes(c: Context, s: EllipseByAxes, made: ChangeSet) -> None:
    centre, end = c.point(s.centre), c.point(s.end)
    a, b = plain(centre), plain(end)
    way = unit_between(centre, end)
    other = abs(side_of(c.place(s.other), Straight(a, b)))
    if other <= tol.TOUCHES_SHARE * distance(a, b):
        raise Broken("The third point is on the first axis. Choose another one.")
    c.last = centre
    _draw_ellipse(centre, way, distance(a, b), other, made)


def _draw_ellipse(
    centre: XY, way: tuple[Number, Number], along: Number, across: Number, made: ChangeSet
) -> None:
    """Draw an ellipse as points on it, counter-clockwise from the end of its first axis; equal axes make a
    circle."""
    long, short = float(max(along, across)), float(min(along, across))
    if long - short <= tol.EQUAL_AXES_SHARE * long:
        made.circle(centre, along)
        return
    (x, y), (ux, uy) = plain(centre), (float(way[0]), float(way[1]))
    a, b = float(along), float(across)
    points = []
    for k in range(ALONG_AN_ELLIPSE):
        cos, sin = cos_sin(TAU * k / ALONG_AN_ELLIPSE)
        u, v = a * cos, b * sin
        points.append((x + ux * u - uy * v, y + uy * u + ux * v))
    points.append(points[0])
    made.note("curve", FreeCurve(tuple(points), "ellipse", "", Style(), ""), points[0])


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("slot", _read_slot, (
        SentenceKind("slot", Slot, _slot, DRAWS, (
            Offer("draw", 12, "slot with round ends", "slot ",
                  "slot 0, 0; 30, 8; width 12"),
        )),
        SentenceKind("slot by length", SlotByLength, _slot_by_length, DRAWS, ()),
    )),
    FirstWord("ellipse", _read_ellipse, (
        SentenceKind("ellipse", Ellipse, _ellipse, DRAWS, (
            Offer("draw", 13, "ellipse", "ellipse ",
                  "ellipse 0, 0; 40 by 22; turned 15"),
        )),
        SentenceKind("ellipse by axes", EllipseByAxes, _ellipse_by_axes, DRAWS, ()),
    )),
)
# fmt: on
"""Sentences that begin with ``slot`` or ``ellipse``."""
