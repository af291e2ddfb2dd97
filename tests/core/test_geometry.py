"""Points, arcs, motions, tolerance, units."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evenmark.core.geometry import arcs, lines, points, rows, tolerance, units
from evenmark.core.geometry.similarities import STILL, Similarity, mirrored, scaled, turned

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
    assert lines.distance_to_supporting_line((3, 4), (0, 0), (0, 0)) == 5.0
    assert lines.along_supporting_line((3, 4), (0, 0), (0, 0)) == 0.0
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
    motion = Similarity(scale=scale, mirror=mirror, turn_deg=turn, shift=shift)
    moved = rows.moved_rows(np.array([p]), motion)
    assert moved[0] == pytest.approx(motion.point(p), abs=1e-6)
    assert rows.undone(moved, motion)[0] == pytest.approx(p, abs=1e-5)
    assert motion.undone.point(motion.point(p)) == pytest.approx(p, abs=1e-5)
    assert motion.undone.then(motion).point(p) == pytest.approx(p, abs=1e-5)


some_motion = st.builds(
    lambda scale, mirror, turn, shift: Similarity(scale=scale, mirror=mirror, turn_deg=turn, shift=shift),
    st.floats(0.1, 10),
    st.booleans(),
    st.floats(0, 360),
    st.tuples(st.floats(-1e3, 1e3), st.floats(-1e3, 1e3)),
)
near = st.tuples(st.floats(-1e3, 1e3), st.floats(-1e3, 1e3))


@given(some_motion, some_motion, some_motion, near)
def test_motions_compose(a: Similarity, b: Similarity, c: Similarity, p: points.Point) -> None:
    """One after the other is the one of both, in whatever brackets; directions and arcs go the same way."""
    assert a.then(b).point(p) == pytest.approx(b.point(a.point(p)), rel=1e-9, abs=1e-6)
    one, other = a.then(b).then(c), a.then(b.then(c))
    assert one.point(p) == pytest.approx(other.point(p), rel=1e-9, abs=1e-5)
    assert one.mirror == other.mirror
    u = math.radians(a.direction_deg(30.0))
    v = a.vector((math.cos(math.radians(30)), math.sin(math.radians(30))))
    assert v == pytest.approx((a.scale * math.cos(u), a.scale * math.sin(u)), abs=1e-9)


@given(near, near, near)
def test_a_mirror_lies_half_way(a: points.Point, b: points.Point, p: points.Point) -> None:
    """A point and its image are as far from any point of the mirror; mirrored twice it is back."""
    if points.distance(a, b) < 1.0:
        return
    image = mirrored(a, b).point(p)
    for q in (a, b):
        assert points.distance(image, q) == pytest.approx(points.distance(p, q), abs=1e-6)
    assert mirrored(a, b).point(image) == pytest.approx(p, abs=1e-6)
    assert mirrored(a, b).then(mirrored(a, b)).point(p) == pytest.approx(p, abs=1e-6)


@given(near, st.floats(-720, 720), near)
def test_what_is_turned_or_scaled_about_stays(about: points.Point, by: float, p: points.Point) -> None:
    assert turned(about, by).point(about) == pytest.approx(about, abs=1e-9)
    assert points.distance(turned(about, by).point(p), about) == pytest.approx(
        points.distance(p, about), abs=1e-6
    )
    assert scaled(about, 3.0).point(about) == pytest.approx(about, abs=1e-9)
    assert points.distance(scaled(about, 3.0).point(p), about) == pytest.approx(
        3.0 * points.distance(p, about), abs=1e-6
    )


@pytest.mark.parametrize("turn", [0.0, 90.0, 180.0, 270.0, 360.0])
def test_quarter_turns_are_exact(turn: float) -> None:
    x, y = Similarity(turn_deg=turn).point((1.0, 0.0))
    assert {abs(x), abs(y)} == {0.0, 1.0}


@given(st.booleans(), st.floats(0, 360), st.floats(0, 6.28), st.floats(0.01, 6.28))
def test_an_arc_moves_with_its_ends(mirror: bool, turn: float, start: float, sweep: float) -> None:
    motion = Similarity(mirror=mirror, turn_deg=turn)
    new_start, new_sweep = motion.sweep(start, sweep)
    ends = [motion.point(points.point_on((0, 0), 1.0, a)) for a in (start, start + sweep)]
    if mirror:
        ends.reverse()
    assert points.point_on((0, 0), 1.0, new_start) == pytest.approx(ends[0], abs=1e-9)
    assert points.point_on((0, 0), 1.0, new_start + new_sweep) == pytest.approx(ends[1], abs=1e-9)


def test_only_the_motion_that_moves_nothing_is_still() -> None:
    assert STILL.still
    assert not any(
        m.still
        for m in (
            Similarity(scale=2),
            Similarity(mirror=True),
            Similarity(turn_deg=1),
            Similarity(shift=(0, 1e-9)),
        )
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
