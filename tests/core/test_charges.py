"""Marks that are fair: by the sheet, with charges, the floor of a slip, and habits (marking.md).

What is fair is an instructor's eye over one plate (common practice, no published source): bands, not digits.
"""

from __future__ import annotations

import math
import random
from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest

from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.marking import MarkSheet, RuleError, RuleSet, check, prepare
from evenmark.core.marking.key import Key
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.model import Charges
from evenmark.core.marking.override import Override, held
from evenmark.core.marking.rules_json import from_json, proposal_json
from evenmark.core.marking.rules_json import to_json as rules_to_json
from tests.builders import FIRST_VERSION, chain, circle, drawing, line, text
from tests.dimensioned import across, diameter, up
from tests.fair import as_drawing, changed, plate, sheet

BY_SHEET = RuleSet(listing="sheet")


@pytest.fixture(scope="module")
def key() -> Key:
    return prepare(sheet(), BY_SHEET)


def by_eye() -> Drawing:
    """Every corner and centre 0.05 off, in any direction, whatever meets there still meeting."""
    rng = random.Random(3)
    known: dict[tuple[float, float], tuple[float, float]] = {}

    def off(p: tuple[float, float]) -> tuple[float, float]:
        at = (round(p[0], 3), round(p[1], 3))
        if at not in known:
            t = rng.uniform(0.0, math.tau)
            known[at] = (p[0] + 0.05 * math.cos(t), p[1] + 0.05 * math.sin(t))
        return known[at]

    out: list[Entity] = []
    for e in plate():
        if isinstance(e, Line):
            e = e._replace(start=off(e.start), end=off(e.end))
        elif isinstance(e, Arc):
            c, (sx, sy), (ex, ey) = off(e.center), off(e.start), off(e.end)
            r = (math.dist(c, (sx, sy)) + math.dist(c, (ex, ey))) / 2
            a, b = math.atan2(sy - c[1], sx - c[0]), math.atan2(ey - c[1], ex - c[0])
            e = e._replace(center=c, radius=r, start_rad=a, sweep_rad=(b - a) % math.tau)
        elif isinstance(e, Circle):
            e = e._replace(center=off(e.center))
        out.append(e)
    return as_drawing(out)


def scribbled() -> Drawing:
    rng = random.Random(3)
    extra = []
    for _ in range(30):
        x, y = rng.uniform(0, 120), rng.uniform(0, 70)
        extra.append(line((x, y), (x + rng.uniform(3, 9), y + rng.uniform(3, 9))))
    return as_drawing([*plate(), *extra])


def another_part() -> Drawing:
    outline = chain((0, 0), (73, 0), (73, 31), (44, 31), (44, 57), (11, 57), (11, 22), (0, 22))
    return as_drawing([*outline, circle((30, 15), 4.5), circle((60, 12), 7.3)])


def left_half() -> Drawing:
    def kept(e: Entity) -> bool:
        points = [e.start, e.end] if isinstance(e, Line | Arc) else [getattr(e, "center", None) or e.at]  # type: ignore[union-attr]
        return max(x for x, _ in points) <= 60

    return as_drawing([e for e in plate() if kept(e)])


def is_boss(e: Entity) -> bool:
    return isinstance(e, Circle) and e.center == (90, 20)


# what was done, the drawing, and the band in which an instructor's mark lies
FAIR: dict[str, tuple[Drawing, float, float]] = {
    "nothing": (as_drawing(plate()), 100, 100),
    "a hole twice the diameter": (
        changed(lambda e: e._replace(radius=20.0) if is_boss(e) else e),  # type: ignore[call-arg]
        94,
        95,
    ),
    "a gap of 0.02": (
        changed(lambda e: e._replace(end=(0.02, 70.0)) if isinstance(e, Line) and e.end == (0, 70) else e),
        96,
        97,
    ),
    "everything on the default layer": (changed(lambda e: e._replace(layer="0")), 90, 95),  # one habit
    "one early length wrong": (as_drawing(plate(step=47)), 93, 95),
    "one hole missing": (changed(lambda e: None if is_boss(e) else e), 92, 94),
    "another part altogether": (another_part(), 0, 0),
    "the left half only": (left_half(), 45, 50),
    "everything twice": (as_drawing(plate() + plate()), 85, 85),
    "all corners and centres by eye": (by_eye(), 30, 40),
    "thirty scribbles": (scribbled(), 70, 80),
    "mirrored": (changed(lambda e: moved_entity(e, Similarity(mirror=True, shift=(120.0, 0.0)))), 60, 75),
    # a reader of shops would give 25 to 30; without its outline the plate still has half of what was asked
    "outline missing": (as_drawing(plate(missing=("outline",))), 25, 40),
}


