"""Propose: the list of requirements that an instructor would write for a key: every size once, nothing twice,
nothing trivial.

Default weights go to features equally, and within a feature: size 4, place 3, relations 2, layer 1
(marking.md, Requirements). Of all marks, `whole` takes a fifth, `clean` and `layer-style` a twentieth each.
"""

from __future__ import annotations

import itertools
from collections import defaultdict
from collections.abc import Iterator

import numpy as np

from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, distance
from evenmark.core.linework import patterns
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Linework, View
from evenmark.core.linework.nodes import cluster
from evenmark.core.linework.relations import joints, off_square, tangent_off, touching_circles
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.kinds.views import shared_levels
from evenmark.core.marking.model import Requirement

WHOLE_SHARE, CLEAN_SHARE, STYLE_SHARE = 0.2, 0.05, 0.05
"""Shares of all marks that do not belong to single features; a slip of the whole drawing costs a fifth."""
NOT_ASKED: frozenset[Role] = frozenset({"construction", "dimension"})
"""Roles of layers whose lines in the key are not asked of anyone; dimensions themselves are."""
OFFERED = "d"
"""What is proposed switched off: the dimensions of a key tell students the sizes, and those are asked of the
features already."""
MOST_IN_A_SET, MOST_HUBS = 200, 60
"""Circles of one size that are searched for patterns, and centres that they are searched about."""

Wish = tuple[str, tuple[str, ...]]  # a kind, and the features, the one that it counts for first


def propose(
    key: Linework,
    roles: dict[str, Role],
    tolerance: float,
    *,
    angle_deg: float = tol.ANGLE_DEG,
    views: tuple[View, ...] = (),
    leave_out: set[str] | None = None,
) -> tuple[Requirement, ...]:
    """Return proposed requirements with weights that sum to 100, in a fixed order with ids from 1.

    ``tolerance`` and ``angle_deg`` are those within which the key itself counts as tangent, concentric,
    square ...; what is to be left out (given, or covered by a higher role) is not asked.
    """
    wishes = list(wishes_of(key, roles, tolerance, angle_deg, leave_out or set()).all())
    for n, view in enumerate(views):
        if n:
            wishes.append(("arrangement", (views[0].id, view.id)))
        wishes += [
            ("agreement", (view.id, other.id))
            for other in views[n + 1 :]
            if shared_levels(view, other, key, tolerance)
        ]
    out = [Requirement(id=1, kind="whole", weight=100 * WHOLE_SHARE)]
    for (kind, features), weight in zip(wishes, _weights(wishes), strict=True):
        on = features[0][0] not in OFFERED
        out.append(Requirement(id=len(out) + 1, kind=kind, features=features, weight=round(weight, 9), on=on))
    asked = {features[0] for _, features in wishes}
    layers = sorted(
        {f.layer for f in key.drawn if f.id in asked and f.id[0] not in OFFERED and f.layer in key.layers}
    )
    for layer in layers:
        weight = round(100 * STYLE_SHARE / len(layers), 9)
        out.append(Requirement(id=len(out) + 1, kind="layer-style", layer=layer, weight=weight))
    out.append(Requirement(id=len(out) + 1, kind="clean", weight=100 * CLEAN_SHARE))
    return tuple(out)


def _weights(wishes: list[tuple[str, tuple[str, ...]]]) -> list[float]:
    """Return what each wish is worth: every feature that counts the same, split over what is asked of it."""
    by_feature: dict[str, list[int]] = defaultdict(list)
    for n, (_, features) in enumerate(wishes):
        by_feature[features[0]].append(n)
    weights = [0.0] * len(wishes)
    counting = sum(1 for i in by_feature if i[0] not in OFFERED)
    share = 100 * (1 - WHOLE_SHARE - CLEAN_SHARE - STYLE_SHARE) / max(1, counting)
    for numbers in by_feature.values():
        for n, part in zip(numbers, _split([wishes[n][0] for n in numbers]), strict=True):
            weights[n] = share * part
    return weights


def wishes_of(
    key: Linework, roles: dict[str, Role], tolerance: float, angle_deg: float, out_of: set[str]
) -> Wishes:
    """Return what there is to ask of each feature of a key."""
    asked = {
        f.id
        for f in key.drawn
        if f.id not in out_of and (f.id[0] in "dnh" or role_of(roles, f.layer) not in NOT_ASKED)
    }
    axes = {e.id for e in key.edges if role_of(roles, e.layer) == "centre"}
    return Wishes(key, asked, axes, tolerance, angle_deg)


