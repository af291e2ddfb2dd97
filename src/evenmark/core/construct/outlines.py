"""Steps that make one outline of pieces, or pieces of one; and that take away what is drawn twice.

A feature keeps its name and shape: what is joined is only written and moved as one.
"""

from __future__ import annotations

from itertools import product
from typing import Any

from evenmark.core.construct.making import Build, Making
from evenmark.core.construct.points import Context
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.construct.things import things
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.lines import Straight, far_along, side_of
from evenmark.core.geometry.points import TAU, Point, distance
from evenmark.core.geometry.regions import box_round


def chained(pieces: list[Feature]) -> list[Feature] | None:
    """Return pieces in the order in which one begins where the one before ended; None where they do not hang
    together in one chain."""
    if not pieces:
        return None
    ends = [(f.shape.start, f.shape.end) for f in pieces]
    reach = tol.WELD_SHARE * (1.0 + max(max(map(abs, a + b)) for a, b in ends))
    cells: dict[tuple[int, int], list[tuple[int, Point]]] = {}
    for n, both in enumerate(ends):
        for p in both:
            cells.setdefault(_cell(p, reach), []).append((n, p))

    def others(n: int, p: Point) -> list[int]:
        """Return the other pieces that have an end where a piece has one."""
        keys = {_cell((p[0] + i * reach, p[1] + j * reach), reach) for i in (-1, 1) for j in (-1, 1)}
        return [m for key in keys for m, q in cells.get(key, ()) if m != n and distance(p, q) <= reach]

    begin, leaves = 0, ends[0][1]
    for n, (a, b) in enumerate(ends):
        free = [p for p, other in ((a, b), (b, a)) if not others(n, p)]
        if len(pieces) > 1 and len(free) == 2:
            return None
        if free:  # an end of the chain
            begin, leaves = n, b if free[0] is a else a
            break
    order, seen = [begin], {begin}
    while len(order) < len(pieces):
        following = [m for m in others(order[-1], leaves) if m not in seen]
        if len(following) != 1:
            if not (len(order) == 1 and len(following) == 2 and begin == 0):
                return None
            following = following[:1]  # a closed chain goes on either way
        (n,) = following
        a, b = ends[n]
        leaves = b if distance(a, leaves) <= distance(b, leaves) else a
        order.append(n)
        seen.add(n)
    return [pieces[n] for n in order]


def _cell(p: Point, reach: float) -> tuple[int, int]:
    return (round(p[0] / (8.0 * reach)), round(p[1] / (8.0 * reach)))


def _join(c: Context, s: dict[str, Any], made: Making) -> None:
    what = things(c, s["what"])
    if any(not f.drawn or (isinstance(f.shape, Round) and f.shape.whole) for f in what):
        raise Broken("Edges and arcs can be joined; circles, guides, sizes and lettering cannot.")
    if len(what) < 2:
        raise Broken("One piece alone cannot be joined.")
    if chained(what) is None:
        raise Broken("They do not meet end to end in one chain.")
    group = made.next_group()
    for f in what:
        made.change(f, f._replace(group=group))


def _break_up(c: Context, s: dict[str, Any], made: Making) -> None:
    step = s["of"].step
    c.spend(len(c.state.places))
    own = [f for f in c.state.standing() if f.group is not None and step in (f.group[0], f.ref.step)]
    if not own:
        if not list(c.state.of_step(step)):
            raise Broken("The step has drawn nothing that still stands.")
        raise Broken("What the step drew is in pieces already.")
    for f in own:
        made.change(f, f._replace(group=None))


# what is drawn twice


def _tidy(c: Context, _s: dict[str, Any], made: Making) -> None:
    """Take away what is drawn twice on one layer: the later of two that are alike, and what lies wholly on
    another."""
    c.spend(10 * len(c.state.places))
    drawn = [f for f in c.state.standing() if f.drawn]
    reach = tol.TIDY_REACH * max((1.0 + abs(v) for f in drawn for v in box_round(f.shape)), default=1.0)
    kept: dict[tuple[Any, ...], list[Feature]] = {}
    for f in sorted(drawn, key=lambda f: -f.shape.length):
        keys = _keys(f, reach)
        if any(_lies_on(f.shape, g.shape, reach) for key in keys for g in kept.get(key, ())):
            made.change(f, None)
        else:
            kept.setdefault(keys[0], []).append(f)


def _keys(f: Feature, reach: float) -> list[tuple[Any, ...]]:
    """Return the key under which features on one carrier are looked up, and its neighbours."""
    shape = f.shape
    if isinstance(shape, Round):
        values: tuple[float, ...] = (*shape.center, shape.radius)
    else:
        values = (abs(side_of((0.0, 0.0), shape)),)
    cells = [round(v / (8 * reach)) for v in values]
    steps = list(product((0, -1, 1), repeat=len(cells)))
    return [(f.layer, len(cells), *(c + s for c, s in zip(cells, step, strict=True))) for step in steps]


def _lies_on(a: Curve, b: Curve, reach: float) -> bool:
    """Say whether all of a curve lies on another one that is at least as long."""
    if isinstance(a, Straight) and isinstance(b, Straight):
        return all(abs(side_of(p, b)) <= reach and -reach <= far_along(p, b) <= b.length + reach for p in a)
    if not (isinstance(a, Round) and isinstance(b, Round)):
        return False
    if distance(a.center, b.center) > reach or abs(a.radius - b.radius) > reach:
        return False
    spare = reach / b.radius
    off = (a.start_rad - b.start_rad + spare) % TAU
    return b.whole or off + a.sweep_rad <= b.sweep_rad + 2 * spare


KINDS: dict[str, Build] = {"join": _join, "break up": _break_up, "tidy": _tidy}
"""How each kind of step is built."""
