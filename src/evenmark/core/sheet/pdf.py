"""A marked drawing as PDF: the drawing at true scale with balloons and comments, then the slips and the
inspection list.

The drawing stands on the smallest sheet of the unit's series on which it fits at 1:1 (ISO 216 A4 to A0, or
ASME Y14.1 A to E; both from memory), else on the middle one at the largest standard reduction (ISO 5455). PDF
pages have exactly the sheet's size.
"""

from __future__ import annotations

import io
import math
from collections.abc import Sequence

from reportlab.lib.colors import Color, HexColor
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    NextPageTemplate,
    PageBreak,
    PageTemplate,
    Spacer,
)

from evenmark.core.conventions.papers import largest_scale, series
from evenmark.core.geometry import tolerance
from evenmark.core.geometry.points import Box, Point, middle
from evenmark.core.sheet import faces, pdf_path
from evenmark.core.sheet.balloons import stand
from evenmark.core.sheet.cells import fitted
from evenmark.core.sheet.inks import INK, KEY, PENCIL, SECOND, TEAL, words
from evenmark.core.sheet.marked import Mark, MarkedSheet, letter
from evenmark.core.sheet.pdf_list import head, story
from evenmark.core.sheet.svg import DASHES, NARROW, WIDE
from evenmark.core.sheet.tracing import Shape, TracedText, curve_of

EDGE, STRIP, ROUND = 8.0, 16.0, 18.0
"""Edge of the sheet, height of the title block, and room for balloons round the drawing, mm."""
TONES = {"met": TEAL, "near": HexColor("#8A5A00"), "follows": HexColor("#5F4B8B")}
BALLOON = 3.4
MOST_SKETCHES = 16


def marked_pdf(sheet: MarkedSheet) -> bytes:
    """Return the marked drawing; the same bytes for the same marks."""
    placing = _Placing(sheet)
    out = io.BytesIO()
    doc = BaseDocTemplate(
        out,
        title=f"{sheet.title}, {sheet.student}",
        author=sheet.student,
        creator="Even Mark",
        invariant=1,
        pageCompression=1,
    )
    w, h = placing.paper
    whole = Frame(0, 0, w * mm, h * mm, 0, 0, 0, 0)
    listed = next(iter(series(sheet.unit).values()))[::-1]
    column = Frame(18 * mm, 16 * mm, (listed[0] - 36) * mm, (listed[1] - 34) * mm, 0, 0, 0, 0)
    doc.addPageTemplates(
        [
            PageTemplate(
                "drawing",
                [whole],
                onPage=lambda c, _: _Draw(c, sheet, placing).all(),
                pagesize=(w * mm, h * mm),
            ),
            PageTemplate(
                "list",
                [column],
                onPage=lambda c, d: head(c, d, sheet, listed),
                pagesize=(listed[0] * mm, listed[1] * mm),
            ),
        ]
    )
    first: list[Flowable] = [NextPageTemplate("list"), Spacer(1, 1), PageBreak()]
    doc.build(first + story(sheet, listed[0] - 36))
    return out.getvalue()


class _Placing:
    """The paper, the scale, and where a place of the drawing comes to lie on it (mm, y up)."""

    def __init__(self, sheet: MarkedSheet) -> None:
        left, bottom, right, top = sheet.drawn["box"]
        wide, high = (
            max(right - left, tolerance.LEAST_EXTENT) * sheet.unit_mm,
            max(top - bottom, tolerance.LEAST_EXTENT) * sheet.unit_mm,
        )
        papers = list(series(sheet.unit).values())
        self.scale = 1.0
        self.paper = next((p for s in papers for p in (s, s[::-1]) if self._fits(p, wide, high)), papers[1])
        if not self._fits(self.paper, wide, high):
            self.scale = largest_scale(self._room(self.paper), (wide, high))
        self.per_unit = self.scale * sheet.unit_mm
        w, h = self.paper
        self.corner = (left, top)
        self.left = (w - wide * self.scale) / 2
        self.top = STRIP + EDGE + (h - STRIP - 2 * EDGE + high * self.scale) / 2
        self.center = self.at(middle((left, bottom), (right, top)))

    @staticmethod
    def _room(paper: Point) -> Point:
        return paper[0] - 2 * (EDGE + ROUND), paper[1] - 2 * (EDGE + ROUND) - STRIP

    def _fits(self, paper: Point, wide: float, high: float) -> bool:
        room = self._room(paper)
        return wide <= room[0] and high <= room[1]

    def at(self, p: Sequence[float]) -> Point:
        """Return where a place lies on the paper, in mm."""
        left, top = self.corner
        return (self.left + (p[0] - left) * self.per_unit, self.top - (top - p[1]) * self.per_unit)

    @property
    def frame(self) -> Box:
        """The frame that the drawing stands in, mm."""
        return (EDGE, EDGE + STRIP, self.paper[0] - EDGE, self.paper[1] - EDGE)


