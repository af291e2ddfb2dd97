"""Small builders of drawings for tests, and a key made ready from one in a word."""

from __future__ import annotations

import io
import math
from collections.abc import Callable
from itertools import pairwise
from typing import Any

import ezdxf
from ezdxf.document import Drawing as DxfDocument

from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line, Text
from evenmark.core.formats import read_file
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.units import MM, Unit
from evenmark.core.linework import Linework, simplify
from evenmark.core.marking import MarkSheet, RuleSet, check, prepare
from evenmark.core.marking.model import Finding, Policy
from evenmark.demo import parts

PLAIN = Style()
LAYERS = {
    name: Layer(name=name, style=PLAIN) for name in ("0", "outline", "centre", "hidden", "construction")
}


def line(a: Point, b: Point, layer: str = "outline", source: str = "l") -> Line:
    return Line(start=a, end=b, layer=layer, style=PLAIN, source=source)


def arc(center: Point, radius: float, start_deg: float, end_deg: float, layer: str = "outline") -> Arc:
    sweep = math.radians((end_deg - start_deg) % 360.0 or 360.0)
    return Arc(
        center=center,
        radius=radius,
        start_rad=math.radians(start_deg),
        sweep_rad=sweep,
        layer=layer,
        style=PLAIN,
        source="a",
    )


def circle(center: Point, radius: float, layer: str = "outline") -> Circle:
    return Circle(center=center, radius=radius, layer=layer, style=PLAIN, source="c")


def text(wording: str, at: Point, height: float = 3.5, layer: str = "outline") -> Text:
    return Text(
        wording=wording,
        at=at,
        anchor="left bottom",
        height=height,
        turn_deg=0.0,
        layer=layer,
        style=PLAIN,
        source="t",
    )


def chain(*points: Point, close: bool = True, layer: str = "outline") -> list[Entity]:
    """Straight edges from point to point."""
    path = [*points, points[0]] if close else list(points)
    return [line(a, b, layer) for a, b in pairwise(path)]


def drawing(*parts: Entity | list[Entity], unit: Unit | None = MM) -> Drawing:
    """A drawing of entities and lists of them."""
    flat = [e for part in parts for e in (part if isinstance(part, list) else [part])]
    return Drawing(entities=tuple(flat), layers=dict(LAYERS), unit=unit)


def linework(*parts: Entity | list[Entity], tolerance: float = 0.001) -> Linework:
    return simplify(drawing(*parts), length_tolerance=tolerance)


FIRST_VERSION = RuleSet(listing="feature", charges=None)
"""How the first version of rule sets shared marks out: by feature, and nothing was charged."""


def marked(key: Drawing, attempt: Drawing, placement: Policy = "as-drawn", **rules: Any) -> MarkSheet:
    """The mark sheet of an attempt, with the requirements that are proposed for the key."""
    return check(prepare(key, RuleSet(placement=placement, **rules)), attempt)


def finding(sheet: MarkSheet, kind: str, *features: str) -> Finding:
    """The one finding of a kind about some features."""
    found = [f for f in sheet.findings if f.kind == kind and (not features or f.features == features)]
    assert len(found) == 1, f"{len(found)} findings of kind {kind} about {features}"
    return found[0]


def codes(sheet: MarkSheet) -> list[str]:
    return [c.code for c in sheet.causes]


def verdicts(sheet: MarkSheet) -> dict[str, int]:
    """How many findings have each verdict other than met."""
    out: dict[str, int] = {}
    for f in sheet.findings:
        if f.verdict != "met":
            out[f.verdict] = out.get(f.verdict, 0) + 1
    return out


def dxf(draw: Callable[[Any, DxfDocument], object], version: str = "R2010", unit: int = 4) -> bytes:
    """The bytes of a file that the DXF library itself writes: ``draw`` is given the model space and the
    document."""
    doc = ezdxf.new(version)
    if version != "R12":
        doc.header["$INSUNITS"] = unit
    draw(doc.modelspace(), doc)
    return dxf_bytes(doc)


def dxf_bytes(doc: DxfDocument) -> bytes:
    out = io.StringIO()
    doc.write(out)
    return out.getvalue().encode(doc.output_encoding, "dxfreplace")


def dxf_drawing(draw: Callable[[Any, DxfDocument], object], version: str = "R2010", unit: int = 4) -> Drawing:
    return read_file(dxf(draw, version, unit))


PLATE = [*chain((0, 0), (80, 0), (80, 50), (0, 50)), circle((20, 25), 6), circle((60, 25), 6)]
"""A plate 80 by 50 with two holes; its features are e1 to e4, c1 and c2, k1 to k4, o1."""

PARTS = (
    parts.gate_outline,
    parts.gate_holes,
    parts.wheel_hub,
    parts.crank_link,
    parts.cover_gasket,
    parts.shaft_bracket,
)
"""The parts of the demo that are drawn in views, without the kit sheet."""
