"""Steps that draw: each against a value that follows from elsewhere, exact where it is said exactly."""

from __future__ import annotations

import math
from collections.abc import Mapping
from fractions import Fraction

import pytest

from evenmark.core.construct.evaluation import Evaluation, Step
from evenmark.core.construct.references import Ref
from evenmark.core.construct.sentences import read_sentence
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry import lines
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import distance


def steps_of(text: str) -> list[Step]:
    out: list[Step] = []
    for n, line in enumerate(text.strip().splitlines(), 1):
        try:
            out.append(Step(n, read_sentence(line.strip(), lambda k, n=n: k if k < n else None)))  # type: ignore[misc]
        except Unreadable as why:
            out.append(Step(n, None, why.says))
    return out


def drawn(text: str, values: Mapping[str, Number] | None = None) -> Evaluation:
    found = Evaluation(steps_of(text), values)
    assert [o.broken for o in found.outcomes] == [""] * len(found.outcomes)
    return found


def edge(e: Evaluation, step: int, part: int = 1) -> Straight:
    shape = e.state.features[Ref("edge", step, part)].shape
    assert isinstance(shape, Straight)
    return shape


def circle(e: Evaluation, step: int, part: int = 1, kind: str = "circle") -> Round:
    shape = e.state.features[Ref(kind, step, part)].shape
    assert isinstance(shape, Round)
    return shape


def why(text: str) -> str:
    return Evaluation(steps_of(text)).outcomes[-1].broken


# points


@pytest.mark.parametrize(
    ("said", "at"),
    [
        ("35, 20", (35, 20)),
        ("by 18, -9", (28, 1)),
        ("by 18, -9 from 1, 1", (19, -8)),
        ("26 toward 90", (10, 36)),
        ("5 toward 40, 10", (15, 10)),
        ("5 toward 0, 0 from 3, 4", (0, 0)),
        ("10 along edge 1", (10, 20)),
        ("3 square to edge 1 left from 0, 0", (-3, 0)),
        ("3 square to edge 1 right from 0, 0", (3, 0)),
        ("right 72", (82, 10)),
        ("left 2 from 0, 0", (-2, 0)),
        ("up 1/3", (10, Fraction(31, 3))),
        ("down 4", (10, 6)),
        ("start of edge 1", (40, 0)),
        ("end of edge 1", (40, 30)),
        ("middle of edge 1", (40, 15)),
        ("centre of circle 2", (0, 0)),
        ("quarter of circle 2 below", (0, -5)),
        ("corner 3 of step 3", (110, 55)),
        ("corner 1 of step 3", (100, 50)),
        ("crossing of edge 1 and edge 4", (40, 7)),
        ("crossing of circle 2 and edge 5", (4, 3)),
        ("crossing of circle 2 and edge 5 nearest -9, 3", (-4, 3)),
        ("foot on edge 1 from 3, 11", (40, 11)),
        ("nearest on edge 1 to 3, 99", (40, 30)),
        ("nearest on circle 2 to 9, 12", (3, 4)),
        ("share 2/5 of 0, 0 and 10, 20", (4, 8)),
        ("level with 3, 4 plumb with 5, 6", (5, 4)),
        ("point A", (7, 8)),
        ("(3, 4)", (3, 4)),
        ("length of edge 1, radius of circle 2 / 2", (30, 2.5)),
        ("distance of (0, 0) and (3, 4), angle of edge 1", (5, 90)),
    ],
)
def test_every_way_of_saying_a_point(said: str, at: tuple[Number, Number]) -> None:
    found = drawn(
        f"""line 40, 0; 40, 30
        circle 0, 0; radius 5
        rectangle 100, 50; 110, 55
        line 0, 7; 9, 7
        line -9, 3; 9, 3
        point A; 7, 8
        point B; 10, 10
        point C; {said}"""
    )
    assert found.state.points["C"] == pytest.approx(at) if isinstance(at[1], float) else at


# exact


