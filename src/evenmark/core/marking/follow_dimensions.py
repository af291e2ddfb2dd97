"""Follow-through of dimensions: one that measures rightly what was drawn wrongly is no slip of its own.

Each of its points must lie, in the drawing, on what was drawn for the feature that the key's point lies on:
a corner, a meeting, a centre, the rim of something round, or an end.
"""

from __future__ import annotations

from collections import defaultdict

from evenmark.core.drawing.annotations import Dimension
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature
from evenmark.core.marking.examination import Asked, Examination
from evenmark.core.marking.kinds.common import drawn_place, key_place
from evenmark.core.marking.model import Finding

_OWN = ("position", "radius", "length", "angle", "axis", "free-ends")


def follow_dimensions(findings: list[Finding], _asked: Asked, exam: Examination) -> dict[int, int]:
    """Return which findings of dimensions follow the first slip at what they measure."""
    wanted = [f for f in findings if f.kind == "dimension" and f.verdict in ("near", "missed")]
    if not wanted:
        return {}
    off: dict[str, list[Finding]] = defaultdict(list)
    for f in findings:
        if f.kind in _OWN and len(f.features) == 1:
            off[f.features[0]].append(f)
            joint = exam.key.meetings.get(f.features[0])
            for i, _ in joint.ends if joint is not None else ():
                off[i].append(f)
    led: dict[int, int] = {}
    for f in wanted:
        key, drawn = exam.key.by_id[f.features[0]], exam.drawn_for.get(f.features[0])
        if not isinstance(key, Dimension) or not isinstance(drawn, Dimension) or drawn.typed is not None:
            continue
        found = _measured(key, drawn, exam)
        causes = [g for i in found for g in off.get(i, ())]
        if found and causes:
            first = min(causes, key=lambda g: (_OWN.index(g.kind), g.id))
            led[f.id] = first.root
    return led


def _measured(key: Dimension, drawn: Dimension, exam: Examination) -> list[str]:
    """Return the features that a dimension of the key measures, if the drawn one measures what was drawn for
    them; else nothing."""
    if len(key.points) != len(drawn.points):
        return []
    for points in (drawn.points, drawn.points[::-1]):
        found = [_at(p, q, exam) for p, q in zip(key.points, points, strict=True)]
        if all(i is not None for i in found):
            return [i for i in found if i is not None]
    return []


def _at(p: Point, q: Point, exam: Examination) -> str | None:
    """Return the feature on which a point lies in the key and another in the drawing."""
    reach = exam.tolerances.position + exam.slack
    for joint in exam.key.meetings.values():
        if distance(joint.at, p) <= reach:
            there = drawn_place(joint, exam)
            if there is not None and distance(there, q) <= reach:
                return joint.id
    for f in exam.key.rounds:
        made = exam.partner(f.id)
        if not isinstance(made, ArcFeature | CircleFeature):
            continue
        if distance(key_place(f), p) <= reach and distance(made.center, q) <= reach:
            return f.id
        on_rim = tol.within(distance(f.center, p) - f.radius, reach, exam.slack)
        if on_rim and tol.within(distance(made.center, q) - made.radius, reach, exam.slack):
            return f.id
    for edge in exam.key.edges:
        ends = exam.ends_for.get(edge.id, ())
        if any(
            distance(a, p) <= reach and distance(b, q) <= reach for a, b in zip(edge.ends, ends, strict=False)
        ):
            return edge.id
    return None
