"""Where two curves cross or touch.

- *endless*: of what the curves lie on: supporting lines of straight pieces, circles of arcs.

Crossings stand in the order in which the first curve meets them: a straight piece and an arc from their
start, a circle from its right quarter, counter-clockwise. That order depends on no calculation, so that the
first stays the first when sizes change.
"""

from __future__ import annotations

import math

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round, passes, turn_to
from evenmark.core.geometry.lines import Straight, beside, far_along, foot, left_of, meet, side_of
from evenmark.core.geometry.points import TAU, Point, distance


def crossings(f: Curve, g: Curve, *, endless: bool = False) -> list[Point]:
    """Return all points that two curves have in common, in order along the first; where they touch, one.

    Curves that run along each other cross nowhere.
    """
    if isinstance(f, Straight):
        found = _straight_straight(f, g) if isinstance(g, Straight) else _straight_round(f, g)
    else:
        found = _straight_round(g, f) if isinstance(g, Straight) else _round_round(f, g)
    if not endless:
        found = [p for p in found if reaches(f, p) and reaches(g, p)]
    return sorted(found, key=lambda p: how_far(p, f)) if len(found) > 1 else found


def reaches(curve: Curve, p: Point) -> bool:
    """Say whether a point of what a curve lies on lies on the curve itself, its ends included."""
    reach = tol.TOUCHES_SHARE * (1.0 + abs(p[0]) + abs(p[1]))
    if isinstance(curve, Straight):
        return -reach <= far_along(p, curve) <= curve.length + reach
    return passes(curve, p, reach)


def how_far(p: Point, curve: Curve) -> float:
    """Return how far along a curve a point of it lies, from its start; on an arc, also beyond its end, up to
    the whole circle. A circle starts at its right quarter."""
    if isinstance(curve, Straight):
        return far_along(p, curve)
    turn = (turn_to(p, curve.center) - curve.start_rad) % TAU
    if TAU - turn <= tol.SAME_TURN_RAD * TAU:
        turn = 0.0  # the start itself
    return turn * curve.radius


def _straight_straight(f: Straight, g: Straight) -> list[Point]:
    at = meet(f, g)
    return [] if at is None else [at]


def _straight_round(f: Straight, g: Round) -> list[Point]:
    if f.length == 0.0:
        return []
    at = foot(g.center, f)
    off, r = abs(side_of(g.center, f)), g.radius
    if abs(off - r) <= tol.TOUCHES_SHARE * (r + abs(off)):
        return [at]
    if off > r:
        return []
    half = math.sqrt((r - off) * (r + off))
    return [beside(at, f.unit, -half), beside(at, f.unit, half)]


def _round_round(f: Round, g: Round) -> list[Point]:
    apart = distance(f.center, g.center)
    size = f.radius + g.radius + apart
    if apart <= tol.TOUCHES_SHARE * size:
        return []  # one centre: apart from each other, or the same circle
    along = Straight(f.center, g.center).unit
    if abs(apart - f.radius - g.radius) <= tol.TOUCHES_SHARE * size:
        return [beside(f.center, along, f.radius)]
    if abs(apart - abs(f.radius - g.radius)) <= tol.TOUCHES_SHARE * size:
        return [beside(f.center, along, f.radius if f.radius > g.radius else -f.radius)]
    far = (apart + (f.radius - g.radius) * (f.radius + g.radius) / apart) / 2
    square = (f.radius - far) * (f.radius + far)
    if square <= 0.0:
        return []
    at, across, half = beside(f.center, along, far), left_of(along), math.sqrt(square)
    return [beside(at, across, half), beside(at, across, -half)]
