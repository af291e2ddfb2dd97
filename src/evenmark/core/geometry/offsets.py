"""Parallels: of one curve, and of chains of them.

A parallel lies at a gap to one side: of a straight piece to its ``left`` or ``right``, seen along it; of a
circle or arc ``inside`` or ``outside``. A chain's parallel lies to the left or right of the way along it; its
corners are sharp: pieces are run on, or cut back, to where they meet.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round, between_points
from evenmark.core.geometry.crossings import crossings
from evenmark.core.geometry.lines import Straight, parallel
from evenmark.core.geometry.points import Point, distance

Member = tuple[Curve, bool]
"""A curve of a chain, with whether it is run through from its end to its start."""


def beside(curve: Curve, gap: float, side: str) -> Curve | None:
    """Return the parallel of a curve; None inside a circle that is not larger than the gap. Left and right
    of an arc are those of its way, counter-clockwise: inside and outside."""
    if isinstance(curve, Straight):
        return parallel(curve, gap if side == "left" else -gap)
    radius = curve.radius - gap if side in ("inside", "left") else curve.radius + gap
    return curve._replace(radius=radius) if radius > 0.0 else None


def beside_chain(chain: Sequence[Member], gap: float, side: str, *, closed: bool) -> list[Member] | None:
    """Return the parallel of a chain, member for member, with sharp corners; None where a member would vanish
    or turn round, and where two no longer meet: then the gap is too large for this chain."""
    made: list[Curve] = []
    for curve, back in chain:
        here = side if not back else {"left": "right", "right": "left"}[side]
        found = beside(curve, gap, here)
        if found is None:
            return None
        made.append(found)
    n = len(chain)
    corners: list[Point | None] = [None] * (n + 1)
    for k in range(n if closed else n - 1):
        was = _way_out(chain[k])
        at = _corner(made[k], made[(k + 1) % n], was, gap)
        if at is None:
            return None
        corners[k + 1] = at
    if closed:
        corners[0] = corners[n]
    out: list[Member] = []
    for (curve, back), piece, (first, last) in zip(chain, made, pairwise(corners), strict=True):
        cut = _between(piece, first, last, back)
        if cut is None or (isinstance(cut, Straight) and not _same_way(cut, curve)):
            return None
        if isinstance(cut, Round) and isinstance(curve, Round):
            grown = cut.sweep_rad - curve.sweep_rad
            if grown > curve.sweep_rad + tol.FULL_TURN_RAD and cut.sweep_rad > 3.0:
                return None  # it went round the other way
        out.append((cut, back))
    return out


def _way_out(member: Member) -> Point:
    curve, back = member
    return curve.start if back else curve.end


def _corner(a: Curve, b: Curve, was: Point, gap: float) -> Point | None:
    """Return where two parallels meet: the crossing nearest to the corner that was; where they touch, as on
    both sides of a smooth joint, the end of the first that lies there."""
    found = crossings(a, b, endless=True)
    if found:
        return min(found, key=lambda p: distance(p, was))
    ends = [p for p in (a.start, a.end) if abs(distance(p, was) - gap) <= tol.TYPED_LEAST * (1.0 + gap)]
    there = [
        p for p in ends if min(distance(p, q) for q in (b.start, b.end)) <= tol.TYPED_LEAST * (1.0 + gap)
    ]
    return there[0] if there else None


def _between(piece: Curve, first: Point | None, last: Point | None, back: bool) -> Curve | None:
    """Return a piece from one corner to the next; where there is none, from or to its own end."""
    if back:
        first, last = last, first
    start, end = first or piece.start, last or piece.end
    if distance(start, end) == 0.0 and not (isinstance(piece, Round) and piece.whole):
        return None
    return Straight(start, end) if isinstance(piece, Straight) else between_points(piece, start, end)


def _same_way(a: Straight, b: Curve) -> bool:
    if not isinstance(b, Straight):
        return True
    (ux, uy), (vx, vy) = a.unit, b.unit
    return ux * vx + uy * vy > 0.0
