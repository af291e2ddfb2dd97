"""Follow-through along outlines: one wrong size early in a chain is charged once (marking.md, Verdicts).

- *move*: how far a drawn corner lies from its key corner. *Group*: corners of one outline with one move.
- *base*: the group that counts as right: an unmoved one, where the drawing was laid, else the largest, else
  that of the first corner.
- *chain*: an outline, or edges and arcs in a row that do not close.
- *seam*: an edge or arc between two groups: its own size or direction is off, everything else in its groups
  is only carried along.

With n groups, n - 1 seams that connect them all are charged, taken in the order of the outline. Repairing
those lays every group on the base; so what the other seams and the moved corners are off by follows them.
"""

from __future__ import annotations

import math
from collections import defaultdict

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import Straight, meet
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg
from evenmark.core.linework.model import ArcFeature, Corner, Edge, End
from evenmark.core.linework.nodes import as_rows, cluster
from evenmark.core.marking.examination import Asked, Examination
from evenmark.core.marking.follow_corners import is_slid
from evenmark.core.marking.model import Finding

_OWN = ("length", "angle", "sweep")
"""What a seam itself is charged for, the first of them leading."""
Node = tuple[str, Point, tuple[End, ...]]
"""A place along a chain: the id of its corner (none at a free end), where it is, and the ends that meet
there."""
Members = tuple[tuple[str, bool], ...]
"""The curves of a chain in turn, and whether each is run through backwards."""
Seam = tuple[str, int, int]
"""A member of an outline and the groups at its two corners."""


def follow_propagation(findings: list[Finding], _asked: Asked, exam: Examination) -> dict[int, int]:
    """Return which findings follow which charged finding about a seam, by their ids."""
    open_: dict[str, list[Finding]] = defaultdict(list)
    for f in findings:
        if f.verdict in ("near", "missed") and len(f.features) == 1:
            open_[f.features[0]].append(f)
    if not open_:
        return {}
    led: dict[int, int] = {}
    placed = _Placed(open_)
    for outline in exam.key.outlines:
        if any(c in open_ for c in outline.corners):
            corners: list[Corner] = [exam.key.by_id[c] for c in outline.corners]  # type: ignore[misc]
            nodes = [(k.id, k.at, k.ends) for k in corners]
            led.update(_led_by_seams(outline.members, nodes, open_, placed, exam))
    for chain in exam.key.open_chains:
        if any(m in open_ for m, _ in chain):
            led.update(_led_by_seams(chain, _nodes(chain, exam), open_, placed, exam))
    return led


def _nodes(chain: tuple[tuple[str, bool], ...], exam: Examination) -> list[Node]:
    """Return the places along an open chain: its free ends, and the corners between."""
    key = exam.key

    def node(end: End) -> Node:
        corner = key.corner_of.get(end)
        if corner is not None:
            return corner.id, corner.at, corner.ends
        curve: Edge | ArcFeature = key.curves[end[0]]  # type: ignore[assignment]
        return "", curve.ends[end[1]], (end,)

    first, back = chain[0]
    return [node((first, 1 if back else 0)), *(node((m, 0 if b else 1)) for m, b in chain)]


