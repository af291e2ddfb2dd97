"""Where features meet: corners, tees and outlines.

- *node*: ends that are one point within weld.
- *passage*: from one end at a node to the only other end of its layer there; an outline goes through passages
  alone.

Inside, an end is a number: twice the number of its feature, plus 1 for the feature's end rather than its
start.
"""

from __future__ import annotations

from collections import defaultdict
from functools import cached_property
from itertools import chain

import numpy as np
from numpy.typing import NDArray

from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge, End, Free, Outline, Tee
from evenmark.core.linework.near import on_arcs, on_segments
from evenmark.core.linework.nodes import Nodes, as_rows, grid

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Chain = list[int]
"""The ends at which the features of a chain are entered, in turn."""


class Meetings:
    """The nodes of a linework and what can be read from them."""

    def __init__(
        self,
        edges: tuple[Edge, ...],
        arcs: tuple[ArcFeature, ...],
        circles: tuple[CircleFeature, ...],
        weld: float,
        frees: tuple[Free, ...] = (),
    ) -> None:
        self.edges, self.arcs, self.circles, self.weld = edges, arcs, circles, weld
        open_frees = [f for f in frees if not f.closed]
        self.open: list[Edge | ArcFeature | Free] = [*edges, *arcs, *open_frees]
        self.ends: list[End] = [(f.id, which) for f in self.open for which in (0, 1)]
        self.points = _ends(edges, arcs)
        if open_frees:
            own = as_rows([p for f in open_frees for p in f.ends])
            self.points = np.concatenate((self.points, own))
        self.nodes = Nodes(self.points, weld)

    @cached_property
    def _places(self) -> Ints:
        """The nodes where two or more ends meet, in order of place."""
        many = np.nonzero(self.nodes.sizes > 1)[0]
        cells = grid(self.nodes.places[many], self.weld)
        return many[np.lexsort((cells[:, 1], cells[:, 0]))]

    def corners(self) -> tuple[Corner, ...]:
        """Return every place where two or more ends meet, in order of place."""
        found, ends = self._places, self.ends
        x, y = self.nodes.places[found].T.tolist() if len(found) else ([], [])
        meet = [tuple([ends[m] for m in self.nodes.members(n)]) for n in found.tolist()]
        ids = [f"k{i}" for i in range(1, len(meet) + 1)]
        return tuple(map(Corner._make, zip(ids, zip(x, y, strict=True), meet, strict=True)))

    def tees(self) -> tuple[Tee, ...]:
        """Return every place where ends lie on the interior of another feature, in order of place."""
        places = self.nodes.places
        if not len(places):
            return ()
        hits: list[tuple[int, str]] = []
        if self.edges:
            n = 2 * len(self.edges)
            p, s = on_segments(places, self.points[0:n:2], self.points[1:n:2], self.weld)
            hits += [(i, self.edges[j].id) for i, j in zip(p.tolist(), s.tolist(), strict=True)]
        rounds: list[ArcFeature | CircleFeature] = [*self.arcs, *self.circles]
        if rounds:
            full = (0.0, 2 * np.pi)
            centers = np.array([r.center for r in rounds])
            shape = np.array(
                [
                    (r.radius, *((r.start_rad, r.sweep_rad) if isinstance(r, ArcFeature) else full))
                    for r in rounds
                ]
            )
            p, s = on_arcs(places, centers, shape, self.weld)
            hits += [(i, rounds[j].id) for i, j in zip(p.tolist(), s.tolist(), strict=True)]
        found = []
        cells = grid(places, self.weld).tolist()
        for node, on in hits:
            ends = tuple(e for e in (self.ends[m] for m in self.nodes.members(node)) if e[0] != on)
            if ends:
                x, y = places[node].tolist()
                found.append((cells[node], on, (x, y), ends))
        found.sort()
        return tuple(Tee(f"t{i}", at, ends, on) for i, (_, on, at, ends) in enumerate(found, 1))

    def outlines(self) -> tuple[Outline, ...]:
        """Return every closed chain of one layer, in order of its first corner."""
        chains = self._closed_chains()
        if not chains:
            return ()
        rank = self._ranks()
        ids = [f.id for f in self.open]
        found = []
        for entered, area in zip(chains, self._signed_areas(chains), strict=True):
            if area < 0:  # turned counter-clockwise
                entered = [m ^ 1 for m in reversed(entered)]
            ranks = [rank[m] for m in entered]
            k = ranks.index(min(ranks))
            entered = entered[k:] + entered[:k]
            members = tuple([(ids[m >> 1], m & 1 == 1) for m in entered])
            found.append((ranks[k], members, entered))
        found.sort()
        corner_of = np.empty(len(self.nodes.sizes), np.int64)
        corner_of[self._places] = np.arange(1, len(self._places) + 1)
        numbers = iter(corner_of[self.nodes.labels[[m for *_, entered in found for m in entered]]].tolist())
        at = self.points[[entered[0] for *_, entered in found]].tolist()
        return tuple(
            Outline(
                id=f"o{n}",
                at=(x, y),
                members=members,
                corners=tuple([f"k{next(numbers)}" for _ in members]),
                layer=self.open[entered[0] >> 1].layer,
            )
            for n, ((_, members, entered), (x, y)) in enumerate(zip(found, at, strict=True), 1)
        )

    def _closed_chains(self) -> list[Chain]:
        """Return every chain of one layer that comes back to where it began, each once."""
        passages = self._passages()
        seen = bytearray(len(self.open))
        out = []
        for begin in range(len(self.open)):
            if seen[begin]:
                continue
            entered, closed = self._walk(begin, passages)
            for m in entered:
                seen[m >> 1] = 1  # an open chain is walked once only, too
            if closed:
                out.append(entered)
        return out

    def _ranks(self) -> list[int]:
        """Return where each end stands in the order of places; ends in one place stand there together."""
        cells = grid(self.points, self.weld)
        order = np.lexsort((cells[:, 1], cells[:, 0]))
        fresh = (cells[order[1:]] != cells[order[:-1]]).any(axis=1)
        rank = np.empty(len(order), np.int64)
        rank[order] = np.concatenate(([0], np.cumsum(fresh)))
        out: list[int] = rank.tolist()
        return out

    def _passages(self) -> list[int]:
        """Return, for each end, the other end at a node where just two ends of its layer meet; -1 where there
        is none."""
        passages = np.full(len(self.points), -1, np.int64)
        layers = {name: n for n, name in enumerate(dict.fromkeys(f.layer for f in self.open))}
        of_end = np.repeat(np.array([layers[f.layer] for f in self.open], np.int64), 2)
        pairs = self.nodes.pairs()
        same = pairs[of_end[pairs[:, 0]] == of_end[pairs[:, 1]]]
        passages[same[:, 0]], passages[same[:, 1]] = same[:, 1], same[:, 0]
        for node in np.nonzero(self.nodes.sizes > 2)[0].tolist():
            by_layer: dict[int, list[int]] = defaultdict(list)
            for m in self.nodes.members(node):
                by_layer[int(of_end[m])].append(m)
            for ends in by_layer.values():
                if len(ends) == 2:
                    passages[ends[0]], passages[ends[1]] = ends[1], ends[0]
        out: list[int] = passages.tolist()
        return out

    def _walk(self, begin: int, passages: list[int]) -> tuple[Chain, bool]:
        """Go on from the end of a feature until it comes back to its start; say whether it does."""
        entered: Chain = [2 * begin]
        leave = 2 * begin + 1
        for _ in range(len(self.open) + 1):
            enter = passages[leave]
            if enter < 0:
                return entered, False
            if enter == 2 * begin:
                return entered, len(entered) > 1 or begin >= len(self.edges)
            entered.append(enter)
            leave = enter ^ 1
        return entered, False

    def _signed_areas(self, chains: list[Chain]) -> list[float]:
        """Return twice the area of the polygons through ends and the middles of what is curved, positive
        counter-clockwise."""
        straight = 2 * len(self.edges)
        curved = self.open[len(self.edges) :]
        points = np.concatenate((self.points, as_rows([f.at for f in curved])))
        middle = len(self.points) - len(self.edges)  # of feature n, the row middle + n
        paths: list[list[int]] = [
            entered
            if max(entered) < straight
            else [i for m in entered for i in ((m,) if m < straight else (m, middle + (m >> 1)))]
            for entered in chains
        ]
        sizes = np.array([len(path) for path in paths])
        begins = np.cumsum(sizes) - sizes
        path = points[np.fromiter(chain.from_iterable(paths), np.int64, int(sizes.sum()))]
        path = path - np.repeat(path[begins], sizes, axis=0)
        before = np.roll(path, 1, axis=0)
        before[begins] = path[begins + sizes - 1]
        cross = before[:, 0] * path[:, 1] - path[:, 0] * before[:, 1]
        out: list[float] = np.add.reduceat(cross, begins).tolist()
        return out


def _ends(edges: tuple[Edge, ...], arcs: tuple[ArcFeature, ...]) -> Floats:
    """Return start and end of each feature in turn, as rows."""
    straight = as_rows([p for e in edges for p in (e[1], e[2])])
    if not arcs:
        return straight
    rows = np.array([(*a.center, a.radius, a.start_rad, a.start_rad + a.sweep_rad) for a in arcs], np.float64)
    turns, r = rows[:, 3:], rows[:, 2, None]
    x, y = rows[:, 0, None] + r * np.cos(turns), rows[:, 1, None] + r * np.sin(turns)
    return np.concatenate((straight, np.stack((x, y), axis=-1).reshape(-1, 2)))
