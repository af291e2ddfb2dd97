"""What features are called: as a teacher would, each name once, no bare numbers of kinds."""

from __future__ import annotations

import math
import random
import re

import pytest
from bench import slips as bench

from evenmark.core.drawing.model import Drawing, Entity
from evenmark.core.geometry.points import point_on
from evenmark.core.linework.whereabouts import told_apart
from evenmark.core.marking import Key, RuleSet, prepare
from evenmark.core.marking.rules_json import proposal_json
from evenmark.core.marking.wording import named
from evenmark.demo import parts
from evenmark.demo.plans import PLANS
from tests import families
from tests.builders import arc, chain, circle, drawing, line, text
from tests.core.test_proof import link, rounded, slot
from tests.extent import seeds

BARE = re.compile(r"\b(edge|arc|circle|corner|junction|meeting|outline|curve|centre line) \d+(?! of)\b", re.I)


def moved(entities: list[Entity], x: float, y: float) -> list[Entity]:
    """Entities elsewhere."""
    out = []
    for e in entities:
        points = {a: (p[0] + x, p[1] + y) for a in ("start", "end", "center") if (p := _point(e, a))}
        out.append(e._replace(**points))
    return out


def _point(e: Entity, name: str) -> tuple[float, float] | None:
    return getattr(e, name, None) if name in e._fields else None


PLATE = chain((0, 0), (100, 0), (100, 60), (0, 60))
RING = [circle(point_on((0, 0), 30, n * math.tau / 6), 3) for n in range(6)]
CASES: dict[str, tuple[list[Entity], set[str]]] = {
    "a plate": (
        PLATE,
        {"outline", "left edge", "right edge", "top edge", "bottom edge", "lower left corner"},
    ),
    "a hole": ([*PLATE, circle((30, 20), 4)], {"hole"}),
    "two holes": ([*PLATE, circle((30, 20), 4), circle((70, 20), 4)], {"left hole", "right hole"}),
    "four holes": (
        [*PLATE, *(circle((x, y), 4) for x in (20, 80) for y in (10, 50))],
        {"lower left hole", "lower right hole", "upper left hole", "upper right hole"},
    ),
    "five holes in a row": (
        [*PLATE, *(circle((10 + 20 * n, 30), 4) for n in range(5))],
        {"hole 1 from the left", "hole 5 from the left"},
    ),
    "a flange": (
        [circle((0, 0), 50), circle((0, 0), 40), circle((0, 0), 12), circle((0, 0), 30, "centre"), *RING],
        {"outer circle", "circle Ø80", "bore", "pitch circle", "hole 1 of 6", "hole 6 of 6"},
    ),
    "a slot": (
        [*PLATE, *moved(slot(), 30, 30)],
        {"slot", "left end of the slot", "right end of the slot", "top edge of the slot"},
    ),
    "an opening": (
        [*PLATE, *chain((20, 20), (50, 20), (50, 40), (20, 40))],
        {"opening", "top edge of the opening", "lower left corner of the opening"},
    ),
    "fillets": (rounded(), {"lower left fillet", "upper right fillet", "top edge"}),
    "a chamfer": (chain((0, 0), (80, 0), (80, 43), (73, 50), (0, 50)), {"chamfer", "right edge"}),
    "a link": (
        [*link(), line((-30, 0), (100, 0), "centre")],
        {"left round end", "right round end", "upper slanted edge", "horizontal centre line"},
    ),
    "centre marks": (
        [
            *PLATE,
            *(circle((x, 30), 4) for x in (20, 80)),
            *(line((x - 6, 30), (x + 6, 30), "centre") for x in (20, 80)),
            *(line((x, 24), (x, 36), "centre") for x in (20, 80)),
        ],
        {"vertical centre line of the left hole", "horizontal centre line of the right hole"},
    ),
    "a hidden edge": ([*PLATE, line((40, 0), (40, 60), "hidden")], {"hidden vertical edge"}),
    "lettering": ([*PLATE, text("GATE PLATE", (10, 10))], {"text “GATE PLATE”"}),
    "an arc": ([arc((0, 0), 10, 0, 60)], {"arc"}),
}


def assert_named(key: Key) -> None:
    names = key.linework.names
    assert len(set(names.values())) == len(names)
    assert key.linework.by_id.keys() - names.keys() <= {e.id for e in key.linework.endless}
    assert not [n for n in names.values() if BARE.search(n)]
    said = [named(r) for r in proposal_json(key)["requirements"] if r["features"]]
    assert not [n for n in said if BARE.search(n)]


@pytest.mark.parametrize("name", CASES)
def test_features_are_called_as_a_teacher_would(name: str) -> None:
    entities, wanted = CASES[name]
    key = prepare(drawing(entities))
    assert wanted <= set(key.linework.names.values()), sorted(key.linework.names.values())
    assert_named(key)


@pytest.mark.parametrize("plan", PLANS, ids=lambda plan: plan.title)
def test_each_name_of_the_demos_keys_stands_once(plan: object) -> None:
    for listing in ("sheet", "feature"):
        assert_named(prepare(plan.part.sheet, RuleSet(listing=listing)))  # type: ignore[attr-defined,arg-type]


@pytest.mark.parametrize("seed", seeds(60))
def test_each_name_of_random_parts_stands_once(seed: int) -> None:
    rng = random.Random(seed)
    found: list[Drawing] = [families.key_of(families.a_part(rng)), bench.as_drawing(bench.a_part(rng))]
    for part in found:
        assert_named(prepare(part))


def test_features_of_views_are_named_with_their_view() -> None:
    names = set(prepare(parts.shaft_bracket().sheet).linework.names.values())
    assert {"hole in the front view", "left edge in the view above", "front view"} <= names


def test_the_same_shape_elsewhere_is_called_the_same() -> None:
    here, there = (prepare(drawing(moved(rounded(), x, y))).linework for x, y in ((0, 0), (400, -37)))
    assert sorted(here.names.values()) == sorted(there.names.values())


def test_things_on_a_slant_are_told_apart_by_both() -> None:
    where = told_apart({"a": (0, 0), "b": (10, 5)}, 0.001)
    assert [w.before for w in where.values()] == ["lower left", "upper right"]
