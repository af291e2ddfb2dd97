"""DXF bytes to Drawing.

- *quick*: read straight from the tags (`dxf_quick`), for files of plain objects that are as the DXF reference
  says.
- *loaded*: read through the DXF library, which knows everything else and how to put damaged files in order.
- *unfold*: replace a block reference by what stands in the block, moved as the reference says.
"""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Iterable
from contextlib import suppress
from typing import Any, TypeVar

from ezdxf import recover
from ezdxf.document import Drawing as DxfDocument
from ezdxf.filemanagement import dxf_stream_info
from ezdxf.lldxf.tagger import binary_tags_loader

from evenmark.core.collector import held_still
from evenmark.core.drawing.annotations import Note
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Drawing, Entity, Layout, LayoutView, Text
from evenmark.core.formats import dxf_quick
from evenmark.core.formats.bounds import (
    BREAKS,
    MOST_ENTITIES,
    MOST_REFERENCES,
    MOST_UNFOLDED,
    REFERENCE_WEIGHT,
)
from evenmark.core.formats.collected import Collected
from evenmark.core.formats.dxf_look import Look
from evenmark.core.formats.dxf_objects import TAKERS
from evenmark.core.formats.dxf_tags import decoded, tags
from evenmark.core.formats.errors import Damaged, TooLarge, UnreadableDrawing
from evenmark.core.formats.oddities import DEEPEST_BLOCK, oddity
from evenmark.core.formats.sniff import kind_of
from evenmark.core.geometry.points import Point

SOLID_TYPES = frozenset(
    [
        "3DSOLID",
        "BODY",
        "REGION",
        "SURFACE",
        "EXTRUDEDSURFACE",
        "LOFTEDSURFACE",
        "REVOLVEDSURFACE",
        "SWEPTSURFACE",
        "PLANESURFACE",
        "MESH",
        "3DFACE",
    ]
)
_NOT_EXAMINED = frozenset(["TOLERANCE", "POINT"])
T = TypeVar("T")
_QUIET = frozenset(["VIEWPORT", "SEQEND"])
"""Objects that draw nothing of their own."""


def _load(data: bytes, binary: bool) -> DxfDocument:
    """Return the loaded document: the strict reader is faster and reads binary files, the recovering one
    opens what it refuses."""
    if binary:
        return DxfDocument.load(decoded(binary_tags_loader(data, errors="surrogateescape")))
    return _load_text(data, _decode(data))


def _load_text(data: bytes, text: str) -> DxfDocument:
    """Load ASCII: as it should be, else with what the library's strict reader bears, else with what can be
    recovered."""
    with suppress(Exception):
        return DxfDocument.from_tags(decoded(tags(text)) if "\\U+" in text else tags(text))
    with suppress(Exception):
        return DxfDocument.read(io.StringIO(text))
    if b"ENTITIES" not in data and b"EOF" not in data:
        raise Damaged  # a beginning and nothing else
    return recover.read(io.BytesIO(data))[0]


def document(data: bytes) -> DxfDocument:
    """Return the library's own document of a DXF file, to be written again with more in it. Raises
    UnreadableDrawing."""
    return _guarded(lambda: _load(data, kind_of(data) == "binary"))


def _decode(data: bytes) -> str:
    """Return the text of an ASCII file in the encoding that its header names (UTF-8 from R2007 on)."""
    data = data.removeprefix(b"\xef\xbb\xbf")
    if data.isascii():  # the same in every encoding
        return data.decode("ascii").replace("\r\n", "\n")
    text = data.decode("utf-8", "surrogateescape")
    encoding = "utf-8"
    with suppress(Exception):  # a header that breaks off names none
        encoding = dxf_stream_info(io.StringIO(text[:65536], newline=None)).encoding
    if encoding.lower().replace("-", "") != "utf8":
        with suppress(LookupError):
            text = data.decode(encoding, "surrogateescape")
    return text.replace("\r\n", "\n")


def read_dxf(data: bytes, *, quick: bool = True) -> Drawing:
    """Read a DXF file of any version, ASCII or binary.

    ``quick`` may be switched off to have everything read through the DXF library (the same result, slower).
    Raises UnreadableDrawing.
    """
    return _guarded(lambda: _read(data, quick))


