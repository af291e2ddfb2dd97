"""Geometry by question, held against formulas, theorems and general-purpose libraries."""

from __future__ import annotations

import math
import random
from itertools import combinations, pairwise, product
from typing import Any

import pytest
import sympy

from evenmark.core.geometry import arcs, circles, lines, nearest, offsets, regions, tangents, trims
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.crossings import crossings, how_far
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Point, distance
from tests.extent import seeds


def close(a: Point, b: Point, reach: float = 1e-9) -> bool:
    return distance(a, b) <= reach


def some_point(rng: random.Random, size: int = 50) -> Point:
    return (float(rng.randint(-size, size)), float(rng.randint(-size, size)))


def some_straight(rng: random.Random) -> Straight:
    a = some_point(rng)
    b = some_point(rng)
    return Straight(a, b if a != b else (a[0] + 7.0, a[1] + 3.0))


def exact(p: Point) -> sympy.Point2D:
    return sympy.Point2D(sympy.Rational(p[0]), sympy.Rational(p[1]))


# crossings, against sympy's exact ones


@pytest.mark.parametrize("seed", seeds(40))
def test_straight_pieces_cross_where_sympy_says(seed: int) -> None:
    rng = random.Random(seed)
    f, g = some_straight(rng), some_straight(rng)
    for endless in (False, True):
        kind = sympy.Line if endless else sympy.Segment
        theirs = kind(*map(exact, f)).intersection(kind(*map(exact, g)))
        points = [(float(p.x), float(p.y)) for p in theirs if isinstance(p, sympy.Point2D)]
        ours = crossings(f, g, endless=endless)
        if not lines.are_parallel(f, g):
            assert len(ours) == len(points)
            assert all(close(a, b) for a, b in zip(ours, points, strict=True))


@pytest.mark.parametrize("seed", seeds(40))
def test_lines_and_circles_cross_where_sympy_says(seed: int) -> None:
    rng = random.Random(seed)
    f, g = some_straight(rng), Round(some_point(rng), float(rng.randint(1, 40)))
    theirs = sympy.Circle(exact(g.center), sympy.Rational(g.radius)).intersection(sympy.Line(*map(exact, f)))
    points = sorted(((float(p.x), float(p.y)) for p in theirs), key=lambda p: how_far(p, f))
    ours = crossings(f, g, endless=True)
    assert len(ours) == len(points)
    assert all(close(a, b) for a, b in zip(ours, points, strict=True))


@pytest.mark.parametrize("seed", seeds(40))
def test_circles_cross_where_sympy_says(seed: int) -> None:
    rng = random.Random(seed)
    f = Round(some_point(rng, 20), float(rng.randint(1, 40)))
    g = Round(some_point(rng, 20), float(rng.randint(1, 40)))
    if f.center == g.center:
        return
    one, other = (sympy.Circle(exact(c.center), sympy.Rational(c.radius)) for c in (f, g))
    points = [(float(p.x), float(p.y)) for p in one.intersection(other)]
    ours = crossings(f, g)
    assert len(ours) == len(points)
    assert all(any(close(a, b, 1e-8) for b in points) for a in ours)
    turns = [how_far(p, f) for p in ours]
    assert turns == sorted(turns)


def test_crossings_stand_in_order_along_the_first() -> None:
    circle = Round((0.0, 0.0), 5.0)
    assert crossings(circle, Straight((-9.0, 3.0), (9.0, 3.0))) == [(4.0, 3.0), (-4.0, 3.0)]
    assert crossings(Straight((-9.0, 3.0), (9.0, 3.0)), circle) == [(-4.0, 3.0), (4.0, 3.0)]
    assert crossings(Straight((9.0, 3.0), (-9.0, 3.0)), circle) == [(4.0, 3.0), (-4.0, 3.0)]


def test_pieces_that_stop_short_cross_only_endlessly() -> None:
    f, g = Straight((0.0, 0.0), (4.0, 0.0)), Straight((5.0, -3.0), (5.0, 3.0))
    assert crossings(f, g) == []
    assert crossings(f, g, endless=True) == [(5.0, 0.0)]
    upper = Round((0.0, 0.0), 5.0, 0.0, math.pi)
    assert crossings(upper, Straight((3.0, -9.0), (3.0, 9.0))) == [(3.0, 4.0)]
    assert crossings(upper, Straight((3.0, -9.0), (3.0, 9.0)), endless=True) == [(3.0, 4.0), (3.0, -4.0)]


