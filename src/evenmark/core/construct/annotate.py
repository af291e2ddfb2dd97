"""Steps that annotate: sizes, lettering, notes, hatching, frames.

Figures stand as `drawing.placed` puts them; rows of sizes are spaced after ISO 129-1, borders drawn after ISO
5457 and ASME Y14.1 (all from memory).
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Any

from evenmark.core.construct.making import Build, Making
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Ref
from evenmark.core.construct.state import XY, Broken, plain
from evenmark.core.construct.things import ends_of
from evenmark.core.conventions.papers import PAPERS
from evenmark.core.drawing import placed
from evenmark.core.drawing.annotations import Dimension, Hatch, Note, Vertex
from evenmark.core.drawing.model import Text
from evenmark.core.geometry import arcs, regions
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.lines import Straight, beside, far_along, meet, side_of
from evenmark.core.geometry.points import Point, direction_deg, distance, in_sweep, middle
from evenmark.core.geometry.sure import turn_of

FRAME = "frame"
ROW = 2.3
"""How far sizes from one edge stand apart, as a share of the height of figures."""
FILING_EDGE, EDGE = 20.0, 10.0
INCH_EDGE = 12.7
PARTS_OF_INCH = 64
MOST_TIMES = 200


# sizes


def _look(c: Context, s: dict[str, Any], made: Making) -> dict[str, Any]:
    """Return how a size looks: what stands beside its figure, its height, its layer."""
    before, after = "", ""
    if s.get("times") is not None:
        before = f"{c.count(s['times'], 'features', 1, MOST_TIMES)} × "
    if s.get("brackets"):
        before, after = f"{before}(", ")"
    return {"before": before, "after": after, "height": c.setting.height, "layer": made.layer}


def _put(c: Context, d: Dimension, made: Making) -> None:
    """Draw a size, on an inch sheet in parts where it is some."""
    if d.measured <= 0.0:
        raise Broken("The two points are level with each other in that direction: there is nothing to say.")
    made.note("size", d, d.at)


def _in_parts(c: Context, value: float) -> dict[str, Any]:
    if not c.setting.unit.imperial:
        return {}
    parts = value * PARTS_OF_INCH
    if abs(parts - round(parts)) <= tol.SHOWN_AS_ZERO * PARTS_OF_INCH * (1.0 + value):
        return {"fractions": True}
    return {"decimals": 4}


def _turn(way: str, a: Point, b: Point) -> float:
    return {"across": 0.0, "up": 90.0}.get(way) if way != "along" else direction_deg(a, b)  # type: ignore[return-value]


def _linear(
    c: Context, a: Point, b: Point, way: str, place: Point, look: dict[str, Any], made: Making
) -> None:
    turn = _turn(way, a, b)
    size = placed.linear(a, b, turn, place).measured
    _put(c, placed.linear(a, b, turn, place, **look, **_in_parts(c, size)), made)


def _size(c: Context, s: dict[str, Any], made: Making) -> None:
    a, b = (c.place(p) for p in s["points"])
    _linear(c, a, b, s["way"], c.place(s["at"]), _look(c, s, made), made)


def _size_of(c: Context, s: dict[str, Any], made: Making) -> None:
    a, b = (plain(p) for p in ends_of(c.drawn(s["of"])))
    if c.drawn(s["of"]).endless:
        raise Broken("A guide has no length.")
    _linear(c, a, b, "along", c.place(s["at"]), _look(c, s, made), made)


def _size_radius(c: Context, s: dict[str, Any], made: Making) -> None:
    r, place = c.round(s["of"]), c.place(s["at"])
    look = _look(c, s, made) | _in_parts(c, r.radius)
    touch = None
    if not r.whole and not in_sweep(arcs.turn_to(place, r.center), r.start_rad, r.sweep_rad):
        touch = r.middle  # the arc is not there where the figure stands
    _put(c, placed.of_radius(r.center, r.radius, place, touch, **look), made)


def _size_diameter(c: Context, s: dict[str, Any], made: Making) -> None:
    r, place = c.round(s["of"]), c.place(s["at"])
    look = _look(c, s, made) | _in_parts(c, 2 * r.radius)
    _put(c, placed.of_diameter(r.center, r.radius, place, **look), made)


def _size_angle(c: Context, s: dict[str, Any], made: Making) -> None:
    """Say the angle between two edges in which the figure stands."""
    f, g, place = c.straight(s["of"]), c.straight(s["and"]), c.place(s["at"])
    vertex = meet(f, g)
    if vertex is None:
        raise Broken("The edges are parallel: they hold no angle.")
    legs = _legs(vertex, f, g, place)
    if legs is None:
        raise Broken("The figure stands on one of the edges: put it between them.")
    _put(c, placed.of_angle(vertex, *legs, place, **_look(c, s, made)), made)


def _legs(vertex: Point, f: Straight, g: Straight, place: Point) -> tuple[Point, Point] | None:
    """Return a point on each edge's carrier so that the place lies between the ways to them."""
    reach = max(distance(vertex, place), 1.0)
    for u in (1.0, -1.0):
        for v in (1.0, -1.0):
            a, b = beside(vertex, f.unit, u * reach), beside(vertex, g.unit, v * reach)
            turn = side_of(b, Straight(vertex, a))
            if (
                turn * side_of(place, Straight(vertex, a)) > 0
                and turn * side_of(place, Straight(vertex, b)) < 0
            ):
                return _end_toward(f, vertex, a), _end_toward(g, vertex, b)
    return None


