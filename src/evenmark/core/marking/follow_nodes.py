"""Follow-through about one point: a node of a truss that stands elsewhere takes its members along, and arcs
about one centre that sweep otherwise take along what ends with them."""

from __future__ import annotations

import math
from collections.abc import Iterable

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, Corner, Edge
from evenmark.core.marking.examination import Asked, Examination
from evenmark.core.marking.led import OWN, PLACES, Led
from evenmark.core.marking.model import Finding

LEAST_MEMBERS = 3
"""Where fewer edges meet, an outline tells which of them is wrong."""


def follow_nodes(findings: list[Finding], _asked: Asked, exam: Examination) -> Led:
    """Return what follows the place of a corner where several edges meet, as they were drawn to meet
    elsewhere, the other end of each where it should be."""
    about = _about(findings)
    led: Led = {}
    for k in exam.key.corners:
        place = next((f for f in about.get(k.id, ()) if f.kind in PLACES), None)
        if place is None or len(k.ends) < LEAST_MEMBERS or not _moved_alone(k, exam):
            continue
        inside = (k.id, *(i for i, _ in k.ends))
        led |= {f.id: place.id for i in inside for f in about.get(i, ()) if f.id != place.id}
    return led


def _about(findings: Iterable[Finding]) -> dict[str, list[Finding]]:
    """Return the charged sizes and places of each feature."""
    out: dict[str, list[Finding]] = {}
    for f in findings:
        if f.verdict in ("missed", "near") and f.kind in OWN and len(f.features) == 1:
            out.setdefault(f.features[0], []).append(f)
    return out


def _moved_alone(corner: Corner, exam: Examination) -> bool:
    """Say whether edges meet elsewhere than at their corner, each with its other end in place."""
    reach, there = exam.tolerances.position, list[Point]()
    for i, which in corner.ends:
        edge, end, far = exam.key.curves[i], exam.drawn_end(i, which), exam.drawn_end(i, 1 - which)
        if not isinstance(edge, Edge) or end is None or far is None:
            return False
        if not tol.within(distance(far, edge.ends[1 - which]), reach, exam.slack):
            return False
        there.append(end)
    apart = max(distance(there[0], p) for p in there)
    return tol.within(apart, exam.tolerances.length, exam.slack)


def follow_sweeps(findings: list[Finding], _asked: Asked, exam: Examination) -> Led:
    """Return what follows the first arc that sweeps otherwise: arcs about the same centre with the same end
    turned as far, and what ends there, turned with them about that centre."""
    about = _about(findings)
    led: Led = {}
    for i in [i for i in about if i in exam.key.curves]:
        arc, lead = exam.key.curves[i], about[i][0]
        turn = _end_turned(arc, exam) if isinstance(arc, ArcFeature) and lead.id not in led else None
        if not isinstance(arc, ArcFeature) or turn is None:
            continue
        for j, found in about.items():
            curves = exam.key.curves_of((j,))
            if j != i and curves and all(_turned_with(c, arc.center, turn, exam) for c in curves):
                led |= {f.id: lead.id for f in found if f.id != lead.id}
        led |= {f.id: lead.id for f in about[i][1:]}
    return led


def _end_turned(arc: ArcFeature, exam: Examination) -> float | None:
    """Return by how much one end of an arc was turned about its centre, the other in place; None where that
    is not what is wrong with it."""
    drawn, ends, reach = exam.partner(arc.id), exam.ends_for.get(arc.id), exam.tolerances.position
    if not isinstance(drawn, ArcFeature) or ends is None:
        return None
    if not tol.within(distance(arc.center, drawn.center), reach, exam.slack):
        return None
    if not tol.within(abs(arc.radius - drawn.radius), exam.tolerances.length, exam.slack):
        return None
    off = [not tol.within(distance(p, q), reach, exam.slack) for p, q in zip(arc.ends, ends, strict=True)]
    if off.count(True) != 1:
        return None
    which = off.index(True)
    (x, y), (ax, ay), (bx, by) = arc.center, arc.ends[which], ends[which]
    return math.remainder(math.atan2(by - y, bx - x) - math.atan2(ay - y, ax - x), math.tau)


def _turned_with(i: str, center: Point, turn: float, exam: Examination) -> bool:
    """Say whether each end of a curve is where it should be, or turned about a centre, one of them at
    least."""
    curve, ends = exam.key.curves[i], exam.ends_for.get(i)
    if not isinstance(curve, Edge | ArcFeature) or ends is None:
        return False
    reach, moved = 2 * exam.tolerances.position, 0
    if isinstance(curve, ArcFeature):
        drawn = exam.partner(i)
        if not isinstance(drawn, ArcFeature) or distance(curve.center, drawn.center) > reach + exam.slack:
            return False
    c, s = math.cos(turn), math.sin(turn)
    for p, q in zip(curve.ends, ends, strict=True):
        x, y = p[0] - center[0], p[1] - center[1]
        there = (center[0] + c * x - s * y, center[1] + s * x + c * y)
        if tol.within(distance(there, q), reach, exam.slack):
            moved += 1
        elif not tol.within(distance(p, q), reach, exam.slack):
            return False
    return moved > 0
