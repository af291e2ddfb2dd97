"""Parallels: of one curve, and of chains of them.

A parallel lies at a gap to one side: of a straight piece to its ``left`` or ``right``, seen along it; of a
circle or arc ``inside`` or ``outside``. A chain's parallel lies to the left or right of the way along it; its
corners are sharp: pieces are run on, or cut back, to where they meet; or rounded where they part.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from evenmark.core.geometry import nearest
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round, between_points
from evenmark.core.geometry.crossings import crossings
from evenmark.core.geometry.lines import Straight, left_of, parallel
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.regions import box_round, boxes_meet

Member = tuple[Curve, bool]
"""A curve of a chain, with whether it is run through from its end to its start."""


def beside(curve: Curve, gap: float, side: str) -> Curve | None:
    """Return the parallel of a curve; None inside a circle that is not larger than the gap. Left and right
    of an arc are those of its way, counter-clockwise: inside and outside."""
    if isinstance(curve, Straight):
        return parallel(curve, gap if side == "left" else -gap)
    radius = curve.radius - gap if side in ("inside", "left") else curve.radius + gap
    return curve._replace(radius=radius) if radius > 0.0 else None


def beside_chain(
    chain: Sequence[Member], gap: float, side: str, *, closed: bool, rounded: bool = False
) -> list[Member] | None:
    """Return the parallel of a chain with sharp corners, in the order of its members; ``rounded``, an arc
    about the corner that was stands between two members that part there. A member that is too short for the
    gap, or an arc inside of which there is no room, is left out, and those on its both sides meet. None where
    too few are left, where two do not meet, and where a part would come nearer to the chain than the gap."""
    other = {"left": "right", "right": "left"}[side]
    made = [beside(curve, gap, other if back else side) for curve, back in chain]
    left = [n for n, curve in enumerate(made) if curve is not None]
    for _ in chain:
        if len(left) < (2 if closed else 1):
            return None
        pairs = [(chain[n], curve) for n in left if (curve := made[n]) is not None]
        found = _with_corners(pairs, gap, side, closed, rounded)
        if found is None:
            return None
        members, turned = found
        if not turned:
            return members if _keeps_off(members, chain, gap) else None
        left = [n for k, n in enumerate(left) if k not in turned]
    return None


def _with_corners(
    pairs: list[tuple[Member, Curve]], gap: float, side: str, closed: bool, rounded: bool
) -> tuple[list[Member], set[int]] | None:
    """Return members of a chain with their parallels, cut or run on to where they meet, and which of them
    turn round by that; None where two do not meet."""
    n = len(pairs)
    corners: list[tuple[Point, Point] | None] = [None] * (n + 1)
    """Where a member ends, and where the next one begins."""
    for k in range(n if closed else n - 1):
        (one, first), (other, second) = pairs[k], pairs[(k + 1) % n]
        a, b = _way_out((first, one[1])), _way_in((second, other[1]))
        was = _way_out(one)
        follows = distance(was, _way_in(other)) <= tol.WELD_SHARE * (1.0 + abs(was[0]) + abs(was[1]))
        if rounded and follows and _parts(one, other, side) and distance(a, b) > tol.WELD_SHARE * (1.0 + gap):
            corners[k + 1] = (a, b)
            continue
        at = _corner(first, second, was, gap)
        if at is None:
            return None
        corners[k + 1] = (at, at)
    if closed:
        corners[0] = corners[n]
    out: list[Member] = []
    turned: set[int] = set()
    for k, (((curve, back), piece), (begin, end)) in enumerate(zip(pairs, pairwise(corners), strict=True)):
        cut = _between(piece, begin and begin[1], end and end[0], back)
        if cut is None or _turns_round(cut, curve):
            turned.add(k)
            continue
        out.append((cut, back))
        if end is not None and end[0] != end[1]:
            clockwise = side == "left"
            a, b = end[::-1] if clockwise else end
            out.append((between_points(Round(_way_out((curve, back)), gap), a, b), clockwise))
    return out, turned


def _turns_round(cut: Curve, was: Curve) -> bool:
    """Say whether a parallel that was cut to its corners runs the other way than its curve."""
    if isinstance(cut, Straight) or isinstance(was, Straight):
        return isinstance(cut, Straight) and not _same_way(cut, was)
    grown = cut.sweep_rad - was.sweep_rad
    return grown > was.sweep_rad + tol.FULL_TURN_RAD and cut.sweep_rad > 3.0


def _keeps_off(members: Sequence[Member], chain: Sequence[Member], gap: float) -> bool:
    """Say whether no end or middle of a parallel is nearer to a chain than its gap."""
    least = gap * (1.0 - tol.WELD_SHARE)
    boxes = [(box_round(curve), curve) for curve, _ in chain]
    for curve, _ in members:
        for p in (curve.start, curve.middle, curve.end):
            spare = tol.WELD_SHARE * (1.0 + abs(p[0]) + abs(p[1]))
            around = (p[0] - gap, p[1] - gap, p[0] + gap, p[1] + gap)
            if any(boxes_meet(around, box) and nearest.away(c, p) < least - spare for box, c in boxes):
                return False
    return True


def crosses_itself(members: Sequence[Member], *, closed: bool) -> bool:
    """Say whether two members of a chain meet that do not follow each other; looks at each two."""
    boxes = [box_round(curve) for curve, _ in members]
    n = len(members)
    for i in range(n):
        for j in range(i + 2, n):
            if (closed and i == 0 and j == n - 1) or not boxes_meet(boxes[i], boxes[j]):
                continue
            if crossings(members[i][0], members[j][0]):
                return True
    return False


def _parts(one: Member, other: Member, side: str) -> bool:
    """Say whether the parallels of two members to a side part at their corner: the way turns to the other
    side there."""
    (ux, uy), (vx, vy) = _heading(one, _way_out(one)), _heading(other, _way_in(other))
    turn = ux * vy - uy * vx
    if abs(turn) <= tol.NO_CROSSING_SINE:
        return ux * vx + uy * vy < 0.0  # it turns back on itself
    return (turn < 0.0) == (side == "left")


def _heading(member: Member, at: Point) -> Point:
    """Return the direction in which a member is run through at one of its ends."""
    curve, back = member
    ux, uy = curve.unit if isinstance(curve, Straight) else left_of(Straight(curve.center, at).unit)
    return (-ux, -uy) if back else (ux, uy)


def _way_in(member: Member) -> Point:
    curve, back = member
    return curve.end if back else curve.start


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
