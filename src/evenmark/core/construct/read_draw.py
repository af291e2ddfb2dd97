"""Sentences that draw straight pieces: lines, chains, parallels, squares, bisectors.

Each function reads what follows its word and returns the kind of the step with its slots, by name.
"""

from __future__ import annotations

from collections.abc import Callable

from evenmark.core.construct.reading import Reader, Said
from evenmark.core.construct.slots import (
    CURVES,
    LEFT_RIGHT,
    LINES,
    ROUND,
    STRAIGHT,
    Made,
    Slots,
    begins_a_point,
    more,
    slot,
)
from evenmark.core.construct.words import Unreadable


def _line(r: Reader) -> Made:
    if r.at_thing:
        what = r.things()
        r.another("Which line")
        return "change line", {"what": what, "line": r.one_of(LINES, "which line")}
    if r.begins("middle") and not begins_a_point(r, "middle"):
        r.needs("middle")
        r.first("Its middle")
        at = r.point()
        r.another("How long, and toward what")
        length = r.number()
        r.needs("toward")
        return "line middle", {"at": at, "length": length, "toward": r.way()}
    if r.takes("square", "to"):
        r.first("The first feature")
        f = r.feature(CURVES)
        r.another("The second feature")
        return "line square to", {"of": f, "to": r.feature(CURVES)}
    if r.takes("touching"):
        return _touching_line(r)
    r.first("Where it starts")
    start = r.point()
    r.another("Where the line ends")
    before = r.mark()
    try:  # a length and an angle to an edge begin as a distance does
        length = r.number()
        if r.takes("at"):
            angle = r.number()
            r.needs("to")
            return "line at", {"start": start, "length": length, "angle": angle, "to": r.feature(STRAIGHT)}
    except Unreadable:
        pass
    r.back(before)
    return "line", {"start": start, "end": r.point()}


def _touching_line(r: Reader) -> Made:
    r.first("What it touches")
    f = r.feature(ROUND)
    r.another("Where the line comes from, or what else it touches")
    if r.takes("from"):
        at = r.point()
        r.another("Which side")
        return "line touching from", {"of": f, "from": at, "side": r.one_of(LEFT_RIGHT, "which side")}
    if r.takes("at"):
        at = r.point()
        slot(r, "The length", "length")
        return "line touching at", {"of": f, "at": at, "length": r.number()}
    g = r.feature(ROUND)
    r.another("Which of the four lines")
    way = r.one_of(("outer", "crossing"), "which line")
    return "line touching both", {
        "of": f,
        "and": g,
        "which": f"{way} {r.one_of(LEFT_RIGHT, 'which side')}",
    }


def _chain(r: Reader) -> Made:
    r.first("Where it starts")
    start = r.point()
    moves: list[Said] = []
    close = False
    while True:
        before = r.mark()
        if not r.next_slot():
            break
        if r.takes("close"):
            close = True
            break
        if r.begins("layer", "line"):
            r.back(before)
            break
        moves.append(_move(r))
    if not moves:
        raise Unreadable("Where the chain goes is missing here.", r.at)
    return "chain", {"start": start, "moves": tuple(moves), "close": close}


def _move(r: Reader) -> Said:
    if r.takes("smooth", "arc", "to"):
        return Said("smooth", (r.point(),))
    if r.takes("arc", "through"):
        p = r.point()
        r.needs("to")
        return Said("through", (p, r.point()))
    if r.takes("arc", "to"):
        p = r.point()
        r.needs("radius")
        radius = r.number()
        side = r.one_of(LEFT_RIGHT, "on which side the centre lies")
        return Said("arc", (p, radius, side, r.takes("long")))
    return Said("to", (r.point(),))


def _parallel(r: Reader) -> Made:
    r.first("Parallel to what")
    f = r.feature(CURVES)
    slot(r, "The gap", "gap")
    gap = r.number()
    r.another("Which side")
    side = r.one_of(("left", "right", "inside", "outside"), "which side")
    return "parallel", {"of": f, "gap": gap, "side": side, "times": r.number() if more(r, "times") else None}


def _square(r: Reader) -> Made:
    r.first("Square to what")
    f = r.feature(CURVES)
    r.another("At which point, or from which")
    if r.takes("from"):
        return "square from", {"of": f, "from": r.point()}
    r.needs("at")
    at = r.point()
    slot(r, "The length", "length")
    length = r.number()
    r.another("Which side")
    side = r.one_of(("left", "right", "inside", "outside"), "which side")
    return "square", {"of": f, "at": at, "length": length, "side": side}


def _bisector(r: Reader) -> Made:
    r.first("The first side, or a point on it")
    if r.begins_feature(STRAIGHT):
        f = r.feature(STRAIGHT)
        r.another("The second edge")
        slots: Slots = {"of": f, "and": r.feature(STRAIGHT)}
    else:
        p = r.point()
        r.another("The second point")
        q = r.point()
        r.another("The third point")
        slots = {"points": (p, q, r.point())}
    slot(r, "The length", "length")
    return "bisector", slots | {"length": r.number()}


def _shortest(r: Reader) -> Made:
    r.first("From what")
    f = r.feature(CURVES)
    r.another("The second feature")
    return "shortest", {"of": f, "to": r.feature(CURVES)}


def _named_point(r: Reader) -> Made:
    name = r.name("a name for the point")
    r.another("Where it is")
    return "point", {"name": name, "at": r.point()}


KINDS: dict[str, Callable[[Reader], Made]] = {
    "line": _line,
    "chain": _chain,
    "parallel": _parallel,
    "square": _square,
    "bisector": _bisector,
    "shortest": _shortest,
    "point": _named_point,
}
"""How what follows each word is read."""
