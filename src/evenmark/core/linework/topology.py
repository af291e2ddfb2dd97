"""Where features meet: corners, tees and outlines.

- *node*: ends that are one point within weld.
- *degree*: how many ends of one layer meet at a node; an outline passes only nodes of degree two.
"""

from __future__ import annotations

from collections import defaultdict

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry.points import Point, along_carrier
from evenmark.core.linework.model import Arc, Circle, Corner, Edge, End, Outline, Tee, end_point
from evenmark.core.linework.near import on_arcs, on_segments
from evenmark.core.linework.nodes import by_label, cluster

Floats = NDArray[np.float64]
Open = Edge | Arc


class Meetings:
    """The nodes of a linework and what can be read from them."""

    def __init__(
        self, edges: tuple[Edge, ...], arcs: tuple[Arc, ...], circles: tuple[Circle, ...], weld: float
    ) -> None:
        self.edges, self.arcs, self.circles, self.weld = edges, arcs, circles, weld
        self.open: dict[str, Open] = {**{e.id: e for e in edges}, **{a.id: a for a in arcs}}
        self.ends: list[End] = [(f.id, which) for f in self.open.values() for which in (0, 1)]
        points = np.array([end_point(self.open[i], w) for i, w in self.ends]).reshape(-1, 2)
        labels, count = cluster(points, weld)
        self.nodes = by_label(labels, count)
        self.node_of: dict[End, int] = dict(zip(self.ends, labels.tolist(), strict=True))
        self.places: list[Point] = [_mean(points[members]) for members in self.nodes]

    def corners(self) -> tuple[Corner, ...]:
        """Return every place where two or more ends meet, in order of place."""
        found = [
            (self.places[n], tuple(self.ends[m] for m in members))
            for n, members in enumerate(self.nodes)
            if len(members) > 1
        ]
        found.sort(key=lambda c: (_grid(c[0], self.weld), c[1]))
        return tuple(Corner(id=f"k{i}", at=at, ends=ends) for i, (at, ends) in enumerate(found, 1))

    def tees(self) -> tuple[Tee, ...]:
        """Return every place where ends lie on the interior of another feature, in order of place."""
        if not self.places:
            return ()
        places = np.array(self.places)
        hits: list[tuple[int, str]] = []
        if self.edges:
            starts, stops = np.array([e.start for e in self.edges]), np.array([e.end for e in self.edges])
            p, s = on_segments(places, starts, stops, self.weld)
            hits += [(i, self.edges[j].id) for i, j in zip(p.tolist(), s.tolist(), strict=True)]
        rounds: list[Arc | Circle] = [*self.arcs, *self.circles]
        if rounds:
            centers = np.array([r.center for r in rounds])
            full = (0.0, 2 * np.pi)
            shape = np.array(
                [(r.radius, *((r.start_rad, r.sweep_rad) if isinstance(r, Arc) else full)) for r in rounds]
            )
            p, s = on_arcs(places, centers, shape, self.weld)
            hits += [(i, rounds[j].id) for i, j in zip(p.tolist(), s.tolist(), strict=True)]
        found = []
        for node, on in hits:
            ends = tuple(e for e in (self.ends[m] for m in self.nodes[node]) if e[0] != on)
            if ends:
                found.append((self.places[node], ends, on))
        found.sort(key=lambda t: (_grid(t[0], self.weld), t[2]))
        return tuple(Tee(id=f"t{i}", at=at, ends=ends, on=on) for i, (at, ends, on) in enumerate(found, 1))

    def outlines(self, corners: tuple[Corner, ...]) -> tuple[Outline, ...]:
        """Return every closed chain of one layer, in order of its first corner."""
        corner_id = {end: c.id for c in corners for end in c.ends}
        next_of = self._passages()
        seen: set[str] = set()
        found: list[tuple[Point, tuple[tuple[str, bool], ...], tuple[str, ...], str]] = []
        for begin in self.open.values():
            if begin.id in seen:
                continue
            chain = self._walk(begin.id, next_of)
            if chain is None:
                continue
            seen.update(member for member, _ in chain)
            found.append(self._first_corner_first(chain, corner_id))
        found.sort(key=lambda o: (_grid(o[0], self.weld), o[1]))
        return tuple(
            Outline(id=f"o{i}", at=at, members=members, corners=corners_, layer=layer)
            for i, (at, members, corners_, layer) in enumerate(found, 1)
        )

    def _passages(self) -> dict[End, End]:
        """Return, for each end at a node where just two ends of its layer meet, the other one."""
        passages: dict[End, End] = {}
        for members in self.nodes:
            by_layer: dict[str, list[End]] = defaultdict(list)
            for m in members:
                by_layer[self.open[self.ends[m][0]].layer].append(self.ends[m])
            for ends in by_layer.values():
                if len(ends) == 2:
                    passages[ends[0]], passages[ends[1]] = ends[1], ends[0]
        return passages

    def _walk(self, begin: str, next_of: dict[End, End]) -> list[tuple[str, bool]] | None:
        """Go on from the end of a feature until it comes back to its start; None if the chain is open."""
        chain = [(begin, False)]
        leave: End = (begin, 1)
        for _ in range(len(self.open) + 1):
            enter = next_of.get(leave)
            if enter is None:
                return None
            if enter == (begin, 0):
                return chain if len(chain) > 1 or isinstance(self.open[begin], Arc) else None
            chain.append((enter[0], enter[1] == 1))
            leave = (enter[0], 1 - enter[1])
        return None

    def _first_corner_first(
        self, chain: list[tuple[str, bool]], corner_id: dict[End, str]
    ) -> tuple[Point, tuple[tuple[str, bool], ...], tuple[str, ...], str]:
        """Turn a chain counter-clockwise and begin it at its lowest-sorted corner."""
        if self._signed_area(chain) < 0:
            chain = [(i, not back) for i, back in reversed(chain)]
        places = [end_point(self.open[i], 1 if back else 0) for i, back in chain]
        first = min(range(len(chain)), key=lambda k: _grid(places[k], self.weld))
        chain = chain[first:] + chain[:first]
        corners = tuple(corner_id[i, 1 if back else 0] for i, back in chain)
        return places[first], tuple(chain), corners, self.open[chain[0][0]].layer

    def _signed_area(self, chain: list[tuple[str, bool]]) -> float:
        """Return twice the area of the polygon through ends and arc middles, positive counter-clockwise."""
        points: list[Point] = []
        for i, back in chain:
            f = self.open[i]
            points.append(end_point(f, 1 if back else 0))
            if isinstance(f, Arc):
                points.append(f.at)
        ox, oy = points[0]
        pairs = zip(points, points[1:] + points[:1], strict=True)
        return sum((a[0] - ox) * (b[1] - oy) - (b[0] - ox) * (a[1] - oy) for a, b in pairs)


def _mean(points: Floats) -> Point:
    """Return the middle of the box of a node's ends: the same whatever their order."""
    if len(points) == 1:
        return (float(points[0, 0]), float(points[0, 1]))
    low, high = points.min(axis=0), points.max(axis=0)
    mid = low + (high - low) / 2
    return (float(mid[0]), float(mid[1]))


def _grid(p: Point, weld: float) -> tuple[float, float]:
    """Return a sort key in which places that differ by rounding alone nearly always fall together."""
    step = max(weld, 1e-12)
    return (round(p[0] / step), round(p[1] / step))


def lies_on(edge: Edge, p: Point) -> float:
    """Return how far along an edge the foot of a point lies."""
    return along_carrier(p, edge.start, edge.end)
