"""Each pressed place is in what was drawn, for every kind of sentence (`tests.random_hand`)."""

from __future__ import annotations

import random

from tests.extent import DAY, FULL
from tests.random_hand import drawn, kinds

CASES = [(begins, seed) for begins in dict.fromkeys(kinds()) for seed in range(200)]
TODAY = CASES if FULL else random.Random(DAY).sample(CASES, 120)
"""Some two dozen of them come to a sentence each day."""


def test_every_pressed_place_is_in_what_was_drawn() -> None:
    found = [d for begins, seed in TODAY if (d := drawn(begins, seed)) is not None]
    assert len(found) >= 20
    wrong = [f"{d.says}: {d.wrong}" for d in found if d.wrong]
    assert not wrong, wrong
