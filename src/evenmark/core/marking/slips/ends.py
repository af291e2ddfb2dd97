"""Slips of ends: `gap`, `overshoot`, `by-eye`, `caught-wrong-point`, `not-quite-tangent`,
`wrong-tangent-side`, `tangent-to-another`, `wrong-side`."""

from __future__ import annotations

import math
from collections.abc import Iterator

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.tolerance import is_round
from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge, Tee
from evenmark.core.linework.sharp import crossing
from evenmark.core.linework.wording import noun, number, place, size
from evenmark.core.marking.examination import Examination
from evenmark.core.marking.explain import Evidence, Hypothesis, Token
from evenmark.core.marking.follow_habits import is_slip_of_the_hand
from evenmark.core.marking.model import Finding
from evenmark.core.marking.slips.common import (
    far_tokens,
    moved_with,
    not_joined,
    on_supporting_line,
    points_at,
    step_of,
    token,
)
from evenmark.core.marking.slips.mirrors import Mirrors


def ends_apart(e: Evidence) -> Iterator[Hypothesis]:
    """Ends that should meet do not: `gap` when one stops short, `overshoot` when it runs past."""
    for f in e.failing("joined"):
        if f.verdict == "absent" or not isinstance(f.measured, float):
            continue
        joint = e.exam.key.by_id[f.features[0]]
        assert isinstance(joint, Corner | Tee)
        near = tol.within(min(f.measured, _astray(joint, e)), e.exam.tolerances.near, e.exam.slack)
        if not near and not is_slip_of_the_hand(joint, f.measured, e.exam):
            continue  # this is an end that went elsewhere
        tokens = {(f.id, -1)} | moved_with(joint, e)
        by = size(f.measured, e.unit)
        others = [g for g in e.following.get(f.id, ()) if g.kind == "joined"]
        if others:
            yield _all_ends([f, *others], frozenset(tokens | {(g.id, -1) for g in others}), e)
        elif _runs_past(joint, e.exam):
            yield Hypothesis(
                code="overshoot",
                tokens=frozenset(tokens),
                free=2,
                says=f"An end runs {by} past the junction {place(joint)}.",
            )
        else:
            yield Hypothesis(
                code="gap",
                tokens=frozenset(tokens),
                free=2,
                says=f"The ends {place(joint)} do not meet: they are {by} apart.",
            )


def _all_ends(found: list[Finding], tokens: frozenset[Token], e: Evidence) -> Hypothesis:
    """Return that several ends miss where they should meet, in one habit."""
    joints = [k for f in found if isinstance(k := e.exam.key.by_id[f.features[0]], Corner | Tee)]
    past = sum(_runs_past(k, e.exam) for k in joints)
    sizes = sorted(abs(f.measured) for f in found if isinstance(f.measured, float))
    by = size(sizes[0], e.unit)
    if sizes[-1] - sizes[0] > e.exact:
        by = f"{number(sizes[0])} to {size(sizes[-1], e.unit)}"
    if past * 2 > len(joints):
        says = f"Ends run past {len(joints)} junctions, by {by}."
        return Hypothesis(code="overshoot", tokens=tokens, free=2, says=says)
    says = f"Ends do not meet at {len(joints)} places: they are {by} apart."
    return Hypothesis(code="gap", tokens=tokens, free=2, says=says)


def _astray(joint: Corner | Tee, e: Evidence) -> float:
    """Return how far the end that is off most lies from a joint."""
    ends = [e.exam.drawn_end(i, w) for i, w in joint.ends]
    return max((distance(p, joint.at) for p in ends if p is not None), default=math.inf)


def _runs_past(joint: Corner | Tee, exam: Examination) -> bool:
    """Say whether a drawn end at a joint lies beyond the point where it should have stopped."""
    for feature, which in joint.ends:
        drawn = exam.partner(feature)
        here = exam.drawn_end(feature, which)
        if not isinstance(drawn, Edge) or here is None:
            continue
        far = drawn.end if distance(here, drawn.start) <= distance(here, drawn.end) else drawn.start
        stop = _stop(joint, feature, drawn, exam)
        if (
            stop is not None
            and along_supporting_line(here, far, here)
            > along_supporting_line(stop, far, here) + exam.slack + exam.tolerances.length
        ):
            return True
    return False


def _stop(joint: Corner | Tee, feature: str, drawn: Edge, exam: Examination) -> Point | None:
    """Return where an edge should have stopped: at the crossing of supporting lines, or on the curve that it
    should reach."""
    others = [joint.on] if isinstance(joint, Tee) else [i for i, _ in joint.ends if i != feature]
    for other in others:
        on = exam.partner(other)
        if isinstance(on, Edge):
            found = crossing(drawn, on)
            if found is not None:
                return found
        elif isinstance(on, ArcFeature | CircleFeature):
            return _nearest_on_circle(drawn, on, joint.at, exam.tolerances.length)
    return None


