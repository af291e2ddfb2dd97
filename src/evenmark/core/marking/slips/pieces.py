"""Slips of pieces: an arc on the other side of its ends, what was turned or mirrored as one, and an end that
was drawn to something else.

`wrong-side`, `turned`, `mirrored`, `shifted`, `caught-wrong-point`.
"""

from __future__ import annotations

from collections.abc import Iterator

from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import ArcFeature, Corner, Edge, Tee, View
from evenmark.core.linework.wording import noun, number, off_its_place, place, view_name
from evenmark.core.marking.explain import Evidence, Hypothesis
from evenmark.core.marking.follow_rigid import pieces_off, turn_of, with_joints
from evenmark.core.marking.kinds.sizes import bulges_otherwise
from evenmark.core.marking.model import Finding
from evenmark.core.marking.slips.common import edges_through, far_tokens, points_at, tokens


def other_bulge(e: Evidence) -> Iterator[Hypothesis]:
    """An arc lies on the other side of its ends: `wrong-side`."""
    seen: set[str] = set()
    for f in e.off("sweep", "position"):
        i = f.features[0]
        arc = e.exam.key.by_id[i]
        if i in seen or not isinstance(arc, ArcFeature) or not bulges_otherwise(arc, e.exam):
            continue
        seen.add(i)
        p, q = e.exam.ends_for[i]
        a, b = arc.ends
        if not (e.same(p, a) and e.same(q, b)) and not (e.same(p, b) and e.same(q, a)):
            continue
        own = [g for g in e.about_all(i) if g.kind in ("sweep", "position", "radius")]
        also = frozenset((g.id, -1) for g in e.about(i) if g.kind in ("tangent", "concentric"))
        says = f"The arc {place(arc)} bulges to the other side of its ends."
        yield Hypothesis(code="wrong-side", tokens=tokens(own) | also, says=says)


def turned_piece(e: Evidence) -> Iterator[Hypothesis]:
    """A piece that hangs together was turned or mirrored as one: `turned`, `mirrored`."""
    off = {i for f in e.off("position", "angle", "free-ends") for i in f.features}
    if not off:
        return
    for piece in pieces_off(e.exam, off):
        how = turn_of(piece, e.exam)
        if how is None:
            continue
        inside = with_joints(piece, e.exam)
        found = [f for f in e.all_off if f.features and inside.issuperset(f.features)]
        view = next((v for v in e.exam.rules.views or () if _holds(v, piece, e)), None)
        first = e.exam.key.by_id[piece[0]]
        what = f"Everything connected to the {noun(first)} {place(first)}"
        what = f"The {view_name(view.name)}" if view else what
        if how.mirrored:
            code, says = "mirrored", f"{what} is mirrored as a whole."
        else:
            way = "counter-clockwise" if how.turn_deg > 0 else "clockwise"
            code, says = "turned", f"{what} is turned by {number(abs(how.turn_deg))}° {way} as a whole."
            if _looks_exchanged(piece, how.turn_deg, e):
                half = f"{what} is turned by 180° as a whole"
                says = f"{half}, or its two radii were swapped: both would look like this."
        yield Hypothesis(code=code, tokens=tokens(found), says=says, free=1)


def _looks_exchanged(piece: tuple[str, ...], turn_deg: float, e: Evidence) -> bool:
    """Say whether a piece that is turned by half a turn has two round ends of different radii, each where the
    other should be."""
    rounds = [(c, e.exam.partner(i)) for i in piece if isinstance(c := e.exam.key.curves[i], ArcFeature)]
    if abs(abs(turn_deg) - 180.0) > e.exam.tolerances.angle_deg or len(rounds) != 2:
        return False
    (a, p), (b, q) = rounds
    if not isinstance(p, ArcFeature) or not isinstance(q, ArcFeature):
        return False
    there = e.same(p.center, b.center) and e.same(q.center, a.center)
    return there and abs(a.radius - b.radius) > e.exact


