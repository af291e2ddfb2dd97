"""One habit, one charge: what was done all over costs no more than a habit may, however often it was done
(marking.md, Groups are one)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from decimal import ROUND_DOWN, Decimal

from evenmark.core.marking.charges import HABITS, slips_of
from evenmark.core.marking.kinds import those
from evenmark.core.marking.model import Cause, Finding, RuleSet

_DONE = HABITS | those(lambda k: k.habit == "shared" or k.part in ("layers", "look"))


def eased(
    findings: Sequence[Finding],
    causes: Sequence[Cause],
    earned_for: Mapping[int, Decimal],
    lost_with: Mapping[int, int],
    marks: Mapping[int, Decimal],
    rules: RuleSet,
    scale: Decimal,
    step: Decimal,
) -> dict[int, Decimal]:
    """Return what findings earn: those of one habit, and what was lost with them, lose no more together than
    a habit may cost. ``findings`` are those that may earn less than their marks (see `score.looked_at`)."""
    out, charges = dict(earned_for), rules.charges
    if charges is None:
        return out
    most = Decimal(str(charges.habit_most)) * scale
    root = {f.id: f.root for f in findings} | dict(lost_with)
    for group in slips_of(findings, causes):
        if len(group) < 2 or any(f.kind not in _DONE or f.verdict == "absent" for f in group):
            continue
        own = {f.id for f in group}
        lost = {i: marks[i] - out[i] for i, n in root.items() if n in own and i in marks and i in out}
        total = sum(lost.values(), Decimal(0))
        if total > most:
            for i, v in lost.items():
                out[i] = marks[i] - (v * most / total).quantize(step, ROUND_DOWN)
    return out
