"""Edges about which something may have been laid on the wrong side, looked up by where such an edge
would lie.

- *mirror*: the line half way between a point and its image, square to the way from one to the other.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import Edge

Pairs = tuple[tuple[Point, Point], ...]


class Mirrors:
    """Edges of a key by direction and by how far their carriers lie from its middle."""

    def __init__(self, edges: list[Edge]) -> None:
        self.edges = edges
        self.start = np.array([k.start for k in edges])
        along = np.array([k.end for k in edges]) - self.start
        self.unit = along / np.hypot(along[:, 0], along[:, 1])[:, None]
        self.middle = self.start.mean(axis=0)
        self.extent = float(np.ptp(self.start, axis=0).max()) + float(np.abs(along).max())
        self.tree = cKDTree(self._rows(self.unit, self.start))

    def _rows(self, unit: NDArray[np.float64], at: NDArray[np.float64]) -> NDArray[np.float64]:
        """Return lines as points: twice their direction, so that both ways along are the same, and their
        distance from the middle, positive where their normal points up or to the right."""
        normal = np.column_stack((-unit[:, 1], unit[:, 0]))
        turn = (normal[:, 0] < 0) | ((normal[:, 0] == 0) & (normal[:, 1] < 0))
        normal = np.where(turn[:, None], -normal, normal)
        off = ((at - self.middle) * normal).sum(axis=1)
        double = np.column_stack((unit[:, 0] ** 2 - unit[:, 1] ** 2, 2 * unit[:, 0] * unit[:, 1]))
        return np.column_stack((double * self.extent, off))

    def that_lays(self, pairs: Pairs, reach: float, along: Edge | None = None) -> Edge | None:
        """Return the first edge about which each first point is the mirror image of the second, off the edge
        itself; with ``along``, one that is parallel to that edge."""
        rows = self._near(pairs[0], reach)
        if rows is not None and not len(rows):
            return None
        start, unit = (self.start, self.unit) if rows is None else (self.start[rows], self.unit[rows])
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
        found = np.nonzero(good)[0]
        if not len(found):
            return None
        return self.edges[int(found[0] if rows is None else rows[found[0]])]

    def _near(self, pair: tuple[Point, Point], reach: float) -> NDArray[np.int64] | None:
        """Return the edges that lie about half way between two points; None where that says nothing, since
        the points are too close to each other."""
        (px, py), (qx, qy) = pair
        apart = math.hypot(qx - px, qy - py)
        if apart <= tol.MIRROR_APART * reach:
            return None
        unit = np.array([[-(qy - py) / apart, (qx - px) / apart]])
        row = self._rows(unit, np.array([[(px + qx) / 2, (py + qy) / 2]]))[0]
        spare = 4 * reach + 8 * self.extent * reach / apart
        found = self.tree.query_ball_point(row, spare)
        if abs(unit[0, 1]) * self.extent <= spare:  # level: its normal may be taken either way
            found += self.tree.query_ball_point(row * (1, 1, -1), spare)
        return np.array(sorted(set(found)), np.int64)
