"""Round pieces become arcs and circles.

- *piece*: an arc or circle as drawn. *ring*: pieces of one class with one centre and radius.
- A ring whose pieces leave no gap larger than weld is a circle; else each stretch without such a gap is an
  arc.

Centre and radius of a short piece say little, since they were computed by whatever wrote the file; so pieces
are gathered with a wide reach and accepted into a ring only if their ends and middles lie within weld of it.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from evenmark.core.geometry.points import TAU, Point, point_on
from evenmark.core.linework.nodes import as_rows, by_label, cluster

RoundTuple = tuple[Point, float, float, float]
"""Centre, radius, start (rad), sweep (rad)."""

_GATHER = 16.0
"""Reach for gathering, in welds; the test by ends and middles then decides."""


class RoundPiece(NamedTuple):
    """A merged round piece; a sweep of a full turn is a circle."""

    center: Point
    radius: float
    start_rad: float
    sweep_rad: float
    kind: int
    pieces: tuple[int, ...]


class DoubledRound(NamedTuple):
    """A stretch drawn more than once: its middle, and the number of the piece that repeats it."""

    at: Point
    piece: int


def merge_round(
    pieces: list[RoundTuple], looks: list[int], weld: float
) -> tuple[list[RoundPiece], list[DoubledRound]]:
    """Return arcs and circles (sweep of a full turn) from round pieces, and the stretches drawn twice."""
    if not pieces:
        return [], []
    out: list[RoundPiece] = []
    doubled: list[DoubledRound] = []
    shape = np.empty((len(pieces), 4))
    shape[:, :2], shape[:, 2] = as_rows([p[0] for p in pieces]), [p[1] for p in pieces]
    shape[:, 3] = np.asarray(looks) * (_GATHER * weld * 4)  # classes stand farther apart than the reach
    labels, count = cluster(shape, _GATHER * weld)
    for members in by_label(labels, count):
        if len(members) == 1:  # nearly always
            out.append(_alone(members[0], pieces, looks[members[0]], weld))
            continue
        waiting = sorted(members, key=lambda i: (-pieces[i][3], i))
        while waiting:
            ring, waiting = _one_ring(waiting, pieces, weld)
            _stretches(ring, pieces, looks[ring[0]], weld, out, doubled)
    return out, doubled


def _alone(i: int, pieces: list[RoundTuple], kind: int, weld: float) -> RoundPiece:
    """Return the arc or circle that one piece makes by itself."""
    center, radius, start, sweep = pieces[i]
    if (TAU - sweep) * radius <= weld:
        return RoundPiece(center, radius, 0.0, TAU, kind, (i,))
    return RoundPiece(center, radius, start % TAU, sweep, kind, (i,))


def _one_ring(candidates: list[int], pieces: list[RoundTuple], weld: float) -> tuple[list[int], list[int]]:
    """Split candidates, longest sweep first, into those on the circle of the first and the rest."""
    if len(candidates) == 1:
        return candidates, []
    (cx, cy), r, _, _ = pieces[candidates[0]]
    ring: list[int] = []
    rest: list[int] = []
    for i in candidates:
        center, radius, start, sweep = pieces[i]
        probes = (point_on(center, radius, start + sweep * f) for f in (0.0, 0.5, 1.0))
        on = all(abs(math.hypot(x - cx, y - cy) - r) <= weld for x, y in probes)
        (ring if on or i == candidates[0] else rest).append(i)
    return ring, rest


def _stretches(
    ring: list[int],
    pieces: list[RoundTuple],
    kind: int,
    weld: float,
    out: list[RoundPiece],
    doubled: list[DoubledRound],
) -> None:
    """Merge the pieces of one ring by angle."""
    if len(ring) == 1:
        out.append(_alone(ring[0], pieces, kind, weld))
        return
    radius = pieces[ring[0]][1]
    spare = weld / radius
    center, radius = _settled(ring, pieces)
    spans = sorted((_start_seen(pieces[i], center), pieces[i][3], i) for i in ring)
    base = _after_a_gap(spans, spare)
    merged: list[tuple[float, float, list[int]]] = []
    for at, length, i in sorted(
        ((s - base) % TAU if (s - base) % TAU < TAU - spare else 0.0, w, i) for s, w, i in spans
    ):
        if merged and at <= merged[-1][1] + spare:
            low, high, members = merged[-1]
            overlap = min(high, at + length) - at
            if overlap > spare:
                doubled.append(DoubledRound(at=point_on(center, radius, base + at + overlap / 2), piece=i))
            merged[-1] = (low, max(high, at + length), [*members, i])
        else:
            merged.append((at, at + length, [i]))
    for low, high, members in merged:
        full = high - low >= TAU - spare
        out.append(
            RoundPiece(
                center=center,
                radius=radius,
                start_rad=0.0 if full else (base + low) % TAU,
                sweep_rad=TAU if full else high - low,
                kind=kind,
                pieces=tuple(members),
            )
        )


def _settled(ring: list[int], pieces: list[RoundTuple]) -> tuple[Point, float]:
    """Return one centre and radius for a ring: the mean, in which long sweeps count more; equal ones stay to
    the last digit."""
    c, r = pieces[ring[0]][:2]
    if all(pieces[i][0] == c and pieces[i][1] == r for i in ring):
        return c, r
    weights = [pieces[i][3] ** 2 for i in ring]
    total = math.fsum(weights)
    rows = [(*pieces[i][0], pieces[i][1]) for i in ring]
    mean = [
        base + math.fsum(w * (row[k] - base) for w, row in zip(weights, rows, strict=True)) / total
        for k, base in enumerate((*c, r))
    ]
    return (mean[0], mean[1]), mean[2]


def _start_seen(piece: RoundTuple, center: Point) -> float:
    """Return the direction of a piece's start, in [0, 2 pi), as seen from the settled centre."""
    x, y = point_on(piece[0], piece[1], piece[2])
    return math.atan2(y - center[1], x - center[0]) % TAU


def _after_a_gap(spans: list[tuple[float, float, int]], spare: float) -> float:
    """Return the start of a piece before which there is a gap, or the first start when the ring is whole."""
    reach = max(s + w for s, w, _ in spans) - TAU
    for start, sweep, _ in spans:
        if start > reach + spare:
            return start
        reach = max(reach, start + sweep)
    return spans[0][0]
