"""Slips of ends: `gap`, `overshoot`, `by-eye`, `caught-wrong-point`, `not-quite-tangent`, `wrong-tangent-side`, `tangent-to-another`,
`wrong-side`."""

from __future__ import annotations

import math
from collections.abc import Iterator

from evenmark.core.geometry.points import Point, along_carrier, distance, distance_to_carrier
from evenmark.core.geometry.tolerance import is_round
from evenmark.core.linework.model import Arc, Circle, Corner, Edge, Tee
from evenmark.core.marking.case import Case
from evenmark.core.marking.explain import Evidence, Hypothesis
from evenmark.core.marking.slips.common import (
    characteristic_points,
    crossing,
    far_tokens,
    moved_with,
    not_joined,
    on_carrier,
    step_of,
    token,
)
from evenmark.core.marking.wording import noun, number, place, size


def ends_apart(e: Evidence) -> Iterator[Hypothesis]:
    """Ends that should meet do not: `gap` when one stops short, `overshoot` when it runs past."""
    for f in e.failing("joined"):
        if f.verdict == "absent" or not isinstance(f.measured, float):
            continue
        joint = e.case.key.by_id[f.features[0]]
        assert isinstance(joint, Corner | Tee)
        past = _runs_past(joint, e.case)
        tokens = {(f.id, -1)} | moved_with(joint, e)
        by = size(f.measured, e.unit)
        if past:
            yield Hypothesis(
                code="overshoot", tokens=frozenset(tokens), free=2,
                says=f"An end runs {by} past the meeting point {place(joint)}.",
            )  # fmt: skip
        else:
            yield Hypothesis(
                code="gap", tokens=frozenset(tokens), free=2,
                says=f"The ends {place(joint)} do not meet: they are {by} apart.",
            )  # fmt: skip


def _runs_past(joint: Corner | Tee, case: Case) -> bool:
    """Say whether a drawn end at a joint lies beyond the point where it should have stopped."""
    for feature, which in joint.ends:
        drawn = case.partner(feature)
        here = case.drawn_end(feature, which)
        if not isinstance(drawn, Edge) or here is None:
            continue
        far = drawn.end if distance(here, drawn.start) <= distance(here, drawn.end) else drawn.start
        stop = _stop(joint, feature, drawn, case)
        if (
            stop is not None
            and along_carrier(here, far, here)
            > along_carrier(stop, far, here) + case.slack + case.tolerances.length
        ):
            return True
    return False


def _stop(joint: Corner | Tee, feature: str, drawn: Edge, case: Case) -> Point | None:
    """Return where an edge should have stopped: at the crossing of carriers, or on the curve that it should reach."""
    others = [joint.on] if isinstance(joint, Tee) else [i for i, _ in joint.ends if i != feature]
    for other in others:
        on = case.partner(other)
        if isinstance(on, Edge):
            found = crossing(drawn, on)
            if found is not None:
                return found
        elif isinstance(on, Arc | Circle):
            return _nearest_on_circle(drawn, on, joint.at)
    return None


def _nearest_on_circle(edge: Edge, on: Arc | Circle, near: Point) -> Point | None:
    """Return the crossing of a carrier with a circle that is nearest to a point; None when it misses the circle."""
    along, length = along_carrier(on.center, edge.start, edge.end), edge.length
    ux, uy = (edge.end[0] - edge.start[0]) / length, (edge.end[1] - edge.start[1]) / length
    off = distance_to_carrier(on.center, edge.start, edge.end)
    if off > on.radius:
        return None
    half = math.sqrt(on.radius * on.radius - off * off)
    both = [(edge.start[0] + ux * s, edge.start[1] + uy * s) for s in (along - half, along + half)]
    return min(both, key=lambda p: distance(p, near))


