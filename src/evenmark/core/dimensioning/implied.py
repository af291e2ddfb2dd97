"""Taken as read: what a drawing says without figures, by the conventions of the trade (sheet.md).

- *level*, *plumb*: an edge or axis. *square*: two pieces that meet at a right angle, where level and plumb do
  not say so. *meet*: ends at one corner; *on*: an end on another piece.
- *in-line*: two straight pieces on one supporting line. *smooth*: tangency. *one-centre*: round things on one
  centre.
- *on-axis*: the centre of something round lies on a centre line. *alike*: halves about a drawn centre line.
- *even*: holes evenly spaced on a drawn pitch circle.
- *parallel*: two slanted edges whose distance a size says. *views*: a level that two views share.

What a drawing may mean, and is taken as read only where the sheet needs it, is in `offered`.

Common practice, no published source; that a centre line says where halves are alike is in ISO 128 (from
memory). Each is one line of a list that the instructor can switch; its id says what it is and of which
features, so that it stays the same line when others come and go.
"""

from __future__ import annotations

import itertools
import math
from collections import defaultdict
from collections.abc import Collection, Iterator, Sequence

import numpy as np

from evenmark.core.dimensioning.implied_kinds import KINDS, Implied
from evenmark.core.dimensioning.implied_views import SharedLevels, is_within
from evenmark.core.dimensioning.measured import Measured
from evenmark.core.dimensioning.mirror import MirrorAxis
from evenmark.core.dimensioning.offered import offered
from evenmark.core.dimensioning.size import Size
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Box, Point, box_of, direction_deg, distance
from evenmark.core.linework import patterns
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Linework, Outline, Tee, View
from evenmark.core.linework.relations import joints, off_square, tangent_off, touching_circles


def implied_by(
    m: Measured,
    sizes: Sequence[Size] = (),
    views: Sequence[View] = (),
    *,
    angle_deg: float,
    leave_out: Collection[str] = (),
) -> tuple[Implied, ...]:
    """Return everything that a key says without figures; ``angle_deg`` is within what a direction counts as
    level, plumb or square. Features in ``leave_out`` say nothing."""
    found = list(_Finder(m, sizes, views, angle_deg, frozenset(leave_out)).all())
    found += offered(m, found, views)
    order = {kind: n for n, kind in enumerate(KINDS)}
    return tuple(sorted(dict.fromkeys(found), key=lambda t: order[t.kind]))


