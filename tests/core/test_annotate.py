"""Sizes, lettering, notes, hatching, frames; what is kept and placed; outlines; values."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest

from evenmark.core.construct.building import Built, GivenError, build
from evenmark.core.construct.document import from_text
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.model import Drawing, Text
from evenmark.core.drawing.picture import figure
from evenmark.core.linework.annotations import filled_area, polygon_of
from tests.catalogue import number_of
from tests.core.test_draw import drawn


def built(text: str, **given: str) -> Built:
    """A document in which nothing is wrong."""
    out = build(from_text(text), given)
    assert [str(p) for p in out.problems] == []
    return out


def made(text: str, **given: str) -> Drawing:
    return built(text, **given).drawing


def wrong(text: str) -> list[str]:
    return [str(p) for p in build(from_text(text)).problems]


def number(text: str, what: str, **given: str) -> float:
    return float(number_of(built(text, **given), what))


def size(text: str) -> Dimension:
    [d] = made(text).dimensions
    return d


# sizes


def test_a_size_stands_where_it_is_put_with_its_figure_above_its_line() -> None:
    d = size("size 0, 0; 80, 0; across; at 40, -10; layer dimension")
    assert (d.kind, d.points, d.turn_deg, d.line) == ("linear", ((0, 0), (80, 0)), 0.0, (40, -10))
    assert d.at[0] == 40
    assert d.at[1] > -10 + d.height / 2
    assert (d.layer, figure(d)) == ("dimension", "80")


@pytest.mark.parametrize(
    ("says", "shows"),
    [
        ("size 0, 0; 30, 40; along; at 10, 30", "50"),
        ("size 0, 0; 30, 40; up; at 50, 20", "40"),
        ("size 0, 0; 30, 40; across; at 15, 60; times 3", "3 × 30"),
        ("size 0, 0; 30, 40; across; at 15, 60; brackets", "(30)"),
        ("size 0, 0; 30, 40; across; at 15, 60; times 2; brackets", "2 × (30)"),
        ("size 0, 0; 1/3, 0; across; at 0, 9", "0.33"),
    ],
)
def test_what_a_size_says(says: str, shows: str) -> None:
    assert figure(size(says)) == shows


def test_an_inch_sheet_says_parts_of_inches_where_they_are_some() -> None:
    """64ths are common practice on inch sheets, no published source."""
    found = made("unit in\nsize 0, 0; 4 5/8, 0; across; at 2, 1\nsize 0, 0; 1.2345, 0; across; at 1, 2")
    assert [figure(d) for d in found.dimensions] == ["4 5/8", "1.2345"]
    assert found.dimensions[0].height == pytest.approx(3.5 / 25.4)


@pytest.mark.parametrize(("place", "shows"), [("20, 5", "45°"), ("-20, 5", "135°"), ("-20, -5", "45°")])
def test_the_angle_is_the_one_in_which_the_figure_stands(place: str, shows: str) -> None:
    lines = "line -50, 0; 50, 0\nline -50, -50; 50, 50\n"
    assert figure(size(f"{lines}size angle edge 1; edge 2; at {place}")) == shows


def test_rows_of_sizes_are_spaced_and_stand_in_one_line() -> None:
    points = "0, 0; 20, 0; 50, 0; 90, 0"
    base = made(f"sizes from {points}; across; at 0, -10").dimensions
    assert [figure(d) for d in base] == ["20", "50", "90"]
    steps = [a.line[1] - b.line[1] for a, b in pairwise(base) if a.line and b.line]
    assert steps == pytest.approx([base[0].height * 2.3] * 2)
    row = made(f"sizes in a row {points}; across; at 0, 10").dimensions
    assert [figure(d) for d in row] == ["20", "30", "40"]
    assert {d.line[1] for d in row if d.line} == {10}


def test_a_size_follows_the_features_that_it_names() -> None:
    text = "w = 60\nrectangle 0, 0; w by 40\nsize corner 1 of step 1; corner 2 of step 1; across; at 30, -9"
    assert [figure(d) for d in made(text).dimensions] == ["60"]
    assert [figure(d) for d in made(text, w="72.5").dimensions] == ["72.5"]


@pytest.mark.parametrize(
    ("says", "why"),
    [
        ("size 0, 0; 0, 40; across; at 9, 9", "would be 0"),
        ("line 0, 0; 9, 0\nline 0, 5; 9, 5\nsize angle edge 1; edge 2; at 4, 2", "parallel"),
        ("line 0, 0; 9, 0\nline 0, 0; 0, 9\nsize angle edge 1; edge 2; at 4, 0", "on one of the edges"),
        ("guide level 0, 0\nsize guide 1; at 5, 5", "no length"),
        ('text "   "; 0, 0; height 5', "empty"),
        ('note "A"; 0, 0; 0, 0', "Two points"),
        ("hatch 0, 0; 45; gap 3", "encloses"),
        ("frame A9 across", "no paper A9"),
    ],
)
def test_why_an_annotation_is_broken(says: str, why: str) -> None:
    assert why in wrong(says)[-1]


# lettering, hatching, frames


def test_lettering_by_its_anchors_spread_and_in_a_cell() -> None:
    texts = [
        e
        for e in made(
            'text "A"; 5, 6; height 4; anchor right top; turned 90; layer lettering\n'
            'text "B"; between 0, 0; 30, 40\n'
            'text "C"; in 0, 0; 40, 6\n'
        ).entities
        if isinstance(e, Text)
    ]
    assert [(t.at, t.anchor, t.height, t.turn_deg) for t in texts[:1]] == [((5, 6), "right top", 4, 90)]
    assert (texts[1].second, texts[1].fits) == ((30, 40), "width")
    assert texts[1].turn_deg == pytest.approx(math.degrees(math.atan2(4, 3)))
    assert (texts[2].at, texts[2].anchor, texts[2].height) == ((20, 3), "centre middle", 3)


def test_hatching_fills_the_region_round_its_point_without_what_lies_inside() -> None:
    text = (
        "rectangle 0, 0; 60 by 40\ncircle 20, 20; radius 10\nline 0, 20; 60, 20; layer centre\n"
        "hatch 50, 30; 45; gap 4; layer section\nhatch 20, 20; 135; gap 2"
    )
    whole, hole = made(text).hatches
    areas = [filled_area(tuple(polygon_of(loop) for loop in h.loops)) for h in (whole, hole)]
    assert areas == pytest.approx([2400 - math.pi * 100, math.pi * 100], rel=1e-4)
    assert (whole.angle_deg, whole.gap, whole.layer, hole.angle_deg) == (45, 4, "section", 135)


def test_a_frame_is_the_border_of_its_paper() -> None:
    """ISO 5457: 20 mm on the filing edge, 10 mm elsewhere; from memory."""
    assert made("frame A3 upright").box == (20, 10, 287, 410)
    assert made("unit in\nframe B across").box == pytest.approx((0.5, 0.5, 16.5, 10.5))


# keep and place


def test_what_is_kept_is_placed_turned_and_with_values_of_its_own() -> None:
    text = (
        "d = 10\ncircle 0, 0; diameter d\ncentre mark circle 1; past 3\n"
        "keep bore; step 1 and step 2; at 0, 0\nplace bore; 40, 0\nplace bore; 80, 0; turned 45; d = 20"
    )
    assert number(text, "radius of circle 4") == 5
    assert number(text, "radius of circle 5") == 10
    assert number(text, "angle of edge 5.1") == pytest.approx(45)
    assert number(text, "radius of circle 4", d="14") == 7
    assert number(text, "radius of circle 5", d="14") == 10


@pytest.mark.parametrize(
    ("says", "why"),
    [
        ("place gate; 0, 0", "Nothing is kept under 'gate'"),
        ("circle 0, 0; radius 5\nkeep k; circle 1; at 0, 0\nplace k; 9, 9; r = 4", "no value 'r'"),
        (
            "r = 5\ncircle 0, 0; radius r\ncircle 9, 0; radius 9 - r\nkeep k; circle 2; at 9, 0\n"
            "place k; 9, 9; r = 12",
            "With these values step 2 is broken",
        ),
    ],
)
def test_why_nothing_can_be_placed(says: str, why: str) -> None:
    assert why in wrong(says)[-1]


# outlines


def test_an_outline_is_written_as_one_until_it_is_broken_up() -> None:
    chain = "chain 0, 0; 40, 0; 40, 30; close\n"
    assert len({e.source for e in made(chain).entities}) == 1
    assert len({e.source for e in made(chain + "break up step 1").entities}) == 3
    lines = "line 0, 0; 40, 0\nline 40, 30; 40, 0\narc through 40, 30; 20, 40; 0, 30\n"
    assert len({e.source for e in made(lines).entities}) == 3
    joined = made(lines + "join edge 1 and edge 2 and arc 3").entities
    assert len({e.source for e in joined}) == 1
    rounded = made("rectangle 0, 0; 40 by 30\nfillet corners of step 1; radius 5").entities
    assert len({e.source for e in rounded}) == 1


@pytest.mark.parametrize(
    ("says", "why"),
    [
        ("line 0, 0; 9, 0\nline 20, 0; 30, 0\njoin edge 1 and edge 2", "end to end"),
        ("circle 0, 0; radius 4\nline 4, 0; 9, 0\njoin circle 1 and edge 2", "Only edges and arcs"),
        ("line 0, 0; 9, 0\nbreak up step 1", "in parts already"),
    ],
)
def test_why_pieces_cannot_be_joined(says: str, why: str) -> None:
    assert why in wrong(says)[-1]


def test_tidy_takes_the_later_of_two_and_what_lies_on_another() -> None:
    found = drawn(
        "line 0, 0; 40, 0\nline 40, 0; 0, 0\nline 10, 0; 30, 0\nline 30, 0; 50, 0\n"
        "line 0, 0; 40, 0; layer hidden\n"
        "circle 0, 0; radius 5\narc centre 0, 0; from 5, 0; turn 90\ntidy"
    )
    left = [(f.ref.kind, f.ref.step) for f in found.state.standing()]
    assert left == [("edge", 1), ("edge", 4), ("edge", 5), ("circle", 6)]


# values


def test_values_follow_from_each_other_in_any_order() -> None:
    text = "c = a + b\na = 2*b\nb = 7/2\nline 0, 0; right c\n"
    assert number(text, "length of edge 1") == 10.5
    assert number(text, "length of edge 1", b="2") == 6
    assert number(text, "length of edge 1", c="1/4") == 0.25
    assert (
        number("d = length of edge 1\nline 0, 0; 3, 4\ncircle 0, 0; radius 2*d", "radius of circle 2") == 10
    )


def test_values_that_need_each_other_are_said() -> None:
    found = wrong("a = b + 1\nb = a - 1\nline 0, 0; right a\nline 0, 0; right 5")
    assert found[:2] == [
        "line 1: The value a: The value b: These values need each other: a, b, a.",
        "line 2: The value b: The value a: These values need each other: b, a, b.",
    ] or all("need each other" in w for w in found[:2])
    assert found[2].startswith("step 1: ")
    assert len(found) == 3


@pytest.mark.parametrize(
    ("text", "given", "why"),
    [
        ("reach from 60 to 96 by 2, now 82", {"reach": "83"}, "not permitted: it is from 60 to 96 by 2"),
        ("hole one of 10, 12, now 12", {"hole": "11"}, "one of 10, 12"),
        ("R = 5", {"r": "4"}, "There is no value 'r' in the document. Use one of: R."),
        ("R = 5", {"R": "4 +"}, "R=4 +"),
    ],
)
def test_what_cannot_be_given(text: str, given: dict[str, str], why: str) -> None:
    with pytest.raises(GivenError) as told:
        build(from_text(text), given)
    assert why in str(told.value)


def test_permitted_sets_say_what_they_are_now() -> None:
    text = (
        "reach from 60 to 96 by 1.5, now 82.5\nhole one of 10, 12\nline 0, 0; right reach\nline 0, 0; up hole"
    )
    assert [number(text, f"length of edge {n}") for n in (1, 2)] == [82.5, 10]
    assert number(text, "length of edge 1", reach="93") == 93
    assert "not in its set" in wrong("reach from 60 to 96 by 2, now 81")[0]


def test_what_waits_for_a_broken_step_says_so() -> None:
    found = wrong(
        "circle 0, 0; radius -1\npoint p; centre of circle 1\nline point p; right 5\nline 0, 0; right 4"
    )
    assert found[0].startswith("step 1: The radius is -1")
    assert found[1].startswith("step 2: waits for step 1")
    assert found[2].startswith("step 3: waits for step 2")
    assert len(found) == 3


def test_lines_that_are_wrong_say_which() -> None:
    found = wrong(
        "unit ells\nlayer a: colour 300\nlayer b: 0.33\nR = 5 +\nR = 6\n"
        "layer a: dashed\ncircle 0, 0; radius 5"
    )
    assert [w.split(":")[0] for w in found] == ["line 1", "line 2", "line 3", "line 4", "line 5", "line 6"]
    assert "0.35" in found[2] or "0.3" in found[2]
