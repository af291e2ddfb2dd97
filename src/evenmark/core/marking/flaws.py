"""A key's own flaws: what is wrong with the drawing that others are held against (marking.md).

- *flaw*: something drawn twice, debris, a stub, a gap, nearly tangent, nearly level or plumb. Each is told to
  the instructor with what to do.

No student is charged for drawing a flaw, nor for drawing it right: what a flaw touches is met within its
size.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping
from typing import NamedTuple, TypedDict

import numpy as np
from scipy.spatial import cKDTree

from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, direction_deg, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Linework
from evenmark.core.linework.relations import joints, tangent_off
from evenmark.core.linework.wording import number, size
from evenmark.core.plain import plain_number

MOST_TOLD = 200
"""So many flaws are told; of more, the first."""
_WORDS = {
    "drawn-twice": "Something is drawn twice {at}: delete one.",
    "debris": "Something too short to be seen is {at}: delete it.",
    "chords": "Something round {at} is drawn as short straight lines: draw an arc. Both are accepted.",
    "stub": "An object of {by} is {at}: delete it. Nobody is asked to draw it.",
    "gap": "Two ends {at} are {by} apart: bring them together. Both this and a closed corner are accepted.",
    "nearly-tangent": "Two objects {at} miss tangency by {by}: make them tangent. Both are accepted.",
    "nearly-level": "The edge {at} is {by} from horizontal or vertical: correct it. Both are accepted.",
}


class Flaw(NamedTuple):
    """One flaw: its code, place, the features that it touches, and how large it is, in key units."""

    code: str
    at: Point
    features: tuple[str, ...]
    by: float
    says: str


class FlawJson(TypedDict):
    """A flaw as it is sent."""

    code: str
    at: list[float]
    features: list[str]
    by: float
    says: str


def flaws_of(
    key: Linework,
    roles: Mapping[str, Role],
    tolerances: tol.Tolerances,
    unit: str,
    leave_out: Collection[str] = (),
) -> tuple[Flaw, ...]:
    """Return what is wrong with a key, in the order of these kinds; features in ``leave_out`` are passed
    over."""
    found = [
        *_clutter(key),
        *_stubs(key, tolerances, leave_out),
        *_gaps(key, dict(roles), tolerances, leave_out),
        *_nearly_tangent(key, tolerances, leave_out),
        *_nearly_level(key, dict(roles), tolerances, leave_out),
    ]
    return tuple(
        Flaw(
            code,
            at,
            features,
            by,
            _WORDS[code].format(at=f"at {number(at[0], 3)}, {number(at[1], 3)}", by=size(by, unit)),
        )
        for code, at, features, by in found[:MOST_TOLD]
    )


_Found = list[tuple[str, Point, tuple[str, ...], float]]


def _clutter(key: Linework) -> _Found:
    return [(c.code if c.code in _WORDS else "debris", c.at, (), 0.0) for c in key.clutter]


def _stubs(key: Linework, tolerances: tol.Tolerances, out: Collection[str]) -> _Found:
    """Find pieces that are no longer than what lengths may be off."""
    edges = [(e.id, e.at, e.length) for e in key.edges]
    edges += [(a.id, a.at, a.radius * a.sweep_rad) for a in key.arcs]
    return [
        ("stub", at, (i,), length) for i, at, length in edges if length <= tolerances.length and i not in out
    ]


def _gaps(key: Linework, roles: dict[str, Role], tolerances: tol.Tolerances, out: Collection[str]) -> _Found:
    """Find loose ends that nearly meet another end: no farther than a slip of hand, and far less than either
    piece is long."""
    joined = {end for joint in key.meetings.values() for end in joint.ends}
    ended: list[Edge | ArcFeature] = [*key.edges, *key.arcs]
    seen = [
        f
        for f in ended
        if f.id not in out and role_of(roles, f.layer) in ("outline", "hidden", "frame", "section")
    ]
    ends = [((f.id, w), p, f.size) for f in seen for w, p in enumerate(f.ends)]
    if len(ends) < 2:
        return []
    places = np.array([p for _, p, _ in ends])
    pairs = cKDTree(places).query_pairs(tolerances.near, output_type="ndarray")
    found: _Found = []
    for i, j in sorted(pairs.tolist()):
        (a, p, size_a), (b, q, size_b) = ends[i], ends[j]
        by = distance(p, q)
        if (
            a[0] != b[0]
            and (a not in joined or b not in joined)
            and tolerances.length < by <= tol.NEAR_SHARE * min(size_a, size_b)
        ):
            found.append(("gap", p, (a[0], b[0]), by))
    return found


def _nearly_tangent(key: Linework, tolerances: tol.Tolerances, out: Collection[str]) -> _Found:
    found: _Found = []
    for a, b, end_a, end_b in joints(key):
        one, other = key.curves[a], key.curves[b]
        if a in out or b in out:
            continue
        if not isinstance(one, Edge | ArcFeature | CircleFeature) or not isinstance(
            other, ArcFeature | CircleFeature
        ):
            continue
        off = tangent_off(one, other, end_a, end_b)
        if tolerances.length < off <= tol.SLIGHT_SHARE * tolerances.near:
            at = other.at if end_a is None or isinstance(one, CircleFeature) else one.ends[end_a]
            found.append(("nearly-tangent", at, (a, b), off))
    return found


def _nearly_level(
    key: Linework, roles: dict[str, Role], tolerances: tol.Tolerances, out: Collection[str]
) -> _Found:
    found: _Found = []
    for e in key.edges:
        if e.id in out or role_of(roles, e.layer) == "construction":
            continue
        turn = direction_deg(e.start, e.end) % 90.0
        off = min(turn, 90.0 - turn)
        by = e.length * math.sin(math.radians(off))
        if off > tolerances.angle_deg and by <= tol.SLIGHT_SHARE * tolerances.near:
            found.append(("nearly-level", e.at, (e.id,), by))
    return found


def spared(flaws: Collection[Flaw], key: Linework) -> dict[str, float]:
    """Return by how much more each feature may be off because a flaw touches it: the pieces, the corners and
    meetings at their ends, and what meets them there."""
    out: dict[str, float] = {}
    for flaw in flaws:
        for i in flaw.features:
            out[i] = max(out.get(i, 0.0), flaw.by)
    for joint in key.meetings.values():
        most = max((out.get(i, 0.0) for i, _ in joint.ends), default=0.0)
        if most:
            out[joint.id] = max(out.get(joint.id, 0.0), most)
    flawed = {i for flaw in flaws for i in flaw.features}
    for joint in key.meetings.values():
        for i, _ in joint.ends if joint.id in out else ():
            if i not in flawed:  # what meets a flawed piece is as long as that lets it be
                out[i] = max(out.get(i, 0.0), out[joint.id])
    return out


def to_json(flaws: Collection[Flaw]) -> list[FlawJson]:
    """Return flaws as JSON (docs/formats/proof.md)."""
    return [
        {
            "code": f.code,
            "at": [plain_number(f.at[0]), plain_number(f.at[1])],
            "features": list(f.features),
            "by": plain_number(f.by),
            "says": f.says,
        }
        for f in flaws
    ]
