"""What the server answers of boards while a page's own worker is not ready or cannot run: in a process of its
own with bounded time and memory, which remembers the boards it was asked about last.

A call that changes the board is worked out and taken back again: only what is saved counts, and is done here,
too, once it is.
"""

from __future__ import annotations

import contextlib
import logging
import multiprocessing
import resource
import threading
import time
from collections import OrderedDict, deque
from collections.abc import Sequence
from multiprocessing.connection import Connection
from typing import Any

from evenmark.core.board.board import Board
from evenmark.core.board.desk import LOOKS, Desk
from evenmark.core.board.splices import back
from evenmark.core.construct.document import from_json
from evenmark.services.errors import Busy, Crowded

SECONDS = 4.0
"""The longest that a call may take."""
MEMORY = 1024**3
MOST_DESKS, MOST_KNOWN = 40, 2000
MOST_ASKED, WITHIN = 240, 4.0
"""Calls of one person within so many seconds: a pointer that moves asks some twenty times a second."""
log = logging.getLogger(__name__)
_context = multiprocessing.get_context("forkserver")
Key = tuple[int, int]
"""A board and its version."""


class Desks:
    """The process that answers, started when it is needed first and again after it was ended."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: multiprocessing.process.BaseProcess | None = None
        self._pipe: Connection | None = None
        self._asked: dict[int, deque[float]] = {}

    def ask(self, person_id: int, key: Key, document: dict[str, Any], call: str, args: dict[str, Any]) -> Any:
        """Answer a call about a version of a board. Raises Busy where it takes too long, Crowded where one
        person asks too often."""
        self._throttle(person_id)
        with self._lock:
            answer = self._exchange(("ask", key, None, call, args))
            if answer is None:
                answer = self._exchange(("ask", key, document, call, args))
            return answer

    def done(self, board_id: int, base: int, version: int, acts: Sequence[Sequence[dict[str, Any]]]) -> None:
        """Do what was saved, where the board is at hand."""
        if self._pipe is None:
            return
        with self._lock, contextlib.suppress(Busy):
            self._exchange(("done", (board_id, base), (board_id, version), list(acts)))

    def close(self) -> None:
        """End the process."""
        with self._lock:
            self._end()

    def _throttle(self, person_id: int) -> None:
        now = time.monotonic()
        with self._lock:
            if len(self._asked) > MOST_KNOWN:
                self._asked.clear()
            times = self._asked.setdefault(person_id, deque())
            while times and times[0] < now - WITHIN:
                times.popleft()
            if len(times) >= MOST_ASKED:
                raise Crowded("The board is asked too often just now. It goes on in a moment.")
            times.append(now)

    def _exchange(self, asked: tuple[Any, ...]) -> Any:
        if self._process is None or not self._process.is_alive() or self._pipe is None:
            self._begin()
        assert self._pipe is not None
        try:
            self._pipe.send(asked)
            if not self._pipe.poll(SECONDS):
                self._end()
                raise Busy("This drawing takes too long to work through. Take back what was done last.")
            return self._pipe.recv()
        except (EOFError, OSError) as why:
            self._end()
            log.warning("the process for boards ended: %s", type(why).__name__)
            raise Busy("This could not be worked out. Take back what was done last.") from why

    def _begin(self) -> None:
        self._pipe, theirs = _context.Pipe()
        self._process = _context.Process(target=_answer, args=(theirs,), daemon=True)
        self._process.start()
        theirs.close()

    def _end(self) -> None:
        if self._process is not None and self._process.is_alive():
            self._process.kill()
            self._process.join()
        if self._pipe is not None:
            self._pipe.close()
        self._process = self._pipe = None


def _answer(pipe: Connection) -> None:
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    desks: OrderedDict[Key, Desk] = OrderedDict()
    while True:
        try:
            asked = pipe.recv()
        except (EOFError, OSError):
            return
        try:
            answer = _asked(desks, *asked[1:]) if asked[0] == "ask" else _done(desks, *asked[1:])
        except MemoryError:
            desks.clear()
            answer = {"refused": "This drawing takes more memory than is allowed."}
        except Exception as why:  # whatever it is, the next call is answered
            log.exception("a call about a board broke")
            answer = {"refused": f"This could not be worked out ({type(why).__name__})."}
        pipe.send(answer)
        while len(desks) > MOST_DESKS:
            desks.popitem(last=False)


def _asked(
    desks: OrderedDict[Key, Desk], key: Key, document: dict[str, Any] | None, call: str, args: dict[str, Any]
) -> dict[str, Any] | None:
    desk = desks.get(key)
    if desk is None:
        if document is None:
            return None
        desk = desks[key] = Desk()
        desk.open(Board(from_json(document)))
        desk.board.view()
    desks.move_to_end(key)
    if call in ("open", "apply"):
        return {"refused": "There is no such call."}
    answer = desk.ask(call, args)
    if call not in LOOKS and "splices" in answer:
        desk.changed(desk.board.apply(back(answer["splices"])))
    return answer


def _done(desks: OrderedDict[Key, Desk], old: Key, new: Key, acts: list[Any]) -> dict[str, Any]:
    desk = desks.pop(old, None)
    if desk is not None and new not in desks:
        for splices in acts:
            desk.changed(desk.board.apply(splices))
        desks[new] = desk
    return {}
