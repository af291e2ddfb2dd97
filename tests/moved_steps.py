"""The same construction from givens that were shifted, turned or mirrored (left for right): every coordinate,
direction and side that a sentence says is moved as the drawing is."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from evenmark.core.construct.kinds import (
    arcs,
    beside,
    centres,
    chains,
    circles,
    guides,
    keeping,
    lettering,
    lines,
    long_rounds,
    motions,
    outlines,
    parallels,
    repeats,
    sheets,
    sizes,
)
from evenmark.core.construct.references import Expression
from evenmark.core.construct.sentences import Sentence
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.similarities import Similarity

SWAPPED = {"left": "right", "right": "left"}
WAYS = {"right": 0, "up": 90, "left": 180, "down": 270}
QUARTERS = {"right": 0, "above": 90, "left": 180, "below": 270}


class NotMoved(Exception):
    """A sentence says something that has no moved counterpart, as a level guide turned by 30 degrees."""


def number(value: Any) -> Typed:
    """A number as it is typed."""
    return Typed("number", (value,))


@dataclass
class Moving:
    """What is done to the givens: mirrored first, then turned by degrees, then shifted."""

    shift: tuple[int, int] = (0, 0)
    turn: int = 0
    mirror: bool = False

    @property
    def motion(self) -> Similarity:
        """The same as a motion of the drawing."""
        return Similarity(mirror=self.mirror, turn_deg=float(self.turn), shift=self.shift)

    # numbers

    def vector(self, x: Typed, y: Typed) -> tuple[Typed, Typed]:
        if self.mirror:
            x = Typed("neg", (x,))
        if self.turn % 360 == 0:
            return x, y
        cos, sin = (number(f(math.radians(self.turn))) for f in (math.cos, math.sin))
        if self.turn % 90 == 0:
            k = self.turn // 90 % 4
            cos, sin = number((1, 0, -1, 0)[k]), number((0, 1, 0, -1)[k])
        return (
            Typed("-", (Typed("*", (x, cos)), Typed("*", (y, sin)))),
            Typed("+", (Typed("*", (x, sin)), Typed("*", (y, cos)))),
        )

    def angle(self, a: Typed) -> Typed:
        """A direction."""
        if self.mirror:
            a = Typed("-", (number(180), a))
        return Typed("+", (a, number(self.turn)))

    def turned(self, a: Typed) -> Typed:
        """A turn."""
        return Typed("neg", (a,)) if self.mirror else a

    def measure(self, t: Typed) -> Typed:
        """A number; directions that it measures are not."""
        if any(isinstance(p, Expression) and p.how == "angle" for p in t.parts):
            raise NotMoved("measures a direction")
        parts = tuple(self.of(p) if isinstance(p, Expression | Typed) else p for p in t.parts)
        return Typed(t.op, parts)

    # what is said

    def of(self, v: Any) -> Any:
        """Any part of a sentence."""
        if isinstance(v, Typed):
            return self.measure(v)
        if isinstance(v, Expression):
            return self.said(v)
        if isinstance(v, str):
            return v
        if isinstance(v, chains.Piece):
            parts = dict(zip(v._fields, map(self.of, v), strict=True))
            return chains.Piece(**{**parts, **_side(self, v)})
        if isinstance(v, sizes.Figure):
            return sizes.Figure(*map(self.of, v))
        if isinstance(v, tuple) and not hasattr(v, "_fields"):
            return tuple(map(self.of, v))
        return v

    def way(self, word: str) -> int:
        at = WAYS[word]
        return ((180 - at) if self.mirror else at) + self.turn

    def said(self, s: Expression) -> Expression:
        how, parts = s.how, s.parts
        if how == "at":
            x, y = self.vector(*map(self.measure, parts))
            dx, dy = map(number, self.shift)
            return Expression("at", (Typed("+", (x, dx)), Typed("+", (y, dy))))
        if how == "by":
            return Expression("by", (*self.vector(*map(self.measure, parts[:2])), self.of(parts[2])))
        if how == "axis":
            way = Expression("angle", (number(self.way(parts[0])),))
            return Expression("toward", (self.measure(parts[1]), way, self.of(parts[2])))
        if how == "angle" and isinstance(parts[0], Typed):
            return Expression("angle", (self.angle(parts[0]),))
        if how == "square":
            return Expression("square", (parts[0], parts[1], self.side(parts[2]), self.of(parts[3])))
        if how == "touch":
            return Expression("touch", (parts[0], self.of(parts[1]), self.side(parts[2])))
        if how == "quarter":
            return Expression("quarter", (parts[0], self.quarter(parts[1])))
        if how == "level":
            p, q = map(self.of, parts)
            return Expression("level", (q, p) if self.quarters() % 2 else (p, q))
        if how == "corner" and self.mirror:
            raise NotMoved("corners are counted counter-clockwise")
        if how == "crossing" and parts[2] is None and (self.turn or self.mirror):
            raise NotMoved("a circle is walked from its right quarter")
        if how == "inside" and self.turn % 90:
            raise NotMoved("a window is level")
        return Expression(how, tuple(map(self.of, parts)))

    def side(self, side: str) -> str:
        return SWAPPED.get(side, side) if self.mirror else side

    def quarters(self) -> int:
        if self.turn % 90:
            raise NotMoved("level and plumb")
        return self.turn // 90 % 4

    def quarter(self, which: str) -> str:
        at = QUARTERS[which]
        at = (180 - at if self.mirror else at) + 90 * self.quarters()
        return next(k for k, v in QUARTERS.items() if v == at % 360)

    def sentence(self, s: Sentence) -> Sentence:
        """A whole sentence."""
        meaning = s.meaning
        change = _CHANGES.get(type(meaning))
        parts = dict(zip(meaning._fields, map(self.of, meaning), strict=True))  # type: ignore[attr-defined]
        own = change(self, meaning) if change is not None else {}
        return s._replace(meaning=type(meaning)(**{**parts, **own}))

    def way_by(self, by: Expression) -> Expression:
        """By how much something is moved: a way, and no place."""
        if by.how == "between":
            return self.said(by)  # from one place to another
        return Moving((0, 0), self.turn, self.mirror).said(by)

    def level_or_plumb(self, how: str) -> str:
        return (
            {"horizontal": "vertical", "vertical": "horizontal"}.get(how, how) if self.quarters() % 2 else how
        )

    def across_or_up(self, way: str) -> str:
        if way == "along" or not self.quarters() % 2:
            return way
        return {"horizontal": "vertical", "vertical": "horizontal"}[way]

    def never_mirrored(self, why: str) -> None:
        if self.mirror:
            raise NotMoved(why)

    def never_turned(self, why: str) -> None:
        if self.turn or self.mirror:
            raise NotMoved(why)


Parts = dict[str, Any]


def _by(m: Moving, s: motions.Move | motions.Copy | motions.Stretch) -> Parts:
    if isinstance(s, motions.Stretch):
        m.quarters()
    return {"by": m.way_by(s.by)}


def _side(m: Moving, s: Any) -> Parts:
    return {"side": m.side(s.side)}


def _tangent_at(m: Moving, _s: lines.TangentAt) -> Parts:
    m.never_mirrored("it runs counter-clockwise")
    return {}


def _tangent_to_both(m: Moving, s: lines.TangentToBoth) -> Parts:
    kind, side = s.which.split()
    return {"which": f"{kind} {m.side(side)}"}


def _circle_touching(m: Moving, s: circles.CircleTouching) -> Parts:
    which = s.which
    if which is not None:
        if m.turn:
            raise NotMoved("first and second are those from left to right")
        if m.mirror:
            which = {"first": "second", "second": "first"}[which]
    return {"sides": tuple(map(m.side, s.sides)), "which": which}


def _rectangle(m: Moving, s: outlines.Rectangle) -> Parts:
    m.never_mirrored("its edges are counted from the bottom, counter-clockwise")
    return {"turned": m.angle(s.turned or number(0))}


def _slot(m: Moving, s: long_rounds.Slot | long_rounds.SlotByLength) -> Parts:
    m.never_mirrored("its edges are counted counter-clockwise")
    return {} if isinstance(s, long_rounds.Slot) else {"turned": m.angle(s.turned or number(0))}


def _polygon(m: Moving, s: outlines.Polygon) -> Parts:
    m.never_mirrored("its edges are counted counter-clockwise")
    return {"turned": m.angle(s.turned or number(90))}


def _guide(m: Moving, s: guides.Guide) -> Parts:
    if s.angle is not None:
        return {"angle": m.angle(s.angle)}
    return {"how": m.level_or_plumb(s.how)}


def _mitre(m: Moving, _s: guides.Mitre) -> Parts:
    m.never_turned("a mitre stands at 45 degrees")
    return {}


def _centre_mark(m: Moving, _s: centres.CentreMark) -> Parts:
    m.never_turned("its first line is level")
    return {}


def _pitch_circle(m: Moving, s: centres.PitchCircle) -> Parts:
    m.never_mirrored("its holes are counted counter-clockwise")
    return {"first": m.angle(s.first)}


def _repeat(m: Moving, _s: repeats.Repeat) -> Parts:
    m.never_turned("rows run across and up")
    return {}


def _lettering(m: Moving, s: lettering.Lettering) -> Parts:
    if s.cell is not None:
        m.quarters()
    if s.at is None:
        m.never_mirrored("lettering is never mirrored")
    return {"turned": Typed("+", (s.turned or number(0), number(m.turn)))}


def _note(m: Moving, _s: lettering.LeaderNote) -> Parts:
    m.never_turned("its wording stays level")
    return {}


def _frame(_m: Moving, _s: sheets.PaperFrame) -> Parts:
    raise NotMoved("a frame stands at the origin")


def _place(m: Moving, s: keeping.PlaceKept) -> Parts:
    m.never_mirrored("what is placed is never mirrored")
    # what was kept was turned already, and so is the place
    return {"turned": s.turned or number(Fraction(0))}


def _lay_in(m: Moving, s: keeping.LayIn) -> Parts:
    m.never_mirrored("what is laid in is never mirrored")
    at = m.said(s.at or Expression("at", (number(0), number(0))))
    return {"at": at, "turned": m.angle(s.turned or number(0))}


_CHANGES: dict[type, Callable[[Moving, Any], Parts]] = {
    motions.Move: _by,
    motions.Copy: _by,
    motions.Stretch: _by,
    motions.TurnThings: lambda m, s: {"by": m.turned(s.by)},
    lines.LineAtAngle: lambda m, s: {"angle": m.turned(s.angle)},
    lines.TangentFrom: _side,
    lines.TangentAt: _tangent_at,
    lines.TangentToBoth: _tangent_to_both,
    arcs.ArcByEnds: _side,
    arcs.ArcByCentre: lambda m, s: {"turn": m.turned(s.turn)},
    parallels.Parallel: _side,
    parallels.ParallelOutline: _side,
    long_rounds.Slot: _slot,
    long_rounds.SlotByLength: _slot,
    long_rounds.Ellipse: lambda m, s: {"turned": m.angle(s.turned or number(0))},
    beside.Perpendicular: _side,
    circles.CircleTouchingAt: _side,
    circles.CircleTouching: _circle_touching,
    outlines.PolygonOnEdge: _side,
    outlines.Rectangle: _rectangle,
    outlines.Polygon: _polygon,
    guides.Guide: _guide,
    guides.Mitre: _mitre,
    guides.Carry: lambda m, s: {"how": m.level_or_plumb(s.how)},
    centres.CentreMark: _centre_mark,
    centres.PitchCircle: _pitch_circle,
    repeats.Repeat: _repeat,
    repeats.RepeatRound: lambda m, s: {"over": m.turned(s.over or number(360))},
    sheets.Hatching: lambda m, s: {"angle": m.angle(s.angle)},
    sheets.PaperFrame: _frame,
    sizes.SizeBetween: lambda m, s: {"way": m.across_or_up(s.way)},
    sizes.SizesFrom: lambda m, s: {"way": m.across_or_up(s.way)},
    sizes.SizesInRow: lambda m, s: {"way": m.across_or_up(s.way)},
    lettering.Lettering: _lettering,
    lettering.LeaderNote: _note,
    keeping.PlaceKept: _place,
    keeping.LayIn: _lay_in,
}
"""What else changes in a meaning than its points and numbers."""
