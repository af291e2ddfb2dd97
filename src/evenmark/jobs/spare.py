"""Spares: a program that has loaded everything and waits to take the place of its like, which takes a moment
then instead of the many seconds that loading takes on a busy machine."""

from __future__ import annotations

import os
import sys

VARIABLE = "EVENMARK_SPARE"


def wait_for_turn() -> None:
    """Return at once for a program that is no spare; else when whoever started it says so on its standard
    input. Ends the program where that one is gone."""
    if os.environ.pop(VARIABLE, "") and not sys.stdin.readline():
        sys.exit(0)
