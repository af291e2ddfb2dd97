"""The lettering face of printed sheets: Latin, Greek and Cyrillic letters, so that nearly every name can be
set and searched for."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

FONTS = Path(__file__).parent / "fonts"
REGULAR, BOLD = 400, 600
UNKNOWN = "?"
"""What stands for a letter that the face does not have."""


@cache
def _face(weight: int) -> TTFont:
    font = TTFont(f"EvenMark{weight}", str(FONTS / f"lettering-{weight}.ttf"))
    pdfmetrics.registerFont(font)
    return font


def name_of(weight: int = REGULAR) -> str:
    """Return the name under which a weight of the face is known to the PDF library."""
    return str(_face(weight).fontName)


def settable(text: str, weight: int = REGULAR) -> str:
    """Return a text in which letters that the face does not have are question marks."""
    known = _face(weight).face.charToGlyph
    return "".join(c if ord(c) in known or c == "\n" else UNKNOWN for c in text)


def width(text: str, size: float, weight: int = REGULAR) -> float:
    """Return how wide a text is, in the unit of its size."""
    return float(pdfmetrics.stringWidth(settable(text, weight), name_of(weight), size))


def markup(text: str, weight: int = REGULAR) -> str:
    """Return a text as paragraph markup."""
    return (
        f'<font name="{name_of(weight)}">' + escape(settable(text, weight)).replace("\n", "<br/>") + "</font>"
    )
