"""The proof that a sheet says everything once: worked by hand, held against sympy's exact rank, and by
property."""

from __future__ import annotations

import itertools
import math
import random
from collections.abc import Iterable
from dataclasses import replace

import pytest
import sympy
from bench import slips as bench
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from evenmark.core.dimensioning.figures import ALL_ALIKE, count_of, in_brackets, numbers_in
from evenmark.core.dimensioning.proved import Proof
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.model import Drawing, Entity
from evenmark.core.geometry.points import Point, point_on
from evenmark.core.linework import simplify
from evenmark.core.marking import RuleSet, prepare
from evenmark.demo.plans import PLANS
from tests import families
from tests.builders import arc, chain, circle, line
from tests.dimensioned import (
    across,
    along,
    angle,
    diameter,
    dimensioned,
    key_of,
    ordinate,
    proved,
    radius,
    up,
)
from tests.extent import examples, seeds

PLATE = ((0.0, 0.0), (100.0, 0.0), (100.0, 60.0), (0.0, 60.0))
PLATE_SAID = [across(PLATE[0], PLATE[1]), up(PLATE[0], PLATE[3])]
STEPPED = ((0.0, 0.0), (90.0, 0.0), (90.0, 20.0), (50.0, 20.0), (50.0, 50.0), (0.0, 50.0))
TRIANGLE = ((0.0, 0.0), (100.0, 0.0), (36.0, 48.0))  # sides 100, 80, 60: a right angle at the top


def slot(x: float = 40.0, r: float = 8.0) -> list[Entity]:
    """A slot with round ends."""
    return [
        line((0, r), (x, r)),
        arc((x, 0), r, 270, 90),
        line((x, -r), (0, -r)),
        arc((0, 0), r, 90, 270),
    ]


def link(reach: float = 80.0, left: float = 24.0, right: float = 12.0) -> list[Entity]:
    """Two bosses and their outer tangents."""
    up_ = math.degrees(math.acos((left - right) / reach))
    a, b = point_on((0, 0), left, math.radians(up_)), point_on((reach, 0), right, math.radians(up_))
    return [
        arc((0, 0), left, up_, 360 - up_),
        line(a, b),
        line((a[0], -a[1]), (b[0], -b[1])),
        arc((reach, 0), right, -up_, up_),
    ]


def rounded(w: float = 80.0, h: float = 50.0, r: float = 10.0) -> list[Entity]:
    return [
        line((r, 0), (w - r, 0)),
        arc((w - r, r), r, 270, 0),
        line((w, r), (w, h - r)),
        arc((w - r, h - r), r, 0, 90),
        line((w - r, h), (r, h)),
        arc((r, h - r), r, 90, 180),
        line((0, h - r), (0, r)),
        arc((r, r), r, 180, 270),
    ]