def _split(kinds: list[str]) -> list[float]:
    """Share one feature's marks among its requirements: by part, and equally within a part."""
    parts: dict[int, int] = defaultdict(int)
    for kind in kinds:
        parts[KINDS[kind].weight] += 1
    total = sum(parts)
    return [KINDS[kind].weight / total / parts[KINDS[kind].weight] for kind in kinds]


class Wishes:
    """What to ask of each feature of a key."""

    def __init__(
        self, key: Linework, asked: set[str], axes: set[str], tolerance: float, angle_deg: float
    ) -> None:
        self.key, self.asked, self.axes = key, asked, axes
        self.may = asked - axes
        """What is asked of and no axis."""
        self.tolerance, self.angle_deg = tolerance, angle_deg

    def all(self) -> Iterator[Wish]:
        """Yield sizes and places first, then relations, then lettering and annotations."""
        yield from self._sizes_and_places()
        yield from self._joints()
        yield from self._tangents()
        yield from self._square_and_parallel()
        yield from self._concentric()
        yield from self._patterns()
        for outline in self.key.outlines:
            if {i for i, _ in outline.members} <= self.may:
                yield "closed", (outline.id,)
        yield from self._annotations()

    def _of(self, kinds: str, i: str) -> Iterator[Wish]:
        if i in self.asked:
            for kind in kinds.split():
                yield kind, (i,)

    def _sizes_and_places(self) -> Iterator[Wish]:
        joined = {i for joint in self.key.meetings.values() for i, _ in joint.ends}
        for edge in self.key.edges:
            kinds = "axis layer" if edge.id in self.axes else "length angle whole-edge layer"
            loose = edge.id not in joined and edge.id not in self.axes
            yield from self._of(f"{kinds} free-ends" if loose else kinds, edge.id)
        for arc in self.key.arcs:
            kinds = "radius sweep position layer"
            yield from self._of(f"{kinds} free-ends" if arc.id not in joined else kinds, arc.id)
        for circle in self.key.circles:
            yield from self._of("radius position layer", circle.id)
        for free in self.key.frees:
            yield from self._of("position layer", free.id)

    def _joints(self) -> Iterator[Wish]:
        """Yield places and joints of corners and meetings; an axis ends where it likes."""
        may = self.may
        for corner in self.key.corners:
            if {i for i, _ in corner.ends} <= may:
                yield "position", (corner.id,)
                yield "joined", (corner.id,)
        for tee in self.key.tees:
            if {i for i, _ in tee.ends} <= may and tee.on in may:
                yield "position", (tee.id,)
                yield "joined", (tee.id,)

    def _tangents(self) -> Iterator[Wish]:
        seen: set[Wish] = set()
        may = self.may
        for a, b, end_a, end_b in [*joints(self.key), *touching_circles(self.key, self.tolerance)]:
            fa, fb = self.key.curves[a], self.key.curves[b]
            wish = ("tangent", (b, a))
            if (
                a in may
                and b in may
                and isinstance(fa, Edge | ArcFeature | CircleFeature)
                and isinstance(fb, ArcFeature | CircleFeature)
                and wish not in seen
                and tangent_off(fa, fb, end_a, end_b) <= self.tolerance
            ):
                seen.add(wish)
                yield wish

    def _square_and_parallel(self) -> Iterator[Wish]:
        """Yield what is square or parallel and not said by level and plumb edges; what follows from two
        others is not said again."""
        edges = [e for e in self.key.edges if e.id in self.may and not self._level_or_plumb(e)]
        slanted = {e.id: e for e in edges}
        part = {i: i for i in slanted}

        def root(i: str) -> str:
            while part[i] != i:
                part[i] = part[part[i]]
                i = part[i]
            return i

        for corner in self.key.corners:
            ends = [i for i, _ in corner.ends if i in slanted]
            for n, a in enumerate(ends):
                for b in ends[n + 1 :]:
                    if root(a) != root(b) and self._square(slanted[a], slanted[b]):
                        part[root(b)] = root(a)
                        yield "perpendicular", (a, b)
        for a, b, _, _ in joints(self.key):
            curve = self.key.curves[b]
            if (
                a in slanted
                and b in self.asked
                and isinstance(curve, ArcFeature | CircleFeature)
                and self._square(slanted[a], curve)
            ):
                yield "perpendicular", (a, b)
        by_direction = sorted(edges, key=lambda e: (direction_deg(e.start, e.end), e.id))
        for one, other in itertools.pairwise(by_direction):
            turn = direction_difference_deg(
                direction_deg(one.start, one.end), direction_deg(other.start, other.end)
            )
            if abs(turn) <= self.angle_deg and root(one.id) != root(other.id):
                part[root(other.id)] = root(one.id)
                yield "parallel", (one.id, other.id)

    def _level_or_plumb(self, e: Edge) -> bool:
        turn = direction_deg(e.start, e.end) % 90.0
        return min(turn, 90.0 - turn) <= self.angle_deg

    def _square(self, a: Edge, b: Edge | ArcFeature | CircleFeature) -> bool:
        off = off_square(a, b)
        return off is not None and abs(off) <= self.angle_deg

    def _concentric(self) -> Iterator[Wish]:
        first: dict[tuple[int, int], ArcFeature | CircleFeature] = {}
        reach = self.tolerance
        for f in self.key.rounds:
            if f.id not in self.asked:
                continue
            x, y = round(f.center[0] / (4 * reach)), round(f.center[1] / (4 * reach))
            cells = [(x + i, y + j) for i in (-1, 0, 1) for j in (-1, 0, 1)]
            known = next(
                (first[c] for c in cells if c in first and distance(first[c].center, f.center) <= reach), None
            )
            if known is None:
                first[x, y] = f
            else:
                yield "concentric", (known.id, f.id)

    def _patterns(self) -> Iterator[Wish]:
        """Yield circles of one size that are evenly spaced round a centre or in a row, the largest patterns
        first."""
        by_size: dict[tuple[str, int], list[CircleFeature]] = defaultdict(list)
        for c in self.key.circles:
            if c.id in self.asked:
                by_size[c.layer, round(c.radius / (2 * self.tolerance))].append(c)
        hubs = [f.center for f in self.key.rounds][:MOST_HUBS]
        for group in by_size.values():
            if len(group) < 3:
                continue
            taken: set[str] = set()
            for found in sorted(self._candidates(group[:MOST_IN_A_SET], hubs), key=lambda g: -len(g)):
                ids = [c.id for c in found]
                if taken.isdisjoint(ids):
                    taken.update(ids)
                    yield "evenly-spaced", tuple(ids)

    def _candidates(self, circles: list[CircleFeature], hubs: list[Point]) -> Iterator[list[CircleFeature]]:
        reach = self.tolerance
        if patterns.find([c.center for c in circles], reach) is not None:
            yield circles
        places = np.array([c.center for c in circles])
        for hub in dict.fromkeys(hubs):
            apart = np.hypot(*(places - hub).T)
            labels, count = cluster(apart[:, None], reach)
            sizes = np.bincount(labels, minlength=count)
            for ring in np.nonzero((sizes >= 3) & (sizes < len(circles)))[0].tolist():
                members = [circles[i] for i in np.nonzero(labels == ring)[0].tolist()]
                if distance(members[0].center, hub) > reach and self._even(members, "circle"):
                    yield members
        for axis in (1, 0):
            rows: dict[int, list[CircleFeature]] = defaultdict(list)
            for c in circles:
                rows[round(c.center[axis] / (2 * reach))].append(c)
            for row in rows.values():
                if 3 <= len(row) < len(circles) and self._even(row, "row"):
                    yield row

    def _even(self, circles: list[CircleFeature], form: str) -> bool:
        found = patterns.find([c.center for c in circles], self.tolerance)
        return found is not None and found.form == form

    def _annotations(self) -> Iterator[Wish]:
        for text in self.key.texts:
            yield from self._of("wording text-height text-anchor text-turn layer", text.id)
        for note in self.key.notes:
            yield from self._of("note wording layer" if note.wording else "note layer", note.id)
        for d in self.key.dimensions:
            yield from self._of("dimension layer", d.id)
        for h in self.key.hatches:
            yield from self._of("hatch layer", h.id)
