"""What the server answers of boards while a page's own worker is not ready or cannot run: in processes of
their own with bounded time and memory, which remember the boards they were asked about last.

A call that changes the board is worked out and taken back again: only what is saved counts, and is done here,
too, once it is.
"""

from __future__ import annotations

import contextlib
import logging
import os
import resource
import threading
import time
from collections import OrderedDict, deque
from collections.abc import Iterator, Mapping, Sequence
from multiprocessing.connection import Connection
from typing import cast

from evenmark.core.board.answers import Edit
from evenmark.core.board.board import BoardDocument
from evenmark.core.board.edits import back
from evenmark.core.board.session import LOOKS, Args, BoardSession
from evenmark.core.construct.document import Document, KeptDocument, from_json, to_json
from evenmark.services.bounded import context
from evenmark.services.errors import Busy, Crowded
from evenmark.services.turns import MUCH, Used

SECONDS = 4.0
"""The longest that a call may take."""
MEMORY = 1024**3
MOST_DESKS, MOST_KNOWN = 40, 2000
MOST_PROCESSES = max(4, 2 * (os.cpu_count() or 1))
MOST_NOTES = 50
"""Notes of one board; whoever has missed one is given the whole list."""
MOST_ASKED, WITHIN = 240, 4.0
"""Calls of one person within so many seconds: a pointer that moves asks some twenty times a second."""
MOST_AT_ONCE = 3
"""Questions of one person that are under way: one is worked on, the others wait."""
MOST_INSIDE = 6
"""Questions of all that are worked on or wait, in one web process: its other threads are free for pages."""
LONGEST_WAIT = 1.5
"""Seconds for which a question waits for a process that is free."""
MANY = "Many boards are busy just now. It goes on in a moment."
log = logging.getLogger(__name__)
Acted = Sequence[Mapping[str, object]]
Key = tuple[int, int]
"""A board and its version."""
Note = tuple[Key, Key, list[Acted]]
"""What made one version of a board into another."""
Answer = Mapping[str, object] | None
"""What a call was answered; None by a process that does not know the board."""


class BoardSessions:
    """The processes that answer, each started when it is needed first and again after it was ended.

    - *note*: what was saved of a board since a process was asked about it last. It goes along with the next
      question, so that saving waits for nobody.
    - *free*: a process that answers nobody just now. A board goes to the one that knows it where that is
      free, else to another one: nobody waits for somebody else's board.
    """

    def __init__(self, most_inside: int = MOST_INSIDE) -> None:
        self._most_inside = most_inside
        self._inside = self._dear = 0
        self._used = Used()
        self._lock = threading.Condition()
        """Held to look something up or to note it down, never while something is worked out; told of when a
        process is free again."""
        self._free: list[_Answerer] = []
        self._count = 0
        self._notes: OrderedDict[int, list[Note]] = OrderedDict()
        self._people: dict[int, _Person] = {}

    def ask(self, person_id: int, key: Key, document: KeptDocument, call: str, args: Args) -> Answer:
        """Answer a call about a version of a board. Raises Busy where it takes too long, Crowded where one
        person asks too often or all processes are at work."""
        person = self._person(person_id)
        try:
            with person.turn():
                began = time.monotonic()
                try:
                    return self._ask(key, document, call, args, dear=self._used.of(str(person_id)) > MUCH)
                finally:
                    self._used.add(str(person_id), time.monotonic() - began)
        finally:
            with self._lock:
                person.at_once -= 1
                self._inside -= 1

    def done(self, board_id: int, base: int, version: int, acts: Sequence[Acted]) -> None:
        """Note down what was saved, for whoever is asked about the board next."""
        with self._lock:
            if not self._count:
                return
            notes = self._notes.setdefault(board_id, [])
            notes.append(((board_id, base), (board_id, version), list(acts)))
            del notes[:-MOST_NOTES]
            self._notes.move_to_end(board_id)
            while len(self._notes) > MOST_DESKS:
                self._notes.popitem(last=False)

    def warm_up(self) -> None:
        """Start a process, so that the first board does not wait for it."""
        with contextlib.suppress(Busy, Crowded):
            self.ask(0, (0, 0), to_json(Document()), "view", {})

    def close(self) -> None:
        """End the processes that answer nobody."""
        with self._lock:
            free, self._free = self._free, []
            self._count -= len(free)
        for answerer in free:
            answerer.end()

    def _person(self, person_id: int) -> _Person:
        """Count one more question of a person. Raises Crowded."""
        with self._lock:
            if len(self._people) > MOST_KNOWN:
                self._people = {k: p for k, p in self._people.items() if p.at_once}
            person = self._people.setdefault(person_id, _Person())
            if self._inside >= self._most_inside:
                raise Crowded(MANY)
            person.count(time.monotonic())
            person.at_once += 1
            self._inside += 1
            return person

    def _ask(self, key: Key, document: KeptDocument, call: str, args: Args, *, dear: bool) -> Answer:
        answerer, notes = self._take(key[0], dear)
        try:
            answer = answerer.exchange((key, notes, None, call, args))
            if answer is None:
                answer = answerer.exchange((key, [], document, call, args))
            answerer.knows(key[0])
            return answer
        finally:
            with self._lock:
                self._dear -= dear
                if answerer.runs:
                    self._free.append(answerer)
                else:
                    self._count -= 1
                self._lock.notify_all()

    def _take(self, board_id: int, dear: bool) -> tuple[_Answerer, list[Note]]:
        """Return a process for a board, and what it has to be told of it; wait a moment where all are at
        work. Raises Crowded."""
        with self._lock:
            self._wait_for_one(dear)
            self._dear += dear
            knowing = next((a for a in self._free if board_id in a.boards), None)
            if knowing is not None:
                self._free.remove(knowing)
                return knowing, self._notes.pop(board_id, [])
            least = min(self._free, key=lambda a: len(a.boards), default=None)
            if least is not None and (not least.boards or self._count >= MOST_PROCESSES):
                self._free.remove(least)
                return least, []
            self._count += 1
        try:
            return _Answerer(), []
        except OSError as why:
            with self._lock:
                self._count -= 1
                self._dear -= dear
            raise Crowded(MANY) from why

    def _wait_for_one(self, dear: bool) -> None:
        """Wait until a process is free or may be started, with the lock held; those who have asked much
        lately have half of them at most. Raises Crowded."""

        def is_one() -> bool:
            if dear and self._dear >= MOST_PROCESSES // 2:
                return False
            return bool(self._free) or self._count < MOST_PROCESSES

        if not self._lock.wait_for(is_one, LONGEST_WAIT):
            raise Crowded(MANY)


