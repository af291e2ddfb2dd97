"""Align outlines as sequences: one wrong, missing or added edge is found as just that, and its neighbours
stay matched.

- *sequence*: the edges and arcs of a chain in turn, each with its length or included angle, radius, and the
  turn from the one before.
- *edit*: an equal element costs 0, one value wrong 1, two or the kind wrong 2, one more or one less 1.5
  (marking.md, Match).
- *chain*: what the drawing has of an outline: closed, or open where ends do not meet.

The exact pairs found before are provisional: an alignment that needs fewer edits replaces them. Of equal ones
the least total displacement wins. Least edits by dynamic programming (Wagner and Fischer, 1974), for the few
rotations under which most is equal.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, Edge, Free, Linework
from evenmark.core.marking.drawn_partner import DrawnPartner

Member = tuple[str, bool]
"""A feature and whether it is run through from its end to its start."""

_MORE_OR_LESS = 1.5
_MOST_CELLS = 40_000
"""Outlines of more members than make so many pairs are left as they were matched."""
_ROTATIONS = 6
"""Rotations that are looked at; and chains. An alignment in which more than one value of each member is wrong
is none."""
_CHAINS = 4


class Element(NamedTuple):
    """One member of a sequence: its kind, length (edges, free curves) or included angle, signed radius, the
    turn before it (None at an open start)."""

    member: Member
    kind: str
    size: float
    radius: float
    turn: float | None
    start: Point
    end: Point


def align_outlines(
    key: Linework, drawn: Linework, partners: dict[str, DrawnPartner], parts: set[str], reach: float
) -> bool:
    """Replace the pairs of outlines by alignments that need fewer edits; say whether any was.

    ``parts`` are drawn features that belong to an edge drawn in pieces and are left alone.
    """
    wholes = [(o.members, True) for o in key.outlines] + [(c, False) for c in key.open_chains]
    troubled = [(members, ring) for members, ring in wholes if any(i not in partners for i, _ in members)]
    if not troubled:
        return False
    chains = _Chains(drawn, parts)
    changed = False
    owner = {p.id: i for i, p in partners.items()}
    for outline, ring in troubled:
        wanted = _sequence(list(outline), key, closed=ring)
        best: tuple[float, list[tuple[Element, Element]], list[Element]] | None = None
        for members, closed in chains.near(outline, key, partners, owner):
            if len(members) * len(wanted) > _MOST_CELLS:
                continue
            found = _sequence(members, drawn, closed=closed)
            now = _edits_now(wanted, found, partners, reach)
            if now <= 1.0:
                best = None
                break
            backward = _sequence(_turned(members), drawn, closed=closed)
            most = min(now - tol.FEWER_EDITS, max(len(wanted), len(found)))
            for sequence, mirrored in ((found, False), (backward, False), (_mirrored(backward), True)):
                least = _least(wanted, sequence, ring, closed, reach, min(most, 1.0) if mirrored else most)
                if least is None:
                    continue
                edits = 1.0 if mirrored else least[0]  # mirrored as one, and nothing else
                if edits < most and (best is None or edits - now < best[0]):
                    best = (edits - now, least[1], sequence)
        if best is None:
            continue
        changed = True
        _replace(wanted, best[1], best[2], partners, owner, reach)
    return changed


def _replace(
    wanted: list[Element],
    made: list[tuple[Element, Element]],
    sequence: list[Element],
    partners: dict[str, DrawnPartner],
    owner: dict[str, str],
    reach: float,
) -> None:
    for element in wanted:
        gone = partners.pop(element.member[0], None)
        if gone is not None:
            owner.pop(gone.id, None)
    for element in sequence:
        holder = owner.pop(element.member[0], None)
        if holder is not None:
            partners.pop(holder, None)
    for a, b in made:
        (i, back), (j, back_drawn) = a.member, b.member
        off = max(distance(a.start, b.start), distance(a.end, b.end))
        exact = off <= reach and abs(a.radius - b.radius) <= reach
        partners[i] = DrawnPartner(id=j, flipped=back != back_drawn, exact=exact)
        owner[j] = i


class _Chains:
    """The chains of a drawing, walked as they are asked for."""

    def __init__(self, drawn: Linework, parts: set[str]) -> None:
        self.drawn = drawn
        self.parts = parts
        self.known: dict[str, tuple[list[Member], bool]] = {}

    def of(self, feature: str) -> tuple[list[Member], bool]:
        """Return the chain that a drawn feature belongs to, and whether it is closed."""
        found = self.known.get(feature)
        if found is None:
            found = self._walk(feature)
            for i, _ in found[0]:
                self.known[i] = found
        return found

    def near(
        self,
        outline: tuple[Member, ...],
        key: Linework,
        partners: dict[str, DrawnPartner],
        owner: dict[str, str],
    ) -> list[tuple[list[Member], bool]]:
        """Return the chains that may be meant as an outline: those it is paired with, and free ones of about
        its place and length."""
        votes: dict[int, int] = {}
        chains: dict[int, tuple[list[Member], bool]] = {}
        for i, _ in outline:
            partner = partners.get(i)
            if partner is not None and partner.id not in self.parts:
                chain = self.of(partner.id)
                chains[id(chain)] = chain
                votes[id(chain)] = votes.get(id(chain), 0) + 1
        ranked = sorted(chains.values(), key=lambda c: (-votes[id(c)], c[0]))[:_CHAINS]
        if ranked:
            return ranked
        free = [c for c in self._all() if not any(i in owner for i, _ in c[0]) and len(c[0]) > 1]
        n, at = len(outline), key.by_id[outline[0][0]].at
        free.sort(key=lambda c: (abs(len(c[0]) - n), distance(self.drawn.curves[c[0][0][0]].at, at), c[0]))
        return free[:_CHAINS]

    def _all(self) -> list[tuple[list[Member], bool]]:
        seen: dict[int, tuple[list[Member], bool]] = {}
        for i in (*(e.id for e in self.drawn.edges), *(a.id for a in self.drawn.arcs)):
            if i not in self.parts:
                chain = self.of(i)
                seen[id(chain)] = chain
        return list(seen.values())

    def _walk(self, feature: str) -> tuple[list[Member], bool]:
        forward = self.drawn.walk(feature, 1, self.parts)
        last = (forward[-1][0], 0 if forward[-1][1] else 1) if forward else (feature, 1)
        corner = self.drawn.corner_of.get(last)
        if corner is not None and (feature, 0) in corner.ends and len(forward) > 0:
            members = [(feature, False), *forward]
            return (members if _turning(members, self.drawn) >= 0 else _turned(members)), True
        backward = self.drawn.walk(feature, 0, self.parts)
        return [*_turned(backward), (feature, False), *forward], False


def _turned(members: list[Member]) -> list[Member]:
    return [(i, not back) for i, back in reversed(members)]


def _mirrored(sequence: list[Element]) -> list[Element]:
    """Return a sequence as it would be seen in a mirror."""
    return [e._replace(turn=None if e.turn is None else -e.turn, radius=-e.radius) for e in sequence]


def _turning(members: list[Member], work: Linework) -> float:
    """Return twice the area of a closed chain, roughly: positive counter-clockwise."""
    path: list[Point] = []
    for i, back in members:
        curve: Edge | ArcFeature | Free = work.curves[i]  # type: ignore[assignment]
        path += [curve.ends[1 if back else 0], curve.at]
    ox, oy = path[0]
    return sum(
        (ax - ox) * (by - oy) - (bx - ox) * (ay - oy)
        for (ax, ay), (bx, by) in zip(path, [*path[1:], path[0]], strict=True)
    )


def _sequence(members: list[Member], work: Linework, *, closed: bool) -> list[Element]:
    shapes = [_shape(m, work) for m in members]
    out = []
    for n, (m, (kind, size, radius, enter, _, start, end)) in enumerate(zip(members, shapes, strict=True)):
        before = shapes[n - 1][4] if n or closed else None
        turn = None if before is None else math.remainder(enter - before, math.tau)
        out.append(Element(m, kind, size, radius, turn, start, end))
    return out


def _shape(m: Member, work: Linework) -> tuple[str, float, float, float, float, Point, Point]:
    """Return kind, size, signed radius, the directions in which a member is entered and left, and its
    ends."""
    curve: Edge | ArcFeature | Free = work.curves[m[0]]  # type: ignore[assignment]
    start, end = curve.ends[::-1] if m[1] else curve.ends
    if isinstance(curve, ArcFeature):
        sign = -1.0 if m[1] else 1.0
        at = [
            math.atan2(p[1] - curve.center[1], p[0] - curve.center[0]) + sign * math.pi / 2
            for p in (start, end)
        ]
        return "arc", curve.sweep_rad, sign * curve.radius, at[0], at[1], start, end
    if isinstance(curve, Free):
        points = curve.points[::-1] if m[1] else curve.points
        (a, b), (c, d) = points[:2], points[-2:]
        ways = [math.atan2(q[1] - p[1], q[0] - p[0]) for p, q in ((a, b), (c, d))]
        return "free", distance(start, end), 0.0, ways[0], ways[1], start, end
    way = math.atan2(end[1] - start[1], end[0] - start[0])
    return "edge", distance(start, end), 0.0, way, way, start, end


def _cost(a: Element, b: Element, reach: float) -> float:
    """Return what it takes to make one element the other."""
    if a.kind != b.kind:
        return 2.0
    if a.kind == "arc":
        wrong = int(abs(a.radius - b.radius) > reach)
        spare = max(tol.ALIGNED_RAD, 4 * reach / max(abs(a.radius), tol.LEAST_SIZE))
        wrong += abs(a.size - b.size) > spare
    else:
        wrong = int(abs(a.size - b.size) > 2 * reach)
        spare = max(tol.ALIGNED_RAD, 4 * reach / max(a.size, tol.LEAST_SIZE))
    if a.turn is not None and b.turn is not None:
        wrong += abs(math.remainder(a.turn - b.turn, math.tau)) > spare
    return float(min(wrong, 2))


def _edits_now(
    wanted: list[Element], found: list[Element], partners: dict[str, DrawnPartner], reach: float
) -> float:
    """Return how many edits the present pairs mean."""
    there = {e.member[0]: e for e in found}
    total, used = 0.0, 0
    for a in wanted:
        partner = partners.get(a.member[0])
        b = there.get(partner.id) if partner is not None else None
        if b is None:
            total += _MORE_OR_LESS
        else:
            used += 1
            total += 0.0 if partner is not None and partner.exact else _cost(a, b, reach)
    return total + _MORE_OR_LESS * (len(found) - used)


def _least(
    wanted: list[Element], found: list[Element], ring: bool, closed: bool, reach: float, most: float
) -> tuple[float, list[tuple[Element, Element]]] | None:
    """Return the least edits over the likeliest rotations, with the pairs of one kind that they make; None
    where there are ``most`` or more."""
    n, m = len(wanted), len(found)
    costs: list[list[float]] = []
    least = 0.0  # each element costs at least what makes it the likest one
    for a in wanted:
        costs.append([_cost(a, b, reach) for b in found])
        least += min(_MORE_OR_LESS, *costs[-1])
        if least >= most:
            return None
    apart = [[distance(a.start, b.start) + distance(a.end, b.end) for b in found] for a in wanted]
    tie = tol.DISPLACEMENT_WEIGHT / (1.0 + max(map(max, apart))) / max(n, m)
    table = [
        [c + tie * d for c, d in zip(row, far, strict=True)] for row, far in zip(costs, apart, strict=True)
    ]
    # turn a ring that was drawn against what was asked; or the asked ring against an open chain
    size = m if closed else n if ring else 1
    equal, far = [0] * size, [0.0] * size
    for i, row in enumerate(costs):
        for j, cost in enumerate(row):
            shift = (j - i if closed else i - j) % size
            equal[shift] += cost == 0.0
            far[shift] += apart[i][j]
    # an edge more or less moves what follows by one
    scores = [(-(equal[k] + equal[k - 1] + equal[(k + 1) % size]), far[k], k) for k in range(size)]
    best: tuple[float, list[tuple[int, int]]] | None = None
    for _, _, shift in sorted(scores)[:_ROTATIONS]:
        if closed:
            total, pairs = _edit_table([row[shift:] + row[:shift] for row in table])
        else:
            total, pairs = _edit_table(table[shift:] + table[:shift])
        if best is None or total < best[0] - tol.SAME_COST:
            best = (
                total,
                [
                    ((i + (0 if closed or not ring else shift)) % n, (j + (shift if closed else 0)) % m)
                    for i, j in pairs
                ],
            )
    if best is None or best[0] >= most:
        return None
    made = [(wanted[i], found[j]) for i, j in best[1] if wanted[i].kind == found[j].kind]
    return best[0], made


def _edit_table(rows: list[list[float]]) -> tuple[float, list[tuple[int, int]]]:
    """Return the least total cost of aligning rows with columns in order, and the pairs."""
    n, m = len(rows), len(rows[0])
    best = [[0.0] * (m + 1) for _ in range(n + 1)]
    for j in range(1, m + 1):
        best[0][j] = j * _MORE_OR_LESS
    for i in range(1, n + 1):
        row, above, cost = best[i], best[i - 1], rows[i - 1]
        row[0] = i * _MORE_OR_LESS
        for j in range(1, m + 1):
            row[j] = min(above[j - 1] + cost[j - 1], above[j] + _MORE_OR_LESS, row[j - 1] + _MORE_OR_LESS)
    pairs = []
    i, j = n, m
    while i and j:
        if best[i][j] == best[i - 1][j - 1] + rows[i - 1][j - 1]:
            i, j = i - 1, j - 1
            pairs.append((i, j))
        elif best[i][j] == best[i - 1][j] + _MORE_OR_LESS:
            i -= 1
        else:
            j -= 1
    return best[n][m], pairs[::-1]


def settle_ends(
    key: Linework, drawn: Linework, partners: dict[str, DrawnPartner], merged: dict[str, Edge], reach: float
) -> None:
    """Say anew which end of a drawn edge answers to which end of its key edge: the one by which it meets what
    it should meet.

    Least displacement alone may lay an edge of the wrong direction on the key the wrong way round.
    """

    def ends_of(i: str) -> tuple[Point, Point] | None:
        partner = partners.get(i)
        curve = merged.get(i) or (drawn.curves.get(partner.id) if partner else None)
        if partner is None or not isinstance(curve, Edge | ArcFeature | Free):
            return None
        a, b = curve.ends
        return (b, a) if partner.flipped else (a, b)

    for edge in key.edges:
        partner = partners.get(edge.id)
        if partner is None or partner.exact:
            continue
        own = ends_of(edge.id)
        if own is None:
            continue
        kept = turned = 0
        for which in (0, 1):
            corner = key.corner_of.get((edge.id, which))
            for i, w in corner.ends if corner else ():
                other = ends_of(i) if i != edge.id else None
                if other is not None:
                    kept += distance(own[which], other[w]) <= reach
                    turned += distance(own[1 - which], other[w]) <= reach
        if turned > kept:
            partners[edge.id] = partner._replace(flipped=not partner.flipped)
