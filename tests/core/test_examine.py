"""Verdicts at the edges of tolerance and near band, for each kind; what follows what."""

from __future__ import annotations

import math

import pytest

from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Drawing, Entity
from evenmark.core.geometry.tolerance import Tolerances
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.model import Requirement
from tests.builders import PLATE, arc, chain, circle, drawing, finding, line, marked, verdicts

KEY = drawing(PLATE)
FREE_EDGE = drawing(line((0, 0), (40, 0)), circle((100, 100), 5))


def with_(*instead: Entity) -> Drawing:
    return drawing(*instead)


@pytest.mark.parametrize(
    ("length", "verdict"),
    [
        (40.0, "met"),
        (40.001, "met"),
        (39.999, "met"),
        (40.0011, "near"),
        (40.5, "near"),
        (39.5, "near"),
        (40.5001, "missed"),
        (43, "missed"),
    ],
)
def test_length(length: float, verdict: str) -> None:
    sheet = marked(FREE_EDGE, with_(line((0, 0), (length, 0)), circle((100, 100), 5)))
    got = finding(sheet, "length", "e1")
    assert (got.verdict, got.expected) == (verdict, 40)
    assert got.deviation == pytest.approx(length - 40, abs=1e-9)


@pytest.mark.parametrize(
    ("radius", "verdict"),
    [(5.0, "met"), (5.001, "met"), (5.0012, "near"), (5.25, "near"), (5.2501, "missed"), (10, "missed")],
)
def test_radius_has_a_band_of_a_twentieth(radius: float, verdict: str) -> None:
    sheet = marked(FREE_EDGE, with_(line((0, 0), (40, 0)), circle((100, 100), radius)))
    assert finding(sheet, "radius", "c1").verdict == verdict


@pytest.mark.parametrize(
    ("by", "verdict"),
    [
        ((0, 0), "met"),
        ((0.0006, 0.0008), "met"),
        ((0.0007, 0.0008), "near"),
        ((0.3, 0.4), "near"),
        ((0.3, 0.4001), "missed"),
    ],
)
def test_position_is_a_distance(by: tuple[float, float], verdict: str) -> None:
    sheet = marked(FREE_EDGE, with_(line((0, 0), (40, 0)), circle((100 + by[0], 100 + by[1]), 5)))
    got = finding(sheet, "position", "c1")
    assert got.verdict == verdict
    assert got.deviation == pytest.approx(math.hypot(*by), abs=1e-9)


@pytest.mark.parametrize(
    ("turn_deg", "verdict"),
    [
        (0.0, "met"),
        (0.009, "met"),
        (0.011, "near"),
        (0.49, "near"),
        (0.51, "missed"),
        (-0.2, "near"),
        (45, "missed"),
    ],
)
def test_angle_of_a_short_edge(turn_deg: float, verdict: str) -> None:
    """An edge of 10: half a degree moves its end by 0.087, within its length band of 0.5."""
    turn = math.radians(turn_deg)
    key = drawing(line((0, 0), (10, 0)), circle((100, 100), 5), circle((50, 80), 5))
    attempt = drawing(
        line((0, 0), (10 * math.cos(turn), 10 * math.sin(turn))), circle((100, 100), 5), circle((50, 80), 5)
    )
    got = finding(marked(key, attempt), "angle", "e1")
    assert got.verdict == verdict
    assert got.deviation == pytest.approx(abs(turn_deg), abs=1e-7)


def test_angle_of_a_long_edge_is_missed_where_its_end_is_far_off() -> None:
    turn = math.radians(0.2)  # an edge of 400 moves its end by 1.4
    key = drawing(line((0, 0), (400, 0)), circle((100, 100), 5), circle((50, 80), 5))
    attempt = drawing(
        line((0, 0), (400 * math.cos(turn), 400 * math.sin(turn))), circle((100, 100), 5), circle((50, 80), 5)
    )
    assert finding(marked(key, attempt), "angle", "e1").verdict == "missed"


