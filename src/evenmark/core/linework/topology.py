"""Where features meet: corners, tees and outlines.

- *node*: ends that are one point within weld.
- *passage*: from one end at a node to the only other end of its layer there; an outline goes through passages
  alone.

Inside, an end is a number: twice the number of its feature, plus 1 for the feature's end rather than its
start.
"""

from __future__ import annotations

from collections import defaultdict

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import Arc, Circle, Corner, Edge, End, Free, Outline, Tee
from evenmark.core.linework.near import on_arcs, on_segments
from evenmark.core.linework.nodes import Nodes, grid

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Chain = list[tuple[int, bool]]
"""Feature numbers, each with whether it runs from its end to its start."""


class Meetings:
    """The nodes of a linework and what can be read from them."""

    def __init__(
        self,
        edges: tuple[Edge, ...],
        arcs: tuple[Arc, ...],
        circles: tuple[Circle, ...],
        weld: float,
        frees: tuple[Free, ...] = (),
    ) -> None:
        self.edges, self.arcs, self.circles, self.weld = edges, arcs, circles, weld
        open_frees = [f for f in frees if not f.closed]
        self.open: list[Edge | Arc | Free] = [*edges, *arcs, *open_frees]
        self.ends: list[End] = [(f.id, which) for f in self.open for which in (0, 1)]
        self.points = _ends(edges, arcs)
        if open_frees:
            own = np.array([f.ends for f in open_frees], np.float64).reshape(-1, 2)
            self.points = np.concatenate((self.points, own))
        self.nodes = Nodes(self.points, weld)

    def corners(self) -> tuple[Corner, ...]:
        """Return every place where two or more ends meet, in order of place."""
        places, members = self.nodes.places, self.nodes.members
        many = np.nonzero(self.nodes.sizes > 1)[0]
        cells = grid(places[many], self.weld)
        found = many[np.lexsort((cells[:, 1], cells[:, 0]))].tolist()
        at: list[Point] = [(x, y) for x, y in places[found].tolist()]
        return tuple(
            Corner(f"k{i}", p, tuple([self.ends[m] for m in members(n)]))
            for i, (n, p) in enumerate(zip(found, at, strict=True), 1)
        )

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
        rounds: list[Arc | Circle] = [*self.arcs, *self.circles]
        if rounds:
            full = (0.0, 2 * np.pi)
            centers = np.array([r.center for r in rounds])
            shape = np.array(
                [(r.radius, *((r.start_rad, r.sweep_rad) if isinstance(r, Arc) else full)) for r in rounds]
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

    def outlines(self, corners: tuple[Corner, ...]) -> tuple[Outline, ...]:
        """Return every closed chain of one layer, in order of its first corner."""
        corner_id = {end: c.id for c in corners for end in c.ends}
        passages = self._passages()
        points: list[tuple[float, float]] = self.points.tolist()
        cells = [tuple(c) for c in grid(self.points, self.weld).tolist()]
        seen = bytearray(len(self.open))
        found: list[tuple[tuple[float, ...], list[tuple[str, bool]], Point, Chain]] = []
        for begin in range(len(self.open)):
            if seen[begin]:
                continue
            chain, closed = self._walk(begin, passages)
            for member, _ in chain:
                seen[member] = 1  # an open chain is walked once only, too
            if not closed:
                continue
            chain = self._first_corner_first(chain, points, cells)
            first = 2 * chain[0][0] + chain[0][1]
            x, y = points[first]
            found.append((cells[first], [(self.open[i].id, back) for i, back in chain], (x, y), chain))
        found.sort(key=lambda f: f[:2])
        return tuple(
            Outline(
                id=f"o{n}",
                at=at,
                members=tuple(named),
                corners=tuple(corner_id[i, int(back)] for i, back in named),
                layer=self.open[chain[0][0]].layer,
            )
            for n, (_, named, at, chain) in enumerate(found, 1)
        )

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
        chain: Chain = [(begin, False)]
        leave = 2 * begin + 1
        for _ in range(len(self.open) + 1):
            enter = passages[leave]
            if enter < 0:
                return chain, False
            if enter == 2 * begin:
                return chain, len(chain) > 1 or begin >= len(self.edges)
            chain.append((enter // 2, enter % 2 == 1))
            leave = enter ^ 1
        return chain, False

    def _first_corner_first(
        self, chain: Chain, points: list[tuple[float, float]], cells: list[tuple[float, ...]]
    ) -> Chain:
        """Turn a chain counter-clockwise and begin it at its lowest-sorted corner."""
        if self._signed_area(chain, points) < 0:
            chain = [(i, not back) for i, back in reversed(chain)]
        first = min(range(len(chain)), key=lambda k: cells[2 * chain[k][0] + chain[k][1]])
        return chain[first:] + chain[:first]

    def _signed_area(self, chain: Chain, points: list[tuple[float, float]]) -> float:
        """Return twice the area of the polygon through ends and arc middles, positive counter-clockwise."""
        path: list[Point] = []
        for i, back in chain:
            path.append(points[2 * i + back])
            if i >= len(self.edges):
                path.append(self.open[i].at)
        ox, oy = path[0]
        total, (ax, ay) = 0.0, path[-1]
        for bx, by in path:
            total += (ax - ox) * (by - oy) - (bx - ox) * (ay - oy)
            ax, ay = bx, by
        return total


def _ends(edges: tuple[Edge, ...], arcs: tuple[Arc, ...]) -> Floats:
    """Return start and end of each feature in turn, as rows."""
    straight = np.array([(e.start, e.end) for e in edges], np.float64).reshape(-1, 2)
    if not arcs:
        return straight
    rows = np.array([(*a.center, a.radius, a.start_rad, a.start_rad + a.sweep_rad) for a in arcs], np.float64)
    turns, r = rows[:, 3:], rows[:, 2, None]
    x, y = rows[:, 0, None] + r * np.cos(turns), rows[:, 1, None] + r * np.sin(turns)
    return np.concatenate((straight, np.stack((x, y), axis=-1).reshape(-1, 2)))
