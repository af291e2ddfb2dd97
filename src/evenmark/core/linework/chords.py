"""Arcs and circles that were drawn as short straight pieces are taken as what they were (marking.md).

- *chords*: straight pieces of one length, one after the other, that turn by the same small angle from each to
  the next, as exports and copies make them of what is round. Their ends lie on the arc.
- A polygon that people draw has fewer sides.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Hashable, Iterator, Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry.points import TAU, Point
from evenmark.core.linework.nodes import cluster

Floats = NDArray[np.float64]

LEAST = 6
"""Fewer pieces in a row are a polygon, or part of one."""
MOST_TURN_RAD = math.radians(20.5)
"""Pieces that turn by more are a polygon's: a round thing has at least eighteen."""
MOST_DIRECTIONS = 8
"""Pieces of one length in fewer directions than this are rows of something."""


class Round(NamedTuple):
    """An arc that was drawn as chords: centre, radius, start and sweep, and the rows of its pieces."""

    center: Point
    radius: float
    start_rad: float
    sweep_rad: float
    pieces: tuple[int, ...]


def find(starts: Floats, ends: Floats, looks: Sequence[Hashable], weld: float) -> list[Round]:
    """Return what was drawn as chords, from the ends of straight pieces and how each looks."""
    if len(starts) < LEAST:
        return []
    lengths = np.hypot(*(ends - starts).T)
    order = np.argsort(lengths, kind="stable")
    cuts = np.nonzero(np.diff(lengths[order]) > weld)[0] + 1
    out: list[Round] = []
    for rows in np.split(order, cuts):
        if len(rows) < LEAST or lengths[rows[0]] <= weld or not _turn_about(starts[rows], ends[rows]):
            continue
        by_look: dict[Hashable, list[int]] = defaultdict(list)
        for i in rows.tolist():
            by_look[looks[i]].append(i)
        for own in by_look.values():
            out += _in_rows(np.array(sorted(own)), starts, ends, weld)
    return out


def _turn_about(starts: Floats, ends: Floats) -> bool:
    """Say whether pieces lie in many directions."""
    d = ends - starts
    turns = np.round(np.arctan2(d[:, 1], d[:, 0]) % math.pi, 6)
    return len(np.unique(turns)) >= min(MOST_DIRECTIONS, LEAST)


def _in_rows(rows: NDArray[np.int64], starts: Floats, ends: Floats, weld: float) -> Iterator[Round]:
    """Yield the arcs that pieces of one length and look make."""
    if len(rows) < LEAST:
        return
    n = len(rows)
    labels, _ = cluster(np.concatenate((starts[rows], ends[rows])), weld)
    nodes: list[tuple[int, int]] = [(int(labels[k]), int(labels[n + k])) for k in range(n)]
    at: dict[int, list[int]] = defaultdict(list)
    for k, pair in enumerate(nodes):
        for node in pair:
            at[node].append(k)
    place = {int(labels[k]): starts[rows[k]] for k in range(n)}
    place |= {int(labels[n + k]): ends[rows[k]] for k in range(n)}
    used: set[int] = set()
    # open rows from their ends first, then rings
    for begin in sorted(at, key=lambda node: (len(at[node]) == 2, node)):
        for first in at[begin]:
            if first in used:
                continue
            path, pieces = _walk(begin, first, nodes, at, used)
            used.update(pieces)
            yield from _arcs_of(np.array([place[v] for v in path]), [int(rows[k]) for k in pieces], weld)


def _walk(
    begin: int, first: int, nodes: list[tuple[int, int]], at: dict[int, list[int]], used: set[int]
) -> tuple[list[int], list[int]]:
    """Return the nodes and pieces of a row from a node on, as far as no other way leads."""
    path, pieces = [begin], [first]
    while True:
        a, b = nodes[pieces[-1]]
        node = b if path[-1] == a else a
        path.append(node)
        after = [k for k in at[node] if k not in pieces[-1:] and k not in used]
        if len(at[node]) != 2 or not after or node == begin:
            return path, pieces
        pieces.append(after[0])


def _arcs_of(path: Floats, pieces: list[int], weld: float) -> Iterator[Round]:
    """Yield the arcs along a row of places: where pieces turn alike."""
    steps = np.diff(path, axis=0)
    turns = np.array(
        [math.remainder(v, math.tau) for v in np.diff(np.arctan2(steps[:, 1], steps[:, 0])).tolist()]
    )
    length = float(np.hypot(*steps[0]))
    alike = 4 * weld / length
    k = 0
    while k < len(turns):
        m = k
        while m < len(turns) and abs(turns[m] - turns[k]) <= alike:
            m += 1
        if m - k + 1 >= LEAST and alike < abs(turns[k]) <= MOST_TURN_RAD:
            yield _arc(path[k : m + 2], pieces[k : m + 1], float(np.mean(turns[k:m])), weld)
        k = max(m, k + 1)


def _arc(path: Floats, pieces: list[int], turn: float, weld: float) -> Round:
    """Return the arc through places that turn alike, all round where they come back to the first."""
    if turn < 0:
        path, turn = path[::-1], -turn
    n = len(pieces)
    ring = float(np.hypot(*(path[0] - path[-1]))) <= weld
    (ax, ay), (bx, by) = path[0].tolist(), path[1].tolist()
    radius = math.hypot(bx - ax, by - ay) / (2 * math.sin(turn / 2))
    if ring:
        middle = path[:-1].mean(axis=0)
    else:
        half = math.hypot(*(path[-1] - path[0])) / 2
        across = (path[-1] - path[0]) / (2 * half)
        inward = math.sqrt(max(0.0, radius * radius - half * half)) * (1.0 if n * turn < math.pi else -1.0)
        middle = (path[0] + path[-1]) / 2 + inward * np.array([-across[1], across[0]])
    x, y = (float(v) for v in middle)
    radius = float(np.hypot(*(path - middle).T).mean())
    start = math.atan2(path[0][1] - y, path[0][0] - x)
    if ring:
        return Round((x, y), radius, 0.0, TAU, tuple(pieces))
    end = math.atan2(path[-1][1] - y, path[-1][0] - x)
    return Round((x, y), radius, start % TAU, (end - start) % TAU, tuple(pieces))
