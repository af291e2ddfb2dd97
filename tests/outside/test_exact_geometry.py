"""What the engine measures, held against exact geometry (sympy.geometry works in whole numbers and roots,
without rounding)."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Any

import pytest
from sympy import Circle as ExactCircle
from sympy import Line as ExactLine
from sympy import N
from sympy import Point as ExactPoint
from sympy import Polygon as ExactPolygon
from sympy import Segment as ExactSegment
from sympy import Triangle as ExactTriangle

from evenmark.core.drawing.model import Drawing
from evenmark.core.linework import Linework, simplify
from evenmark.core.linework.sharp import crossing
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.model import Finding, Requirement
from tests.builders import chain, circle, drawing, line

Corners = tuple[tuple[int, int], ...]
SHAPES: dict[str, Corners] = {
    "triangle": ((0, 0), (52, 7), (19, 61)),
    "plate": ((0, 0), (90, 0), (90, 41), (63, 41), (63, 70), (0, 70)),
    "star": (
        (0, 40),
        (11, 12),
        (40, 9),
        (17, -9),
        (26, -38),
        (0, -21),
        (-26, -38),
        (-17, -9),
        (-40, 9),
        (-11, 12),
    ),
    "sliver": ((0, 0), (300, 1), (301, 3), (2, 1)),
}


def found(key: Drawing, kind: str, *features: str) -> Finding:
    rules = RuleSet(requirements=(Requirement(id=1, kind=kind, features=features),))
    return check(prepare(key, rules), key).findings[0]


def _lines(key: Drawing) -> Linework:
    return simplify(key, length_tolerance=0.001)


def number(exact: Any) -> float:
    return float(N(exact, 30))


@pytest.mark.parametrize("shape", SHAPES)
def test_areas_and_lengths_round(shape: str) -> None:
    exact = ExactPolygon(*SHAPES[shape])
    key = drawing(chain(*((float(x), float(y)) for x, y in SHAPES[shape])))
    assert found(key, "area", "o1").measured == pytest.approx(number(abs(exact.area)), rel=1e-12)
    assert found(key, "perimeter", "o1").measured == pytest.approx(number(exact.perimeter), rel=1e-12)


@pytest.mark.parametrize("shape", SHAPES)
def test_lengths_directions_and_angles_between_edges(shape: str) -> None:
    corners = SHAPES[shape]
    key = drawing(chain(*((float(x), float(y)) for x, y in corners)))
    features = _lines(key)
    exact = [ExactSegment(a, b) for a, b in pairwise((*corners, corners[0]))]
    lengths = sorted(number(e.length) for e in exact)
    assert sorted(found(key, "length", e.id).measured for e in features.edges) == pytest.approx(
        lengths, rel=1e-12
    )  # type: ignore[type-var, misc]
    for e in features.edges:
        same = next(s for s in exact if {tuple(map(number, p.args)) for p in s.points} == {e.start, e.end})
        direction = number(ExactLine(*same.points).angle_between(ExactLine((0, 0), (1, 0))))
        measured = found(key, "angle", e.id).measured
        assert math.sin(math.radians(float(measured))) == pytest.approx(math.sin(direction), abs=1e-12)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("a", "b", "p"),
    [
        ((0, 0), (40, 30), (7, 50)),
        ((3, 5), (91, 5), (44, 60)),
        ((0, 0), (1, 300), (12, 150)),
        ((-20, 4), (35, -9), (5, 40)),
    ],
)
def test_the_distance_of_a_hole_from_an_edge(
    a: tuple[int, int], b: tuple[int, int], p: tuple[int, int]
) -> None:
    exact = ExactLine(a, b).distance(ExactPoint(*p))
    key = drawing(
        line((float(a[0]), float(a[1])), (float(b[0]), float(b[1]))), circle((float(p[0]), float(p[1])), 2.0)
    )
    assert found(key, "distance", "c1", "e1").measured == pytest.approx(number(exact), rel=1e-12)


@pytest.mark.parametrize(
    "second", [((10, 0), (10, 50)), ((0, 7), (31, 50)), ((-3, 60), (44, -2)), ((0, 1), (900, 61))]
)
def test_where_carriers_cross(second: tuple[tuple[int, int], tuple[int, int]]) -> None:
    first = ((0, 0), (60, 25))
    [exact] = ExactLine(*first).intersection(ExactLine(*second))
    edges = _lines(
        drawing(*(line((float(a[0]), float(a[1])), (float(b[0]), float(b[1]))) for a, b in (first, second)))
    ).edges
    at = crossing(edges[0], edges[1])
    assert at == pytest.approx(tuple(map(number, exact.args)), rel=1e-11, abs=1e-11)


@pytest.mark.parametrize(
    ("center", "radius", "p"), [((50, 20), 13, (0, 0)), ((0, 60), 25, (-39, 8)), ((30, -40), 14, (2, 8))]
)
def test_tangents_from_a_point_are_found_and_are_as_long_as_they_must_be(
    center: tuple[int, int], radius: int, p: tuple[int, int]
) -> None:
    round_one = ExactCircle(ExactPoint(*center), radius)
    tangents = round_one.tangent_lines(ExactPoint(*p))
    touches = [tuple(map(number, t.projection(round_one.center).args)) for t in tangents]
    start = (float(p[0]), float(p[1]))
    key = drawing(
        circle((float(center[0]), float(center[1])), float(radius)),
        *(line(start, (x, y)) for x, y in touches),
    )
    proposed = [r for r in prepare(key).requirements if r.kind == "tangent"]
    assert len(proposed) == 2
    length = number(ExactPoint(*p).distance(round_one.center) ** 2 - radius**2) ** 0.5
    for e in _lines(key).edges:
        assert found(key, "length", e.id).measured == pytest.approx(length, rel=1e-12)
    for r in proposed:
        finding = found(key, "tangent", *r.features)
        assert (finding.verdict, float(finding.measured or 0.0)) == ("met", pytest.approx(0.0, abs=1e-10))  # type: ignore[arg-type]


def test_a_circle_through_three_points_is_the_circumcircle() -> None:
    """The three corners of a triangle lie on the circle that the core finds through them."""
    corners = ((0, 0), (52, 7), (19, 61))
    exact = ExactTriangle(*map(ExactPoint, corners)).circumcircle
    center, radius = tuple(map(number, exact.center.args)), number(exact.radius)
    key = drawing(chain(*((float(x), float(y)) for x, y in corners)), circle((center[0], center[1]), radius))
    assert found(key, "radius", "c1").measured == pytest.approx(radius, rel=1e-12)
    for x, y in corners:
        assert math.dist((x, y), center) == pytest.approx(radius, rel=1e-12)
