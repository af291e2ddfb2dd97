"""Circles: by centre and size, across two points, through three, touching what is there."""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import half
from evenmark.core.construct.kinds.record import DRAWS, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import CURVES, choice, sides_of, slot
from evenmark.core.construct.state import Broken, plain
from evenmark.core.geometry import arcs, circles, nearest
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import Point, distance

ThreePoints = tuple[Expression, Expression, Expression]


class CircleByCentre(NamedTuple):
    """A circle about a centre: through a point, or of a radius or a diameter."""

    centre: Expression
    through: Expression | None = None
    radius: Typed | None = None
    diameter: Typed | None = None


class CircleAcross(NamedTuple):
    """A circle of which two points lie across from each other."""

    points: tuple[Expression, Expression]


class CircleThrough(NamedTuple):
    """A circle through three points."""

    points: ThreePoints


class CircleTouchingAt(NamedTuple):
    """A circle of a radius that touches something at a place, on one side."""

    of: Ref
    at: Expression
    radius: Typed
    side: str


class CircleTouching(NamedTuple):
    """A circle that touches two features and has a radius, or touches three; on which side of each."""

    of: tuple[Ref, ...]
    radius: Typed | None
    sides: tuple[str, ...]
    which: str | None


def _read(r: Reader) -> Meaning:
    if r.takes("across"):
        r.first("One end of a diameter")
        p = r.point()
        r.another("The other end of the diameter")
        return CircleAcross((p, r.point()))
    if r.takes("through"):
        return CircleThrough(read_three_points(r))
    if r.takes_tangent_to():
        return _read_touching(r)
    r.first("Its centre")
    center = r.point()
    r.another("Radius, diameter or a point on it")
    if r.takes("through"):
        return CircleByCentre(center, through=r.point())
    if r.one_of(("radius", "diameter"), "how large") == "radius":
        return CircleByCentre(center, radius=r.number())
    return CircleByCentre(center, diameter=r.number())


def read_three_points(r: Reader) -> ThreePoints:
    """Read three slots with points. Raises Unreadable."""
    r.first("The first point")
    p = r.point()
    r.another("The second point")
    q = r.point()
    r.another("The third point")
    return (p, q, r.point())


def _read_touching(r: Reader) -> Meaning:
    r.first("What it is tangent to")
    of = [r.feature(CURVES)]
    r.another("At which point, or what else it is tangent to")
    if r.takes("at"):
        at = r.point()
        slot(r, "The radius", "radius")
        radius = r.number()
        r.another("Which side")
        return CircleTouchingAt(of[0], at, radius, r.one_of(sides_of(of[0]), "which side"))
    of.append(r.feature(CURVES))
    r.another("The radius, or what else it is tangent to")
    size: Typed | None = None
    if r.takes("radius"):
        size = r.number()
    else:
        of.append(r.feature(CURVES))
    sides = []
    for ref in of:
        r.another("Which side of each feature")
        sides.append(r.one_of(sides_of(ref), "which side"))
    return CircleTouching(tuple(of), size, tuple(sides), choice(r, ("first", "second")))


def _circle(c: Context, s: CircleByCentre, made: ChangeSet) -> None:
    center = c.point(s.centre)
    if s.through is not None:
        x, y = c.point(s.through)
        c.last = center
        far: Number = x - center[0] if y == center[1] else y - center[1] if x == center[0] else 0
        radius = (-far if far < 0 else far) or distance(plain(center), plain((x, y)))
        if radius == 0:
            raise Broken("The point is the centre, so the radius would be 0. Choose another point.")
    elif s.radius is not None:
        radius = c.length(s.radius, "radius")
    else:
        assert s.diameter is not None
        radius = half(c.length(s.diameter, "diameter"))
    made.circle(center, radius)


def _across(c: Context, s: CircleAcross, made: ChangeSet) -> None:
    (ax, ay), (bx, by) = (c.point(p) for p in s.points)
    diameter = distance(plain((ax, ay)), plain((bx, by)))
    if diameter == 0.0:
        raise Broken("Both points are the same, so the diameter would be 0. Choose another one.")
    made.circle((half(ax + bx), half(ay + by)), diameter / 2)


