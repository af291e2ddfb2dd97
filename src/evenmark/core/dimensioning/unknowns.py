"""The unknowns of a drawing and the equations between them, differentiated at the drawing itself.

- *unknown*: one number that could be otherwise: a coordinate of a corner, centre or free end, a radius; of a
  centre line its direction and its distance from the middle of the drawing (where it ends says nothing).
- *row*: an equation's derivatives by the unknowns that it knows, at the drawing as it stands: the *witness*.
- *shift*, *turn*: motions of the whole, which no size and nothing taken as read can settle but an axis of the
  paper.

The witness configuration method (Michelucci and Foufou, 2006, from memory): that the drawing fulfils its own
equations makes their rank at it the rank in general, where no equation is met there by chance.

Lengths are divided by the extent of the drawing and counted from its middle, so that directions and lengths
are of one size.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple

from evenmark.core.dimensioning.implied_kinds import Implied
from evenmark.core.dimensioning.measured import Measured, MeasuredPlace, ends_at
from evenmark.core.dimensioning.size import Size
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import ArcFeature, Edge, End
from evenmark.core.linework.sharp import sharp_at

Row = dict[int, float]
"""Derivatives by unknown."""
Values = list[float]
XY = tuple[int, int]
Equation = tuple[Callable[[Values], float], tuple[int, ...]]


class AxisUnknowns(NamedTuple):
    """The unknowns of a centre line: its direction in rad, and its distance to the left of the middle."""

    turn: int
    off: int


class Unknowns:
    """The unknowns of what a drawing is made of; ends that are taken to meet are one point."""

    def __init__(self, m: Measured, taken: Sequence[Implied]) -> None:
        self.m, self.key = m, m.key
        box = m.key.box or (0.0, 0.0, 1.0, 1.0)
        self.scale = max(m.key.extent, tol.LEAST_EXTENT)
        self.middle = ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2)
        self.values: Values = []
        self.names: list[str] = []
        """What each unknown is: x, y, r, turn or off."""
        self.points: dict[str, XY] = {}
        """Unknowns by the name of a point: a corner's or centre's id, or an end as ``e3.1``."""
        self.radii: dict[str, int] = {}
        self.lines: dict[str, AxisUnknowns] = {}
        self._node: dict[End, str] = {}
        met = {t.features[0] for t in taken if t.kind == "meet"}
        for corner in m.key.corners:
            if corner.id in met:
                for end in corner.ends:
                    self._node[end] = corner.id
        for c in m.rounds:
            self._point(c.id, c.center)
            self.radii[c.id] = self._new("r", c.radius / self.scale)
        ended: list[Edge | ArcFeature] = [*m.edges, *(c for c in m.rounds if isinstance(c, ArcFeature))]
        for f in ended:
            for which, p in enumerate(f.ends):
                self._point(self.node((f.id, which)), p)
        for axis in m.axes:
            turn = math.atan2(axis.end[1] - axis.start[1], axis.end[0] - axis.start[0])
            (x, y), cos, sin = self.local(axis.start), math.cos(turn), math.sin(turn)
            self.lines[axis.id] = AxisUnknowns(self._new("turn", turn), self._new("off", y * cos - x * sin))

    def _new(self, name: str, value: float) -> int:
        self.values.append(value)
        self.names.append(name)
        return len(self.values) - 1

    def _point(self, name: str, p: Point) -> None:
        if name not in self.points:
            x, y = self.local(p)
            self.points[name] = (self._new("x", x), self._new("y", y))

    def local(self, p: Point) -> Point:
        """Return a point as it is counted here."""
        return ((p[0] - self.middle[0]) / self.scale, (p[1] - self.middle[1]) / self.scale)

    def node(self, end: End) -> str:
        """Return the name of the point at an end."""
        return self._node.get(end, f"{end[0]}.{end[1]}")

    def at(self, end: End) -> XY:
        """Return the unknowns of an end."""
        return self.points[self.node(end)]

    def ends(self, edge: str) -> tuple[XY, XY]:
        """Return the unknowns of both ends of an edge or arc."""
        return self.at((edge, 0)), self.at((edge, 1))

    def of_joint(self, joint: str) -> XY:
        """Return the unknowns of a corner or meeting: of its first end that has any."""
        return self._of_ends(self.key.meetings[joint].ends)

    # motions of the whole

    def shift(self, x: float, y: float) -> list[float]:
        """Return how every unknown changes when all is shifted."""
        out = [{"x": x, "y": y}.get(name, 0.0) for name in self.names]
        for line in self.lines.values():
            t = self.values[line.turn]
            out[line.off] = y * math.cos(t) - x * math.sin(t)
        return out

    def turned(self) -> list[float]:
        """Return how every unknown changes when all is turned about the middle."""
        out = [0.0] * len(self.values)
        for x, y in self.points.values():
            out[x], out[y] = -self.values[y], self.values[x]
        for line in self.lines.values():
            out[line.turn] = 1.0
        return out

    # rows

    def row(self, equation: Equation) -> Row:
        """Return the derivatives of an equation at the drawing, by central differences."""
        value, by = equation
        out: Row = {}
        for i in dict.fromkeys(by):
            was = self.values[i]
            self.values[i] = was + tol.PROOF_STEP
            above = value(self.values)
            self.values[i] = was - tol.PROOF_STEP
            below = value(self.values)
            self.values[i] = was
            slope = (above - below) / (2 * tol.PROOF_STEP)
            if abs(slope) > tol.PROOF_ZERO:
                out[i] = slope
        return out

    def of_shape(self) -> Iterator[Equation]:
        """Yield what makes an arc an arc: both its ends lie on its circle."""
        for c in self.m.rounds:
            if isinstance(c, ArcFeature):
                for end in (0, 1):
                    yield self.on_circle(self.at((c.id, end)), c.id)

    def of_size(self, size: Size) -> Iterator[Equation]:
        """Yield the equations of a size: one, and for each further feature that it holds for another."""
        if size.kind in ("radius", "diameter"):
            for i in size.features:
                r = self.radii[i]
                yield (lambda v, r=r: v[r]), (r,)  # type: ignore[misc]
        elif size.kind == "arc-length":
            yield self._arc_length(size.features[0])
        elif size.kind == "chamfer":
            for i in size.features:
                a, b = self.ends(i)
                yield apart_of(a, b), (*a, *b)
            for i in size.features:
                yield self._slant(i)
        elif size.kind == "length":
            a, b = self.ends(size.features[0])
            yield apart_of(a, b), (*a, *b)
        elif size.kind == "angle":
            yield self._angle(size)
        else:
            yield self._distance(size)

    def _arc_length(self, arc: str) -> Equation:
        center, r = self.points[arc], self.radii[arc]
        a, b = self.ends(arc)

        def length(v: Values) -> float:
            at = [math.atan2(v[p[1]] - v[center[1]], v[p[0]] - v[center[0]]) for p in (a, b)]
            return v[r] * ((at[1] - at[0]) % math.tau)

        return length, (*center, r, *a, *b)

    def _slant(self, chamfer: str) -> Equation:
        """Return the angle of a chamfer to the piece before it; by itself where there is none."""
        sharp = sharp_at(self.key, chamfer)
        if sharp is None:
            return self.turn_of(chamfer)
        (one, by), (other, by_other) = self.turn_of(sharp.before), self.turn_of(chamfer)
        return (lambda v: other(v) - one(v)), (*by, *by_other)

    def _angle(self, size: Size) -> Equation:
        ways = [self.turn_of(p.feature) for p in size.places]
        if len(ways) == 1:
            return ways[0]
        (one, by), (other, by_other) = ways
        return (lambda v: other(v) - one(v)), (*by, *by_other)

    def turn_of(self, straight: str) -> Equation:
        """Return the direction of a straight piece, in rad."""
        if straight in self.lines:
            t = self.lines[straight].turn
            return (lambda v: v[t]), (t,)
        a, b = self.ends(straight)
        # from the direction at the drawing, so that no full turn comes in between
        was = math.atan2(self.values[b[1]] - self.values[a[1]], self.values[b[0]] - self.values[a[0]])

        def turn(v: Values) -> float:
            t = math.atan2(v[b[1]] - v[a[1]], v[b[0]] - v[a[0]])
            return math.remainder(t - was, math.tau)

        return turn, (*a, *b)

    def _distance(self, size: Size) -> Equation:
        """Return the distance of two places along the direction that is measured; of a point from a slanted
        piece, square to it."""
        a, b = size.places
        turn = math.radians(size.direction_deg)
        ux, uy = math.cos(turn), math.sin(turn)
        slanted = [p for p in (a, b) if p.part == "carrier" and size.way == "along"]
        if slanted:
            other = b if slanted[0] == a else a
            at = self._at(other, ux, uy)
            return self._from_line(at, slanted[0].feature)
        (one, by), (two, by_two) = (self._at(p, ux, uy) for p in (a, b))

        def apart(v: Values) -> float:
            p, q = one(v), two(v)
            return (q[0] - p[0]) * ux + (q[1] - p[1]) * uy

        if size.way != "along":
            return apart, (*by, *by_two)
        # the points themselves are measured: their distance, whatever its direction

        def distance_of(v: Values) -> float:
            p, q = one(v), two(v)
            return math.hypot(q[0] - p[0], q[1] - p[1])

        (px, py), (qx, qy) = one(self.values), two(self.values)
        far = math.hypot(qx - px, qy - py)
        aligned = (
            far > 0.0 and abs((qx - px) * uy - (qy - py) * ux) <= tol.PROOF_ZERO + self.m.reach / self.scale
        )
        return (distance_of if aligned else apart), (*by, *by_two)

    def _at(
        self, place: MeasuredPlace, ux: float, uy: float
    ) -> tuple[Callable[[Values], Point], tuple[int, ...]]:
        """Return the point of a place as the unknowns say it."""
        i = place.feature
        if place.part == "carrier" and i in self.lines:
            line = self.lines[i]

            def foot(v: Values) -> Point:
                return (-v[line.off] * math.sin(v[line.turn]), v[line.off] * math.cos(v[line.turn]))

            return foot, (line.turn, line.off)
        if place.part == "sharp" and (sharp := sharp_at(self.key, i)) is not None:
            return self._crossing(sharp.before, sharp.after)
        if place.part == "rim":
            x, y = self.points[i]
            r, sign = self.radii[i], place.sign
            return (lambda v: (v[x] + sign * v[r] * ux, v[y] + sign * v[r] * uy)), (x, y, r)
        if place.part == "carrier":
            x, y = self.at((i, 0))
        elif ends_at(place, self.key):
            x, y = self._of_ends(ends_at(place, self.key))
        else:
            x, y = self.points[i]
        return (lambda v: (v[x], v[y])), (x, y)

    def _crossing(self, one: str, other: str) -> tuple[Callable[[Values], Point], tuple[int, ...]]:
        """Return where the supporting lines of two edges meet."""
        (a, b), (c, d) = self.ends(one), self.ends(other)

        def at(v: Values) -> Point:
            ux, uy, wx, wy = v[b[0]] - v[a[0]], v[b[1]] - v[a[1]], v[d[0]] - v[c[0]], v[d[1]] - v[c[1]]
            t = ((v[c[0]] - v[a[0]]) * wy - (v[c[1]] - v[a[1]]) * wx) / (ux * wy - uy * wx)
            return (v[a[0]] + t * ux, v[a[1]] + t * uy)

        return at, (*a, *b, *c, *d)

    def _of_ends(self, ends: tuple[End, ...]) -> XY:
        return next(self.points[self.node(e)] for e in ends if self.node(e) in self.points)

    def _from_line(self, at: tuple[Callable[[Values], Point], tuple[int, ...]], straight: str) -> Equation:
        """Return the distance of a point to the left of a straight piece."""
        place, by = at
        if straight in self.lines:
            line = self.lines[straight]

            def from_axis(v: Values) -> float:
                x, y = place(v)
                return y * math.cos(v[line.turn]) - x * math.sin(v[line.turn]) - v[line.off]

            return from_axis, (*by, line.turn, line.off)
        a, b = self.ends(straight)

        def from_edge(v: Values) -> float:
            (x, y), dx, dy = place(v), v[b[0]] - v[a[0]], v[b[1]] - v[a[1]]
            return (dx * (y - v[a[1]]) - dy * (x - v[a[0]])) / math.hypot(dx, dy)

        return from_edge, (*by, *a, *b)

    def point_from_line(self, p: XY, straight: str) -> Equation:
        """Return the distance of a point from a straight piece."""
        return self._from_line(((lambda v: (v[p[0]], v[p[1]])), p), straight)

    def on_circle(self, p: XY, circle: str) -> Equation:
        """Return how far a point lies outside a circle."""
        c, r = self.points[circle], self.radii[circle]
        return (lambda v: math.hypot(v[p[0]] - v[c[0]], v[p[1]] - v[c[1]]) - v[r]), (*p, *c, r)

    def on_curve(self, p: XY, curve: str) -> Equation:
        """Return how far a point lies from a piece that it lies on."""
        return self.on_circle(p, curve) if curve in self.radii else self.point_from_line(p, curve)


def apart_of(a: XY, b: XY) -> Callable[[Values], float]:
    """Return the distance of two points, as a function of all unknowns."""
    return lambda v: math.hypot(v[b[0]] - v[a[0]], v[b[1]] - v[a[1]])


def difference(i: int, j: int) -> Equation:
    """Return the difference of two unknowns."""
    return (lambda v: v[i] - v[j]), (i, j)