class _Person:
    """What is known of somebody who asks."""

    def __init__(self) -> None:
        self.at_once = 0
        self._times: deque[float] = deque()
        self._lock = threading.Lock()

    def count(self, now: float) -> None:
        """Count one more question. Raises Crowded."""
        while self._times and self._times[0] < now - WITHIN:
            self._times.popleft()
        if len(self._times) >= MOST_ASKED or self.at_once >= MOST_AT_ONCE:
            raise Crowded("Too many requests just now. It goes on in a moment.")
        self._times.append(now)

    @contextlib.contextmanager
    def turn(self) -> Iterator[None]:
        """One question at a time is worked on for each person. Raises Crowded."""
        if not self._lock.acquire(timeout=SECONDS + 1):
            raise Crowded("Too many requests just now. It goes on in a moment.")
        try:
            yield
        finally:
            self._lock.release()


class _Answerer:
    """A process that remembers boards and answers one question after the other."""

    def __init__(self) -> None:
        self.boards: OrderedDict[int, None] = OrderedDict()
        self._pipe, theirs = context().Pipe()
        self._process = context().Process(target=_answer, args=(theirs,), daemon=True)
        self._process.start()
        theirs.close()

    @property
    def runs(self) -> bool:
        """Whether it can be asked."""
        return not self._pipe.closed and self._process.is_alive()

    def knows(self, board_id: int) -> None:
        """Note that it remembers a board."""
        self.boards[board_id] = None
        self.boards.move_to_end(board_id)
        while len(self.boards) > MOST_DESKS:
            self.boards.popitem(last=False)

    def exchange(self, asked: tuple[object, ...]) -> Answer:
        """Return its answer. Raises Busy, and ends it, where there is none in time."""
        try:
            self._pipe.send(asked)
            if not self._pipe.poll(SECONDS):
                self.end()
                raise Busy("This drawing takes too long to calculate. Undo your last step.")
            return cast(Answer, self._pipe.recv())
        except (EOFError, OSError) as why:
            self.end()
            log.warning("a process for boards ended: %s", type(why).__name__)
            raise Busy("This could not be calculated. Undo your last step.") from why

    def end(self) -> None:
        """End it."""
        if self._process.is_alive():
            self._process.kill()
        self._process.join()
        self._pipe.close()


def _answer(pipe: Connection) -> None:
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    desks: OrderedDict[Key, BoardSession] = OrderedDict()
    while True:
        try:
            asked = pipe.recv()
        except (EOFError, OSError):
            return
        try:
            key, notes, document, call, args = asked
            for note in notes:
                _done(desks, *note)
            answer = _asked(desks, key, document, call, args)
        except MemoryError:
            desks.clear()
            answer = {"refused": "This drawing needs more memory than allowed. Undo your last step."}
        except Exception as why:  # whatever it is, the next call is answered
            log.exception("a call about a board broke")
            answer = {"refused": f"This could not be calculated ({type(why).__name__}). Undo your last step."}
        pipe.send(answer)
        while len(desks) > MOST_DESKS:
            desks.popitem(last=False)


def _asked(
    desks: OrderedDict[Key, BoardSession],
    key: Key,
    document: KeptDocument | None,
    call: str,
    args: Args,
) -> Answer:
    desk = desks.get(key)
    if desk is None:
        if document is None:
            return None
        desk = desks[key] = BoardSession()
        desk.open(BoardDocument(from_json(document)))
        desk.board.view()
    desks.move_to_end(key)
    if call in ("open", "apply"):
        return {"refused": "Unknown request. Reload the page."}
    answer = desk.ask(call, args)
    if call not in LOOKS and "splices" in answer:
        desk.apply(back(cast(list[Edit], answer["splices"])))
    return answer


def _done(desks: OrderedDict[Key, BoardSession], old: Key, new: Key, acts: Sequence[Acted]) -> None:
    desk = desks.pop(old, None)
    if desk is not None and new not in desks:
        for edits in acts:
            desk.apply(edits)
        desks[new] = desk
