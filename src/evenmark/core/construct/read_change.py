"""Sentences that change what is drawn."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from evenmark.core.construct.reading import Reader, Said
from evenmark.core.construct.slots import CURVES, STRAIGHT, Made, Slots, choice, more, slot
from evenmark.core.construct.words import Unreadable


def _trim(r: Reader) -> Made:
    r.first("What is trimmed")
    f = r.feature(CURVES)
    slot(r, "At what", "at")
    by = [r.feature(CURVES)]
    while r.takes("and"):
        by.append(r.feature(CURVES))
    r.another("Which piece to keep or drop")
    what = r.one_of(("keep", "drop"), "which piece")
    return "trim", {"of": f, "at": tuple(by), what: r.point()}


def _extend(r: Reader) -> Made:
    r.first("What is extended")
    f = r.feature(CURVES)
    slot(r, "To what", "to")
    return "extend", {"of": f, "to": r.feature(CURVES)}


def _fillet(r: Reader) -> Made:
    if r.takes("corners", "of"):
        step = r.reference(("step",))
        slot(r, "The radius", "radius")
        return "fillet corners", {"of": step, "radius": r.number()}
    r.first("The first side")
    f = r.feature(CURVES)
    r.another("The second feature")
    g = r.feature(CURVES)
    slot(r, "The radius", "radius")
    return "fillet", {"of": f, "and": g, "radius": r.number()}


def _chamfer(r: Reader) -> Made:
    r.first("The first side")
    f = r.feature(STRAIGHT)
    r.another("The second edge")
    g = r.feature(STRAIGHT)
    r.another("How far along each")
    first = r.number()
    return "chamfer", {"of": f, "and": g, "first": first, "second": r.number() if r.takes("and") else first}


def _run(r: Reader) -> Made:
    r.needs("past")
    r.first("What runs past its ends")
    f = r.feature(("edge", "guide", "arc"))
    r.another("How far")
    return "run past", {"of": f, "by": r.number(), "end": choice(r, ("start", "end"))}


def _mirror(r: Reader) -> Made:
    r.first("What is mirrored")
    what = r.things()
    slot(r, "About what", "about")
    if r.begins_feature(STRAIGHT):
        about: Any = r.feature(STRAIGHT)
    else:
        p = r.point()
        r.another("The second point of the mirror")
        about = (p, r.point())
    return "mirror", {"what": what, "about": about, "copy": more(r, "copy")}


def _by(r: Reader) -> Said:
    """Read by how much: any way of saying a point, with or without ``by`` before it."""
    before = r.mark()
    try:
        return r.point()
    except Unreadable:
        r.back(before)
        if not r.takes("by"):
            raise
        return r.point()


def _shift(kind: str, what_for: str) -> Callable[[Reader], Made]:
    def reads(r: Reader) -> Made:
        r.first(what_for)
        what = r.things()
        r.another("By how much")
        return kind, {"what": what, "by": _by(r)}

    return reads


def _turn(r: Reader) -> Made:
    r.first("What is turned")
    what = r.things()
    slot(r, "About which point", "about")
    about = r.point()
    r.another("By how much")
    return "turn", {"what": what, "about": about, "by": r.number(), "copy": more(r, "copy")}


def _scale(r: Reader) -> Made:
    r.first("What is scaled")
    what = r.things()
    slot(r, "About which point", "about")
    about = r.point()
    r.another("By how much")
    first = r.number()
    return "scale", {
        "what": what,
        "about": about,
        "by": first,
        "becomes": r.number() if r.takes("becomes") else None,
    }


def _stretch(r: Reader) -> Made:
    r.first("A corner of the window")
    p = r.point()
    r.another("The other corner of the window")
    q = r.point()
    r.another("By how much")
    return "stretch", {"window": (p, q), "by": _by(r)}


def _repeat(r: Reader) -> Made:
    r.first("What is repeated")
    what = r.things()
    r.another("How many")
    number = r.number()
    if r.takes("round"):
        about = r.point()
        return "repeat round", {
            "what": what,
            "times": number,
            "about": about,
            "over": r.number() if more(r, "over") else None,
        }
    slots: Slots = {"what": what, "across": None, "up": None}
    way = r.one_of(("across", "up"), "which way")
    slots[way] = (number, r.number())
    other = "up" if way == "across" else "across"
    before = r.mark()
    if r.next_slot() and not r.begins("layer", "line"):
        number = r.number()
        r.needs(other)
        slots[other] = (number, r.number())
    else:
        r.back(before)
    return "repeat", slots


def _join(r: Reader) -> Made:
    r.first("What is joined")
    return "join", {"what": r.things()}


def _break(r: Reader) -> Made:
    r.needs("up")
    r.first("What is broken up")
    return "break up", {"of": r.reference(("step",))}


def _tidy(_r: Reader) -> Made:
    return "tidy", {}


def _layer(r: Reader) -> Made:
    r.first("What goes on another layer")
    what = r.things()
    r.another("The name of the layer")
    return "change layer", {"what": what, "layer": r.name("the name of a layer")}


def _erase(r: Reader) -> Made:
    if r.takes("guides"):
        return "erase guides", {}
    r.first("What goes")
    return "erase", {"what": r.things()}


KINDS: dict[str, Callable[[Reader], Made]] = {
    "trim": _trim,
    "extend": _extend,
    "fillet": _fillet,
    "chamfer": _chamfer,
    "run": _run,
    "mirror": _mirror,
    "turn": _turn,
    "scale": _scale,
    "stretch": _stretch,
    "repeat": _repeat,
    "join": _join,
    "break": _break,
    "tidy": _tidy,
    "layer": _layer,
    "erase": _erase,
    "move": _shift("move", "What is moved"),
    "copy": _shift("copy", "What is copied"),
}
"""How what follows each word is read."""
