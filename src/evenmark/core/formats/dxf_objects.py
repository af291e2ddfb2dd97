"""One taker for each kind of object that a drawing is made of: lines, arcs, curves and lettering.

- *taker*: a function that adds one object of the file to what has been read.
- *flipped normal*: an object drawn in a plane seen from below (normal 0, 0, -1). By the arbitrary axis
  algorithm of the DXF reference its x runs backward: (x, y) is (-x, y) on the sheet, and counter-clockwise
  becomes clockwise.
- *tilted*: drawn in a plane that leans; what is seen of it from above is what is checked.
"""

from __future__ import annotations

import itertools
import math
from typing import Any

import numpy as np
from ezdxf.math import OCS, BSpline, ConstructionEllipse, Vec3
from numpy.typing import NDArray

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Arc, Circle, FreeCurve, Line
from evenmark.core.formats.bounds import FARTHEST
from evenmark.core.formats.collected import Collected
from evenmark.core.formats.dxf_annotations import (
    take_dimension,
    take_endless,
    take_hatch,
    take_leader,
    take_multileader,
)
from evenmark.core.formats.dxf_lettering import take_mtext, take_text
from evenmark.core.formats.dxf_look import Attributes
from evenmark.core.geometry import arcs, tolerance
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.recognise import recognise

Belongs = tuple[str, Style, str]
Floats = NDArray[np.float64]

OWN = "EVENMARK"
"""Under this name a curve that we wrote says of what kind it is."""
KINDS = ("ellipse", "spline", "curve")
_FRAME_POINT = 16
"""Vertex flag: control point of a smoothed polyline, not on it (DXF reference, VERTEX, group code 70)."""
_DENSEST = 2048
"""Points along one free curve at most; and so many for all of them together times a hundred."""
_MOST_CONTROL_POINTS = 20_000


def flip(r: Collected, stated: Attributes) -> bool | None:
    """Say whether an object is seen from below; None when its plane is tilted."""
    normal = stated.get("extrusion")
    if normal is None or (normal[0] == 0.0 and normal[1] == 0.0 and normal[2] > 0.0):
        return False
    n = Vec3(normal).normalize()
    if abs(n.x) > tolerance.PLANE_NORMAL or abs(n.y) > tolerance.PLANE_NORMAL:
        r.odd["tilted", ""] += 1
        return None
    return bool(n.z < 0)


def add_arc(r: Collected, piece: arcs.RoundPiece, flipped: bool, belongs: Belongs) -> None:
    """Add an arc given in the object's own plane."""
    center, radius, start, sweep = piece
    if flipped:
        center, start = (0.0 - center[0], center[1]), math.pi - start - sweep
    if not 0.0 < radius <= FARTHEST:
        raise ValueError("a radius must be a positive number")
    layer, style, source = belongs
    r.out.append(Arc(center, radius, start, sweep, layer, style, source))


def add_line(r: Collected, start: Point, end: Point, belongs: Belongs) -> None:
    """Add a straight piece."""
    layer, style, source = belongs
    r.out.append(Line(start, end, layer, style, source))


def add_curve(
    r: Collected,
    points: Floats,
    kind: str,
    belongs: Belongs,
    *,
    tilted: bool = False,
    own: Floats | None = None,
) -> None:
    """Add a curve as what it is, told from (n, 3) points exactly on it; a height off the plane is noted
    unless it is tilted. ``own`` are the points that say all of it, where it is nothing but their chords."""
    if not np.all(np.abs(points[:, :2]) <= FARTHEST):
        raise ValueError("coordinate beyond what a drawing can hold")
    if not tilted and np.abs(points[:, 2]).max() > tolerance.PLANE_NORMAL:
        r.odd["off-plane", ""] += 1
    flat = points[:, :2] + 0.0
    found = recognise(flat)
    if found.kind == "nothing":
        return
    if found.ends is not None:
        add_line(r, found.ends[0], found.ends[1], belongs)
    elif found.arc is not None:
        add_arc(r, found.arc, False, belongs)
    else:
        layer, style, source = belongs
        if own is not None:
            flat = own[:, :2] + 0.0
        r.out.append(FreeCurve(tuple((x, y) for x, y in flat.tolist()), kind, layer, style, source))
        r.curve_points += len(flat)


