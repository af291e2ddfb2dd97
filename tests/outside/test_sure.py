"""Sines, cosines, tangents and directions against mpmath's, at fifty digits."""

from __future__ import annotations

import math
import random

import mpmath
import pytest

from evenmark.core.geometry.deterministic import cos_sin, tangent, turn_of
from evenmark.core.geometry.exact import cosine, sine

MOST_ULPS = 2.0


def off(found: float, true: mpmath.mpf) -> float:
    """How far a double lies from a number, in units of its last place."""
    return float(abs(mpmath.mpf(found) - true) / math.ulp(found)) if found else float(abs(true)) / 5e-324


@pytest.mark.parametrize("seed", range(4))
def test_sines_cosines_and_tangents(seed: int) -> None:
    chance = random.Random(seed)
    with mpmath.workdps(50):
        for _ in range(1500):
            x = chance.choice([chance.uniform(-7, 7), chance.uniform(-1e-3, 1e-3), chance.uniform(-500, 500)])
            c, s = cos_sin(x)
            true = mpmath.mpf(x)
            assert abs(mpmath.mpf(c) - mpmath.cos(true)) <= 1.2e-16
            assert abs(mpmath.mpf(s) - mpmath.sin(true)) <= 1.2e-16
            if abs(x) < 1.5:
                assert off(s, mpmath.sin(true)) <= MOST_ULPS
                assert off(tangent(x), mpmath.tan(true)) <= 3.0


@pytest.mark.parametrize("seed", range(4))
def test_directions(seed: int) -> None:
    chance = random.Random(seed)
    with mpmath.workdps(50):
        for _ in range(1500):
            y, x = (chance.uniform(-9, 9) * 10 ** chance.choice([0, 0, -5, 6]) for _ in "yx")
            assert off(turn_of(y, x), mpmath.atan2(mpmath.mpf(y), mpmath.mpf(x))) <= MOST_ULPS + 0.5


@pytest.mark.parametrize(
    ("y", "x"), [(0.0, 1.0), (1.0, 0.0), (0.0, -1.0), (-1.0, 0.0), (1.0, 1.0), (-2.0, 2.0)]
)
def test_axes_and_diagonals_are_those_of_the_library(y: float, x: float) -> None:
    assert turn_of(y, x) == math.atan2(y, x)


def test_angles_that_mirror_each_other_have_the_same_sines() -> None:
    for k in range(1, 720):
        d = k / 8
        assert sine(d) == sine(180.0 - d) == -sine(-d) == cosine(90.0 - d)
        assert cosine(d) == cosine(-d)
