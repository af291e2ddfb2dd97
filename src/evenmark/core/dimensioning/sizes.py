"""Sizes: what each dimension of a key says, tied to the features that it names.

- *size*: a statement: a distance across, up or along between two places; a radius or diameter; an angle; a
  length along an arc. What it is measured between is in `measured`.
- *untied*: a dimension that ends on nothing, or on several things that are not the same.

A dimension in a file is tied to points alone; that a point lies on a feature is what ties it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from evenmark.core.dimensioning.chamfers import chamfer_size
from evenmark.core.dimensioning.figures import ALL_ALIKE, agrees, count_of, figure_of, in_brackets
from evenmark.core.dimensioning.measured import (
    Measured,
    MeasuredPlace,
    ends_at,
    exact_turn,
    point_of,
    square_to,
)
from evenmark.core.dimensioning.size import Size, SizeKind, Sizes, Untied, Why
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, distance, middle
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Free

Associations = Mapping[str, tuple[str, ...]]
"""What somebody tied a dimension to by pointing: feature ids by the dimension's id."""


def sizes_of(m: Measured, ties: Associations | None = None) -> Sizes:
    """Return what the dimensions of a key say, in their order; ``ties`` holds before what they end on."""
    sizes, untied, by_hand = [], [], ties or {}
    tied = {
        d.id: _tied_to(by_hand[d.id], d, m) if d.id in by_hand else _TIE[d.kind](d, m)
        for d in m.key.dimensions
    }
    said = (s for s in tied.values() if isinstance(s, Size))
    alone = {s.features[0] for s in said if s.count == 1 and s.kind in ("radius", "diameter")}
    for d in m.key.dimensions:
        found = tied[d.id]
        if isinstance(found, Size) and d.id not in by_hand:
            found = _for_all(found, d, m, alone)
        if isinstance(found, Size):
            sizes.append(found)
        else:
            untied.append(found)
    return Sizes(sizes=tuple(sizes), untied=tuple(untied))


def _size(
    d: Dimension,
    kind: SizeKind,
    places: tuple[MeasuredPlace, ...],
    expected: float,
    direction: float = 0.0,
    *,
    reach: float,
) -> Size:
    factor = 1.0 if kind == "angle" else d.factor
    return Size(
        id=d.id,
        kind=kind,
        places=places,
        expected=expected,
        says=figure_of(d) / factor,
        direction_deg=direction,
        features=tuple(dict.fromkeys(p.feature for p in places)),
        count=count_of(d),
        brackets=in_brackets(d),
        agrees=agrees(d, expected * factor, 2 * reach),
        at=d.at,
    )


def _none(d: Dimension, why: Why, candidates: tuple[str, ...] = ()) -> Untied:
    return Untied(id=d.id, why=why, at=d.at, shown=d.shown, candidates=candidates)


# distances


def _linear(d: Dimension, m: Measured) -> Size | Untied:
    a, b = d.points
    direction = exact_turn(d.turn_deg)
    chamfer = chamfer_size(d, m)
    if chamfer is not None:
        return chamfer
    ends = (m.place_at(a, direction), m.place_at(b, direction))
    if ends[0] is None or ends[1] is None or ends[0] == ends[1]:
        return _none(d, "nothing")
    return _distance(d, ends[0], ends[1], direction, m)


def _distance(
    d: Dimension, a: MeasuredPlace, b: MeasuredPlace, direction: float, m: Measured
) -> Size | Untied:
    edge = _edge_between(a, b, m)
    turn = direction_deg(*edge.ends) if edge is not None else 0.0
    slanted = min(turn % 90.0, 90.0 - turn % 90.0) > tol.TURN_DEG
    if edge is not None and slanted and abs(direction_difference_deg(turn, direction)) <= tol.TURN_DEG:
        return _size(d, "length", (_along(edge.id),), edge.length, reach=m.reach)
    p, q = point_of(a, direction, m.key), point_of(b, direction, m.key)
    ux, uy = math.cos(math.radians(direction)), math.sin(math.radians(direction))
    return _size(
        d, "distance", (a, b), abs((q[0] - p[0]) * ux + (q[1] - p[1]) * uy), direction, reach=m.reach
    )


