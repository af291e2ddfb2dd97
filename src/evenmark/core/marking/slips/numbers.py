"""Slips of typed numbers: angles taken another way, coordinates and steps confused.

`clockwise-angle`, `angle-from-vertical`, `angle-from-previous`, `supplementary-angle`, `axes-swapped`,
`sign-flipped`, `coordinate-as-step`, `step-as-coordinate`, `baseline-as-chain`, `chain-as-baseline`.

An angle slip supposes that an angle was typed, a coordinate slip that coordinates were: each is put forward
only where those are numbers that one types. So (24, 10) drawn as (10, 24) is told as exchanged axes, and 26
at 60 degrees drawn at 30 as an angle from the vertical.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from evenmark.core.geometry.points import Point, direction_deg, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge
from evenmark.core.linework.wording import noun, number, place
from evenmark.core.marking.explain import Evidence, Hypothesis, Token
from evenmark.core.marking.model import Finding
from evenmark.core.marking.slips.common import (
    before,
    carried,
    direction,
    moved_with,
    own_of_step,
    step_tokens,
    token,
    tokens,
    turned,
    typed,
    typed_angle,
    ways,
)


def angles(e: Evidence) -> Iterator[Hypothesis]:
    """A typed direction was taken another way; the length is right."""
    for edge, far, asked, drawn in ways(e, "angle"):
        length, turn = math.hypot(*asked), direction(asked)
        shown = round(turn, 6) % 360.0
        previous = before(edge, far, e)
        guesses: list[tuple[str, float, str]] = [
            ("clockwise-angle", -turn, "was measured clockwise"),
            ("angle-from-vertical", 90.0 - turn, "was measured from the vertical"),
            ("supplementary-angle", 180.0 - turn, "was taken from the other side: its supplement was drawn"),
        ]
        if previous is not None:
            leaving = _leaving(previous, edge, e)
            guesses.append(("angle-from-previous", leaving + turn, "was measured from the line before"))
        for code, predicted, how in guesses:
            if (
                typed_angle(turn)
                and _same_step(turned(length, predicted), drawn, e)
                and not _same_step(asked, drawn, e)
            ):
                says = (
                    f"The direction of {number(shown)}° of the edge {place(edge)} {how}: it was drawn at "
                    f"{number(direction(drawn))}°."
                )
                yield Hypothesis(
                    code=code,
                    tokens=step_tokens(edge, far, asked, drawn, e),
                    says=says,
                    about=_of_edge(edge, e),
                )


def _leaving(previous: Edge, edge: Edge, e: Evidence) -> float:
    """Return the direction in which the line before runs toward the corner that it shares with an edge."""
    for a in (0, 1):
        corner = e.exam.key.corner_of.get((previous.id, a))
        if corner is not None and edge.id in {i for i, _ in corner.ends}:
            here, there = previous.ends[a], previous.ends[1 - a]
            return direction((here[0] - there[0], here[1] - there[1]))
    return direction_deg(previous.start, previous.end)


def _of_edge(edge: Edge, e: Evidence) -> int | None:
    """Return the finding of an edge's own length or direction, that which says most of the slip."""
    own = {f.kind: f.id for f in own_of_step(edge, e)}
    return next((own[kind] for kind in ("angle", "length", "position") if kind in own), None)


def _same_step(a: Point, b: Point, e: Evidence) -> bool:
    return distance(a, b) <= e.exact


def steps(e: Evidence) -> Iterator[Hypothesis]:
    """The two parts of a typed step were exchanged, or one has the wrong sign; or the end's coordinate was
    taken as a step."""
    seen: set[tuple[str, str]] = set()
    for edge, far, (dx, dy), drawn in ways(e, "angle", "length"):
        if not typed(e, dx, dy) or _same_step((dx, dy), drawn, e):
            continue
        ex, ey = edge.ends[far]
        guesses = [
            ("axes-swapped", (dy, dx), "has horizontal and vertical swapped"),
            ("sign-flipped", (-dx, dy), "goes left instead of right or the reverse: a sign was changed"),
            ("sign-flipped", (dx, -dy), "goes up instead of down or the reverse: a sign was changed"),
            (
                "coordinate-as-step",
                (ex, ey),
                "takes the coordinates of its end as a step from the last point",
            ),
        ]
        slanted = abs(dx) > e.exact and abs(dy) > e.exact
        for code, predicted, how in guesses:
            if (code == "axes-swapped" and abs(dx - dy) <= e.exact) or (edge.id, code) in seen:
                continue
            if (
                code == "sign-flipped"
                and not slanted
                and abs(predicted[0] + dx) + abs(predicted[1] + dy) > e.exact
            ):
                continue
            if _same_step(predicted, drawn, e) and not _same_step(predicted, (dx, dy), e):
                seen.add((edge.id, code))
                says = (
                    f"The step of {number(dx)}, {number(dy)} along the edge {place(edge)} {how}: "
                    f"{number(drawn[0])}, {number(drawn[1])} was drawn."
                )
                yield Hypothesis(
                    code=code,
                    tokens=step_tokens(edge, far, (dx, dy), drawn, e),
                    says=says,
                    about=_of_edge(edge, e),
                )


