"""What the page asks of a board, by name, in plain values: the same calls are answered by the page's worker
and by the server.

- *call*: a name with arguments; an answer is an object, or ``{"refused": why}`` with the place in the
  sentence where there is one.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from evenmark.core.board.board import BoardDocument, NotDone
from evenmark.core.board.catches import KINDS as CATCHES
from evenmark.core.board.catches import LEVELS, MOST_RESTED, Pointing, TrackingPoint
from evenmark.core.board.correcting import correct, pull
from evenmark.core.board.describing import describe, figures
from evenmark.core.board.edits import Conflict, back
from evenmark.core.board.hand import HandText
from evenmark.core.board.names import as_name
from evenmark.core.board.offers import found, offered
from evenmark.core.board.pointer import Pointer, window
from evenmark.core.construct.building import MOST_STEPS
from evenmark.core.construct.document import Document, DocumentError, from_json, from_text
from evenmark.core.construct.measuring import between, measured
from evenmark.core.construct.state import Broken
from evenmark.core.construct.words import MOST_LETTERS, Unreadable

MOST_CHOSEN = 500
BEYOND = 10**12
Args = dict[str, Any]


class BoardSession:
    """A board, and what is remembered between two calls about it."""

    def __init__(self) -> None:
        self.board = BoardDocument(Document())
        self._pointers: dict[int | None, Pointer] = {}

    def ask(self, call: str, args: Args) -> dict[str, Any]:
        """Answer a call."""
        answer = _CALLS.get(call)
        if answer is None:
            return {"refused": "There is no such call."}
        try:
            return answer(self, args)
        except (NotDone, Unreadable) as why:
            return {"refused": why.says, "at": why.at}
        except Broken as why:
            return {"refused": why.says}
        except Conflict as why:
            return {"refused": str(why), "parted": True}
        except DocumentError as why:
            return {"refused": str(why)}
        except _Asked as why:
            return {"refused": str(why)}

    def ask_json(self, call: str, args: str) -> str:
        """Answer a call whose arguments are JSON, as JSON."""
        return json.dumps(self.ask(call, json.loads(args)), allow_nan=False, separators=(",", ":"))

    # boards

    def open(self, board: BoardDocument) -> None:
        """Take another board."""
        self.board = board
        self._pointers = {}

    def pointer(self, args: Args) -> Pointer:
        """Return the hand that writes at the end, or before a step."""
        before = _maybe(args, "before")
        if before not in self._pointers:
            self._pointers = {before: Pointer(self.board, before)}
        hand = self._pointers[before]
        self.board.up_to(before)
        return hand

    def changed(self, answer: dict[str, Any]) -> dict[str, Any]:
        """Forget what was remembered of the board as it was."""
        self._pointers = {}
        return answer


class _Asked(ValueError):
    """Arguments are not what a call takes."""


def _text(args: Args, name: str, most: int = MOST_LETTERS) -> str:
    value = args.get(name, "")
    if not isinstance(value, str) or len(value) > most:
        raise _Asked("This is too long.")
    return value


def _whole(args: Args, name: str) -> int:
    value = args.get(name)
    if not isinstance(value, int) or isinstance(value, bool) or not 0 <= value < 10**9:
        raise _Asked(f"{name!r} has to be a whole number.")
    return value


def _maybe(args: Args, name: str) -> int | None:
    return None if args.get(name) is None else _whole(args, name)


def _number(args: Args, name: str, usual: float) -> float:
    value = args.get(name, usual)
    if not isinstance(value, int | float) or isinstance(value, bool) or not abs(value) < BEYOND:
        raise _Asked(f"{name!r} has to be a number.")
    return float(value)


def _list(args: Args, name: str, kind: type, most: int) -> list[Any]:
    value = args.get(name, [])
    if not isinstance(value, list) or len(value) > most or not all(isinstance(v, kind) for v in value):
        raise _Asked(f"{name!r} has to be a list.")
    return value


def _pointing(desk: BoardSession, args: Args) -> Pointing:
    frame = desk.board.frame()
    desk.board.near().hidden = frozenset(_list(args, "hidden", str, MOST_CHOSEN))
    x, y = (_number(args, n, 0.0) for n in ("x", "y"))
    level, held = _text(args, "level", 20) or "gently", _text(args, "held", 20)
    rested = [
        TrackingPoint(_text(r, "writes", 400), (_number(r, "x", 0.0), _number(r, "y", 0.0)))
        for r in _list(args, "rested", dict, MOST_RESTED)
    ]
    return Pointing(
        (frame.origin[0] + x, frame.origin[1] - y),
        max(_number(args, "reach", 1.0), 0.0),
        max(_number(args, "pixel", 0.1), 0.0),
        held if held in CATCHES else "",
        bool(args.get("off")),
        level if level in LEVELS else "gently",
        max(_number(args, "grid", 0.0), 0.0),
        tuple(rested),
    )


def _sentence(args: Args) -> HandText:
    says = _text(args, "says")
    caret = _maybe(args, "caret")
    return HandText(says, len(says) if caret is None else min(caret, len(says)))


def _open(desk: BoardSession, args: Args) -> dict[str, Any]:
    desk.open(BoardDocument(from_json(args.get("document"))))
    return desk.board.view()


def _write(desk: BoardSession, args: Args) -> dict[str, Any]:
    return desk.changed(
        desk.board.write(_text(args, "says"), _maybe(args, "before"), _text(args, "layer", 255))
    )


def _change(desk: BoardSession, args: Args) -> dict[str, Any]:
    return desk.changed(desk.board.change(_whole(args, "step"), _text(args, "says")))


def _try(desk: BoardSession, args: Args) -> dict[str, Any]:
    """What the drawing would be with a step written over, or with what else can be tried; nothing stays
    changed."""
    call = _text(args, "call", 20) or "change"
    if call not in TRIED:
        raise _Asked("This cannot be tried.")
    done = _CALLS[call](desk, args)
    return desk.changed({"view": done["view"], "back": desk.board.apply(back(done["splices"]))})


def _take_away(desk: BoardSession, args: Args) -> dict[str, Any]:
    return desk.changed(desk.board.take_away(_list(args, "steps", int, MOST_STEPS)))


def _needed(desk: BoardSession, args: Args) -> dict[str, Any]:
    return {"by": desk.board.needed_by(_list(args, "steps", int, MOST_STEPS))}


def _move(desk: BoardSession, args: Args) -> dict[str, Any]:
    return desk.changed(desk.board.move(_whole(args, "step"), _maybe(args, "before")))


def _line(desk: BoardSession, args: Args) -> dict[str, Any]:
    board = desk.board
    come = args.get("come")
    if come is not None and not isinstance(come, dict):
        raise _Asked("'come' has to be a line.")
    line = board.head_line() if args.get("line") is None else _whole(args, "line")
    return desk.changed(board.set_line(line, bool(args.get("gone")), come))


def _apply(desk: BoardSession, args: Args) -> dict[str, Any]:
    return desk.changed({"view": desk.board.apply(_list(args, "splices", dict, 400))})


def _replace(desk: BoardSession, args: Args) -> dict[str, Any]:
    """Put another document in the place of this one: as JSON, or as text."""
    data = args.get("document")
    document = from_json(data) if isinstance(data, dict) else from_text(_text(args, "text", 2_000_000))
    return desk.changed(desk.board.open(document))


def _lay_in(desk: BoardSession, args: Args) -> dict[str, Any]:
    return desk.changed(desk.board.lay_in(_text(args, "name", 255), args.get("drawing")))


def _put_on(desk: BoardSession, args: Args) -> dict[str, Any]:
    """Put what is chosen on a layer, with a further step."""
    names, layer = _list(args, "names", str, MOST_CHOSEN), as_name(_text(args, "layer", 255))
    return desk.changed(desk.board.write(f"layer {' and '.join(names)}; {layer}"))


def _state(desk: BoardSession, args: Args) -> dict[str, Any]:
    return desk.pointer(args).state(_sentence(args))


def _point(desk: BoardSession, args: Args) -> dict[str, Any]:
    hand = desk.pointer(args)
    return hand.point(_sentence(args), _pointing(desk, args), _maybe(args, "which") or 0)


def _tell(desk: BoardSession, args: Args) -> dict[str, Any]:
    return describe(desk.board, _list(args, "names", str, MOST_CHOSEN))


def _correct(desk: BoardSession, args: Args) -> dict[str, Any]:
    words = [_text(args, n, 400) for n in ("name", "number", "says")]
    stays = "end" if args.get("stays") == "end" else "start"
    return desk.changed(correct(desk.board, words[0], words[1], words[2], stays))


def _pull(desk: BoardSession, args: Args) -> dict[str, Any]:
    words = [_text(args, n, 400) for n in ("name", "which", "says")]
    return desk.changed(pull(desk.board, words[0], words[1], words[2]))


def _measure(desk: BoardSession, args: Args) -> dict[str, Any]:
    board = desk.board
    board.up_to(None)
    says = _text(args, "says")
    told = between(board.built, says, _text(args, "to")) if args.get("to") else measured(board.built, says)
    return {"told": [{"name": t.name, "shows": figures(board, t)} for t in told]}


def _window(desk: BoardSession, args: Args) -> dict[str, Any]:
    board = desk.board
    board.up_to(None)
    board.near().hidden = frozenset(_list(args, "hidden", str, MOST_CHOSEN))
    ox, oy = board.frame().origin
    xs = sorted(ox + _number(args, n, 0.0) for n in ("x", "x2"))
    ys = sorted(oy - _number(args, n, 0.0) for n in ("y", "y2"))
    return {"names": window(board, (xs[0], ys[0], xs[1], ys[1]))}


def _offered(_desk: BoardSession, _args: Args) -> dict[str, Any]:
    return {"kinds": offered()}


def _find(_desk: BoardSession, args: Args) -> dict[str, Any]:
    recent = tuple(_list(args, "recent", str, 20))
    return {"kinds": [k.says for k in found(_text(args, "says", 200), recent)]}


def _kept(desk: BoardSession, _args: Args) -> dict[str, Any]:
    return {"document": desk.board.kept(), "text": desk.board.text()}


def _view(desk: BoardSession, _args: Args) -> dict[str, Any]:
    return desk.board.view()


_CALLS: dict[str, Callable[[BoardSession, Args], dict[str, Any]]] = {
    "open": _open,
    "view": _view,
    "write": _write,
    "change": _change,
    "try": _try,
    "take_away": _take_away,
    "needed": _needed,
    "move": _move,
    "line": _line,
    "apply": _apply,
    "replace": _replace,
    "lay_in": _lay_in,
    "put_on": _put_on,
    "state": _state,
    "point": _point,
    "tell": _tell,
    "correct": _correct,
    "pull": _pull,
    "measure": _measure,
    "window": _window,
    "offered": _offered,
    "find": _find,
    "kept": _kept,
}
TRIED = ("change", "correct", "pull")
"""What can be tried before it is done."""
CALLS = tuple(_CALLS)
"""All calls."""
_CHANGES = frozenset(
    (
        "open",
        "write",
        "change",
        "take_away",
        "move",
        "line",
        "apply",
        "replace",
        "lay_in",
        "put_on",
        "correct",
        "pull",
    )
)
LOOKS = tuple(name for name in CALLS if name not in _CHANGES)
"""Calls that change nothing."""
