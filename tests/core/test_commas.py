"""Sentences of somebody who writes numbers with a decimal comma."""

from __future__ import annotations

import random
import re

import pytest

from evenmark.core.board.session import BoardSession
from evenmark.core.construct.commas import with_points, without_commas
from tests.core.test_sentences import SENTENCES


def by_id(n: int) -> int:
    return n


@pytest.mark.parametrize(
    ("written", "says"),
    [
        ("circle 3,5; 4; radius 2", "circle 3.5, 4; radius 2"),
        ("circle 3,5 4,5; radius 2,5", "circle 3.5, 4.5; radius 2.5"),
        ("circle 3, 4; radius 2", "circle 3, 4; radius 2"),
        ("line 0; 0; 10,25; 5", "line 0, 0; 10.25, 5"),
        ("line 0 0; 10 5", "line 0, 0; 10, 5"),
        ("line -3 -4; 5 -5", "line -3, -4; 5, -5"),
        ("chain 0; 0; right 10,5; by 3; 4; close", "chain 0, 0; right 10.5; by 3, 4; close"),
        ("move edge 1; by 10; 20", "move edge 1; by 10, 20"),
        ("rectangle 0; 0; 100,5 by 50,5", "rectangle 0, 0; 100.5 by 50.5"),
        ("rectangle 0 0; 100 50", "rectangle 0, 0; 100, 50"),
        ("arc through 1 2; 3 4; 5 6", "arc through 1, 2; 3, 4; 5, 6"),
        ('text "3,5; 4"; 3,5; 4; height 5', 'text "3,5; 4"; 3.5, 4; height 5'),
        ("line 3 1/2, 4; 5, 6", "line 3 1/2, 4; 5, 6"),
        ("circle 3,5; ", "circle 3.5, "),
        ("line 0;0;10;5", "line 0, 0;10, 5"),
        ("circle 3,", "circle 3,"),
        ("circle 3,5 toward", "circle 3.5 toward"),
        ("nonsense 3,5", "nonsense 3.5"),
        ("", ""),
    ],
)
def test_what_a_decimal_comma_says(written: str, says: str) -> None:
    assert without_commas(written, by_id, 25.4) == says
    assert without_commas(says, by_id, 25.4) == says


def test_a_fraction_of_an_inch_may_still_come() -> None:
    assert without_commas("circle 3 1", by_id, 1, ends=False) == "circle 3 1"
    assert without_commas("circle 3 1/", by_id, 1, ends=False) == "circle 3 1/"
    assert without_commas("circle 3 1", by_id, 1) == "circle 3, 1"
    assert without_commas("circle 3 1", by_id, 25.4, ends=False) == "circle 3, 1"


@pytest.mark.parametrize("sentence", [re.sub(r",(?=\S)", ", ", s) for s in SENTENCES.strip().splitlines()])
def test_every_sentence_as_the_page_writes_it_stays(sentence: str) -> None:
    assert without_commas(sentence, by_id, 25.4) == sentence


def test_any_pairs_written_with_commas_are_those_numbers() -> None:
    hand = random.Random(7)
    for _ in range(200):
        numbers = [round(hand.uniform(-99, 99), hand.randrange(3)) for _ in range(4)]
        a, b, c, d = (f"{n:g}".replace(".", ",") for n in numbers)
        sign = hand.choice(("; ", " ", ";"))
        written = f"line {a}{sign}{b}; {c}{sign}{d}"
        said = without_commas(written, by_id, 25.4)
        found = [float(n) for n in said.removeprefix("line ").replace(";", ",").split(",")]
        assert found == [float(f"{n:g}") for n in numbers], written


def test_a_sentence_is_read_as_it_is_typed() -> None:
    board, typed = BoardSession(), ""
    for letter in "circle 3,5; 4,25; diameter 2,5":
        now = board.ask("state", {"says": typed + letter, "commas": True})
        typed = str(now["text"])
    assert typed == "circle 3.5, 4.25; diameter 2.5"
    assert now["whole"] is True
    done = board.ask("write", {"says": "line 1,5 2; 3 4,5", "commas": True})
    assert "refused" not in done
    assert board.board.document.steps[0].says == "line 1.5, 2; 3, 4.5"
    board.ask("change", {"step": done["id"], "says": "line 1,5; 2; 3; 4", "commas": True})
    assert board.board.document.steps[0].says == "line 1.5, 2; 3, 4"
    plain = board.ask("state", {"says": "circle 3,5; diameter 2"})
    assert plain["text"] == "circle 3,5; diameter 2"  # for anybody else it is a place


def test_a_number_that_stands_alone_may_have_a_comma_for_anybody() -> None:
    board = BoardSession()
    board.ask("write", {"says": "circle 0, 0; diameter 8"})
    assert "refused" not in board.ask("correct", {"name": "circle 1.1", "number": "diameter", "says": "12,5"})
    assert board.board.document.steps[0].says == "circle 0, 0; diameter 12.5"
    board.ask("line", {"come": {"kind": "value", "name": "wide", "says": "7,25"}})
    assert board.board.built.values.get("wide") == 7.25
    assert with_points("1,5") == "1.5"
