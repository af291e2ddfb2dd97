"""The slips that this engine can name, each a function that puts forward hypotheses (marking.md, Causes).

Each predicts numbers and speaks only when the drawing agrees with them within the exact tolerance. A slip of
one end of a feature also accounts for what that end moves: lengths, directions, corners, joints.
"""

from __future__ import annotations

from evenmark.core.marking.explain import Guess
from evenmark.core.marking.slips import (
    ends,
    leftover,
    lettering,
    numbers,
    pieces,
    rounds,
    senses,
    sizes,
    whole,
)

ALL: tuple[Guess, ...] = (
    *whole.ALL,
    *rounds.ALL,
    *ends.ALL,
    *numbers.ALL,
    *sizes.ALL,
    *pieces.ALL,
    *leftover.ALL,
    *lettering.ALL,
    *senses.ALL,
)
"""Every hypothesis, in no order that matters: what explains most is kept."""
