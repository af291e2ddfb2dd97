"""Nodes: points of a drawing that are one point within weld.

- *cluster*: points linked by steps of at most weld, directly or through others.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

_PER_REACH = 8
"""Points that round to the same eighth of the reach are taken together first, so that no crowd of points costs its square."""
_SMALL = 400
"""Up to this many points a table of all distances is quicker than a tree."""


def cluster(points: Floats, reach: float) -> tuple[Ints, int]:
    """Return the cluster number of each row of an (n, d) array, and how many clusters there are.

    Rounding only gathers what is certainly together; what may be apart is decided by real distance, since rounding alone
    puts equal values on either side of a boundary.

    >>> cluster(np.array([[0, 0], [5, 5], [0, 1e-7]]), 1e-6)[0].tolist()
    [0, 1, 0]
    """
    n = len(points)
    if n == 0:
        return np.empty(0, np.int64), 0
    if n <= _SMALL:
        gaps = np.square(points[:, None, :] - points[None, :, :]).sum(axis=2)
        rows, columns = np.nonzero(gaps <= reach * reach)
        if len(rows) == n:
            return np.arange(n), n
        return _linked(rows, columns, n)
    cells = np.round((points - points.min(axis=0)) / (reach / _PER_REACH))
    _, first, member = np.unique(cells, axis=0, return_index=True, return_inverse=True)
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


def by_label(labels: Ints, count: int) -> list[list[int]]:
    """Return the members of each cluster, in order.

    >>> by_label(np.array([0, 1, 0]), 2)
    [[0, 2], [1]]
    """
    order = np.argsort(labels, kind="stable")
    bounds = np.searchsorted(labels[order], np.arange(count + 1))
    members, cuts = order.tolist(), bounds.tolist()
    return [members[cuts[i] : cuts[i + 1]] for i in range(count)]
