"""Slips along outlines, round belts and in pieces that hang together: each found, charged once, and told as
what happened. Every kind of slip on several keys.
"""

from __future__ import annotations

import itertools
import math
import random
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest
from bench.rounds import belt, lever, round_to, slot, tangent, walls

from evenmark.core.drawing.model import Drawing, Entity
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.similarities import Similarity, turned
from evenmark.core.marking import MarkSheet, RuleSet, check, prepare
from evenmark.core.marking.model import Listing
from evenmark.demo import parts
from tests.builders import arc, chain, circle, codes, drawing, line
from tests.dimensioned import across, diameter, radius, up

Points = list[Point]
OPEN = ("near", "missed", "absent")


def charged(sheet: MarkSheet) -> list[tuple[str, tuple[str, ...]]]:
    return [(f.kind, f.features) for f in sheet.findings if f.verdict in OPEN]


# typed steps and places along polygons


def a_polygon(rng: random.Random, polar: bool) -> Points:
    """A polygon of whole coordinates, or of whole lengths and degrees, with no flat corner."""
    while True:
        turns = sorted(rng.uniform(0, math.tau) for _ in range(rng.randint(4, 8)))
        far = [rng.uniform(30, 70) for _ in turns]
        points = [
            (round(60 + r * math.cos(t)) - 20.0, round(55 + r * math.sin(t)) - 40.0)
            for t, r in zip(turns, far, strict=True)
        ]
        if polar:
            points = _walked(points[0], [_rounded(v) for v in _steps(points)])
        sharp = all(
            abs(_cross(points[n - 1], p, points[(n + 1) % len(points)])) > 60
            and math.dist(p, points[n - 1]) > 9
            for n, p in enumerate(points)
        )
        if sharp:
            return points


def _cross(a: Point, b: Point, c: Point) -> float:
    return (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])


def _steps(points: Points) -> Points:
    return [(b[0] - a[0], b[1] - a[1]) for a, b in itertools.pairwise(points)]


def _walked(at: Point, steps: Points) -> Points:
    out = [at]
    for dx, dy in steps:
        out.append((out[-1][0] + dx, out[-1][1] + dy))
    return out


def _polar(length: float, deg: float) -> Point:
    return length * math.cos(math.radians(deg)), length * math.sin(math.radians(deg))


def _said(v: Point) -> tuple[float, float]:
    return math.hypot(*v), math.degrees(math.atan2(v[1], v[0]))


def _rounded(v: Point) -> Point:
    length, deg = _said(v)
    return _polar(round(length), round(deg))


def _turned(how: Callable[[float], float]) -> Callable[[Point], Point]:
    return lambda v: _polar(_said(v)[0], how(_said(v)[1]))


STEPS: dict[str, tuple[bool, Callable[[Point], Point]]] = {
    "axes-swapped": (False, lambda v: (v[1], v[0])),
    "sign-flipped": (False, lambda v: (v[0], -v[1])),
    "clockwise-angle": (True, _turned(lambda a: -a)),
    "angle-from-vertical": (True, _turned(lambda a: 90 - a)),
    "supplementary-angle": (True, _turned(lambda a: 180 - a)),
}
PLACES: dict[str, Callable[[Points, int], Point]] = {
    "axes-swapped": lambda p, k: (p[k][1], p[k][0]),
    "sign-flipped": lambda p, k: (-p[k][0], p[k][1]),
    "coordinate-as-step": lambda p, k: (p[k - 1][0] + p[k][0], p[k - 1][1] + p[k][1]),
    "step-as-coordinate": lambda p, k: (p[k][0] - p[k - 1][0], p[k][1] - p[k - 1][1]),
}


