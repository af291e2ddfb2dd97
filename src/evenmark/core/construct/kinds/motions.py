"""Things elsewhere: mirrored, moved, copied, turned, scaled, stretched."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import CHANGES, FirstWord, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import STRAIGHT, more, slot
from evenmark.core.construct.state import XY, Broken, edge_between, plain
from evenmark.core.construct.things import (
    ExactTransform,
    ends_of,
    lies_in,
    mirror,
    scale,
    shift,
    stretched,
    things,
    transformed,
    turn,
    window_between,
    with_says,
)
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.exact import share
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import Box, Point


class MirrorThings(NamedTuple):
    """Things, or copies of them, mirrored about an edge or the line through two points."""

    what: Expression
    about: Ref | tuple[Expression, Expression]
    copy: bool


class Move(NamedTuple):
    """Things moved."""

    what: Expression
    by: Expression


class Copy(NamedTuple):
    """Copies of things elsewhere."""

    what: Expression
    by: Expression


class TurnThings(NamedTuple):
    """Things, or copies of them, turned about a point."""

    what: Expression
    about: Expression
    by: Typed
    copy: bool


class Scale(NamedTuple):
    """Things scaled about a point: by a factor, or so that a length becomes another one."""

    what: Expression
    about: Expression
    by: Typed
    becomes: Typed | None


class Stretch(NamedTuple):
    """What lies in a window moved, and what reaches into it stretched."""

    window: tuple[Expression, Expression]
    by: Expression


def _read_mirror(r: Reader) -> MirrorThings:
    r.first("What is mirrored")
    what = r.things()
    slot(r, "About what", "about")
    if r.begins_feature(STRAIGHT):
        edge = r.feature(STRAIGHT)
        return MirrorThings(what, edge, more(r, "copy"))
    p = r.point()
    r.another("The second point of the mirror")
    about = (p, r.point())
    return MirrorThings(what, about, more(r, "copy"))


def _reads_shift(meaning: type[Move] | type[Copy], what_for: str) -> Callable[[Reader], Move | Copy]:
    def reads(r: Reader) -> Move | Copy:
        r.first(what_for)
        what = r.things()
        r.another("By how much")
        return meaning(what, r.shift())

    return reads


def _read_turn(r: Reader) -> TurnThings:
    r.first("What is turned")
    what = r.things()
    slot(r, "About which point", "about")
    about = r.point()
    r.another("By how much")
    by = r.number()
    return TurnThings(what, about, by, more(r, "copy"))


def _read_scale(r: Reader) -> Scale:
    r.first("What is scaled")
    what = r.things()
    slot(r, "About which point", "about")
    about = r.point()
    r.another("By how much")
    first = r.number()
    return Scale(what, about, first, r.number() if r.takes("becomes") else None)


def _read_stretch(r: Reader) -> Stretch:
    r.first("A corner of the window")
    p = r.point()
    r.another("The other corner of the window")
    q = r.point()
    r.another("By how much")
    return Stretch((p, q), r.shift())


def _put(c: Context, what: Expression, way: ExactTransform, made: ChangeSet, *, copy: bool) -> None:
    """Move things, or draw copies of them elsewhere."""
    meant = things(c, what)
    if copy:
        made.copies(transformed(f, way) for f in meant)
        return
    for f in meant:
        made.change(f, transformed(f, way))


def _shift_of(c: Context, by: Expression) -> XY:
    """Return the shift that is said: between two points, or as far as a point from nowhere."""
    if by.how == "between":
        (ax, ay), (bx, by_) = (c.point(p) for p in by.parts)
        return bx - ax, by_ - ay
    last, c.last = c.last, (0, 0)
    found = c.point(by)
    c.last = last
    return found


def _mirror(c: Context, s: MirrorThings, made: ChangeSet) -> None:
    about = s.about
    a, b = ends_of(c.feature(about)) if isinstance(about, Ref) else (c.point(p) for p in about)
    _put(c, s.what, mirror(a, b), made, copy=s.copy)


def _move(c: Context, s: Move, made: ChangeSet) -> None:
    _put(c, s.what, shift(_shift_of(c, s.by)), made, copy=False)


def _copy(c: Context, s: Copy, made: ChangeSet) -> None:
    _put(c, s.what, shift(_shift_of(c, s.by)), made, copy=True)


def _turn(c: Context, s: TurnThings, made: ChangeSet) -> None:
    _put(c, s.what, turn(c.point(s.about), c.number(s.by)), made, copy=s.copy)


def _scale(c: Context, s: Scale, made: ChangeSet) -> None:
    about, by = c.point(s.about), c.length(s.by, "length")
    if s.becomes is not None:
        becomes = c.length(s.becomes, "length")
        by = share(becomes, by)
    _put(c, s.what, scale(about, by), made, copy=False)


def _stretch(c: Context, s: Stretch, made: ChangeSet) -> None:
    window, (dx, dy) = window_between(*(c.point(p) for p in s.window)), _shift_of(c, s.by)
    way = shift((dx, dy))
    c.spend(len(c.state.places))
    touched = 0
    for f in list(c.state.standing()):
        if f.endless:
            continue
        if f.says is not None:
            says = stretched(f.says, lambda p: _in(p, window), plain((dx, dy)))
            if says == f.says:
                continue
            made.change(f, with_says(f, says))
        elif lies_in(f.shape, window) or (
            isinstance(f.shape, Round) and f.shape.whole and _in(f.shape.center, window)
        ):
            made.change(f, transformed(f, way))
        elif isinstance(f.shape, Straight) and any(_in(p, window) for p in f.shape):
            ends = tuple((p[0] + dx, p[1] + dy) if _in(plain(p), window) else p for p in ends_of(f))
            made.replace(f, edge_between(*ends), ends)
        else:
            continue
        touched += 1
    if not touched:
        raise Broken("The window holds no end of an object. Make it larger.")


def _in(p: Point, window: Box) -> bool:
    return window[0] <= p[0] <= window[2] and window[1] <= p[1] <= window[3]


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("mirror", _read_mirror, (
        SentenceKind("mirror", MirrorThings, _mirror, CHANGES, (
            Offer("change", 8, "mirror", "mirror ",
                  "line 20, -4; 20, 34; line chain|circle 8, 14; radius 7"
                  "|mirror circle 2; about edge 1; copy"),
        )),
    )),
    FirstWord("move", _reads_shift(Move, "What is moved"), (
        SentenceKind("move", Move, _move, CHANGES, (
            Offer("change", 9, "move", "move ",
                  "circle 0, 0; radius 8|move circle 1; by 24, 12"),
        )),
    )),
    FirstWord("copy", _reads_shift(Copy, "What is copied"), (
        SentenceKind("copy", Copy, _copy, CHANGES, (
            Offer("change", 10, "copy", "copy ",
                  "circle 0, 0; radius 8|copy circle 1; by 24, 12"),
        )),
    )),
    FirstWord("turn", _read_turn, (
        SentenceKind("turn", TurnThings, _turn, CHANGES, (
            Offer("change", 11, "turn", "turn ",
                  "line 0, 0; 36, 0|turn edge 1; about 0, 0; 35; copy"),
        )),
    )),
    FirstWord("scale", _read_scale, (
        SentenceKind("scale", Scale, _scale, CHANGES, (
            Offer("change", 12, "scale", "scale ",
                  "circle 0, 0; radius 8|scale circle 1; about 0, 0; 2"),
        )),
    )),
    FirstWord("stretch", _read_stretch, (
        SentenceKind("stretch", Stretch, _stretch, CHANGES, (
            Offer("change", 13, "stretch", "stretch ",
                  "rectangle 0, 0; 40 by 26|stretch 20, -5; 60, 40; by 14, 0"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``mirror``, ``move``, ``copy``, ``turn``, ``scale`` or ``stretch``."""
