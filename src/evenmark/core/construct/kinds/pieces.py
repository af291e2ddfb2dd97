"""Pieces made one outline, and one outline in pieces again; and what is drawn twice taken away."""

from __future__ import annotations

from itertools import product
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.joined import chained
from evenmark.core.construct.kinds.record import CHANGES, FirstWord, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.construct.things import things
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.lines import Straight, far_along, side_of
from evenmark.core.geometry.points import TAU, distance
from evenmark.core.geometry.regions import box_round


class Join(NamedTuple):
    """Pieces that hang together become one outline."""

    what: Expression


class BreakUp(NamedTuple):
    """What a step drew as one outline, in pieces."""

    of: Ref


class Tidy(NamedTuple):
    """What is drawn twice goes once."""


def _read_join(r: Reader) -> Join:
    r.first("What is joined")
    return Join(r.things())


def _read_break(r: Reader) -> BreakUp:
    r.needs("up")
    r.first("What is broken up")
    return BreakUp(r.reference(("step",)))


def _read_tidy(_r: Reader) -> Tidy:
    return Tidy()


def _join(c: Context, s: Join, made: ChangeSet) -> None:
    what = things(c, s.what)
    if any(not f.drawn or (isinstance(f.shape, Round) and f.shape.whole) for f in what):
        raise Broken("Only edges and arcs can be joined. Leave the others out.")
    if len(what) < 2:
        raise Broken("One line alone cannot be joined. Name another one.")
    if chained(what) is None:
        raise Broken("They do not meet end to end. Name others.")
    group = made.next_group()
    for f in what:
        made.change(f, f._replace(group=group))


def _break_up(c: Context, s: BreakUp, made: ChangeSet) -> None:
    step = s.of.step
    c.spend(len(c.state.places))
    own = [f for f in c.state.standing() if f.group is not None and step in (f.group[0], f.ref.step)]
    if not own:
        if not list(c.state.of_step(step)):
            raise Broken("That step drew nothing that is still there. Name another step.")
        raise Broken("That step is in parts already. Name another one.")
    for f in own:
        made.change(f, f._replace(group=None))


Cell = tuple[str, int, tuple[int, ...]]
"""A layer, how many numbers a supporting line has, and these, counted in cells."""


def _tidy(c: Context, _s: Tidy, made: ChangeSet) -> None:
    """Take away what is drawn twice on one layer: the later of two that are alike, and what lies wholly on
    another."""
    c.spend(10 * len(c.state.places))
    drawn = [f for f in c.state.standing() if f.drawn]
    reach = tol.TIDY_REACH * max((1.0 + abs(v) for f in drawn for v in box_round(f.shape)), default=1.0)
    kept: dict[Cell, list[Feature]] = {}
    for f in sorted(drawn, key=lambda f: -f.shape.length):
        cells = _cells(f, reach)
        if any(_lies_on(f.shape, g.shape, reach) for cell in cells for g in kept.get(cell, ())):
            made.change(f, None)
        else:
            kept.setdefault(cells[0], []).append(f)


def _cells(f: Feature, reach: float) -> list[Cell]:
    """Return the cell under which features on one supporting line are looked up, and its neighbours."""
    shape = f.shape
    if isinstance(shape, Round):
        values: tuple[float, ...] = (*shape.center, shape.radius)
    else:
        values = (abs(side_of((0.0, 0.0), shape)),)
    own = [round(v / (8 * reach)) for v in values]
    steps = product((0, -1, 1), repeat=len(own))
    return [(f.layer, len(own), tuple(c + s for c, s in zip(own, step, strict=True))) for step in steps]


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


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("join", _read_join, (
        SentenceKind("join", Join, _join, CHANGES, (
            Offer("change", 16, "join into one outline", "join ",
                  "line 0, 0; 40, 0|line 0, 0; 0, 30|join step 1 and step 2"),
        )),
    )),
    FirstWord("break", _read_break, (
        SentenceKind("break up", BreakUp, _break_up, CHANGES, (
            Offer("change", 17, "break up", "break up ",
                  "rectangle 0, 0; 40 by 26|break up step 1"),
        )),
    )),
    FirstWord("tidy", _read_tidy, (
        SentenceKind("tidy", Tidy, _tidy, CHANGES, (
            Offer("change", 18, "delete duplicates", "tidy",
                  "line 0, 0; 40, 0|line 10, 0; 30, 0|tidy"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``join``, ``break`` or ``tidy``."""