@pytest.mark.parametrize("carried", [True, False], ids=["all after it carried along", "one corner"])
@pytest.mark.parametrize("code", STEPS)
def test_another_step_along_an_outline_is_told_and_charged_once(code: str, carried: bool) -> None:
    polar, slip = STEPS[code]
    rng = random.Random(f"{code} {carried}")
    told = 0
    for _ in range(12):
        while True:
            points = a_polygon(rng, polar)
            k = rng.randrange(1, len(points) - 1)
            steps = _steps(points)
            if math.dist(slip(steps[k]), steps[k]) > 3:
                break
        made = _walked(points[0], [*steps[:k], slip(steps[k]), *steps[k + 1 :]])
        if not carried:
            made = [*points[: k + 1], made[k + 1], *points[k + 2 :]]
        sheet = check(prepare(drawing(chain(*points))), drawing(chain(*made)))
        assert not any(f.verdict == "absent" for f in sheet.findings)
        assert len(sheet.causes) == 1
        told += codes(sheet) == [code]
    assert told >= 11  # one in a while is also something else, and is then told as that


@pytest.mark.parametrize("reverse", [False, True])
@pytest.mark.parametrize("code", PLACES)
def test_a_place_typed_otherwise_is_told_whatever_was_charged_first(code: str, reverse: bool) -> None:
    rng = random.Random(f"place {code}")
    told = 0
    for _ in range(12):
        points = a_polygon(rng, polar=False)
        k = rng.randrange(1, len(points) - 1)
        made = [*points[:k], PLACES[code](points, k), *points[k + 1 :]]
        sheet = check(prepare(drawing(chain(*points))), drawing(chain(*(made[::-1] if reverse else made))))
        assert not any(f.verdict == "absent" for f in sheet.findings)
        if codes(sheet) == [code]:
            told += 1
            kinds = {kind for kind, _ in charged(sheet)}
            if code == "coordinate-as-step":  # which is as true of the edge that leads there
                assert len(kinds) == 1
            else:
                assert kinds == {"position"}  # what was done, not what it carried along
    assert told >= 10


def test_by_the_sheet_a_story_is_charged_to_a_size() -> None:
    points = [(10.0, 5.0), (62.0, 9.0), (48.0, 51.0), (17.0, 44.0)]
    sizes = [way(points[0], p) for p in points[1:] for way in (across, up)]
    key = prepare(replace(drawing(chain(*points)), dimensions=tuple(sizes)))
    assert key.rules.listing == "sheet"
    made = [*points[:2], (51.0, 48.0), points[3]]
    sheet = check(key, drawing(chain(*made)))
    assert codes(sheet) == ["axes-swapped"]
    ((kind, _),) = charged(sheet)
    assert kind == "distance"


# round outlines


SIZES: dict[Any, tuple[Any, ...]] = {
    belt: (
        across((0, 0), (70, 0)),
        radius((0, 0), 20),
        radius((70, 0), 12),
        diameter((0, 0), 6),
        diameter((70, 0), 4),
    ),
    slot: (
        across((-20, -20), (90, -20)),
        up((-20, -20), (-20, 50)),
        across((-20, -20), (10, 15)),
        up((-20, -20), (10, 15)),
        across((10, 15), (60, 15)),
        radius((10, 15), 10),
    ),
    walls: (
        across((0, 0), (100, 0)),
        up((0, 0), (0, 60)),
        across((0, 0), (40, 0)),
        across((40, 0), (60, 0)),
        up((40, 0), (40, 20)),
        across((0, 0), (20, 30)),
        up((0, 0), (20, 30)),
        diameter((20, 30), 6),
    ),
}
ROUND: list[tuple[Any, dict[str, float]]] = [
    (belt, {"r1": 23.7}),
    (belt, {"r2": 9.3}),
    (belt, {"d": 73.3}),
    (belt, {"y": 2.7}),
    (lever, {"waist": 33.3}),
    (lever, {"r1": 19.7}),
    (lever, {"r2": 11.3}),
    (lever, {"d": 83.7}),
    (slot, {"w": 23.3}),
    (slot, {"long": 53.3}),
    (slot, {"x": 11.7}),
    (walls, {"x": 42.3}),
    (walls, {"apart": 23.7}),
    (walls, {"shelf": 22.3}),
]


