"""What is said beside the pointer of what the sentence would draw: a length and direction, width by height, a
diameter with its radius, across flats and corners, a radius with its angle."""

from __future__ import annotations

import math
from collections.abc import Sequence

from evenmark.core.board.figures import shown as figure
from evenmark.core.construct.evaluation import Outcome
from evenmark.core.construct.kinds.outlines import Polygon, PolygonOnEdge, Rectangle
from evenmark.core.construct.sentences import Sentence
from evenmark.core.construct.state import Feature
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.deterministic import turn_of
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.units import Unit


def live(sentence: Sentence | None, outcome: Outcome | None, points: Sequence[Point], unit: Unit) -> str:
    """Return the numbers of what a sentence would draw, or those of the last way that it has said."""
    made = [c.after for c in outcome.changes if c.after is not None and c.before is None] if outcome else []
    made = [f for f in made if f.drawn]
    if sentence is not None and made:
        if isinstance(sentence.meaning, Rectangle):
            wide, high = (figure(f.shape.length, unit) for f in made[:2])
            return f"{wide} × {high} {unit.symbol}"
        if isinstance(sentence.meaning, Polygon | PolygonOnEdge):
            return _polygon(made, unit)
        if isinstance(made[-1].shape, Round) and len(made) == 1:
            return _round(made[-1].shape, unit)
    if len(points) < 2 or points[-1] == points[-2]:
        return ""
    (ax, ay), (bx, by) = points[-2:]
    turn = math.degrees(turn_of(by - ay, bx - ax)) % 360.0
    return f"{figure(distance(points[-2], points[-1]), unit)} {unit.symbol} toward {figure(turn)}°"


def _round(shape: Round, unit: Unit) -> str:
    radius = f"R{figure(shape.radius, unit)}"
    if shape.whole:
        return f"Ø{figure(2 * shape.radius, unit)} · {radius} {unit.symbol}"
    return f"{radius} {unit.symbol} · {figure(math.degrees(abs(shape.sweep_rad)))}°"


def _polygon(edges: Sequence[Feature], unit: Unit) -> str:
    """Return how far a regular polygon is across its flats and its corners: with an odd number of sides from
    a corner to the flat opposite it, and round its corners."""
    count, side = len(edges), edges[0].shape.length
    about, inside = side / (2 * math.sin(math.pi / count)), side / (2 * math.tan(math.pi / count))
    flats = 2 * inside if count % 2 == 0 else about + inside
    return f"{figure(flats, unit)} across flats · {figure(2 * about, unit)} corners {unit.symbol}"
