"""What a drawing may mean without saying it: taken as read where the sheet says everything with it and not
without, else only where somebody says so; sheets differ in this.

- *level-with*, *plumb-with*: neighbours among circles of one size that stand level or plumb with each other.
- *even-row*: circles of one size in a row, each as far from the next.
- *mirrored*: two pieces alike about a drawn centre line that runs along or between them: the sides of a bore
  in a section, a pair of holes.
- *projected*: a level that two views share, where there are but these two: that they are views is not sure.

Common practice, no published source.
"""

from __future__ import annotations

import itertools
from collections import defaultdict
from collections.abc import Iterator, Sequence

from evenmark.core.dimensioning.implied_kinds import Implied
from evenmark.core.dimensioning.implied_views import SharedLevels
from evenmark.core.dimensioning.measured import Measured
from evenmark.core.dimensioning.mirror import MirrorAxis
from evenmark.core.geometry.points import distance
from evenmark.core.linework import patterns
from evenmark.core.linework.apart import groups_of
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, View

MOST_MIRRORED = 400
"""Pieces of more are not held against a centre line."""
_MOST_GROUPS = 4


def offered(m: Measured, known: Sequence[Implied], views: Sequence[View]) -> Iterator[Implied]:
    """Yield what a drawing may mean without saying it, beside what is ``known`` to be taken as read."""
    groups: dict[tuple[str, int], list[CircleFeature]] = defaultdict(list)
    for c in m.rounds:
        if isinstance(c, CircleFeature):
            groups[c.layer, round(c.radius / (2 * m.reach))].append(c)
    for group in groups.values():
        yield from _rows(group, m.reach)
    yield from _mirrored(m, {frozenset(t.features[1:]) for t in known if t.kind == "alike"})
    if not views:
        yield from _projected(m)


def _rows(group: Sequence[CircleFeature], reach: float) -> Iterator[Implied]:
    for axis, kind in ((1, "level-with"), (0, "plumb-with")):
        rows: list[list[CircleFeature]] = []
        for c in sorted(group, key=lambda c: (round(c.center[axis] / (2 * reach)), c.center)):
            last = rows[-1][-1].center if rows else c.center
            level = abs(c.center[axis] - last[axis]) <= reach and distance(c.center, last) > reach
            if level:
                yield Implied(kind, (rows[-1][-1].id, c.id))
                rows[-1].append(c)
            else:
                rows.append([c])
        for row in rows:
            if len(row) > 2:
                found = patterns.in_row([c.center for c in row])
                if found.mismatch <= reach:
                    yield Implied("even-row", tuple(row[i].id for i in found.order))


def _mirrored(m: Measured, known: set[frozenset[str]]) -> Iterator[Implied]:
    pieces: list[Edge | ArcFeature | CircleFeature] = [*m.edges, *m.rounds]
    if len(pieces) > MOST_MIRRORED:
        return
    cells: dict[tuple[int, int], list[Edge | ArcFeature | CircleFeature]] = defaultdict(list)
    for f in pieces:
        for x, y in itertools.product((-1, 0, 1), repeat=2):
            cells[round(f.at[0] / (4 * m.reach)) + x, round(f.at[1] / (4 * m.reach)) + y].append(f)
    for axis in m.axes:
        reflected = MirrorAxis(axis, m.reach)
        for f in pieces:
            if reflected.side(f.at) <= m.reach or not reflected.runs_beside(f):
                continue
            image = reflected.of(f.at)
            for g in cells.get((round(image[0] / (4 * m.reach)), round(image[1] / (4 * m.reach))), ()):
                if reflected.are_images(f, g) and known.isdisjoint(_pairs(f, g, m, reflected)):
                    yield Implied("mirrored", (axis.id, f.id, g.id))
                    break


def _pairs(
    f: Edge | ArcFeature | CircleFeature,
    g: Edge | ArcFeature | CircleFeature,
    m: Measured,
    mirror: MirrorAxis,
) -> set[frozenset[str]]:
    """Return two pieces that are images, and the corners at their ends that are."""
    out = {frozenset((f.id, g.id))}
    if not isinstance(f, CircleFeature) and not isinstance(g, CircleFeature):
        for which, p in enumerate(f.ends):
            image = mirror.of(p)
            other = min((0, 1), key=lambda w: distance(g.ends[w], image))
            corners = m.key.corner_of.get((f.id, which)), m.key.corner_of.get((g.id, other))
            out |= {frozenset(k.id for k in corners if k is not None)} if None not in corners else set()
    return out


def seen_apart(m: Measured) -> tuple[View, ...]:
    """Return what stands apart on a drawing, as if these were views; none where they are too many."""
    boxes = groups_of([*m.edges, *m.rounds], m.reach, m.key.extent)
    if not 2 <= len(boxes) <= _MOST_GROUPS:
        return ()
    return tuple(View(id=f"v{n}", name="", box=b) for n, b in enumerate(sorted(boxes), 1))


def _projected(m: Measured) -> Iterator[Implied]:
    may = {f.id for f in (*m.edges, *m.rounds)}
    yield from SharedLevels(m, m.rounds, may, seen_apart(m), "projected").all()