@pytest.mark.parametrize("placement", ["as-drawn", "slide"])
@pytest.mark.parametrize(("part", "slip"), ROUND, ids=[f"{p.__name__} {s}" for p, s in ROUND])
def test_one_slip_round_an_outline_is_charged_once(part: Any, slip: Any, placement: Any) -> None:
    key = prepare(drawing(part()), RuleSet(listing="feature", placement=placement))
    sheet = check(key, drawing(part(**slip)))
    assert len(charged(sheet)) == 1
    assert sheet.earned >= 84
    assert not {"by-eye", "gap", "overshoot"} & set(codes(sheet))


@pytest.mark.parametrize(
    ("part", "slip"), [x for x in ROUND if x[0] in SIZES], ids=lambda x: getattr(x, "__name__", str(x))
)
def test_by_the_sheet_it_is_charged_to_the_size(part: Any, slip: Any) -> None:
    key = prepare(replace(drawing(part()), dimensions=SIZES[part]))
    assert key.rules.listing == "sheet"
    sheet = check(key, drawing(part(**slip)))
    ((kind, _),) = charged(sheet)
    assert kind in ("distance", "radius", "angle")  # the angle is how the whole belt is turned
    assert 84 <= sheet.earned < 96


# pieces that hang together

PLATE = chain((0, 0), (120, 0), (120, 80), (0, 80))
BOX: Points = [(20, 20), (50, 20), (50, 35), (20, 35)]
WEDGE: Points = [(70, 20), (100, 24), (84, 47)]
STEP: Points = [(60, 50), (95, 50), (95, 60), (80, 60), (80, 70), (60, 70)]


def _about(points: Points, at: Point, deg: float) -> Points:
    c, s = math.cos(math.radians(deg)), math.sin(math.radians(deg))
    return [
        (at[0] + (x - at[0]) * c - (y - at[1]) * s, at[1] + (x - at[0]) * s + (y - at[1]) * c)
        for x, y in points
    ]


@pytest.mark.parametrize("deg", [7.3, -4.1])
@pytest.mark.parametrize("piece", [BOX, WEDGE, STEP])
def test_a_piece_turned_as_one_is_one_slip(piece: Points, deg: float) -> None:
    key = prepare(drawing(PLATE, chain(*piece)))
    sheet = check(key, drawing(PLATE, chain(*_about(piece, piece[0], deg))))
    assert codes(sheet) == ["turned"]
    assert len(charged(sheet)) == 1
    assert f"{abs(deg):g}°" in sheet.causes[0].says


@pytest.mark.parametrize("deg", [1.0, -2.3])
def test_a_view_out_of_plumb_is_one_slip(deg: float) -> None:
    bracket = parts.shaft_bracket().drawing
    turn = turned((110.0, 0.0), deg)

    def right(e: Entity) -> bool:
        return min(getattr(e, "start", None) or e.center) > -1e9 and _left(e) > 100  # type: ignore[union-attr]

    made = tuple(moved_entity(e, turn) if right(e) else e for e in bracket.entities)
    sheet = check(prepare(bracket), replace(bracket, entities=made))
    assert codes(sheet) == ["turned"]
    assert "view" in sheet.causes[0].says
    assert sheet.earned >= 94


def _left(e: Entity) -> float:
    return min(e.start[0], e.end[0]) if hasattr(e, "start") else e.center[0]  # type: ignore[union-attr]


@pytest.mark.parametrize("shift", [(3.0, 0.0), (0.0, 3.0)])
def test_a_view_out_of_line_is_told_with_its_number(shift: Point) -> None:
    bracket = parts.shaft_bracket().drawing
    made = tuple(moved_entity(e, Similarity(shift=shift)) if _left(e) > 100 else e for e in bracket.entities)
    sheet = check(prepare(bracket), replace(bracket, entities=made))
    assert codes(sheet) == ["shifted"]
    assert "3 mm" in sheet.causes[0].says


def _bulged(h: float, *, up_: bool) -> Drawing:
    r = (30 * 30 + h * h) / (2 * h)
    c, a = (30, 30 + h - r), math.degrees(math.atan2(r - h, 30))
    bow = arc(c, r, a, 180 - a) if up_ else arc((30, 60 - c[1]), r, 180 + a, 360 - a)
    return drawing(line((0, 30), (0, 0)), line((0, 0), (60, 0)), line((60, 0), (60, 30)), bow)


