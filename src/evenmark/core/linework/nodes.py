"""Nodes: points of a drawing that are one point within weld.

- *cluster*: points linked by steps of at most weld, directly or through others.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import chain

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

_PER_REACH = 8
"""Points that round to the same eighth of the reach are taken together first, so that no crowd of points
costs its square."""
_SMALL = 128
"""Up to this many points a table of all distances is quicker than a tree."""


def as_rows(points: Sequence[Point]) -> Floats:
    """Return points as rows (n, 2); several times quicker than numpy's own reading of pairs."""
    return np.fromiter(chain.from_iterable(points), np.float64, 2 * len(points)).reshape(-1, 2)


def cluster(points: Floats, reach: float) -> tuple[Ints, int]:
    """Return the cluster number of each row of an (n, d) array, and how many clusters there are.

    Rounding only gathers what is certainly together; what may be apart is decided by real distance, since
    rounding alone puts equal values on either side of a boundary.

    >>> cluster(np.array([[0, 0], [5, 5], [0, 1e-7]]), 1e-6)[0].tolist()
    [0, 1, 0]
    """
    n = len(points)
    if n == 0:
        return np.empty(0, np.int64), 0
    if n <= _SMALL:
        gaps = np.square(points[:, None, :] - points[None, :, :]).sum(axis=2)
        near = gaps <= reach * reach
        first = near.argmax(axis=1)
        if (near == near[first]).all():  # everything near a point is near all that is near it
            leaders, labels = np.unique(first, return_inverse=True)
            return labels.reshape(-1), len(leaders)
        rows, columns = np.nonzero(near)
        return _linked(rows, columns, n)
    _, first, member = unique_rows(np.round((points - points.min(axis=0)) / (reach / _PER_REACH)))
    chosen = points[first]
    pairs = cKDTree(chosen).query_pairs(reach, output_type="ndarray")
    if not len(pairs):
        return member.reshape(-1), len(first)
    labels, count = _linked(pairs[:, 0], pairs[:, 1], len(first))
    return labels[member.reshape(-1)], count


def _linked(rows: Ints, columns: Ints, n: int) -> tuple[Ints, int]:
    count, labels = connected_components(
        coo_array((np.ones(len(rows), bool), (rows, columns)), shape=(n, n)), directed=False
    )
    return labels.astype(np.int64), int(count)


def unique_rows(cells: Floats | Ints) -> tuple[int, Ints, Ints]:
    """Return the number of distinct rows, where each first occurs, and which of them every row is.

    Sorting column by column is several times quicker than numpy's own unique rows, which compares them as
    bytes.
    """
    order = np.lexsort(cells.T[::-1])
    fresh = np.ones(len(cells), bool)
    fresh[1:] = (cells[order[1:]] != cells[order[:-1]]).any(axis=1)
    number = np.cumsum(fresh) - 1
    member = np.empty(len(cells), np.int64)
    member[order] = number
    first = np.full(int(number[-1]) + 1, len(cells), np.int64)
    np.minimum.at(first, member, np.arange(len(cells)))
    return len(first), first, member


def by_label(labels: Ints, count: int) -> list[list[int]]:
    """Return the members of each cluster, in order.

    >>> by_label(np.array([0, 1, 0]), 2)
    [[0, 2], [1]]
    """
    nodes = Nodes.of_labels(labels, count)
    return [nodes.members(i) for i in range(count)]


class Nodes:
    """Points gathered into nodes: which belong to each, and its place, the middle of the box of its
    points."""

    def __init__(self, points: Floats, reach: float) -> None:
        labels, count = cluster(points, reach)
        self._gather(labels, count)
        if not count:
            self.places: Floats = np.empty((0, 2))
            return
        ordered, begins = points[self._order], self._bounds[:-1]
        low, high = np.minimum.reduceat(ordered, begins), np.maximum.reduceat(ordered, begins)
        self.places = low + (high - low) / 2

    @classmethod
    def of_labels(cls, labels: Ints, count: int) -> Nodes:
        """Return the nodes of clusters that are known already, without places."""
        nodes = cls.__new__(cls)
        nodes._gather(labels, count)
        return nodes

    def _gather(self, labels: Ints, count: int) -> None:
        self.labels = labels
        self._order = np.argsort(labels, kind="stable")
        self._bounds = np.searchsorted(labels[self._order], np.arange(count + 1))
        self.sizes: Ints = np.diff(self._bounds)
        self._members: list[int] = self._order.tolist()
        self._cuts: list[int] = self._bounds.tolist()

    def members(self, node: int) -> list[int]:
        """Return the numbers of the points of a node, in order."""
        return self._members[self._cuts[node] : self._cuts[node + 1]]

    def pairs(self) -> Ints:
        """Return the two points of each node that has just two, as rows."""
        begins = self._bounds[:-1][self.sizes == 2]
        return np.column_stack((self._order[begins], self._order[begins + 1]))


def grid(points: Floats, weld: float) -> Floats:
    """Return a sort key for places, as whole numbers: places that differ by rounding alone nearly always fall
    together."""
    return np.floor(points / max(weld, tol.LEAST_SIZE) + 0.5) + 0.0


def order_of(key: Floats) -> list[int]:
    """Return row numbers in the order of a key, its first column counting most."""
    order: list[int] = np.lexsort(key.T[::-1]).tolist()
    return order
