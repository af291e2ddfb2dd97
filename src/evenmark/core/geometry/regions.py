"""Regions: what curves enclose, the way round it, its area.

- *loop*: curves one behind the other that come back to where they began, each with whether it is run through
  backwards. *Region*: what lies inside one loop and outside of others that lie in it.
- *half*: one of the two ways along a piece; the face that it goes round lies on its left.
- *dead end*: a piece that encloses nothing, since nothing goes on at one of its ends.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from functools import cmp_to_key
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round, on_round, quarter_points, turn_to
from evenmark.core.geometry.crossings import crossings
from evenmark.core.geometry.deterministic import cos_sin
from evenmark.core.geometry.lines import Straight, side_of
from evenmark.core.geometry.points import TAU, Box, Point, box_of, distance
from evenmark.core.geometry.trims import divided

Loop = tuple[tuple[Curve, bool], ...]
"""Curves in turn, each with whether it is run through from its end to its start."""
Half = tuple[int, bool]


class Region(NamedTuple):
    """A region: the loop round it, and those of what is left out inside."""

    outside: Loop
    inside: tuple[Loop, ...]

    @property
    def area(self) -> float:
        """The area that is left."""
        return abs(area_of(self.outside)) - math.fsum(abs(area_of(loop)) for loop in self.inside)


def box_round(curve: Curve) -> Box:
    """Return the box of a curve, exact for arcs: their ends and the quarter points that they pass."""
    if isinstance(curve, Straight):
        (ax, ay), (bx, by) = curve
        return (min(ax, bx), min(ay, by), max(ax, bx), max(ay, by))
    box = box_of([curve.start, curve.end, *quarter_points(*curve)])
    assert box is not None
    return box


def ends_of(curve: Curve, back: bool) -> tuple[Point, Point]:
    """Return where a curve of a loop is entered and left."""
    return (curve.end, curve.start) if back else (curve.start, curve.end)


def area_of(loop: Loop) -> float:
    """Return the area inside a loop, positive where it runs counter-clockwise: Green's formula; an arc adds
    its segment, r^2 (t - sin t) / 2."""
    ox, oy = ends_of(*loop[0])[0]
    total = 0.0
    for curve, back in loop:
        (ax, ay), (bx, by) = ends_of(curve, back)
        total += ((ax - ox) * (by - oy) - (bx - ox) * (ay - oy)) / 2
        if isinstance(curve, Round):
            t, r = curve.sweep_rad, curve.radius
            total += (-1.0 if back else 1.0) * r * r * (t - cos_sin(t)[1]) / 2
    return total


def round_of(loop: Loop) -> float:
    """Return the length of the way round a loop."""
    return math.fsum(curve.length for curve, _ in loop)


def winds(loop: Loop, p: Point) -> int:
    """Return how often a loop goes round a point, counter-clockwise positive.

    Round the polygon of chords, and once more for each arc between which and its chord the point lies.
    """
    turns = 0.0
    more = 0
    for curve, back in (half for member in loop for half in _off_chords(member, p)):
        a, b = ends_of(curve, back)
        ux, uy, vx, vy = a[0] - p[0], a[1] - p[1], b[0] - p[0], b[1] - p[1]
        turns += math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)
        if isinstance(curve, Round) and distance(p, curve.center) < curve.radius:
            chord = Straight(curve.start, curve.end)
            if curve.whole or side_of(p, chord) < 0.0:  # the arc bulges to the right of its chord
                more += -1 if back else 1
    return round(turns / TAU) + more


def _off_chords(member: tuple[Curve, bool], p: Point) -> Loop:
    """Return a member of a loop, cut in two where it is an arc on whose chord the point lies."""
    curve, back = member
    if not isinstance(curve, Round) or distance(p, curve.center) >= curve.radius:
        return (member,)
    a, b = curve.start, curve.end
    if a != b and abs(side_of(p, Straight(a, b))) > tol.WELD_SHARE * curve.radius:
        return (member,)
    halves = (
        curve._replace(sweep_rad=curve.sweep_rad / 2),
        curve._replace(start_rad=curve.start_rad + curve.sweep_rad / 2, sweep_rad=curve.sweep_rad / 2),
    )
    return tuple((half, back) for half in (halves[::-1] if back else halves))


class Faces:
    """What curves enclose: every face's loop, found once for many points."""

    def __init__(self, curves: Sequence[Curve]) -> None:
        self.loops = [(area, loop, _box_of(loop)) for area, loop in _loops(_pieces(curves))]

    def region_round(self, p: Point) -> Region | None:
        """Return the smallest region that is enclosed round a point; None where there is none."""
        around = [k for k in self.loops if k[0] > 0.0 and _holds(k[2], p) and winds(k[1], p) > 0]
        if not around:
            return None
        area, outside, box = min(around, key=lambda found: found[0])
        inner = [k for k in self.loops if abs(k[0]) < area and boxes_meet(k[2], box)]
        holes = []
        for other_area, loop, _ in inner:
            if other_area >= 0.0 or winds(loop, p):
                continue
            at = loop[0][0].middle
            if _shares(loop, outside) or not winds(outside, at):
                continue
            # directly in this region, in none that lies in it
            between = any(
                k[0] > 0.0 and k[0] > -other_area and _holds(k[2], at) and winds(k[1], at) > 0 for k in inner
            )
            if not between:
                holes.append(loop)
        return Region(outside, tuple(holes))


