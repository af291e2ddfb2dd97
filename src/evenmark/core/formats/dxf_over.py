"""Drawing over a file: more objects on layers of their own, while everything in the file stays as it is; and
reading past them.

- *over*: what is drawn over, in the file's own coordinates and unit.
- *marks layers*: layers whose names begin with ``EVENMARK-``; what stands on them was drawn over and is never
  part of an attempt.
"""

from __future__ import annotations

import math
from contextlib import suppress
from dataclasses import dataclass, field, replace

from ezdxf.document import Drawing as DxfDocument
from ezdxf.enums import TextEntityAlignment

from evenmark.core.drawing.model import Drawing
from evenmark.core.formats import dxf_read, dxf_write
from evenmark.core.formats.bounds import BREAKS
from evenmark.core.formats.dxf_fit import fitted
from evenmark.core.formats.oddities import oddity
from evenmark.core.formats.sniff import kind_of
from evenmark.core.geometry.points import Point

PREFIX = "EVENMARK-"


@dataclass(frozen=True, kw_only=True, slots=True)
class OverText:
    """A line of lettering with its place at its left end, or at its middle."""

    text: str
    at: Point
    height: float
    layer: str
    centred: bool = False


@dataclass(kw_only=True)
class Over:
    """What is drawn over a file. ``layers`` gives each layer its indexed colour (DXF reference: 1 red, 4
    cyan, 8 grey)."""

    layers: dict[str, int]
    lines: list[tuple[Point, Point, str]] = field(default_factory=list)
    arcs: list[tuple[Point, float, float, float, str]] = field(default_factory=list)
    """Centre, radius, start and end in degrees counter-clockwise, layer."""
    circles: list[tuple[Point, float, str]] = field(default_factory=list)
    texts: list[OverText] = field(default_factory=list)


def read_over(data: bytes) -> Drawing:
    """Read a file of any format as an attempt is read. Raises UnreadableDrawing."""
    from evenmark.core import formats  # which itself leaves out what stands on the layers of this module

    return formats.read_file(data)


def without_marks(drawing: Drawing) -> Drawing:
    """Return a drawing without what was drawn over it earlier, and with a note of that: a marked file that
    was corrected can be handed in."""
    if not any(name.upper().startswith(PREFIX) for name in drawing.layers):
        return drawing
    own = tuple(e for e in drawing.entities if not e.layer.upper().startswith(PREFIX))
    count = len(drawing.entities) - len(own)
    layers = {n: layer for n, layer in drawing.layers.items() if not n.upper().startswith(PREFIX)}
    odd = (oddity("marks-left-out", PREFIX, count),) if count else ()
    return replace(drawing, entities=own, layers=layers, oddities=(*drawing.oddities, *odd))


def draw_over(data: bytes, over: Over) -> bytes:
    """Return a file with more drawn over it, in its own version, ASCII or binary as it was; what was drawn
    over it earlier goes.

    A file that is not DXF, or so odd that it can be read and not be written again, becomes DXF as it was
    understood; the lettering says so. Raises UnreadableDrawing.
    """
    binary = kind_of(data) == "binary"
    if kind_of(data) not in ("svg", "steps"):
        with suppress(*BREAKS):
            written = _written(dxf_read.document(data), over, binary)
            dxf_read.read_dxf(written)  # what cannot be read again is of no use to anybody
            return written
    drawing, notes = fitted(read_over(data))
    doc = dxf_read.document(dxf_write.write_dxf(drawing))
    return _written(doc, _with_notes(over, notes), binary)


def _written(doc: DxfDocument, over: Over, binary: bool) -> bytes:
    _fill(doc, over)
    return dxf_write.to_bytes(doc, binary)


def _with_notes(over: Over, notes: list[str]) -> Over:
    """Return what is drawn over with some lines more below its list."""
    if not over.texts or not notes:
        return over
    last = min(over.texts, key=lambda t: t.at[1])
    lines = [
        replace(last, text=note, centred=False, at=(last.at[0], last.at[1] - (n + 2) * 1.7 * last.height))
        for n, note in enumerate(notes)
    ]
    return replace(over, texts=[*over.texts, *lines])


def _fill(doc: DxfDocument, over: Over) -> None:
    space = doc.modelspace()
    for old in [e for e in space if str(e.dxf.get("layer", "")).upper().startswith(PREFIX)]:
        space.delete_entity(old)
    for name, color in over.layers.items():
        if name not in doc.layers:
            doc.layers.add(name, color=color)
    for a, b, layer in over.lines:
        space.add_line(a, b, dxfattribs={"layer": layer})
    for center, radius, start_deg, end_deg, layer in over.arcs:
        space.add_arc(center, radius, start_deg, end_deg, dxfattribs={"layer": layer})
    for center, radius, layer in over.circles:
        space.add_circle(center, radius, dxfattribs={"layer": layer})
    for t in over.texts:
        made = space.add_text(t.text, height=t.height, dxfattribs={"layer": t.layer})
        made.set_placement(
            t.at, align=TextEntityAlignment.MIDDLE_CENTER if t.centred else TextEntityAlignment.LEFT
        )


def arc_through(
    start: Point, via: Point, end: Point, center: Point, layer: str
) -> tuple[Point, float, float, float, str]:
    """Return the arc about a centre from one point past another to a third, the way `Over` holds it."""
    left = (via[0] - start[0]) * (end[1] - via[1]) - (via[1] - start[1]) * (end[0] - via[0]) > 0
    first, last = (start, end) if left else (end, start)
    begin, stop = (math.degrees(math.atan2(p[1] - center[1], p[0] - center[0])) for p in (first, last))
    return center, math.dist(center, start), begin, stop, layer
