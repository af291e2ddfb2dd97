"""Catches: what a pointer is near, each said as a sentence would say it.

- *catch*: a place, how it is shown in words, and how it is written: ``end of edge 1.3``.
- *base*: the last point that was said, from which feet, touches and ways are sought.
- *rested*: places on which the pointer has rested; guides level and plumb with them are caught, too.

All in reach are listed, the ones that say most first; nothing is chosen here.
"""

from __future__ import annotations

import math
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
from evenmark.core.geometry.deterministic import turn_of
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
MOST, MOST_CROSSED, MOST_RESTED = 12, 6, 8
LEVELS = ("gently", "firmly", "not")
"""How far level and plumb draw the pointer: within reach, always, or not at all."""
_QUARTERS = (("right", 1, 0), ("above", 0, 1), ("left", -1, 0), ("below", 0, -1))


class Catch(NamedTuple):
    """A place that a pointer may mean: ``says`` it in words, ``writes`` it in a sentence; ``on`` are the
    names of what it lies on."""

    kind: str
    says: str
    writes: str
    at: Point
    on: tuple[str, ...] = ()


class TrackingPoint(NamedTuple):
    """A place on which the pointer rested, as it is written."""

    writes: str
    at: Point


class Pointing(NamedTuple):
    """A pointer over a drawing: where, how far it reaches, how wide a pixel is, all in units; the kind that
    is held ("" for any), whether nothing is caught at all, how level and plumb draw it, and the pitch of the
    grid (0 for none)."""

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


def catches(field: Field, pointing: Pointing, base: Point | None = None) -> list[Catch]:
    """Return what is in reach, at last the place of the pointer itself."""
    found: list[Catch] = []
    if not pointing.off:
        found = [c for c in _all(field, pointing, base) if distance(c.at, pointing.at) <= pointing.reach]
        found.sort(key=lambda c: (_rank(c, pointing), KINDS.index(c.kind), distance(c.at, pointing.at)))
        found = _each_once(found)
        if pointing.held:
            found = [c for c in found if c.kind == pointing.held] or found
    ways = [] if pointing.off and pointing.level != "firmly" else _ways(field, pointing, base)
    if pointing.level == "firmly" and not any(c.kind in SURE for c in found):
        return [*ways, *found, free(field, pointing)][:MOST]
    return [*found, *ways, free(field, pointing)][:MOST]


SURE = ("point", "end", "crossing", "centre", "middle", "quarter", "touch", "foot", "origin")


def _rank(c: Catch, pointing: Pointing) -> int:
    """Return how well a catch is met: what lies under the pointer comes before what is in reach."""
    close = distance(c.at, pointing.at) <= pointing.reach / 2
    return 0 if close and c.kind in SURE else 1 if c.kind in SURE else 2


def _each_once(found: Sequence[Catch]) -> list[Catch]:
    """Return catches without those that say a place again that another one of their kind has said."""
    out: list[Catch] = []
    places: set[Point] = set()
    said: set[tuple[str, Point]] = set()
    for c in found:
        if (c.kind, c.at) in said or (c.kind in ("grid", "nearest") and c.at in places):
            continue
        out.append(c)
        places.add(c.at)
        said.add((c.kind, c.at))
    return out


def _all(field: Field, pointing: Pointing, base: Point | None) -> Iterator[Catch]:
    p = pointing.at
    for name, xy in field.state.points.items():
        yield Catch("point", f"point {name}", f"point {_quoted(name)}", doubles(xy))
    yield Catch("origin", "the origin", "0, 0", (0.0, 0.0))
    near = [f for _, f in field.near.at(p, pointing.reach) if f.says is None]
    for f in near:
        yield from _on(field, f)
        yield from _from_base(field, f, base)
        at = on(f.shape, p) if not f.endless else on_supporting_line(f.shape, p)
        name = field.name(f)
        yield Catch(
            "nearest",
            f"nearest on {name}",
            f"nearest on {name} to {place(p, pointing, field.unit)}",
            at,
            (name,),
        )
    for f, centre in field.near.centred(p, pointing.reach):
        name = field.name(f)
        yield Catch("centre", f"centre of {name}", f"centre of {name}", centre, (name,))
    yield from _crossings(field, near[:MOST_CROSSED], pointing)
    if pointing.grid > 0.0:
        at = (round(p[0] / pointing.grid) * pointing.grid, round(p[1] / pointing.grid) * pointing.grid)
        yield Catch("grid", f"grid {plain(at[0])}, {plain(at[1])}", f"{plain(at[0])}, {plain(at[1])}", at)


def _on(field: Field, f: Feature) -> Iterator[Catch]:
    name = field.name(f)
    if f.endless:
        return
    if isinstance(f.shape, Round):
        (x, y), r = f.shape.center, f.shape.radius
        for which, ux, uy in _QUARTERS:
            at = (x + ux * r, y + uy * r)
            if f.shape.whole or distance(on(f.shape, at), at) <= 0.0:
                yield Catch(
                    "quarter", f"quarter of {name}, {which}", f"quarter of {name} {which}", at, (name,)
                )
        if f.shape.whole:
            return
    for which, at in (("start", f.start), ("end", f.end)):
        yield Catch("end", f"{which} of {name}", f"{which} of {name}", at, (name,))
    yield Catch("middle", f"middle of {name}", f"middle of {name}", f.shape.middle, (name,))


