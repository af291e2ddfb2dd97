"""What a curve is that a file states as an ellipse or a spline: straight, round, or neither.

Given points that lie exactly on it, in order. Straight and round are decided to the share that file writers
round to, far below any tolerance: a curve that only comes near a circle stays what it is.
"""

from __future__ import annotations

import math
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import RoundPiece, through
from evenmark.core.geometry.points import TAU, Point
from evenmark.core.geometry.tolerance import SAME_CURVE_SHARE

Floats = NDArray[np.float64]


class Recognised(NamedTuple):
    """What a curve is: ``straight`` with its two ends, ``round`` with its arc (a full turn is a circle), or
    ``free``."""

    kind: Literal["straight", "round", "free", "nothing"]
    ends: tuple[Point, Point] | None = None
    arc: RoundPiece | None = None


def recognise(points: Floats) -> Recognised:
    """Say what a curve through (n, 2) points in order is; ``nothing`` where all points are one."""
    low, high = points.min(axis=0), points.max(axis=0)
    extent = float((high - low).max())
    if not extent > 0.0:
        return Recognised("nothing")
    reach = SAME_CURVE_SHARE * max(extent, float(np.abs(points).max()) * tol.FAR_FROM_ORIGIN_SHARE)
    straight = _straight(points, extent, reach)
    if straight is not None:
        return straight
    arc = _round(points, reach)
    return Recognised("round", arc=arc) if arc is not None else Recognised("free")


def _straight(points: Floats, extent: float, reach: float) -> Recognised | None:
    first, last = points[0], points[-1]
    along = last - first
    length = float(np.hypot(*along))
    if length <= extent * 0.5:  # comes back: a curve, or a line run over twice
        return None
    w = points - first
    off = np.abs(along[0] * w[:, 1] - along[1] * w[:, 0]) / length
    far = (w @ along) / length
    if off.max() > reach or far.min() < -reach or far.max() > length + reach:
        return None
    return Recognised("straight", ends=((float(first[0]), float(first[1])), (float(last[0]), float(last[1]))))


def _round(points: Floats, reach: float) -> RoundPiece | None:
    n = len(points)
    closed = float(np.hypot(*(points[-1] - points[0]))) <= reach
    a, b, c = points[0], points[n // 3], points[(2 * n) // 3 if closed else n - 1]
    circle = through(*((float(x), float(y)) for x, y in (a, b, c)))
    if circle is None:
        return None
    center = circle.center
    v = points - np.array(center)
    radii = np.hypot(v[:, 0], v[:, 1])
    radius = float(radii.mean())
    if float(np.abs(radii - radius).max()) > reach + SAME_CURVE_SHARE * radius:
        return None
    turns = np.arctan2(v[:, 1], v[:, 0])
    steps = np.remainder(np.diff(turns) + math.pi, TAU) - math.pi
    if not (np.all(steps > -tol.BACKWARD_RAD) or np.all(steps < tol.BACKWARD_RAD)):
        return None  # runs back over itself
    total = float(steps.sum())
    start = float(turns[0] if total > 0 else turns[-1])
    sweep = TAU if closed else abs(total)
    if not 0.0 < sweep <= TAU + tol.SLACK_SHARE:
        return None
    return center, radius, start, min(sweep, TAU)
