"""Slots with round ends, ellipses, parallels of outlines, splits: against what is known of them otherwise."""

from __future__ import annotations

import io
import math
import random
from itertools import pairwise

import pytest
from ezdxf.filemanagement import read as library_read
from scipy import special

from evenmark.core.construct.building import Built, build
from evenmark.core.construct.document import from_text
from evenmark.core.construct.drawn import drawing_of
from evenmark.core.construct.measuring import measured
from evenmark.core.construct.state import Feature
from evenmark.core.drawing.model import FreeCurve
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry import nearest
from evenmark.core.geometry.points import distance
from tests.catalogue import number_of


def drawn(text: str) -> Built:
    built = build(from_text(text))
    assert not built.problems, built.problems
    return built


def made_by(built: Built, step: int) -> list[Feature]:
    ids = [item.id for item in built.document.steps]
    return [f for f in built.evaluation.state.standing() if f.ref.step == ids[step - 1]]


def refused(text: str) -> str:
    return "\n".join(p.says for p in build(from_text(text)).problems)


def area(built: Built, step: int) -> float:
    told = {m.name: m.value for m in measured(built, f"step {step}")}
    found = told["area"]
    assert not isinstance(found, tuple)
    return float(found)


@pytest.mark.parametrize("seed", range(12))
def test_a_slot_is_a_rectangle_and_a_circle(seed: int) -> None:
    """Its area is that of its middle part and of both round ends; each of its points is half the width from
    the line between its centres."""
    rng = random.Random(seed)
    x, y, dx, dy = (rng.randint(-90, 90) for _ in range(4))
    dx = dx or 7
    width = rng.randint(1, 60)
    built = drawn(f"slot {x}, {y}; {x + dx}, {y + dy}; width {width}")
    long = math.hypot(dx, dy)
    assert area(built, 1) == pytest.approx(long * width + math.pi * width**2 / 4)
    pieces = made_by(built, 1)
    assert [f.ref.kind for f in pieces] == ["edge", "arc", "edge", "arc"]
    for one, other in pairwise([*pieces, pieces[0]]):
        assert distance(one.end, other.start) <= 1e-9 * (1 + long)
    line = drawn(f"line {x}, {y}; {x + dx}, {y + dy}").evaluation.state
    (middle,) = (f.shape for f in line.standing())
    for f in pieces:
        for p in (f.shape.start, f.shape.middle):
            assert nearest.away(middle, p) == pytest.approx(width / 2)


def test_a_slot_by_its_length_is_the_one_by_its_centres() -> None:
    one = drawn("slot middle 10, 20; 60 by 24; turned 90")
    other = drawn("slot 10, 2; 10, 38; width 24")
    for f, g in zip(made_by(one, 1), made_by(other, 1), strict=True):
        assert distance(f.start, g.start) <= 1e-12
        assert distance(f.end, g.end) <= 1e-12


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("slot 0, 0; 0, 0; width 5", "circle"),
        ("slot middle 0, 0; 10 by 10", "longer"),
        ("ellipse 0, 0; 10, 0; 20, 0", "first axis"),
        ("line 0, 0; 10, 0\nparallel edge 1; through 30, 0", "on the line itself"),
        ("circle 0, 0; radius 4\nparallel circle 1; through 0, 0", "centre"),
        ("line 0, 0; 10, 0\nsplit edge 1; at 30, 0", "between its ends"),
        ("circle 0, 0; radius 4\nsplit circle 1; at 4, 0", "second point"),
        ("rectangle 0, 0; 60, 40\nparallel outline step 1; gap 20; inside", "too large"),
        ("rectangle 0, 0; 60, 40\nparallel outline step 1; gap 25; inside", "too large"),
        ("line 0, 0; 10, 0\nparallel outline step 1; gap 2; inside", "left or right"),
        (
            "chain 0, 0; right 40; up 40; left 18; down 30; left 4; up 30; left 18; close\n"
            "parallel outline step 1; gap 3; outside",
            "too large",
        ),
    ],
)
def test_what_cannot_be_is_refused_in_words(text: str, says: str) -> None:
    assert says in refused(text)


@pytest.mark.parametrize("seed", range(8))
def test_each_point_of_an_ellipse_is_as_far_from_its_foci(seed: int) -> None:
    """The sum of the distances from both foci is the long axis (Apollonius, Conics III, 52)."""
    rng = random.Random(seed)
    width, height = rng.randint(20, 90), rng.randint(3, 19)
    turn = rng.randint(0, 359)
    built = drawn(f"ellipse 3, -4; {width} by {height}; turned {turn}")
    (f,) = made_by(built, 1)
    assert isinstance(f.says, FreeCurve)
    far = math.sqrt(width**2 - height**2) / 2
    ux, uy = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    foci = [(3 + far * ux, -4 + far * uy), (3 - far * ux, -4 - far * uy)]
    for p in f.says.points:
        assert sum(distance(p, q) for q in foci) == pytest.approx(width)
    # dense enough that a chord is nowhere farther from the curve than a thousandth of its half axis
    steps = [distance(p, q) for p, q in pairwise(f.says.points)]
    assert max(steps) <= width / 2 * math.tau / 1000
    other = drawn(f"ellipse 3, -4; {width} / 2 toward {turn}; {height} / 2 toward {turn} + 90 from 3, -4")
    (g,) = made_by(other, 1)
    assert isinstance(g.says, FreeCurve)
    assert max(map(distance, f.says.points, g.says.points)) <= 1e-9 * width


