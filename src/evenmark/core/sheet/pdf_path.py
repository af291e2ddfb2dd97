"""Lines and arcs as paths of a PDF page, which knows no arcs: they become curves that are off by less than a
ten-millionth of their radius."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

from reportlab.pdfgen.canvas import Canvas
from reportlab.pdfgen.pathobject import PDFPathObject

from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.deterministic import cos_sin
from evenmark.core.geometry.points import Point
from evenmark.core.sheet.tracing import Along, Plain

WIDEST_RAD = math.radians(22.5)
"""The widest arc that one curve of the third degree stands for."""


def draw(canvas: Canvas, curves: Iterable[Plain], at: Callable[[Point], Point]) -> None:
    """Draw lines and arcs with the pen as it is set, as one path; ``at`` gives where a point lies on the
    page, in points."""
    path = canvas.beginPath()
    last: Point | None = None
    for curve in curves:
        first, *rest = curve.points if isinstance(curve, Along) else (curve.start, curve.end)
        if first != last:
            path.moveTo(*at(first))
        if isinstance(curve, Round):
            _round(path, curve, at)
            if curve.whole:
                path.close()
        else:
            for p in rest:
                path.lineTo(*at(p))
        last = rest[-1]
    canvas.drawPath(path)


def _round(path: PDFPathObject, r: Round, at: Callable[[Point], Point]) -> None:
    n = max(1, math.ceil(r.sweep_rad / WIDEST_RAD))
    step = r.sweep_rad / n
    k = 4 / 3 * math.tan(step / 4)
    (cx, cy), radius = r.center, r.radius
    for i in range(n):
        (ca, sa), (cb, sb) = cos_sin(r.start_rad + i * step), cos_sin(r.start_rad + (i + 1) * step)
        p = (cx + radius * (ca - k * sa), cy + radius * (sa + k * ca))
        q = (cx + radius * (cb + k * sb), cy + radius * (sb - k * cb))
        end = r.end if i == n - 1 else (cx + radius * cb, cy + radius * sb)
        path.curveTo(*at(p), *at(q), *at(end))
