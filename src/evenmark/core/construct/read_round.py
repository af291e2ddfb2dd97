"""Sentences that draw circles, arcs, rectangles and polygons."""

from __future__ import annotations

from collections.abc import Callable

from evenmark.core.construct.reading import Reader, Said
from evenmark.core.construct.slots import (
    CURVES,
    LEFT_RIGHT,
    SIDES,
    Made,
    Slots,
    begins_a_point,
    choice,
    more,
    slot,
)
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.numbers import Typed


def _circle(r: Reader) -> Made:
    if r.takes("across"):
        r.first("The first of two points across")
        p = r.point()
        r.another("The point across")
        return "circle across", {"points": (p, r.point())}
    if r.takes("through"):
        return "circle through", {"points": _three_points(r)}
    if r.takes("touching"):
        return _touching_circle(r)
    r.first("Its centre")
    center = r.point()
    r.another("Radius, diameter or a point on it")
    if r.takes("through"):
        return "circle", {"centre": center, "through": r.point()}
    return "circle", {"centre": center} | _radius(r)


def _radius(r: Reader) -> Slots:
    word = r.one_of(("radius", "diameter"), "how large")
    return {word: r.number()}


def _three_points(r: Reader) -> tuple[Said, Said, Said]:
    r.first("The first point")
    p = r.point()
    r.another("The second point")
    q = r.point()
    r.another("The third point")
    return (p, q, r.point())


def _touching_circle(r: Reader) -> Made:
    r.first("What it touches")
    of = [r.feature(CURVES)]
    r.another("Where it touches, or what else")
    if r.takes("at"):
        at = r.point()
        slot(r, "The radius", "radius")
        radius = r.number()
        r.another("Which side")
        side = r.one_of(SIDES, "which side")
        return "circle touching at", {"of": of[0], "at": at, "radius": radius, "side": side}
    of.append(r.feature(CURVES))
    r.another("The radius, or what else it touches")
    size: Typed | None = None
    if r.takes("radius"):
        size = r.number()
    else:
        of.append(r.feature(CURVES))
    sides = []
    for _ in of:
        r.another("Which side of each feature")
        sides.append(r.one_of(SIDES, "which side"))
    which = choice(r, ("first", "second"))
    return "circle touching", {"of": tuple(of), "radius": size, "sides": tuple(sides), "which": which}


def _arc(r: Reader) -> Made:
    if r.takes("through"):
        return "arc through", {"points": _three_points(r)}
    if r.begins("centre") and not begins_a_point(r, "centre"):
        r.needs("centre")
        r.first("Its centre")
        center = r.point()
        slot(r, "Where it begins", "from")
        start = r.point()
        slot(r, "How far it turns", "turn")
        return "arc centre", {"centre": center, "start": start, "turn": r.number()}
    r.first("Where it starts")
    start = r.point()
    r.another("Where it ends")
    end = r.point()
    slot(r, "The radius", "radius")
    radius = r.number()
    r.another("On which side the centre lies")
    side = r.one_of(LEFT_RIGHT, "on which side the centre lies")
    return "arc", {"start": start, "end": end, "radius": radius, "side": side, "long": more(r, "long")}


def _rectangle(r: Reader) -> Made:
    r.first("Its first corner")
    first = r.point()
    r.another("The other corner, or width by height")
    before = r.mark()
    slots: Slots = {"first": first}
    try:
        width = r.number()
        if not r.takes("by"):
            raise r.expected("'by'")
        slots |= {"width": width, "height": r.number()}
    except Unreadable:
        r.back(before)
        slots["second"] = r.point()
    slots["turned"] = r.number() if more(r, "turned") else None
    slots["rounded"] = r.number() if more(r, "rounded") else None
    if slots["turned"] is None:
        slots["turned"] = r.number() if more(r, "turned") else None
    return "rectangle", slots


def _polygon(r: Reader) -> Made:
    r.first("How many corners")
    slots: Slots = {"corners": r.number()}
    r.another("Its centre, or an edge")
    if r.takes("edge"):
        slots["start"] = r.point()
        r.another("Where the edge ends")
        slots["end"] = r.point()
        r.another("Which side")
        return "polygon edge", slots | {"side": r.one_of(LEFT_RIGHT, "which side")}
    r.needs("centre")
    slots["centre"] = r.point()
    r.another("Inside or outside of which circle")
    slots["how"] = r.one_of(("inside", "outside"), "inside or outside of a circle")
    slots["radius"] = r.number()
    return "polygon", slots | {"turned": r.number() if more(r, "turned") else None}


KINDS: dict[str, Callable[[Reader], Made]] = {
    "circle": _circle,
    "arc": _arc,
    "rectangle": _rectangle,
    "polygon": _polygon,
}
"""How what follows each word is read."""