def _nearest_on_circle(edge: Edge, on: ArcFeature | CircleFeature, near: Point, reach: float) -> Point | None:
    """Return the crossing of a supporting line with a circle that is nearest to a point, where it touches
    within a reach its foot; None when it misses the circle."""
    along, length = along_supporting_line(on.center, edge.start, edge.end), edge.length
    ux, uy = (edge.end[0] - edge.start[0]) / length, (edge.end[1] - edge.start[1]) / length
    off = distance_to_supporting_line(on.center, edge.start, edge.end)
    if off > on.radius + reach:
        return None
    half = math.sqrt(max(0.0, on.radius * on.radius - off * off))
    both = [(edge.start[0] + ux * s, edge.start[1] + uy * s) for s in (along - half, along + half)]
    return min(both, key=lambda p: distance(p, near))


def by_eye(e: Evidence) -> Iterator[Hypothesis]:
    """A point near its place, off by no round number: `by-eye`."""
    step = step_of(e)
    for f in e.failing("position", "radius"):
        if f.verdict != "near":
            continue
        feature = e.exam.key.by_id[f.features[0]]
        if f.kind == "radius":
            if not isinstance(f.measured, float) or any(
                is_round(v, step, e.exact) for v in (f.measured, 2 * f.measured)
            ):
                continue
            says = (
                f"The {noun(feature, e.centre)} {place(feature)} has radius {size(f.measured, e.unit)}: "
                f"placed by eye, near {number(f.expected)}."  # type: ignore[arg-type]
            )
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
        what = (
            noun(feature, e.centre)
            if isinstance(feature, Corner | Tee)
            else f"centre of the {noun(feature, e.centre)}"
        )
        says = (
            f"The {what} {place(feature)} is {size(f.deviation or 0.0, e.unit)} off its point: placed by "
            "eye rather than on the exact point."
        )
        yield Hypothesis(code="by-eye", tokens=frozenset(tokens), says=says, free=2)
    for f in e.failing("length", "angle"):
        if f.verdict == "near" and isinstance(f.measured, float) and not is_round(f.measured, step, e.exact):
            feature = e.exam.key.by_id[f.features[0]]
            unit = "°" if f.kind == "angle" else f" {e.unit}"
            says = (
                f"The edge {place(feature)} has {f.kind} {number(f.measured)}{unit}: placed by eye, near "
                f"{number(f.expected)}{unit}."  # type: ignore[arg-type]
            )
            yield Hypothesis(code="by-eye", tokens=token(f), says=says, free=3)


def caught_wrong_point(e: Evidence) -> Iterator[Hypothesis]:
    """An end or a centre lies exactly on another characteristic point of the key: `caught-wrong-point`."""
    for f in e.failing("position"):
        if not isinstance(f.measured, tuple) or not isinstance(f.expected, tuple) or f.features[0][0] == "f":
            continue
        found = [what for what, _ in points_at(f.measured, e)]
        if not found:
            continue
        feature = e.exam.key.by_id[f.features[0]]
        explains = {(f.id, -1)}
        if isinstance(feature, Corner | Tee):
            explains |= moved_with(feature, e) | not_joined(feature, e)
        what = (
            noun(feature, e.centre)
            if isinstance(feature, Corner | Tee)
            else f"centre of the {noun(feature, e.centre)}"
        )
        x, y = f.measured
        says = (
            f"The {what} {place(feature)} lies exactly on another point: the {found[0]} at {number(x, 2)}, "
            f"{number(y, 2)}."
        )
        yield Hypothesis(code="caught-wrong-point", tokens=frozenset(explains), says=says, free=1)


def not_quite_tangent(e: Evidence) -> Iterator[Hypothesis]:
    """Ends meet, and nearly where a line and a circle would touch: `not-quite-tangent`."""
    for f in e.failing("tangent"):
        if f.verdict == "absent" or not isinstance(f.measured, float) or f.measured > e.exam.tolerances.near:
            continue
        b, a = f.features
        explains = {(f.id, -1)}
        for i in (a, b):
            explains |= {
                (g.id, -1) for g in e.about(i) if g.kind in ("angle", "length", "sweep", "perpendicular")
            }
            for which in (0, 1):
                joint = e.exam.key.corner_of.get((i, which))
                if joint is not None and {m for m, _ in joint.ends} & {a, b} == {a, b}:
                    explains |= {(g.id, -1) for g in e.about(joint.id) if g.kind == "position"}
        one, other = (noun(e.exam.key.by_id[i], e.centre) for i in (a, b))
        says = (
            f"The {one} and the {other} {place(e.exam.key.by_id[b])} are not quite tangent: they miss by "
            f"{size(f.measured, e.unit)}."
        )
        yield Hypothesis(code="not-quite-tangent", tokens=frozenset(explains), says=says, free=2)


def _asked_tangents(edge: Edge, e: Evidence) -> list[ArcFeature | CircleFeature]:
    """Return the round features that an edge of the key is asked to touch."""
    touched = [e.exam.key.by_id[i] for i in e.asked.tangents.get(edge.id, ())]
    return [c for c in touched if isinstance(c, ArcFeature | CircleFeature)]


def _side(p: Point, a: Point, b: Point) -> float:
    return (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])


