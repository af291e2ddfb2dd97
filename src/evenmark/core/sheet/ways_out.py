"""A document of steps as a file: its drawing as DXF, SVG or PDF, or the document itself as text or JSON."""

from __future__ import annotations

import json

from evenmark.core.construct.building import Built
from evenmark.core.construct.document import to_json, to_text
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.formats.svg_write import write_svg

VERSIONS = ("R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018")
USUAL_VERSION = "R2010"
WAYS_OUT = ("dxf", "svg", "pdf", "json", "txt")


def written(
    built: Built, way: str, *, title: str = "", version: str = USUAL_VERSION, binary: bool = False
) -> bytes:
    """Return the bytes of a file; ``way`` is one of `WAYS_OUT`. Raises Unwritable for what no file can
    hold."""
    if way == "dxf":
        return write_dxf(built.drawing, Manner(version=version, binary=binary, polylines=True))
    if way == "svg":
        return write_svg(built.drawing)
    if way == "pdf":
        from evenmark.core.sheet.drawn_pdf import drawing_pdf

        return drawing_pdf(built.drawing, title)
    if way == "txt":
        return to_text(built.document).encode()
    return (json.dumps(to_json(built.document), ensure_ascii=False, indent=1) + "\n").encode()
