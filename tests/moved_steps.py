"""The same construction from givens that were shifted, turned or mirrored (left for right): every coordinate,
direction and side that a sentence says is moved as the drawing is."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from evenmark.core.construct.reading import Said
from evenmark.core.construct.sentences import Sentence
from evenmark.core.geometry.motions import Motion
from evenmark.core.geometry.numbers import Typed

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
    def motion(self) -> Motion:
        """The same as a motion of the drawing."""
        return Motion(mirror=self.mirror, turn_deg=float(self.turn), shift=self.shift)

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
        if any(isinstance(p, Said) and p.how == "angle" for p in t.parts):
            raise NotMoved("measures a direction")
        parts = tuple(self.of(p) if isinstance(p, Said | Typed) else p for p in t.parts)
        return Typed(t.op, parts)

    # what is said

    def of(self, v: Any) -> Any:
        """Any part of a sentence."""
        if isinstance(v, Typed):
            return self.measure(v)
        if isinstance(v, Said):
            return self.said(v)
        if isinstance(v, str):
            return v
        if isinstance(v, tuple) and not hasattr(v, "_fields"):
            return tuple(map(self.of, v))
        return v

    def way(self, word: str) -> int:
        at = WAYS[word]
        return ((180 - at) if self.mirror else at) + self.turn

    def said(self, s: Said) -> Said:
        how, parts = s.how, s.parts
        if how == "at":
            x, y = self.vector(*map(self.measure, parts))
            dx, dy = map(number, self.shift)
            return Said("at", (Typed("+", (x, dx)), Typed("+", (y, dy))))
        if how == "by":
            return Said("by", (*self.vector(*map(self.measure, parts[:2])), self.of(parts[2])))
        if how == "axis":
            way = Said("angle", (number(self.way(parts[0])),))
            return Said("toward", (self.measure(parts[1]), way, self.of(parts[2])))
        if how == "angle" and isinstance(parts[0], Typed):
            return Said("angle", (self.angle(parts[0]),))
        if how == "square":
            return Said("square", (parts[0], parts[1], self.side(parts[2]), self.of(parts[3])))
        if how == "touch":
            return Said("touch", (parts[0], self.of(parts[1]), self.side(parts[2])))
        if how == "quarter":
            return Said("quarter", (parts[0], self.quarter(parts[1])))
        if how == "level":
            p, q = map(self.of, parts)
            return Said("level", (q, p) if self.quarters() % 2 else (p, q))
        if how == "corner" and self.mirror:
            raise NotMoved("corners are counted counter-clockwise")
        if how == "crossing" and parts[2] is None and (self.turn or self.mirror):
            raise NotMoved("a circle is walked from its right quarter")
        if how == "arc":
            at, radius, side, long = parts
            return Said("arc", (self.of(at), self.of(radius), self.side(side), long))
        if how == "inside" and self.turn % 90:
            raise NotMoved("a window is level")
        return Said(how, tuple(map(self.of, parts)))

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
        slots = {k: self.of(v) for k, v in s.slots.items()}
        change = getattr(self, "_" + s.kind.replace(" ", "_"), None)
        if change is not None:
            change(slots, s)
        return s._replace(slots=slots)

    def _flip(self, slots: dict[str, Any], *names: str) -> None:
        for name in names:
            slots[name] = self.side(slots[name])

    def _shifts(self, slots: dict[str, Any], s: Sentence) -> None:
        """What is moved by how much: a way, and no place."""
        slots["by"] = Moving((0, 0), self.turn, self.mirror).of(s.slots["by"])

    _move = _copy = _shifts

    def _stretch(self, slots: dict[str, Any], s: Sentence) -> None:
        self.quarters()
        self._shifts(slots, s)

    def _line_at(self, slots: dict[str, Any], s: Sentence) -> None:
        slots["angle"] = self.turned(s.slots["angle"])

    def _arc_centre(self, slots: dict[str, Any], s: Sentence) -> None:
        slots["turn"] = self.turned(s.slots["turn"])

    def _turn(self, slots: dict[str, Any], s: Sentence) -> None:
        slots["by"] = self.turned(s.slots["by"])

    def _parallel(self, slots: dict[str, Any], _s: Sentence) -> None:
        self._flip(slots, "side")

    _square = _line_touching_from = _circle_touching_at = _arc = _polygon_edge = _parallel

    def _line_touching_at(self, _slots: dict[str, Any], _s: Sentence) -> None:
        if self.mirror:
            raise NotMoved("it runs counter-clockwise")

    def _line_touching_both(self, slots: dict[str, Any], _s: Sentence) -> None:
        kind, side = slots["which"].split()
        slots["which"] = f"{kind} {self.side(side)}"

    def _circle_touching(self, slots: dict[str, Any], _s: Sentence) -> None:
        slots["sides"] = tuple(map(self.side, slots["sides"]))
        if slots["which"] is not None:
            if self.turn:
                raise NotMoved("first and second are those from left to right")
            if self.mirror:
                slots["which"] = {"first": "second", "second": "first"}[slots["which"]]

    def _rectangle(self, slots: dict[str, Any], s: Sentence) -> None:
        if self.mirror:
            raise NotMoved("its edges are counted from the bottom, counter-clockwise")
        slots["turned"] = self.angle(s.slots["turned"] or number(0))

    def _polygon(self, slots: dict[str, Any], s: Sentence) -> None:
        if self.mirror:
            raise NotMoved("its edges are counted counter-clockwise")
        slots["turned"] = self.angle(s.slots["turned"] or number(90))

    def _fillet_corners(self, _slots: dict[str, Any], _s: Sentence) -> None:
        pass

    def _guide(self, slots: dict[str, Any], s: Sentence) -> None:
        if slots["how"] == "angle":
            slots["angle"] = self.angle(s.slots["angle"])
        else:
            self._level_or_plumb(slots)

    def _level_or_plumb(self, slots: dict[str, Any]) -> None:
        if self.quarters() % 2:
            slots["how"] = {"level": "plumb", "plumb": "level"}[slots["how"]]

    def _mitre(self, _slots: dict[str, Any], _s: Sentence) -> None:
        if self.turn or self.mirror:
            raise NotMoved("a mitre stands at 45 degrees")

    def _carry(self, slots: dict[str, Any], _s: Sentence) -> None:
        self._level_or_plumb(slots)

    def _centre_mark(self, _slots: dict[str, Any], _s: Sentence) -> None:
        if self.turn or self.mirror:
            raise NotMoved("its first line is level")

    def _pitch_circle(self, slots: dict[str, Any], s: Sentence) -> None:
        if self.mirror:
            raise NotMoved("its holes are counted counter-clockwise")
        slots["first"] = self.angle(s.slots["first"])

    def _repeat(self, _slots: dict[str, Any], _s: Sentence) -> None:
        if self.turn or self.mirror:
            raise NotMoved("rows run across and up")

    def _repeat_round(self, slots: dict[str, Any], s: Sentence) -> None:
        slots["over"] = self.turned(s.slots["over"] or number(360))

    def _hatch(self, slots: dict[str, Any], s: Sentence) -> None:
        slots["angle"] = self.angle(s.slots["angle"])

    def _size(self, slots: dict[str, Any], _s: Sentence) -> None:
        if slots["way"] != "along" and self.quarters() % 2:
            slots["way"] = {"across": "up", "up": "across"}[slots["way"]]

    _sizes_from = _sizes_in_a_row = _size

    def _text(self, slots: dict[str, Any], s: Sentence) -> None:
        if "in" in s.slots:
            self.quarters()
        if self.mirror and ("between" in s.slots or "in" in s.slots):
            raise NotMoved("lettering is never mirrored")
        slots["turned"] = Typed("+", (s.slots["turned"] or number(0), number(self.turn)))

    def _note(self, _slots: dict[str, Any], _s: Sentence) -> None:
        if self.turn or self.mirror:
            raise NotMoved("its wording stays level")

    def _frame(self, _slots: dict[str, Any], _s: Sentence) -> None:
        raise NotMoved("a frame stands at the origin")

    def _place(self, slots: dict[str, Any], s: Sentence) -> None:
        if self.mirror:
            raise NotMoved("what is placed is never mirrored")
        # what was kept was turned already, and so is the place
        slots["turned"] = s.slots["turned"] or number(Fraction(0))

    def _lay_in(self, slots: dict[str, Any], s: Sentence) -> None:
        if self.mirror:
            raise NotMoved("what is laid in is never mirrored")
        slots["at"] = self.said(s.slots["at"] or Said("at", (number(0), number(0))))
        slots["turned"] = self.angle(s.slots["turned"] or number(0))
