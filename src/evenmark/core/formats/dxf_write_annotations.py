"""Dimensions, hatching, notes and construction lines as true objects of a DXF file; dimensions with the
picture that everything else shows of them, too."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from ezdxf.entities.mleader import LeaderData, LeaderLine
from ezdxf.math import Vec2, Vec3
from ezdxf.render.mleader import ConnectionSide, TextAlignment

from evenmark.core.drawing.annotations import Dimension, Endless, Hatch, Note
from evenmark.core.drawing.picture import picture_of
from evenmark.core.formats.dxf_words import paragraph_code
from evenmark.core.geometry.points import direction_deg

OWN_BLOCK, OWN_PLACE, ORDINATE_X = 32, 128, 64
"""Bits of a dimension's type: its picture is a block of its own, its figure stands where it was put, an
ordinate is one of x (DXF reference, DIMENSION, group code 70)."""
ZEROS, NO_ZEROS_AT_END = 0, 8
DECIMAL, IN_PARTS = 2, 5
Looks = Callable[[Any], dict[str, Any]]
Draws = Callable[[Any, Any], None]
"""Draws an entity into a space."""


def add_dimension(space: Any, d: Dimension, look: Looks, draw: Draws, *, inch: bool) -> None:
    """Add a dimension with its picture in a block of its own."""
    if d.kind == "arc":
        entity = space.new_entity("ARC_DIMENSION", {**look(d), **_points(d)})
    else:
        entity = space.new_entity("DIMENSION", {**look(d), **_points(d)})
    entity.dxf.text_midpoint = d.at
    if d.typed is not None:
        entity.dxf.text = paragraph_code(d.typed)
    elif d.before or d.after:
        entity.dxf.text = f"{paragraph_code(d.before)}<>{paragraph_code(d.after)}"
    said = {
        "dimtxt": d.height,
        "dimasz": 0.9 * d.height,
        "dimscale": 1.0,
        "dimdec": d.decimals,
        "dimzin": ZEROS if d.zeros else NO_ZEROS_AT_END,
        "dimlunit": IN_PARTS if d.fractions else DECIMAL,
        "dimlfac": d.factor,
    }
    if d.kind == "angular":
        said |= {"dimadec": d.decimals, "dimazin": 0 if d.zeros else 2}
    if d.tolerance is not None:
        said |= {"dimtol": 1, "dimtp": d.tolerance[0], "dimtm": 0.0 - d.tolerance[1]}
    override = entity.override()
    override.update(said)
    override.commit()
    block = space.doc.blocks.new_anonymous_block(type_char="D")
    entity.dxf.geometry = block.name
    for e in picture_of(d, inch=inch):
        draw(block, e)


def _points(d: Dimension) -> dict[str, Any]:
    """Return the defining points of a dimension by the names of the DXF library."""
    line = d.line if d.line is not None else d.at
    own = OWN_BLOCK | OWN_PLACE
    if d.kind == "linear":
        a, b = d.points
        aligned = a != b and d.turn_deg not in (0.0, 90.0) and direction_deg(a, b) == d.turn_deg
        kind = 1 if aligned else 0
        out = {"dimtype": kind | own, "defpoint": line, "defpoint2": a, "defpoint3": b}
        return out if aligned else {**out, "angle": d.turn_deg}
    if d.kind in ("radius", "diameter"):
        kind = 4 if d.kind == "radius" else 3
        return {"dimtype": kind | own, "defpoint": d.points[0], "defpoint4": d.points[1]}
    if d.kind == "ordinate":
        at, origin = d.points
        way = ORDINATE_X if d.turn_deg == 0.0 else 0
        return {"dimtype": 6 | way | own, "defpoint": origin, "defpoint2": at, "defpoint3": line}
    vertex, a, b = d.points
    return {
        "dimtype": (8 if d.kind == "arc" else 5) | own,
        "defpoint": line,
        "defpoint2": a,
        "defpoint3": b,
        "defpoint4": vertex,
    }


def add_hatch(space: Any, h: Hatch, look: Looks) -> None:
    """Add hatching: solid, or of lines at an angle with a gap (a pattern of the drawing's own)."""
    attributes = look(h)
    entity = space.add_hatch(color=attributes.get("color", 256), dxfattribs=attributes)
    if h.pattern != "solid":
        entity.dxf.solid_fill = 0
        entity.dxf.pattern_name = h.pattern.upper() or "LINES"
        entity.dxf.pattern_type = 0
        entity.dxf.pattern_angle, entity.dxf.pattern_scale = h.angle_deg, h.gap
        turn, gap = math.radians(h.angle_deg), h.gap or 1.0
        family = [h.angle_deg, (0.0, 0.0), (-gap * math.sin(turn), gap * math.cos(turn)), []]
        entity.set_pattern_definition([family])
        entity.dxf.pattern_angle, entity.dxf.pattern_scale = h.angle_deg, h.gap
    for n, loop in enumerate(h.loops):
        entity.paths.add_polyline_path(
            [(v.x, v.y, v.bulge) for v in loop], is_closed=True, flags=1 if n == 0 else 16
        )


def add_note(space: Any, n: Note, look: Looks, handles: dict[str, str]) -> None:
    """Add a note: a leader tied to its text where that is one of its own, else leader and wording in one."""
    if n.text_source:
        leader = space.add_leader(n.points, dxfattribs=look(n))
        leader.dxf.annotation_handle = handles.get(n.text_source, "0")
        leader.dxf.annotation_type = 0
        return
    build = space.add_multileader_mtext("Standard", dxfattribs=look(n))
    align = TextAlignment(("left", "centre", "right").index(n.across) + 1)
    build.set_content(paragraph_code(n.wording), char_height=n.height, alignment=align)
    build.add_leader_line(ConnectionSide.left, [Vec2(n.points[0])])
    build.build(Vec2(n.at))  # then with its points as they are, which the library lays out anew
    context = build.context
    context.mtext.insert, context.char_height = Vec3(n.at), n.height
    context.arrow_head_size, context.landing_gap_size = 0.9 * n.height, 0.3 * n.height
    context.base_point = Vec3(n.points[-1])
    line = LeaderLine()
    line.vertices = [Vec3(p) for p in n.points[:-1]]
    data = LeaderData()
    data.lines = [line]
    data.last_leader_point, data.has_last_leader_line = Vec3(n.points[-1]), 1
    data.dogleg_length = 0.0
    context.leaders = [data]


def add_endless(space: Any, e: Endless, look: Looks) -> None:
    """Add a construction line without an end."""
    make = space.add_ray if e.ray else space.add_xline
    made = make(e.at, e.way, dxfattribs=look(e))
    made.dxf.unit_vector = (*e.way, 0.0)  # as it is: the library would work it out once more
