"""Fair turns: so many pieces of work at once, for each person one at a time, and persons in turn.

- *turn*: the right to have a piece of work done now. Somebody who sends eight files gets one turn, then waits
  behind everybody else.
"""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Iterator
from contextlib import contextmanager

from evenmark.services.errors import Crowded

MOST_OF_ONE = 4
"""Pieces of work that may wait for one person; more are refused at once."""


class Turns:
    """Hands out turns to threads."""

    def __init__(self, at_once: int) -> None:
        self.at_once = at_once
        self._changed = threading.Condition()
        self._waiting: dict[str, deque[object]] = {}
        """Who waits with what, in the order in which persons come next."""
        self._working: set[str] = set()
        self._nameless = 0

    @contextmanager
    def turn(self, person: str) -> Iterator[None]:
        """Wait for a turn and hold it. Raises Crowded when too much of this person's waits already.

        Work for nobody in particular (an empty name) counts as a person of its own each time.
        """
        me = object()
        with self._changed:
            if not person:
                self._nameless += 1
                person = f"nobody {self._nameless}"
            queue = self._waiting.setdefault(person, deque())
            if len(queue) >= MOST_OF_ONE:
                raise Crowded(
                    "Several of your drawings are being read already. Wait for them, then try again."
                )
            queue.append(me)
            while not self._is_next(person, me):
                self._changed.wait()
            queue.popleft()
            del self._waiting[person]
            if queue:
                self._waiting[person] = queue  # behind everybody else
            self._working.add(person)
            self._changed.notify_all()
        try:
            yield
        finally:
            with self._changed:
                self._working.discard(person)
                self._changed.notify_all()

    def _is_next(self, person: str, me: object) -> bool:
        if len(self._working) >= self.at_once:
            return False
        first = next((p for p in self._waiting if p not in self._working), None)
        return first == person and self._waiting[person][0] is me
