"""Pieces that hang together end to end: one outline.

A feature keeps its name and shape: what is joined is only written and moved as one.
"""

from __future__ import annotations

from evenmark.core.construct.state import Feature
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance


def chained(pieces: list[Feature]) -> list[Feature] | None:
    """Return pieces in the order in which one begins where the one before ended; None where they do not hang
    together in one chain."""
    if not pieces:
        return None
    ends = [(f.shape.start, f.shape.end) for f in pieces]
    reach = tol.WELD_SHARE * (1.0 + max(max(map(abs, a + b)) for a, b in ends))
    cells: dict[tuple[int, int], list[tuple[int, Point]]] = {}
    for n, both in enumerate(ends):
        for p in both:
            cells.setdefault(_cell(p, reach), []).append((n, p))

    def others(n: int, p: Point) -> list[int]:
        """Return the other pieces that have an end where a piece has one."""
        keys = {_cell((p[0] + i * reach, p[1] + j * reach), reach) for i in (-1, 1) for j in (-1, 1)}
        return [m for key in keys for m, q in cells.get(key, ()) if m != n and distance(p, q) <= reach]

    begin, leaves = 0, ends[0][1]
    for n, (a, b) in enumerate(ends):
        free = [p for p, other in ((a, b), (b, a)) if not others(n, p)]
        if len(pieces) > 1 and len(free) == 2:
            return None
        if free:  # an end of the chain
            begin, leaves = n, b if free[0] is a else a
            break
    order, seen = [begin], {begin}
    while len(order) < len(pieces):
        following = [m for m in others(order[-1], leaves) if m not in seen]
        if len(following) != 1:
            if not (len(order) == 1 and len(following) == 2 and begin == 0):
                return None
            following = following[:1]  # a closed chain goes on either way
        (n,) = following
        a, b = ends[n]
        leaves = b if distance(a, leaves) <= distance(b, leaves) else a
        order.append(n)
        seen.add(n)
    return [pieces[n] for n in order]


def _cell(p: Point, reach: float) -> tuple[int, int]:
    return (round(p[0] / (8.0 * reach)), round(p[1] / (8.0 * reach)))