def test_ends_that_lie_on_the_other_count() -> None:
    f = Straight((0.1, 0.2), (0.7, 0.9))
    assert all(close(crossings(f, Straight(p, (p[0] + 3.0, p[1] - 1.0)))[0], p) for p in f)
    assert close(crossings(f, Round((0.7, 1.9), 1.0))[-1], (0.7, 0.9))


@pytest.mark.parametrize("seed", seeds(20))
def test_what_touches_has_one_point_in_common(seed: int) -> None:
    rng = random.Random(seed)
    circle = Round((rng.uniform(-99, 99), rng.uniform(-99, 99)), rng.uniform(0.1, 60))
    turn = rng.uniform(0, math.tau)
    at = arcs.on_round(circle, turn)
    (found,) = crossings(tangents.touching_at(circle, at, 10.0), circle)
    assert close(found, at, 1e-9 * (1 + circle.radius + distance(at, (0, 0))))
    for sign in (1.0, -1.0):
        r = rng.uniform(0.1, 30)
        other = Round(
            lines.beside(circle.center, Straight(circle.center, at).unit, circle.radius + sign * r), r
        )
        if r != circle.radius:
            assert len(crossings(circle, other)) == 1


# feet: the vector from a point to its foot is square to the line, and the foot lies on it (projection)


@pytest.mark.parametrize("seed", seeds(20))
def test_feet_are_projections(seed: int) -> None:
    rng = random.Random(seed)
    line, p = some_straight(rng), some_point(rng)
    theirs = sympy.Line(*map(exact, line)).projection(exact(p))
    assert close(lines.foot(p, line), (float(theirs.x), float(theirs.y)))
    assert lines.side_of(p, line) == pytest.approx(
        (sympy.Line(*map(exact, line)).distance(exact(p))).evalf() * math.copysign(1, lines.side_of(p, line)),
        abs=1e-9,
    )


# tangents: Euclid III.36, and the lengths of the four common tangents


@pytest.mark.parametrize("seed", seeds(30))
def test_lines_that_touch_from_a_point(seed: int) -> None:
    rng = random.Random(seed)
    p, circle = some_point(rng), Round(some_point(rng), float(rng.randint(1, 30)))
    d = distance(p, circle.center)
    found = tangents.touching_from(p, circle)
    if d < circle.radius:
        assert found == {}
        return
    for side, at in found.items():
        assert distance(p, at) == pytest.approx(math.sqrt(d * d - circle.radius**2), abs=1e-7)
        assert distance(at, circle.center) == pytest.approx(circle.radius)
        if d > circle.radius:
            left = lines.side_of(at, Straight(p, circle.center)) > 0
            assert left == (side == "left")


@pytest.mark.parametrize("seed", seeds(60))
def test_the_four_common_tangents(seed: int) -> None:
    rng = random.Random(seed)
    f = Round(some_point(rng), float(rng.randint(1, 30)))
    g = Round(some_point(rng), float(rng.randint(1, 30)))
    d = distance(f.center, g.center)
    if d == 0.0:
        assert tangents.touching_both(f, g) == {}
        return
    found = tangents.touching_both(f, g)
    names = ["outer left", "outer right"] * (d > abs(f.radius - g.radius))
    names += ["crossing left", "crossing right"] * (d > f.radius + g.radius)
    assert list(found) == names
    for name, line in found.items():
        outer = name.startswith("outer")
        reach = f.radius - g.radius if outer else f.radius + g.radius
        assert line.length == pytest.approx(math.sqrt(d * d - reach * reach), abs=1e-7)
        for circle, at in zip((f, g), line, strict=True):
            assert distance(at, circle.center) == pytest.approx(circle.radius)
            assert abs(lines.side_of(circle.center, line)) == pytest.approx(circle.radius)
        way = Straight(f.center, g.center)
        assert (lines.side_of(line.start, way) > 0) == name.endswith("left")
        assert (lines.side_of(line.start, way) * lines.side_of(line.end, way) > 0) == outer


