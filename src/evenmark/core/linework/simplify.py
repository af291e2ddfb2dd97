"""Simplify: two drawings that look and measure the same have equal linework, however they were drawn
(marking.md)."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from evenmark.core.drawing import model as drawn
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import TAU, Box, point_on
from evenmark.core.geometry.tolerance import weld_of
from evenmark.core.linework import chords
from evenmark.core.linework.annotations import dimensions_of, endless_of, hatches_of, notes_of
from evenmark.core.linework.free import merge_free
from evenmark.core.linework.looks import Looks
from evenmark.core.linework.model import ArcFeature, CircleFeature, Clutter, Edge, Linework, TextFeature
from evenmark.core.linework.nodes import as_rows, grid, order_of
from evenmark.core.linework.round import RoundPiece, merge_round
from evenmark.core.linework.straight import merge_straight
from evenmark.core.linework.topology import Meetings

Floats = NDArray[np.float64]


def simplify(drawing: drawn.Drawing, *, length_tolerance: float, scale: float = 1.0) -> Linework:
    """Return the linework of a drawing.

    ``length_tolerance`` is the default tolerance in the linework's unit and bounds weld; ``scale`` converts
    the drawing's sizes to that unit (25.4 for a drawing in inches and a linework in millimetres).
    """
    lines = [e for e in drawing.entities if isinstance(e, drawn.Line)]
    rounds = [e for e in drawing.entities if isinstance(e, drawn.Arc | drawn.Circle)]
    curved = [e for e in drawing.entities if isinstance(e, drawn.FreeCurve)]
    texts = [e for e in drawing.entities if isinstance(e, drawn.Text)]
    starts = as_rows([e.start for e in lines]) * scale
    ends = as_rows([e.end for e in lines]) * scale
    shapes = _shapes(rounds, scale)
    box = _box(np.concatenate([starts, ends, *(np.array(e.points) * scale for e in curved)]), shapes)
    weld = weld_of(max(box[2] - box[0], box[3] - box[1]) if box else 0.0, length_tolerance)

    looks = Looks()
    clutter: list[Clutter] = []
    made = chords.find(starts, ends, [(e.layer, e.style) for e in lines], weld)
    if made:
        rounds = [*rounds, *(_as_drawn(r, lines, scale) for r in made)]
        lines, starts, ends = _without(lines, starts, ends, made, clutter)
        shapes = _shapes(rounds, scale)
    edges = _edges(lines, starts, ends, looks, weld, clutter)
    arcs, circles = _rounds(rounds, shapes, looks, weld, clutter)
    frees = merge_free(curved, scale, looks, weld, clutter) if curved else ()
    meetings = Meetings(edges, arcs, circles, weld, frees)
    corners = meetings.corners()
    notes, texts = notes_of(drawing.notes, texts, scale, weld)
    return Linework(
        edges=edges,
        arcs=arcs,
        circles=circles,
        corners=corners,
        tees=meetings.tees(),
        outlines=meetings.outlines(),
        texts=_texts(texts, scale, weld),
        frees=frees,
        endless=endless_of(drawing.endless, scale, weld),
        dimensions=dimensions_of(drawing.dimensions, scale, weld),
        notes=notes,
        hatches=hatches_of(drawing.hatches, scale, weld),
        clutter=tuple(clutter),
        layers=drawing.layers,
        weld=weld,
        box=box,
    )


def _without(
    lines: list[drawn.Line],
    starts: Floats,
    ends: Floats,
    made: Sequence[chords.Round],
    clutter: list[Clutter],
) -> tuple[list[drawn.Line], Floats, Floats]:
    """Return straight pieces without those that are chords of something round, which is noted."""
    gone = {i for r in made for i in r.pieces}
    for r in made:
        at = point_on(r.center, r.radius, r.start_rad + r.sweep_rad / 2)
        sources = tuple(lines[i].source for i in r.pieces)
        clutter.append(Clutter(code="chords", at=at, layer=lines[r.pieces[0]].layer, sources=sources))
    kept = [i for i in range(len(lines)) if i not in gone]
    return [lines[i] for i in kept], starts[kept], ends[kept]


def _as_drawn(r: chords.Round, lines: Sequence[drawn.Line], scale: float) -> drawn.Arc | drawn.Circle:
    """Return what was drawn as chords as the arc or circle that it is, in the drawing's own sizes."""
    first = lines[r.pieces[0]]
    center, radius = (r.center[0] / scale, r.center[1] / scale), r.radius / scale
    look = (first.layer, first.style, first.source)
    if r.sweep_rad == TAU:
        return drawn.Circle(center, radius, *look)
    return drawn.Arc(center, radius, r.start_rad, r.sweep_rad, *look)


