"""What of a drawing is near a place: features by cells of a grid, so that a pointer looks at few of them."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from itertools import pairwise

from evenmark.core.construct.references import Ref
from evenmark.core.construct.state import Feature
from evenmark.core.drawing.model import FreeCurve
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.nearest import away
from evenmark.core.geometry.points import Box, Point, distance
from evenmark.core.geometry.regions import box_round

MOST_CELLS = 64
"""A feature that would lie in more cells than this is looked at every time."""


class Near:
    """Features by where they lie. ``cell`` is the side of a cell, in units of the drawing."""

    def __init__(self, cell: float) -> None:
        self.cell = cell
        self.cells: dict[tuple[int, int], dict[Ref, None]] = defaultdict(dict)
        self.wide: dict[Ref, None] = {}
        self.features: dict[Ref, Feature] = {}
        self.where: dict[Ref, list[tuple[int, int]]] = {}
        self.centres: dict[tuple[int, int], dict[Ref, None]] = defaultdict(dict)
        self.hidden: frozenset[str] = frozenset()
        """Layers that are not shown: a pointer meets nothing on them."""

    def put(self, f: Feature) -> None:
        """Take in a feature, or its new shape."""
        self.drop(f.ref)
        self.features[f.ref] = f
        if is_round(f) and isinstance(f.shape, Round):
            self.centres[self._cell(f.shape.center)][f.ref] = None
        cells = None if f.endless else self._cells(box_of(f), MOST_CELLS)
        if cells is None:
            self.wide[f.ref] = None
            return
        self.where[f.ref] = cells
        for cell in cells:
            self.cells[cell][f.ref] = None

    def drop(self, ref: Ref) -> None:
        """Forget a feature."""
        old = self.features.pop(ref, None)
        if old is not None and is_round(old) and isinstance(old.shape, Round):
            self.centres[self._cell(old.shape.center)].pop(ref, None)
        self.wide.pop(ref, None)
        for cell in self.where.pop(ref, ()):
            self.cells[cell].pop(ref, None)

    def centred(self, p: Point, reach: float) -> list[tuple[Feature, Point]]:
        """Return the arcs and circles whose centres lie within reach of a place, with these."""
        cells = self._cells((p[0] - reach, p[1] - reach, p[0] + reach, p[1] + reach), 10 * MOST_CELLS)
        refs = self.features if cells is None else [r for cell in cells for r in self.centres.get(cell, ())]
        round_ones = [f for ref in refs if is_round(f := self.features[ref])]
        return [
            (f, f.shape.center)
            for f in round_ones
            if isinstance(f.shape, Round)
            and distance(f.shape.center, p) <= reach
            and f.layer not in self.hidden
        ]

    def _cell(self, p: Point) -> tuple[int, int]:
        return (math.floor(p[0] / self.cell), math.floor(p[1] / self.cell))

    def _cells(self, box: Box, most: int) -> list[tuple[int, int]] | None:
        left, bottom, right, top = (math.floor(v / self.cell) for v in box)
        if (right - left + 1) * (top - bottom + 1) > most:
            return None
        return [(i, j) for i in range(left, right + 1) for j in range(bottom, top + 1)]

    def at(self, p: Point, reach: float) -> list[tuple[float, Feature]]:
        """Return what lies within reach of a place, nearest first."""
        found = []
        for f in self._about((p[0] - reach, p[1] - reach, p[0] + reach, p[1] + reach)):
            far = distance_to(f, p)
            if far <= reach and f.layer not in self.hidden:
                found.append((far, f))
        return sorted(found, key=lambda one: one[0])

    def _about(self, box: Box) -> Iterator[Feature]:
        cells = self._cells(box, 10 * MOST_CELLS)
        if cells is None:
            yield from self.features.values()
            return
        seen = dict.fromkeys(ref for cell in cells for ref in self.cells.get(cell, ()))
        yield from (self.features[ref] for ref in (*seen, *self.wide))


def distance_to(f: Feature, p: Point) -> float:
    """Return how far a feature is from a place; of what is endless, of all of it."""
    if f.endless and isinstance(f.shape, Straight):
        (x, y), (ux, uy) = f.shape.start, f.shape.unit
        return abs((p[0] - x) * uy - (p[1] - y) * ux)
    if isinstance(f.says, FreeCurve):
        return min(away(Straight(a, b), p) for a, b in pairwise(f.says.points))
    return away(f.shape, p)


def box_of(f: Feature) -> Box:
    """Return the box of a feature; of an annotation, but for a curve, that of the place where it stands."""
    if isinstance(f.says, FreeCurve):
        xs, ys = zip(*f.says.points, strict=True)
        return (min(xs), min(ys), max(xs), max(ys))
    return box_round(f.shape)


def box_of_features(features: Iterable[Feature]) -> Box | None:
    """Return the box around what is drawn; none where nothing is."""
    return box_round_all([box_of(f) for f in features if not f.endless])


def box_round_all(boxes: Iterable[Box]) -> Box | None:
    """Return the box round boxes; none for none."""
    columns = tuple(zip(*boxes, strict=True))
    if not columns:
        return None
    left, bottom, right, top = columns
    return (min(left), min(bottom), max(right), max(top))


def cell_for(features: Iterable[Feature]) -> float:
    """Return a side for cells that holds a few features each."""
    there = list(features)
    box = box_of_features(there)
    if box is None:
        return 10.0
    return max(box[2] - box[0], box[3] - box[1], tol.LEAST_EXTENT) / max(8.0, math.sqrt(len(there)))


def is_round(f: Feature) -> bool:
    """Say whether it is an arc or a circle."""
    return f.says is None and isinstance(f.shape, Round)
