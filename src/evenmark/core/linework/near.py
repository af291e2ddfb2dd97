"""Which points lie on which curves: candidates by boxes first, then the exact test.

- *cell size*: each box goes into cells of its own size class, so that it covers at most four of them and a point probes
  one cell for each size class that occurs. Small tables are compared whole.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

_WHOLE_TABLE = 60_000
"""Up to this many point-box pairs, comparing all is quicker than cells."""
_MANY_PAIRS = 2_000_000
_MOST_PARTS = 64
"""Beyond so many point-segment pairs, slanted segments are cut into at most so many parts."""
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
    widths = np.maximum(boxes[:, 2:] - boxes[:, :2], 1e-300)
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
    size = np.maximum((own[:, 2:] - own[:, :2]).max(axis=0), span * 1e-9 + 1e-300)
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
    total = np.cumsum(counts)
    at = 0
    while at < len(points):
        done = total[at - 1] if at else 0
        upto = max(at + 1, int(np.searchsorted(total, done + _CHUNK, "right")))
        part = counts[at:upto]
        p = np.repeat(np.arange(at, upto), part)
        if len(p):
            offset = np.arange(len(p)) - np.repeat(np.cumsum(part) - part, part)
            b = who[np.repeat(begin[at:upto], part) + offset]
            q, box = points[p], boxes[b]
            inside = (q >= box[:, :2]).all(axis=1) & (q <= box[:, 2:]).all(axis=1)
            out_p.append(p[inside])
            out_b.append(b[inside])
        at = upto
    return np.concatenate(out_p), np.concatenate(out_b)


def on_segments(points: Floats, starts: Floats, ends: Floats, reach: float) -> tuple[Ints, Ints]:
    """Return pairs (point, segment) where the point lies within reach of the segment's interior, ends left out."""
    parts, owner = _parts(points, starts, ends)
    low, high = np.minimum(*parts) - reach, np.maximum(*parts) + reach
    p, s = points_in_boxes(points, np.column_stack((low, high)))
    if not len(p):
        return p, s
    if owner is not None:
        both = np.unique(p * np.int64(len(starts)) + owner[s])
        p, s = both // len(starts), both % len(starts)
    a, d, q = starts[s], (ends - starts)[s], points[p]
    length = np.hypot(d[:, 0], d[:, 1])
    w = q - a
    off = np.abs(d[:, 0] * w[:, 1] - d[:, 1] * w[:, 0]) / length
    along = (w * d).sum(axis=1) / length
    hit = (off <= reach) & (along > reach) & (along < length - reach)
    return p[hit], s[hit]


def _parts(points: Floats, starts: Floats, ends: Floats) -> tuple[tuple[Floats, Floats], Ints | None]:
    """Cut long slanted segments of large tables into parts, since their boxes would hold nearly every point; say whose each part is."""
    if len(points) * len(starts) <= _MANY_PAIRS:
        return (starts, ends), None
    span = float((points.max(axis=0) - points.min(axis=0)).max()) or 1.0
    slant = np.abs(ends - starts).min(axis=1)  # a level or plumb segment has a thin box as it is
    counts = np.clip(np.ceil(slant / (span / _MOST_PARTS)), 1, _MOST_PARTS).astype(np.int64)
    if int(counts.max()) == 1:
        return (starts, ends), None
    owner = np.repeat(np.arange(len(starts)), counts)
    number = np.arange(len(owner)) - np.repeat(np.cumsum(counts) - counts, counts)
    along = (ends - starts)[owner]
    share = (1.0 / counts)[owner][:, None]
    first = starts[owner] + along * share * number[:, None]
    return (first, first + along * share), owner


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
