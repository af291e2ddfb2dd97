"""Lines that touch circles.

Left and right are those of somebody who looks from the first thing named toward the second. Answers are
named by what does not change when sizes do: the side on which a circle is touched, and whether the line stays
on one side of both (outer) or passes between them (crossing).
"""

from __future__ import annotations

import math

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.lines import Straight, beside, left_of
from evenmark.core.geometry.points import Point, distance


def touching_from(p: Point, circle: Round) -> dict[str, Point]:
    """Return the points in which lines from a point touch a circle: ``left`` and ``right`` of the way to its
    centre; both the point itself where it lies on the circle, none where it lies inside.

    The length of such a line is the root of d^2 - r^2 (Euclid, Elements III.36).
    """
    apart, r = distance(p, circle.center), circle.radius
    if abs(apart - r) <= tol.TOUCHES_SHARE * (apart + r):
        return {"left": p, "right": p}
    if apart < r:
        return {}
    way = Straight(p, circle.center).unit
    across = left_of(way)
    back, aside = r * r / apart, r * math.sqrt((apart - r) * (apart + r)) / apart
    at = beside(circle.center, way, -back)
    return {"left": beside(at, across, aside), "right": beside(at, across, -aside)}


def touching_both(f: Round, g: Round) -> dict[str, Straight]:
    """Return the lines that touch two circles, from the touch point on the first to that on the second:
    ``outer left``, ``outer right``, ``crossing left``, ``crossing right``, as many as there are.

    Outer ones are as long as the root of d^2 - (R - r)^2, crossing ones of d^2 - (R + r)^2. Circles that
    touch each other from outside have no crossing lines of any length, those that touch from within none at
    all.
    """
    apart = distance(f.center, g.center)
    out: dict[str, Straight] = {}
    if apart == 0.0:
        return out
    way = Straight(f.center, g.center).unit
    across = left_of(way)
    for name, same in (("outer", 1.0), ("crossing", -1.0)):
        ahead = (f.radius - same * g.radius) / apart
        if abs(ahead) >= 1.0 - tol.TOUCHES_SHARE:
            continue
        aside = math.sqrt((1.0 - ahead) * (1.0 + ahead))
        for side, sign in (("left", 1.0), ("right", -1.0)):
            m = (way[0] * ahead + across[0] * aside * sign, way[1] * ahead + across[1] * aside * sign)
            out[f"{name} {side}"] = Straight(
                beside(f.center, m, f.radius), beside(g.center, m, same * g.radius)
            )
    return out


def touching_at(circle: Round, at: Point, length: float) -> Straight:
    """Return the line of a length that touches a circle at one of its points, its middle there, run through
    counter-clockwise."""
    way = left_of(Straight(circle.center, at).unit)
    return Straight(beside(at, way, -length / 2), beside(at, way, length / 2))
