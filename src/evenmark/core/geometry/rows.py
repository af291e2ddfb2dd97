"""Many points at once, as rows of numbers."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry.similarities import Similarity

Rows = NDArray[np.float64]


def moved_rows(rows: Rows, motion: Similarity) -> Rows:
    """Return where an (n, 2) array of points goes."""
    out: Rows = vectors(rows, motion) + np.asarray(motion.shift)
    return out


def vectors(rows: Rows, motion: Similarity) -> Rows:
    """Return what an (n, 2) array of vectors becomes: everything but the shift."""
    cos, sin = motion.cos_sin
    x, y = rows[:, 0] * (-motion.scale if motion.mirror else motion.scale), rows[:, 1] * motion.scale
    return np.column_stack((cos * x - sin * y, sin * x + cos * y))


def undone(rows: Rows, motion: Similarity) -> Rows:
    """Return where an (n, 2) array of points came from."""
    cos, sin = motion.cos_sin
    x, y = rows[:, 0] - motion.shift[0], rows[:, 1] - motion.shift[1]
    back = (cos * x + sin * y) / motion.scale
    return np.column_stack((-back if motion.mirror else back, (cos * y - sin * x) / motion.scale))
