"""One wrong size early in an outline is charged once; what it carries along follows it."""

from __future__ import annotations

import pytest

from tests.builders import arc, chain, drawing, finding, line, marked

STEPS = ((70, 0), (0, 30), (-25, 0), (0, 20), (-45, 0))
"""An L-shaped plate drawn by steps from 0, 0 and closed back to it."""


def plate(*steps: tuple[float, float]) -> list[tuple[float, float]]:
    points = [(0.0, 0.0)]
    for dx, dy in steps:
        points.append((points[-1][0] + dx, points[-1][1] + dy))
    return points


KEY = drawing(chain(*plate(*STEPS)))


def with_step(n: int, step: tuple[float, float]) -> list[tuple[float, float]]:
    return plate(*STEPS[:n], step, *STEPS[n + 1 :])


def charged(points: list[tuple[float, float]], placement: str = "as-drawn") -> list[tuple[str, float]]:
    sheet = marked(KEY, drawing(chain(*points)), placement)  # type: ignore[arg-type]
    missed = [f for f in sheet.findings if f.verdict in ("near", "missed")]
    leaders = {f.id for f in missed}
    assert all(f.follows in leaders for f in sheet.findings if f.verdict == "follows")
    return [(f.kind, round(float(f.deviation or 0), 6)) for f in missed]


@pytest.mark.parametrize(
    ("n", "step", "expected"),
    [
        (0, (72, 0), [("length", 2.0)]),
        (1, (0, 33), [("length", 3.0)]),
        (2, (-27, 0), [("length", 2.0)]),
        (3, (0, 18), [("length", -2.0)]),
        (0, (70.2, 0), [("length", 0.2)]),
    ],
)
def test_one_wrong_length_costs_its_edge_alone(
    n: int, step: tuple[float, float], expected: list[tuple[str, float]]
) -> None:
    """Two edges are off by it: the one drawn wrong and the one that closes the outline; one of them is
    charged."""
    for placement in ("as-drawn", "slide"):
        if placement == "as-drawn" and n == 0:
            continue  # then most of the drawing is shifted, which `whole` tells
        found = charged(with_step(n, step), placement)
        assert [(kind, abs(off)) for kind, off in found] == [(kind, abs(off)) for kind, off in expected]


def test_two_independent_slips_are_charged_as_two() -> None:
    steps = [(72, 0), (0, 33), *STEPS[2:]]
    assert sorted(charged(plate(*steps))) == [("length", 2.0), ("length", 3.0)]


def test_a_wrong_direction_is_charged_with_its_edge() -> None:
    found = charged(with_step(2, (-25, 2)))
    assert {kind for kind, _ in found} <= {"length", "angle"}
    sheet = marked(KEY, drawing(chain(*with_step(2, (-25, 2)))))
    assert all(f.verdict in ("met", "follows") for f in sheet.findings if f.kind == "position")


def test_everything_in_place_follows_nothing() -> None:
    sheet = marked(KEY, KEY)
    assert all(f.follows is None for f in sheet.findings)


def test_an_outline_that_does_not_meet_is_charged_where_it_is_open() -> None:
    points = plate(*STEPS)
    open_ = [*chain(*points, close=False), line(points[-1], (0.0, 0.4))]
    sheet = marked(KEY, drawing(open_))
    assert [f.kind for f in sheet.findings if f.verdict == "missed"] == ["joined"]


def test_a_slot_with_another_length() -> None:
    def slot(length: float) -> list[object]:
        return [
            line((0, 0), (length, 0)),
            arc((length, 10), 10, -90, 90),
            line((length, 20), (0, 20)),
            arc((0, 10), 10, 90, 270),
        ]

    sheet = marked(drawing(slot(40)), drawing(slot(43)))  # type: ignore[arg-type]
    assert [
        (f.kind, f.features) for f in sheet.findings if f.verdict in ("missed", "near") and f.kind == "length"
    ] == [("length", ("e1",))]
    assert finding(sheet, "length", "e2").verdict == "follows"
