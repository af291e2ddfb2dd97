"""Repeats within a set are one slip: four holes drawn with the diameter as radius cost what one does
(marking.md, Verdicts).

- *set*: circles, arcs or edges that an `equal` or `evenly-spaced` requirement names, and round features of
  one size on one layer of the key.
- The first finding of a set is charged; those of the same kind that are off by just as much follow it.
"""

from __future__ import annotations

import math
from collections import defaultdict

from evenmark.core.geometry import tolerance as tol
from evenmark.core.linework import patterns
from evenmark.core.linework.model import ArcFeature, CircleFeature
from evenmark.core.marking.examination import Ask, Asked, Examination
from evenmark.core.marking.groups import patterns_of, pitch_circles
from evenmark.core.marking.model import Finding

_SIZES = ("radius", "length")
MOST_SIZES = 200
"""Among more sizes that are wrong, nothing is looked for."""


def follow_repeats(findings: list[Finding], asked: Asked, exam: Examination) -> dict[int, int]:
    """Return which repeats follow the first of their set, by the ids of findings."""
    open_: dict[str, list[Finding]] = defaultdict(list)
    for f in findings:
        if f.verdict in ("near", "missed") and f.kind in (*_SIZES, "position") and len(f.features) == 1:
            open_[f.features[0]].append(f)
    if len(open_) < 2:
        return {}
    led: dict[int, int] = {}
    for features in _sets(asked, exam, open_):
        for kind in _SIZES:
            _repeat(features, kind, open_, exam, led)
    _confused(open_, exam, led)
    _exchanged(open_, exam, led)
    for a in patterns_of(asked):
        _moved_pattern(a, open_, exam, led)
    return led


def _confused(open_: dict[str, list[Finding]], exam: Examination, led: dict[int, int]) -> None:
    """Charge it once that diameters were taken for radii, or the reverse, however many circles of however
    many sizes it was done to: one habit is one slip."""
    for factor in (2.0, 0.5):
        found = [
            f
            for found in open_.values()
            for f in found
            if f.kind in _SIZES
            and f.features[0][0] == "c"
            and f.id not in led
            and isinstance(f.measured, float)
            and isinstance(f.expected, float)
            and tol.within(f.measured - factor * f.expected, exam.tolerances.length, exam.slack)
        ]
        if len(found) > 1:
            first = min(f.id for f in found)
            led.update({f.id: first for f in found if f.id != first})


def _exchanged(open_: dict[str, list[Finding]], exam: Examination, led: dict[int, int]) -> None:
    """Charge two sizes that were exchanged once: each has the one that the other was asked for."""
    found = [
        f
        for fs in open_.values()
        for f in fs
        if f.kind in _SIZES and isinstance(f.measured, float) and isinstance(f.expected, float)
    ]
    for n, f in enumerate(found if len(found) <= MOST_SIZES else ()):
        for g in found[n + 1 :]:
            if f.id not in led and g.id not in led and are_exchanged(f, g, exam):
                led[max(f.id, g.id)] = min(f.id, g.id)


def are_exchanged(f: Finding, g: Finding, exam: Examination) -> bool:
    """Say whether each of two sizes of one kind was drawn as the other was asked for."""
    if f.kind != g.kind or not isinstance(f.measured, float) or not isinstance(g.measured, float):
        return False
    assert isinstance(f.expected, float)
    assert isinstance(g.expected, float)
    reach = exam.tolerances.length + exam.slack
    return abs(f.measured - g.expected) <= reach and abs(g.measured - f.expected) <= reach


def _sets(asked: Asked, exam: Examination, open_: dict[str, list[Finding]]) -> list[tuple[str, ...]]:
    out = [a.r.features for a in (*asked.of("equal"), *patterns_of(asked))]
    alike: dict[tuple[str, str, int], list[str]] = defaultdict(list)
    for i in open_:
        f = exam.key.by_id[i]
        if isinstance(f, ArcFeature | CircleFeature):
            alike[i[0], f.layer, round(f.radius / (2 * exam.tolerances.length))].append(i)
    return out + [tuple(ids) for ids in alike.values() if len(ids) > 1]


def _repeat(
    features: tuple[str, ...],
    kind: str,
    open_: dict[str, list[Finding]],
    exam: Examination,
    led: dict[int, int],
) -> None:
    found = [f for i in features for f in open_.get(i, ()) if f.kind == kind and f.id not in led]
    first: list[Finding] = []
    for f in sorted(found, key=lambda f: f.id):
        if f.deviation is None:
            continue
        same = next(
            (g for g in first if tol.within(g.deviation - f.deviation, exam.tolerances.length, exam.slack)),  # type: ignore[operator]
            None,
        )
        if same is None:
            first.append(f)
        else:
            led[f.id] = same.id


def circles_of_another_count(
    asked: patterns.Pattern, features: tuple[str, ...], exam: Examination
) -> list[CircleFeature]:
    """Return what was drawn on the circle of a pattern, of its size and nobody else's, where that is evenly
    spaced all round as another number; nothing where it is not."""
    first = exam.key.by_id[features[0]]
    if not isinstance(first, CircleFeature) or asked.form != "circle":
        return []
    used = {p.id for i in features if (p := exam.pairing.partners.get(i))} | set(exam.pairing.spare)
    size, reach = exam.tolerances.length + exam.slack, exam.tolerances.position + exam.slack
    ring = [
        c
        for c in exam.drawn.circles
        if c.id in used
        and abs(c.radius - first.radius) <= size
        and abs(math.dist(c.center, asked.center) - asked.radius) <= reach
    ]
    n = len(ring)
    if n == len(features) or n < 3:
        return []
    laid = patterns.find([c.center for c in ring], reach)
    if laid is None or laid.form != "circle" or abs(abs(laid.step_rad) * n - math.tau) > tol.FULL_TURN_RAD:
        return []
    return ring


def _moved_pattern(a: Ask, open_: dict[str, list[Finding]], exam: Examination, led: dict[int, int]) -> None:
    """Charge a pattern that is turned, moved, or on another circle once: its drawn places are an even pattern
    themselves."""
    found = [f for i in a.r.features for f in open_.get(i, ()) if f.kind == "position"]
    if len(found) < 2:
        return
    partners = [exam.partner(i) for i in a.r.features]
    drawn = [p.center for p in partners if isinstance(p, ArcFeature | CircleFeature)]
    pattern: patterns.Pattern = a.data
    if len(drawn) < len(partners):
        drawn = [c.center for c in circles_of_another_count(pattern, a.r.features, exam)]
        laid = patterns.on_circle(drawn) if drawn else None
    elif pattern.form == "row":
        laid = patterns.in_row(drawn)
    else:
        laid = patterns.on_circle(drawn, None, pattern.step_rad)
    if laid is None or not tol.within(laid.mismatch, exam.tolerances.position, exam.slack):
        return
    first = min(found, key=lambda f: f.id)
    led.update({f.id: first.id for f in found if f is not first})
    for i in pitch_circles(a, exam):
        ring = exam.partner(i)
        if isinstance(ring, CircleFeature) and _is_ring_of(laid, ring, exam):
            led.update({f.id: first.id for f in open_.get(i, ()) if f.id not in led})


def _is_ring_of(laid: patterns.Pattern, ring: CircleFeature, exam: Examination) -> bool:
    off = max(math.dist(laid.center, ring.center), abs(laid.radius - ring.radius))
    return laid.form == "circle" and tol.within(off, exam.tolerances.position, exam.slack)
