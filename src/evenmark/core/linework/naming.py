"""What a teacher calls the features of a drawing: "lower left hole", "top edge", "left end of the slot",
"bore". From shape and place alone, each name once; the same on sheet, list, grid and prints.

- *what*: a noun by shape: hole, bore, fillet, chamfer, slot, edge by the side on which it lies.
- *where*: what tells it from its like: left, lower right, 3 of 6 round the pitch circle. Nothing where there
  is no other.
- What belongs to a closed shape inside the part is named with it: "top edge of the slot"; of several views,
  with its view: "top edge in the front view".
"""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from functools import cached_property
from typing import NamedTuple

import numpy as np

from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point, box_of, distance
from evenmark.core.linework.apart import box_of_curve
from evenmark.core.linework.model import (
    ArcFeature,
    CircleFeature,
    Corner,
    Edge,
    Linework,
    Outline,
    Tee,
    View,
)
from evenmark.core.linework.sharp import sharp_at
from evenmark.core.linework.whereabouts import Where, told_apart
from evenmark.core.linework.wording import number, view_name

MOST_NAMED = 2000
"""The features of a larger drawing are named by kind and number."""
_MOST_CROSS = 4.0
"""A centre line of at most so many radii is that of one round thing."""


def names_of(
    key: Linework, roles: Mapping[str, Role], views: Sequence[View] = (), reach: float = 0.0
) -> dict[str, str]:
    """Return what each feature of a key is called, in small letters and each name once; nothing for a key of
    more than `MOST_NAMED` features."""
    if len(key.curves) > MOST_NAMED:
        return {}
    return _Naming(key, dict(roles), views, reach).names()


class _Noun(NamedTuple):
    """What something is called before it is told from its like: the noun, what it belongs to, and where it
    is."""

    noun: str
    at: Point
    of: str = ""


