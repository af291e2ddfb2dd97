"""Guides, and points carried from one view to another.

A guide is endless and stands on the layer ``construction`` unless another is said.
"""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import HELPS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import STRAIGHT
from evenmark.core.construct.state import XY, Broken, edge_between
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.exact import Number, cosine, share, sine
from evenmark.core.geometry.numbers import Typed

CONSTRUCTION = "construction"


class Guide(NamedTuple):
    """A guide through a point: horizontal, vertical, or at an angle."""

    through: Expression
    how: str
    angle: Typed | None


class Mitre(NamedTuple):
    """The line at 45 degrees round which depths are carried."""

    through: Expression


class Carry(NamedTuple):
    """A point carried to another view: horizontal, vertical, or round a mitre line."""

    start: Expression
    how: str
    round: Ref | None


def _is_value(r: Reader) -> bool:
    """Say whether an angle stands here, through a point: a value may have the name of a way."""
    before = r.mark()
    try:
        r.number()
        return r.takes("through")
    except Unreadable:
        return False
    finally:
        r.back(before)


def _read_guide(r: Reader) -> Guide:
    for word in ("horizontal", "vertical"):
        before = r.mark()
        if r.takes(word):
            r.first("Through which point")
            try:
                return Guide(r.point(), word, None)
            except Unreadable:
                r.back(before)
                if not _is_value(r):
                    raise
    angle = r.number()
    r.needs("through")
    r.first("Through which point")
    return Guide(r.point(), "angle", angle)


def _read_mitre(r: Reader) -> Mitre:
    r.first("Through which point")
    return Mitre(r.point())


def _read_carry(r: Reader) -> Meaning:
    r.first("Which point is carried over")
    p = r.point()
    r.another("Horizontal, vertical or round the mitre")
    how = r.one_of(("horizontal", "vertical", "round"), "which way")
    return Carry(p, how, r.feature(STRAIGHT) if how == "round" else None)


def _through(made: ChangeSet, p: XY, way: tuple[Number, Number]) -> None:
    other = (p[0] + way[0], p[1] + way[1])
    layer = made.said_layer or CONSTRUCTION
    made.add(edge_between(p, other), (p, other), kind="guide", layer=layer)


def _guide(c: Context, s: Guide, made: ChangeSet) -> None:
    p = c.point(s.through)
    if s.angle is not None:
        degrees = c.number(s.angle)
        _through(made, p, (cosine(degrees), sine(degrees)))
    else:
        _through(made, p, (1, 0) if s.how == "horizontal" else (0, 1))


def _mitre(c: Context, s: Mitre, made: ChangeSet) -> None:
    _through(made, c.point(s.through), (1, 1))


def _carry(c: Context, s: Carry, made: ChangeSet) -> None:
    """Carry a point to another view: horizontal, vertical, or horizontal to the mitre and vertical "
    "from there."""
    p = c.point(s.start)
    if s.how == "vertical":
        _through(made, p, (0, 1))
        return
    _through(made, p, (1, 0))
    if s.round is not None:
        (ax, ay), (bx, by) = c.feature(s.round).exact or c.straight(s.round)
        if ay == by:
            raise Broken("The mitre is horizontal, so a horizontal guide never meets it. Draw it at 45°.")
        x = ax + (bx - ax) * share(p[1] - ay, by - ay)
        _through(made, (x, p[1]), (0, 1))


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("guide", _read_guide, (
        SentenceKind("guide", Guide, _guide, HELPS, (
            Offer("help", 1, "horizontal guide", "guide horizontal ",
                  "circle 0, 0; radius 10|guide horizontal 0, 10"),
            Offer("help", 2, "vertical guide", "guide vertical ",
                  "circle 0, 0; radius 10|guide vertical 10, 0"),
            Offer("help", 3, "guide at an angle", "guide ",
                  "circle 0, 0; radius 10|guide 30 through 0, 0"),
        )),
    )),
    FirstWord("mitre", _read_mitre, (
        SentenceKind("mitre", Mitre, _mitre, HELPS, (
            Offer("help", 4, "mitre line", "mitre ", "guide horizontal 0, 0|mitre 0, 0"),
        )),
    )),
    FirstWord("carry", _read_carry, (
        SentenceKind("carry", Carry, _carry, HELPS, (
            Offer("help", 5, "carry to another view", "carry ",
                  "circle 0, 0; radius 10|carry quarter of circle 1 above; horizontal"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``guide``, ``mitre`` or ``carry``."""