def test_a_chain_of_three_hundred_decimal_steps_closes_exactly() -> None:
    """A hundred times 0.1 right, 0.1 up, and back by their sum: in doubles the sums would miss."""
    moves = "; ".join(["right 0.1", "up 0.1"] * 100 + ["left 0.1"] * 99)
    found = drawn(f"chain 35, 20; {moves}; by -0.1, -10; close")
    pieces = [f for f in found.state.features.values() if f.ref.kind == "edge"]
    assert len(pieces) == 300
    assert pieces[-1].shape.end == (35.0, 20.0)
    adding = 0.0
    for _ in range(100):
        adding += 0.1
    assert adding != 10.0


def test_coordinates_are_the_nearest_doubles() -> None:
    found = drawn("line 35, 20; by 0.1, 0.2\nline end of edge 1; by 0.1, 0.1")
    assert edge(found, 2) == Straight((35.1, 20.2), (35.2, 20.3))


def test_ways_at_whole_angles_are_exact() -> None:
    found = drawn("chain 0, 0; 20 toward 30; 20 toward 150; 20 toward 270; close")
    assert edge(found, 1, 1).end[1] == 10.0
    assert edge(found, 1, 3).end == pytest.approx((0, 0), abs=1e-14)


def test_facts_of_the_trade() -> None:
    """300 at 90 degrees and then 400 at -45; a strip of 80 + 80 + 100; a block of 64 with two walls of 20
    (common practice, no published source)."""
    found = drawn("chain 0, 0; 300 toward 90; 400 toward -45")
    x, y = edge(found, 1, 2).end
    assert (round(x, 2), round(y, 2)) == (282.84, 17.16)
    strip = drawn("line 0, 0; right 80\nline end of edge 1; right 80\nline end of edge 2; 260, 0")
    assert edge(strip, 3).length == 100
    block = drawn(
        "rectangle 0, 0; 64 by 40\nparallel edge 1.2; gap 20; left\nparallel edge 1.4; gap 20; left"
    )
    assert abs(edge(block, 2).start[0] - edge(block, 3).start[0]) == 24


# straight pieces


def test_lines_of_every_kind() -> None:
    found = drawn(
        """line 0, 0; 40, 0
        line middle 10, 10; 6 toward 0
        line 0, 0; 20 at 30 to edge 1
        circle 60, 0; radius 10
        line touching circle 4; from 0, 0; left
        circle 100, 0; radius 20
        line touching circle 4; circle 6; outer left
        line touching circle 4; at quarter of circle 4 above; length 8
        line square to circle 4; circle 6
        shortest circle 4; edge 1
        bisector edge 1; edge 3; length 10
        bisector 10, 0; 0, 0; 0, 10; length 5
        square edge 1; at middle of edge 1; length 7; left
        square edge 1; from 12, 9"""
    )
    assert edge(found, 2) == Straight((7, 10), (13, 10))
    assert edge(found, 3).end == pytest.approx((20 * math.cos(math.pi / 6), 10))
    assert edge(found, 5).length == pytest.approx(math.sqrt(60**2 - 10**2))
    assert edge(found, 5).end[1] > 0
    assert edge(found, 7).length == pytest.approx(math.sqrt(40**2 - 10**2))
    assert edge(found, 8) == Straight((64, 10), (56, 10))
    assert edge(found, 9) == Straight((70, 0), (80, 0))
    assert edge(found, 10).length == 10
    assert math.degrees(math.atan2(*reversed(edge(found, 11).end))) == pytest.approx(15)
    assert edge(found, 12).end == pytest.approx((5 / math.sqrt(2), 5 / math.sqrt(2)))
    assert edge(found, 13) == Straight((20, 0), (20, 7))
    assert edge(found, 14) == Straight((12, 9), (12, 0))


