"""Drawings that nobody thought of: innocent ways stay innocent, and whatever is wrong is accounted for."""

from __future__ import annotations

import json
import math
import random
from dataclasses import replace

import pytest

from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry.units import INCH, MM
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.model import POLICIES
from evenmark.demo import slips as s
from evenmark.demo.parts import LAYERS
from tests.builders import arc, chain, circle, line
from tests.extent import seeds


def some_drawing(rng: random.Random) -> Drawing:
    """One to fourteen lines, circles, arcs and chains at random, many of them on round numbers."""

    def number(low: float, high: float) -> float:
        value = rng.uniform(low, high)
        return value if rng.random() < 0.2 else round(value * rng.choice([1, 4, 10, 1000])) / 4

    def place() -> tuple[float, float]:
        return number(-60, 160), number(-60, 110)

    out: list[Entity] = []
    for k in range(rng.randint(1, 14)):
        kind = rng.random()
        made: list[Entity]
        if kind < 0.35:
            made = [line(place(), place())]
        elif kind < 0.55:
            made = [circle(place(), abs(number(0.5, 40)) + 0.1)]
        elif kind < 0.75:
            made = [arc(place(), abs(number(0.5, 40)) + 0.1, number(0, 360), number(0, 360))]
        else:
            made = chain(*[place() for _ in range(rng.randint(3, 7))], close=rng.random() < 0.6)
        layer = rng.choice(["outline", "outline", "hidden", "centre"])
        out += [e._replace(layer=layer, style=LAYERS[layer].style, source=f"s{k}") for e in made]
    kept = [e for e in out if not isinstance(e, Line) or math.dist(e.start, e.end) > 0.01]
    return Drawing(entities=tuple(kept or [circle((0, 0), 5)]), layers=dict(LAYERS), unit=MM)


@pytest.mark.parametrize("seed", seeds(60))
def test_any_innocent_way_earns_full_marks(seed: int) -> None:
    rng = random.Random(seed)
    drawing, policy = some_drawing(rng), rng.choice(POLICIES)
    key = prepare(
        read_file(write_dxf(drawing, Manner(polylines=rng.random() < 0.5))), RuleSet(placement=policy)
    )
    version = rng.choice(["R12", "R2000", "R2010", "R2018"])
    manner = Manner(
        version=version,
        binary=rng.random() < 0.2,
        polylines=rng.random() < 0.4,
        pieces=rng.choice([1, 1, 2, 5]),
        reverse=rng.random() < 0.5,
        circles=rng.choice(["circles", "arcs", "bulges", "ellipses"]),
        below=rng.random() < 0.3,
        blocks=rng.random() < 0.3,
        explicit=rng.random() < 0.3,
        unit=INCH if rng.random() < 0.4 and version != "R12" else None,
    )
    if policy != "as-drawn":
        manner = replace(manner, shift=(rng.uniform(-500, 500), rng.uniform(-500, 500)))
    sheet = check(key, read_file(write_dxf(drawing, manner)))
    assert [f for f in sheet.findings if f.verdict != "met"] == []
    assert (sheet.earned, sheet.causes) == (sheet.possible, ())


@pytest.mark.parametrize("seed", seeds(60))
def test_every_open_finding_is_accounted_for(seed: int) -> None:
    rng = random.Random(seed)
    drawing = attempt = some_drawing(rng)
    slips: list[s.Slip] = [
        s.on_layer("0"),
        s.construction((0, 1), (50, 60)),
        s.moved((3, 4)),
        s.mirrored(),
        s.scaled(rng.choice([25.4, 0.1, 2, 0.7])),
    ]
    kinds = {type(e) for e in drawing.entities}
    for kind in kinds & {Line, Circle, Arc}:
        slips += [s.left_out(kind, rng.randint(0, 9)), s.twice(kind, rng.randint(0, 9))]
    if Circle in kinds:
        slips += [
            s.circle_scaled(rng.randint(0, 9), rng.choice([2, 0.5, 1.01, 3])),
            s.circle_moved(rng.randint(0, 9), (rng.uniform(-2, 2), 0.3)),
        ]
    if Line in kinds:
        slips.append(s.end_moved(rng.randint(0, 9), rng.choice([-0.02, 0.3, -0.5, 2])))
    for slip in rng.sample(slips, rng.randint(1, 2)):
        if {type(e) for e in attempt.entities} >= kinds:  # a slip needs something to be made on
            attempt = slip(attempt)
    sheet = check(prepare(drawing, RuleSet(placement=rng.choice(POLICIES))), attempt)
    explained = {i for c in sheet.causes for i in c.explains}
    assert {f.id for f in sheet.findings if f.verdict in ("near", "missed", "absent")} <= explained
    assert 0 <= sheet.earned <= sheet.possible
    json.dumps(to_json(sheet, "a.dxf"), allow_nan=False)
