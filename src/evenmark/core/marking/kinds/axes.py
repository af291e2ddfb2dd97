"""Centre lines: `axis`."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, in_sweep
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure
from evenmark.core.marking.kinds.common import (
    NOTHING,
    along,
    as_a,
    feature_of,
)
from evenmark.core.marking.model import Requirement

LOW_SHARE, HIGH_SHARE = 0.25, 4.0
"""An axis may run past what it is the axis of by a quarter to four times what it does in the key, where the
rule set says nothing."""


class Axis(NamedTuple):
    """What is asked of a centre line: the centres on it, where what it is the axis of begins and ends, and
    its overshoot's range."""

    centers: tuple[Point, ...]
    first: float | None
    last: float | None
    low: float
    high: float
    runs_past: tuple[bool, bool] = (True, True)
    """Whether the key's own axis runs past at its start and end: where it stops at what it is the axis of, an
    overshoot may be missing."""


def ask_axis(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask a centre line to run through its centres, in its direction, past its outline by an overshoot within
    a range."""
    edge = as_a(feature_of(r, s), Edge)
    reach = s.tolerances.position
    rounds, places = s.centers
    w, (ux, uy) = places - edge.start, along(edge)
    far = w[:, 0] * ux + w[:, 1] * uy
    on = (np.abs(ux * w[:, 1] - uy * w[:, 0]) <= reach) & (far >= -reach) & (far <= edge.length + reach)
    centers = tuple(rounds[i].center for i in np.nonzero(on)[0].tolist())
    crossings = _crossings(edge, s)
    first, last = (min(crossings), max(crossings)) if crossings else (None, None)
    over = [v for v in (first, None if last is None else edge.length - last) if v is not None and v > reach]
    low = r.low if r.low is not None else LOW_SHARE * min(over, default=0.0)
    high = r.high if r.high is not None else HIGH_SHARE * max(over, default=math.inf)
    if not over and r.low is None and r.high is None:
        first = last = None
    past = (
        r.low is not None or (first is not None and first > reach),
        r.low is not None or (last is not None and edge.length - last > reach),
    )
    return Ask(r, edge, edge.at, 0.0, s.tolerances.position, data=Axis(centers, first, last, low, high, past))


def _crossings(edge: Edge, s: MarkingSetting) -> list[float]:
    """Return how far along an axis its outlines and hidden edges cross it, between its ends."""
    out: list[float] = []
    ux, uy = (edge.end[0] - edge.start[0]) / edge.length, (edge.end[1] - edge.start[1]) / edge.length
    for f in _nearby(edge, s):
        if isinstance(f, Edge):
            a = (f.start[0] - edge.start[0]) * -uy + (f.start[1] - edge.start[1]) * ux
            b = (f.end[0] - edge.start[0]) * -uy + (f.end[1] - edge.start[1]) * ux
            if a * b <= 0.0 and a != b:
                t = a / (a - b)
                p = (f.start[0] + t * (f.end[0] - f.start[0]), f.start[1] + t * (f.end[1] - f.start[1]))
                out.append(along_supporting_line(p, edge.start, edge.end))
        elif isinstance(f, ArcFeature | CircleFeature):
            off = distance_to_supporting_line(f.center, edge.start, edge.end)
            if off <= f.radius:
                half = math.sqrt(f.radius * f.radius - off * off)
                middle = along_supporting_line(f.center, edge.start, edge.end)
                for t in (middle - half, middle + half):
                    p = (edge.start[0] + ux * t, edge.start[1] + uy * t)
                    turn = math.atan2(p[1] - f.center[1], p[0] - f.center[0])
                    if isinstance(f, CircleFeature) or in_sweep(turn, f.start_rad, f.sweep_rad):
                        out.append(t)
    reach = s.tolerances.position
    return [t for t in out if -reach <= t <= edge.length + reach]


def _nearby(edge: Edge, s: MarkingSetting) -> list[Edge | ArcFeature | CircleFeature]:
    """Return outlines and hidden edges whose boxes meet that of an axis."""
    curves, boxes = s.seen
    if not len(boxes):
        return []
    (x0, y0), (x1, y1) = edge.start, edge.end
    left, right, low, high = min(x0, x1), max(x0, x1), min(y0, y1), max(y0, y1)
    hit = (boxes[:, 0] <= right) & (boxes[:, 2] >= left) & (boxes[:, 1] <= high) & (boxes[:, 3] >= low)
    return [curves[i] for i in np.nonzero(hit)[0].tolist()]


def axis(a: Ask, exam: Examination) -> Measure:
    """Measure the farthest centre from the drawn axis; else how far its direction moves its ends; else what
    its overshoot is beyond."""
    key = as_a(a.feature, Edge)
    drawn = exam.drawn_for.get(key.id)
    if not isinstance(drawn, Edge):
        return NOTHING
    asked: Axis = a.data
    off = max(
        (distance_to_supporting_line(p, drawn.start, drawn.end) for p in asked.centers or (key.at,)),
        default=0.0,
    )
    allowed = a.allowed if a.r.tolerance is None else a.r.tolerance
    if not tol.within(off, allowed or 0.0, exam.slack):
        return Measure(off, off, what="offset")
    turn = abs(
        direction_difference_deg(direction_deg(key.start, key.end), direction_deg(drawn.start, drawn.end))
    )
    aside = max(distance_to_supporting_line(p, drawn.start, drawn.end) for p in key.ends)
    if turn > exam.tolerances.angle_deg and not tol.within(aside, allowed or 0.0, exam.slack):
        return Measure(aside, aside, what="direction")
    short = _overshoot_off(asked, key, drawn, exam)
    return Measure(short, short, what="overshoot") if short else Measure(off, off, what="offset")


def _overshoot_off(asked: Axis, key: Edge, drawn: Edge, exam: Examination) -> float:
    """Return how far an overshoot lies outside its range, 0 where both lie within."""
    if asked.first is None or asked.last is None:
        return 0.0
    ends = sorted(along_supporting_line(p, key.start, key.end) for p in drawn.ends)
    worst = 0.0
    for over, past in zip((asked.first - ends[0], ends[1] - asked.last), asked.runs_past, strict=True):
        off = max((asked.low if past else 0.0) - over, over - asked.high, 0.0)
        if off > exam.tolerances.length + exam.slack:
            worst = max(worst, off)
    return worst


KINDS = (
    Kind(
        name="axis",
        title="Centre lines",
        word="through its centres",
        listed=12,
        of=("e",),
        more="",
        least=0,
        ask=ask_axis,
        measure=axis,
        unit="length",
        weight=3,
        weight_by_sheet=1,
        part="read",
        settles="place",
        of_centres=False,
        habit="",
        rank=None,
        watched=True,
        own=True,
        met_where_exact="",
        marks_its_feature=True,
    ),
)
