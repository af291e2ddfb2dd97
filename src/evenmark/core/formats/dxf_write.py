"""Drawing to DXF bytes, in any of the ways that programs draw the same thing.

- *manner*: the way: which version, lines or polylines, whole or in pieces, circles as circles or as arcs,
  seen from above or below, flat or in nested mirrored blocks, in which unit. No manner changes what the
  drawing looks like or measures.

Entities that share a source are one polyline where the manner draws polylines; they must then follow each
other.
"""

from __future__ import annotations

import io
import math
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import groupby, pairwise
from typing import Any, Literal

from ezdxf.document import Drawing as DxfDocument
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new

from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, FreeCurve, Line, Style, Text, remapped
from evenmark.core.geometry import arcs
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, point_on
from evenmark.core.geometry.units import Unit, dxf_code

PATTERNS: dict[str, tuple[float, ...]] = {
    "dashed": (3.5, -1.5),
    "dotted": (0.0, -1.2),
    "chain": (12.0, -2.0, 1.0, -2.0),
    "double chain": (12.0, -2.0, 1.0, -2.0, 1.0, -2.0),
}
_ALIGNED = {
    "left": (
        TextEntityAlignment.LEFT,
        TextEntityAlignment.MIDDLE_LEFT,
        TextEntityAlignment.TOP_LEFT,
        TextEntityAlignment.BOTTOM_LEFT,
    ),
    "centre": (
        TextEntityAlignment.CENTER,
        TextEntityAlignment.MIDDLE_CENTER,
        TextEntityAlignment.TOP_CENTER,
        TextEntityAlignment.BOTTOM_CENTER,
    ),
    "right": (
        TextEntityAlignment.RIGHT,
        TextEntityAlignment.MIDDLE_RIGHT,
        TextEntityAlignment.TOP_RIGHT,
        TextEntityAlignment.BOTTOM_RIGHT,
    ),
}
_UP = ("baseline", "middle", "top", "bottom")


@dataclass(frozen=True, kw_only=True, slots=True)
class Dimension:
    """A dimension to be shown: ``linear`` from a to b measured along ``turn_deg`` with its line through
    ``at``; ``radius`` and ``diameter`` of the circle with centre a and a radius, drawn at ``turn_deg``.
    ``before`` and ``after`` stand beside its figure: ``4 × `` for four equal ones, round brackets for a
    size that is only for information."""

    kind: Literal["linear", "radius", "diameter"]
    a: Point
    b: Point = (0.0, 0.0)
    at: Point = (0.0, 0.0)
    radius: float = 0.0
    turn_deg: float = 0.0
    layer: str = "dimension"
    before: str = ""
    after: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Manner:
    """How a drawing is written."""

    version: str = "R2010"
    binary: bool = False
    polylines: bool = False
    pieces: int = 1
    reverse: bool = False
    circles: Literal["circles", "arcs", "bulges", "ellipses"] = "circles"
    below: bool = False
    blocks: bool = False
    explicit: bool = False
    paragraph: bool = False
    unit: Unit | None = None
    shift: Point = (0.0, 0.0)
    lettercase: bool = False


def write(drawing: Drawing, manner: Manner | None = None, dimensions: Iterable[Dimension] = ()) -> bytes:
    """Return the bytes of a DXF file."""
    manner = manner or Manner()
    doc = _document(drawing, manner)
    scale = drawing.unit.mm / manner.unit.mm if manner.unit and drawing.unit else 1.0
    dx, dy = manner.shift
    entities = [
        remapped(e, lambda q: (q[0] * scale + dx, q[1] * scale + dy), scale=scale) for e in drawing.entities
    ]
    if manner.reverse:
        entities = [_reversed(e) for e in reversed(entities)]
    space: Any = doc.modelspace()
    if manner.blocks:
        space = _mirrored_blocks(doc, space)
        entities = [
            remapped(e, lambda q: (-q[0], q[1]), mirror=True) for e in entities
        ]  # and back by the blocks
    pen = _Pen(space, manner, drawing)
    for _, group in groupby(entities, key=lambda e: e.source):
        pen.draw(list(group))
    for dimension in dimensions:
        _dimension(doc, dimension)
    return to_bytes(doc, manner.binary)


def _document(drawing: Drawing, manner: Manner) -> DxfDocument:
    doc = new(manner.version, setup=False)
    unit = manner.unit or drawing.unit
    if manner.version != "R12":  # which knows no units
        doc.header["$INSUNITS"] = dxf_code(unit) if unit else 0
    doc.header["$MEASUREMENT"] = 0 if unit and unit.imperial else 1
    for name, elements in PATTERNS.items():
        doc.linetypes.add(
            name.upper().replace(" ", "_"), [sum(abs(e) for e in elements), *elements], description=name
        )
    for layer in drawing.layers.values():
        name = layer.name.upper() if manner.lettercase else layer.name
        made = doc.layers.get(name) if name in doc.layers else doc.layers.add(name)
        made.dxf.linetype = _line_type(layer.style)
        if isinstance(layer.style.color, int):
            made.color = layer.style.color
        else:
            made.rgb = _rgb(layer.style.color)
        if layer.style.weight is not None and manner.version != "R12":
            made.dxf.lineweight = round(layer.style.weight * 100)
        if not layer.shown:
            made.off()
    return doc


