"""Broken up is not wrong: dimensions as lines and figures, and arcs as straight pieces, are recognised as
what they were."""

from __future__ import annotations

import math
import random
from decimal import Decimal

import pytest

from evenmark.core.drawing.model import Entity
from evenmark.core.geometry.points import point_on
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.key import Key
from evenmark.core.marking.model import Listing
from tests.builders import chain, circle, drawing, line, text
from tests.core.cause_cases import strokes_of
from tests.extent import seeds

PLATE = [*chain((0, 0), (100, 0), (100, 60), (0, 60)), circle((30, 30), 8), circle((70, 30), 8)]


def a_key(listing: Listing) -> Key:
    return prepare(drawing(list(PLATE)), RuleSet(listing=listing))


def dimension(a: float, b: float, y: float, *, split: bool = False, strokes: bool = True) -> list[Entity]:
    """A level dimension below the plate as an export leaves it: lines and a figure on layer 0."""
    middle = (a + b) / 2
    spans = [(a, middle - 5), (middle + 5, b)] if split else [(a, b)]
    out: list[Entity] = [line((x, y), (u, y), "0") for x, u in spans]
    out += [line((x, -2), (x, y - 2), "0") for x in (a, b)]
    if strokes:
        for x, way in ((a, 1), (b, -1)):
            out += [line((x, y), (x + way * 2.5, y + up), "0") for up in (0.4, -0.4)]
    return [*out, text(f"{b - a:g}", (middle - 2, y + 1), 2.5, "0")]


@pytest.mark.parametrize("listing", ["feature", "sheet"])
@pytest.mark.parametrize("seed", seeds(30))
def test_a_dimension_in_pieces_costs_nothing_where_none_is_asked(seed: int, listing: Listing) -> None:
    rng = random.Random(seed)
    a, b = sorted(rng.sample(range(0, 101, 4), 2))
    extra = dimension(a, max(b, a + 16), -15.0, split=rng.random() < 0.5, strokes=rng.random() < 0.7)
    rng.shuffle(extra)
    assert check(a_key(listing), drawing([*PLATE, *extra])).earned == 100


@pytest.mark.parametrize(
    "extra",
    [
        [line((20, 45), (60, 45)), text("40", (40, 46), 3.0)],  # a line and its length are no dimension
        [line((3, 3), (8, 9)), line((13, 3), (28, 9)), text("12", (10, 10), 3.0)],
        [
            line((0, -15), (40, -15)),
            line((0, -2), (0, -17)),
            line((40, -2), (40, -17)),
            text("41", (18, -14), 2.5),
        ],
    ],
)
def test_what_is_no_dimension_is_charged(extra: list[Entity]) -> None:
    sheet = check(a_key("feature"), drawing([*PLATE, *extra]))
    assert sheet.possible - sheet.earned == len(extra)


@pytest.mark.parametrize("listing", ["feature", "sheet"])
@pytest.mark.parametrize("pieces", [24, 36, 72])
def test_circles_as_chords_are_circles_and_told_as_such(pieces: int, listing: Listing) -> None:
    rings = [
        e
        for x in (30, 70)
        for e in chain(*(point_on((x, 30), 8, k * math.tau / pieces) for k in range(pieces)))
    ]
    sheet = check(a_key(listing), drawing([*PLATE[:4], *rings]))
    assert [c.code for c in sheet.causes] == ["chords"]
    assert sheet.earned == Decimal(98)


def test_a_key_of_chords_takes_circles_and_chords() -> None:
    ring = chain(*(point_on((30, 30), 8, k * math.tau / 48) for k in range(48)))
    key = prepare(drawing([*PLATE[:4], *ring, PLATE[5]]), RuleSet())
    assert check(key, drawing(list(PLATE))).earned == 100
    assert check(key, drawing([*PLATE[:4], *ring, PLATE[5]])).earned == 100
    assert [f.code for f in key.flaws] == ["chords"]


WORDS = [("PLATE", (10.0, 70.0)), ("GROUP A", (45.0, 70.0)), ("1:1", (80.0, 70.0))]


@pytest.mark.parametrize("listing", ["feature", "sheet"])
@pytest.mark.parametrize("kept", [0, 1, 2])
def test_lettering_as_strokes_is_one_slip_under_its_own_name(kept: int, listing: Listing) -> None:
    key = prepare(drawing([*PLATE, *(text(w, at) for w, at in WORDS)]), RuleSet(listing=listing))
    left = [s for w, at in WORDS[kept:] for s in strokes_of(w, at)]
    sheet = check(key, drawing([*PLATE, *(text(w, at) for w, at in WORDS[:kept]), *left]))
    assert [c.code for c in sheet.causes] == ["lettering-as-lines"]
    assert 90 <= sheet.earned <= 94


def test_a_few_lines_where_lettering_is_missing_are_no_lettering() -> None:
    key = prepare(drawing([*PLATE, text(*WORDS[0])]), RuleSet())
    sheet = check(key, drawing([*PLATE, line((10, 70), (20, 73)), line((12, 70), (25, 72))]))
    assert [c.code for c in sheet.causes] == ["not-drawn", "unexplained"]