# circles


@pytest.mark.parametrize("seed", seeds(30))
def test_three_points_and_their_triangle(seed: int) -> None:
    """The circumcentre is sympy's; Euler's relation d^2 = R (R - 2 r) holds for incircle and circumcircle."""
    rng = random.Random(seed)
    a, b, c = (some_point(rng) for _ in range(3))
    around = arcs.through(a, b, c)
    triangle = sympy.Triangle(*map(exact, (a, b, c)))
    if not isinstance(triangle, sympy.Triangle):
        assert around is None
        return
    assert around is not None
    theirs = triangle.circumcenter
    assert close(around.center, (float(theirs.x), float(theirs.y)), 1e-7)
    inside = arcs.inscribed(Straight(a, b), Straight(b, c), Straight(c, a))
    assert inside is not None
    apart = distance(inside.center, around.center)
    assert apart**2 == pytest.approx(around.radius * (around.radius - 2 * inside.radius), abs=1e-6)
    (same,) = [
        t.circle
        for t in circles.touching_three(Straight(a, b), Straight(b, c), Straight(c, a))
        if close(t.circle.center, inside.center, 1e-7)
    ]
    assert same.radius == pytest.approx(inside.radius)


@pytest.mark.parametrize("seed", seeds(40))
def test_a_circle_of_a_radius_that_touches_two(seed: int) -> None:
    """Every answer touches both, on the sides that it says; of two lines that cross there are four, of two
    circles far enough apart those that lie between."""
    rng = random.Random(seed)
    things: list[circles.Thing] = [
        some_straight(rng),
        Round(some_point(rng), float(rng.randint(2, 20))),
        some_point(rng),
    ]
    for f, g in [*combinations(things, 2), (some_straight(rng), some_straight(rng))]:
        radius = float(rng.randint(1, 60))
        for touching in circles.touching_two(f, g, radius):
            assert touching.circle.radius == radius
            for thing, side in zip((f, g), touching.sides, strict=True):
                assert_touches(touching.circle, thing, side)


def test_two_lines_that_cross_have_four_circles_of_a_radius() -> None:
    found = circles.touching_two(Straight((0.0, 0.0), (9.0, 0.0)), Straight((0.0, 0.0), (0.0, 9.0)), 2.0)
    assert [t.circle.center for t in found] == [(-2.0, -2.0), (-2.0, 2.0), (2.0, -2.0), (2.0, 2.0)]
    assert found[3].sides == ("left", "right")


def assert_touches(circle: Round, thing: circles.Thing, side: str) -> None:
    reach = 1e-8 * (1 + circle.radius + distance(circle.center, (0.0, 0.0)))
    if isinstance(thing, Straight):
        off = lines.side_of(circle.center, thing)
        assert abs(off - (circle.radius if side == "left" else -circle.radius)) <= reach
    elif isinstance(thing, Round):
        apart = distance(circle.center, thing.center)
        want = {
            "outside": thing.radius + circle.radius,
            "inside": thing.radius - circle.radius,
            "around": circle.radius - thing.radius,
        }[side]
        assert abs(apart - want) <= reach
    else:
        assert side == ""
        assert abs(distance(circle.center, thing) - circle.radius) <= reach


