"""Motions that lay one drawing on another: scale, then mirror, then turn, then shift, in this order."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry.points import TAU, Point

Array = NDArray[np.float64]

_QUARTERS = {0.0: (1.0, 0.0), 90.0: (0.0, 1.0), 180.0: (-1.0, 0.0), 270.0: (0.0, -1.0)}
"""Cosine and sine of quarter turns, exact where the library functions are not."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Motion:
    """A similarity: scale about the origin, mirror left for right (x to -x), turn counter-clockwise,
    shift."""

    scale: float = 1.0
    mirror: bool = False
    turn_deg: float = 0.0
    shift: Point = (0.0, 0.0)

    @property
    def still(self) -> bool:
        """Whether nothing moves at all."""
        return self.scale == 1.0 and not self.mirror and self.turn_deg == 0.0 and self.shift == (0.0, 0.0)

    @property
    def _cos_sin(self) -> tuple[float, float]:
        exact = _QUARTERS.get(self.turn_deg % 360.0)
        turn = math.radians(self.turn_deg)
        return exact if exact else (math.cos(turn), math.sin(turn))

    def point(self, p: Point) -> Point:
        """Return where a point goes."""
        cos, sin = self._cos_sin
        x, y = p[0] * self.scale, p[1] * self.scale
        if self.mirror:
            x = -x
        return (cos * x - sin * y + self.shift[0], sin * x + cos * y + self.shift[1])

    def points(self, p: Array) -> Array:
        """Return where an (n, 2) array of points goes."""
        moved: Array = self.vectors(p) + np.asarray(self.shift)
        return moved

    def vectors(self, v: Array) -> Array:
        """Return what an (n, 2) array of vectors becomes: everything but the shift."""
        cos, sin = self._cos_sin
        x, y = v[:, 0] * (-self.scale if self.mirror else self.scale), v[:, 1] * self.scale
        return np.column_stack((cos * x - sin * y, sin * x + cos * y))

    def undone(self, p: Array) -> Array:
        """Return where an (n, 2) array of points came from."""
        cos, sin = self._cos_sin
        x, y = p[:, 0] - self.shift[0], p[:, 1] - self.shift[1]
        back = (cos * x + sin * y) / self.scale
        return np.column_stack((-back if self.mirror else back, (cos * y - sin * x) / self.scale))

    def sweep(self, start_rad: float, sweep_rad: float) -> tuple[float, float]:
        """Return the start and sweep (both rad) of an arc after the motion."""
        if self.mirror:
            start_rad = math.pi - (start_rad + sweep_rad)
        return (start_rad + math.radians(self.turn_deg)) % TAU, sweep_rad

    def shifted(self, by: Point) -> Motion:
        """Return the motion with a further shift after it."""
        return Motion(
            scale=self.scale,
            mirror=self.mirror,
            turn_deg=self.turn_deg,
            shift=(self.shift[0] + by[0], self.shift[1] + by[1]),
        )


STILL = Motion()
