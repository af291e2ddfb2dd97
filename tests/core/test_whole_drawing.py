"""The whole drawing moved, turned or scaled by anything is one slip at one price; mirrored, at another."""

from __future__ import annotations

import random
from dataclasses import replace

import pytest

from evenmark.core.drawing.model import Drawing
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.marking import MarkSheet, RuleSet, check, prepare
from evenmark.core.marking.model import Listing
from evenmark.demo import parts
from tests.extent import seeds

LISTINGS: tuple[Listing, ...] = ("feature", "sheet")
PARTS = (parts.gate_outline, parts.gate_holes, parts.crank_link, parts.cover_gasket, parts.shaft_bracket)


def moved(d: Drawing, by: Similarity) -> Drawing:
    return replace(d, entities=tuple(moved_entity(e, by) for e in d.entities))


def cost(sheet: MarkSheet) -> float:
    return float(sheet.possible - sheet.earned)


@pytest.mark.parametrize("listing", LISTINGS)
@pytest.mark.parametrize("turn", [5.0, 90.0, -37.3, 180.0, 0.5, 171.0])
def test_any_turn_costs_as_much_as_any_other(turn: float, listing: Listing) -> None:
    for part in PARTS:
        drawn = part()
        key = prepare(drawn.sheet, RuleSet(listing=listing))
        sheet = check(key, moved(drawn.drawing, Similarity(turn_deg=turn)))
        assert (cost(sheet), [c.code for c in sheet.causes]) == (20, ["turned"]), part.__name__


@pytest.mark.parametrize("listing", LISTINGS)
@pytest.mark.parametrize("seed", seeds(20))
def test_any_motion_of_the_whole_is_one_slip(seed: int, listing: Listing) -> None:
    rng = random.Random(seed)
    drawn = rng.choice(PARTS)()
    key = prepare(drawn.sheet, RuleSet(listing=listing))
    by = Similarity(
        scale=rng.choice([1.0, 1.1, 0.37, 2.0, 25.4, 10.0]),
        turn_deg=rng.choice([0.0, rng.uniform(-180, 180), 90.0]),
        shift=(rng.uniform(-50, 50), rng.uniform(-50, 50)),
    )
    sheet = check(key, moved(drawn.drawing, by))
    assert 15 <= cost(sheet) <= 25, (by, [c.says for c in sheet.causes])
    assert len(sheet.causes) == 1


@pytest.mark.parametrize("listing", LISTINGS)
@pytest.mark.parametrize("turn", [0.0, 20.0, -90.0])
def test_a_mirrored_drawing_is_told_as_that_however_it_is_turned(turn: float, listing: Listing) -> None:
    for part in (
        parts.gate_outline,
        parts.shaft_bracket,
    ):  # the others are their own mirror images, or nearly
        drawn = part()
        key = prepare(drawn.sheet, RuleSet(listing=listing))
        sheet = check(key, moved(drawn.drawing, Similarity(mirror=True, turn_deg=turn)))
        assert [c.code for c in sheet.causes] == ["mirrored"]
        assert 20 <= cost(sheet) <= 30