def _line_type(style: Style) -> str:
    return style.line_type.upper().replace(" ", "_") if style.line_type in PATTERNS else "Continuous"


def _rgb(color: str) -> tuple[int, int, int]:
    return int(color[1:3], 16), int(color[3:5], 16), int(color[5:7], 16)


def to_bytes(doc: DxfDocument, binary: bool) -> bytes:
    """Return a document of the DXF library as a file."""
    if binary:
        out = io.BytesIO()
        doc.write(out, fmt="bin")
        return out.getvalue()
    text = io.StringIO()
    doc.write(text)
    return text.getvalue().encode(doc.output_encoding, "dxfreplace")


def _reversed(e: Entity) -> Entity:
    return e._replace(start=e.end, end=e.start) if isinstance(e, Line) else e


def _mirrored_blocks(doc: DxfDocument, space: Any) -> Any:
    """Return a block to draw in: mirrored, turned and moved by one reference and brought back by the one
    around it."""
    inner, outer = doc.blocks.new("INNER"), doc.blocks.new("OUTER")
    # outer turns by 90 and moves; inner mirrors and turns back: together they only mirror
    outer.add_blockref(
        "INNER", (5.0, 3.0), dxfattribs={"xscale": -2.0, "yscale": 2.0, "rotation": -90.0, "layer": "0"}
    )
    # q = turn90(p'), p' = (5, 3) + turn-90(mirror(p) * 2): scaled by a half, moved back by turn90(5, 3) / 2 =
    # (-1.5, 2.5)
    space.add_blockref(
        "OUTER", (1.5, -2.5), dxfattribs={"xscale": 0.5, "yscale": 0.5, "rotation": 90.0, "layer": "0"}
    )
    return inner


