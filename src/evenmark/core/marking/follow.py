"""Follow-through: a slip is charged once (marking.md, Verdicts).

- *repair*: bring ends that should meet to where they would meet; move a group back; take a feature as drawn
  rightly.
- A finding *follows* when it is met after repairing only what is charged.

Along outlines, see `seams`; for sets of equal or evenly spaced features, see `repeats`; for what was moved
as one, `together`; for relations, `follow_relations`. This module repairs joints: an outline that is open
only at joints that are charged themselves follows the widest of them; an edge that is short or long only
because its end misses a joint follows that joint.
"""

from __future__ import annotations

from collections.abc import Sequence

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge, End, Outline, Tee
from evenmark.core.linework.relations import tangent_off
from evenmark.core.marking.examination import Asked, Examination, keeps_to
from evenmark.core.marking.examine import MEASURES
from evenmark.core.marking.follow_corners import follow_fillets, follow_parallels, follow_sharp, there
from evenmark.core.marking.follow_dimensions import follow_dimensions
from evenmark.core.marking.follow_groups import follow_gone, follow_marks
from evenmark.core.marking.follow_habits import follow_loose_ends, follow_rounded, follow_strokes
from evenmark.core.marking.follow_nodes import follow_nodes, follow_sweeps
from evenmark.core.marking.follow_relations import follow_relations
from evenmark.core.marking.follow_rigid import follow_rigid
from evenmark.core.marking.follow_touching import follow_tees, follow_touching
from evenmark.core.marking.follow_views import follow_halves, follow_views
from evenmark.core.marking.led import Led
from evenmark.core.marking.model import Finding
from evenmark.core.marking.propagation import follow_propagation
from evenmark.core.marking.repeats import follow_repeats
from evenmark.core.marking.together import follow_together


def follow(off: Sequence[Finding], asked: Asked, exam: Examination) -> dict[int, Finding]:
    """Return, of the findings that are not met, those that follow a charged one, marked so, by id."""
    touched = [f for f in off if f.verdict in ("missed", "near")]
    absent = [f for f in off if f.verdict == "absent"]
    for step in _STEPS if touched else ():
        led = _without_rounds(step(touched, asked, exam), touched)
        touched = _led_by(led, touched)
    for late in _OF_GROUPS if touched or len(absent) > 1 else ():
        led = _without_rounds(late([*touched, *absent], asked, exam), [*touched, *absent])
        touched, absent = _led_by(led, touched), _led_by(led, absent)
    led_ones = {f.id: f for f in (*touched, *absent) if f.verdict == "follows"}
    led_ones |= {f.id: f for f in off if f.verdict == "follows" and f.follows in led_ones}
    # what is followed may follow another itself: the charged one at the end is named
    for f in list(led_ones.values()):
        leader, seen = f.follows, {f.id}
        while leader in led_ones and leader not in seen:
            seen.add(leader)
            leader = led_ones[leader].follows
        led_ones[f.id] = f._replace(follows=leader)
    return led_ones


def _without_rounds(led: Led, findings: list[Finding]) -> Led:
    """Return who follows whom without what would come back to itself: somebody is charged for every slip."""
    leader = {f.id: f.follows for f in findings if f.verdict == "follows" and f.follows is not None}
    out: Led = {}
    for i, first in led.items():
        at, seen = first, set[int]()
        while at not in seen and at != i and (further := out.get(at, leader.get(at))) is not None:
            seen.add(at)
            at = further
        if at != i and at not in seen:
            out[i] = first
    return out


def _led_by(led: Led, findings: list[Finding]) -> list[Finding]:
    """Return findings of which some follow others."""
    if not led:
        return findings
    return [f._replace(verdict="follows", follows=led[f.id]) if f.id in led else f for f in findings]


def _follow_joints(findings: list[Finding], asked: Asked, exam: Examination) -> Led:
    charged = {f.features[0]: f for f in findings if f.kind == "joined" and f.verdict == "missed"}
    if not charged:
        return {}
    at_end: dict[End, Finding] = {}
    for i, finding in charged.items():
        joint = exam.key.by_id[i]
        assert isinstance(joint, Corner | Tee)
        for end in joint.ends:
            at_end.setdefault(end, finding)
    astray = _astray(charged, exam)
    right = exam.with_repaired(frozenset(astray)) if astray else exam
    led: Led = {}
    for f in findings:
        leader: Finding | None = None
        if f.verdict == "follows":
            continue
        lost = next((astray[i] for i in f.features if i in astray), None)
        if lost is not None and f.kind in ("length", "angle", "tangent", "perpendicular", "parallel"):
            m = MEASURES[f.kind](asked.by_id[f.id], right)
            if m.deviation is not None and tol.within(m.deviation, f.tolerance or 0.0, exam.slack):
                led[f.id] = lost.id
                continue
        if f.kind == "closed":
            leader = _open_at(f, charged, exam)
        elif f.kind == "length":
            leader = _short_at(f, at_end, exam)
        elif f.kind == "tangent":
            leader = _touching_at(f, at_end, exam)
        elif f.kind == "position" and f.features[0] in charged:
            leader = charged[f.features[0]] if _on_its_way(f.features[0], exam) else None
        if leader is not None:
            led[f.id] = leader.id
    return led