def by_eye(e: Evidence) -> Iterator[Hypothesis]:
    """A point near its place, off by no round number: `by-eye`."""
    step = step_of(e)
    for f in e.failing("position", "radius"):
        if f.verdict != "near":
            continue
        feature = e.case.key.by_id[f.features[0]]
        if f.kind == "radius":
            if not isinstance(f.measured, float) or any(
                is_round(v, step, e.exact) for v in (f.measured, 2 * f.measured)
            ):
                continue
            says = f"The {noun(feature)} {place(feature)} has radius {size(f.measured, e.unit)}: placed by eye, near {number(f.expected)}."  # type: ignore[arg-type]
            yield Hypothesis(code="by-eye", tokens=token(f), says=says, free=1)
            continue
        assert isinstance(f.measured, tuple)
        assert isinstance(f.expected, tuple)
        if all(is_round(v, step, e.exact) for v in f.measured) or all(
            is_round(m - x, step, e.exact) for m, x in zip(f.measured, f.expected, strict=True)
        ):
            continue
        tokens = {(f.id, -1)}
        if isinstance(feature, Corner | Tee):
            tokens |= moved_with(feature, e)
        what = noun(feature) if isinstance(feature, Corner | Tee) else f"centre of the {noun(feature)}"
        says = f"The {what} {place(feature)} is {size(f.deviation or 0.0, e.unit)} off its point: placed by eye rather than on the exact point."
        yield Hypothesis(code="by-eye", tokens=frozenset(tokens), says=says, free=2)
    for f in e.failing("length", "angle"):
        if f.verdict == "near" and isinstance(f.measured, float) and not is_round(f.measured, step, e.exact):
            feature = e.case.key.by_id[f.features[0]]
            unit = "°" if f.kind == "angle" else f" {e.unit}"
            says = f"The edge {place(feature)} has {f.kind} {number(f.measured)}{unit}: placed by eye, near {number(f.expected)}{unit}."  # type: ignore[arg-type]
            yield Hypothesis(code="by-eye", tokens=token(f), says=says, free=3)


def caught_wrong_point(e: Evidence) -> Iterator[Hypothesis]:
    """An end or a centre lies exactly on another characteristic point of the key: `caught-wrong-point`."""
    points: list[tuple[str, Point]] | None = None
    for f in e.failing("position"):
        if not isinstance(f.measured, tuple) or not isinstance(f.expected, tuple) or f.features[0][0] == "f":
            continue
        points = points if points is not None else list(characteristic_points(e.case.key))
        found = [what for what, p in points if distance(p, f.measured) <= e.exact]
        if not found:
            continue
        feature = e.case.key.by_id[f.features[0]]
        explains = {(f.id, -1)}
        if isinstance(feature, Corner | Tee):
            explains |= moved_with(feature, e) | not_joined(feature, e)
        what = noun(feature) if isinstance(feature, Corner | Tee) else f"centre of the {noun(feature)}"
        x, y = f.measured
        says = f"The {what} {place(feature)} lies exactly on another point: the {found[0]} at {number(x, 2)}, {number(y, 2)}."
        yield Hypothesis(code="caught-wrong-point", tokens=frozenset(explains), says=says, free=1)


def not_quite_tangent(e: Evidence) -> Iterator[Hypothesis]:
    """Ends meet, and nearly where a line and a circle would touch: `not-quite-tangent`."""
    for f in e.failing("tangent"):
        if f.verdict == "absent" or not isinstance(f.measured, float) or f.measured > e.case.tolerances.near:
            continue
        b, a = f.features
        explains = {(f.id, -1)}
        for i in (a, b):
            explains |= {
                (g.id, -1) for g in e.about(i) if g.kind in ("angle", "length", "sweep", "perpendicular")
            }
            for which in (0, 1):
                joint = e.case.key.corner_of.get((i, which))
                if joint is not None and {m for m, _ in joint.ends} & {a, b} == {a, b}:
                    explains |= {(g.id, -1) for g in e.about(joint.id) if g.kind == "position"}
        one, other = (noun(e.case.key.by_id[i]) for i in (a, b))
        says = f"The {one} and the {other} {place(e.case.key.by_id[b])} are not quite tangent: they miss by {size(f.measured, e.unit)}."
        yield Hypothesis(code="not-quite-tangent", tokens=frozenset(explains), says=says, free=2)


def _asked_tangents(edge: Edge, e: Evidence) -> list[Arc | Circle]:
    """Return the round features that an edge of the key is asked to touch."""
    out = []
    for a in e.asks.values():
        if a.r.kind == "tangent" and edge.id in a.r.features:
            other = next(i for i in a.r.features if i != edge.id)
            curve = e.case.key.by_id[other]
            if isinstance(curve, Arc | Circle):
                out.append(curve)
    return out


def _side(p: Point, a: Point, b: Point) -> float:
    return (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])


