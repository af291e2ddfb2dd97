"""The core held against published values and reference libraries; each names its source."""

from __future__ import annotations

import math
import random

import pytest
import shapely
from ezdxf import units as library_units
from ezdxf.math import OCS, Vec3, arc_to_bulge, bulge_to_arc
from ezdxf.tools.standards import linetypes as library_linetypes

from evenmark.core.conventions.papers import PAPERS, SCALES
from evenmark.core.drawing.model import Arc, Line
from evenmark.core.formats.dxf_look import pattern_class
from evenmark.core.geometry import arcs, units
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point, distance, point_on
from evenmark.core.linework.model import Edge
from evenmark.core.linework.relations import tangent_off
from evenmark.core.linework.sharp import crossing
from evenmark.core.sheet.frame import Frame
from tests.builders import PLAIN, chain, circle, dxf_drawing, line, linework

# Machinery's handbooks print chords of a circle of diameter 1 for 3 to 100 spaces; written down from memory
# of such a
# table, and equal to sin(180 / n) to the six figures given there.
CHORDS = {
    3: 0.866025,
    4: 0.707107,
    5: 0.587785,
    6: 0.5,
    7: 0.433884,
    8: 0.382683,
    10: 0.309017,
    12: 0.258819,
    24: 0.130526,
    100: 0.031411,
}


@pytest.mark.parametrize(("holes", "chord"), sorted(CHORDS.items()))
def test_equal_spacing_on_a_pitch_circle(holes: int, chord: float) -> None:
    a, b = (point_on((0, 0), 0.5, math.tau * k / holes) for k in (0, 1))
    assert distance(a, b) == pytest.approx(chord, abs=5e-7)


@pytest.mark.parametrize("bulge", [0.1, 0.4142135623730951, 1.0, 2.5, -0.7])
def test_bulge_is_the_librarys(bulge: float) -> None:
    """DXF reference, LWPOLYLINE group code 42: tangent of a quarter of the included angle. Library:
    ezdxf.math.bulge_to_arc."""
    start, end = (1.0, 2.0), (4.0, -3.0)
    center, radius, first, sweep = arcs.from_bulge(start, end, bulge)
    c, begin, stop, r = bulge_to_arc(start, end, bulge)
    assert (*center, radius) == pytest.approx((c.x, c.y, r))
    assert math.cos(first) == pytest.approx(math.cos(begin))
    assert (stop - begin) % math.tau == pytest.approx(sweep)
    _, _, back = arc_to_bulge(center, first, first + sweep, radius)
    assert back == pytest.approx(arcs.bulge_of(sweep))


@pytest.mark.parametrize("seed", range(5))
def test_flipped_normals_follow_the_arbitrary_axis_algorithm(seed: int) -> None:
    """DXF reference, arbitrary axis algorithm; library: ezdxf.math.OCS."""
    rng = random.Random(seed)
    x, y, start = rng.uniform(-9, 9), rng.uniform(-9, 9), rng.uniform(0, 360)
    drawing = dxf_drawing(
        lambda s, _: s.add_arc((x, y), 3, start, start + 70, dxfattribs={"extrusion": (0, 0, -1)})
    )
    arc = drawing.entities[0]
    assert isinstance(arc, Arc)
    ocs = OCS(Vec3(0, 0, -1))
    ends = [ocs.to_wcs(Vec3(*point_on((x, y), 3, math.radians(a)))) for a in (start, start + 70)]
    # seen from above the arc runs the other way round
    assert arc.start == pytest.approx((ends[1].x, ends[1].y))
    assert arc.end == pytest.approx((ends[0].x, ends[0].y))


@pytest.mark.parametrize("code", sorted(set(units.BY_DXF_CODE) - {9}))  # the library converts no mils
def test_unit_codes_are_the_librarys(code: int) -> None:
    """DXF reference, $INSUNITS; library: ezdxf.units.conversion_factor. The inch is 25.4 mm exactly (ISO
    80000-3)."""
    factor = library_units.conversion_factor(
        library_units.InsertUnits(code), library_units.InsertUnits.Millimeters
    )
    assert units.BY_DXF_CODE[code].mm == pytest.approx(factor, rel=1e-6)


# name in the library's table: class by ISO 128-2 (dash and gap patterns by number 02 dashed, 04/08 chain,
# 05/09 double
# chain, 07 dotted; from memory of that standard)
PATTERNS = {
    "DASHED": "dashed",
    "DASHED2": "dashed",
    "DASHDOT": "chain",
    "CENTER": "chain",
    "CENTER2": "chain",
    "DIVIDE": "double chain",
    "PHANTOM": "double chain",
    "DOT": "dotted",
}


def test_line_type_classes() -> None:
    known = {name: pattern[1:] for name, _, pattern in library_linetypes() if isinstance(pattern, list)}
    assert {name: pattern_class([float(v) for v in known[name]]) for name in PATTERNS if name in known} == {
        name: kind for name, kind in PATTERNS.items() if name in known
    }
    assert len([n for n in PATTERNS if n in known]) >= 6


