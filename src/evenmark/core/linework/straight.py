"""Straight pieces become edges.

- *piece*: a line as drawn; *run*: pieces of one class on one supporting line that touch or overlap.
- *class*: layer and resulting style; pieces of different classes never merge.
- *supporting line*: the endless line through a piece.

Two passes. The first sorts pieces by direction, then by distance of the supporting line from a local origin,
then along it, and sweeps; it finds overlaps. The second joins what still meets end to end at a node and runs
straight on; it finds short pieces, whose own direction says little. In both, the ends of every piece must lie
within weld of the edge it becomes part of."""

from __future__ import annotations

import math
from bisect import bisect_left
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.tolerance import SAME_DIRECTION_RAD
from evenmark.core.linework.nodes import Nodes, as_rows, cluster

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


class Run(NamedTuple):
    """A merged straight piece: its ends, class, and the numbers of its pieces."""

    start: Point
    end: Point
    kind: int
    pieces: tuple[int, ...]


class Runs(NamedTuple):
    """Many runs as rows: ends (n, 2), classes, the first piece of each; and all pieces of those that have
    several, by row."""

    starts: Floats
    ends: Floats
    kinds: Ints
    first: Ints
    several: dict[int, tuple[int, ...]]

    def with_(self, there: Ints, more: list[Run], at: list[int]) -> Runs:
        """Return these runs, which stand at ``there`` in an order, with more that stand at ``at`` in it."""
        if not more:
            return self
        order = np.argsort(np.concatenate((there, np.array(at, np.int64))), kind="stable")
        several = [self.several.get(i) for i in range(len(there))]
        several += [r.pieces if len(r.pieces) > 1 else None for r in more]
        return Runs(
            np.concatenate((self.starts, as_rows([r.start for r in more])))[order],
            np.concatenate((self.ends, as_rows([r.end for r in more])))[order],
            np.concatenate((self.kinds, np.array([r.kind for r in more], np.int64)))[order],
            np.concatenate((self.first, np.array([r.pieces[0] for r in more], np.int64)))[order],
            {n: found for n, i in enumerate(order.tolist()) if (found := several[i]) is not None},
        )

    def without(self, rows: list[int]) -> tuple[Runs, Ints]:
        """Return the other runs, and at which rows they stood."""
        kept = np.delete(np.arange(len(self.first)), rows)
        several = {n: self.several[i] for n, i in enumerate(kept.tolist()) if i in self.several}
        return Runs(self.starts[kept], self.ends[kept], self.kinds[kept], self.first[kept], several), kept

    def one(self, row: int) -> Run:
        """Return one of the runs."""
        (ax, ay), (bx, by) = self.starts[row].tolist(), self.ends[row].tolist()
        pieces = self.several.get(row) or (int(self.first[row]),)
        return Run((ax, ay), (bx, by), int(self.kinds[row]), pieces)


class Doubled(NamedTuple):
    """A stretch that is drawn more than once: its middle, and the number of the piece that repeats it."""

    at: Point
    piece: int


def merge_straight(starts: Floats, ends: Floats, looks: Ints, weld: float) -> tuple[Runs, list[Doubled]]:
    """Return the runs of straight pieces, and the stretches drawn twice.

    ``starts`` and ``ends`` are (n, 2), all longer than weld; ``looks`` numbers layer and look of each piece.
    """
    numbers, begins = _on_one_line(starts, ends, looks, weld)
    sizes = np.diff(begins)
    single = np.nonzero(sizes == 1)[0]
    alone = numbers[begins[single]]
    runs = Runs(starts[alone], ends[alone], looks[alone], alone, {})
    doubled: list[Doubled] = []
    swept: list[Run] = []
    at: list[int] = []
    for group in np.nonzero(sizes > 1)[0].tolist():
        members = numbers[begins[group] : begins[group + 1]].tolist()
        _sweep(members, starts, ends, int(looks[members[0]]), weld, swept, doubled)
        at += [group] * (len(swept) - len(at))
    return _join_at_nodes(runs.with_(single, swept, at), weld), doubled


