"""Dimensions, hatches, leaders and endless construction lines of a loaded DXF document."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np
from ezdxf.math import OCS, Vec3
from numpy.typing import NDArray

from evenmark.core.drawing.annotations import (
    USUAL_HEIGHT,
    Dimension,
    DimensionKind,
    Endless,
    Hatch,
    Note,
    Vertex,
    measure,
)
from evenmark.core.drawing.look import Style
from evenmark.core.formats.bounds import FARTHEST
from evenmark.core.formats.collected import Collected
from evenmark.core.formats.dxf_look import Attributes
from evenmark.core.formats.dxf_words import paragraph
from evenmark.core.geometry import arcs
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import distance, point_on

Belongs = tuple[str, Style, str]
Floats = NDArray[np.float64]

_LOW_BITS = 15
"""The type of a dimension stands in the low bits (DXF reference, DIMENSION, group code 70); 64 makes an
ordinate one of x."""
_ORDINATE_X = 64
_LINEAR, _ALIGNED, _ANGULAR, _DIAMETER, _RADIUS, _ANGULAR_BY_POINTS, _ORDINATE, _ARC = 0, 1, 2, 3, 4, 5, 6, 8
MOST_CORNERS = 20_000
"""Corners of one boundary; a hatch with more is left out."""
MOST_DECIMALS = 8
_NO_ZEROS_AT_END = 8
"""Bit of DIMZIN: zeros at the end of decimals are left out."""
_IN_PARTS = (4, 5)
"""Values of DIMLUNIT: inches in parts."""


def take_dimension(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """DIMENSION and ARC_DIMENSION: measured from its own points, whatever its text says."""
    kind, points, turn = _measured_points(entity, stated)
    line, shows = _line_of(entity, stated), _shows(entity, kind)
    flat = tuple(r.point(p.x, p.y) for p in points)
    layer, style, source = belongs
    shown = str(stated.get("text", "")).strip()
    before, value, after = shown.partition("<>")
    typed = None if not shown or value else paragraph(shown).strip()
    at = OCS(stated.get("extrusion", (0, 0, 1))).to_wcs(
        Vec3(stated.get("text_midpoint", stated.get("defpoint", (0, 0, 0))))
    )
    r.dimensions.append(
        Dimension(
            kind=kind,
            points=flat,
            measured=measure(kind, flat, turn),
            turn_deg=turn % 180.0,
            typed=typed,
            before=(paragraph(before) if value else "") + ("" if typed else shows.beside[0]),
            after=("" if typed else shows.beside[1]) + (paragraph(after) if value else ""),
            factor=shows.factor,
            at=r.point(at.x, at.y),
            line=r.point(line.x, line.y) if line is not None else None,
            decimals=shows.decimals,
            zeros=shows.zeros,
            fractions=shows.fractions,
            tolerance=shows.tolerance,
            height=shows.height,
            layer=layer,
            style=style,
            source=source,
        )
    )


def _line_of(entity: Any, stated: Attributes) -> Vec3 | None:
    """Return the point that the line of a dimension goes through; None where it has none of its own."""
    kind = _ARC if entity.dxftype() == "ARC_DIMENSION" else int(stated.get("dimtype", 0)) & _LOW_BITS
    name = {_ANGULAR: "defpoint5", _ORDINATE: "defpoint3", _DIAMETER: "", _RADIUS: ""}.get(kind, "defpoint")
    return Vec3(stated[name]) if name in stated else None


def _measured_points(entity: Any, stated: Attributes) -> tuple[DimensionKind, list[Vec3], float]:
    def p(n: int) -> Vec3:
        return Vec3(stated[f"defpoint{n}" if n > 1 else "defpoint"])

    kind = _ARC if entity.dxftype() == "ARC_DIMENSION" else int(stated.get("dimtype", 0)) & _LOW_BITS
    if kind == _LINEAR:
        return "linear", [p(2), p(3)], float(stated.get("angle", 0.0))
    if kind == _ALIGNED:
        a, b = p(2), p(3)
        return "linear", [a, b], math.degrees(math.atan2(b.y - a.y, b.x - a.x))
    if kind == _DIAMETER:
        return "diameter", [p(1), p(4)], 0.0
    if kind == _RADIUS:
        return "radius", [p(1), p(4)], 0.0
    if kind == _ORDINATE:
        along_x = int(stated.get("dimtype", 0)) & _ORDINATE_X
        return "ordinate", [p(2), p(1)], 0.0 if along_x else 90.0
    if kind == _ANGULAR_BY_POINTS:
        return "angular", [p(4), p(2), p(3)], 0.0
    if kind == _ANGULAR:
        return "angular", _two_lines(p(2), p(3), p(4), p(1)), 0.0
    if kind == _ARC:
        return "arc", [p(4), p(2), p(3)], 0.0
    raise ValueError("a dimension of an unknown kind")


def _two_lines(a: Vec3, b: Vec3, c: Vec3, d: Vec3) -> list[Vec3]:
    """Return the vertex and one point on each leg of an angle between the lines a-b and c-d."""
    u, v, w = b - a, d - c, c - a
    cross = u.x * v.y - u.y * v.x
    if cross == 0.0:
        raise ValueError("the legs of an angle are parallel")
    vertex = a + u * ((w.x * v.y - w.y * v.x) / cross)
    legs = [q if (q - vertex).magnitude >= (o - vertex).magnitude else o for q, o in ((b, a), (d, c))]
    return [vertex, *legs]


class _Shows(NamedTuple):
    """What the style of a dimension says of its figure."""

    factor: float = 1.0
    decimals: int = 2
    zeros: bool = False
    fractions: bool = False
    tolerance: tuple[float, float] | None = None
    height: float = USUAL_HEIGHT
    beside: tuple[str, str] = ("", "")
    """What the style puts before and after every length."""


def _shows(entity: Any, kind: DimensionKind) -> _Shows:
    try:
        said = entity.override().get
        factor, height = float(said("dimlfac", 1.0)), float(said("dimtxt", USUAL_HEIGHT))
        scale = float(said("dimscale", 1.0))
        decimals, zeros, parts = int(said("dimdec", 2)), int(said("dimzin", 0)), int(said("dimlunit", 2))
        beside = ("", "")
        if kind == "angular":
            own = int(said("dimadec", -1))
            decimals, zeros = own if own >= 0 else decimals, int(said("dimazin", 0)) << 2 or zeros
        else:
            before, value, after = str(said("dimpost", "") or "").partition("<>")
            beside = (paragraph(before), paragraph(after)) if value else ("", paragraph(before))
        limits = None
        if int(said("dimtol", 0)) and not int(said("dimlim", 0)):
            limits = (float(said("dimtp", 0.0)) + 0.0, 0.0 - float(said("dimtm", 0.0)))
        height *= scale if scale > 0.0 else 1.0
        return _Shows(
            abs(factor) if math.isfinite(factor) and factor != 0.0 else 1.0,
            max(0, min(decimals, MOST_DECIMALS)),
            not zeros & _NO_ZEROS_AT_END,
            parts in _IN_PARTS,
            limits,
            height if 0.0 < height <= FARTHEST else USUAL_HEIGHT,
            beside,
        )
    except Exception:  # a dimension without its style
        return _Shows()


def take_hatch(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """HATCH: the boundary as closed loops of straight and round pieces; other curves are cut into chords."""
    ocs, flipped = OCS(stated.get("extrusion", (0, 0, 1))), Vec3(stated.get("extrusion", (0, 0, 1))).z < 0
    loops = []
    for path in entity.paths:
        corners = _boundary(path)
        if len(corners) > MOST_CORNERS:
            raise ValueError("a boundary of too many corners")
        flat = [(ocs.to_wcs(Vec3(v.x, v.y, 0)), -v.bulge if flipped else v.bulge) for v in corners]
        loop = tuple(Vertex(*r.point(p.x, p.y), bulge) for p, bulge in flat)
        if len(loop) > 2 or any(v.bulge for v in loop):
            loops.append(loop)
    if not loops:
        raise ValueError("a hatch without a boundary")
    layer, style, source = belongs
    solid = bool(stated.get("solid_fill"))
    angle, gap = (0.0, 0.0) if solid else _lines_of(entity, stated)
    pattern = "solid" if solid else str(stated.get("pattern_name", "")).lower()
    r.hatches.append(
        Hatch(
            loops=tuple(loops),
            pattern=pattern,
            angle_deg=angle,
            gap=gap,
            layer=layer,
            style=style,
            source=source,
        )
    )


def _lines_of(entity: Any, stated: Attributes) -> tuple[float, float]:
    """Return the angle and gap of the lines of a pattern: as they are stated for one of the drawing's own
    (DXF reference, HATCH, 41, 52 and 76), else those of its first family."""
    if int(stated.get("pattern_type", 1)) == 0:
        angle, gap = float(stated.get("pattern_angle", 0.0)), float(stated.get("pattern_scale", 0.0))
    else:
        families = entity.pattern.lines if entity.pattern is not None else []
        if not families:
            return 45.0, 0.0
        angle, gap = float(families[0].angle), math.hypot(*families[0].offset)
    if not (math.isfinite(angle) and 0.0 <= gap <= FARTHEST):
        return 45.0, 0.0
    return angle % 180.0, gap


def _boundary(path: Any) -> list[Vertex]:
    if hasattr(path, "vertices"):  # a polyline with bulges
        return [Vertex(float(x), float(y), float(b)) for x, y, b in path.vertices]
    out: list[Vertex] = []
    for edge in path.edges:
        piece = _edge(edge)
        if out and piece and distance(piece[0].at, out[-1].at) > distance(piece[-1].at, out[-1].at):
            piece = _backward(piece)
        if out and piece and distance(piece[0].at, out[-1].at) <= tol.PEN_UP:
            out.pop()  # the corner that both share
        out += piece
    if len(out) > 1 and distance(out[0].at, out[-1].at) <= tol.PEN_UP:
        out.pop()
    return out


def _backward(piece: list[Vertex]) -> list[Vertex]:
    bulges = [-v.bulge for v in piece[-2::-1]] + [0.0]
    return [Vertex(v.x, v.y, b) for v, b in zip(reversed(piece), bulges, strict=True)]


def _edge(edge: Any) -> list[Vertex]:
    kind = type(edge).__name__
    if kind == "LineEdge":
        return [Vertex(edge.start[0], edge.start[1]), Vertex(edge.end[0], edge.end[1])]
    if kind == "ArcEdge":
        at = (edge.center[0], edge.center[1])
        center, radius, start, sweep = arcs.from_degrees(at, edge.radius, edge.start_angle, edge.end_angle)
        halves = [point_on(center, radius, start + sweep * k / 2) for k in range(3)]
        bulge = arcs.bulge_of(sweep / 2)
        out = [Vertex(*halves[0], bulge), Vertex(*halves[1], bulge), Vertex(*halves[2])]
        return out if edge.ccw else _backward(out)
    tool = edge.construction_tool()
    return [Vertex(p.x, p.y) for p in tool.flattening(tol.CURVE_STEP)]


def take_leader(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """LEADER: its tip is its first vertex; its note is the text that it is tied to."""
    points = tuple(r.point(*Vec3(v).xyz) for v in entity.vertices)
    if len(points) < 2:
        raise ValueError("a leader of one point")
    layer, style, source = belongs
    handle = str(stated.get("annotation_handle", "") or "")
    r.notes.append(
        Note(points=points, text_source=handle, at=points[-1], layer=layer, style=style, source=source)
    )


def take_multileader(r: Collected, entity: Any, _stated: Attributes, belongs: Belongs) -> None:
    """MULTILEADER: each of its leader lines is one leader with the same note."""
    context = entity.context
    text = context.mtext
    wording = paragraph(text.default_content).strip() if text is not None else ""
    at = r.point(text.insert.x, text.insert.y) if text is not None else None
    across = {2: "centre", 3: "right"}.get(int(getattr(text, "alignment", 1) or 1), "left")
    layer, style, source = belongs
    for group in context.leaders:
        for number, line in enumerate(group.lines):
            points = [r.point(v.x, v.y) for v in line.vertices]
            if getattr(group, "has_last_leader_line", 0):
                points.append(r.point(group.last_leader_point.x, group.last_leader_point.y))
            if len(points) < 2:
                continue
            height = float(
                text.height if text is not None and getattr(text, "height", None) else context.char_height
            )
            r.notes.append(
                Note(
                    points=tuple(points),
                    wording=wording,
                    at=at or points[-1],
                    across=across,  # type: ignore[arg-type]
                    height=height,
                    layer=layer,
                    style=style,
                    source=f"{source}/{number}" if number else source,
                )
            )


def take_endless(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """XLINE and RAY: construction lines without an end."""
    start, along = Vec3(stated.get("start", (0, 0, 0))), Vec3(stated.get("unit_vector", (1, 0, 0)))
    length = math.hypot(along.x, along.y)
    if length == 0.0:
        raise ValueError("a construction line perpendicular to the drawing plane")
    at = r.point(start.x, start.y, start.z)
    layer, style, source = belongs
    unit = abs(length - 1.0) <= tol.SAME_TURN_RAD  # as it should be; dividing would change its last digit
    way = (along.x, along.y) if unit else (along.x / length, along.y / length)
    r.endless.append(Endless(at, way, entity.dxftype() == "RAY", layer, style, source))
