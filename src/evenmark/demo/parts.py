"""The parts of the tide-mill model kit, as drawings with their dimensions. Millimetres.

Each is built from its sizes, so that a slip can be made by building it with another size.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from evenmark.core.drawing import placed
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line, Text
from evenmark.core.geometry.points import Point, point_on
from evenmark.core.geometry.units import MM

SIZES = "dimension"
LAYERS = {
    "outline": Layer(name="outline", style=Style(color=7, line_type="continuous", weight=0.5)),
    "hidden": Layer(name="hidden", style=Style(color=5, line_type="dashed", weight=0.25)),
    "centre": Layer(name="centre", style=Style(color=1, line_type="chain", weight=0.25)),
    "construction": Layer(name="construction", style=Style(color=4, line_type="continuous", weight=0.13)),
    "dimension": Layer(name="dimension", style=Style(color=3, line_type="continuous", weight=0.25)),
    "lettering": Layer(name="lettering", style=Style(color=7, line_type="continuous", weight=0.35)),
}
SHEET_LAYERS = {
    "frame": Layer(name="frame", style=Style(color=7, line_type="continuous", weight=1.0)),
    "lettering": LAYERS["lettering"],
}


@dataclass(frozen=True, kw_only=True)
class Part:
    """A drawing and the dimensions that its sheet shows."""

    drawing: Drawing
    dimensions: tuple[Dimension, ...] = ()

    @property
    def sheet(self) -> Drawing:
        """The drawing with its dimensions."""
        return replace(self.drawing, dimensions=self.dimensions)


class Sketch:
    """Collects entities; each call is one object."""

    def __init__(self, layers: dict[str, Layer] | None = None) -> None:
        self.layers = layers or LAYERS
        self.entities: list[Entity] = []
        self._count = 0

    def _source(self) -> str:
        self._count += 1
        return f"s{self._count}"

    def chain(self, points: list[Point], layer: str = "outline", *, close: bool = True) -> None:
        """Draw straight edges from point to point."""
        source = self._source()
        pairs = list(zip(points, points[1:] + points[:1], strict=True))
        for a, b in pairs if close else pairs[:-1]:
            self.entities.append(
                Line(start=a, end=b, layer=layer, style=self.layers[layer].style, source=source)
            )

    def line(self, a: Point, b: Point, layer: str = "outline") -> None:
        """Draw one edge."""
        self.chain([a, b], layer, close=False)

    def circle(self, center: Point, radius: float, layer: str = "outline") -> None:
        """Draw a circle."""
        self.entities.append(
            Circle(
                center=center, radius=radius, layer=layer, style=LAYERS[layer].style, source=self._source()
            )
        )

    def arc(
        self,
        center: Point,
        radius: float,
        start_deg: float,
        end_deg: float,
        layer: str = "outline",
        source: str = "",
    ) -> None:
        """Draw an arc, counter-clockwise."""
        sweep = math.radians((end_deg - start_deg) % 360.0)
        self.entities.append(
            Arc(
                center=center,
                radius=radius,
                start_rad=math.radians(start_deg),
                sweep_rad=sweep,
                layer=layer,
                style=LAYERS[layer].style,
                source=source or self._source(),
            )
        )

    def text(self, wording: str, at: Point, height: float = 3.5, anchor: str = "left bottom") -> None:
        """Letter something."""
        style = LAYERS["lettering"].style
        self.entities.append(
            Text(
                wording=wording,
                at=at,
                anchor=anchor,
                height=height,
                turn_deg=0.0,
                layer="lettering",
                style=style,
                source=self._source(),
            )
        )

    def drawing(self) -> Drawing:
        """Return what was drawn."""
        return Drawing(entities=tuple(self.entities), layers=dict(self.layers), unit=MM)


def _across(a: Point, b: Point, y: float) -> Dimension:
    return placed.linear(a, b, 0.0, ((a[0] + b[0]) / 2, y), layer=SIZES, style=LAYERS[SIZES].style)


def _up(a: Point, b: Point, x: float) -> Dimension:
    return placed.linear(a, b, 90.0, (x, (a[1] + b[1]) / 2), layer=SIZES, style=LAYERS[SIZES].style)


def _round(kind: str, center: Point, radius: float, turn_deg: float, before: str = "") -> Dimension:
    """Return the size of a circle or arc, its figure outside in a direction."""
    make = placed.of_radius if kind == "radius" else placed.of_diameter
    (x, y) = point_on(center, radius + 10.0, math.radians(turn_deg))
    place = (x + math.copysign(6.0 + 2.0 * len(before), x - center[0]), y)
    return make(center, radius, place, before=before, layer=SIZES, style=LAYERS[SIZES].style)


def gate_outline(width: float = 96.0, left: float = 70.0, notch: float = 18.0) -> Part:
    """Sluice gate plate, outline by coordinates."""
    points = [
        (0.0, 0.0),
        (width, 0.0),
        (width, 46.0),
        (width - 14, 60.0),
        (64.0, 60.0),
        (64.0, 60.0 - notch),
        (36.0, 60.0 - notch),
        (36.0, left),
        (0.0, left),
    ]
    sketch = Sketch()
    sketch.chain(points)
    dims = (
        _across((0, 0), (width, 0), -10),
        _across((0, left), (36, left), left + 9),
        _up((0, 0), (0, left), -10),
        _up((width, 0), (width, 46), width + 9),
        _up((width - 14, 60), (width, 0), width + 19),
        _up((64, 42), (64, 60), 73),
        _across((width - 14, 60), (width, 46), 69),
        _across((0, 0), (64, 60), 79 + 10),
    )
    return Part(drawing=sketch.drawing(), dimensions=dims)


def gate_holes(second: float = 78.0, hole: float = 4.0, slot: float = 24.0) -> Part:
    """Sluice gate plate with located holes and a slot for the lifting bar."""
    sketch = Sketch()
    sketch.chain([(0.0, 0.0), (100.0, 0.0), (100.0, 60.0), (0.0, 60.0)])
    for x, y in ((14.0, 12.0), (second, 12.0), (14.0, 48.0), (second, 48.0)):
        sketch.circle((x, y), hole)
    sketch.circle((46.0, 30.0), 9.0)
    sketch.chain(
        [(86.0, 30.0 - slot / 2), (92.0, 30.0 - slot / 2), (92.0, 30.0 + slot / 2), (86.0, 30.0 + slot / 2)]
    )
    sketch.text("GATE PLATE", (30.0, 3.0))
    dims = (
        _across((0, 0), (100, 0), -30),
        _across((0, 0), (14, 12), -10),
        _across((0, 0), (46, 30), -20),
        _across((14, 48), (second, 48), 70),
        _across((86, 42), (100, 60), 80),
        _across((86, 42), (92, 42), 70),
        _up((0, 0), (0, 60), -32),
        _up((0, 0), (14, 12), -12),
        _up((14, 12), (14, 48), -12),
        _up((0, 0), (46, 30), -22),
        _up((100, 0), (92, 18), 110),
        _up((92, 18), (92, 42), 110),
        _round("diameter", (46, 30), 9.0, 30.0),
        _round("diameter", (second, 48), hole, 200.0, "4 × "),
    )
    return Part(drawing=sketch.drawing(), dimensions=dims)


def wheel_hub(
    bore: float = 25.0, pitch: float = 60.0, holes: int = 6, hole: float = 6.0, start_deg: float = 0.0
) -> Part:
    """Wheel hub: a flange with a boss, a bore, and holes on a pitch circle, with its axes."""
    sketch = Sketch()
    sketch.circle((0.0, 0.0), 75.0)
    sketch.circle((0.0, 0.0), 40.0)
    sketch.circle((0.0, 0.0), bore)
    for n in range(holes):
        sketch.circle(point_on((0.0, 0.0), pitch, math.radians(start_deg + n * 360 / holes)), hole)
    sketch.circle((0.0, 0.0), 60.0, "centre")
    sketch.line((-81.0, 0.0), (81.0, 0.0), "centre")
    sketch.line((0.0, -81.0), (0.0, 81.0), "centre")
    dims = (
        _round("diameter", (0, 0), 75.0, 135.0),
        _round("diameter", (0, 0), 40.0, 20.0),
        _round("diameter", (0, 0), bore, 250.0),
        _round("diameter", (0, 0), 60.0, 100.0),
        _round("diameter", point_on((0, 0), 60.0, math.radians(300)), hole, 300.0, "6 × "),
    )
    return Part(drawing=sketch.drawing(), dimensions=dims)


def crank_link(
    reach: float = 82.0,
    left: float = 24.0,
    right: float = 13.0,
    left_bore: float = 14.0,
    right_bore: float = 6.0,
) -> Part:
    """Crank link: two bosses joined by their outer tangents, each with a bore."""
    sketch = Sketch()
    tilt = math.asin((left - right) / reach)
    up = math.pi / 2 - tilt
    a, b = point_on((0.0, 0.0), left, up), point_on((reach, 0.0), right, up)
    source = "outline"
    style = LAYERS["outline"].style
    lower = -up % math.tau
    sketch.entities += [
        Arc(
            center=(0.0, 0.0),
            radius=left,
            start_rad=up,
            sweep_rad=math.tau - 2 * up,
            layer="outline",
            style=style,
            source=source,
        ),
        Line(start=(a[0], -a[1]), end=(b[0], -b[1]), layer="outline", style=style, source=source),
        Arc(
            center=(reach, 0.0),
            radius=right,
            start_rad=lower,
            sweep_rad=2 * up,
            layer="outline",
            style=style,
            source=source,
        ),
        Line(start=b, end=a, layer="outline", style=style, source=source),
    ]
    sketch.circle((0.0, 0.0), left_bore)
    sketch.circle((reach, 0.0), right_bore)
    sketch.line((-left - 6, 0.0), (reach + right + 6, 0.0), "centre")
    sketch.line((0.0, -left - 6), (0.0, left + 6), "centre")
    sketch.line((reach, -right - 6), (reach, right + 6), "centre")
    dims = (
        _across((0, -30), (reach, -19), -40),
        _round("radius", (0, 0), left, 150.0),
        _round("radius", (reach, 0), right, 320.0),
        _round("diameter", (0, 0), left_bore, 205.0),
        _round("diameter", (reach, 0), right_bore, 215.0),
    )
    return Part(drawing=sketch.drawing(), dimensions=dims)


def cover_gasket(
    corner: float = 12.0, inner: float = 6.0, width: float = 110.0, height: float = 74.0, hole: float = 3.5
) -> Part:
    """Gear cover gasket: a filleted frame with a filleted opening and six holes."""
    sketch = Sketch()
    _rounded(sketch, (0.0, 0.0), width, height, corner)
    _rounded(sketch, (18.0, 16.0), width - 36, height - 32, inner)
    for x in (9.0, width / 2, width - 9):
        for y in (8.0, height - 8):
            if x != width / 2 or y < height / 2:
                sketch.circle((x, y), hole)
    dims = (
        _across((0, 0), (width, 0), -22),
        _across((0, 0), (9, 8), -10),
        _across((9, 8), (width / 2, 8), -10),
        _across((width - 9, 8), (width, 0), -10),
        _across((18, 16), (width - 18, 16), 26),
        _across((0, height), (18, height - 16), height + 10),
        _up((0, 0), (0, height), -22),
        _up((0, 0), (9, 8), -10),
        _up((9, height - 8), (0, height), -10),
        _up((18, 16), (18, height - 16), 40),
        _up((width, 0), (width - 18, 16), width + 10),
        _round("radius", (width - corner, height - corner), corner, 45.0, "4 × "),
        _round("radius", (width - 18 - inner, height - 16 - inner), inner, 225.0, "4 × "),
        _round("diameter", (width - 9, 8), hole, 330.0, "5 × "),
    )
    return Part(drawing=sketch.drawing(), dimensions=dims)


def _rounded(sketch: Sketch, at: Point, width: float, height: float, radius: float) -> None:
    """Draw a rectangle with filleted corners as one outline."""
    (x, y), r = at, radius
    source = f"rounded {x} {y}"
    style = LAYERS["outline"].style

    def edge(a: Point, b: Point) -> None:
        sketch.entities.append(Line(start=a, end=b, layer="outline", style=style, source=source))

    edge((x + r, y), (x + width - r, y))
    sketch.arc((x + width - r, y + r), r, 270, 360, source=source)
    edge((x + width, y + r), (x + width, y + height - r))
    sketch.arc((x + width - r, y + height - r), r, 0, 90, source=source)
    edge((x + width - r, y + height), (x + r, y + height))
    sketch.arc((x + r, y + height - r), r, 90, 180, source=source)
    edge((x, y + height - r), (x, y + r))
    sketch.arc((x + r, y + r), r, 180, 270, source=source)


def shaft_bracket(rise: float = 52.0, bore: float = 11.0, depth: float = 40.0) -> Part:
    """Shaft bracket in three views: front, top above it, side to its right, with hidden edges and axes."""
    sketch = Sketch()
    # front: a base 90 by 14 with an upright 44 wide
    sketch.chain(
        [
            (0.0, 0.0),
            (90.0, 0.0),
            (90.0, 14.0),
            (67.0, 14.0),
            (67.0, rise),
            (23.0, rise),
            (23.0, 14.0),
            (0.0, 14.0),
        ]
    )
    sketch.circle((45.0, 34.0), bore)
    sketch.line((45.0 - bore - 6, 34.0), (45.0 + bore + 6, 34.0), "centre")
    sketch.line((45.0, 34.0 - bore - 6), (45.0, 34.0 + bore + 6), "centre")
    # top, 20 above the front view
    top = rise + 20
    sketch.chain([(0.0, top), (90.0, top), (90.0, top + depth), (0.0, top + depth)])
    sketch.line((23.0, top), (23.0, top + depth))
    sketch.line((67.0, top), (67.0, top + depth))
    sketch.line((45.0 - bore, top), (45.0 - bore, top + depth), "hidden")
    sketch.line((45.0 + bore, top), (45.0 + bore, top + depth), "hidden")
    # side, 20 to the right
    side = 110.0
    sketch.chain([(side, 0.0), (side + depth, 0.0), (side + depth, rise), (side, rise)])
    sketch.line((side, 14.0), (side + depth, 14.0))
    sketch.line((side, 34.0 - bore), (side + depth, 34.0 - bore), "hidden")
    sketch.line((side, 34.0 + bore), (side + depth, 34.0 + bore), "hidden")
    sketch.line((side - 6, 34.0), (side + depth + 6, 34.0), "centre")
    dims = (
        _across((0, 0), (90, 0), -20),
        _across((0, 0), (45, 34), -10),
        _across((0, 14), (23, 14), 24),
        _across((23, rise), (67, rise), rise + 10),
        _up((0, 0), (0, 14), -10),
        _up((0, 0), (23, rise), -20),
        _up((90, 0), (45, 34), 98),
        _across((side, 0), (side + depth, 0), -12),
        _round("diameter", (45, 34), bore, 40.0),
    )
    return Part(drawing=sketch.drawing(), dimensions=dims)


def kit_sheet(
    name: str = "NAME",
    group: str = "GROUP",
    *,
    divider: float = 80.0,
    height: float = 6.0,
    begun: bool = False,
) -> Part:
    """Border and title strip of the kit sheet (common practice, no published source): 260 x 196 with a strip
    of 10, cells 80, 80 and the rest of 100 wide; guide lines 2 from its edges leave 6 for the lettering.
    ``begun`` gives the border alone."""
    k = Sketch(SHEET_LAYERS)
    k.chain([(0.0, 0.0), (260.0, 0.0), (260.0, 196.0), (0.0, 196.0)], "frame")
    if not begun:
        k.line((0.0, 10.0), (260.0, 10.0), "frame")
        for x in (divider, 160.0):
            k.line((x, 0.0), (x, 10.0), "frame")
        for wording, x in ((name, 2.0), ("TIDE MILL KIT", 82.0), (group, 162.0)):
            k.text(wording, (x, 2.0), height)
    dimensions = (
        _across((0.0, 0.0), (80.0, 0.0), -12.0),
        _across((80.0, 0.0), (160.0, 0.0), -12.0),
        _up((260.0, 0.0), (260.0, 10.0), 272.0),
    )
    return Part(drawing=k.drawing(), dimensions=dimensions)
