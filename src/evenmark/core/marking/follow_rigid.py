"""Follow-through of what was turned or mirrored as one: a pocket, a view out of plumb.

- *piece*: features that hang together: a view, or what is joined by corners and meetings. *Rigid*: one motion
  lays every drawn point of a piece on its place.

A piece that was merely shifted is told by `together`; of nearly everything, that is the slip of the whole
drawing (see `place`).
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import Arc, Circle, Edge, Outline
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


class Turn(NamedTuple):
    """How a piece was moved: by how much it is turned, counter-clockwise, after it was mirrored or not; and
    the place about which, where it was only turned."""

    turn_deg: float
    mirrored: bool
    about: Point | None


def follow_rigid(findings: list[Finding], _asked: Asked, exam: Examination) -> dict[int, int]:
    """Return which findings follow the first about a piece that was turned or mirrored as one."""
    led: dict[int, int] = {}
    off = {i for f in findings for i in f.features if f.kind in _ORDER and f.verdict in ("near", "missed")}
    if not off:
        return led
    for piece in pieces(exam):
        if not _touched(piece, off, exam) or turn_of(piece, exam) is None:
            continue
        inside = with_joints(piece, exam)
        own = [
            f
            for f in findings
            if f.kind in _RIGID and f.verdict in ("near", "missed") and inside.issuperset(f.features)
        ]
        own = [f for f in own if f.id not in led]
        if len(own) > 1:
            first = min(own, key=lambda f: (_rank(f.kind), f.id))
            led |= {f.id: first.id for f in own if f.id != first.id}
    return led


def _rank(kind: str) -> int:
    return _ORDER.index(kind) if kind in _ORDER else len(_ORDER)


def pieces(exam: Examination) -> Iterator[tuple[str, ...]]:
    """Yield the pieces of a key: views first, then what hangs together by joints; not nearly everything."""
    key = exam.key
    most = min(MOST_FEATURES, MOST_OF_ALL * len(key.curves))
    views = exam.rules.views or ()
    if len(views) > 1:
        for view in views:
            left, low, right, high = view.box
            inside = tuple(
                i for i, f in key.curves.items() if left <= f.at[0] <= right and low <= f.at[1] <= high
            )
            if 1 < len(inside) < most:
                yield inside
    for group in _joined(exam):
        if 1 < len(group) < most:
            yield group


def _joined(exam: Examination) -> list[tuple[str, ...]]:
    key = exam.key
    root: dict[str, str] = {}

    def find(i: str) -> str:
        while root.setdefault(i, i) != i:
            root[i] = root[root[i]]
            i = root[i]
        return i

    for joint in key.meetings.values():
        ids = [i for i, _ in joint.ends]
        on = getattr(joint, "on", None)
        for i in (*ids[1:], *([on] if on else [])):
            root[find(i)] = find(ids[0])
    groups: dict[str, list[str]] = {}
    for i in root:
        groups.setdefault(find(i), []).append(i)
    return [tuple(sorted(g)) for g in groups.values()]


def _touched(piece: tuple[str, ...], off: set[str], exam: Examination) -> bool:
    return any(i in off for i in piece) or any(i in off for i in with_joints(piece, exam))


def with_joints(piece: tuple[str, ...], exam: Examination) -> set[str]:
    """Return the features of a piece with its corners, meetings and outlines."""
    inside = set(piece)
    out = set(piece)
    out |= {k for k, joint in exam.key.meetings.items() if all(i in inside for i, _ in joint.ends)}
    outlines: Mapping[str, object] = {o.id: o for o in exam.key.outlines}
    for i, o in outlines.items():
        if isinstance(o, Outline) and all(m in inside for m, _ in o.members):
            out.add(i)
    return out


def turn_of(piece: tuple[str, ...], exam: Examination) -> Turn | None:
    """Return how a piece was turned or mirrored as one; None where it was not, or was only shifted."""
    pairs: list[tuple[Point, Point]] = []
    for i in piece:
        asked, drawn = exam.key.curves[i], exam.partner(i)
        if isinstance(asked, Circle) and isinstance(drawn, Circle):
            pairs.append((asked.center, drawn.center))
        elif isinstance(asked, Edge | Arc) and type(drawn) is type(asked) and i in exam.ends_for:
            if exam.role(asked.layer) == "centre":
                continue
            pairs += list(zip(asked.ends, exam.ends_for[i], strict=True))
        else:
            return None
        if isinstance(asked, Arc | Circle) and abs(asked.radius - drawn.radius) > _reach(exam):  # type: ignore[union-attr]
            return None
    if len(pairs) < 2:
        return None
    (a, p) = pairs[0]
    b, q = max(pairs, key=lambda pair: distance(pair[0], a))
    if distance(a, b) <= _reach(exam):
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
) -> Turn | None:
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
        return Turn(deg, True, None)
    if abs(math.radians(deg)) * abs(u) <= 2 * _reach(exam):
        return None
    # the fixed point of z -> p + turn (z - a)
    fixed = (complex(*p) - turn * complex(*a)) / (1 - turn)
    return Turn(deg, False, (fixed.real, fixed.imag))


def _reach(exam: Examination) -> float:
    return exam.tolerances.position + exam.slack + tol.slack(exam.key.largest)