AXIS = line((-10, 0), (110, 0), "centre")
# what is drawn, what is said, how many ways are free, and which dimensions (by their place in the list) are
# said twice; worked by hand
CASES: dict[str, tuple[list[Entity], list[Dimension], int, list[set[int]]]] = {
    "a plate": (chain(*PLATE), PLATE_SAID, 0, []),
    "a plate without its height": (chain(*PLATE), PLATE_SAID[:1], 1, []),
    "a plate said on both sides": (chain(*PLATE), [*PLATE_SAID, across(PLATE[3], PLATE[2])], 0, [{0, 2}]),
    "a plate with nothing said": (chain(*PLATE), [], 2, []),
    "a step, each part and the whole": (
        chain(*STEPPED),
        [
            across((0, 0), (90, 0)),
            across((0, 50), (50, 50)),
            across((50, 20), (90, 20)),
            up((0, 0), (0, 50)),
            up((90, 0), (90, 20)),
        ],
        0,
        [{0, 1, 2}],
    ),
    "a hole from the corner": (
        [*chain(*PLATE), circle((30, 20), 5)],
        [*PLATE_SAID, across((0, 0), (30, 20)), up((0, 0), (30, 20)), diameter((30, 20), 5)],
        0,
        [],
    ),
    "a hole without its height": (
        [*chain(*PLATE), circle((30, 20), 5)],
        [*PLATE_SAID, across((0, 0), (30, 20)), diameter((30, 20), 5)],
        1,
        [],
    ),
    "a hole said as radius and as diameter": (
        [*chain(*PLATE), circle((30, 20), 5)],
        [
            *PLATE_SAID,
            across((0, 0), (30, 20)),
            up((0, 0), (30, 20)),
            diameter((30, 20), 5),
            radius((30, 20), 5),
        ],
        0,
        [{4, 5}],
    ),
    "two holes, one figure for both": (
        [*chain(*PLATE), circle((30, 20), 5), circle((70, 40), 5)],
        [
            *PLATE_SAID,
            across((0, 0), (30, 20)),
            up((0, 0), (30, 20)),
            across((30, 20), (70, 40)),
            up((30, 20), (70, 40)),
            diameter((30, 20), 5, before="2 x"),
        ],
        0,
        [],
    ),
    "a triangle by its sides": (
        chain(*TRIANGLE),
        [
            across(TRIANGLE[0], TRIANGLE[1]),
            along(TRIANGLE[0], TRIANGLE[2], math.degrees(math.atan2(48, 36))),
            along(TRIANGLE[2], TRIANGLE[1], math.degrees(math.atan2(-48, 64))),
        ],
        0,
        # its right angle is taken as read, so that two sides say the third
        [{0, 1, 2}],
    ),
    "a slanted side by angle and length": (
        chain((0, 0), (70, 0), (90, 35), (0, 35)),
        [across((0, 0), (70, 0)), up((0, 0), (0, 35)), angle((70, 0), (90, 35), (0, 0))],
        0,
        [],
    ),
    "a slanted side by two sizes and an angle": (
        chain((0, 0), (70, 0), (90, 35), (0, 35)),
        [
            across((0, 0), (70, 0)),
            across((0, 35), (90, 35)),
            up((0, 0), (0, 35)),
            angle((70, 0), (90, 35), (0, 0)),
        ],
        0,
        [{0, 1, 2, 3}],
    ),
    "a slot": (slot(), [across((0, 0), (40, 0)), radius((0, 0), 8)], 0, []),
    "a slot by its length over all": (slot(), [across((-8, 0), (48, 0)), radius((40, 0), 8)], 0, []),
    "a slot with its width, too": (
        slot(),
        [across((0, 0), (40, 0)), radius((0, 0), 8), up((0, 8), (0, -8))],
        0,
        [{1, 2}],
    ),
    "a link, its centres level by an axis": (
        [*link(), line((-30, 0), (100, 0), "centre")],
        [across((0, 0), (80, 0)), radius((0, 0), 24), radius((80, 0), 12)],
        0,
        [],
    ),
    "a link without its reach": (
        [*link(), line((-30, 0), (100, 0), "centre")],
        [radius((0, 0), 24), radius((80, 0), 12)],
        1,
        [],
    ),
    "rounded corners, one figure for four": (
        rounded(),
        [across((0, 0), (80, 0)), up((0, 0), (0, 50)), radius((10, 10), 10, before="4 x ")],
        0,
        [],
    ),
    "rounded corners, one figure for one": (
        rounded(),
        [across((0, 0), (80, 0)), up((0, 0), (0, 50)), radius((10, 10), 10)],
        3,
        [],
    ),
    "halves about an axis": (
        [
            *chain((0, -30), (100, -30), (100, 30), (0, 30)),
            circle((80, -15), 4),
            circle((80, 15), 4),
            AXIS,
        ],
        [
            across((0, -30), (100, -30)),
            up((0, -30), (0, 30)),
            across((0, 30), (80, 15)),
            up((80, -15), (80, 15)),
            diameter((80, 15), 4, before="2 x"),
        ],
        0,
        [],
    ),
    "halves about an axis, both said": (
        [*chain((0, -30), (100, -30), (100, 30), (0, 30)), circle((80, -15), 4), circle((80, 15), 4), AXIS],
        [
            across((0, -30), (100, -30)),
            up((0, -30), (0, 30)),
            across((0, 30), (80, 15)),
            across((0, -30), (80, -15)),
            up((80, -15), (80, 15)),
            diameter((80, 15), 4, before="2 x"),
        ],
        0,
        [{2, 3}],
    ),
    "holes round a pitch circle, one on the axis": (
        [
            circle((0, 0), 50),
            circle((0, 0), 35, "centre"),
            *(circle(point_on((0, 0), 35, n * math.tau / 5), 4) for n in range(5)),
            line((-60, 0), (60, 0), "centre"),
        ],
        [diameter((0, 0), 50), diameter((0, 0), 35), diameter(point_on((0, 0), 35, 0), 4, before="5 × ")],
        0,
        [],
    ),
    "holes round a pitch circle, none on an axis": (
        [
            circle((0, 0), 50),
            circle((0, 0), 35, "centre"),
            *(circle(point_on((0, 0), 35, 0.3 + n * math.tau / 5), 4) for n in range(5)),
            line((-60, 0), (60, 0), "centre"),
        ],
        [diameter((0, 0), 50), diameter((0, 0), 35), diameter(point_on((0, 0), 35, 0.3), 4, before="5 × ")],
        1,
        [],
    ),
    "by ordinates from the corner": (
        [*chain(*PLATE), circle((30, 20), 5), circle((70, 45), 5)],
        [
            ordinate((100, 0), (0, 0), 0),
            ordinate((0, 60), (0, 0), 90),
            ordinate((30, 20), (0, 0), 0),
            ordinate((30, 20), (0, 0), 90),
            ordinate((70, 45), (0, 0), 0),
            ordinate((70, 45), (0, 0), 90),
            diameter((30, 20), 5, before="2X "),
        ],
        0,
        [],
    ),
    "a figure in brackets is not counted": (
        chain(*STEPPED),
        [
            across((0, 0), (90, 0)),
            across((0, 50), (50, 50)),
            across((50, 20), (90, 20), before="(", after=")"),
            up((0, 0), (0, 50)),
            up((90, 0), (90, 20)),
        ],
        0,
        [],
    ),
    "a slanted plate with nothing level": (
        chain((0, 0), (40, 30), (22, 54), (-18, 24)),
        [
            along((0, 0), (40, 30), math.degrees(math.atan2(30, 40))),
            along((40, 30), (22, 54), math.degrees(math.atan2(24, -18))),
        ],
        0,
        [],
    ),
    "loose edges side by side": (
        [line((0, 0), (50, 0)), line((10, 20), (60, 20))],
        [across((0, 0), (50, 0)), across((0, 0), (10, 20)), across((10, 20), (60, 20)), up((0, 0), (10, 20))],
        0,
        [],
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_worked_by_hand(name: str) -> None:
    entities, said, free, twice = CASES[name]
    proof = proved(entities, said)
    assert proof.untied == ()
    assert len(proof.freedoms) == free, [(m.features, m.moves, m.grows) for m in proof.freedoms]
    key = key_of(entities, said)
    place = {
        d.id: n for n, want in enumerate(said) for d in key.dimensions if d.at == want.at and _same(d, want)
    }
    assert [{place[i] for i in found} for found in proof.twice] == twice
    assert proof.complete == (not free and not twice)


def _same(d: object, want: Dimension) -> bool:
    return (d.kind, d.points, d.turn_deg) == (want.kind, want.points, want.turn_deg)  # type: ignore[attr-defined]


@pytest.mark.parametrize("name", CASES)
def test_what_is_proposed_settles_everything_and_says_nothing_twice(name: str) -> None:
    entities, said, *_ = CASES[name]
    proof = proved(entities, said)
    more = [_as_dimension(s, key_of(entities, said)) for s in proof.proposed]
    again = proved(entities, [*said, *more])
    assert again.freedoms == ()
    assert len(again.twice) == len(proof.twice)


def _as_dimension(size: object, key: object) -> Dimension:
    from evenmark.core.dimensioning.measured import point_of
    from evenmark.core.dimensioning.size import Size
    from evenmark.core.linework import Linework

    assert isinstance(size, Size)
    assert isinstance(key, Linework)
    f = key.by_id[size.features[0]]
    many = f"{size.count} x " if size.count > 1 else ""
    if size.kind == "radius":
        return radius(f.center, f.radius, before=many)  # type: ignore[union-attr]
    if size.kind == "diameter":
        return diameter(f.center, f.radius, before=many)  # type: ignore[union-attr]
    if size.kind == "angle":
        return angle(f.start, (f.start[0] + 1.0, f.start[1]), f.end)  # type: ignore[union-attr]
    if size.kind == "length":
        return along(f.start, f.end, math.degrees(math.atan2(f.end[1] - f.start[1], f.end[0] - f.start[0])))  # type: ignore[union-attr]
    a, b = (point_of(p, size.direction_deg, key) for p in size.places)
    return along(a, b, size.direction_deg)


# what is told


def features_at(proof: Proof, entities: Iterable[Entity], said: Iterable[Dimension]) -> set[Point]:
    key = key_of(entities, said)
    return {key.by_id[i].at for m in proof.freedoms for i in m.features}


def test_what_is_free_is_as_little_as_can_be() -> None:
    entities = [*chain(*PLATE), *chain((70, 20), (80, 20), (80, 40), (70, 40)), circle((30, 20), 5)]
    said = [
        *PLATE_SAID,
        up((100, 0), (80, 20)),
        across((70, 20), (80, 20)),
        up((80, 20), (80, 40)),
        across((0, 0), (30, 20)),
        up((0, 0), (30, 20)),
        diameter((30, 20), 5),
    ]
    proof = proved(entities, said)
    (motion,) = proof.freedoms
    assert features_at(proof, entities, said) == {(70, 20), (80, 20), (80, 40), (70, 40)}
    assert set(motion.moves.values()) <= {(1.0, 0.0), (-1.0, 0.0)}
    assert [(s.kind, s.way, s.expected) for s in motion.settled_by][:1] == [("distance", "across", 70.0)]


def test_what_is_switched_off_is_free() -> None:
    entities = chain(*PLATE)
    proof = proved(entities, PLATE_SAID, switched={"plumb e1": False})
    (motion,) = proof.freedoms
    assert len(motion.features) == 1
    assert [s.kind for s in motion.settled_by][:1]
    assert not proof.complete


ROW = [*chain(*PLATE), circle((30, 20), 5), circle((70, 20), 5)]
ROW_SAID = [
    *PLATE_SAID,
    across((0, 0), (30, 20)),
    up((0, 0), (30, 20)),
    across((30, 20), (70, 20)),
    diameter((30, 20), 5, before="2 x"),
]


def test_holes_in_a_row_are_implied_where_the_sheet_is_complete_with_it() -> None:
    proof = proved(ROW, ROW_SAID)
    assert proof.complete
    assert [t.id for t in proof.taken if t.kind == "level-with" and proof.is_taken(t)] == ["level-with c1 c2"]
    off = proved(ROW, ROW_SAID, switched={"level-with c1 c2": False})
    assert len(off.freedoms) == 1
    assert off.offered == ("level-with c1 c2",)


def test_holes_in_a_row_are_only_offered_where_something_else_is_free() -> None:
    proof = proved(ROW, ROW_SAID[1:])
    assert len(proof.freedoms) == 2
    assert proof.offered == ("level-with c1 c2",)
    assert proved(ROW, ROW_SAID[1:], switched={"level-with c1 c2": True}).freedoms


def test_holes_in_a_row_that_are_said_are_not_implied_as_well() -> None:
    proof = proved(ROW, [*ROW_SAID, up((0, 0), (70, 20))])
    assert proof.complete
    assert not proof.needed


def test_a_figure_that_was_typed_over_contradicts_unless_it_is_rounded() -> None:
    third = [across((0, 0), (100 / 3, 0), typed="33.33"), up((0, 0), (0, 60))]
    assert proved(chain((0, 0), (100 / 3, 0), (100 / 3, 60), (0, 60)), third).complete
    wrong = [across((0, 0), (100, 0), typed="99.9"), up((0, 0), (0, 60))]
    proof = proved(chain(*PLATE), wrong)
    assert len(proof.contradictions) == 1
    assert not proof.complete


def test_a_dimension_that_ends_on_nothing_is_told_and_can_be_tied() -> None:
    said = [across((0, 0), (99.5, 0)), up((0, 0), (0, 60))]
    proof = proved(chain(*PLATE), said)
    (loose,) = proof.untied
    assert loose.why == "nothing"
    right = next(e.id for e in key_of(chain(*PLATE)).edges if e.start[0] == e.end[0] == 100)
    left = next(e.id for e in key_of(chain(*PLATE)).edges if e.start[0] == e.end[0] == 0)
    tied = proved(chain(*PLATE), said, ties={loose.id: (left, right)})
    assert {s.expected for s in tied.sizes} == {100.0, 60.0}
    # it reads 99.5, and what it is tied to is 100 wide: that contradicts, whoever tied it
    assert (tied.contradictions, tied.complete) == ((loose.id,), False)
    typed = [across((0, 0), (99.5, 0), typed="100"), up((0, 0), (0, 60))]
    assert proved(chain(*PLATE), typed, ties={loose.id: (left, right)}).complete


@pytest.mark.parametrize("typed", [None, "80.4", "80,4", "80.40 "])
@pytest.mark.parametrize("by_hand", [True, False])
def test_a_dimension_whose_value_is_not_its_geometrys_contradicts(typed: str | None, by_hand: bool) -> None:
    plate = chain((0, 0), (80, 0), (80, 50), (0, 50))
    width = across((0, 0), (80.4 if typed is None else 80, 0), typed=typed)
    edges = key_of(plate).edges
    left, right = (next(e.id for e in edges if e.start[0] == e.end[0] == x) for x in (0, 80))
    [own] = [d.id for d in proved(plate, [width]).untied] or ["d1"]
    ties = {own: (left, right)} if by_hand or typed is None else {}
    proof = proved(plate, [width, up((0, 0), (0, 50))], ties=ties)
    assert [s.says for s in proof.sizes if s.id in proof.contradictions] == [pytest.approx(80.4)]
    assert not proof.complete


@pytest.mark.parametrize(("decimals", "agrees"), [(0, True), (1, False)])
def test_what_a_dimension_rounds_does_not_contradict(decimals: int, agrees: bool) -> None:
    width = replace(across((0, 0), (80.4, 0)), decimals=decimals)
    plate = chain((0, 0), (80, 0), (80, 50), (0, 50))
    edges = key_of(plate).edges
    left, right = (next(e.id for e in edges if e.start[0] == e.end[0] == x) for x in (0, 80))
    proof = proved(plate, [width, up((0, 0), (0, 50))], ties={"d1": (left, right)})
    assert proof.complete is agrees


def test_a_count_that_is_not_that_of_the_drawing_is_told() -> None:
    entities = [*chain(*PLATE), circle((30, 20), 5), circle((70, 40), 5)]
    proof = proved(entities, [diameter((30, 20), 5, before="3 x")])
    (loose,) = proof.untied
    assert (loose.why, len(loose.candidates)) == ("count", 2)


@pytest.mark.parametrize(
    ("typed", "count", "numbers"),
    [
        ("4-Ø10", 4, [10.0]),
        ("4 HOLES Ø10", 4, [10.0]),
        ("Ø10 4 HOLES", 4, [10.0]),
        ("4 OFF Ø10", 4, [10.0]),
        ("Ø10 THRU 4 PLACES", 4, [10.0]),
        ("4 x Ø4", 4, [4.0]),
        ("4x Ø12,5", 4, [12.5]),
        ("R9 TYP", ALL_ALIKE, [9.0]),
        ("7 x 45°", 1, [7.0, 45.0]),
        ("4 x 10 x 45°", 4, [10.0, 45.0]),
        ("2'-6\"", 1, [30.0, 2.5]),
        ("2' 6\"", 1, [30.0, 2.5]),
        ("2'-6 1/2\"", 1, [30.5, 30.5 / 12]),
        ("7 7/16", 1, [7.4375]),
        ("2 holes", 1, [2.0]),
    ],
)
def test_what_a_typed_figure_says(typed: str, count: int, numbers: list[float]) -> None:
    """How drawings say how many and how much (common practice, no published source)."""
    assert count_of(diameter((0, 0), 5, typed=typed)) == count
    assert numbers_in(typed) == pytest.approx(numbers)


def test_an_auxiliary_dimension_may_have_its_sign_in_the_brackets() -> None:
    assert in_brackets(diameter((0, 0), 5, before="(Ø", after=")"))
    assert in_brackets(radius((0, 0), 5, typed="(R5)"))
    assert not in_brackets(radius((0, 0), 5, before="R", after=" (TYP)"))


def test_a_typical_radius_is_that_of_all_that_are_alike() -> None:
    plate = [*chain((0, 0), (100, 0), (100, 60), (0, 60)), *(circle((x, 30), 9) for x in (20, 50, 80))]
    [size] = proved(plate, [radius((20, 30), 9, typed="R9 TYP")]).sizes
    assert (size.count, len(size.features)) == (3, 3)


def test_a_chamfer_is_no_count() -> None:
    cut = chain((0, 0), (100, 0), (100, 60), (2, 60), (0, 58))
    proof = proved(cut, [across((0, 58), (2, 60), typed="2 x 45°")])
    assert [(s.expected, s.count) for s in proof.sizes] == [(2.0, 1)]


def test_rounded_corners_are_measured_to_where_their_edges_would_meet() -> None:
    proof = proved(rounded(), [across((0, 0), (80, 0))])
    (size,) = proof.sizes
    assert {p.part for p in size.places} == {"carrier"}
    assert size.expected == 80.0


def test_views_share_what_they_show() -> None:
    front = chain((0, 0), (60, 0), (60, 40), (0, 40))
    above = chain((0, 60), (60, 60), (60, 90), (0, 90))
    beside = chain((80, 0), (110, 0), (110, 40), (80, 40))
    entities = [*front, *above, *beside]
    said = [across((0, 0), (60, 0)), up((0, 0), (0, 40)), across((80, 0), (110, 0))]
    assert proved(entities, said).complete
    proof = proved(entities, said[:2])
    assert len(proof.freedoms) == 1  # the depth, in both views that show it
    assert len(proof.freedoms[0].features) == 4
    proof = proved(entities, [*said, up((0, 60), (0, 90))])
    assert [len(t) for t in proof.twice] == [2]


# against sympy


@st.composite
def stepped(draw: st.DrawFn) -> tuple[list[Point], list[tuple[Point, int]]]:
    """A stair of level and plumb edges, and holes in it, no two on one level."""
    n = draw(st.integers(1, 4))
    xs = draw(st.lists(st.integers(1, 9), min_size=n, max_size=n))
    ys = draw(st.lists(st.integers(1, 9), min_size=n, max_size=n))
    right = list(itertools.accumulate(x * 20 for x in xs))
    top = list(itertools.accumulate(y * 20 for y in ys))
    points: list[Point] = [(0.0, 0.0), (float(right[-1]), 0.0)]
    for k in range(n):
        points.append((float(right[-1 - k]), float(top[k])))
        if k < n - 1:
            points.append((float(right[-2 - k]), float(top[k])))
    points.append((0.0, float(top[-1])))
    holes = draw(st.integers(0, 3))
    return points, [((3.0 + 4.1 * k, 2.0 + 5.3 * k), 1 + k % 2) for k in range(holes)]


def complete(points: list[Point], holes: list[tuple[Point, int]]) -> list[Dimension]:
    """Every level of the stair from its corner, every hole from its corner and by its diameter."""
    origin = points[0]
    said: list[Dimension] = []
    for axis, say in ((0, across), (1, up)):
        seen = {origin[axis]}
        for p in points:
            if p[axis] not in seen:
                seen.add(p[axis])
                said.append(say(origin, p))
    for at, r in holes:
        said += [across(origin, at), up(origin, at), diameter(at, float(r))]
    return said


FEW = settings(
    max_examples=examples(40), deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)


@FEW
@given(stepped(), st.data())
def test_one_size_less_frees_just_its_features_and_one_more_is_named(
    shape: tuple[list[Point], list[tuple[Point, int]]], data: st.DataObject
) -> None:
    points, holes = shape
    entities = [*chain(*points), *(circle(at, float(r)) for at, r in holes)]
    said = complete(points, holes)
    assert proved(entities, said).complete
    gone = data.draw(st.integers(0, len(said) - 1))
    d = said[gone]
    left = said[:gone] + said[gone + 1 :]
    proof = proved(entities, left)
    (motion,) = proof.freedoms
    freed = features_at(proof, entities, left)
    if d.kind == "diameter":
        assert (freed, motion.moves) == ({_middle(d)}, {})
    else:
        axis = 0 if d.turn_deg == 0.0 else 1
        level = d.points[1][axis]
        on_level = {p for p in [*points, *(at for at, _ in holes)] if p[axis] == level}
        on_level = {p for p in on_level if p in points} if d.points[1] in points else {d.points[1]}
        assert freed == on_level or freed == set(points) | {at for at, _ in holes} - on_level
    # what follows from two others
    others = [i for i, e in enumerate(said) if e.kind == "linear" and e.turn_deg == 0.0]
    if len(others) > 1:
        i, j = others[0], others[-1]
        more = across(said[i].points[1], said[j].points[1], at=(1.0, 1.0))
        twice = proved(entities, [*said, more]).twice
        assert len(twice) == 1
        key = key_of(entities, [*said, more])
        ids = {d.id for d in key.dimensions for w in (said[i], said[j], more) if _same(d, w) and d.at == w.at}
        assert set(twice[0]) == ids


def _middle(d: Dimension) -> Point:
    (ax, ay), (bx, by) = d.points
    return (round((ax + bx) / 2, 6), round((ay + by) / 2, 6))


@FEW
@given(stepped(), st.sets(st.integers(0, 30)), st.sets(st.integers(0, 30), max_size=3))
def test_rank_is_that_of_exact_arithmetic(
    shape: tuple[list[Point], list[tuple[Point, int]]], left_out: set[int], extra: set[int]
) -> None:
    """Free ways and dependent sizes are as many as sympy finds in whole numbers (sympy 1.14, Matrix.rank)."""
    points, holes = shape
    said = [d for n, d in enumerate(complete(points, holes)) if n not in left_out]
    said += [across(points[n % len(points)], points[(n * 7 + 3) % len(points)], at=(n, n)) for n in extra]
    said = [d for d in said if d.measured > 0.0]
    places = [*points, *(at for at, _ in holes)]
    column = {p: 2 * n for n, p in enumerate(places)}
    width = 2 * len(places) + len(holes)
    rows = []

    def row(**by: int) -> list[int]:
        out = [0] * width
        for name, v in by.items():
            out[int(name[1:])] += v
        return out

    for p, q in itertools.pairwise([*points, points[0]]):
        axis = 1 if p[1] == q[1] else 0
        rows.append(row(**{f"c{column[p] + axis}": 1, f"d{column[q] + axis}": -1}))
    read = len(rows)
    for d in said:
        if d.kind == "diameter":
            n = next(n for n, (at, _) in enumerate(holes) if math.dist(at, _middle(d)) < 1e-6)
            rows.append(row(**{f"c{2 * len(places) + n}": 1}))
        else:
            axis = 0 if d.turn_deg == 0.0 else 1
            rows.append(row(**{f"c{column[d.points[0]] + axis}": 1, f"d{column[d.points[1]] + axis}": -1}))
    rank_read = sympy.Matrix(rows[:read]).rank()
    rank = sympy.Matrix(rows).rank()
    proof = proved([*chain(*points), *(circle(at, float(r)) for at, r in holes)], said)
    assert len(proof.freedoms) == width - rank - 2  # less the two shifts
    assert len(proof.twice) == len(said) - (rank - rank_read)


# sizes that are proposed for a key do make it complete


def _with_proposed(d: Drawing) -> Proof:
    bare = replace(d, dimensions=())
    key = simplify(bare, length_tolerance=0.001)
    sizes = prepare(bare, RuleSet(listing="feature")).proof.proposed
    full = replace(bare, dimensions=tuple(_as_dimension(s, key) for s in sizes))
    return prepare(full, RuleSet(listing="feature")).proof


KEYS: dict[str, Drawing] = {
    **{f"by hand: {name}": dimensioned(entities, ()) for name, (entities, *_) in CASES.items()},
    **{f"the demo: {plan.title}": plan.part.sheet for plan in PLANS},
}


@pytest.mark.parametrize("name", KEYS)
def test_sizes_proposed_for_a_key_make_it_complete(name: str) -> None:
    assert _with_proposed(KEYS[name]).complete


@pytest.mark.parametrize("seed", seeds(200))
def test_sizes_proposed_for_random_parts_make_them_complete(seed: int) -> None:
    rng = random.Random(seed)
    for part in (families.key_of(families.a_part(rng)), bench.as_drawing(bench.a_part(rng))):
        assert _with_proposed(part).complete
