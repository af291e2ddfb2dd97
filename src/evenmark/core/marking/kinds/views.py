"""Views: `arrangement` and `agreement`."""

from __future__ import annotations

import math
from typing import NamedTuple

from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import Corner, Linework, Tee, View
from evenmark.core.linework.wording import view_name
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure
from evenmark.core.marking.kinds.common import NOTHING, PARTLY, drawn_place
from evenmark.core.marking.model import Requirement, RuleError
from evenmark.core.marking.views import inside, side_of

_LINES = ("centre", "construction", "dimension")
_WORDS = {"right": "right of", "left": "left of", "above": "above", "below": "below"}


def _views(r: Requirement, s: MarkingSetting) -> tuple[View, View]:
    for i in r.features:
        if i not in s.views:
            raise RuleError(f"Requirement {r.id}: the rule set names no view {i}.")
    return s.views[r.features[0]], s.views[r.features[1]]


def _middle(v: View) -> Point:
    return ((v.box[0] + v.box[2]) / 2, (v.box[1] + v.box[3]) / 2)


def ask_arrangement(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask a view to stand level or plumb with the front view, on its side."""
    front, other = _views(r, s)
    said = f"{_WORDS[side_of(front.box, other.box)]} the {view_name(front.name)}"
    return Ask(r, None, _middle(other), said, s.tolerances.position, data=(front, other))


def arrangement(a: Ask, exam: Examination) -> Measure:
    """Measure how far a view is from in line with the front view; one on the other side is on the wrong side.

    Where coordinates count, the whole distance from its place is measured.
    """
    front, other = a.data
    if not is_drawn(other, exam):
        return PARTLY if is_drawn(front, exam) else NOTHING
    (fx, fy), (ox, oy) = (exam.view_shifts.get(v.id, (0.0, 0.0)) for v in (front, other))
    dx, dy = fx - ox, fy - oy  # how far the drawn view stands from its place, as seen from the front view
    asked, found = side_of(front.box, other.box), side_of(front.box, other.box, (dx, dy))
    if asked != found:
        return Measure(f"{_WORDS[found]} the {view_name(front.name)}", agrees=False)
    off = (
        max(math.hypot(ox, oy), math.hypot(fx, fy))
        if exam.rules.placement == "as-drawn"
        else abs(dy if asked in ("left", "right") else dx)
    )
    return Measure(off, off, expected=0.0)


def is_drawn(view: View, exam: Examination) -> bool:
    """Say whether anything of a view was drawn; a centre line that runs through it is none of it."""
    own = [f for f in exam.key.curves.values() if inside(f.at, view.box, 0.0)]
    own = [f for f in own if exam.role(f.layer) not in _LINES] or own
    return any(f.id in exam.pairing.partners for f in own)


class Shared(NamedTuple):
    """Corners of two views on one level: which coordinate they share (0 x, 1 y) in each, the corners by
    level, and whether the coordinates run against each other (-1)."""

    axes: tuple[int, int]
    levels: tuple[tuple[tuple[str, ...], tuple[str, ...]], ...]
    sign: float = 1.0


def ask_agreement(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask two views to agree on every height, width or depth that both show. Raises RuleError where they
    share none."""
    one, other = _views(r, s)
    shared = _shared(one, other, s.key, s.tolerances.position)
    if not shared.levels:
        raise RuleError(f"Requirement {r.id}: the views {one.id} and {other.id} share no size in the key.")
    return Ask(r, None, _middle(other), 0.0, s.tolerances.position, data=shared)


def shared_levels(one: View, other: View, key: Linework, reach: float) -> bool:
    """Say whether two views share any size."""
    return bool(_shared(one, other, key, reach).levels)


def _shared(one: View, other: View, key: Linework, reach: float) -> Shared:
    joints: list[Corner | Tee] = [*key.corners, *key.tees]
    a = [k for k in joints if inside(k.at, one.box, reach)]
    b = [k for k in joints if inside(k.at, other.box, reach)]
    for axis, (low, high) in enumerate(((0, 2), (1, 3))):
        if abs(one.box[low] - other.box[low]) <= reach and abs(one.box[high] - other.box[high]) <= reach:
            return Shared((axis, axis), _levels(a, b, axis, axis, 1.0, 0.0, reach))
    # depths turn the corner between a view above or below and one beside the front view
    best = Shared((1, 0), ())
    for sign in (1.0, -1.0):
        from_ = one.box[1] if sign > 0 else one.box[3]
        levels = _levels(a, b, 1, 0, sign, other.box[0] - sign * from_, reach)
        if len(levels) > len(best.levels):
            best = Shared((1, 0), levels, sign)
    return (
        best
        if abs((one.box[3] - one.box[1]) - (other.box[2] - other.box[0])) <= reach
        else Shared((1, 0), ())
    )


def _levels(
    a: list[Corner | Tee],
    b: list[Corner | Tee],
    axis_a: int,
    axis_b: int,
    sign: float,
    add: float,
    reach: float,
) -> tuple[tuple[tuple[str, ...], tuple[str, ...]], ...]:
    """Group the corners of both views by the coordinate that they share."""
    out = []
    left = sorted(b, key=lambda k: k.at[axis_b])
    seen: list[float] = []
    for corner in sorted(a, key=lambda k: k.at[axis_a]):
        level = sign * corner.at[axis_a] + add
        if seen and abs(seen[-1] - level) <= reach:
            continue
        seen.append(level)
        there = tuple(k.id for k in left if abs(k.at[axis_b] - level) <= reach)
        here = tuple(k.id for k in a if abs(sign * k.at[axis_a] + add - level) <= reach)
        if there:
            out.append((here, there))
    return tuple(out)


def agreement(a: Ask, exam: Examination) -> Measure:
    """Measure the largest disagreement of two views on a size that they share."""
    shared: Shared = a.data
    worst, at, found = 0.0, a.at, False
    for here, there in shared.levels:
        first, second = _off(here, shared.axes[0], exam), _off(there, shared.axes[1], exam)
        if first is None or second is None:
            continue
        found = True
        first *= shared.sign
        if abs(first - second) > worst:
            worst, at = abs(first - second), exam.key.by_id[there[0]].at
    if not found:
        return PARTLY if exam.pairing.partners else NOTHING
    return Measure(worst, worst, at=at)


def _off(corners: tuple[str, ...], axis: int, exam: Examination) -> float | None:
    """Return by how much the corners of one level are off along an axis: the one that is off most."""
    offs = []
    for i in corners:
        corner = exam.key.by_id[i]
        p = drawn_place(corner, exam)
        if p is not None:
            offs.append(p[axis] - corner.at[axis])
    return max(offs, key=abs, default=None)


KINDS = (
    Kind(
        name="arrangement",
        title="Aligned views",
        word="in line with",
        listed=36,
        of=("v", "v"),
        more="",
        least=0,
        ask=ask_arrangement,
        measure=arrangement,
        unit="length",
        weight=3,
        weight_by_sheet=1,
        part="read",
        settles="views",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="agreement",
        title="Sizes that views share",
        word="same sizes as",
        listed=37,
        of=("v", "v"),
        more="",
        least=0,
        ask=ask_agreement,
        measure=agreement,
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
)
