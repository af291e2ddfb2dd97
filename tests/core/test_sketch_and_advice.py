"""What is drawn between key and attempt says the same as the numbers; every slip has advice that a student
can follow."""

from __future__ import annotations

import math
import re
from typing import Any

import pytest

from evenmark.core.linework.model import CircleFeature
from evenmark.core.marking import RuleSet, prepare
from evenmark.core.marking.advice import MOST_LINES, describe_value, lesson
from evenmark.core.marking.engine import check_in_full
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.sketch import MOST_MARKS, sketch
from evenmark.core.marking.slips.records import SLIPS
from evenmark.demo import parts
from evenmark.demo import slips as s

LINK = parts.crank_link().drawing
HUB = parts.wheel_hub().drawing


def sketches(
    drawing: Any, attempt: Any, placement: Any = "as-drawn"
) -> list[tuple[Any, list[dict[str, Any]]]]:
    key = prepare(drawing, RuleSet(placement=placement))
    checked = check_in_full(key, attempt)
    sheet = checked.sheet
    return [(f, sketch(f, key.linework, checked.placed, sheet.partners, sheet.unit)) for f in sheet.findings]


def test_nothing_is_drawn_for_what_is_met() -> None:
    assert all(marks == [] for _, marks in sketches(LINK, LINK))


def test_a_length_is_drawn_as_long_as_it_is_asked_and_measured() -> None:
    shown = [(f, m) for f, m in sketches(LINK, s.end_moved(0, 0.6)(LINK)) if f.kind == "length" and m]
    assert shown
    for f, marks in shown:
        sizes = {m["tone"]: math.dist(m["a"], m["b"]) for m in marks}
        assert sizes == {
            "asked": pytest.approx(f.expected, abs=1e-8),
            "drawn": pytest.approx(f.measured, abs=1e-8),
        }


def test_a_radius_reaches_to_its_rim() -> None:
    [(f, marks)] = [(f, m) for f, m in sketches(LINK, s.circle_scaled(1, 2)(LINK)) if m]
    assert [(m["as"], m["tone"], m["b"][0]) for m in marks] == [
        ("reach", "asked", f.expected),
        ("reach", "drawn", f.measured),
    ]
    assert marks[1]["says"] == "Ø24 mm"


def test_a_displaced_hole_has_an_arrow_back_to_where_it_belongs() -> None:
    [(f, [mark])] = [
        (f, m) for f, m in sketches(HUB, s.circle_moved(3, (1.5, -0.5))(HUB)) if f.kind == "position" and m
    ]
    assert (mark["as"], mark["a"], mark["b"]) == ("back", list(f.measured), list(f.expected))


def test_a_pattern_on_another_circle_shows_the_arrows_of_all_its_holes() -> None:
    found = sketches(HUB, parts.wheel_hub(pitch=58.0).drawing)
    arrows = [m for _, marks in found for m in marks if m["as"] == "back"]
    assert len(arrows) >= 6
    assert all(math.dist(m["a"], m["b"]) == pytest.approx(2.0, abs=1e-8) for m in arrows)
    assert all(len(marks) <= MOST_MARKS for _, marks in found)


def test_an_angle_is_drawn_about_a_corner_of_the_drawing() -> None:
    from tests.builders import chain, drawing

    key = drawing(chain((0, 0), (40, 0), (40, 30), (0, 30)), chain((50, 0), (80, 40), close=False))
    bent = drawing(chain((0, 0), (40, 0), (40, 30), (0, 30)), chain((50, 0), (81, 39), close=False))
    turns = [m for f, marks in sketches(key, bent) if f.kind == "angle" for m in marks]
    assert [m["as"] for m in turns] == ["turn", "turn"]
    assert turns[0]["a"] == [50.0, 0.0]
    assert turns[1]["b"][1] == pytest.approx(math.degrees(math.atan2(39, 31)), abs=1e-8)


def test_an_asked_mark_never_stands_on_what_was_drawn() -> None:
    """What is left out for students is everything of the key: marks in the tone ``asked``."""
    key = prepare(HUB, RuleSet(placement="as-drawn"))
    checked = check_in_full(key, s.circle_scaled(2, 2)(HUB))
    for f in checked.sheet.findings:
        for m in sketch(f, key.linework, checked.placed, checked.sheet.partners, "mm"):
            if m["as"] == "reach" and m["tone"] == "drawn":
                radii = {c.radius for c in checked.placed.curves.values() if isinstance(c, CircleFeature)}
                assert any(math.isclose(m["b"][0], r, abs_tol=1e-8) for r in radii)


# advice


def test_no_two_slips_are_called_alike() -> None:
    assert len({slip.title for slip in SLIPS.values()}) == len(SLIPS)


@pytest.mark.parametrize("code", sorted(SLIPS))
def test_advice_is_kind_and_plain(code: str) -> None:
    text = SLIPS[code].advice
    assert text[0].isupper()
    assert re.search(r"[.?]$", text)
    assert not re.search(r"\b(error|invalid|fail\w*|mistake|careless)\b|!", text, re.I)
    assert 20 < len(text) < 220


def test_a_lesson_says_what_was_asked_and_what_was_drawn() -> None:
    marks = to_json(
        check_in_full(prepare(LINK, RuleSet(placement="slide")), s.circle_scaled(1, 2)(LINK)).sheet, "a"
    )
    [cause] = marks["causes"]
    out = lesson(cause, marks["findings"], "mm")
    assert out["lines"] == [
        {"finding": cause["explains"][0], "name": "Right hole, diameter", "asked": "12 mm", "drawn": "24 mm"}
    ]
    assert (out["more"], out["avoid"]) == (0, SLIPS["radius-for-diameter"].advice)


def test_a_lesson_stays_short() -> None:
    many = [
        {
            "id": i,
            "kind": "length",
            "features": [f"e{i}"],
            "expected": 10.0,
            "measured": None,
            "verdict": "absent",
        }
        for i in range(1, 30)
    ]
    out = lesson({"code": "not-drawn", "explains": list(range(1, 30))}, many, "in")
    assert (len(out["lines"]), out["more"]) == (MOST_LINES, 29 - MOST_LINES)
    assert out["lines"][0]["drawn"] == "nothing"


@pytest.mark.parametrize(
    ("value", "kind", "said"),
    [
        (None, "length", None),
        (12.0, "length", "12 mm"),
        (30.0, "angle", "30°"),
        ([1.5, -2.0], "position", "1.5, −2 mm"),
        ("GATE", "wording", "“GATE”"),
        ("outline", "layer", "outline"),
        (4.0, "count", "4"),
        (12.5, "area", "12.5 mm²"),
    ],
)
def test_values_are_told_with_their_unit(value: Any, kind: str, said: str | None) -> None:
    assert describe_value(value, kind, "mm") == said