def _end_toward(edge: Straight, vertex: Point, toward: Point) -> Point:
    """Return the end of an edge that lies farthest out along a leg; the point itself where none does."""
    leg = Straight(vertex, toward)
    far = max(edge, key=lambda p: far_along(p, leg))
    return far if far_along(far, leg) > leg.length * tol.WELD_SHARE else toward


def _sizes_from(c: Context, s: dict[str, Any], made: Making) -> None:
    """Say sizes from one edge, each line farther out than the one before."""
    first, *others = (c.place(p) for p in s["points"])
    place, look = c.place(s["at"]), _look(c, s, made)
    at = 1 if s["way"] == "across" else 0
    step = ROW * c.setting.height * (1.0 if place[at] >= first[at] else -1.0)
    for k, p in enumerate(others):
        _linear(c, first, p, s["way"], _in_row(first, p, place[at] + k * step, at), look, made)


def _in_row(a: Point, b: Point, level: float, at: int) -> Point:
    mid = middle(a, b)
    return (mid[0], level) if at == 1 else (level, mid[1])


def _sizes_in_row(c: Context, s: dict[str, Any], made: Making) -> None:
    """Say sizes one behind the other in one line."""
    points = [c.place(p) for p in s["points"]]
    place, look = c.place(s["at"]), _look(c, s, made)
    at = 1 if s["way"] == "across" else 0
    for a, b in pairwise(points):
        _linear(c, a, b, s["way"], _in_row(a, b, place[at], at), look, made)


# lettering, notes


def _text(c: Context, s: dict[str, Any], made: Making) -> None:
    wording = s["wording"].strip()
    if not wording:
        raise Broken("The wording is empty.")
    turn = float(c.number(s["turned"])) if s["turned"] is not None else 0.0
    height = float(c.length(s["height"], "height")) if s["height"] is not None else c.setting.height
    anchor = s["anchor"] or "left baseline"
    style = c.setting.layer(made.layer).style
    if "between" in s:
        a, b = (c.place(p) for p in s["between"])
        if a == b:
            raise Broken("The two points are one: nothing can be spread between them.")
        along = math.degrees(turn_of(b[1] - a[1], b[0] - a[0])) % 360.0
        spread = Text(wording, a, "left baseline", height, along, made.layer, style, "", "", b, "width")
        made.note("text", spread, a)
        return
    if "in" in s:
        a, b = (c.place(p) for p in s["in"])
        cell = abs(b[1] - a[1])
        if s["height"] is None and cell > 0.0:
            height = min(height, cell / 2)
        at, anchor = middle(a, b), s["anchor"] or "centre middle"
    else:
        at = c.place(s["at"])
    made.note("text", Text(wording, at, anchor, height, turn % 360.0, made.layer, style, ""), at)


