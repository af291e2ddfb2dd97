"""SVG bytes to Drawing: paths, basic shapes, transforms and lettering; top-level groups are layers.

The physical size of a page over its view box is the scale; where a page states none, there is no unit and
user units stand as they are. SVG runs downward: a drawing is turned over at the bottom of its page, so that
(0, 0) is the page's lower left corner.

The library reads path data, transforms and arcs; the page's own size is taken here, because the library
converts it with a rounded factor. Source of rules and factors: SVG 2 (W3C), chapters on coordinate systems
and paths; CSS absolute lengths.
"""

from __future__ import annotations

import io
import math
import re
from typing import Any
from xml.etree.ElementTree import Element, ParseError, tostring

import numpy as np
import svgelements as svg
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from numpy.typing import NDArray

from evenmark.core.collector import held_still
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Circle, Drawing
from evenmark.core.drawing.picture import CAPITALS
from evenmark.core.formats.bounds import BREAKS, MOST_ENTITIES, MOST_UNFOLDED
from evenmark.core.formats.collected import Collected
from evenmark.core.formats.dxf_lettering import add_text
from evenmark.core.formats.dxf_look import pattern_class
from evenmark.core.formats.dxf_objects import Belongs, add_arc, add_curve, add_line
from evenmark.core.formats.errors import TooLarge, UnreadableDrawing
from evenmark.core.formats.oddities import oddity
from evenmark.core.formats.svg_words import OWN
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.tolerance import EQUAL_AXES_SHARE
from evenmark.core.geometry.units import BY_SYMBOL, INCH, MM, Unit

Floats = NDArray[np.float64]

_IN_MM = {"mm": 1.0, "cm": 10.0, "q": 0.25, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6}
_PX_MM = 25.4 / 96
_SAMPLES = 96
"""Points along one Bezier piece."""
_MOST_POINTS = 2_000_000
_DEEPEST = 64
_SPACE = re.compile(r"\{[^}]*\}")


class NotSvg(UnreadableDrawing):
    """The file begins like SVG and is none."""

    code = "damaged"
    default = (
        "The file is damaged and cannot be read as SVG. Export the drawing as DXF or SVG again and use the "
        "new file."
    )


def read_svg(data: bytes) -> Drawing:
    """Read an SVG file. Raises UnreadableDrawing."""
    try:
        with held_still():
            return _Page(_tree(data)).drawing()
    except UnreadableDrawing:
        raise
    except MemoryError as why:
        raise TooLarge from why
    except (ParseError, DefusedXmlException, *BREAKS) as why:
        raise NotSvg from why


def _tree(data: bytes) -> Element:
    root: Element = fromstring(data, forbid_dtd=False, forbid_entities=True, forbid_external=True)
    if _name(root) != "svg":
        raise UnreadableDrawing(
            "This is an XML file, not a drawing. Export the drawing as DXF or SVG and use that file."
        )
    known = {e.get("id"): e for e in root.iter() if e.get("id")}
    if _unfolded(root, known, {}, 0) > MOST_UNFOLDED:
        raise TooLarge(
            f"The drawing unfolds to more than {MOST_UNFOLDED:,} objects. Remove what does not belong to it."
        )
    return root


def _name(e: Element) -> str:
    return _SPACE.sub("", e.tag) if isinstance(e.tag, str) else ""


def _unfolded(e: Element, known: dict[str | None, Element], sizes: dict[int, int], depth: int) -> int:
    """Count the elements that an element unfolds to with everything that it uses again."""
    if depth > _DEEPEST:
        raise TooLarge("The drawing nests its groups too deeply. Break the groups up and export again.")
    if id(e) in sizes:
        return sizes[id(e)]
    total = 1 + sum(_unfolded(child, known, sizes, depth + 1) for child in e)
    if _name(e) == "use":
        target = next((v for k, v in e.attrib.items() if _SPACE.sub("", k) == "href"), "")
        used = known.get(target.lstrip("#"))
        total += _unfolded(used, known, sizes, depth + 1) if used is not None else 0
    sizes[id(e)] = total
    return total


def _length(word: str | None) -> tuple[float, str]:
    """Return a length and its unit; (0, "") where there is none."""
    found = re.fullmatch(r"\s*([-+]?[\d.]+(?:[eE][-+]?\d+)?)\s*([a-zA-Z%]*)\s*", word or "")
    return (float(found[1]), found[2].lower()) if found else (0.0, "")


