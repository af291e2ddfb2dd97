"""What was moved together: things of which each stands off by the same vector are one slip.

- *shift*: by how much a feature stands off as it is: the same for both its ends, or for its centre.

A pin hole with its circles and axis, a pocket, a side view that stands too high. Of nearly everything, that
is the slip of the whole drawing (see `place`); here, something else stands where it should.
"""

from __future__ import annotations

import math

import numpy as np

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge, Tee
from evenmark.core.linework.nodes import cluster
from evenmark.core.marking.examination import Asked, Examination
from evenmark.core.marking.kinds.common import drawn_place
from evenmark.core.marking.model import Finding
from evenmark.core.marking.place import ENOUGH

_OF_PLACE = frozenset({"position", "free-ends"})


def follow_together(findings: list[Finding], _asked: Asked, exam: Examination) -> dict[int, int]:
    """Return which findings of places follow the first that is off by the same vector, and which axes were
    moved with them."""
    off = [f for f in findings if f.verdict in ("near", "missed", "follows") and f.kind in _OF_PLACE]
    moved = [(f, shift) for f in off if (shift := _shift(f.features[0], exam)) is not None]
    if not moved:
        return {}
    reach = exam.tolerances.position + exam.slack
    labels, _ = cluster(np.array([shift for _, shift in moved], np.float64), reach)
    groups: list[int] = labels.tolist()
    too_many = _nearly_everything([f for f, _ in moved], groups, exam)
    led: dict[int, int] = {}
    first: dict[int, tuple[Finding, Point]] = {}
    for (f, shift), label in zip(moved, groups, strict=True):
        if label in too_many or f.verdict == "follows":
            continue
        if label in first:
            led[f.id] = first[label][0].id
        else:
            first[label] = (f, shift)
    for f in findings:
        if f.kind == "axis" and f.verdict in ("near", "missed"):
            lead = next((g for g, shift in first.values() if _axis_moved(f.features[0], shift, exam)), None)
            if lead is not None:
                led[f.id] = lead.id
    return led


def _nearly_everything(moved: list[Finding], groups: list[int], exam: Examination) -> set[int]:
    """Return the groups that hold so much of the key that the drawing as a whole was moved."""
    curves: dict[int, set[str]] = {}
    for f, label in zip(moved, groups, strict=True):
        joint = exam.key.meetings.get(f.features[0])
        ids = [i for i, _ in joint.ends] if joint is not None else f.features
        curves.setdefault(label, set()).update(ids)
    enough = ENOUGH * len(exam.key.curves)
    return {label for label, ids in curves.items() if len(ids) >= enough}


def _shift(feature: str, exam: Examination) -> Point | None:
    """Return by how much a feature stands off; None where it was not moved as it is."""
    f = exam.key.by_id[feature]
    if isinstance(f, CircleFeature):
        there = exam.partner(feature)
        if not isinstance(there, CircleFeature):
            return None
        return (there.center[0] - f.center[0], there.center[1] - f.center[1])
    if isinstance(f, Corner | Tee):
        at = drawn_place(f, exam)
        return None if at is None else (at[0] - f.at[0], at[1] - f.at[1])
    ends, drawn = exam.ends_for.get(feature), exam.partner(feature)
    if isinstance(f, ArcFeature) and isinstance(drawn, ArcFeature):
        if not tol.within(drawn.radius - f.radius, exam.tolerances.length, exam.slack):
            return None
        return (drawn.center[0] - f.center[0], drawn.center[1] - f.center[1])
    if not isinstance(f, Edge) or ends is None:
        return None
    (ax, ay), (bx, by) = ((p[0] - q[0], p[1] - q[1]) for p, q in zip(ends, f.ends, strict=True))
    return (
        (ax, ay) if tol.within(math.hypot(ax - bx, ay - by), exam.tolerances.position, exam.slack) else None
    )


def _axis_moved(axis: str, shift: Point, exam: Examination) -> bool:
    """Say whether an axis lies on its supporting line once it is moved back."""
    key, drawn = exam.key.curves[axis], exam.partner(axis)
    if not isinstance(key, Edge) or not isinstance(drawn, Edge):
        return False
    back = [(x - shift[0], y - shift[1]) for x, y in drawn.ends]
    off = max(distance_to_supporting_line(p, key.start, key.end) for p in back)
    return tol.within(off, exam.tolerances.position, exam.slack)
