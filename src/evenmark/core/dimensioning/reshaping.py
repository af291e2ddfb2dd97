"""A key in another shape: every feature where the unknowns of its sheet now stand, under its old id.

What is no unknown (lettering, where a centre line ends, hatching, the points of dimensions) goes with what it
stands on: a point of a feature with that feature, any other with the nearest point that has a name.
"""

from __future__ import annotations

import math
from dataclasses import replace

from evenmark.core.dimensioning.unknowns import Unknowns, Values
from evenmark.core.drawing.annotations import Dimension, measure
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Point, box_of, distance, point_on
from evenmark.core.linework.annotations import filled_area
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, HatchFeature, Linework


def reshaped(u: Unknowns, before: Values) -> Linework:
    """Return the key of some unknowns where these now stand; ``before`` is where they stood."""
    return _Reshaping(u, before).linework()


class _Reshaping:
    def __init__(self, u: Unknowns, before: Values) -> None:
        self.u, self.key, self.before = u, u.key, before
        self.moves: dict[str, Point] = {}
        self.was: dict[str, Point] = {}
        for name, (x, y) in u.points.items():
            self.moves[name] = (self._by(x), self._by(y))
            self.was[name] = self._point(before[x], before[y])
        self.edges = {e.id: self._edge(e) for e in u.m.edges}
        self.rounds: dict[str, ArcFeature | CircleFeature] = {c.id: self._round(c) for c in u.m.rounds}

    def _by(self, i: int) -> float:
        """Return by how much an unknown changed, in key units; what only rounding moved stays."""
        change = self.u.values[i] - self.before[i]
        return change * self.u.scale if abs(change) > 10 * tol.DRIVEN else 0.0

    def _point(self, x: float, y: float) -> Point:
        return (x * self.u.scale + self.u.middle[0], y * self.u.scale + self.u.middle[1])

    def linework(self) -> Linework:
        key = self.key
        frame = [p for e in self.edges.values() for p in e.ends]
        frame += [p for c in self.rounds.values() for p in _reach(c)]
        lettered = [self._of(t.at) for t in key.texts]
        return key.with_(
            edges=tuple(self.edges.get(e.id) or self._axis(e) for e in key.edges),
            arcs=tuple(self.rounds.get(a.id, a) for a in key.arcs),
            circles=tuple(self.rounds.get(c.id, c) for c in key.circles),
            corners=tuple(k._replace(at=self._of(k.at)) for k in key.corners),
            tees=tuple(t._replace(at=self._of(t.at)) for t in key.tees),
            outlines=tuple(o._replace(at=self._of(o.at)) for o in key.outlines),
            texts=tuple(t._replace(at=self._of(t.at)) for t in key.texts),
            frees=tuple(f._replace(points=tuple(map(self._of, f.points))) for f in key.frees),
            dimensions=tuple(map(self._dimension, key.dimensions)),
            notes=tuple(n._replace(at=self._of(n.at), tip=self._of(n.tip)) for n in key.notes),
            hatches=tuple(map(self._hatch, key.hatches)),
            box=box_of([*frame, *lettered]) if frame else key.box,
        )

    def _edge(self, e: Edge) -> Edge:
        moved = [self.moves[self.u.node((e.id, w))] for w in (0, 1)]
        (ax, ay), (bx, by) = moved
        return e._replace(start=(e.start[0] + ax, e.start[1] + ay), end=(e.end[0] + bx, e.end[1] + by))

    def _round(self, c: ArcFeature | CircleFeature) -> ArcFeature | CircleFeature:
        x, y = self.moves[c.id]
        center = (c.center[0] + x, c.center[1] + y)
        radius = c.radius + self._by(self.u.radii[c.id])
        if isinstance(c, CircleFeature):
            return c._replace(center=center, radius=radius)
        ends = [self.moves[self.u.node((c.id, w))] for w in (0, 1)]
        if not any(v for move in (*ends, (x, y)) for v in move):
            return c._replace(radius=radius)
        a, b = ((p[0] + dx, p[1] + dy) for p, (dx, dy) in zip(c.ends, ends, strict=True))
        start = math.atan2(a[1] - center[1], a[0] - center[0])
        stop = math.atan2(b[1] - center[1], b[0] - center[0])
        sweep = (stop - start) % math.tau
        return c._replace(center=center, radius=radius, start_rad=start, sweep_rad=sweep or c.sweep_rad)

    def _axis(self, e: Edge) -> Edge:
        """Return a centre line on the line that it now has, its ends as far past what they stand by."""
        line = self.u.lines.get(e.id)
        if line is None:
            return e._replace(start=self._of(e.start), end=self._of(e.end))
        turn, off = self.u.values[line.turn], self.u.values[line.off] * self.u.scale
        cos, sin = math.cos(turn), math.sin(turn)
        ends = []
        for p in e.ends:
            dx, dy = self._nearest(p)
            along = (p[0] + dx - self.u.middle[0]) * cos + (p[1] + dy - self.u.middle[1]) * sin
            ends.append(
                (self.u.middle[0] + along * cos - off * sin, self.u.middle[1] + along * sin + off * cos)
            )
        still = (
            max(distance(p, q) for p, q in zip(e.ends, ends, strict=True)) <= tol.DRIVEN * self.u.scale * 10
        )
        return e if still else e._replace(start=ends[0], end=ends[1])

    def _nearest(self, p: Point) -> Point:
        name = min(self.was, key=lambda n: distance(self.was[n], p))
        return self.moves[name]

    def _of(self, p: Point) -> Point:
        """Return where a point stands now: with the point, the edge or the round thing that it lies on, else
        with the nearest point that has a name."""
        reach = self.u.m.reach
        name = min(self.was, key=lambda n: distance(self.was[n], p))
        dx, dy = self.moves[name]
        if distance(self.was[name], p) > reach:
            for e in self.u.m.edges:
                far = along_supporting_line(p, e.start, e.end)
                on = distance_to_supporting_line(p, e.start, e.end) <= reach
                if on and -reach <= far <= e.length + reach:
                    (ax, ay), (bx, by) = (self.moves[self.u.node((e.id, w))] for w in (0, 1))
                    share = far / e.length
                    return (p[0] + ax + share * (bx - ax), p[1] + ay + share * (by - ay))
            for c in self.u.m.rounds:
                far = distance(p, c.center)
                if abs(far - c.radius) <= reach:
                    now_round = self.rounds[c.id]
                    grown = now_round.radius / c.radius
                    return (
                        now_round.center[0] + (p[0] - c.center[0]) * grown,
                        now_round.center[1] + (p[1] - c.center[1]) * grown,
                    )
        return (p[0] + dx, p[1] + dy)

    def _dimension(self, d: Dimension) -> Dimension:
        points = tuple(map(self._of, d.points))
        if points == d.points:
            return d
        dx, dy = self._nearest(d.at)
        line = d.line and (d.line[0] + dx, d.line[1] + dy)
        return replace(
            d,
            points=points,
            measured=measure(d.kind, points, d.turn_deg),
            at=(d.at[0] + dx, d.at[1] + dy),
            line=line,
        )

    def _hatch(self, h: HatchFeature) -> HatchFeature:
        loops = tuple(tuple(map(self._of, loop)) for loop in h.loops)
        if loops == h.loops:
            return h
        box = box_of([p for loop in loops for p in loop])
        at = ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2) if box else h.at
        return h._replace(loops=loops, area=filled_area(loops), at=at)


def _reach(c: ArcFeature | CircleFeature) -> list[Point]:
    if isinstance(c, ArcFeature):
        return [c.start, c.at, c.end]
    return [point_on(c.center, c.radius, n * math.pi / 2) for n in range(4)]