class _Page:
    """One page: its scale, and what is drawn on it."""

    def __init__(self, root: Element) -> None:
        width, height = _length(root.get("width")), _length(root.get("height"))
        box = [float(v) for v in (root.get("viewBox") or "").replace(",", " ").split()]
        self.unit: Unit | None = None
        self.scale = 1.0
        physical = _IN_MM.get(width[1])
        if physical and width[0] > 0:
            self.unit = INCH if width[1] == "in" else MM
            if len(box) == 4 and box[2] > 0:
                self.scale = width[0] * physical / box[2] / self.unit.mm
                tall = height[0] * _IN_MM.get(height[1], 0.0) / box[3] / self.unit.mm if box[3] > 0 else 0.0
                self.scale = min(self.scale, tall) if tall > 0 else self.scale
            else:
                self.scale = _PX_MM / self.unit.mm
                box = [0.0, 0.0, 0.0, height[0] * _IN_MM.get(height[1], 0.0) / _PX_MM]
        if len(box) != 4:
            box = [0.0, 0.0, 0.0, height[0] if height[1] in ("", "px") else 0.0]
        self.left, self.bottom = box[0], box[1] + box[3]
        own = BY_SYMBOL.get(root.get(OWN, ""))
        self.own = own is not None
        if own is not None:
            self.unit, self.scale, self.left, self.bottom = own, 1.0, 0.0, 0.0
        if not all(math.isfinite(v) for v in (self.scale, self.left, self.bottom)) or self.scale <= 0:
            raise NotSvg
        for name in ("width", "height", "viewBox"):
            root.attrib.pop(name, None)
        self.page = svg.SVG.parse(io.BytesIO(tostring(root)), ppi=96, parse_display_none=True)
        self.taken = Collected()
        self.layers: dict[str, Layer] = {}
        self.count = 0
        self.points = 0
        self.spans: list[Any] = []

    def drawing(self) -> Drawing:
        """Return everything that was understood."""
        self._walk(self.page, "0", 0)
        return Drawing(
            entities=tuple(self.taken.out),
            layers=self.layers,
            unit=self.unit,
            oddities=tuple(oddity(c, what, n) for (c, what), n in sorted(self.taken.odd.items())),
            version="SVG",
        )

    def at(self, p: Any) -> Point:
        """Return where a point of the page is in the drawing."""
        return self.taken.point(
            (float(p.x) - self.left) * self.scale, (self.bottom - float(p.y)) * self.scale
        )

    def _walk(self, group: Any, layer: str, depth: int) -> None:
        for e in group:
            if isinstance(e, list) and not isinstance(e, svg.Shape):
                own = _layer_name(e) if depth == 0 and isinstance(e, svg.Group) else None
                self._walk(e, own or layer, depth + 1)
                continue
            if not isinstance(e, svg.Shape | svg.Text | svg.Image):
                continue
            self.count += 1
            if len(self.taken.out) > MOST_ENTITIES or self.points > _MOST_POINTS:
                raise TooLarge(
                    f"The drawing holds more than {MOST_ENTITIES:,} objects. Remove what does not belong "
                    "to it."
                )
            values = e.values or {}
            if values.get("display") == "none" or values.get("visibility") in ("hidden", "collapse"):
                self.taken.odd["switched-off", layer] += 1
                continue
            style = self._style(e)
            if layer not in self.layers:
                self.layers[layer] = Layer(name=layer, style=style)
            belongs = (layer, style, str(values.get("id") or f"n{self.count}"))
            try:
                self._take(e, belongs)
            except UnreadableDrawing:
                raise
            except BREAKS:
                self.taken.odd["not-readable", type(e).__name__] += 1

    def _style(self, e: Any) -> Style:
        values = e.values or {}
        stroke = getattr(e, "stroke", None)
        color: int | str = 7
        if stroke is not None and stroke.value is not None:
            color = 7 if stroke.hexrgb == "#000000" else str(stroke.hexrgb).lower()
        width = getattr(e, "implicit_stroke_width", None) or getattr(e, "stroke_width", None)
        mm = (self.unit or MM).mm
        weight = round(float(width) * self.scale * mm, 4) if width and "stroke-width" in values else None
        dashes = [
            _length(v)[0] for v in str(values.get("stroke-dasharray", "none")).replace(",", " ").split()
        ]
        dashes = [d for d in dashes if d >= 0]
        pattern = [d if i % 2 == 0 else -d for i, d in enumerate(dashes * (1 + len(dashes) % 2))]
        if not any(pattern):
            return Style(color=color, weight=weight)
        # a round or square cap makes a dash of no length a dot
        return Style(
            color=color,
            line_type=pattern_class(pattern),
            weight=weight,
            dash=sum(map(abs, pattern)) * self.scale,
        )

    def _take(self, e: Any, belongs: Belongs) -> None:
        if isinstance(e, svg.Text):
            self._text(e, belongs)
        elif isinstance(e, svg.Circle) and self._circle(e, belongs):
            return
        elif isinstance(e, svg.Shape):
            for piece in svg.Path(e).segments():
                self._piece(piece, belongs)
        else:
            self.taken.odd["not-understood", "picture"] += 1

    def _circle(self, e: Any, belongs: Belongs) -> bool:
        """Take a circle whole, where nothing but shifts was done to it; say whether it was."""
        m = e.transform
        if (m.a, m.b, m.c, m.d) != (1.0, 0.0, 0.0, 1.0) or e.rx != e.ry or not e.rx > 0.0:
            return False
        center = self.at(svg.Point(float(e.cx) + m.e, float(e.cy) + m.f))
        layer, style, source = belongs
        self.taken.out.append(Circle(center, float(e.rx) * self.scale, layer, style, source))
        return True

    def _piece(self, piece: Any, belongs: Belongs) -> None:
        if isinstance(piece, svg.Line | svg.Close):
            if piece.start is None or piece.end is None:
                return
            a, b = self.at(piece.start), self.at(piece.end)
            # a path closed where it already is leaves nothing but rounding
            if distance(a, b) > EQUAL_AXES_SHARE * max(1.0, *map(abs, a)):
                add_line(self.taken, a, b, belongs)
        elif isinstance(piece, svg.Arc):
            self._arc(piece, belongs)
        elif isinstance(piece, svg.CubicBezier | svg.QuadraticBezier):
            self._curve(np.array(piece.npoint(np.linspace(0.0, 1.0, _SAMPLES + 1)), np.float64), belongs)

    def _curve(self, points: Floats, belongs: Belongs) -> None:
        self.points += len(points)
        flat = np.column_stack(
            (
                (points[:, 0] - self.left) * self.scale,
                (self.bottom - points[:, 1]) * self.scale,
                np.zeros(len(points)),
            )
        )
        add_curve(self.taken, flat, "curve", belongs)

    def _arc(self, piece: Any, belongs: Belongs) -> None:
        a, b, c = self.at(piece.start), self.at(piece.end), self.at(piece.center)
        p, q = self.at(piece.prx), self.at(piece.pry)
        rx, ry, sweep = distance(c, p), distance(c, q), float(piece.sweep)
        if max(rx, ry) == 0.0 or (a == b and abs(sweep) < tol.SLACK_SHARE):
            if a != b:
                add_line(self.taken, a, b, belongs)
            return
        if abs(rx - ry) <= EQUAL_AXES_SHARE * max(rx, ry):
            # a positive sweep runs clockwise once the page is turned over
            first = b if sweep > 0 else a
            start = math.atan2(first[1] - c[1], first[0] - c[0])
            add_arc(self.taken, (c, (rx + ry) / 2, start, min(abs(sweep), math.tau)), False, belongs)
            return
        t = np.linspace(0.0, 1.0, 4 * _SAMPLES + 1)
        self._curve(np.array([(p.x, p.y) for p in (piece.point(v) for v in t.tolist())], np.float64), belongs)

    def _text(self, e: Any, belongs: Belongs) -> None:
        """Take lettering; spans without a place of their own belong to the text that they stand in, and come
        before it."""
        own = (e.values or {}).get("attributes", {})
        if own.get("tag") == "tspan" and not {"x", "y"} & own.keys():
            self.spans.append(e.text or "")
            return
        wording = " ".join([e.text or "", *self.spans])
        self.spans = []
        m = e.transform
        at = self.at(m.point_in_matrix_space((e.x, e.y)))
        up = math.hypot(float(m.c), float(m.d))
        turn = -math.degrees(math.atan2(float(m.b), float(m.a)))
        across = {"middle": "centre", "end": "right"}.get(str(e.anchor), "left")
        height = float(e.font_size) * up * self.scale * (CAPITALS if self.own else 1.0)
        add_text(
            self.taken, " ".join(wording.split()), at, f"{across} baseline", height, turn % 360.0, belongs
        )


def _layer_name(group: Any) -> str | None:
    """Return what a top-level group is called: a label of any namespace, its title, or its id."""
    own = (group.values or {}).get("attributes", {})
    label = next((str(v) for k, v in own.items() if _SPACE.sub("", k) == "label" and v), None)
    if label:
        return label
    title = next((c.title for c in group if isinstance(c, svg.Title) and c.title), None)
    return str(title or own.get("id") or "") or None
