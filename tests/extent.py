"""How much of the tests is done: every day a little of what is random or long, all of it by ``./test all``.

- *day*: the number from which random tests take their seeds, printed at the head of a run; a run is repeated
  with ``EVENMARK_TEST_DAY=<number> ./test``. A seed that fails becomes a case of its own.
- *in full*: ``./test all``.
"""

from __future__ import annotations

import os
import random
from datetime import UTC, datetime
from typing import TypeVar

import pytest

T = TypeVar("T")
SEEDS_A_DAY = 5
FULL_VARIABLE, DAY_VARIABLE = "EVENMARK_TEST_FULL", "EVENMARK_TEST_DAY"
# the processes of one run are of one day, though midnight may pass
DAY = int(os.environ.setdefault(DAY_VARIABLE, str(datetime.now(UTC).toordinal())))
FULL = os.environ.get(FULL_VARIABLE, "") not in ("", "0")

only_in_full = pytest.mark.skipif(not FULL, reason="in full by ./test all")


def seeds(count: int, *known: int) -> list[int]:
    """Return seeds for a random test: of so many some each day, all in full; those that failed once
    always."""
    if FULL:
        chosen = list(range(count))
    else:
        chosen = random.Random(DAY).sample(range(count), min(SEEDS_A_DAY, count))
    return sorted({*chosen, *known})


def examples(count: int) -> int:
    """Return how many examples a property is tried with: so many in full, a fifth each day."""
    return count if FULL else max(count // 5, 10)


def daily(cases: list[T], count: int = 1) -> list[T]:
    """Return some of many alike cases each day, all in full, in their order."""
    if FULL or count >= len(cases):
        return cases
    chosen = set(random.Random(DAY).sample(range(len(cases)), count))
    return [case for n, case in enumerate(cases) if n in chosen]


def size(daily: int, full: int) -> int:
    """Return how much of something is taken each day, and in full."""
    return full if FULL else daily