def wrong_tangent(e: Evidence) -> Iterator[Hypothesis]:
    """An edge touches what it should on the other side, or touches another circle: `wrong-tangent-side`, `tangent-to-another`."""
    seen: set[str] = set()
    for f in e.failing("angle", "length", "tangent"):
        edge_id = next((i for i in f.features if i[0] == "e"), "")
        edge, drawn = e.case.key.by_id.get(edge_id), e.case.partner(edge_id)
        if edge_id in seen or not isinstance(edge, Edge) or not isinstance(drawn, Edge):
            continue
        seen.add(edge_id)
        asked = _asked_tangents(edge, e)
        if not asked or on_carrier(drawn, edge, e):
            continue
        explains = (
            far_tokens(edge, 0, e)
            | far_tokens(edge, 1, e)
            | {(g.id, -1) for g in e.about(edge.id) if g.kind == "tangent"}
        )
        start, end = e.case.ends_for[edge.id]
        touched = [c for c in asked if abs(distance_to_carrier(c.center, start, end) - c.radius) <= e.exact]
        flipped = [
            c for c in touched if _side(c.center, start, end) * _side(c.center, edge.start, edge.end) < 0
        ]
        if len(touched) == len(asked) and flipped:
            says = f"The edge {place(edge)} touches the {noun(flipped[0])} {place(flipped[0])} on its other side."
            yield Hypothesis(code="wrong-tangent-side", tokens=explains, says=says)
            continue
        rounds = e.case.key.rounds
        known = {c.id for c in asked}
        others = [
            c
            for c in rounds
            if c.id not in known
            and abs(distance_to_carrier(c.center, start, end) - c.radius) <= e.exact
            and not any(distance(c.center, k.center) + abs(c.radius - k.radius) <= e.exact for k in asked)
            and min(distance(p, c.center) for p in (start, end)) <= c.radius + e.exact
        ]
        if others and len(touched) < len(asked):
            missed = next(c for c in asked if c not in touched)
            says = (
                f"The edge {place(edge)} touches the {noun(others[0])} of radius {size(others[0].radius, e.unit)} "
                f"instead of the one of radius {size(missed.radius, e.unit)}."
            )
            yield Hypothesis(code="tangent-to-another", tokens=explains, says=says, free=1)


def wrong_side(e: Evidence) -> Iterator[Hypothesis]:
    """A parallel or a circle lies as far from an edge as it should, on its other side: `wrong-side`."""
    exact_edges = [k for k in e.case.key.edges if k.id in e.case.exact]
    for f in e.failing("position"):
        if (
            f.features[0][0] not in "ca"
            or not isinstance(f.measured, tuple)
            or not isinstance(f.expected, tuple)
        ):
            continue
        for ref in exact_edges:
            if e.same(_image(f.expected, ref), f.measured):
                feature = e.case.key.by_id[f.features[0]]
                gap = distance_to_carrier(f.expected, ref.start, ref.end)
                says = f"The {noun(feature)} {place(feature)} is {size(gap, e.unit)} from the edge {place(ref)}, but on its other side."
                yield Hypothesis(code="wrong-side", tokens=token(f), says=says, free=1)
                break
    for edge in e.case.key.edges:
        drawn = e.case.ends_for.get(edge.id)
        if drawn is None or edge.id in e.case.exact:
            continue
        for ref in exact_edges:
            gap = distance_to_carrier(edge.start, ref.start, ref.end)
            if (
                ref.id == edge.id
                or gap <= e.exact
                or abs(distance_to_carrier(edge.end, ref.start, ref.end) - gap) > e.exact
            ):
                continue
            images = [_image(p, ref) for p in edge.ends]
            if (e.same(images[0], drawn[0]) and e.same(images[1], drawn[1])) or (
                e.same(images[0], drawn[1]) and e.same(images[1], drawn[0])
            ):
                explains = far_tokens(edge, 0, e) | far_tokens(edge, 1, e)
                says = f"The edge {place(edge)} is {size(gap, e.unit)} from the edge {place(ref)}, but on its other side."
                yield Hypothesis(code="wrong-side", tokens=explains, says=says, free=1)
                break


def _image(p: Point, ref: Edge) -> Point:
    """Return the mirror image of a point about an edge."""
    length = ref.length
    ux, uy = (ref.end[0] - ref.start[0]) / length, (ref.end[1] - ref.start[1]) / length
    x, y = p[0] - ref.start[0], p[1] - ref.start[1]
    t = x * ux + y * uy
    return (ref.start[0] + 2 * t * ux - x, ref.start[1] + 2 * t * uy - y)


ALL = (ends_apart, by_eye, caught_wrong_point, not_quite_tangent, wrong_tangent, wrong_side)