def wrong_tangent(e: Evidence) -> Iterator[Hypothesis]:
    """An edge touches what it should on the other side, or touches another circle: `wrong-tangent-side`,
    `tangent-to-another`."""
    seen: set[str] = set()
    for f in e.off("angle", "length", "tangent"):
        edge_id = next((i for i in f.features if i[0] == "e"), "")
        edge, drawn = e.exam.key.by_id.get(edge_id), e.exam.partner(edge_id)
        if edge_id in seen or not isinstance(edge, Edge) or not isinstance(drawn, Edge):
            continue
        seen.add(edge_id)
        asked = _asked_tangents(edge, e)
        if not asked or on_supporting_line(drawn, edge, e):
            continue
        explains = (
            far_tokens(edge, 0, e)
            | far_tokens(edge, 1, e)
            | {(g.id, -1) for g in e.about(edge.id) if g.kind == "tangent"}
        )
        start, end = e.exam.ends_for[edge.id]
        touched = [
            c for c in asked if abs(distance_to_supporting_line(c.center, start, end) - c.radius) <= e.exact
        ]
        flipped = [
            c for c in touched if _side(c.center, start, end) * _side(c.center, edge.start, edge.end) < 0
        ]
        if len(touched) == len(asked) and flipped:
            says = (
                f"The edge {place(edge)} is tangent to the {noun(flipped[0], e.centre)} {place(flipped[0])} "
                "on its other side."
            )
            yield Hypothesis(code="wrong-tangent-side", tokens=explains, says=says)
            continue
        rounds = e.exam.key.rounds
        known = {c.id for c in asked}
        others = [
            c
            for c in rounds
            if c.id not in known
            and abs(distance_to_supporting_line(c.center, start, end) - c.radius) <= e.exact
            and not any(distance(c.center, k.center) + abs(c.radius - k.radius) <= e.exact for k in asked)
            and min(distance(p, c.center) for p in (start, end)) <= c.radius + e.exact
        ]
        if others and len(touched) < len(asked):
            missed = next(c for c in asked if c not in touched)
            says = (
                f"The edge {place(edge)} is tangent to the {noun(others[0], e.centre)} of radius "
                f"{size(others[0].radius, e.unit)}, not to the one of radius {size(missed.radius, e.unit)}."
            )
            yield Hypothesis(code="tangent-to-another", tokens=explains, says=says, free=1)


def wrong_side(e: Evidence) -> Iterator[Hypothesis]:
    """A parallel or a circle lies as far from an edge as it should, on its other side: `wrong-side`."""
    wrong = dict.fromkeys(
        f.features[0] for f in e.failing("position", "angle", "length", "joined") if f.features[0][0] != "e"
    )
    edges: dict[str, None] = {}
    for f in e.open:
        feature = e.exam.key.by_id.get(f.features[0]) if f.features else None
        ends = feature.ends if isinstance(feature, Corner | Tee) else ()
        edges |= dict.fromkeys(i for i in ((f.features or ("",))[0], *(m for m, _ in ends)) if i[:1] == "e")
    if not e.exam.key.edges or not (wrong or edges):
        return
    if "mirrors" not in e.asked.known:
        e.asked.known["mirrors"] = Mirrors(e.exam.key.edges)
    mirrors, right = e.asked.known["mirrors"], e.exam.exact
    for i in wrong:
        curve, drawn = e.exam.key.by_id[i], e.exam.partner(i)
        if (
            not isinstance(curve, ArcFeature | CircleFeature)
            or not isinstance(drawn, ArcFeature | CircleFeature)
            or i in e.exam.exact
        ):
            continue
        ref = mirrors.that_lays(((curve.center, drawn.center),), e.exact, right)
        if ref is not None:
            gap = distance_to_supporting_line(curve.center, ref.start, ref.end)
            says = (
                f"The {noun(curve, e.centre)} {place(curve)} is {size(gap, e.unit)} from the edge "
                f"{place(ref)}, but on its other side."
            )
            own = frozenset((f.id, -1) for f in e.about(i) if f.kind == "position")
            yield Hypothesis(code="wrong-side", tokens=own, says=says, free=1)
    for i in edges:
        there, edge = e.exam.ends_for.get(i), e.exam.key.by_id[i]
        if there is None or i in e.exam.exact or not isinstance(edge, Edge):
            continue
        straight, crossed = zip(edge.ends, there, strict=True), zip(edge.ends, there[::-1], strict=True)
        ref = mirrors.that_lays(tuple(straight), e.exact, right, along=edge) or mirrors.that_lays(
            tuple(crossed), e.exact, right, along=edge
        )
        if ref is not None:
            gap = distance_to_supporting_line(edge.start, ref.start, ref.end)
            loose = frozenset((f.id, -1) for f in e.about(i) if f.kind == "free-ends")
            explains = far_tokens(edge, 0, e) | far_tokens(edge, 1, e) | loose
            says = (
                f"The edge {place(edge)} is {size(gap, e.unit)} from the edge {place(ref)}, but on its "
                "other side."
            )
            yield Hypothesis(code="wrong-side", tokens=explains, says=says, free=1)


ALL = (ends_apart, by_eye, caught_wrong_point, not_quite_tangent, wrong_tangent, wrong_side)
