"""Relations between features of one linework: how far two of them are from being tangent.

- *touch point*: where exact tangency would touch: the foot of the centre on a line, the point on the line of
  centres of two circles.
"""

from __future__ import annotations

import math

import numpy as np

from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Curve, Edge, Feature, Free, Linework

Joint = tuple[str, str, int | None, int | None]
"""Two features and, for each, the end that touches the other (None where it touches inside)."""


def tangent_off(
    a: Edge | ArcFeature | CircleFeature, b: ArcFeature | CircleFeature, end_a: int | None, end_b: int | None
) -> float:
    """Return how far two features are from tangent, in drawing units.

    The larger of the difference of supporting line distance and radius (or of centre distance and the sum or
    difference of radii), and the distance of each joined end from the exact touch point (marking.md,
    Requirements).
    """
    if isinstance(a, Edge):
        off = abs(distance_to_supporting_line(b.center, a.start, a.end) - b.radius)
        touch: Point | None = _foot(b.center, a.start, a.end)
    else:
        apart = distance(a.center, b.center)
        outside, inside = abs(apart - (a.radius + b.radius)), abs(apart - abs(a.radius - b.radius))
        off = min(outside, inside)
        touch = _touch_of_circles(a, b, inside < outside)
    for f, end in ((a, end_a), (b, end_b)):
        if end is not None and isinstance(f, Edge | ArcFeature) and touch is not None:
            off = max(off, distance(f.ends[end], touch))
    return off


def _foot(p: Point, a: Point, b: Point) -> Point:
    dx, dy = b[0] - a[0], b[1] - a[1]
    t = ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy)
    return (a[0] + t * dx, a[1] + t * dy)


def _touch_of_circles(
    a: ArcFeature | CircleFeature, b: ArcFeature | CircleFeature, inside: bool
) -> Point | None:
    """Return the touch point of two circles; None for one centre, where there is no single one."""
    dx, dy = b.center[0] - a.center[0], b.center[1] - a.center[1]
    apart = math.hypot(dx, dy)
    if apart == 0.0:
        return None
    reach = -a.radius if inside and a.radius < b.radius else a.radius
    return (a.center[0] + dx / apart * reach, a.center[1] + dy / apart * reach)


def off_square(a: Feature, b: Feature) -> float | None:
    """Return by how many degrees an edge is from square to another edge, or to a curve at its foot there;
    None where there is no foot."""
    assert isinstance(a, Edge)
    if isinstance(b, Edge):
        return 90.0 - abs(between_deg(a, b))
    if not isinstance(b, ArcFeature | CircleFeature):
        return None
    past = distance_to_supporting_line(b.center, a.start, a.end) / b.radius
    return math.degrees(math.asin(past)) if past <= 1.0 else 90.0


def between_deg(a: Edge, b: Edge) -> float:
    """Return the turn from one undirected edge to another, degrees in (-90, 90]."""
    return direction_difference_deg(direction_deg(a.start, a.end), direction_deg(b.start, b.end))


def joints(linework: Linework) -> list[Joint]:
    """Return every place where an end of one feature meets another, round one of the two at least, in order
    of place."""
    curves = linework.curves
    found: dict[tuple[str, str, int | None, int | None], None] = {}
    for corner in linework.corners:
        for i, (a, end_a) in enumerate(corner.ends):
            for b, end_b in corner.ends[i + 1 :]:
                if a != b and _may_touch(curves[a], curves[b]):
                    found[_edge_first(curves, a, b, end_a, end_b)] = None
    for tee in linework.tees:
        for a, end_a in tee.ends:
            if _may_touch(curves[tee.on], curves[a]):
                found[_edge_first(curves, a, tee.on, end_a, None)] = None
    return list(found)


def _may_touch(a: Curve, b: Curve) -> bool:
    """Say whether two features can be tangent: one of them round, none of them a free curve."""
    return (
        not isinstance(a, Free)
        and not isinstance(b, Free)
        and not (isinstance(a, Edge) and isinstance(b, Edge))
    )


def _edge_first(curves: dict[str, Curve], a: str, b: str, end_a: int | None, end_b: int | None) -> Joint:
    return (
        (a, b, end_a, end_b)
        if isinstance(curves[a], Edge) or not isinstance(curves[b], Edge)
        else (b, a, end_b, end_a)
    )


def touching_circles(linework: Linework, reach: float, most: int = 2000) -> list[Joint]:
    """Return whole circles that touch another circle or an edge's interior without any end meeting there;
    bounded."""
    circles = linework.circles[:most]
    out: list[Joint] = []
    if len(circles) * (len(circles) + len(linework.edges)) > most * most:
        return []
    met = {tuple(sorted(j[:2])) for j in joints(linework)}
    centers = np.array([c.center for c in circles], np.float64).reshape(-1, 2)
    radii = np.array([c.radius for c in circles], np.float64)
    ends = np.array([e.ends for e in linework.edges], np.float64).reshape(-1, 4)
    along = ends[:, 2:] - ends[:, :2]
    lengths = np.hypot(along[:, 0], along[:, 1])
    for i, c in enumerate(circles):
        apart = np.hypot(*(centers[i + 1 :] - c.center).T)
        r = radii[i + 1 :]
        off = np.minimum(np.abs(apart - (c.radius + r)), np.abs(apart - np.abs(c.radius - r)))
        for j in np.nonzero((apart > reach) & (off <= reach))[0].tolist():
            out.append((c.id, circles[i + 1 + j].id, None, None))
        w = c.center - ends[:, :2]
        far = (w * along).sum(axis=1) / lengths
        aside = np.abs(along[:, 0] * w[:, 1] - along[:, 1] * w[:, 0]) / lengths
        inside = (far > reach) & (far < lengths - reach)
        for j in np.nonzero((np.abs(aside - c.radius) <= reach) & inside)[0].tolist():
            if (linework.edges[j].id, c.id) not in met:
                out.append((linework.edges[j].id, c.id, None, None))
    return out