def coordinates(e: Evidence) -> Iterator[Hypothesis]:
    """A typed place was taken another way: exchanged, with a wrong sign, as a step, or a step as a place."""
    for f in e.off("position"):
        if (
            not isinstance(f.measured, tuple)
            or not isinstance(f.expected, tuple)
            or f.features[0][0] not in "kca"
        ):
            continue
        feature = e.exam.key.by_id[f.features[0]]
        (x, y), drawn = f.expected, f.measured
        if not typed(e, x, y):
            continue
        off = (drawn[0] - x, drawn[1] - y)
        explains = token(f) | carried([f], off, e)
        if isinstance(feature, Corner):
            explains |= moved_with(feature, e)
        guesses = [
            ("axes-swapped", (y, x), "horizontal and vertical were swapped"),
            ("sign-flipped", (-x, y), "a sign was changed"),
            ("sign-flipped", (x, -y), "a sign was changed"),
            ("sign-flipped", (-x, -y), "both signs were changed"),
        ]
        for last in _points_before(feature, e):
            if last == (0.0, 0.0):
                continue
            as_step, as_place = (last[0] + x, last[1] + y), (x - last[0], y - last[1])
            guesses += [
                ("coordinate-as-step", as_step, "it was taken as a step from the last point"),
                ("step-as-coordinate", as_place, "the step from the last point was taken as a coordinate"),
            ]
        told: set[str] = set()
        for code, predicted, how in guesses:
            if code not in told and e.same(predicted, drawn) and not e.same((x, y), predicted):
                told.add(code)
                what = "corner" if isinstance(feature, Corner) else f"centre of the {noun(feature, e.centre)}"
                says = (
                    f"The {what} at {number(x)}, {number(y)} was drawn at {number(drawn[0])}, "
                    f"{number(drawn[1])}: {how}."
                )
                free = 0 if code in ("axes-swapped", "sign-flipped") or isinstance(feature, Corner) else 1
                yield Hypothesis(code=code, tokens=explains, says=says, free=free, about=f.id)


def _points_before(feature: object, e: Evidence) -> list[Point]:
    """Return the points that may have come before a place: the corner before it in its outline; the other
    centres of the drawing."""
    key = e.exam.key
    if isinstance(feature, Corner):
        out = []
        for outline in key.outlines_at.get(feature.id, ()):
            n = outline.corners.index(feature.id)
            out += [
                key.by_id[outline.corners[n - 1]].at,
                key.by_id[outline.corners[(n + 1) % len(outline.corners)]].at,
            ]
        return out
    if isinstance(feature, CircleFeature | ArcFeature):
        return [c.center for c in key.rounds if c.id != feature.id][:60]
    return []


def chains(e: Evidence) -> Iterator[Hypothesis]:
    """Sizes from one base were taken one after the other, or the reverse: `baseline-as-chain`,
    `chain-as-baseline`."""
    open_ = {
        f.features[0]: f
        for f in e.failing("position")
        if f.features[0][0] == "c" and isinstance(f.measured, tuple)
    }
    if not open_ or e.exam.key.box is None:
        return
    left, bottom, right, top = _outline_box(e)
    told: set[frozenset[Token]] = set()
    for axis, bases in ((0, (left, right, 0.0)), (1, (bottom, top, 0.0))):
        for row in _rows(e, axis):
            for base in bases:
                for sign in (1.0, -1.0):
                    made = _read_otherwise(row, axis, base, sign, open_, e)
                    if made is not None and made.tokens not in told:
                        told.add(made.tokens)
                        yield made


def _outline_box(e: Evidence) -> tuple[float, float, float, float]:
    places = [k.at for k in e.exam.key.corners] or [c.center for c in e.exam.key.circles]
    xs, ys = zip(*places, strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def _rows(e: Evidence, axis: int) -> list[list[CircleFeature]]:
    """Return circles that are in line along an axis, two or more."""
    rows: dict[int, list[CircleFeature]] = {}
    for c in e.exam.key.circles:
        rows.setdefault(round(c.center[1 - axis] / (2 * e.exact)), []).append(c)
    return [row for row in rows.values() if len(row) > 1]


def _read_otherwise(
    row: list[CircleFeature], axis: int, base: float, sign: float, open_: dict[str, Finding], e: Evidence
) -> Hypothesis | None:
    offsets = sorted((sign * (c.center[axis] - base), c.id, c) for c in row)
    offsets = [o for o in offsets if o[0] > e.exact]
    if len(offsets) < 2:
        return None
    total, before_ = 0.0, 0.0
    chain, baseline = [], []
    for offset, i, c in offsets:
        total += offset
        chain.append((i, c, total))
        baseline.append((i, c, offset - before_))
        before_ = offset
    for code, predicted, how in (
        ("baseline-as-chain", chain, "baseline dimensions were each taken from the hole before"),
        ("chain-as-baseline", baseline, "chain dimensions were all taken from one base"),
    ):
        # which drawn hole was taken for which says nothing here: they are all of one size
        left = [getattr(e.exam.partner(i), "center", None) for i, _, _ in predicted]
        for _, c, at in predicted:
            want = (base + sign * at, c.center[1]) if axis == 0 else (c.center[0], base + sign * at)
            there = next((p for p in left if e.same(p, want)), None)
            if there is None:
                break
            left.remove(there)
        else:
            found = [open_[i] for i, _, _ in predicted if i in open_]
            if found:
                says = (
                    f"{len(found) + 1} holes in a row: {how}, so that every one after the first is "
                    f"{'too far along' if code[0] == 'b' else 'not far enough'}."
                )
                return Hypothesis(code=code, tokens=tokens(found), says=says)
    return None


ALL = (angles, steps, coordinates, chains)
