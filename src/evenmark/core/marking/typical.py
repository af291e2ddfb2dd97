"""Typical slips, made in a key's own drawing, so that an instructor sees what each would cost.

- *size*: the largest circle (not of an axis) drawn twice too large, as when a diameter is taken for a radius;
  in a drawing without circles the longest edge with its far end beside its place, whatever met there moving
  along.
- *gap*: an end that stops a fiftieth of a millimetre short. *missing*: the piece that is drawn shortest.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line
from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance, point_on
from evenmark.core.geometry.units import MM, Unit

_ASIDE: frozenset[Role] = frozenset({"centre", "construction", "dimension", "lettering"})
_BESIDE = 1 / 9
"""By what share of its length the end of an edge is put beside its place: no share that is anything else."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Typical:
    """One slip: what was done, and the drawing with it."""

    says: str
    drawing: Drawing


def typical(key: Drawing, roles: Mapping[str, Role], unit: Unit = MM) -> tuple[Typical, ...]:
    """Return the slips that can be made in a key's drawing: three, fewer where there is nothing to make them
    on."""
    asked = [
        n
        for n, e in enumerate(key.entities)
        if isinstance(e, Line | Arc | Circle) and role_of(dict(roles), e.layer) not in _ASIDE
    ]
    found = (_size(key, asked), _gap(key, asked, unit), _left_out(key, asked))
    return tuple(t for t in found if t is not None)


def _size(key: Drawing, asked: list[int]) -> Typical | None:
    circles = [n for n in asked if isinstance(key.entities[n], Circle)]
    if circles:
        n = max(circles, key=lambda n: (_long(key.entities[n]), -n))
        circle = key.entities[n]
        assert isinstance(circle, Circle)
        return Typical(
            says="A circle drawn with its diameter as radius",
            drawing=_with(key, {n: circle._replace(radius=2 * circle.radius)}),
        )
    lines = [n for n in asked if isinstance(key.entities[n], Line)]
    if not lines:
        return None
    line = key.entities[max(lines, key=lambda n: (_long(key.entities[n]), -n))]
    assert isinstance(line, Line)
    share = 1.0 - _BESIDE
    to = (
        line.start[0] + (line.end[0] - line.start[0]) * share,
        line.start[1] + (line.end[1] - line.start[1]) * share,
    )
    reach = tol.WELD_SHARE * max(_long(line), 1.0)
    moved = {n: _ends_moved(key.entities[n], line.end, to, reach) for n in lines}
    return Typical(says="A length a ninth too short", drawing=_with(key, moved))


def _ends_moved(e: Entity, at: Point, to: Point, reach: float) -> Entity:
    assert isinstance(e, Line)
    return e._replace(
        start=to if distance(e.start, at) <= reach else e.start,
        end=to if distance(e.end, at) <= reach else e.end,
    )


def _gap(key: Drawing, asked: list[int], unit: Unit) -> Typical | None:
    by = tol.TYPICAL_GAP_MM * MM.mm / unit.mm
    for n in asked:
        e = key.entities[n]
        if isinstance(e, Line) and _long(e) > 4 * by and _met(key, n, asked):
            share = 1.0 - by / _long(e)
            end = (
                e.start[0] + (e.end[0] - e.start[0]) * share,
                e.start[1] + (e.end[1] - e.start[1]) * share,
            )
            return Typical(
                says=f"A gap of {by:.3g} {unit.symbol}", drawing=_with(key, {n: e._replace(end=end)})
            )
    return None


def _met(key: Drawing, n: int, asked: list[int]) -> bool:
    """Say whether the end of a line meets the end of another piece."""
    e = key.entities[n]
    assert isinstance(e, Line)
    reach = tol.WELD_SHARE * max(_long(e), 1.0)
    return any(distance(p, e.end) <= reach for m in asked if m != n for p in _ends(key.entities[m]))


def _ends(e: Entity) -> tuple[Point, ...]:
    if isinstance(e, Line):
        return e.start, e.end
    if isinstance(e, Arc):
        return tuple(point_on(e.center, e.radius, e.start_rad + t) for t in (0.0, e.sweep_rad))
    return ()


def _left_out(key: Drawing, asked: list[int]) -> Typical | None:
    if len(asked) < 2:
        return None
    n = min(asked, key=lambda n: (not isinstance(key.entities[n], Circle), _long(key.entities[n]), n))
    what = "circle" if isinstance(key.entities[n], Circle) else "piece"
    return Typical(
        says=f"The smallest {what} missing",
        drawing=replace(key, entities=key.entities[:n] + key.entities[n + 1 :]),
    )


def _with(key: Drawing, changed: Mapping[int, Entity]) -> Drawing:
    return replace(key, entities=tuple(changed.get(n, e) for n, e in enumerate(key.entities)))


def _long(e: Entity) -> float:
    if isinstance(e, Line):
        return distance(e.start, e.end)
    assert isinstance(e, Arc | Circle)
    return e.radius * (math.tau if isinstance(e, Circle) else abs(e.sweep_rad))