def _astray(charged: dict[str, Finding], exam: Examination) -> dict[str, Finding]:
    """Return the edges that are off only because one of their ends misses a charged joint: brought there,
    they lie on the key."""
    reach = exam.tolerances.position
    out: dict[str, Finding] = {}
    for i, finding in charged.items():
        joint = exam.key.by_id[i]
        assert isinstance(joint, Corner | Tee)
        for edge_id, which in joint.ends:
            edge = exam.key.curves[edge_id]
            if (
                isinstance(edge, Edge)
                and isinstance(exam.partner(edge_id), Edge)
                and not there(exam, edge_id, which, edge.ends[which], reach)
                and there(exam, edge_id, 1 - which, edge.ends[1 - which], reach)
            ):
                out[edge_id] = finding
    return out


def _open_at(f: Finding, charged: dict[str, Finding], exam: Examination) -> Finding | None:
    """Return the widest charged joint of an outline if every gap in it is at a charged joint."""
    outline = exam.key.by_id[f.features[0]]
    assert isinstance(outline, Outline)
    for n, (i, back) in enumerate(outline.members):
        before, was_back = outline.members[n - 1]
        here, there = exam.drawn_end(i, 1 if back else 0), exam.drawn_end(before, 0 if was_back else 1)
        if (
            here
            and there
            and not tol.within(distance(here, there), f.tolerance or 0.0, exam.slack)
            and outline.corners[n] not in charged
        ):
            return None
    here_charged = [charged[c] for c in outline.corners if c in charged]
    return max(here_charged, key=lambda j: (j.deviation or 0.0, -j.id), default=None)


def _on_its_way(joint_id: str, exam: Examination) -> bool:
    """Say whether the edges that end at a joint keep to their supporting lines, so that they miss its place
    only by missing each other."""
    joint = exam.key.by_id[joint_id]
    assert isinstance(joint, Corner | Tee)
    edges = [(exam.key.curves[i], exam.partner(i)) for i, _ in joint.ends]
    return all(
        isinstance(edge, Edge) and isinstance(drawn, Edge) and keeps_to(drawn, edge, exam)
        for edge, drawn in edges
    )


def _short_at(f: Finding, at_end: dict[End, Finding], exam: Examination) -> Finding | None:
    """Return the charged joint at the one end that makes an edge short or long.

    Repaired, that end stands on the key's point; so the length is met if the edge keeps to its supporting
    line and its other end is in place."""
    edge = exam.key.by_id[f.features[0]]
    drawn = exam.partner(edge.id)
    assert isinstance(edge, Edge)
    if not isinstance(drawn, Edge):
        return None
    reach = exam.tolerances.position
    off = [which for which, p in enumerate(edge.ends) if not there(exam, edge.id, which, p, reach)]
    if len(off) != 1:
        return None
    joint = at_end.get((edge.id, off[0]))
    end, point = exam.drawn_end(edge.id, off[0]), edge.ends[off[0]]
    if joint is None or end is None:
        return None
    other = edge.ends[1 - off[0]]
    along = distance(other, point)
    aside = (
        abs((point[0] - other[0]) * (end[1] - other[1]) - (point[1] - other[1]) * (end[0] - other[0])) / along
    )
    return joint if tol.within(aside, reach, exam.slack) else None


def _touching_at(f: Finding, at_end: dict[End, Finding], exam: Examination) -> Finding | None:
    """Return the charged joint at which two features that touch rightly along their supporting lines miss the
    touch point."""
    b, a = f.features
    ends = exam.key_joints.get((a, b), (None, None))
    for feature, which in ((a, ends[0]), (b, ends[1])):
        if which is None:
            continue
        joint = at_end.get((feature, which))
        if joint is not None and _lines_touch(a, b, exam, f.tolerance or 0.0):
            return joint
    return None


def _lines_touch(a: str, b: str, exam: Examination, tolerance: float) -> bool:
    pa, pb = exam.partner(a), exam.partner(b)
    if not isinstance(pa, Edge | ArcFeature | CircleFeature) or not isinstance(
        pb, ArcFeature | CircleFeature
    ):
        return False
    return tol.within(tangent_off(pa, pb, None, None), tolerance, exam.slack)


_STEPS = (
    follow_rounded,
    follow_rigid,
    follow_repeats,
    follow_fillets,
    follow_sharp,
    follow_parallels,
    follow_nodes,
    follow_sweeps,
    follow_propagation,
    follow_together,
    follow_touching,
    follow_tees,
    _follow_joints,
    follow_loose_ends,
    follow_relations,
    follow_dimensions,
)
"""What is led by what, one step after the other: each looks at what those before left."""
_OF_GROUPS = (follow_strokes, follow_halves, follow_views, follow_marks, follow_gone)
"""What then follows with its group or in another view, what is missing among it."""