def test_angle_across_zero() -> None:
    key = drawing(line((0, 0), (10, 0.0001)), circle((50, 80), 5), circle((0, 80), 5))
    attempt = drawing(line((0, 0), (10, -0.0001)), circle((50, 80), 5), circle((0, 80), 5))
    got = finding(marked(key, attempt), "angle", "e1")
    assert (got.verdict, got.deviation) == ("met", pytest.approx(math.degrees(0.00002)))


@pytest.mark.parametrize(
    ("end_deg", "verdict"), [(90, "met"), (90.009, "met"), (90.02, "near"), (97, "missed")]
)
def test_sweep(end_deg: float, verdict: str) -> None:
    key = drawing(arc((0, 0), 20, 0, 90), circle((50, 80), 5), circle((0, 80), 5))
    attempt = drawing(arc((0, 0), 20, 0, end_deg), circle((50, 80), 5), circle((0, 80), 5))
    assert finding(marked(key, attempt), "sweep", "a1").verdict == verdict


def test_a_short_edge_that_lies_on_its_place_is_met_whatever_its_own_angle() -> None:
    """0.04 long: ends within 0.001 of their places, and yet turned by 2 degrees."""
    key = drawing(line((0, 0), (0.04, 0)), circle((50, 80), 5), circle((0, 80), 5))
    attempt = drawing(line((0, -0.0007), (0.04, 0.0007)), circle((50, 80), 5), circle((0, 80), 5))
    sheet = marked(key, attempt)
    assert finding(sheet, "angle", "e1").deviation == pytest.approx(2.0, abs=0.1)
    assert finding(sheet, "angle", "e1").verdict == "met"
    strict = RuleSet(requirements=(Requirement(id=1, kind="angle", features=("e1",), tolerance=0.01),))
    assert check(prepare(key, strict), attempt).findings[0].verdict in ("near", "missed")


SLOT: list[Entity] = [
    line((0, 0), (40, 0)),
    arc((40, 10), 10, -90, 90),
    line((40, 20), (0, 20)),
    arc((0, 10), 10, 90, 270),
]


@pytest.mark.parametrize(("lift", "verdict"), [(0.0, "met"), (0.0018, "met"), (0.04, "missed")])
def test_tangency_has_no_near_band(lift: float, verdict: str) -> None:
    """The middle of the line, where the circle touches, is lifted by half."""
    key, tilted = (drawing(line((0, 0), (40, up)), circle((20, 10), 10)) for up in (0.0, lift))
    (touching,) = (f for f in marked(key, tilted).findings if f.kind == "tangent")
    assert (touching.verdict, touching.deviation) == (verdict, pytest.approx(lift / 2, abs=1e-4))


def test_an_end_that_misses_its_touch_point_is_charged_once() -> None:
    sheet = marked(drawing(SLOT), drawing(line((0, 0), (40, 0.02)), *SLOT[1:]))
    charged = [f for f in sheet.findings if f.verdict in ("near", "missed")]
    assert [f.kind for f in charged] == ["joined"]
    followers = {f.kind for f in sheet.findings if f.verdict == "follows"}
    assert followers == {"angle", "tangent", "closed"}


def test_tangency_of_circles_inside_and_outside() -> None:
    key = drawing(circle((0, 0), 20), circle((12, 0), 8), circle((28, 0), 8))
    asked = {frozenset(r.features) for r in prepare(key).requirements if r.kind == "tangent"}
    assert asked == {frozenset(pair) for pair in (("c1", "c2"), ("c1", "c3"), ("c2", "c3"))}
    off = drawing(circle((0, 0), 20), circle((12.02, 0), 8), circle((28, 0), 8))
    sheet = marked(key, off)
    moved = next(f for f in sheet.findings if f.kind == "position" and f.verdict == "near")
    touching = [f for f in sheet.findings if f.kind == "tangent" and f.verdict == "follows"]
    assert [f.deviation for f in touching] == [pytest.approx(0.02), pytest.approx(0.02)]
    assert {f.follows for f in touching} == {moved.id}  # one circle is out of place; what it touches is right


