"""The readers: `python -m evenmark.jobs.readers`. One service for all web processes of a machine, which works through drawings in processes of
their own, a few at once, each person one at a time. Pages are never behind it.
"""

from __future__ import annotations

import contextlib
import logging
import os
import threading
from multiprocessing.connection import Connection, Listener
from pathlib import Path
from typing import Any

from evenmark.services.bounded import KEY_VARIABLE, READERS_VARIABLE, Gone, near, warm_up
from evenmark.services.errors import Crowded
from evenmark.services.turns import Turns

COUNT_VARIABLE = "EVENMARK_READERS_AT_ONCE"
log = logging.getLogger(__name__)


def serve(listener: Listener, turns: Turns) -> None:
    """Take requests until the listener is closed."""
    while True:
        try:
            connection: Any = listener.accept()
        except OSError:
            return
        except Exception as why:  # somebody who does not know the key, or went away while saying it
            log.warning("a caller was turned away: %s", type(why).__name__)
            continue
        threading.Thread(target=_answer, args=(connection, turns), daemon=True).start()


def _answer(connection: Connection, turns: Turns) -> None:
    with contextlib.suppress(EOFError, OSError), connection:
        person, work, arguments, seconds = connection.recv()
        try:
            with turns.turn(person):
                if connection.poll():  # nobody says anything more: the caller is gone
                    return
                found: tuple[bool, Any] | None = near(work, arguments, seconds)
        except Crowded as why:
            found = (False, why)
        except Gone:
            found = None
        connection.send(found)


def main() -> None:
    """Start the readers at the address of the environment."""
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(name)s %(message)s")
    address = os.environ.pop(READERS_VARIABLE)
    warm_up()
    Path(address).unlink(missing_ok=True)
    at_once = int(os.environ.get(COUNT_VARIABLE, "0")) or max(1, os.cpu_count() or 1)
    key = os.environ.get(KEY_VARIABLE, "").encode()
    with Listener(address, family="AF_UNIX", backlog=128, authkey=key) as listener:
        os.chmod(address, 0o600)
        serve(listener, Turns(at_once))


if __name__ == "__main__":
    main()
