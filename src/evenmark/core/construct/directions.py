"""Directions between points and along features, exact where they are known to be."""

from __future__ import annotations

import math
from fractions import Fraction

from evenmark.core.construct.state import XY, Broken, Feature
from evenmark.core.geometry.arcs import Curve
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.lines import Straight, left_of
from evenmark.core.geometry.points import Point

_HALF = Fraction(1, 2)


def unit_between(a: XY, b: XY) -> tuple[Number, Number]:
    """Return the direction from one point to another, of unit length, exact along the axes. Raises Broken."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    if dy == 0 and dx != 0:
        return (1 if dx > 0 else -1), 0
    if dx == 0 and dy != 0:
        return 0, (1 if dy > 0 else -1)
    long = math.hypot(dx, dy)
    if long == 0.0:
        raise Broken("Both points are the same, so there is no direction. Choose another one.")
    return float(dx) / long, float(dy) / long


def both_straight(f: Feature, g: Feature) -> bool:
    """Say whether two features are straight."""
    return isinstance(f.shape, Straight) and isinstance(g.shape, Straight)


def unit_of(shape: Curve, at: Point) -> Point:
    """Return the direction of a curve at one of its points."""
    if isinstance(shape, Straight):
        return shape.unit
    return left_of(Straight(shape.center, at).unit)


def half(value: Number) -> Number:
    """Return half of a number, exact if it is."""
    return value / 2 if isinstance(value, float) else value * _HALF
