"""Which points lie on which curves: candidates by boxes first, then the exact test.

- *cell size*: each box goes into cells of its own size class, so that it covers at most four of them and a
  point probes one cell for each size class that occurs. Small tables are compared whole.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry import tolerance as tol

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

_WHOLE_TABLE = 60_000
"""Up to this many point-box pairs, comparing all is quicker than cells."""
_MANY_PAIRS = 2_000_000
"""Beyond so many point-segment pairs, segments are followed from cell to cell."""
_MOST_ROWS = 1024
_CHUNK = 2_000_000
"""Candidate pairs looked at in one go, to bound memory."""


def points_in_boxes(points: Floats, boxes: Floats) -> tuple[Ints, Ints]:
    """Return index pairs (point, box) of all points inside boxes (n, 4: left, bottom, right, top)."""
    if not len(points) or not len(boxes):
        return np.empty(0, np.int64), np.empty(0, np.int64)
    if len(points) * len(boxes) <= _WHOLE_TABLE:
        x, y = points[:, 0, None], points[:, 1, None]
        inside = (x >= boxes[:, 0]) & (x <= boxes[:, 2]) & (y >= boxes[:, 1]) & (y <= boxes[:, 3])
        p, b = np.nonzero(inside)
        return p.astype(np.int64), b.astype(np.int64)
    found = [_one_class(points, boxes, members) for members in _size_classes(boxes)]
    return np.concatenate([f[0] for f in found]), np.concatenate([f[1] for f in found])


def _size_classes(boxes: Floats) -> list[Ints]:
    """Group boxes by width and height, each within a factor of eight."""
    widths = np.maximum(boxes[:, 2:] - boxes[:, :2], tol.NOT_ZERO)
    level = np.ceil(np.log2(widths / widths.max()) / 3).astype(np.int64).clip(-12, 0)
    key = level[:, 0] * 64 + level[:, 1]
    order = np.argsort(key, kind="stable")
    cuts = np.nonzero(np.diff(key[order]))[0] + 1
    return np.split(order, cuts)


def _one_class(points: Floats, boxes: Floats, members: Ints) -> tuple[Ints, Ints]:
    """Match points with boxes of about one size by cells of that size."""
    own = boxes[members]
    low = np.minimum(points.min(axis=0), own[:, :2].min(axis=0))
    span = np.maximum(points.max(axis=0), own[:, 2:].max(axis=0)) - low
    size = np.maximum((own[:, 2:] - own[:, :2]).max(axis=0), span * tol.SLACK_SHARE + tol.NOT_ZERO)
    stride = np.int64(span[1] / size[1]) + 3
    first = ((own[:, :2] - low) / size).astype(np.int64)
    keys, owner = [], []
    for dx in (0, 1):
        for dy in (0, 1):
            keys.append((first[:, 0] + dx) * stride + first[:, 1] + dy)
            owner.append(members)
    key, who = np.concatenate(keys), np.concatenate(owner)
    order = np.argsort(key, kind="stable")
    key, who = key[order], who[order]
    cell = ((points - low) / size).astype(np.int64)
    point_key = cell[:, 0] * stride + cell[:, 1]
    begin, end = np.searchsorted(key, point_key, "left"), np.searchsorted(key, point_key, "right")
    return _expand(points, boxes, who, begin, end)


def _expand(points: Floats, boxes: Floats, who: Ints, begin: Ints, end: Ints) -> tuple[Ints, Ints]:
    """Turn ranges of candidates into pairs that pass the box test, a bounded number at a time."""
    counts = end - begin
    out_p, out_b = [np.empty(0, np.int64)], [np.empty(0, np.int64)]
    for some in _bounded(counts, _CHUNK):
        part = counts[some]
        p = np.repeat(some, part)
        if len(p):
            offset = np.arange(len(p)) - np.repeat(np.cumsum(part) - part, part)
            b = who[np.repeat(begin[some], part) + offset]
            q, box = points[p], boxes[b]
            inside = (q >= box[:, :2]).all(axis=1) & (q <= box[:, 2:]).all(axis=1)
            out_p.append(p[inside])
            out_b.append(b[inside])
    return np.concatenate(out_p), np.concatenate(out_b)


def on_segments(points: Floats, starts: Floats, ends: Floats, reach: float) -> tuple[Ints, Ints]:
    """Return pairs (point, segment) where the point lies within reach of the segment's interior, ends left
    out."""
    if len(points) * len(starts) > _MANY_PAIRS:
        found = [
            _hits(points, starts, ends, reach, p, s) for p, s in _along_rows(points, starts, ends, reach)
        ]
        p, s = (np.concatenate([f[i] for f in found]) for i in (0, 1))
        both = np.unique(p * np.int64(len(starts)) + s)
        return both // len(starts), both % len(starts)
    low, high = np.minimum(starts, ends) - reach, np.maximum(starts, ends) + reach
    return _hits(points, starts, ends, reach, *points_in_boxes(points, np.column_stack((low, high))))


def _hits(points: Floats, starts: Floats, ends: Floats, reach: float, p: Ints, s: Ints) -> tuple[Ints, Ints]:
    """Return those of some candidates that lie on their segment."""
    if not len(p):
        return p, s
    a, d, q = starts[s], (ends - starts)[s], points[p]
    length = np.hypot(d[:, 0], d[:, 1])
    w = q - a
    off = np.abs(d[:, 0] * w[:, 1] - d[:, 1] * w[:, 0]) / length
    along = (w * d).sum(axis=1) / length
    hit = (off <= reach) & (along > reach) & (along < length - reach)
    return p[hit], s[hit]


def _along_rows(points: Floats, starts: Floats, ends: Floats, reach: float) -> Iterator[tuple[Ints, Ints]]:
    """Yield candidate pairs (point, segment), a bounded number at a time: the points in the cells that a
    segment runs through.

    Points are sorted by rows of cells, about one point a cell, so that what a segment passes within a row is
    one stretch of them. A long slanted segment then meets as many points as it has cells, where its box would
    hold nearly all of them.
    """
    low = points.min(axis=0)
    wide, tall = np.maximum(points.max(axis=0) - low, tol.NOT_ZERO).tolist()
    # about one point a cell, and cells about as wide as tall: what lies in one row has one row of cells
    rows = int(np.clip(math.sqrt(len(points) * min(tall / wide, float(len(points)))), 1, _MOST_ROWS))
    columns = int(np.clip(len(points) / rows, 1, _MOST_ROWS * _MOST_ROWS / rows))
    size = np.array((wide / columns, tall / rows))
    cell = np.minimum(((points - low) / size).astype(np.int64), (columns - 1, rows - 1))
    key = cell[:, 1] * columns + cell[:, 0]
    order = np.argsort(key, kind="stable")
    begin = np.searchsorted(key[order], np.arange(rows * columns + 1))
    # arithmetic may not lose a point at the edge of its cell
    wider = reach + float(size.max()) * tol.CELL_SHARE
    foot, head = np.minimum(starts[:, 1], ends[:, 1]), np.maximum(starts[:, 1], ends[:, 1])
    first = _cell_of(foot - wider, low[1], size[1], rows)
    counts = _cell_of(head + wider, low[1], size[1], rows) - first + 1
    for some in _bounded(counts, _CHUNK // 4):
        segment = np.repeat(some, counts[some])
        row = (
            np.arange(len(segment))
            - np.repeat(np.cumsum(counts[some]) - counts[some], counts[some])
            + first[segment]
        )
        edge = low[1] + row * size[1]
        y = np.column_stack((edge - wider, edge + size[1] + wider))
        y = np.clip(y, foot[segment, None], head[segment, None])
        x = _across(starts[segment], ends[segment], y)
        left = _cell_of(x.min(axis=1) - wider, low[0], size[0], columns)
        right = _cell_of(x.max(axis=1) + wider, low[0], size[0], columns)
        since, until = begin[row * columns + left], begin[row * columns + right + 1]
        many = until - since
        for stretch in _bounded(many, _CHUNK):
            n = many[stretch]
            offset = np.arange(int(n.sum())) - np.repeat(np.cumsum(n) - n, n)
            yield order[np.repeat(since[stretch], n) + offset], np.repeat(segment[stretch], n)


def _cell_of(values: Floats, low: float, size: float, rows: int) -> Ints:
    return np.clip(np.floor((values - low) / size), 0, rows - 1).astype(np.int64)


def _across(starts: Floats, ends: Floats, y: Floats) -> Floats:
    """Return where segments are at two heights (n, 2), as x; one that is level runs from end to end."""
    rise = ends[:, 1] - starts[:, 1]
    level = np.abs(rise) <= np.abs(ends[:, 0] - starts[:, 0]) * tol.LEVEL_SHARE
    share = (y - starts[:, 1, None]) / np.where(level, 1.0, rise)[:, None]
    share[level] = (0.0, 1.0)
    return starts[:, 0, None] + np.clip(share, 0.0, 1.0) * (ends - starts)[:, 0, None]


def _bounded(counts: Ints, most: int) -> Iterator[Ints]:
    """Yield indices one after the other, so many at a time that their counts together stay within bounds (one
    alone may exceed them)."""
    total = np.cumsum(counts)
    at = 0
    while at < len(counts):
        done = int(total[at - 1]) if at else 0
        upto = max(at + 1, int(np.searchsorted(total, done + most, "right")))
        yield np.arange(at, upto)
        at = upto


def on_arcs(points: Floats, centers: Floats, shape: Floats, reach: float) -> tuple[Ints, Ints]:
    """Return pairs (point, arc) where the point lies within reach of the arc's interior.

    ``shape`` is (n, 3): radius, start and sweep in radians; a full turn has no ends to leave out.
    """
    r = shape[:, 0, None] + reach
    p, s = points_in_boxes(points, np.column_stack((centers - r, centers + r)))
    if not len(p):
        return p, s
    w = points[p] - centers[s]
    radius, start, sweep = shape[s].T
    off = np.abs(np.hypot(w[:, 0], w[:, 1]) - radius)
    turn = np.mod(np.arctan2(w[:, 1], w[:, 0]) - start, 2 * np.pi)
    spare = reach / radius
    full = sweep >= 2 * np.pi - spare
    hit = (off <= reach) & (full | ((turn > spare) & (turn < sweep - spare)))
    return p[hit], s[hit]
