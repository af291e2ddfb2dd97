"""Steps that help: guides, mitres, centre lines, pitch circles."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest

from evenmark.core.construct.references import Ref
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import distance
from tests.core.test_draw import circle, drawn, edge, why


def test_guides_are_endless_and_stand_on_construction() -> None:
    found = drawn(
        """line 0, 0; 40, 0
        guide level 0, 5
        guide plumb 70, 0
        guide 30 through 0, 0
        point A; crossing of guide 2 and guide 3
        point B; crossing of edge 1 and guide 3
        point C; foot on guide 4 from 10, 0
        line 0, 9; 3, 9"""
    )
    assert found.state.points["A"] == (70, 5)
    assert found.state.points["B"] == (70, 0)
    assert found.state.points["C"] == pytest.approx((7.5, 7.5 * math.tan(math.pi / 6)))
    assert found.state.features[Ref("guide", 2, 1)].layer == "construction"
    assert found.state.features[Ref("edge", 8, 1)].layer == "outline"
    assert "no ends" in why("guide level 0, 5\npoint A; end of guide 1")


def test_depths_turn_the_corner_at_the_mitre() -> None:
    """What lies 12 above the foot of the mitre comes down 12 beside it, whatever the view."""
    found = drawn("mitre 100, 60\nrectangle 20, 72; 40 by 25\ncarry corner 1 of step 2; round guide 1")
    level, plumb = (found.state.features[Ref("guide", 3, n)].exact[0] for n in (1, 2))
    assert level == (20, 72)
    assert plumb == (112, 72)
    assert "never meets" in why("guide level 0, 0\ncarry 3, 4; round guide 1")


def test_centre_marks_and_lines_run_past() -> None:
    """0.25 in of overshoot is 6.35 mm; 6 mm and 2 mm are used on metric sheets (common practice, no published
    source)."""
    found = drawn(
        """circle 0, 0; radius 10
        centre mark circle 1; past 2
        rectangle 50, 0; 40 by 20
        centre line edge 3.1; edge 3.3; past 6
        centre line 0, 0; 0, 50; past 0.25*25.4"""
    )
    assert edge(found, 2, 1) == Straight((-12, 0), (12, 0))
    assert edge(found, 2, 2) == Straight((0, -12), (0, 12))
    assert edge(found, 4) == Straight((44, 10), (96, 10))
    assert edge(found, 5).length == 50 + 2 * 6.35
    assert found.state.features[Ref("edge", 4, 1)][2:4] == ("centre", "chain")


def test_a_pitch_circle_with_its_holes() -> None:
    """Four 12 mm holes on a 120 mm pitch circle (common practice, no published source); the chord between
    neighbours is D sin(pi / n)."""
    found = drawn(
        """pitch circle 0, 0; diameter 120; 4 holes diameter 12; first 45
        pitch circle 0, 0; diameter 60; 7 holes diameter 5; first 90"""
    )
    assert circle(found, 1).radius == 60
    places = [circle(found, 2, n).center for n in range(2, 9)]
    for a, b in pairwise(places):
        assert distance(a, b) == pytest.approx(60 * math.sin(math.pi / 7))
    assert places[0] == (0, 30)
    assert found.state.features[Ref("circle", 1, 1)].layer == "centre"
    assert found.state.features[Ref("circle", 1, 2)].layer == "outline"


def test_edges_are_hidden_at_once() -> None:
    found = drawn("rectangle 0, 0; 9, 9\nhide edges edge 1.2 and edge 1.3\nerase guides")
    looks = [found.state.features[Ref("edge", 1, n)][2:4] for n in (1, 2)]
    assert looks == [("outline", None), ("hidden", "dashed")]
