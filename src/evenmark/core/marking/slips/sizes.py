"""Slips of sizes: that of another feature, a rounded one, and what an edge of the wrong size carried along.

`size-of-another`, `rounded-value`, `follows-edge`.
"""

from __future__ import annotations

import bisect
from collections.abc import Iterator
from fractions import Fraction

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import direction_deg
from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge, Tee
from evenmark.core.linework.wording import counted, noun, number, place, size
from evenmark.core.marking.explain import Evidence, Hypothesis, Token
from evenmark.core.marking.follow_corners import is_slid, lies_parallel
from evenmark.core.marking.follow_habits import rounded_to
from evenmark.core.marking.model import Finding
from evenmark.core.marking.repeats import are_exchanged
from evenmark.core.marking.slips.common import (
    far_tokens,
    moved_with,
    neighbours,
    order_of_ends,
    token,
    tokens,
)
from evenmark.core.marking.slips.rounds import still_rounds


def size_of_another(e: Evidence) -> Iterator[Hypothesis]:
    """A size is exactly that of another feature: `size-of-another`."""
    known = e.asked.known
    if "sizes" not in known:
        sized = ("centre", "construction")  # nobody reads a size off a centre line
        edges = [k for k in e.exam.key.edges if e.exam.role(k.layer) not in sized]
        rounds = [r for r in e.exam.key.rounds if e.exam.role(r.layer) not in sized]
        known["sizes"] = {
            "length": _Sizes([(k.length, k) for k in edges]),
            "radius": _Sizes([(r.radius, r) for r in rounds]),
        }
    for f in e.failing("length", "radius"):
        if not isinstance(f.measured, float) or not isinstance(f.expected, float):
            continue
        feature = e.exam.key.by_id[f.features[0]]
        swapped = next((g for g in e.following.get(f.id, ()) if _is_swapped(f, g, e)), None)
        if swapped is not None:
            second = e.exam.key.by_id[swapped.features[0]]
            one, other = (f"the {noun(k, e.centre)} {place(k)}" for k in (feature, second))
            says = f"The sizes of {one} and {other} were swapped: each has the {f.kind} of the other."
            yield Hypothesis(code="size-of-another", tokens=tokens([f, swapped]), says=says)
            continue
        if f.kind == "radius" and still_rounds(f, e):
            continue  # a fillet of another radius is told as that
        other = known["sizes"][f.kind].first(f.measured, e.exact, feature)
        if other is None:
            continue
        explains = _size_tokens(f, feature, e)
        says = (
            f"The {noun(feature, e.centre)} {place(feature)} has {f.kind} {size(f.measured, e.unit)}: that "
            f"is the {f.kind} of the {noun(other, e.centre)} {place(other)}."
        )
        yield Hypothesis(code="size-of-another", tokens=explains, says=says, free=1)


def _is_swapped(f: Finding, g: Finding, e: Evidence) -> bool:
    known = isinstance(f.expected, float) and isinstance(g.expected, float) and len(g.features) == 1
    return known and are_exchanged(f, g, e.exam)


class _Sizes:
    """Sizes of features in order, to be looked up."""

    def __init__(self, sizes: list[tuple[float, Edge | ArcFeature | CircleFeature]]) -> None:
        order = sorted(range(len(sizes)), key=lambda n: sizes[n][0])
        self.values = [sizes[n][0] for n in order]
        self.rows = [(n, sizes[n][1]) for n in order]

    def first(self, value: float, reach: float, but: object) -> Edge | ArcFeature | CircleFeature | None:
        """Return the first feature of that size, in the order of the key, but the one that is asked about."""
        low = bisect.bisect_left(self.values, value - reach)
        high = bisect.bisect_right(self.values, value + reach)
        found = [(n, f) for n, f in self.rows[low:high] if f is not but]
        return min(found, key=lambda row: row[0])[1] if found else None


def _size_tokens(f: Finding, feature: object, e: Evidence) -> frozenset[Token]:
    if isinstance(feature, Edge):
        return token(f) | far_tokens(feature, order_of_ends(feature, e.exam.key)[0], e)
    return token(f) | neighbours(f, e)


def rounded(e: Evidence) -> Iterator[Hypothesis]:
    """A size is the one asked for as a display would round it: `rounded-value`."""
    for f in e.failing("length", "radius", "angle", "distance"):
        if not isinstance(f.measured, float) or not isinstance(f.expected, float):
            continue
        shown = _as_shown(f.expected, f.measured, e, angle=f.kind == "angle")
        if shown is None:
            continue
        feature = e.exam.key.by_id[f.features[0]]
        unit = "°" if f.kind == "angle" else f" {e.unit}"
        says = (
            f"The {noun(feature, e.centre)} {place(feature)} was drawn {shown}{unit}, the rounded display "
            f"of {number(f.expected, 6)}{unit}."
        )
        yield Hypothesis(code="rounded-value", tokens=_size_tokens(f, feature, e), says=says)
    for f in e.failing("position"):
        if not isinstance(f.measured, tuple) or not isinstance(f.expected, tuple) or f.verdict == "absent":
            continue
        parts = [
            _as_shown(x, m, e) or (number(m, 6) if abs(x - m) <= e.exact else None)
            for x, m in zip(f.expected, f.measured, strict=True)
        ]
        if None not in parts:
            feature = e.exam.key.by_id[f.features[0]]
            explains = token(f) | (
                frozenset(moved_with(feature, e)) if isinstance(feature, Corner) else frozenset()
            )
            says = (
                f"The {noun(feature, e.centre)} {place(feature)} was drawn at {parts[0]}, {parts[1]}: "
                "the coordinates of a rounded display."
            )
            yield Hypothesis(code="rounded-value", tokens=explains, says=says)


