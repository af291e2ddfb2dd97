"""Looks are compared as they are seen: a colour by its number, or as red, green and blue."""

from __future__ import annotations

from dataclasses import replace

import pytest

from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Drawing
from evenmark.core.marking import RuleSet, check, prepare
from tests.builders import PLATE, codes, drawing, finding


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
