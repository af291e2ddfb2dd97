"""Work out what a sentence says: numbers, points, directions, features.

What is said in whole and rational numbers stays exact: coordinates, steps along an axis, ways at angles whose
sine and cosine are rational. Everything else is the nearest double.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from evenmark.core.construct.directions import both_straight, unit_between
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.setting import DocumentSetting
from evenmark.core.construct.state import XY, Broken, Feature, State, plain
from evenmark.core.construct.values import Values
from evenmark.core.geometry import nearest
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.crossings import crossings
from evenmark.core.geometry.deterministic import turn_of
from evenmark.core.geometry.exact import Number, bounded, cosine, sine
from evenmark.core.geometry.lines import Straight, foot, meet
from evenmark.core.geometry.numbers import NumberError, Typed, evaluate
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.tangents import touching_from

MOST_LOOKS = 5_000_000
"""How many features all steps of a document may look at together, where they look at all that stand."""
FARTHEST = 10**9
"""No point lies farther from the origin, in units."""
_AXES: dict[str, tuple[int, int]] = {"right": (1, 0), "left": (-1, 0), "up": (0, 1), "down": (0, -1)}
_QUARTERS = {"right": (1, 0), "above": (0, 1), "left": (-1, 0), "below": (0, -1)}


class Context:
    """What a step is evaluated in: the state before it, and the values."""

    __slots__ = ("last", "setting", "state", "values")

    def __init__(self, state: State, values: Values, setting: DocumentSetting) -> None:
        self.state, self.values, self.setting = state, values, setting
        self.last = state.last

    def spend(self, looks: int) -> None:
        """Count features that are looked at. Raises Broken where a document looks at too many."""
        self.setting.spent += looks
        if self.setting.spent > MOST_LOOKS:
            raise Broken("The drawing is too much to work through. Delete steps, or begin another drawing.")

    # numbers

    def number(self, typed: Typed) -> Number:
        """Return a number. Raises Broken."""
        if typed.op == "number" and type(typed.parts[0]) is int and -FARTHEST < typed.parts[0] < FARTHEST:
            return typed.parts[0]
        try:
            return evaluate(typed, self._value, self.measured)
        except NumberError as why:
            raise Broken(why.says) from None

    def _value(self, name: str) -> Number | None:
        return self.values.get(name, self.measured)

    def length(self, typed: Typed, what: str) -> Number:
        """Return a length, which has to be more than nothing. Raises Broken."""
        value = self.number(typed)
        if not value > 0:
            raise Broken(f"The {what} is {float(value):g}. It has to be more than 0.")
        if value > FARTHEST:
            raise Broken(f"The {what} is too large for a drawing. Make it smaller.")
        return value

    def count(self, typed: Typed, what: str, least: int, most: int) -> int:
        """Return a whole number within bounds. Raises Broken."""
        value = self.number(typed)
        if value != int(value) or not least <= value <= most:
            raise Broken(
                f"The number of {what} is {float(value):g}. It has to be whole, from {least} to {most}."
            )
        return int(value)

    def measured(self, said: Expression) -> Number:
        """Return a measure of the drawing. Raises Broken."""
        if said.how == "distance":
            a, b = said.parts
            (ax, ay), (bx, by) = self.point(a), self.point(b)
            off: Number = by - ay if ax == bx else bx - ax
            if ax == bx or ay == by:
                return -off if off < 0 else off
            return distance(plain((ax, ay)), plain((bx, by)))
        f = self.drawn(said.parts[0])
        if said.how in ("radius", "diameter"):
            if not isinstance(f.shape, Round):
                raise Broken(f"The {f.ref.kind} has no {said.how}. Say an arc or a circle.")
            return f.shape.radius * (2 if said.how == "diameter" else 1)
        if said.how == "angle":
            if not isinstance(f.shape, Straight):
                return math.degrees(f.shape.sweep_rad)
            (ux, uy) = f.shape.unit
            return math.degrees(turn_of(float(uy), float(ux))) % 360.0
        return f.shape.length

    # features

    def feature(self, ref: Ref) -> Feature:
        """Return anything by its name. Raises Broken."""
        return self.state.find(ref)

    def drawn(self, ref: Ref) -> Feature:
        """Return an edge, arc, circle or guide by its name. Raises Broken."""
        f = self.state.find(ref)
        if f.says is not None:
            raise Broken(f"A {ref.called} is no line. Say an edge, an arc or a circle.")
        return f

    def curve(self, ref: Ref) -> Curve:
        """Return the shape of a feature. Raises Broken."""
        return self.drawn(ref).shape

    def straight(self, ref: Ref) -> Straight:
        """Return the shape of an edge. Raises Broken."""
        shape = self.curve(ref)
        if not isinstance(shape, Straight):
            raise Broken(f"The {ref.called} is not straight. Say an edge.")
        return shape

    def round(self, ref: Ref) -> Round:
        """Return the shape of a circle or arc. Raises Broken."""
        shape = self.curve(ref)
        if not isinstance(shape, Round):
            raise Broken(f"The {ref.called} is not round. Say an arc or a circle.")
        return shape

    # points

    def point(self, said: Expression) -> XY:
        """Return a point. Raises Broken."""
        x, y = _POINTS[said.how](self, *said.parts)
        if not (-FARTHEST <= x <= FARTHEST and -FARTHEST <= y <= FARTHEST):
            raise Broken("The point is too far away. Make its numbers smaller.")
        if type(x) is not int or type(y) is not int:
            x, y = bounded(x), bounded(y)
        self.last = at = (x, y)
        return at

    def place(self, said: Expression) -> Point:
        """Return a point in doubles. Raises Broken."""
        return plain(self.point(said))

    def base(self, said: Expression | None) -> XY:
        """Return the point that a way begins at: the one that was said, else the last one. Raises Broken."""
        if said is not None:
            last = self.last
            found = self.point(said)
            self.last = last
            return found
        if self.last is None:
            raise Broken("There is no point to go from. Say one: ... from 0, 0.")
        return self.last

    def angle_from(self, base: XY, way: Expression) -> tuple[Number, Number]:
        """Return the direction from a point that a way says, of unit length. Raises Broken."""
        if way.how == "angle":
            degrees = self.number(way.parts[0])
            return cosine(degrees), sine(degrees)
        last = self.last
        x, y = self.point(way.parts[0])
        self.last = last
        return unit_between(base, (x, y))

    def _at(self, x: Typed, y: Typed) -> XY:
        return self.number(x), self.number(y)

    def _by(self, x: Typed, y: Typed, base: Expression | None) -> XY:
        bx, by = self.base(base)
        return bx + self.number(x), by + self.number(y)

    def _axis(self, way: str, length: Typed, base: Expression | None) -> XY:
        (x, y), (ux, uy), far = self.base(base), _AXES[way], self.number(length)
        return x + ux * far, y + uy * far

    def _toward(self, length: Typed, way: Expression, base: Expression | None) -> XY:
        x, y = self.base(base)
        ux, uy = self.angle_from((x, y), way)
        far = self.number(length)
        return x + ux * far, y + uy * far

    def _along(self, length: Typed, ref: Ref, base: Expression | None) -> XY:
        (x, y), (ux, uy), far = self.base(base), self._unit_of(ref), self.number(length)
        return x + ux * far, y + uy * far

    def _square(self, length: Typed, ref: Ref, side: str, base: Expression | None) -> XY:
        (x, y), (ux, uy), far = self.base(base), self._unit_of(ref), self.number(length)
        far = far if side == "left" else -far
        return x - uy * far, y + ux * far

    def _unit_of(self, ref: Ref) -> tuple[Number, Number]:
        f = self.drawn(ref)
        if not isinstance(f.shape, Straight):
            raise Broken(f"The {ref.kind} has no direction. Say an edge.")
        if len(f.exact) == 2:
            return unit_between(f.exact[0], f.exact[1])
        return f.shape.unit

    def _end(self, which: str, ref: Ref) -> XY:
        f = self.drawn(ref)
        shape = f.shape
        if which == "centre":
            if not isinstance(shape, Round):
                raise Broken(f"The {ref.kind} has no centre. Say an arc or a circle.")
            return f.exact[0] if f.exact else shape.center
        if f.endless:
            raise Broken("A guide has no ends and no middle. Say an edge.")
        if isinstance(shape, Round) and shape.whole:
            raise Broken(f"A circle has no {which}. Say its centre or a quarter.")
        if isinstance(shape, Straight) and len(f.exact) == 2:
            (ax, ay), (bx, by) = f.exact
            return {"start": (ax, ay), "end": (bx, by), "middle": ((ax + bx) / 2, (ay + by) / 2)}[which]
        return {"start": f.start, "end": f.end, "middle": shape.middle}[which]

    def _quarter(self, ref: Ref, which: str) -> XY:
        f = self.drawn(ref)
        shape = self.round(ref)
        (ux, uy), (x, y) = _QUARTERS[which], f.exact[0] if f.exact else shape.center
        found = (x + ux * shape.radius, y + uy * shape.radius)
        if nearest.away(shape, plain(found)) > shape.radius * tol.WELD_SHARE:
            raise Broken(f"The arc does not reach its quarter {which}. Say another point.")
        return found

    def _corner(self, number: Typed, ref: Ref) -> XY:
        corners = self.state.corners.get(ref.step, [])
        if not corners:
            raise Broken("That step has no corners. Name a chain, rectangle or polygon.")
        edge, which = corners[self.count(number, "corners", 1, len(corners)) - 1]
        f = self.state.get(edge) if edge is not None else None
        if f is None:
            raise Broken("The edges of this corner are gone. Name another point.")
        if isinstance(which, int):
            ends = f.exact if len(f.exact) == 2 else (f.start, f.end)
            return ends[which]
        g = self.state.get(which) if which is not None else None
        at = meet(f.shape, g.shape) if g is not None and both_straight(f, g) else None  # type: ignore[arg-type]
        if at is None:
            raise Broken("The edges of this corner no longer meet. Name another point.")
        return at

    def _crossing(self, f: Ref, g: Ref, near: Expression | None) -> XY:
        one, other = self.drawn(f), self.drawn(g)
        found = crossings(one.shape, other.shape) if not (one.endless or other.endless) else []
        found = found or crossings(one.shape, other.shape, endless=True)
        if one.back:
            found.reverse()
        if not found:
            raise Broken(f"The {f.kind} and the {g.kind} do not cross, even extended. Name others.")
        if near is None:
            return found[0]
        last = self.last
        p = self.place(near)
        self.last = last
        return min(found, key=lambda q: distance(p, q))

    def _foot(self, ref: Ref, said: Expression) -> XY:
        p = self.point(said)
        shape = self.curve(ref)
        if isinstance(shape, Straight):
            ends = self.drawn(ref).exact
            if len(ends) == 2 and (ends[0][0] == ends[1][0] or ends[0][1] == ends[1][1]):
                level = ends[0][1] == ends[1][1]
                return (p[0], ends[0][1]) if level else (ends[0][0], p[1])
            return foot(plain(p), shape)
        if plain(p) == shape.center:
            raise Broken("The centre has no foot on its own circle. Say another point.")
        return nearest.on_supporting_line(shape, plain(p))

    def _touch(self, ref: Ref, said: Expression, side: str) -> XY:
        p = self.place(said)
        found = touching_from(p, self.round(ref)).get(side)
        if found is None:
            raise Broken("The point is inside, so it has no tangent. Say one outside.")
        return found

    def _nearest(self, ref: Ref, said: Expression) -> XY:
        f, p = self.drawn(ref), self.place(said)
        return nearest.on_supporting_line(f.shape, p) if f.endless else nearest.on(f.shape, p)

    def _share(self, share: Typed, one: Expression, other: Expression) -> XY:
        (ax, ay), (bx, by), n = self.point(one), self.point(other), self.number(share)
        return ax + n * (bx - ax), ay + n * (by - ay)

    def _level(self, level: Expression, plumb: Expression) -> XY:
        _, y = self.point(level)
        x, _ = self.point(plumb)
        return x, y

    def _named(self, name: str) -> XY:
        found = self.state.points.get(name)
        if found is None:
            raise Broken(
                f"There is no point {name!r} before this step. Define it first.",
                self.setting.broken_points.get(name),
            )
        return found


_POINTS: dict[str, Callable[..., Any]] = {
    "at": Context._at,
    "by": Context._by,
    "axis": Context._axis,
    "toward": Context._toward,
    "along": Context._along,
    "square": Context._square,
    "quarter": Context._quarter,
    "corner": Context._corner,
    "crossing": Context._crossing,
    "foot": Context._foot,
    "nearest": Context._nearest,
    "touch": Context._touch,
    "share": Context._share,
    "level": Context._level,
    "named": Context._named,
    **{
        which: (lambda c, ref, which=which: c._end(which, ref))
        for which in ("start", "end", "middle", "centre")
    },
}
"""How a point is worked out, by how it was said."""
