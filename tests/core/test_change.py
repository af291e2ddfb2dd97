"""Steps that change what is drawn: what they make of it, and the names that it keeps."""

from __future__ import annotations

import math

import pytest

from evenmark.core.construct.references import Ref
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import distance
from tests.core.test_draw import circle, drawn, edge, steps_of, why


def test_trims_keep_and_drop() -> None:
    found = drawn(
        """line 0, 0; 100, 0
        line 30, -9; 30, 9
        line 60, -9; 60, 9
        trim edge 1; at edge 2 and edge 3; drop 45, 0
        line 0, 50; 100, 50
        trim edge 5; at edge 2; keep 99, 50
        circle 0, 100; radius 10
        line -20, 100; 20, 100
        trim circle 7; at edge 8; drop 0, 90"""
    )
    assert edge(found, 1) == Straight((0, 0), (30, 0))
    assert edge(found, 4) == Straight((60, 0), (100, 0))
    assert edge(found, 5) == Straight((30, 50), (100, 50))
    half = circle(found, 7)
    assert half.sweep_rad == pytest.approx(math.pi)
    assert half.middle == pytest.approx((0, 110))
    after = drawn(
        """circle 0, 0; radius 10
        line -20, 0; 20, 0
        trim circle 1; at edge 2; keep 0, 9
        point A; end of arc 1"""
    )
    assert after.state.points["A"] == pytest.approx((-10, 0))


def test_run_on_rounded_and_bevelled() -> None:
    found = drawn(
        """line 0, 0; 40, 0
        line 100, 5; 100, 50
        extend edge 1; to edge 2
        line 0, 0; 0, 60
        fillet edge 1; edge 4; radius 5
        line 0, 60; 60, 60
        chamfer edge 4; edge 6; 3 and 4
        run past edge 6; 2; end
        line 0, 200; 10, 200
        run past edge 9; 6"""
    )
    assert edge(found, 1) == Straight((5, 0), (100, 0))
    assert edge(found, 4) == Straight((0, 5), (0, 57))
    arc = circle(found, 5, 1, "arc")
    assert arc.center == (5, 5)
    assert arc.sweep_rad == pytest.approx(math.pi / 2)
    assert edge(found, 7).length == pytest.approx(5)
    assert edge(found, 6) == Straight((4, 60), (62, 60))
    assert edge(found, 9) == Straight((-6, 200), (16, 200))


def test_the_corners_of_a_step_are_rounded_in_its_order() -> None:
    found = drawn("chain 0, 0; right 80; up 50; left 80; close\nfillet corners of step 1; radius 9")
    assert [circle(found, 2, n, "arc").center for n in range(1, 5)] == [(71, 9), (71, 41), (9, 41), (9, 9)]
    assert edge(found, 1) == Straight((9, 0), (71, 0))
    assert "too large" in why("rectangle 0, 0; 10 by 5\nfillet corners of step 1; radius 4")


def test_what_is_moved_keeps_its_name_and_what_is_copied_gets_new_ones() -> None:
    found = drawn(
        """rectangle 0, 0; 10 by 5
        circle 2, 2; radius 1
        move step 1 and circle 2; by 100, 0.1
        copy step 1; up 20
        mirror circle 2; about 100, 0; 100, 9; copy
        turn edge 1.1; about 100, 0.1; 90
        scale circle 2; about 0, 0; 2 becomes 3
        mirror edge 4.1; about edge 1.1"""
    )
    assert edge(found, 1, 2) == Straight((110, 0.1), (110, 5.1))
    assert edge(found, 4, 3) == Straight((110, 25.1), (100, 25.1))
    assert circle(found, 5).center == (98, 2.1)
    assert edge(found, 1) == Straight((100, 0.1), (100, 10.1))
    assert circle(found, 2).radius == 1.5
    assert circle(found, 2).center == pytest.approx((153, 3.15))
    assert edge(found, 4) == Straight((100, 20.1), (90, 20.1))


