"""Whatever is accepted gets marks: a hundred and fifty drawings a day, three thousand in full
(`tests.whatever`)."""

from __future__ import annotations

import random
import time

import pytest

from tests.extent import DAY, FULL
from tests.whatever import LONGEST, an_attempt, outcome

IN_ALL, A_DAY, AT_ONCE = 3000, 150, 25
FIRST = [0] if FULL else [random.Random(DAY).randrange(10**6) // AT_ONCE * AT_ONCE]


@pytest.mark.parametrize("first", range(0, IN_ALL if FULL else A_DAY, AT_ONCE))
def test_whatever_is_accepted_gets_marks(first: int) -> None:
    for number in range(FIRST[0] + first, FIRST[0] + first + AT_ONCE):
        exercise, how, data = an_attempt(number)
        began = time.process_time()
        try:
            outcome(exercise, data)
        except Exception as why:
            raise AssertionError(f"{number} of day {DAY}: {how} for {exercise.name}") from why
        assert time.process_time() - began < LONGEST, number
