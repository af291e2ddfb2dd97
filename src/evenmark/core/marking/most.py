"""What a slip costs at most, in drawings of ten features and of two hundred alike: where most of a drawing is
right, one wrong size costs no more than the whole part that it belongs to, and one habit no more than a habit
may, however often it was done (marking.md, Groups are one)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from decimal import ROUND_DOWN, Decimal

from evenmark.core.marking.charges import HABITS, VIEWS, slips_of
from evenmark.core.marking.kinds import SENSES, those
from evenmark.core.marking.model import Cause, Charges, Finding, RuleSet

_DONE = HABITS | those(lambda k: k.habit == "shared" or k.part in ("layers", "look"))
_SIZES = those(lambda k: k.settles == "size")
_BESIDE = VIEWS | {SENSES}
"""What has a price of its own."""


def eased(
    findings: Sequence[Finding],
    causes: Sequence[Cause],
    earned_for: Mapping[int, Decimal],
    lost_with: Mapping[int, int],
    marks: Mapping[int, Decimal],
    rules: RuleSet,
    scale: Decimal,
    step: Decimal,
    right: Decimal,
) -> dict[int, Decimal]:
    """Return what findings earn: those of one slip, and what was lost with them, lose no more together than
    it may cost. ``findings`` are those that may earn less than their marks (see `score.looked_at`), ``right``
    is the share of the drawing that is."""
    out, charges = dict(earned_for), rules.charges
    if charges is None:
        return out
    root = {f.id: f.root for f in findings} | dict(lost_with)
    behind: dict[int, list[int]] = {}
    for i, n in root.items():
        if i in marks and i in out:
            behind.setdefault(n, []).append(i)
    for group in slips_of(findings, causes):
        most = _most(group, charges, findings, right)
        lost = {i: marks[i] - out[i] for f in group for i in behind.get(f.id, ())}
        total = sum(lost.values(), Decimal(0))
        if most is not None and total > most * scale:
            dear = {i: (v * most * scale / total).quantize(step, ROUND_DOWN) for i, v in lost.items()}
            first = max(lost, key=lambda i: (lost[i], -i))
            dear[first] += most * scale - sum(dear.values(), Decimal(0))  # what rounding left
            out |= {i: marks[i] - v for i, v in dear.items()}
    return out


def _most(
    slip: Sequence[Finding], charges: Charges, findings: Sequence[Finding], right: Decimal
) -> Decimal | None:
    """Return what a slip costs at most, of 100; None where nothing is said: of what is a matter of views, and
    where less than most of a drawing is right, half of the way from ``enough`` to all."""
    gone = [f.id for f in slip if f.verdict == "absent"]
    if not gone and all(f.kind in _DONE for f in slip) and len(slip) > 1:
        return Decimal(str(charges.habit_most))
    if right < (1 + Decimal(str(charges.enough))) / 2 or any(f.kind in _BESIDE for f in slip):
        return None
    if gone:
        group = any(f.follows in gone and f.measured is None and f.kind in _SIZES for f in findings)
        return Decimal(str(charges.floors_most if group else charges.missing_most))
    return Decimal(str(charges.size_most))
