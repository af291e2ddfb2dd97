"""Lines between points, from their middle, at an angle to an edge, tangent to what is round; named points."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import unit_between
from evenmark.core.construct.kinds.looks import CHANGE_LINE, ChangeLine
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import CURVES, LEFT_RIGHT, LINES, ROUND, STRAIGHT, begins_a_point, slot
from evenmark.core.construct.state import Broken, plain
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry import nearest, tangents
from evenmark.core.geometry.exact import cosine, sine
from evenmark.core.geometry.numbers import Typed


class LineBetween(NamedTuple):
    """A line between two points."""

    start: Expression
    end: Expression


class LineFromMiddle(NamedTuple):
    """A line of a length about its middle, toward somewhere."""

    at: Expression
    length: Typed
    toward: Expression


class LineByMiddle(NamedTuple):
    """A line from its middle to one of its ends, and as far the other way."""

    at: Expression
    end: Expression


class LineAtAngle(NamedTuple):
    """A line of a length, at an angle to an edge."""

    start: Expression
    length: Typed
    angle: Typed
    to: Ref


class LineSquareToBoth(NamedTuple):
    """The line between two features that is perpendicular to both."""

    first: Ref
    second: Ref


class TangentFrom(NamedTuple):
    """A line from a point, tangent to something round, on one side."""

    of: Ref
    start: Expression
    side: str


class TangentAt(NamedTuple):
    """A line of a length, tangent to something round where its middle lies."""

    of: Ref
    at: Expression
    length: Typed


class TangentToBoth(NamedTuple):
    """One of the four common tangents of two circles."""

    first: Ref
    second: Ref
    which: str


class NamedPoint(NamedTuple):
    """A point under a name."""

    name: str
    at: Expression


def _read_line(r: Reader) -> Meaning:
    if r.at_thing:
        what = r.things()
        r.another("Which line")
        return ChangeLine(what, r.one_of(LINES, "which line"))
    if r.begins("middle") and not begins_a_point(r, "middle"):
        r.needs("middle")
        r.first("Its middle")
        at = r.point()
        r.another("How long, and toward what, or where it ends")
        before = r.mark()
        try:  # a length and a direction begin as a place does
            length = r.number()
            if r.takes("toward"):
                return LineFromMiddle(at, length, r.way())
        except Unreadable:
            pass
        r.back(before)
        return LineByMiddle(at, r.point())
    if r.takes("perpendicular", "to"):
        r.first("The first feature")
        f = r.feature(CURVES)
        r.another("The second feature")
        return LineSquareToBoth(f, r.feature(CURVES))
    if r.takes_tangent_to():
        return _read_tangent(r)
    r.first("Where it starts")
    start = r.point()
    r.another("Where the line ends")
    before = r.mark()
    try:  # a length and an angle to an edge begin as a distance does
        length = r.number()
        if r.takes("at"):
            angle = r.number()
            r.needs("to")
            return LineAtAngle(start, length, angle, r.feature(STRAIGHT))
    except Unreadable:
        pass
    r.back(before)
    return LineBetween(start, r.point())


def _read_tangent(r: Reader) -> Meaning:
    r.first("What it is tangent to")
    f = r.feature(ROUND)
    r.another("Where the line comes from, or what else it is tangent to")
    if r.takes("from"):
        at = r.point()
        r.another("Which side")
        return TangentFrom(f, at, r.one_of(LEFT_RIGHT, "which side"))
    if r.takes("at"):
        at = r.point()
        slot(r, "The length", "length")
        return TangentAt(f, at, r.number())
    g = r.feature(ROUND)
    r.another("Which of the four lines")
    way = r.one_of(("outer", "crossing"), "which line")
    return TangentToBoth(f, g, f"{way} {r.one_of(LEFT_RIGHT, 'which side')}")


def _read_named_point(r: Reader) -> Meaning:
    name = r.name("a name for the point")
    r.another("Where it is")
    return NamedPoint(name, r.point())


def _line(c: Context, s: LineBetween, made: ChangeSet) -> None:
    a = c.point(s.start)
    made.edge(a, c.point(s.end))


def _from_middle(c: Context, s: LineFromMiddle, made: ChangeSet) -> None:
    x, y = c.point(s.at)
    length = c.length(s.length, "length")
    ux, uy = c.angle_from((x, y), s.toward)
    half = length * Fraction(1, 2) if not isinstance(length, float) else length / 2
    made.edge((x - ux * half, y - uy * half), (x + ux * half, y + uy * half))


def _by_middle(c: Context, s: LineByMiddle, made: ChangeSet) -> None:
    x, y = c.point(s.at)
    ex, ey = c.point(s.end)
    made.edge((x - (ex - x), y - (ey - y)), (ex, ey))


def _at_angle(c: Context, s: LineAtAngle, made: ChangeSet) -> None:
    x, y = c.point(s.start)
    edge = c.feature(s.to)
    if len(edge.exact) == 2:
        ux, uy = unit_between(*edge.exact)
    else:
        ux, uy = c.straight(s.to).unit
    turn, length = c.number(s.angle), c.length(s.length, "length")
    cos, sin = cosine(turn), sine(turn)
    end = (x + (ux * cos - uy * sin) * length, y + (ux * sin + uy * cos) * length)
    made.edge((x, y), end)
    c.last = end


def _square_to_both(c: Context, s: LineSquareToBoth, made: ChangeSet) -> None:
    found = nearest.square_to_both(c.curve(s.first), c.curve(s.second))
    if not found:
        raise Broken("No line between them is perpendicular to both. Choose others.")
    made.edge(*found[0])


def _tangent_from(c: Context, s: TangentFrom, made: ChangeSet) -> None:
    p, circle = c.point(s.start), c.round(s.of)
    found = tangents.touching_from(plain(p), circle)
    if not found:
        raise Broken("The point is inside the circle, so it has no tangent. Choose one outside.")
    made.edge(p, found[s.side])


def _tangent_at(c: Context, s: TangentAt, made: ChangeSet) -> None:
    circle, length = c.round(s.of), c.length(s.length, "length")
    at = nearest.on_supporting_line(circle, c.place(s.at))
    made.edge(*tangents.touching_at(circle, at, float(length)))


def _tangent_to_both(c: Context, s: TangentToBoth, made: ChangeSet) -> None:
    found = tangents.touching_both(c.round(s.first), c.round(s.second))
    if s.which not in found:
        others = ", ".join(found) or "none at all"
        raise Broken(f"These circles have no {s.which} tangent. There is: {others}.")
    made.edge(*found[s.which])


def _named_point(c: Context, s: NamedPoint, made: ChangeSet) -> None:
    made.points[s.name] = c.point(s.at)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("line", _read_line, (
        SentenceKind("line", LineBetween, _line, DRAWS, (
            Offer("draw", 1, "line", "line ", "line 0, 0; 40, 26"),
        )),
        SentenceKind("line middle", LineFromMiddle, _from_middle, DRAWS, (
            Offer("draw", 14, "line from its middle", "line middle ",
                  "line middle 0, 0; 40 toward 25"),
        )),
        SentenceKind("line middle to", LineByMiddle, _by_middle, DRAWS, ()),
        SentenceKind("line at", LineAtAngle, _at_angle, DRAWS, ()),
        SentenceKind("line perpendicular to", LineSquareToBoth, _square_to_both, DRAWS, (
            Offer("draw", 19, "line perpendicular to two", "line perpendicular to ",
                  "circle 0, 0; radius 12|circle 40, 0; radius 7|line perpendicular to circle 1; circle 2"),
        )),
        SentenceKind("line tangent from", TangentFrom, _tangent_from, DRAWS, ()),
        SentenceKind("line tangent at", TangentAt, _tangent_at, DRAWS, ()),
        SentenceKind("line tangent to both", TangentToBoth, _tangent_to_both, DRAWS, (
            Offer("draw", 15, "line tangent to two circles", "line tangent to ",
                  "circle 0, 0; radius 12|circle 40, 0; radius 7"
                  "|line tangent to circle 1; circle 2; outer left"),
        )),
        CHANGE_LINE,
    )),
    FirstWord("point", _read_named_point, (
        SentenceKind("point", NamedPoint, _named_point, DRAWS, (
            Offer("draw", 22, "named point", "point ", "circle 0, 0; radius 1"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``line`` or ``point``."""
