"""Which things a sentence means, and things in another place: moved, turned, mirrored, scaled."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.points import Context
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.state import XY, Annotation, Broken, Feature, edge_between, plain
from evenmark.core.drawing import moving
from evenmark.core.drawing.annotations import Dimension, Hatch, Note, Vertex, measure
from evenmark.core.drawing.model import FreeCurve, Text
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.exact import Number, cosine, sine
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Box, Point
from evenmark.core.geometry.regions import box_round
from evenmark.core.geometry.similarities import STILL, Similarity, mirrored, scaled, turned


class ExactTransform(NamedTuple):
    """Where things go: a motion, and the same for points as exactly as it is known."""

    motion: Similarity
    at: Callable[[XY], XY]


def things(c: Context, said: Expression) -> list[Feature]:
    """Return the features that are meant, each once, in the order in which they were said. Raises Broken
    where there are none."""
    found: dict[Ref, Feature] = {}
    for part in said.parts:
        for f in _of(c, part):
            found.setdefault(f.ref, f)
    if not found:
        raise Broken("Nothing matches. Check layer or window.")
    return list(found.values())


def _of(c: Context, part: Ref | Expression) -> list[Feature]:
    if isinstance(part, Ref):
        if part.kind != "step":
            return [c.feature(part)]
        made = list(c.state.of_step(part.step))
        if not made:
            raise Broken("That step drew nothing that is still there. Name another step.")
        return made
    c.spend(3 * len(c.state.places))  # and something is done with each
    everything = [f for f in c.state.standing() if not f.endless]
    if part.how == "everything":
        layer = part.parts[0]
        return [f for f in everything if layer is None or f.layer == layer]
    window = window_between(*(c.point(p) for p in part.parts))
    return [f for f in everything if lies_in(f.shape, window)]


def window_between(a: XY, b: XY) -> Box:
    """Return the window between two points."""
    (ax, ay), (bx, by) = plain(a), plain(b)
    return (min(ax, bx), min(ay, by), max(ax, bx), max(ay, by))


def lies_in(shape: Curve, window: Box) -> bool:
    """Say whether all of a shape lies in a window."""
    box = box_round(shape)
    return window[0] <= box[0] and window[1] <= box[1] and box[2] <= window[2] and box[3] <= window[3]


def ends_of(f: Feature) -> tuple[XY, XY]:
    """Return the ends of an edge or arc as exactly as they are known."""
    if isinstance(f.shape, Straight) and len(f.exact) == 2:
        return (f.exact[0], f.exact[1])
    return (f.start, f.end)


def transformed(f: Feature, way: ExactTransform) -> Feature:
    """Return a feature after a motion, its ends or centre as exactly as they are known."""
    if f.says is not None:
        return with_says(f, _says_after(f.says, way.motion))
    if isinstance(f.shape, Straight):
        a, b = (way.at(p) for p in ends_of(f))
        return f._replace(shape=edge_between(a, b), exact=(a, b))
    center = way.at(f.exact[0] if f.exact else f.shape.center)
    radius = f.shape.radius * way.motion.scale
    if f.shape.whole:
        return f._replace(shape=Round(plain(center), radius), exact=(center,))
    sweep = way.motion.sweep(f.shape.start_rad, f.shape.sweep_rad)
    back = f.back != way.motion.mirror
    return f._replace(shape=Round(plain(center), radius, *sweep), exact=(center,), back=back)


def _says_after(says: Annotation, motion: Similarity) -> Annotation:
    if isinstance(says, Text | FreeCurve):
        return moving.moved_entity(says, motion)
    if isinstance(says, Dimension):
        return moving.moved_dimension(says, motion)
    return moving.moved_hatch(says, motion) if isinstance(says, Hatch) else moving.moved_note(says, motion)


def with_says(f: Feature, says: Annotation) -> Feature:
    """Return a size, note, lettering, hatching or curve that says something else, or elsewhere."""
    if isinstance(says, Hatch):
        at = says.loops[0][0].at
    else:
        at = says.points[0] if isinstance(says, Note | FreeCurve) else says.at
    return f._replace(says=says, shape=Straight(at, at))


def stretched(says: Annotation, inside: Callable[[Point], bool], by: Point) -> Annotation:
    """Return what an annotation becomes where its points that lie inside move."""

    def at(p: Point) -> Point:
        return (p[0] + by[0], p[1] + by[1]) if inside(p) else p

    if isinstance(says, Text):
        return says._replace(at=at(says.at), second=at(says.second) if says.second is not None else None)
    if isinstance(says, FreeCurve):
        return says._replace(points=tuple(map(at, says.points)))
    if isinstance(says, Hatch):
        return replace(says, loops=tuple(tuple(Vertex(*at(v.at), v.bulge) for v in k) for k in says.loops))
    if isinstance(says, Note):
        return replace(says, points=tuple(map(at, says.points)), at=at(says.at))
    points = tuple(map(at, says.points))
    size = measure(says.kind, points, says.turn_deg)
    line = at(says.line) if says.line is not None else None
    return replace(says, points=points, measured=size, at=at(says.at), line=line)


def shift(by: XY) -> ExactTransform:
    """Return a shift."""
    dx, dy = by
    return ExactTransform(STILL.shifted(plain(by)), lambda p: (p[0] + dx, p[1] + dy))


def turn(about: XY, degrees: Number) -> ExactTransform:
    """Return a turn about a point, counter-clockwise."""
    (x, y), cos, sin = about, cosine(degrees), sine(degrees)

    def at(p: XY) -> XY:
        u, v = p[0] - x, p[1] - y
        return (x + u * cos - v * sin, y + u * sin + v * cos)

    return ExactTransform(turned(plain(about), float(degrees)), at)


def scale(about: XY, by: Number) -> ExactTransform:
    """Return a scale about a point."""
    x, y = about
    return ExactTransform(
        scaled(plain(about), float(by)), lambda p: (x + (p[0] - x) * by, y + (p[1] - y) * by)
    )


def mirror(a: XY, b: XY) -> ExactTransform:
    """Return the mirroring about the line through two points. Raises Broken where they are one."""
    if plain(a) == plain(b):
        raise Broken("Both points of the mirror line are the same. Choose another one.")
    motion = mirrored(plain(a), plain(b))
    if a[0] == b[0]:
        return ExactTransform(motion, lambda p: (2 * a[0] - p[0], p[1]))
    if a[1] == b[1]:
        return ExactTransform(motion, lambda p: (p[0], 2 * a[1] - p[1]))
    return ExactTransform(motion, lambda p: motion.point(plain(p)))


def exact_of(f: Feature, shape: Curve) -> tuple[XY, ...]:
    """Return the ends of what became of an edge as exactly as they are known: those that it had before."""
    if isinstance(shape, Round):
        return f.exact
    known = {plain(p): p for p in ends_of(f)}
    return tuple(known.get(p, p) for p in shape)


def reshape(made: ChangeSet, f: Feature, shape: Curve) -> None:
    """Give a feature another shape; it keeps its name, and the ends that stay."""
    made.replace(f, shape, exact_of(f, shape))