@pytest.mark.parametrize("name", FAIR)
def test_marks_are_those_of_an_instructor(name: str, key: Key) -> None:
    attempt, low, high = FAIR[name]
    mark = check(key, attempt)
    assert Decimal(low) <= mark.earned <= Decimal(high), mark.earned
    assert sum(mark.earned_for.values()) - sum(mark.taken_for.values()) == mark.earned or mark.earned == 0


def test_the_sheet_of_the_plate_says_everything_once(key: Key) -> None:
    assert key.proof.complete
    sizes = [r for r in key.requirements if r.size]
    assert [r.id for r in sizes] == list(range(1, 16))  # numbered as their balloons
    assert key.possible == 100


def grown(n: int) -> tuple[Drawing, Drawing]:
    """A plate with n holes, each said; and the same with one hole of twice the diameter."""
    holes = [(10.0 + 9.7 * (k % 10), 8.0 + 9.3 * (k // 10) + 0.21 * (k % 10)) for k in range(n)]
    outline = chain((0, 0), (120, 0), (120, 80), (0, 80))
    said = [across((0, 0), (120, 0)), up((0, 0), (0, 80))]
    for at in holes:
        said += [across((0, 0), at), up((0, 0), at), diameter(at, 2.0)]
    right: list[Entity] = [*outline, *(circle(at, 2.0) for at in holes)]
    wrong: list[Entity] = [*outline, *(circle(at, 4.0 if at == holes[0] else 2.0) for at in holes)]
    return replace(drawing(right), dimensions=tuple(said)), drawing(wrong)


@pytest.mark.parametrize("n", [2, 10, 60])
def test_a_slip_costs_no_less_because_the_sheet_grew(n: int) -> None:
    right, wrong = grown(n)
    mark = check(prepare(right, BY_SHEET), wrong)
    assert [c.code for c in mark.causes] == ["radius-for-diameter"]
    assert mark.earned <= 95


@pytest.mark.parametrize(
    ("charge", "earned"), [({}, 70.0), ({"mirrored": 12.5}, 87.5), ({"mirrored": 0}, 100.0)]
)
def test_charges_are_the_instructors(charge: dict[str, float], earned: float) -> None:
    key = prepare(sheet(), replace(BY_SHEET, charges=Charges(**charge)))  # type: ignore[arg-type]
    assert float(check(key, FAIR["mirrored"][0]).earned) == earned


def test_a_size_is_charged_where_a_feature_slipped_and_only_once(key: Key) -> None:
    """A hole 3 to the right is off in one size, whatever is said between holes."""

    def change(e: Entity) -> Entity:
        if isinstance(e, Circle) and e.center == (20, 18):
            return e._replace(center=(23.0, 18.0))
        return e

    mark = check(key, changed(change))
    open_ = [f for f in mark.findings if f.verdict in ("missed", "near", "absent")]
    assert [(f.kind, f.measured) for f in open_] == [("distance", 23.0)]
    assert open_[0].id == next(r.id for r in key.requirements if "c1" in r.features and r.direction == 0.0)
    assert len(mark.causes) == 1
    assert open_[0].id in mark.causes[0].explains


def test_lettering_that_nobody_asked_for_is_charged_but_not_beside_what_is_missing(key: Key) -> None:
    more = text("SCALE 1:1", (70.0, -20.0), layer="lettering")
    assert check(key, as_drawing([*plate(), more])).earned == 99
    instead = [e for e in plate(missing=("title",)) if e] + [more]
    (clean,) = [f for f in check(key, as_drawing(instead)).findings if f.kind == "clean"]
    assert clean.verdict == "met"
    # rule sets from before pass it over
    old = prepare(sheet(), FIRST_VERSION)
    assert check(old, as_drawing([*plate(), more])).earned == 100


def test_a_key_too_large_to_be_proved_is_listed_by_feature() -> None:
    holes: list[Entity] = [circle((3.0 * (k % 70), 3.0 * (k // 70)), 1.0) for k in range(2001)]
    with pytest.raises(RuleError, match="by feature"):
        prepare(drawing(holes), BY_SHEET)


def test_a_size_the_other_way_round_is_not_met() -> None:
    holes = [circle((30, 20), 5), circle((70, 40), 5)]
    said = [across((30, 20), (70, 40)), up((30, 20), (70, 40)), diameter((30, 20), 5, before="2 x")]
    key = prepare(replace(drawing(list(holes)), dimensions=tuple(said)), replace(BY_SHEET, placement="slide"))
    exchanged = [circle((30, 40), 5), circle((70, 20), 5)]
    assert check(key, drawing(exchanged)).earned <= 80  # two holes alone: the whole drawing turned

    rail = [line((0, 0), (90, 0))]
    said += [across((0, 0), (90, 0)), across((0, 0), (30, 20)), up((0, 0), (30, 20))]
    key = prepare(
        replace(drawing([*holes, *rail]), dimensions=tuple(said)), replace(BY_SHEET, placement="slide")
    )
    assert check(key, drawing([*holes, *rail])).earned == 100
    assert check(key, drawing([*exchanged, *rail])).earned < 80


def test_what_is_not_on_the_sheet_is_asked_of_the_feature_itself() -> None:
    parts: list[Entity] = [*chain((0, 0), (90, 0), (90, 50), (0, 50)), circle((30, 20), 5)]
    said = (across((0, 0), (90, 0)), up((0, 0), (0, 50)), across((0, 0), (30, 20)))
    key = prepare(replace(drawing(parts), dimensions=said), BY_SHEET)
    beside = [r for r in key.requirements if r.kind in ("position", "diameter") and not r.parts]
    assert [(r.kind, r.features, r.size) for r in beside] == [
        ("diameter", ("c1",), ""),
        ("position", ("c1",), ""),
    ]


def test_brackets_are_no_line_of_the_list() -> None:
    parts = chain((0, 0), (90, 0), (90, 50), (0, 50))
    said = (across((0, 0), (90, 0)), up((0, 0), (0, 50)), across((0, 50), (90, 50), before="(", after=")"))
    key = prepare(replace(drawing(parts), dimensions=said), BY_SHEET)
    assert [r.on for r in key.requirements if r.size] == [True, True, False]


@pytest.mark.parametrize("name", ["a hole twice the diameter", "thirty scribbles", "a gap of 0.02"])
def test_a_mark_sheet_says_what_was_taken_and_another_verdict_gives_it_back(name: str, key: Key) -> None:
    mark = check(key, FAIR[name][0])
    marks = to_json(mark, "a.dxf")
    taken = {f["id"]: f["taken"] for f in marks["findings"] if "taken" in f}
    assert taken
    by_hand = {i: Override(verdict="met", reason="fine") for i in taken}
    again = held(marks, by_hand, rules_to_json(key.rules))
    assert again["score"]["earned"] == 100.0


def test_rule_sets_of_the_last_version_are_read_as_they_were() -> None:
    old: dict[str, Any] = proposal_json(prepare(sheet(), FIRST_VERSION))
    assert old["version"] == 1
    assert "charges" not in old
    read = from_json({k: v for k, v in old.items() if k != "version"})
    assert read.charges is None
    key = prepare(sheet(), read)
    assert {r.kind: key.marks[r.id] for r in key.requirements if r.kind in ("whole", "clean")} == {
        "whole": Decimal("20.00"),
        "clean": Decimal("5.00"),
    }
    assert float(check(key, FAIR["mirrored"][0]).earned) == 80.0


def test_a_proposal_by_the_sheet_comes_back_as_it_was(key: Key) -> None:
    data = proposal_json(key)
    assert (data["version"], data["listing"]) == (2, "sheet")
    again = prepare(sheet(), from_json(data))
    assert again.requirements == key.requirements
    assert again.marks == key.marks
    assert _marks(
        check(again, FAIR["left half only"][0] if "left half only" in FAIR else left_half())
    ) == _marks(check(key, left_half()))


def _marks(sheet_: MarkSheet) -> tuple[Any, ...]:
    return (sheet_.earned, [(f.id, f.verdict) for f in sheet_.findings])
