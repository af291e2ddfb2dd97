"""Edges about which something may have been laid on the wrong side, looked up by where such an edge
would lie.

- *mirror*: the line half way between a point and its image, square to the way from one to the other.
"""

from __future__ import annotations

import math
from collections.abc import Container, Sequence

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry.points import Point, distance, middle
from evenmark.core.linework.model import Edge
from evenmark.core.linework.nodes import as_rows

Pairs = tuple[tuple[Point, Point], ...]
Floats = NDArray[np.float64]


class Mirrors:
    """Edges of a key in order of their direction."""

    def __init__(self, edges: Sequence[Edge]) -> None:
        starts = as_rows([k.start for k in edges])
        along = as_rows([k.end for k in edges]) - starts
        turns = np.mod(np.arctan2(along[:, 1], along[:, 0]), math.pi)
        order = np.argsort(turns, kind="stable")
        self.edges, self.numbers, self.turns = edges, order, turns[order]
        self.start = starts[order]
        self.unit = (along / np.hypot(along[:, 0], along[:, 1])[:, None])[order]
        self.across, self.up = self.unit[:, 0].copy(), self.unit[:, 1].copy()
        self.off = self.across * self.start[:, 1] - self.up * self.start[:, 0]

    def that_lays(
        self, pairs: Pairs, reach: float, among: Container[str], along: Edge | None = None
    ) -> Edge | None:
        """Return the first edge among some, by id, about which each first point is the mirror image of the
        second, off the edge itself; with ``along``, one that is parallel to that edge."""
        apart = [distance(p, q) for p, q in pairs]
        if min(apart) < reach:
            return None  # what lies off a mirror lies twice as far from its image
        rows = self._near(*pairs[apart.index(max(apart))], max(apart), reach)
        if not len(rows):
            return None
        start, unit = self.start[rows], self.unit[rows]
        good = np.ones(len(start), bool)
        for p, q in pairs:
            w = np.asarray(p) - start
            far = (w * unit).sum(axis=1)[:, None]
            image = start + 2 * far * unit - w
            aside = np.abs(unit[:, 0] * w[:, 1] - unit[:, 1] * w[:, 0])
            good &= (np.hypot(*(image - np.asarray(q)).T) <= reach) & (aside > reach)
        if along is not None:
            d = np.asarray(along.end) - np.asarray(along.start)
            good &= np.abs(unit[:, 0] * d[1] - unit[:, 1] * d[0]) <= reach
        found = (self.edges[n] for n in sorted(self.numbers[rows[good]].tolist()))
        return next((k for k in found if k.id in among), None)

    def _near(self, p: Point, q: Point, apart: float, reach: float) -> NDArray[np.int64]:
        """Return the rows whose supporting lines pass half way between two points, about square to the way
        from one to the other."""
        x, y = middle(p, q)
        want = (math.atan2(q[1] - p[1], q[0] - p[0]) + math.pi / 2) % math.pi
        spare = 2 * reach / apart
        found = []
        for turn in (want - math.pi, want, want + math.pi):  # directions go round
            low, high = np.searchsorted(self.turns, (turn - spare, turn + spare), "left").tolist()
            if low < high:
                off = self.across[low:high] * y - self.up[low:high] * x - self.off[low:high]
                found.append(low + np.nonzero(np.abs(off) <= reach)[0])
        return np.unique(np.concatenate(found)) if found else np.empty(0, np.int64)
