"""Examine: each requirement held against one attempt becomes a finding with a verdict (marking.md, Verdicts).

Verdicts use unrounded numbers. What a requirement measures is in `kinds`; here it is only judged.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from evenmark.core.geometry import tolerance as tol
from evenmark.core.linework.model import Edge
from evenmark.core.marking.bulk import MEASURED, Bulk, bulks_of
from evenmark.core.marking.examination import ABSENT, FOLLOWS, Ask, Examination, Measure
from evenmark.core.marking.kept import KeptFindings
from evenmark.core.marking.kinds import IN_DEGREES, KINDS, those
from evenmark.core.marking.model import Finding, Verdict

_OWN = those(lambda k: k.met_where_exact == "own")
"""What is met when a feature lies on its key feature everywhere, unless the instructor set that tolerance."""
_BETWEEN = those(lambda k: k.met_where_exact == "all")
"""What is met when both its features do."""
MEASURES = {name: kind.measure for name, kind in KINDS.items()}


def examine(
    asks: tuple[Ask, ...],
    exam: Examination,
    bulks: tuple[Bulk, ...] | None = None,
    kept: KeptFindings | None = None,
) -> list[Finding]:
    """Return one finding for each requirement that is asked, in order; ``bulks`` are those of the same
    requirements, and ``kept`` what is kept of other attempts at the same key, if known."""
    out: list[Finding | None] = [None] * len(asks)
    left: Sequence[Bulk] = bulks_of(asks) if bulks is None else bulks
    if kept is not None:
        out, left = kept.again(exam.alike)
    slack = exam.slack
    make = tuple.__new__
    follows = False
    for bulk in left:
        measured = MEASURED[bulk.kind](bulk, exam) if bulk.kind else [None] * len(bulk.rows)
        for n, found in zip(bulk.rows, measured, strict=True):
            a = asks[n]
            if found is not None:
                value, off = found
                r, _, at, expected, allowed, _, _ = a
                if r.tolerance is not None:
                    allowed = r.tolerance
                if off is None or (allowed is not None and -allowed - slack <= off <= allowed + slack):
                    # met, as `within` has it: nearly every finding of nearly every attempt
                    asked = (r.id, r.kind, r.features, r.layer, at, expected)
                    out[n] = make(Finding, (*asked, value, off, allowed, "met", (), None, (), ""))
                    continue
            out[n] = one = examine_one(a, exam)
            follows = follows or one.verdict == FOLLOWS
    findings: list[Finding] = out  # type: ignore[assignment]
    if kept is not None:
        kept.keep(findings, left, exam.alike)
    return _resolve_follows(findings, exam) if follows else findings


def examine_one(a: Ask, exam: Examination) -> Finding:
    """Return the finding of one requirement."""
    r = a.r
    m = MEASURES[r.kind](a, exam)
    allowed = a.allowed if r.tolerance is None else r.tolerance
    return Finding(
        r.id,
        r.kind,
        r.features,
        r.layer,
        a.at if m.at is None else m.at,
        a.expected if m.expected is None else m.expected,
        m.measured,
        m.deviation,
        allowed,
        verdict_of(a, m, allowed, exam),
        items=m.items,
        what=m.what,
    )


def verdict_of(a: Ask, m: Measure, allowed: float | None, exam: Examination) -> Verdict:
    """Return the verdict on one measure; ``allowed`` is the tolerance that holds."""
    if m.state == ABSENT:
        return "absent"
    if m.state == FOLLOWS:
        return "follows"
    if m.agrees is not None:
        return "met" if m.agrees else "missed"
    if m.deviation is None or allowed is None:
        return "missed"
    if tol.within(m.deviation, allowed, exam.slack):
        return "met"
    r = a.r
    if r.tolerance is None and (
        (r.kind in _OWN and r.features[0] in exam.exact)
        or (r.kind in _BETWEEN and all(i in exam.exact for i in r.features))
    ):
        return "met"
    if exam.spared and tol.within(m.deviation, allowed + _spared(a, exam), exam.slack):
        return "met"
    near = r.near if r.near is not None else a.near if m.near is None else m.near
    return "near" if near and tol.within(m.deviation, near, exam.slack) else "missed"


def _spared(a: Ask, exam: Examination) -> float:
    """Return by how much more a requirement may be off because the key itself is flawed at its features."""
    more = max((exam.spared.get(i, 0.0) for i in exam.key.curves_of(a.r.features)), default=0.0)
    if a.r.kind not in IN_DEGREES or not more:
        return more
    shortest = min(
        (e.length for i in a.r.features if isinstance(e := exam.key.by_id.get(i), Edge)), default=0.0
    )
    return math.degrees(math.atan2(more, shortest)) if shortest else 0.0


def _resolve_follows(findings: list[Finding], exam: Examination) -> list[Finding]:
    """Name, for each finding that follows, the absent one that it follows."""
    first_absent: dict[str, int] = {}
    for f in findings:
        if f.verdict == "absent" and len(f.features) == 1:
            first_absent.setdefault(f.features[0], f.id)
    out = []
    for f in findings:
        if f.verdict == "follows":
            missing = [first_absent[i] for i in parts_of(f, exam) if i in first_absent]
            f = f._replace(follows=missing[0]) if missing else f._replace(verdict="absent")
        out.append(f)
    return out


def parts_of(f: Finding, exam: Examination) -> list[str]:
    """Return the curves that a finding's features are made of."""
    return exam.key.curves_of(f.features)
