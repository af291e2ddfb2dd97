"""Sizes that could be placed, in the order in which somebody who dimensions a drawing would: overall sizes,
round things, then places from the left and from below, distances between centres, slanted edges.

Of these, those are proposed that say something which is not said yet (see `proof`).
"""

from __future__ import annotations

import itertools
import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from evenmark.core.dimensioning.measured import Measured, MeasuredPlace
from evenmark.core.dimensioning.size import Size, SizeKind
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point, direction_deg, in_sweep, middle, point_on
from evenmark.core.linework.model import ArcFeature, CircleFeature, View


class Spot(NamedTuple):
    """A place that a distance could be measured from, and where it is."""

    place: MeasuredPlace
    at: Point


def could_be_placed(m: Measured, views: Sequence[View] = ()) -> Iterator[Size]:
    """Yield sizes that a key could be given, the first to be preferred.

    Ids are s1, s2, ... in that order.
    """
    for number, (kind, places, expected, direction, features, at) in enumerate(_wishes(m, views), 1):
        yield Size(
            id=f"s{number}",
            kind=kind,
            places=places,
            expected=expected,
            says=expected,
            direction_deg=direction,
            features=features,
            count=len(features) if kind in ("radius", "diameter") else 1,
            at=at,
        )


Wish = tuple[SizeKind, tuple[MeasuredPlace, ...], float, float, tuple[str, ...], Point]
_WAYS = ((0, 0.0), (1, 90.0))
"""Across and up: which coordinate, and its direction in degrees."""


def _wishes(m: Measured, views: Sequence[View]) -> Iterator[Wish]:
    boxes: list[Box | None] = [v.box for v in views] or [None]
    for box in boxes:
        for axis, direction in _WAYS:
            # over all from edge to edge; round ends are said by their centres and radii (common practice)
            spots = [s for s in _firm(m, axis, box) if s.place.part == "carrier"]
            if len(spots) > 1:
                low = min(spots, key=lambda s: s.at[axis])
                high = max(spots, key=lambda s: s.at[axis])
                yield from _apart(low, high, axis, direction, m.reach)
    yield from _round(m)
    for box in boxes:
        for axis, direction in _WAYS:
            firm = sorted(_firm(m, axis, box), key=lambda s: s.at[axis])
            for spot in firm[1:]:
                yield from _apart(firm[0], spot, axis, direction, m.reach)
    yield from _slanted(m)
    for box in boxes:
        for axis, direction in _WAYS:
            every = sorted(
                [*_firm(m, axis, box), *_rest(m, box), *_rims(m, axis, box)], key=lambda s: s.at[axis]
            )
            for spot in every[1:]:
                yield from _apart(every[0], spot, axis, direction, m.reach)
            for spot in every[:-1]:  # what lies level with the first on purpose, and is not said to
                yield from _apart(spot, every[-1], axis, direction, m.reach)
    for box in boxes:  # what has no edge to be measured from: from one to the next
        centers = [Spot(MeasuredPlace(c.id), c.center) for c in m.rounds if _in(c.center, box, m.reach)]
        for one, other in itertools.pairwise(centers):
            for axis, direction in _WAYS:
                yield from _apart(one, other, axis, direction, m.reach)


def _in(p: Point, box: Box | None, spare: float) -> bool:
    return box is None or (
        box[0] - spare <= p[0] <= box[2] + spare and box[1] - spare <= p[1] <= box[3] + spare
    )


def _firm(m: Measured, axis: int, box: Box | None) -> Iterator[Spot]:
    """Yield what an instructor measures from and to along an axis: edges square to it, centres of circles."""
    for e in m.edges:
        if abs(e.start[axis] - e.end[axis]) <= m.reach and _in(e.at, box, m.reach):
            yield Spot(MeasuredPlace(e.id, "carrier"), e.at)
    for c in m.rounds:
        if isinstance(c, CircleFeature) and _in(c.center, box, m.reach):
            yield Spot(MeasuredPlace(c.id), c.center)


def _rims(m: Measured, axis: int, box: Box | None) -> Iterator[Spot]:
    """Yield the outermost points of round things along an axis."""
    for c in m.rounds:
        if not _in(c.center, box, m.reach):
            continue
        turns = (0.0, math.pi) if axis == 0 else (math.pi / 2, -math.pi / 2)
        for sign, turn in zip((1.0, -1.0), turns, strict=True):
            if isinstance(c, CircleFeature) or in_sweep(turn, c.start_rad, c.sweep_rad):
                yield Spot(MeasuredPlace(c.id, "rim", sign), point_on(c.center, c.radius, turn))


def _rest(m: Measured, box: Box | None) -> Iterator[Spot]:
    """Yield corners, meetings, loose ends and the centres of arcs."""
    known = {e.id for e in m.edges} | {c.id for c in m.rounds}
    for k in m.key.meetings.values():
        if any(i in known for i, _ in k.ends) and _in(k.at, box, m.reach):
            yield Spot(MeasuredPlace(k.id), k.at)
    for (i, which), at in m.loose:
        if _in(at, box, m.reach):
            yield Spot(MeasuredPlace(i, str(which)), at)
    for c in m.rounds:
        if isinstance(c, ArcFeature) and _in(c.center, box, m.reach):
            yield Spot(MeasuredPlace(c.id), c.center)


def _apart(a: Spot, b: Spot, axis: int, direction: float, reach: float) -> Iterator[Wish]:
    far = b.at[axis] - a.at[axis]
    if abs(far) > reach and a.place != b.place:
        features = tuple(dict.fromkeys((a.place.feature, b.place.feature)))
        yield "distance", (a.place, b.place), abs(far), direction, features, middle(a.at, b.at)


def _slanted(m: Measured) -> Iterator[Wish]:
    for e in m.edges:
        turn = direction_deg(*e.ends)
        if min(turn % 90.0, 90.0 - turn % 90.0) > tol.ANGLE_DEG:
            ends = [_end_place(e.id, w, m) for w in (0, 1)]
            for axis, direction in _WAYS:
                far = abs(e.end[axis] - e.start[axis])
                yield "distance", (ends[0], ends[1]), far, direction, (e.id,), e.at
            yield "angle", (MeasuredPlace(e.id, "carrier"),), min(turn, 180.0 - turn), 0.0, (e.id,), e.at
            yield "length", (MeasuredPlace(e.id, "carrier"),), e.length, turn, (e.id,), e.at


def _end_place(edge: str, which: int, m: Measured) -> MeasuredPlace:
    corner = m.key.corner_of.get((edge, which))
    return MeasuredPlace(corner.id) if corner is not None else MeasuredPlace(edge, str(which))


def _round(m: Measured) -> Iterator[Wish]:
    """Yield one size for all circles of one radius, and for all arcs of one radius in one outline."""
    outline_of = {i: o.id for o in m.key.outlines for i, _ in o.members}
    groups: dict[tuple[bool, str, int, str], list[ArcFeature | CircleFeature]] = defaultdict(list)
    for c in m.rounds:
        whole = isinstance(c, CircleFeature)
        groups[whole, c.layer, round(c.radius / (2 * m.reach)), outline_of.get(c.id, "")].append(c)
    for (whole, *_), group in groups.items():
        ids = tuple(c.id for c in group)
        first = group[0]
        if whole:
            yield "diameter", (MeasuredPlace(first.id),), 2 * first.radius, 0.0, ids, first.at
        else:
            yield "radius", (MeasuredPlace(first.id),), first.radius, 0.0, ids, first.at
