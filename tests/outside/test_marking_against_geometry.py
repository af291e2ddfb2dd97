"""The marking engine against known theorems and a geometry library: what it measures is what they say."""

from __future__ import annotations

import math
import random

import pytest
from shapely import LineString, Point, Polygon

from evenmark.core.drawing.model import Drawing
from evenmark.core.geometry.points import point_on
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.model import Finding, Requirement
from tests.builders import arc, chain, circle, drawing, line
from tests.extent import seeds


def found(key: Drawing, kind: str, *features: str) -> Finding:
    return check(
        prepare(key, RuleSet(requirements=(Requirement(id=1, kind=kind, features=features),))), key
    ).findings[0]


def tangencies(key: Drawing) -> set[frozenset[str]]:
    return {frozenset(r.features) for r in prepare(key).requirements if r.kind == "tangent"}


@pytest.mark.parametrize("curvatures", [(-1, 2, 2, 3), (-6, 11, 14, 15), (-2, 3, 6, 7), (-3, 5, 8, 8)])
def test_descartes_circles_are_all_tangent(curvatures: tuple[int, int, int, int]) -> None:
    """Descartes' circle theorem: (a + b + c + d)^2 = 2 (a^2 + b^2 + c^2 + d^2); integral packings (Lagarias,
    Mallows, Wilks 2002).

    Laid out by distances alone: inside the outer circle R - r apart, outside each other r + s apart.
    """
    a, b, c, d = curvatures
    assert (a + b + c + d) ** 2 == 2 * (a * a + b * b + c * c + d * d)
    big, r, s, t = 60.0, 60.0 * -a / b, 60.0 * -a / c, 60.0 * -a / d
    p = (big - r, 0.0)
    q = _apart((0, 0), big - s, p, r + s, 1)
    third = min(
        (_apart((0, 0), big - t, p, r + t, side) for side in (1, -1)),
        key=lambda m: abs(math.dist(m, q) - (s + t)),
    )
    key = drawing(circle((0, 0), big), circle(p, r), circle(q, s), circle(third, t))
    assert len(tangencies(key)) == 6


def _apart(
    a: tuple[float, float], r: float, b: tuple[float, float], s: float, side: int
) -> tuple[float, float]:
    """The point r from a and s from b, on one side."""
    d = math.dist(a, b)
    x = (d * d + r * r - s * s) / (2 * d)
    y = side * math.sqrt(max(0.0, r * r - x * x))
    ux, uy = (b[0] - a[0]) / d, (b[1] - a[1]) / d
    return (a[0] + x * ux - y * uy, a[1] + x * uy + y * ux)


@pytest.mark.parametrize(("d", "big", "small"), [(100.0, 30.0, 12.0), (65.0, 33.0, 8.0), (50.0, 10.0, 10.0)])
def test_common_tangents_have_the_length_that_the_handbook_gives(d: float, big: float, small: float) -> None:
    """External sqrt(d^2 - (R - r)^2), internal sqrt(d^2 - (R + r)^2); from a point sqrt(d^2 - r^2) (any
    handbook of plane geometry)."""
    turn = math.acos((big - small) / d)
    outer = line(point_on((0, 0), big, turn), point_on((d, 0), small, turn))
    key = drawing(circle((0, 0), big), circle((d, 0), small), outer)
    assert found(key, "length", "e1").expected == pytest.approx(
        math.sqrt(d * d - (big - small) ** 2), rel=1e-12
    )
    assert len(tangencies(key)) == 2
    if d > big + small:
        turn = math.acos((big + small) / d)
        inner = line(point_on((0, 0), big, turn), point_on((d, 0), small, turn + math.pi))
        key = drawing(circle((0, 0), big), circle((d, 0), small), inner)
        assert found(key, "length", "e1").expected == pytest.approx(
            math.sqrt(d * d - (big + small) ** 2), rel=1e-12
        )
        assert len(tangencies(key)) == 2


