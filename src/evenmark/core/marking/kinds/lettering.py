"""Lettering: `wording`, `text-height`, `text-anchor`, `text-turn`."""

from __future__ import annotations

import math

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import NoteFeature, TextFeature
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure, near_size
from evenmark.core.marking.kinds.common import NOTHING, as_a, feature_of
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


def ask_wording(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask lettering for its wording: the key's own, a pattern (* any, ? one, # a digit), or a field of the
    student."""
    feature = as_a(feature_of(r, s), TextFeature, NoteFeature)
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
    if not isinstance(drawn, TextFeature | NoteFeature):
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


def ask_height(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask lettering for its height."""
    t = as_a(feature_of(r, s), TextFeature, NoteFeature)
    return Ask(r, t, t.at, t.height, s.tolerances.length, near_size(t.height, s.tolerances))


def height(a: Ask, exam: Examination) -> Measure:
    """Measure a text height."""
    assert a.feature is not None
    drawn = exam.drawn_for.get(a.feature.id)
    if not isinstance(drawn, TextFeature | NoteFeature):
        return NOTHING
    return Measure(drawn.height, drawn.height - a.number)


def ask_anchor(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask lettering where it stands; it may be off by the near band of sizes unless the requirement says
    otherwise."""
    t = as_a(feature_of(r, s), TextFeature)
    return Ask(r, t, t.at, t.at, max(s.tolerances.near, s.tolerances.position))


def anchor(a: Ask, exam: Examination) -> Measure:
    """Measure how far lettering stands from its place, whatever its justification."""
    key = as_a(a.feature, TextFeature)
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, TextFeature):
        return NOTHING
    at, spare_across, spare_up = as_anchored(drawn, key.anchor)
    dx, dy = at[0] - key.at[0], at[1] - key.at[1]
    turn = math.radians(key.turn_deg)
    across = abs(dx * math.cos(turn) + dy * math.sin(turn))
    up = abs(dy * math.cos(turn) - dx * math.sin(turn))
    off = math.hypot(max(0.0, across - spare_across), max(0.0, up - spare_up))
    return Measure(at, off)


def as_anchored(t: TextFeature, anchor_of: str) -> tuple[Point, float, float]:
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
    spare_across = t.height + tol.SPARE_WIDTH_SHARE * abs(across) if ax != bx else 0.0
    mixed = "bottom" in (ay, by) or "middle" in (ay, by)
    return at, spare_across, DESCENDER_HEIGHTS * t.height if ay != by and mixed else 0.0


def ask_turn(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask lettering for its direction."""
    t = as_a(feature_of(r, s), TextFeature)
    return Ask(r, t, t.at, t.turn_deg, s.tolerances.angle_deg)


def turn(a: Ask, exam: Examination) -> Measure:
    """Measure the direction of lettering, [0, 360) degrees."""
    assert a.feature is not None
    drawn = exam.drawn_for.get(a.feature.id)
    if not isinstance(drawn, TextFeature):
        return NOTHING
    off = abs((drawn.turn_deg - a.number + 180.0) % 360.0 - 180.0)
    return Measure(drawn.turn_deg, off)


KINDS = (
    Kind(
        name="wording",
        title="Text",
        word="wording",
        listed=29,
        of=("xn",),
        more="",
        least=0,
        ask=ask_wording,
        measure=wording,
        unit="length",
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
    Kind(
        name="text-height",
        title="Text heights",
        word="height",
        listed=30,
        of=("xn",),
        more="",
        least=0,
        ask=ask_height,
        measure=height,
        unit="length",
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
    Kind(
        name="text-anchor",
        title="Text positions",
        word="place",
        listed=31,
        of=("x",),
        more="",
        least=0,
        ask=ask_anchor,
        measure=anchor,
        unit="length",
        weight=3,
        weight_by_sheet=3,
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
        name="text-turn",
        title="Text directions",
        word="direction",
        listed=32,
        of=("x",),
        more="",
        least=0,
        ask=ask_turn,
        measure=turn,
        unit="degrees",
        weight=3,
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
)
