"""A linework after a motion: every feature in its new place, under its old id."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from evenmark.core.drawing.moving import moved_dimension
from evenmark.core.geometry.points import Point, box_of
from evenmark.core.geometry.rows import moved_rows as rows_moved
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework.model import (
    ArcFeature,
    CircleFeature,
    Corner,
    Edge,
    End,
    Linework,
    Tee,
    TextFeature,
)


def moved_linework(linework: Linework, motion: Similarity) -> Linework:
    """Return the linework laid where the motion puts it. Mirrored arcs exchange their ends."""
    if motion.still:
        return linework
    scale = motion.scale
    swapped = {a.id for a in linework.arcs} if motion.mirror else set()

    def ends(of: tuple[End, ...]) -> tuple[End, ...]:
        return tuple((i, 1 - w) if i in swapped else (i, w) for i, w in of) if swapped else of

    def all_of(points: Sequence[Point]) -> list[Point]:
        if not points:
            return []
        rows = rows_moved(np.array(points, np.float64), motion).tolist()
        return [(x, y) for x, y in rows]

    edges, arcs, circles = linework.edges, linework.arcs, linework.circles
    starts, stops = all_of([e.start for e in edges]), all_of([e.end for e in edges])
    turned = [motion.sweep(a.start_rad, a.sweep_rad) for a in arcs]
    corners, tees = linework.corners, linework.tees
    box = linework.box
    frame = all_of([(x, y) for x in (box[0], box[2]) for y in (box[1], box[3])]) if box else []
    return Linework(
        edges=tuple(
            Edge(e.id, a, b, e.layer, e.style, e.sources)
            for e, a, b in zip(edges, starts, stops, strict=True)
        ),
        arcs=tuple(
            ArcFeature(a.id, c, a.radius * scale, start, sweep, a.layer, a.style, a.sources)
            for a, c, (start, sweep) in zip(arcs, all_of([a.center for a in arcs]), turned, strict=True)
        ),
        circles=tuple(
            CircleFeature(c.id, p, c.radius * scale, c.layer, c.style, c.sources)
            for c, p in zip(circles, all_of([c.center for c in circles]), strict=True)
        ),
        corners=tuple(
            Corner(k.id, p, ends(k.ends))
            for k, p in zip(corners, all_of([k.at for k in corners]), strict=True)
        ),
        tees=tuple(
            Tee(t.id, p, ends(t.ends), t.on) for t, p in zip(tees, all_of([t.at for t in tees]), strict=True)
        ),
        outlines=tuple(o._replace(at=motion.point(o.at)) for o in linework.outlines),
        texts=tuple(_text(t, motion) for t in linework.texts),
        frees=tuple(f._replace(points=tuple(all_of(f.points))) for f in linework.frees),
        endless=tuple(
            e._replace(at=motion.point(e.at), toward=motion.point(e.toward)) for e in linework.endless
        ),
        dimensions=tuple(moved_dimension(d, motion) for d in linework.dimensions),
        notes=tuple(
            n._replace(tip=motion.point(n.tip), at=motion.point(n.at), height=n.height * scale)
            for n in linework.notes
        ),
        hatches=tuple(
            h._replace(
                loops=tuple(tuple(all_of(loop)) for loop in h.loops),
                area=h.area * scale**2,
                at=motion.point(h.at),
            )
            for h in linework.hatches
        ),
        clutter=tuple(c._replace(at=motion.point(c.at)) for c in linework.clutter),
        layers=linework.layers,
        weld=linework.weld * scale,
        box=box_of(frame),
    )


def _text(t: TextFeature, motion: Similarity) -> TextFeature:
    """Return lettering after a motion: it is turned with the drawing, and never mirrored itself."""
    turn = (t.turn_deg + motion.turn_deg) % 360.0 if motion.turn_deg else t.turn_deg
    return t._replace(at=motion.point(t.at), height=t.height * motion.scale, turn_deg=turn)
