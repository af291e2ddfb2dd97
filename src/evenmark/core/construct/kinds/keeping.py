"""What is kept under a name and placed again, and drawings that are laid in: by a point, turned, with values
of their own.

Placed with other values, the steps up to the one that kept them are evaluated once more with these.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import CHANGES, FirstWord, Offer, SentenceKind
from evenmark.core.construct.laying import features_of
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression
from evenmark.core.construct.slots import more, slot
from evenmark.core.construct.state import XY, Broken, Feature, KeptThings
from evenmark.core.construct.things import ExactTransform, shift, things, transformed, turn
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.numbers import Typed

MOST_PLACED = 10_000


class Keep(NamedTuple):
    """Things kept under a name, with the point by which they are placed."""

    name: str
    what: Expression
    at: Expression


class PlaceKept(NamedTuple):
    """What was kept, placed: turned, with other values."""

    name: str
    at: Expression
    turned: Typed | None
    values: tuple[tuple[str, Typed], ...]


class LayIn(NamedTuple):
    """A drawing that was opened, laid in: somewhere else than it stands, turned."""

    name: str
    at: Expression | None
    turned: Typed | None


def _read_keep(r: Reader) -> Keep:
    name = r.name("a name for what is kept")
    r.another("What is kept")
    what = r.things()
    slot(r, "By which point it is placed", "at")
    return Keep(name, what, r.point())


def _read_place(r: Reader) -> PlaceKept:
    name = r.name("the name of what was kept")
    r.another("Where it is placed")
    at = r.point()
    turned = r.number() if more(r, "turned") else None
    values: list[tuple[str, Typed]] = []
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
    return PlaceKept(name, at, turned, tuple(values))


def _read_lay(r: Reader) -> LayIn:
    r.needs("in")
    name = r.name("the name of a drawing that was opened")
    at = r.point() if more(r, "at") else None
    return LayIn(name, at, r.number() if more(r, "turned") else None)


def _keep(c: Context, s: Keep, made: ChangeSet) -> None:
    made.kept = (s.name, KeptThings(tuple(things(c, s.what)), c.point(s.at), made.step, s.what))


def _place(c: Context, s: PlaceKept, made: ChangeSet) -> None:
    kept = c.state.kept.get(s.name)
    if kept is None:
        names = ", ".join(c.state.kept)
        raise Broken(
            f"Nothing is kept under {s.name!r} before this step. "
            + (f"There is: {names}." if names else "Keep it first: keep NAME; step 3; at 0, 0.")
        )
    if s.values and c.setting.again is not None:
        given: dict[str, Number] = {name: c.number(typed) for name, typed in s.values}
        for name in given:
            if name not in c.values.defined and name not in c.values.given:
                raise Broken(f"There is no value {name!r}. Define it first.")
        kept = c.setting.again(kept, given)
    _put(c, s, kept.things, kept.at, made)


def _lay_in(c: Context, s: LayIn, made: ChangeSet) -> None:
    drawing = c.setting.drawings.get(s.name)
    if drawing is None:
        there = ", ".join(c.setting.drawings)
        raise Broken(
            f"There is no drawing {s.name!r} with this document. "
            + (f"There is: {there}." if there else "Open a file to add it.")
        )
    _put(c, s, tuple(features_of(drawing, made.step)), (0, 0), made)


def _put(c: Context, s: PlaceKept | LayIn, kept: Sequence[Feature], base: XY, made: ChangeSet) -> None:
    """Draw copies of things where a sentence says: a point of theirs at its point, turned about that."""
    at = c.point(s.at) if s.at is not None else (0, 0)
    degrees = c.number(s.turned) if s.turned is not None else 0
    if len(kept) > MOST_PLACED:
        raise Broken(f"That would be {len(kept)} objects; at most {MOST_PLACED} are possible.")
    ways: list[ExactTransform] = [shift((at[0] - base[0], at[1] - base[1]))]
    if degrees % 360:
        ways.append(turn(at, degrees))
    moved = list(kept)
    for way in ways:
        moved = [transformed(f, way) for f in moved]
    made.copies(f._replace(layer=made.said_layer or f.layer) for f in moved)


_PLATE = (
    'drawing plate: {"layers":[["outline",null]],"styles":[[7,"continuous",0.5,0]],"rows":['
    '["line",[0,0],[40,0],0,0,"1"],["line",[40,0],[40,26],0,0,"1"],["line",[40,26],[0,26],0,0,"1"],'
    '["line",[0,26],[0,0],0,0,"1"],["circle",[26,13],7,0,0,"2"]]}'
)

# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("keep", _read_keep, (
        SentenceKind("keep", Keep, _keep, CHANGES, (
            Offer("keep", 1, "keep under a name", "keep ",
                  "rectangle 0, 0; 40 by 26|keep plate; step 1; at 0, 0"),
        )),
    )),
    FirstWord("lay", _read_lay, (
        SentenceKind("lay in", LayIn, _lay_in, CHANGES, (
            Offer("keep", 2, "add a drawing that was opened", "lay in ",
                  f"{_PLATE}|lay in plate"),
        )),
    )),
    FirstWord("place", _read_place, (
        SentenceKind("place", PlaceKept, _place, CHANGES, (
            Offer("keep", 3, "place what was kept", "place ",
                  "circle 0, 0; radius 7|keep stud; circle 1; at 0, 0|place stud; 26, 10"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``keep``, ``place`` or ``lay``."""