def _shapes(rounds: list[drawn.Arc | drawn.Circle], scale: float) -> Floats:
    """Return centre x and y, radius, start and sweep (rad) of round entities as rows."""
    rows = [
        (*e.center, e.radius, e.start_rad, e.sweep_rad)
        if isinstance(e, drawn.Arc)
        else (*e.center, e.radius, 0.0, TAU)
        for e in rounds
    ]
    shapes = np.array(rows, np.float64).reshape(-1, 5)
    shapes[:, :3] *= scale
    return shapes


def _box(points: Floats, shapes: Floats) -> Box | None:
    """Return the box around points and round pieces, exact for arcs: their ends and the quarter points that
    they pass."""
    parts = [points]
    if len(shapes):
        quarters = np.arange(4) * (math.pi / 2)
        start, sweep = shapes[:, 3, None], shapes[:, 4, None]
        passed = (quarters - start) % TAU <= sweep
        turns = np.concatenate((start, start + sweep, np.where(passed, quarters, start)), axis=1)
        x = shapes[:, 0, None] + shapes[:, 2, None] * np.cos(turns)
        y = shapes[:, 1, None] + shapes[:, 2, None] * np.sin(turns)
        parts.append(np.column_stack((x.ravel(), y.ravel())))
    reach = np.concatenate(parts)
    if not len(reach):
        return None
    low, high = reach.min(axis=0).tolist(), reach.max(axis=0).tolist()
    return (low[0], low[1], high[0], high[1])


def _edges(
    lines: list[drawn.Line], starts: Floats, ends: Floats, looks: Looks, weld: float, clutter: list[Clutter]
) -> tuple[Edge, ...]:
    if not lines:
        return ()
    long_enough = np.hypot(*(ends - starts).T) > weld
    for i in np.nonzero(~long_enough)[0].tolist():
        at = (float(starts[i, 0]), float(starts[i, 1]))
        clutter.append(Clutter(code="debris", at=at, layer=lines[i].layer, sources=(lines[i].source,)))
    kept = np.nonzero(long_enough)[0]
    used = [lines[i] for i in kept.tolist()]
    if not used:
        return ()
    numbers = np.array([looks.number(e) for e in used], np.int64)
    runs, doubled = merge_straight(starts[kept], ends[kept], numbers, weld)
    clutter += [
        Clutter(code="drawn-twice", at=d.at, layer=used[d.piece].layer, sources=(used[d.piece].source,))
        for d in doubled
    ]
    a, b = runs.starts, runs.ends
    cell_a, cell_b = grid(a, weld), grid(b, weld)
    swap = (cell_a[:, 0] > cell_b[:, 0]) | ((cell_a[:, 0] == cell_b[:, 0]) & (cell_a[:, 1] > cell_b[:, 1]))
    swap = swap[:, None]
    layers = _ranks([used[i].layer for i in runs.first.tolist()])
    order = order_of(np.column_stack((grid((a + b) / 2, weld), np.where(swap, cell_b, cell_a), layers)))
    first = [used[i] for i in runs.first[order].tolist()]
    sources: list[tuple[str, ...]] = [(e.source,) for e in first]
    if runs.several:
        for n, i in enumerate(order):
            if i in runs.several:
                sources[n] = _sources(runs.several[i], used)
    return tuple(
        map(
            Edge._make,
            zip(
                [f"e{n}" for n in range(1, len(order) + 1)],
                _pairs(np.where(swap, b, a)[order]),
                _pairs(np.where(swap, a, b)[order]),
                [e.layer for e in first],
                [e.style for e in first],
                sources,
                strict=True,
            ),
        )
    )