@pytest.mark.parametrize(
    ("seed", "kinds"),
    list(product(range(6), ["ppp", "ppl", "ppc", "pll", "plc", "pcc", "lll", "llc", "lcc", "ccc"])),
)
def test_apollonius_in_all_his_cases(seed: int, kinds: str) -> None:
    """Each answer touches all three on the sides that it says, and every combination of sides for which a
    circle exists is there: found by least squares from random beginnings (scipy), which knows nothing of how
    it is done here."""
    from scipy.optimize import fsolve

    rng = random.Random(f"{seed}{kinds}")
    make = {
        "p": lambda: some_point(rng),
        "l": lambda: some_straight(rng),
        "c": lambda: Round(some_point(rng), float(rng.randint(2, 15))),
    }
    things = [make[k]() for k in kinds]
    found = circles.touching_three(*things)  # type: ignore[arg-type]
    assert len(found) <= 8
    for t in found:
        for thing, side in zip(things, t.sides, strict=True):
            assert_touches(t.circle, thing, side)  # type: ignore[arg-type]

    def off(v: list[float], thing: circles.Thing, side: str) -> float:
        x, y, r = v
        if isinstance(thing, Straight):
            return lines.side_of((x, y), thing) - (r if side == "left" else -r)
        if isinstance(thing, Round):
            apart = distance((x, y), thing.center)
            return (
                apart
                - {"outside": thing.radius + r, "inside": thing.radius - r, "around": r - thing.radius}[side]
            )
        return distance((x, y), thing) - r

    for sides in product(*(circles.sides_of(t) for t in things)):  # type: ignore[arg-type]
        for _ in range(3):
            guess = [rng.uniform(-60, 60), rng.uniform(-60, 60), rng.uniform(1, 60)]
            v, info, done, _ = fsolve(
                lambda v, sides=sides: [off(v, t, s) for t, s in zip(things, sides, strict=True)],  # type: ignore[arg-type]
                guess,
                full_output=True,
                xtol=1e-12,
            )
            if done != 1 or max(abs(info["fvec"])) > 1e-9 or not 1e-3 < v[2] < 1e4:
                continue
            assert any(
                close(t.circle.center, (v[0], v[1]), 1e-5 * (1 + v[2]))
                and abs(t.circle.radius - v[2]) <= 1e-5 * (1 + v[2])
                for t in found
            ), (things, sides, v)


def test_eight_circles_of_apollonius() -> None:
    """Three equal circles at the corners of an equilateral triangle, far apart, have eight (from memory)."""
    three = [
        Round((100 * math.cos(t), 100 * math.sin(t)), 10.0)
        for t in (0.5, 0.5 + math.tau / 3, 0.5 - math.tau / 3)
    ]
    found = circles.touching_three(*three)
    assert len(found) == 8
    radii = sorted(t.circle.radius for t in found)
    assert radii[0] == pytest.approx(90.0)
    assert radii[-1] == pytest.approx(110.0)
    assert len({t.sides for t in found}) == 8


@pytest.mark.parametrize(("curvatures", "fourth"), [((-1, 2, 2), 3), ((-6, 11, 14), 15), ((2, 2, 3), 15)])
def test_descartes_circles(curvatures: tuple[int, int, int], fourth: int) -> None:
    """Four circles that touch each other: (sum of curvatures)^2 = 2 (sum of their squares); the integral
    packings of -1, 2, 2, 3 and -6, 11, 14, 15."""
    a, b, c = (1 / k for k in curvatures)
    first = Round((0.0, 0.0), abs(a))
    # the second and third touch the first (from within where its curvature is negative) and each other
    second = Round((a + b, 0.0), b)
    third = next(
        t.circle
        for t in circles.touching_two(first, second, c)
        if t.sides == ("inside" if a < 0 else "outside", "outside")
    )
    found = [t.circle.radius for t in circles.touching_three(first, second, third)]
    assert any(r == pytest.approx(1 / fourth) for r in found)


# bisectors, arcs, shortest ways


@pytest.mark.parametrize("seed", seeds(20))
def test_bisectors_are_as_far_from_both(seed: int) -> None:
    rng = random.Random(seed)
    a, b = some_straight(rng), some_straight(rng)
    at, way = lines.meet(a, b), lines.bisector(a, b)
    if at is None or way is None:
        assert lines.are_parallel(a, b)
        return
    p = lines.beside(at, way, 10.0)
    assert abs(lines.side_of(p, a)) == pytest.approx(abs(lines.side_of(p, b)))
    far = [max(e, key=lambda q: distance(q, at)) for e in (a, b)]
    theirs = [sympy.atan2(*(sympy.Rational(v) for v in (q[1] - at[1], q[0] - at[0]))) for q in far]
    mean = float(sum(math.cos(float(t)) for t in theirs)), float(sum(math.sin(float(t)) for t in theirs))
    assert way[0] * mean[0] + way[1] * mean[1] > 0


