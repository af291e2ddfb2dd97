"""Slips of circles and arcs: `radius-for-diameter`, `diameter-for-radius`, `wrong-fillet`,
`corner-left-sharp`, `pattern-start`, `pattern-circle`, `pattern-count`, `free-curve`."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import distance
from evenmark.core.linework import patterns
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Free
from evenmark.core.linework.relations import tangent_off
from evenmark.core.linework.sharp import crossing
from evenmark.core.linework.wording import number, place, size
from evenmark.core.marking.curves import to_path
from evenmark.core.marking.examination import Ask
from evenmark.core.marking.explain import Evidence, Hypothesis, Token
from evenmark.core.marking.model import Finding
from evenmark.core.marking.repeats import circles_of_another_count
from evenmark.core.marking.slips.common import neighbours, token, tokens


def double_or_half(e: Evidence) -> Iterator[Hypothesis]:
    """A diameter and a radius were confused: `radius-for-diameter`, `diameter-for-radius`."""
    for f in e.failing("radius"):
        if not isinstance(f.measured, float) or not isinstance(f.expected, float):
            continue
        asked, drawn = f.expected, f.measured
        if abs(drawn - 2 * asked) <= e.exact:
            code, says = (
                "radius-for-diameter",
                f"Drawn with radius {size(drawn, e.unit)}: {number(drawn)} is the diameter asked for.",
            )
        elif abs(drawn - asked / 2) <= e.exact:
            code, says = (
                "diameter-for-radius",
                f"Drawn with diameter {size(2 * drawn, e.unit)}: "
                f"{number(2 * drawn)} is the radius asked for.",
            )
        else:
            continue
        repeats = [g for g in e.following.get(f.id, ()) if g.kind == "radius"]
        sizes = {(g.expected, g.measured) for g in (f, *repeats) if len(g.features) == 1}
        if len(sizes) > 1:
            many = sum(1 for g in (f, *repeats) if len(g.features) == 1)
            asked_for, drawn_as = (
                ("diameter", "radius") if code.startswith("radius") else ("radius", "diameter")
            )
            says = f"{many} circles were drawn with the {asked_for} asked for as their {drawn_as}."
        yield Hypothesis(code=code, tokens=token(f) | neighbours(f, e) | tokens(repeats), says=says)


def fillets(e: Evidence) -> Iterator[Hypothesis]:
    """A fillet of another radius that still touches both neighbours, or none where one was asked:
    `wrong-fillet`, `corner-left-sharp`."""
    for f in e.failing("radius"):
        arc = e.exam.key.by_id[f.features[0]]
        if not isinstance(arc, ArcFeature) or arc.sweep_rad > math.pi - tol.ALIGNED_RAD:
            continue  # half a turn or more is an end of its own, and rounds no corner
        drawn = e.exam.partner(arc.id)
        if still_rounds(f, e):
            assert isinstance(f.measured, float)
            assert isinstance(f.expected, float)
            says = (
                f"The fillet {place(arc)} has radius {size(f.measured, e.unit)}; {number(f.expected)} "
                "was asked for."
            )
            yield Hypothesis(code="wrong-fillet", tokens=token(f) | neighbours(f, e), says=says, free=1)
        if drawn is None and (both := _left_sharp(arc, e)) is not None:
            says = (
                f"The corner {place(arc)} was left sharp; a fillet of radius "
                f"{size(arc.radius, e.unit)} was asked for."
            )
            yield Hypothesis(code="corner-left-sharp", tokens=_around(arc, both, e), says=says)


def chamfers(e: Evidence) -> Iterator[Hypothesis]:
    """A chamfer that was left out, its neighbours running on to where they meet: `corner-left-sharp`."""
    for f in e.failing("length"):
        edge = e.exam.key.by_id[f.features[0]]
        if not isinstance(edge, Edge) or e.exam.partner(edge.id) is not None:
            continue
        both = _left_sharp(edge, e)
        if both is not None:
            says = (
                f"The corner {place(edge)} was left sharp; a chamfer of {size(edge.length, e.unit)} along "
                "its slope was asked for."
            )
            yield Hypothesis(code="corner-left-sharp", tokens=_around(edge, both, e), says=says)


def _left_sharp(f: ArcFeature | Edge, e: Evidence) -> tuple[Edge, Edge] | None:
    """Return the edges on both sides of what was not drawn, where they run on to where they meet."""
    both = _neighbour_edges(f, e)
    straight = [d for i in both or () if isinstance(d := e.exam.partner(i.id), Edge)]
    meet = crossing(*straight) if len(straight) == 2 else None
    if both is None or meet is None:
        return None
    ends = [_drawn_end_at(edge, f, e) for edge in both]
    return both if all(p is not None and e.same(p, meet) for p in ends) else None


def still_rounds(f: Finding, e: Evidence) -> bool:
    """Say whether an arc that has another radius still touches what it should on both sides, as a fillet
    does."""
    arc, drawn = e.exam.key.by_id[f.features[0]], e.exam.partner(f.features[0])
    if not isinstance(arc, ArcFeature) or not isinstance(drawn, ArcFeature) or len(f.features) > 1:
        return False
    if arc.sweep_rad > math.pi - tol.ALIGNED_RAD or not isinstance(f.measured, float):
        return False
    beside = [e.exam.partner(i) if i is not None else None for i in _neighbours_of(arc, e)]
    return all(
        isinstance(o, Edge | ArcFeature | CircleFeature) and tangent_off(o, drawn, None, None) <= e.exact
        for o in beside
    )


def _neighbours_of(arc: ArcFeature, e: Evidence) -> list[str | None]:
    """Return what the two ends of an arc meet; None where that is nothing, or more than one thing."""
    on = {end: t.on for t in e.exam.key.tees for end in t.ends if end[0] == arc.id}
    out: list[str | None] = []
    for which in (0, 1):
        corner = e.exam.key.corner_of.get((arc.id, which))
        others = [i for i, _ in corner.ends if i != arc.id] if corner else [on.get((arc.id, which))]
        out.append(others[0] if len(others) == 1 else None)
    return out


def _neighbour_edges(arc: ArcFeature | Edge, e: Evidence) -> tuple[Edge, Edge] | None:
    found = []
    for which in (0, 1):
        corner = e.exam.key.corner_of.get((arc.id, which))
        edges = [e.exam.key.curves[i] for i, _ in corner.ends if i != arc.id] if corner else []
        if len(edges) != 1 or not isinstance(edges[0], Edge):
            return None
        found.append(edges[0])
    return found[0], found[1]


def _drawn_end_at(edge: Edge, arc: ArcFeature | Edge, e: Evidence) -> tuple[float, float] | None:
    """Return where the end of an edge that should meet an arc was drawn."""
    for which in (0, 1):
        corner = e.exam.key.corner_of.get((edge.id, which))
        if corner is not None and arc.id in {i for i, _ in corner.ends}:
            return e.exam.drawn_end(edge.id, which)
    return None


def _around(arc: ArcFeature | Edge, both: tuple[Edge, Edge], e: Evidence) -> frozenset[Token]:
    out = set(tokens(e.about(arc.id)))
    for edge in both:
        out |= {(g.id, -1) for g in e.about(edge.id) if g.kind == "length"}
    for which in (0, 1):
        corner = e.exam.key.corner_of.get((arc.id, which))
        if corner is not None:
            out |= tokens(e.about(corner.id))
    for outline in e.exam.key.outlines:
        if any(m == arc.id for m, _ in outline.members):
            out |= {(g.id, -1) for g in e.about(outline.id) if g.kind == "closed"}
    return frozenset(out)


def pattern_slips(e: Evidence) -> Iterator[Hypothesis]:
    """A pattern that is even in itself but turned, on another circle, or of another count: `pattern-start`,
    `-circle`, `-count`."""
    for a in e.asked.of("evenly-spaced"):
        members = set(a.r.features)
        open_ = [f for f in e.open if len(f.features) == 1 and f.features[0] in members]
        places = [f for f in open_ if f.kind == "position" or f.verdict == "absent"]
        if not places:
            continue
        places += [g for f in places for g in e.following.get(f.id, ()) if g.kind == "position"]
        counted = _another_count(a.data, a.r.features, e)
        if counted is not None:
            yield _of_another_count(a, places, counted, e)
        else:
            yield from _elsewhere(a, places, e)


def _of_another_count(
    a: Ask, places: list[Finding], counted: tuple[Collection[str], int], e: Evidence
) -> Hypothesis:
    spare, n = counted
    relation = [f for f in e.open if f.id == a.r.id]
    clean = {
        (f.id, k)
        for f in e.failing("clean")
        for k, item in enumerate(f.items)
        if item.charged and item.feature in spare
    }
    beside = _marks_of_spare(a.data, spare, e)
    clean |= {
        (f.id, k)
        for f in e.failing("clean")
        for k, item in enumerate(f.items)
        if item.charged and item.feature in beside
    }
    says = f"{n} holes were drawn evenly spaced; {len(set(a.r.features))} were asked for."
    return Hypothesis(code="pattern-count", tokens=tokens(places + relation) | clean, says=says)


def _marks_of_spare(asked: patterns.Pattern, spare: Collection[str], e: Evidence) -> set[str]:
    """Return the drawn centre lines that run through holes of a pattern that were not asked for."""
    centers = [c.center for c in e.exam.drawn.circles if c.id in spare]
    return {
        line.id
        for line in e.exam.drawn.edges
        if e.exam.role(line.layer) == "centre"
        and any(
            distance_to_supporting_line(p, line.start, line.end) <= e.exact
            and distance(p, line.at) <= asked.radius
            for p in centers
        )
    }


def _elsewhere(a: Ask, places: list[Finding], e: Evidence) -> Iterator[Hypothesis]:
    """Yield that a pattern begins elsewhere on its circle, or lies on another one about the same centre."""
    asked: patterns.Pattern = a.data
    drawn = [getattr(e.exam.partner(i), "center", None) for i in a.r.features]
    there = [p for p in drawn if p is not None]
    if len(there) < len(drawn) or asked.form != "circle":
        return
    laid = patterns.on_circle(there, None, asked.step_rad)
    if laid is None or laid.mismatch > e.exact or distance(laid.center, asked.center) > e.exact:
        return
    turn = math.degrees(math.remainder(laid.first_rad - asked.first_rad, abs(asked.step_rad)))
    if abs(laid.radius - asked.radius) <= e.exact:
        says = (
            f"The {len(set(a.r.features))} holes start {number(abs(turn))}° "
            f"{'counter-clockwise' if turn > 0 else 'clockwise'} of where they should; they are evenly "
            "spaced on the right circle."
        )
        yield Hypothesis(code="pattern-start", tokens=tokens(places), says=says, free=1)
    elif abs(turn) * math.radians(1) * laid.radius <= e.exact:
        known = {
            2.0: "the diameter asked for was taken as the radius",
            0.5: "the radius asked for was taken as the diameter",
        }
        why = next((w for k, w in known.items() if abs(laid.radius - k * asked.radius) <= e.exact), "")
        says = (
            f"The holes are on a pitch circle of diameter {size(2 * laid.radius, e.unit)}; "
            f"{number(2 * asked.radius)} was asked for{': ' + why if why else ''}."
        )
        yield Hypothesis(code="pattern-circle", tokens=tokens(places), says=says, free=0 if why else 1)


def _another_count(
    asked: patterns.Pattern, features: tuple[str, ...], e: Evidence
) -> tuple[set[str], int] | None:
    """Return the drawn holes that are nobody's and how many there are in all, when those drawn are evenly
    spaced as another number."""
    ring = circles_of_another_count(asked, features, e.exam)
    if not ring:
        return None
    spare = set(e.exam.pairing.spare)
    return {c.id for c in ring if c.id in spare}, len(ring)


def free_curves(e: Evidence) -> Iterator[Hypothesis]:
    """A free curve stands where an arc, circle or edge was asked for: `free-curve`."""
    import numpy as np

    spare = [f for f in e.exam.drawn.frees if f.id in set(e.exam.pairing.spare)]
    if not spare:
        return
    for f in e.failing("radius", "length"):
        asked = e.exam.key.by_id[f.features[0]]
        if f.verdict != "absent" or not isinstance(asked, ArcFeature | CircleFeature | Edge):
            continue
        n = 65
        if isinstance(asked, Edge):
            t = np.linspace(0.0, 1.0, n)[:, None]
            points = np.array(asked.start) + t * (np.array(asked.end) - np.array(asked.start))
        else:
            start, sweep = (
                (asked.start_rad, asked.sweep_rad) if isinstance(asked, ArcFeature) else (0.0, math.tau)
            )
            turn = start + sweep * np.linspace(0.0, 1.0, n)
            points = np.array(asked.center) + asked.radius * np.column_stack((np.cos(turn), np.sin(turn)))
        for curve in spare:
            off = float(to_path(points, np.array(curve.points)).max())
            if off <= max(e.exam.tolerances.near, tol.ROUGH_SHARE * asked.size):
                what = (
                    "circle"
                    if isinstance(asked, CircleFeature)
                    else "arc"
                    if isinstance(asked, ArcFeature)
                    else "straight edge"
                )
                says = (
                    f"A free curve was drawn for the {what} {place(asked)}; it comes within "
                    f"{size(off, e.unit)} of it."
                )
                yield Hypothesis(code="free-curve", tokens=_all_about(asked, curve, e), says=says)
                break


def _all_about(asked: ArcFeature | CircleFeature | Edge, curve: Free, e: Evidence) -> frozenset[Token]:
    out = set(tokens(e.about(asked.id)))
    for which in (0, 1):
        corner = e.exam.key.corner_of.get((asked.id, which))
        if corner is not None:
            out |= {(g.id, -1) for g in e.about(corner.id) if g.verdict == "absent"}
    for f in e.failing("clean"):
        out |= {(f.id, k) for k, item in enumerate(f.items) if item.charged and item.feature == curve.id}
    return frozenset(out)


ALL = (double_or_half, fillets, chamfers, pattern_slips, free_curves)
