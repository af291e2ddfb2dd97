"""Sentences that help: guides, centre marks and lines, pitch circles; what is kept, placed, laid in."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from evenmark.core.construct.reading import Reader
from evenmark.core.construct.slots import ROUND, STRAIGHT, Made, Slots, more, slot


def _guide(r: Reader) -> Made:
    for word in ("level", "plumb"):
        if r.takes(word):
            r.first("Through which point")
            return "guide", {"how": word, "through": r.point()}
    angle = r.number()
    r.needs("through")
    r.first("Through which point")
    return "guide", {"how": "angle", "angle": angle, "through": r.point()}


def _mitre(r: Reader) -> Made:
    r.first("Through which point")
    return "mitre", {"through": r.point()}


def _carry(r: Reader) -> Made:
    r.first("What is carried over")
    p = r.point()
    r.another("Level, plumb or round the mitre")
    how = r.one_of(("level", "plumb", "round"), "which way")
    return "carry", {"from": p, "how": how, "round": r.feature(STRAIGHT) if how == "round" else None}


def _centre(r: Reader) -> Made:
    if r.one_of(("mark", "line"), "what") == "mark":
        r.first("What is marked")
        f = r.feature(ROUND)
        slot(r, "How far past", "past")
        return "centre mark", {"of": f, "past": r.number()}
    r.first("Its first end, or an edge beside it")
    if r.begins_feature(STRAIGHT):
        f = r.feature(STRAIGHT)
        r.another("The second edge")
        slots: Slots = {"between": (f, r.feature(STRAIGHT))}
    else:
        p = r.point()
        r.another("The second point")
        slots = {"points": (p, r.point())}
    slot(r, "How far past", "past")
    return "centre line", slots | {"past": r.number()}


def _pitch(r: Reader) -> Made:
    r.needs("circle")
    r.first("Its centre")
    center = r.point()
    slot(r, "The diameter", "diameter")
    diameter = r.number()
    r.another("How many holes")
    number = r.number()
    r.needs("holes")
    r.needs("diameter")
    hole = r.number()
    slot(r, "Where the first one is", "first")
    return "pitch circle", {
        "centre": center,
        "diameter": diameter,
        "holes": number,
        "hole": hole,
        "first": r.number(),
    }


def _hide(r: Reader) -> Made:
    r.needs("edges")
    r.first("Which edges")
    return "hide edges", {"what": r.things()}


def _keep(r: Reader) -> Made:
    name = r.name("a name for what is kept")
    r.another("What is kept")
    what = r.things()
    slot(r, "By which point it is placed", "at")
    return "keep", {"name": name, "what": what, "at": r.point()}


def _place(r: Reader) -> Made:
    name = r.name("the name of what was kept")
    r.another("Where it is placed")
    slots: Slots = {"name": name, "at": r.point(), "turned": r.number() if more(r, "turned") else None}
    values: list[tuple[str, Any]] = []
    before = r.mark()
    while r.next_slot():
        if r.begins("layer", "line"):
            r.back(before)
            break
        value = r.word_as_written()
        if not value:
            raise r.expected("a value, as R = 24")
        if not r.sign("="):
            raise r.expected("'='")
        values.append((value, r.number()))
        before = r.mark()
    return "place", slots | {"values": tuple(values)}


def _lay(r: Reader) -> Made:
    r.needs("in")
    name = r.name("the name of a drawing that was opened")
    at = r.point() if more(r, "at") else None
    return "lay in", {"name": name, "at": at, "turned": r.number() if more(r, "turned") else None}


KINDS: dict[str, Callable[[Reader], Made]] = {
    "guide": _guide,
    "mitre": _mitre,
    "carry": _carry,
    "centre": _centre,
    "pitch": _pitch,
    "hide": _hide,
    "keep": _keep,
    "place": _place,
    "lay": _lay,
}
"""How what follows each word is read."""
