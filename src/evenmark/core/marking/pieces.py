"""Edges that were drawn in collinear pieces with gaps between them: together they are one edge, and the gap
is the finding.

- *piece*: a drawn edge that lies on a key edge's supporting line, between its ends.
"""

from __future__ import annotations

import math
from collections import defaultdict
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Point
from evenmark.core.linework.near import on_segments
from evenmark.core.marking.shapes import Table

Ints = NDArray[np.int64]

_LEAST = 0.5
"""Pieces that cover less than this share of an edge are not meant as it."""


class Pieces(NamedTuple):
    """The pieces of one key edge: its row, their rows, the ends that they make together, and the largest gap
    between them."""

    row: int
    pieces: tuple[int, ...]
    start: Point
    end: Point
    gap: float
    exact: bool


def in_pieces(wanted: Table, found: Table, left: Ints, over: Ints, reach: float) -> list[Pieces]:
    """Return the key edges among ``left`` that were drawn in two or more pieces out of ``over``; no piece is
    used twice."""
    starts, ends = (p[left] for p in wanted.points)
    middles = found.anchors[over]
    on_key, which = on_segments(middles, starts, ends, reach)
    groups: dict[int, list[int]] = defaultdict(list)
    for m, k in zip(on_key.tolist(), which.tolist(), strict=True):
        groups[k].append(int(over[m]))
    out: list[Pieces] = []
    used: set[int] = set()
    for k, rows in sorted(groups.items(), key=lambda g: (-len(g[1]), g[0])):
        a, b = (_point(p, k) for p in (starts, ends))
        spans = sorted(
            span
            for j in rows
            if j not in used
            and (span := _span(_point(found.points[0], j), _point(found.points[1], j), a, b, j, reach))
        )
        if len(spans) < 2:
            continue
        length = math.dist(a, b)
        if sum(span[1] - span[0] for span in spans) < _LEAST * length:
            continue
        gap, reached, end = 0.0, spans[0][1], spans[0][4]
        for low, high, _, _, far in spans[1:]:
            gap = max(gap, low - reached)
            if high > reached:
                reached, end = high, far
        first, start = spans[0][0], spans[0][3]
        used.update(span[2] for span in spans)
        out.append(
            Pieces(
                row=int(left[k]),
                pieces=tuple(span[2] for span in spans),
                start=start,
                end=end,
                gap=gap,
                exact=abs(first) <= reach and abs(reached - length) <= reach and gap <= reach,
            )
        )
    return out


def _point(rows: NDArray[np.float64], i: int) -> Point:
    return (float(rows[i, 0]), float(rows[i, 1]))


Span = tuple[float, float, int, Point, Point]
"""From where to where along a key edge a piece lies, its row, and the drawn points there."""


def _span(p: Point, q: Point, a: Point, b: Point, j: int, reach: float) -> Span | None:
    """Return where along a key edge a drawn edge lies; None when an end leaves the edge."""
    if max(distance_to_supporting_line(p, a, b), distance_to_supporting_line(q, a, b)) > reach:
        return None
    s, t = along_supporting_line(p, a, b), along_supporting_line(q, a, b)
    if s > t:
        s, t, p, q = t, s, q, p
    return (s, t, j, p, q) if s >= -reach and t <= math.dist(a, b) + reach else None
