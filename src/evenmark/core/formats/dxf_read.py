"""DXF bytes to Drawing.

- *flipped normal*: an object drawn in a plane seen from below (normal 0, 0, -1). By the arbitrary axis algorithm of the
  DXF reference its x runs backward: (x, y) is (-x, y) on the sheet, and counter-clockwise becomes clockwise.
- *unfold*: replace a block reference by what stands in the block, moved as the reference says.
"""

from __future__ import annotations

import io
import math
from collections import Counter
from collections.abc import Iterable
from contextlib import suppress
from typing import Any

from ezdxf import recover
from ezdxf.document import Drawing as DxfDocument
from ezdxf.filemanagement import dxf_stream_info
from ezdxf.lldxf.const import DXFError
from ezdxf.lldxf.tagger import binary_tags_loader
from ezdxf.math import OCS, Vec3

from evenmark.core.collector import held_still
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line, Style, Text
from evenmark.core.formats.dxf_look import Look
from evenmark.core.formats.dxf_tags import tags
from evenmark.core.formats.errors import Damaged, TooLarge, UnreadableDrawing
from evenmark.core.formats.oddities import DEEPEST_BLOCK, oddity
from evenmark.core.formats.sniff import check_bytes
from evenmark.core.geometry import arcs, tolerance, units
from evenmark.core.geometry.points import Point

MOST_ENTITIES = 200_000
"""What one file may unfold to; block references inside block references multiply."""
FARTHEST = 1e12
"""Coordinates beyond this are no drawing: a thousandth is no longer held exactly there by a 64-bit number."""

BREAKS = (DXFError, ArithmeticError, ValueError, KeyError, IndexError, TypeError, AttributeError, RecursionError, OSError)  # fmt: skip
"""What the library or we may raise over a file that is not as it should be; anything else is a fault of ours."""

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
_HORIZONTAL = {0: "left", 1: "centre", 2: "right", 3: "left", 4: "centre", 5: "left"}
_VERTICAL = {0: "baseline", 1: "bottom", 2: "middle", 3: "top"}
_ATTACHED = ("left top", "centre top", "right top", "left middle", "centre middle", "right middle",
             "left bottom", "centre bottom", "right bottom")  # fmt: skip


def load(data: bytes) -> DxfDocument:
    """Return the loaded document; this alone is the reading floor that `bench/` compares with.

    The strict reader is faster and reads binary files; the recovering one opens files that it refuses.

    Raises UnreadableDrawing (or a subclass) with a sentence that says what to do.
    """
    binary = check_bytes(data)
    try:
        if binary:
            return DxfDocument.load(binary_tags_loader(data, errors="surrogateescape"))
        return _load_text(data)
    except UnreadableDrawing:
        raise
    except MemoryError as why:
        raise TooLarge from why
    except BREAKS as why:
        raise Damaged from why


def _load_text(data: bytes) -> DxfDocument:
    """Load ASCII: as it should be, else with what the library's strict reader bears, else with what can be recovered."""
    text = _decode(data)
    with suppress(Exception):
        return DxfDocument.from_tags(tags(text))
    with suppress(Exception):
        return DxfDocument.read(io.StringIO(text))
    if b"ENTITIES" not in data and b"EOF" not in data:
        raise Damaged  # a beginning and nothing else
    return recover.read(io.BytesIO(data))[0]


def _decode(data: bytes) -> str:
    """Return the text of an ASCII file in the encoding that its header names (UTF-8 from R2007 on)."""
    data = data.removeprefix(b"\xef\xbb\xbf")
    text = data.decode("utf-8", "surrogateescape")
    encoding = "utf-8"
    with suppress(Exception):  # a header that breaks off names none
        encoding = dxf_stream_info(io.StringIO(text[:65536], newline=None)).encoding
    if encoding.lower().replace("-", "") != "utf8":
        with suppress(LookupError):
            text = data.decode(encoding, "surrogateescape")
    return text.replace("\r\n", "\n")


def read(data: bytes, *, annotations: bool = False) -> Drawing:
    """Read a DXF file of any version, ASCII or binary.

    ``annotations`` also reads the pictures of dimensions, which only a sheet shows. Raises UnreadableDrawing.
    """
    try:
        with held_still():
            reading = _Reading(load(data), annotations, declares_unit=b"$INSUNITS" in data)
            if b"EOF" not in data:
                reading.odd["cut-short", ""] += 1
            return reading.drawing()
    except UnreadableDrawing:
        raise
    except BREAKS as why:
        raise Damaged from why


