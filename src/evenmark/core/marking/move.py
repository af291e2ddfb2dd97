"""A linework after a motion: every feature in its new place, under its old id."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

from evenmark.core.geometry.motions import Motion
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import Arc, Corner, Edge, End, Linework, Tee

Joint = TypeVar("Joint", Corner, Tee)


def moved(linework: Linework, motion: Motion) -> Linework:
    """Return the linework laid where the motion puts it. Mirrored arcs exchange their ends."""
    if motion.still:
        return linework
    p = motion.point
    mirrored_arcs = {a.id for a in linework.arcs} if motion.mirror else set()

    def end(e: End) -> End:
        return (e[0], 1 - e[1]) if e[0] in mirrored_arcs else e

    def arc(a: Arc) -> Arc:
        start, sweep = motion.sweep(a.start_rad, a.sweep_rad)
        return replace(
            a, center=p(a.center), radius=a.radius * motion.scale, start_rad=start, sweep_rad=sweep
        )

    def joint(j: Joint) -> Joint:
        return replace(j, at=p(j.at), ends=tuple(end(e) for e in j.ends))

    box = linework.box
    corners: list[Point] = [p((x, y)) for x in (box[0], box[2]) for y in (box[1], box[3])] if box else []
    return Linework(
        edges=tuple(_edge(e, p(e.start), p(e.end)) for e in linework.edges),
        arcs=tuple(arc(a) for a in linework.arcs),
        circles=tuple(
            replace(c, center=p(c.center), radius=c.radius * motion.scale) for c in linework.circles
        ),
        corners=tuple(joint(c) for c in linework.corners),
        tees=tuple(joint(t) for t in linework.tees),
        outlines=tuple(replace(o, at=p(o.at)) for o in linework.outlines),
        texts=tuple(replace(t, at=p(t.at), height=t.height * motion.scale) for t in linework.texts),
        clutter=tuple(replace(c, at=p(c.at)) for c in linework.clutter),
        layers=linework.layers,
        weld=linework.weld * motion.scale,
        box=(
            min(c[0] for c in corners),
            min(c[1] for c in corners),
            max(c[0] for c in corners),
            max(c[1] for c in corners),
        )
        if corners
        else None,
    )


def _edge(e: Edge, start: Point, end: Point) -> Edge:
    return Edge(id=e.id, start=start, end=end, layer=e.layer, style=e.style, sources=e.sources)