class _Draw:
    """Draws the first page."""

    def __init__(self, canvas: Canvas, sheet: MarkedSheet, placing: _Placing) -> None:
        self.c, self.sheet, self.p = canvas, sheet, placing

    def all(self) -> None:
        """Draw everything: key, drawing, sketches, balloons, comments, strip."""
        self.c.saveState()
        self.c.setLineCap(1)
        if self.sheet.key is not None:
            for f in self.sheet.key["features"]:
                self._lines([f["shape"]], KEY, NARROW / 2)
        for f in self.sheet.drawn["features"]:
            wrong = f["id"] in self.sheet.wrong
            wide = f["role"] == "outline" and f["line_type"] == "continuous"
            dashes = DASHES.get(f["line_type"])
            weight = WIDE if wide or wrong else NARROW
            self._lines([f["shape"]], PENCIL if wrong else INK, weight, dashes)
        beside = self.sheet.drawn["annotations"]
        self._lines(beside["shapes"], SECOND, NARROW / 2)
        for t in (*self.sheet.drawn["texts"], *beside["texts"]):
            self._lettering(t)
        for mark in self.sheet.sketches[:MOST_SKETCHES]:
            self._sketch(mark)
        self._balloons()
        self._pins()
        self._strip()
        self.c.restoreState()

    def _lines(self, shapes: list[Shape], color: Color, weight: float, dashes: str | None = None) -> None:
        if not shapes:
            return
        self.c.setStrokeColor(color)
        self.c.setLineWidth(weight * mm)
        self.c.setDash([float(d) * mm for d in dashes.split()] if dashes else [])
        pdf_path.draw(self.c, map(curve_of, shapes), self._pt)
        self.c.setDash([])

    def _pt(self, p: Point) -> Point:
        x, y = self.p.at(p)
        return x * mm, y * mm

    def _words(
        self,
        x: float,
        y: float,
        text: str,
        size: float,
        *,
        weight: int = faces.REGULAR,
        align: float = 0.0,
        color: Color = INK,
    ) -> None:
        words(self.c, x, y, text, size, weight=weight, align=align, color=color)

    def _lettering(self, t: TracedText) -> None:
        across, _, up = t["anchor"].partition(" ")
        height = t["height"] * self.p.per_unit
        size = height / 0.66
        x, y = self.p.at(t["at"])
        self.c.saveState()
        self.c.translate(x * mm, y * mm)
        self.c.rotate(t["turn"])
        drop = {"top": height, "middle": height / 2}.get(up, 0.0)
        align = {"centre": 0.5, "right": 1.0}.get(across, 0.0)
        for n, row in enumerate(t["wording"].split("\n")):
            self._words(0, -drop - n * size * 1.25, row, size, align=align, color=SECOND)
        self.c.restoreState()

    def _sketch(self, mark: Mark) -> None:
        color = PENCIL if mark["tone"] == "drawn" else KEY
        self.c.setStrokeColor(color)
        self.c.setLineWidth(0.2 * mm)
        a = self.p.at(mark["a"])
        if mark["as"] == "span":
            self._span(a, self.p.at(mark["b"]), mark["says"], color, 6.0 if mark["tone"] == "drawn" else 11.0)
        elif mark["as"] == "back":
            self.c.setStrokeColor(PENCIL)
            self._arrow(a, self.p.at(mark["b"]), PENCIL)
        elif mark["as"] == "reach":
            r, deg = mark["b"][0] * self.p.per_unit, math.radians(mark["b"][1])
            rim = (a[0] + r * math.cos(deg), a[1] + r * math.sin(deg))
            self._arrow(a, rim, color)
            left = rim[0] < a[0]
            self._words(
                rim[0] + (-1.5 if left else 1.5),
                rim[1] + 1.0,
                mark["says"],
                3.0,
                align=float(left),
                color=color,
            )
        else:
            start, sweep = mark["b"]
            r = 8.0 if mark["tone"] == "drawn" else 11.0
            if (
                abs(sweep) >= tolerance.SEEN_DEG
            ):  # a level line is asked for: there is no arc from level to level
                self.c.arc((a[0] - r) * mm, (a[1] - r) * mm, (a[0] + r) * mm, (a[1] + r) * mm, start, sweep)
            mid = math.radians(start + sweep / 2)
            self._words(
                a[0] + (r + 1) * math.cos(mid), a[1] + (r + 1) * math.sin(mid), mark["says"], 3.0, color=color
            )

    def _span(self, a: Point, b: Point, says: str, color: Color, off: float) -> None:
        far = math.dist(a, b)
        if far < 0.2:
            return
        ux, uy = (b[0] - a[0]) / far, (b[1] - a[1]) / far
        mid = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        nx, ny = -uy, ux
        if (mid[0] - self.p.center[0]) * nx + (mid[1] - self.p.center[1]) * ny < 0:
            nx, ny = -nx, -ny
        p, q = (a[0] + nx * off, a[1] + ny * off), (b[0] + nx * off, b[1] + ny * off)
        for start, end in ((a, p), (b, q)):
            self.c.line((start[0] + nx) * mm, (start[1] + ny) * mm, (end[0] + nx) * mm, (end[1] + ny) * mm)
        self._arrow(((p[0] + q[0]) / 2, (p[1] + q[1]) / 2), p, color)
        self._arrow(((p[0] + q[0]) / 2, (p[1] + q[1]) / 2), q, color)
        self._words(
            (p[0] + q[0]) / 2 + nx * 2.2,
            (p[1] + q[1]) / 2 + ny * 2.2 - 1.0,
            says,
            3.0,
            align=0.5,
            color=color,
        )

    def _arrow(self, a: Point, b: Point, color: Color) -> None:
        self.c.line(a[0] * mm, a[1] * mm, b[0] * mm, b[1] * mm)
        turn = math.atan2(b[1] - a[1], b[0] - a[0])
        head = self.c.beginPath()
        head.moveTo(b[0] * mm, b[1] * mm)
        for side in (0.22, -0.22):
            head.lineTo((b[0] - 2.2 * math.cos(turn + side)) * mm, (b[1] - 2.2 * math.sin(turn + side)) * mm)
        head.close()
        self.c.setFillColor(color)
        self.c.drawPath(head, stroke=0, fill=1)

    def _balloons(self) -> None:
        places = {b.id: self.p.at(b.at) for b in self.sheet.balloons}
        stands = stand(places, self.p.center, self.p.frame)
        for b in self.sheet.balloons:
            if b.id not in stands:
                continue
            color = TONES.get(b.verdict, PENCIL)
            (x, y), at = stands[b.id], places[b.id]
            self.c.setStrokeColor(color)
            self.c.setFillColor(HexColor("#FFFFFF"))
            self.c.setLineWidth(0.25 * mm)
            self.c.line(at[0] * mm, at[1] * mm, x * mm, y * mm)
            self.c.setDash([0.8 * mm, 0.6 * mm] if b.verdict == "absent" else [])
            self.c.circle(x * mm, y * mm, BALLOON * mm, fill=1)
            self.c.setDash([])
            self._words(
                x, y - 1.1, str(b.id), 3.2 if b.id < 100 else 2.7, weight=faces.BOLD, align=0.5, color=color
            )

    def _pins(self) -> None:
        for pin in self.sheet.pins:
            if pin.at is None:
                continue
            x, y = self.p.at(pin.at)
            self.c.setFillColor(TEAL)
            self.c.rect((x - 2.4) * mm, y * mm, 4.8 * mm, 4.6 * mm, stroke=0, fill=1)
            self._words(
                x, y + 1.2, letter(pin.number), 3.2, weight=faces.BOLD, align=0.5, color=HexColor("#FFFFFF")
            )

    def _strip(self) -> None:
        left, bottom, right, top = self.p.frame
        self.c.setStrokeColor(INK)
        self.c.setLineWidth(0.7 * mm)
        self.c.rect(left * mm, (bottom - STRIP) * mm, (right - left) * mm, (top - bottom + STRIP) * mm)
        self.c.setLineWidth(0.35 * mm)
        self.c.line(left * mm, bottom * mm, right * mm, bottom * mm)
        scale = self.p.scale
        said = "to scale, 1:1" if scale == 1.0 else f"1:{1 / scale:.4g}"
        cells = [
            ("Drawn by", self.sheet.student),
            ("Exercise", self.sheet.title),
            ("Group", self.sheet.group),
            ("Marks", self.sheet.score),
            ("Scale", said),
            ("Unit", self.sheet.unit),
        ]
        shares = (0.23, 0.29, 0.13, 0.15, 0.12, 0.08)
        x = left
        for (label, value), share in zip(cells, shares, strict=True):
            room = (right - left) * share
            if x > left:
                self.c.line(x * mm, bottom * mm, x * mm, (bottom - STRIP) * mm)
            self._words(x + 1.8, bottom - 4.6, label, 2.6, color=SECOND)
            lines, size = fitted(value, room - 3.6, 4.6, faces.BOLD)
            places = (bottom - 11.6,) if len(lines) == 1 else (bottom - 9.4, bottom - 13.2)
            for line, y in zip(lines, places, strict=True):
                self._words(x + 1.8, y, line, size, weight=faces.BOLD)
            x += room
        self._check_bar(right, top)

    def _check_bar(self, right: float, top: float) -> None:
        """Draw a bar of known length, so that a print can be checked with a ruler."""
        length, word = (
            (50.0, "50 mm on paper") if self.sheet.unit not in ("in", "ft") else (50.8, "2 in on paper")
        )
        y = top - 3.5
        self.c.setLineWidth(0.2 * mm)
        self.c.line((right - 4 - length) * mm, y * mm, (right - 4) * mm, y * mm)
        for x in (right - 4 - length, right - 4):
            self.c.line(x * mm, (y - 1.2) * mm, x * mm, (y + 1.2) * mm)
        self._words(right - 4 - length / 2, y - 3.4, word, 2.4, align=0.5, color=SECOND)
