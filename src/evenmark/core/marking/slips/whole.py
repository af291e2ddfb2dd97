"""Slips of the drawing as a whole: `unit-factor`, `mirrored`, `turned`, `shifted`, `left-behind`,
`views-exchanged`."""

from __future__ import annotations

import math
from collections.abc import Iterator

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import distance
from evenmark.core.linework.wording import noun, number, off_its_place, place, view_name
from evenmark.core.marking.explain import Evidence, Hypothesis
from evenmark.core.marking.kinds.common import drawn_place, key_place
from evenmark.core.marking.slips.common import token

UNIT_FACTORS = {
    25.4: "25.4 times too large: millimetres were drawn where inches were asked for, or the reverse",
    1 / 25.4: "25.4 times too small: inches were drawn where millimetres were asked for, or the reverse",
    10.0: "10 times too large: the decimal point slipped, or centimetres and millimetres were swapped",
    0.1: "10 times too small: the decimal point slipped, or centimetres and millimetres were swapped",
    12.0: "12 times too large: feet and inches were swapped",
    1 / 12.0: "12 times too small: feet and inches were swapped",
    304.8: "304.8 times too large: feet and millimetres were swapped",
    1 / 304.8: "304.8 times too small: feet and millimetres were swapped",
}


def motion_of_whole(e: Evidence) -> Iterator[Hypothesis]:
    """Everything is right but for one motion: `unit-factor`, `mirrored`, `turned`, `shifted`."""
    for f in e.failing("whole"):
        if f.verdict == "absent":
            continue
        m = e.exam.whole_motion
        inverse = 1 / m.scale
        if m.scale != 1.0:
            known = next(
                (
                    says
                    for factor, says in UNIT_FACTORS.items()
                    if math.isclose(factor, inverse, rel_tol=tol.SAME_FACTOR_SHARE)
                ),
                None,
            )
            says = (
                f"Everything is drawn {known}."
                if known
                else f"Everything is drawn {number(inverse)} times the size asked for."
            )
            yield Hypothesis(code="unit-factor" if known else "unexplained", tokens=token(f), says=says)
        elif m.mirror:
            how = {0.0: ", left for right", 180.0: ", top for bottom"}.get(
                m.turn_deg, f" and turned by {number(m.turn_deg)}°"
            )
            yield Hypothesis(code="mirrored", tokens=token(f), says=f"The whole drawing is mirrored{how}.")
        elif m.turn_deg:
            turn = (-m.turn_deg + 180.0) % 360.0 - 180.0
            way = "" if abs(turn) == 180.0 else " counter-clockwise" if turn > 0 else " clockwise"
            yield Hypothesis(
                code="turned",
                tokens=token(f),
                says=f"The whole drawing is turned by {number(abs(turn))}°{way}.",
            )
        else:
            x, y = -m.shift[0], -m.shift[1]
            aside = off_its_place(x, y, e.unit, e.exact, of="where it was asked for")
            says = f"The whole drawing is {aside}."
            yield Hypothesis(code="shifted", tokens=token(f), says=says)


def left_behind(e: Evidence) -> Iterator[Hypothesis]:
    """Something stayed where it was when everything else was moved, or where the start drawing had it:
    `left-behind`."""
    motion = e.exam.whole_motion
    moved = motion.shift != (0.0, 0.0)  # by a slip, or where it may stand anywhere
    for f in e.failing("position"):
        if f.verdict == "absent":
            continue
        feature = e.exam.key.by_id[f.features[0]]
        drawn = drawn_place(feature, e.exam)
        if drawn is None:
            continue
        x, y = motion.undone.point(drawn)
        if moved and distance((x, y), key_place(feature)) <= e.exact:
            says = (
                f"The {noun(feature, e.centre)} {place(feature)} was left behind when everything else was "
                "moved."
            )
            yield Hypothesis(code="left-behind", tokens=token(f), says=says)
        elif e.start is not None and _stands_in(e.start, feature.id[0], drawn, e):
            named = f"The {noun(feature, e.centre)} {place(feature)}"
            says = f"{named} was left where it was in the start drawing."
            yield Hypothesis(code="left-behind", tokens=token(f), says=says)


def _stands_in(start: object, letter: str, at: tuple[float, float], e: Evidence) -> bool:
    """Say whether the start drawing has a feature of one kind at a place."""
    groups = {"k": "corners", "t": "tees", "c": "circles", "a": "arcs"}
    return any(distance(key_place(f), at) <= e.exact for f in getattr(start, groups.get(letter, ""), ()))


def views_exchanged(e: Evidence) -> Iterator[Hypothesis]:
    """Views stand on the other side of the front view, one of them or all: `views-exchanged`."""
    found = [f for f in e.failing("arrangement") if f.verdict == "missed" and isinstance(f.measured, str)]
    if not found:
        return
    told = " and ".join(f"the view that belongs {f.expected} is drawn {f.measured}" for f in found)
    views = e.exam.rules.views or ()
    if len(found) > 1 and len(found) == len(views) - 1:
        says = f"First-angle and third-angle projection were confused: {told}."
    elif len(found) > 1:
        says = f"Views were swapped: {told}."
    else:
        says = f"T{told[1:]}: views were swapped, or first-angle and third-angle projection were confused."
    yield Hypothesis(code="views-exchanged", tokens=frozenset((f.id, -1) for f in found), says=says)


def view_shifted(e: Evidence) -> Iterator[Hypothesis]:
    """A view stands elsewhere than in its place, the front view or another: `shifted`."""
    lines = [f for f in e.failing("arrangement") if isinstance(f.measured, float)]
    for view in e.exam.rules.views or ():
        tokens = frozenset((f.id, -1) for f in lines if view.id in f.features)
        across, up = e.exam.view_shifts.get(view.id, (0.0, 0.0))
        if tokens and max(abs(across), abs(up)) > e.exact:
            says = f"The {view_name(view.name)} is {off_its_place(-across, -up, e.unit, e.exact)}."
            yield Hypothesis(code="shifted", tokens=tokens, says=says, free=1)


ALL = (motion_of_whole, left_behind, views_exchanged, view_shifted)
