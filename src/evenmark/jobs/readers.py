"""The readers: `python -m evenmark.jobs.readers`. One service for all web processes of a machine, which works
through drawings in processes of their own, a few at once, each person one at a time. Pages are never behind
it.
"""

from __future__ import annotations

import contextlib
import logging
import os
import threading
import time
from multiprocessing import AuthenticationError
from multiprocessing.connection import Connection, Listener, answer_challenge, deliver_challenge
from pathlib import Path
from typing import Any

from evenmark.jobs.spare import wait_for_turn
from evenmark.services.bounded import KEY_VARIABLE, READERS_VARIABLE, Gone, Worked, near, warm_up
from evenmark.services.errors import Crowded
from evenmark.services.turns import Turns

COUNT_VARIABLE = "EVENMARK_READERS_AT_ONCE"
log = logging.getLogger(__name__)


def serve(listener: Listener, turns: Turns, key: bytes) -> None:
    """Take requests for good; each in a thread of its own, so that nobody who stalls holds up another."""
    while True:
        try:
            connection: Any = listener.accept()
        except OSError as why:
            log.warning("a caller was not understood: %s", type(why).__name__)
            time.sleep(0.05)
            continue
        threading.Thread(target=_answer, args=(connection, turns, key), daemon=True).start()


def _answer(connection: Connection, turns: Turns, key: bytes) -> None:
    # whoever does not know the key, or only looks whether anybody is there, is gone again
    with contextlib.suppress(EOFError, OSError, AuthenticationError), connection:
        deliver_challenge(connection, key)
        answer_challenge(connection, key)
        person, work, arguments, seconds = connection.recv()
        try:
            with turns.turn(person) as turn:
                if connection.poll():  # nobody says anything more: the caller is gone
                    turn.cost = 0.0
                    return
                worked = near(work, arguments, seconds)
                turn.cost = worked.cost
                found: Worked | None = worked
        except Crowded as why:
            found = Worked(False, why, 0.0)
        except Gone:
            found = None
        connection.send(found)


def main() -> None:
    """Start the readers at the address of the environment."""
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(name)s %(message)s")
    address = os.environ.pop(READERS_VARIABLE)
    warm_up()
    wait_for_turn()
    Path(address).unlink(missing_ok=True)
    at_once = int(os.environ.get(COUNT_VARIABLE, "0")) or max(1, os.cpu_count() or 1)
    key = os.environ.get(KEY_VARIABLE, "").encode()
    with Listener(address, family="AF_UNIX", backlog=128) as listener:
        os.chmod(address, 0o600)
        serve(listener, Turns(at_once), key)


if __name__ == "__main__":
    main()