def _edge_between(a: MeasuredPlace, b: MeasuredPlace, m: Measured) -> Edge | None:
    """Return the edge whose two ends two places are."""
    others = ends_at(b, m.key)
    for i, which in ends_at(a, m.key):
        if (i, 1 - which) in others:
            return edge if isinstance(edge := m.key.curves[i], Edge) else None
    return None


def _ordinate(d: Dimension, m: Measured) -> Size | Untied:
    """An ordinate: from the origin, which must be somewhere, to a point, along one axis."""
    point, origin = d.points
    direction = exact_turn(d.turn_deg)
    there = m.place_at(point, direction)
    zero = m.place_at(origin, direction) or m.level_with(origin, direction)
    if there is None or zero is None:
        return _none(d, "nothing")
    if there == zero:
        return _none(d, "several" if d.measured > m.reach else "nothing", (there.feature,))
    return _distance(d, zero, there, direction, m)


# round things


def _round(d: Dimension, m: Measured) -> Size | Untied:
    a, b = d.points
    if d.kind == "diameter":
        center, radius = middle(a, b), distance(a, b) / 2
    else:
        center, radius = a, distance(a, b)
    found = [c for c in m.rounds_at(center) if abs(c.radius - radius) <= m.reach]
    if not found:
        return _none(d, "nothing")
    best = found[0]
    kind: SizeKind = "diameter" if d.kind == "diameter" else "radius"
    return _size(
        d, kind, (MeasuredPlace(best.id),), best.radius * (2 if kind == "diameter" else 1), reach=m.reach
    )


def _arc(d: Dimension, m: Measured) -> Size | Untied:
    center, a, b = d.points
    for c in m.rounds_at(center):
        if isinstance(c, ArcFeature) and max(distance(a, c.start), distance(b, c.end)) <= m.reach:
            return _size(d, "arc-length", (MeasuredPlace(c.id),), c.radius * c.sweep_rad, reach=m.reach)
    return _none(d, "nothing")


# angles


def _along(straight: str) -> MeasuredPlace:
    """Return a straight piece as what a size is measured from."""
    return MeasuredPlace(straight, "carrier")


def _angular(d: Dimension, m: Measured) -> Size | Untied:
    """An angle: between two straight pieces whose supporting lines pass through its vertex; from level or
    plumb where one leg lies on none."""
    vertex, *legs = d.points
    found = [_leg(vertex, leg, m) for leg in legs]
    ids = [f for f in found if f is not None]
    if len(ids) == 2 and ids[0] != ids[1]:
        return _size(d, "angle", (_along(ids[0]), _along(ids[1])), d.measured, reach=m.reach)
    if len(ids) == 1:
        other = legs[found.index(None)]
        turn = direction_deg(vertex, other) % 90.0
        if min(turn, 90.0 - turn) <= tol.TURN_DEG:
            level = exact_turn(direction_deg(vertex, other))
            return _size(d, "angle", (_along(ids[0]),), d.measured, level, reach=m.reach)
    return _none(d, "several" if len(ids) == 2 else "nothing", tuple(dict.fromkeys(ids)))


def _leg(vertex: Point, leg: Point, m: Measured) -> str | None:
    """Return the straight piece along a leg of an angle: the one that the leg's point lies on, else any on
    its supporting line; an outline before an axis."""
    turn = direction_deg(vertex, leg)
    aside, past = m.beside(leg)
    on = [
        n
        for n in np.nonzero((aside <= m.reach) & (m.beside(vertex)[0] <= m.reach))[0].tolist()
        if abs(direction_difference_deg(direction_deg(*m.straight[n].ends), turn)) <= 10 * tol.TURN_DEG
    ]
    best = min(on, key=lambda n: (past[n] > m.reach, n), default=None)
    return None if best is None else m.straight[best].id


_TIE = {
    "linear": _linear,
    "ordinate": _ordinate,
    "radius": _round,
    "diameter": _round,
    "arc": _arc,
    "angular": _angular,
}


# counts, and ties by pointing


