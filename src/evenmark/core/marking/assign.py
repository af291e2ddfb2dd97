"""Which row of one table was meant as which row of another: those that lie on each other, and of the rest
those that cost least together.

- *table*: features of one kind with their numbers in rows (`shapes`).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment
from scipy.spatial import cKDTree

from evenmark.core.geometry import tolerance as tol
from evenmark.core.marking.drawn_partner import DrawnPartner
from evenmark.core.marking.shapes import Table

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

_NEIGHBOURS = 6
"""Drawn features looked at for one key feature; duplicates on other layers are the reason for more than
one."""
_DENSE = 250
"""Up to this many left on each side a full table of costs is solved; beyond it, neighbours only, cheapest
first."""
_NO = 1e15
"""Cost of a pair that may not be."""


def exact_pairs(wanted: Table, found: Table, reach: float) -> tuple[Ints, Ints]:
    """Return rows of both tables that lie on each other within reach, none twice; same layers before others,
    then nearest."""
    nothing = np.empty(0, np.int64)
    if not len(wanted) or not len(found):
        return nothing, nothing
    k = min(_NEIGHBOURS, len(found))
    found_at = cKDTree(found.place).query(wanted.place, k=k, distance_upper_bound=4 * reach)
    gaps, near = (np.asarray(part).reshape(len(wanted), k) for part in found_at)
    rows, slots = np.nonzero(np.isfinite(gaps))
    columns = near[rows, slots].astype(np.int64)
    off, _ = displacement(wanted, found, rows, columns)
    good = off <= reach
    rows, columns, off = rows[good], columns[good], off[good]
    if len(np.unique(rows)) == len(rows) == len(np.unique(columns)):
        return rows, columns
    other_layer = np.array(
        [wanted.layers[i] != found.layers[j] for i, j in zip(rows.tolist(), columns.tolist(), strict=True)]
    )
    return _cheapest_first(rows, columns, np.lexsort((columns, rows, off, other_layer)))


def displacement(wanted: Table, found: Table, rows: Ints, columns: Ints) -> tuple[Floats, NDArray[np.bool_]]:
    """Return the largest distance of matching points (for circles: of centres plus of radii), and whether
    ends are exchanged."""
    a, b = [p[rows] for p in wanted.points], [p[columns] for p in found.points]
    if wanted.kind in ("edge", "arc"):
        straight = np.maximum(_gap(a[0], b[0]), _gap(a[1], b[1]))
        crossed = np.maximum(_gap(a[0], b[1]), _gap(a[1], b[0]))
        off = np.minimum(straight, crossed)
        # an arc runs counter-clockwise, so that one which bulges to the other side has its ends exchanged
        return off if wanted.kind == "edge" else np.maximum(off, _gap(a[2], b[2])), crossed < straight
    off = np.maximum.reduce([_gap(p, q) for p, q in zip(a, b, strict=True)])
    if wanted.kind == "circle":
        off = off + np.abs(wanted.radii[rows] - found.radii[columns])
    return off, np.zeros(len(rows), bool)


def _gap(a: Floats, b: Floats) -> Floats:
    return np.hypot(a[:, 0] - b[:, 0], a[:, 1] - b[:, 1])


def others(n: int, used: Ints) -> Ints:
    """Return the rows, of so many, that are not used."""
    free = np.ones(n, bool)
    free[used] = False
    return np.nonzero(free)[0]


def keep(
    wanted: Table, found: Table, rows: Ints, columns: Ints, exact: bool, partners: dict[str, DrawnPartner]
) -> None:
    """Put down which rows are partners, and which end of each answers to which."""
    if not len(rows):
        return
    _, flipped = displacement(wanted, found, rows, columns)
    for i, j, flip in zip(rows.tolist(), columns.tolist(), flipped.tolist(), strict=True):
        partners[wanted.ids[i]] = DrawnPartner(id=found.ids[j], flipped=flip, exact=exact)


def _cheapest_first(rows: Ints, columns: Ints, order: Ints) -> tuple[Ints, Ints]:
    used_r: set[int] = set()
    used_c: set[int] = set()
    out: list[tuple[int, int]] = []
    for i, j in zip(rows[order].tolist(), columns[order].tolist(), strict=True):
        if i not in used_r and j not in used_c:
            used_r.add(i)
            used_c.add(j)
            out.append((i, j))
    pairs = np.array(sorted(out), dtype=np.int64).reshape(-1, 2)
    return pairs[:, 0], pairs[:, 1]


def by_displacement(wanted: Table, found: Table, reach: float) -> tuple[Ints, Ints]:
    """Assign what lies within the key feature's size, by least displacement."""
    return _assign(wanted, found, wanted.sizes, reach)


