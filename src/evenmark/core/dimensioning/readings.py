"""What is taken as read, as equations between unknowns; a kind each."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable

from evenmark.core.dimensioning.implied_kinds import Implied
from evenmark.core.dimensioning.unknowns import XY, Equation, Unknowns, Values, apart_of, difference
from evenmark.core.geometry import tolerance as tol
from evenmark.core.linework.model import CircleFeature, Tee


def equations_of(u: Unknowns, t: Implied) -> list[Equation]:
    """Return the equations of one thing that is taken as read: each is 0, or stays what it is, where it
    holds."""
    return _OF[t.kind](u, t)


def _meet(u: Unknowns, t: Implied) -> list[Equation]:
    return []  # one point already


def _on(u: Unknowns, t: Implied) -> list[Equation]:
    tee = u.key.by_id[t.features[0]]
    assert isinstance(tee, Tee)
    on = tee.on
    if on not in u.radii and on not in u.lines and u.node((on, 0)) not in u.points:
        return []
    points = [u.at(e) for e in tee.ends if u.node(e) in u.points]
    out = [u.on_curve(p, on) for p in points]
    for p in points[1:]:
        out += [difference(points[0][k], p[k]) for k in (0, 1)]
    return out


def _level(u: Unknowns, t: Implied) -> list[Equation]:
    axis = 1 if t.kind == "level" else 0
    i = t.features[0]
    if i in u.lines:
        turn = u.lines[i].turn
        return [((lambda v: v[turn]), (turn,))]
    a, b = u.ends(i)
    return [difference(a[axis], b[axis])]


def _square(u: Unknowns, t: Implied) -> list[Equation]:
    a, b = t.features
    if b in u.radii:
        return [u.point_from_line(u.points[b], a)]
    return [_turned_apart(u, a, b)]


def _turned_apart(u: Unknowns, a: str, b: str) -> Equation:
    (one, by), (other, by_other) = u.turn_of(a), u.turn_of(b)
    return (lambda v: other(v) - one(v)), (*by, *by_other)


def _parallel(u: Unknowns, t: Implied) -> list[Equation]:
    return [_turned_apart(u, *t.features)]


def _in_line(u: Unknowns, t: Implied) -> list[Equation]:
    a, b = t.features
    return [u.point_from_line(p, a) for p in u.ends(b)]


def _smooth(u: Unknowns, t: Implied) -> list[Equation]:
    """Return that two pieces touch: at a joint, that its radius is square to the edge there, or that it lies
    in line with both centres; elsewhere, that the centre is a radius away.

    At a joint the second form would say nothing about where they touch: to first order, the joint may slide.
    """
    a, b = t.features
    c, r = u.points[b], u.radii[b]
    p = _touch(u, a, b)
    if a not in u.radii:
        if p is None:
            value, by = u.point_from_line(c, a)
            side = math.copysign(1.0, value(u.values))
            return [((lambda v: side * value(v) - v[r]), (*by, r))]
        s, e = u.ends(a)

        def off_square(v: Values) -> float:
            dx, dy = v[e[0]] - v[s[0]], v[e[1]] - v[s[1]]
            return ((v[p[0]] - v[c[0]]) * dx + (v[p[1]] - v[c[1]]) * dy) / math.hypot(dx, dy)

        return [(off_square, (*p, *c, *s, *e))]
    d, q = u.points[a], u.radii[a]
    if p is not None:

        def off_line(v: Values) -> float:
            ax, ay, bx, by = v[p[0]] - v[c[0]], v[p[1]] - v[c[1]], v[p[0]] - v[d[0]], v[p[1]] - v[d[1]]
            return (ax * by - ay * bx) / math.hypot(ax, ay)

        return [(off_line, (*p, *c, *d))]
    apart = math.hypot(u.values[c[0]] - u.values[d[0]], u.values[c[1]] - u.values[d[1]])
    ra, rb = u.values[q], u.values[r]
    outside = abs(apart - ra - rb) <= abs(apart - abs(ra - rb))
    way = 1.0 if outside else -1.0
    sign = 1.0 if outside or rb >= ra else -1.0  # inside: the larger less the smaller
    far = apart_of(c, d)
    return [((lambda v: far(v) - sign * (v[r] + way * v[q])), (*c, *d, r, q))]


def _touch(u: Unknowns, a: str, b: str) -> XY | None:
    """Return the point at which two pieces are joined: an end of both, or an end of one on the other."""
    ends = {
        i: [] if isinstance(u.key.curves[i], CircleFeature) else [u.node((i, w)) for w in (0, 1)]
        for i in (a, b)
    }
    for name in ends[a]:
        if name in ends[b]:
            return u.points[name]
    for tee in u.key.tees:
        for i, _ in tee.ends:
            if {i, tee.on} == {a, b}:
                return u.at(next(e for e in tee.ends if e[0] == i))
    return None


def _one_centre(u: Unknowns, t: Implied) -> list[Equation]:
    a, b = (u.points[i] for i in t.features)
    return [difference(a[k], b[k]) for k in (0, 1)]


def _on_axis(u: Unknowns, t: Implied) -> list[Equation]:
    axis, c = t.features
    return [u.point_from_line(u.points[c], axis)]


def _alike(u: Unknowns, t: Implied) -> list[Equation]:
    axis, a, b = t.features
    if a in u.radii:
        pairs = [(u.points[a], u.points[b])]
        out = [difference(u.radii[a], u.radii[b])] if a != b else []
    elif a in u.key.curves:
        ends, others = u.ends(a), u.ends(b)
        turn = u.values[u.lines[axis].turn]
        nx, ny = -math.sin(turn), math.cos(turn)

        def along(p: XY) -> float:
            return u.values[p[0]] * ny - u.values[p[1]] * nx

        if abs(along(ends[0]) - along(others[0])) > abs(along(ends[0]) - along(others[1])):
            others = (others[1], others[0])
        pairs, out = list(zip(ends, others, strict=True)), []
    else:
        pairs, out = [(u.of_joint(a), u.of_joint(b))], []
    for p, q in pairs:
        out += _mirrored(u, axis, p, q)
    return out


def _mirrored(u: Unknowns, axis: str, p: XY, q: XY) -> list[Equation]:
    """Return that two points are each other's images: the same way along the axis, as far on both sides."""
    if p == q:
        return [u.point_from_line(p, axis)]
    line = u.lines[axis]
    by = (*p, *q, line.turn, line.off)

    def along(v: Values) -> float:
        cos, sin = math.cos(v[line.turn]), math.sin(v[line.turn])
        return (v[q[0]] - v[p[0]]) * cos + (v[q[1]] - v[p[1]]) * sin

    def across(v: Values) -> float:
        cos, sin = math.cos(v[line.turn]), math.sin(v[line.turn])
        return (v[p[1]] + v[q[1]]) / 2 * cos - (v[p[0]] + v[q[0]]) / 2 * sin - v[line.off]

    return [(along, by), (across, by)]


