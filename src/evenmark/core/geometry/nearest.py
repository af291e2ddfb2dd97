"""The nearest point of a curve, and the shortest way between two curves."""

from __future__ import annotations

from itertools import product

from evenmark.core.geometry.arcs import Curve, Round, turn_to
from evenmark.core.geometry.crossings import crossings, reaches
from evenmark.core.geometry.lines import Straight, are_parallel, beside, far_along, foot, left_of
from evenmark.core.geometry.points import Point, distance, in_sweep


def on(curve: Curve, p: Point) -> Point:
    """Return the point of a curve that is nearest to a point; of a circle about the point itself, its right
    quarter, of an arc its start."""
    if isinstance(curve, Straight):
        far = far_along(p, curve)
        if far <= 0.0:
            return curve.start
        return curve.end if far >= curve.length else foot(p, curve)
    if p == curve.center:
        return curve.start
    if curve.whole or in_sweep(turn_to(p, curve.center), curve.start_rad, curve.sweep_rad):
        return on_supporting_line(curve, p)
    return min(curve.start, curve.end, key=lambda q: distance(p, q))


def on_supporting_line(curve: Curve, p: Point) -> Point:
    """Return the foot of a point on what a curve lies on: square to it; of a circle about the point itself,
    its right quarter."""
    if isinstance(curve, Straight):
        return foot(p, curve)
    if p == curve.center:
        return curve.circle.start
    return beside(curve.center, Straight(curve.center, p).unit, curve.radius)


def away(curve: Curve, p: Point) -> float:
    """Return the distance of a point from a curve."""
    return distance(p, on(curve, p))


def shortest(f: Curve, g: Curve) -> Straight:
    """Return the shortest way from one curve to another; where they cross, a point of both; of circles about
    one centre, where all ways are as short, that at the right quarter."""
    common = crossings(f, g)
    if common:
        return Straight(common[0], common[0])
    ways = [Straight(on(f, q), q) for q in _ends(g)] + [Straight(p, on(g, p)) for p in _ends(f)]
    ways += square_to_both(f, g) or [Straight(on(f, g.start), g.start)]
    return min(ways, key=lambda way: (way.length, way))


def square_to_both(f: Curve, g: Curve) -> list[Straight]:
    """Return the ways between two curves that are square to both, the shortest first; of parallels the one in
    the middle of the stretch that they share."""
    if isinstance(f, Straight) and isinstance(g, Straight):
        return _between_parallels(f, g)
    if isinstance(f, Round) and isinstance(g, Round):
        if f.center == g.center:
            return []
        line = Straight(f.center, g.center)
    elif isinstance(f, Straight) and isinstance(g, Round):
        at = foot(g.center, f)
        line = Straight(at, g.center) if at != g.center else Straight(at, beside(at, left_of(f.unit), 1.0))
    else:
        assert isinstance(f, Round)
        assert isinstance(g, Straight)
        return [way.turned_round for way in square_to_both(g, f)]
    ends = [[p for p in crossings(c, line, endless=True) if reaches(c, p)] for c in (f, g)]
    ways = [Straight(p, q) for p, q in product(*ends)]
    return sorted((w for w in ways if w.length), key=lambda way: (way.length, way))


def _between_parallels(f: Straight, g: Straight) -> list[Straight]:
    if not are_parallel(f, g):
        return []
    low, high = sorted(far_along(p, f) for p in g)
    low, high = max(low, 0.0), min(high, f.length)
    at = beside(f.start, f.unit, (low + high) / 2)
    way = Straight(at, foot(at, g))
    return [way] if low <= high and way.length else []


def _ends(curve: Curve) -> tuple[Point, ...]:
    return () if isinstance(curve, Round) and curve.whole else (curve.start, curve.end)