class _Finder:
    def __init__(
        self,
        m: Measured,
        sizes: Sequence[Size],
        views: Sequence[View],
        angle_deg: float,
        leave_out: frozenset[str],
    ) -> None:
        self.m, self.key, self.reach = m, m.key, m.reach
        self.sizes, self.views, self.angle_deg = sizes, views, angle_deg
        self.edges = [e for e in m.edges if e.id not in leave_out]
        self.axes = [e for e in m.axes if e.id not in leave_out]
        self.rounds = [c for c in m.rounds if c.id not in leave_out]
        self.may = {f.id for f in (*self.edges, *self.rounds)}

    def all(self) -> Iterator[Implied]:
        yield from self._meetings()
        yield from self._levels()
        yield from self._square()
        yield from self._parallel()
        yield from self._in_line()
        yield from self._smooth()
        yield from self._one_centre()
        yield from self._on_axes()
        yield from self._alike()
        yield from self._even()
        yield from SharedLevels(self.m, self.rounds, self.may, self.views).all()

    def _meetings(self) -> Iterator[Implied]:
        for corner in self.key.corners:
            if sum(i in self.may for i, _ in corner.ends) > 1:
                yield Implied("meet", (corner.id,))
        for tee in self.key.tees:
            if tee.on in self.may and any(i in self.may for i, _ in tee.ends):
                yield Implied("on", (tee.id,))

    def _levels(self) -> Iterator[Implied]:
        for e in (*self.edges, *self.axes):
            kind = self._level_or_plumb(e)
            if kind:
                yield Implied(kind, (e.id,))

    def _level_or_plumb(self, e: Edge) -> str:
        turn = direction_deg(e.start, e.end)
        if min(turn, 180.0 - turn) <= self.angle_deg:
            return "level"
        return "plumb" if abs(turn - 90.0) <= self.angle_deg else ""

    def _square(self) -> Iterator[Implied]:
        """Yield right angles at corners between slanted edges, and edges that meet a curve squarely."""
        slanted = {e.id: e for e in self.edges if not self._level_or_plumb(e)}
        for joint in self.key.meetings.values():
            ids = list(dict.fromkeys(i for i, _ in joint.ends))
            if isinstance(joint, Tee):
                ids.append(joint.on)
            for a, b in itertools.combinations([i for i in ids if i in slanted], 2):
                off = off_square(slanted[a], slanted[b])
                if off is not None and abs(off) <= self.angle_deg:
                    yield Implied("square", (a, b))
        for a, b, _, _ in joints(self.key):
            curve, edge = self.key.curves[b], self.key.curves[a]
            if (
                a in self.may
                and b in self.may
                and isinstance(edge, Edge)
                and isinstance(curve, ArcFeature | CircleFeature)
                and distance_to_supporting_line(curve.center, edge.start, edge.end) <= self.reach
            ):
                yield Implied("square", (a, b))

    def _parallel(self) -> Iterator[Implied]:
        """Yield slanted edges between which a size is measured: it says one number for all their length."""
        for size in self.sizes:
            edges = [p.feature for p in size.places if p.part == "carrier"]
            if size.kind == "distance" and len(edges) == 2:
                a, b = (self.key.curves[i] for i in edges)
                if isinstance(a, Edge) and isinstance(b, Edge) and not self._level_or_plumb(a):
                    yield Implied("parallel", (a.id, b.id))

    def _in_line(self) -> Iterator[Implied]:
        rows: dict[tuple[int, int], list[Edge]] = defaultdict(list)
        step = 4 * self.reach
        for e in self.edges:
            turn = direction_deg(e.start, e.end)
            turn = 0.0 if 180.0 - turn <= self.angle_deg else turn
            off = -e.start[0] * math.sin(math.radians(turn)) + e.start[1] * math.cos(math.radians(turn))
            rows[round(turn / tol.TURN_STEP_DEG), round(off / step)].append(e)
        for row in rows.values():
            row.sort(key=lambda e: e.start)
            for a, b in itertools.pairwise(row):
                off = max(distance_to_supporting_line(p, a.start, a.end) for p in b.ends)
                if off <= 2 * self.reach and self._view_of(a.at) == self._view_of(b.at):
                    yield Implied("in-line", (a.id, b.id))

    def _view_of(self, p: Point) -> str:
        return next((v.id for v in self.views if is_within(p, [v.box], self.reach)), "")

    def _smooth(self) -> Iterator[Implied]:
        seen: set[frozenset[str]] = set()
        for a, b, end_a, end_b in [*joints(self.key), *touching_circles(self.key, self.reach)]:
            fa, fb = self.key.curves[a], self.key.curves[b]
            pair = frozenset((a, b))
            if (
                {a, b} <= self.may
                and pair not in seen
                and isinstance(fa, Edge | ArcFeature | CircleFeature)
                and isinstance(fb, ArcFeature | CircleFeature)
                and tangent_off(fa, fb, end_a, end_b) <= self.reach
            ):
                seen.add(pair)
                yield Implied("smooth", (a, b))

    def _one_centre(self) -> Iterator[Implied]:
        first: dict[tuple[int, int], ArcFeature | CircleFeature] = {}
        step = 4 * self.reach
        for c in self.rounds:
            x, y = round(c.center[0] / step), round(c.center[1] / step)
            cells = [(x + i, y + j) for i in (-1, 0, 1) for j in (-1, 0, 1)]
            known = next(
                (first[k] for k in cells if k in first and distance(first[k].center, c.center) <= self.reach),
                None,
            )
            if known is None:
                first[x, y] = c
            else:
                yield Implied("one-centre", (known.id, c.id))

    # about centre lines

    def _on_axes(self) -> Iterator[Implied]:
        """Yield the first of the round things on each centre that a centre line runs through."""
        for axis in self.axes:
            seen: list[Point] = []
            for c in self.rounds:
                along = along_supporting_line(c.center, axis.start, axis.end)
                if (
                    -self.reach <= along <= axis.length + self.reach
                    and distance_to_supporting_line(c.center, axis.start, axis.end) <= self.reach
                    and all(distance(p, c.center) > self.reach for p in seen)
                ):
                    seen.append(c.center)
                    yield Implied("on-axis", (axis.id, c.id))

    def _alike(self) -> Iterator[Implied]:
        """Yield what stands on both sides of a centre line: halves of an outline that it runs right through,
        what lies inside such an outline, and hidden edges along it."""
        for axis in self.axes:
            reflected = MirrorAxis(axis, self.reach)
            pairs: list[tuple[str, str]] = []
            boxes: list[Box] = []
            for outline in self.key.outlines:
                own = [self.key.by_id[i] for i in outline.corners]
                members = [self.key.curves[i] for i, _ in outline.members]
                if not all(f.id in self.may for f in members) or not reflected.runs_through(
                    [k.at for k in own]
                ):
                    continue
                found = reflected.pairs([k.at for k in own])
                if found is None:
                    continue
                arcs = [f for f in members if isinstance(f, ArcFeature)]
                both = reflected.pairs([f.center for f in arcs], [f.radius for f in arcs])
                if both is None:
                    continue
                pairs += [(own[i].id, own[j].id) for i, j in found]
                pairs += [(arcs[i].id, arcs[j].id) for i, j in both]
                boxes.append(_box(self.key, outline))
            circles = [c for c in self.rounds if isinstance(c, CircleFeature) and is_within(c.center, boxes)]
            pairs += [(circles[i].id, circles[j].id) for i, j in reflected.some_pairs(circles)]
            hidden = [e for e in self.edges if self.m.role(e.layer) == "hidden" and reflected.runs_along(e)]
            for a, b in itertools.combinations(hidden, 2):
                if reflected.images(a, b):
                    pairs.append((a.id, b.id))
            for a_id, b_id in dict.fromkeys(pairs):
                yield Implied("alike", (axis.id, a_id, b_id))

    def _even(self) -> Iterator[Implied]:
        """Yield holes evenly spaced on a circle of the drawing round their common centre."""
        circles = [c for c in self.rounds if isinstance(c, CircleFeature)]
        centers = np.array([c.center for c in circles], np.float64).reshape(-1, 2)
        for ring in circles:
            groups: dict[tuple[str, int], list[CircleFeature]] = defaultdict(list)
            apart = np.hypot(*(centers - ring.center).T)
            for n in np.nonzero(np.abs(apart - ring.radius) <= self.reach)[0].tolist():
                c = circles[n]
                if c.id != ring.id:
                    groups[c.layer, round(c.radius / (2 * self.reach))].append(c)
            for group in groups.values():
                found = patterns.find([c.center for c in group], self.reach) if len(group) > 2 else None
                if found is not None and found.form == "circle":
                    yield Implied("even", (ring.id, *(group[i].id for i in found.order)))


def _box(key: Linework, outline: Outline) -> Box:
    box = box_of([key.by_id[i].at for i in outline.corners])
    assert box is not None
    return box
