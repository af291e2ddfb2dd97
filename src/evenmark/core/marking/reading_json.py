"""What was understood of one file, as JSON (`docs/formats/reading.md`)."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TypedDict

from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.model import Drawing, Layout
from evenmark.core.drawing.refusal import refuse
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.units import MM
from evenmark.core.linework import Linework, simplify
from evenmark.core.linework.model import (
    AnyFeature,
    ArcFeature,
    CircleFeature,
    Corner,
    Edge,
    EndlessFeature,
    Free,
    HatchFeature,
    NoteFeature,
    Outline,
    Tee,
    TextFeature,
)
from evenmark.core.plain import plain_number as plain

FORMAT, VERSION = "even-mark/reading", 1


Row = dict[str, object]


class LayerJson(TypedDict):
    """A layer with its look, and how many features stand on it."""

    name: str
    color: int | str
    line_type: str
    weight: float | None
    shown: bool
    features: int


class OddityJson(TypedDict):
    """Something that a reader of the file should know."""

    code: str
    says: str
    count: int


class RefusedJson(TypedDict):
    """Why a drawing cannot be handed in."""

    code: str
    says: str


class ReadingJson(TypedDict, total=False):
    """What was understood of one file."""

    format: str
    version: int
    file: str
    written_as: str
    unit: str | None
    box: list[float] | None
    layers: list[LayerJson]
    counts: dict[str, int]
    sheets: list[Row]
    oddities: list[OddityJson]
    refused: RefusedJson | None
    features: list[Row]


def reading(drawing: Drawing, name: str, *, features: bool = False) -> ReadingJson:
    """Return unit, layers, counts and oddities of a drawing, and with ``features`` every feature with its
    numbers."""
    unit = drawing.unit or MM
    linework = simplify(drawing, length_tolerance=unit.tolerances.length)
    refusal = refuse(drawing)
    out: ReadingJson = {
        "format": FORMAT,
        "version": VERSION,
        "file": name,
        "written_as": drawing.version,
        "unit": drawing.unit.symbol if drawing.unit else None,
        "box": [plain(v) for v in linework.box] if linework.box else None,
        "layers": _layers(drawing, linework),
        "counts": _counts(drawing, linework),
        "sheets": [_sheet(sheet) for sheet in drawing.layouts],
        "oddities": [{"code": o.code, "says": o.says, "count": o.count} for o in drawing.oddities],
        "refused": {"code": refusal.code, "says": refusal.says} if refusal else None,
    }
    if features:
        out["features"] = [_feature(f) for f in _in_order(linework)]
    return out


def _layers(drawing: Drawing, linework: Linework) -> list[LayerJson]:
    used: dict[str, int] = {}
    for f in linework.drawn:
        used[f.layer] = used.get(f.layer, 0) + 1
    return [
        {
            "name": layer.name,
            "color": layer.style.color,
            "line_type": layer.style.line_type,
            "weight": layer.style.weight,
            "shown": layer.shown,
            "features": used.get(layer.name, 0),
        }
        for layer in sorted(drawing.layers.values(), key=lambda layer: layer.name)
    ]


def _counts(drawing: Drawing, linework: Linework) -> dict[str, int]:
    return {
        "edges": len(linework.edges),
        "arcs": len(linework.arcs),
        "circles": len(linework.circles),
        "corners": len(linework.corners),
        "outlines": len(linework.outlines),
        "texts": len(linework.texts),
        "curves": len(linework.frees),
        "dimensions": len(linework.dimensions),
        "notes": len(linework.notes),
        "hatches": len(linework.hatches),
        "construction_lines": len(linework.endless),
        "on_sheets": drawing.on_layouts,
        "drawn_twice": sum(1 for c in linework.clutter if c.code == "drawn-twice"),
        "debris": sum(1 for c in linework.clutter if c.code == "debris"),
    }


def _sheet(sheet: Layout) -> Row:
    views = [
        {
            "box": [plain(v) for v in view.box],
            "center": _point(view.center),
            "scale": plain(view.scale),
            "turn": plain(view.turn_deg),
        }
        for view in sheet.views
    ]
    paper = _point(sheet.paper) if sheet.paper else None
    return {"name": sheet.name, "paper": paper, "objects": sheet.objects, "views": views}


def _in_order(linework: Linework) -> Iterator[AnyFeature | Dimension]:
    there = linework
    curves: tuple[tuple[AnyFeature, ...], ...] = (there.edges, there.arcs, there.circles)
    joints: tuple[tuple[AnyFeature, ...], ...] = (there.corners, there.tees, there.outlines)
    lettered: tuple[tuple[AnyFeature, ...], ...] = (there.texts, there.frees, there.dimensions)
    beside: tuple[tuple[AnyFeature, ...], ...] = (there.notes, there.hatches, there.endless)
    for group in (*curves, *joints, *lettered, *beside):
        yield from group


def _feature(f: AnyFeature | Dimension) -> Row:
    """Return a feature: what it is, its layer where it has one, and the numbers of its kind."""
    kind, numbers = _numbers(f)
    layer = {} if isinstance(f, Corner | Tee) else {"layer": getattr(f, "layer", "")}
    return {"id": f.id, "kind": kind, **layer, **numbers}


def _numbers(f: AnyFeature | Dimension) -> tuple[str, Row]:
    if isinstance(f, Edge):
        return "edge", {"start": _point(f.start), "end": _point(f.end), "length": plain(f.length)}
    if isinstance(f, ArcFeature):
        ends = {"start": _point(f.start), "end": _point(f.end)}
        return "arc", {"center": _point(f.center), "radius": plain(f.radius), **ends}
    if isinstance(f, CircleFeature):
        return "circle", {"center": _point(f.center), "radius": plain(f.radius)}
    if isinstance(f, Corner):
        return "corner", {"at": _point(f.at)}
    if isinstance(f, Tee):
        return "tee", {"at": _point(f.at), "on": f.on}
    if isinstance(f, Outline):
        return "outline", {"members": [m for m, _ in f.members]}
    if isinstance(f, Free):
        return "curve", {"start": _point(f.start), "end": _point(f.end), "points": len(f.points)}
    if isinstance(f, EndlessFeature):
        return "construction line", {"at": _point(f.at), "toward": _point(f.toward), "ray": f.ray}
    return _annotation(f)


def _annotation(f: AnyFeature | Dimension) -> tuple[str, Row]:
    if isinstance(f, TextFeature):
        return "text", {"wording": f.wording, "at": _point(f.at), "height": plain(f.height)}
    if isinstance(f, NoteFeature):
        return "note", {"wording": f.wording, "tip": _point(f.tip), "at": _point(f.at)}
    if isinstance(f, HatchFeature):
        return "hatch", {"pattern": f.pattern, "area": plain(f.area), "loops": len(f.loops)}
    assert isinstance(f, Dimension)
    shown = {"measured": plain(f.measured), "shown": plain(f.shown), "typed": f.typed}
    beside = {"before": f.before, "after": f.after, "points": [_point(p) for p in f.points]}
    return "dimension", {"measures": f.kind, **shown, **beside}


def _point(p: Point) -> list[float]:
    return [plain(p[0]), plain(p[1])]
