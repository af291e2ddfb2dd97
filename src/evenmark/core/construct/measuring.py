"""Measuring: the numbers of what is drawn, changing nothing.

Asked of a feature or a step, of a point, or as a number that may hold measures.
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import NamedTuple, cast

from evenmark.core.construct.building import Built
from evenmark.core.construct.document import by_number
from evenmark.core.construct.joined import outline_of
from evenmark.core.construct.kinds.sheets import faces_of
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import FEATURES
from evenmark.core.construct.state import XY, Broken, Feature
from evenmark.core.construct.state import plain as doubles
from evenmark.core.construct.words import Unreadable
from evenmark.core.drawing.model import FreeCurve
from evenmark.core.geometry import nearest
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.deterministic import turn_of
from evenmark.core.geometry.ellipses import BeyondChord, axes_of, beyond_chords, thinned
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import distance
from evenmark.core.geometry.regions import Loop, area_of, round_of
from evenmark.core.geometry.units import inch_in


class Measurement(NamedTuple):
    """One number of what was measured, or a point: by its name."""

    name: str
    value: Number | XY


def measured(built: Built, says: str) -> list[Measurement]:
    """Return the numbers that were asked for: of a feature or step its own, of a point its coordinates, of
    the region round a point (``inside 10, 20``) the way round it and its area, else one without a name.
    Raises Unreadable, Broken."""
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
    if r.takes("inside"):
        at = r.point()
        if r.all_read:
            return _of_region(context, context.point(at))
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


def _of_region(context: Context, at: XY) -> list[Measurement]:
    """Return the way round the smallest region that holds a point, and its area without what is cut out of
    it. Raises Broken."""
    region = faces_of(context).region_round(doubles(at))
    if region is None:
        raise Broken("No closed outline around this place. Click inside one.")
    beyond = _beyond(context)
    inside = [_round_and_area(loop, beyond) for loop in region.inside]
    way, area = _round_and_area(region.outside, beyond)
    cut_out = [Measurement("around cut-outs", math.fsum(w for w, _ in inside))] if inside else []
    left = area - math.fsum(a for _, a in inside)
    return [Measurement("perimeter", way), *cut_out, Measurement("area", left)]


def _beyond(context: Context) -> dict[Curve, BeyondChord]:
    """Return what lies beyond the chords of the ellipses that are drawn, by each chord."""
    out: dict[Curve, BeyondChord] = {}
    for f in context.state.standing():
        if not isinstance(f.says, FreeCurve) or f.says.kind != "ellipse":
            continue
        points = thinned(f.says.points)
        axes = axes_of(points)
        if axes is not None:
            turn = axes.first[0] * axes.second[1] - axes.first[1] * axes.second[0]
            for (p, q), more in zip(pairwise(points), beyond_chords(points, axes), strict=True):
                out[Straight(p, q)] = more if turn > 0.0 else more._replace(area=-more.area)
    return out


def _round_and_area(loop: Loop, beyond: dict[Curve, BeyondChord]) -> tuple[float, float]:
    """Return the way round a loop, and the area in it."""
    way, area = [round_of(loop)], [area_of(loop)]
    for curve, back in loop if beyond else ():
        more = beyond.get(curve)
        if more is not None:
            way.append(more.length)
            area.append(-more.area if back else more.area)
    return math.fsum(way), abs(math.fsum(area))


def _of_step(features: list[Feature]) -> list[Measurement]:
    """Return the way along all that a step drew, and the area where it is closed. Raises Broken."""
    drawn = [f for f in features if f.drawn]
    if not drawn:
        raise Broken("That step drew nothing with a length. Name another step.")
    out = [Measurement("length", math.fsum(f.shape.length for f in drawn))]
    if len(drawn) == 1 and isinstance(drawn[0].shape, Round) and drawn[0].shape.whole:
        return of_feature(drawn[0])
    found = outline_of(drawn)
    if found is not None and found.closed:
        return [Measurement("perimeter", out[0].value), Measurement("area", abs(area_of(found.members)))]
    return out
