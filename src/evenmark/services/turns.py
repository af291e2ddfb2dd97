"""Fair turns: so many pieces of work at once, for each person one at a time; who has used little of the
processors lately comes first.

- *turn*: the right to have a piece of work done now. Somebody who sends eight files gets one turn, then waits
  behind everybody else.
- *used*: the seconds of processor time that a person's work took lately, whatever came of it; half of it is
  forgotten every half minute.
- *dear*: the work of somebody who has used much, and work that has gone on for a while. What is dear never
  takes the last place: the cheap passes it."""

from __future__ import annotations

import math
import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from evenmark.services.errors import Crowded

MOST_OF_ONE = 4
"""Pieces of work that may wait for one person; more are refused at once."""
HALVED_IN = 30.0
"""Seconds after which half of what was used is forgotten."""
MUCH = 3.0
"""Seconds of processor time from which on a person's work is dear."""
LONG = 2.0
"""Seconds after which a piece of work is passed by others."""
MOST_PASSING = 2
"""Places beside the others for what passes work that takes long."""
MOST_KNOWN = 5000


class Used:
    """How much of the processors persons have used lately."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._known: dict[str, tuple[float, float]] = {}

    def of(self, person: str) -> float:
        """Return the seconds that a person has used, what is long ago forgotten."""
        used, at = self._known.get(person, (0.0, 0.0))
        return used * math.exp2((at - self._clock()) / HALVED_IN)

    def add(self, person: str, seconds: float) -> None:
        """Count seconds of a person's work."""
        if len(self._known) > MOST_KNOWN:
            self._known = {p: k for p, k in self._known.items() if self.of(p) > MUCH / 100}
        self._known[person] = (self.of(person) + max(seconds, 0.0), self._clock())


class Turn:
    """One turn: since when it is held, and how much was used, once that is known."""

    def __init__(self, began: float) -> None:
        self.began = began
        self.cost: float | None = None


class Turns:
    """Hands out turns to threads."""

    def __init__(self, at_once: int, clock: Callable[[], float] = time.monotonic) -> None:
        self.at_once = at_once
        self.used = Used(clock)
        self._clock = clock
        self._changed = threading.Condition()
        self._waiting: dict[str, deque[object]] = {}
        """Who waits with what, in the order in which they came."""
        self._working: dict[str, Turn] = {}
        self._nameless = 0

    @contextmanager
    def turn(self, person: str) -> Iterator[Turn]:
        """Wait for a turn and hold it; what it cost is counted when it ends, the time that it was held where
        nobody says. Raises Crowded when too much of this person's waits already.

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
                self._changed.wait(LONG / 4)  # work that goes on for long is passed without anybody telling
            queue.popleft()
            del self._waiting[person]
            if queue:
                self._waiting[person] = queue  # behind everybody else
            turn = self._working[person] = Turn(self._clock())
            self._changed.notify_all()
        try:
            yield turn
        finally:
            with self._changed:
                del self._working[person]
                self.used.add(person, self._clock() - turn.began if turn.cost is None else turn.cost)
                self._changed.notify_all()

    def _is_next(self, person: str, me: object) -> bool:
        if person in self._working or self._waiting[person][0] is not me:
            return False
        dear = {p for p in self._waiting if self.used.of(p) > MUCH}
        if not self._may_begin(dear=person in dear):
            return False
        rivals = (p for p in self._waiting if p not in self._working and (p in dear) <= (person in dear))
        first = min(rivals, key=lambda p: round(self.used.of(p), 1))
        return first == person

    def _may_begin(self, *, dear: bool) -> bool:
        """Whether there is a place: all but one for what is dear; for the rest, also beside what has gone on
        for long."""
        count = len(self._working)
        if dear:
            return count < max(1, self.at_once - 1)
        young = sum(self._clock() - t.began < LONG for t in self._working.values())
        return count < self.at_once or (young < self.at_once and count < self.at_once + MOST_PASSING)