def _from_base(field: Field, f: Feature, base: Point | None) -> Iterator[Catch]:
    if base is None:
        return
    name, said = field.name(f), f"{plain(base[0])}, {plain(base[1])}"
    if isinstance(f.shape, Straight):
        yield Catch("foot", f"square to {name}", f"foot on {name} from {said}", foot(base, f.shape), (name,))
        return
    if is_round(f):
        for side, at in touching_from(base, f.shape).items():
            if at != base:
                yield Catch("touch", f"touch of {name}", f"touch on {name} from {said} {side}", at, (name,))


def _crossings(field: Field, near: Sequence[Feature], pointing: Pointing) -> Iterator[Catch]:
    for f, g in combinations(near, 2):
        names = (field.name(f), field.name(g))
        met = crossings(f.shape, g.shape) if not (f.endless or g.endless) else []
        found = met or crossings(f.shape, g.shape, endless=True)
        for at in found:
            said = f"crossing of {names[0]} and {names[1]}"
            near_by = "" if len(found) == 1 else f" nearest {place(at, pointing, field.unit)}"
            yield Catch("crossing", said, said + near_by, at, names)


def _ways(field: Field, pointing: Pointing, base: Point | None) -> list[Catch]:
    """Return what is level or plumb with the last point, and with places on which the pointer rested."""
    if pointing.level == "not" or (pointing.held and pointing.held != "level"):
        return []
    (x, y), out = pointing.at, []
    firm = pointing.level == "firmly"
    if base is not None:
        dx, dy = x - base[0], y - base[1]
        level = abs(dx) >= abs(dy)
        if firm or min(abs(dx), abs(dy)) <= pointing.reach:
            far = rounded(abs(dx if level else dy), pointing.pixel, field.unit)
            way = ("right" if dx >= 0 else "left") if level else ("up" if dy >= 0 else "down")
            if far > 0.0:
                at = (
                    (base[0] + math.copysign(far, dx), base[1])
                    if level
                    else (base[0], base[1] + math.copysign(far, dy))
                )
                out.append(Catch("level", f"{way} {plain(far)}", f"{way} {plain(far)}", at))
    level_with = [r for r in pointing.rested[-MOST_RESTED:] if abs(r.at[1] - y) <= pointing.reach]
    plumb_with = [r for r in pointing.rested[-MOST_RESTED:] if abs(r.at[0] - x) <= pointing.reach]
    for r in level_with:
        for q in plumb_with:
            if r.writes != q.writes:
                says = f"level with {r.writes}, plumb with {q.writes}"
                out.append(
                    Catch(
                        "level", says, f"level with ({r.writes}) plumb with ({q.writes})", (q.at[0], r.at[1])
                    )
                )
    across, up = rounded(x, pointing.pixel, field.unit), rounded(y, pointing.pixel, field.unit)
    here = f"({plain(across)}, {plain(up)})"
    out += [
        Catch(
            "level", f"level with {r.writes}", f"level with ({r.writes}) plumb with {here}", (across, r.at[1])
        )
        for r in level_with
    ]
    out += [
        Catch("level", f"plumb with {r.writes}", f"level with {here} plumb with ({r.writes})", (r.at[0], up))
        for r in plumb_with
    ]
    return out


def free(field: Field, pointing: Pointing) -> Catch:
    """Return the place of the pointer, in numbers as fine as its pixels."""
    at = tuple(rounded(v, pointing.pixel, field.unit) for v in pointing.at)
    said = f"{plain(at[0])}, {plain(at[1])}"
    return Catch("free", said, said, (at[0], at[1]))


def place(p: Point, pointing: Pointing, unit: Unit) -> str:
    """Return a place as it is written, as fine as a pixel."""
    return ", ".join(plain(rounded(v, pointing.pixel, unit)) for v in p)


def along(length: str, pointing: Pointing, base: Point, caught: Sequence[Catch]) -> list[Catch]:
    """Return where a length leads that was typed before: along an axis, toward what is caught, or in the
    direction of the pointer; ``length`` is written as it was typed."""
    (x, y), (bx, by) = pointing.at, base
    dx, dy = x - bx, y - by
    out = []
    if pointing.level == "firmly" or (
        pointing.level == "gently"
        and min(abs(dx), abs(dy)) <= max(pointing.reach, tol.GENTLE_SHARE * max(abs(dx), abs(dy)))
    ):
        way = ("right" if dx >= 0 else "left") if abs(dx) >= abs(dy) else ("up" if dy >= 0 else "down")
        out.append(Catch("level", f"{way} {length}", f"{way} {length}", pointing.at))
    sure = [c for c in caught if c.kind in SURE]
    out += [
        Catch(c.kind, f"{length} toward {c.says}", f"{length} toward {c.writes}", c.at, c.on) for c in sure
    ]
    turn = round(math.degrees(turn_of(dy, dx))) % 360
    out.append(Catch("free", f"{length} toward {turn}°", f"{length} toward {turn}", pointing.at))
    return out


def _quoted(name: str) -> str:
    return name if name.replace("_", "").isalnum() and not name[0].isdigit() else f'"{name}"'