@pytest.mark.parametrize("seed", seeds(30))
def test_arcs_between_two_points(seed: int) -> None:
    """Chord = 2 r sin(angle / 2); the centre lies on the side that was said; the larger arc is the rest."""
    rng = random.Random(seed)
    a, b = some_point(rng), some_point(rng)
    if a == b:
        return
    chord = distance(a, b)
    radius = chord * rng.uniform(0.51, 4)
    for side in ("left", "right"):
        small, large = (arcs.of_radius(a, b, radius, side, long=long) for long in (False, True))
        assert small is not None
        assert large is not None
        assert small.sweep_rad + large.sweep_rad == pytest.approx(math.tau)
        assert small.sweep_rad < math.pi < large.sweep_rad
        assert 2 * radius * math.sin(small.sweep_rad / 2) == pytest.approx(chord)
        assert (lines.side_of(small.center, Straight(a, b)) > 0) == (side == "left")
        assert all(any(close(p, q, 1e-8) for q in (small.start, small.end)) for p in (a, b))
    assert arcs.of_radius(a, b, chord * 0.49, "left") is None


@pytest.mark.parametrize("seed", seeds(30))
def test_arcs_through_and_arcs_that_leave_smoothly(seed: int) -> None:
    rng = random.Random(seed)
    a, b, c = (some_point(rng) for _ in range(3))
    found = arcs.arc_through(a, b, c)
    if found is not None:
        assert {True} == {any(close(p, q, 1e-7) for q in (found.start, found.end)) for p in (a, c)}
        assert arcs.passes(found, b, 1e-9)
    if a != c and a != b:
        way = Straight(a, b).unit
        left = arcs.leaving(a, way, c)
        if isinstance(left, Round):
            assert any(close(a, p, 1e-7) for p in (left.start, left.end))
            assert any(close(c, p, 1e-7) for p in (left.start, left.end))
            assert (
                abs(Straight(left.center, a).unit[0] * way[0] + Straight(left.center, a).unit[1] * way[1])
                < 1e-9
            )


@pytest.mark.parametrize("seed", seeds(30))
def test_shortest_ways_against_shapely(seed: int) -> None:
    """Within the error of flattening: a quarter circle in 512 pieces."""
    import shapely

    rng = random.Random(seed)

    def some() -> arcs.Curve:
        if rng.random() < 0.4:
            return some_straight(rng)
        whole = rng.random() < 0.5
        sweep = math.tau if whole else rng.uniform(0.3, 5.5)
        return Round(some_point(rng), float(rng.randint(2, 15)), rng.uniform(0, 6), sweep)

    def flat(c: arcs.Curve) -> shapely.LineString:
        if isinstance(c, Straight):
            return shapely.LineString(c)
        steps = [c.start_rad + c.sweep_rad * k / 2048 for k in range(2049)]
        return shapely.LineString([arcs.on_round(c, t) for t in steps])

    f, g = some(), some()
    assert nearest.shortest(f, g).length == pytest.approx(shapely.distance(flat(f), flat(g)), abs=1e-4)
    p = some_point(rng)
    assert nearest.away(f, p) == pytest.approx(shapely.distance(flat(f), shapely.Point(p)), abs=1e-4)


# trims, fillets, chamfers


@pytest.mark.parametrize("seed", seeds(40))
def test_fillets_of_two_edges(seed: int) -> None:
    """The touch points lie r / tan(half the angle) from the crossing; the arc is tangent at both ends and
    sweeps what the angle leaves of half a turn."""
    rng = random.Random(seed)
    f, g = some_straight(rng), some_straight(rng)
    at = lines.meet(f, g)
    if at is None:
        return
    ends = [max(e, key=lambda p: distance(p, at)) for e in (f, g)]
    u, v = (Straight(at, p).unit for p in ends)
    angle = math.acos(max(-1.0, min(1.0, u[0] * v[0] + u[1] * v[1])))
    radius = rng.uniform(0.5, 8)
    back = radius / math.tan(angle / 2)
    corner = trims.fillet(f, g, radius)
    if any(distance(at, p) <= back for p in ends):
        return
    assert corner is not None
    one, other, arc = corner
    assert isinstance(arc, Round)
    assert arc.radius == radius
    assert arc.sweep_rad == pytest.approx(math.pi - angle)
    for piece, end in ((one, ends[0]), (other, ends[1])):
        assert isinstance(piece, Straight)
        touch = piece.start if close(piece.end, end) else piece.end
        assert distance(touch, at) == pytest.approx(back, abs=1e-7)
        assert abs(lines.side_of(arc.center, piece)) == pytest.approx(radius)
        assert any(close(touch, p, 1e-7) for p in (arc.start, arc.end))


