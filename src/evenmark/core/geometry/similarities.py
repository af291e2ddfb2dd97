"""Motions that lay one drawing on another: scale, then mirror, then turn, then shift, in this order.

Many points at once are moved by `rows`.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from evenmark.core.geometry.deterministic import cos_sin, turn_of
from evenmark.core.geometry.points import TAU, Point

_QUARTERS = {0.0: (1.0, 0.0), 90.0: (0.0, 1.0), 180.0: (-1.0, 0.0), 270.0: (0.0, -1.0)}
"""Cosine and sine of quarter turns, exact where the library functions are not."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Similarity:
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
    def cos_sin(self) -> Point:
        """Cosine and sine of the turn, exact for quarter turns."""
        exact = _QUARTERS.get(self.turn_deg % 360.0)
        turn = math.radians(self.turn_deg)
        return exact if exact else cos_sin(turn)

    def vector(self, v: Point) -> Point:
        """Return what a vector becomes: everything but the shift."""
        cos, sin = self.cos_sin
        x, y = v[0] * (-self.scale if self.mirror else self.scale), v[1] * self.scale
        return (cos * x - sin * y, sin * x + cos * y)

    def point(self, p: Point) -> Point:
        """Return where a point goes."""
        x, y = self.vector(p)
        return (x + self.shift[0], y + self.shift[1])

    def sweep(self, start_rad: float, sweep_rad: float) -> tuple[float, float]:
        """Return the start and sweep (both rad) of an arc after the motion."""
        if self.mirror:
            start_rad = math.pi - (start_rad + sweep_rad)
        return (start_rad + math.radians(self.turn_deg)) % TAU, sweep_rad

    def direction_deg(self, turn_deg: float) -> float:
        """Return what a direction, in degrees from +x, becomes, in [0, 360)."""
        return ((180.0 - turn_deg if self.mirror else turn_deg) + self.turn_deg) % 360.0

    def shifted(self, by: Point) -> Similarity:
        """Return the motion with a further shift after it."""
        return Similarity(
            scale=self.scale,
            mirror=self.mirror,
            turn_deg=self.turn_deg,
            shift=(self.shift[0] + by[0], self.shift[1] + by[1]),
        )

    def then(self, after: Similarity) -> Similarity:
        """Return this motion with another after it."""
        turn = -self.turn_deg if after.mirror else self.turn_deg
        return Similarity(
            scale=self.scale * after.scale,
            mirror=self.mirror != after.mirror,
            turn_deg=(turn + after.turn_deg) % 360.0,
            shift=after.point(self.shift),
        )

    @property
    def undone(self) -> Similarity:
        """The motion that takes everything back."""
        turn = self.turn_deg if self.mirror else -self.turn_deg
        back = Similarity(scale=1.0 / self.scale, mirror=self.mirror, turn_deg=turn % 360.0)
        x, y = back.vector(self.shift)
        return back.shifted((0.0 - x, 0.0 - y))

    def about(self, p: Point) -> Similarity:
        """Return the motion done about a point, which then stays where it is, instead of the origin; its
        shift comes after."""
        x, y = self.vector(p)
        return self.shifted((p[0] - x, p[1] - y))


STILL = Similarity()


def turned(about: Point, by_deg: float) -> Similarity:
    """Return a turn about a point, counter-clockwise.

    >>> turned((1.0, 1.0), 90).point((3.0, 1.0))
    (1.0, 3.0)
    """
    return Similarity(turn_deg=by_deg % 360.0).about(about)


def scaled(about: Point, by: float) -> Similarity:
    """Return a scale about a point."""
    return Similarity(scale=by).about(about)


def mirrored(a: Point, b: Point) -> Similarity:
    """Return the mirroring about the line through two points.

    >>> mirrored((5.0, 0.0), (5.0, 9.0)).point((3.0, 1.0)), mirrored((0.0, 0.0), (1.0, 0.0)).point((3.0, 1.0))
    ((7.0, 1.0), (3.0, -1.0))
    """
    turn = 2.0 * math.degrees(turn_of(b[1] - a[1], b[0] - a[0]))
    return Similarity(mirror=True, turn_deg=(turn + 180.0) % 360.0).about(a)
