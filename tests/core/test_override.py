"""Verdicts set by hand: marks follow, totals add up in decimals, the engine's own verdict stays beside, and
nothing else moves."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.marking import check, prepare
from evenmark.core.marking.differences import differences
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.override import SET_BY_HAND, Override, held, marks_for
from evenmark.demo import parts
from evenmark.demo import slips as s
from tests.builders import FIRST_VERSION
from tests.extent import examples

LINK = parts.crank_link().drawing
KEY = prepare(LINK, replace(FIRST_VERSION, placement="slide"))
RULES = {"near_share": 0.5, "unit_charge": 0.0}


def marks_of(drawing: Any = None) -> dict[str, Any]:
    return to_json(check(KEY, drawing or LINK), "a.dxf")


WRONG = marks_of(s.circle_scaled(1, 2)(LINK))
MISSED = next(f for f in WRONG["findings"] if f["verdict"] == "missed")


@pytest.mark.parametrize(
    ("verdict", "possible", "near", "earned"),
    [
        ("met", "2", 0.5, "2"),
        ("near", "2", 0.5, "1.00"),
        ("near", "0.25", 0.5, "0.13"),
        ("near", "0.33", 1 / 3, "0.11"),
        ("missed", "2", 0.5, "0"),
        ("absent", "2", 0.5, "0"),
        ("follows", "2", 0.5, "2"),
    ],
)
def test_what_a_verdict_earns(verdict: Any, possible: str, near: float, earned: str) -> None:
    assert marks_for(verdict, Decimal(possible), near, Decimal("0.01")) == Decimal(earned)


def test_an_override_gives_the_marks_and_keeps_what_the_engine_found() -> None:
    out = held(WRONG, {MISSED["id"]: Override(verdict="met", reason="As the sheet had it.")}, RULES)
    found = next(f for f in out["findings"] if f["id"] == MISSED["id"])
    assert (found["verdict"], found["earned"], found["reason"]) == (
        "met",
        MISSED["possible"],
        "As the sheet had it.",
    )
    assert found["engine"] == {"verdict": "missed", "earned": 0.0}
    assert out["score"]["earned"] == WRONG["score"]["possible"] == 100.0
    assert [c.get("set_aside") for c in out["causes"]] == [True]
    assert WRONG["score"]["earned"] < 100.0  # the sheet itself is as it was
    others = [f for f in out["findings"] if f["id"] != MISSED["id"]]
    assert others == [f for f in WRONG["findings"] if f["id"] != MISSED["id"]]


def test_marks_that_are_said_hold_within_what_there_is() -> None:
    for said, earned in (("0.7", 0.7), ("999", MISSED["possible"]), ("-3", 0.0)):
        by_hand = Override(verdict="missed", reason="Half right.", marks=Decimal(said))
        out = held(WRONG, {MISSED["id"]: by_hand}, RULES)
        assert next(f for f in out["findings"] if f["id"] == MISSED["id"])["earned"] == earned


def test_a_finding_that_is_not_there_is_passed_over() -> None:
    assert held(WRONG, {99999: Override(verdict="met", reason="x")}, RULES) == WRONG


def test_what_a_unit_costs_is_taken_off_again() -> None:
    sheet = {
        **WRONG,
        "notes": [{"code": "unit-not-converted", "says": "..."}],
        "score": {"earned": WRONG["score"]["earned"] - 5, "possible": 100.0},
    }
    out = held(sheet, {MISSED["id"]: Override(verdict="met", reason="x")}, {**RULES, "unit_charge": 5.0})
    assert out["score"]["earned"] == 95.0


@settings(max_examples=examples(60), deadline=None)
@given(
    st.dictionaries(
        st.sampled_from([f["id"] for f in WRONG["findings"]]),
        st.tuples(st.sampled_from(SET_BY_HAND), st.none() | st.decimals(0, 3, places=2)),
    )
)
def test_totals_always_add_up(given_ones: dict[int, tuple[Any, Decimal | None]]) -> None:
    overrides = {i: Override(verdict=v, reason="r", marks=m) for i, (v, m) in given_ones.items()}
    out = held(WRONG, overrides, RULES)
    total = sum((Decimal(str(f["earned"])) for f in out["findings"]), Decimal(0))
    assert Decimal(str(out["score"]["earned"])) == total
    assert all(0 <= f["earned"] <= f["possible"] for f in out["findings"])
    assert {f["id"] for f in out["findings"] if "engine" in f} == set(overrides)


def test_two_sheets_are_compared_finding_by_finding() -> None:
    assert differences(WRONG, WRONG)["same"]
    found = differences(marks_of(), WRONG)
    assert not found["same"]
    assert [(r["finding"], r["before"]["verdict"], r["after"]["verdict"]) for r in found["findings"]] == [
        (MISSED["id"], "met", "missed")
    ]
    assert (found["causes_gone"], len(found["causes_come"])) == ([], 1)
    assert found["earned"] == [100.0, WRONG["score"]["earned"]]
    fewer = {**WRONG, "findings": WRONG["findings"][1:]}
    assert differences(WRONG, fewer)["findings"][0]["after"] is None
    assert differences(fewer, WRONG)["findings"][0]["before"] is None
