"""How large a bench is: in full, or at its smallest size, at which `./test` starts each of them so that none
is broken when it is needed. The figures of the smallest size say nothing."""

from __future__ import annotations

import os
from typing import TypeVar

T = TypeVar("T", int, float)
SMALLEST = os.environ.get("EVENMARK_BENCH_SMALLEST", "") not in ("", "0")


def sized(full: T, smallest: T) -> T:
    """Return one of two sizes."""
    return smallest if SMALLEST else full
