"""Lettering, dimensions, notes and hatches: `wording`, `text-height`, `text-anchor`, `text-turn`,
`dimension`, `note`, `hatch`."""

from __future__ import annotations

import math
from functools import reduce
from typing import Any

from evenmark.core.dimensioning.figures import numbers_in
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import distance_to_carrier
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import Arc, Circle, Edge, Hatch, Note, Text
from evenmark.core.marking.examination import Ask, Examination, Kind, Measure, Setting, near_size
from evenmark.core.marking.kinds.common import NOTHING, feature_of
from evenmark.core.marking.kinds.relations import to_curve
from evenmark.core.marking.model import Requirement, RuleError

WIDTH_HEIGHTS = 0.85
"""How wide a letter is on average, in text heights, where only its justification says where lettering
begins."""
DESCENDER_HEIGHTS = 0.35
"""How far letters reach below their base line, in text heights: what "bottom" and "base line" may differ
by."""
FIELDS = ("name", "group", "date")
"""What a title block can say of its student."""


# wording


def ask_wording(r: Requirement, s: Setting) -> Ask:
    """Ask lettering for its wording: the key's own, a pattern (* any, ? one, # a digit), or a field of the
    student."""
    feature: Text | Note = feature_of(r, s)  # type: ignore[assignment]
    if r.by == "field":
        if r.pattern not in FIELDS:
            raise RuleError(
                f"Requirement {r.id}: the field {r.pattern!r} is not known. Fields: {', '.join(FIELDS)}."
            )
        return Ask(r, feature, feature.at, f"the student's {r.pattern}")
    if r.by == "pattern":
        if not r.pattern.strip():
            raise RuleError(
                f"Requirement {r.id}: the pattern is empty; * stands for anything, ? for one letter, # for "
                "a digit."
            )
        return Ask(r, feature, feature.at, r.pattern)
    return Ask(r, feature, feature.at, feature.wording)


def fits_pattern(text: str, pattern: str) -> bool:
    """Say whether a text is what a pattern describes: * any run of letters, ? one, # a digit, all else
    itself.

    Goes back to the last star only, so that it takes no more than the product of both lengths.

    >>> fits_pattern("Gate plate 12/A", "Gate plate ##/*"), fits_pattern("AB", "A#")
    (True, False)
    """
    t = p = 0
    star, since = -1, 0
    while t < len(text):
        sign = pattern[p] if p < len(pattern) else ""
        if sign == "*":
            star, since, p = p, t, p + 1
        elif sign and (sign == "?" or (text[t].isdigit() if sign == "#" else sign == text[t])):
            t, p = t + 1, p + 1
        elif star >= 0:
            p, since = star + 1, since + 1
            t = since
        else:
            return False
    return not pattern[p:].strip("*")


def wording(a: Ask, exam: Examination) -> Measure:
    """Compare wording, blanks collapsed."""
    assert a.feature is not None
    drawn = exam.drawn_for.get(a.feature.id)
    if not isinstance(drawn, Text | Note):
        return NOTHING
    said = drawn.wording
    if a.r.by == "pattern":
        text, wanted = (v.casefold() if a.r.any_case else v for v in (said[:1000], a.r.pattern[:1000]))
        return Measure(said, agrees=fits_pattern(text, wanted))
    if a.r.by == "field":
        want = exam.fields.get(a.r.pattern)
        if want is None:
            return Measure(said, agrees=bool(said.strip()))
        return Measure(said, agrees=_same(said, " ".join(want.split()), a.r.any_case), expected=want)
    return Measure(said, agrees=_same(said, str(a.expected), a.r.any_case))


def _same(a: str, b: str, any_case: bool) -> bool:
    return a.casefold() == b.casefold() if any_case else a == b


# height, place, turn


def ask_height(r: Requirement, s: Setting) -> Ask:
    """Ask lettering for its height."""
    t: Text | Note = feature_of(r, s)  # type: ignore[assignment]
    return Ask(r, t, t.at, t.height, s.tolerances.length, near_size(t.height, s.tolerances))