def _through(c: Context, s: CircleThrough, made: ChangeSet) -> None:
    draw_through(arcs.through(*(c.place(p) for p in s.points)), made)


def draw_through(found: Round | None, made: ChangeSet, begins: Point | None = None) -> None:
    """Draw what goes through three points. Raises Broken where they are in line."""
    if found is None:
        raise Broken("The three points are in one line, so no circle goes through them. Move one.")
    made.add(found, begins=begins)


def _touching_at(c: Context, s: CircleTouchingAt, made: ChangeSet) -> None:
    thing, radius = c.curve(s.of), float(c.length(s.radius, "radius"))
    _has_side(thing, s.side)
    at = nearest.on_supporting_line(thing, c.place(s.at))
    found = circles.touching_at(thing, at, radius, s.side)
    if found is None or (isinstance(thing, Round) and s.side == "inside" and radius >= thing.radius):
        raise Broken(f"No circle of radius {radius:g} is tangent there, {s.side}. Change radius or side.")
    made.add(found)


def _has_side(thing: Curve, side: str) -> None:
    if side not in circles.sides_of(thing):
        said = " or ".join(circles.sides_of(thing))
        raise Broken(f"It has no side {side!r}. Say {said}.")


def _touching(c: Context, s: CircleTouching, made: ChangeSet) -> None:
    things = [c.curve(ref) for ref in s.of]
    for thing, side in zip(things, s.sides, strict=True):
        _has_side(thing, side)
    if s.radius is not None:
        radius = float(c.length(s.radius, "radius"))
        found = circles.touching_two(things[0], things[1], radius)
    else:
        found = circles.touching_three(things[0], things[1], things[2])
    there = [t.circle for t in found if _as_said(t.sides, s.sides, t.circle, things)]
    if not there:
        raise Broken(_no_such_circle(found))
    which = {None: 0, "first": 0, "second": 1}[s.which]
    if which >= len(there):
        raise Broken("There is only one such circle. Leave out second.")
    if len(there) > 1 and s.which is None:
        raise Broken("There are two such circles. Say first or second (from the left, then from below).")
    made.add(there[which])


def _as_said(found: tuple[str, ...], sides: tuple[str, ...], circle: Round, things: list[Curve]) -> bool:
    """Say whether a circle lies on the sides that were said: inside is from within, or around where nothing
    of its size could be within."""
    for has, said, thing in zip(found, sides, things, strict=True):
        within = (
            said == "inside" and has == "around" and isinstance(thing, Round) and circle.radius > thing.radius
        )
        if has != said and not within:
            return False
    return True


def _no_such_circle(found: list[circles.Touching]) -> str:
    if not found:
        return "No circle is tangent to all of them. Change the radius, or choose others."
    there = "; ".join(dict.fromkeys(", ".join(side for side in t.sides if side) for t in found))
    return f"No circle is tangent on these sides. There is one for: {there}."


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("circle", _read, (
        SentenceKind("circle", CircleByCentre, _circle, DRAWS, (
            Offer("draw", 3, "circle by centre and size", "circle ",
                  "circle 0, 0; radius 14"),
        )),
        SentenceKind("circle across", CircleAcross, _across, DRAWS, (
            Offer("draw", 8, "circle across two points", "circle across ",
                  "line 0, 0; 30, 20|circle across 0, 0; 30, 20"),
        )),
        SentenceKind("circle through", CircleThrough, _through, DRAWS, (
            Offer("draw", 9, "circle through three points", "circle through ",
                  "circle through 0, 0; 30, 0; 12, 26"),
        )),
        SentenceKind("circle tangent at", CircleTouchingAt, _touching_at, DRAWS, ()),
        SentenceKind("circle tangent to", CircleTouching, _touching, DRAWS, (
            Offer("draw", 10, "circle tangent to two or three", "circle tangent to ",
                  "line 0, 0; 40, 0|line 0, 0; 0, 30|circle tangent to edge 1; edge 2; radius 11; left; "
                  "right"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``circle``."""