def take_line(r: Collected, _entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """LINE: always in the coordinates of the sheet."""
    add_line(r, r.point(*stated.get("start", (0, 0, 0))), r.point(*stated.get("end", (0, 0, 0))), belongs)


def take_circle(r: Collected, _entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """CIRCLE; a tilted one is seen as an ellipse."""
    flipped = flip(r, stated)
    radius = abs(float(stated.get("radius", 1.0)))
    if not 0.0 < radius <= FARTHEST:
        raise ValueError("a radius must be a positive number")
    if flipped is None:
        _tilted_arc(r, stated, radius, 0.0, 360.0, belongs)
        return
    x, y = r.point(*stated.get("center", (0, 0, 0)))
    layer, style, source = belongs
    r.out.append(Circle((0.0 - x if flipped else x, y), radius, layer, style, source))


def take_arc(r: Collected, _entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """ARC: angles in degrees, counter-clockwise, possibly across 0 and outside [0, 360)."""
    flipped = flip(r, stated)
    radius = abs(float(stated.get("radius", 1.0)))
    start, end = float(stated.get("start_angle", 0)), float(stated.get("end_angle", 360))
    if flipped is None:
        _tilted_arc(r, stated, radius, start, end, belongs)
        return
    center = r.point(*stated.get("center", (0, 0, 0)))
    add_arc(r, arcs.from_degrees(center, radius, start, end), flipped, belongs)


def _tilted_arc(
    r: Collected, stated: Attributes, radius: float, start_deg: float, end_deg: float, belongs: Belongs
) -> None:
    normal = Vec3(stated["extrusion"]).normalize()
    center = OCS(normal).to_wcs(Vec3(stated.get("center", (0, 0, 0))))
    seen = ConstructionEllipse.from_arc(
        center=center, radius=radius, extrusion=normal, start_angle=start_deg, end_angle=end_deg
    )
    _add_ellipse(r, seen, belongs, tilted=True)


def take_ellipse(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """ELLIPSE: one with equal axes is a circle or an arc; any other is a free curve, or what is seen of
    it."""
    ratio = abs(float(stated.get("ratio", 1.0)))
    normal = Vec3(stated.get("extrusion", (0, 0, 1))).normalize()
    level = abs(normal.x) <= tolerance.PLANE_NORMAL and abs(normal.y) <= tolerance.PLANE_NORMAL
    if abs(ratio - 1.0) > tolerance.EQUAL_AXES_SHARE or not level:
        _add_ellipse(r, entity.construction_tool(), belongs)
        return
    center = r.point(*stated.get("center", (0, 0, 0)))
    major = Vec3(stated.get("major_axis", (1, 0, 0)))
    first, last = float(stated.get("start_param", 0.0)), float(stated.get("end_param", math.tau))
    sweep = (last - first) % math.tau or math.tau
    if normal.z < 0:
        first = -first - sweep
    piece = (center, math.hypot(major.x, major.y), math.atan2(major.y, major.x) + first, sweep)
    add_arc(r, piece, False, belongs)


def _add_ellipse(r: Collected, tool: ConstructionEllipse, belongs: Belongs, *, tilted: bool = False) -> None:
    span = (tool.end_param - tool.start_param) % math.tau or math.tau
    n = max(16, int(_density(r) * span / math.tau))
    turns = tool.start_param + span * np.linspace(0.0, 1.0, n + 1)
    c, a, b = (np.array(v.xyz) for v in (tool.center, tool.major_axis, tool.minor_axis))
    dense = c + np.cos(turns)[:, None] * a + np.sin(turns)[:, None] * b
    if span == math.tau:
        dense[-1] = dense[0]
    add_curve(r, dense, "ellipse", belongs, tilted=tilted)


def _density(r: Collected) -> int:
    """Return along how many points a whole free curve is kept: fewer where a file has very many."""
    return _DENSEST if r.curve_points < 100 * _DENSEST else 128


def take_spline(r: Collected, entity: Any, _stated: Attributes, belongs: Belongs) -> None:
    """SPLINE: an exact line or circle is that; any other is a free curve."""
    if max(len(entity.control_points), len(entity.fit_points)) > _MOST_CONTROL_POINTS:
        raise ValueError("a spline of too many points")
    tool: BSpline = entity.construction_tool()
    knots = sorted(set(tool.knots()))
    low, high = knots[0], knots[-1]
    spans = max(1, min(len(knots) - 1, 4096))
    each = max(4, _density(r) // spans)
    # every knot span by itself, so that no bend between two samples is missed
    params = np.concatenate([np.linspace(a, b, each, endpoint=False) for a, b in itertools.pairwise(knots)])
    points = np.array([p.xyz for p in tool.points([*params.tolist(), high])], np.float64)
    if not np.isfinite(points).all() or not high > low:
        raise ValueError("a spline that runs off")
    if entity.closed and np.hypot(*(points[0] - points[-1])[:2]) <= tolerance.SAME_CURVE_SHARE * np.ptp(
        points
    ):
        points[-1] = points[0]
    own = np.array([p.xyz for p in tool.control_points], np.float64) if tool.degree == 1 else None
    add_curve(r, points, _kind_of(entity), belongs, own=own)


def _kind_of(entity: Any) -> str:
    """Return what kind of curve a spline stands for: one that we wrote says it."""
    if entity.has_xdata(OWN):
        said = entity.get_xdata(OWN)[0].value
        return said if said in KINDS else "spline"
    return "spline"


def take_lwpolyline(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """LWPOLYLINE: vertices in the object's plane, a bulge for each."""
    flipped = flip(r, stated)
    if flipped is None:
        _tilted_polyline(r, entity, belongs)
        return
    if abs(stated.get("elevation", 0.0)) > tolerance.PLANE_NORMAL:
        r.odd["off-plane", ""] += 1
    vertices = [(*r.point(x, y), float(b)) for x, y, b in entity.get_points("xyb")]
    add_polyline(r, vertices, bool(entity.closed), flipped, belongs)


def take_polyline(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """POLYLINE, two- or three-dimensional; meshes are not understood."""
    if not (entity.is_2d_polyline or entity.is_3d_polyline):
        r.solids += 1
        r.odd["not-understood", "POLYLINE mesh"] += 1
        return
    flat = bool(entity.is_2d_polyline)
    flipped = flip(r, stated) if flat else False
    if flipped is None:
        _tilted_polyline(r, entity, belongs)
        return
    vertices = [
        (*r.point(*v.dxf.location), float(v.dxf.get("bulge", 0.0)) if flat else 0.0)
        for v in entity.vertices
        if not v.dxf.get("flags", 0) & _FRAME_POINT
    ]
    add_polyline(r, vertices, bool(entity.is_closed), flipped, belongs)


def _tilted_polyline(r: Collected, entity: Any, belongs: Belongs) -> None:
    layer, style, source = belongs
    for number, part in enumerate(entity.virtual_entities()):
        taker = take_line if part.dxftype() == "LINE" else take_arc
        taker(r, part, part.dxf.all_existing_dxf_attribs(), (layer, style, f"{source}/{number}"))


def add_polyline(
    r: Collected, vertices: list[tuple[float, float, float]], closed: bool, flipped: bool, belongs: Belongs
) -> None:
    """Add the pieces of a polyline; they share its source."""
    layer, style, source = belongs
    points = [(x, y) for x, y, _ in vertices]
    ends = points[1:] + points[:1] if closed else points[1:]
    for (_, _, bulge), start, end in zip(vertices, points, ends, strict=False):
        if start == end:
            continue  # a repeated vertex is how some writers end a polyline; nothing is drawn there
        if abs(bulge) > tolerance.SLACK_SHARE:  # less is what writers leave of a straight piece
            add_arc(r, arcs.from_bulge(start, end, bulge), flipped, belongs)
        elif flipped:
            add_line(r, (0.0 - start[0], start[1]), (0.0 - end[0], end[1]), belongs)
        else:
            r.out.append(Line(start, end, layer, style, source))


TAKERS: dict[str, Any] = {
    "LINE": take_line,
    "CIRCLE": take_circle,
    "ARC": take_arc,
    "ELLIPSE": take_ellipse,
    "SPLINE": take_spline,
    "LWPOLYLINE": take_lwpolyline,
    "POLYLINE": take_polyline,
    "TEXT": take_text,
    "ATTRIB": take_text,
    "MTEXT": take_mtext,
    "DIMENSION": take_dimension,
    "ARC_DIMENSION": take_dimension,
    "HATCH": take_hatch,
    "MPOLYGON": take_hatch,
    "LEADER": take_leader,
    "MULTILEADER": take_multileader,
    "XLINE": take_endless,
    "RAY": take_endless,
}
"""The taker of each kind of object."""