class _Pen:
    """Draws entities into a space in one manner."""

    def __init__(self, space: Any, manner: Manner, drawing: Drawing) -> None:
        self.space, self.manner, self.layers = space, manner, drawing.layers

    def look(self, e: Entity) -> dict[str, Any]:
        """Return the attributes that make an entity look as it should."""
        out: dict[str, Any] = {"layer": e.layer.upper() if self.manner.lettercase else e.layer}
        own = self.layers.get(e.layer)
        if self.manner.explicit or own is None or own.style != e.style:
            if isinstance(e.style.color, int):
                out["color"] = e.style.color
            elif self.manner.version != "R12":
                out["true_color"] = int(e.style.color[1:], 16)
            out["linetype"] = _line_type(e.style)
            if e.style.weight is not None and self.manner.version != "R12":
                out["lineweight"] = round(e.style.weight * 100)
        return out

    def draw(self, group: list[Entity]) -> None:
        """Draw the entities of one source."""
        drawable = [e for e in group if isinstance(e, Line | Arc)]
        if self.manner.polylines and len(drawable) == len(group) > 1:
            self._polyline(drawable)
            return
        for e in group:
            if isinstance(e, Line):
                self._line(e)
            elif isinstance(e, Arc):
                for start, sweep in self._parts(e.start_rad, e.sweep_rad):
                    self._arc(e, start, sweep)
            elif isinstance(e, Circle):
                self._circle(e)
            elif isinstance(e, FreeCurve):
                self._chords(e)
            else:
                self._text(e)

    def _parts(self, start: float, sweep: float) -> list[tuple[float, float]]:
        n = self.manner.pieces
        return [(start + sweep * i / n, sweep / n) for i in range(n)]

    def _line(self, e: Line) -> None:
        n = self.manner.pieces
        at = [
            (e.start[0] + (e.end[0] - e.start[0]) * i / n, e.start[1] + (e.end[1] - e.start[1]) * i / n)
            for i in range(n)
        ]
        at.append(e.end)
        for a, b in pairwise(at):
            self.space.add_line(a, b, dxfattribs=self.look(e))

    def _below(self, center: Point) -> tuple[Point, dict[str, Any]]:
        """Return a centre and the attributes of an object seen from below, where the manner says so."""
        if not self.manner.below:
            return center, {}
        return (-center[0], center[1]), {"extrusion": (0, 0, -1)}

    def _arc(self, e: Arc | Circle, start: float, sweep: float) -> None:
        center, look = self._below(e.center)
        if self.manner.below:
            start = math.pi - start - sweep
        self.space.add_arc(
            center,
            e.radius,
            math.degrees(start),
            math.degrees(start + sweep),
            dxfattribs={**self.look(e), **look},
        )

    def _circle(self, e: Circle) -> None:
        how = self.manner.circles
        if how == "arcs":
            for i in range(5):
                self._arc(e, 0.3 + i * math.tau / 5, math.tau / 5)
        elif how == "bulges":
            a, b = point_on(e.center, e.radius, 0.7), point_on(e.center, e.radius, 0.7 + math.pi)
            self._vertices([(*a, 1.0), (*b, 1.0)], True, self.look(e))
        elif how == "ellipses" and self.manner.version != "R12":
            self.space.add_ellipse(e.center, (0, e.radius), 1.0, dxfattribs=self.look(e))
        else:
            center, look = self._below(e.center)
            self.space.add_circle(center, e.radius, dxfattribs={**self.look(e), **look})

    def _chords(self, e: FreeCurve) -> None:
        """Draw a free curve as a spline of the first degree through its points, which is just what is known
        of it."""
        if self.manner.version == "R12":
            self.space.add_polyline2d(e.points, dxfattribs=self.look(e))
        else:
            self.space.add_open_spline([(x, y, 0.0) for x, y in e.points], degree=1, dxfattribs=self.look(e))

    def _polyline(self, parts: list[Line | Arc]) -> None:
        """Draw a chain; each piece begins where the one before ended, whichever way an arc runs."""
        vertices: list[tuple[float, float, float]] = []
        first = parts[0]
        at = _start_of(first, parts[1])
        begin = at
        for e in parts:
            forward = math.dist(e.start, at) <= math.dist(e.end, at)
            bulge = 0.0 if isinstance(e, Line) else arcs.bulge_of(e.sweep_rad) * (1 if forward else -1)
            vertices.append((*at, bulge))
            at = e.end if forward else e.start
        closed = math.dist(at, begin) < tol.PEN_UP
        if not closed:
            vertices.append((*at, 0.0))
        self._vertices(vertices, closed, self.look(first))

    def _vertices(
        self, vertices: list[tuple[float, float, float]], closed: bool, look: dict[str, Any]
    ) -> None:
        if self.manner.below:
            vertices = [(-x, y, -b) for x, y, b in vertices]
            look = {**look, "extrusion": (0, 0, -1)}
        if self.manner.version == "R12":
            self.space.add_polyline2d([v[:2] for v in vertices], close=closed, dxfattribs=look)
            for vertex, (_, _, bulge) in zip(list(self.space)[-1].vertices, vertices, strict=False):
                vertex.dxf.bulge = bulge
        else:
            self.space.add_lwpolyline(vertices, format="xyb", close=closed, dxfattribs=look)

    def _text(self, e: Text) -> None:
        look = {**self.look(e), "rotation": e.turn_deg}
        across, up = e.anchor.split()
        if self.manner.paragraph and self.manner.version != "R12" and up != "baseline":
            attached = {"top": 0, "middle": 3, "bottom": 6}[up] + {"left": 1, "centre": 2, "right": 3}[across]
            made = self.space.add_mtext(
                e.wording, dxfattribs={**look, "char_height": e.height, "attachment_point": attached}
            )
            made.dxf.insert = e.at
            return
        text = self.space.add_text(e.wording, height=e.height, dxfattribs=look)
        text.set_placement(e.at, align=_ALIGNED[across][_UP.index(up)])


def _start_of(first: Line | Arc, second: Line | Arc) -> Point:
    """Return the end of the first piece that does not meet the second."""
    meets = min(math.dist(first.end, second.start), math.dist(first.end, second.end))
    other = min(math.dist(first.start, second.start), math.dist(first.start, second.end))
    return first.start if meets <= other else first.end


def _dimension(doc: DxfDocument, d: Dimension) -> None:
    """Draw a dimension with its picture, lettering 3.5 high."""
    space = doc.modelspace()
    look = {
        "dimtxt": 3.5,
        "dimasz": 3.0,
        "dimexo": 1.2,
        "dimexe": 1.6,
        "dimgap": 1.0,
        "dimdec": 2,
        "dimtad": 1,
        "dimzin": 8,
        "dimclrd": 256,
        "dimclre": 256,
        "dimclrt": 256,
        "dimtxsty": "Standard",
        "dimblk": "",
    }
    attributes = {"layer": d.layer}
    text = f"{d.before}<>{d.after}"
    style: Any
    if d.kind == "linear":
        style = space.add_linear_dim(
            base=d.at,
            p1=d.a,
            p2=d.b,
            angle=d.turn_deg,
            text=text,
            override=look,
            dxfattribs=attributes,
        )
    elif d.kind == "radius":
        style = space.add_radius_dim(
            center=d.a,
            radius=d.radius,
            angle=d.turn_deg,
            text=text,
            override={**look, "dimtoh": 1, "dimtad": 0},
            dxfattribs=attributes,
        )
    else:
        style = space.add_diameter_dim(
            center=d.a,
            radius=d.radius,
            angle=d.turn_deg,
            text=text,
            override={**look, "dimtoh": 1, "dimtad": 0},
            dxfattribs=attributes,
        )
    style.render()