@pytest.mark.parametrize("seed", range(12))
def test_an_outline_grows_as_steiner_says(seed: int) -> None:
    """Outside and rounded, the area of a convex outline grows by its perimeter times the gap and a circle of
    that radius, its perimeter by that of the circle (Steiner 1840)."""
    rng = random.Random(seed)
    n, radius, gap = rng.randint(3, 9), rng.randint(10, 60), rng.randint(1, 30)
    built = drawn(
        f"polygon {n}; centre 5, 7; inside {radius}; turned {rng.randint(0, 359)}\n"
        f"parallel outline step 1; gap {gap}; outside; rounded\n"
        f"parallel outline edge 2.2; gap {gap}; inside"
    )
    told = {m.name: float(m.value) for m in measured(built, "step 1") if not isinstance(m.value, tuple)}
    grown = {m.name: float(m.value) for m in measured(built, "step 2") if not isinstance(m.value, tuple)}
    circle = math.pi * gap**2
    assert grown["area"] == pytest.approx(told["area"] + told["perimeter"] * gap + circle)
    assert grown["perimeter"] == pytest.approx(told["perimeter"] + math.tau * gap)
    # and back: the arcs shrink to the corners that were
    assert area(built, 3) == pytest.approx(told["area"])


def test_the_way_round_a_region_and_its_area_by_one_point_inside() -> None:
    built = drawn("rectangle 0, 0; 60, 40\ncircle 20, 20; radius 8\nline 40, 0; 40, 40")
    assert number_of(built, "2 * radius of circle 2") == 16
    inside = {m.name: m.value for m in measured(built, "inside 5, 5")}
    assert inside["area"] == pytest.approx(40 * 40 - math.pi * 64)
    assert inside["perimeter"] == pytest.approx(160)
    assert inside["around cut-outs"] == pytest.approx(16 * math.pi)
    assert {m.name: m.value for m in measured(built, "inside 50, 5")}["area"] == pytest.approx(800)
    assert {m.name: m.value for m in measured(built, "inside 20, 20")}["area"] == pytest.approx(64 * math.pi)


def test_an_outline_of_lines_drawn_each_its_own_way_is_one() -> None:
    built = drawn(
        "line 0, 0; 40, 0\nline 40, 30; 40, 0\nline 40, 30; 0, 0\nparallel outline edge 2; gap 4; outside"
    )
    pieces = made_by(built, 4)
    assert len(pieces) == 3
    for one, other in pairwise([*pieces, pieces[0]]):
        assert distance(one.end, other.start) <= 1e-9
    assert number_of(built, "length of edge 4.1") > 30


def test_what_is_split_is_all_still_there() -> None:
    built = drawn("arc centre 0, 0; from 30, 0; turn -120\nsplit arc 1; at 0, -30")
    assert number_of(built, "angle of arc 1") == pytest.approx(90)
    assert number_of(built, "angle of arc 2") == pytest.approx(30)
    outline = drawn("rectangle 0, 0; 60, 40\nsplit edge 1.1; at 20, 0\nmove step 2; by 0, 0")
    first, second = made_by(outline, 1)[0], made_by(outline, 2)[0]
    assert first.group == second.group
    assert (first.shape.length, second.shape.length) == (20.0, 40.0)


@pytest.mark.parametrize("seed", range(6))
def test_an_ellipse_is_written_as_one(seed: int) -> None:
    rng = random.Random(seed)
    width, height = rng.sample(range(5, 90), 2)
    built = drawn(f"ellipse 13, -4; {width} by {height}; turned {rng.randint(0, 359)}")
    data = write_dxf(drawing_of(built.evaluation.state, built.setting))
    (entity,) = library_read(io.StringIO(data.decode())).modelspace()
    assert entity.dxftype() == "ELLIPSE"
    assert entity.dxf.center.isclose((13, -4, 0), abs_tol=1e-9)
    assert entity.dxf.ratio == pytest.approx(min(width, height) / max(width, height))
    assert entity.dxf.major_axis.magnitude == pytest.approx(max(width, height) / 2)
    (again,) = read_file(data).entities
    assert isinstance(again, FreeCurve)
    assert again.kind == "ellipse"


def test_the_area_and_the_way_round_an_ellipse() -> None:
    """Its area is a b pi; its way round by Gauss's and Legendre's mean, as scipy gives it."""
    built = drawn("rectangle 0, 0; 60, 40\nellipse 30, 20; 40 by 22; turned 15\nline 30, -5; 30, 45")
    alone = drawn("ellipse 30, 20; 40 by 22; turned 15")
    told = {m.name: m.value for m in measured(alone, "inside 31, 21")}
    assert told["area"] == pytest.approx(math.pi * 20 * 11, rel=1e-13)
    assert told["perimeter"] == pytest.approx(4 * 20 * float(special.ellipe(1 - 11**2 / 20**2)), rel=1e-13)
    inside = [{m.name: m.value for m in measured(built, f"inside {x}, 20")}["area"] for x in (25, 35)]
    assert inside == [pytest.approx(math.pi * 110, rel=1e-6)] * 2  # the line goes through its centre
    around = {m.name: m.value for m in measured(built, "inside 2, 2")}["area"]
    assert around == pytest.approx(30 * 40 - math.pi * 110, rel=1e-6)
    hatched = drawn("ellipse 0, 0; 40 by 22\nhatch 0, 0; 45; gap 3")
    assert [f.ref.kind for f in made_by(hatched, 2)] == ["hatch"]


def test_a_point_said_as_a_way_is_gone_once() -> None:
    built = drawn("line 0, 0; 40, 30\npoint A; 10, 20\nparallel edge 1; through by 3, 4")
    assert number_of(built, "distance of (13, 24) and (foot on edge 3 from 13, 24)") == pytest.approx(0)
