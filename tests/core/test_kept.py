"""What a key keeps from attempt to attempt changes no mark sheet: each is, to the byte, what a key that has
seen no other attempt gives."""

from __future__ import annotations

import random
from dataclasses import replace

import pytest

from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.kept import OWN, KeptFindings
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.marks_json import to_text
from evenmark.core.marking.model import POLICIES
from evenmark.demo import slips as s
from tests.builders import PARTS, PLATE, circle, drawing, line
from tests.core.test_random_drawings import some_drawing
from tests.extent import seeds


def some_attempts(key: Drawing, rng: random.Random) -> list[Drawing]:
    """The key itself in other orders, with one or two things changed, moved, mirrored and left out."""

    def changed(e: Entity) -> Entity:
        by = rng.choice([0.004, 0.03, 1.0, -2.5])
        if isinstance(e, Circle | Arc):
            how = rng.randrange(3)
            if how == 0:
                return e._replace(radius=e.radius + abs(by))
            return e._replace(center=(e.center[0] + by, e.center[1])) if how == 1 else e._replace(layer="0")
        if isinstance(e, Line):
            return (
                e._replace(end=(e.end[0] + by, e.end[1] - by))
                if rng.random() < 0.7
                else e._replace(layer="0")
            )
        return e

    def shuffled(entities: tuple[Entity, ...]) -> tuple[Entity, ...]:
        out = [e._replace(start=e.end, end=e.start) if isinstance(e, Line) else e for e in entities]
        rng.shuffle(out)
        return tuple(out)

    out = [key, replace(key, entities=shuffled(key.entities)), s.moved((3.0, 4.0))(key), s.mirrored()(key)]
    for _ in range(5):
        entities = list(key.entities)
        for _ in range(rng.randint(1, 2)):
            n = rng.randrange(len(entities))
            entities[n] = changed(entities[n])
        if rng.random() < 0.3 and len(entities) > 1:
            entities.pop(rng.randrange(len(entities)))
        out.append(replace(key, entities=tuple(entities)))
    rng.shuffle(out)
    return [*out, key, *out[:3]]


def assert_nothing_changes(key: Drawing, rules: RuleSet, rng: random.Random) -> None:
    used = prepare(key, rules)
    for attempt in some_attempts(key, rng):
        told = to_text(check(used, attempt), "a")
        assert told == to_text(check(prepare(key, rules), attempt), "a")
        assert told == to_text(check(used, attempt), "a")


@pytest.mark.parametrize("seed", seeds(24))
def test_random_keys_say_the_same_of_every_attempt(seed: int) -> None:
    rng = random.Random(seed)
    assert_nothing_changes(some_drawing(rng), RuleSet(placement=rng.choice(POLICIES)), rng)


@pytest.mark.parametrize("part", PARTS, ids=lambda p: p.__name__)
def test_the_demo_s_keys_say_the_same_of_every_attempt(part: object) -> None:
    made = part()  # type: ignore[operator]
    for listing in ("feature", "sheet"):
        assert_nothing_changes(made.drawing, RuleSet(listing=listing), random.Random(part.__name__))  # type: ignore[arg-type, attr-defined]


def test_the_second_attempt_is_measured_where_it_differs_alone() -> None:
    """The key's findings are taken from the first attempt, but those that look at what is not alike."""
    key = prepare(drawing(PLATE, circle((30, 25), 6), circle((90, 25), 4)))
    right = drawing(PLATE, circle((30, 25), 6), circle((90, 25), 4))
    check(key, right)
    check(key, right)
    kept: KeptFindings = key.kept
    assert {key.asked.by_id[i].r.kind for i in kept.by_id} == {a.r.kind for a in key.asked.all} & OWN
    alike = {i for i in key.linework.curves if i != "c2"}
    _, left = kept.again(alike)
    looked = {key.asked.all[n].r for bulk in left for n in bulk.rows}
    assert {r.kind for r in looked if "c2" not in r.features} == {a.r.kind for a in key.asked.all} - OWN
    assert {r.id for r in looked if "c2" in r.features} == {
        a.r.id for a in key.asked.all if "c2" in a.r.features
    }


def test_what_lies_a_hair_off_is_measured_anew() -> None:
    """Equal to the last bit is alike; anything else is measured, however little it is off."""
    key = prepare(drawing(PLATE, circle((30, 25), 6)))
    check(key, drawing(PLATE, circle((30, 25), 6)))
    sheet = check(key, drawing(PLATE, circle((30, 25), 6 + 1e-12)))
    radius = next(f for f in sheet.findings if f.kind == "radius" and f.at == (30, 25))
    assert radius.verdict == "met"
    assert radius.deviation == 6 + 1e-12 - 6
    apart = check(key, drawing(PLATE, circle((30, 25), 6), line((5, 5), (6, 6))))
    assert all(f.deviation == 0.0 for f in apart.findings if f.kind == "radius")


def test_kinds_that_are_kept_are_kinds() -> None:
    assert set(KINDS) >= OWN