@pytest.mark.parametrize("h", [30.0, 12.0, 5.5])
def test_an_arc_on_the_other_side_of_its_ends_is_one_slip(h: float) -> None:
    sheet = check(prepare(_bulged(h, up_=True)), _bulged(h, up_=False))
    assert codes(sheet) == ["wrong-side"]
    assert charged(sheet) == [("sweep", ("a1",))]
    assert sheet.earned < 95


ENDS: list[tuple[list[Entity], list[Entity]]] = [
    (
        [*PLATE, line((20, 0), (20, 7)), line((50, 20), (62, 49))],
        [*PLATE, line((20, 0), (62, 49)), line((50, 20), (62, 49))],
    ),
    (
        [*PLATE, line((0, 30), (40, 30)), line((40, 0), (40, 80)), line((70, 0), (70, 80))],
        [*PLATE, line((0, 30), (70, 30)), line((40, 0), (40, 80)), line((70, 0), (70, 80))],
    ),
    (
        [*PLATE, line((30, 0), (30, 12)), circle((80, 50), 6)],
        [*PLATE, line((30, 0), (80, 50)), circle((80, 50), 6)],
    ),
]


@pytest.mark.parametrize(("key", "attempt"), ENDS)
def test_an_end_drawn_to_something_else_is_told_as_that(key: list[Entity], attempt: list[Entity]) -> None:
    sheet = check(prepare(drawing(key)), drawing(attempt))
    assert codes(sheet) == ["caught-wrong-point"]
    assert not any(f.verdict == "absent" for f in sheet.findings)


@pytest.mark.parametrize("placement", ["as-drawn", "slide"])
@pytest.mark.parametrize("n", [0, 1, 2])
def test_what_was_left_behind_is_told_wherever_the_rest_may_stand(placement: Any, n: int) -> None:
    holes = [circle((20, 20), 5), circle((100, 60), 6), circle((60, 30), 7)]
    made = [moved_entity(e, Similarity(shift=(12.4, -3.0))) for e in (*PLATE, *holes)]
    made[4 + n] = holes[n]
    sheet = check(prepare(drawing(PLATE, holes), RuleSet(placement=placement)), drawing(made))
    assert "left-behind" in codes(sheet)


@pytest.mark.parametrize("n", range(4))
def test_a_fillet_among_fillets_is_told_with_its_radius(n: int) -> None:
    def rounded(r: list[float]) -> Drawing:
        w, h, (a, b, c, d) = 80, 50, r
        edges = [
            line((d, 0), (w - a, 0)),
            line((w, a), (w, h - b)),
            line((w - b, h), (c, h)),
            line((0, h - c), (0, d)),
        ]
        bends = [
            arc((w - a, a), a, 270, 0),
            arc((w - b, h - b), b, 0, 90),
            arc((c, h - c), c, 90, 180),
            arc((d, d), d, 180, 270),
        ]
        return drawing(edges, bends)

    asked = [8.0, 6.0, 10.0, 4.0]
    sheet = check(prepare(rounded(asked)), rounded([r + 2.7 if k == n else r for k, r in enumerate(asked)]))
    assert codes(sheet) == ["wrong-fillet"]
    assert len(charged(sheet)) == 1


@pytest.mark.parametrize(
    ("part", "other"),
    [
        (parts.crank_link(), parts.crank_link(reach=85.0)),
        (parts.wheel_hub(), parts.wheel_hub(bore=27.0)),
        (parts.gate_outline(), parts.gate_outline(left=73.0)),
    ],
    ids=["link", "hub", "outline"],
)
def test_a_dimension_that_measures_what_was_drawn_follows_it(part: parts.Part, other: parts.Part) -> None:
    key_drawing = read_file(write_dxf(part.sheet))
    first = prepare(key_drawing)
    asked = tuple(replace(r, on=True) if r.kind == "dimension" else r for r in first.requirements)
    key = prepare(key_drawing, replace(first.rules, requirements=asked))
    alone = check(key, read_file(write_dxf(part.sheet)))
    assert alone.earned == 100
    sheet = check(key, read_file(write_dxf(other.sheet)))
    said = [f for f in sheet.findings if f.kind == "dimension" and f.verdict != "met"]
    assert said
    assert {f.verdict for f in said} == {"follows"}