def region_round(curves: Sequence[Curve], p: Point) -> Region | None:
    """Return the smallest region that curves enclose round a point; None where they enclose none."""
    return Faces(curves).region_round(p)


def _box_of(loop: Loop) -> Box:
    boxes = [box_round(curve) for curve, _ in loop]
    return (
        min(b[0] for b in boxes),
        min(b[1] for b in boxes),
        max(b[2] for b in boxes),
        max(b[3] for b in boxes),
    )


def _holds(box: Box, p: Point) -> bool:
    return box[0] <= p[0] <= box[2] and box[1] <= p[1] <= box[3]


def _shares(a: Loop, b: Loop) -> bool:
    """Say whether two loops have a piece in common: then they are two sides of one edge."""
    return not {c for c, _ in a}.isdisjoint(c for c, _ in b)


def _pieces(curves: Sequence[Curve]) -> list[Curve]:
    """Return all curves cut where they cross, each piece once."""
    boxes = [box_round(c) for c in curves]
    near = _near(boxes)
    out: dict[Curve, None] = {}
    for n, curve in enumerate(curves):
        cuts: list[Point] = []
        for m in sorted(near[n]):
            cuts += crossings(curve, curves[m])
        if isinstance(curve, Round) and curve.whole and not cuts:
            out |= dict.fromkeys(divided(curve, [curve.start, on_round(curve, math.pi)]))
        elif isinstance(curve, Round) and curve.whole and len(cuts) == 1:
            opposite = on_round(curve, turn_to(cuts[0], curve.center) + math.pi)
            out |= dict.fromkeys(divided(curve, [*cuts, opposite]))
        else:
            out |= dict.fromkeys(divided(curve, cuts))
    return list(out)


def _near(boxes: list[Box]) -> list[list[int]]:
    """Return for each box the others that it meets: looked for from left to right."""
    near: list[list[int]] = [[] for _ in boxes]
    open_: list[int] = []
    for n in sorted(range(len(boxes)), key=lambda n: boxes[n][0]):
        spare = tol.TOUCHES_SHARE * (1.0 + max(map(abs, boxes[n])))
        open_ = [m for m in open_ if boxes[m][2] + 2.0 * spare >= boxes[n][0]]
        for m in open_:
            if boxes_meet(boxes[n], boxes[m]):
                near[n].append(m)
                near[m].append(n)
        open_.append(n)
    return near


def boxes_meet(a: Box, b: Box) -> bool:
    """Say whether two boxes have a place in common."""
    spare = tol.TOUCHES_SHARE * (1.0 + max(map(abs, a)) + max(map(abs, b)))
    return a[0] <= b[2] + spare and b[0] <= a[2] + spare and a[1] <= b[3] + spare and b[1] <= a[3] + spare