def test_a_fillet_between_an_edge_and_an_arc() -> None:
    """The fillet of a flange: a boss of 80 on a plate, 8 mm (common practice, no published source)."""
    boss, plate = Round((0.0, 0.0), 40.0, 0.0, math.pi / 2), Straight((40.0, 0.0), (75.0, 0.0))
    corner = trims.fillet(plate, boss, 8.0)
    assert corner is not None
    arc = corner.between
    assert isinstance(arc, Round)
    assert distance(arc.center, (0.0, 0.0)) == pytest.approx(48.0)
    assert arc.center[1] == pytest.approx(8.0)
    assert corner.first == Straight((arc.center[0], 0.0), (75.0, 0.0))


@pytest.mark.parametrize("seed", seeds(20))
def test_chamfers(seed: int) -> None:
    """The bevel's length follows from the law of cosines."""
    rng = random.Random(seed)
    f, g = some_straight(rng), some_straight(rng)
    at = lines.meet(f, g)
    p, q = rng.uniform(0.5, 3), rng.uniform(0.5, 3)
    corner = trims.chamfer(f, g, p, q)
    if at is None or corner is None:
        return
    ends = [max(e, key=lambda k: distance(k, at)) for e in (f, g)]
    u, v = (Straight(at, k).unit for k in ends)
    assert corner.between is not None
    assert corner.between.length == pytest.approx(
        math.sqrt(p * p + q * q - 2 * p * q * (u[0] * v[0] + u[1] * v[1]))
    )
    assert corner.first.length == pytest.approx(distance(at, ends[0]) - p)


@pytest.mark.parametrize("seed", seeds(40))
def test_pieces_make_the_whole(seed: int) -> None:
    rng = random.Random(seed)
    curve: arcs.Curve = (
        some_straight(rng)
        if rng.random() < 0.4
        else Round(
            some_point(rng), float(rng.randint(3, 30)), rng.uniform(0, 6), rng.choice([math.tau, 2.0, 4.5])
        )
    )
    by = [some_straight(rng) for _ in range(4)]
    cuts = trims.cuts_of(curve, by)
    pieces = trims.divided(curve, cuts)
    assert sum(p.length for p in pieces) == pytest.approx(curve.length)
    for a, b in pairwise(pieces):
        assert close(a.end, b.start, 1e-7)
    for p in cuts:
        ends = [e for piece in pieces for e in (piece.start, piece.end)]
        assert min(distance(p, e) for e in ends) <= 1e-7
    whole = trims.joined(pieces)
    assert whole is not None
    assert whole.length == pytest.approx(curve.length)


def test_run_on_to_what_it_meets() -> None:
    edge = Straight((0.0, 0.0), (4.0, 0.0))
    assert trims.extended(edge, Straight((9.0, -3.0), (9.0, 3.0))) == Straight((0.0, 0.0), (9.0, 0.0))
    assert trims.extended(edge, Straight((-2.0, -3.0), (-2.0, 3.0))) == Straight((-2.0, 0.0), (4.0, 0.0))
    assert trims.extended(edge, Round((10.0, 0.0), 2.0)) == Straight((0.0, 0.0), (8.0, 0.0))
    assert trims.extended(edge, Straight((0.0, 5.0), (9.0, 5.0))) is None
    quarter = Round((0.0, 0.0), 5.0, 0.0, math.pi / 2)
    longer = trims.extended(quarter, Straight((-9.0, 3.0), (0.0, 3.0)))
    assert isinstance(longer, Round)
    assert close(longer.end, (-4.0, 3.0))
    assert longer.start_rad == 0.0


# regions


