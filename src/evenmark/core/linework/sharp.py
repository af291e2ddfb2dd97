"""The sharp corner that a fillet or a chamfer took away: where the straight pieces on both its sides would
meet. Sizes are measured to it (common practice; ISO 129-1, from memory)."""

from __future__ import annotations

import math
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import Straight, meet
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, Edge, Linework

_FAR = 3.0
"""A corner farther off than so many lengths of what took it away is none that anybody would measure to."""


class Sharp(NamedTuple):
    """A sharp corner, and the straight pieces that would meet there."""

    at: Point
    before: str
    after: str


def sharp_at(key: Linework, feature: str) -> Sharp | None:
    """Return the sharp corner that an arc or edge took away; None where there is none."""
    f = key.curves.get(feature)
    if not isinstance(f, ArcFeature | Edge):
        return None
    found = [_beside(key, feature, which) for which in (0, 1)]
    if found[0] is None or found[1] is None or found[0] == found[1]:
        return None
    a, b = (key.curves[i] for i in found if i is not None)
    assert isinstance(a, Edge)
    assert isinstance(b, Edge)
    at = crossing(a, b)
    if at is None or max(distance(at, p) for p in f.ends) > _FAR * max(distance(f.start, f.end), f.size / 2):
        return None
    past = all(max(distance(at, p) for p in e.ends) >= e.length and e.start != at != e.end for e in (a, b))
    return Sharp(at, a.id, b.id) if past else None


def crossing(a: Edge, b: Edge) -> Point | None:
    """Return where the supporting lines of two edges cross; None when they are parallel within a thousandth
    of a degree."""
    ax, ay = a.end[0] - a.start[0], a.end[1] - a.start[1]
    bx, by = b.end[0] - b.start[0], b.end[1] - b.start[1]
    cross = ax * by - ay * bx
    if abs(cross) <= tol.PARALLEL_SINE * math.hypot(ax, ay) * math.hypot(bx, by):
        return None
    return meet(Straight(*a.ends), Straight(*b.ends))


def _beside(key: Linework, feature: str, which: int) -> str | None:
    """Return the one edge that meets an end; None where another number of pieces does."""
    corner = key.corner_of.get((feature, which))
    others = [i for i, _ in corner.ends if i != feature] if corner is not None else []
    return others[0] if len(others) == 1 and isinstance(key.curves[others[0]], Edge) else None
