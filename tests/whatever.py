"""Whatever is accepted gets marks: drawings of every sort held against keys of every kind of exercise.

`python -m tests.whatever 3000` marks so many and prints what became of them; a day's share runs with the
tests.

- *key*: a drawing with the rules of an exercise. There are twenty and more: parts of the kit, documents of
  steps, one view and three, other units, an inner outline, by feature and by the sheet, as drawn, moved and
  turned.
- *attempt*: what somebody may hand in: files that are not as they should be, documents of steps that are
  damaged, pieces of the key, of another key, of both, moved, turned, scaled, doubled, on other layers; one
  line; far away."""

from __future__ import annotations

import json
import math
import random
import sys
import time
import traceback
from collections import Counter
from collections.abc import Callable
from dataclasses import replace
from functools import cache
from typing import NamedTuple

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line, Text
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.drawing.refusal import refuse
from evenmark.core.formats import UnreadableDrawing, read_file
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.formats.errors import Unwritable
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.geometry.units import BY_SYMBOL
from evenmark.core.marking import RuleError, RuleSet, prepare
from evenmark.core.marking.engine import Key
from evenmark.core.marking.model import POLICIES
from evenmark.demo import parts
from evenmark.services.engine_work import marked_by
from tests import mutations
from tests.catalogue import EXAMPLES
from tests.extent import DAY
from tests.families import a_part, key_of
from tests.mutated_steps import mutated as damaged

LONGEST = 30.0
"""Seconds of processor time after which a drawing counts as hanging."""


class Exercise(NamedTuple):
    """A key as it was made ready, its drawing, and the documents of steps of which some attempts are made."""

    name: str
    key: Key
    drawing: Drawing
    text: str


def _texts() -> list[tuple[str, str]]:
    kit = [(p.stem, p.read_text()) for p in sorted(parts.KIT.glob("*.txt"))]
    own = [(p.stem, p.read_text()) for p in sorted(mutations.DOCUMENTS.glob("*.txt"))]
    return kit + own


@cache
def exercises() -> list[Exercise]:
    """Every kind of exercise; those that are random are those of the day."""
    rng = random.Random(DAY)
    found: list[Exercise] = []
    for n, (name, text) in enumerate(_texts()):
        drawing = build(from_text(text)).drawing
        for listing in ("feature", "sheet") if drawing.dimensions else (None,):
            rules = RuleSet(placement=POLICIES[n % 3], listing=listing)  # type: ignore[arg-type]
            found.append(Exercise(f"{name}, by {listing}", prepare(drawing, rules), drawing, text))
    bracket = build(from_text((parts.KIT / "shaft-bracket.txt").read_text())).drawing
    inch = replace(bracket, unit=BY_SYMBOL["in"])
    others: list[tuple[str, Drawing, RuleSet]] = [
        ("bracket in inches", inch, RuleSet(placement="slide", any_unit=False)),
        ("bracket, exact layers", bracket, RuleSet(exact_layers=True, placement="slide-and-turn")),
        ("bracket without dimensions", replace(bracket, dimensions=()), RuleSet(placement="slide")),
        ("bracket, old charges", bracket, RuleSet(charges=None)),
    ]
    others += [
        (f"part {n}", key_of(a_part(random.Random(rng.random()))), RuleSet(placement=POLICIES[n % 3]))
        for n in range(6)
    ]
    found += [Exercise(name, prepare(drawing, rules), drawing, "") for name, drawing, rules in others]
    return found


# attempts


def _file(_e: Exercise, rng: random.Random) -> bytes:
    return mutations.mutated(rng.randrange(10**6), mutations.good())[1]


def _damaged(e: Exercise, rng: random.Random) -> bytes:
    text = e.text or rng.choice(_texts())[1]
    for _ in range(rng.randrange(1, 4)):
        text = damaged(text, rng) if text.strip() else text
    return text.encode("utf-8", "replace")


def _another(_e: Exercise, rng: random.Random) -> bytes:
    return rng.choice([*(t for _, t in _texts()), *(x.text for x in EXAMPLES)]).encode()


_ONE = (
    "line 0, 0; 50, 0",
    "circle 0, 0; radius 5",
    "line 0, 0; 1e-4, 0",
    "arc 0, 0; radius 5; from 10° to 200°",
    "rectangle 0, 0; 80 by 50",
    'text "A"; 0, 0; height 5',
    "line 0, 0; 1e6, 1e6",
    "point 3, 4",
    "line 0, 0; 50, 0\nline 0, 0; 50, 0\nline 50, 0; 0, 0",
    "circle 0, 0; radius 5\ncircle 0, 0; radius 5\ncircle 0, 0; radius 4.999",
    "line 0, 0; 10, 0\nline 10, 0; 20, 0\nline 20, 0; 30, 0",
)


def _one(_e: Exercise, rng: random.Random) -> bytes:
    return "\n".join(rng.sample(_ONE, rng.randrange(1, 4))).encode()