def _guarded(work: Callable[[], T]) -> T:
    """Do some reading; whatever breaks over a file becomes a sentence."""
    try:
        with held_still():
            return work()
    except UnreadableDrawing:
        raise
    except MemoryError as why:
        raise TooLarge from why
    except BREAKS as why:
        raise Damaged from why


def _read(data: bytes, quick: bool) -> Drawing:
    binary = kind_of(data) == "binary"
    if not binary:
        text = _decode(data)
        if quick:
            drawing = dxf_quick.read_quickly(text)
            if drawing is not None:
                return drawing
        doc = _load_text(data, text)
    else:
        doc = _load(data, binary)
    reading = DxfReading(doc, data, declares_unit=b"$INSUNITS" in data)
    if b"EOF" not in data:
        reading.odd["cut-short", ""] += 1
    return reading.drawing()


class DxfReading(Collected):
    """One pass over a loaded document."""

    def __init__(self, doc: DxfDocument, data: bytes, declares_unit: bool) -> None:
        super().__init__()
        self.doc, self.data = doc, data
        self.declares_unit = declares_unit  # the library gives a file without header one of its own
        self.look = Look.of(doc)
        self.unfolded = 0
        self.references = 0

    def drawing(self) -> Drawing:
        """Return everything that was understood."""
        self.take(self.doc.modelspace(), None, None, "", 0)
        model = self.out
        dimensions, hatches, notes, endless = (
            tuple(self.dimensions),
            tuple(self.hatches),
            tuple(self.notes),
            tuple(self.endless),
        )
        return Drawing(
            entities=tuple(model),
            dimensions=dimensions,
            hatches=hatches,
            notes=tuple(_with_wording(notes, model)),
            endless=endless,
            layouts=self._sheets(),
            layers=self._layers(model),
            unit=self.unit(self._unit_code()),
            oddities=tuple(oddity(c, what, n) for (c, what), n in sorted(self.odd.items())),
            solids=self.solids,
            version=self.doc.acad_release,
        )

    def _layers(self, model: list[Entity]) -> dict[str, Layer]:
        """Return the layers of the file, without those that the library adds to every file by itself."""
        used = {e.layer for e in model}
        bare = [n for n in self.look.layers if n not in used and n != "0" and n.isascii()]
        added = {n for n in bare if n.encode() not in self.data and n in self.doc.layers}
        return {n: layer for n, layer in self.look.layers.items() if n not in added}

    def _unit_code(self) -> int | None:
        if not self.declares_unit or "$INSUNITS" not in self.doc.header:
            return None
        return int(self.doc.header["$INSUNITS"])

    def _sheets(self) -> tuple[Layout, ...]:
        """Read what stands on sheet layouts. What is odd there is not told, since nothing of it is examined
        in the model."""
        out = []
        odd = self.odd.copy()
        for layout in self.doc.layouts:
            name = str(layout.dxf.name)
            if name == "Model":
                continue
            self.out = []
            self.dimensions, self.hatches, self.notes = [], [], []
            self.take(layout, None, None, name, 0, on_sheet=True)
            views = tuple(v for v in map(_view_of, layout.query("VIEWPORT")) if v is not None)
            if self.out or views or self.dimensions or self.hatches or self.notes:
                out.append(
                    Layout(
                        name=name,
                        entities=tuple(self.out),
                        views=views,
                        paper=_paper_of(layout),
                        dimensions=tuple(self.dimensions),
                        hatches=tuple(self.hatches),
                        notes=tuple(_with_wording(self.notes, self.out)),
                    )
                )
        self.odd = odd
        return tuple(out)

    def take(
        self,
        entities: Iterable[Any],
        block_layer: str | None,
        block: Style | None,
        source: str,
        depth: int,
        *,
        on_sheet: bool = False,
    ) -> None:
        """Read entities of the model space or of a block; a block's look comes in as ``block_layer`` and
        ``block``."""
        look = self.look
        for index, entity in enumerate(entities):
            kind = entity.dxftype()
            self.unfolded += depth and (REFERENCE_WEIGHT if kind == "INSERT" else 1)
            if len(self.out) > MOST_ENTITIES or self.unfolded > MOST_UNFOLDED:
                most = MOST_UNFOLDED if depth else MOST_ENTITIES
                raise TooLarge(
                    f"The drawing unfolds to more than {most:,} objects. Remove what does not belong to it."
                )
            stated = entity.dxf.all_existing_dxf_attribs()
            if kind in _QUIET or (not on_sheet and stated.get("paperspace")):
                continue
            name = stated.get("layer", "0")
            layer = look.layer(block_layer if name == "0" and block_layer is not None else name)
            if stated.get("invisible") or not layer.shown:
                self.odd["switched-off", layer.name] += 1
                continue
            if kind != "INSERT" and kind not in TAKERS:
                if kind in SOLID_TYPES:
                    self.solids += 1
                self.odd["not-examined" if kind in _NOT_EXAMINED else "not-understood", kind] += 1
                continue
            style = look.style(stated, layer, block)
            handle = f"{source}/{index}" if source else str(stated.get("handle") or index)
            if kind == "INSERT":
                self._unfold(entity, layer.name, style, handle, depth)
                continue
            try:
                TAKERS[kind](self, entity, stated, (layer.name, style, handle))
            except BREAKS:
                self.odd["not-readable", kind] += 1

    def _unfold(self, insert: Any, layer: str, style: Style, handle: str, depth: int) -> None:
        if depth >= DEEPEST_BLOCK:
            self.odd["blocks-too-deep", str(insert.dxf.name)] += 1
            return
        if insert.block() is None:
            self.odd["block-missing", str(insert.dxf.name)] += 1
            return
        copies = insert.multi_insert() if insert.mcount > 1 else (insert,)
        for number, copy in enumerate(copies):
            self.references += 1
            if self.references > MOST_REFERENCES:
                raise TooLarge(
                    f"The drawing uses more than {MOST_REFERENCES:,} block references. Remove what does "
                    "not belong to it, or break blocks up."
                )
            path = f"{handle}.{number}" if insert.mcount > 1 else handle
            skipped: list[str] = []
            try:
                inside = copy.virtual_entities(
                    skipped_entity_callback=lambda e, _why, kinds=skipped: kinds.append(e.dxftype())
                )
                self.take(inside, layer, style, path, depth + 1)
            except UnreadableDrawing:
                raise
            except BREAKS:
                self.odd["not-readable", "INSERT"] += 1
            for kind in skipped:
                self.odd["not-understood", kind] += 1
            self.take(copy.attribs, layer, style, f"{path}/a", depth + 1)


