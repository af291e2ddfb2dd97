"""Across roles, outline hides hidden hides centre: a key piece wholly covered by a higher role is neither
required nor spare."""

from __future__ import annotations

import numpy as np

from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Linework
from evenmark.core.linework.near import points_in_boxes

_RANK: dict[str, int] = {"centre": 1, "hidden": 2, "outline": 3}


def covered(key: Linework, roles: dict[str, Role], reach: float) -> set[str]:
    """Return the key features that pieces of a higher role cover from end to end."""

    def rank(layer: str) -> int:
        return _RANK.get(role_of(roles, layer), 0)

    out: set[str] = set()
    low = [e for e in key.edges if rank(e.layer) in (1, 2)]
    high = [e for e in key.edges if rank(e.layer) > 1]
    for edge, over in _near_edges(low, high, reach):
        above = [o for o in over if rank(o.layer) > rank(edge.layer)]
        if above and _covers(edge, above, reach):
            out.add(edge.id)
    rounds: list[ArcFeature | CircleFeature] = [*key.arcs, *key.circles]
    lower = [f for f in rounds if rank(f.layer) in (1, 2)]
    if len(lower) * len(rounds) <= 4_000_000:
        for f in lower:
            if any(rank(g.layer) > rank(f.layer) and _on_round(f, g, reach) for g in rounds):
                out.add(f.id)
    return out


def _near_edges(low: list[Edge], high: list[Edge], reach: float) -> list[tuple[Edge, list[Edge]]]:
    """Return, for each lower edge, the higher ones with an end or middle in its box, or with its own middle
    in theirs."""
    if not low or not high:
        return []

    def boxes(edges: list[Edge]) -> np.ndarray[tuple[int, int], np.dtype[np.float64]]:
        rows = np.array([(*e.start, *e.end) for e in edges], np.float64).reshape(-1, 4)
        return np.column_stack(
            (np.minimum(rows[:, :2], rows[:, 2:]) - reach, np.maximum(rows[:, :2], rows[:, 2:]) + reach)
        )

    found: dict[int, set[int]] = {}
    for which in (0, 1, 2):
        points = np.array([(e.start, e.end, e.at)[which] for e in high], np.float64).reshape(-1, 2)
        h, n = points_in_boxes(points, boxes(low))
        for i, j in zip(n.tolist(), h.tolist(), strict=True):
            found.setdefault(i, set()).add(j)
    middles = np.array([e.at for e in low], np.float64).reshape(-1, 2)
    n, h = points_in_boxes(middles, boxes(high))
    for i, j in zip(n.tolist(), h.tolist(), strict=True):
        found.setdefault(i, set()).add(j)
    return [(low[i], [high[j] for j in sorted(others)]) for i, others in sorted(found.items())]


def _covers(edge: Edge, over: list[Edge], reach: float) -> bool:
    spans = []
    for o in over:
        if max(distance_to_supporting_line(p, edge.start, edge.end) for p in o.ends) <= reach:
            spans.append(sorted(along_supporting_line(p, edge.start, edge.end) for p in o.ends))
    spans.sort()
    at = 0.0
    for low, high in spans:
        if low > at + reach:
            return False
        at = max(at, high)
    return bool(spans) and at >= edge.length - reach


def _on_round(f: ArcFeature | CircleFeature, over: ArcFeature | CircleFeature, reach: float) -> bool:
    if distance(f.center, over.center) > reach or abs(f.radius - over.radius) > reach:
        return False
    if isinstance(over, CircleFeature):
        return True
    if isinstance(f, CircleFeature):
        return False
    spare = reach / f.radius
    return (f.start_rad - over.start_rad + spare) % (2 * np.pi) + f.sweep_rad <= over.sweep_rad + 2 * spare
