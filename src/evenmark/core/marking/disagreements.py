"""What views say against each other: where one view is wrong about a size and another shows it as it was
asked, a cause is told with both numbers ("the view above says 16, the front view 12")."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import combinations

from evenmark.core.geometry.points import distance
from evenmark.core.linework.model import CircleFeature, Edge
from evenmark.core.linework.wording import number, view_name
from evenmark.core.marking.examination import Examination
from evenmark.core.marking.follow_views import Level, ShownView, levels_at, places_of_curve, shown_views
from evenmark.core.marking.model import Cause, Finding
from evenmark.core.marking.views import inside

MOST_CAUSES, MOST_CURVES = 40, 60
"""Of more causes, or of one about more curves, no disagreement is looked for."""


def with_disagreements(
    causes: Sequence[Cause], wrong: Sequence[Finding], exam: Examination
) -> tuple[Cause, ...]:
    """Return causes, those with what another view says of the same size that are about one view alone;
    ``wrong`` is all that is not met."""
    views = exam.rules.views or ()
    if len(views) < 2 or len(causes) > MOST_CAUSES:
        return tuple(causes)
    shown = shown_views(views)
    return tuple(_with_other_view(c, wrong, shown, exam) for c in causes)


def _with_other_view(
    cause: Cause, wrong: Sequence[Finding], shown: Sequence[ShownView], exam: Examination
) -> Cause:
    found = [f for f in wrong if f.id in cause.explains or f.follows in cause.explains]
    about = (i for f in found for i in exam.key.curves_of(f.features))
    curves = [i for i in dict.fromkeys(about) if i in exam.drawn_for]
    of = {i: s for i in curves for s in shown if inside(exam.key.curves[i].at, s.view.box, 0.0)}
    if not of or len(curves) > MOST_CURVES:
        return cause
    own = next(iter(of.values()))
    curves = [i for i in curves if of.get(i) is own]
    for along, low, high, drawn in _spans(curves, own, exam):
        for other in shown:
            if other in of.values():
                continue
            there = _span_in(other, along, low, high, exam)
            if there is not None and abs(there - (high - low)) <= 2 * exam.tolerances.position:
                says = (
                    f"{cause.says} The {view_name(own.view.name)} says {number(drawn)}, the "
                    f"{view_name(other.view.name)} {number(there)}."
                )
                return replace(cause, says=says)
    return cause


def _spans(
    curves: Sequence[str], own: ShownView, exam: Examination
) -> Iterator[tuple[str, float, float, float]]:
    """Yield what a view says of a size: a direction of the part, two levels of the key, and how far apart
    they were drawn, where that is not as far."""
    reach = exam.tolerances.position + exam.slack
    straight = [i for i in curves if isinstance(exam.key.curves[i], Edge)]
    for i in curves:
        rims = places_of_curve(i, exam) if isinstance(exam.key.curves[i], CircleFeature) else []
        for n, (first, last) in enumerate(zip(rims[0:4:2], rims[1:4:2], strict=True)):  # across, then up
            yield from _span(list(levels_at(*first, own))[n], list(levels_at(*last, own))[n], reach)
    moved = [i for i in straight if _is_elsewhere(i, exam, reach)]
    for i, j in (*combinations(moved, 2), *combinations(straight, 2)):  # both sides of a hole first
        one, other = (places_of_curve(k, exam) for k in (i, j))
        if one and other:
            for a, b in zip(levels_at(*one[0], own), levels_at(*other[0], own), strict=True):
                yield from _span(a, b, reach)
    for i in straight:
        ends = [list(levels_at(asked, drawn, own)) for asked, drawn in places_of_curve(i, exam)]
        for a, b in zip(*ends, strict=True) if len(ends) == 2 else ():
            yield from _span(a, b, reach)


def _is_elsewhere(i: str, exam: Examination, reach: float) -> bool:
    """Say whether both ends of an edge were drawn elsewhere."""
    return all(distance(asked, drawn) > reach for asked, drawn in places_of_curve(i, exam))


def _span(a: Level, b: Level, reach: float) -> Iterator[tuple[str, float, float, float]]:
    low, high = sorted((a, b), key=lambda level: level.at)
    if high.at - low.at > reach and abs(high.off - low.off) > reach:
        yield a.along, low.at, high.at, abs(high.at + high.off - low.at - low.off)


def _span_in(other: ShownView, along: str, low: float, high: float, exam: Examination) -> float | None:
    """Return how far apart another view has two levels; None where it does not show both."""
    reach = exam.tolerances.position + exam.slack
    drawn: dict[float, float] = {}
    for i, f in exam.key.curves.items():
        if i not in exam.drawn_for or not inside(f.at, other.view.box, 0.0):
            continue
        for asked, there in places_of_curve(i, exam):
            for level in levels_at(asked, there, other):
                if level.along != along:
                    continue
                for wanted in (low, high):
                    if abs(level.at - wanted) <= reach:
                        drawn.setdefault(wanted, level.at + level.off)
    return drawn[high] - drawn[low] if len(drawn) == 2 else None