def moved_together(e: Evidence) -> Iterator[Hypothesis]:
    """Things stand off by the same vector: they were moved as one: `shifted`."""
    for f in e.failing("position"):
        if not isinstance(f.measured, tuple) or not isinstance(f.expected, tuple):
            continue
        with_it = [g for g in e.following.get(f.id, ()) if g.kind in ("position", "axis", "free-ends")]
        things = {i for g in with_it for i in g.features if i in e.exam.key.curves} - set(f.features)
        across, up = f.measured[0] - f.expected[0], f.measured[1] - f.expected[1]
        off = (f.measured[0] - f.expected[0], f.measured[1] - f.expected[1])
        if not things or not all(_stands_off(g, off, e) for g in with_it):
            continue
        feature = e.exam.key.by_id[f.features[0]]
        more = f"{len(things)} more {'object' if len(things) == 1 else 'objects'}"
        says = (
            f"The {noun(feature, e.centre)} {place(feature)} and {more} were moved together: they are "
            f"{off_its_place(across, up, e.unit, e.exact, of='their place')}."
        )
        yield Hypothesis(code="shifted", tokens=tokens([f, *with_it]), says=says, free=2)


def _stands_off(f: Finding, off: Point, e: Evidence) -> bool:
    if not isinstance(f.measured, tuple) or not isinstance(f.expected, tuple):
        return True
    return e.same((f.measured[0] - f.expected[0], f.measured[1] - f.expected[1]), off)


def ran_on(e: Evidence) -> Iterator[Hypothesis]:
    """An end was drawn to another piece, or to another point, than it was asked to: `caught-wrong-point`."""
    seen: set[tuple[str, int]] = set()
    for f in e.off("length", "angle", "joined", "free-ends"):
        for edge, which in _ends_of(f, e):
            there = e.exam.ends_for.get(edge.id)
            if there is None or (edge.id, which) in seen:
                continue
            seen.add((edge.id, which))
            p, far = there[which], there[1 - which]
            if e.same(p, edge.ends[which]) or not e.same(far, edge.ends[1 - which]):
                continue
            on = _caught(p, edge, which, e)
            if on is None:
                continue
            own = [g for g in e.about_all(edge.id) if g.kind in ("length", "angle", "free-ends")]
            says = f"The edge {place(edge)} was drawn to the {on} instead of where it should end."
            explains = (
                far_tokens(edge, which, e)
                | tokens(own)
                | (tokens([f]) if f.kind == "joined" else frozenset())
            )
            yield Hypothesis(code="caught-wrong-point", tokens=explains, says=says, free=1)


def _ends_of(f: Finding, e: Evidence) -> list[tuple[Edge, int]]:
    feature = e.exam.key.by_id[f.features[0]]
    if isinstance(feature, Edge):
        return [(feature, 0), (feature, 1)]
    if not isinstance(feature, Corner | Tee):
        return []
    ends = [(e.exam.key.curves[i], w) for i, w in feature.ends]
    return [(edge, w) for edge, w in ends if isinstance(edge, Edge)]


def _caught(p: Point, edge: Edge, which: int, e: Evidence) -> str | None:
    """Return what an end lies on that is not its own: a characteristic point of the key, or another piece
    that its supporting line runs to."""
    for what, q in points_at(p, e):
        if not any(e.same(q, r) for r in (*edge.ends, edge.at)):
            return f"{what} at {number(q[0], 2)}, {number(q[1], 2)}"
    if distance_to_supporting_line(p, edge.start, edge.end) > e.exact:
        return None
    joint = e.exam.key.corner_of.get((edge.id, which))
    own = {edge.id} | ({i for i, _ in joint.ends} if joint is not None else set())
    other = next((o for o in edges_through(p, e) if o.id not in own), None)
    return f"edge {place(other)}" if other is not None else None


def _holds(view: View, piece: tuple[str, ...], e: Evidence) -> bool:
    left, low, right, high = view.box
    places = (e.exam.key.curves[i].at for i in piece)
    return all(left <= x <= right and low <= y <= high for x, y in places)


ALL = (other_bulge, turned_piece, moved_together, ran_on)
