"""Dimensions, hatches, leaders and endless construction lines of a loaded DXF document."""

from __future__ import annotations

import math
import re
from typing import Any

import numpy as np
from ezdxf.math import OCS, Vec3
from numpy.typing import NDArray

from evenmark.core.drawing.model import Dimension, DimensionKind, Endless, Hatch, Leader, Style
from evenmark.core.formats.collected import Collected
from evenmark.core.geometry import arcs
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance, point_on

Belongs = tuple[str, Style, str]
Floats = NDArray[np.float64]

_LOW_BITS = 15
"""The type of a dimension stands in the low bits (DXF reference, DIMENSION, group code 70); 64 makes an
ordinate one of x."""
_ORDINATE_X = 64
_LINEAR, _ALIGNED, _ANGULAR, _DIAMETER, _RADIUS, _ANGULAR_BY_POINTS, _ORDINATE, _ARC = 0, 1, 2, 3, 4, 5, 6, 8
MOST_CORNERS = 20_000
"""Corners of one boundary; a hatch with more is left out."""
_STEPS_A_TURN = 1024
"""Into how many chords a round boundary is cut: its area is then right to a hundred-thousandth."""


def take_dimension(r: Collected, entity: Any, stated: dict[str, Any], belongs: Belongs) -> None:
    """DIMENSION and ARC_DIMENSION: measured from its own points, whatever its text says."""
    kind, points, turn = _measured_points(entity, stated)
    flat = tuple(r.point(p.x, p.y) for p in points)
    layer, style, source = belongs
    shown = str(stated.get("text", "")).strip()
    before, value, after = shown.partition("<>")
    typed = None if not shown or value else plain(shown)
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
            before=plain(before) if value else "",
            after=plain(after) if value else "",
            factor=_factor(entity),
            at=r.point(at.x, at.y),
            layer=layer,
            style=style,
            source=source,
        )
    )
    if r.with_annotations:
        r.annotate(entity)


def _measured_points(entity: Any, stated: dict[str, Any]) -> tuple[DimensionKind, list[Vec3], float]:
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


def measure(kind: DimensionKind, points: tuple[Point, ...], turn_deg: float) -> float:
    """Return what a dimension of some kind measures between its points: a length in drawing units, or
    degrees.

    >>> points = ((0.0, 0.0), (30.0, 40.0))
    >>> measure("linear", points, 90.0), measure("diameter", points, 0.0)
    (40.0, 50.0)
    """
    if kind in ("linear", "ordinate"):
        (ax, ay), (bx, by) = points
        quarter = {0.0: (1.0, 0.0), 90.0: (0.0, 1.0)}.get(turn_deg % 180.0)
        cos, sin = quarter or (math.cos(math.radians(turn_deg)), math.sin(math.radians(turn_deg)))
        return abs((bx - ax) * cos + (by - ay) * sin)
    if kind in ("radius", "diameter"):
        return distance(points[0], points[1])
    vertex, a, b = points
    turn = (
        math.atan2(b[1] - vertex[1], b[0] - vertex[0]) - math.atan2(a[1] - vertex[1], a[0] - vertex[0])
    ) % math.tau
    return turn * distance(vertex, a) if kind == "arc" else math.degrees(min(turn, math.tau - turn))


def _factor(entity: Any) -> float:
    try:
        factor = float(entity.override().get("dimlfac", 1.0))
    except Exception:  # a dimension without its style
        return 1.0
    return abs(factor) if math.isfinite(factor) and factor != 0.0 else 1.0


_CODES = re.compile(r"\\[A-Za-z][^;\\{}]*;|[{}]|\\[LlOoKkP~]")


def plain(text: str) -> str:
    """Return the wording of a dimension or note without its format codes.

    >>> plain("{\\\\H2.5;%%c32}"), plain("\\\\A1;R5")
    ('Ø32', 'R5')
    """
    for code, sign in (("%%c", "Ø"), ("%%C", "Ø"), ("%%d", "°"), ("%%D", "°"), ("%%p", "±"), ("%%P", "±")):
        text = text.replace(code, sign)
    return " ".join(_CODES.sub(" ", text).split())