def _moved(entities: list[Entity], rng: random.Random) -> list[Entity]:
    turn = rng.choice((0.0, 0.0, 90.0, 180.0, 5.0, 33.3))
    scale = rng.choice((1.0, 1.0, 1.0, 2.0, 25.4, 1 / 25.4, 1.01))
    shift = rng.choice((0.0, 0.0, 7.0, -400.0, 1e5))
    onto = Similarity(scale=scale, turn_deg=turn, mirror=rng.random() < 0.1, shift=(shift, shift / 3))
    return [moved_entity(e, onto) for e in entities]


def _pieces(e: Exercise, rng: random.Random) -> Drawing:
    """Some of a key, and of another one, with a few things wrong."""
    entities = list(e.drawing.entities)
    kept = rng.choice((1.0, 0.9, 0.5, 0.1))
    some = [x for x in entities if rng.random() < kept] or entities[:1]
    if rng.random() < 0.3:
        other = rng.choice(exercises()).drawing
        some += [x for x in other.entities if rng.random() < 0.5]
    if rng.random() < 0.5:
        some = _moved(some, rng)
    out = [_wrong(x, rng) if rng.random() < 0.2 else x for x in some]
    if rng.random() < 0.2:
        out += rng.sample(out, rng.randrange(1, len(out) + 1))
    drawing = replace(e.drawing, entities=tuple(out), layouts=())
    return drawing if rng.random() < 0.7 else replace(drawing, dimensions=(), hatches=(), notes=())


def _wrong(x: Entity, rng: random.Random) -> Entity:
    by = rng.choice((0.01, 0.4, 3.0, -7.0, 60.0))
    if rng.random() < 0.2:
        return x._replace(layer=rng.choice(("0", "outline", "construction", "hidden", "nowhere", "Ö")))
    if isinstance(x, Circle):
        return x._replace(radius=max(x.radius + by, 1e-3))
    if isinstance(x, Line):
        return x._replace(end=(x.end[0] + by, x.end[1] - by / 2)) if x.end != x.start else x
    if isinstance(x, Arc):
        return x._replace(sweep_rad=min(math.tau, x.sweep_rad * rng.choice((0.5, 0.99, 1.3))))
    if isinstance(x, Text):
        return x._replace(wording=x.wording[::-1] or "?", height=max(x.height + by, 0.1))
    return x


def _as_file(e: Exercise, rng: random.Random) -> bytes:
    drawing = _pieces(e, rng)
    try:
        return write_dxf(drawing)
    except Unwritable:
        return write_dxf(replace(drawing, dimensions=(), hatches=(), notes=()))


MADE: tuple[Callable[[Exercise, random.Random], bytes], ...] = (
    *(_file, _damaged, _another, _one, _as_file, _as_file, _as_file),
)


def an_attempt(number: int) -> tuple[Exercise, str, bytes]:
    """Return an exercise and what is handed in for it; the same number is the same."""
    rng = random.Random(f"{DAY} {number}")
    exercise = exercises()[number % len(exercises())]
    make = rng.choice(MADE)
    return exercise, make.__name__.strip("_"), make(exercise, rng)


def outcome(exercise: Exercise, data: bytes) -> str:
    """Read and mark; return what became of it. Anything but a sentence or a mark sheet is raised."""
    try:
        drawing = read_file(data)
        refusal = refuse(drawing, exercise.key.rules.examines)
        if refusal is not None:
            return "refused"
    except UnreadableDrawing as why:
        assert why.says.endswith("."), why.says
        return "refused"
    marked = marked_by([exercise.key], data, "a.dxf", {"name": "Ann Ash", "group": "A"})
    kept = json.dumps([marked.marks, marked.drawn, marked.places, marked.sketches], allow_nan=False)
    assert "\\u0000" not in kept
    assert 0 <= marked.earned <= marked.possible
    return "marked"


def run(first: int, count: int) -> int:
    """Mark so many; return how many broke or hung."""
    became: Counter[str] = Counter()
    slowest, bad = (0.0, 0), 0
    for number in range(first, first + count):
        exercise, how, data = an_attempt(number)
        began = time.process_time()
        try:
            became[f"{how}: {outcome(exercise, data)}"] += 1
        except (Exception, RuleError) as why:
            bad += 1
            print(f"{number} ({how}, {exercise.name}): {why!r}", flush=True)
            traceback.print_exc(limit=-5)
        slowest = max(slowest, (time.process_time() - began, number))
    for what, n in sorted(became.items()):
        print(f"{n:>7,}  {what}")
    print(f"{count:,} drawings, {bad} broke; the slowest took {slowest[0]:.1f} s (number {slowest[1]})")
    return bad


if __name__ == "__main__":
    numbers = [int(a) for a in sys.argv[1:]]
    sys.exit(1 if run(numbers[1] if len(numbers) > 1 else 0, numbers[0] if numbers else 3000) else 0)
