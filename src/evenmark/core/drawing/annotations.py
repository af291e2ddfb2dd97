"""What a drawing says beside its features: dimensions, notes, hatching, construction lines without an end."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal, NamedTuple

from evenmark.core.drawing.look import PLAIN, Style
from evenmark.core.geometry.deterministic import cos_sin, turn_of
from evenmark.core.geometry.points import Point, distance

USUAL_HEIGHT = 3.5
"""Height of figures where nothing says it, in drawing units."""
DimensionKind = Literal["linear", "angular", "radius", "diameter", "ordinate", "arc"]


class Endless(NamedTuple):
    """A construction line through a point along a direction of unit length, without an end; a ray begins at
    the point."""

    at: Point
    way: Point
    ray: bool
    layer: str
    style: Style
    source: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Dimension:
    """A dimension: what it measures, and what it shows.

    ``points``: the two measured points (linear, with the direction that is measured along in ``turn_deg``),
    centre and a point on the curve (radius), two opposite points (diameter), vertex and one point on each leg
    (angular), one point and the origin (ordinate, measured along ``turn_deg``), centre and both ends (arc).
    ``measured`` is worked out from the points. ``typed`` is the text that was typed instead of the measured
    value, None where the value stands as measured; ``before`` and ``after`` are what stands beside the value,
    such as ``4 × `` or round brackets. ``factor`` multiplies what is shown (a detail drawn at another scale).
    ``at`` is where the figure stands, ``line`` a point that its line goes through, where it has one of its
    own. ``decimals`` are as many as are shown, with or without ``zeros`` at the end; ``fractions`` says
    whether inches are shown in parts. ``tolerance`` is what stands above and below the figure, (+0.1, -0.05)
    for instance. ``height`` is that of its lettering in drawing units. ``id`` names it among the features of
    linework; a drawing's own have none.
    """

    kind: DimensionKind
    points: tuple[Point, ...]
    measured: float
    turn_deg: float = 0.0
    typed: str | None = None
    before: str = ""
    after: str = ""
    factor: float = 1.0
    at: Point = (0.0, 0.0)
    line: Point | None = None
    decimals: int = 2
    zeros: bool = False
    fractions: bool = False
    tolerance: tuple[float, float] | None = None
    height: float = USUAL_HEIGHT
    layer: str = "0"
    style: Style = PLAIN
    source: str = ""
    id: str = ""

    @property
    def shown(self) -> float:
        """The number that stands there unless another was typed over it, in drawing units or degrees."""
        return self.measured if self.kind == "angular" else self.measured * self.factor

    @property
    def sources(self) -> tuple[str, ...]:
        """The objects of the file that it came from."""
        return (self.source,)


class Vertex(NamedTuple):
    """A corner of a boundary, and the bulge of the piece that leaves it: 0 for a straight one, else the
    tangent of a quarter of the arc's sweep, negative for a clockwise arc."""

    x: float
    y: float
    bulge: float = 0.0

    @property
    def at(self) -> Point:
        """Where it lies."""
        return (self.x, self.y)


@dataclass(frozen=True, kw_only=True, slots=True)
class Hatch:
    """A filled region: its boundary loops (an inner loop is a hole), the name of its pattern, and the angle
    and gap of the lines that fill it; a gap of 0 where there are none, or they are not known."""

    loops: tuple[tuple[Vertex, ...], ...]
    pattern: str = "lines"
    angle_deg: float = 45.0
    gap: float = 0.0
    layer: str = "0"
    style: Style = PLAIN
    source: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Note:
    """A note: its leader from the tip on, its wording, and the point at the top of the wording: ``across``
    says at which side of it. ``text_source`` names the text of the drawing that it is tied to, where the
    wording stands as a text of its own."""

    points: tuple[Point, ...]
    wording: str = ""
    text_source: str = ""
    at: Point = (0.0, 0.0)
    across: Literal["left", "centre", "right"] = "left"
    height: float = 0.0
    layer: str = "0"
    style: Style = PLAIN
    source: str = ""


def measure(kind: DimensionKind, points: tuple[Point, ...], turn_deg: float) -> float:
    """Return what a dimension of some kind measures between its points: a length in drawing units, or
    degrees.

    >>> points = ((0.0, 0.0), (30.0, 40.0))
    >>> measure("linear", points, 90.0), measure("diameter", points, 0.0)
    (40.0, 50.0)
    """
    if kind in ("linear", "ordinate"):
        (ax, ay), (bx, by) = points
        quarter = {0.0: (1.0, 0.0), 90.0: (0.0, 1.0)}.get(turn_deg % 180.0)
        cos, sin = quarter or cos_sin(math.radians(turn_deg))
        return abs((bx - ax) * cos + (by - ay) * sin)
    if kind in ("radius", "diameter"):
        return distance(points[0], points[1])
    vertex, a, b = points
    turn = (
        turn_of(b[1] - vertex[1], b[0] - vertex[0]) - turn_of(a[1] - vertex[1], a[0] - vertex[0])
    ) % math.tau
    return turn * distance(vertex, a) if kind == "arc" else math.degrees(min(turn, math.tau - turn))