def _led_by_seams(
    members: Members,
    nodes: list[Node],
    open_: dict[str, list[Finding]],
    placed: _Placed,
    exam: Examination,
) -> dict[int, int]:
    """Return which findings about an outline or chain follow which finding about one of its seams."""
    curves = exam.key.curves
    members, nodes, moves = _without_treatments(members, nodes, open_, exam)
    if any(_has_another_radius(m, open_) for m, _ in members if isinstance(curves[m], ArcFeature)):
        return {}  # another radius is no move of a group
    if len(nodes) < 2 or any(m is None for m in moves):
        return {}  # ends that do not meet are charged as such
    rows = np.array(moves, np.float64)
    labels, count = cluster(rows, exam.tolerances.position + exam.slack)
    groups: list[int] = labels.tolist()
    if count < 2:
        return {}
    after = [*groups[1:], groups[0]]
    seams: list[Seam] = [(m, a, b) for (m, _), a, b in zip(members, groups, after, strict=False) if a != b]
    # an edge run through backwards is as long as asked, and in the direction asked: another seam is charged
    charged = _spanning(sorted(seams, key=lambda s: _leader(open_.get(s[0], [])) is None), count)
    leaders: dict[str, int] = {}
    for m, _, _ in charged:
        leader = _leader(open_.get(m, []))
        if leader is None:
            return {}  # what would have to be charged is not examined, or within tolerance
        leaders[m] = leader.id
    # a seam is one slip, though it may have neither its length nor its direction
    led = {f.id: n for m, n in leaders.items() for f in open_.get(m, ()) if f.kind in _OWN and f.id != n}
    base = _base(groups, rows, exam)
    toward = _toward_base(charged, base)
    leader_of = {g: leaders[m] for g, m in toward.items()}
    if _about_its_middle(rows, groups, exam):
        leader_of[base], base = next(iter(leader_of.values())), -1
    for (corner, _, _), group in zip(nodes, groups, strict=True):
        if group != base:
            led |= {f.id: leader_of[group] for f in open_.get(corner, ()) if f.kind == "position"}
    for m, a, b in seams:
        if m not in leaders:
            seam = leader_of[a if a != base else b]
            led |= {f.id: seam for f in open_.get(m, ()) if f.kind in _OWN}
    led |= placed.carried(rows, groups, base, leader_of, exam)
    return led


def _without_treatments(
    members: Members, nodes: list[Node], open_: dict[str, list[Finding]], exam: Examination
) -> tuple[Members, list[Node], list[Point | None]]:
    """Return a chain with how far each of its places was moved, fillets and chamfers of another size taken
    back to the sharp corners that they are at: those stay where they are, whatever the treatment."""
    n, ring = len(nodes), len(nodes) == len(members)
    gone = _treated(members, ring, open_, exam)
    if not gone:
        return members, nodes, [_move(at, ends, exam) for _, at, ends in nodes]
    if ring and n - 1 in gone:  # the place that it takes back is to be within the row
        members, nodes = (members[-1], *members[:-1]), [nodes[-1], *nodes[:-1]]
        gone = {(k + 1) % n: sharp for k, sharp in gone.items()}
    swallowed = {(k + 1) % n for k in gone}
    kept = [k for k in range(n) if k not in swallowed]
    moves = [gone[k][1] if k in gone else _move(nodes[k][1], nodes[k][2], exam) for k in kept]
    left = [gone[k][0] if k in gone else nodes[k] for k in kept]
    return tuple(m for k, m in enumerate(members) if k not in gone), left, moves


def _treated(
    members: Members, ring: bool, open_: dict[str, list[Finding]], exam: Examination
) -> dict[int, tuple[Node, Point]]:
    """Return the fillets and chamfers of another size of a chain, by where they come in it, each with the
    sharp corner that it is at and how far that was moved."""
    out: dict[int, tuple[Node, Point]] = {}
    n = len(members)
    for k in range(n) if ring else range(1, n - 1):
        before, after = (k - 1) % n, (k + 1) % n
        if before in out or after in out:
            continue
        sharp = _sharp_corner(members[k][0], members[before][0], members[after][0], open_, exam)
        if sharp is not None:
            (x, y), (u, v) = sharp
            out[k] = (("", (x, y), ()), (u - x, v - y))
    return out


def _sharp_corner(
    m: str, before: str, after: str, open_: dict[str, list[Finding]], exam: Examination
) -> tuple[Point, Point] | None:
    """Return where the neighbours of a fillet or chamfer of another size, or of one that was left out, would
    cross, on the key and as they were drawn; None where it is none."""
    curve = exam.key.curves[m]
    if isinstance(curve, ArcFeature):
        if exam.partner(m) is not None and not _has_another_radius(m, open_):
            return None
    elif not isinstance(curve, Edge) or not is_slid(
        curve, [exam.key.corner_of.get((m, w)) for w in (0, 1)], exam
    ):
        return None
    sides = [(exam.key.curves[i], exam.partner(i)) for i in (before, after)]
    crossings = []
    for which in (0, 1):
        a, b = (side[which] for side in sides)
        if not isinstance(a, Edge) or not isinstance(b, Edge):
            return None
        crossings.append(meet(Straight(a.start, a.end), Straight(b.start, b.end)))
    for asked, drawn in sides:
        if not _parallel(asked, drawn, exam):
            return None
    at, there = crossings
    return None if at is None or there is None else (at, there)


