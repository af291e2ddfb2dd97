"""What is told adds up to what is lost: the costs of all slips together are the marks that are missing,
whatever was drawn, and nothing points to a line that is not on the mark sheet."""

from __future__ import annotations

import random
from dataclasses import replace
from functools import cache

import pytest

from evenmark.core.drawing.model import Circle, Drawing, Entity, Line
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.costs import costs_of
from evenmark.core.marking.key import Key
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.model import Listing, MarkSheet, Policy
from evenmark.demo.plans import PLANS
from tests.extent import seeds

LISTINGS: tuple[Listing, ...] = ("feature", "sheet")
PLACEMENTS: tuple[Policy, ...] = ("as-drawn", "slide")
DRAWN = 12
"""Drawings of one seed."""


@cache
def key_of(n: int, listing: Listing, placement: Policy) -> Key:
    return prepare(PLANS[n].part.sheet, RuleSet(placement=placement, listing=listing))


def another(e: Entity, rng: random.Random) -> Entity:
    """Something drawn otherwise: moved, on another layer, of another size, turned."""
    how = rng.randrange(4)
    if how == 0:
        return moved_entity(e, Similarity(shift=(rng.choice([0, 1, 5, -3]), rng.choice([0.2, 2, -4]))))
    if how == 1:
        return e._replace(layer=rng.choice(["0", "hidden", "centre", "Other"]))
    if isinstance(e, Circle):
        return e._replace(radius=e.radius * rng.choice([2, 0.5, 1.1]))
    if isinstance(e, Line) and how == 2:
        x, y = e.end
        return e._replace(end=(x + rng.choice([0, 0.5, 4]), y + rng.choice([0, -0.02, 3])))
    return moved_entity(e, Similarity(turn_deg=rng.choice([5, 90])))


def spoilt(d: Drawing, rng: random.Random) -> Drawing:
    """A drawing with one to four things missing, added or drawn otherwise."""
    entities = list(d.entities)
    for _ in range(rng.randint(1, 4)):
        i = rng.randrange(len(entities))
        how = rng.random()
        if how < 0.3 and len(entities) > 1:
            del entities[i]
        elif how < 0.4:
            entities.append(moved_entity(entities[i], Similarity(shift=(rng.choice([0, 7]), 0))))
        else:
            entities[i] = another(entities[i], rng)
    return replace(d, entities=tuple(entities))


def adds_up(sheet: MarkSheet) -> None:
    marks = to_json(sheet, "a.dxf")
    told, untold = costs_of(marks)
    assert not untold, untold
    lost = marks["score"]["possible"] - marks["score"]["earned"]
    if marks["score"]["earned"] > 0:
        assert float(sum(told.values())) == pytest.approx(lost, abs=0.005)
    lines = {f["id"] for f in marks["findings"]}
    for f in marks["findings"]:
        assert {f.get("lost_with"), f["follows"]} - {None} <= lines
    for cause in marks["causes"]:
        assert set(cause["explains"]) <= lines


@pytest.mark.parametrize("seed", seeds(40))
def test_what_is_told_adds_up_to_what_is_lost(seed: int) -> None:
    rng = random.Random(seed)
    for _ in range(DRAWN):
        n = rng.randrange(len(PLANS))
        key = key_of(n, rng.choice(LISTINGS), rng.choice(PLACEMENTS))
        adds_up(check(key, spoilt(PLANS[n].part.drawing, rng)))


@pytest.mark.parametrize("listing", LISTINGS)
@pytest.mark.parametrize("n", range(len(PLANS)), ids=lambda n: PLANS[n].file)
def test_it_does_for_the_demos_students(n: int, listing: Listing) -> None:
    plan = PLANS[n]
    key = prepare(plan.part.sheet, RuleSet(placement=plan.placement, listing=listing))
    for work in plan.work:
        if work.drawn is None:
            adds_up(check(key, work.slip((work.part or plan.part).drawing)))
