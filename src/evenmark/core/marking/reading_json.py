"""What was understood of one file, as JSON (`docs/formats/reading.md`)."""

from __future__ import annotations

from typing import Any

from evenmark.core.drawing.model import Drawing
from evenmark.core.drawing.refusal import refuse
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.units import MM
from evenmark.core.linework import simplify
from evenmark.core.plain import plain_number as plain

FORMAT, VERSION = "even-mark/reading", 1


def reading(drawing: Drawing, name: str, *, features: bool = False) -> dict[str, Any]:
    """Return unit, layers, counts and oddities of a drawing, and with ``features`` every feature with its
    numbers."""
    unit = drawing.unit or MM
    linework = simplify(drawing, length_tolerance=unit.tolerances.length)
    used: dict[str, int] = {}
    for f in linework.drawn:
        used[f.layer] = used.get(f.layer, 0) + 1
    refusal = refuse(drawing)
    out: dict[str, Any] = {
        "format": FORMAT,
        "version": VERSION,
        "file": name,
        "written_as": drawing.version,
        "unit": drawing.unit.symbol if drawing.unit else None,
        "box": [plain(v) for v in linework.box] if linework.box else None,
        "layers": [
            {
                "name": layer.name,
                "color": layer.style.color,
                "line_type": layer.style.line_type,
                "weight": layer.style.weight,
                "shown": layer.shown,
                "features": used.get(layer.name, 0),
            }
            for layer in sorted(drawing.layers.values(), key=lambda layer: layer.name)
        ],
        "counts": {
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
        },
        "sheets": [
            {
                "name": sheet.name,
                "paper": _point(sheet.paper) if sheet.paper else None,
                "objects": sheet.objects,
                "views": [
                    {
                        "box": [plain(v) for v in view.box],
                        "center": _point(view.center),
                        "scale": plain(view.scale),
                        "turn": plain(view.turn_deg),
                    }
                    for view in sheet.views
                ],
            }
            for sheet in drawing.layouts
        ],
        "oddities": [{"code": o.code, "says": o.says, "count": o.count} for o in drawing.oddities],
        "refused": {"code": refusal.code, "says": refusal.says} if refusal else None,
    }
    if features:
        out["features"] = [
            *(
                {
                    "id": e.id,
                    "kind": "edge",
                    "layer": e.layer,
                    "start": _point(e.start),
                    "end": _point(e.end),
                    "length": plain(e.length),
                }
                for e in linework.edges
            ),
            *(
                {
                    "id": a.id,
                    "kind": "arc",
                    "layer": a.layer,
                    "center": _point(a.center),
                    "radius": plain(a.radius),
                    "start": _point(a.start),
                    "end": _point(a.end),
                }
                for a in linework.arcs
            ),
            *(
                {
                    "id": c.id,
                    "kind": "circle",
                    "layer": c.layer,
                    "center": _point(c.center),
                    "radius": plain(c.radius),
                }
                for c in linework.circles
            ),
            *({"id": k.id, "kind": "corner", "at": _point(k.at)} for k in linework.corners),
            *({"id": t.id, "kind": "tee", "at": _point(t.at), "on": t.on} for t in linework.tees),
            *(
                {"id": o.id, "kind": "outline", "layer": o.layer, "members": [m for m, _ in o.members]}
                for o in linework.outlines
            ),
            *(
                {
                    "id": x.id,
                    "kind": "text",
                    "layer": x.layer,
                    "wording": x.wording,
                    "at": _point(x.at),
                    "height": plain(x.height),
                }
                for x in linework.texts
            ),
            *(
                {
                    "id": f.id,
                    "kind": "curve",
                    "layer": f.layer,
                    "start": _point(f.start),
                    "end": _point(f.end),
                    "points": len(f.points),
                }
                for f in linework.frees
            ),
            *(
                {
                    "id": d.id,
                    "kind": "dimension",
                    "layer": d.layer,
                    "measures": d.kind,
                    "measured": plain(d.measured),
                    "shown": plain(d.shown),
                    "typed": d.typed,
                    "before": d.before,
                    "after": d.after,
                    "points": [_point(p) for p in d.points],
                }
                for d in linework.dimensions
            ),
            *(
                {
                    "id": n.id,
                    "kind": "note",
                    "layer": n.layer,
                    "wording": n.wording,
                    "tip": _point(n.tip),
                    "at": _point(n.at),
                }
                for n in linework.notes
            ),
            *(
                {
                    "id": h.id,
                    "kind": "hatch",
                    "layer": h.layer,
                    "pattern": h.pattern,
                    "area": plain(h.area),
                    "loops": len(h.loops),
                }
                for h in linework.hatches
            ),
            *(
                {
                    "id": r.id,
                    "kind": "construction line",
                    "layer": r.layer,
                    "at": _point(r.at),
                    "toward": _point(r.toward),
                    "ray": r.ray,
                }
                for r in linework.endless
            ),
        ]
    return out


def _point(p: Point) -> list[float]:
    return [plain(p[0]), plain(p[1])]
