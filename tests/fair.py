"""One plate as an instructor would set it (ten edges and arcs, three holes, axes, hidden lines, a title) with
its sizes, and the slips that its marks are held against."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Drawing, Entity, Line, Text
from tests.builders import arc, circle, drawing, line
from tests.dimensioned import across, diameter, radius, up

LAYERS = ("outline", "hidden", "centre", "lettering")


def plate(
    *,
    length: float = 120.0,
    height: float = 70.0,
    step: float = 50.0,
    rise: float = 40.0,
    bend: float = 15.0,
    hole: float = 6.0,
    boss: float = 10.0,
    missing: tuple[str, ...] = (),
) -> list[Entity]:
    """The plate's geometry: an outline of seven edges and three arcs, three holes, axes, two hidden lines, a
    title."""
    r, s = bend, 8.0
    parts: dict[str, list[Entity]] = {
        "outline": [
            line((0, 0), (length - r, 0)),
            arc((length - r, r), r, 270, 0),
            line((length, r), (length, rise - r)),
            arc((length - r, rise - r), r, 0, 90),
            line((length - r, rise), (step + s, rise)),
            arc((step + s, rise + s), s, 180, 270),
            line((step, rise + s), (step, height)),
            line((step, height), (0, height)),
            line((0, height), (0, 0)),
        ],
        "holes": [circle((20, 50), hole), circle((20, 18), hole), circle((90, 20), boss)],
        "axes": [
            line((8, 50), (32, 50), "centre"),
            line((20, 6), (20, 62), "centre"),
            line((8, 18), (32, 18), "centre"),
            line((74, 20), (106, 20), "centre"),
            line((90, 4), (90, 36), "centre"),
        ],
        "hidden": [line((62, 0), (62, rise), "hidden"), line((72, 0), (72, rise), "hidden")],
        "title": [
            Text(
                wording="CLAMP PLATE",
                at=(5.0, -20.0),
                anchor="left bottom",
                height=5.0,
                turn_deg=0.0,
                layer="lettering",
                style=Style(),
                source="t",
            )
        ],
    }
    return [e for name, es in parts.items() if name not in missing for e in es]


SAID = (
    across((0, 0), (120, 0)),
    up((0, 0), (0, 70)),
    across((0, 70), (50, 70)),
    up((120, 0), (120, 40)),
    radius((105, 15), 15, before="2 x "),
    radius((58, 48), 8),
    diameter((20, 50), 6, before="2 x "),
    diameter((90, 20), 10),
    across((0, 0), (20, 18)),
    up((0, 0), (20, 18)),
    up((20, 18), (20, 50)),
    across((0, 0), (90, 20)),
    up((0, 0), (90, 20)),
    across((0, 0), (62, 0)),
    across((62, 0), (72, 0)),
)


def sheet() -> Drawing:
    """The key: the plate with what its sheet says."""
    return replace(as_drawing(plate()), dimensions=SAID)


def as_drawing(entities: list[Entity]) -> Drawing:
    """A drawing with its layers."""
    layers = {n: Layer(name=n, style=Style()) for n in ("0", *LAYERS, "dimension")}
    return replace(drawing(list(entities)), layers=layers)


def changed(change: Callable[[Entity], Entity | None]) -> Drawing:
    """The plate with some entities changed or left out."""
    found = [change(e) for e in plate()]
    return as_drawing([e for e in found if e is not None])


def moved_ends(dx: float, dy: float, at: tuple[float, float]) -> Callable[[Entity], Entity]:
    """Move one end of every line that ends at a point."""

    def change(e: Entity) -> Entity:
        if isinstance(e, Line):
            ends = [(x + dx, y + dy) if math.dist((x, y), at) < 1e-6 else (x, y) for x, y in (e.start, e.end)]
            return e._replace(start=ends[0], end=ends[1])
        return e

    return change
