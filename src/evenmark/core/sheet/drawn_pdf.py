"""A drawing as PDF at true scale: on the smallest paper of its unit's series that holds it at 1:1, else at
the largest standard reduction; nothing but what is drawn.

A drawing with a frame that is as large as a paper's border stands just so on that paper.
"""

from __future__ import annotations

import io
import math

from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from evenmark.core.conventions.papers import largest_scale, series
from evenmark.core.drawing.model import Drawing, Entity, Text
from evenmark.core.drawing.picture import CAPITALS, lines_of
from evenmark.core.drawing.shown import all_shown, box_shown
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point
from evenmark.core.geometry.units import MM
from evenmark.core.sheet import faces, pdf_path
from evenmark.core.sheet.inks import INK
from evenmark.core.sheet.svg import DASHES
from evenmark.core.sheet.tracing import curve_of, shape_of

EDGE = 5.0
"""Room round the drawing, mm."""
USUAL_WEIGHT = 0.25


def drawing_pdf(drawing: Drawing, title: str = "") -> bytes:
    """Return a drawing as PDF; the same bytes for the same drawing."""
    unit = drawing.unit or MM
    shown = all_shown(drawing)
    box = box_shown(shown) or (0.0, 0.0, 100.0, 70.0)
    paper, scale = _paper(box, unit.mm, unit.symbol)
    per_unit = scale * unit.mm
    left = (paper[0] - (box[2] - box[0]) * per_unit) / 2 - box[0] * per_unit
    bottom = (paper[1] - (box[3] - box[1]) * per_unit) / 2 - box[1] * per_unit
    out = io.BytesIO()
    c = Canvas(out, pagesize=(paper[0] * mm, paper[1] * mm), invariant=1, pageCompression=1)
    c.setTitle(title)
    c.setCreator("Even Mark")
    c.setLineCap(1)
    c.setLineJoin(1)
    pen = _PdfPen(c, left, bottom, per_unit)
    for e in shown:
        pen.draw(e)
    c.showPage()
    c.save()
    return out.getvalue()


def _paper(box: Box, unit_mm: float, unit: str) -> tuple[Point, float]:
    """Return the paper and the scale: 1:1 on the smallest that holds it, else reduced on the largest."""
    wide, high = (max(side, tol.LEAST_EXTENT) * unit_mm for side in (box[2] - box[0], box[3] - box[1]))
    papers = list(series(unit).values())
    for paper in papers:
        for turned in (paper, paper[::-1]):
            if wide <= turned[0] - 2 * EDGE and high <= turned[1] - 2 * EDGE:
                return turned, 1.0
    largest = papers[-1] if wide >= high else papers[-1][::-1]
    return largest, largest_scale((largest[0] - 2 * EDGE, largest[1] - 2 * EDGE), (wide, high))


class _PdfPen:
    """Draws entities on a page."""

    def __init__(self, canvas: Canvas, left: float, bottom: float, per_unit: float) -> None:
        self.c, self.left, self.bottom, self.per_unit = canvas, left, bottom, per_unit

    def at(self, p: Point) -> Point:
        return ((self.left + p[0] * self.per_unit) * mm, (self.bottom + p[1] * self.per_unit) * mm)

    def draw(self, e: Entity) -> None:
        if isinstance(e, Text):
            self.text(e)
            return
        weight = USUAL_WEIGHT if e.style.weight is None else e.style.weight
        self.c.setLineWidth(weight * mm)
        self.c.setStrokeColor(HexColor(e.style.color) if isinstance(e.style.color, str) else INK)
        dashes = [float(d) * mm for d in DASHES.get(e.style.line_type, "").split()]
        self.c.setDash(dashes or [])
        pdf_path.draw(self.c, [curve_of(shape_of(e))], self.at)

    def text(self, e: Text) -> None:
        for row in lines_of(e):
            self._row(row)

    def _row(self, e: Text) -> None:
        size = e.height * self.per_unit * mm / CAPITALS
        across, up = e.anchor.split()
        rise = e.height * self.per_unit * mm
        self.c.saveState()
        self.c.translate(*self.at(e.at))
        self.c.rotate(e.turn_deg)
        self.c.setFillColor(HexColor(e.style.color) if isinstance(e.style.color, str) else INK)
        wide = faces.width(e.wording, size)
        left = {"left": 0.0, "centre": -wide / 2, "right": -wide}[across]
        line = self.c.beginText(left, {"top": -rise, "middle": -rise / 2}.get(up, 0.0))
        line.setFont(faces.name_of(), size)
        if e.second is not None and wide > 0.0:
            line.setHorizScale(100.0 * math.dist(e.at, e.second) * self.per_unit * mm / wide)
        line.textOut(faces.settable(e.wording))
        self.c.drawText(line)
        self.c.restoreState()
