"""Parallels: of one feature, at gaps or through a point, and of a whole outline."""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import unit_between
from evenmark.core.construct.joined import Outline, outline_of, outline_round
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import CURVES, choice, more, slot
from evenmark.core.construct.state import XY, Broken, Feature, plain
from evenmark.core.construct.things import ends_of
from evenmark.core.geometry import nearest, offsets
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.lines import Straight, far_along
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.offsets import Member
from evenmark.core.geometry.points import distance
from evenmark.core.geometry.regions import area_of

MOST_COPIES = 1_000
MOST_PIECES = 400
"""Of an outline with a parallel: each piece may have to be held against each other."""
_SIDES = ("left", "right", "inside", "outside")
_OUTLINE_SIDES = ("inside", "outside", "left", "right")
_OUTLINE = ("step", "edge", "arc", "circle")


class Parallel(NamedTuple):
    """Parallels of a feature, each a gap farther to one side."""

    of: Ref
    gap: Typed
    side: str
    times: Typed | None


class ParallelThrough(NamedTuple):
    """The parallel of a feature through a point."""

    of: Ref
    through: Expression


class ParallelOutline(NamedTuple):
    """The parallel of a whole outline, said by a step or by one of its pieces; its corners sharp or
    rounded."""

    of: Ref
    gap: Typed
    side: str
    rounded: bool


def _read(r: Reader) -> Meaning:
    if r.takes("outline"):
        r.first("Of which outline")
        of = r.reference(_OUTLINE)
        slot(r, "The gap", "gap")
        gap = r.number()
        r.another("Which side")
        side = r.one_of(_OUTLINE_SIDES, "which side")
        return ParallelOutline(of, gap, side, choice(r, ("rounded",)) is not None)
    r.first("Parallel to what")
    f = r.feature(CURVES)
    r.another("The gap, or a point that it goes through")
    if r.takes("through"):
        return ParallelThrough(f, r.point())
    r.needs("gap")
    gap = r.number()
    r.another("Which side")
    side = r.one_of(_SIDES, "which side")
    return Parallel(f, gap, side, r.number() if more(r, "times") else None)


def _parallel(c: Context, s: Parallel, made: ChangeSet) -> None:
    f, gap = c.feature(s.of), c.length(s.gap, "gap")
    times = c.count(s.times, "parallels", 1, MOST_COPIES) if s.times is not None else 1
    if isinstance(f.shape, Straight) and s.side not in ("left", "right"):
        raise Broken("An edge has two sides. Say left or right, seen along it.")
    for k in range(1, times + 1):
        found = offsets.beside(f.shape, float(gap * k), s.side)
        if found is None:
            raise Broken(f"The radius is {c.round(s.of).radius:g}. Type a smaller gap.")
        made.add(found, _exact(f.exact, f.shape, gap * k, s.side))


def _exact(exact: tuple[XY, ...], shape: Curve, gap: Number, side: str) -> tuple[XY, ...]:
    """Return the ends of a parallel as exactly as they are known: along the axes, as those of its edge."""
    if isinstance(shape, Round):
        return exact
    if len(exact) != 2:
        return ()
    ux, uy = unit_between(*exact)
    off = gap if side == "left" else -gap
    return tuple((x - uy * off, y + ux * off) for x, y in exact)


def _through(c: Context, s: ParallelThrough, made: ChangeSet) -> None:
    f = c.feature(s.of)
    at = c.point(s.through)  # once: a way goes on from the last point
    p = plain(at)
    if isinstance(f.shape, Round):
        radius = distance(f.shape.center, p)
        if radius <= 0.0:
            raise Broken("The point is the centre. Choose another one.")
        made.add(f.shape._replace(radius=radius), f.exact)
        return
    if nearest.on_supporting_line(f.shape, p) == p:
        raise Broken("The point is on the line itself. Choose another one.")
    a, b = ends_of(f)
    if a[1] == b[1]:
        ends: tuple[XY, XY] = ((a[0], at[1]), (b[0], at[1]))
    elif a[0] == b[0]:
        ends = ((at[0], a[1]), (at[0], b[1]))
    else:
        (fx, fy), along = nearest.on_supporting_line(f.shape, p), f.shape.unit
        dx, dy = p[0] - fx, p[1] - fy
        off = along[0] * dy - along[1] * dx
        found = offsets.beside(f.shape, abs(off), "left" if off > 0.0 else "right")
        assert isinstance(found, Straight)
        start = far_along(p, found)
        ux, uy = found.unit
        # through the very point, wherever the ends come to lie
        ends = (
            (p[0] - ux * start, p[1] - uy * start),
            (p[0] + ux * (found.length - start), p[1] + uy * (found.length - start)),
        )
    made.edge(*ends)


def _outline(c: Context, s: ParallelOutline, made: ChangeSet) -> None:
    gap = c.length(s.gap, "gap")
    found = _pieces(c, s.of)
    if len(found.members) > MOST_PIECES:
        raise Broken(
            f"The outline has more than {MOST_PIECES} lines and arcs. Make parallels of parts of it."
        )
    side = s.side
    if found.closed and side in ("inside", "outside"):
        counter = area_of(found.members) > 0.0
        side = "left" if counter == (side == "inside") else "right"
    elif side in ("inside", "outside"):
        raise Broken("The outline is open. Say left or right, seen along it.")
    made.group = made.next_group()
    one = found.members[0][0]
    if len(found.members) == 1 and isinstance(one, Round) and one.whole:
        members: list[Member] | None = [
            (shape, False) for shape in (offsets.beside(one, float(gap), side),) if shape is not None
        ]
    else:
        members = offsets.beside_chain(
            found.members, float(gap), side, closed=found.closed, rounded=s.rounded
        )
    if not members or offsets.crosses_itself(members, closed=found.closed):
        raise Broken("The gap is too large for this outline. Type less.")
    for shape, back in members:
        if back and isinstance(shape, Straight):
            made.add(Straight(shape.end, shape.start))
        else:
            made.add(shape, begins=shape.end if back else shape.start)
    features = [change.after for change in made.changes if change.after is not None]
    made.corners = [(f.ref, 0) for f in features]
    if not found.closed:
        made.corners.append((features[-1].ref, 1))


def _pieces(c: Context, ref: Ref) -> Outline:
    """Return an outline in its order, the way its first piece runs. Raises Broken."""
    c.spend(len(c.state.places))
    found: Outline | None
    if ref.kind == "step":
        own = list(c.state.of_step(ref.step))
        joined = [f for f in c.state.standing() if f.group and f.group[0] == ref.step]
        found = outline_of([f for f in own or joined if f.drawn])
    else:
        f = c.drawn(ref)
        standing: list[Feature] = [g for g in c.state.standing() if g.drawn]
        group = [g for g in standing if f.group is not None and g.group == f.group]
        found = outline_of(group) if len(group) > 1 else outline_round(f, standing)
    if found is None:
        raise Broken("They do not form one outline. Name others.")
    return found


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("parallel", _read, (
        SentenceKind("parallel", Parallel, _parallel, DRAWS, (
            Offer("draw", 16, "parallel", "parallel ",
                  "line 0, 0; 40, 10|parallel edge 1; gap 10; left"),
        )),
        SentenceKind("parallel through", ParallelThrough, _through, DRAWS, ()),
        SentenceKind("parallel outline", ParallelOutline, _outline, DRAWS, (
            Offer("draw", 17, "parallel of an outline", "parallel outline ",
                  "chain 0, 0; right 30; up 14; left 14; up 12; left 16; close|"
                  "parallel outline step 1; gap 5; outside; rounded"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``parallel``."""