def all_rounded(e: Evidence) -> Iterator[Hypothesis]:
    """The drawing is the key with all its the coordinates of a rounded display: `rounded-value`."""
    digits = rounded_to(e.exam) if len(e.all_off) > 1 else None
    if digits is not None:
        decimals = "whole numbers" if digits == 0 else f"{counted(digits, 'decimal')}"
        says = f"All coordinates were taken from a display rounded to {decimals}."
        off = tokens([f for f in e.all_off if f.kind != "clean"])
        yield Hypothesis(code="rounded-value", tokens=off, says=says)


def _as_shown(asked: float, drawn: float, e: Evidence, *, angle: bool = False) -> str | None:
    """Return how a display would show a number when that is what was drawn: to 0 to 4 decimals, or to a
    fraction of an inch."""
    exact = tol.TYPED_SHARE * max(1.0, abs(asked)) if not angle else tol.TYPED_LEAST
    if abs(asked - drawn) <= (exact if angle else e.exact):
        return None
    for digits in range(5):
        shown = round(asked, digits)
        if (
            abs(shown - drawn) <= max(exact, tol.TYPED_LEAST)
            and abs(asked - shown) > exact
            and (digits > 0 or abs(asked) >= 10)
        ):
            return f"{shown:.{digits}f}"
    if e.unit in ("in", "ft"):
        for bottom in (8, 16, 32, 64):
            nearest = round(asked * bottom) / bottom
            if abs(nearest - drawn) <= max(exact, tol.TYPED_LEAST):
                return str(Fraction(nearest).limit_denominator(bottom))
    return None


def _ends_at(feature: str, e: Evidence) -> set[str]:
    """Return the curves that end at a corner or meeting: what is off with them is no more than their own
    end."""
    joint = e.exam.key.by_id[feature]
    return {i for i, _ in joint.ends} if isinstance(joint, Corner | Tee) else set()


def _slid_by(edge: Edge, e: Evidence) -> str:
    """Return how an edge lies that was laid elsewhere between its neighbours, which are longer or shorter for
    it; nothing where it was not."""
    corners = [e.exam.key.corner_of.get((edge.id, w)) for w in (0, 1)]
    if None in corners or not is_slid(edge, corners, e.exam):
        return ""
    ends = e.exam.ends_for[edge.id]
    if lies_parallel(edge, ends, e.exam):
        aside = distance_to_supporting_line(ends[0], edge.start, edge.end)
        return f"{size(aside, e.unit)} from where it should be, parallel to it"
    asked, drawn = (number(direction_deg(*p), 2) for p in (edge.ends, ends))
    return f"placed differently between its neighbours: its direction is {drawn}°, {asked}° was asked for"


def carried_along(e: Evidence) -> Iterator[Hypothesis]:
    """What was carried along by an edge of the wrong size or direction: `follows-edge`."""
    for leader in e.open:
        own = e.exam.key.by_id.get(leader.features[0]) if leader.features else None
        followers = [
            f
            for f in e.following.get(leader.id, ())
            if f.kind == "position" and own is not None and own.id not in _ends_at(f.features[0], e)
        ]
        if leader.kind not in ("length", "angle", "sweep") or leader.verdict == "absent":
            continue
        edge = e.exam.key.by_id[leader.features[0]]
        slid = _slid_by(edge, e) if isinstance(edge, Edge) else ""
        if not followers and not slid:
            continue
        every = e.following.get(leader.id, [])
        if leader.kind == "length" and leader.deviation is not None:
            off = f"{size(abs(leader.deviation), e.unit)} too {'long' if leader.deviation > 0 else 'short'}"
        else:
            off = f"off by {number(abs(leader.deviation or 0.0))}°"
        if slid:
            off = slid
        # where nobody asked for the edge itself, one of what follows it stands for it
        told = sum(f.id not in e.watched for f in every) - (leader.id in e.watched)
        says = f"The {noun(edge, e.centre)} {place(edge)} is {off}; "
        if told > 1:
            says += f"{told} findings follow it and are met once it is right."
        elif told == 1:
            says += "1 finding follows it and is met once it is right."
        else:
            says += "what depends on it is right once it is."
        yield Hypothesis(code="follows-edge", tokens=tokens(every), says=says, free=9, leader=leader.id)


ALL = (size_of_another, rounded, all_rounded, carried_along)
