"""Follow-through of habits: ends that all run past, or stop short of, where they should meet, and coordinates
that were all rounded, are one slip (marking.md, Groups are one)."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge, Tee
from evenmark.core.marking.examination import Asked, Examination, keeps_to
from evenmark.core.marking.led import Led
from evenmark.core.marking.model import Finding
from evenmark.core.marking.strokes import strokes_of

SEVERAL = 3
"""So many ends that miss are a habit, by however much each; two that miss by as much are, too."""
ROUNDED_TO = (0, 1, 2, 3)
"""Decimals that a display shows."""


def follow_loose_ends(findings: list[Finding], asked: Asked, exam: Examination) -> Led:
    """Return which joints follow the first of several at which ends miss each other by a slip of the hand."""
    by_id = asked.by_id
    loose = [
        f
        for f in findings
        if f.verdict == "missed"
        and isinstance(joint := by_id[f.id].feature, Corner | Tee)
        and isinstance(f.measured, float)
        and is_slip_of_the_hand(joint, f.measured, exam)
    ]
    if len(loose) < 2:
        return {}
    sizes = [f.measured for f in loose if isinstance(f.measured, float)]
    if len(loose) < SEVERAL and not tol.within(max(sizes) - min(sizes), exam.tolerances.length, exam.slack):
        return {}
    return {f.id: loose[0].id for f in loose[1:]}


def is_slip_of_the_hand(joint: Corner | Tee, off: float, exam: Examination) -> bool:
    """Say whether the ends at a joint miss each other by running past or stopping short on their own
    supporting lines, by no more than a share of what they are ends of."""
    reach, astray = exam.tolerances.position, list[float]()
    for i, which in joint.ends:
        edge, drawn, end = exam.key.curves[i], exam.partner(i), exam.drawn_end(i, which)
        if not isinstance(edge, Edge):
            continue
        if end is None or not isinstance(drawn, Edge) or not keeps_to(drawn, edge, exam):
            return False
        if not tol.within(distance(end, joint.at), reach, exam.slack):
            astray.append(edge.length)
    return bool(astray) and tol.within(off, tol.HAND_SHARE * min(astray), exam.slack)


def follow_rounded(findings: list[Finding], _asked: Asked, exam: Examination) -> Led:
    """Return what follows the first finding where the drawing is the key with all its coordinates rounded."""
    if len(findings) < 2 or rounded_to(exam) is None:
        return {}
    return {f.id: findings[0].id for f in findings[1:]}


def follow_strokes(findings: list[Finding], _asked: Asked, exam: Examination) -> Led:
    """Return what follows the first of several letterings that are missing because all were drawn as
    lines."""
    strokes = strokes_of(exam, exam.pairing.spare)
    lacking = [f for f in findings if f.verdict == "absent" and f.features and f.features[0] in strokes]
    if len({f.features[0] for f in lacking}) < 2:
        return {}
    return {f.id: lacking[0].id for f in lacking[1:]}


def rounded_to(exam: Examination) -> int | None:
    """Return the decimals to which all coordinates and radii of the key were rounded in a drawing; None where
    they were not, or fewer than several of them change by it: those are so many wrong sizes."""
    if len(exam.drawn_for) < len(exam.key.curves):
        return None
    reach = max(tol.TYPED_LEAST, exam.slack)
    left, changed = list(ROUNDED_TO), list[float]()
    for asked, drawn in _numbers(exam):
        left = [digits for digits in left if abs(round(asked, digits) - drawn) <= reach]
        if not left:  # nearly always the first that is wrong says so
            return None
        if abs(asked - drawn) > reach:
            changed.append(asked)
    changed.sort()
    apart = sum(b - a > reach for a, b in itertools.pairwise(changed))
    return left[0] if changed and apart + 1 >= SEVERAL else None


def _numbers(exam: Examination) -> Iterator[tuple[float, float]]:
    """Yield the numbers of a key with those that were drawn for them; one that no drawing has where something
    else was drawn."""
    for i, asked in exam.key.curves.items():
        drawn = exam.partner(i)
        points: list[tuple[Point, Point]] = []
        if isinstance(asked, CircleFeature) and isinstance(drawn, CircleFeature):
            points = [(asked.center, drawn.center)]
            yield asked.radius, drawn.radius
        elif isinstance(asked, Edge | ArcFeature) and type(drawn) is type(asked) and i in exam.ends_for:
            points = list(zip(asked.ends, exam.ends_for[i], strict=True))
        else:
            yield 0.0, 1.0
        for p, q in points:
            yield from zip(p, q, strict=True)
