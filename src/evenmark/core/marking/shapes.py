"""Features as rows of numbers, for comparing many at once.

- *place*: numbers that are equal just when two features lie on each other; *shape*: the same without regard
  to place.

Edges have no direction, so neither may depend on which end comes first: the shape of an edge is its length
along twice its direction, (L cos 2d, L sin 2d).
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.rows import moved_rows as rows_moved
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework.model import Linework

Floats = NDArray[np.float64]
KINDS = ("edge", "arc", "circle")


@dataclass(frozen=True, kw_only=True)
class Table:
    """Features of one kind: ids, layers, two or three points each, and radii.

    For edges the points are start and end; for arcs start, end and middle; for circles the centre.
    ``anchors`` is the one point by which a feature votes on a shift.
    """

    kind: str
    ids: tuple[str, ...]
    layers: tuple[str, ...]
    points: tuple[Floats, ...]
    radii: Floats

    def __len__(self) -> int:
        return len(self.ids)

    @property
    def anchors(self) -> Floats:
        """Edge middles, arc middles, circle centres."""
        if self.kind == "edge":
            return (self.points[0] + self.points[1]) / 2
        return self.points[-1]

    @property
    def sizes(self) -> Floats:
        """Edge lengths, diameters."""
        if self.kind == "edge":
            along = self.points[1] - self.points[0]
            return np.hypot(along[:, 0], along[:, 1])
        return 2 * self.radii

    @property
    def shape(self) -> Floats:
        """What stays the same under a shift."""
        if self.kind == "edge":
            return _doubled(self.points[1] - self.points[0])
        if self.kind == "arc":
            s, e, m = self.points
            return np.column_stack((s - m, e - m))
        return self.radii[:, None]

    @property
    def form(self) -> Floats:
        """What stays the same under a shift and a turn: length; radius and chord; radius."""
        if self.kind == "arc":
            chord = np.hypot(*(self.points[1] - self.points[0]).T)
            half = np.hypot(*(self.points[2] - self.points[0]).T)
            return np.column_stack((self.radii, chord, half))
        return self.sizes[:, None]

    @property
    def place(self) -> Floats:
        """What is the same for two features that lie on each other."""
        if self.kind == "arc":
            return np.column_stack(self.points)
        return np.column_stack((self.anchors, self.shape))

    def moved(self, motion: Similarity) -> Table:
        """Return the table after a motion."""
        if motion.still:
            return self
        points = tuple(rows_moved(p, motion) for p in self.points)
        if motion.mirror and self.kind == "arc":
            points = (points[1], points[0], points[2])
        return Table(
            kind=self.kind, ids=self.ids, layers=self.layers, points=points, radii=self.radii * motion.scale
        )

    def shifted(self, by: tuple[float, float]) -> Table:
        """Return the table after a shift."""
        return replace(self, points=tuple(p + np.asarray(by) for p in self.points))

    def only(self, rows: NDArray[np.int64]) -> Table:
        """Return some rows."""
        chosen = rows.tolist()
        return Table(
            kind=self.kind,
            ids=tuple(self.ids[i] for i in chosen),
            layers=tuple(self.layers[i] for i in chosen),
            points=tuple(p[rows] for p in self.points),
            radii=self.radii[rows],
        )


def _doubled(v: Floats) -> Floats:
    """Return vectors with their direction doubled and their length kept: the same for v and -v."""
    length = np.maximum(np.hypot(v[:, 0], v[:, 1]), tol.NOT_ZERO)
    return np.column_stack(((v[:, 0] ** 2 - v[:, 1] ** 2) / length, 2 * v[:, 0] * v[:, 1] / length))


def _rows(values: list[tuple[float, float]]) -> Floats:
    return np.array(values, dtype=np.float64).reshape(-1, 2)


def tables(linework: Linework) -> dict[str, Table]:
    """Return the tables of a linework by kind."""
    edges, arcs, circles = linework.edges, linework.arcs, linework.circles
    return {
        "edge": Table(
            kind="edge",
            ids=tuple(e.id for e in edges),
            layers=tuple(e.layer for e in edges),
            points=(_rows([e.start for e in edges]), _rows([e.end for e in edges])),
            radii=np.zeros(len(edges)),
        ),
        "arc": Table(
            kind="arc",
            ids=tuple(a.id for a in arcs),
            layers=tuple(a.layer for a in arcs),
            points=(
                _rows([a.start for a in arcs]),
                _rows([a.end for a in arcs]),
                _rows([a.at for a in arcs]),
            ),
            radii=np.array([a.radius for a in arcs], dtype=np.float64),
        ),
        "circle": Table(
            kind="circle",
            ids=tuple(c.id for c in circles),
            layers=tuple(c.layer for c in circles),
            points=(_rows([c.center for c in circles]),),
            radii=np.array([c.radius for c in circles], dtype=np.float64),
        ),
    }


def count(these: dict[str, Table]) -> int:
    """Return how many features the tables hold."""
    return sum(len(t) for t in these.values())


def moved_tables(these: dict[str, Table], motion: Similarity) -> dict[str, Table]:
    """Return all tables after a motion."""
    return these if motion.still else {kind: t.moved(motion) for kind, t in these.items()}
