"""What a student is told of a check of their own work before handing in: what is not met yet, and no number,
however often it is asked.

- *answer*: what was drawn where the key asks for a size or a place: the number that was measured. Whether it
  is right is told of a few different ones, then no more: whoever tries one after the other learns no size.
- *candidates*: more pieces of a sort than the key has. Which of them is right is never told: sizes and
  places of that sort are held back until the others are taken away."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.marking.marks_types import FindingJson, ValueJson

MOST_ANSWERS = 4
"""Different answers of which it is told whether they are right, for each size and place."""
_SORTS = {"e": "edge", "a": "circle or arc", "c": "circle or arc", "f": "curve"}
_MET = ("met", "follows")
Answer = list[float]
_Size = tuple[object, ...]
Answers = Mapping[str, Answer]
"""The answers of one check that were told, by the number of the finding."""


class SelfCheck(NamedTuple):
    """What is not met, what is held back and why, in sentences; and the answers that were told."""

    not_met: list[FindingJson]
    held_back: list[FindingJson]
    says: list[str]
    answers: dict[str, Answer]


def self_check(
    findings: Sequence[FindingJson],
    drawn: Iterable[str],
    partners: Mapping[str, str],
    before: Sequence[Answers],
) -> SelfCheck:
    """Return what a check says. ``drawn`` are the ids of what was drawn, ``partners`` which of them stands
    for which feature of the key, ``before`` what was told in earlier checks."""
    matched = set(partners.values())
    candidates = Counter(_SORTS[i[0]] for i in drawn if i[0] in _SORTS and i not in matched)
    told: dict[_Size, list[Answer]] = defaultdict(list)
    for f in findings:
        for earlier in before:
            _is_told(told[_size_of(f)], earlier.get(str(f["id"])))
    not_met: list[FindingJson] = []
    held: list[FindingJson] = []
    tried = 0
    answers: dict[str, Answer] = {}
    for f in findings:
        answer = _answer(f["measured"])
        if _is_size(f) and any(candidates[sort] for sort in _sorts_of(f)):
            held.append(f)
            continue
        if answer is not None:
            if not _is_told(told[_size_of(f)], answer):
                held.append(f)
                tried += 1
                continue
            answers[str(f["id"])] = answer
        if f["verdict"] not in _MET:
            not_met.append(f)
    return SelfCheck(not_met, held, _says(candidates, tried), answers)


def _size_of(f: FindingJson) -> _Size:
    """Return what a finding's answer is to: holes of one size are one size, however many there are."""
    return (f["kind"], f["expected"]) if isinstance(f["expected"], int | float) else (f["kind"], f["id"], "")


def _is_told(told: list[Answer], answer: Answer | None) -> bool:
    """Note an answer beside those that are told of a size; return whether it is told."""
    if answer is None or any(_same(answer, one) for one in told):
        return True
    if len(told) >= MOST_ANSWERS:
        return False
    told.append(answer)
    return True


def _answer(measured: ValueJson) -> Answer | None:
    if isinstance(measured, list | tuple):
        return [float(v) for v in measured]
    return [float(measured)] if isinstance(measured, int | float) else None


def _is_size(f: FindingJson) -> bool:
    """Whether a finding is about a number or a place."""
    return any(isinstance(f[name], int | float | list | tuple) for name in ("expected", "measured"))


def _sorts_of(f: FindingJson) -> set[str]:
    """Return the sorts of pieces that a finding is about; joints and outlines are made of any."""
    found = {_SORTS.get(i[0], "") for i in f["features"]}
    return set(_SORTS.values()) if "" in found and any(i[0] in "kto" for i in f["features"]) else found


def _same(a: Answer, b: Answer) -> bool:
    return len(a) == len(b) and math.dist(a, b) <= tol.TYPED_LEAST


def _says(candidates: Counter[str], tried: int) -> list[str]:
    says = []
    if candidates:
        more = " and ".join(f"{n} {sort}{'' if n == 1 else 's'}" for sort, n in sorted(candidates.items()))
        says.append(
            f"More is drawn than this drawing has "
            f"({more.replace('circle or arcs', 'circles or arcs')}). Sizes and places of these are told "
            "once the extra ones are deleted."
        )
    if tried:
        what = "One size or place was" if tried == 1 else f"{tried} sizes and places were"
        says.append(
            f"{what} tried in {MOST_ANSWERS} ways: whether the next one is right is told after handing in."
        )
    return says