def test_chains_with_arcs() -> None:
    """A slot of 40 between centres and 10 wide: two edges and two half turns, smoothly joined."""
    found = drawn(
        """chain 0, -5; right 40; smooth arc to 40, 5; left 40; smooth arc to 0, -5; close
        chain 0, 0; arc to 10, 0 radius 5 left; arc through 15, 5 to 20, 0;arc to 30, 0 radius 8 right long
        """
    )
    for n, center in ((1, (40, 0)), (2, (0, 0))):
        arc = circle(found, 1, n, "arc")
        assert arc.center == pytest.approx(center, abs=1e-12)
        assert arc.radius == pytest.approx(5)
        assert arc.sweep_rad == pytest.approx(math.pi)
    assert circle(found, 2, 1, "arc").center == pytest.approx((5, 0))
    assert circle(found, 2, 2, "arc").center == pytest.approx((15, 0))
    assert circle(found, 2, 3, "arc").center[1] == pytest.approx(-math.sqrt(39))
    assert circle(found, 2, 3, "arc").sweep_rad > math.pi


def test_parallels() -> None:
    found = drawn(
        """line 0, 0; 40, 0
        parallel edge 1; gap 1.1; left; times 3
        circle 0, 0; diameter 20
        parallel circle 3; gap 2; inside"""
    )
    assert [edge(found, 2, n).start for n in (1, 2, 3)] == [(0, 1.1), (0, 2.2), (0, 3.3)]
    assert circle(found, 4).radius == 8


# round


def test_circles_of_every_kind() -> None:
    found = drawn(
        """circle 0, 0; radius 5
        circle 0, 0; diameter 7.5
        circle 1, 1; through 4, 5
        circle across 0, 0; 0.2, 0
        circle through 5, 0; 0, 5; -5, 0
        line 0, 0; 100, 0
        circle touching edge 6; at 30, 0; radius 4; left
        circle touching edge 6; circle 1; radius 3; left; outside; second
        line 0, 0; 0, 100
        line 30, 0; 0, 40
        circle touching edge 6; edge 9; edge 10; left; right; left"""
    )
    assert circle(found, 2).radius == 3.75
    assert circle(found, 3).radius == 5
    assert circle(found, 4).center == (0.1, 0)
    assert circle(found, 5).center == pytest.approx((0, 0), abs=1e-12)
    assert circle(found, 7) == Round((30, 4), 4)
    assert circle(found, 8).center == pytest.approx((math.sqrt(64 - 9), 3))
    assert circle(found, 11).radius == pytest.approx(10)  # a triangle 30, 40, 50


def test_arcs_of_every_kind() -> None:
    found = drawn(
        """arc through 5, 0; 0, 5; -5, 0
        arc centre 0, 0; from 5, 0; turn 90
        arc centre 0, 0; from 5, 0; turn -90
        arc 0, 0; 8, 0; radius 5; left
        arc 0, 0; 8, 0; radius 5; left; long"""
    )
    assert circle(found, 1, 1, "arc").sweep_rad == pytest.approx(math.pi)
    assert circle(found, 2, 1, "arc").end == (0, 5)
    assert circle(found, 3, 1, "arc").start == (0, -5)
    assert circle(found, 4, 1, "arc").center == pytest.approx((4, 3))
    assert circle(found, 5, 1, "arc").sweep_rad > math.pi


def test_rectangles_have_their_edges_and_corners_in_order() -> None:
    """Edges bottom, right, top, left; corners from the first point, counter-clockwise."""
    found = drawn(
        """rectangle 40, 30; 0, 0
        rectangle 0, 0; 40 by 20; turned 90
        rectangle 0, 0; 80 by 50; rounded 9"""
    )
    assert [edge(found, 1, n) for n in (1, 2)] == [Straight((0, 0), (40, 0)), Straight((40, 0), (40, 30))]
    corners = drawn(
        "rectangle 40, 30; 0, 0\n" + "\n".join(f"point P{n}; corner {n} of step 1" for n in range(1, 5))
    )
    assert [corners.state.points[f"P{n}"] for n in range(1, 5)] == [(40, 30), (0, 30), (0, 0), (40, 0)]
    assert edge(found, 2) == Straight((0, 0), (0, 40))
    assert edge(found, 3) == Straight((9, 0), (71, 0))
    assert [circle(found, 3, n, "arc").center for n in range(1, 5)] == [
        pytest.approx(p) for p in ((71, 9), (71, 41), (9, 41), (9, 9))
    ]