class _Naming:
    def __init__(self, key: Linework, roles: dict[str, Role], views: Sequence[View], reach: float) -> None:
        self.key, self.views, self.reach = key, views, reach
        self.role = {i: role_of(roles, f.layer) for i, f in key.curves.items()}
        self.outline_of = {i: o for o in key.outlines for i, _ in o.members}
        self.boxes = {o.id: self._box(o) for o in key.outlines}
        self.inner = {o.id: o.id in self._inside for o in key.outlines}
        self.shape = {o.id: self._shape(o) for o in key.outlines}

    def names(self) -> dict[str, str]:
        """Name everything: outlines first, then what they are made of, then what refers to others."""
        self.bare: dict[str, str] = {}
        """Names without the view."""
        out: dict[str, str] = {}
        self._apart(out, {o.id: _Noun(self.shape[o.id], self._middle_of(o.id)) for o in self.key.outlines})
        for nouns in (self._circles, self._curves, self._axes, self._joints, self._lettered):
            self._apart(out, nouns())
        return out | {v.id: view_name(v.name) for v in self.views}

    def _middle_of(self, i: str) -> Point:
        box = self.boxes[i]
        return ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2)

    def _view_of(self, p: Point) -> str:
        near = self.reach
        for v in self.views:
            left, low, right, high = v.box
            if left - near <= p[0] <= right + near and low - near <= p[1] <= high + near:
                return view_name(v.name)
        return ""

    def _apart(self, out: dict[str, str], nouns: Mapping[str, _Noun]) -> None:
        """Add names: those of one noun in one view are told apart by where they are."""
        groups: dict[tuple[str, str, str], list[str]] = defaultdict(list)
        for i, one in nouns.items():
            groups[self._view_of(one.at), one.noun, one.of].append(i)
        taken = set(out.values())
        for (view, noun, of), ids in groups.items():
            where = told_apart({i: nouns[i].at for i in ids}, self.reach)
            for i in ids:
                bare = f"{_with(noun, where[i])}{of}"
                within = f" in the {view}" if view else ""
                full, n = f"{bare}{within}", 2
                while full in taken:
                    full = f"{bare}{within} {n}"
                    n += 1
                taken.add(full)
                self.bare[i], out[i] = bare, full

    # shapes

    def _box(self, o: Outline) -> Box:
        boxes = [box_of_curve(self.key.curves[i]) for i, _ in o.members]
        found = box_of([p for b in boxes for p in (b[:2], b[2:])])
        assert found is not None
        return found

    @cached_property
    def _inside(self) -> frozenset[str]:
        """The outlines that lie inside another one, or inside a circle."""
        ids = list(self.boxes)
        if not ids:
            return frozenset()
        rows = np.array([self.boxes[i] for i in ids], np.float64)
        round_ = [box_of_curve(c) for c in self.key.circles if self.role[c.id] == "outline"]
        around = np.array([*rows.tolist(), *round_], np.float64)
        low = (around[None, :, :2] < rows[:, None, :2]).all(axis=2)
        high = (around[None, :, 2:] > rows[:, None, 2:]).all(axis=2)
        return frozenset(ids[n] for n in np.nonzero((low & high).sum(axis=1))[0].tolist())

    def _shape(self, o: Outline) -> str:
        if not self.inner[o.id]:
            return "outline"
        members = [self.key.curves[i] for i, _ in o.members]
        arcs = [f for f in members if isinstance(f, ArcFeature)]
        ends = [a for a in arcs if a.sweep_rad >= tol.ROUND_END_RAD]
        if len(members) == 4 and len(ends) == 2:
            return "slot"
        edges = [f for f in members if isinstance(f, Edge)]
        if len(edges) == 4 and all(_is_level(e) or _is_plumb(e) for e in edges):
            return "opening"
        return "cut-out"

    # round things

    def _circles(self) -> dict[str, _Noun]:
        at_one: list[list[CircleFeature]] = []
        for c in sorted(self.key.circles, key=lambda c: c.radius):
            if self.role[c.id] in ("centre", "construction"):
                continue
            own = next((g for g in at_one if distance(g[0].center, c.center) <= self.reach), None)
            at_one.append([c]) if own is None else own.append(c)
        out: dict[str, _Noun] = {}
        for group in at_one:
            for n, c in enumerate(group):
                out[c.id] = _Noun(self._circle(n, c, group), c.center)
        for c in self.key.circles:
            if self.role[c.id] == "centre":
                out[c.id] = _Noun("pitch circle", c.center)
            elif self.role[c.id] == "construction":
                out[c.id] = _Noun("construction circle", c.center)
        return out

    def _circle(self, n: int, c: CircleFeature, group: Sequence[CircleFeature]) -> str:
        hidden = "hidden " if self.role[c.id] == "hidden" else ""
        if c.id in self._outermost:
            return f"{hidden}outer circle"
        if len(group) == 1:
            return f"{hidden}hole"
        if n == 0:
            return f"{hidden}bore"
        return f"{hidden}circle Ø{number(2 * c.radius)}"

    @cached_property
    def _outermost(self) -> frozenset[str]:
        """The circles that others lie in and that lie in nothing themselves."""
        whole = [c for c in self.key.circles if self.role[c.id] not in ("centre", "construction")]
        if not whole:
            return frozenset()
        at, r = np.array([c.center for c in whole], np.float64), np.array([c.radius for c in whole])
        apart = np.hypot(*(at[:, None] - at[None]).transpose(2, 0, 1))
        within = apart + r[:, None] < r[None]
        boxes = np.array(list(self.boxes.values()), np.float64).reshape(-1, 4)
        low, high = at[:, None] - r[:, None, None], at[:, None] + r[:, None, None]
        held = ((boxes[None, :, :2] <= low) & (boxes[None, :, 2:] >= high)).all(axis=2).any(axis=1)
        outer = within.any(axis=0) & ~within.any(axis=1) & ~held
        return frozenset(c.id for c, one in zip(whole, outer.tolist(), strict=True) if one)

    # edges and arcs

    def _curves(self) -> dict[str, _Noun]:
        out: dict[str, _Noun] = {}
        for i, f in self.key.curves.items():
            role = self.role[i]
            if isinstance(f, CircleFeature) or (role == "centre" and isinstance(f, Edge)):
                continue
            owner = self.outline_of.get(i)
            within = ""
            if owner is not None and self.inner[owner.id]:
                within = f" of the {self.bare[owner.id]}"
            kind = {"hidden": "hidden ", "construction": "construction ", "frame": "border "}.get(role, "")
            if isinstance(f, Edge):
                noun = self._edge(f, owner)
            elif isinstance(f, ArcFeature):
                noun = self._arc(f, owner)
            else:
                noun = "curve"
            out[i] = _Noun(f"{kind}{noun}", f.at, within)
        return out

    def _edge(self, e: Edge, owner: Outline | None) -> str:
        box = self.boxes[owner.id] if owner is not None else None
        if _is_level(e):
            return self._side(e.at[1], box, 1, ("bottom edge", "top edge")) or "horizontal edge"
        if _is_plumb(e):
            return self._side(e.at[0], box, 0, ("left edge", "right edge")) or "vertical edge"
        return "chamfer" if self._is_chamfer(e) else "slanted edge"

    def _side(self, level: float, box: Box | None, axis: int, words: tuple[str, str]) -> str:
        if box is None:
            return ""
        if abs(level - box[axis]) <= self.reach:
            return words[0]
        return words[1] if abs(level - box[axis + 2]) <= self.reach else ""

    def _is_chamfer(self, e: Edge) -> bool:
        sharp = sharp_at(self.key, e.id)
        if sharp is None:
            return False
        beside = [self.key.curves[i] for i in (sharp.before, sharp.after)]
        square = all(isinstance(f, Edge) and (_is_level(f) or _is_plumb(f)) for f in beside)
        return square and e.length <= tol.CHAMFER_SHARE * sum(f.size for f in beside)

    def _arc(self, a: ArcFeature, owner: Outline | None) -> str:
        if a.sweep_rad >= tol.ROUND_END_RAD:
            return "round end" if owner is None or self.shape[owner.id] != "slot" else "end"
        return "fillet" if sharp_at(self.key, a.id) is not None else "arc"

    # what refers to others

    def _axes(self) -> dict[str, _Noun]:
        """Name centre lines: of the one thing that a short one runs through, or by their direction."""
        axes = [e for e in self.key.edges if self.role[e.id] == "centre"]
        many = Counter((self._view_of(e.at), self._way(e)) for e in axes)
        out: dict[str, _Noun] = {}
        for e in axes:
            way = self._way(e)
            owner = None if many[self._view_of(e.at), way] == 1 else self._run_through(e)
            out[e.id] = _Noun(f"{way}centre line", e.at, f" of the {self.bare[owner]}" if owner else "")
        return out

    def _way(self, e: Edge) -> str:
        return "horizontal " if _is_level(e) else "vertical " if _is_plumb(e) else ""

    def _run_through(self, e: Edge) -> str | None:
        """Return the one round thing that a short centre line is that of."""
        through = (
            c.id
            for c in sorted(self.key.rounds, key=lambda c: -c.radius)
            if self.role[c.id] != "centre"
            and distance(e.at, c.center) <= self.reach
            and e.length <= _MOST_CROSS * c.radius
        )
        return next(through, None)

    def _joints(self) -> dict[str, _Noun]:
        out: dict[str, _Noun] = {}
        for joint in self.key.meetings.values():
            ids = list(dict.fromkeys(i for i, _ in joint.ends))
            if isinstance(joint, Tee):
                ends = " and ".join(self.bare[i] for i in ids[:2])
                out[joint.id] = _Noun(f"junction of {ends} with {self.bare[joint.on]}", joint.at)
            else:
                out[joint.id] = self._corner(joint, ids)
        return out

    def _corner(self, k: Corner, ids: Sequence[str]) -> _Noun:
        owner = next((self.outline_of[i] for i in ids if i in self.outline_of), None)
        if owner is not None and k.id in owner.corners:
            box = self.boxes[owner.id]
            x = self._side(k.at[0], box, 0, ("left", "right"))
            y = self._side(k.at[1], box, 1, ("lower", "upper"))
            if x and y:
                within = f" of the {self.bare[owner.id]}" if self.inner[owner.id] else ""
                return _Noun(f"{y} {x} corner", k.at, within)
        names = [self.bare[i] for i in ids[:2]]
        first, of, rest = names[0].partition(" of the ")
        if len(names) == 2 and of and names[1].endswith(f"{of}{rest}"):
            names[0] = first
        return _Noun(f"corner of {' and '.join(names)}" if len(names) == 2 else "corner", k.at)

    # lettering

    def _lettered(self) -> dict[str, _Noun]:
        out: dict[str, _Noun] = {}
        for t in self.key.texts:
            out[t.id] = _Noun(f"text “{_few(t.wording)}”", t.at)
        for n in self.key.notes:
            out[n.id] = _Noun(f"note “{_few(n.wording)}”" if n.wording else "leader", n.at)
        for d in self.key.dimensions:
            shown = d.typed if d.typed is not None else f"{d.before}{number(d.shown)}{d.after}"
            out[d.id] = _Noun(f"dimension {_few(shown)}", d.at)
        for h in self.key.hatches:
            out[h.id] = _Noun("hatching", h.at)
        return out


def _few(wording: str, most: int = 24) -> str:
    words = " ".join(wording.split())
    return words if len(words) <= most else f"{words[: most - 1]}…"


def _with(noun: str, where: Where) -> str:
    """Return a noun with where it is: before it, or behind it."""
    if where.before:
        return f"{where.before} {noun}"
    return f"{noun} {where.after}" if where.after else noun


def _is_level(e: Edge) -> bool:
    return _turn_of(e) <= tol.ALONG_DEG


def _is_plumb(e: Edge) -> bool:
    return _turn_of(e) >= 90.0 - tol.ALONG_DEG


def _turn_of(e: Edge) -> float:
    return math.degrees(math.atan2(abs(e.end[1] - e.start[1]), abs(e.end[0] - e.start[0])))
