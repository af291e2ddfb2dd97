"""Drawings and what stands in them, in another place: a motion moves everything alike."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TypeVar

from evenmark.core.drawing.annotations import Dimension, Endless, Hatch, Note, Vertex, measure
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, FreeCurve, Line, Text
from evenmark.core.geometry.similarities import Similarity

E = TypeVar("E", bound=Entity)


def moved_entity(e: E, motion: Similarity) -> E:
    """Return an entity after a motion; lettering is turned with the drawing, and never mirrored itself."""
    if motion.still:
        return e
    p = motion.point
    if isinstance(e, Line):
        return e._replace(start=p(e.start), end=p(e.end))
    if isinstance(e, Text):
        turn = (e.turn_deg + motion.turn_deg) % 360.0 if motion.turn_deg else e.turn_deg
        second = p(e.second) if e.second is not None else None
        return e._replace(at=p(e.at), height=e.height * motion.scale, turn_deg=turn, second=second)
    if isinstance(e, FreeCurve):
        return e._replace(points=tuple(map(p, e.points)))
    if isinstance(e, Circle):
        return e._replace(center=p(e.center), radius=e.radius * motion.scale)
    assert isinstance(e, Arc)
    start = math.pi - e.start_rad - e.sweep_rad if motion.mirror else e.start_rad
    if motion.turn_deg:
        start += math.radians(motion.turn_deg)
    return e._replace(center=p(e.center), radius=e.radius * motion.scale, start_rad=start)


def moved_dimension(d: Dimension, motion: Similarity) -> Dimension:
    """Return a dimension after a motion; it measures what it then stands at."""
    if motion.still:
        return d
    turn = motion.direction_deg(d.turn_deg) % 180.0
    points = tuple(map(motion.point, d.points))
    if motion.mirror and d.kind == "arc":
        points = (points[0], points[2], points[1])
    return replace(
        d,
        points=points,
        measured=measure(d.kind, points, turn),
        turn_deg=turn,
        at=motion.point(d.at),
        line=motion.point(d.line) if d.line is not None else None,
        height=d.height * motion.scale,
    )


def moved_hatch(h: Hatch, motion: Similarity) -> Hatch:
    """Return hatching after a motion."""
    if motion.still:
        return h
    side = -1.0 if motion.mirror else 1.0
    loops = tuple(tuple(Vertex(*motion.point(v.at), v.bulge * side) for v in loop) for loop in h.loops)
    angle = motion.direction_deg(h.angle_deg) % 180.0
    return replace(h, loops=loops, angle_deg=angle, gap=h.gap * motion.scale)


def moved_note(n: Note, motion: Similarity) -> Note:
    """Return a note after a motion."""
    if motion.still:
        return n
    points = tuple(map(motion.point, n.points))
    return replace(n, points=points, at=motion.point(n.at), height=n.height * motion.scale)


def moved_endless(e: Endless, motion: Similarity) -> Endless:
    """Return a construction line after a motion."""
    if motion.still:
        return e
    x, y = motion.vector(e.way)
    return e._replace(at=motion.point(e.at), way=(x / motion.scale, y / motion.scale))


def moved_drawing(d: Drawing, motion: Similarity) -> Drawing:
    """Return a drawing after a motion; what stands on its sheet layouts stays."""
    return replace(
        d,
        entities=tuple(moved_entity(e, motion) for e in d.entities),
        dimensions=tuple(moved_dimension(x, motion) for x in d.dimensions),
        hatches=tuple(moved_hatch(h, motion) for h in d.hatches),
        notes=tuple(moved_note(n, motion) for n in d.notes),
        endless=tuple(moved_endless(e, motion) for e in d.endless),
    )
