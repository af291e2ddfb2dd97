"""Nothing is full that is not the key: whatever differs from it loses marks, and is told, although every size
is right. Other solutions of the same sizes, one by one and as a random family."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterator
from dataclasses import replace

import pytest
from bench import slips as bench
from bench.rounds import round_to, tangent

from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line
from evenmark.core.geometry.points import Point
from evenmark.core.marking import MarkSheet, RuleSet, check, prepare
from evenmark.core.marking.model import Listing
from evenmark.demo.plans import PLANS
from tests.builders import arc, chain, circle, drawing, line
from tests.dimensioned import across, along, angle, diameter, dimensioned, radius, up
from tests.extent import seeds

LISTINGS: tuple[Listing, ...] = ("sheet", "feature")


def obround(turned_in: bool = False) -> list[Entity]:
    """A plate with one rounded end."""
    end = arc((60, 15), 15, 270, 90) if not turned_in else arc((60, 15), 15, 90, 270)
    return [line((60, 0), (0, 0)), line((0, 0), (0, 30)), line((0, 30), (60, 30)), end]


def slotted(turned_in: bool = False) -> list[Entity]:
    """A plate with a slot whose ends are round."""
    ends = [((50.0, 20.0), 270, 90), ((30.0, 20.0), 90, 270)]
    out: list[Entity] = [line((30, 15), (50, 15)), line((50, 25), (30, 25))]
    out += [arc(c, 5, b, a) if turned_in else arc(c, 5, a, b) for c, a, b in ends]
    return [*chain((0, 0), (80, 0), (80, 40), (0, 40)), *out]


def leaning(outwards: bool = False) -> list[Entity]:
    """A plate with one side at 60°."""
    x = 80 + (40 if outwards else -40) / math.tan(math.radians(60))
    return chain((0, 0), (80, 0), (x, 40), (0, 40))


def triangle(flipped: bool = False) -> list[Entity]:
    """A triangle by its three sides."""
    x = (70**2 + 60**2 - 50**2) / (2 * 70)
    y = math.sqrt(60**2 - x * x)
    return chain((0, 0), (70, 0), (x, -y if flipped else y))


def belt(crossed: bool = False) -> list[Entity]:
    """A belt round two pulleys of one size."""
    c1, c2, r = (0.0, 0.0), (80.0, 0.0), 15.0
    if not crossed:
        (u1, u2), (l1, l2) = tangent(c1, r, c2, r, 1), tangent(c1, r, c2, r, -1)
    else:
        t = math.acos(2 * r / 80.0)
        u1, l1 = ((r * math.cos(t), s * r * math.sin(t)) for s in (1, -1))
        l2, u2 = ((80 - r * math.cos(t), s * r * math.sin(t)) for s in (1, -1))
        u2, l2 = l2, u2
        return [
            line(u1, l2 if l2[1] < 0 else u2),
            line(l1, u2 if u2[1] > 0 else l2),
            round_to(c1, r, u1, l1),
            round_to(c2, r, min(u2, l2, key=lambda p: p[1]), max(u2, l2, key=lambda p: p[1])),
            circle(c1, 5),
            circle(c2, 5),
        ]
    return [
        line(u2, u1),
        line(l1, l2),
        round_to(c1, r, u1, l1),
        round_to(c2, r, l2, u2),
        circle(c1, 5),
        circle(c2, 5),
    ]


def half(other: bool = False) -> list[Entity]:
    """Two thirds of a ring, on a base."""
    a, b = (
        (10 * math.cos(math.radians(210)), 10 * math.sin(math.radians(210))),
        (
            10 * math.cos(math.radians(330)),
            10 * math.sin(math.radians(330)),
        ),
    )
    return [arc((0, 0), 10, 210, 330) if other else arc((0, 0), 10, 330, 210), line(a, b)]


KEYS: dict[str, tuple[Callable[[bool], list[Entity]], list[object]]] = {
    "a rounded end turned inwards": (
        obround,
        [across((0, 30), (60, 30)), up((0, 0), (0, 30)), radius((60, 15), 15)],
    ),
    "slot ends turned inwards": (
        slotted,
        [
            across((0, 0), (80, 0)),
            up((0, 0), (0, 40)),
            across((0, 0), (30, 20)),
            across((30, 20), (50, 20)),
            up((0, 0), (30, 20)),
            radius((50, 20), 5),
        ],
    ),
    "a side leaning outwards": (
        leaning,
        [across((0, 0), (80, 0)), up((0, 0), (0, 40)), angle((80, 0), (0, 0), (80 - 40 / math.sqrt(3), 40))],
    ),
    "a triangle flipped over its base": (
        triangle,
        [
            across((0, 0), (70, 0)),
            *(
                along(p, (x, y), math.degrees(math.atan2(y - p[1], x - p[0])))
                for x, y in [
                    ((70**2 + 60**2 - 50**2) / 140, math.sqrt(60**2 - ((70**2 + 60**2 - 50**2) / 140) ** 2))
                ]
                for p in ((0.0, 0.0), (70.0, 0.0))
            ),
        ],
    ),
    "a crossed belt": (
        belt,
        [
            across((0, 0), (80, 0)),
            radius((0, 0), 15),
            radius((80, 0), 15),
            diameter((0, 0), 5),
            diameter((80, 0), 5),
        ],
    ),
    "an arc on its other half": (half, [radius((0, 0), 10), up((0, 0), (0, -5))]),
}


def told(sheet: MarkSheet) -> list[str]:
    return [c.says for c in sheet.causes]


@pytest.mark.parametrize("listing", LISTINGS)
@pytest.mark.parametrize("name", KEYS)
def test_another_solution_of_the_same_sizes(name: str, listing: Listing) -> None:
    make, sizes = KEYS[name]
    key = prepare(dimensioned(make(False), sizes), RuleSet(listing=listing))  # type: ignore[arg-type]
    right, wrong = (check(key, drawing(make(other))) for other in (False, True))
    assert right.earned == right.possible == 100
    assert 30 <= wrong.earned <= 96, told(wrong)
    assert told(wrong)


# any change at all


def _ends(a: Arc) -> tuple[Point, Point]:
    (x, y), r = a.center, a.radius
    s, e = a.start_rad, a.start_rad + a.sweep_rad
    return (x + r * math.cos(s), y + r * math.sin(s)), (x + r * math.cos(e), y + r * math.sin(e))


def _mirrored(p: Point, a: Point, b: Point) -> Point:
    dx, dy = b[0] - a[0], b[1] - a[1]
    t = ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy)
    return (2 * (a[0] + t * dx) - p[0], 2 * (a[1] + t * dy) - p[1])


def _turned_in(a: Arc) -> Arc:
    p, q = _ends(a)
    c = _mirrored(a.center, p, q)
    s, t = (math.atan2(z[1] - c[1], z[0] - c[0]) for z in (q, p))
    return a._replace(center=c, start_rad=s, sweep_rad=(t - s) % math.tau)


def others_of(d: Drawing) -> Iterator[tuple[str, Drawing]]:
    """Other solutions of the same sizes, and nearly: arcs turned in or on their other half, corners flipped
    over the line between their neighbours, circles on the other side of a line."""
    for n, e in enumerate(d.entities):

        def put(*new: Entity, n: int = n) -> Drawing:
            return replace(d, entities=(*d.entities[:n], *new, *d.entities[n + 1 :]))

        if isinstance(e, Arc) and e.sweep_rad < 6.2:
            if abs(e.sweep_rad - math.pi) > 1e-6:
                yield (
                    "other half",
                    put(e._replace(start_rad=e.start_rad + e.sweep_rad, sweep_rad=math.tau - e.sweep_rad)),
                )
            yield "turned in", put(_turned_in(e))
    lines = [e for e in d.entities if isinstance(e, Line) and e.layer == "outline"]
    for e in lines:
        for f in lines:
            if e is f or math.dist(e.end, f.start) > 1e-9 or math.dist(e.start, f.end) < 1e-9:
                continue
            k = _mirrored(e.end, e.start, f.end)
            if math.dist(k, e.end) > 1.0:
                swap = {id(e): e._replace(end=k), id(f): f._replace(start=k)}
                yield "corner flipped", replace(d, entities=tuple(swap.get(id(x), x) for x in d.entities))
    for n, c in enumerate(d.entities):
        if isinstance(c, Circle) and c.layer == "outline":
            for e in lines[:3]:
                at = _mirrored(c.center, e.start, e.end)
                if math.dist(at, c.center) > 1.0:
                    yield (
                        "circle beyond",
                        replace(d, entities=(*d.entities[:n], c._replace(center=at), *d.entities[n + 1 :])),
                    )


@pytest.mark.parametrize("listing", LISTINGS)
@pytest.mark.parametrize("plan", PLANS, ids=lambda p: p.file)
def test_whatever_differs_of_the_demos_keys_loses_marks(plan: object, listing: Listing) -> None:
    key = prepare(plan.part.sheet, RuleSet(listing=listing, placement=plan.placement))  # type: ignore[attr-defined]
    for how, other in others_of(plan.part.drawing):  # type: ignore[attr-defined]
        sheet = check(key, other)
        assert sheet.earned <= 98, (how, sheet.earned, told(sheet))
        assert told(sheet), how


@pytest.mark.parametrize("listing", LISTINGS)
@pytest.mark.parametrize("seed", seeds(12))
def test_whatever_differs_of_random_parts_loses_marks(seed: int, listing: Listing) -> None:
    rng = random.Random(seed)
    part = bench.a_part(rng)
    key = prepare(bench.as_drawing(part, said=True), RuleSet(listing=listing))
    drawn = bench.as_drawing(part)
    assert check(key, drawn).earned == 100
    for how, other in others_of(drawn):
        sheet = check(key, other)
        assert sheet.earned <= 98, (how, sheet.earned, told(sheet))
        assert told(sheet), how


def test_what_is_switched_off_is_not_asked_by_another_name() -> None:
    make, sizes = KEYS["a rounded end turned inwards"]
    key = prepare(dimensioned(make(False), sizes), RuleSet(listing="sheet"))  # type: ignore[arg-type]
    assert [r.kind for r in key.requirements if r.kind == "differs"] == ["differs"]
    wider = [*make(False)[:0], *chain((0, 0), (70, 0), (70, 30), (0, 30))]
    off = tuple(replace(r, on=False) if r.size == "d1" else r for r in key.requirements)
    kept = prepare(
        dimensioned(make(False), sizes),  # type: ignore[arg-type]
        replace(key.rules, requirements=off),
    )
    for one, asked in ((key, True), (kept, False)):
        assert (one.differs is not None) is asked
        found = [f.verdict for f in check(one, drawing(wider)).findings if f.kind == "differs"]
        assert found == ["met"]  # what a wrong size carried along is told by that


def test_a_flipped_arc_beside_a_wrong_size_is_charged_too() -> None:
    make, sizes = KEYS["a rounded end turned inwards"]
    key = prepare(dimensioned(make(False), sizes), RuleSet(listing="sheet"))  # type: ignore[arg-type]
    alone = check(key, drawing(make(True)))
    arcs = [e if not isinstance(e, Line) else e._replace(layer="0") for e in make(True)]
    both = check(key, drawing(arcs))
    assert both.earned < alone.earned
    assert {c.code for c in both.causes} >= {"wrong-side", "default-layer"}
