"""What a drawing shows beside its features: the texts of its notes, the lines of its hatching, its
construction lines without an end.

They are pictures only, as lines and lettering; what is examined of notes and hatching is elsewhere.
"""

from __future__ import annotations

import math

from evenmark.core.drawing.annotations import Endless
from evenmark.core.drawing.hatching import picture_of_hatches
from evenmark.core.drawing.model import Drawing, Entity, Line, Text
from evenmark.core.drawing.picture import picture_of, picture_of_note
from evenmark.core.geometry.points import Box, Point
from evenmark.core.linework.annotations import notes_of

BEYOND = 0.05
"""How far a construction line runs past the drawing, as a share of its longer side."""


def pictures(drawing: Drawing) -> tuple[Entity, ...]:
    """Return the lines and lettering of a drawing's dimensions, notes, hatching and endless lines."""
    inch = drawing.unit is not None and drawing.unit.imperial
    return (
        *(e for d in drawing.dimensions for e in picture_of(d, inch=inch)),
        *(e for n in drawing.notes for e in picture_of_note(n, inch=inch)),
        *_note_texts(drawing),
        *picture_of_hatches(drawing.hatches),
        *_endless(drawing),
    )


def _note_texts(drawing: Drawing) -> list[Text]:
    """Return the texts that belong to notes, which are no lettering of their own."""
    texts = [e for e in drawing.entities if isinstance(e, Text)] if drawing.notes else []
    _, left = notes_of(drawing.notes, texts, 1.0, 0.0)
    others = {id(t) for t in left}
    return [t for t in texts if id(t) not in others]


def _endless(drawing: Drawing) -> list[Line]:
    box = drawing.box
    if box is None or not drawing.endless:
        return []
    reach = BEYOND * (max(box[2] - box[0], box[3] - box[1]) or 1.0)
    room = (box[0] - reach, box[1] - reach, box[2] + reach, box[3] + reach)
    found = ((e, _within(e, room)) for e in drawing.endless)
    return [Line(*ends, e.layer, e.style, e.source) for e, ends in found if ends is not None]


def _within(e: Endless, box: Box) -> tuple[Point, Point] | None:
    """Return the part of an endless line inside a box; None when it passes it by."""
    (x, y), (dx, dy) = e.at, e.way
    first, last = (0.0 if e.ray else -math.inf), math.inf
    for at, d, least, most in ((x, dx, box[0], box[2]), (y, dy, box[1], box[3])):
        if d == 0.0:
            if not least <= at <= most:
                return None
            continue
        near, far = sorted(((least - at) / d, (most - at) / d))
        first, last = max(first, near), min(last, far)
    if not (first < last and math.isfinite(first) and math.isfinite(last)):
        return None
    return (x + first * dx, y + first * dy), (x + last * dx, y + last * dy)
