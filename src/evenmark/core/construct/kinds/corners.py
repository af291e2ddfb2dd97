"""Corners: rounded by fillets, cut off by chamfers."""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import CHANGES, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Ref
from evenmark.core.construct.slots import CURVES, STRAIGHT, slot
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.construct.things import reshape
from evenmark.core.geometry import trims
from evenmark.core.geometry.arcs import Curve
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.numbers import Typed


class Fillet(NamedTuple):
    """The corner of two features, rounded."""

    first: Ref
    second: Ref
    radius: Typed


class FilletCorners(NamedTuple):
    """All corners of what a step drew, rounded."""

    of: Ref
    radius: Typed


class Chamfer(NamedTuple):
    """The corner of two edges, cut off so far along each."""

    first: Ref
    second: Ref
    along_first: Typed
    along_second: Typed


def _read_fillet(r: Reader) -> Meaning:
    if r.takes("corners", "of"):
        step = r.reference(("step",))
        slot(r, "The radius", "radius")
        return FilletCorners(step, r.number())
    r.first("The first side")
    f = r.feature(CURVES)
    r.another("The second feature")
    g = r.feature(CURVES)
    slot(r, "The radius", "radius")
    return Fillet(f, g, r.number())


def _read_chamfer(r: Reader) -> Chamfer:
    r.first("The first side")
    f = r.feature(STRAIGHT)
    r.another("The second edge")
    g = r.feature(STRAIGHT)
    r.another("How far along each")
    first = r.number()
    return Chamfer(f, g, first, r.number() if r.takes("and") else first)


def _join_corner(f: Feature, g: Feature, corner: trims.JoinedCorner, made: ChangeSet) -> None:
    reshape(made, f, corner.first)
    reshape(made, g, corner.second)
    if corner.between is not None:
        made.group = f.group if f.group == g.group else None
        made.add(corner.between, layer=f.layer, line=f.line)


def _fillet(c: Context, s: Fillet, made: ChangeSet) -> None:
    f, g, radius = c.feature(s.first), c.feature(s.second), c.number(s.radius)
    if radius < 0:
        raise Broken("A radius cannot be negative. Type 0 or more.")
    if f.ref == g.ref:
        raise Broken("A corner has two sides. Say another one.")
    corner = trims.fillet(f.shape, g.shape, float(radius))
    if corner is None:
        raise Broken(f"No arc of radius {float(radius):g} fits between them. Change the radius.")
    _join_corner(f, g, corner, made)


def _fillet_corners(c: Context, s: FilletCorners, made: ChangeSet) -> None:
    """Round every corner of what a step drew, in its order: the arcs are those of this step, from the corner
    after the first edge on."""
    radius = float(c.length(s.radius, "radius"))
    edges = [f for f in c.state.of_step(s.of.step) if isinstance(f.shape, Straight) and not f.endless]
    shapes: dict[Ref, Straight] = {f.ref: f.shape for f in edges if isinstance(f.shape, Straight)}
    joined = [(f, g) for f, g in zip(edges, [*edges[1:], edges[0]] if edges else [], strict=True)]
    arcs: list[tuple[Feature, Curve]] = []
    for f, g in joined:
        a, b = shapes[f.ref], shapes[g.ref]
        if f.ref == g.ref or not ({f.shape.start, f.shape.end} & {g.shape.start, g.shape.end}):
            continue
        corner = trims.fillet(a, b, radius)
        if corner is None or corner.between is None or not _within(corner, a, b):
            raise Broken(f"A radius of {radius:g} is too large for one of its corners. Type less.")
        assert isinstance(corner.first, Straight)
        assert isinstance(corner.second, Straight)
        shapes[f.ref], shapes[g.ref] = corner.first, corner.second
        arcs.append((f, corner.between))
    if not arcs:
        raise Broken("That step has no corners between edges. Name another step.")
    for f in edges:
        if shapes[f.ref] != f.shape:
            reshape(made, f, shapes[f.ref])
    for f, arc in arcs:
        made.group = f.group
        made.add(arc, layer=f.layer, line=f.line)


def _within(corner: trims.JoinedCorner, a: Straight, b: Straight) -> bool:
    return corner.first.length <= a.length and corner.second.length <= b.length


def _chamfer(c: Context, s: Chamfer, made: ChangeSet) -> None:
    f, g = c.feature(s.first), c.feature(s.second)
    first, second = (float(c.length(along, "bevel")) for along in (s.along_first, s.along_second))
    corner = trims.chamfer(c.straight(s.first), c.straight(s.second), first, second)
    if corner is None:
        raise Broken("The edges are parallel, or too short for this chamfer. Type less.")
    _join_corner(f, g, corner, made)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("fillet", _read_fillet, (
        SentenceKind("fillet", Fillet, _fillet, CHANGES, (
            Offer("change", 3, "fillet", "fillet ",
                  "line 0, 0; 40, 0|line 0, 0; 0, 30|fillet edge 1; edge 2; radius 12"),
        )),
        SentenceKind("fillet corners", FilletCorners, _fillet_corners, CHANGES, (
            Offer("change", 4, "fillet all corners", "fillet corners of ",
                  "rectangle 0, 0; 40 by 26|fillet corners of step 1; radius 8"),
        )),
    )),
    FirstWord("chamfer", _read_chamfer, (
        SentenceKind("chamfer", Chamfer, _chamfer, CHANGES, (
            Offer("change", 5, "chamfer", "chamfer ",
                  "line 0, 0; 40, 0|line 0, 0; 0, 30|chamfer edge 1; edge 2; 12"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``fillet`` or ``chamfer``."""