@pytest.mark.parametrize("n", [3, 4, 5, 6, 8, 12, 17, 36, 100])
def test_chords_of_equal_spacing(n: int) -> None:
    """Chord = 2 R sin(180 / n), as handbook tables of hole circles give it for 3 to 100 holes with R = 1/2: n
    = 6 gives 0.5."""
    around = [circle(point_on((0, 0), 50, math.tau * k / n), 0.4) for k in range(n)]
    key = drawing(around)
    ready = prepare(key)
    (pattern,) = [r.features for r in ready.requirements if r.kind == "evenly-spaced"]
    assert len(pattern) == n
    places = {c.id: c.center for c in ready.linework.circles}
    first = next(i for i, p in places.items() if math.dist(p, (50, 0)) < 1e-9)
    second = next(i for i, p in places.items() if math.dist(p, point_on((0, 0), 50, math.tau / n)) < 1e-9)
    assert found(key, "distance", first, second).measured == pytest.approx(
        100 * math.sin(math.pi / n), rel=1e-12
    )


def test_a_circle_in_a_triangle_touches_all_three_sides() -> None:
    """Apollonius' problem for three lines: the incircle, r = area / half the perimeter; Euler: d^2 = R (R - 2
    r)."""
    a, b, c = (0.0, 0.0), (56.0, 0.0), (20.0, 48.0)  # sides 60, 52, 56: a Heronian triangle
    sides = [math.dist(b, c), math.dist(c, a), math.dist(a, b)]
    half, area = sum(sides) / 2, 56 * 48 / 2
    r = area / half
    center = tuple(sum(s * p[k] for s, p in zip(sides, (a, b, c), strict=True)) / sum(sides) for k in (0, 1))
    key = drawing(chain(a, b, c), circle((center[0], center[1]), r))
    assert len(tangencies(key)) == 3
    big = sides[0] * sides[1] * sides[2] / (4 * area)
    middle = (28.0, (20.0**2 + 48**2 - 20 * 56) / 96)
    assert found(
        drawing(chain(a, b, c), circle((center[0], center[1]), r), circle(middle, big)),
        "distance",
        "c1",
        "c2",
    ).measured == pytest.approx(math.sqrt(big * (big - 2 * r)), rel=1e-9)


@pytest.mark.parametrize("seed", seeds(20))
def test_areas_perimeters_and_distances_against_shapely(seed: int) -> None:
    """shapely on the same polygons; a rounded end is flattened there, so that its error is the
    flattening's."""
    rng = random.Random(seed)
    turns = sorted(rng.uniform(0, math.tau) for _ in range(rng.randint(4, 9)))
    corners = [point_on((7, -3), rng.uniform(20, 60), t) for t in turns]
    polygon = Polygon(corners)
    key = drawing(chain(*corners))
    if len(prepare(key).linework.outlines) != 1 or not polygon.is_valid:
        return
    assert found(key, "area", "o1").measured == pytest.approx(polygon.area, rel=1e-12)
    assert found(key, "perimeter", "o1").measured == pytest.approx(polygon.length, rel=1e-12)
    at = (rng.uniform(-90, 90), rng.uniform(100, 190))
    both = drawing(line((-500, 5), (500, rng.uniform(-40, 40))), circle(at, 3))
    work = prepare(both).linework
    carrier = LineString([work.edges[0].start, work.edges[0].end])
    assert found(both, "distance", "e1", "c1").measured == pytest.approx(
        carrier.distance(Point(at)), rel=1e-12
    )


def test_a_rounded_outline_against_shapely_buffers() -> None:
    w, h, r = 60.0, 40.0, 9.0
    key = drawing(
        line((0, -r), (w, -r)),
        arc((w, 0), r, 270, 360),
        line((w + r, 0), (w + r, h)),
        arc((w, h), r, 0, 90),
        line((w, h + r), (0, h + r)),
        arc((0, h), r, 90, 180),
        line((-r, h), (-r, 0)),
        arc((0, 0), r, 180, 270),
    )
    buffer = Polygon([(0, 0), (w, 0), (w, h), (0, h)]).buffer(r, quad_segs=4096)
    assert found(key, "area", "o1").measured == pytest.approx(buffer.area, rel=1e-6)
    assert found(key, "perimeter", "o1").measured == pytest.approx(buffer.length, rel=1e-6)