def _note(c: Context, s: dict[str, Any], made: Making) -> None:
    """Draw a note: its leader from the tip on, its wording beside the last point."""
    points = tuple(c.place(p) for p in s["points"])
    if any(a == b for a, b in pairwise(points)):
        raise Broken("Two points of the leader are one.")
    height = float(c.length(s["height"], "height")) if s["height"] is not None else c.setting.height
    (x, y), before = points[-1], points[-2]
    side = 1.0 if x >= before[0] else -1.0
    note = Note(
        points=points,
        wording=s["wording"].strip(),
        at=(x + side * height / 2, y + height / 2),
        across="left" if side > 0 else "right",
        height=height,
        layer=made.layer,
    )
    if not note.wording:
        raise Broken("The wording is empty.")
    made.note("note", note, points[0])


# hatching


def _hatch(c: Context, s: dict[str, Any], made: Making) -> None:
    """Hatch the region round a point: what drawn lines that are continuous enclose."""
    p, angle, gap = c.place(s["at"]), float(c.number(s["angle"])), float(c.length(s["gap"], "gap"))
    region = _faces(c).region_round(p)
    if region is None:
        raise Broken("Nothing encloses that point. Close the outline round it.")
    loops = tuple(_vertices(loop) for loop in (region.outside, *region.inside))
    hatch = Hatch(loops=loops, angle_deg=angle % 180.0, gap=gap, layer=made.layer)
    made.note("hatch", hatch, loops[0][0].at)


def _faces(c: Context) -> regions.Faces:
    """Return what the drawing encloses; found anew where something was drawn since."""
    bounding = _bounding(c)
    c.spend(len(c.state.places))
    if c.setting.faces is None or c.setting.faces[0] != bounding:
        c.spend(50 * len(bounding))
        c.setting.faces = (bounding, regions.Faces(bounding))
    return c.setting.faces[1]


def _bounding(c: Context) -> list[Curve]:
    """Return the curves that can bound hatching: what is drawn continuously, but for construction."""
    out = []
    for f in c.state.standing():
        if not f.drawn or f.layer.lower() == "construction":
            continue
        if (f.line or c.setting.layer(f.layer).style.line_type) == "continuous":
            out.append(f.shape)
    return out


def _vertices(loop: regions.Loop) -> tuple[Vertex, ...]:
    out = []
    for curve, back in loop:
        x, y = regions.ends_of(curve, back)[0]
        bulge = arcs.bulge_of(curve.sweep_rad) * (-1 if back else 1) if isinstance(curve, Round) else 0.0
        out.append(Vertex(x, y, bulge))
    return tuple(out)


# frames


def _frame(c: Context, s: dict[str, Any], made: Making) -> None:
    """Draw the border of a paper whose lower left corner is the origin: bottom, right, top, left."""
    name = s["paper"] if s["paper"] in PAPERS else f"ANSI {s['paper']}"
    if name not in PAPERS:
        raise Broken(f"There is no paper {s['paper']}. There are: {', '.join(PAPERS)}.")
    wide, high = PAPERS[name] if s["way"] == "across" else PAPERS[name][::-1]
    mm = c.setting.unit.mm
    left, edge = (INCH_EDGE, INCH_EDGE) if name.startswith("ANSI") else (FILING_EDGE, EDGE)
    x0, y0, x1, y1 = (v / mm for v in (left, edge, wide - edge, high - edge))
    corners: list[XY] = [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
    layer, made.group = made.said_layer or FRAME, made.next_group()
    for k in range(4):
        a, b = corners[k], corners[(k + 1) % 4]
        made.add(Straight(plain(a), plain(b)), (a, b), layer=layer)
    made.corners = [(Ref("edge", made.step, k), 0) for k in (1, 2, 3, 4)]
    made.layer = made.state.layer if made.said_layer is None else made.layer


KINDS: dict[str, Build] = {
    "size": _size,
    "size of": _size_of,
    "size radius": _size_radius,
    "size diameter": _size_diameter,
    "size angle": _size_angle,
    "sizes from": _sizes_from,
    "sizes in a row": _sizes_in_row,
    "text": _text,
    "note": _note,
    "hatch": _hatch,
    "frame": _frame,
}
"""How each kind of step is built."""
