"""Drawings of any size for measuring: plates with outlines, fillets, holes and a few texts, some with slips.

- *plate*: 10 entities: a slotted outline of four edges and two half-turns, two holes, an axis and a text.
"""

from __future__ import annotations

import math

from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line, Text
from evenmark.core.geometry.units import MM
from evenmark.demo.parts import LAYERS

PER_PLATE = 10


def plates(entities: int, slips: float = 0.0) -> Drawing:
    """Return a drawing of about so many entities; of the plates, the share ``slips`` has one thing wrong
    each."""
    out: list[Entity] = []
    count = max(1, entities // PER_PLATE)
    columns = math.ceil(math.sqrt(count))
    every = round(1 / slips) if slips else 0
    for n in range(count):
        x, y = (n % columns) * 60.0, (n // columns) * 40.0
        plate = _plate(x, y, n)
        if every and n % every == 0:
            plate[n // every % len(_SLIPS)] = _SLIPS[n // every % len(_SLIPS)](plate)
        out += plate
    return Drawing(entities=tuple(out), layers=dict(LAYERS), unit=MM)


def _plate(x: float, y: float, n: int) -> list[Entity]:
    width, height, r = 20.0 + n % 7, 10.0 + n % 5, 5.0 + n % 5 / 2
    outline, centre, lettering = (LAYERS[name].style for name in ("outline", "centre", "lettering"))

    def line(ax: float, ay: float, bx: float, by: float) -> Line:
        return Line(
            start=(x + ax, y + ay), end=(x + bx, y + by), layer="outline", style=outline, source=f"l{n}"
        )

    def arc(cx: float, start_deg: float) -> Arc:
        start = math.radians(start_deg)
        return Arc(
            center=(x + cx, y + height / 2),
            radius=height / 2,
            start_rad=start,
            sweep_rad=math.pi,
            layer="outline",
            style=outline,
            source=f"a{n}",
        )

    def circle(cx: float) -> Circle:
        return Circle(
            center=(x + cx, y + height / 2), radius=1 + r / 4, layer="outline", style=outline, source=f"c{n}"
        )

    return [
        line(0, 0, width, 0),
        arc(width, -90),
        circle(0),
        line(width, height, 0, height),
        arc(0, 90),
        circle(width),
        line(4, 2, width - 4, 2),
        line(4, 2, 4, height - 2),
        Line(
            start=(x - 8, y + height / 2),
            end=(x + width + 8, y + height / 2),
            layer="centre",
            style=centre,
            source=f"x{n}",
        ),
        Text(
            wording=f"PLATE {n}",
            at=(x, y - 5),
            anchor="left bottom",
            height=2.5,
            turn_deg=0.0,
            layer="lettering",
            style=lettering,
            source=f"t{n}",
        ),
    ]


def _short(plate: list[Entity]) -> Entity:
    line = plate[0]
    assert isinstance(line, Line)
    return line._replace(end=(line.end[0] - 0.02, line.end[1]))


def _other_arc(plate: list[Entity]) -> Entity:
    return plate[1]._replace(layer="0")


def _doubled(plate: list[Entity]) -> Entity:
    circle = plate[2]
    assert isinstance(circle, Circle)
    return circle._replace(radius=circle.radius * 2)


_SLIPS = (_short, _other_arc, _doubled)


def collinear(n: int) -> Drawing:
    """Return edges one behind the other on one line, with gaps between them."""
    return _all([_line((3.0 * k, 0.0), (3.0 * k + 2.0, 0.0)) for k in range(n)])


def concentric(n: int) -> Drawing:
    """Return circles round one centre."""
    return _all(
        [Circle((0.0, 0.0), 1.0 + 0.5 * k, "outline", LAYERS["outline"].style, f"c{k}") for k in range(n)]
    )


def duplicates(n: int) -> Drawing:
    """Return one square drawn again and again."""
    corners = [(0.0, 0.0), (40.0, 0.0), (40.0, 30.0), (0.0, 30.0)]
    return _all([_line(corners[k % 4], corners[(k + 1) % 4]) for k in range(n)])


def star(n: int) -> Drawing:
    """Return edges from one point in all directions."""
    turns = [math.tau * k / n for k in range(n)]
    return _all([_line((0.0, 0.0), (100 * math.cos(t), 100 * math.sin(t))) for t in turns])


def grid(n: int) -> Drawing:
    """Return equal circles in a grid: each may be taken for any other."""
    wide = max(1, math.isqrt(n))
    style = LAYERS["outline"].style
    return _all(
        [Circle((9.0 * (k % wide), 9.0 * (k // wide)), 2.0, "outline", style, f"c{k}") for k in range(n)]
    )


ADVERSE = (collinear, concentric, duplicates, star, grid)
"""Drawings of one shape over and over, on which a step that compares each with each would show."""


def _line(a: tuple[float, float], b: tuple[float, float]) -> Line:
    return Line(a, b, "outline", LAYERS["outline"].style, f"l{a}{b}")


def _all(entities: list[Entity]) -> Drawing:
    return Drawing(entities=tuple(entities), layers=dict(LAYERS), unit=MM)
