"""Points, arcs, motions, tolerance, units."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evenmark.core.geometry import arcs, points, tolerance, units
from evenmark.core.geometry.motions import STILL, Motion

coordinate = st.floats(-1e6, 1e6, allow_nan=False)
point = st.tuples(coordinate, coordinate)
angle = st.floats(-720, 720, allow_nan=False)


@pytest.mark.parametrize(
    ("a", "b", "direction"),
    [
        ((0, 0), (1, 0), 0.0),
        ((1, 0), (0, 0), 0.0),
        ((0, 0), (0, 1), 90.0),
        ((0, 0), (-1, 1), 135.0),
        ((0, 0), (1, -1), 135.0),
        ((0, 0), (-1, -1e-18), 0.0),
    ],
)
def test_direction_of_an_edge_has_no_sense(a: points.Point, b: points.Point, direction: float) -> None:
    assert points.direction_deg(a, b) == pytest.approx(direction, abs=1e-12)
    assert points.direction_deg(b, a) == pytest.approx(direction, abs=1e-12)


@given(angle, angle)
def test_directions_differ_by_at_most_a_right_angle(a: float, b: float) -> None:
    off = points.direction_difference_deg(a, b)
    assert -90.0 <= off <= 90.0
    assert (a + off - b) % 180.0 == pytest.approx(0.0, abs=1e-9) or (a + off - b) % 180.0 == pytest.approx(
        180.0, abs=1e-9
    )


@pytest.mark.parametrize(
    ("at_deg", "inside"), [(350, True), (0, True), (10, True), (10.1, False), (349.9, False), (180, False)]
)
def test_sweep_across_zero(at_deg: float, inside: bool) -> None:
    assert points.in_sweep(math.radians(at_deg), math.radians(350), math.radians(20) + 1e-12) is inside


def test_degenerate_carriers_are_points() -> None:
    assert points.distance_to_carrier((3, 4), (0, 0), (0, 0)) == 5.0
    assert points.along_carrier((3, 4), (0, 0), (0, 0)) == 0.0
    assert points.box_of([]) is None


@pytest.mark.parametrize("bulge", [1.0, -1.0, 0.25, -0.25, 3.0, -3.0, 1e-3])
def test_a_bulge_arc_ends_on_its_vertices(bulge: float) -> None:
    center, radius, start, sweep = arcs.from_bulge((2.0, 3.0), (7.0, -1.0), bulge)
    ends = [points.point_on(center, radius, start), points.point_on(center, radius, start + sweep)]
    expected = [(2.0, 3.0), (7.0, -1.0)] if bulge > 0 else [(7.0, -1.0), (2.0, 3.0)]
    for got, want in zip(ends, expected, strict=True):
        assert got == pytest.approx(want, abs=1e-9)
    assert arcs.bulge_of(sweep) == pytest.approx(abs(bulge))


@given(point, st.floats(0.1, 1000), st.booleans(), st.floats(0, 360), point)
def test_a_motion_undone_is_where_it_began(
    p: points.Point, scale: float, mirror: bool, turn: float, shift: points.Point
) -> None:
    motion = Motion(scale=scale, mirror=mirror, turn_deg=turn, shift=shift)
    moved = motion.points(np.array([p]))
    assert moved[0] == pytest.approx(motion.point(p), abs=1e-6)
    assert motion.undone(moved)[0] == pytest.approx(p, abs=1e-5)


@pytest.mark.parametrize("turn", [0.0, 90.0, 180.0, 270.0, 360.0])
def test_quarter_turns_are_exact(turn: float) -> None:
    x, y = Motion(turn_deg=turn).point((1.0, 0.0))
    assert {abs(x), abs(y)} == {0.0, 1.0}


@given(st.booleans(), st.floats(0, 360), st.floats(0, 6.28), st.floats(0.01, 6.28))
def test_an_arc_moves_with_its_ends(mirror: bool, turn: float, start: float, sweep: float) -> None:
    motion = Motion(mirror=mirror, turn_deg=turn)
    new_start, new_sweep = motion.sweep(start, sweep)
    ends = [motion.point(points.point_on((0, 0), 1.0, a)) for a in (start, start + sweep)]
    if mirror:
        ends.reverse()
    assert points.point_on((0, 0), 1.0, new_start) == pytest.approx(ends[0], abs=1e-9)
    assert points.point_on((0, 0), 1.0, new_start + new_sweep) == pytest.approx(ends[1], abs=1e-9)


def test_only_the_motion_that_moves_nothing_is_still() -> None:
    assert STILL.still
    assert not any(
        m.still for m in (Motion(scale=2), Motion(mirror=True), Motion(turn_deg=1), Motion(shift=(0, 1e-9)))
    )


@pytest.mark.parametrize(
    ("deviation", "allowed"),
    [
        (0.001, True),
        (-0.001, True),
        (0.001 + 1e-10, True),
        (0.001 + 2e-9, False),
        (math.nan, False),
        (math.inf, False),
    ],
)
def test_a_tolerance_includes_its_own_end(deviation: float, allowed: bool) -> None:
    assert tolerance.within(deviation, 0.001, tolerance.slack(1.0)) is allowed


def test_weld_is_a_millionth_and_never_above_the_default_tolerance() -> None:
    assert tolerance.weld_of(100.0, 0.001) == pytest.approx(1e-4)
    assert tolerance.weld_of(1e6, 0.001) == 0.001
    assert 0 < tolerance.weld_of(0.0, 0.001) < 1e-6


def test_default_tolerances_of_units() -> None:
    assert units.MM.tolerances.length == 0.001
    assert units.INCH.tolerances.length == pytest.approx(0.0001)
    assert units.BY_SYMBOL["m"].tolerances.length == pytest.approx(1e-6)
    assert units.BY_SYMBOL["ft"].tolerances.near == pytest.approx(0.02 / 12)


@pytest.mark.parametrize("code", sorted(units.BY_DXF_CODE))
def test_unit_codes_go_both_ways(code: int) -> None:
    assert units.dxf_code(units.BY_DXF_CODE[code]) == code


@pytest.mark.parametrize(
    ("value", "step", "is_round"),
    [
        (12.0, 0.05, True),
        (12.05, 0.05, True),
        (12.031, 0.05, False),
        (0.4375, 1 / 64, True),
        (math.nan, 1, False),
    ],
)
def test_round_numbers_look_typed(value: float, step: float, is_round: bool) -> None:
    assert tolerance.is_round(value, step, 0.001) is is_round
