"""Drawings with dimensions, for tests: what a dimension says, in one line each."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from evenmark.core.dimensioning.proof import prove
from evenmark.core.dimensioning.proved import Proof
from evenmark.core.drawing.annotations import Dimension, measure
from evenmark.core.drawing.model import Drawing, Entity
from evenmark.core.drawing.roles import Role, default_roles
from evenmark.core.geometry.points import Point, point_on
from evenmark.core.linework import Linework, simplify
from evenmark.core.marking.views import find_views
from tests.builders import drawing


def across(a: Point, b: Point, **more: Any) -> Dimension:
    """A distance across."""
    return _of("linear", (a, b), **more)


def up(a: Point, b: Point, **more: Any) -> Dimension:
    """A distance up."""
    return _of("linear", (a, b), 90.0, **more)


def along(a: Point, b: Point, turn: float, **more: Any) -> Dimension:
    """A distance in any direction."""
    return _of("linear", (a, b), turn, **more)


def radius(center: Point, r: float, **more: Any) -> Dimension:
    """A radius."""
    return _of("radius", (center, point_on(center, r, 1.0)), **more)


def diameter(center: Point, r: float, **more: Any) -> Dimension:
    """A diameter, of a circle said by its radius."""
    return _of("diameter", (point_on(center, r, 0.6), point_on(center, r, 0.6 + 3.141592653589793)), **more)


def angle(vertex: Point, a: Point, b: Point, **more: Any) -> Dimension:
    """An angle at a vertex, between two legs."""
    return _of("angular", (vertex, a, b), **more)


def ordinate(p: Point, origin: Point, turn: float, **more: Any) -> Dimension:
    """An ordinate."""
    return _of("ordinate", (p, origin), turn, **more)


def _of(kind: Any, points: tuple[Point, ...], turn: float = 0.0, **more: Any) -> Dimension:
    more.setdefault("layer", "dimension")
    return Dimension(
        kind=kind, points=points, measured=measure(kind, points, turn), turn_deg=turn % 180.0, **more
    )


def dimensioned(entities: Iterable[Entity], dimensions: Iterable[Dimension]) -> Drawing:
    """A drawing with its dimensions."""
    from dataclasses import replace

    return replace(drawing(list(entities)), dimensions=tuple(dimensions))


def key_of(entities: Iterable[Entity], dimensions: Iterable[Dimension] = ()) -> Linework:
    """The linework of a dimensioned drawing."""
    return simplify(dimensioned(entities, dimensions), length_tolerance=0.001)


def proved(
    entities: Iterable[Entity],
    dimensions: Iterable[Dimension] = (),
    *,
    switched: Mapping[str, bool] | None = None,
    ties: Mapping[str, tuple[str, ...]] | None = None,
    roles: Mapping[str, Role] | None = None,
) -> Proof:
    """The proof of a dimensioned drawing."""
    key = key_of(entities, dimensions)
    known = {**default_roles(list(key.layers)), **(roles or {})}
    views = find_views(key, known, 0.001)
    return prove(key, known, 0.001, views=views, switched=switched, ties=ties)
