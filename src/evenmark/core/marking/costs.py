"""What each slip cost: what its findings did not earn, what was lost with them, and what was charged.

Worked out from a mark sheet's JSON, so that verdicts set by hand count as they stand.
"""

from __future__ import annotations

from decimal import Decimal

from evenmark.core.marking.marks_types import MarksJson

_NONE = Decimal(0)


def costs_of(marks: MarksJson) -> tuple[dict[int, Decimal], dict[int, Decimal]]:
    """Return what each cause cost, and what each finding did that no cause explains, with what follows them;
    together everything that was lost. No mark counts twice: what several causes explain goes to the first."""
    cause_of: dict[int, int] = {}
    for cause in marks["causes"]:
        for i in cause["explains"]:
            cause_of.setdefault(i, cause["id"])
    by_cause: dict[int, Decimal] = {c["id"]: _NONE for c in marks["causes"]}
    by_finding: dict[int, Decimal] = {}
    for f in marks["findings"]:
        lost = Decimal(str(f["possible"])) - Decimal(str(f["earned"])) + Decimal(str(f.get("taken", 0)))
        if not lost:
            continue
        heads = (f["id"], f.get("lost_with"), f["follows"])
        explained = next((cause_of[i] for i in heads if i in cause_of), None)
        if explained is not None:
            by_cause[explained] += lost
        else:
            head = next(i for i in (f.get("lost_with"), f["follows"], f["id"]) if i is not None)
            by_finding[head] = by_finding.get(head, _NONE) + lost
    return by_cause, by_finding
