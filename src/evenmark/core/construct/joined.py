"""Pieces that hang together end to end: one outline.

- *outline*: pieces in turn, each with whether it is run through backwards, as the first of them runs; closed
  or open.

A feature keeps its name and shape: what is joined is only written and moved as one.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from evenmark.core.construct.state import Feature
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.regions import Loop


class Outline(NamedTuple):
    """Pieces in turn, and whether the last ends where the first begins."""

    members: Loop
    closed: bool


def outline_of(pieces: Sequence[Feature]) -> Outline | None:
    """Return the outline that pieces make; None where they do not hang together. Where it is closed it begins
    with the first of them; it runs as its first piece does."""
    if len(pieces) == 1:
        shape = pieces[0].shape
        return Outline(((shape, pieces[0].back),), isinstance(shape, Round) and shape.whole)
    order = chained(list(pieces))
    if order is None:
        return None
    loop = _in_turn(order)
    closed = distance(_enters(loop[0]), _leaves(loop[-1])) <= _reach(order)
    if closed:
        n = next(k for k, f in enumerate(order) if f.ref == pieces[0].ref)
        order, loop = order[n:] + order[:n], loop[n:] + loop[:n]
    first = next(k for k, f in enumerate(order) if f.ref == pieces[0].ref)
    if loop[first][1] != order[first].back:  # the other way round
        loop = [(shape, not back) for shape, back in reversed(loop)]
        if closed:
            loop = loop[-1:] + loop[:-1]
    return Outline(tuple(loop), closed)


def outline_round(piece: Feature, standing: Sequence[Feature]) -> Outline | None:
    """Return the outline that goes on from a piece on both sides, end to end, as far as just one other goes
    on there."""
    reach = _reach(standing)
    cells: dict[tuple[int, int], list[tuple[Feature, Point]]] = {}
    for f in standing:
        if not (isinstance(f.shape, Round) and f.shape.whole):
            for p in (f.start, f.end):
                cells.setdefault(_cell(p, reach), []).append((f, p))
    found = {piece.ref: piece}
    if not (isinstance(piece.shape, Round) and piece.shape.whole):
        for p in (piece.end, piece.start):
            at, here = p, piece
            while True:
                on = [
                    (f, q)
                    for key in _cells_round(at, reach)
                    for f, q in cells.get(key, ())
                    if f.ref != here.ref and distance(at, q) <= reach
                ]
                if len(on) != 1 or on[0][0].ref in found:
                    break
                here, q = on[0]
                found[here.ref] = here
                at = here.end if distance(here.start, q) <= distance(here.end, q) else here.start
    return outline_of(list(found.values()))


def _in_turn(order: Sequence[Feature]) -> list[tuple[Curve, bool]]:
    """Return pieces that follow each other, each with whether it is run through backwards."""
    a, b = order[0].shape, order[1].shape
    free = min(distance(a.start, p) for p in (b.start, b.end))
    other = min(distance(a.end, p) for p in (b.start, b.end))
    at = a.start if other <= free else a.end
    loop = []
    for f in order:
        back = distance(f.shape.end, at) < distance(f.shape.start, at)
        loop.append((f.shape, back))
        at = f.shape.start if back else f.shape.end
    return loop


def _enters(member: tuple[Curve, bool]) -> Point:
    return member[0].end if member[1] else member[0].start


def _leaves(member: tuple[Curve, bool]) -> Point:
    return member[0].start if member[1] else member[0].end


def _reach(pieces: Sequence[Feature]) -> float:
    """Return within what ends of pieces are one."""
    return tol.WELD_SHARE * (1.0 + max(max(map(abs, (*f.shape.start, *f.shape.end))) for f in pieces))


def _cells_round(p: Point, reach: float) -> set[tuple[int, int]]:
    return {_cell((p[0] + i * reach, p[1] + j * reach), reach) for i in (-1, 1) for j in (-1, 1)}


def chained(pieces: list[Feature]) -> list[Feature] | None:
    """Return pieces in the order in which one begins where the one before ended; None where they do not hang
    together in one chain."""
    if not pieces:
        return None
    ends = [(f.shape.start, f.shape.end) for f in pieces]
    reach = _reach(pieces)
    cells: dict[tuple[int, int], list[tuple[int, Point]]] = {}
    for n, both in enumerate(ends):
        for p in both:
            cells.setdefault(_cell(p, reach), []).append((n, p))

    def others(n: int, p: Point) -> list[int]:
        """Return the other pieces that have an end where a piece has one."""
        return [
            m
            for key in _cells_round(p, reach)
            for m, q in cells.get(key, ())
            if m != n and distance(p, q) <= reach
        ]

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
