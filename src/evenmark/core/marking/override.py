"""Verdicts that an instructor sets beside the engine's: the mark sheet stays as it is, what counts is worked
out from both.

- *override*: another verdict for one finding, with a reason; its marks follow from the verdict unless they
  are said.
- *held*: a mark sheet with all its overrides applied, as JSON (`docs/formats/marks.md`).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal

from evenmark.core.marking.marks_types import CauseJson, FindingJson, MarksJson
from evenmark.core.marking.model import Verdict
from evenmark.core.marking.rules_types import RulesJson
from evenmark.core.marking.score import step_of
from evenmark.core.plain import plain_number as plain

SET_BY_HAND: tuple[Verdict, ...] = ("met", "near", "missed", "absent")
"""Verdicts that a person gives; `follows` is worked out by the engine alone."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Override:
    """Another verdict for one finding; ``marks`` of None lets them follow from the verdict."""

    verdict: Verdict
    reason: str
    marks: Decimal | None = None


def marks_for(verdict: Verdict, possible: Decimal, near_share: float, step: Decimal) -> Decimal:
    """Return what a verdict earns of the marks of its requirement, to the last ``step``."""
    if verdict in ("met", "follows"):
        return possible
    if verdict == "near":
        return (possible * Decimal(str(near_share))).quantize(step, ROUND_HALF_UP)
    return Decimal(0)


def held(marks: MarksJson, overrides: Mapping[int, Override], rules: RulesJson) -> MarksJson:
    """Return a mark sheet with overrides applied: each changed finding keeps the engine's own verdict and
    marks beside the new.

    ``rules`` is the rule set as stored, for the near share and what a unit left unconverted costs. A cause
    whose findings are all met now is ``set_aside``. Overrides of findings that the sheet does not have are
    passed over.
    """
    step = step_of(float(marks["score"]["possible"]), sum(1 for f in marks["findings"] if f["possible"] > 0))
    near_share = float(rules.get("near_share", 0.5))
    findings = [_held(f, overrides.get(f["id"]), near_share, step) for f in marks["findings"]]
    if not any("engine" in f for f in findings):
        return {**marks}
    right = {f["id"] for f in findings if "engine" in f and f["verdict"] == "met"}
    findings = [_whole(f) if f.get("lost_with") in right and "engine" not in f else f for f in findings]
    charged = any(n["code"] == "unit-not-converted" for n in marks["notes"])
    charge = Decimal(str(rules.get("unit_charge", 0.0))) if charged else Decimal(0)
    taken = sum((Decimal(str(f.get("taken", 0))) for f in findings), Decimal(0))
    earned = max(Decimal(0), sum((Decimal(str(f["earned"])) for f in findings), Decimal(0)) - taken - charge)
    met = {f["id"] for f in findings if f["verdict"] == "met"}
    causes = [_set_aside(c) if met.issuperset(c["explains"]) else c for c in marks["causes"]]
    return {
        **marks,
        "findings": findings,
        "causes": causes,
        "score": {"earned": plain(float(earned)), "possible": marks["score"]["possible"]},
    }


def _whole(f: FindingJson) -> FindingJson:
    return {**f, "earned": f["possible"]}


def _set_aside(c: CauseJson) -> CauseJson:
    return {**c, "set_aside": True}


def _held(f: FindingJson, by_hand: Override | None, near_share: float, step: Decimal) -> FindingJson:
    if by_hand is None:
        return f
    possible = Decimal(str(f["possible"]))
    earned = (
        marks_for(by_hand.verdict, possible, near_share, step) if by_hand.marks is None else by_hand.marks
    )
    left: FindingJson = {**f}
    left.pop("taken", None)  # the person's word is all that counts
    return {
        **left,
        "verdict": by_hand.verdict,
        "earned": plain(float(min(max(earned, Decimal(0)), possible))),
        "follows": None,
        "engine": {"verdict": f["verdict"], "earned": f["earned"]},
        "reason": by_hand.reason,
    }
