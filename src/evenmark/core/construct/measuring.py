"""Measuring: the numbers of what is drawn, changing nothing.

Asked of a feature or a step, of a point, or as a number that may hold measures.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from evenmark.core.construct.building import Built
from evenmark.core.construct.document import by_number
from evenmark.core.construct.outlines import chained
from evenmark.core.construct.reading import FEATURES, Reader
from evenmark.core.construct.state import XY, Broken, Feature
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.points import distance
from evenmark.core.geometry.regions import area_of
from evenmark.core.geometry.sure import turn_of
from evenmark.core.geometry.units import inch_in


class Told(NamedTuple):
    """One number of what was measured, or a point: by its name."""

    name: str
    value: Number | XY


def measured(built: Built, says: str) -> list[Told]:
    """Return the numbers that were asked for: of a feature or step its own, of a point its coordinates, else
    one without a name. Raises Unreadable, Broken."""
    r = _reader(built, says)
    word = r.peek()
    context = built.evaluation.context()
    if word in (*FEATURES, "step"):
        ref = r.reference((*FEATURES, "step"))
        if r.all_read:
            if ref.kind == "step":
                own = list(context.state.of_step(ref.step))
                joined = [f for f in context.state.standing() if f.group and f.group[0] == ref.step]
                return _of_step(own or joined)
            return of_feature(context.feature(ref))
    r = _reader(built, says)
    try:
        typed = r.number()
        if r.all_read:
            return [Told("", context.number(typed))]
    except Unreadable:
        pass
    r = _reader(built, says)
    said = r.point()
    if not r.all_read:
        raise r.expected("the end")
    return [Told("at", context.point(said))]


def _reader(built: Built, says: str) -> Reader:
    ids = [item.id for item in built.document.steps]
    return Reader(says, by_number(ids, len(ids)), inch_in(built.setting.unit))


def of_feature(f: Feature) -> list[Told]:
    """Return the numbers of a feature: ends, length and direction of an edge; centre, radius and diameter of
    what is round, with its ends and angle, or the way round it and its area."""
    if f.says is not None:
        return [Told("at", f.shape.start)]
    shape = f.shape
    if isinstance(shape, Round):
        center: XY = f.exact[0] if f.exact else shape.center
        out = [Told("centre", center), Told("radius", shape.radius), Told("diameter", 2 * shape.radius)]
        if shape.whole:
            area = math.pi * shape.radius * shape.radius
            return [*out, Told("perimeter", shape.length), Told("area", area)]
        ends = [Told("start", f.start), Told("end", f.end)]
        return [*out, *ends, Told("angle", math.degrees(shape.sweep_rad)), Told("length", shape.length)]
    (ux, uy) = shape.unit
    direction = Told("direction", math.degrees(turn_of(uy, ux)) % 360.0)
    a, b = f.exact if len(f.exact) == 2 else (shape.start, shape.end)
    if f.endless:
        return [Told("through", a), direction]
    across = [Told("across", b[0] - a[0]), Told("up", b[1] - a[1])]
    return [Told("start", a), Told("end", b), Told("length", shape.length), direction, *across]


def _of_step(features: list[Feature]) -> list[Told]:
    """Return the way along all that a step drew, and the area where it is closed. Raises Broken."""
    drawn = [f for f in features if f.drawn]
    if not drawn:
        raise Broken("The step has drawn nothing that has a length.")
    out = [Told("length", math.fsum(f.shape.length for f in drawn))]
    order = chained(drawn)
    if len(drawn) == 1 and isinstance(drawn[0].shape, Round) and drawn[0].shape.whole:
        return of_feature(drawn[0])
    if order is not None and len(order) > 1:
        loop, at = [], _first(order)
        begin = at
        for f in order:
            back = distance(f.shape.end, at) < distance(f.shape.start, at)
            loop.append((f.shape, back))
            at = f.shape.start if back else f.shape.end
        if distance(begin, at) <= tol.WELD_SHARE * (1.0 + abs(at[0]) + abs(at[1])):
            return [Told("perimeter", out[0].value), Told("area", abs(area_of(tuple(loop))))]
    return out


def _first(order: list[Feature]) -> tuple[float, float]:
    """Return the end of the first piece that the second does not begin at."""
    a, b = order[0].shape, order[1].shape
    free = min(distance(a.start, p) for p in (b.start, b.end))
    other = min(distance(a.end, p) for p in (b.start, b.end))
    return a.start if other <= free else a.end