def height(a: Ask, exam: Examination) -> Measure:
    """Measure a text height."""
    assert a.feature is not None
    drawn = exam.drawn_for.get(a.feature.id)
    if not isinstance(drawn, Text | Note):
        return NOTHING
    return Measure(drawn.height, drawn.height - a.expected)  # type: ignore[operator]


def ask_anchor(r: Requirement, s: Setting) -> Ask:
    """Ask lettering where it stands; it may be off by the near band of sizes unless the requirement says
    otherwise."""
    t: Text = feature_of(r, s)  # type: ignore[assignment]
    return Ask(r, t, t.at, t.at, max(s.tolerances.near, s.tolerances.position))


def anchor(a: Ask, exam: Examination) -> Measure:
    """Measure how far lettering stands from its place, whatever its justification."""
    key: Text = a.feature  # type: ignore[assignment]
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, Text):
        return NOTHING
    at, spare_across, spare_up = as_anchored(drawn, key.anchor)
    dx, dy = at[0] - key.at[0], at[1] - key.at[1]
    turn = math.radians(key.turn_deg)
    across = abs(dx * math.cos(turn) + dy * math.sin(turn))
    up = abs(dy * math.cos(turn) - dx * math.sin(turn))
    off = math.hypot(max(0.0, across - spare_across), max(0.0, up - spare_up))
    return Measure(at, off)


def as_anchored(t: Text, anchor_of: str) -> tuple[Point, float, float]:
    """Return where another place of the same lettering stands, and how far across and up that may be wrong.

    The width of lettering depends on its face, so it is only estimated; across, one text height is allowed
    (marking.md) and a share of the estimate.
    """
    if t.anchor == anchor_of:
        return t.at, 0.0, 0.0
    (ax, ay), (bx, by) = t.anchor.split(), anchor_of.split()
    width = WIDTH_HEIGHTS * t.height * len(t.wording)
    shares = {"left": 0.0, "centre": 0.5, "right": 1.0}
    levels = {"bottom": 0.0, "baseline": 0.0, "middle": 0.5, "top": 1.0}
    across = (shares[bx] - shares[ax]) * width
    up = (levels[by] - levels[ay]) * t.height
    turn = math.radians(t.turn_deg)
    at = (
        t.at[0] + across * math.cos(turn) - up * math.sin(turn),
        t.at[1] + across * math.sin(turn) + up * math.cos(turn),
    )
    spare_across = t.height + 0.3 * abs(across) if ax != bx else 0.0
    mixed = "bottom" in (ay, by) or "middle" in (ay, by)
    return at, spare_across, DESCENDER_HEIGHTS * t.height if ay != by and mixed else 0.0


def ask_turn(r: Requirement, s: Setting) -> Ask:
    """Ask lettering for its direction."""
    t: Text = feature_of(r, s)  # type: ignore[assignment]
    return Ask(r, t, t.at, t.turn_deg, s.tolerances.angle_deg)


def turn(a: Ask, exam: Examination) -> Measure:
    """Measure the direction of lettering, [0, 360) degrees."""
    assert a.feature is not None
    drawn = exam.drawn_for.get(a.feature.id)
    if not isinstance(drawn, Text):
        return NOTHING
    off = abs((drawn.turn_deg - a.expected + 180.0) % 360.0 - 180.0)  # type: ignore[operator]
    return Measure(drawn.turn_deg, off)


# dimensions


def ask_dimension(r: Requirement, s: Setting) -> Ask:
    """Ask for a dimension that measures what the key's measures and shows it."""
    d: Dimension = feature_of(r, s)  # type: ignore[assignment]
    allowed = s.tolerances.angle_deg if d.kind == "angular" else s.tolerances.length * max(1.0, d.factor)
    near = 0.0 if d.kind == "angular" else near_size(d.shown, s.tolerances)
    return Ask(r, d, d.at, d.typed if d.typed is not None else d.shown, allowed, near)


