"""Match what is not an edge, arc or circle: lettering, free curves, dimensions, notes, hatches, endless
construction lines.

What says or measures the same comes first, then what stands nearest. Nothing is matched twice.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Sequence
from typing import TypeVar

import numpy as np
from scipy.optimize import linear_sum_assignment
from scipy.spatial import cKDTree

from evenmark.core.drawing.annotations import Dimension
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import (
    EndlessFeature,
    Free,
    HatchFeature,
    Linework,
    NoteFeature,
    TextFeature,
)
from evenmark.core.marking.curves import curve_off

_TABLE = 40_000
"""Up to so many pairs a whole table of costs is solved; beyond it, the nearest few of each."""
_FEW = 6
_HEIGHTS = 10.0
"""A text of another wording may be meant as the one asked for when it stands within so many heights."""
_NO = 1e15

T = TypeVar("T", TextFeature, Free, Dimension, NoteFeature, HatchFeature, EndlessFeature)
Pairs = list[tuple[int, int]]


def pairs(
    wanted: Sequence[T], found: Sequence[T], cost: Callable[[T, T], float], place: Callable[[T], Point]
) -> Pairs:
    """Return pairs of least total cost; an infinite cost forbids a pair."""
    if not wanted or not found:
        return []
    if len(wanted) * len(found) <= _TABLE:
        table = np.array([[min(cost(a, b), _NO) for b in found] for a in wanted])
        rows, columns = linear_sum_assignment(table)
        return [(i, j) for i, j in zip(rows.tolist(), columns.tolist(), strict=True) if table[i, j] < _NO]
    _, near = cKDTree(np.array([place(b) for b in found])).query(
        np.array([place(a) for a in wanted]), k=min(_FEW, len(found))
    )
    costs = sorted(
        (c, i, j)
        for i, row in enumerate(np.asarray(near).reshape(len(wanted), -1).tolist())
        for j in row
        if (c := cost(wanted[i], found[j])) < _NO
    )
    used: tuple[set[int], set[int]] = (set(), set())
    out = []
    for _, i, j in costs:
        if i not in used[0] and j not in used[1]:
            used[0].add(i)
            used[1].add(j)
            out.append((i, j))
    return out


class Matched:
    """Key ids with the id of what was drawn for them, and which of them lie on each other."""

    def __init__(self) -> None:
        self.ids: dict[str, str] = {}
        self.exact: set[str] = set()
        self.spare: list[str] = []
        self.beside: list[str] = []
        """Lettering, notes and hatches that nobody asked for."""

    def rounds(
        self,
        wanted: Sequence[T],
        found: Sequence[T],
        costs: Sequence[Callable[[T, T], float]],
        place: Callable[[T], Point],
        exact: Callable[[T, T], bool],
    ) -> None:
        """Pair in several rounds, each with its own cost, of what the rounds before left over."""
        left, over = list(wanted), list(found)
        for cost in costs:
            made = pairs(left, over, cost, place)
            for i, j in made:
                self.ids[left[i].id] = over[j].id
                if exact(left[i], over[j]):
                    self.exact.add(left[i].id)
            gone_l, gone_o = {i for i, _ in made}, {j for _, j in made}
            left = [a for i, a in enumerate(left) if i not in gone_l]
            over = [b for j, b in enumerate(over) if j not in gone_o]
        self.spare += [b.id for b in over]


def match_annotations(key: Linework, drawn: Linework, reach: float) -> Matched:
    """Pair everything that is not an edge, arc or circle; spare are free curves and endless lines."""
    out = Matched()
    if key.frees or drawn.frees:
        out.rounds(
            key.frees, drawn.frees, [_free_cost], lambda f: f.at, lambda a, b: curve_off(a, b)[0] <= reach
        )
    if drawn.endless:
        out.rounds(
            key.endless,
            drawn.endless,
            [lambda a, b: _endless_cost(a, b, reach)],
            lambda e: e.at,
            lambda _a, _b: True,
        )
    kept = list(out.spare)  # lettering and the like is never spare
    _texts(key.texts, drawn.texts, out, reach)
    if key.dimensions and drawn.dimensions:
        same = [lambda a, b: _measures_apart(a, b, reach), _dimension_cost]
        out.rounds(
            key.dimensions,
            drawn.dimensions,
            same,
            lambda d: d.points[0],
            lambda a, b: _measures_apart(a, b, reach) < _NO,
        )
    if key.notes and drawn.notes:
        said = [
            lambda a, b: distance(a.tip, b.tip) if a.wording.casefold() == b.wording.casefold() else math.inf,
            lambda a, b: distance(a.tip, b.tip),
        ]
        out.rounds(
            key.notes, drawn.notes, said, lambda n: n.tip, lambda a, b: distance(a.tip, b.tip) <= reach
        )
    if key.hatches and drawn.hatches:
        out.rounds(
            key.hatches,
            drawn.hatches,
            [_hatch_cost],
            lambda h: h.at,
            lambda a, b: distance(a.at, b.at) <= reach and abs(a.area - b.area) <= reach,
        )
    out.spare = kept
    used = set(out.ids.values())
    out.beside = [
        f.id for group in (drawn.texts, drawn.notes, drawn.hatches) for f in group if f.id not in used
    ]
    return out


def _free_cost(a: Free, b: Free) -> float:
    """Compare ends and middle either way; what lies farther off than the key's curve is large is another
    curve."""
    forward = distance(a.start, b.start) + distance(a.end, b.end)
    off = min(forward, distance(a.start, b.end) + distance(a.end, b.start))
    if a.closed or b.closed:
        off = 2 * distance(_box_middle(a), _box_middle(b)) + abs(a.size - b.size)
    return off if off <= 2 * a.size else math.inf


def _box_middle(f: Free) -> Point:
    xs, ys = zip(*f.points, strict=True)
    return ((min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2)


def _endless_cost(a: EndlessFeature, b: EndlessFeature, reach: float) -> float:
    ax, ay = a.toward[0] - a.at[0], a.toward[1] - a.at[1]
    bx, by = b.toward[0] - b.at[0], b.toward[1] - b.at[1]
    wx, wy = b.at[0] - a.at[0], b.at[1] - a.at[1]
    off = abs(ax * wy - ay * wx)
    return off if off <= reach and abs(ax * by - ay * bx) <= tol.UNIT_STEP and a.ray == b.ray else math.inf


def _texts(
    wanted: tuple[TextFeature, ...], found: tuple[TextFeature, ...], out: Matched, reach: float
) -> None:
    """Pair lettering of the same wording in any letter case, nearest first; then what stands near enough to
    be meant."""
    by_wording: dict[str, list[TextFeature]] = defaultdict(list)
    for text in found:
        by_wording[text.wording.casefold()].append(text)
    left = []
    for text in wanted:
        rest = by_wording.get(text.wording.casefold())
        if not rest:
            left.append(text)
            continue
        best = min(rest, key=lambda t: (distance(t.at, text.at), t.layer != text.layer, t.id))
        rest.remove(best)
        out.ids[text.id] = best.id
        if distance(best.at, text.at) <= reach:
            out.exact.add(text.id)
    over = [t for rest in by_wording.values() for t in rest]
    if left and over:
        over.sort(key=lambda t: int(t.id[1:]))
        out.rounds(
            left,
            over,
            [
                lambda a, b: (
                    d if (d := distance(a.at, b.at)) <= _HEIGHTS * max(a.height, b.height) else math.inf
                )
            ],
            lambda t: t.at,
            lambda a, b: distance(a.at, b.at) <= reach,
        )


def spans(d: Dimension) -> tuple[float, ...]:
    """Return the numbers by which two dimensions of one kind measure the same thing: along their direction,
    or round a centre."""
    if d.kind in ("linear", "ordinate"):
        cos, sin = _direction(d.turn_deg)
        t = sorted(x * cos + y * sin for x, y in d.points)
        return (t[0], t[1])
    if d.kind == "radius":
        return (*d.points[0], d.measured)
    if d.kind == "diameter":
        (ax, ay), (bx, by) = d.points
        return ((ax + bx) / 2, (ay + by) / 2, d.measured / 2)
    return (*d.points[0], d.measured)


def _direction(turn_deg: float) -> Point:
    quarter = {0.0: (1.0, 0.0), 90.0: (0.0, 1.0)}.get(round(turn_deg % 180.0, 9))
    return quarter or (math.cos(math.radians(turn_deg)), math.sin(math.radians(turn_deg)))


def _aligned(a: Dimension, b: Dimension) -> bool:
    if a.kind != b.kind:
        return False
    off = (a.turn_deg - b.turn_deg) % 180.0
    return a.kind not in ("linear", "ordinate") or min(off, 180.0 - off) <= tol.TURN_DEG


def _measures_apart(a: Dimension, b: Dimension, reach: float) -> float:
    """Return how far two dimensions are from measuring the same; infinite beyond reach."""
    if not _aligned(a, b):
        return math.inf
    off = max(abs(p - q) for p, q in zip(spans(a), spans(b), strict=True))
    # of several that measure the same extent the nearest one is meant
    return off + tol.SLACK_SHARE * distance(a.at, b.at) if off <= 2 * reach else math.inf


def _dimension_cost(a: Dimension, b: Dimension) -> float:
    if not _aligned(a, b):
        return math.inf
    off = sum(abs(p - q) for p, q in zip(spans(a), spans(b), strict=True))
    limit = 2 * max(a.measured, b.measured) if a.kind != "angular" else math.inf
    return off + tol.FIGURE_WEIGHT * distance(a.at, b.at) if off <= limit else math.inf


def _hatch_cost(a: HatchFeature, b: HatchFeature) -> float:
    off = distance(a.at, b.at)
    wide = math.sqrt(max(a.area, b.area, 0.0))
    return off + abs(math.sqrt(max(a.area, 0.0)) - math.sqrt(max(b.area, 0.0))) if off <= wide else math.inf