@pytest.mark.parametrize("n", [3, 4, 5, 6, 7, 12])
def test_polygons(n: int) -> None:
    """The side is 2 R sin(pi / n) inside a circle, 2 R tan(pi / n) about it."""
    found = drawn(
        f"""polygon {n}; centre 3, 4; inside 20
        polygon {n}; centre 3, 4; outside 20; turned 0
        polygon {n}; edge 0, 0; 10, 0; left"""
    )
    for k in range(1, n + 1):
        assert edge(found, 1, k).length == pytest.approx(40 * math.sin(math.pi / n))
        assert edge(found, 2, k).length == pytest.approx(40 * math.tan(math.pi / n))
        assert edge(found, 3, k).length == pytest.approx(10)
        assert lines.side_of((3, 4), edge(found, 1, k)) > 0
        assert distance(lines.foot((3, 4), edge(found, 2, k)), (3, 4)) == pytest.approx(20)
    assert edge(found, 1, 1).start == (3, 24)
    assert edge(found, 2, 1).middle == pytest.approx((23, 4))
    assert edge(found, 3, 1) == Straight((0, 0), (10, 0))


# what is broken


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("line 1, 1; 1, 1", "same point"),
        ("circle 0, 0; radius 0", "more than 0"),
        ("circle 0, 0; radius R", "'R' is not known"),
        ("line by 3, 4; 0, 0", "no point to go from"),
        ("line 0, 0; 9, 0\nline 0, 1; 9, 1\npoint A; crossing of edge 1 and edge 2", "do not cross"),
        ("circle 0, 0; radius 5\nline touching circle 1; from 1, 1; left", "inside the circle"),
        (
            "circle 0, 0; radius 5\ncircle 3, 0; radius 4\nline touching circle 1; circle 2; crossing left",
            "outer left",
        ),
        ("rectangle 0, 0; 9, 9\nline start of edge 1; 5, 5", "Say which"),
        (
            "rectangle 0, 0; 9, 9\nline start of edge 1.7; 5, 5",
            "no edge 7. It has edge 1.1, edge 1.2, edge 1.3, edge 1.4",
        ),
        ("arc 0, 0; 10, 0; radius 4; left", "at least 5"),
        ("circle through 0, 0; 1, 1; 2, 2", "in one line"),
        ("polygon 2; centre 0, 0; inside 5", "from 3 to"),
        ("line 0, 0; 1e308, 0", "'e308,'"),
        ("line 0, 0; 10^14, 0", "too far away"),
        ("rectangle 0, 0; 10 by 5; rounded 4", "too large"),
    ],
)
def test_what_cannot_be_built_says_why(text: str, says: str) -> None:
    assert says in why(text)


def test_what_is_broken_leaves_the_rest_standing() -> None:
    text = """line 0, 0; 9, 0
    circle 0, 0; radius 0
    line start of edge 1; 0, 5
    circle centre of circle 2; radius 3"""
    found = Evaluation(steps_of(text))
    assert [bool(o.broken) for o in found.outcomes] == [False, True, False, True]
    assert found.outcomes[3].waits_for == 2


# forward and back


def test_changing_a_step_evaluates_from_there_on() -> None:
    text = """circle 0, 0; radius 10
    line touching circle 1; from 50, 0; left
    point A; end of edge 2
    point A; 3, 3"""
    found = drawn(text)
    before = dict(found.state.features), dict(found.state.points)
    other = steps_of("circle 0, 0; radius 20")[0]
    found.change(0, other)
    assert edge(found, 2).length == pytest.approx(math.sqrt(50**2 - 20**2))
    found.change(0, steps_of("circle 0, 0; radius 10")[0])
    assert (dict(found.state.features), dict(found.state.points)) == before
    outcome = found.preview(Step(99, read_sentence("point A; 9, 9", lambda n: n)))
    assert outcome.points == {"A": (9, 9)}
    assert (dict(found.state.features), dict(found.state.points)) == before
    found.back_to(3)
    assert found.state.points["A"] == pytest.approx(edge(found, 2).end)
    found.back_to(0)
    assert not found.state.features
    assert not found.state.points