def _with_wording(notes: Iterable[Note], entities: list[Entity]) -> list[Note]:
    """Give each leader that is tied to a text that text's wording, place and height."""
    from dataclasses import replace

    by_source = {e.source: e for e in entities if isinstance(e, Text)} if notes else {}
    out = []
    for leader in notes:
        text = by_source.get(leader.text_source)
        out.append(replace(leader, wording=text.wording, at=text.at, height=text.height) if text else leader)
    return out


def _view_of(viewport: Any) -> LayoutView | None:
    """Return a view on a sheet; None for the one that stands for the sheet itself, and for one that shows no
    plan."""
    d = viewport.dxf
    try:
        if int(d.get("id", 2)) == 1 or int(d.get("status", 1)) <= 0:
            return None
        width, height, seen = float(d.width), float(d.height), float(d.view_height)
        x, y = float(d.center.x), float(d.center.y)
        middle = d.get("view_center_point", (0.0, 0.0))
        target = d.get("view_target_point", (0.0, 0.0, 0.0))
        if not (width > 0 and height > 0 and seen > 0) or not math.isfinite(width + height + seen + x + y):
            return None
        return LayoutView(
            at=(x, y),
            size=(width, height),
            center=(float(middle[0]) + float(target[0]), float(middle[1]) + float(target[1])),
            seen=seen,
            turn_deg=float(d.get("view_twist_angle", 0.0)),
        )
    except BREAKS:
        return None


def _paper_of(layout: Any) -> Point | None:
    with suppress(*BREAKS):
        width, height = float(layout.dxf.paper_width), float(layout.dxf.paper_height)
        return (width, height) if width > 0 and height > 0 else None
    return None
