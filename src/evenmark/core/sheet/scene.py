"""Scene: what the browser draws. Paths are made here; the browser only pans, zooms and chooses.

Scene coordinates are those of a frame (`frame`).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from typing import Any

from evenmark.core.drawing import model as drawn
from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry.points import Box, box_of, point_on
from evenmark.core.linework.model import Circle, Linework
from evenmark.core.sheet.frame import Frame


def joined_box(boxes: Iterable[Box | None]) -> Box | None:
    """Return the box around boxes."""
    return box_of([p for box in boxes if box for p in ((box[0], box[1]), (box[2], box[3]))])


def scene(
    linework: Linework, frame: Frame, roles: Mapping[str, Role], annotations: tuple[drawn.Entity, ...] = ()
) -> dict[str, Any]:
    """Return features with id, path, layer, role, line type and label anchor, joints by place, lettering, and
    annotations."""
    features = [
        {
            "id": f.id,
            "kind": {"e": "edge", "a": "arc", "c": "circle", "f": "curve"}[f.id[0]],
            "path": frame.curve(f),
            "layer": f.layer,
            "role": role_of(roles, f.layer),
            "line_type": f.style.line_type,
            "at": frame.at(
                f.at if not isinstance(f, Circle) else point_on(f.center, f.radius, math.radians(60))
            ),
        }
        for f in linework.curves.values()
    ]
    joints = [{"id": c.id, "at": frame.at(c.at)} for c in linework.corners]
    joints += [{"id": t.id, "at": frame.at(t.at)} for t in linework.tees]
    outlines = [
        {"id": o.id, "members": [m for m, _ in o.members], "at": frame.at(o.at)} for o in linework.outlines
    ]
    left, bottom, right, top = frame.box
    return {
        "box": [0.0, 0.0, round(right - left, 9), round(top - bottom, 9)],
        "origin": [frame.origin[0], frame.origin[1]],
        "features": features,
        "joints": joints,
        "outlines": outlines,
        "texts": [{"id": t.id, "layer": t.layer, **frame.text(t)} for t in linework.texts],
        "annotations": annotations_of(annotations, frame),
    }


def annotations_of(entities: tuple[drawn.Entity, ...], frame: Frame) -> dict[str, Any]:
    """Return the pictures of dimensions: one path for all lines, and lettering."""
    lines = "".join(frame.curve(e) for e in entities if not isinstance(e, drawn.Text))
    return {"path": lines, "texts": [frame.text(e) for e in entities if isinstance(e, drawn.Text)]}


def annotation_box(entities: tuple[drawn.Entity, ...]) -> Box | None:
    """Return the box around annotations."""
    return box_of([p for e in entities for p in drawn.reach_of(e)])
