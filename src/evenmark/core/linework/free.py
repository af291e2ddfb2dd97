"""Free curves: pieces that run on smoothly become one; the same curve drawn twice is counted once.

- *run on*: two pieces of one class meet end to end, alone, and leave in opposite directions.
"""

from __future__ import annotations

import math
from collections import defaultdict

import numpy as np

from evenmark.core.drawing import model as drawn
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.looks import Looks
from evenmark.core.linework.model import Clutter, Free
from evenmark.core.linework.nodes import cluster, grid, order_of

Chain = tuple[list[Point], list[int]]
"""Points in order, and the numbers of the pieces they came from."""


def merge_free(
    pieces: list[drawn.FreeCurve], scale: float, looks: Looks, weld: float, clutter: list[Clutter]
) -> tuple[Free, ...]:
    """Return free curves from the pieces of a drawing, in order of place."""
    chains: list[Chain] = [([(x * scale, y * scale) for x, y in p.points], [i]) for i, p in enumerate(pieces)]
    chains = _without_doubles(chains, pieces, looks, weld, clutter)
    chains = _joined(chains, pieces, looks, weld)
    if not chains:
        return ()
    forward = []
    for points, numbers in chains:
        cells = grid(np.array([points[0], points[-1]]), weld).tolist()
        forward.append((points if cells[0] <= cells[1] else points[::-1], numbers))
    middles = np.array([points[len(points) // 2] for points, _ in forward])
    starts = np.array([points[0] for points, _ in forward])
    out = []
    for n, i in enumerate(order_of(np.column_stack((grid(middles, weld), grid(starts, weld)))), 1):
        points, numbers = forward[i]
        first = pieces[numbers[0]]
        sources = tuple(sorted({pieces[k].source for k in numbers}))
        if distance(points[0], points[-1]) <= weld:
            points = [*points[:-1], points[0]]
        out.append(Free(f"f{n}", tuple(points), first.kind, first.layer, first.style, sources))
    return tuple(out)


def _without_doubles(
    chains: list[Chain], pieces: list[drawn.FreeCurve], looks: Looks, weld: float, clutter: list[Clutter]
) -> list[Chain]:
    """Leave out curves with the same ends and middle as one before them on their layer."""
    seen: dict[int, list[list[Point]]] = defaultdict(list)
    out = []
    for points, numbers in chains:
        piece = pieces[numbers[0]]
        marks = [points[0], points[len(points) // 2], points[-1]]
        known = seen[looks.number(piece)]
        if any(
            all(distance(p, q) <= weld for p, q in zip(marks, other, strict=True))
            or all(distance(p, q) <= weld for p, q in zip(marks, other[::-1], strict=True))
            for other in known[-64:]
        ):
            clutter.append(Clutter("drawn-twice", marks[1], piece.layer, (piece.source,)))
            continue
        known.append(marks)
        out.append((points, numbers))
    return out


def _joined(chains: list[Chain], pieces: list[drawn.FreeCurve], looks: Looks, weld: float) -> list[Chain]:
    """Join what runs on smoothly, one node at a time."""
    open_ = [(n, c) for n, c in enumerate(chains) if distance(c[0][0], c[0][-1]) > weld]
    if len(open_) < 2:
        return chains
    ends = np.array([p for _, (points, _) in open_ for p in (points[0], points[-1])])
    labels, count = cluster(ends, weld)
    at_node: dict[int, list[int]] = defaultdict(list)
    for end, label in enumerate(labels.tolist()):
        at_node[label].append(end)
    owner = list(range(len(open_)))  # which chain each has become part of
    parts: dict[int, Chain] = {k: (list(c[0]), list(c[1])) for k, (_, c) in enumerate(open_)}
    for node in range(count):
        if len(at_node[node]) != 2:
            continue
        a, b = (_root(owner, end // 2) for end in at_node[node])
        if a == b or looks.number(pieces[parts[a][1][0]]) != looks.number(pieces[parts[b][1][0]]):
            continue
        at = (float(ends[at_node[node][0]][0]), float(ends[at_node[node][0]][1]))
        first, second = _ending_at(parts[a][0], at), _ending_at(parts[b][0], at)[::-1]
        if abs(_bend(first, second)) > tol.SMOOTH_RAD:
            continue
        parts[a] = ([*first, *second[1:]], parts[a][1] + parts[b][1])
        owner[b] = a
        del parts[b]
    kept = {n for n, _ in open_}
    return [c for n, c in enumerate(chains) if n not in kept] + list(parts.values())


def _root(owner: list[int], k: int) -> int:
    while owner[k] != k:
        k = owner[k]
    return k


def _ending_at(points: list[Point], at: Point) -> list[Point]:
    return points if distance(points[-1], at) <= distance(points[0], at) else points[::-1]


def _bend(first: list[Point], second: list[Point]) -> float:
    (ax, ay), (bx, by) = first[-2], first[-1]
    (cx, cy), (dx, dy) = second[0], second[1]
    turn = math.atan2(dy - cy, dx - cx) - math.atan2(by - ay, bx - ax)
    return math.remainder(turn, math.tau)