def _for_all(size: Size, d: Dimension, m: Measured, alone: set[str]) -> Size | Untied:
    """Return a size for every feature that it holds for, where it is said once for several; what has a size
    of its ``alone`` is no part of it where there would be too many."""
    if size.count == 1 or size.kind not in ("radius", "diameter"):
        return replace(size, count=max(1, size.count))
    own = m.key.curves[size.features[0]]
    assert isinstance(own, ArcFeature | CircleFeature)
    alike = [
        c
        for c in m.rounds
        if type(c) is type(own) and abs(c.radius - own.radius) <= m.reach and c.layer == own.layer
    ]
    if size.count == ALL_ALIKE or len(alike) > size.count:
        alike = [c for c in alike if c.id not in alone or c.id == own.id]
    if size.count == ALL_ALIKE:
        size = replace(size, count=len(alike))
    if len(alike) > size.count:
        alike = _nearest_kin(own, alike, m)
    if len(alike) != size.count:
        return _none(d, "count", tuple(c.id for c in alike))
    ids = sorted((c.id for c in alike), key=lambda i: (i != own.id, int(i[1:])))
    return replace(size, features=tuple(ids))


def _nearest_kin(
    own: ArcFeature | CircleFeature, alike: list[ArcFeature | CircleFeature], m: Measured
) -> list[ArcFeature | CircleFeature]:
    """Of more like features than said, return those of the same outline (arcs) or round the same centre
    (circles)."""
    if isinstance(own, ArcFeature):
        outline = next((o for o in m.key.outlines if any(i == own.id for i, _ in o.members)), None)
        inside = {i for i, _ in outline.members} if outline else set()
        return [c for c in alike if c.id in inside]
    for hub in m.rounds:
        apart = distance(hub.center, own.center)
        ring = [c for c in alike if abs(distance(hub.center, c.center) - apart) <= m.reach]
        if apart > m.reach and 1 < len(ring) < len(alike):
            return ring
    return alike


def _tied_to(features: tuple[str, ...], d: Dimension, m: Measured) -> Size | Untied:
    """Return the size that a dimension is when somebody says what it measures."""
    by_id = m.key.by_id
    if any(i not in by_id for i in features):
        return _none(d, "nothing")
    rounds = [c for i in features if isinstance(c := by_id[i], ArcFeature | CircleFeature)]
    if d.kind in ("radius", "diameter", "arc") and len(rounds) == len(features) > 0:
        kind: SizeKind = "arc-length" if d.kind == "arc" else "diameter" if d.kind == "diameter" else "radius"
        own = rounds[0]
        expected = own.radius * (2 if kind == "diameter" else 1)
        if kind == "arc-length":
            expected = own.radius * own.sweep_rad if isinstance(own, ArcFeature) else 0.0
        return replace(
            _size(d, kind, (MeasuredPlace(own.id),), expected, reach=m.reach),
            features=features,
            count=len(features),
        )
    places = [_as_place(i, m) for i in features]
    if len(places) != 2 or None in places:
        return _none(d, "several" if len(places) > 2 else "nothing", features)
    a, b = places
    assert a is not None
    assert b is not None
    if d.kind == "angular":
        if a.part == b.part == "carrier":
            return _size(d, "angle", (a, b), _between_lines(a, b, d.measured, m), reach=m.reach)
        return _none(d, "nothing", features)
    direction = exact_turn(d.turn_deg)
    return (
        _distance(d, a, b, direction, m)
        if _measurable((a, b), direction, m)
        else _none(d, "nothing", features)
    )


def _between_lines(a: MeasuredPlace, b: MeasuredPlace, near: float, m: Measured) -> float:
    """Return the angle between two straight pieces: of those that they make, the one nearest to a size."""
    ends = [f.ends for p in (a, b) if isinstance(f := m.key.by_id[p.feature], Edge)]
    if len(ends) < 2:
        return near
    turn = abs(direction_deg(*ends[0]) - direction_deg(*ends[1])) % 180.0
    return min((turn, 180.0 - turn, 180.0 + turn, 360.0 - turn), key=lambda v: abs(v - near))


def _measurable(places: tuple[MeasuredPlace, MeasuredPlace], direction: float, m: Measured) -> bool:
    """Say whether straight pieces among two places are square to the direction of a size."""
    edges = [m.key.by_id[p.feature] for p in places if p.part == "carrier"]
    return all(isinstance(e, Edge) and square_to(e, direction) for e in edges)


def _as_place(feature: str, m: Measured) -> MeasuredPlace | None:
    f = m.key.by_id[feature]
    if isinstance(f, Edge):
        return _along(feature)
    if isinstance(f, Free):
        return None
    return MeasuredPlace(feature) if feature[0] in "acktx" else None
