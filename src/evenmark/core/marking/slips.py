"""The slips that this engine can name, each a function that puts forward hypotheses (marking.md, Causes).

Each predicts numbers and speaks only when the drawing agrees with them within the exact tolerance. A slip of one end of a
feature also accounts for what that end moves: lengths, directions, corners, joints.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator

from evenmark.core.geometry.points import Point, along_carrier, distance, distance_to_carrier
from evenmark.core.geometry.tolerance import is_round
from evenmark.core.linework.model import Arc, Circle, Corner, Edge, Tee
from evenmark.core.marking.case import Case
from evenmark.core.marking.explain import Evidence, Guess, Hypothesis, Token
from evenmark.core.marking.model import Finding
from evenmark.core.marking.wording import counted, noun, number, place, size

UNIT_FACTORS = {
    25.4: "25.4 times too large: millimetres were drawn where inches were asked for, or the reverse",
    1 / 25.4: "25.4 times too small: inches were drawn where millimetres were asked for, or the reverse",
    10.0: "10 times too large: the decimal point slipped, or centimetres and millimetres were exchanged",
    0.1: "10 times too small: the decimal point slipped, or centimetres and millimetres were exchanged",
    12.0: "12 times too large: feet and inches were exchanged",
    1 / 12.0: "12 times too small: feet and inches were exchanged",
    304.8: "304.8 times too large: feet and millimetres were exchanged",
    1 / 304.8: "304.8 times too small: feet and millimetres were exchanged",
}
ROUND_MM, ROUND_IN = 0.05, 1 / 64
"""Steps on which a typed number lies, and a number placed by eye hardly ever."""
MOST_TOLD = 12
"""More absent features than this are told in one sentence a kind."""


def _whole(f: Finding) -> frozenset[Token]:
    return frozenset({(f.id, -1)})


def motion_of_whole(e: Evidence) -> Iterator[Hypothesis]:
    """Everything is right but for one motion: `unit-factor`, `mirrored`, `turned`, `shifted`."""
    for f in e.failing("whole"):
        if f.verdict == "absent":
            continue
        m = e.case.whole_motion
        inverse = 1 / m.scale
        if m.scale != 1.0:
            known = next(
                (
                    says
                    for factor, says in UNIT_FACTORS.items()
                    if math.isclose(factor, inverse, rel_tol=1e-9)
                ),
                None,
            )
            says = (
                f"Everything is drawn {known}."
                if known
                else f"Everything is drawn {number(inverse)} times the size asked for."
            )
            yield Hypothesis(code="unit-factor" if known else "unexplained", tokens=_whole(f), says=says)
        elif m.mirror:
            how = {0.0: ", left for right", 180.0: ", top for bottom"}.get(
                m.turn_deg, f" and turned by {number(m.turn_deg)}°"
            )
            yield Hypothesis(code="mirrored", tokens=_whole(f), says=f"The whole drawing is mirrored{how}.")
        elif m.turn_deg:
            turn = (-m.turn_deg + 180.0) % 360.0 - 180.0
            way = "counter-clockwise" if turn > 0 else "clockwise"
            yield Hypothesis(
                code="turned",
                tokens=_whole(f),
                says=f"The whole drawing is turned by {number(abs(turn))}° {way}.",
            )
        else:
            x, y = -m.shift[0], -m.shift[1]
            says = f"The whole drawing stands {size(x, e.unit)} across and {size(y, e.unit)} up from where it was asked for."
            yield Hypothesis(code="shifted", tokens=_whole(f), says=says)


def double_or_half(e: Evidence) -> Iterator[Hypothesis]:
    """A diameter and a radius were confused: `radius-for-diameter`, `diameter-for-radius`."""
    for f in e.failing("radius"):
        if not isinstance(f.measured, float) or not isinstance(f.expected, float):
            continue
        asked, drawn = f.expected, f.measured
        if abs(drawn - 2 * asked) <= e.exact:
            code, says = (
                "radius-for-diameter",
                f"Drawn with radius {size(drawn, e.unit)}: {number(drawn)} is the diameter asked for.",
            )
        elif abs(drawn - asked / 2) <= e.exact:
            code, says = (
                "diameter-for-radius",
                f"Drawn with diameter {size(2 * drawn, e.unit)}: {number(2 * drawn)} is the radius asked for.",
            )
        else:
            continue
        yield Hypothesis(code=code, tokens=_whole(f) | _neighbours(f, e), says=says)


def _neighbours(f: Finding, e: Evidence) -> frozenset[Token]:
    """Return what an arc of another radius moves at its neighbours: their lengths, the corners between, its own sweep and centre.

    A neighbour counts only if it still lies on its own carrier, so that nothing but its end has moved.
    """
    arc = e.case.key.by_id[f.features[0]]
    if not isinstance(arc, Arc):
        return frozenset()
    moved: set[Token] = {(g.id, -1) for g in e.about(arc.id) if g.kind in ("position", "sweep")}
    for which in (0, 1):
        corner = e.case.key.corner_of.get((arc.id, which))
        if corner is None:
            continue
        moved |= {(g.id, -1) for g in e.about(corner.id) if g.kind == "position"}
        for other, _ in corner.ends:
            edge, drawn = e.case.key.curves[other], e.case.partner(other)
            if isinstance(edge, Edge) and isinstance(drawn, Edge) and _on_carrier(drawn, edge, e):
                moved |= {(g.id, -1) for g in e.about(other) if g.kind == "length"}
    return frozenset(moved)


def _on_carrier(drawn: Edge, edge: Edge, e: Evidence) -> bool:
    return max(distance_to_carrier(p, edge.start, edge.end) for p in drawn.ends) <= e.exact


def ends_apart(e: Evidence) -> Iterator[Hypothesis]:
    """Ends that should meet do not: `gap` when one stops short, `overshoot` when it runs past."""
    for f in e.failing("joined"):
        if f.verdict == "absent" or not isinstance(f.measured, float):
            continue
        joint = e.case.key.by_id[f.features[0]]
        assert isinstance(joint, Corner | Tee)
        past = _runs_past(joint, e.case)
        tokens = {(f.id, -1)} | _moved_with(joint, e)
        by = size(f.measured, e.unit)
        if past:
            yield Hypothesis(
                code="overshoot", tokens=frozenset(tokens), free=1,
                says=f"An end runs {by} past the meeting point {place(joint)}.",
            )  # fmt: skip
        else:
            yield Hypothesis(
                code="gap", tokens=frozenset(tokens), free=1,
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


def crossing(a: Edge, b: Edge) -> Point | None:
    """Return where the carriers of two edges cross; None when they are parallel within a thousandth of a degree."""
    ax, ay = a.end[0] - a.start[0], a.end[1] - a.start[1]
    bx, by = b.end[0] - b.start[0], b.end[1] - b.start[1]
    cross = ax * by - ay * bx
    if abs(cross) <= 1.7e-5 * math.hypot(ax, ay) * math.hypot(bx, by):
        return None
    t = ((b.start[0] - a.start[0]) * by - (b.start[1] - a.start[1]) * bx) / cross
    return (a.start[0] + t * ax, a.start[1] + t * ay)


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


def _moved_with(joint: Corner | Tee, e: Evidence) -> set[Token]:
    """Return what ends that miss a joint account for: its place, tangency there, lengths of edges still on their carriers, the outline."""
    ids = {i for i, _ in joint.ends} | ({joint.on} if isinstance(joint, Tee) else set())
    out: set[Token] = {(g.id, -1) for g in e.about(joint.id) if g.kind == "position"}
    for i in ids:
        edge, drawn = e.case.key.curves[i], e.case.partner(i)
        for g in e.about(i):
            if (
                (g.kind == "tangent" and set(g.features) <= ids)
                or (
                    g.kind in ("length", "angle")
                    and isinstance(edge, Edge)
                    and isinstance(drawn, Edge)
                    and _one_end_in_place(edge, joint, e)
                )
                or (g.kind == "sweep" and isinstance(drawn, Arc))
            ):
                out.add((g.id, -1))
    for outline in e.case.key.outlines_at.get(joint.id, ()):
        out |= {(g.id, -1) for g in e.about(outline.id) if g.kind == "closed"}
    return out


def _one_end_in_place(edge: Edge, joint: Corner | Tee, e: Evidence) -> bool:
    """Say whether the end of an edge that is not at the joint lies where it should."""
    for which, point in enumerate(edge.ends):
        if (edge.id, which) not in joint.ends:
            drawn = e.case.drawn_end(edge.id, which)
            if drawn is not None and distance(drawn, point) <= e.exact:
                return True
    return False


def by_eye(e: Evidence) -> Iterator[Hypothesis]:
    """A point near its place, off by no round number: `by-eye`."""
    step = ROUND_IN if e.unit in ("in", "ft", "mil") else ROUND_MM
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
            yield Hypothesis(code="by-eye", tokens=_whole(f), says=says, free=1)
            continue
        assert isinstance(f.measured, tuple)
        assert isinstance(f.expected, tuple)
        if all(is_round(v, step, e.exact) for v in f.measured) or all(
            is_round(m - x, step, e.exact) for m, x in zip(f.measured, f.expected, strict=True)
        ):
            continue
        tokens = {(f.id, -1)}
        if isinstance(feature, Corner | Tee):
            tokens |= _moved_with(feature, e)
        what = noun(feature) if isinstance(feature, Corner | Tee) else f"centre of the {noun(feature)}"
        says = f"The {what} {place(feature)} is {size(f.deviation or 0.0, e.unit)} off its point: placed by eye rather than on the exact point."
        yield Hypothesis(code="by-eye", tokens=frozenset(tokens), says=says, free=2)
    for f in e.failing("length", "angle"):
        if f.verdict == "near" and isinstance(f.measured, float) and not is_round(f.measured, step, e.exact):
            feature = e.case.key.by_id[f.features[0]]
            unit = "°" if f.kind == "angle" else f" {e.unit}"
            says = f"The edge {place(feature)} has {f.kind} {number(f.measured)}{unit}: placed by eye, near {number(f.expected)}{unit}."  # type: ignore[arg-type]
            yield Hypothesis(code="by-eye", tokens=_whole(f), says=says, free=3)


def layers(e: Evidence) -> Iterator[Hypothesis]:
    """Right shape on another layer: `wrong-layer`, or `default-layer` for layer 0."""
    groups: dict[tuple[str, str], list[Finding]] = defaultdict(list)
    for f in e.failing("layer"):
        if f.verdict == "missed":
            groups[str(f.expected), str(f.measured)].append(f)
    for (asked, drawn), group in sorted(groups.items()):
        many = counted(len(group), "object") + (" is" if len(group) == 1 else " are")
        if drawn == "0":
            code, says = "default-layer", f"{many} on the default layer 0; layer {asked} was asked for."
        else:
            code, says = "wrong-layer", f"{many} on layer {drawn}; layer {asked} was asked for."
        yield Hypothesis(code=code, tokens=frozenset((f.id, -1) for f in group), says=says)


def clutter(e: Evidence) -> Iterator[Hypothesis]:
    """Things that should not be there: `drawn-twice`, `construction-left`, `debris`; other spare geometry is unexplained."""
    words = {
        "drawn-twice": ("stretch", "stretches", "drawn twice: one lies on top of the other"),
        "construction-left": ("construction line", "construction lines", "left in the drawing"),
        "debris": ("object", "objects", "so short that nothing can be seen of it"),
        "spare": ("object", "objects", "drawn that was not asked for"),
    }
    for f in e.failing("clean"):
        groups: dict[str, list[int]] = defaultdict(list)
        for n, item in enumerate(f.items):
            if item.charged:
                groups[item.code].append(n)
        for code, numbers in groups.items():
            one, more, what = words[code]
            where = f" ({_places([f.items[n].at for n in numbers])})"
            head = f"1 {one} is" if len(numbers) == 1 else f"{len(numbers)} {more} are"
            tokens = frozenset((f.id, n) for n in numbers)
            yield Hypothesis(
                code="unexplained" if code == "spare" else code, tokens=tokens, says=f"{head} {what}{where}."
            )


def _places(points: list[Point]) -> str:
    shown = "; ".join(f"at {number(x, 2)}, {number(y, 2)}" for x, y in points[:3])
    return shown if len(points) <= 3 else f"{shown} and {len(points) - 3} more"


def not_drawn(e: Evidence) -> Iterator[Hypothesis]:
    """Nothing was drawn for a feature: `not-drawn`."""
    lacking: dict[str, list[Finding]] = defaultdict(list)
    for f in e.open:
        if f.verdict == "absent" and f.features and f.features[0] not in e.case.pairing.partners:
            lacking[f.features[0]].append(f)
    whole = [f for f in e.failing("whole") if f.verdict == "absent"]
    if whole:
        tokens = frozenset((f.id, -1) for f in e.open if f.verdict == "absent")
        yield Hypothesis(code="not-drawn", tokens=tokens, says="Nothing of what was asked for was drawn.")
        return
    curves = [i for i in lacking if i in e.case.key.curves or i.startswith("x")]
    by_kind: dict[str, list[str]] = defaultdict(list)
    for i in curves:
        by_kind[noun(e.case.key.by_id[i])].append(i)
    joints = [i for i in lacking if i not in curves]
    for word, ids in by_kind.items():
        together = [ids] if len(ids) > MOST_TOLD else [[i] for i in ids]
        for group in together:
            absent = {(f.id, -1) for i in group for f in lacking[i]} | _joints_of(group, joints, lacking, e)
            first = e.case.key.by_id[group[0]]
            says = (
                f"{len(group)} {word}s were not drawn."
                if len(group) > 1
                else f"The {word} {place(first)} was not drawn."
            )
            yield Hypothesis(code="not-drawn", tokens=frozenset(absent), says=says)
    for f in e.failing("layer-style"):
        if f.verdict == "absent":
            yield Hypothesis(
                code="not-drawn", tokens=_whole(f), says=f"There is no layer {f.layer} in the drawing."
            )


def _joints_of(
    group: list[str], joints: list[str], lacking: dict[str, list[Finding]], e: Evidence
) -> set[Token]:
    """Return the absent findings of corners and outlines that belong to absent features."""
    mine = set(group)
    out: set[Token] = set()
    for i in joints:
        feature = e.case.key.by_id[i]
        members = {
            m
            for m, _ in (
                feature.ends if isinstance(feature, Corner | Tee) else getattr(feature, "members", ())
            )
        }
        if members & mine:
            out |= {(f.id, -1) for f in lacking[i]}
    return out


def wrong_style(e: Evidence) -> Iterator[Hypothesis]:
    """A layer has another look than was asked: told in numbers, no slip named."""
    for f in e.failing("layer-style"):
        if f.verdict == "missed":
            says = f"Layer {f.layer} is set to {f.measured}; {f.expected} was asked for."
            yield Hypothesis(code="unexplained", tokens=_whole(f), says=says)


ALL: tuple[Guess, ...] = (
    motion_of_whole,
    double_or_half,
    ends_apart,
    by_eye,
    layers,
    clutter,
    not_drawn,
    wrong_style,
)
"""Every hypothesis, in no order that matters: what explains most is kept."""
