"""What the page asks of a board, by name, in plain values: the same calls are answered by the page's worker
and by the server.

- *call*: a name with arguments; an answer is an object, or ``{"refused": why}`` with the place in the
  sentence where there is one.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple, cast

from evenmark.core.board import requests
from evenmark.core.board.answers import (
    AllChosen,
    Applied,
    Done,
    Found,
    InWindow,
    Kept,
    Measured,
    Needed,
    Offered,
    Pointed,
    Refusal,
    Tried,
    View,
    Writing,
)
from evenmark.core.board.arguments import NotAsked
from evenmark.core.board.board import BoardDocument, NotDone
from evenmark.core.board.catches import KINDS as CATCHES
from evenmark.core.board.catches import LEVELS, Pointing, TrackingPoint
from evenmark.core.board.correcting import correct, pull
from evenmark.core.board.describing import describe, figures
from evenmark.core.board.edits import Conflict, back
from evenmark.core.board.hand import HandText
from evenmark.core.board.names import as_name
from evenmark.core.board.offers import found, offered
from evenmark.core.board.pointer import Pointer
from evenmark.core.board.requests import asked
from evenmark.core.board.window import window
from evenmark.core.construct.commas import with_points, without_commas
from evenmark.core.construct.document import Document, DocumentError, from_json, from_text
from evenmark.core.construct.measuring import between, measured
from evenmark.core.construct.state import Broken
from evenmark.core.construct.words import Unreadable

Args = Mapping[str, object]


class BoardSession:
    """A board, and what is remembered between two calls about it."""

    def __init__(self) -> None:
        self.board = BoardDocument(Document())
        self._pointers: dict[int | None, Pointer] = {}

    def ask(self, name: str, args: Args) -> Mapping[str, object]:
        """Answer a call."""
        call = CALLS.get(name)
        if call is None:
            return refusal("Unknown request. Reload the page.")
        try:
            if call.answer is _try:
                answer: Mapping[str, object] = _try(self, asked(requests.Try, args), args)
            else:
                answer = call.answer(self, asked(call.asks, args))
        except NotDone as why:
            return {"refused": why.says, "at": why.at, "readings": list(why.readings)}
        except Unreadable as why:
            return {"refused": why.says, "at": why.at}
        except Broken as why:
            return refusal(why.says)
        except Conflict as why:
            return {"refused": str(why), "parted": True}
        except NotAsked as why:
            return {"refused": str(why), "at": why.at}
        except DocumentError as why:
            return refusal(str(why))
        if call.changes:
            self._pointers = {}  # what was remembered of the board as it was
        return answer

    def ask_json(self, call: str, args: str) -> str:
        """Answer a call whose arguments are JSON, as JSON."""
        return json.dumps(self.ask(call, json.loads(args)), allow_nan=False, separators=(",", ":"))

    # boards

    def open(self, board: BoardDocument) -> None:
        """Take another board."""
        self.board = board
        self._pointers = {}

    def apply(self, edits: Sequence[Mapping[str, object]]) -> View:
        """Change the list; return what has changed in the view. Raises Conflict, DocumentError."""
        self._pointers = {}
        return self.board.apply(edits)

    def pointer(self, before: int | None) -> Pointer:
        """Return the hand that writes at the end, or before a step."""
        if before not in self._pointers:
            self._pointers = {before: Pointer(self.board, before)}
        hand = self._pointers[before]
        self.board.up_to(before)
        return hand


def refusal(says: str) -> Refusal:
    """Return why something was not done."""
    return {"refused": says}


def _open(desk: BoardSession, args: requests.Open) -> View:
    desk.open(BoardDocument(from_json(args.document)))
    return desk.board.view()


def _write(desk: BoardSession, args: requests.Write) -> Done:
    return desk.board.write(_said(desk, args, args.before), args.before, args.layer, args.own)


def _change(desk: BoardSession, args: requests.Change) -> Done:
    return desk.board.change(args.step, _said(desk, args, args.step))


def _said(
    desk: BoardSession,
    args: requests.State | requests.Write | requests.Change,
    before: int | None,
    *,
    to: int | None = None,
    ends: bool = True,
) -> str:
    """Return what a sentence says, or its beginning up to a place, with points for decimal commas."""
    says = args.says[:to]
    if not args.commas:
        return says
    return without_commas(says, desk.board.ids_before(before), desk.board.inch, ends=ends)


def _take_away(desk: BoardSession, args: requests.TakeAway) -> Done:
    return desk.board.take_away(args.steps)


def _needed(desk: BoardSession, args: requests.Needed) -> Needed:
    return {"by": desk.board.needed_by(args.steps)}


def _move(desk: BoardSession, args: requests.Move) -> Done:
    return desk.board.move(args.step, args.before)


def _line(desk: BoardSession, args: requests.SetLine) -> Done:
    line = desk.board.head_line() if args.line is None else args.line
    come = args.come
    if come is not None and come.get("kind") == "value":
        come = {**come, "says": with_points(str(come.get("says", "")))}
    return desk.board.set_line(line, args.gone, come)


def _apply(desk: BoardSession, args: requests.Apply) -> Applied:
    return {"view": desk.apply(args.splices)}


def _replace(desk: BoardSession, args: requests.Replace) -> Done:
    kept = isinstance(args.document, dict)
    return desk.board.open(from_json(args.document) if kept else from_text(args.text))


def _lay_in(desk: BoardSession, args: requests.LayIn) -> Done:
    return desk.board.lay_in(args.name, args.drawing)


def _put_on(desk: BoardSession, args: requests.PutOn) -> Done:
    return desk.board.write(f"layer {' and '.join(args.names)}; {as_name(args.layer)}")


def _correct(desk: BoardSession, args: requests.Correct) -> Done:
    stays = "end" if args.stays == "end" else "start"
    return correct(desk.board, args.name, args.number, args.says, stays)


def _pull(desk: BoardSession, args: requests.Pull) -> Done:
    return pull(desk.board, args.name, args.which, args.says)


def _sentence(desk: BoardSession, args: requests.State) -> HandText:
    says = _said(desk, args, args.before, ends=False)
    before_caret = _said(desk, args, args.before, to=args.caret, ends=False)
    return HandText(says, min(len(before_caret), len(says)))


def _state(desk: BoardSession, args: requests.State) -> Writing:
    return desk.pointer(args.before).state(_sentence(desk, args), args.layer, args.own)


def _point(desk: BoardSession, args: requests.Point) -> Pointed:
    hand = desk.pointer(args.before)
    return hand.point(_sentence(desk, args), _pointing(desk, args), args.which or 0)


def _pointing(desk: BoardSession, args: requests.Point) -> Pointing:
    frame = desk.board.frame()
    desk.board.near().hidden = frozenset(args.hidden)
    rested = [asked(requests.Tracked, one) for one in args.rested]
    return Pointing(
        (frame.origin[0] + args.x, frame.origin[1] - args.y),
        max(args.reach, 0.0),
        max(args.pixel, 0.0),
        args.held if args.held in CATCHES else "",
        args.off,
        args.level if args.level in LEVELS else "gently",
        max(args.grid, 0.0),
        tuple(
            TrackingPoint(one.writes, (frame.origin[0] + one.x, frame.origin[1] - one.y)) for one in rested
        ),
    )


def _tell(desk: BoardSession, args: requests.Tell) -> AllChosen:
    return describe(desk.board, args.names)


def _measure(desk: BoardSession, args: requests.Measure) -> Measured:
    board = desk.board
    board.up_to(None)
    told = between(board.built, args.says, args.to) if args.to else measured(board.built, args.says)
    return {"told": [{"name": t.name, "shows": figures(board, t)} for t in told]}


def _window(desk: BoardSession, args: requests.Window) -> InWindow:
    board = desk.board
    board.up_to(None)
    board.near().hidden = frozenset(args.hidden)
    ox, oy = board.frame().origin
    xs, ys = sorted((ox + args.x, ox + args.x2)), sorted((oy - args.y, oy - args.y2))
    return {"names": window(board, (xs[0], ys[0], xs[1], ys[1]), touches=args.touches)}


def _offered(_desk: BoardSession, _args: requests.Offered) -> Offered:
    return {"kinds": offered()}


def _find(_desk: BoardSession, args: requests.Find) -> Found:
    return {"kinds": [k.says for k in found(args.says, args.recent)]}


def _kept(desk: BoardSession, _args: requests.Kept) -> Kept:
    return {"document": desk.board.kept(), "text": desk.board.text()}


def _view(desk: BoardSession, _args: requests.View) -> View:
    return desk.board.view()


def _try(desk: BoardSession, args: requests.Try, more: Args) -> Tried:
    """What the drawing would be with a step written over, or with what else can be tried; nothing stays
    changed."""
    if (args.call or "change") not in TRIED:
        raise NotAsked("This cannot be tried. Correct the step.")
    call = CALLS[args.call or "change"]
    done = cast(Done, call.answer(desk, asked(call.asks, more)))
    return {"view": done["view"], "back": desk.apply(back(done["splices"]))}


class Call(NamedTuple):
    """What a board is asked by a name: with what, how it is answered, and whether that changes it."""

    asks: type
    answer: Callable[..., Mapping[str, object]]
    changes: bool


CALLS: dict[str, Call] = {
    "open": Call(requests.Open, _open, True),
    "view": Call(requests.View, _view, False),
    "state": Call(requests.State, _state, False),
    "point": Call(requests.Point, _point, False),
    "write": Call(requests.Write, _write, True),
    "change": Call(requests.Change, _change, True),
    "try": Call(requests.Try, _try, False),
    "take_away": Call(requests.TakeAway, _take_away, True),
    "needed": Call(requests.Needed, _needed, False),
    "move": Call(requests.Move, _move, True),
    "line": Call(requests.SetLine, _line, True),
    "apply": Call(requests.Apply, _apply, True),
    "replace": Call(requests.Replace, _replace, True),
    "lay_in": Call(requests.LayIn, _lay_in, True),
    "put_on": Call(requests.PutOn, _put_on, True),
    "tell": Call(requests.Tell, _tell, False),
    "correct": Call(requests.Correct, _correct, True),
    "pull": Call(requests.Pull, _pull, True),
    "measure": Call(requests.Measure, _measure, False),
    "window": Call(requests.Window, _window, False),
    "offered": Call(requests.Offered, _offered, False),
    "find": Call(requests.Find, _find, False),
    "kept": Call(requests.Kept, _kept, False),
}
"""All calls, by name."""
TRIED = ("change", "correct", "pull")
"""What can be tried before it is done."""
LOOKS = tuple(name for name, call in CALLS.items() if not call.changes)
"""Calls that change nothing."""