@pytest.mark.parametrize("seed", seeds(60))
def test_regions_are_the_faces_that_shapely_finds(seed: int) -> None:
    """Straight pieces exactly; circles and arcs within the error of flattening."""
    import shapely

    rng = random.Random(seed)
    curved = seed % 2 == 1
    curves: list[arcs.Curve] = []
    for _ in range(rng.randint(1, 4)):
        (x, y), w, h = some_point(rng, 30), rng.randint(4, 40), rng.randint(4, 40)
        corners = [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]
        curves += [Straight(a, b) for a, b in pairwise([*corners, corners[0]])]
    curves += [some_straight(rng) for _ in range(rng.randint(0, 4))]
    if curved:
        curves += [Round(some_point(rng, 30), rng.uniform(3, 20)) for _ in range(rng.randint(1, 3))]
        curves += [
            Round(some_point(rng, 30), rng.uniform(3, 20), rng.uniform(0, 6), rng.uniform(1, 5))
            for _ in range(2)
        ]

    def flat(c: arcs.Curve) -> shapely.LineString:
        if isinstance(c, Straight):
            return shapely.LineString(c)
        return shapely.LineString([trims.at_share(c, k / 4000) for k in range(4001)])

    faces = list(shapely.get_parts(shapely.polygonize([shapely.unary_union([flat(c) for c in curves])])))
    for _ in range(12):
        p = (rng.uniform(-40, 80), rng.uniform(-40, 80))
        theirs = [f for f in faces if f.contains(shapely.Point(p))]
        if theirs and theirs[0].exterior.distance(shapely.Point(p)) < 0.05:
            continue
        ours = regions.region_round(curves, p)
        assert (ours is None) == (not theirs), p
        if ours is not None:
            assert ours.area == pytest.approx(
                theirs[0].area, rel=1e-4 if curved else 1e-9, abs=1e-3 if curved else 1e-6
            )
            assert regions.inside_of(ours, p)


def test_a_plate_with_holes_and_a_smooth_slot() -> None:
    """A plate of 100 by 60 with two holes and a slot whose ends are round: its area by hand."""

    def straight(*points: Point) -> list[arcs.Curve]:
        return [Straight(a, b) for a, b in pairwise(points)]

    plate = straight((0, 0), (100, 0), (100, 60), (0, 60), (0, 0))
    slot = [*straight((40, 20), (60, 20)), *straight((60, 30), (40, 30))]
    slot += [Round((60, 25), 5, -math.pi / 2, math.pi), Round((40, 25), 5, math.pi / 2, math.pi)]
    holes = [Round((15.0, 30.0), 4.0), Round((85.0, 30.0), 4.0)]
    found = regions.region_round([*plate, *slot, *holes], (50.0, 50.0))
    assert found is not None
    assert len(found.inside) == 3
    assert found.area == pytest.approx(6000 - 2 * math.pi * 16 - 200 - math.pi * 25)
    in_slot = regions.region_round([*plate, *slot, *holes], (50.0, 25.0))
    assert in_slot is not None
    assert in_slot.area == pytest.approx(200 + math.pi * 25)
    assert regions.round_of(in_slot.outside) == pytest.approx(40 + 10 * math.pi)
    assert regions.region_round([*plate, *slot], (150.0, 25.0)) is None
    assert (
        regions.round_of(
            regions.region_round(straight((0, 0), (24, 0), (24, 48), (0, 48), (0, 0)), (5, 5)).outside
        )
        == 144
    )  # type: ignore[union-attr]


# parallels


@pytest.mark.parametrize("seed", seeds(40))
def test_parallels_of_chains_against_shapely(seed: int) -> None:
    """Closed polygons with sharp corners: the area inside the parallel, and inside shapely's buffer with
    mitred joints."""
    import shapely

    rng = random.Random(seed)
    n = rng.randint(3, 8)
    turns = sorted(rng.uniform(0, math.tau) for _ in range(n))
    corners = [(40 * math.cos(t), 25 * math.sin(t)) for t in turns]
    chain = [(Straight(a, b), False) for a, b in pairwise([*corners, corners[0]])]
    gap = rng.uniform(0.1, 6)
    polygon = shapely.Polygon(corners)
    for side, sign in (("right", 1.0), ("left", -1.0)):
        theirs = polygon.buffer(sign * gap, join_style="mitre", mitre_limit=1e9)
        ours = offsets.beside_chain(chain, gap, side, closed=True)
        if ours is None:
            assert theirs.is_empty or theirs.geom_type != "Polygon"
            continue
        assert regions.area_of(tuple(ours)) == pytest.approx(theirs.area, rel=1e-7)