def _pairs(rows: Floats) -> list[tuple[float, float]]:
    """Return rows as points."""
    return list(zip(rows[:, 0].tolist(), rows[:, 1].tolist(), strict=True))


def _rounds(
    rounds: list[drawn.Arc | drawn.Circle], shapes: Floats, looks: Looks, weld: float, clutter: list[Clutter]
) -> tuple[tuple[ArcFeature, ...], tuple[CircleFeature, ...]]:
    pieces = []
    used = []
    for e, (x, y, radius, start, sweep) in zip(rounds, shapes.tolist(), strict=True):
        if radius * sweep <= weld:
            at = point_on((x, y), radius, start)
            clutter.append(Clutter(code="debris", at=at, layer=e.layer, sources=(e.source,)))
        else:
            pieces.append(((x, y), radius, start, sweep))
            used.append(e)
    merged, doubled = merge_round(pieces, [looks.number(e) for e in used], weld)
    clutter += [
        Clutter(code="drawn-twice", at=d.at, layer=used[d.piece].layer, sources=(used[d.piece].source,))
        for d in doubled
    ]
    arcs, circles = [], []
    for n, m in enumerate(_sorted_rounds([m for m in merged if m.sweep_rad < TAU], used, weld), 1):
        e = used[m.pieces[0]]
        sources = _sources(m.pieces, used)
        arcs.append(
            ArcFeature(f"a{n}", m.center, m.radius, m.start_rad, m.sweep_rad, e.layer, e.style, sources)
        )
    for n, m in enumerate(_sorted_rounds([m for m in merged if m.sweep_rad >= TAU], used, weld), 1):
        e = used[m.pieces[0]]
        circles.append(CircleFeature(f"c{n}", m.center, m.radius, e.layer, e.style, _sources(m.pieces, used)))
    return tuple(arcs), tuple(circles)


def _sorted_rounds(
    rounds: list[RoundPiece], used: list[drawn.Arc | drawn.Circle], weld: float
) -> list[RoundPiece]:
    if not rounds:
        return []
    rows = np.array([(*m.center, m.radius, m.start_rad) for m in rounds])
    turns = np.floor(rows[:, 3, None] / tol.START_STEP_RAD + 0.5)
    layers = _ranks([used[m.pieces[0]].layer for m in rounds])
    key = np.column_stack((grid(rows[:, :2], weld), grid(rows[:, 2, None], weld), turns, layers))
    return [rounds[i] for i in order_of(key)]


def _texts(texts: list[drawn.Text], scale: float, weld: float) -> tuple[TextFeature, ...]:
    if not texts:
        return ()
    at = np.array([t.at for t in texts]) * scale
    key = np.column_stack((grid(at, weld), _ranks([t.wording for t in texts])))
    places = at.tolist()
    return tuple(
        TextFeature(
            id=f"x{n}",
            wording=" ".join(texts[i].wording.split()),
            at=(places[i][0], places[i][1]),
            anchor=texts[i].anchor,
            height=texts[i].height * scale,
            turn_deg=texts[i].turn_deg % 360.0,
            layer=texts[i].layer,
            style=texts[i].style,
            sources=(texts[i].source,),
        )
        for n, i in enumerate(order_of(key), 1)
    )


def _ranks(words: Sequence[str]) -> Floats:
    """Return the place of each word among all of them, as a column to sort by."""
    rank = {word: n for n, word in enumerate(sorted(set(words)))}
    return np.array([rank[word] for word in words], np.float64)


def _sources(
    pieces: tuple[int, ...], used: Sequence[drawn.Line | drawn.Arc | drawn.Circle]
) -> tuple[str, ...]:
    """Return which objects of the file a merged piece came from, each once."""
    if len(pieces) == 1:
        return (used[pieces[0]].source,)
    return tuple(sorted({used[p].source for p in pieces}))
