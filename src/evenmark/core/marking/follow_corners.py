"""Follow-through at corners: what a fillet of another radius, one that was left out, or a chamfer of another
size moves is one slip."""

from __future__ import annotations

from collections.abc import Sequence

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, Corner, Edge
from evenmark.core.marking.examination import Asked, Examination, keeps_to
from evenmark.core.marking.led import OWN, PLACES, Led
from evenmark.core.marking.model import Finding


def follow_fillets(findings: list[Finding], _asked: Asked, exam: Examination) -> Led:
    """Let what an arc of another radius moves follow its radius: its own centre and sweep, its corners, and
    the lengths of edges that still lie on their supporting lines."""
    about: dict[str, list[Finding]] = {}
    for f in findings:
        if f.verdict in ("missed", "near") and len(f.features) == 1:
            about.setdefault(f.features[0], []).append(f)
    led: dict[int, int] = {}
    for f in findings:
        if f.kind == "sweep" and isinstance(f.measured, float) and f.measured < 0.0:  # on the other side
            led |= {g.id: f.id for g in about.get(f.features[0], ()) if g.kind == "position"}
        if f.kind != "radius" or f.verdict not in ("missed", "near", "follows") or f.features[0][0] != "a":
            continue
        if len(f.features) > 1:
            continue
        drawn = exam.partner(f.features[0])
        if not isinstance(drawn, ArcFeature) or tol.within(
            f.deviation or 0.0, f.tolerance or 0.0, exam.slack
        ):
            continue
        leader = f.root
        led |= {g.id: leader for g in about.get(f.features[0], ()) if g.kind in ("position", "sweep")}
        for which in (0, 1):
            corner = exam.key.corner_of.get((f.features[0], which))
            for i, _ in corner.ends if corner else ():
                edge, there = exam.key.curves[i], exam.partner(i)
                if isinstance(edge, Edge) and isinstance(there, Edge) and keeps_to(there, edge, exam):
                    led |= {g.id: leader for g in about.get(i, ()) if g.kind == "length"}
                    led |= {g.id: leader for g in about.get(corner.id, ()) if g.kind == "position"}  # type: ignore[union-attr]
    return led


def follow_sharp(findings: list[Finding], asked: Asked, exam: Examination) -> Led:
    """Let what a missing arc or chamfer makes longer follow it, where its neighbours meet without it: their
    lengths, and that they do not end where it would begin."""
    missing = {
        a.r.features[0]: a.r.id
        for a in asked.of("radius", "length")
        if len(a.r.features) == 1 and (i := a.r.features[0]) not in exam.drawn_for
        if i[0] == "a" or (i[0] == "e" and _left_sharp(i, exam))
    }
    led: Led = {}
    at = {i: leader for arc, leader in missing.items() for i in _beside(arc, exam)}
    ends = {
        k.id: leader
        for arc, leader in missing.items()
        for w in (0, 1)
        if _left_sharp(arc, exam) and (k := exam.key.corner_of.get((arc, w))) is not None
    }
    for f in findings:
        if f.kind in PLACES and f.features[0] in ends:
            led[f.id] = ends[f.features[0]]
        if f.kind != "length" or f.features[0] not in at:
            continue
        edge, drawn = exam.key.curves[f.features[0]], exam.partner(f.features[0])
        if isinstance(edge, Edge) and isinstance(drawn, Edge) and keeps_to(drawn, edge, exam):
            led[f.id] = at[edge.id]
    return led


