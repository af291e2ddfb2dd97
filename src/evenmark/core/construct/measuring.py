"""Measuring: the numbers of what is drawn, changing nothing.

Asked of a feature or a step, of a point, or as a number that may hold measures.
"""

from __future__ import annotations

import math
from typing import NamedTuple, cast

from evenmark.core.construct.building import Built
from evenmark.core.construct.document import by_number
from evenmark.core.construct.joined import chained
from evenmark.core.construct.reading import FEATURES, Reader
from evenmark.core.construct.state import XY, Broken, Feature
from evenmark.core.construct.state import plain as doubles
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry import nearest
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.deterministic import turn_of
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import distance
from evenmark.core.geometry.regions import area_of
from evenmark.core.geometry.units import inch_in


class Measurement(NamedTuple):
    """One number of what was measured, or a point: by its name."""

    name: str
    value: Number | XY


def measured(built: Built, says: str) -> list[Measurement]:
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
            return [Measurement("", context.number(typed))]
    except Unreadable:
        pass
    r = _reader(built, says)
    said = r.point()
    if not r.all_read:
        raise r.expected("the end")
    return [Measurement("at", context.point(said))]


def between(built: Built, first: str, second: str) -> list[Measurement]:
    """Return the numbers between two picks, each a point or a feature: how far apart they are where they are
    nearest, across and up, in which direction; of two edges the angle between them, too, of two round ones
    how far apart their centres are. Raises Unreadable, Broken."""
    a, b = (_picked(built, says) for says in (first, second))
    out: list[Measurement] = []
    if isinstance(a, Straight) and isinstance(b, Straight):
        (ax, ay), (bx, by) = a.unit, b.unit
        turn = math.degrees(abs(turn_of(ax * by - ay * bx, ax * bx + ay * by)))
        out.append(Measurement("angle", min(turn, 180.0 - turn)))
    if isinstance(a, Round) and isinstance(b, Round):
        out.append(Measurement("centres", distance(a.center, b.center)))
    (px, py), (qx, qy) = _nearest_of(a, b)
    across, up = qx - px, qy - py
    far = distance((0.0, 0.0), doubles((across, up)))
    if far <= 0.0:
        return [Measurement("distance", 0), *out]
    direction = math.degrees(turn_of(float(up), float(across))) % 360.0
    return [
        Measurement("distance", far),
        Measurement("across", across),
        Measurement("up", up),
        Measurement("direction", direction),
        *out,
    ]


def _picked(built: Built, says: str) -> Curve | XY:
    r = _reader(built, says)
    if r.peek() in FEATURES:
        ref = r.reference(FEATURES)
        if r.all_read:
            f = built.evaluation.context().feature(ref)
            if f.says is None:
                return f.shape
            return f.shape.start
    r = _reader(built, says)
    said = r.point()
    if not r.all_read:
        raise r.expected("the end")
    return built.evaluation.context().point(said)


def _nearest_of(a: Curve | XY, b: Curve | XY) -> tuple[XY, XY]:
    """Return where two picks are nearest to each other, a place of each."""
    if isinstance(a, Curve) and isinstance(b, Curve):
        link = nearest.shortest(a, b)
        return link.start, link.end
    if isinstance(a, Curve):
        q = cast(XY, b)
        return nearest.on(a, doubles(q)), q
    return a, nearest.on(b, doubles(a)) if isinstance(b, Curve) else b


def _reader(built: Built, says: str) -> Reader:
    ids = [item.id for item in built.document.steps]
    return Reader(says, by_number(ids, len(ids)), inch_in(built.setting.unit))


def of_feature(f: Feature) -> list[Measurement]:
    """Return the numbers of a feature: ends, length and direction of an edge; centre, radius and diameter of
    what is round, with its ends and angle, or the way round it and its area."""
    if f.says is not None:
        return [Measurement("at", f.shape.start)]
    shape = f.shape
    if isinstance(shape, Round):
        center: XY = f.exact[0] if f.exact else shape.center
        out = [
            Measurement("centre", center),
            Measurement("radius", shape.radius),
            Measurement("diameter", 2 * shape.radius),
        ]
        if shape.whole:
            area = math.pi * shape.radius * shape.radius
            return [*out, Measurement("perimeter", shape.length), Measurement("area", area)]
        ends = [Measurement("start", f.start), Measurement("end", f.end)]
        return [
            *out,
            *ends,
            Measurement("angle", math.degrees(shape.sweep_rad)),
            Measurement("length", shape.length),
        ]
    (ux, uy) = shape.unit
    direction = Measurement("direction", math.degrees(turn_of(uy, ux)) % 360.0)
    a, b = f.exact if len(f.exact) == 2 else (shape.start, shape.end)
    if f.endless:
        return [Measurement("through", a), direction]
    across = [Measurement("across", b[0] - a[0]), Measurement("up", b[1] - a[1])]
    return [
        Measurement("start", a),
        Measurement("end", b),
        Measurement("length", shape.length),
        direction,
        *across,
    ]


def _of_step(features: list[Feature]) -> list[Measurement]:
    """Return the way along all that a step drew, and the area where it is closed. Raises Broken."""
    drawn = [f for f in features if f.drawn]
    if not drawn:
        raise Broken("The step has drawn nothing that has a length.")
    out = [Measurement("length", math.fsum(f.shape.length for f in drawn))]
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
            return [Measurement("perimeter", out[0].value), Measurement("area", abs(area_of(tuple(loop))))]
    return out


def _first(order: list[Feature]) -> tuple[float, float]:
    """Return the end of the first piece that the second does not begin at."""
    a, b = order[0].shape, order[1].shape
    free = min(distance(a.start, p) for p in (b.start, b.end))
    other = min(distance(a.end, p) for p in (b.start, b.end))
    return a.start if other <= free else a.end
