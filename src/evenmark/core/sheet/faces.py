"""The lettering faces of printed sheets: one family in several files, each with some of the letters, so that every name can be set."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

FONTS = Path(__file__).parent / "fonts"
SUBSETS = ("", "latin-ext-", "greek-", "cyrillic-", "cyrillic-ext-", "vietnamese-")
REGULAR, BOLD = 400, 600
UNKNOWN = "?"


@cache
def _faces(weight: int) -> tuple[TTFont, ...]:
    out = []
    for subset in SUBSETS:
        font = TTFont(f"EvenMark{subset}{weight}", str(FONTS / f"source-sans-3-{subset}{weight}.ttf"))
        pdfmetrics.registerFont(font)
        out.append(font)
    return tuple(out)


def runs(text: str, weight: int = REGULAR) -> list[tuple[str, str]]:
    """Return a text as runs of face name and letters; letters that no face has become a question mark."""
    faces = _faces(weight)
    out: list[tuple[str, str]] = []
    for c in text:
        name = next((f.fontName for f in faces if ord(c) in f.face.charToGlyph), None)
        letter = c if name else UNKNOWN
        face = name or faces[0].fontName
        if out and out[-1][0] == face:
            out[-1] = (face, out[-1][1] + letter)
        else:
            out.append((face, letter))
    return out


def width(text: str, size: float, weight: int = REGULAR) -> float:
    """Return how wide a text is, in the unit of its size."""
    return sum(float(pdfmetrics.stringWidth(part, face, size)) for face, part in runs(text, weight))


def markup(text: str, weight: int = REGULAR) -> str:
    """Return a text as paragraph markup in which every letter has a face."""
    lines = ("".join(f'<font name="{face}">{escape(part)}</font>' for face, part in runs(line, weight)) for line in text.split("\n"))  # fmt: skip
    return "<br/>".join(lines)


def default_face(weight: int = REGULAR) -> str:
    """Return the name of the face that has the plain letters."""
    return str(_faces(weight)[0].fontName)
