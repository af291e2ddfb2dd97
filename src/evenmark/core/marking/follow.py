"""Follow-through: a slip is charged once (marking.md, Verdicts).

- *repair*: bring ends that should meet to where they would meet.
- A finding *follows* when it is met after repairing only what is charged.

Along outlines, see `seams`. This module repairs joints: an outline that is open only at joints that are charged themselves follows the widest of them;
an edge that is short or long only because its end misses a joint follows that joint.
"""

from __future__ import annotations

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import distance
from evenmark.core.linework.model import Arc, Circle, Corner, Edge, End, Outline, Tee
from evenmark.core.marking.case import Case
from evenmark.core.marking.model import Finding
from evenmark.core.marking.relations import tangent_off
from evenmark.core.marking.seams import follow_seams


def follow(findings: list[Finding], case: Case) -> list[Finding]:
    """Return the findings with those that follow a charged joint marked so."""
    findings = follow_seams(findings, case)
    charged = {f.features[0]: f for f in findings if f.kind == "joined" and f.verdict == "missed"}
    if not charged:
        return findings
    at_end: dict[End, Finding] = {}
    for i, finding in charged.items():
        joint = case.key.by_id[i]
        assert isinstance(joint, Corner | Tee)
        for end in joint.ends:
            at_end.setdefault(end, finding)
    return [_followed(f, charged, at_end, case) if f.verdict in ("missed", "near") else f for f in findings]


def _followed(f: Finding, charged: dict[str, Finding], at_end: dict[End, Finding], case: Case) -> Finding:
    leader: Finding | None = None
    if f.kind == "closed":
        leader = _open_at(f, charged, case)
    elif f.kind == "length":
        leader = _short_at(f, at_end, case)
    elif f.kind == "tangent":
        leader = _touching_at(f, at_end, case)
    return f._replace(verdict="follows", follows=leader.id) if leader else f


def _open_at(f: Finding, charged: dict[str, Finding], case: Case) -> Finding | None:
    """Return the widest charged joint of an outline if every gap in it is at a charged joint."""
    outline = case.key.by_id[f.features[0]]
    assert isinstance(outline, Outline)
    for n, (i, back) in enumerate(outline.members):
        before, was_back = outline.members[n - 1]
        here, there = case.drawn_end(i, 1 if back else 0), case.drawn_end(before, 0 if was_back else 1)
        if (
            here
            and there
            and not tol.within(distance(here, there), f.tolerance or 0.0, case.slack)
            and outline.corners[n] not in charged
        ):
            return None
    here_charged = [charged[c] for c in outline.corners if c in charged]
    return max(here_charged, key=lambda j: (j.deviation or 0.0, -j.id), default=None)


def _short_at(f: Finding, at_end: dict[End, Finding], case: Case) -> Finding | None:
    """Return the charged joint at the one end that makes an edge short or long.

    Repaired, that end stands on the key's point; so the length is met if the edge keeps to its carrier and its other end
    is in place.
    """
    edge = case.key.by_id[f.features[0]]
    drawn = case.partner(edge.id)
    assert isinstance(edge, Edge)
    if not isinstance(drawn, Edge):
        return None
    reach = case.tolerances.position
    off = [which for which, p in enumerate(edge.ends) if not _there(case, edge.id, which, p, reach)]
    if len(off) != 1:
        return None
    joint = at_end.get((edge.id, off[0]))
    end, point = case.drawn_end(edge.id, off[0]), edge.ends[off[0]]
    if joint is None or end is None:
        return None
    other = edge.ends[1 - off[0]]
    along = distance(other, point)
    aside = (
        abs((point[0] - other[0]) * (end[1] - other[1]) - (point[1] - other[1]) * (end[0] - other[0])) / along
    )
    return joint if tol.within(aside, reach, case.slack) else None


def _there(case: Case, feature: str, which: int, point: tuple[float, float], reach: float) -> bool:
    end = case.drawn_end(feature, which)
    return end is not None and tol.within(distance(end, point), reach, case.slack)


def _touching_at(f: Finding, at_end: dict[End, Finding], case: Case) -> Finding | None:
    """Return the charged joint at which two features that touch rightly along their carriers miss the touch point."""
    b, a = f.features
    ends = case.key_joints.get((a, b), (None, None))
    for feature, which in ((a, ends[0]), (b, ends[1])):
        if which is None:
            continue
        joint = at_end.get((feature, which))
        if joint is not None and _carriers_touch(a, b, case, f.tolerance or 0.0):
            return joint
    return None


def _carriers_touch(a: str, b: str, case: Case, tolerance: float) -> bool:
    pa, pb = case.partner(a), case.partner(b)
    if not isinstance(pa, Edge | Arc | Circle) or not isinstance(pb, Arc | Circle):
        return False
    return tol.within(tangent_off(pa, pb, None, None), tolerance, case.slack)
