"""Drawing: what a file holds, in its own terms and unit.

- *entity*: a line, arc, circle or text as drawn; a polyline is its pieces, which share one source.
- *source*: names the object of the file that an entity came from ("2F", or "2F/3" for the third thing in a block).
- *style*: what the entity looks like in the end, wherever the file stated it: on the object, its layer or its block.
- *annotation*: lines and texts that only show something (the picture of a dimension); never checked as geometry.
- *oddity*: something in the file that was left out, changed or doubtful, with a code and a sentence.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import NamedTuple

from evenmark.core.geometry.points import Box, Point, box_of, point_on
from evenmark.core.geometry.units import Unit


@dataclass(frozen=True, kw_only=True, slots=True)
class Style:
    """Resulting look: colour (number 1-255 of the DXF reference, or "#rrggbb"), line type by pattern class, weight in mm.

    A weight of None means that the file does not say one.
    """

    color: int | str = 7
    line_type: str = "continuous"
    weight: float | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Layer:
    """A layer as declared: its name, the style it gives, and whether it is shown."""

    name: str
    style: Style
    shown: bool = True


class Line(NamedTuple):
    """A straight piece."""

    start: Point
    end: Point
    layer: str
    style: Style
    source: str


class Arc(NamedTuple):
    """A round piece, counter-clockwise from ``start_rad`` through ``sweep_rad`` in (0, 2 pi]."""

    center: Point
    radius: float
    start_rad: float
    sweep_rad: float
    layer: str
    style: Style
    source: str

    @property
    def start(self) -> Point:
        """Where the sweep begins."""
        return point_on(self.center, self.radius, self.start_rad)

    @property
    def end(self) -> Point:
        """Where the sweep ends."""
        return point_on(self.center, self.radius, self.start_rad + self.sweep_rad)


class Circle(NamedTuple):
    """A whole circle."""

    center: Point
    radius: float
    layer: str
    style: Style
    source: str


class Text(NamedTuple):
    """Lettering: decoded wording, its place and what of it stands there (as "left bottom"), height, turn in degrees."""

    wording: str
    at: Point
    anchor: str
    height: float
    turn_deg: float
    layer: str
    style: Style
    source: str


Entity = Line | Arc | Circle | Text


@dataclass(frozen=True, kw_only=True, slots=True)
class Oddity:
    """Something that the reader noticed: a code, a sentence, how often."""

    code: str
    says: str
    count: int = 1


@dataclass(frozen=True, kw_only=True)
class Drawing:
    """All that was understood of one file. ``unit`` is None when the file declares none."""

    entities: tuple[Entity, ...] = ()
    annotations: tuple[Entity, ...] = ()
    layers: dict[str, Layer] = field(default_factory=dict)
    unit: Unit | None = None
    oddities: tuple[Oddity, ...] = ()
    on_sheets: int = 0
    """How many objects stand on sheet layouts only."""
    solids: int = 0
    """How many three-dimensional objects were passed over."""
    version: str = ""

    def of(self, *kinds: type) -> Iterator[Entity]:
        """Yield the entities of some kinds, in file order."""
        return (entity for entity in self.entities if isinstance(entity, kinds))

    @property
    def box(self) -> Box | None:
        """The box around all entities (not annotations), or None when there are none."""
        return box_of([p for entity in self.entities for p in reach_of(entity)])


def reach_of(entity: Entity) -> tuple[Point, ...]:
    """Return points whose box contains the entity: exact for lines and circles, ends and quarter points for arcs."""
    if isinstance(entity, Line):
        return (entity.start, entity.end)
    if isinstance(entity, Text):
        return (entity.at,)
    (x, y), r = entity.center, entity.radius
    if isinstance(entity, Circle):
        return ((x - r, y - r), (x + r, y + r))
    return (entity.start, entity.end, *quarter_points(entity.center, r, entity.start_rad, entity.sweep_rad))


def quarter_points(center: Point, radius: float, start_rad: float, sweep_rad: float) -> list[Point]:
    """Return the points at 0, 90, 180 and 270 degrees that an arc passes."""
    from math import pi

    x, y = center
    cardinal = ((x + radius, y), (x, y + radius), (x - radius, y), (x, y - radius))
    return [p for i, p in enumerate(cardinal) if (i * pi / 2 - start_rad) % (2 * pi) <= sweep_rad]
