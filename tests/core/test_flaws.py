"""What is wrong with a key is told, and nobody is charged for it: a key held against itself is full."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from evenmark.core.drawing.annotations import Hatch, Vertex
from evenmark.core.drawing.model import Drawing
from evenmark.core.marking import RuleError, RuleSet, check, prepare
from tests.builders import PLAIN, arc, chain, circle, drawing, line, text

PLATE = chain((0, 0), (80, 0), (80, 50), (0, 50))
HATCH = Hatch(
    loops=(tuple(Vertex(*p) for p in ((0, 0), (10, 0), (10, 10), (0, 10))),),
    pattern="lines",
    layer="outline",
    style=PLAIN,
    source="h",
)
WITH_GAP = drawing(*chain((0, 0), (80, 0), (80, 50), (0, 50), close=False), line((0.02, 50), (0, 0)))
KEYS: dict[str, tuple[Drawing, list[str]]] = {
    "a plate": (drawing(PLATE), []),
    "an axis that stops at an outline": (
        drawing(PLATE, circle((40, 25), 5), line((40, 0), (40, 60), "centre")),
        [],
    ),
    "an axis that stops at both": (
        drawing(PLATE, circle((40, 25), 5), line((40, 0), (40, 50), "centre")),
        [],
    ),
    "an edge twice": (drawing(PLATE, line((0, 0), (80, 0))), ["drawn-twice"]),
    "a circle twice": (drawing(PLATE, circle((40, 25), 5), circle((40, 25), 5)), ["drawn-twice"]),
    "everything twice": (drawing(PLATE, PLATE), ["drawn-twice"] * 4),
    "arcs that overlap": (
        drawing(PLATE, arc((40, 25), 10, 0, 200), arc((40, 25), 10, 100, 300)),
        ["drawn-twice"],
    ),
    "construction twice": (
        drawing(PLATE, *[line((10, 10), (30, 10), "construction")] * 2),
        ["drawn-twice"],
    ),
    "lettering alone": (drawing(text("HELLO", (0, 0))), []),
    "hatching alone": (replace(drawing(), hatches=(HATCH,)), []),
    "a gap": (WITH_GAP, ["gap", "nearly-level"]),
    "a stub": (drawing(PLATE, line((10, 10), (10.0005, 10))), ["stub"]),
    "debris": (drawing(PLATE, line((10, 10), (10, 10))), ["debris"]),
    "nearly level": (drawing(chain((0, 0), (80, 0.02), (80, 50), (0, 50))), ["nearly-level"]),
    "nearly tangent": (
        drawing(line((0, 0), (40, 0)), arc((40, 10.01), 10, 270, 359.9), line((40, 0), (40, 0.01))),
        None,  # type: ignore[dict-item]
    ),
    "a taper": (drawing(chain((0, 0), (80, 0.4), (80, 50), (0, 50))), []),
}
RULES = [RuleSet(listing="feature"), RuleSet(listing="sheet"), RuleSet(placement="slide-and-turn")]


@pytest.mark.parametrize("rules", RULES, ids=["feature", "sheet", "slide-and-turn"])
@pytest.mark.parametrize("name", KEYS)
def test_a_key_held_against_itself_is_full(name: str, rules: RuleSet) -> None:
    key, flaws = KEYS[name]
    ready = prepare(key, rules)
    sheet = check(ready, key)
    assert sheet.earned == sheet.possible, [f for f in sheet.findings if f.verdict != "met"]
    if flaws is not None:
        assert [f.code for f in ready.flaws] == flaws
    assert all(f.says.endswith(".") for f in ready.flaws)


@pytest.mark.parametrize(
    ("name", "right"),
    [
        ("a gap", drawing(PLATE)),
        ("a stub", drawing(PLATE)),
        ("an edge twice", drawing(PLATE)),
        ("everything twice", drawing(PLATE)),
        ("nearly level", drawing(PLATE)),
        (
            "an axis that stops at both",
            drawing(PLATE, circle((40, 25), 5), line((40, -5), (40, 55), "centre")),
        ),
    ],
)
@pytest.mark.parametrize("rules", RULES[:2], ids=["feature", "sheet"])
def test_nobody_is_charged_who_draws_it_right(name: str, right: Drawing, rules: RuleSet) -> None:
    sheet = check(prepare(KEYS[name][0], rules), right)
    assert sheet.earned == sheet.possible, [f for f in sheet.findings if f.verdict != "met"]


def test_what_lies_elsewhere_is_charged_all_the_same() -> None:
    key = prepare(KEYS["an edge twice"][0])
    twice = drawing(PLATE, line((0, 0), (80, 0)), line((0, 50), (80, 50)))
    sheet = check(key, twice)
    (clean,) = [f for f in sheet.findings if f.kind == "clean"]
    assert [(i.at, i.charged) for i in clean.items if i.charged] == [((40, 50), True)]


def test_a_taper_is_no_flaw() -> None:
    level = drawing(PLATE)
    assert check(prepare(KEYS["a taper"][0]), level).earned < 100


@pytest.mark.parametrize("empty", [drawing(), drawing(line((0, 0), (9, 0), "construction"))])
@pytest.mark.parametrize("rules", RULES[:2])
def test_a_key_that_asks_for_nothing_is_refused(empty: Drawing, rules: Any) -> None:
    with pytest.raises(RuleError, match="only construction"):
        prepare(empty, rules)
