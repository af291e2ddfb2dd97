"""What of a drawing is drawn as lines and lettering: its entities, and the pictures of what it says."""

from __future__ import annotations

import math

from evenmark.core.drawing.hatching import picture_of_hatches
from evenmark.core.drawing.model import Drawing, Entity, Line, Text, reach_of
from evenmark.core.drawing.picture import picture_of, picture_of_note, width_of
from evenmark.core.geometry.points import Box, Point, box_of, distance
from evenmark.core.geometry.similarities import turned

BEYOND = 0.05
"""How far a construction line runs past the drawing, as a share of its longer side."""


def pictures_of(drawing: Drawing) -> list[Entity]:
    """Return the lines and lettering of a drawing's dimensions, notes, hatching and endless lines."""
    inch = drawing.unit is not None and drawing.unit.imperial
    return [
        *(e for d in drawing.dimensions for e in picture_of(d, inch=inch)),
        *(e for n in drawing.notes for e in picture_of_note(n, inch=inch)),
        *picture_of_hatches(drawing.hatches),
        *endless_of(drawing),
    ]


def all_shown(drawing: Drawing) -> list[Entity]:
    """Return everything that is drawn, pictures last."""
    return [*drawing.entities, *pictures_of(drawing)]


def box_shown(entities: list[Entity]) -> Box | None:
    """Return the box round what is drawn, lettering as wide as it is about; None where nothing is."""
    return box_of([p for e in entities for p in (_room_of(e) if isinstance(e, Text) else reach_of(e))])


def _room_of(t: Text) -> list[Point]:
    """Return the corners of the room that lettering takes up, about."""
    wide = width_of(t.wording, t.height) if t.second is None else distance(t.at, t.second)
    high = t.height * (1.0 + 1.6 * t.wording.count("\n"))
    across, up = t.anchor.split()
    x = {"left": 0.0, "centre": -wide / 2, "right": -wide}[across]
    y = {"top": -high, "middle": -high / 2}.get(up, 0.0)
    turn = turned((0.0, 0.0), t.turn_deg)
    corners = [(x, y), (x + wide, y), (x + wide, y + high), (x, y + high)]
    return [(t.at[0] + u, t.at[1] + v) for u, v in map(turn.point, corners)]


def endless_of(drawing: Drawing) -> list[Line]:
    """Return construction lines as far as they are drawn: a little past the drawing."""
    box = drawing.box
    if box is None or not drawing.endless:
        return []
    reach = BEYOND * (max(box[2] - box[0], box[3] - box[1]) or 1.0)
    room = (box[0] - reach, box[1] - reach, box[2] + reach, box[3] + reach)
    found = ((e, within(e.at, e.way, room, ray=e.ray)) for e in drawing.endless)
    return [Line(*ends, e.layer, e.style, e.source) for e, ends in found if ends is not None]


def within(at: Point, way: Point, box: Box, *, ray: bool = False) -> tuple[Point, Point] | None:
    """Return the part of an endless line inside a box; None when it passes it by."""
    (x, y), (dx, dy) = at, way
    first, last = (0.0 if ray else -math.inf), math.inf
    for place, d, least, most in ((x, dx, box[0], box[2]), (y, dy, box[1], box[3])):
        if d == 0.0:
            if not least <= place <= most:
                return None
            continue
        near, far = sorted(((least - place) / d, (most - place) / d))
        first, last = max(first, near), min(last, far)
    if not (first < last and math.isfinite(first) and math.isfinite(last)):
        return None
    return (x + first * dx, y + first * dy), (x + last * dx, y + last * dy)
