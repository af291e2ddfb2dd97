"""Checks of one's own work give no numbers: programs that ask a hundred times learn no size that the sheet
does not print, whatever they draw; the day's seed chooses sizes and the order of trying."""

from __future__ import annotations

import random
from collections.abc import Callable
from functools import cache

import pytest

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.marking import RuleSet, prepare
from evenmark.core.marking.engine import Key, check_any
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.marks_types import FindingJson
from evenmark.core.marking.self_check import MOST_ANSWERS, SelfCheck, self_check
from tests.extent import DAY, daily

PLATE = "rectangle 0, 0; 120 by 70\n"
SIZES = [n / 2 for n in range(8, 72)]
"""Sixty-four radii that a bore may have."""
CHECKS = 99


@cache
def key_of(radius: float, many: int) -> Key:
    return prepare(build(from_text(PLATE + bores([radius] * many))).drawing, RuleSet())


def bores(radii: list[float]) -> str:
    return "".join(f"circle {30 + 40 * n}, 35; radius {r}\n" for n, r in enumerate(radii))


class Student:
    """Somebody who asks, and remembers what was told of the bore at 30, 35."""

    def __init__(self, radius: float, many: int = 1) -> None:
        self.key, self.many = key_of(radius, many), many
        self.before: list[dict[str, list[float]]] = []
        self.features: dict[int, str] = {}
        """Which feature of the key each finding is about."""
        self.kinds: dict[int, str] = {}
        """Of which kind each finding is: a bore may happen to touch an edge, too."""

    def asks(self, text: str) -> SelfCheck:
        drawing = build(from_text(text)).drawing
        checked = check_any([self.key], drawing, {})
        findings = to_json(checked.sheet, "a")["findings"]
        drawn = list(checked.placed.curves)
        said = self_check(findings, drawn, checked.sheet.partners, self.before)
        self.before.append(said.answers)
        self.features |= {f["id"]: "".join(f["features"][:1]) for f in findings}
        self.kinds |= {f["id"]: f["kind"] for f in findings}
        return said

    def right(self, text: str) -> bool | None:
        """Whether all sizes of bores are right, by what is told; None where nothing is."""
        said = self.asks(text)
        if any(map(_is_of_bore, said.held_back)):
            return None
        return not any(map(_is_of_bore, said.not_met))


def _is_of_bore(f: FindingJson) -> bool:
    return "".join(f["features"][:1]).startswith("c")


def one_by_one(student: Student, order: list[float]) -> float | None:
    return next((r for r in order[:CHECKS] if student.right(PLATE + bores([r] * student.many))), None)


def all_at_once(student: Student, order: list[float]) -> float | None:
    """Half of what is left at one centre, again and again."""
    left = list(order)
    for _ in range(CHECKS):
        if len(left) == 1:
            return left[0]
        half = left[: len(left) // 2]
        circles = "".join(f"circle 30, 35; radius {r}\n" for r in half)
        found = student.right(PLATE + circles)
        if found is None:
            return None
        left = half if found else left[len(half) :]
    return None


def beside(student: Student, order: list[float]) -> float | None:
    """One at its place, the others on a construction layer about it."""
    for at in range(0, len(order), 8):
        others = "".join(f"circle 30, 35; radius {r}; layer construction\n" for r in order[at + 1 : at + 8])
        if student.right(PLATE + bores([order[at]]) + others):
            return order[at]
    return None


def in_arcs(student: Student, order: list[float]) -> float | None:
    """Each radius as a piece of its own circle."""
    arcs = "".join(
        f"arc 30, 35; radius {r}; from {5 * n}° to {5 * n + 4}°\n" for n, r in enumerate(order[:60])
    )
    return order[0] if student.right(PLATE + arcs) else None


def at_each_place(student: Student, order: list[float]) -> float | None:
    """Another radius at each of several bores that are all of one size."""
    for at in range(0, len(order) - 3, 3):
        student.asks(PLATE + bores(order[at : at + student.many]))
    return None


PROGRAMS: list[tuple[Callable[[Student, list[float]], float | None], int]] = [
    (one_by_one, 1),
    (one_by_one, 2),
    (all_at_once, 1),
    (beside, 1),
    (in_arcs, 1),
    (at_each_place, 3),
]


@pytest.mark.parametrize("seed", range(DAY * 3, DAY * 3 + 3))
@pytest.mark.parametrize(("program", "many"), daily(PROGRAMS, 4))
def test_no_program_of_a_hundred_checks_learns_a_size(
    program: Callable[[Student, list[float]], float | None], many: int, seed: int
) -> None:
    """It may be lucky with its first few answers: those are told."""
    rng = random.Random(seed)
    order = rng.sample(SIZES, len(SIZES))
    radius = rng.choice(order[MOST_ANSWERS:])  # a program that is not lucky
    student = Student(radius, many)
    program(student, order)
    assert len(student.before) <= CHECKS
    by_kind: dict[str, set[tuple[float, ...]]] = {}
    for answers in student.before:
        for n, a in answers.items():
            if _is_bore(student, n):
                by_kind.setdefault(student.kinds[int(n)], set()).add(tuple(a))
    for told in by_kind.values():  # 0 is how far it is off its place
        assert len({t for t in told if len(t) == 1 and t[0]}) <= MOST_ANSWERS
    told = set().union(*by_kind.values())
    assert not any(t == (radius,) or t == (2 * radius,) for t in told)


def _is_bore(student: Student, number: str) -> bool:
    return student.features[int(number)].startswith("c")


def test_honest_work_is_told() -> None:
    """Put right one after the other, with helper lines taken away again, everything is told."""
    student = Student(9.0)
    said = student.asks(PLATE)
    assert [f["verdict"] for f in said.not_met] == ["absent"] * len(said.not_met)
    assert not said.held_back
    assert student.right(PLATE + bores([18.0])) is False
    said = student.asks(PLATE + bores([9.0]) + "line 0, 0; 30, 35\n")
    assert "1 edge)" in said.says[0]
    assert not any(map(_is_of_bore, said.held_back))
    said = student.asks(PLATE + bores([9.0]))
    assert (said.not_met, said.held_back, said.says) == ([], [], [])
    for _ in range(20):  # asked again, it is told again
        assert student.right(PLATE + bores([9.0])) is True


def test_what_was_told_before_is_told_again_and_no_more() -> None:
    student = Student(9.0)
    for radius in (10.0, 11.0, 12.0, 13.0, 10.0, 13.0):
        assert student.right(PLATE + bores([radius])) is False
    said = student.asks(PLATE + bores([9.0]))
    assert said.held_back
    assert "tried in 4 ways" in said.says[-1]
    assert student.right(PLATE + bores([11.0])) is False