def _has_another_radius(arc: str, open_: dict[str, list[Finding]]) -> bool:
    return any(f.kind == "radius" for f in open_.get(arc, ()))


def _parallel(asked: object, drawn: object, exam: Examination) -> bool:
    """Say whether an edge was drawn in its own direction."""
    if not isinstance(asked, Edge) or not isinstance(drawn, Edge):
        return False
    off = direction_difference_deg(direction_deg(*asked.ends), direction_deg(*drawn.ends))
    return tol.within(abs(off), exam.tolerances.angle_deg, exam.slack)


def _about_its_middle(moves: NDArray[np.float64], groups: list[int], exam: Examination) -> bool:
    """Say whether a chain was stretched about its middle: its two ends moved as far, against each other. That
    is one size, which both of them share."""
    if max(groups) != 1:
        return False
    a, b = (moves[groups.index(g)] for g in (0, 1))
    return tol.within(float(np.hypot(*(a + b))), exam.tolerances.position, exam.slack)


class _Placed:
    """How far circles, arcs and meetings that are not where they should be were moved."""

    def __init__(self, open_: dict[str, list[Finding]]) -> None:
        self.ids: list[int] = []
        moves = []
        for i, found in open_.items():
            for f in found if i[0] in "cat" else ():
                if f.kind == "position" and isinstance(f.measured, tuple) and isinstance(f.expected, tuple):
                    self.ids.append(f.id)
                    moves.append((f.measured[0] - f.expected[0], f.measured[1] - f.expected[1]))
        self.moves = as_rows(moves)

    def carried(
        self,
        moves: NDArray[np.float64],
        groups: list[int],
        base: int,
        leader_of: dict[int, int],
        exam: Examination,
    ) -> dict[int, int]:
        """Return which of them moved just as one of the groups of a chain did: they were placed from it."""
        out: dict[int, int] = {}
        for g in leader_of if self.ids else ():
            if g != base:
                off = self.moves - moves[groups.index(g)]
                near = np.hypot(off[:, 0], off[:, 1]) <= exam.tolerances.position + exam.slack
                for n in np.nonzero(near)[0].tolist():
                    out.setdefault(self.ids[n], leader_of[g])
        return out


def _move(at: Point, of: tuple[End, ...], exam: Examination) -> Point | None:
    """Return how far the drawn ends of a corner lie from it; None when one is missing or they do not meet."""
    ends = [exam.drawn_end(i, w) for i, w in of]
    first = ends[0]
    if first is None:
        return None
    for end in ends[1:]:
        if end is None or not tol.within(math.dist(first, end), exam.tolerances.length, exam.slack):
            return None
    return (first[0] - at[0], first[1] - at[1])


def _spanning(seams: list[Seam], count: int) -> list[Seam]:
    """Return the seams that connect all groups, each taken in order if it connects what is not connected
    yet."""
    part = list(range(count))

    def root(g: int) -> int:
        while part[g] != g:
            g = part[g]
        return g

    out = []
    for seam in seams:
        a, b = root(seam[1]), root(seam[2])
        if a != b:
            part[a] = b
            out.append(seam)
    return out


def _leader(found: list[Finding]) -> Finding | None:
    return min((f for f in found if f.kind in _OWN), key=lambda f: _OWN.index(f.kind), default=None)


def _base(groups: list[int], moves: NDArray[np.float64], exam: Examination) -> int:
    for group, (x, y) in zip(groups, moves.tolist(), strict=True):
        if tol.within(math.hypot(x, y), exam.tolerances.position, exam.slack):
            return group
    sizes = {g: groups.count(g) for g in set(groups)}
    most = max(sizes.values())
    return next(g for g in groups if sizes[g] == most)


def _toward_base(charged: list[Seam], base: int) -> dict[int, str]:
    """Return, for each other group, the charged seam by which it hangs on the base or on a group nearer to
    it."""
    toward: dict[int, str] = {}
    reached, waiting = {base}, [base]
    while waiting:
        here = waiting.pop()
        for m, a, b in charged:
            there = b if a == here else a if b == here else None
            if there is not None and there not in reached:
                toward[there] = m
                reached.add(there)
                waiting.append(there)
    return toward
