"""Catches: what a pointer is near, each said as a sentence would say it.

- *catch*: a place, how it is shown in words, and how it is written: ``end of edge 1.3``.
- *base*: the last point that was said, from which feet, touches and ways are sought.
- *fixed*: a place of its own, as an end or a point of the grid; what is not may lie anywhere along something.

All in reach are listed, each place once: the nearest in pixels first, then what is more particular, and what
is drawn before what helps to draw it. Nothing is chosen here."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations
from typing import NamedTuple

from evenmark.core.board.figures import plain, rounded
from evenmark.core.board.names import spoken
from evenmark.core.board.near import Near, is_round
from evenmark.core.construct.state import Feature, State
from evenmark.core.construct.state import plain as doubles
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.crossings import crossings
from evenmark.core.geometry.lines import Straight, foot
from evenmark.core.geometry.nearest import on, on_supporting_line
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.tangents import touching_from
from evenmark.core.geometry.units import Unit

KINDS = (
    "point",
    "end",
    "crossing",
    "centre",
    "middle",
    "quarter",
    "touch",
    "foot",
    "origin",
    "grid",
    "level",
    "nearest",
    "free",
)
"""Kinds of catches; what says most comes first."""
SURE = ("point", "end", "crossing", "centre", "middle", "quarter", "touch", "foot", "origin")
"""Kinds that say a place of what is drawn."""
_ORDER = (*SURE, "feature", "grid", "level", "nearest", "free")
MOST, MOST_CROSSED = 12, 6
LEVELS = ("gently", "firmly", "not")
"""How far level and plumb draw the pointer: within reach, always, or not at all."""
HELPING_LAYERS = ("construction", "centre")
"""Layers of what helps to draw."""
AS_NEAR_PX = 2.0
"""Places of which neither is nearer by more than so many pixels are equally near."""
_QUARTERS = (("right", 1, 0), ("above", 0, 1), ("left", -1, 0), ("below", 0, -1))


class Catch(NamedTuple):
    """A place that a pointer may mean: ``says`` it in words, ``writes`` it in a sentence; ``on`` are the
    names of what it lies on; ``helps`` that it is of what helps to draw."""

    kind: str
    says: str
    writes: str
    at: Point
    on: tuple[str, ...] = ()
    fixed: bool = True
    helps: bool = False


class TrackingPoint(NamedTuple):
    """A place with which others are level or plumb: how it is written, where it is, what it is called where
    that is not how it is written."""

    writes: str
    at: Point
    called: str = ""


class Pointing(NamedTuple):
    """A pointer over a drawing: where, how far it reaches, how wide a pixel is, all in units; the kind that
    is held ("" for any), whether nothing is caught at all, how level and plumb draw it, the pitch of the
    grid (0 for none), and places on which it has rested."""

    at: Point
    reach: float
    pixel: float
    held: str = ""
    off: bool = False
    level: str = "gently"
    grid: float = 0.0
    rested: tuple[TrackingPoint, ...] = ()


class Field(NamedTuple):
    """What is drawn, for catching: features by their place, how steps are numbered, the unit."""

    near: Near
    state: State
    numbers: Mapping[int, int]
    unit: Unit

    def name(self, f: Feature) -> str:
        """Return how a feature is called."""
        return spoken(f.ref, self.numbers, self.state)


def in_reach(field: Field, pointing: Pointing, base: Point | None = None) -> list[Catch]:
    """Return what is in reach of a pointer, in no order."""
    if pointing.off:
        return []
    found = [c for c in _all(field, pointing, base) if distance(c.at, pointing.at) <= pointing.reach]
    if pointing.held:
        found = [c for c in found if c.kind == pointing.held] or found
    return found


def ordered(found: Sequence[Catch], pointing: Pointing) -> list[Catch]:
    """Return catches as they are meant, each place once."""
    out: list[Catch] = []
    one_place = pointing.reach * tol.ONE_PLACE_SHARE
    for c in sorted(found, key=lambda c: _rank(c, pointing)):
        known = (d for d in out if d.kind != "feature")
        if c.kind == "feature" or not any(distance(c.at, d.at) <= one_place for d in known):
            out.append(c)
    return out[:MOST]


def _rank(c: Catch, pointing: Pointing) -> tuple[float, ...]:
    """Return how soon a catch is meant: places of their own before what lies anywhere along something, the
    bare place of the pointer last; of these the nearest, then what is drawn, then what says most."""
    far = distance(c.at, pointing.at)
    steps = round(far / (AS_NEAR_PX * max(pointing.pixel, tol.LEAST_PITCH)))
    if c.kind == "free":
        apart = 3
    elif pointing.level == "firmly":
        apart = 0 if c.kind in SURE else 1 if c.kind == "level" else 2
    else:
        apart = 0 if c.fixed else 2
    return (apart, steps, c.helps, _ORDER.index(c.kind), far)


def _all(field: Field, pointing: Pointing, base: Point | None) -> Iterator[Catch]:
    p = pointing.at
    for name, xy in field.state.points.items():
        yield Catch("point", f"point {name}", f"point {_quoted(name)}", doubles(xy))
    yield Catch("origin", "the origin", "0, 0", (0.0, 0.0))
    near = [f for _, f in field.near.at(p, pointing.reach) if f.says is None]
    for f in near:
        yield from _on(field, f)
        yield from _from_base(field, f, base)
        about = free(field, pointing)
        at = on(f.shape, about.at) if not f.endless else on_supporting_line(f.shape, about.at)
        name = field.name(f)
        writes = f"nearest on {name} to {about.writes}"
        yield Catch("nearest", f"nearest on {name}", writes, at, (name,), fixed=False, helps=helps(f))
    for f, centre in field.near.centred(p, pointing.reach):
        name = field.name(f)
        yield Catch("centre", f"centre of {name}", f"centre of {name}", centre, (name,), helps=helps(f))
    yield from _crossings(field, near[:MOST_CROSSED], pointing)
    if pointing.grid > 0.0:
        at = (round(p[0] / pointing.grid) * pointing.grid, round(p[1] / pointing.grid) * pointing.grid)
        yield Catch("grid", f"grid {plain(at[0])}, {plain(at[1])}", f"{plain(at[0])}, {plain(at[1])}", at)


def helps(f: Feature) -> bool:
    """Say whether a feature helps to draw: a guide, construction, a centre line."""
    return f.endless or f.layer in HELPING_LAYERS or f.line == "chain"


def _on(field: Field, f: Feature) -> Iterator[Catch]:
    name, less = field.name(f), helps(f)
    if f.endless:
        return
    if isinstance(f.shape, Round):
        (x, y), r = f.shape.center, f.shape.radius
        for which, ux, uy in _QUARTERS:
            at = (x + ux * r, y + uy * r)
            if f.shape.whole or distance(on(f.shape, at), at) <= 0.0:
                said = f"quarter of {name}"
                yield Catch("quarter", f"{said}, {which}", f"{said} {which}", at, (name,), helps=less)
        if f.shape.whole:
            return
    for which, at in (("start", f.start), ("end", f.end)):
        yield Catch("end", f"{which} of {name}", f"{which} of {name}", at, (name,), helps=less)
    yield Catch("middle", f"middle of {name}", f"middle of {name}", f.shape.middle, (name,), helps=less)


def _from_base(field: Field, f: Feature, base: Point | None) -> Iterator[Catch]:
    if base is None:
        return
    name, said, less = field.name(f), f"{plain(base[0])}, {plain(base[1])}", helps(f)
    if isinstance(f.shape, Straight):
        writes = f"foot on {name} from {said}"
        yield Catch("foot", f"perpendicular to {name}", writes, foot(base, f.shape), (name,), helps=less)
        return
    if is_round(f):
        for side, at in touching_from(base, f.shape).items():
            if at != base:
                writes = f"tangent on {name} from {said} {side}"
                yield Catch("touch", f"tangent point of {name}", writes, at, (name,), helps=less)


def _crossings(field: Field, near: Sequence[Feature], pointing: Pointing) -> Iterator[Catch]:
    for f, g in combinations(near, 2):
        names = (field.name(f), field.name(g))
        met = crossings(f.shape, g.shape) if not (f.endless or g.endless) else []
        found = met or crossings(f.shape, g.shape, endless=True)
        for at in found:
            said = f"crossing of {names[0]} and {names[1]}"
            near_by = "" if len(found) == 1 else f" nearest {place(at, pointing, field.unit)}"
            yield Catch("crossing", said, said + near_by, at, names, helps=helps(f) or helps(g))


def free(field: Field, pointing: Pointing) -> Catch:
    """Return the place of the pointer, in numbers as fine as its pixels."""
    at = tuple(rounded(v, pointing.pixel, field.unit) for v in pointing.at)
    said = f"{plain(at[0])}, {plain(at[1])}"
    return Catch("free", said, said, (at[0], at[1]), fixed=False)


def place(p: Point, pointing: Pointing, unit: Unit) -> str:
    """Return a place as it is written, as fine as a pixel."""
    return ", ".join(plain(rounded(v, pointing.pixel, unit)) for v in p)


def _quoted(name: str) -> str:
    return name if name.replace("_", "").isalnum() and not name[0].isdigit() else f'"{name}"'
