"""Drawing to DXF bytes, in any of the ways that programs draw the same thing (`dxf_pen`)."""

from __future__ import annotations

import io
from typing import Any

from ezdxf.document import Drawing as DxfDocument
from ezdxf.filemanagement import new

from evenmark.core.conventions.lines import PATTERNS
from evenmark.core.drawing.model import Drawing, Entity, Layout, Line
from evenmark.core.drawing.moving import moved_drawing, moved_entity
from evenmark.core.formats.dxf_holds import refused
from evenmark.core.formats.dxf_pen import Manner, Pen, add_line_type, line_type, pattern_name
from evenmark.core.formats.dxf_write_annotations import add_dimension, add_endless, add_hatch, add_note
from evenmark.core.formats.errors import Unwritable
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.geometry.units import dxf_code


def write_dxf(drawing: Drawing, manner: Manner | None = None) -> bytes:
    """Return the bytes of a DXF file. Raises Unwritable for what no DXF file can hold; what the version alone
    cannot hold is left out (see `dxf_holds.left_out`)."""
    manner = manner or Manner()
    why = refused(drawing)
    if why:
        raise Unwritable(why)
    doc = _document(drawing, manner)
    scale = drawing.unit.mm / manner.unit.mm if manner.unit and drawing.unit else 1.0
    drawing = moved_drawing(drawing, Similarity(scale=scale, shift=manner.shift))
    entities = list(drawing.entities)
    if manner.reverse:
        entities = [_reversed(e) for e in reversed(entities)]
    space: Any = doc.modelspace()
    pen = Pen(doc, manner, drawing)
    inside = space
    if manner.blocks:
        inside = _mirrored_blocks(doc, space)
        entities = [moved_entity(e, Similarity(mirror=True)) for e in entities]  # and back by the blocks
    pen.fill(inside, entities)
    _annotate(space, drawing, pen)
    if manner.version != "R12":
        for layout in drawing.layouts:
            _layout(doc, layout, pen)
    return to_bytes(doc, manner.binary)


def _annotate(space: Any, drawing: Drawing | Layout, pen: Pen) -> None:
    """Add what a drawing or a layout says beside its features, as far as the version holds it."""
    for d in drawing.dimensions:
        if d.kind != "arc" or pen.manner.version != "R12":
            add_dimension(space, d, pen.look, pen.draw_alone, inch=pen.inch)
    if pen.manner.version == "R12":
        return
    for h in drawing.hatches:
        add_hatch(space, h, pen.look)
    for n in drawing.notes:
        add_note(space, n, pen.look, pen.handles)
    if isinstance(drawing, Drawing):
        for e in drawing.endless:
            add_endless(space, e, pen.look)


def _layout(doc: DxfDocument, layout: Layout, pen: Pen) -> None:
    """Add a sheet layout: its paper, what stands on it, its views."""
    made = doc.layouts.get("Layout1") if len(doc.layouts) == 2 and not pen.laid_out else None
    if made is not None:
        if layout.name != "Layout1":
            doc.layouts.rename("Layout1", layout.name)
        pen.laid_out = True
    else:
        made = doc.layouts.new(layout.name)
    space: Any = made
    if layout.paper is not None:
        space.page_setup(size=layout.paper, margins=(0, 0, 0, 0), units="mm")
        space.dxf.paper_width, space.dxf.paper_height = layout.paper
    else:
        space.dxf.paper_width = space.dxf.paper_height = 0.0
    pen.fill(space, list(layout.entities))
    _annotate(space, layout, pen)
    for n, view in enumerate(layout.views, 2):
        window = space.add_viewport(view.at, view.size, view.center, view.seen, status=n)
        window.dxf.view_twist_angle = view.turn_deg


def _document(drawing: Drawing, manner: Manner) -> DxfDocument:
    doc = new(manner.version, setup=False)
    for name in [str(layer.dxf.name) for layer in doc.layers]:
        if name not in ("0", *drawing.layers):
            doc.layers.remove(name)  # the library declares one of its own
    unit = manner.unit or drawing.unit
    if manner.version != "R12":  # which knows no units
        doc.header["$INSUNITS"] = dxf_code(unit) if unit else 0
    doc.header["$MEASUREMENT"] = 0 if unit and unit.imperial else 1
    for name, elements in PATTERNS.items():
        add_line_type(doc, pattern_name(name), name, elements)
    for layer in drawing.layers.values():
        name = layer.name.upper() if manner.lettercase else layer.name
        made = doc.layers.get(name) if name in doc.layers else doc.layers.add(name)
        made.dxf.linetype = line_type(doc, layer.style)
        if isinstance(layer.style.color, int):
            made.color = layer.style.color
        else:
            made.rgb = _rgb(layer.style.color)
        if layer.style.weight is not None and manner.version != "R12":
            made.dxf.lineweight = round(layer.style.weight * 100)
        if not layer.shown:
            made.off()
    return doc


def _rgb(color: str) -> tuple[int, int, int]:
    return int(color[1:3], 16), int(color[3:5], 16), int(color[5:7], 16)


def to_bytes(doc: DxfDocument, binary: bool) -> bytes:
    """Return a document of the DXF library as a file."""
    if binary:
        out = io.BytesIO()
        doc.write(out, fmt="bin")
        return out.getvalue()
    text = io.StringIO()
    doc.write(text)
    return text.getvalue().encode(doc.output_encoding, "dxfreplace")


def _reversed(e: Entity) -> Entity:
    return e._replace(start=e.end, end=e.start) if isinstance(e, Line) else e


def _mirrored_blocks(doc: DxfDocument, space: Any) -> Any:
    """Return a block to draw in: mirrored, turned and moved by one reference and brought back by the one
    around it."""
    inner, outer = doc.blocks.new("INNER"), doc.blocks.new("OUTER")
    # outer turns by 90 and moves; inner mirrors and turns back: together they only mirror
    outer.add_blockref(
        "INNER", (5.0, 3.0), dxfattribs={"xscale": -2.0, "yscale": 2.0, "rotation": -90.0, "layer": "0"}
    )
    # q = turn90(p'), p' = (5, 3) + turn-90(mirror(p) * 2): scaled by a half, moved back by turn90(5, 3) / 2 =
    # (-1.5, 2.5)
    space.add_blockref(
        "OUTER", (1.5, -2.5), dxfattribs={"xscale": 0.5, "yscale": 0.5, "rotation": 90.0, "layer": "0"}
    )
    return inner