def test_a_frame_is_stretched() -> None:
    """An 8.5 x 11 frame becomes an 11 x 17 one by stretching 6 across and 2.5 up (common practice, no
    published source): upright turned across."""
    found = drawn(
        """rectangle 0, 0; 11 by 8.5
        circle 10, 1; radius 0.25
        stretch 5, -1; 20, 20; by 6, 0
        stretch -1, 5; 20, 20; up 2.5"""
    )
    assert edge(found, 1, 2) == Straight((17, 0), (17, 11))
    assert edge(found, 1, 4) == Straight((0, 11), (0, 0))
    assert circle(found, 2).center == (16, 1)


def test_repeats() -> None:
    """Holes on a pitch circle: the chord between neighbours is 2 r sin(pi / n)."""
    found = drawn(
        """circle 60, 0; diameter 12
        repeat circle 1; 4 round 0, 0
        circle 0, 200; radius 2
        repeat circle 3; 3 across 20; 2 up 15
        circle 60, 0; radius 1
        repeat circle 5; 3 round 0, 0; over 90"""
    )
    places = [circle(found, 1).center] + [circle(found, 2, n).center for n in (1, 2, 3)]
    assert places == [(60, 0), (0, 60), (-60, 0), (0, -60)]
    assert distance(places[0], places[1]) == pytest.approx(2 * 60 * math.sin(math.pi / 4))
    assert [circle(found, 4, n).center for n in range(1, 6)] == [
        (20, 200),
        (40, 200),
        (0, 215),
        (20, 215),
        (40, 215),
    ]
    assert circle(found, 6, 2).center == (0, 60)


def test_layers_lines_and_what_goes() -> None:
    found = drawn(
        """rectangle 0, 0; 10 by 5; layer outline
        circle 50, 50; radius 3; layer holes
        layer edge 1.2; hidden
        line circle 2 and edge 1.2; dashed
        erase (inside -1, -1; 20, 0.5)
        erase everything on holes"""
    )
    assert found.state.features[Ref("edge", 1, 2)].layer == "hidden"
    assert found.state.features[Ref("edge", 1, 2)].line == "dashed"
    assert set(found.state.features) == {Ref("edge", 1, n) for n in (2, 3, 4)}
    found.back_to(2)
    assert len(found.state.features) == 5
    assert found.state.features[Ref("edge", 1, 2)].line is None


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("line 0, 0; 9, 0\nline 0, 5; 9, 5\ntrim edge 1; at edge 2; keep 0, 0", "Nothing crosses it"),
        ("line 0, 0; 9, 0\nline 0, 5; 9, 5\nextend edge 1; to edge 2", "never meets"),
        ("line 0, 0; 9, 0\nline 0, 5; 9, 5\nchamfer edge 1; edge 2; 3", "parallel"),
        ("line 0, 0; 9, 0\nline 0, 0; 0, 9\nfillet edge 1; edge 2; radius 20", "No arc of radius 20"),
        ("line 0, 0; 9, 0\nrepeat edge 1; 1000000 across 2", "from 1 to"),
        ("line 0, 0; 9, 0\nstretch 50, 50; 60, 60; by 1, 0", "holds no end"),
        ("line 0, 0; 9, 0\nerase everything on hidden", "Nothing matches"),
        ("line 0, 0; 9, 0\nmirror edge 1; about 3, 3; 3, 3", "are the same"),
    ],
)
def test_what_cannot_be_changed_says_why(text: str, says: str) -> None:
    assert says in why(text)


def test_changes_come_undone() -> None:
    text = """rectangle 0, 0; 40 by 30
    circle 20, 15; radius 5
    fillet corners of step 1; radius 4
    mirror everything; about 0, 50; 10, 50; copy
    trim circle 2; at edge 1.1; keep 0, 0
    turn step 1; about 0, 0; 30
    stretch 0, 0; 50, 50; by 1, 1
    repeat step 1; 2 across 100
    erase circle 2"""
    from evenmark.core.construct.evaluation import Evaluation

    steps = steps_of(text)
    found = Evaluation(steps)
    states = []
    for n in range(len(steps), -1, -1):
        found.back_to(n)
        states.append(dict(found.state.features))
    for n, state in zip(range(len(steps), -1, -1), states, strict=True):
        assert dict(Evaluation(steps[:n]).state.features) == state
    assert isinstance(circle(Evaluation(steps[:2]), 2), Round)
