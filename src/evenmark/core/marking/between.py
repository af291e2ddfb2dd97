"""Pairs between pairs: members of an outline that are left over between two that are paired, and answer to
just as many of the drawing between their partners.

- *run*: members of one chain, one after the other, of which none is paired.

A corner in another place makes two edges wrong in length and direction at once, which no alignment of
sequences takes for fewer edits; but they are still the two pieces between those that are right. An outline
that crosses itself, or is run through the other way round, is walked as its pairs lie.
"""

from __future__ import annotations

from evenmark.core.geometry.points import distance
from evenmark.core.linework.model import ArcFeature, Edge, Free, Linework
from evenmark.core.marking.drawn_partner import DrawnPartner

Member = tuple[str, bool]
"""A feature and whether it is run through from its end to its start."""
Partners = dict[str, DrawnPartner]


def pair_between(key: Linework, drawn: Linework, partners: Partners, parts: set[str], reach: float) -> bool:
    """Pair the runs of outlines and open chains that lie between pairs; say whether any was.

    ``parts`` are drawn features that belong to an edge drawn in pieces and are left alone.
    """
    wholes = [(list(o.members), True) for o in key.outlines] + [(list(c), False) for c in key.open_chains]
    taken = {p.id for p in partners.values()} | parts
    found = False
    for members, ring in wholes:
        for run, before, after in _runs(members, ring, partners):
            made = _made(run, before, after, key, drawn, partners, taken, parts)
            for (i, back), (j, back_drawn) in made:
                flipped = back != back_drawn
                partners[i] = DrawnPartner(
                    id=j, flipped=flipped, exact=_same(i, j, flipped, key, drawn, reach)
                )
                taken.add(j)
                found = True
    return found


def _runs(
    members: list[Member], ring: bool, partners: Partners
) -> list[tuple[list[Member], Member | None, Member | None]]:
    """Return the runs of a chain, each with the paired members before and after it."""
    there = [i in partners for i, _ in members]
    if all(there) or not any(there):
        return []
    n = len(members)
    first = there.index(True) if ring else 0
    order = [members[(first + k) % n] for k in range(n)]
    out: list[tuple[list[Member], Member | None, Member | None]] = []
    run: list[Member] = []
    before: Member | None = None
    for m in order:
        if m[0] in partners:
            if run:
                out.append((run, before, m))
            run, before = [], m
        else:
            run.append(m)
    if run:
        out.append((run, before, order[0] if ring else None))
    return out


def _made(
    run: list[Member],
    before: Member | None,
    after: Member | None,
    key: Linework,
    drawn: Linework,
    partners: Partners,
    taken: set[str],
    parts: set[str],
) -> list[tuple[Member, Member]]:
    """Return the pairs of a run with what is drawn in its place; none where that is not just as much."""
    backward = before is None
    start = after if backward else before
    if start is None:
        return []
    i, back = start
    partner = partners[i]
    if partner.id in parts or partner.id not in drawn.curves:
        return []
    leave = (0 if back else 1) ^ backward ^ partner.flipped  # the drawn end from which the run goes on
    way = drawn.walk(partner.id, leave, parts)
    here = way[: len(run)]
    if len(here) < len(run) or any(j in taken for j, _ in here):
        return []
    beyond = way[len(run)][0] if len(way) > len(run) else None
    goal = None if backward or after is None else partners[after[0]].id
    if goal is not None and goal != partner.id and beyond != goal:
        return []
    if goal is None and beyond is not None:
        return []
    wanted = [(m, not b) for m, b in reversed(run)] if backward else run
    pairs = list(zip(wanted, here, strict=True))
    kinds = all(type(key.curves[a[0]]) is type(drawn.curves[b[0]]) for a, b in pairs)
    return pairs if kinds else []


def _same(i: str, j: str, flipped: bool, key: Linework, drawn: Linework, reach: float) -> bool:
    a, b = key.curves[i], drawn.curves[j]
    if not isinstance(a, Edge | ArcFeature | Free) or not isinstance(b, Edge | ArcFeature | Free):
        return False
    ends = b.ends[::-1] if flipped else b.ends
    near = all(distance(p, q) <= reach for p, q in zip(a.ends, ends, strict=True))
    if isinstance(a, ArcFeature) and isinstance(b, ArcFeature):
        return near and abs(a.radius - b.radius) <= reach and distance(a.at, b.at) <= reach
    return near and isinstance(a, Edge)
