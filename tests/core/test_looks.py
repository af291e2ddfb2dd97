"""Looks are compared as they are seen: a colour by its number, or as red, green and blue."""

from __future__ import annotations

from dataclasses import replace

import pytest

from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Drawing, Line
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.model import Listing
from tests.builders import PLATE, codes, drawing, finding, line


def on_layer(style: Style) -> Drawing:
    plain = drawing(PLATE)
    return replace(plain, layers={**plain.layers, "outline": Layer(name="outline", style=style)})


RED = Style(color=1, line_type="dashed", weight=0.5)


@pytest.mark.parametrize(
    ("asked", "drawn", "verdict"),
    [
        (1, "#ff0000", "met"),
        ("#ff0000", 1, "met"),
        (1, "#fe0001", "met"),
        (1, "#f00000", "missed"),
        (7, "#000000", "met"),
        (7, "#ffffff", "met"),
        (30, "#ff7f00", "met"),
        (5, "#0000ff", "met"),
        (5, 1, "missed"),
        (8, "#808080", "met"),
    ],
)
def test_colours_are_compared_as_seen(asked: int | str, drawn: int | str, verdict: str) -> None:
    key = prepare(on_layer(replace(RED, color=asked)), RuleSet())
    sheet = check(key, on_layer(replace(RED, color=drawn)))
    assert finding(sheet, "layer-style").verdict == verdict


def test_another_line_type_is_named_whatever_way_the_colour_is_stated() -> None:
    key = prepare(on_layer(RED), RuleSet())
    sheet = check(key, on_layer(replace(RED, color="#ff0000", line_type="continuous")))
    assert codes(sheet) == ["wrong-line-type"]


# lines as they are seen

DASHED = Style(line_type="dashed", dash=5.0)


def with_lines(style: Style, *, by_layer: bool = False) -> Drawing:
    """A plate with two hidden lines of some style, stated by themselves or by their layer."""
    hidden = [replace_style(line((10, y), (70, y), "hidden"), style) for y in (20, 30)]
    plain = drawing(PLATE, hidden)
    look = style if by_layer else DASHED
    return replace(plain, layers={**plain.layers, "hidden": Layer(name="hidden", style=look)})


def replace_style(e: Line, style: Style) -> Line:
    return e._replace(style=style)


@pytest.mark.parametrize("listing", ["feature", "sheet"])
@pytest.mark.parametrize("by_layer", [True, False])
def test_a_line_type_is_asked_as_it_is_seen_and_charged_once(listing: Listing, by_layer: bool) -> None:
    key = prepare(with_lines(DASHED), RuleSet(listing=listing))
    assert [len(r.features) for r in key.requirements if r.kind == "line-type"] == [2]
    right = check(key, with_lines(DASHED))
    wrong = check(key, with_lines(replace(DASHED, line_type="continuous", dash=0.0), by_layer=by_layer))
    assert right.earned == 100
    assert codes(wrong) == ["wrong-line-type"]
    assert 90 <= wrong.earned <= 95
    if not by_layer:
        assert wrong.causes[0].says == "2 lines that should be dashed are drawn continuous."


def test_dashes_that_are_longer_than_their_line_do_not_show() -> None:
    key = prepare(with_lines(DASHED), RuleSet(listing="feature"))
    assert codes(check(key, with_lines(replace(DASHED, dash=500.0)))) == ["wrong-line-type"]
    assert check(key, with_lines(replace(DASHED, dash=3.0))).earned == 100


def test_a_key_whose_hidden_lines_are_continuous_asks_for_no_dashes() -> None:
    plain = replace(DASHED, line_type="continuous", dash=0.0)
    key = prepare(with_lines(plain), RuleSet(listing="feature"))
    assert [r for r in key.requirements if r.kind == "line-type"] == []
    assert check(key, with_lines(plain)).earned == 100