def test_joined_and_closed_have_no_near_band() -> None:
    open_ = drawing(line((0, 0), (79.9, 0)), PLATE[1], PLATE[2], PLATE[3], PLATE[4], PLATE[5])
    sheet = marked(KEY, open_)
    joined, closed = finding(sheet, "joined", "k3"), finding(sheet, "closed", "o1")
    assert (joined.verdict, joined.measured) == ("missed", pytest.approx(0.1))
    assert (closed.verdict, closed.follows) == ("follows", joined.id)
    assert closed.at == (80, 0)


def test_a_tee_is_joined_when_its_end_lies_on_the_other_feature() -> None:
    key = drawing(chain((0, 0), (30, 0), (30, 20), (0, 20)), line((12, 0), (12, 20)))
    short = drawing(chain((0, 0), (30, 0), (30, 20), (0, 20)), line((12, 0.05), (12, 20)))
    sheet = marked(key, short)
    missed = [f for f in sheet.findings if f.kind == "joined" and f.verdict == "missed"]
    assert [(f.features[0][0], f.measured) for f in missed] == [("t", pytest.approx(0.05))]


def test_what_depends_on_something_absent_follows_it() -> None:
    sheet = marked(KEY, drawing(PLATE[1], PLATE[2], PLATE[3], PLATE[4], PLATE[5]))
    absent = {f.kind for f in sheet.findings if f.verdict == "absent"}
    assert absent == {"length", "angle", "whole-edge", "layer"}
    first = min(f.id for f in sheet.findings if f.verdict == "absent")
    assert {f.follows for f in sheet.findings if f.verdict == "follows"} == {first}
    assert verdicts(sheet) == {"absent": 4, "follows": 3}


def _styled(**style: object) -> Drawing:
    look = Style(**{"color": 1, "line_type": "chain", "weight": 0.25, **style})  # type: ignore[arg-type]
    layers = {"axis": Layer(name="axis", style=look)}
    return Drawing(
        entities=(
            line((0, 0), (10, 0), "axis")._replace(style=look),
            circle((5, 9), 2, "axis")._replace(style=look),
        ),
        layers=layers,
        unit=KEY.unit,
    )


@pytest.mark.parametrize(
    ("style", "verdict"),
    [
        ({}, "met"),
        ({"weight": None}, "met"),
        ({"weight": 0.5}, "missed"),
        ({"color": 2}, "missed"),
        ({"line_type": "dashed"}, "missed"),
    ],
)
def test_layer_style(style: dict[str, object], verdict: str) -> None:
    got = finding(marked(_styled(), _styled(**style)), "layer-style")
    assert got.verdict == verdict
    assert (got.expected == got.measured) is (verdict == "met")


def test_a_layer_that_is_not_there_is_absent() -> None:
    attempt = Drawing(
        entities=tuple(e._replace(layer="0") for e in _styled().entities), layers={}, unit=KEY.unit
    )
    assert finding(marked(_styled(), attempt), "layer-style").verdict == "absent"


def test_tolerances_of_the_rule_set_and_of_one_requirement() -> None:
    attempt = drawing(line((0, 0), (40.01, 0)), circle((100, 100), 5))
    wide = marked(FREE_EDGE, attempt, tolerances=Tolerances(length=0.02, position=0.02))
    assert finding(wide, "length", "e1").verdict == "met"
    own = RuleSet(
        requirements=(
            Requirement(id=1, kind="length", features=("e1",), tolerance=0.009, near=0.0),
            Requirement(id=2, kind="radius", features=("c1",)),
        )
    )
    assert [f.verdict for f in check(prepare(FREE_EDGE, own), attempt).findings] == ["missed", "met"]


def test_requirements_that_are_off_are_not_examined() -> None:
    rules = RuleSet(
        requirements=(
            Requirement(id=1, kind="length", features=("e1",), on=False),
            Requirement(id=2, kind="whole"),
        )
    )
    assert [f.id for f in check(prepare(KEY, rules), KEY).findings] == [2]


def test_the_places_of_balloons() -> None:
    sheet = marked(KEY, KEY)
    assert finding(sheet, "length", "e1").at in ((40, 0), (0, 25), (80, 25), (40, 50))
    assert finding(sheet, "radius", "c1").at == (20, 25)
    assert finding(sheet, "whole").at is None
    assert finding(sheet, "closed", "o1").at == (0, 0)
