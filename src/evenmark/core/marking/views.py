"""Views of one part on one sheet: found in a key, placed one by one on an attempt.

- *level*: two views share their heights, side by side. *plumb*: they share their widths, one above the other.
- *front*: the view that all others are level or plumb with.
- *shift of a view*: how far the features of one view must be moved, after the drawing as a whole, to lie on
  the key.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from evenmark.core.drawing.moving import moved_dimension
from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point, box_of
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework.apart import box_of_curve, groups_of
from evenmark.core.linework.borders import borders_of
from evenmark.core.linework.model import (
    AnyFeature,
    ArcFeature,
    CircleFeature,
    Corner,
    Edge,
    Free,
    Linework,
    Tee,
    View,
)
from evenmark.core.marking.assign import exact_pairs
from evenmark.core.marking.place import ENOUGH, shifts
from evenmark.core.marking.shapes import KINDS, Table

Floats = NDArray[np.float64]
Shifts = dict[str, Point]


def moved_views(views: Iterable[View], before: Linework, after: Linework) -> tuple[View, ...]:
    """Return views of a key for the same key in another shape: each box round what lies in it now. A box
    that is round that already stays."""
    out = []
    for view in views:
        held, now = (
            box_of([p for i in _in_box(view.box, key) for p in _span(after.curves[i])])
            for key in (before, after)
        )
        near = now is not None and max(abs(a - b) for a, b in zip(now, view.box, strict=True)) <= after.weld
        out.append(view if near or held is None else replace(view, box=held))
    return tuple(out)


def _in_box(box: Box, key: Linework) -> list[str]:
    left, low, right, high = box
    return [i for i, f in key.curves.items() if left <= f.at[0] <= right and low <= f.at[1] <= high]


def _span(f: Edge | ArcFeature | CircleFeature | Free) -> tuple[Point, Point]:
    left, low, right, high = box_of_curve(f)
    return (left, low), (right, high)


def find_views(key: Linework, roles: dict[str, Role], reach: float) -> tuple[View, ...]:
    """Return the views that a key shows: three or more groups of which one is level with one and plumb with
    another; else none."""
    bordered = borders_of(key, roles, reach)
    seen = [
        f for i, f in key.curves.items() if _role(roles, f) in ("outline", "hidden") and i not in bordered
    ]
    if len(seen) < 6:
        return ()
    boxes = groups_of(seen, reach, key.extent)
    if not 3 <= len(boxes) <= 6:
        return ()
    fronts = []
    for i, front in enumerate(boxes):
        ways = [_way(front, b, reach) for k, b in enumerate(boxes) if k != i]
        if None not in ways and {"left", "right"} & set(ways) and {"above", "below"} & set(ways):
            fronts.append(i)
    if len(fronts) != 1:
        return ()
    front = boxes.pop(fronts[0])
    named = [("front", front), *sorted((str(_way(front, b, reach)), b) for b in boxes)]
    return tuple(View(id=f"v{n}", name=name, box=box) for n, (name, box) in enumerate(named, 1))


def _role(roles: dict[str, Role], f: AnyFeature) -> Role:
    return role_of(roles, str(getattr(f, "layer", "")))


def _way(front: Box, other: Box, reach: float) -> str | None:
    """Say where a view stands from the front view; None when it is neither level nor plumb with it."""
    if abs(front[1] - other[1]) <= reach and abs(front[3] - other[3]) <= reach:
        return "right" if other[0] > front[2] else "left"
    if abs(front[0] - other[0]) <= reach and abs(front[2] - other[2]) <= reach:
        return "above" if other[1] > front[3] else "below"
    return None


def side_of(front: Box, other: Box, shift: Point = (0.0, 0.0)) -> str:
    """Say on which side of the front view another view stands once it is moved by a shift."""
    dx = (other[0] + other[2] - front[0] - front[2]) / 2 + shift[0]
    dy = (other[1] + other[3] - front[1] - front[3]) / 2 + shift[1]
    level = abs(other[1] + other[3] - front[1] - front[3]) < abs(other[0] + other[2] - front[0] - front[2])
    if level:
        return "right" if dx > 0 else "left"
    return "above" if dy > 0 else "below"


def inside(p: Point, box: Box, reach: float) -> bool:
    """Say whether a point lies in a box widened by reach."""
    return box[0] - reach <= p[0] <= box[2] + reach and box[1] - reach <= p[1] <= box[3] + reach


def members(work: Linework, box: Box, reach: float) -> list[AnyFeature]:
    """Return the features of a linework whose place lies in a box."""
    return [f for f in work.by_id.values() if inside(f.at, box, reach)]


def place_views(
    views: Iterable[View], key: dict[str, Table], drawn: dict[str, Table], reach: float
) -> Shifts:
    """Return how far each view must be moved by itself, by view id; views that lie where they should are left
    out.

    A view is moved only when that pairs at least 60 % of it exactly, and more than where it stands.
    """
    out: Shifts = {}
    for view in views:
        own = {k: _only(t, view.box, reach) for k, t in key.items()}
        total = sum(len(t) for t in own.values())
        if not total:
            continue
        still = _exact(own, drawn, reach)
        if still >= total:
            continue
        best, found = (0.0, 0.0), still
        for _, shift in shifts(own, drawn, reach)[:4]:
            moved = {k: t.shifted(shift) for k, t in drawn.items()}
            n = _exact(own, moved, reach)
            if n > found:
                best, found = shift, n
        if best != (0.0, 0.0) and found >= ENOUGH * total:
            out[view.id] = best
    return out


def _only(t: Table, box: Box, reach: float) -> Table:
    at = t.anchors
    rows = (
        (at[:, 0] >= box[0] - reach)
        & (at[:, 0] <= box[2] + reach)
        & (at[:, 1] >= box[1] - reach)
        & (at[:, 1] <= box[3] + reach)
    )
    return t.only(np.nonzero(rows)[0])


def _exact(key: dict[str, Table], drawn: dict[str, Table], reach: float) -> int:
    return sum(len(exact_pairs(key[k], drawn[k], reach)[0]) for k in KINDS)


def shifts_of_features(
    views: Iterable[View], moves: Shifts, key: dict[str, Table], drawn: dict[str, Table], reach: float
) -> dict[str, Point]:
    """Return which drawn features belong to a moved view, with its shift: what then lies on the key, and what
    stands among it."""
    out: dict[str, Point] = {}
    for view in views:
        shift = moves.get(view.id)
        if shift is None:
            continue
        for kind in KINDS:
            own, moved = _only(key[kind], view.box, reach), drawn[kind].shifted(shift)
            _, columns = exact_pairs(own, moved, reach)
            for j in columns.tolist():
                out[moved.ids[j]] = shift
    held = set(out)
    for view in views:
        shift = moves.get(view.id)
        if shift is None:
            continue
        margin = tol.VIEW_MARGIN_SHARE * max(view.box[2] - view.box[0], view.box[3] - view.box[1])
        for kind in KINDS:
            moved = drawn[kind].shifted(shift)
            stay = _standing(drawn[kind], key[kind], reach)
            for i, p in zip(moved.ids, moved.anchors.tolist(), strict=True):
                if i not in held and i not in stay and inside((p[0], p[1]), view.box, margin):
                    out[i] = shift
    return out


def _standing(drawn: Table, key: Table, reach: float) -> set[str]:
    """Return the drawn features that lie on the key without being moved."""
    _, columns = exact_pairs(key, drawn, reach)
    return {drawn.ids[j] for j in columns.tolist()}


def shifted(work: Linework, by: dict[str, Point]) -> Linework:
    """Return a linework with some features moved; corners and meetings go with the first of their ends."""
    if not by:
        return work

    def p(at: Point, i: str) -> Point:
        s = by.get(i, (0.0, 0.0))
        return (at[0] + s[0], at[1] + s[1])

    def joint(j: Corner | Tee) -> Point:
        return p(j.at, j.ends[0][0])

    near = _nearest(work)
    return work.with_(
        edges=tuple(e._replace(start=p(e.start, e.id), end=p(e.end, e.id)) for e in work.edges),
        arcs=tuple(a._replace(center=p(a.center, a.id)) for a in work.arcs),
        circles=tuple(c._replace(center=p(c.center, c.id)) for c in work.circles),
        frees=tuple(f._replace(points=tuple(p(q, f.id) for q in f.points)) for f in work.frees),
        corners=tuple(k._replace(at=joint(k)) for k in work.corners),
        tees=tuple(t._replace(at=joint(t)) for t in work.tees),
        outlines=tuple(o._replace(at=p(o.at, o.members[0][0])) for o in work.outlines),
        texts=tuple(t._replace(at=p(t.at, near(t.at))) for t in work.texts),
        notes=tuple(n._replace(at=p(n.at, near(n.at)), tip=p(n.tip, near(n.tip))) for n in work.notes),
        dimensions=tuple(
            moved_dimension(d, Similarity(shift=by.get(near(d.points[0]), (0.0, 0.0))))
            for d in work.dimensions
        ),
        hatches=tuple(
            h._replace(
                at=p(h.at, near(h.at)), loops=tuple(tuple(p(q, near(h.at)) for q in loop) for loop in h.loops)
            )
            for h in work.hatches
        ),
        clutter=tuple(c._replace(at=p(c.at, near(c.at))) for c in work.clutter),
    )


def _nearest(work: Linework) -> Callable[[Point], str]:
    """Return a function from a place to the nearest curve, by which lettering and the like go with their
    view."""
    curves = list(work.curves.values())
    tree = cKDTree(np.array([f.at for f in curves])) if curves else None

    def near(at: Point) -> str:
        return curves[int(tree.query(at)[1])].id if tree is not None else ""

    return near