def by_shape(wanted: Table, found: Table, reach: float) -> tuple[Ints, Ints]:
    """Assign what has the same shape, wherever it stands: it was moved rather than left out."""
    rows, columns = _candidates(len(wanted), len(found), wanted.shape, found.shape)
    same = np.abs(wanted.shape[rows] - found.shape[columns]).max(axis=1) <= reach
    return _solve(wanted, found, rows[same], columns[same])


def by_end(wanted: Table, found: Table, reach: float) -> tuple[Ints, Ints]:
    """Assign edges that share an end: the other one was drawn to somewhere else."""
    rows, columns = _candidates(len(wanted), len(found), wanted.anchors, found.anchors)
    if wanted.kind != "edge":
        return rows[:0], columns[:0]
    a, b = [p[rows] for p in wanted.points], [p[columns] for p in found.points]
    off = np.minimum.reduce([_gap(p, q) for p in a for q in b])
    return _solve(wanted, found, rows[off <= reach], columns[off <= reach])


def _assign(wanted: Table, found: Table, limits: Floats, reach: float) -> tuple[Ints, Ints]:
    rows, columns = _candidates(len(wanted), len(found), wanted.anchors, found.anchors)
    off, _ = displacement(wanted, found, rows, columns)
    if wanted.kind == "circle":
        off = _gap(wanted.points[0][rows], found.points[0][columns])
    may = off <= limits[rows] + reach
    return _solve(wanted, found, rows[may], columns[may])


def _candidates(n: int, m: int, a: Floats, b: Floats) -> tuple[Ints, Ints]:
    """Return all pairs of small tables, and the nearest few of large ones."""
    if n <= _DENSE and m <= _DENSE:
        rows, columns = np.indices((n, m))
        return rows.reshape(-1), columns.reshape(-1)
    k = min(_NEIGHBOURS, m)
    _, near = cKDTree(b).query(a, k=k)
    return np.repeat(np.arange(n), k), np.asarray(near).reshape(-1).astype(np.int64)


def _solve(wanted: Table, found: Table, rows: Ints, columns: Ints) -> tuple[Ints, Ints]:
    """Return the assignment of least cost among allowed pairs: total displacement, other layers a hair
    dearer."""
    if not len(rows):
        return rows, columns
    a, b = [p[rows] for p in wanted.points], [p[columns] for p in found.points]
    if wanted.kind == "edge":
        cost = np.minimum(_gap(a[0], b[0]) + _gap(a[1], b[1]), _gap(a[0], b[1]) + _gap(a[1], b[0]))
    else:
        cost = np.add.reduce([_gap(p, q) for p, q in zip(a, b, strict=True)])
        cost = cost + np.abs(wanted.radii[rows] - found.radii[columns])
    mean = float(cost.mean()) + tol.LEAST_SIZE
    cost = cost * (
        1 + tol.ORDER_WEIGHT * cost / mean
    )  # of equal totals, the one in which things keep their order
    cost = cost + mean * tol.ORDER_WEIGHT * np.array(
        [wanted.layers[i] != found.layers[j] for i, j in zip(rows.tolist(), columns.tolist(), strict=True)]
    )
    if len(wanted) <= _DENSE and len(found) <= _DENSE:
        table = np.full((len(wanted), len(found)), _NO)
        table[rows, columns] = cost
        r, c = linear_sum_assignment(table)
        allowed = table[r, c] < _NO
        return r[allowed].astype(np.int64), c[allowed].astype(np.int64)
    return _cheapest_first(rows, columns, np.lexsort((columns, rows, cost)))
