"""Simplify: two drawings that look and measure the same have equal linework, however they were drawn (marking.md)."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from evenmark.core.drawing import model as drawn
from evenmark.core.geometry.points import TAU, Box, Point, box_of, point_on
from evenmark.core.geometry.tolerance import weld_of
from evenmark.core.linework.model import Arc, Circle, Clutter, Edge, Linework, Text
from evenmark.core.linework.round import RoundTuple, merge_round
from evenmark.core.linework.straight import merge_straight
from evenmark.core.linework.topology import Meetings

T = TypeVar("T")
Floats = NDArray[np.float64]
Kind = tuple[str, drawn.Style]
"""Layer and resulting style: pieces merge only within one."""


def simplify(drawing: drawn.Drawing, *, length_tolerance: float, scale: float = 1.0) -> Linework:
    """Return the linework of a drawing.

    ``length_tolerance`` is the default tolerance in the linework's unit and bounds weld; ``scale`` converts the drawing's
    sizes to that unit (25.4 for a drawing in inches and a linework in millimetres).
    """
    lines = [e for e in drawing.entities if isinstance(e, drawn.Line)]
    rounds = [e for e in drawing.entities if isinstance(e, drawn.Arc | drawn.Circle)]
    texts = [e for e in drawing.entities if isinstance(e, drawn.Text)]
    kinds: dict[Kind, int] = {}
    starts = np.array([e.start for e in lines], dtype=np.float64).reshape(-1, 2) * scale
    ends = np.array([e.end for e in lines], dtype=np.float64).reshape(-1, 2) * scale
    box = _box(starts, ends, rounds, scale)
    weld = weld_of(max(box[2] - box[0], box[3] - box[1]) if box else 0.0, length_tolerance)

    clutter: list[Clutter] = []
    edges = _edges(lines, starts, ends, kinds, weld, clutter)
    arcs, circles = _rounds(rounds, kinds, scale, weld, clutter)
    meetings = Meetings(edges, arcs, circles, weld)
    corners = meetings.corners()
    return Linework(
        edges=edges,
        arcs=arcs,
        circles=circles,
        corners=corners,
        tees=meetings.tees(),
        outlines=meetings.outlines(corners),
        texts=_texts(texts, scale, weld),
        clutter=tuple(clutter),
        layers=drawing.layers,
        weld=weld,
        box=box,
    )


def _box(starts: Floats, ends: Floats, rounds: list[drawn.Arc | drawn.Circle], scale: float) -> Box | None:
    points: list[Point] = [(p[0] * scale, p[1] * scale) for e in rounds for p in drawn.reach_of(e)]
    if len(starts):
        both = np.concatenate((starts, ends))
        points += [tuple(both.min(axis=0).tolist()), tuple(both.max(axis=0).tolist())]
    return box_of(points)


def _number(kinds: dict[Kind, int], entity: drawn.Line | drawn.Arc | drawn.Circle) -> int:
    return kinds.setdefault((entity.layer, entity.style), len(kinds))


def _edges(
    lines: list[drawn.Line],
    starts: Floats,
    ends: Floats,
    kinds: dict[Kind, int],
    weld: float,
    clutter: list[Clutter],
) -> tuple[Edge, ...]:
    if not lines:
        return ()
    long_enough = np.hypot(*(ends - starts).T) > weld
    for i in np.nonzero(~long_enough)[0].tolist():
        clutter.append(
            Clutter(
                code="debris", at=tuple(starts[i].tolist()), layer=lines[i].layer, sources=(lines[i].source,)
            )
        )
    kept = np.nonzero(long_enough)[0]
    used = [lines[i] for i in kept.tolist()]
    runs, doubled = merge_straight(starts[kept], ends[kept], [_number(kinds, e) for e in used], weld)
    clutter += [
        Clutter(code="drawn-twice", at=d.at, layer=used[d.piece].layer, sources=(used[d.piece].source,))
        for d in doubled
    ]
    found = []
    for run in runs:
        first = used[run.pieces[0]]
        a, b = (
            (run.start, run.end) if _rank(run.start, weld) <= _rank(run.end, weld) else (run.end, run.start)
        )
        found.append((a, b, first, tuple(sorted({used[p].source for p in run.pieces}))))
    return _numbered(
        found,
        lambda f: (
            *_rank(((f[0][0] + f[1][0]) / 2, (f[0][1] + f[1][1]) / 2), weld),
            *_rank(f[0], weld),
            f[2].layer,
        ),
        lambda i, f: Edge(id=f"e{i}", start=f[0], end=f[1], layer=f[2].layer, style=f[2].style, sources=f[3]),
    )


def _rounds(
    rounds: list[drawn.Arc | drawn.Circle],
    kinds: dict[Kind, int],
    scale: float,
    weld: float,
    clutter: list[Clutter],
) -> tuple[tuple[Arc, ...], tuple[Circle, ...]]:
    pieces: list[RoundTuple] = []
    used = []
    for e in rounds:
        start, sweep = (e.start_rad, e.sweep_rad) if isinstance(e, drawn.Arc) else (0.0, TAU)
        radius = e.radius * scale
        center = (e.center[0] * scale, e.center[1] * scale)
        if radius * sweep <= weld:
            clutter.append(
                Clutter(code="debris", at=point_on(center, radius, start), layer=e.layer, sources=(e.source,))
            )
            continue
        pieces.append((center, radius, start, sweep))
        used.append(e)
    merged, doubled = merge_round(pieces, [_number(kinds, e) for e in used], weld)
    clutter += [
        Clutter(code="drawn-twice", at=d.at, layer=used[d.piece].layer, sources=(used[d.piece].source,))
        for d in doubled
    ]

    def sources(pieces_: tuple[int, ...]) -> tuple[str, ...]:
        return tuple(sorted({used[p].source for p in pieces_}))

    arcs = _numbered(
        [m for m in merged if m.sweep_rad < TAU],
        lambda m: (*_rank(m.center, weld), round(m.radius / weld), round(m.start_rad, 6), used[m.pieces[0]].layer),
        lambda i, m: Arc(
            id=f"a{i}", center=m.center, radius=m.radius, start_rad=m.start_rad, sweep_rad=m.sweep_rad,
            layer=used[m.pieces[0]].layer, style=used[m.pieces[0]].style, sources=sources(m.pieces),
        ),
    )  # fmt: skip
    circles = _numbered(
        [m for m in merged if m.sweep_rad >= TAU],
        lambda m: (*_rank(m.center, weld), round(m.radius / weld), used[m.pieces[0]].layer),
        lambda i, m: Circle(
            id=f"c{i}", center=m.center, radius=m.radius,
            layer=used[m.pieces[0]].layer, style=used[m.pieces[0]].style, sources=sources(m.pieces),
        ),
    )  # fmt: skip
    return arcs, circles


def _texts(texts: list[drawn.Text], scale: float, weld: float) -> tuple[Text, ...]:
    return _numbered(
        texts,
        lambda t: (*_rank((t.at[0] * scale, t.at[1] * scale), weld), t.wording),
        lambda i, t: Text(
            id=f"x{i}", wording=" ".join(t.wording.split()), at=(t.at[0] * scale, t.at[1] * scale), anchor=t.anchor,
            height=t.height * scale, turn_deg=t.turn_deg % 360.0, layer=t.layer, style=t.style, sources=(t.source,),
        ),
    )  # fmt: skip


S = TypeVar("S")


def _numbered(
    found: list[S], key: Callable[[S], tuple[object, ...]], make: Callable[[int, S], T]
) -> tuple[T, ...]:
    """Sort by a key of geometry and number from one."""
    return tuple(make(i, f) for i, f in enumerate(sorted(found, key=key), 1))


def _rank(p: Point, weld: float) -> tuple[int, int]:
    """Return a sort key for a place; places that differ by rounding alone nearly always rank the same."""
    step = max(weld, 1e-12)
    return (math.floor(p[0] / step + 0.5), math.floor(p[1] / step + 0.5))
