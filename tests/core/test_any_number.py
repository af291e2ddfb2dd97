"""Any number of a part, changed by any amount (rounded, near, far), loses marks, whatever the list and the
placement, and nothing that is wrong follows itself."""

from __future__ import annotations

import itertools
import random
from dataclasses import dataclass
from typing import get_args

import pytest

from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.model import Entity
from evenmark.core.geometry.points import Point
from evenmark.core.marking import MarkSheet, RuleSet, check, prepare
from evenmark.core.marking.model import Listing, Policy
from tests.builders import chain, circle, drawing
from tests.dimensioned import across, diameter, dimensioned, up
from tests.extent import seeds

OFF = (0.002, 0.01, 0.1, 0.2, 0.3, 0.4, 0.5, 1.0, 2.0, 3.0)
LEAST = 0.0015


@dataclass
class Steps:
    """A part in steps, widest below, with holes: where its steps are, how high, and each hole's place and
    radius."""

    across: list[float]
    up: list[float]
    holes: list[list[float]]

    def outline(self) -> list[Point]:
        """Its corners."""
        out = [(0.0, 0.0), (self.across[-1], 0.0)]
        rows = list(zip(itertools.pairwise(self.across), self.up, strict=True))
        for (left, right), top in reversed(rows):
            out += [(right, top), (left, top)]
        return out

    def drawn(self) -> list[Entity]:
        """What is drawn of it."""
        return [*chain(*self.outline()), *(circle((x, y), r) for x, y, r in self.holes)]

    def dimensions(self) -> list[Dimension]:
        """All that its sheet says."""
        said = [across((0, 0), (x, y)) for x, y in zip(self.across[1:], [*self.up[1:], 0], strict=True)]
        said += [up((0, 0), (x, y)) for x, y in zip(self.across, self.up, strict=False)]
        for x, y, r in self.holes:
            said += [across((0, 0), (x, y)), up((0, 0), (x, y)), diameter((x, y), r)]
        return said

    def numbers(self) -> list[float]:
        """Every number of it."""
        return [*self.across, *self.up, *itertools.chain(*self.holes)]


def a_part(rng: random.Random) -> Steps:
    digits = rng.choice((0, 0, 1, 2))

    def number(low: float, high: float) -> float:
        return round(rng.uniform(low, high), digits)

    steps = rng.randint(1, 3)
    reach = list(itertools.accumulate([0.0, *(number(12, 40) for _ in range(steps))]))
    high = list(itertools.accumulate([number(15, 60), *(number(6, 25) for _ in range(steps - 1))]))
    holes = [[number(5, 8), number(5, 8), number(1, 4)]]
    return Steps([round(v, digits) for v in reach], [round(v, digits) for v in reversed(high)], holes)


def changed(part: Steps, rng: random.Random) -> Steps:
    out = Steps(list(part.across), list(part.up), [list(h) for h in part.holes])
    for _ in range(rng.randint(1, 3)):
        off = rng.choice(OFF) * rng.choice((-1, 1))
        where = rng.randrange(3)
        if where == 0:
            out.across[rng.randrange(1, len(out.across))] += off
        elif where == 1:
            out.up[rng.randrange(len(out.up))] += off
        else:
            rng.choice(out.holes)[rng.randrange(3)] += off if abs(off) < 1 else off / 4
        if rng.random() < 0.2:
            out.across = [float(round(x)) for x in out.across]
    return out


@pytest.mark.parametrize("seed", seeds(100))
def test_any_number_that_is_wrong_loses_marks(seed: int) -> None:
    rng = random.Random(seed)
    part = a_part(rng)
    for listing, placement in itertools.product(get_args(Listing), get_args(Policy)[:2]):
        rules = RuleSet(listing=listing, placement=placement)
        key = prepare(dimensioned(part.drawn(), part.dimensions()), rules)
        for _ in range(3):
            other = changed(part, rng)
            if max(abs(a - b) for a, b in zip(part.numbers(), other.numbers(), strict=True)) < LEAST:
                continue
            sheet = check(key, drawing(other.drawn()))
            assert sheet.earned < 100, (part, other)
            assert_someone_is_charged(sheet)


def assert_someone_is_charged(sheet: MarkSheet) -> None:
    by_id = {f.id: f for f in sheet.findings}
    for f in sheet.findings:
        if f.verdict == "follows":
            assert by_id[f.root].verdict not in ("met", "follows"), f


def test_one_size_read_off_a_rounded_display_is_one_wrong_size() -> None:
    for wide in (80.4, 80.2, 79.6):
        part, other = (Steps([0.0, w], [50.0], [[60.0, 25.0, 5.0]]) for w in (wide, 80.0))
        key = prepare(dimensioned(part.drawn(), part.dimensions()), RuleSet(listing="sheet"))
        sheet = check(key, drawing(other.drawn()))
        assert 90 <= sheet.earned <= 95
        assert [c.code for c in sheet.causes] == ["rounded-value"]
