"""Slips of known story on generated parts: each is found, charged once, told as what it was, at what it may
cost, whatever else was done; nothing is lost that is not told."""

from __future__ import annotations

import random
from decimal import Decimal

import pytest

from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.costs import costs_of
from evenmark.core.marking.key import Key
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.model import POLICIES, Listing, MarkSheet
from tests.builders import drawing
from tests.extent import seeds, size
from tests.families import STORIES, WHOLES, Part, a_part, key_of, some_stories, told_as

LISTINGS: tuple[Listing, ...] = ("feature", "sheet")
A_HUNDREDTH = Decimal("0.01")


def a_key(rng: random.Random) -> tuple[Part, Key]:
    part = a_part(rng)
    rules = RuleSet(
        listing=rng.choice(["feature", "sheet"]),
        placement=rng.choice(["as-drawn", "slide"]),
    )
    return part, prepare(key_of(part), rules)


def untold(sheet: MarkSheet) -> Decimal:
    """What was lost beyond what is told."""
    told, others = costs_of(to_json(sheet, "a"))
    return abs(sheet.possible - sheet.earned - Decimal(str(sum((*told.values(), *others.values())))))


@pytest.mark.parametrize("seed", seeds(40))
@pytest.mark.parametrize("name", STORIES)
def test_one_slip_is_one_slip(name: str, seed: int) -> None:
    rng = random.Random(seed)
    part, key = a_key(rng)
    story = STORIES[name]
    sheet = check(key, drawing(story.drawn(part, rng).drawn()))
    assert [c.code for c in sheet.causes if c.code in story.codes] == [c.code for c in sheet.causes], name
    assert len(sheet.causes) == 1
    assert story.low <= sheet.possible - sheet.earned <= story.high
    assert untold(sheet) < A_HUNDREDTH


@pytest.mark.parametrize("seed", seeds(40))
@pytest.mark.parametrize("name", WHOLES)
def test_what_was_done_to_everything_is_one_slip(name: str, seed: int) -> None:
    rng = random.Random(seed)
    part, key = a_key(rng)
    whole = WHOLES[name]
    sheet = check(key, drawing(whole.done(part.drawn(), part)))
    assert len(sheet.causes) == 1
    assert sheet.causes[0].code in whole.codes
    assert whole.low <= sheet.possible - sheet.earned <= whole.high
    assert untold(sheet) < A_HUNDREDTH


@pytest.mark.parametrize(("many", "least"), [(2, 98), (3, 97)])
def test_several_slips_are_told_each(many: int, least: int) -> None:
    """Of a hundred drawings, so many have each of their slips told once and as what it was; in the others,
    what one did to the other is told apart. All that is lost is told in all of them."""
    drawn, once = size(100, 400), 0
    for seed in range(drawn):
        rng = random.Random(f"{many} slips, {seed}")
        part, key = a_key(rng)
        names, made = some_stories(rng, many), part
        for name in names:
            made = STORIES[name].drawn(made, rng)
        sheet = check(key, drawing(made.drawn()))
        assert untold(sheet) < A_HUNDREDTH, names
        assert sheet.earned < sheet.possible - 2 * many, names
        once += told_as([c.code for c in sheet.causes], [STORIES[name].codes for name in names])
    assert once >= least * drawn / 100


@pytest.mark.parametrize("seed", seeds(60))
def test_both_lists_agree_on_what_is_wrong(seed: int) -> None:
    """By the sheet and by feature the same slips are named, and marks are within ten of each other."""
    rng = random.Random(f"both lists, {seed}")
    part = a_part(rng)
    names, made = some_stories(rng, rng.randint(1, 3)), part
    for name in names:
        made = STORIES[name].drawn(made, rng)
    placement = rng.choice(POLICIES[:2])
    both = [
        check(prepare(key_of(part), RuleSet(listing=listing, placement=placement)), drawing(made.drawn()))
        for listing in LISTINGS
    ]
    codes = [
        sorted({c.code for c in sheet.causes} - {"unexplained", "follows-edge", "shifted"}) for sheet in both
    ]
    assert codes[0] == codes[1], names
    assert len(both[0].causes) == len(both[1].causes), names
    assert abs(both[0].earned - both[1].earned) <= 10, names
