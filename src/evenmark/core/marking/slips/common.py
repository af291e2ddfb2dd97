"""What slips share: tokens of what one moved end accounts for, characteristic points, crossings of
supporting lines."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

import numpy as np
from scipy.spatial import cKDTree

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.tolerance import is_round
from evenmark.core.linework.model import ArcFeature, Corner, Edge, Linework, Tee
from evenmark.core.linework.nodes import as_rows
from evenmark.core.marking.explain import Evidence, Token
from evenmark.core.marking.model import Finding

ROUND_IN = 1 / 64
"""Step on which a typed number of inches lies, and a number placed by eye hardly ever."""
ROUND_DEG = 0.5
"""Step on which a typed angle lies."""


def step_of(e: Evidence) -> float:
    """Return the step on which typed lengths lie in the unit of the key."""
    return ROUND_IN if e.unit in ("in", "ft", "mil") else tol.TYPED_STEP_MM


def typed(e: Evidence, *values: float) -> bool:
    """Say whether all of some lengths could have been typed."""
    return all(is_round(v, step_of(e), e.exact) for v in values)


def typed_angle(*degrees: float) -> bool:
    """Say whether all of some angles could have been typed."""
    return all(is_round(v, ROUND_DEG, tol.TYPED_DEG) for v in degrees)


def token(f: Finding) -> frozenset[Token]:
    """Return the one token of a finding."""
    return frozenset({(f.id, -1)})


def tokens(findings: list[Finding]) -> frozenset[Token]:
    """Return the tokens of findings."""
    return frozenset((f.id, -1) for f in findings)


def neighbours(f: Finding, e: Evidence) -> frozenset[Token]:
    """Return what an arc of another radius moves at its neighbours: their lengths, the corners between, its
    own sweep and centre.

    A neighbour counts only if it still lies on its own supporting line, so that nothing but its end has
    moved."""
    arc = e.exam.key.by_id[f.features[0]]
    if not isinstance(arc, ArcFeature):
        return frozenset()
    moved: set[Token] = {(g.id, -1) for g in e.about(arc.id) if g.kind in ("position", "sweep")}
    for which in (0, 1):
        corner = e.exam.key.corner_of.get((arc.id, which))
        if corner is None:
            continue
        moved |= {(g.id, -1) for g in e.about(corner.id) if g.kind == "position"}
        for other, _ in corner.ends:
            edge, drawn = e.exam.key.curves[other], e.exam.partner(other)
            if isinstance(edge, Edge) and isinstance(drawn, Edge) and on_supporting_line(drawn, edge, e):
                moved |= {(g.id, -1) for g in e.about(other) if g.kind == "length"}
    return frozenset(moved)


def on_supporting_line(drawn: Edge, edge: Edge, e: Evidence) -> bool:
    """Say whether a drawn edge lies on the supporting line of its key edge."""
    return max(distance_to_supporting_line(p, edge.start, edge.end) for p in drawn.ends) <= e.exact


def moved_with(joint: Corner | Tee, e: Evidence) -> set[Token]:
    """Return what ends that miss a joint account for: its place, tangency there, lengths of edges still on
    their supporting lines, the outline."""
    ids = {i for i, _ in joint.ends} | ({joint.on} if isinstance(joint, Tee) else set())
    out: set[Token] = {(g.id, -1) for g in e.about(joint.id) if g.kind == "position"}
    for i in ids:
        edge, drawn = e.exam.key.curves[i], e.exam.partner(i)
        for g in e.about(i):
            if (
                (g.kind == "tangent" and set(g.features) <= ids)
                or (
                    g.kind in ("length", "angle")
                    and isinstance(edge, Edge)
                    and isinstance(drawn, Edge)
                    and _one_end_in_place(edge, joint, e)
                )
                or (g.kind == "sweep" and isinstance(drawn, ArcFeature))
            ):
                out.add((g.id, -1))
    for outline in e.exam.key.outlines_at.get(joint.id, ()):
        out |= {(g.id, -1) for g in e.about(outline.id) if g.kind == "closed"}
    return out


def _one_end_in_place(edge: Edge, joint: Corner | Tee, e: Evidence) -> bool:
    """Say whether the end of an edge that is not at the joint lies where it should."""
    for which, point in enumerate(edge.ends):
        if (edge.id, which) not in joint.ends:
            drawn = e.exam.drawn_end(edge.id, which)
            if drawn is not None and distance(drawn, point) <= e.exact:
                return True
    return False


def not_joined(joint: Corner | Tee, e: Evidence) -> set[Token]:
    """Return that ends do not meet at a joint: an end that went elsewhere is no gap of its own."""
    return {(g.id, -1) for g in e.about(joint.id) if g.kind == "joined"}


def carried(own: Iterable[Finding], off: Point, e: Evidence) -> frozenset[Token]:
    """Return what a slip accounts for through what was carried along: where its findings follow another, or
    others follow them, all of these, if whatever they place stands off by ``off`` (either way) or not at
    all.

    Which of them is charged says only which was first in the order of the key, not what happened.
    """
    out: set[Token] = set()
    for leader in dict.fromkeys(f.root for f in own):
        head = e.by_id.get(leader)
        if head is not None and head.verdict == "absent":
            continue  # what is missing was carried nowhere
        group = [*([head] if head is not None else []), *e.following.get(leader, ())]
        if all(_stands_off(f, off, e) for f in group):
            out |= {(f.id, -1) for f in group}
    return frozenset(out)


def _stands_off(f: Finding, off: Point, e: Evidence) -> bool:
    """Say whether what a finding places stands off by a vector, either way, or not at all."""
    if f.kind != "position" or not isinstance(f.measured, tuple) or not isinstance(f.expected, tuple):
        return True
    by = (f.measured[0] - f.expected[0], f.measured[1] - f.expected[1])
    return any(distance(by, v) <= 2 * e.exact for v in (off, (-off[0], -off[1]), (0.0, 0.0)))


def step_tokens(edge: Edge, far: int, asked: Point, drawn: Point, e: Evidence) -> frozenset[Token]:
    """Return what another step toward the far end of an edge accounts for: its end there, and what was
    carried along."""
    off = (drawn[0] - asked[0], drawn[1] - asked[1])
    return far_tokens(edge, far, e) | carried(own_of_step(edge, e), off, e)


def own_of_step(edge: Edge, e: Evidence) -> list[Finding]:
    """Return the findings of an edge's own length and direction; of an edge that was run through backwards,
    which has both, those of the corners at its ends."""
    own = [f for f in e.about_all(edge.id) if f.kind in ("length", "angle")]
    if own:
        return own
    corners = (e.exam.key.corner_of.get((edge.id, w)) for w in (0, 1))
    return [f for k in corners if k is not None for f in e.about_all(k.id) if f.kind == "position"]


def far_tokens(edge: Edge, which: int, e: Evidence) -> frozenset[Token]:
    """Return what a moved end of an edge accounts for: the edge's own size and direction, its corner there,
    the edges that meet it."""
    out = {(g.id, -1) for g in e.about(edge.id) if g.kind in ("length", "angle", "whole-edge")}
    joint: Corner | Tee | None = e.exam.key.corner_of.get((edge.id, which))
    if joint is not None:
        out |= moved_with(joint, e) | not_joined(joint, e)
    for tee in e.exam.key.tees:
        if (edge.id, which) in tee.ends:
            out |= moved_with(tee, e) | not_joined(tee, e)
    return frozenset(out)


def ways(e: Evidence, *kinds: str) -> Iterator[tuple[Edge, int, Point, Point]]:
    """Yield edges with an open finding of some kinds: the edge, its far end, and the asked and drawn steps
    toward that end."""
    seen: set[str] = set()
    for edge in _edges_off(e, kinds):
        if edge.id in seen:
            continue
        seen.add(edge.id)
        drawn = e.exam.ends_for.get(edge.id)
        if drawn is None:
            continue
        for far in order_of_ends(edge, e.exam.key):
            here, there = drawn[1 - far], drawn[far]
            asked = (edge.ends[far][0] - edge.ends[1 - far][0], edge.ends[far][1] - edge.ends[1 - far][1])
            yield edge, far, asked, (there[0] - here[0], there[1] - here[1])


def _edges_off(e: Evidence, kinds: tuple[str, ...]) -> Iterator[Edge]:
    """Yield edges with findings of some kinds, then those that end at a corner out of its place."""
    for f in e.off(*kinds, "position"):
        feature = e.exam.key.by_id[f.features[0]]
        if isinstance(feature, Edge):
            yield feature
    for f in e.off("position"):
        feature = e.exam.key.by_id[f.features[0]]
        for i, _ in feature.ends if isinstance(feature, Corner) else ():
            edge = e.exam.key.curves[i]
            if isinstance(edge, Edge):
                yield edge


def order_of_ends(edge: Edge, key: Linework) -> tuple[int, int]:
    """Return the far ends of an edge, that in the direction of its outline first."""
    for corner in (key.corner_of.get((edge.id, 0)), key.corner_of.get((edge.id, 1))):
        for outline in key.outlines_at.get(corner.id, ()) if corner else ():
            for member, back in outline.members:
                if member == edge.id:
                    return (0, 1) if back else (1, 0)
    return (1, 0)


def before(edge: Edge, far: int, e: Evidence) -> Edge | None:
    """Return the edge that comes before one whose far end is given: the other one at its near corner."""
    corner = e.exam.key.corner_of.get((edge.id, 1 - far))
    for i, _ in corner.ends if corner else ():
        other = e.exam.key.curves[i]
        if i != edge.id and isinstance(other, Edge):
            return other
    return None


class Points:
    """The points of a key that can be caught by mistake, with what they are, looked up by place."""

    def __init__(self, key: Linework) -> None:
        edges, rounds = key.edges, key.rounds
        starts, ends = as_rows([k.start for k in edges]), as_rows([k.end for k in edges])
        centers = as_rows([r.center for r in rounds])
        radii = np.array([r.radius for r in rounds], np.float64)[:, None]
        groups = (
            ("corner", as_rows([k.at for k in key.corners])),
            ("junction", as_rows([t.at for t in key.tees])),
            ("middle of an edge", (starts + ends) / 2),
            ("end of an edge", starts),
            ("end of an edge", ends),
            ("centre", centers),
            *(("quarter point", centers + radii * np.array(way)) for way in _QUARTERS),
            ("middle of an arc", as_rows([a.at for a in key.arcs])),
        )
        self.names = [name for name, _ in groups]
        self.rows = np.concatenate([rows for _, rows in groups])
        self.begins = np.cumsum([len(rows) for _, rows in groups])
        self.tree = cKDTree(self.rows) if len(self.rows) else None

    def at(self, p: Point, reach: float) -> list[tuple[str, Point]]:
        """Return what lies within reach of a place."""
        found = sorted(self.tree.query_ball_point(p, reach)) if self.tree is not None else []
        names = [self.names[n] for n in np.searchsorted(self.begins, found, "right").tolist()]
        return [(name, (x, y)) for name, (x, y) in zip(names, self.rows[found].tolist(), strict=True)]


_QUARTERS = ((1, 0), (0, 1), (-1, 0), (0, -1))


def points_at(p: Point, e: Evidence) -> list[tuple[str, Point]]:
    """Return the characteristic points of the key at a place, with what they are."""
    if "points" not in e.asked.known:
        e.asked.known["points"] = Points(e.exam.key)
    return e.asked.known["points"].at(p, e.exact)  # type: ignore[no-any-return]


def edges_through(p: Point, e: Evidence) -> list[Edge]:
    """Return the edges of the key that pass a place."""
    edges = e.exam.key.edges
    if not edges:
        return []
    if "edges" not in e.asked.known:
        start, end = as_rows([k.start for k in edges]), as_rows([k.end for k in edges])
        boxes = np.column_stack((np.minimum(start, end), np.maximum(start, end)))
        e.asked.known["edges"] = boxes
    left, low, right, high = e.asked.known["edges"].T
    (x, y), spare = p, 2 * e.exact
    about = (left <= x + spare) & (right >= x - spare) & (low <= y + spare) & (high >= y - spare)
    return [k for n in np.nonzero(about)[0].tolist() if _passes(k := edges[n], p, e.exact)]


def _passes(edge: Edge, p: Point, reach: float) -> bool:
    along = along_supporting_line(p, edge.start, edge.end)
    return (
        distance_to_supporting_line(p, edge.start, edge.end) <= reach
        and -reach <= along <= edge.length + reach
    )


def direction(v: Point) -> float:
    """Return the direction of a step in degrees, [0, 360)."""
    return math.degrees(math.atan2(v[1], v[0])) % 360.0


def turned(length: float, degrees: float) -> Point:
    """Return the step of a length in a direction."""
    return (length * math.cos(math.radians(degrees)), length * math.sin(math.radians(degrees)))
