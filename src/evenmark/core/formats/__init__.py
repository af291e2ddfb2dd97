"""Bytes to Drawing and back; the only place that knows the DXF and SVG libraries."""

import logging

from evenmark.core.drawing.model import Drawing
from evenmark.core.formats import dxf_read
from evenmark.core.formats.clean import cleaned
from evenmark.core.formats.dxf_over import without_marks
from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.formats.sniff import kind_of

__all__ = ["UnreadableDrawing", "read"]

logging.getLogger("ezdxf").setLevel(logging.ERROR)
"""What the library notes about files is said to people as oddities; its log is for its own developers."""


def read_file(data: bytes, *, quick: bool = True) -> Drawing:
    """Read a drawing of any open format: DXF of any version, ASCII or binary, SVG, or a document of steps.

    ``quick`` may be switched off to have DXF read through its library alone (the same result, slower). What
    cannot be kept of it is cleaned (`clean`). Raises UnreadableDrawing.
    """
    kind = kind_of(data)
    if kind == "steps":
        from evenmark.core.formats import steps

        return cleaned(steps.read_steps(data))
    if kind == "svg":
        from evenmark.core.formats import svg_read  # its library is slow to start, and most files are DXF

        return cleaned(svg_read.read_svg(data))
    return cleaned(without_marks(dxf_read.read_dxf(data, quick=quick)))