class _Reading:
    """One pass over the model space of one document."""

    def __init__(self, doc: DxfDocument, annotations: bool, declares_unit: bool) -> None:
        self.doc = doc
        self.with_annotations = annotations
        self.declares_unit = declares_unit  # the library gives a file without header one of its own
        self.look = Look(doc)
        self.out: list[Entity] = []
        self.annotations: list[Entity] = []
        self.odd: Counter[tuple[str, str]] = Counter()
        self.solids = 0

    def drawing(self) -> Drawing:
        """Return everything that was understood."""
        self.take(self.doc.modelspace(), None, None, "", 0)
        return Drawing(
            entities=tuple(self.out),
            annotations=tuple(self.annotations),
            layers=dict(self.look.layers),
            unit=self._unit(),
            oddities=tuple(oddity(c, what, n) for (c, what), n in sorted(self.odd.items())),
            on_sheets=sum(
                sum(1 for e in layout if e.dxftype() != "VIEWPORT")
                for layout in self.doc.layouts
                if layout.dxf.name != "Model"
            ),
            solids=self.solids,
            version=self.doc.acad_release,
        )

    def _unit(self) -> units.Unit | None:
        if not self.declares_unit or "$INSUNITS" not in self.doc.header:
            return None
        code = int(self.doc.header["$INSUNITS"])
        if code and code not in units.BY_DXF_CODE:
            self.odd["unit-unknown", str(code)] += 1
        return units.BY_DXF_CODE.get(code)

    def take(
        self, entities: Iterable[Any], block_layer: str | None, block: Style | None, source: str, depth: int
    ) -> None:
        """Read entities of the model space or of a block; a block's look comes in as ``block_layer`` and ``block``."""
        look, taken = self.look, _TAKERS
        for index, entity in enumerate(entities):
            kind = entity.dxftype()
            stated = entity.dxf.all_existing_dxf_attribs()
            if stated.get("paperspace"):
                continue
            name = stated.get("layer", "0")
            layer = look.layer(block_layer if name == "0" and block_layer is not None else name)
            if stated.get("invisible") or not layer.shown:
                self.odd["switched-off", layer.name] += 1
                continue
            taker = taken.get(kind)
            if taker is None:
                self._pass_over(entity, kind)
                continue
            style = look.style(stated, layer, block)
            handle = f"{source}/{index}" if source else str(stated.get("handle") or index)
            if kind == "INSERT":
                self._unfold(entity, layer.name, style, handle, depth)
                continue
            if len(self.out) > MOST_ENTITIES:
                raise TooLarge(
                    f"The drawing unfolds to more than {MOST_ENTITIES:,} objects. Remove what does not belong to it."
                )
            try:
                taker(self, entity, stated, (layer.name, style, handle))
            except (ArithmeticError, ValueError, KeyError, IndexError, TypeError, AttributeError, DXFError):
                self.odd["not-readable", kind] += 1

    def _pass_over(self, entity: Any, kind: str) -> None:
        if kind in SOLID_TYPES:
            self.solids += 1
        if kind == "DIMENSION" and self.with_annotations:
            self._annotate(entity)
        self.odd["not-examined" if kind in _NOT_EXAMINED else "not-understood", kind] += 1

    def _annotate(self, dimension: Any) -> None:
        before, odd = len(self.out), self.odd.copy()
        self.take(dimension.virtual_entities(), str(dimension.dxf.layer), None, "dim", 1)
        self.annotations += self.out[before:]
        del self.out[before:]
        self.odd = odd

    def _unfold(self, insert: Any, layer: str, style: Style, handle: str, depth: int) -> None:
        if depth >= DEEPEST_BLOCK:
            self.odd["blocks-too-deep", str(insert.dxf.name)] += 1
            return
        if insert.block() is None:
            self.odd["block-missing", str(insert.dxf.name)] += 1
            return
        copies = insert.multi_insert() if insert.mcount > 1 else (insert,)
        for number, copy in enumerate(copies):
            path = f"{handle}.{number}" if insert.mcount > 1 else handle
            skipped: list[str] = []
            inside = copy.virtual_entities(
                skipped_entity_callback=lambda e, _why, kinds=skipped: kinds.append(e.dxftype())
            )
            self.take(inside, layer, style, path, depth + 1)
            for kind in skipped:
                self.odd["not-understood", kind] += 1
            self.take(copy.attribs, layer, style, f"{path}/a", depth + 1)

    # one taker for each kind of object

    def point(self, x: float, y: float, z: float = 0.0) -> Point:
        """Return a point of the drawing plane; a height off the plane is noted."""
        if z != 0.0 and abs(z) > tolerance.PLANE_NORMAL:
            self.odd["off-plane", ""] += 1
        if not (abs(x) <= FARTHEST and abs(y) <= FARTHEST):
            raise ValueError("coordinate beyond what a drawing can hold")
        return (float(x) + 0.0, float(y) + 0.0)

    def _flip(self, stated: dict[str, Any]) -> bool | None:
        """Say whether an object is seen from below; None when its plane is tilted."""
        normal = stated.get("extrusion")
        if normal is None or (normal[0] == 0.0 and normal[1] == 0.0 and normal[2] > 0.0):
            return False
        n = Vec3(normal).normalize()
        if abs(n.x) > tolerance.PLANE_NORMAL or abs(n.y) > tolerance.PLANE_NORMAL:
            self.odd["tilted", ""] += 1
            return None
        return bool(n.z < 0)

    def _arc(self, piece: arcs.RoundPiece, flip: bool, belongs: tuple[str, Style, str]) -> None:
        center, radius, start, sweep = piece
        if flip:
            center, start = (0.0 - center[0], center[1]), math.pi - start - sweep
        if not 0.0 < radius <= FARTHEST:
            raise ValueError("a radius must be a positive number")
        layer, style, source = belongs
        self.out.append(
            Arc(
                center=center,
                radius=radius,
                start_rad=start,
                sweep_rad=sweep,
                layer=layer,
                style=style,
                source=source,
            )
        )

    def _line(self, start: Point, end: Point, belongs: tuple[str, Style, str]) -> None:
        layer, style, source = belongs
        self.out.append(Line(start=start, end=end, layer=layer, style=style, source=source))

    def take_line(self, _entity: Any, stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """LINE: always in the coordinates of the sheet."""
        self._line(
            self.point(*stated.get("start", (0, 0, 0))), self.point(*stated.get("end", (0, 0, 0))), belongs
        )

    def take_circle(self, _entity: Any, stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """CIRCLE."""
        flip = self._flip(stated)
        if flip is None:
            return
        x, y = self.point(*stated.get("center", (0, 0, 0)))
        radius = abs(float(stated.get("radius", 1.0)))
        if not 0.0 < radius <= FARTHEST:
            raise ValueError("a radius must be a positive number")
        layer, style, source = belongs
        self.out.append(
            Circle(center=(0.0 - x if flip else x, y), radius=radius, layer=layer, style=style, source=source)
        )

    def take_arc(self, _entity: Any, stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """ARC: angles in degrees, counter-clockwise, possibly across 0 and outside [0, 360)."""
        flip = self._flip(stated)
        if flip is None:
            return
        center = self.point(*stated.get("center", (0, 0, 0)))
        piece = arcs.from_degrees(
            center,
            abs(float(stated.get("radius", 1.0))),
            float(stated.get("start_angle", 0)),
            float(stated.get("end_angle", 360)),
        )
        self._arc(piece, flip, belongs)

    def take_ellipse(self, entity: Any, stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """ELLIPSE: one with equal axes is a circle or an arc; any other is not understood."""
        ratio = abs(float(stated.get("ratio", 1.0)))
        normal = Vec3(stated.get("extrusion", (0, 0, 1))).normalize()
        if (
            abs(ratio - 1.0) > tolerance.EQUAL_AXES_SHARE
            or abs(normal.x) > tolerance.PLANE_NORMAL
            or abs(normal.y) > tolerance.PLANE_NORMAL
        ):
            self.odd["not-understood", "ELLIPSE"] += 1
            return
        center = self.point(*stated.get("center", (0, 0, 0)))
        major = Vec3(stated.get("major_axis", (1, 0, 0)))
        first, last = float(stated.get("start_param", 0.0)), float(stated.get("end_param", math.tau))
        sweep = (last - first) % math.tau or math.tau
        if normal.z < 0:
            first = -first - sweep
        self._arc(
            (center, math.hypot(major.x, major.y), math.atan2(major.y, major.x) + first, sweep),
            False,
            belongs,
        )

    def take_lwpolyline(self, entity: Any, stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """LWPOLYLINE: vertices in the object's plane, a bulge for each."""
        flip = self._flip(stated)
        if flip is None:
            return
        if abs(stated.get("elevation", 0.0)) > tolerance.PLANE_NORMAL:
            self.odd["off-plane", ""] += 1
        vertices = [(*self.point(x, y), float(b)) for x, y, b in entity.get_points("xyb")]
        self._polyline(vertices, bool(entity.closed), flip, belongs)

    def take_polyline(self, entity: Any, stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """POLYLINE, two- or three-dimensional; meshes are not understood."""
        if not (entity.is_2d_polyline or entity.is_3d_polyline):
            self.solids += 1
            self.odd["not-understood", "POLYLINE mesh"] += 1
            return
        flip = self._flip(stated) if entity.is_2d_polyline else False
        if flip is None:
            return
        frame = 16  # vertex flag: control point of a smoothed polyline, not on it (DXF reference, VERTEX, group code 70)
        vertices = [
            (*self.point(*v.dxf.location), float(v.dxf.get("bulge", 0.0)) if entity.is_2d_polyline else 0.0)
            for v in entity.vertices
            if not v.dxf.get("flags", 0) & frame
        ]
        self._polyline(vertices, bool(entity.is_closed), flip, belongs)

    def _polyline(
        self,
        vertices: list[tuple[float, float, float]],
        closed: bool,
        flip: bool,
        belongs: tuple[str, Style, str],
    ) -> None:
        pairs = list(zip(vertices, vertices[1:] + vertices[:1], strict=True))
        for (x0, y0, bulge), (x1, y1, _) in pairs if closed else pairs[:-1]:
            if x0 == x1 and y0 == y1:
                continue  # a repeated vertex is how some writers end a polyline; nothing is drawn there
            if bulge:
                self._arc(arcs.from_bulge((x0, y0), (x1, y1), bulge), flip, belongs)
            elif flip:
                self._line((0.0 - x0, y0), (0.0 - x1, y1), belongs)
            else:
                self._line((x0, y0), (x1, y1), belongs)

    def take_text(self, entity: Any, stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """TEXT, and attributes of blocks: aligned text stands at its second point."""
        across, up = int(stated.get("halign", 0)), int(stated.get("valign", 0))
        at = Vec3(stated.get("insert", (0, 0, 0)))
        if (across or up) and "align_point" in stated and across not in (3, 5):
            at = Vec3(stated["align_point"])
        at = OCS(stated.get("extrusion", (0, 0, 1))).to_wcs(at)
        vertical = "middle" if across == 4 else _VERTICAL.get(up, "baseline")
        self._text(
            wording=entity.plain_text(), at=self.point(at.x, at.y), anchor=f"{_HORIZONTAL.get(across, 'left')} {vertical}",
            height=float(stated.get("height", 1.0)), turn_deg=float(stated.get("rotation", 0.0)), belongs=belongs,
        )  # fmt: skip

    def take_mtext(self, entity: Any, stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """MTEXT: paragraph text with its codes decoded."""
        at = Vec3(stated.get("insert", (0, 0, 0)))
        attached = int(stated.get("attachment_point", 1))
        self._text(
            wording=entity.plain_text(), at=self.point(at.x, at.y), anchor=_ATTACHED[attached - 1] if 1 <= attached <= 9 else _ATTACHED[0],
            height=float(stated.get("char_height", 1.0)), turn_deg=float(entity.get_rotation()), belongs=belongs,
        )  # fmt: skip

    def _text(
        self,
        *,
        wording: str,
        at: Point,
        anchor: str,
        height: float,
        turn_deg: float,
        belongs: tuple[str, Style, str],
    ) -> None:
        if not wording.strip():
            return
        layer, style, source = belongs
        self.out.append(
            Text(
                wording=wording.strip(),
                at=at,
                anchor=anchor,
                height=height,
                turn_deg=turn_deg,
                layer=layer,
                style=style,
                source=source,
            )
        )

    def take_solid(self, entity: Any, _stated: dict[str, Any], belongs: tuple[str, Style, str]) -> None:
        """SOLID: the filled arrowhead of a dimension; elsewhere not understood."""
        corners = [self.point(*v) for v in entity.wcs_vertices()]
        if belongs[2].startswith("dim"):
            for a, b in zip(corners, corners[1:] + corners[:1], strict=True):
                self._line(a, b, belongs)
        else:
            self.odd["not-understood", "SOLID"] += 1


_NOT_EXAMINED = frozenset(["DIMENSION", "ARC_DIMENSION", "HATCH", "LEADER", "MULTILEADER", "TOLERANCE"])
_TAKERS: dict[str, Any] = {
    "LINE": _Reading.take_line,
    "CIRCLE": _Reading.take_circle,
    "ARC": _Reading.take_arc,
    "ELLIPSE": _Reading.take_ellipse,
    "LWPOLYLINE": _Reading.take_lwpolyline,
    "POLYLINE": _Reading.take_polyline,
    "TEXT": _Reading.take_text,
    "ATTRIB": _Reading.take_text,
    "MTEXT": _Reading.take_mtext,
    "SOLID": _Reading.take_solid,
    "INSERT": _Reading._unfold,
}
