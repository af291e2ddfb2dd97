"""Sentences that annotate: sizes, lettering, notes, hatching, frames."""

from __future__ import annotations

from collections.abc import Callable

from evenmark.core.construct.reading import AXES, FEATURES, Reader
from evenmark.core.construct.slots import ANCHORS_ACROSS, ANCHORS_UP, ROUND, STRAIGHT, Made, Slots, more, slot
from evenmark.core.construct.words import Unreadable


def _size(r: Reader) -> Made:
    slots: Slots
    r.first("What is measured")
    if r.takes("radius"):
        kind, slots = "size radius", {"of": r.feature(ROUND)}
    elif r.takes("diameter"):
        kind, slots = "size diameter", {"of": r.feature(ROUND)}
    elif r.takes("angle"):
        f = r.feature(STRAIGHT)
        r.another("The second edge")
        kind, slots = "size angle", {"of": f, "and": r.feature(STRAIGHT)}
    elif r.begins_feature(FEATURES):
        kind, slots = "size of", {"of": r.feature(STRAIGHT)}
    else:
        p = r.point()
        r.another("The second point")
        q = r.point()
        r.another("Across, up or along")
        kind, slots = "size", {"points": (p, q), "way": r.one_of(("across", "up", "along"), "which way")}
    slot(r, "Where the figure stands", "at")
    slots["at"] = r.point()
    slots["times"] = r.number() if more(r, "times") else None
    slots["brackets"] = more(r, "brackets")
    if slots["times"] is None and more(r, "times"):
        slots["times"] = r.number()
    return kind, slots


def _sizes(r: Reader) -> Made:
    kind = "sizes in a row"
    if r.takes("from"):
        kind = "sizes from"
    else:
        r.needs("in", "a", "row")
    r.first("The first point")
    points = [r.point()]
    while True:
        r.another("The next point, or which way")
        if r.begins("across", "up") and not _is_axis_point(r):
            break
        points.append(r.point())
    if len(points) < 2:
        raise Unreadable("A size needs two points.", r.at)
    way = r.one_of(("across", "up"), "which way")
    slot(r, "Where the figures stand", "at")
    return kind, {"points": tuple(points), "way": way, "at": r.point()}


def _is_axis_point(r: Reader) -> bool:
    """Say whether ``up`` begins a point here (up 12) rather than ending the points."""
    before, word = r.mark(), r.peek()
    if word not in AXES:
        return False
    r.takes(word)
    out = not r.slot_ends
    r.back(before)
    return out


def _text(r: Reader) -> Made:
    r.first("The wording")
    slots: Slots = {"wording": r.quoted()}
    r.another("Where it stands")
    if r.takes("between"):
        p = r.point()
        r.another("The second point")
        slots["between"] = (p, r.point())
    elif r.takes("in"):
        p = r.point()
        r.another("The other corner of the cell")
        slots["in"] = (p, r.point())
    else:
        slots["at"] = r.point()
    slots |= {"height": None, "anchor": None, "turned": None}
    while True:  # in any order
        if more(r, "height"):
            slots["height"] = r.number()
        elif more(r, "anchor"):
            slots["anchor"] = _anchor(r)
        elif more(r, "turned"):
            slots["turned"] = r.number()
        else:
            break
    if slots["height"] is None and "at" in slots:
        raise Unreadable("The height of the lettering is missing here.", r.at)
    return "text", slots


def _anchor(r: Reader) -> str:
    across = r.one_of(ANCHORS_ACROSS, "which side of the lettering")
    return f"{across} {r.one_of(ANCHORS_UP, 'which level of the lettering')}"


def _note(r: Reader) -> Made:
    r.first("The wording")
    wording = r.quoted()
    points = []
    before = r.mark()
    while r.next_slot():
        if r.begins("layer", "line", "height"):
            r.back(before)
            break
        points.append(r.point())
        before = r.mark()
    if len(points) < 2:
        raise Unreadable("A note needs the tip of its leader and where its wording stands.", r.at)
    return "note", {
        "wording": wording,
        "points": tuple(points),
        "height": r.number() if more(r, "height") else None,
    }


def _hatch(r: Reader) -> Made:
    r.first("A place inside the region")
    at = r.point()
    r.another("The angle of its lines")
    angle = r.number()
    slot(r, "The gap of its lines", "gap")
    return "hatch", {"at": at, "angle": angle, "gap": r.number()}


def _frame(r: Reader) -> Made:
    r.skip()
    word = r.name("a paper and across or upright, as A4 across").split()
    if len(word) != 2 or word[1].lower() not in ("across", "upright"):
        raise Unreadable("Expected a paper and across or upright, as A4 across.", r.at)
    return "frame", {"paper": word[0].upper(), "way": word[1].lower()}


KINDS: dict[str, Callable[[Reader], Made]] = {
    "size": _size,
    "sizes": _sizes,
    "text": _text,
    "note": _note,
    "hatch": _hatch,
    "frame": _frame,
}
"""How what follows each word is read."""
