"""Dimensions, notes, hatches and endless construction lines of a linework: in its unit, in order of place."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TypeVar

import numpy as np

from evenmark.core.drawing import annotations as drawn
from evenmark.core.drawing.model import Text
from evenmark.core.drawing.moving import moved_dimension
from evenmark.core.geometry import arcs
from evenmark.core.geometry.points import Point, box_of, distance, point_on
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework.model import EndlessFeature, HatchFeature, NoteFeature
from evenmark.core.linework.nodes import grid, order_of

_NEAR_HEIGHTS = 3.0
"""A leader that is tied to no text belongs to the text that stands within so many of its heights of the
leader's last point."""

_CHORDS_A_TURN = 1024
"""Into how many chords a round boundary is cut: its area is then right to a hundred-thousandth."""

T = TypeVar("T", drawn.Dimension, drawn.Hatch, drawn.Endless, NoteFeature)


def _sorted(items: Sequence[T], place: Callable[[T], Point], weld: float) -> list[T]:
    if not items:
        return []
    return [items[i] for i in order_of(grid(np.array([place(item) for item in items]), weld))]


def dimensions_of(items: Sequence[drawn.Dimension], scale: float, weld: float) -> tuple[drawn.Dimension, ...]:
    """Return the dimensions as features, scaled."""
    onto = Similarity(scale=scale)
    return tuple(
        replace(moved_dimension(d, onto), id=f"d{n}")
        for n, d in enumerate(_sorted(items, lambda d: d.points[0], weld / scale), 1)
    )


def endless_of(items: Sequence[drawn.Endless], scale: float, weld: float) -> tuple[EndlessFeature, ...]:
    """Return construction lines without an end."""
    return tuple(
        EndlessFeature(
            f"r{n}",
            (e.at[0] * scale, e.at[1] * scale),
            ((e.at[0] + e.way[0]) * scale, (e.at[1] + e.way[1]) * scale),
            e.ray,
            e.layer,
            e.style,
            (e.source,),
        )
        for n, e in enumerate(_sorted(items, lambda e: e.at, weld / scale), 1)
    )


def hatches_of(items: Sequence[drawn.Hatch], scale: float, weld: float) -> tuple[HatchFeature, ...]:
    """Return hatches with the area that they fill: a loop inside another one takes its area off."""
    out = []
    flat = {id(h): tuple(polygon_of(loop) for loop in h.loops) for h in items}
    for n, h in enumerate(_sorted(items, lambda h: _middle(flat[id(h)]), weld / scale), 1):
        loops = tuple(tuple((x * scale, y * scale) for x, y in loop) for loop in flat[id(h)])
        out.append(
            HatchFeature(
                f"h{n}", loops, filled_area(loops), _middle(loops), h.pattern, h.layer, h.style, (h.source,)
            )
        )
    return tuple(out)


def polygon_of(loop: Sequence[drawn.Vertex]) -> tuple[Point, ...]:
    """Return a boundary as a polygon, its round pieces cut into many chords."""
    out: list[Point] = []
    for v, w in zip(loop, (*loop[1:], loop[0]), strict=True):
        out.append(v.at)
        if v.bulge and v.at != w.at:
            center, radius, start, sweep = arcs.from_bulge(v.at, w.at, v.bulge)
            n = max(2, math.ceil(sweep / math.tau * _CHORDS_A_TURN))
            points = [point_on(center, radius, start + sweep * i / n) for i in range(1, n)]
            out += points if v.bulge > 0 else points[::-1]
    return tuple(out)


def _middle(loops: tuple[tuple[Point, ...], ...]) -> Point:
    box = box_of([p for loop in loops for p in loop])
    assert box is not None
    return ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2)


def polygon_area(points: Sequence[Point]) -> float:
    """Return the area of a polygon, positive counter-clockwise; worked out from its first point."""
    p = np.array(points, np.float64) - points[0]
    q = np.roll(p, -1, axis=0)
    return float((p[:, 0] * q[:, 1] - q[:, 0] * p[:, 1]).sum() / 2)


def filled_area(loops: tuple[tuple[Point, ...], ...]) -> float:
    """Return the area inside an odd number of loops, for loops that do not cross each other."""
    total = 0.0
    for i, loop in enumerate(loops):
        depth = sum(_inside(loop[0], other) for k, other in enumerate(loops) if k != i)
        total += abs(polygon_area(loop)) * (-1.0 if depth % 2 else 1.0)
    return total


def _inside(p: Point, loop: Sequence[Point]) -> bool:
    """Say whether a point lies in a polygon, by counting crossings to its right."""
    v = np.array(loop, np.float64)
    w = np.roll(v, -1, axis=0)
    spans = (v[:, 1] > p[1]) != (w[:, 1] > p[1])
    with np.errstate(divide="ignore", invalid="ignore"):
        x = v[:, 0] + (p[1] - v[:, 1]) / (w[:, 1] - v[:, 1]) * (w[:, 0] - v[:, 0])
    return bool(np.count_nonzero(spans & (x > p[0])) % 2)


def notes_of(
    notes: Sequence[drawn.Note], texts: list[Text], scale: float, weld: float
) -> tuple[tuple[NoteFeature, ...], list[Text]]:
    """Return the notes, and the texts that belong to none. A note's text is not lettering of its own."""
    if not notes:
        return (), texts
    left = list(texts)
    made: list[NoteFeature] = []
    for leader in notes:
        wording, at, height = leader.wording, leader.at, leader.height
        own = next((t for t in left if t.source == leader.text_source), None) if leader.text_source else None
        if own is None and not wording:
            near = [t for t in left if distance(t.at, leader.points[-1]) <= _NEAR_HEIGHTS * t.height]
            own = min(near, key=lambda t: (distance(t.at, leader.points[-1]), t.wording), default=None)
        if own is not None:
            wording, at, height = own.wording, own.at, own.height
            left = [t for t in left if t is not own]
        tip = leader.points[0]
        made.append(
            NoteFeature(
                id="",
                tip=(tip[0] * scale, tip[1] * scale),
                wording=" ".join(wording.split()),
                at=(at[0] * scale, at[1] * scale),
                height=height * scale,
                layer=leader.layer,
                style=leader.style,
                sources=(leader.source,),
            )
        )
    ordered = _sorted(made, lambda note: note.tip, weld)
    return tuple(note._replace(id=f"n{n}") for n, note in enumerate(ordered, 1)), left
