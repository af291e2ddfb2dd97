"""Trims, splits, what is extended, and what runs past its ends."""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.directions import unit_between
from evenmark.core.construct.kinds.record import CHANGES, FirstWord, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import CURVES, choice, slot
from evenmark.core.construct.state import Broken, Feature, edge_between
from evenmark.core.construct.things import ends_of, exact_of, reshape
from evenmark.core.geometry import nearest, trims
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.numbers import Typed
from evenmark.core.geometry.points import Point


class Trim(NamedTuple):
    """A feature cut by others; the piece at a place is kept, or dropped."""

    of: Ref
    by: tuple[Ref, ...]
    keep: bool
    piece: Expression


class Extend(NamedTuple):
    """A feature run on until it meets another."""

    of: Ref
    to: Ref


class Split(NamedTuple):
    """A feature split where it is nearest to points; all of it stays."""

    of: Ref
    at: tuple[Expression, ...]


class RunPast(NamedTuple):
    """A feature run on past one of its ends, or both."""

    of: Ref
    by: Typed
    end: str | None


def _read_trim(r: Reader) -> Trim:
    r.first("What is trimmed")
    f = r.feature(CURVES)
    slot(r, "At what", "at")
    by = [r.feature(CURVES)]
    while r.takes("and"):
        by.append(r.feature(CURVES))
    r.another("Which part to keep or drop")
    keep = r.one_of(("keep", "drop"), "which part") == "keep"
    return Trim(f, tuple(by), keep, r.point())


def _read_extend(r: Reader) -> Extend:
    r.first("What is extended")
    f = r.feature(CURVES)
    slot(r, "To what", "to")
    return Extend(f, r.feature(CURVES))


def _read_split(r: Reader) -> Split:
    r.first("What is split")
    f = r.feature(("edge", "arc", "circle"))
    slot(r, "At which point", "at")
    at = [r.point()]
    while r.takes("and"):
        at.append(r.point())
    if f.kind == "circle" and len(at) < 2:
        raise r.expected("'and' with a second point (a circle needs two points to be split)")
    return Split(f, tuple(at))


def _read_run(r: Reader) -> RunPast:
    r.needs("past")
    r.first("What runs past its ends")
    f = r.feature(("edge", "guide", "arc"))
    r.another("How far")
    return RunPast(f, r.number(), choice(r, ("start", "end")))


def _trim(c: Context, s: Trim, made: ChangeSet) -> None:
    f = c.feature(s.of)
    cuts = trims.cuts_of(f.shape, [c.curve(ref) for ref in s.by])
    pieces = trims.divided(f.shape, cuts)
    if not cuts or (len(pieces) == 1 and not (isinstance(f.shape, Round) and f.shape.whole)):
        raise Broken("Nothing crosses it there. Name another one.")
    at = trims.piece_at(pieces, c.place(s.piece))
    if s.keep:
        reshape(made, f, pieces[at])
        return
    first, last = trims.joined(pieces[:at]), trims.joined(pieces[at + 1 :])
    if isinstance(f.shape, Round) and f.shape.whole:
        if len(pieces) == 1:
            raise Broken("A circle needs two cuts. Say another one.")
        rest = trims.joined([*pieces[at + 1 :], *pieces[:at]])
        assert rest is not None
        reshape(made, f, rest)
        return
    kept = [p for p in ((last, first) if f.back else (first, last)) if p is not None]
    if not kept:
        raise Broken("Nothing of it would be left. Erase it instead.")
    reshape(made, f, kept[0])
    if len(kept) > 1:
        made.add(kept[1], exact_of(f, kept[1]), layer=f.layer, line=f.line, begins=_begins(f, kept[1]))


def _begins(f: Feature, piece: Curve) -> Point:
    """Return where a piece of a feature begins, as that runs."""
    return piece.end if f.back else piece.start


def _extend(c: Context, s: Extend, made: ChangeSet) -> None:
    f = c.feature(s.of)
    found = trims.extended(f.shape, c.curve(s.to))
    if found is None:
        raise Broken("Extended, it never meets that. Name another one.")
    reshape(made, f, found)


def _split(c: Context, s: Split, made: ChangeSet) -> None:
    f = c.feature(s.of)
    whole = isinstance(f.shape, Round) and f.shape.whole
    pieces = trims.divided(f.shape, [nearest.on(f.shape, c.place(p)) for p in s.at])
    if whole and len(pieces) < 2:
        raise Broken("A circle needs two points to be split. Say two different ones.")
    if len(pieces) < 2:
        raise Broken("It ends there already. Say a point between its ends.")
    if f.back:
        pieces.reverse()
    reshape(made, f, pieces[0])
    made.group = f.group
    for piece in pieces[1:]:
        made.add(piece, exact_of(f, piece), layer=f.layer, line=f.line, begins=_begins(f, piece))


def _run_past(c: Context, s: RunPast, made: ChangeSet) -> None:
    f, by = c.feature(s.of), c.length(s.by, "length")
    start, end = (by if s.end in (None, which) else 0 for which in ("start", "end"))
    if isinstance(f.shape, Straight):
        (ax, ay), (bx, by_) = ends_of(f)
        ux, uy = unit_between((ax, ay), (bx, by_))
        ends = ((ax - ux * start, ay - uy * start), (bx + ux * end, by_ + uy * end))
        made.replace(f, edge_between(*ends), ends)
    else:
        start, end = (end, start) if f.back else (start, end)
        reshape(made, f, trims.run_past(f.shape, float(start), float(end)))


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("trim", _read_trim, (
        SentenceKind("trim", Trim, _trim, CHANGES, (
            Offer("change", 1, "trim", "trim ",
                  "line 0, 0; 40, 0|line 26, -14; 26, 14|trim edge 1; at edge 2; keep 0, 0"),
        )),
    )),
    FirstWord("extend", _read_extend, (
        SentenceKind("extend", Extend, _extend, CHANGES, (
            Offer("change", 2, "extend to", "extend ",
                  "line 0, 0; 18, 6|line 38, -8; 38, 26|extend edge 1; to edge 2"),
        )),
    )),
    FirstWord("split", _read_split, (
        SentenceKind("split", Split, _split, CHANGES, (
            Offer("change", 7, "split at a point", "split ",
                  "line 0, 0; 40, 10|split edge 1; at 16, 4"),
        )),
    )),
    FirstWord("run", _read_run, (
        SentenceKind("run past", RunPast, _run_past, CHANGES, (
            Offer("change", 6, "run past its ends", "run past ",
                  "line 10, 0; 30, 0|run past edge 1; 8"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``trim``, ``extend``, ``split`` or ``run``."""
