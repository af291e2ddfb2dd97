"""What has been read of a file so far, and what was noticed: takers add to it."""

from __future__ import annotations

from collections import Counter

from evenmark.core.drawing.annotations import Dimension, Endless, Hatch, Note
from evenmark.core.drawing.model import Entity
from evenmark.core.formats.bounds import FARTHEST
from evenmark.core.geometry import tolerance, units
from evenmark.core.geometry.points import Point


class Collected:
    """Everything that takers add to."""

    def __init__(self) -> None:
        self.out: list[Entity] = []
        self.dimensions: list[Dimension] = []
        self.hatches: list[Hatch] = []
        self.notes: list[Note] = []
        self.endless: list[Endless] = []
        self.odd: Counter[tuple[str, str]] = Counter()
        self.solids = 0
        self.curve_points = 0

    def point(self, x: float, y: float, z: float = 0.0) -> Point:
        """Return a point of the drawing plane; a height off the plane is noted."""
        if z != 0.0 and abs(z) > tolerance.PLANE_NORMAL:
            self.odd["off-plane", ""] += 1
        if not (abs(x) <= FARTHEST and abs(y) <= FARTHEST):
            raise ValueError("coordinate beyond what a drawing can hold")
        return (float(x) + 0.0, float(y) + 0.0)

    def unit(self, code: int | None) -> units.Unit | None:
        """Return the unit of a code of the header, None where there is none; a code that is not known is
        noted."""
        if code and code not in units.BY_DXF_CODE:
            self.odd["unit-unknown", str(code)] += 1
        return units.BY_DXF_CODE.get(code or 0)
