"""Families of drawings: lines, circles, arcs and closed polylines on a loose grid, each alone and mixed, with
slips of any amount in a share of them. Nothing in them repeats as the plates do."""

from __future__ import annotations

import math
import random
from collections.abc import Callable

from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.units import MM
from evenmark.demo.parts import LAYERS

PITCH = 40.0
_STYLE = LAYERS["outline"].style
_LAYER = "outline"
Shape = Callable[[random.Random, Point, str], list[Entity]]


def _line(a: Point, b: Point, source: str) -> Line:
    return Line(a, b, _LAYER, _STYLE, source)


def a_line(rng: random.Random, at: Point, source: str) -> list[Entity]:
    """A line of any length and direction."""
    t, long = rng.uniform(0, math.tau), rng.uniform(5, 30)
    return [_line(at, (at[0] + long * math.cos(t), at[1] + long * math.sin(t)), source)]


def a_circle(rng: random.Random, at: Point, source: str) -> list[Entity]:
    """A circle of any radius."""
    return [Circle(at, rng.uniform(1, 15), _LAYER, _STYLE, source)]


def an_arc(rng: random.Random, at: Point, source: str) -> list[Entity]:
    """An arc of any radius and included angle."""
    start, sweep = rng.uniform(0, math.tau), rng.uniform(0.3, 5.5)
    return [Arc(at, rng.uniform(2, 15), start, sweep, _LAYER, _STYLE, source)]


def a_polyline(rng: random.Random, at: Point, source: str) -> list[Entity]:
    """A closed polyline of three to seven edges."""
    turns = sorted(rng.uniform(0, math.tau) for _ in range(rng.randint(3, 7)))
    corners = [
        (at[0] + rng.uniform(6, 16) * math.cos(t), at[1] + rng.uniform(6, 16) * math.sin(t)) for t in turns
    ]
    return [_line(a, b, source) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]


def a_mixed_one(rng: random.Random, at: Point, source: str) -> list[Entity]:
    """Any of these."""
    return rng.choice((a_line, a_circle, an_arc, a_polyline))(rng, at, source)


FAMILIES: dict[str, Shape] = {
    "lines": a_line,
    "circles": a_circle,
    "arcs": an_arc,
    "polylines": a_polyline,
    "mixed": a_mixed_one,
}


def family(name: str, objects: int, slips: float = 0.0) -> Drawing:
    """Return a drawing of so many objects of a family; the share ``slips`` of them has one thing wrong
    each."""
    rng, wrong = random.Random(name), random.Random(7)  # noqa: S311 - the same drawings each time
    wide = max(1, math.isqrt(objects))
    out: list[Entity] = []
    for n in range(objects):
        at = (PITCH * (n % wide) + rng.uniform(0, 6), PITCH * (n // wide) + rng.uniform(0, 6))
        made = FAMILIES[name](rng, at, f"o{n}")
        if slips and n % round(1 / slips) == 0:
            made = _slipped(made, wrong)
        out += made
    return Drawing(entities=tuple(out), layers=dict(LAYERS), unit=MM)


def _slipped(made: list[Entity], rng: random.Random) -> list[Entity]:
    """Return an object with another size, place, end or layer."""
    k = rng.randrange(len(made))
    e, by = made[k], rng.uniform(0.1, 3.0)
    how = rng.randrange(3)
    if how == 0:
        return [e._replace(layer="0") if n == k else other for n, other in enumerate(made)]
    if isinstance(e, Circle | Arc):
        changed = (
            e._replace(radius=e.radius + by)
            if how == 1
            else e._replace(center=(e.center[0] + by, e.center[1]))
        )
        return [*made[:k], changed, *made[k + 1 :]]
    assert isinstance(e, Line)
    to = (e.end[0] + by, e.end[1] - by / 2)
    moved = e._replace(end=to)
    after = made[(k + 1) % len(made)]
    if how == 1 and len(made) > 1 and isinstance(after, Line):  # the corner elsewhere, both edges with it
        made = [after._replace(start=to) if other is after else other for other in made]
    return [moved if other is e else other for other in made]
