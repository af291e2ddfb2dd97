"""Sets of features: `equal`, `symmetric`, `evenly-spaced`, `count`."""

from __future__ import annotations

import math
from collections.abc import Sequence

from evenmark.core.geometry.lines import Straight, image
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework import patterns
from evenmark.core.linework.model import (
    AnyFeature,
    ArcFeature,
    CircleFeature,
    Edge,
    Feature,
    Linework,
    TextFeature,
)
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure
from evenmark.core.marking.kinds.common import NOTHING, PARTLY, as_a, feature_of, lacking
from evenmark.core.marking.model import Requirement, RuleError


def size_of(f: AnyFeature) -> float:
    """Return the size by which features of one kind are equal: length, radius, height."""
    if isinstance(f, Edge):
        return f.length
    if isinstance(f, ArcFeature | CircleFeature):
        return f.radius
    return f.height if isinstance(f, TextFeature) else 0.0


def ask_equal(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask features of one kind for one size."""
    first = feature_of(r, s)
    if len({i[0] for i in r.features}) > 1:
        raise RuleError(f"Requirement {r.id}: equal is asked of features of one kind.")
    return Ask(r, first, first.at, 0.0, s.tolerances.length)


def equal(a: Ask, exam: Examination) -> Measure:
    """Measure the largest difference of sizes."""
    missing = lacking(a.r.features, exam)
    if missing is not None:
        return missing
    sizes = [size_of(exam.drawn_for[i]) for i in a.r.features]
    off = max(sizes) - min(sizes)
    return Measure(off, off)


def _all_of(work: Linework, letter: str) -> Sequence[AnyFeature]:
    """Return the features whose ids begin with a letter."""
    return {"e": work.edges, "a": work.arcs, "c": work.circles, "x": work.texts}[letter]  # type: ignore[return-value]


# symmetric


def _mirrored(p: Point, axis: Edge) -> Point:
    return image(p, Straight(axis.start, axis.end))


def mirror_off(a: AnyFeature, b: AnyFeature, axis: Edge) -> float:
    """Return how far the mirror image of one feature lies from another of its kind; infinite for another
    kind."""
    if type(a) is not type(b):
        return math.inf
    if isinstance(a, CircleFeature | ArcFeature) and isinstance(b, CircleFeature | ArcFeature):
        off = max(distance(_mirrored(a.center, axis), b.center), abs(a.radius - b.radius))
        if isinstance(a, ArcFeature) and isinstance(b, ArcFeature):
            start, end = _mirrored(a.end, axis), _mirrored(a.start, axis)
            off = max(off, distance(start, b.start), distance(end, b.end))
        return off
    if isinstance(a, Edge) and isinstance(b, Edge):
        p, q = _mirrored(a.start, axis), _mirrored(a.end, axis)
        return min(
            max(distance(p, b.start), distance(q, b.end)), max(distance(p, b.end), distance(q, b.start))
        )
    return distance(_mirrored(a.at, axis), b.at)


def ask_symmetric(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask features to be each other's or their own mirror images about an edge. Raises RuleError where the
    key's are not."""
    axis = as_a(feature_of(r, s), Edge)
    pairs = []
    for i in r.features[1:]:
        f = s.key.by_id[i]
        best = min(_all_of(s.key, i[0]), key=lambda g: mirror_off(f, g, axis))
        if mirror_off(f, best, axis) > s.tolerances.position:
            raise RuleError(f"Requirement {r.id}: {i} is not symmetric about {axis.id} in the key itself.")
        pairs.append((i, best.id))
    return Ask(r, axis, axis.at, 0.0, s.tolerances.position, data=tuple(pairs))


def symmetric(a: Ask, exam: Examination) -> Measure:
    """Measure the largest mismatch of mirror images about the drawn axis."""
    assert a.feature is not None
    ids = (a.feature.id, *dict.fromkeys(i for pair in a.data for i in pair))
    missing = lacking(ids, exam)
    if missing is not None:
        return missing
    axis = exam.drawn_for[a.feature.id]
    if not isinstance(axis, Edge):
        return PARTLY
    off = max(mirror_off(exam.drawn_for[i], exam.drawn_for[j], axis) for i, j in a.data)
    return Measure(off, off) if math.isfinite(off) else PARTLY


# evenly spaced


def ask_evenly(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask circles to be evenly spaced round a circle or in a row. Raises RuleError where the key's are
    not."""
    centers = [as_a(s.key.by_id[i], CircleFeature).center for i in r.features]
    found = patterns.find(centers, s.tolerances.position)
    if found is None:
        raise RuleError(f"Requirement {r.id}: the circles are not evenly spaced in the key itself.")
    first = feature_of(r, s)
    return Ask(r, first, first.at, 0.0, s.tolerances.position, data=found)


def evenly(a: Ask, exam: Examination) -> Measure:
    """Measure how far the farthest drawn centre lies from an ideal pattern laid as well as it can be."""
    missing = lacking(a.r.features, exam)
    if missing is not None:
        return missing
    centers = _centers([exam.drawn_for[i] for i in a.r.features])
    if centers is None:
        return PARTLY
    asked: patterns.Pattern = a.data
    laid = (
        patterns.in_row(centers) if asked.form == "row" else patterns.on_circle(centers, None, asked.step_rad)
    )
    off = laid.mismatch if laid is not None else max(distance(p, asked.center) for p in centers)
    return Measure(off, off)


def _centers(drawn: Sequence[Feature]) -> list[Point] | None:
    """Return the centres of what was drawn; None where something of it has none."""
    rounds = [f for f in drawn if isinstance(f, ArcFeature | CircleFeature)]
    return [f.center for f in rounds] if len(rounds) == len(drawn) else None


# on a circle


def ask_on_circle(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask circles to have their centres on another, their pitch circle, which is named first. Raises
    RuleError where the key's have not."""
    ring = feature_of(r, s)
    assert isinstance(ring, CircleFeature)
    centers = [as_a(s.key.by_id[i], CircleFeature).center for i in r.features[1:]]
    if _off_circle(ring, centers) > s.tolerances.position:
        raise RuleError(f"Requirement {r.id}: the centres do not lie on {ring.id} in the key itself.")
    return Ask(r, ring, ring.at, 0.0, s.tolerances.position)


def on_circle(a: Ask, exam: Examination) -> Measure:
    """Measure how far the farthest drawn centre lies from the drawn pitch circle."""
    missing = lacking(a.r.features, exam)
    if missing is not None:
        return missing
    ring, *holes = (exam.drawn_for[i] for i in a.r.features)
    centers = _centers(holes)
    if not isinstance(ring, CircleFeature) or centers is None:
        return PARTLY
    off = _off_circle(ring, centers)
    return Measure(off, off)


def _off_circle(ring: CircleFeature, centers: Sequence[Point]) -> float:
    return max(abs(distance(p, ring.center) - ring.radius) for p in centers)


# count


def _like(f: AnyFeature, work: Linework, reach: float) -> int:
    want = size_of(f)
    return sum(1 for g in _all_of(work, f.id[0]) if abs(size_of(g) - want) <= reach)


def ask_count(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask how many features there are of one kind and size."""
    f = feature_of(r, s)
    return Ask(r, f, f.at, float(_like(f, s.key, s.tolerances.length)), 0.0)


def count(a: Ask, exam: Examination) -> Measure:
    """Count what was drawn of that kind and size."""
    assert a.feature is not None
    found = float(_like(a.feature, exam.drawn, exam.tolerances.length + exam.slack))
    if not found:
        return NOTHING
    return Measure(found, found - a.number)


KINDS = (
    Kind(
        name="equal",
        title="Equal sizes",
        word="equal to",
        listed=24,
        of=(),
        more="eacx",
        least=2,
        ask=ask_equal,
        measure=equal,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="symmetric",
        title="Symmetry",
        word="axis of symmetry for",
        listed=25,
        of=("e",),
        more="eacx",
        least=1,
        ask=ask_symmetric,
        measure=symmetric,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="implied",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="evenly-spaced",
        title="Equal spacing",
        word="evenly spaced with",
        listed=26,
        of=(),
        more="c",
        least=3,
        ask=ask_evenly,
        measure=evenly,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=True,
        habit="implied",
        rank=None,
        watched=True,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="on-circle",
        title="Holes on their pitch circle",
        word="pitch circle of",
        listed=27,
        of=("c",),
        more="c",
        least=1,
        ask=ask_on_circle,
        measure=on_circle,
        unit="length",
        weight=2,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=True,
        habit="implied",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="count",
        title="Counts",
        word="how many like it",
        listed=28,
        of=("eacx",),
        more="",
        least=0,
        ask=ask_count,
        measure=count,
        unit="count",
        weight=4,
        weight_by_sheet=1,
        part="read",
        settles="",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
)