def _even(u: Unknowns, t: Implied) -> list[Equation]:
    """Return that holes lie on their pitch circle, each as far round as the step says from the one before."""
    ring, *holes = t.features
    out = [u.on_circle(u.points[h], ring) for h in holes]
    c = u.points[ring]

    def turn(v: Values, h: XY) -> float:
        return math.atan2(v[h[1]] - v[c[1]], v[h[0]] - v[c[0]])

    rows = [u.points[h] for h in holes]
    steps = [
        math.remainder(turn(u.values, q) - turn(u.values, p), math.tau) for p, q in itertools.pairwise(rows)
    ]
    full = abs(abs(steps[0]) * len(holes) - math.tau) <= tol.FULL_TURN_RAD
    for n in range(1, len(rows)):
        p, q = rows[n - 1], rows[n]
        if full:

            def off(v: Values, p: XY = p, q: XY = q, step: float = steps[n - 1]) -> float:
                return math.remainder(turn(v, q) - turn(v, p) - step, math.tau)

            out.append((off, (*p, *q, *c)))
        elif n > 1:  # the step itself is a size; the steps are equal
            o = rows[n - 2]

            def bend(v: Values, o: XY = o, p: XY = p, q: XY = q) -> float:
                return math.remainder(turn(v, q) - 2 * turn(v, p) + turn(v, o), math.tau)

            out.append((bend, (*o, *p, *q, *c)))
    return out


def _views(u: Unknowns, t: Implied) -> list[Equation]:
    """Return that two views share a level: widths and heights directly, depths from the side toward the
    front."""
    a, b, *base = t.features
    (i, j), sign = t.axes, t.sign
    q = u.of_joint(b)
    if a in u.radii:
        at, r = u.points[a][i], u.radii[a]
        here: tuple[int, ...] = (at, r)
    else:
        at, r = u.of_joint(a)[i], -1
        here = (at,)
    p0, q0 = (u.of_joint(k) for k in base) if base else ((-1, -1), (-1, -1))

    def off(v: Values, way: float) -> float:
        level = v[at] + (way * v[r] if r >= 0 else 0.0)
        if not base:
            return level - v[q[j]]
        return sign * (level - v[p0[i]]) - (v[q[j]] - v[q0[j]])

    # of something round, the side that is level with it
    side = min((1.0, -1.0), key=lambda way: abs(off(u.values, way)))
    return [((lambda v: off(v, side)), (*here, q[j], *((p0[i], q0[j]) if base else ())))]


def _in_a_row(u: Unknowns, t: Implied) -> list[Equation]:
    axis = 1 if t.kind == "level-with" else 0
    a, b = (u.points[i] for i in t.features)
    return [difference(a[axis], b[axis])]


def _even_row(u: Unknowns, t: Implied) -> list[Equation]:
    """Return that circles in a row are each as far from the next."""
    out: list[Equation] = []
    for a, b, c in zip(t.features, t.features[1:], t.features[2:], strict=False):
        for k in (0, 1):
            out.append(_second_difference(*(u.points[i][k] for i in (a, b, c))))
    return out


def _second_difference(i: int, j: int, k: int) -> Equation:
    return (lambda v: v[k] - 2 * v[j] + v[i]), (i, j, k)


_OF: dict[str, Callable[[Unknowns, Implied], list[Equation]]] = {
    "meet": _meet,
    "on": _on,
    "level": _level,
    "plumb": _level,
    "square": _square,
    "parallel": _parallel,
    "in-line": _in_line,
    "smooth": _smooth,
    "one-centre": _one_centre,
    "on-axis": _on_axis,
    "alike": _alike,
    "even": _even,
    "views": _views,
    "level-with": _in_a_row,
    "plumb-with": _in_a_row,
    "even-row": _even_row,
    "mirrored": _alike,
    "projected": _views,
}
