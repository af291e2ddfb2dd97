"""Tracings: what is kept of a drawing so that it can be shown and printed, as plain values in its own units.

- *tracing*: features with their shapes, joints, outlines, lettering and the pictures beside them, and the box
  of it all. It is what mark sheets keep: paths and places of a page are made of it at the edge (`scene`).
- *shape*: ``{"line": [x, y, x, y]}``, ``{"arc": [x, y, radius, start, sweep]}`` counter-clockwise with angles
  in radians, ``{"circle": [x, y, radius]}`` or ``{"points": [x, y, x, y, …]}``.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple, NotRequired, TypedDict, cast

from evenmark.core.drawing import model as drawn
from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Box, Point, box_of, point_on
from evenmark.core.linework.model import CircleFeature, Corner, Linework, Tee, TextFeature
from evenmark.core.sheet import frame
from evenmark.core.sheet.frame import EMPTY_BOX, Curve, is_bent, is_circular, is_free

KINDS = {"e": "edge", "a": "arc", "c": "circle", "f": "curve"}
Shape = dict[str, list[float]]


class Along(NamedTuple):
    """A free curve by points along it."""

    points: tuple[Point, ...]


Plain = Straight | Round | Along
"""A shape as a curve again."""


class TracedFeature(TypedDict):
    """A feature with its shape."""

    id: str
    kind: str
    shape: Shape
    layer: str
    role: str
    line_type: str
    at: list[float]


class Named(TypedDict):
    """A joint at its place."""

    id: str
    at: list[float]


class TracedOutline(Named):
    """An outline with the features that it is made of."""

    members: list[str]


class TracedText(TypedDict):
    """Lettering."""

    id: NotRequired[str]
    layer: NotRequired[str]
    wording: str
    at: list[float]
    anchor: str
    height: float
    turn: float


class Beside(TypedDict):
    """The pictures beside the features."""

    shapes: list[Shape]
    texts: list[TracedText]


class TracedClutter(TypedDict):
    """Something left over, at its place."""

    code: str
    at: list[float]


class Tracing(TypedDict):
    """What is kept of a drawing so that it can be shown and printed."""

    box: list[float]
    features: list[TracedFeature]
    joints: list[Named]
    outlines: list[TracedOutline]
    texts: list[TracedText]
    annotations: Beside
    unit: NotRequired[str]
    clutter: NotRequired[list[TracedClutter]]


def tracing(linework: Linework, roles: Mapping[str, Role], beside: tuple[drawn.Entity, ...] = ()) -> Tracing:
    """Return the tracing of linework, with the pictures that stand beside its features."""
    joints: tuple[Corner | Tee, ...] = (*linework.corners, *linework.tees)
    texts = [e for e in beside if isinstance(e, drawn.Text)]
    return {
        "box": list(box_with(linework.box, beside) or EMPTY_BOX),
        "features": [
            {
                "id": f.id,
                "kind": KINDS[f.id[0]],
                "shape": shape_of(f),
                "layer": f.layer,
                "role": role_of(roles, f.layer),
                "line_type": f.style.line_type,
                "at": list(
                    f.at
                    if not isinstance(f, CircleFeature)
                    else point_on(f.center, f.radius, math.radians(60))
                ),
            }
            for f in linework.curves.values()
        ],
        "joints": [{"id": j.id, "at": list(j.at)} for j in joints],
        "outlines": [
            {"id": o.id, "members": [m for m, _ in o.members], "at": list(o.at)} for o in linework.outlines
        ],
        "texts": [{**_lettering(t), "id": t.id, "layer": t.layer} for t in linework.texts],
        "annotations": {
            "shapes": [shape_of(e) for e in beside if not isinstance(e, drawn.Text)],
            "texts": [_lettering(e) for e in texts],
        },
    }


def _lettering(t: drawn.Text | TextFeature) -> TracedText:
    return {
        "wording": t.wording,
        "at": list(t.at),
        "anchor": t.anchor,
        "height": t.height,
        "turn": t.turn_deg,
    }


def box_with(box: Box | None, beside: tuple[drawn.Entity, ...]) -> Box | None:
    """Return the box around a drawing and the pictures beside it; None where there is neither.

    >>> box_with((0.0, 0.0, 1.0, 2.0), ())
    (0.0, 0.0, 1.0, 2.0)
    """
    corners = [(box[0], box[1]), (box[2], box[3])] if box else []
    return box_of([*corners, *(p for e in beside for p in drawn.reach_of(e))])


def shape_of(curve: Curve) -> Shape:
    """Return the shape of a line, arc, circle or free curve of a drawing or of its linework.

    >>> shape_of(Straight((0.0, 0.0), (3.0, 4.0))), shape_of(Along(((0.0, 1.0), (2.0, 3.0))))
    ({'line': [0.0, 0.0, 3.0, 4.0]}, {'points': [0.0, 1.0, 2.0, 3.0]})
    """
    if is_free(curve):
        return {"points": [v for p in curve.points for v in p]}
    if is_bent(curve):
        return {"arc": [*curve.center, curve.radius, curve.start_rad, curve.sweep_rad]}
    if is_circular(curve):
        return {"circle": [*curve.center, curve.radius]}
    line = cast(frame.Straight, curve)
    return {"line": [*line.start, *line.end]}


def curve_of(shape: Shape) -> Plain:
    """Return a shape as a curve again.

    >>> curve_of({"circle": [1.0, 2.0, 3.0]}).radius
    3.0
    """
    [(kind, numbers)] = shape.items()
    if kind == "points":
        return Along(tuple(zip(numbers[::2], numbers[1::2], strict=True)))
    if kind == "line":
        return Straight((numbers[0], numbers[1]), (numbers[2], numbers[3]))
    return Round((numbers[0], numbers[1]), *numbers[2:])
