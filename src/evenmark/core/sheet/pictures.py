"""What a drawing shows beside its features: the texts of its notes, the lines of its hatching, its
construction lines without an end.

They are pictures only, as lines and lettering; what is examined of notes and hatching is elsewhere.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from evenmark.core.drawing.model import Drawing, Endless, Entity, Hatch, Line, Text
from evenmark.core.geometry.points import Box, Point
from evenmark.core.linework.annotations import notes_of

HATCH_LINES = 40
"""Lines across the longer side of a hatched region, whatever its pattern: it shows that it is filled, and not
with what."""
MOST_HATCH_LINES = 4000
"""Of a whole drawing; regions beyond them stay empty."""
BEYOND = 0.05
"""How far a construction line runs past the drawing, as a share of its longer side."""
_SLOPE = math.radians(45)


def pictures(drawing: Drawing) -> tuple[Entity, ...]:
    """Return the lines and lettering of a drawing's notes, hatching and endless lines."""
    return (*_note_texts(drawing), *_hatching(drawing.hatches), *_endless(drawing))


def _note_texts(drawing: Drawing) -> list[Text]:
    """Return the texts that belong to notes, which are no lettering of their own."""
    texts = [e for e in drawing.entities if isinstance(e, Text)] if drawing.leaders else []
    _, left = notes_of(drawing.leaders, texts, 1.0, 0.0)
    others = {id(t) for t in left}
    return [t for t in texts if id(t) not in others]


def _hatching(hatches: tuple[Hatch, ...]) -> list[Line]:
    out: list[Line] = []
    for hatch in hatches:
        for a, b in _strokes(hatch):
            if len(out) >= MOST_HATCH_LINES:
                return out
            out.append(Line(a, b, hatch.layer, hatch.style, hatch.source))
    return out


def _strokes(hatch: Hatch) -> Iterator[tuple[Point, Point]]:
    """Yield the strokes of a region at 45 degrees, inside an odd number of its loops."""
    cos, sin = math.cos(_SLOPE), math.sin(_SLOPE)
    loops = [[(x * cos + y * sin, y * cos - x * sin) for x, y in loop] for loop in hatch.loops]
    ups = [v for loop in loops for _, v in loop]
    low, high = min(ups), max(ups)
    step = (high - low) / HATCH_LINES
    if not step > 0.0:
        return
    for n in range(HATCH_LINES):
        at = low + (n + 0.5) * step
        crossings = sorted(
            u0 + (at - v0) / (v1 - v0) * (u1 - u0)
            for loop in loops
            for (u0, v0), (u1, v1) in zip(loop, loop[1:] + loop[:1], strict=True)
            if (v0 > at) != (v1 > at)
        )
        for first, last in zip(crossings[::2], crossings[1::2], strict=False):
            yield (
                (first * cos - at * sin, at * cos + first * sin),
                (last * cos - at * sin, at * cos + last * sin),
            )


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
    (x, y), dx, dy = e.at, e.toward[0] - e.at[0], e.toward[1] - e.at[1]
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