@pytest.mark.parametrize("axis", [60.0, 85.0])
@pytest.mark.parametrize("piece", [WEDGE, STEP, [(20, 20), (50, 20), (44, 35), (20, 35)]])
def test_a_piece_mirrored_as_one_is_one_slip(piece: Points, axis: float) -> None:
    made = [(2 * axis - x, y) for x, y in piece]
    sheet = check(prepare(drawing(PLATE, chain(*piece))), drawing(PLATE, chain(*made)))
    assert codes(sheet) == ["mirrored"]
    assert len(charged(sheet)) == 1
    assert sheet.earned >= 92


@pytest.mark.parametrize(("r1", "r2"), [(20.0, 12.0), (15.0, 9.0), (24.0, 10.0)])
def test_a_belt_that_crosses_is_one_slip_with_the_arcs_that_it_lies_on(r1: float, r2: float) -> None:
    c1, c2 = (0.0, 0.0), (70.0, 0.0)
    u1, u2 = tangent(c1, r1, c2, r2, 1)
    a, b = tangent(c1, r1, c2, -r2, -1)
    made = [line(u2, u1), round_to(c1, r1, u1, a), line(a, b), round_to(c2, r2, b, u2)]
    attempt = drawing(made, circle(c1, 6), circle(c2, 4))
    for listing in ("feature", "sheet"):
        sizes = (across(c1, c2), radius(c1, r1), radius(c2, r2), diameter(c1, 6), diameter(c2, 4))
        key = prepare(replace(drawing(belt(r1, r2)), dimensions=sizes), RuleSet(listing=listing))  # type: ignore[arg-type]
        sheet = check(key, attempt)
        assert codes(sheet) == ["wrong-tangent-side"]
        assert len(charged(sheet)) == 1
        assert sheet.earned >= 82


@pytest.mark.parametrize("listing", ["feature", "sheet"])
def test_two_sizes_that_were_exchanged_are_one_slip(listing: Listing) -> None:
    plate = chain((0, 0), (160, 0), (160, 100), (0, 100))
    key = prepare(drawing(plate, circle((30, 30), 5), circle((90, 30), 9)), RuleSet(listing=listing))
    sheet = check(key, drawing(plate, circle((30, 30), 9), circle((90, 30), 5)))
    assert [c.code for c in sheet.causes] == ["size-of-another"]
    assert "were swapped" in sheet.causes[0].says
    assert 5 <= sheet.possible - sheet.earned <= 8


@pytest.mark.parametrize("listing", ["feature", "sheet"])
def test_end_radii_that_were_exchanged_or_half_a_turn_are_told_as_either(listing: Listing) -> None:
    def link(left: float, right: float) -> list[Entity]:
        lean = math.asin((left - right) / 40)
        s, c, deg = math.sin(lean), math.cos(lean), math.degrees(lean)
        sides = [
            line((50 + left * s, 50 + up * left * c), (90 + right * s, 50 + up * right * c)) for up in (1, -1)
        ]
        ends = [arc((50, 50), left, 90 - deg, 270 + deg), arc((90, 50), right, -90 + deg, 90 - deg)]
        return [*chain((0, 0), (160, 0), (160, 100), (0, 100)), *sides, *ends]

    sheet = check(prepare(drawing(link(12, 7)), RuleSet(listing=listing)), drawing(link(7, 12)))
    assert len(sheet.causes) == 1
    assert "or its two radii were swapped" in sheet.causes[0].says


@pytest.mark.parametrize("listing", ["feature", "sheet"])
def test_a_loose_parallel_on_the_other_side_is_told_as_that(listing: Listing) -> None:
    lines = [line((0, 0), (60, 0)), line((80, 0), (80, 40))]
    key = prepare(drawing(lines, line((0, 10), (60, 10))), RuleSet(listing=listing))
    sheet = check(key, drawing(lines, line((0, -10), (60, -10))))
    assert [c.code for c in sheet.causes] == ["wrong-side"]
