"""Centre marks, centre lines, and pitch circles with their holes.

They stand on ``centre`` as chain lines unless something else is said; holes stand on the layer that is drawn
on, and never on ``centre`` by themselves."""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import half, unit_between
from evenmark.core.construct.kinds.record import CENTRES, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import ROUND, STRAIGHT, slot
from evenmark.core.construct.state import XY, Broken, edge_between, plain
from evenmark.core.geometry import lines
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.exact import Number, cosine, share, sine
from evenmark.core.geometry.numbers import Typed

CENTRE, OUTLINE = "centre", "outline"
MOST_HOLES = 1_000


class CentreMark(NamedTuple):
    """Two centre lines through the centre of something round, run past it."""

    of: Ref
    past: Typed


class CentreLine(NamedTuple):
    """A centre line between two points, or halfway between two edges, run past them."""

    points: tuple[Expression, Expression] | None
    edges: tuple[Ref, Ref] | None
    past: Typed


class PitchCircle(NamedTuple):
    """A pitch circle and its holes, the first at an angle, the others counter-clockwise from it."""

    centre: Expression
    diameter: Typed
    holes: Typed
    hole: Typed
    first: Typed


def _read_centre(r: Reader) -> Meaning:
    if r.one_of(("mark", "line"), "what") == "mark":
        r.first("What is marked")
        f = r.feature(ROUND)
        slot(r, "How far past", "past")
        return CentreMark(f, r.number())
    r.first("Its first end, or an edge beside it")
    points = edges = None
    if r.begins_feature(STRAIGHT):
        f = r.feature(STRAIGHT)
        r.another("The second edge")
        edges = (f, r.feature(STRAIGHT))
    else:
        p = r.point()
        r.another("The second point")
        points = (p, r.point())
    slot(r, "How far past", "past")
    return CentreLine(points, edges, r.number())


def _read_pitch(r: Reader) -> PitchCircle:
    r.needs("circle")
    r.first("Its centre")
    center = r.point()
    slot(r, "The diameter", "diameter")
    diameter = r.number()
    r.another("How many holes")
    number = r.number()
    r.needs("holes")
    r.first("How wide the holes are")
    r.needs("diameter")
    hole = r.number()
    slot(r, "Where the first one is", "first")
    return PitchCircle(center, diameter, number, hole, r.number())


def _centre_edge(made: ChangeSet, a: XY, b: XY, past: Number) -> None:
    """Draw a centre line between two points, run past them."""
    ux, uy = unit_between(a, b)
    ends = ((a[0] - ux * past, a[1] - uy * past), (b[0] + ux * past, b[1] + uy * past))
    layer, line = made.said_layer or CENTRE, made.line or "chain"
    made.add(edge_between(*ends), ends, layer=layer, line=line)


def _past(c: Context, typed: Typed) -> Number:
    past = c.number(typed)
    if past < 0:
        raise Broken("A centre line runs past by 0 or more. Type 0 or more.")
    return past


def _centre_mark(c: Context, s: CentreMark, made: ChangeSet) -> None:
    f, past = c.feature(s.of), _past(c, s.past)
    assert isinstance(f.shape, Round)
    (x, y), r = f.exact[0] if f.exact else f.shape.center, f.shape.radius
    _centre_edge(made, (x - r, y), (x + r, y), past)
    _centre_edge(made, (x, y - r), (x, y + r), past)


def _centre_line(c: Context, s: CentreLine, made: ChangeSet) -> None:
    if s.points is not None:
        a, b = (c.point(p) for p in s.points)
    else:
        assert s.edges is not None
        f, g = s.edges
        found = lines.halfway(c.straight(f), c.straight(g))
        if found is None:
            raise Broken("The edges are not parallel. Draw a bisector instead.")
        a, b = found
    _centre_edge(made, a, b, _past(c, s.past))


def _pitch_circle(c: Context, s: PitchCircle, made: ChangeSet) -> None:
    x, y = c.point(s.centre)
    radius = half(c.length(s.diameter, "diameter"))
    holes = c.count(s.holes, "holes", 1, MOST_HOLES)
    hole, first = half(c.length(s.hole, "diameter of the holes")), c.number(s.first)
    made.add(
        Round(plain((x, y)), float(radius)),
        ((x, y),),
        layer=made.said_layer or CENTRE,
        line=made.line or "chain",
    )
    if made.said_layer is None and made.layer == CENTRE:
        made.layer = OUTLINE  # holes are no axes
    for k in range(holes):
        at = first + share(360 * k, holes)
        made.circle((x + radius * cosine(at), y + radius * sine(at)), hole)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("centre", _read_centre, (
        SentenceKind("centre mark", CentreMark, _centre_mark, CENTRES, (
            Offer("help", 6, "centre mark", "centre mark ",
                  "circle 0, 0; radius 12|centre mark circle 1; past 5"),
        )),
        SentenceKind("centre line", CentreLine, _centre_line, CENTRES, (
            Offer("help", 7, "centre line", "centre line ",
                  "line 0, 0; 40, 0|line 0, 20; 40, 20|centre line edge 1; edge 2; past 4"),
        )),
    )),
    FirstWord("pitch", _read_pitch, (
        SentenceKind("pitch circle", PitchCircle, _pitch_circle, CENTRES, (
            Offer("help", 8, "pitch circle with holes", "pitch circle ",
                  "pitch circle 0, 0; diameter 30; 6 holes diameter 7; first 90"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``centre`` or ``pitch``."""
