"""Things repeated in rows and columns, or round a point."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import CHANGES, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression
from evenmark.core.construct.slots import more
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.construct.things import ExactTransform, shift, things, transformed, turn
from evenmark.core.geometry.exact import share
from evenmark.core.geometry.numbers import Typed

MOST_COPIES = 10_000
Row = tuple[Typed, Typed]
"""How many, and how far from one to the next."""


class Repeat(NamedTuple):
    """Things repeated across, up, or both."""

    what: Expression
    across: Row | None
    up: Row | None


class RepeatRound(NamedTuple):
    """Things repeated about a point, over an angle or a full turn."""

    what: Expression
    times: Typed
    about: Expression
    over: Typed | None


def _read(r: Reader) -> Meaning:
    r.first("What is repeated")
    what = r.things()
    r.another("How many")
    number = r.number()
    r.first("Which way: along a row, or round a point")
    if r.takes("round"):
        about = r.point()
        return RepeatRound(what, number, about, r.number() if more(r, "over") else None)
    way = r.one_of(("across", "up"), "which way")
    r.first("How far from one to the next")
    rows: dict[str, Row] = {way: (number, r.number())}
    other = "up" if way == "across" else "across"
    before = r.mark()
    if r.next_slot() and not r.begins("layer", "line"):
        r.first(f"How many {other}")
        number = r.number()
        r.first("How far from one to the next")
        r.needs(other)
        rows[other] = (number, r.number())
    else:
        r.back(before)
    return Repeat(what, rows.get("across"), rows.get("up"))


def _times(c: Context, number: Typed, what: Sequence[Feature]) -> int:
    return c.count(number, "times", 1, max(1, MOST_COPIES // max(1, len(what))))


def _repeat(c: Context, s: Repeat, made: ChangeSet) -> None:
    what = things(c, s.what)
    columns, wide = (_times(c, s.across[0], what), c.number(s.across[1])) if s.across else (1, 0)
    rows, tall = (_times(c, s.up[0], what), c.number(s.up[1])) if s.up else (1, 0)
    if columns * rows * len(what) > MOST_COPIES:
        raise Broken(
            f"That would be {columns * rows * len(what)} objects; at most {MOST_COPIES} are possible."
        )
    for row in range(rows):
        for column in range(columns):
            if row or column:
                _copies(what, shift((column * wide, row * tall)), made)


def _repeat_round(c: Context, s: RepeatRound, made: ChangeSet) -> None:
    what, about = things(c, s.what), c.point(s.about)
    times = _times(c, s.times, what)
    over = c.number(s.over) if s.over is not None else 360
    # over a full turn the last would fall on the first
    parts = times if over % 360 == 0 else times - 1
    for k in range(1, times):
        _copies(what, turn(about, share(over * k, parts)), made)


def _copies(what: Sequence[Feature], way: ExactTransform, made: ChangeSet) -> None:
    made.copies(transformed(f, way) for f in what)


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("repeat", _read, (
        SentenceKind("repeat", Repeat, _repeat, CHANGES, (
            Offer("change", 14, "repeat in a row or grid", "repeat ",
                  "circle 0, 0; radius 4|repeat circle 1; 3 across 16; 2 up 16"),
        )),
        SentenceKind("repeat round", RepeatRound, _repeat_round, CHANGES, (
            Offer("change", 15, "repeat round a point", "repeat ",
                  "circle 16, 0; radius 4|repeat circle 1; 6 round 0, 0"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``repeat``."""
