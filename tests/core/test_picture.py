"""Pictures of dimensions and notes: arrows, gaps, overshoot, and how figures are turned (ISO 129-1 and ASME
Y14.5, values from memory; as shares of the height of the lettering)."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest

from evenmark.core.drawing import placed
from evenmark.core.drawing.annotations import Dimension, Note, measure
from evenmark.core.drawing.model import Arc, Line, Text
from evenmark.core.drawing.picture import figure, in_figures, picture_of, picture_of_note, readable

HEIGHT = 3.5


def texts(d: Dimension, **more: Any) -> list[Text]:
    return [e for e in picture_of(d, **more) if isinstance(e, Text)]


def lines(d: Dimension, **more: Any) -> list[Line]:
    return [e for e in picture_of(d, **more) if isinstance(e, Line)]


def across(length: float = 80.0, place: tuple[float, float] = (40.0, -10.0), **look: Any) -> Dimension:
    shown = placed.Shown(fractions=look.get("fractions", False))
    return replace(placed.linear((0.0, 0.0), (length, 0.0), 0.0, place, shown), **look)


def test_extension_lines_leave_a_gap_and_run_past() -> None:
    plumb = [e for e in lines(across()) if e.start[0] == e.end[0] and abs(e.start[1] - e.end[1]) > 5]
    assert len(plumb) == 2
    for e in plumb:
        high, low = max(e.start[1], e.end[1]), min(e.start[1], e.end[1])
        assert high == pytest.approx(-0.3 * HEIGHT)  # the gap at the feature
        assert low == pytest.approx(-10 - 0.6 * HEIGHT)  # past the dimension line


def test_the_line_carries_arrows_that_point_at_the_extension_lines() -> None:
    found = lines(across())
    level = [e for e in found if e.start[1] == e.end[1] == -10]
    assert any({e.start[0], e.end[0]} == {0.0, 80.0} for e in level)
    tips = [p for e in found for p in (e.start, e.end) if p in ((0.0, -10.0), (80.0, -10.0))]
    assert len(tips) >= 4


def test_arrows_stand_outside_where_there_is_no_room() -> None:
    narrow = lines(across(4.0, (2.0, -10.0)))
    reach = [x for e in narrow for x in (e.start[0], e.end[0])]
    assert min(reach) < -HEIGHT
    assert max(reach) > 4 + HEIGHT


@pytest.mark.parametrize(
    ("turn", "reads"), [(0.0, 0.0), (90.0, 90.0), (45.0, 45.0), (135.0, -45.0), (180.0, 0.0), (91.0, -89.0)]
)
def test_figures_are_read_from_below_and_from_the_right(turn: float, reads: float) -> None:
    assert readable(turn) == reads
    end = (80 * math.cos(math.radians(turn)), 80 * math.sin(math.radians(turn)))
    d = placed.linear((0.0, 0.0), end, turn, (end[0] / 2 + 9, end[1] / 2 + 9))
    assert texts(d)[0].turn_deg == pytest.approx(reads)


def test_figures_on_inch_sheets_are_upright_and_break_the_line() -> None:
    d = placed.linear((0.0, 0.0), (0.0, 80.0), 90.0, (-10.0, 40.0), placed.Shown(fractions=True))
    assert texts(d, inch=True)[0].turn_deg == 0.0
    plumb = sorted(
        (min(e.start[1], e.end[1]), max(e.start[1], e.end[1]))
        for e in lines(d, inch=True)
        if e.start[0] == e.end[0] == -10
    )
    assert len(plumb) == 2
    assert plumb[0][1] < 40 < plumb[1][0]


@pytest.mark.parametrize(
    ("look", "says"),
    [
        ({}, "80"),
        ({"zeros": True}, "80.00"),
        ({"decimals": 0}, "80"),
        ({"before": "4 × "}, "4 × 80"),
        ({"before": "(", "after": ")"}, "(80)"),
        ({"tolerance": (0.1, -0.1)}, "80 ±0.1"),
        ({"tolerance": (0.1, -0.05)}, "80 +0.1/-0.05"),
        ({"typed": "80 H7"}, "80 H7"),
        ({"factor": 2.0}, "160"),
    ],
)
def test_what_a_figure_says(look: dict[str, Any], says: str) -> None:
    assert figure(across(**look)) == says


@pytest.mark.parametrize(
    ("value", "says"),
    [(4.625, "4 5/8"), (0.4375, "7/16"), (3.0, "3"), (0.0, "0"), (2.999, "3"), (0.01, "1/64")],
)
def test_inches_in_parts(value: float, says: str) -> None:
    assert in_figures(value, fractions=True) == says


def test_a_radius_and_a_diameter_touch_their_circle() -> None:
    for make, sign in ((placed.of_radius, "R"), (placed.of_diameter, "Ø")):
        d = make((0.0, 0.0), 20.0, (40.0, 30.0))
        assert texts(d)[0].wording.startswith(sign)
        touch = (16.0, 12.0)
        assert any(math.dist(p, touch) < 1e-9 for e in lines(d) for p in (e.start, e.end))


def test_an_angle_has_an_arc_through_its_place() -> None:
    d = placed.of_angle((0.0, 0.0), (40.0, 0.0), (0.0, 40.0), (20.0, 20.0))
    (arc,) = [e for e in picture_of(d) if isinstance(e, Arc)]
    assert (arc.radius, math.degrees(arc.sweep_rad)) == pytest.approx((math.hypot(20, 20), 90))
    assert figure(d) == "90°"


def test_an_ordinate_and_the_length_of_an_arc_have_pictures() -> None:
    for kind, points in (
        ("ordinate", ((20.0, 5.0), (0.0, 0.0))),
        ("arc", ((0.0, 0.0), (9.0, 0.0), (0.0, 9.0))),
    ):
        d = Dimension(
            kind=kind,  # type: ignore[arg-type]
            points=points,  # type: ignore[arg-type]
            measured=measure(kind, points, 0.0),  # type: ignore[arg-type]
            at=(20.0, 30.0),
            line=(20.0, 25.0),
        )
        assert texts(d)[0].wording == figure(d)
        assert lines(d)


def test_a_note_has_its_leader_with_an_arrow_and_its_wording() -> None:
    n = Note(points=((0.0, 0.0), (20.0, 20.0), (30.0, 20.0)), wording="DEBURR", at=(32.0, 22.0), height=3.5)
    found = picture_of_note(n)
    assert [t.wording for t in found if isinstance(t, Text)] == ["DEBURR"]
    ends = [p for e in found if isinstance(e, Line) for p in (e.start, e.end)]
    assert ends.count((0.0, 0.0)) == 3  # the leader and both sides of the arrow
