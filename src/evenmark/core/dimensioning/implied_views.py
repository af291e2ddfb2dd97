"""What views say of each other without figures: levels that they share, edge by edge."""

from __future__ import annotations

import itertools
import math
from collections.abc import Collection, Iterator, Sequence

import numpy as np

from evenmark.core.dimensioning.implied_kinds import Implied
from evenmark.core.dimensioning.measured import Measured
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point, in_sweep
from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Tee, View


class SharedLevels:
    """The levels that the views of a key share: of ``rounds`` and what ends in ``may``."""

    def __init__(
        self,
        m: Measured,
        rounds: Sequence[ArcFeature | CircleFeature],
        may: Collection[str],
        views: Sequence[View],
        kind: str = "views",
    ) -> None:
        self.m, self.key, self.reach = m, m.key, m.reach
        self.rounds, self.may, self.views, self.kind = rounds, may, views, kind

    def all(self) -> Iterator[Implied]:
        """Yield the levels that each two views share."""
        for one, other in itertools.combinations(self.views, 2):
            yield from self._levels_of(one, other)

    def _levels_of(self, one: View, other: View) -> Iterator[Implied]:
        """Yield, for each corner of a view, the first corner of an earlier view on its level, else something
        round of the other view that reaches as far."""
        for axis, (low, high) in enumerate(((0, 2), (1, 3))):
            same = abs(one.box[low] - other.box[low]) <= self.reach
            if same and abs(one.box[high] - other.box[high]) <= self.reach:
                yield from self._of_level(one, other, (axis, axis), 1.0, 0.0)
                return
        if self.kind != "views":  # two views alone: how a depth runs is not known
            return
        if abs((one.box[3] - one.box[1]) - (other.box[2] - other.box[0])) > self.reach:
            return
        ways = []
        for sign in (1.0, -1.0):
            add = other.box[0] - sign * (one.box[1] if sign > 0 else one.box[3])
            ways.append(list(self._of_level(one, other, (1, 0), sign, add)))
        depths = max(ways, key=len)
        first = next((t for t in depths if t.axes == (1, 0) and t.features[0] in self.key.meetings), None)
        for t in depths:  # a depth is counted from the first of them
            if first is not None and t is not first:
                base = first.features if t.axes == first.axes else first.features[::-1]
                yield t._replace(features=(*t.features, *base))

    def _joints(self, view: View) -> list[Corner | Tee]:
        found = (k for k in self.key.meetings.values() if any(i in self.may for i, _ in k.ends))
        return [k for k in found if is_within(k.at, [view.box], self.reach)]

    def _of_level(
        self, one: View, other: View, axes: tuple[int, int], sign: float, add: float
    ) -> Iterator[Implied]:
        a, b = self._joints(one), self._joints(other)
        known = sorted((sign * k.at[axes[0]] + add, k.id) for k in a)
        levels = [level for level, _ in known]
        met = set[str]()
        for k in sorted(b, key=lambda k: (k.at[axes[1]], k.id)):
            n = int(np.searchsorted(levels, k.at[axes[1]] - self.reach))
            if n < len(known) and abs(levels[n] - k.at[axes[1]]) <= self.reach:
                met.add(known[n][1])
                yield Implied(self.kind, (known[n][1], k.id), axes, sign)
                continue
            level = sign * (k.at[axes[1]] - add)
            rim = self._rim_at(one, level, axes[0])
            if rim:
                yield Implied(self.kind, (rim, k.id), axes, sign)
        # edges of a hole in the first view, its circle in the other
        for k in sorted(a, key=lambda k: (k.at[axes[0]], k.id)):
            rim = "" if k.id in met else self._rim_at(other, sign * k.at[axes[0]] + add, axes[1])
            if rim:
                yield Implied(self.kind, (rim, k.id), axes[::-1], sign)

    def _rim_at(self, view: View, level: float, axis: int) -> str:
        """Return the first of the round things of a view whose outermost point along an axis is on a
        level."""
        turns = (0.0, math.pi) if axis == 0 else (math.pi / 2, -math.pi / 2)
        for c in self.rounds:
            for way, turn in zip((1.0, -1.0), turns, strict=True):
                if abs(c.center[axis] + way * c.radius - level) > self.reach:
                    continue
                whole = isinstance(c, CircleFeature) or in_sweep(
                    turn, c.start_rad, c.sweep_rad, tol.NEARLY_ENDED_RAD
                )
                if whole and is_within(c.center, [view.box], self.reach):
                    return c.id
        return ""


def is_within(p: Point, boxes: Sequence[Box], spare: float = 0.0) -> bool:
    """Say whether a point lies in one of some boxes, or no farther outside than ``spare``."""
    return any(b[0] - spare <= p[0] <= b[2] + spare and b[1] - spare <= p[1] <= b[3] + spare for b in boxes)
