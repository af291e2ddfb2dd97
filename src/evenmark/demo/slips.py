"""Slips that can be made on any drawing: each takes a drawing and returns it with one slip. For the demo and
for tests."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from evenmark.core.drawing import moving
from evenmark.core.drawing.model import Circle, Drawing, Entity, Line
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.similarities import Similarity

Slip = Callable[[Drawing], Drawing]


def _each(drawing: Drawing, change: Callable[[Entity], Entity]) -> Drawing:
    return replace(drawing, entities=tuple(change(e) for e in drawing.entities))


def _nth(drawing: Drawing, kind: type, n: int) -> int:
    """Return where the n-th entity of a kind stands."""
    found = [i for i, e in enumerate(drawing.entities) if isinstance(e, kind)]
    return found[n % len(found)]


def _with(drawing: Drawing, i: int, entity: Entity) -> Drawing:
    return replace(drawing, entities=(*drawing.entities[:i], entity, *drawing.entities[i + 1 :]))


def circle_scaled(n: int, factor: float) -> Slip:
    """Draw the n-th circle with another radius: 2 for a diameter taken as radius, 0.5 for the reverse."""

    def slip(drawing: Drawing) -> Drawing:
        i = _nth(drawing, Circle, n)
        circle = drawing.entities[i]
        assert isinstance(circle, Circle)
        return _with(drawing, i, circle._replace(radius=circle.radius * factor))

    return slip


def circle_moved(n: int, by: Point) -> Slip:
    """Put the n-th circle beside its place."""

    def slip(drawing: Drawing) -> Drawing:
        i = _nth(drawing, Circle, n)
        circle = drawing.entities[i]
        assert isinstance(circle, Circle)
        return _with(drawing, i, circle._replace(center=(circle.center[0] + by[0], circle.center[1] + by[1])))

    return slip


def end_moved(n: int, along: float) -> Slip:
    """Stop the n-th edge short of its end (negative) or run it past (positive)."""

    def slip(drawing: Drawing) -> Drawing:
        i = _nth(drawing, Line, n)
        line = drawing.entities[i]
        assert isinstance(line, Line)
        length = math.dist(line.start, line.end)
        f = (length + along) / length
        end = (
            line.start[0] + (line.end[0] - line.start[0]) * f,
            line.start[1] + (line.end[1] - line.start[1]) * f,
        )
        return _with(drawing, i, line._replace(end=end))

    return slip


def left_out(kind: type, n: int) -> Slip:
    """Do not draw the n-th entity of a kind."""

    def slip(drawing: Drawing) -> Drawing:
        i = _nth(drawing, kind, n)
        return replace(drawing, entities=drawing.entities[:i] + drawing.entities[i + 1 :])

    return slip


def twice(kind: type, n: int) -> Slip:
    """Draw the n-th entity of a kind a second time."""

    def slip(drawing: Drawing) -> Drawing:
        e = drawing.entities[_nth(drawing, kind, n)]
        return replace(drawing, entities=(*drawing.entities, e._replace(source="again")))

    return slip


def on_layer(layer: str, kind: type = Line, n: int | None = None) -> Slip:
    """Draw the n-th entity of a kind, or all of them, on a layer."""

    def slip(drawing: Drawing) -> Drawing:
        chosen = None if n is None else _nth(drawing, kind, n)
        found = drawing.layers.get(layer)
        entities = [
            e._replace(layer=layer, style=found.style if found else e.style)
            if isinstance(e, kind) and e.layer == "outline" and chosen in (None, i)
            else e
            for i, e in enumerate(drawing.entities)
        ]
        return replace(drawing, entities=tuple(entities))

    return slip


def construction(a: Point, b: Point) -> Slip:
    """Leave a helper line in."""

    def slip(drawing: Drawing) -> Drawing:
        style = drawing.layers["construction"].style
        helper = Line(start=a, end=b, layer="construction", style=style, source="helper")
        return replace(drawing, entities=(*drawing.entities, helper))

    return slip


def moved(by: Point) -> Slip:
    """Draw everything somewhere else."""

    return lambda drawing: _each(drawing, lambda e: moving.moved_entity(e, Similarity(shift=by)))


def scaled(factor: float) -> Slip:
    """Draw everything in another size."""
    return lambda drawing: _each(drawing, lambda e: moving.moved_entity(e, Similarity(scale=factor)))


def mirrored() -> Slip:
    """Draw everything left for right."""
    return lambda drawing: _each(drawing, lambda e: moving.moved_entity(e, Similarity(mirror=True)))


def all_of(*slips: Slip) -> Slip:
    """Make several slips."""

    def slip(drawing: Drawing) -> Drawing:
        for one in slips:
            drawing = one(drawing)
        return drawing

    return slip