def _on_one_line(starts: Floats, ends: Floats, looks: Ints, weld: float) -> tuple[Ints, Ints]:
    """Group pieces by class, direction and supporting line: return their numbers group by group, and where
    each group begins and the last ends."""
    along = ends - starts
    lengths = np.hypot(along[:, 0], along[:, 1])
    turns = np.mod(np.arctan2(along[:, 1], along[:, 0]) - tol.CUT_RAD, math.pi)
    origin = (starts.min(axis=0) + ends.max(axis=0)) / 2
    mids = (starts + ends) / 2 - origin

    order = np.lexsort((turns, looks))
    sorted_turns, sorted_looks = turns[order], looks[order]
    reach = np.minimum(SAME_DIRECTION_RAD, weld / lengths)[order]
    fresh = (np.diff(sorted_looks) != 0) | (
        np.diff(sorted_turns) > np.maximum(reach[1:], reach[:-1]) + tol.SAME_TURN_RAD
    )
    bundle = np.concatenate(([0], np.cumsum(fresh)))
    first = np.concatenate(([0], np.nonzero(fresh)[0] + 1))

    # every line of a bundle of parallels is measured square to one direction, that of its longest piece
    longest = order[_argmax_by_group(lengths[order], bundle, first)]
    unit = along[longest] / lengths[longest][:, None]
    unit = unit[bundle]
    m = mids[order]
    off = unit[:, 0] * m[:, 1] - unit[:, 1] * m[:, 0]
    far = unit[:, 0] * m[:, 0] + unit[:, 1] * m[:, 1]

    inner = np.lexsort((far, off, bundle))
    cut = (np.diff(bundle[inner]) != 0) | (np.diff(off[inner]) > weld)
    numbers = order[inner]
    return _touching(numbers, np.concatenate(([0], np.cumsum(cut))), far[inner], lengths, weld)


def _touching(numbers: Ints, on_line: Ints, far: Floats, lengths: Floats, weld: float) -> tuple[Ints, Ints]:
    """Split pieces on one supporting line where a gap is left between them, so that only what may merge is
    looked at closely.

    ``far`` is how far along its supporting line each piece's middle lies. Half a weld is allowed for the
    slant of short pieces."""
    half = lengths[numbers] / 2
    low, high = far - half, far + half
    order = np.lexsort((low, on_line))
    low, high, on_line, numbers = low[order], high[order], on_line[order], numbers[order]
    # one running maximum serves all supporting lines when each is moved beyond the one before
    base = on_line * (2 * (high.max() - low.min()) + 1)
    reached = np.maximum.accumulate(high + base) - base
    cut = (np.diff(on_line) != 0) | (low[1:] > reached[:-1] + 2 * weld)
    return numbers, np.concatenate(([0], np.nonzero(cut)[0] + 1, [len(numbers)]))


def _argmax_by_group(values: Floats, group: Ints, first: Ints) -> Ints:
    """Return, for each group of consecutive rows, the row with the largest value (the first of equals)."""
    order = np.lexsort((-values, group))
    return order[first]


def _sweep(
    group: list[int],
    starts: Floats,
    ends: Floats,
    kind: int,
    weld: float,
    runs: list[Run],
    doubled: list[Doubled],
) -> None:
    """Go along one supporting line and merge what touches or overlaps."""
    base = max(group, key=lambda i: float(np.hypot(*(ends[i] - starts[i]))))
    bx, by = starts[base].tolist()
    dx, dy = (ends[base] - starts[base]).tolist()
    length = math.hypot(dx, dy)
    ux, uy = dx / length, dy / length
    spans = []
    for i in group:
        (sx, sy), (ex, ey) = starts[i].tolist(), ends[i].tolist()
        a, b = (sx - bx) * ux + (sy - by) * uy, (ex - bx) * ux + (ey - by) * uy
        spans.append((a, b, (sx, sy), (ex, ey), i) if a <= b else (b, a, (ex, ey), (sx, sy), i))
    spans.sort(key=lambda s: (s[0], -s[1], s[4]))
    _, high, start, end, first = spans[0]
    pieces = [first]
    for a, b, p, q, i in spans[1:]:
        wider = q if b > high else end
        if a > high + weld or max(distance_to_supporting_line(x, start, wider) for x in (p, q, end)) > weld:
            runs.append(Run(start=start, end=end, kind=kind, pieces=tuple(pieces)))
            high, start, end, pieces = b, p, q, [i]
            continue
        if min(b, high) - a > weld:
            middle_of = (a + min(b, high)) / 2
            doubled.append(Doubled(at=(bx + ux * middle_of, by + uy * middle_of), piece=i))
        pieces.append(i)
        if b > high:
            high, end = b, q
    runs.append(Run(start=start, end=end, kind=kind, pieces=tuple(pieces)))


def _join_at_nodes(runs: Runs, weld: float) -> Runs:
    """Join runs of one class that meet end to end and go straight on."""
    if len(runs.first) < 2:
        return runs
    links = _straight_links(runs, weld)
    if not links:
        return runs
    done: set[int] = set()
    out: list[Run] = []
    at: list[int] = []
    for index in sorted({i for i, _ in links}):
        if index in done:
            continue
        chain = _chain(index, links)
        done.update(i for i, _ in chain)
        out += _straighten(chain, runs, weld)
        at += [index] * (len(out) - len(at))
    rest, there = runs.without(sorted(done))
    return rest.with_(there, out, at)


