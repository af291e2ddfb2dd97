"""What a dimension of a key says, as a value: a size, or why it is none (see `sizes`)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from evenmark.core.dimensioning.measured import MeasuredPlace
from evenmark.core.geometry.points import Point

SizeKind = Literal["distance", "length", "radius", "diameter", "angle", "arc-length", "chamfer"]
Way = Literal["across", "up", "along", ""]
Why = Literal["nothing", "several", "count"]


@dataclass(frozen=True, kw_only=True, slots=True)
class Size:
    """One size: an id (that of its dimension, or s1, s2, ... for one proposed), what it measures and where.

    ``direction_deg`` is the direction in which a distance is measured. ``expected`` is what the key measures,
    ``says`` the figure that stands there, both in key units or degrees. ``features`` has every feature that
    it holds for where it is said once for several (``4 x``).
    """

    id: str
    kind: SizeKind
    places: tuple[MeasuredPlace, ...]
    expected: float
    says: float
    direction_deg: float = 0.0
    features: tuple[str, ...] = ()
    count: int = 1
    brackets: bool = False
    slant_deg: float | None = None
    """Of a chamfer, the angle that stands beside its leg."""
    agrees: bool = True
    at: Point = (0.0, 0.0)

    @property
    def way(self) -> Way:
        """How a distance is measured: across, up or along."""
        return way_of(self.direction_deg) if self.kind == "distance" else ""


def way_of(direction_deg: float) -> Way:
    """Return how a distance in a direction is measured: across, up or along."""
    turn = direction_deg % 180.0
    return "across" if turn == 0.0 else "up" if turn == 90.0 else "along"


@dataclass(frozen=True, kw_only=True, slots=True)
class Untied:
    """A dimension that is tied to nothing or to several things: why, and what it could be tied to."""

    id: str
    why: Why
    at: Point
    shown: float
    candidates: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Sizes:
    """All sizes of a key, and the dimensions that are none yet."""

    sizes: tuple[Size, ...] = ()
    untied: tuple[Untied, ...] = ()
