"""Examine: each requirement held against one attempt becomes a finding with a verdict (marking.md, Verdicts).

Verdicts use unrounded numbers. What a requirement measures is in `measure`; here it is only judged.
"""

from __future__ import annotations

from evenmark.core.geometry import tolerance as tol
from evenmark.core.linework.model import AnyFeature, Corner, Outline, Tee
from evenmark.core.marking.case import ABSENT, FOLLOWS, Ask, Case, Measure
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.model import Finding, Verdict

_OWN = frozenset({"length", "angle", "radius", "sweep", "position"})
"""What is met when a feature lies on its key feature everywhere, unless the instructor set that tolerance."""
_BETWEEN = frozenset({"perpendicular", "parallel", "included-angle", "concentric"})
"""What is met when both its features do."""
MEASURES = {name: kind.measure for name, kind in KINDS.items()}


def examine(asks: tuple[Ask, ...], case: Case) -> list[Finding]:
    """Return one finding for each requirement that is asked, in order."""
    findings: list[Finding] = []
    slack = case.slack
    for a in asks:
        r, _, at, expected, allowed, _, _ = a
        m = MEASURES[r.kind](a, case)
        if r.tolerance is not None:
            allowed = r.tolerance
        measured, off = m[:2]
        if off is not None and allowed is not None and -allowed - slack <= off <= allowed + slack:
            verdict: Verdict = "met"  # as `within` has it; nearly every finding of nearly every attempt
        else:
            verdict = verdict_of(a, m, allowed, case)
        if m.at is not None:
            at = m.at
        if m.expected is not None:
            expected = m.expected
        findings.append(
            Finding(
                r.id,
                r.kind,
                r.features,
                r.layer,
                at,
                expected,
                measured,
                off,
                allowed,
                verdict,
                items=m.items,
            )
        )
    if any(f.verdict == FOLLOWS for f in findings):
        return _resolve_follows(findings, case)
    return findings


def verdict_of(a: Ask, m: Measure, allowed: float | None, case: Case) -> Verdict:
    """Return the verdict on one measure; ``allowed`` is the tolerance that holds."""
    if m.state == ABSENT:
        return "absent"
    if m.state == FOLLOWS:
        return "follows"
    if m.agrees is not None:
        return "met" if m.agrees else "missed"
    if m.deviation is None or allowed is None:
        return "missed"
    if tol.within(m.deviation, allowed, case.slack):
        return "met"
    r = a.r
    if r.tolerance is None and (
        (r.kind in _OWN and r.features[0] in case.exact)
        or (r.kind in _BETWEEN and all(i in case.exact for i in r.features))
    ):
        return "met"
    near = r.near if r.near is not None else a.near if m.near is None else m.near
    return "near" if near and tol.within(m.deviation, near, case.slack) else "missed"


def _resolve_follows(findings: list[Finding], case: Case) -> list[Finding]:
    """Name, for each finding that follows, the absent one that it follows."""
    first_absent: dict[str, int] = {}
    for f in findings:
        if f.verdict == "absent" and len(f.features) == 1:
            first_absent.setdefault(f.features[0], f.id)
    out = []
    for f in findings:
        if f.verdict == "follows":
            missing = [first_absent[i] for i in parts_of(f, case) if i in first_absent]
            f = f._replace(follows=missing[0]) if missing else f._replace(verdict="absent")
        out.append(f)
    return out


def parts_of(f: Finding, case: Case) -> list[str]:
    """Return the curves that a finding's features are made of."""
    out: list[str] = []
    for i in f.features:
        feature: AnyFeature | None = case.key.by_id.get(i)
        if isinstance(feature, Corner | Tee):
            out += [e for e, _ in feature.ends]
            if isinstance(feature, Tee):
                out.append(feature.on)
        elif isinstance(feature, Outline):
            out += [m for m, _ in feature.members]
        else:
            out.append(i)
    return out
