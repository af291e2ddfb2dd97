"""Drawing: what a file holds, in its own terms and unit.

- *entity*: a line, arc, circle or text as drawn; a polyline is its pieces, which share one source.
- *source*: names the object of the file that an entity came from ("2F", or "2F/3" for the third thing in a
  block).
- *free curve*: an ellipse of unequal axes or a spline that is neither straight nor round, as points along it.
- *endless*: a construction line or ray without an end.
- *style*: what the entity looks like in the end, wherever the file stated it: on the object, its layer or its
  block.
- *oddity*: something in the file that was left out, changed or doubtful, with a code and a sentence.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from typing import Literal, NamedTuple

from evenmark.core.drawing.annotations import Dimension, Endless, Hatch, Note
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.geometry.arcs import quarter_points
from evenmark.core.geometry.points import Box, Point, box_of, point_on
from evenmark.core.geometry.units import Unit


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
    """Lettering: decoded wording, its place and what of it stands there (as "left bottom"), height, turn in
    degrees.

    ``face`` names its lettering face, nothing for the drawing's usual one. Lettering that is spread has a
    second point, where it ends: ``fits`` says whether its width alone is made to fit, or its size.
    """

    wording: str
    at: Point
    anchor: str
    height: float
    turn_deg: float
    layer: str
    style: Style
    source: str
    face: str = ""
    second: Point | None = None
    fits: Literal["", "width", "size"] = ""


class FreeCurve(NamedTuple):
    """A curve that is neither straight nor round, as points that lie on it, dense enough to be measured by.

    Closed when the first point is the last. ``kind`` is ellipse, spline or curve.
    """

    points: tuple[Point, ...]
    kind: str
    layer: str
    style: Style
    source: str


Entity = Line | Arc | Circle | Text | FreeCurve


@dataclass(frozen=True, kw_only=True, slots=True)
class LayoutView:
    """A view of the model on a sheet layout: its middle and size on the sheet, what of the model stands at
    its middle, how much of the model its height shows, its turn."""

    at: Point
    size: Point
    center: Point
    seen: float
    turn_deg: float = 0.0

    @property
    def box(self) -> Box:
        """Its box on the sheet."""
        (x, y), (width, height) = self.at, self.size
        return (x - width / 2, y - height / 2, x + width / 2, y + height / 2)

    @property
    def scale(self) -> float:
        """Sheet / model."""
        return self.size[1] / self.seen


@dataclass(frozen=True, kw_only=True)
class Layout:
    """A sheet layout: its name, paper size in mm if it says one, what is drawn on it, and its views of the
    model."""

    name: str
    entities: tuple[Entity, ...] = ()
    views: tuple[LayoutView, ...] = ()
    paper: Point | None = None
    dimensions: tuple[Dimension, ...] = ()
    hatches: tuple[Hatch, ...] = ()
    notes: tuple[Note, ...] = ()

    @property
    def objects(self) -> int:
        """How many objects stand on it."""
        return len(self.entities) + len(self.dimensions) + len(self.hatches) + len(self.notes)


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
    dimensions: tuple[Dimension, ...] = ()
    hatches: tuple[Hatch, ...] = ()
    notes: tuple[Note, ...] = ()
    endless: tuple[Endless, ...] = ()
    layouts: tuple[Layout, ...] = ()
    layers: dict[str, Layer] = field(default_factory=dict)
    unit: Unit | None = None
    oddities: tuple[Oddity, ...] = ()
    solids: int = 0
    """How many three-dimensional objects were passed over."""
    version: str = ""

    @property
    def on_layouts(self) -> int:
        """How many objects stand on sheet layouts only."""
        return sum(len(sheet.entities) for sheet in self.layouts)

    def of(self, *kinds: type) -> Iterator[Entity]:
        """Yield the entities of some kinds, in file order."""
        return (entity for entity in self.entities if isinstance(entity, kinds))

    @property
    def box(self) -> Box | None:
        """The box around all entities, or None when there are none."""
        return box_of([p for entity in self.entities for p in reach_of(entity)])


def layout_of(drawing: Drawing, name: str | None = None) -> Drawing:
    """Return a drawing of what stands on a sheet layout: the one of that name, else the first that has
    anything on it.

    What stands in the model is left out. Without any sheet the drawing is empty; asked again of what it
    returned, it returns the same.
    """
    used = [s for s in drawing.layouts if s.entities]
    sheet = next((s for s in used if s.name == name), used[0] if used else None)
    return replace(
        drawing,
        entities=sheet.entities if sheet else (),
        dimensions=sheet.dimensions if sheet else (),
        hatches=sheet.hatches if sheet else (),
        notes=sheet.notes if sheet else (),
        endless=(),
        layouts=(sheet,) if sheet else (),
    )


def reach_of(entity: Entity) -> tuple[Point, ...]:
    """Return points whose box contains the entity: exact for lines and circles, ends and quarter points for
    arcs."""
    if isinstance(entity, Line):
        return (entity.start, entity.end)
    if isinstance(entity, Text):
        return (entity.at,)
    if isinstance(entity, FreeCurve):
        return entity.points
    (x, y), r = entity.center, entity.radius
    if isinstance(entity, Circle):
        return ((x - r, y - r), (x + r, y + r))
    return (entity.start, entity.end, *quarter_points(entity.center, r, entity.start_rad, entity.sweep_rad))
