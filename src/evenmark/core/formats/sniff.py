"""What kind of file bytes are, before any parser sees them."""

from __future__ import annotations

from typing import Literal

from evenmark.core.construct.document import from_text
from evenmark.core.formats.errors import ClosedFormat, EmptyFile, TooLarge, UnreadableDrawing

MOST_BYTES = 32 * 1024 * 1024
"""A drawing of 40,000 objects is about 10 MB as ASCII DXF."""

BINARY_DXF = b" Binary DXF\r\n\x1a\x00"
"""How the 22 bytes at the start of every binary DXF file end (DXF reference, binary DXF files)."""

_OTHER: tuple[tuple[bytes, str], ...] = (
    (b"%PDF", "This is a PDF: a picture of the drawing, without its geometry."),
    (b"\x89PNG", "This is a PNG picture of the drawing, without its geometry."),
    (b"\xff\xd8\xff", "This is a JPEG picture of the drawing, without its geometry."),
    (b"PK\x03\x04", "This is a ZIP archive. Unpack it first."),
)
_HEAD, _LINES = 8192, 100
_CLOSED = (b"AC10", b"AC1.", b"AC2.1", b"MC0.0", b"\xd0\xcf\x11\xe0")


Kind = Literal["ascii", "binary", "svg", "steps"]


def kind_of(data: bytes, most: int = MOST_BYTES) -> Kind:
    """Say what bytes that may be a drawing are: ASCII DXF, binary DXF, SVG or a document of steps.

    Raises UnreadableDrawing (or a subclass) for anything that cannot be one of them.
    """
    if not data.strip(b"\0\r\n\t "):
        raise EmptyFile
    if len(data) > most:
        raise TooLarge(
            f"The file has {len(data) / 1048576:.0f} MB; at most {most / 1048576:.0f} MB are accepted. "
            "Remove what does not belong to the drawing, then export it as DXF again."
        )
    if data[:22].endswith(BINARY_DXF):
        return "binary"
    head = data[:512].lstrip(b"\xef\xbb\xbf \t\r\n")
    if head.startswith(_CLOSED):
        raise ClosedFormat
    for magic, says in _OTHER:
        if head[:64].lower().startswith(magic.lower()):
            raise UnreadableDrawing(f"{says} Export the drawing as DXF and use that file.")
    if head.startswith(b"<"):
        if b"<svg" in data[:4096] or b":svg" in data[:4096]:
            return "svg"
        raise UnreadableDrawing(
            "This is an XML file, not a drawing. Export the drawing as DXF or SVG and use that file."
        )
    if _starts_like_tags(data):
        return "ascii"
    if _looks_like_steps(data):
        return "steps"
    raise UnreadableDrawing


def _looks_like_steps(data: bytes) -> bool:
    """Say whether a file is a document of steps: JSON that says so, or text of which one line at least is a
    unit, a layer, a value or a sentence that can be read."""
    head = data[:_HEAD].lstrip(b"\xef\xbb\xbf \t\r\n")
    if head.startswith(b"{"):
        return b"even-mark/steps" in head
    if b"\0" in head:
        return False
    lines = head.decode("utf-8", "replace").splitlines()[:_LINES]
    document = from_text("\n".join(lines))
    kinds = {item.kind for item in document.items}
    return bool(kinds & {"unit", "layer", "value", "drawing"} or document.read)


def _starts_like_tags(data: bytes) -> bool:
    """Say whether the first line is a group code: ASCII DXF is pairs of a code line and a value line."""
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return False
    first = data[:4096].lstrip(b"\xef\xbb\xbf").split(b"\n", 1)[0].strip()
    try:
        return 0 <= int(first) <= 1071
    except ValueError:
        return False
