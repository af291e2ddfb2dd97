"""Waiting for what is waited for, not for a time: a busy machine is slow and nothing is wrong with it.

- *stands idle*: the processors have had nothing to do for so long that whatever is waited for will not come.
"""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from pathlib import Path

IDLE, AT_MOST = 30.0, 600.0
"""Seconds: how long the machine stands idle before a wait is given up, and how long it lasts at most."""


def until(holds: Callable[[], object], what: Callable[[], object] | str, idle: float = IDLE) -> None:
    """Wait until something holds. Raises AssertionError, saying what was waited for, once the machine has
    stood idle for so many seconds meanwhile."""
    began, idle_before = time.monotonic(), _idle()
    while not holds():
        if _idle() - idle_before > idle or time.monotonic() - began > AT_MOST:
            raise AssertionError(what if isinstance(what, str) else what())
        time.sleep(0.05)


def _idle() -> float:
    """Return for how many seconds all processors together have had nothing to do, divided by their number."""
    fields = Path("/proc/stat").read_text().split("\n", 1)[0].split()
    ticks = int(fields[4]) + int(fields[5])  # idle, and waiting for disks
    return ticks / os.sysconf("SC_CLK_TCK") / (os.cpu_count() or 1)
