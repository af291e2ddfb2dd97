"""Entities as objects of a DXF file, in any of the ways that programs draw the same thing.

- *manner*: the way: which version, lines or polylines, whole or in pieces, circles as circles or as arcs,
  seen from above or below, flat or in nested mirrored blocks, in which unit. No manner changes what the
  drawing looks like or measures.

Entities that share a source are one polyline where the manner draws polylines; they must then follow each
other.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from itertools import groupby, pairwise
from typing import Any, Literal

from ezdxf.document import Drawing as DxfDocument
from ezdxf.enums import TextEntityAlignment

from evenmark.core.conventions.lines import PATTERNS
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, FreeCurve, Layout, Line, Text
from evenmark.core.drawing.picture import lines_of
from evenmark.core.formats.dxf_objects import OWN
from evenmark.core.formats.dxf_words import line_code, paragraph_code
from evenmark.core.geometry import arcs
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.ellipses import axes_of
from evenmark.core.geometry.points import Point, point_on
from evenmark.core.geometry.units import Unit

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


def pattern_name(name: str) -> str:
    """Return what a kind of line is called in a file."""
    return name.upper().replace(" ", "_")


def add_line_type(doc: DxfDocument, name: str, says: str, elements: tuple[float, ...]) -> None:
    """Declare a line type."""
    doc.linetypes.add(name, [sum(abs(e) for e in elements), *elements], description=says)


def line_type(doc: DxfDocument, style: Style) -> str:
    """Return the name of a style's line type, which is declared if it is not yet: one for each length of
    dashes."""
    elements = PATTERNS.get(style.line_type)
    if elements is None:
        return "Continuous"
    name, usual = pattern_name(style.line_type), sum(abs(e) for e in elements)
    if style.dash in (0.0, usual):
        return name
    name = f"{name}_{style.dash:.17g}".replace(".", "_").replace("+", "").replace("-", "M")
    if name not in doc.linetypes:
        made = [e * style.dash / usual for e in elements[:-1]]
        made.append(-(style.dash - sum(map(abs, made))))  # together they are as long to the last digit
        add_line_type(doc, name, style.line_type, tuple(made))
    return name


class Pen:
    """Draws entities into spaces of a document in one manner."""

    def __init__(self, doc: DxfDocument, manner: Manner, drawing: Drawing) -> None:
        self.doc, self.manner, self.layers = doc, manner, drawing.layers
        self.space: Any = None
        self.inch = drawing.unit is not None and drawing.unit.imperial
        self.handles: dict[str, str] = {}
        """The handle of each text that a note is tied to, by its source."""
        spaces: list[Drawing | Layout] = [drawing, *drawing.layouts]
        self.tied = {n.text_source for d in spaces for n in d.notes} - {""}
        self.laid_out = False

    def fill(self, space: Any, entities: list[Entity]) -> None:
        """Draw entities into a space; those of one source follow each other."""
        self.space = space
        for _, group in groupby(entities, key=lambda e: e.source):
            self.draw(list(group))

    def draw_alone(self, space: Any, e: Entity) -> None:
        """Draw one entity of a picture into a block."""
        self.space = space
        self.draw([e])

    def look(self, e: Any) -> dict[str, Any]:
        """Return the attributes that make something look as it should."""
        out: dict[str, Any] = {"layer": e.layer.upper() if self.manner.lettercase else e.layer}
        own = self.layers.get(e.layer)
        given = own.style if own is not None else Style()
        if self.manner.explicit or given != e.style:
            if isinstance(e.style.color, int):
                out["color"] = e.style.color
            elif self.manner.version != "R12":
                out["true_color"] = int(e.style.color[1:], 16)
            out["linetype"] = line_type(self.doc, e.style)
            if e.style.weight is not None and self.manner.version != "R12":
                out["lineweight"] = round(e.style.weight * 100)
            elif given.weight is not None and self.manner.version != "R12":
                out["lineweight"] = -3  # none is stated, though its layer states one
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
            *degrees_of(start, sweep),
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
        of it; points that are those of an ellipse as one."""
        axes = axes_of(e.points) if e.kind == "ellipse" and self.manner.version != "R12" else None
        if axes is not None:
            self.space.add_ellipse(axes.center, axes.major, axes.ratio, dxfattribs=self.look(e))
        elif self.manner.version == "R12":
            self.space.add_polyline2d(e.points, dxfattribs=self.look(e))
        else:
            points = [(x, y, 0.0) for x, y in e.points]
            made = self.space.add_open_spline(points, degree=1, dxfattribs=self.look(e))
            if e.kind != "spline":
                if OWN not in self.doc.appids:
                    self.doc.appids.add(OWN)
                made.set_xdata(OWN, [(1000, e.kind)])

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
        look = {**self.look(e), "rotation": e.turn_deg, "style": self._face(e.face)}
        across, up = e.anchor.split()
        if self.manner.version == "R12" and "\n" in e.wording:
            for line in lines_of(e):
                self._text(line)
            return
        if (self.manner.paragraph or "\n" in e.wording) and self.manner.version != "R12" and up != "baseline":
            attached = {"top": 0, "middle": 3, "bottom": 6}[up] + {"left": 1, "centre": 2, "right": 3}[across]
            made = self.space.add_mtext(
                paragraph_code(e.wording),
                dxfattribs={**look, "char_height": e.height, "attachment_point": attached},
            )
            made.dxf.insert = e.at
            if e.source in self.tied:
                self.handles[e.source] = made.dxf.handle
            return
        text = self.space.add_text(line_code(e.wording), height=e.height, dxfattribs=look)
        if e.second is not None:
            align = TextEntityAlignment.ALIGNED if e.fits == "size" else TextEntityAlignment.FIT
            text.set_placement(e.at, e.second, align=align)
            text.dxf.rotation = e.turn_deg
        else:
            text.set_placement(e.at, align=_ALIGNED[across][_UP.index(up)])
        if e.source in self.tied:
            self.handles[e.source] = text.dxf.handle

    def _face(self, face: str) -> str:
        """Return the name of the text style of a lettering face, which is declared if it is not yet."""
        if not face:
            return "Standard"
        if face not in self.doc.styles:
            self.doc.styles.add(face, font=f"{face}.ttf")
        return face


def degrees_of(start_rad: float, sweep_rad: float) -> tuple[float, float]:
    """Return start and end of an arc in degrees, so that reading them gives the same numbers again where any
    degrees do."""
    start = _degrees(start_rad, lambda d: math.radians(d % 360.0), math.degrees(start_rad))
    end = _degrees(
        sweep_rad, lambda d: math.radians((d - start) % 360.0 or 360.0), start + math.degrees(sweep_rad)
    )
    return start, end


def _degrees(wanted: float, read: Callable[[float], float], near: float) -> float:
    tried = [round(near, 9), near]
    up = down = near
    for _ in range(4):
        up, down = math.nextafter(up, math.inf), math.nextafter(down, -math.inf)
        tried += [up, down]
    return next((d for d in tried if read(d) == wanted), near)


def _start_of(first: Line | Arc, second: Line | Arc) -> Point:
    """Return the end of the first piece that does not meet the second."""
    meets = min(math.dist(first.end, second.start), math.dist(first.end, second.end))
    other = min(math.dist(first.start, second.start), math.dist(first.start, second.end))
    return first.start if meets <= other else first.end