def take_hatch(r: Collected, entity: Any, stated: dict[str, Any], belongs: Belongs) -> None:
    """HATCH: the boundary as closed loops; round pieces are cut into many chords."""
    ocs = OCS(stated.get("extrusion", (0, 0, 1)))
    loops = []
    for path in entity.paths:
        corners = _boundary(path)
        if len(corners) > MOST_CORNERS:
            raise ValueError("a boundary of too many corners")
        flat = [ocs.to_wcs(Vec3(x, y, 0)) for x, y in corners]
        loop = tuple(r.point(p.x, p.y) for p in flat)
        if len(loop) > 2:
            loops.append(loop)
    if not loops:
        raise ValueError("a hatch without a boundary")
    layer, style, source = belongs
    pattern = "solid" if stated.get("solid_fill") else str(stated.get("pattern_name", "")).lower()
    r.hatches.append(Hatch(loops=tuple(loops), pattern=pattern, layer=layer, style=style, source=source))


def _boundary(path: Any) -> list[Point]:
    out: list[Point] = []
    if hasattr(path, "vertices"):  # a polyline with bulges
        rows = [(float(x), float(y), float(b)) for x, y, b in path.vertices]
        for (x0, y0, bulge), (x1, y1, _) in zip(rows, rows[1:] + rows[:1], strict=True):
            out += _cut_arc((x0, y0), (x1, y1), bulge) if bulge and (x0, y0) != (x1, y1) else [(x0, y0)]
        return out
    for edge in path.edges:
        piece = _edge_points(edge)
        if out and piece and distance(piece[0], out[-1]) > distance(piece[-1], out[-1]):
            piece.reverse()
        out += piece
    return out


def _cut_arc(a: Point, b: Point, bulge: float) -> list[Point]:
    center, radius, start, sweep = arcs.from_bulge(a, b, bulge)
    n = max(2, math.ceil(sweep / math.tau * _STEPS_A_TURN))
    points = [point_on(center, radius, start + sweep * i / n) for i in range(n + 1)]
    if bulge < 0:
        points.reverse()
    return [a, *points[1:-1]]


def _edge_points(edge: Any) -> list[Point]:
    kind = type(edge).__name__
    if kind == "LineEdge":
        return [(edge.start[0], edge.start[1]), (edge.end[0], edge.end[1])]
    if kind == "ArcEdge":
        sweep = math.radians((edge.end_angle - edge.start_angle) % 360.0 or 360.0)
        start = math.radians(edge.start_angle)
        n = max(2, math.ceil(sweep / math.tau * _STEPS_A_TURN))
        at = (edge.center[0], edge.center[1])
        points = [point_on(at, edge.radius, start + sweep * i / n) for i in range(n + 1)]
        return points if edge.ccw else points[::-1]
    tool = edge.construction_tool()
    return [(p.x, p.y) for p in tool.flattening(tol.CURVE_STEP)]


def take_leader(r: Collected, entity: Any, stated: dict[str, Any], belongs: Belongs) -> None:
    """LEADER: its tip is its first vertex; its note is the text that it is tied to."""
    points = tuple(r.point(*Vec3(v).xyz) for v in entity.vertices)
    if len(points) < 2:
        raise ValueError("a leader of one point")
    layer, style, source = belongs
    handle = str(stated.get("annotation_handle", "") or "")
    r.leaders.append(
        Leader(points=points, text_source=handle, at=points[-1], layer=layer, style=style, source=source)
    )
    if r.with_annotations:
        r.annotate(entity)


def take_multileader(r: Collected, entity: Any, _stated: dict[str, Any], belongs: Belongs) -> None:
    """MULTILEADER: each of its leader lines is one leader with the same note."""
    context = entity.context
    text = context.mtext
    wording = plain(text.default_content) if text is not None else ""
    at = r.point(text.insert.x, text.insert.y) if text is not None else None
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
            r.leaders.append(
                Leader(
                    points=tuple(points),
                    wording=wording,
                    at=at or points[-1],
                    height=height,
                    layer=layer,
                    style=style,
                    source=f"{source}/{number}" if number else source,
                )
            )
    if r.with_annotations:
        r.annotate(entity)


def take_endless(r: Collected, entity: Any, stated: dict[str, Any], belongs: Belongs) -> None:
    """XLINE and RAY: construction lines without an end."""
    start, along = Vec3(stated.get("start", (0, 0, 0))), Vec3(stated.get("unit_vector", (1, 0, 0)))
    length = math.hypot(along.x, along.y)
    if length == 0.0:
        raise ValueError("a construction line that stands square to the drawing plane")
    at = r.point(start.x, start.y, start.z)
    layer, style, source = belongs
    toward = (at[0] + along.x / length, at[1] + along.y / length)
    r.endless.append(Endless(at, toward, entity.dxftype() == "RAY", layer, style, source))