def test_the_parallel_of_a_rounded_outline_stays_smooth() -> None:
    """Outside a convex outline the way round grows by a full turn times the gap."""

    def made(r: float) -> list[tuple[arcs.Curve, bool]]:
        w, h = 80.0, 50.0
        out: list[tuple[arcs.Curve, bool]] = []
        for k, (cx, cy) in enumerate([(w - r, r), (w - r, h - r), (r, h - r), (r, r)]):
            here = Round((cx, cy), r, (k - 1) * math.pi / 2 % math.tau, math.pi / 2)
            out.append((here, False))
        joined: list[tuple[arcs.Curve, bool]] = []
        for (one, _), (other, _) in pairwise([*out, out[0]]):
            joined += [(one, False), (Straight(one.end, other.start), False)]
        return joined

    chain = made(9.0)
    for gap, side, sign in ((4.0, "right", 1), (4.0, "left", -1)):
        found = offsets.beside_chain(chain, gap, side, closed=True)
        assert found is not None
        assert regions.round_of(tuple(found)) == pytest.approx(
            regions.round_of(tuple(chain)) + sign * math.tau * gap
        )
        assert all(
            close(regions.ends_of(*a)[1], regions.ends_of(*b)[0], 1e-7)
            for a, b in pairwise([*found, found[0]])
        )
    # where a corner has no room for an arc any more it is sharp
    found = offsets.beside_chain(chain, 10.0, "left", closed=True)
    assert found is not None
    assert regions.round_of(tuple(found)) == pytest.approx(2 * (60 + 30))
    assert regions.area_of(tuple(found)) == pytest.approx(60 * 30)
    assert offsets.beside_chain(chain, 25.0, "left", closed=True) is None


@pytest.mark.parametrize("seed", seeds(40))
def test_rounded_parallels_of_any_outline_against_shapely(seed: int) -> None:
    """Outlines with corners that go in and out: the area inside the parallel with rounded corners, and inside
    shapely's buffer with round joints, whose arcs are of many chords."""
    import shapely

    rng = random.Random(seed)
    n = rng.randint(4, 10)
    turns = [math.tau * (k + rng.uniform(0.1, 0.9)) / n for k in range(n)]
    corners = [(r * math.cos(t), r * math.sin(t)) for t in turns for r in (rng.uniform(20, 60),)]
    chain = [(Straight(a, b), False) for a, b in pairwise([*corners, corners[0]])]
    gap = rng.uniform(0.5, 8)
    polygon = shapely.Polygon(corners)
    for side, sign in (("right", 1.0), ("left", -1.0)):
        theirs = polygon.buffer(sign * gap, join_style="round", quad_segs=2000)
        ours = offsets.beside_chain(chain, gap, side, closed=True, rounded=True)
        if ours is None or offsets.crosses_itself(ours, closed=True):
            # they may part, close round a hole, or lose a piece where others come too near
            assert theirs.geom_type != "Polygon" or theirs.interiors or _loses_a_piece(theirs, n)
            continue
        assert regions.area_of(tuple(ours)) == pytest.approx(theirs.area, rel=1e-6)


def _loses_a_piece(outline: Any, sides: int) -> bool:
    """Whether fewer straight pieces are left than there were: those that are longer than the chords of
    arcs."""
    points = list(outline.exterior.coords)
    return sum(math.dist(a, b) > 0.05 for a, b in pairwise(points)) < sides


def test_a_parallel_of_a_circle_lies_inside_or_outside() -> None:
    circle = Round((1.0, 2.0), 10.0)
    assert offsets.beside(circle, 3.0, "inside") == Round((1.0, 2.0), 7.0)
    assert offsets.beside(circle, 3.0, "outside") == Round((1.0, 2.0), 13.0)
    assert offsets.beside(circle, 10.0, "inside") is None


def test_facts_of_the_trade() -> None:
    """From a line's end, 300 at 90 degrees and then 400 at -45 moves it by (282.84, 17.16) to two decimals
    (common practice, no published source)."""
    x, y = 0.0, 300.0
    x, y = x + 400 * math.cos(math.radians(-45)), y + 400 * math.sin(math.radians(-45))
    assert (round(x, 2), round(y, 2)) == (282.84, 17.16)
