"""A slice of the mutated files: each is read or refused with a sentence; `python -m tests.mutations 10000`
runs many more."""

from __future__ import annotations

import time

import pytest

from tests import mutations
from tests.extent import seeds
from tests.mutations import LONGEST, MUTATORS, mutated, outcome, the_key

GOOD, KEY = mutations.seeds(), the_key()


@pytest.mark.parametrize("part", seeds(12))
def test_no_file_crashes_or_hangs(part: int) -> None:
    for number in range(20_000 + part * 25, 20_000 + part * 25 + 25):
        _, data = mutated(number, GOOD)
        began = time.process_time()
        outcome(data, KEY)
        assert time.process_time() - began < LONGEST, number


def test_the_same_number_makes_the_same_file_and_every_way_occurs() -> None:
    made = [mutated(n, GOOD) for n in range(60)]
    assert made[:20] == [mutated(n, GOOD) for n in range(20)]
    assert {how for how, _ in made} == {m.__name__ for m in MUTATORS}
