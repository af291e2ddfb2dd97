"""Follow-through of what was turned or mirrored as one: a pocket, a view out of plumb.

- *piece*: features that hang together: a view, or what is joined by corners and meetings. *Rigid*: one motion
  lays every drawn point of a piece on its place.

A piece that was merely shifted is told by `together`; of nearly everything, that is the slip of the whole
drawing (see `place`).
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator
from typing import NamedTuple

from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge
from evenmark.core.marking.examination import Asked, Examination
from evenmark.core.marking.model import Finding

MOST_FEATURES, MOST_OF_ALL = 400, 0.9
"""A piece of more features is not looked at, nor nearly everything."""
_ORDER = ("position", "free-ends", "angle", "length", "sweep", "axis")
_RIGID = frozenset(_ORDER) | {
    "perpendicular",
    "parallel",
    "included-angle",
    "distance",
    "concentric",
    "symmetric",
    "agreement",
}
"""What a motion of a piece changes; all of it follows."""


class RigidTurn(NamedTuple):
    """How a piece was moved: by how much it is turned, counter-clockwise, after it was mirrored or not."""

    turn_deg: float
    mirrored: bool


def follow_rigid(findings: list[Finding], _asked: Asked, exam: Examination) -> dict[int, int]:
    """Return which findings follow the first about a piece that was turned or mirrored as one."""
    led: dict[int, int] = {}
    off: dict[str, list[Finding]] = {}
    for f in findings:
        if f.kind in _RIGID and f.verdict in ("near", "missed"):
            for i in f.features:
                off.setdefault(i, []).append(f)
    if not off:
        return led
    for piece in pieces_off(exam, off):
        if turn_of(piece, exam) is None:
            continue
        inside = with_joints(piece, exam)
        found = {f.id: f for i in inside for f in off.get(i, ()) if inside.issuperset(f.features)}
        own = [f for f in found.values() if f.id not in led]
        if len(own) > 1:
            first = min(own, key=lambda f: (_rank(f.kind), f.id))
            led |= {f.id: first.id for f in own if f.id != first.id}
    return led


def _rank(kind: str) -> int:
    return _ORDER.index(kind) if kind in _ORDER else len(_ORDER)


def pieces_off(exam: Examination, off: Collection[str]) -> Iterator[tuple[str, ...]]:
    """Yield the pieces of a key of which something is off: views first, then what hangs together by joints;
    not nearly everything."""
    key = exam.key
    most = min(MOST_FEATURES, MOST_OF_ALL * len(key.curves))
    views = exam.rules.views or ()
    if len(views) > 1:
        for view in views:
            left, low, right, high = view.box
            inside = tuple(
                i for i, f in key.curves.items() if left <= f.at[0] <= right and low <= f.at[1] <= high
            )
            if 1 < len(inside) < most and any(i in off for i in with_joints(inside, exam)):
                yield inside
    for n in sorted({key.piece_of[i] for i in off if i in key.piece_of}):
        piece = key.pieces[n]
        if 1 < len(piece) < most:
            yield piece


def with_joints(piece: tuple[str, ...], exam: Examination) -> set[str]:
    """Return the features of a piece with its corners, meetings and outlines."""
    key, out = exam.key, set(piece)
    joints = {k for i in piece for k in key.joints_at.get(i, ())}
    joints = {k for k in joints if all(i in out for i, _ in key.meetings[k].ends)}
    outlines = {o.id: o for k in joints for o in key.outlines_at.get(k, ())}
    around = {i for i, o in outlines.items() if all(m in out for m, _ in o.members)}
    return out | joints | around


def turn_of(piece: tuple[str, ...], exam: Examination) -> RigidTurn | None:
    """Return how a piece was turned or mirrored as one; None where it was not, or was only shifted."""
    pairs: list[tuple[Point, Point]] = []
    reach = _reach(exam)
    for i in piece:
        asked, drawn = exam.key.curves[i], exam.partner(i)
        if exam.role(asked.layer) == "centre":
            continue
        if isinstance(asked, CircleFeature) and isinstance(drawn, CircleFeature):
            pairs.append((asked.center, drawn.center))
        elif isinstance(asked, Edge | ArcFeature) and type(drawn) is type(asked) and i in exam.ends_for:
            (a, b), (p, q) = asked.ends, exam.ends_for[i]
            if abs(distance(a, b) - distance(p, q)) > 6 * reach:
                return None  # no motion of lengths that differ
            pairs += [(a, p), (b, q)]
        else:
            return None
        if isinstance(asked, ArcFeature | CircleFeature) and abs(asked.radius - drawn.radius) > reach:  # type: ignore[union-attr]
            return None
    if len(pairs) < 2:
        return None
    (a, p) = pairs[0]
    b, q = max(pairs, key=lambda pair: distance(pair[0], a))
    if distance(a, b) <= reach:
        return None
    for mirrored in (False, True):
        found = _fits(pairs, a, p, b, q, mirrored, exam)
        if found is not None:
            return found
    return None


def _fits(
    pairs: list[tuple[Point, Point]],
    a: Point,
    p: Point,
    b: Point,
    q: Point,
    mirrored: bool,
    exam: Examination,
) -> RigidTurn | None:
    """Return the motion that takes a to p and b to q if it takes every first point to its second one."""
    sign = -1.0 if mirrored else 1.0
    u, v = complex(b[0] - a[0], sign * (b[1] - a[1])), complex(q[0] - p[0], q[1] - p[1])
    turn = v / u
    if abs(abs(turn) - 1.0) * abs(u) > 2 * _reach(exam):
        return None
    turn /= abs(turn)
    for x, y in pairs:
        w = turn * complex(x[0] - a[0], sign * (x[1] - a[1]))
        if math.hypot(p[0] + w.real - y[0], p[1] + w.imag - y[1]) > 3 * _reach(exam):
            return None
    deg = math.degrees(math.atan2(turn.imag, turn.real))
    if mirrored:
        return RigidTurn(deg, True)
    if abs(math.radians(deg)) * abs(u) <= 2 * _reach(exam):
        return None
    return RigidTurn(deg, False)


def _reach(exam: Examination) -> float:
    return exam.tolerances.position + exam.slack