class _Nodes:
    """Numbers places, those within reach of each other alike."""

    def __init__(self, reach: float) -> None:
        self.reach = reach
        self.cells: dict[tuple[int, int], list[tuple[Point, int]]] = defaultdict(list)
        self.count = 0

    def at(self, p: Point) -> int:
        x, y = math.floor(p[0] / self.reach / 2), math.floor(p[1] / self.reach / 2)
        for i in (x - 1, x, x + 1):
            for j in (y - 1, y, y + 1):
                for q, n in self.cells.get((i, j), ()):
                    if distance(p, q) <= self.reach:
                        return n
        self.cells[x, y].append((p, self.count))
        self.count += 1
        return self.count - 1


def _loops(pieces: list[Curve]) -> list[tuple[float, Loop]]:
    """Return every face's loop with its area: positive for what it encloses, negative where it is the outer
    edge of all that hangs together."""
    if not pieces:
        return []
    boxes = [box_round(c) for c in pieces]
    size = max(max(abs(v) for v in box) for box in boxes)
    nodes = _Nodes(max(tol.WELD_SHARE * size, tol.LEAST_SIZE) / 10)
    ends = [(nodes.at(c.start), nodes.at(c.end)) for c in pieces]
    kept = _without_dead_ends(ends)
    leaving: dict[int, list[Half]] = defaultdict(list)
    for n in kept:
        leaving[ends[n][0]].append((n, False))
        leaving[ends[n][1]].append((n, True))

    def compare(a: Half, b: Half) -> int:
        return _turn_order(a, b, pieces)

    after: dict[Half, Half] = {}
    compared = cmp_to_key(compare)
    for halves in leaving.values():
        order = sorted(halves, key=compared)
        for k, half in enumerate(order):
            n, back = half
            # who arrives along the other way of this piece goes on with the one clockwise from it
            after[n, not back] = order[k - 1]
    out = []
    seen: set[Half] = set()
    for begin in after:
        if begin in seen:
            continue
        loop: list[tuple[Curve, bool]] = []
        half = begin
        while half not in seen:
            seen.add(half)
            loop.append((pieces[half[0]], half[1]))
            half = after[half]
        found = tuple(loop)
        out.append((area_of(found), found))
    return out


def _without_dead_ends(ends: list[tuple[int, int]]) -> list[int]:
    at: dict[int, set[int]] = defaultdict(set)
    for n, (a, b) in enumerate(ends):
        at[a].add(n)
        at[b].add(n)
    kept = set(range(len(ends)))
    waiting = [node for node, found in at.items() if len(found) == 1]
    while waiting:
        node = waiting.pop()
        if len(at[node]) != 1:
            continue
        (n,) = at[node]
        if ends[n][0] == ends[n][1]:
            continue  # a loop by itself
        kept.discard(n)
        for other in ends[n]:
            at[other].discard(n)
            if len(at[other]) == 1:
                waiting.append(other)
    return sorted(kept)


def _turn_order(a: Half, b: Half, pieces: list[Curve]) -> int:
    """Order two halves that leave one node by direction, counter-clockwise; where they leave in one, the one
    that bends farther to the left comes later."""
    (ta, ca), (tb, cb) = _leaves(*a, pieces), _leaves(*b, pieces)
    off = math.remainder(ta - tb, TAU)
    if abs(off) <= tol.ALIGNED_RAD:
        return (ca > cb) - (ca < cb)
    return 1 if ta > tb else -1


def _leaves(n: int, back: bool, pieces: list[Curve]) -> tuple[float, float]:
    """Return the direction in which a half leaves, in [0, 2 pi), and how it bends: positive to the left."""
    curve = pieces[n]
    if isinstance(curve, Straight):
        (ux, uy) = curve.unit
        turn = math.atan2(-uy, -ux) if back else math.atan2(uy, ux)
        return _whole_turn(turn), 0.0
    if back:
        turn = curve.start_rad + curve.sweep_rad - math.pi / 2
        return _whole_turn(turn), -1.0 / curve.radius
    return _whole_turn(curve.start_rad + math.pi / 2), 1.0 / curve.radius


def _whole_turn(turn: float) -> float:
    turn %= TAU
    return 0.0 if TAU - turn <= tol.ALIGNED_RAD else turn


def inside_of(region: Region, p: Point) -> bool:
    """Say whether a point lies in a region."""
    return bool(winds(region.outside, p)) and not any(winds(loop, p) for loop in region.inside)
