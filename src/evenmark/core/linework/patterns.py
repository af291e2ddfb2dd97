"""Patterns of places: evenly spaced on a circle or in a row.

- *pitch circle*: the circle through the centres of evenly spaced holes. *step*: from one to the next, an
  angle or a vector.
- *mismatch*: how far the farthest place lies from where an ideal pattern, laid as well as it can be, would
  have it.
"""

from __future__ import annotations

import math
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point

Floats = NDArray[np.float64]


class Pattern(NamedTuple):
    """An even pattern: on a circle (centre, radius, first direction and step in radians) or in a row (first
    place and step)."""

    form: Literal["circle", "row"]
    order: tuple[int, ...]
    center: Point
    radius: float
    first_rad: float
    step_rad: float
    step: Point
    mismatch: float


def find(points: list[Point], tolerance: float) -> Pattern | None:
    """Return the pattern that places form within a tolerance: in a row, else on a circle; None where there is
    none."""
    if len(points) < 3:
        return None
    row = in_row(points)
    if row.mismatch <= tolerance:
        return row
    ring = on_circle(points)
    return ring if ring is not None and ring.mismatch <= tolerance else None


def in_row(points: list[Point], order: tuple[int, ...] | None = None) -> Pattern:
    """Lay the best even row through places; without an order they are taken along their longest direction."""
    p = np.array(points, np.float64)
    middle = p.mean(axis=0)
    if order is None:
        spread = p - middle
        far = spread[np.hypot(spread[:, 0], spread[:, 1]).argmax()]
        order = tuple(np.argsort(spread @ far, kind="stable").tolist())
    n = len(p)
    k = np.arange(n) - (n - 1) / 2
    q = p[list(order)]
    step = (k[:, None] * (q - middle)).sum(axis=0) / (k * k).sum()
    ideal = middle + k[:, None] * step
    first = ideal[0]
    return Pattern(
        "row",
        order,
        (float(first[0]), float(first[1])),
        0.0,
        0.0,
        0.0,
        (float(step[0]), float(step[1])),
        float(np.hypot(*(q - ideal).T).max()),
    )


def on_circle(
    points: list[Point], order: tuple[int, ...] | None = None, step_rad: float | None = None
) -> Pattern | None:
    """Lay the best even ring through places: all round, or with one step along part of a circle; None where
    no circle fits."""
    p = np.array(points, np.float64)
    n = len(p)
    center = p.mean(axis=0)
    if step_rad is None or abs(abs(step_rad) * n - math.tau) > tol.FULL_TURN_RAD:
        fitted = _fit(p)
        if fitted is None:
            return None
        if not _all_round(p, center):
            center = fitted
    v = p - center
    radius = float(np.hypot(v[:, 0], v[:, 1]).mean())
    turns = np.arctan2(v[:, 1], v[:, 0])
    if order is None:
        order = _from_the_widest_gap(turns)
    t = np.unwrap(turns[list(order)])
    if step_rad is None:
        total = float(t[-1] - t[0]) if n > 1 else 0.0
        step_rad = (
            math.tau / n
            if abs(total / (n - 1) - math.tau / n) < tol.NEARLY_FULL_TURN_RAD
            else total / (n - 1)
        )
    k = np.arange(n)
    first = float((t - k * step_rad).mean())
    ideal = center + radius * np.column_stack((np.cos(first + k * step_rad), np.sin(first + k * step_rad)))
    off = float(np.hypot(*(p[list(order)] - ideal).T).max())
    return Pattern(
        "circle", order, (float(center[0]), float(center[1])), radius, first, step_rad, (0.0, 0.0), off
    )


def _all_round(p: Floats, center: Floats) -> bool:
    v = p - center
    turns = np.sort(np.arctan2(v[:, 1], v[:, 0]))
    gaps = np.diff(np.concatenate((turns, turns[:1] + math.tau)))
    return bool(gaps.max() < 1.5 * math.tau / len(p))


def _from_the_widest_gap(turns: Floats) -> tuple[int, ...]:
    """Return an order round a circle that begins behind the widest gap; of equal gaps, behind the first."""
    order = np.argsort(turns, kind="stable")
    t = turns[order]
    gaps = np.diff(np.concatenate((t[-1:] - math.tau, t)))
    begin = int(np.nonzero(gaps >= gaps.max() - tol.SLACK_SHARE)[0][0])
    return tuple(np.roll(order, -begin).tolist())


def _fit(p: Floats) -> Floats | None:
    """Return the centre of the circle that fits places best by least squares (the linear form, from their
    mean)."""
    middle = p.mean(axis=0)
    q = p - middle
    a = np.column_stack((2 * q, np.ones(len(q))))
    solution, _, rank, _ = np.linalg.lstsq(a, (q * q).sum(axis=1), rcond=tol.RANK_SHARE)
    if rank < 3:
        return None
    center: Floats = middle + solution[:2]
    return center
