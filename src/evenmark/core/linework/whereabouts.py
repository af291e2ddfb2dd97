"""Where things are among their like, in words: left, lower right, third from the left, 2 of 6."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

from evenmark.core.geometry.points import Point, distance

_ACROSS = {1: ("",), 2: ("left", "right"), 3: ("left", "middle", "right")}
_UP = {1: ("",), 2: ("lower", "upper"), 3: ("lower", "middle", "upper")}
_LEAST_RING = 3


class Where(NamedTuple):
    """Where something is: words before its noun, or behind it."""

    before: str = ""
    after: str = ""


def told_apart(places: Mapping[str, Point], reach: float) -> dict[str, Where]:
    """Return what tells each of some things from the others: by their columns and rows where these are few,
    along a row, round a ring, else by number in the order of reading. Nothing for one alone.

    >>> told_apart({"c1": (0, 0), "c2": (50, 0)}, 0.001)
    {'c1': Where(before='left', after=''), 'c2': Where(before='right', after='')}
    """
    if len(places) < 2:
        return dict.fromkeys(places, Where())
    columns, rows = (_levels([p[axis] for p in places.values()], reach) for axis in (0, 1))
    at = {i: (_level_of(p[0], columns, reach), _level_of(p[1], rows, reach)) for i, p in places.items()}
    if len(columns) <= 3 and len(rows) <= 3 and len(set(at.values())) == len(places):
        return {i: Where(_before(at[i], len(columns), len(rows), len(places))) for i in places}
    if len(rows) == 1 and len(columns) == len(places):
        return {i: Where(after=f"{x + 1} from the left") for i, (x, _) in at.items()}
    if len(columns) == 1 and len(rows) == len(places):
        return {i: Where(after=f"{y + 1} from below") for i, (_, y) in at.items()}
    round_ = _round(places, reach)
    if round_ is not None:
        return {i: Where(after=f"{n} of {len(places)}") for n, i in enumerate(round_, 1)}
    order = sorted(places, key=lambda i: (-at[i][1], at[i][0], i))
    return {i: Where(after=f"{n} of {len(places)}") for n, i in enumerate(order, 1)}


def _before(at: tuple[int, int], columns: int, rows: int, many: int) -> str:
    x, y = _ACROSS[columns][at[0]], _UP[rows][at[1]]
    if many == 2 and columns == rows == 2:  # two on a slant: either word would do, both say more
        return f"{y} {x}"
    return f"{y} {x}".strip() if x != y else x


def _levels(values: Sequence[float], reach: float) -> list[float]:
    out: list[float] = []
    for v in sorted(values):
        if not out or v - out[-1] > 2 * reach:
            out.append(v)
    return out


def _level_of(value: float, levels: Sequence[float], reach: float) -> int:
    return next(n for n, v in enumerate(levels) if value - v <= 2 * reach)


def _round(places: Mapping[str, Point], reach: float) -> list[str] | None:
    """Return things on a ring counter-clockwise from the right; None where they are on none."""
    if len(places) < _LEAST_RING:
        return None
    points = list(places.values())
    hub = (math.fsum(p[0] for p in points) / len(points), math.fsum(p[1] for p in points) / len(points))
    far = [distance(hub, p) for p in points]
    if max(far) - min(far) > 4 * reach or min(far) <= reach:
        return None
    turns = {i: math.atan2(p[1] - hub[1], p[0] - hub[0]) % math.tau for i, p in places.items()}
    turns = {i: 0.0 if math.tau - t <= reach / max(far) else t for i, t in turns.items()}
    return sorted(places, key=lambda i: (turns[i], i))
