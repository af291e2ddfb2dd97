"""Colours of what is printed, and lettering set with them."""

from __future__ import annotations

from reportlab.lib.colors import Color, HexColor
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from evenmark.core.sheet import faces

INK, SECOND, PENCIL, TEAL, RULE, KEY = (
    HexColor(c) for c in ("#23282F", "#5B636E", "#C4352B", "#0B6B6F", "#D8D3C7", "#77808B")
)


def words(
    canvas: Canvas,
    x: float,
    y: float,
    text: str,
    size: float,
    *,
    weight: int = faces.REGULAR,
    align: float = 0.0,
    color: Color = INK,
) -> None:
    """Set a line of text; ``align`` is the share of its width left of x. All in mm."""
    x -= faces.width(text, size, weight) * align
    canvas.setFillColor(color)
    canvas.setFont(faces.name_of(weight), size * mm)
    canvas.drawString(x * mm, y * mm, faces.settable(text, weight))
