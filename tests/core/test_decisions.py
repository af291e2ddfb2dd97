"""Dimensions whose value is not what they measure: what can be decided, what is asked then, what is full."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path

import pytest

from evenmark.cli import main
from evenmark.core.dimensioning.deciding import Decision
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.model import Entity
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry.points import Point
from evenmark.core.marking import Key, RuleSet, check, prepare
from evenmark.core.marking.decisions import undecided
from evenmark.core.marking.model import Listing
from evenmark.core.marking.rules_json import from_json, to_json
from tests.builders import chain, circle, drawing, line
from tests.core.test_proof import link, rounded, slot
from tests.dimensioned import across, along, angle, diameter, dimensioned, radius, up


@dataclass(frozen=True)
class Case:
    """A part as its key has it and as its sheet says, with the dimensions of the key."""

    drawn: list[Entity]
    said: list[Entity]
    dimensions: list[Dimension]
    ties: dict[str, tuple[Point, Point]] = field(default_factory=dict)


def plate(w: float) -> list[Entity]:
    return [*chain((0, 0), (w, 0), (w, 50), (0, 50)), circle((60, 25), 5), circle((20, 25), 5)]


PLATE = [
    up((0, 0), (0, 50)),
    across((0, 0), (60, 25)),
    up((0, 0), (60, 25)),
    across((0, 0), (20, 25)),
    up((0, 0), (20, 25)),
]
HOLES = diameter((60, 25), 5, before="2 x ")


def leaning(x: float) -> list[Entity]:
    return chain((0, 0), (80, 0), (x, 40), (0, 40))


def halves(w: float) -> list[Entity]:
    return [*chain((0, -w / 2), (60, -w / 2), (60, w / 2), (0, w / 2)), line((-5, 0), (65, 0), "centre")]


CASES = {
    "a width": Case(plate(80), plate(80.4), [across((0, 0), (80, 0), typed="80.4"), *PLATE, HOLES]),
    "a width, tied by hand": Case(
        plate(80),
        plate(80.4),
        [across((0, 0), (80.4, 0)), *PLATE, HOLES],
        ties={"across 80.4": ((0, 25), (80, 25))},
    ),
    "two holes by one figure": Case(
        plate(80),
        [*chain((0, 0), (80, 0), (80, 50), (0, 50)), circle((60, 25), 6), circle((20, 25), 6)],
        [across((0, 0), (80, 0)), *PLATE, diameter((60, 25), 5, typed="2 x Ø12")],
    ),
    "an angle": Case(
        leaning(80 + 40),
        leaning(80 + 40 / 3**0.5),
        [across((0, 0), (80, 0)), up((0, 0), (0, 40)), angle((80, 0), (120, 40), (160, 0), typed="60°")],
    ),
    "a slot's reach": Case(
        slot(40), slot(44), [across((0, 0), (40, 0), typed="44"), radius((0, 0), 8, before="2 x ")]
    ),
    "round corners": Case(
        rounded(80, 50, 10),
        rounded(80, 50, 8),
        [across((0, 0), (80, 0)), up((0, 0), (0, 50)), radius((10, 10), 10, typed="4 x R8")],
    ),
    "a link's boss": Case(
        [*link(80, 24, 12), line((-30, 0), (100, 0), "centre")],
        [*link(80, 25, 12), line((-30, 0), (100, 0), "centre")],
        [across((0, 0), (80, 0)), radius((0, 0), 24, typed="R25"), radius((80, 0), 12)],
    ),
    "halves about an axis": Case(
        halves(30), halves(32), [across((0, -15), (60, -15)), up((60, -15), (60, 15), typed="32")]
    ),
    "a slanted edge by its length": Case(
        chain((0, 0), (40, 30), (40, 60), (0, 60)),
        chain((0, 0), (44, 33), (44, 60), (0, 60)),
        [
            along((0, 0), (40, 30), 36.86989764584402, typed="55"),
            up((0, 0), (0, 60)),
            angle((0, 0), (40, 30), (40, 0)),
        ],
    ),
}


def key_of(case: Case, decision: Decision | None, listing: Listing = "sheet") -> Key:
    key = dimensioned(case.drawn, case.dimensions)
    bare = prepare(key, RuleSet(listing=listing))
    edges = {tuple(round(v, 6) for v in e.at): e.id for e in bare.linework.edges}
    of = {
        f"{d.turn_deg:g} {d.measured:g}".replace("0 ", "across ", 1): d.id for d in bare.linework.dimensions
    }
    ties = {of[name]: (edges[a], edges[b]) for name, (a, b) in case.ties.items()}
    bare = prepare(key, RuleSet(listing=listing, ties=ties))
    wrong = {s.id for s in bare.proof.sizes if not s.agrees}
    assert len(wrong) == len(undecided(bare)) == 1
    decided = dict.fromkeys(wrong, decision) if decision else {}
    rules = RuleSet(listing=listing, ties=ties, decided=decided)
    return prepare(key, from_json(to_json(rules)))


@pytest.mark.parametrize("listing", ["sheet", "feature"])
@pytest.mark.parametrize("decision", ["drawing", "value", "sheet"])
@pytest.mark.parametrize("name", CASES)
def test_what_was_decided_is_what_is_full(name: str, decision: Decision, listing: Listing) -> None:
    case = CASES[name]
    key = key_of(case, decision, listing)
    assert not undecided(key)
    assert not key.proof.contradictions
    full, not_full = (case.drawn, case.said) if decision == "sheet" else (case.said, case.drawn)
    assert check(key, drawing(full)).earned == 100
    assert check(key, drawing(not_full)).earned < 97


@pytest.mark.parametrize("name", CASES)
def test_undecided_the_dimension_contradicts(name: str) -> None:
    key = key_of(CASES[name], None)
    assert len(key.proof.contradictions) == 1
    assert not key.proof.complete


def test_a_drawing_that_other_dimensions_hold_stays_and_goes_on_contradicting() -> None:
    key = dimensioned(
        plate(80), [across((0, 0), (80, 0)), across((0, 50), (80, 50), typed="81"), *PLATE, HOLES]
    )
    (wrong,) = (s.id for s in prepare(key).proof.sizes if not s.agrees)
    after = prepare(key, RuleSet(decided={wrong: "drawing"}))
    assert after.proof.contradictions == (wrong,)
    assert undecided(after) == [
        "The dimension says 81 mm; the drawing measures 80 mm there. The drawing cannot follow: other "
        "dimensions fix it. Correct the key, or mark by the value."
    ]
    assert check(after, drawing(plate(80))).earned == 100


def test_a_drawing_that_would_become_another_stays() -> None:
    step = chain((0, 0), (80, 0), (80, 20), (60, 20), (60, 50), (0, 50))
    said = [
        across((0, 0), (80, 0), typed="55"),
        across((0, 50), (60, 50)),
        up((0, 0), (0, 50)),
        up((80, 0), (80, 20)),
    ]
    key = dimensioned(step, said)
    (wrong,) = (s.id for s in prepare(key).proof.sizes if not s.agrees)
    after = prepare(key, RuleSet(decided={wrong: "drawing"}))
    assert after.proof.contradictions == (wrong,)
    assert check(after, drawing(step)).earned == 100


def test_ids_stay_when_the_drawing_follows() -> None:
    case = CASES["a width"]
    before, after = key_of(case, None).linework, key_of(case, "drawing").linework
    assert before.by_id.keys() == after.by_id.keys()
    moved = [i for i in before.curves if before.curves[i][1:3] != after.curves[i][1:3]]
    assert len(moved) == 3  # both long edges and the right one
    assert max(x for e in after.edges for x, _ in e.ends) == pytest.approx(80.4, abs=1e-12)


def test_the_command_line_says_it(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    case = CASES["a width"]
    (tmp_path / "key.dxf").write_bytes(write_dxf(dimensioned(case.drawn, case.dimensions)))
    (tmp_path / "a.dxf").write_bytes(write_dxf(drawing(case.drawn)))
    assert main(["prove", str(tmp_path / "key.dxf")]) == 0
    said = capsys.readouterr().out
    assert "The dimension says 80.4 mm; the drawing measures 80 mm there." in said
    assert 'Decide with a rule set: "decided": {"d' in said
    assert main(["check", str(tmp_path / "key.dxf"), str(tmp_path / "a.dxf")]) == 0
    assert "says 80.4 mm; the drawing measures 80 mm" in capsys.readouterr().err
