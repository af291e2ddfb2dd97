"""Every cause is named on its slip for three keys, on no innocent drawing, and on no other slip."""

from __future__ import annotations

import pytest

from evenmark.core.marking import MarkSheet, RuleSet, check, prepare
from evenmark.core.marking.slips.records import SLIPS
from tests.builders import codes
from tests.core.cause_cases import CASES, Case

ALSO = {
    # what an edge of the wrong length carries along is told beside what is wrong with the edge itself
    "follows-edge": {"unexplained"},
    # the edge itself: its step; what comes after it is carried along
    "clockwise-angle": {"follows-edge"},
    "angle-from-vertical": {"follows-edge"},
    "angle-from-previous": {"follows-edge"},
    "supplementary-angle": {"follows-edge"},
    "axes-swapped": {"follows-edge"},
    "sign-flipped": {"follows-edge"},
    "left-behind": {"shifted"},
}
"""Causes that truly stand beside another on its slip."""


def sheet_of(case: Case) -> MarkSheet:
    return check(prepare(case.key, RuleSet(**case.rules), start=case.start), case.attempt)


def test_no_cause_is_left_out() -> None:
    assert set(CASES) == set(SLIPS)


@pytest.mark.parametrize("i", range(3))
@pytest.mark.parametrize("code", CASES)
def test_a_cause_is_named_on_its_slip_and_no_other(code: str, i: int) -> None:
    case = CASES[code](i)
    sheet = sheet_of(case)
    named = codes(sheet)
    assert code in named, [(c.code, c.says) for c in sheet.causes]
    assert set(named) - {code} <= ALSO.get(code, set()), [(c.code, c.says) for c in sheet.causes]
    assert named.count(code) == 1 or code == "unexplained"
    open_ = {f.id for f in sheet.findings if f.verdict in ("near", "missed", "absent")}
    assert open_ <= {i for c in sheet.causes for i in c.explains}
    assert sheet.earned < sheet.possible
    assert all(c.says.endswith(".") and "  " not in c.says for c in sheet.causes)


@pytest.mark.parametrize("i", range(3))
@pytest.mark.parametrize("code", CASES)
def test_no_cause_is_named_where_nothing_is_wrong(code: str, i: int) -> None:
    case = CASES[code](i)
    sheet = check(prepare(case.key, RuleSet(**case.rules)), case.key)
    assert (codes(sheet), sheet.earned) == ([], sheet.possible)
