"""How far free curves lie from each other, measured along the chords between their points."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import Free

Floats = NDArray[np.float64]


def curve_off(key: Free, drawn: Free) -> tuple[float, Point]:
    """Return the largest distance between two curves, and where it is on the drawn one."""
    a, b = np.array(key.points), np.array(drawn.points)
    there, here = to_path(a, b), to_path(b, a)
    i = int(here.argmax())
    return max(float(there.max()), float(here[i])), (float(b[i, 0]), float(b[i, 1]))


def to_path(points: Floats, path: Floats) -> Floats:
    """Return how far each of (n, 2) points lies from a path of chords, looked at near the path's nearest
    points."""
    _, near = cKDTree(path).query(points, k=min(4, len(path)))
    near = np.asarray(near).reshape(len(points), -1)
    best = np.full(len(points), np.inf)
    for k in range(near.shape[1]):
        for step in (-1, 0):
            first = np.clip(near[:, k] + step, 0, len(path) - 2)
            p, q = path[first], path[first + 1]
            d = q - p
            size = np.maximum((d * d).sum(axis=1), tol.NOT_ZERO)
            t = np.clip(((points - p) * d).sum(axis=1) / size, 0.0, 1.0)
            best = np.minimum(best, np.hypot(*(points - p - t[:, None] * d).T))
    return best
