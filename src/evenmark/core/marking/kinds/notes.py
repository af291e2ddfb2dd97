"""What is said on a drawing beside lettering: `dimension`, `note`, `hatch`."""

from __future__ import annotations

import math
from functools import reduce
from typing import Any

from evenmark.core.dimensioning.figures import numbers_in
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, HatchFeature, NoteFeature
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure, near_size
from evenmark.core.marking.kinds.common import NOTHING, as_a, feature_of
from evenmark.core.marking.kinds.joints import to_curve
from evenmark.core.marking.model import Requirement


def ask_dimension(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask for a dimension that measures what the key's measures and shows it."""
    d = as_a(feature_of(r, s), Dimension)
    allowed = s.tolerances.angle_deg if d.kind == "angular" else s.tolerances.length * max(1.0, d.factor)
    near = 0.0 if d.kind == "angular" else near_size(d.shown, s.tolerances)
    return Ask(r, d, d.at, d.typed if d.typed is not None else d.shown, allowed, near)


def dimension(a: Ask, exam: Examination) -> Measure:
    """Compare what is measured and what is shown; a text typed over the value does not show what is
    measured."""
    key = as_a(a.feature, Dimension)
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, Dimension):
        return NOTHING
    off = drawn.shown - key.shown
    if drawn.typed is None or drawn.typed == key.typed:
        return Measure(drawn.typed if drawn.typed is not None else drawn.shown, off)
    shown = min(numbers_in(drawn.typed), key=lambda v: abs(v - drawn.shown), default=None)
    return Measure(drawn.typed, None if shown is None else shown - key.shown, agrees=False)


# notes


def ask_note(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask a note's leader to end on the feature that the key's ends on; off any feature, at the key's tip."""
    note = as_a(feature_of(r, s), NoteFeature)
    allowed = max(s.tolerances.near, s.tolerances.position)
    on = min(
        ((to_curve(note.tip, f), i) for i, f in s.key.curves.items() if _may_touch(note.tip, f, allowed)),
        default=(math.inf, ""),
    )
    return Ask(r, note, note.tip, 0.0, allowed, data=on[1] if on[0] <= allowed else "")


def _may_touch(p: Point, f: object, reach: float) -> bool:
    """Leave out what is certainly too far away, cheaply."""
    if isinstance(f, Edge):
        return distance_to_supporting_line(p, f.start, f.end) <= reach
    if isinstance(f, ArcFeature | CircleFeature):
        return abs(distance(p, f.center) - f.radius) <= reach
    return True


def note_off(a: Ask, exam: Examination) -> Measure:
    """Measure how far a leader's tip is from the feature that it should end on."""
    key = as_a(a.feature, NoteFeature)
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, NoteFeature):
        return NOTHING
    on = exam.drawn_for.get(a.data) if a.data else None
    if on is None and a.data:
        on = exam.key.curves[a.data]
    off = to_curve(drawn.tip, on) if on is not None else distance(drawn.tip, key.tip)
    return Measure(off, off)


# hatches


def ask_hatch(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask for a region to be filled; its tolerance is that of lengths times the length of its boundary."""
    h = as_a(feature_of(r, s), HatchFeature)
    around = sum(distance(p, q) for loop in h.loops for p, q in zip(loop, (*loop[1:], loop[0]), strict=True))
    return Ask(r, h, h.at, h.area, max(s.tolerances.length, tol.HATCH_AREA_SHARE * h.size) * around)


def hatch(a: Ask, exam: Examination) -> Measure:
    """Measure the area that is filled and should not be, or should be and is not."""
    key = as_a(a.feature, HatchFeature)
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, HatchFeature):
        return NOTHING
    return Measure(drawn.area, area_between(key, drawn))


def area_between(a: HatchFeature, b: HatchFeature) -> float:
    """Return the area that just one of two hatches fills."""
    ox, oy = a.loops[0][0]
    one, other = (_region(h, ox, oy) for h in (a, b))
    return float(one.symmetric_difference(other).area)


def _region(h: HatchFeature, ox: float, oy: float) -> Any:
    """Return the region inside an odd number of loops, near the origin."""
    from shapely import Polygon  # slow to import, and few drawings are hatched

    parts = [Polygon([(x - ox, y - oy) for x, y in loop]).buffer(0) for loop in h.loops]
    return reduce(lambda p, q: p.symmetric_difference(q), parts)


KINDS = (
    Kind(
        name="dimension",
        title="Dimensions",
        word="measures and shows",
        listed=33,
        of=("d",),
        more="",
        least=0,
        ask=ask_dimension,
        measure=dimension,
        unit="length",
        weight=4,
        weight_by_sheet=1,
        part="look",
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
        name="note",
        title="Notes",
        word="points at its feature",
        listed=34,
        of=("n",),
        more="",
        least=0,
        ask=ask_note,
        measure=note_off,
        unit="length",
        weight=3,
        weight_by_sheet=4,
        part="look",
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
        name="hatch",
        title="Hatching",
        word="region filled",
        listed=35,
        of=("h",),
        more="",
        least=0,
        ask=ask_hatch,
        measure=hatch,
        unit="area",
        weight=4,
        weight_by_sheet=4,
        part="look",
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
