"""Drawing: what a file holds, in its own terms and unit.

- *entity*: a line, arc, circle or text as drawn; a polyline is its pieces, which share one source.
- *source*: names the object of the file that an entity came from ("2F", or "2F/3" for the third thing in a
  block).
- *free curve*: an ellipse of unequal axes or a spline that is neither straight nor round, as points along it.
- *endless*: a construction line or ray without an end.
- *style*: what the entity looks like in the end, wherever the file stated it: on the object, its layer or its
  block.
- *annotation*: lines and texts that only show something (the picture of a dimension); never checked as
  geometry.
- *oddity*: something in the file that was left out, changed or doubtful, with a code and a sentence.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from math import pi
from typing import Literal, NamedTuple

from evenmark.core.geometry.points import Box, Point, box_of, point_on
from evenmark.core.geometry.units import Unit


@dataclass(frozen=True, kw_only=True, slots=True)
class Style:
    """Resulting look: colour (number 1-255 of the DXF reference, or "#rrggbb"), line type by pattern class,
    weight in mm.

    A weight of None means that the file does not say one. ``dash`` is how long one repeat of the pattern is,
    in drawing units with all scales of line types; 0 where there is no pattern.
    """

    color: int | str = 7
    line_type: str = "continuous"
    weight: float | None = None
    dash: float = 0.0


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
    """Lettering: decoded wording, its place and what of it stands there (as "left bottom"), height, turn in
    degrees."""

    wording: str
    at: Point
    anchor: str
    height: float
    turn_deg: float
    layer: str
    style: Style
    source: str


class FreeCurve(NamedTuple):
    """A curve that is neither straight nor round, as points that lie on it, dense enough to be measured by.

    Closed when the first point is the last. ``kind`` is ellipse, spline or curve.
    """

    points: tuple[Point, ...]
    kind: str
    layer: str
    style: Style
    source: str


class Endless(NamedTuple):
    """A construction line through a point toward another, without an end; a ray begins at the point."""

    at: Point
    toward: Point
    ray: bool
    layer: str
    style: Style
    source: str


Entity = Line | Arc | Circle | Text | FreeCurve


DimensionKind = Literal["linear", "angular", "radius", "diameter", "ordinate", "arc"]


@dataclass(frozen=True, kw_only=True, slots=True)
class Dimension:
    """A dimension: what it measures, and what it shows.

    ``points``: the two measured points (linear, with the direction that is measured along in ``turn_deg``),
    centre and a point on the curve (radius), two opposite points (diameter), vertex and one point on each leg
    (angular), one point and the origin (ordinate, measured along ``turn_deg``), centre and both ends (arc).
    ``measured`` is worked out from the points. ``typed`` is the text that was typed instead of the measured
    value, None where the value stands as measured; ``before`` and ``after`` are what stands beside the value,
    such as ``2x`` or a tolerance. ``factor`` multiplies what is shown (a detail drawn at
    another scale). ``at`` is where the text stands.
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
    layer: str = "0"
    style: Style = Style()
    source: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Hatch:
    """A filled region: its boundary loops (an inner loop is a hole), and the name of the pattern."""

    loops: tuple[tuple[Point, ...], ...]
    pattern: str
    layer: str
    style: Style
    source: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Leader:
    """A note's leader from its tip on; with the wording of its note where the file ties both together."""

    points: tuple[Point, ...]
    wording: str = ""
    text_source: str = ""
    at: Point = (0.0, 0.0)
    height: float = 0.0
    layer: str = "0"
    style: Style = Style()
    source: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class LayoutView:
    """A view of the model on a sheet layout: its box on the sheet, what stands at its middle, its scale
    (sheet / model), its turn."""

    box: Box
    center: Point
    scale: float
    turn_deg: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Layout:
    """A sheet layout: its name, paper size in mm if it says one, what is drawn on it, and its views of the
    model."""

    name: str
    entities: tuple[Entity, ...] = ()
    views: tuple[LayoutView, ...] = ()
    paper: Point | None = None
    annotations: tuple[Entity, ...] = ()
    dimensions: tuple[Dimension, ...] = ()
    hatches: tuple[Hatch, ...] = ()
    leaders: tuple[Leader, ...] = ()

    @property
    def objects(self) -> int:
        """How many objects stand on it."""
        return len(self.entities) + len(self.dimensions) + len(self.hatches) + len(self.leaders)


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
    dimensions: tuple[Dimension, ...] = ()
    hatches: tuple[Hatch, ...] = ()
    leaders: tuple[Leader, ...] = ()
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
        """The box around all entities (not annotations), or None when there are none."""
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
        annotations=sheet.annotations if sheet else (),
        dimensions=sheet.dimensions if sheet else (),
        hatches=sheet.hatches if sheet else (),
        leaders=sheet.leaders if sheet else (),
        endless=(),
        layouts=(sheet,) if sheet else (),
    )


def remapped(e: Entity, p: Callable[[Point], Point], *, scale: float = 1.0, mirror: bool = False) -> Entity:
    """Return an entity with its points where ``p`` puts them, a similarity that scales by ``scale`` and, with
    ``mirror``, exchanges left and right without turning."""
    if isinstance(e, Line):
        return e._replace(start=p(e.start), end=p(e.end))
    if isinstance(e, Text):
        return e._replace(at=p(e.at), height=e.height * scale)
    if isinstance(e, FreeCurve):
        return e._replace(points=tuple(p(q) for q in e.points))
    if isinstance(e, Circle):
        return e._replace(center=p(e.center), radius=e.radius * scale)
    start = pi - e.start_rad - e.sweep_rad if mirror else e.start_rad
    return e._replace(center=p(e.center), radius=e.radius * scale, start_rad=start)


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


def quarter_points(center: Point, radius: float, start_rad: float, sweep_rad: float) -> list[Point]:
    """Return the points at 0, 90, 180 and 270 degrees that an arc passes."""
    x, y = center
    cardinal = ((x + radius, y), (x, y + radius), (x - radius, y), (x, y - radius))
    return [p for i, p in enumerate(cardinal) if (i * pi / 2 - start_rad) % (2 * pi) <= sweep_rad]