@pytest.mark.parametrize(("d", "r1", "r2"), [(82, 24, 13), (10, 3, 3), (5, 4, 1)])
def test_outer_common_tangent(d: float, r1: float, r2: float) -> None:
    """Length sqrt(d^2 - (R - r)^2), handbook formula; where it touches, nothing is off."""
    up = math.acos((r1 - r2) / d)
    a, b = point_on((0, 0), r1, up), point_on((d, 0), r2, up)
    assert distance(a, b) == pytest.approx(math.sqrt(d * d - (r1 - r2) ** 2))
    edge = Edge(id="e1", start=a, end=b, layer="", style=PLAIN, sources=())
    for center, radius, end in (((0.0, 0.0), r1, 0), ((d, 0.0), r2, 1)):
        round_ = linework(circle(center, radius)).circles[0]
        assert tangent_off(edge, round_, end, None) == pytest.approx(0, abs=1e-12)


def test_mutually_tangent_circles_of_an_integral_packing() -> None:
    """Descartes' circle theorem, packing -1, 2, 2, 3: an outer circle of radius 1 round two of 1/2 and one of
    1/3."""
    circles = linework(
        circle((0, 0), 1), circle((-0.5, 0), 0.5), circle((0.5, 0), 0.5), circle((0, 2 / 3), 1 / 3)
    ).circles
    for i, a in enumerate(circles):
        for b in circles[i + 1 :]:
            assert tangent_off(a, b, None, None) == pytest.approx(0, abs=1e-12)
    k = [-1.0, 2.0, 2.0, 3.0]
    assert sum(k) ** 2 == 2 * sum(v * v for v in k)


@pytest.mark.parametrize("seed", range(6))
def test_distances_and_crossings_are_shapelys(seed: int) -> None:
    rng = random.Random(seed)
    p, a, b, c, d = [(rng.uniform(-50, 50), rng.uniform(-50, 50)) for _ in range(5)]
    endless, other = shapely.LineString(_stretched(a, b)), shapely.LineString(_stretched(c, d))
    assert distance_to_supporting_line(p, a, b) == pytest.approx(endless.distance(shapely.Point(p)), rel=1e-9)
    one, two = (Edge(id="e", start=s, end=e, layer="", style=PLAIN, sources=()) for s, e in ((a, b), (c, d)))
    meeting = endless.intersection(other)
    assert crossing(one, two) == pytest.approx((meeting.x, meeting.y), rel=1e-6)


def _stretched(a: Point, b: Point, times: float = 1000.0) -> list[Point]:
    dx, dy = (b[0] - a[0]) * times, (b[1] - a[1]) * times
    return [(a[0] - dx, a[1] - dy), (b[0] + dx, b[1] + dy)]


def test_outlines_are_shapelys_rings() -> None:
    """A closed outline found by us bounds the polygon that shapely puts together from the loose pieces."""
    entities = chain((0, 0), (7, 0), (7, 4), (3, 6), (0, 4))
    work = linework(entities)
    polygon = next(
        iter(
            shapely.polygonize(
                [shapely.LineString([e.start, e.end]) for e in entities if isinstance(e, Line)]
            ).geoms
        )
    )
    assert sum(e.length for e in work.edges) == pytest.approx(polygon.exterior.length)
    corners = [work.by_id[k].at for k in work.outlines[0].corners]
    assert shapely.Polygon(corners).area == pytest.approx(polygon.area)


def test_facts_of_the_trade() -> None:
    """Common practice, no published source (job.md): 300 at 90 degrees and then 400 at -45 degrees; a 24 by
    48 rectangle."""
    x, y = point_on(point_on((0, 0), 300, math.radians(90)), 400, math.radians(-45))
    assert (round(x, 2), round(y, 2)) == (282.84, 17.16)
    assert sum(e.length for e in linework(chain((0, 0), (24, 0), (24, 48), (0, 48))).edges) == 144


def test_paper_is_the_a_series() -> None:
    """ISO 216 (values of standards.md): A4 210 x 297, each half of the one before."""
    assert PAPERS["A4"] == (297.0, 210.0)
    assert PAPERS["A3"] == (420.0, 297.0)
    assert PAPERS["A3"][0] == 2 * PAPERS["A4"][1]


def test_scales_are_those_of_the_standard() -> None:
    """ISO 5455: 1, 2 and 5 times powers of ten, reduced or enlarged."""
    for scale in SCALES:
        n = scale if scale >= 1 else 1 / scale
        mantissa = round(n / 10 ** math.floor(math.log10(n) + 1e-9), 6)
        assert mantissa in (1, 2, 5)


@pytest.mark.parametrize(("start_deg", "sweep_deg"), [(0, 90), (10, 200), (300, 120), (90, 359)])
def test_svg_arcs_go_the_right_way_round(start_deg: float, sweep_deg: float) -> None:
    """SVG 2, appendix B.2.4 (conversion from end points to centre): the path's own centre is the arc's."""
    frame = Frame((-20.0, -20.0, 20.0, 20.0))
    path = frame.arc((3, 4), 5, math.radians(start_deg), math.radians(sweep_deg))
    head, tail = path[1:].split("A")
    x1, y1 = map(float, head.split())
    rx, _, _, large, sweep, x2, y2 = map(float, tail.split())
    # y downward, so flag 0 is counter-clockwise as seen
    dx, dy = (x1 - x2) / 2, (y1 - y2) / 2
    root = math.sqrt(max(0.0, rx**2 / (dx**2 + dy**2) - 1))
    sign = -1 if large == sweep else 1
    cx, cy = sign * root * dy + (x1 + x2) / 2, -sign * root * dx + (y1 + y2) / 2
    assert [cx, cy] == pytest.approx(frame.at((3, 4)), abs=1e-6)
    assert line((x1, y1), (x2, y2)).start == (x1, y1)