def _straight_links(runs: Runs, weld: float) -> dict[tuple[int, int], tuple[int, int]]:
    """Pair run ends (run, 0 or 1) that meet at a node and point opposite ways; each end has at most one
    partner."""
    n = len(runs.first)
    points = np.concatenate((runs.starts, runs.ends))
    away = np.concatenate((points[n:], points[:n])) - points  # from each end to the other of its run
    nodes = Nodes.of_labels(*cluster(points, weld))
    links: dict[tuple[int, int], tuple[int, int]] = {}
    _link_pairs(runs.kinds, away, nodes.pairs(), links)
    many = np.nonzero(nodes.sizes > 2)[0].tolist()
    if many:
        turns = np.arctan2(away[:, 1], away[:, 0])
        for node in many:
            members = nodes.members(node)
            kinds, found = runs.kinds[np.array(members) % n].tolist(), turns[members].tolist()
            _pair_opposites(
                [(k, turn, (m % n, m // n)) for k, turn, m in zip(kinds, found, members, strict=True)],
                links,
            )
    return links


def _link_pairs(
    kinds: Ints, away: Floats, pairs: Ints, links: dict[tuple[int, int], tuple[int, int]]
) -> None:
    """Link the ends at nodes of just two, where both are of one class and leave in opposite directions."""
    n = len(kinds)
    a, b = pairs[:, 0], pairs[:, 1]
    alike = (kinds[a % n] == kinds[b % n]) & (a % n != b % n)
    a, b = a[alike], b[alike]
    va, vb = away[a], away[b]
    cross = va[:, 0] * vb[:, 1] - va[:, 1] * vb[:, 0]
    dot = (va * vb).sum(axis=1)
    straight = np.abs(np.arctan2(cross, -dot)) < tol.STRAIGHT_ON_SINE
    for i, j in zip(a[straight].tolist(), b[straight].tolist(), strict=True):
        one, other = (i % n, i // n), (j % n, j // n)
        links[one], links[other] = other, one


def _pair_opposites(
    away: list[tuple[int, float, tuple[int, int]]], links: dict[tuple[int, int], tuple[int, int]]
) -> None:
    """Link each end at a node with the nearest free one of its class that leaves the other way.

    Sorted by direction, only the neighbours of the opposite direction are looked at, so that a star of many
    lines costs no square of its rays.
    """
    by_kind: dict[int, list[tuple[float, tuple[int, int]]]] = {}
    for kind, turn, end in away:
        by_kind.setdefault(kind, []).append((turn, end))
    for rays in by_kind.values():
        if len(rays) < 2:
            continue
        rays.sort()
        turns = [turn for turn, _ in rays]
        for turn, end in rays:
            if end in links:
                continue
            want = math.remainder(turn + math.pi, math.tau)
            around = bisect_left(turns, want)
            best = None
            for k in (around - 2, around - 1, around, around + 1):
                other_turn, other = rays[k % len(rays)]
                bend = abs(math.remainder(other_turn - want, math.tau))
                if (
                    other[0] != end[0]
                    and other not in links
                    and bend < tol.STRAIGHT_ON_SINE
                    and (best is None or bend < best[0])
                ):
                    best = (bend, other)
            if best is not None:
                links[end], links[best[1]] = best[1], end


def _chain(index: int, links: dict[tuple[int, int], tuple[int, int]]) -> list[tuple[int, int]]:
    """Return runs in a row as (run, end by which it is entered)."""
    enter = (index, 0)
    seen = {index}
    while enter in links:
        i, which = links[enter]
        if i in seen:
            break
        seen.add(i)
        enter = (i, 1 - which)
    chain = [enter]
    seen = {enter[0]}
    while (chain[-1][0], 1 - chain[-1][1]) in links:
        i, which = links[chain[-1][0], 1 - chain[-1][1]]
        if i in seen:
            break
        seen.add(i)
        chain.append((i, which))
    return chain


def _straighten(chain: list[tuple[int, int]], runs: Runs, weld: float) -> list[Run]:
    """Merge a chain as far as every end stays within weld of the whole; start anew where it does not."""
    out: list[Run] = []
    inner: list[Point] = []
    current: Run | None = None
    for i, entered in chain:
        run = runs.one(i)
        start, end = (run.end, run.start) if entered else (run.start, run.end)
        if current is not None:
            between = [*inner, current.end, start]
            if (
                all(distance_to_supporting_line(p, current.start, end) <= weld for p in between)
                and distance(current.start, end) > weld
            ):
                current = Run(start=current.start, end=end, kind=run.kind, pieces=current.pieces + run.pieces)
                inner = between[-64:]  # a bound: a longer chain has proved its direction
                continue
            out.append(current)
        current, inner = Run(start=start, end=end, kind=run.kind, pieces=run.pieces), []
    if current is not None:
        out.append(current)
    return out
