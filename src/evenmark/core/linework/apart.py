"""What stands apart on a drawing: groups of curves whose boxes do not touch, such as views."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from scipy.sparse.csgraph import connected_components

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import quarter_points
from evenmark.core.geometry.points import Box, box_of
from evenmark.core.linework.model import ArcFeature, CircleFeature, Curve, Free

MOST_FEATURES = 2000
"""Of more curves no groups are looked for."""


def box_of_curve(f: Curve) -> Box:
    """Return the box of a curve."""
    if isinstance(f, CircleFeature):
        (x, y), r = f.center, f.radius
        return (x - r, y - r, x + r, y + r)
    points = list(f.points) if isinstance(f, Free) else list(f.ends)
    if isinstance(f, ArcFeature):
        points += quarter_points(f.center, f.radius, f.start_rad, f.sweep_rad)
    box = box_of(points)
    assert box is not None
    return box


def groups_of(curves: Iterable[Curve], reach: float, extent: float) -> list[Box]:
    """Return the boxes of the groups that stand apart, those of a size worth the name; none of fewer than two
    curves or of more than `MOST_FEATURES`."""
    boxes = [box_of_curve(f) for f in curves]
    if not 2 <= len(boxes) <= MOST_FEATURES:
        return []
    least = tol.LEAST_SIDE_SHARE * extent
    return [b for b in _joined(boxes, reach) if max(b[2] - b[0], b[3] - b[1]) >= least]


def _joined(boxes: list[Box], reach: float) -> list[Box]:
    """Join boxes that overlap until none do; each round joins at least one pair, so it ends."""
    rows = np.array(boxes, np.float64)
    while True:
        a, b = rows[:, None, :], rows[None, :, :]
        meet = (
            (a[..., 0] <= b[..., 2] + reach)
            & (b[..., 0] <= a[..., 2] + reach)
            & (a[..., 1] <= b[..., 3] + reach)
            & (b[..., 1] <= a[..., 3] + reach)
        )
        count, labels = connected_components(meet, directed=False)
        if count == len(rows):
            return [(r[0], r[1], r[2], r[3]) for r in rows.tolist()]
        rows = np.array(
            [
                [*rows[labels == k][:, :2].min(axis=0), *rows[labels == k][:, 2:].max(axis=0)]
                for k in range(count)
            ]
        )