def follow_parallels(findings: list[Finding], _asked: Asked, exam: Examination) -> Led:
    """Let what an edge moves that lies parallel to where it should follow its own length, where both its
    neighbours keep to their supporting lines: a chamfer of another size is one slip."""
    off: dict[str, list[Finding]] = {}
    for f in findings:
        if f.verdict in ("missed", "near") and f.kind in OWN and len(f.features) == 1:
            off.setdefault(f.features[0], []).append(f)
    led: Led = {}
    for i, own in off.items():
        edge = exam.key.curves.get(i)
        corners = [exam.key.corner_of.get((i, w)) for w in (0, 1)]
        if not isinstance(edge, Edge) or None in corners or own[0].id in led:
            continue
        beside = [j for k in corners if k is not None for j, _ in k.ends if j != i]
        if len(beside) != 2 or not is_slid(edge, corners, exam):
            continue
        sides = [(exam.key.curves[j], exam.partner(j)) for j in beside]
        if not all(isinstance(e, Edge) and isinstance(d, Edge) and keeps_to(d, e, exam) for e, d in sides):
            continue
        as_long = [j for j in beside if _keeps_but_one_end(j, corners, exam)]
        moved = [f for j in (*as_long, *(k.id for k in corners if k is not None)) for f in off.get(j, ())]
        led |= {f.id: own[0].id for f in (*own[1:], *moved)}
    return led


def is_slid(edge: Edge, corners: Sequence[Corner | None], exam: Examination) -> bool:
    """Say whether an edge lies elsewhere with both its ends, its corners closed, and is longer, shorter or in
    another direction for it."""
    drawn, ends = exam.partner(edge.id), exam.ends_for.get(edge.id)
    if not isinstance(drawn, Edge) or ends is None:
        return False
    reach = exam.tolerances.position
    if any(tol.within(distance(p, q), reach, exam.slack) for p, q in zip(edge.ends, ends, strict=True)):
        return False
    if keeps_to(drawn, edge, exam):
        return False
    as_long = tol.within(drawn.length - edge.length, exam.tolerances.length, exam.slack)
    if as_long and lies_parallel(edge, ends, exam):
        return False
    return all(
        (end := exam.drawn_end(j, w)) is not None
        and any(tol.within(distance(end, p), reach, exam.slack) for p in ends)
        for k in corners
        if k is not None
        for j, w in k.ends
    )


def lies_parallel(edge: Edge, ends: tuple[Point, Point], exam: Examination) -> bool:
    """Say whether drawn ends lie as far from the supporting line of an edge, on one side of it."""
    aside = [_side_of(p, edge) for p in ends]
    return tol.within(aside[0] - aside[1], exam.tolerances.position, exam.slack)


def _side_of(p: Point, edge: Edge) -> float:
    (ax, ay), (bx, by) = edge.start, edge.end
    return ((bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax)) / (edge.length or 1.0)


def _keeps_but_one_end(i: str, corners: Sequence[Corner | None], exam: Examination) -> bool:
    """Say whether an edge lies on its supporting line, and ends where it should but at those corners."""
    edge, drawn = exam.key.curves[i], exam.partner(i)
    if not isinstance(edge, Edge) or not isinstance(drawn, Edge) or not keeps_to(drawn, edge, exam):
        return False
    reach = exam.tolerances.position
    return all(
        exam.key.corner_of.get((i, w)) in corners or there(exam, i, w, p, reach)
        for w, p in enumerate(edge.ends)
    )


def _left_sharp(arc: str, exam: Examination) -> bool:
    """Say whether what a missing arc should round meets without it."""
    ends = []
    for which in (0, 1):
        corner = exam.key.corner_of.get((arc, which))
        others = [end for end in corner.ends if end[0] != arc] if corner is not None else []
        ends.append(exam.drawn_end(*others[0]) if len(others) == 1 else None)
    a, b = ends
    return a is not None and b is not None and tol.within(distance(a, b), exam.tolerances.length, exam.slack)


def _beside(arc: str, exam: Examination) -> list[str]:
    """Return the curves that meet an arc."""
    corners = (exam.key.corner_of.get((arc, w)) for w in (0, 1))
    return [i for k in corners if k is not None for i, _ in k.ends if i != arc]


def there(exam: Examination, feature: str, which: int, point: tuple[float, float], reach: float) -> bool:
    """Say whether the drawn end of a feature is at a place."""
    end = exam.drawn_end(feature, which)
    return end is not None and tol.within(distance(end, point), reach, exam.slack)