def dimension(a: Ask, exam: Examination) -> Measure:
    """Compare what is measured and what is shown; a text typed over the value does not show what is
    measured."""
    key: Dimension = a.feature  # type: ignore[assignment]
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, Dimension):
        return NOTHING
    off = drawn.shown - key.shown
    if drawn.typed is None or drawn.typed == key.typed:
        return Measure(drawn.typed if drawn.typed is not None else drawn.shown, off)
    shown = min(numbers_in(drawn.typed), key=lambda v: abs(v - drawn.shown), default=None)
    return Measure(drawn.typed, None if shown is None else shown - key.shown, agrees=False)


# notes


def ask_note(r: Requirement, s: Setting) -> Ask:
    """Ask a note's leader to end on the feature that the key's ends on; off any feature, at the key's tip."""
    note: Note = feature_of(r, s)  # type: ignore[assignment]
    allowed = max(s.tolerances.near, s.tolerances.position)
    on = min(
        ((to_curve(note.tip, f), i) for i, f in s.key.curves.items() if _may_touch(note.tip, f, allowed)),
        default=(math.inf, ""),
    )
    return Ask(r, note, note.tip, 0.0, allowed, data=on[1] if on[0] <= allowed else "")


def _may_touch(p: Point, f: object, reach: float) -> bool:
    """Leave out what is certainly too far away, cheaply."""
    if isinstance(f, Edge):
        return distance_to_carrier(p, f.start, f.end) <= reach
    if isinstance(f, Arc | Circle):
        return abs(distance(p, f.center) - f.radius) <= reach
    return True


def note_off(a: Ask, exam: Examination) -> Measure:
    """Measure how far a leader's tip is from the feature that it should end on."""
    key: Note = a.feature  # type: ignore[assignment]
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, Note):
        return NOTHING
    on = exam.drawn_for.get(a.data) if a.data else None
    if on is None and a.data:
        on = exam.key.curves[a.data]
    off = to_curve(drawn.tip, on) if on is not None else distance(drawn.tip, key.tip)
    return Measure(off, off)


# hatches


def ask_hatch(r: Requirement, s: Setting) -> Ask:
    """Ask for a region to be filled; its tolerance is that of lengths times the length of its boundary."""
    h: Hatch = feature_of(r, s)  # type: ignore[assignment]
    around = sum(distance(p, q) for loop in h.loops for p, q in zip(loop, (*loop[1:], loop[0]), strict=True))
    return Ask(r, h, h.at, h.area, max(s.tolerances.length, tol.HATCH_AREA_SHARE * h.size) * around)


def hatch(a: Ask, exam: Examination) -> Measure:
    """Measure the area that is filled and should not be, or should be and is not."""
    key: Hatch = a.feature  # type: ignore[assignment]
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, Hatch):
        return NOTHING
    return Measure(drawn.area, area_between(key, drawn))


def area_between(a: Hatch, b: Hatch) -> float:
    """Return the area that just one of two hatches fills."""
    ox, oy = a.loops[0][0]
    one, other = (_region(h, ox, oy) for h in (a, b))
    return float(one.symmetric_difference(other).area)


def _region(h: Hatch, ox: float, oy: float) -> Any:
    """Return the region inside an odd number of loops, near the origin."""
    from shapely import Polygon  # slow to import, and few drawings are hatched

    parts = [Polygon([(x - ox, y - oy) for x, y in loop]).buffer(0) for loop in h.loops]
    return reduce(lambda p, q: p.symmetric_difference(q), parts)


KINDS = (
    Kind("wording", ("xn",), ask_wording, wording),
    Kind("text-height", ("xn",), ask_height, height),
    Kind("text-anchor", ("x",), ask_anchor, anchor),
    Kind("text-turn", ("x",), ask_turn, turn),
    Kind("dimension", ("d",), ask_dimension, dimension),
    Kind("note", ("n",), ask_note, note_off),
    Kind("hatch", ("h",), ask_hatch, hatch),
)
