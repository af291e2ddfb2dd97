"""The disk that holds the database, where that is on this machine: it is never filled to the last byte, so
that what is kept can always be read and taken away, and everybody can sign in."""

from __future__ import annotations

import os
import shutil
import threading
import time
from typing import NamedTuple

from evenmark.services.errors import Full

VARIABLE = "EVENMARK_DATA"
LEAST_FREE, LEAST_SHARE = 500_000_000, 0.05
"""Bytes, and share of the whole, of which the smaller one stays free."""
LOOKED_EVERY = 1.0
"""Seconds from one look at the disk to the next."""
SAYS = (
    "The server's disk is full, so nothing more can be saved. What was saved is safe and can be "
    "downloaded. Tell whoever runs Even Mark, then try again."
)


class Disk(NamedTuple):
    """How many bytes are free, and whether those are fewer than stay free."""

    free: int
    full: bool


_lock = threading.Lock()
_known: tuple[float, Disk] | None = None


def disk() -> Disk | None:
    """Return how the disk is; None where the database is on another machine. Looked at once a second."""
    global _known
    place = os.environ.get(VARIABLE)
    if not place:
        return None
    with _lock:
        now = time.monotonic()
        if _known is None or now - _known[0] > LOOKED_EVERY:
            usage = shutil.disk_usage(place)
            least = min(LEAST_FREE, usage.total * LEAST_SHARE)
            _known = (now, Disk(usage.free, usage.free < least))
        return _known[1]


def see_room() -> None:
    """Raises Full where nothing more is taken in."""
    found = disk()
    if found is not None and found.full:
        raise Full(SAYS)
