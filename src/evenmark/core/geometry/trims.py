"""What changes pieces of curves: cut them, run them on, round and bevel their corners.

- *cut*: a place along a curve where it is divided. *Piece*: what lies between two cuts or an end.
- *far piece*: what stays of two curves that are joined by a fillet or chamfer: that with the end that lies
  farther from where the curves cross.

Pieces keep the direction of the curve that they are part of. Lengths in drawing units.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

from evenmark.core.geometry import nearest
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round, between_points, on_round, turn_to
from evenmark.core.geometry.circles import touching_two
from evenmark.core.geometry.crossings import crossings, how_far, reaches
from evenmark.core.geometry.lines import Straight, beside, meet
from evenmark.core.geometry.points import TAU, Point, distance


def divided(curve: Curve, cuts: Sequence[Point]) -> list[Curve]:
    """Return the pieces that points of a curve divide it into, in order along it; a circle that is cut once
    is an arc all the way round, and cut nowhere a circle still."""
    if isinstance(curve, Straight):
        inner = sorted((how_far(p, curve), p) for p in cuts)
        reach = tol.TOUCHES_SHARE * (1.0 + curve.length)
        places = [p for far, p in inner if reach < far < curve.length - reach]
        ends = [curve.start, *_apart(places, reach), curve.end]
        return [Straight(a, b) for a, b in pairwise(ends)]
    return _divided_round(curve, cuts)


def _divided_round(curve: Round, cuts: Sequence[Point]) -> list[Curve]:
    reach = tol.TOUCHES_SHARE * (1.0 + curve.length)
    fars = sorted((how_far(p, curve), p) for p in cuts)
    if curve.whole:
        places = _apart([p for _, p in fars], reach)
        if len(places) > 1 and distance(places[0], places[-1]) <= reach:
            places.pop()
        if not places:
            return [curve]
        return [between_points(curve, a, b) for a, b in zip(places, [*places[1:], places[0]], strict=True)]
    places = _apart([p for far, p in fars if reach < far < curve.length - reach], reach)
    turns = [0.0, *((turn_to(p, curve.center) - curve.start_rad) % TAU for p in places), curve.sweep_rad]
    return [Round(curve.center, curve.radius, (curve.start_rad + a) % TAU, b - a) for a, b in pairwise(turns)]


def _apart(places: list[Point], reach: float) -> list[Point]:
    out: list[Point] = []
    for p in places:
        if not out or distance(out[-1], p) > reach:
            out.append(p)
    return out


def cuts_of(curve: Curve, by: Sequence[Curve]) -> list[Point]:
    """Return where a curve is cut by others: where they cross it, else where what they lie on does."""
    out: list[Point] = []
    for other in by:
        here = crossings(curve, other)
        out += here or [p for p in crossings(curve, other, endless=True) if reaches(curve, p)]
    return out


def piece_at(pieces: Sequence[Curve], p: Point) -> int:
    """Return which of some pieces is nearest to a point."""
    return min(range(len(pieces)), key=lambda n: (nearest.away(pieces[n], p), n))


def joined(pieces: Sequence[Curve]) -> Curve | None:
    """Return the one curve that neighbouring pieces of it make together; None for none."""
    if not pieces:
        return None
    first, last = pieces[0], pieces[-1]
    if isinstance(first, Straight):
        assert isinstance(last, Straight)
        return Straight(first.start, last.end)
    sweep = math.fsum(p.sweep_rad for p in pieces if isinstance(p, Round))
    return Round(first.center, first.radius, first.start_rad, min(sweep, TAU))


def extended(curve: Curve, to: Curve) -> Curve | None:
    """Return a curve run on to where it meets another, or what that lies on, at the end that is nearer to it;
    None where it never does."""
    found = [p for p in crossings(curve, to, endless=True) if reaches(to, p)]
    found = found or crossings(curve, to, endless=True)
    ahead = [(reach, p, end) for p in found for end, reach in _beyond(curve, p)]
    if not ahead or (isinstance(curve, Round) and curve.whole):
        return None
    _, p, end = min(ahead)
    if isinstance(curve, Straight):
        return Straight(curve.start, p) if end else Straight(p, curve.end)
    first, last = (curve.start, p) if end else (p, curve.end)
    grown = between_points(curve, first, last)
    if end:
        return Round(curve.center, curve.radius, curve.start_rad, grown.sweep_rad)
    return grown


def _beyond(curve: Curve, p: Point) -> list[tuple[int, float]]:
    """Return the ends (0 start, 1 end) beyond which a point of what a curve lies on can be reached, and how
    far beyond it lies."""
    reach = tol.TOUCHES_SHARE * (1.0 + curve.length)
    far = how_far(p, curve)
    if isinstance(curve, Straight):
        if far > curve.length + reach:
            return [(1, far - curve.length)]
        return [(0, -far)] if far < -reach else []
    if far <= curve.length + reach:
        return []
    return [(1, far - curve.length), (0, TAU * curve.radius - far)]


def run_past(curve: Curve, start: float, end: float) -> Curve:
    """Return a curve that begins and ends farther out by two lengths; an arc at most goes all the way
    round."""
    if isinstance(curve, Straight):
        return Straight(beside(curve.start, curve.unit, -start), beside(curve.end, curve.unit, end))
    sweep = min(TAU, curve.sweep_rad + (start + end) / curve.radius)
    return Round(curve.center, curve.radius, (curve.start_rad - start / curve.radius) % TAU, sweep)


class JoinedCorner(NamedTuple):
    """Two curves cut back and what joins them: an arc or a straight piece, None for a sharp corner."""

    first: Curve
    second: Curve
    between: Curve | None


def fillet(f: Curve, g: Curve, radius: float) -> JoinedCorner | None:
    """Return two curves with a corner rounded by an arc that touches both; None where there is none of this
    radius.

    The far pieces stay. Of several arcs that could join them the one nearest to where the curves cross, or
    come nearest to each other, holds. A radius of nothing makes the corner sharp.
    """
    if radius == 0.0:
        return _sharp(f, g)
    if isinstance(f, Straight) and isinstance(g, Straight):
        at = meet(f, g)
        if at is not None:
            return _between_edges(f, g, at, radius)
    near = _corner_of(f, g)
    best: tuple[float, float, JoinedCorner] | None = None
    for touching in touching_two(f, g, radius):
        center = touching.circle.center
        p, q = nearest.on_supporting_line(f, center), nearest.on_supporting_line(g, center)
        one, other = _far_piece(f, p, near), _far_piece(g, q, near)
        if one is None or other is None or distance(p, q) <= tol.TOUCHES_SHARE * radius:
            continue
        # the arc goes on as the pieces arrive: it touches them from the side on which they end
        arc = _short_arc(touching.circle, p, q)
        if not (_goes_on(one, p, arc) and _goes_on(other, q, arc)):
            continue
        off = distance(center, near)
        # what has to be run on is worse than what is cut back
        grown = max(0.0, one.length - f.length) + max(0.0, other.length - g.length)
        if best is None or (off + grown, off) < best[:2]:
            best = (off + grown, off, JoinedCorner(one, other, arc))
    return best[2] if best is not None else None


def _between_edges(f: Straight, g: Straight, at: Point, radius: float) -> JoinedCorner | None:
    """Return the corner of two edges whose supporting lines meet at a point: the arc touches each as far from
    there as the radius by the tangent of half the angle."""
    fars = [max(edge, key=lambda p: distance(p, at)) for edge in (f, g)]
    longs = [distance(far, at) for far in fars]
    if not all(longs):
        return None
    (ux, uy), (vx, vy) = (
        ((far[0] - at[0]) / long, (far[1] - at[1]) / long) for far, long in zip(fars, longs, strict=True)
    )
    cross, along = ux * vy - uy * vx, ux * vx + uy * vy
    back = radius * (1.0 + along) / abs(cross)
    if any(long - back <= tol.TOUCHES_SHARE * (1.0 + long) for long in longs):
        return None
    p, q = (at[0] + ux * back, at[1] + uy * back), (at[0] + vx * back, at[1] + vy * back)
    side = radius if cross > 0.0 else -radius
    circle = Round((p[0] - uy * side, p[1] + ux * side), radius)
    one = Straight(p, f.end) if fars[0] == f.end else Straight(f.start, p)
    other = Straight(q, g.end) if fars[1] == g.end else Straight(g.start, q)
    return JoinedCorner(one, other, _short_arc(circle, p, q))


def _short_arc(circle: Round, p: Point, q: Point) -> Round:
    arc = between_points(circle, p, q)
    return arc if arc.sweep_rad <= math.pi else between_points(circle, q, p)


def _goes_on(piece: Curve, at: Point, arc: Round) -> bool:
    """Say whether an arc leaves a piece smoothly at one of its ends, and does not double back along it."""
    if _whole(piece):
        return True
    out = _way_out(piece, at)
    along = _way_out(arc, at)
    return out[0] * along[0] + out[1] * along[1] < 0.0


def _way_out(curve: Curve, at: Point) -> Point:
    """Return the direction in which a curve leaves its end at a point, outward."""
    if isinstance(curve, Straight):
        (ux, uy) = curve.unit
        return (-ux, -uy) if distance(at, curve.start) <= distance(at, curve.end) else (ux, uy)
    end = distance(at, curve.end) < distance(at, curve.start)
    (ux, uy) = Straight(curve.center, curve.end if end else curve.start).unit
    return (-uy, ux) if end else (uy, -ux)


def _corner_of(f: Curve, g: Curve) -> Point:
    found = crossings(f, g) or crossings(f, g, endless=True)
    ends = [p for c in (f, g) for p in ((c.start, c.end) if not _whole(c) else ())]
    if found:
        return min(found, key=lambda p: min((distance(p, e) for e in ends), default=0.0))
    way = nearest.shortest(f, g)
    return way.middle


def _whole(curve: Curve) -> bool:
    return isinstance(curve, Round) and curve.whole


def _far_piece(curve: Curve, cut: Point, corner: Point) -> Curve | None:
    """Return what stays of a curve that is cut, or run on, to a point of what it lies on: the piece on the
    far side from the corner; of a circle all of it. None where nothing of it does."""
    if isinstance(curve, Straight):
        far = curve.start if distance(curve.start, corner) >= distance(curve.end, corner) else curve.end
        if distance(far, cut) <= tol.TOUCHES_SHARE * (1.0 + curve.length):
            return None
        way = Straight(cut, far).unit
        if way[0] * curve.unit[0] + way[1] * curve.unit[1] > 0.0:
            return Straight(cut, far) if far == curve.end else None
        return Straight(far, cut) if far == curve.start else None
    if curve.whole:
        return curve
    start_far = distance(curve.start, corner) >= distance(curve.end, corner)
    if start_far:
        kept = between_points(curve, curve.start, cut)
        return Round(curve.center, curve.radius, curve.start_rad, kept.sweep_rad)
    return between_points(curve, cut, curve.end)


def _sharp(f: Curve, g: Curve) -> JoinedCorner | None:
    found = crossings(f, g) or crossings(f, g, endless=True)
    if not found:
        return None
    at = _corner_of(f, g)
    one, other = _far_piece(f, at, at), _far_piece(g, at, at)
    return JoinedCorner(one, other, None) if one is not None and other is not None else None


def chamfer(f: Straight, g: Straight, first: float, second: float) -> JoinedCorner | None:
    """Return two edges with a corner cut off, so far from it along each; None for parallels, and where less
    of an edge is there than is cut off."""
    at = meet(f, g)
    if at is None:
        return None
    ends = []
    for edge, off in ((f, first), (g, second)):
        far = max(edge, key=lambda p: distance(p, at))
        if distance(far, at) <= off:
            return None
        cut = beside(at, Straight(at, far).unit, off)
        ends.append((Straight(cut, far) if far == edge.end else Straight(far, cut), cut))
    (one, p), (other, q) = ends
    return JoinedCorner(one, other, Straight(p, q) if p != q else None)


def at_share(curve: Curve, share: float) -> Point:
    """Return the point at a share of a curve's length."""
    if isinstance(curve, Straight):
        return beside(curve.start, curve.unit, share * curve.length)
    return on_round(curve, curve.start_rad + share * curve.sweep_rad)
