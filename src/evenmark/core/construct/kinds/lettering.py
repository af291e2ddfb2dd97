"""Lettering, and notes with a leader."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import DIMENSIONS, LETTERS, FirstWord, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression
from evenmark.core.construct.slots import ANCHORS_ACROSS, ANCHORS_UP, more
from evenmark.core.construct.state import Broken
from evenmark.core.construct.words import Unreadable
from evenmark.core.drawing.annotations import Note
from evenmark.core.drawing.model import Text
from evenmark.core.geometry.deterministic import turn_of
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import middle

TwoPoints = tuple[Expression, Expression]


class Lettering(NamedTuple):
    """Lettering at a point, spread between two, or in a cell between two corners."""

    wording: str
    at: Expression | None
    between: TwoPoints | None
    cell: TwoPoints | None
    height: Typed | None
    anchor: str | None
    turned: Typed | None


class LeaderNote(NamedTuple):
    """A note: the points of its leader from the tip on, its wording beside the last."""

    wording: str
    points: tuple[Expression, ...]
    height: Typed | None


def _read_text(r: Reader) -> Lettering:
    r.first("The text")
    wording = r.quoted()
    r.another("Where it stands")
    at = between = cell = height = anchor = turned = None
    if r.takes("between"):
        p = r.point()
        r.another("The second point")
        between = (p, r.point())
    elif r.takes("in"):
        p = r.point()
        r.another("The other corner of the cell")
        cell = (p, r.point())
    else:
        at = r.point()
    while True:  # in any order
        if more(r, "height"):
            height = r.number()
        elif more(r, "anchor"):
            anchor = _read_anchor(r)
        elif more(r, "turned"):
            turned = r.number()
        else:
            break
    if height is None and at is not None:
        raise Unreadable("The text height is missing. Say height 3.5.", r.at)
    return Lettering(wording, at, between, cell, height, anchor, turned)


def _read_anchor(r: Reader) -> str:
    across = r.one_of(ANCHORS_ACROSS, "which side of the text")
    return f"{across} {r.one_of(ANCHORS_UP, 'which height of the text')}"


def _read_note(r: Reader) -> LeaderNote:
    r.first("The text")
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
        raise Unreadable("A note needs the tip of its leader and a place for its text. Say both.", r.at)
    return LeaderNote(wording, tuple(points), r.number() if more(r, "height") else None)


def _text(c: Context, s: Lettering, made: ChangeSet) -> None:
    wording = s.wording.strip()
    if not wording:
        raise Broken("The text is empty. Type some.")
    turn = float(c.number(s.turned)) if s.turned is not None else 0.0
    height = float(c.length(s.height, "height")) if s.height is not None else c.setting.height
    anchor = s.anchor or "left baseline"
    style = c.setting.layer(made.layer).style
    if s.between is not None:
        a, b = (c.place(p) for p in s.between)
        if a == b:
            raise Broken("Both points are the same. Choose another one.")
        along = math.degrees(turn_of(b[1] - a[1], b[0] - a[0])) % 360.0
        spread = Text(wording, a, "left baseline", height, along, made.layer, style, "", "", b, "width")
        made.note("text", spread, a)
        return
    if s.cell is not None:
        a, b = (c.place(p) for p in s.cell)
        high = abs(b[1] - a[1])
        if s.height is None and high > 0.0:
            height = min(height, high / 2)
        at, anchor = middle(a, b), s.anchor or "centre middle"
    else:
        assert s.at is not None
        at = c.place(s.at)
    made.note("text", Text(wording, at, anchor, height, turn % 360.0, made.layer, style, ""), at)


def _note(c: Context, s: LeaderNote, made: ChangeSet) -> None:
    points = tuple(c.place(p) for p in s.points)
    if any(a == b for a, b in pairwise(points)):
        raise Broken("Two points of the leader are the same. Change one.")
    height = float(c.length(s.height, "height")) if s.height is not None else c.setting.height
    (x, y), before = points[-1], points[-2]
    side = 1.0 if x >= before[0] else -1.0
    note = Note(
        points=points,
        wording=s.wording.strip(),
        at=(x + side * height / 2, y + height / 2),
        across="left" if side > 0 else "right",
        height=height,
        layer=made.layer,
    )
    if not note.wording:
        raise Broken("The text is empty. Type some.")
    made.note("note", note, points[0])


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("text", _read_text, (
        SentenceKind("text", Lettering, _text, LETTERS, (
            Offer("annotate", 8, "text", 'text "',
                  'text "Aa"; 0, 0; height 14'),
        )),
    )),
    FirstWord("note", _read_note, (
        SentenceKind("note", LeaderNote, _note, DIMENSIONS, (
            Offer("annotate", 9, "note with a leader", 'note "',
                  'circle 0, 0; radius 8|note "R"; 6, 6; 22, 20'),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``text`` or ``note``."""
