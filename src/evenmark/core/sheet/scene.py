"""Scene: what the browser draws. Paths are made here; the browser only pans, zooms and chooses.

Scene coordinates are drawing units with y downward, relative to an origin near the drawing, so that a
browser's single-precision paths still show a gap of a thousandth far from zero.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from typing import Any

from evenmark.core.drawing import model as drawn
from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point, box_of, point_on
from evenmark.core.linework.model import Arc, Circle, Curve, Edge, Free, Linework, Text

EMPTY_BOX: Box = (0.0, 0.0, 100.0, 70.0)
"""What is shown of a drawing with nothing in it."""


def num(value: float) -> str:
    """Return a number for a path: twelve figures, no minus zero."""
    return f"{value + 0.0:.12g}" if abs(value) > tol.SHOWN_AS_ZERO else "0"


class Frame:
    """Turns drawing coordinates into scene coordinates."""

    def __init__(self, box: Box | None) -> None:
        self.box = box or EMPTY_BOX
        self.origin: Point = (self.box[0], self.box[3])

    def at(self, p: Point) -> list[float]:
        """Return a point of the scene."""
        return [round(p[0] - self.origin[0], 9) + 0.0, round(self.origin[1] - p[1], 9) + 0.0]

    def pair(self, p: Point) -> str:
        """Return a point as it stands in a path."""
        x, y = self.at(p)
        return f"{num(x)} {num(y)}"

    def line(self, a: Point, b: Point) -> str:
        """Return the path of a straight piece."""
        return f"M{self.pair(a)}L{self.pair(b)}"

    def arc(self, center: Point, radius: float, start_rad: float, sweep_rad: float) -> str:
        """Return the path of an arc; a full turn is two half turns (SVG 2, elliptical arc commands).

        Counter-clockwise with y up is sweep flag 0 with y down.
        """
        r = num(radius)
        if sweep_rad >= 2 * math.pi - tol.BACKWARD_RAD:
            a, b = point_on(center, radius, 0.0), point_on(center, radius, math.pi)
            return f"M{self.pair(a)}A{r} {r} 0 1 0 {self.pair(b)}A{r} {r} 0 1 0 {self.pair(a)}Z"
        a, b = point_on(center, radius, start_rad), point_on(center, radius, start_rad + sweep_rad)
        return f"M{self.pair(a)}A{r} {r} 0 {int(sweep_rad > math.pi)} 0 {self.pair(b)}"

    def curve(self, f: Curve | drawn.Line | drawn.Arc | drawn.Circle | drawn.FreeCurve) -> str:
        """Return the path of anything drawn as a line."""
        if isinstance(f, Free | drawn.FreeCurve):
            first, *rest = (self.pair(p) for p in f.points)
            return f"M{first}L{' '.join(rest)}"
        if isinstance(f, Edge | drawn.Line):
            return self.line(f.start, f.end)
        if isinstance(f, Arc | drawn.Arc):
            return self.arc(f.center, f.radius, f.start_rad, f.sweep_rad)
        return self.arc(f.center, f.radius, 0.0, 2 * math.pi)

    def text(self, t: Text | drawn.Text) -> dict[str, Any]:
        """Return lettering with its place and anchor."""
        return {
            "wording": t.wording,
            "at": self.at(t.at),
            "anchor": t.anchor,
            "height": round(t.height, 9),
            "turn": round(t.turn_deg, 6),
        }


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
