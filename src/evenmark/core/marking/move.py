"""A linework after a motion: every feature in its new place, under its old id."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np

from evenmark.core.drawing.moving import moved_dimension
from evenmark.core.geometry.points import Point, box_of
from evenmark.core.geometry.rows import moved_rows
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework.model import (
    ArcFeature,
    CircleFeature,
    Corner,
    Edge,
    End,
    HatchFeature,
    Linework,
    NoteFeature,
    Tee,
    TextFeature,
)


def moved_linework(linework: Linework, motion: Similarity) -> Linework:
    """Return the linework laid where the motion puts it. Mirrored arcs exchange their ends."""
    if motion.still:
        return linework
    swapped = {a.id for a in linework.arcs} if motion.mirror else set()
    box = linework.box
    frame = [(x, y) for x in (box[0], box[2]) for y in (box[1], box[3])] if box else []
    return Linework(
        edges=_edges(linework.edges, motion),
        arcs=_arcs(linework.arcs, motion),
        circles=_circles(linework.circles, motion),
        corners=tuple(
            Corner(k.id, p, _ends(k.ends, swapped))
            for k, p in zip(linework.corners, _all([k.at for k in linework.corners], motion), strict=True)
        ),
        tees=tuple(
            Tee(t.id, p, _ends(t.ends, swapped), t.on)
            for t, p in zip(linework.tees, _all([t.at for t in linework.tees], motion), strict=True)
        ),
        outlines=tuple(o._replace(at=motion.point(o.at)) for o in linework.outlines),
        texts=tuple(_text(t, motion) for t in linework.texts),
        frees=tuple(f._replace(points=tuple(_all(f.points, motion))) for f in linework.frees),
        endless=tuple(
            e._replace(at=motion.point(e.at), toward=motion.point(e.toward)) for e in linework.endless
        ),
        dimensions=tuple(moved_dimension(d, motion) for d in linework.dimensions),
        notes=tuple(_note(n, motion) for n in linework.notes),
        hatches=tuple(_hatch(h, motion) for h in linework.hatches),
        clutter=tuple(c._replace(at=motion.point(c.at)) for c in linework.clutter),
        layers=linework.layers,
        weld=linework.weld * motion.scale,
        box=box_of(_all(frame, motion)),
    )


def _all(points: Sequence[Point], motion: Similarity) -> list[Point]:
    if not points:
        return []
    rows = moved_rows(np.array(points, np.float64), motion).tolist()
    return [(x, y) for x, y in rows]


def _ends(of: tuple[End, ...], swapped: Collection[str]) -> tuple[End, ...]:
    return tuple((i, 1 - w) if i in swapped else (i, w) for i, w in of) if swapped else of


def _edges(edges: tuple[Edge, ...], motion: Similarity) -> tuple[Edge, ...]:
    starts, stops = _all([e.start for e in edges], motion), _all([e.end for e in edges], motion)
    return tuple(
        Edge(e.id, a, b, e.layer, e.style, e.sources) for e, a, b in zip(edges, starts, stops, strict=True)
    )


def _arcs(arcs: tuple[ArcFeature, ...], motion: Similarity) -> tuple[ArcFeature, ...]:
    centres = _all([a.center for a in arcs], motion)
    turned = [motion.sweep(a.start_rad, a.sweep_rad) for a in arcs]
    return tuple(
        ArcFeature(a.id, c, a.radius * motion.scale, start, sweep, a.layer, a.style, a.sources)
        for a, c, (start, sweep) in zip(arcs, centres, turned, strict=True)
    )


def _circles(circles: tuple[CircleFeature, ...], motion: Similarity) -> tuple[CircleFeature, ...]:
    return tuple(
        CircleFeature(c.id, p, c.radius * motion.scale, c.layer, c.style, c.sources)
        for c, p in zip(circles, _all([c.center for c in circles], motion), strict=True)
    )


def _note(n: NoteFeature, motion: Similarity) -> NoteFeature:
    return n._replace(tip=motion.point(n.tip), at=motion.point(n.at), height=n.height * motion.scale)


def _hatch(h: HatchFeature, motion: Similarity) -> HatchFeature:
    loops = tuple(tuple(_all(loop, motion)) for loop in h.loops)
    return h._replace(loops=loops, area=h.area * motion.scale**2, at=motion.point(h.at))


def _text(t: TextFeature, motion: Similarity) -> TextFeature:
    """Return lettering after a motion: it is turned with the drawing, and never mirrored itself."""
    turn = (t.turn_deg + motion.turn_deg) % 360.0 if motion.turn_deg else t.turn_deg
    return t._replace(at=motion.point(t.at), height=t.height * motion.scale, turn_deg=turn)
