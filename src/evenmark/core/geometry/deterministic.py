"""Sines, cosines and directions whose last digit is the same on every machine.

The functions of the system's library may differ in their last digit from one machine to the next, and do from
a server to a browser. These use nothing but sums, products and quotients of doubles, which IEEE 754 fixes: a
table of sines and cosines, worked out in whole numbers, and a few terms of a series for the rest of the
angle. They lie within two units in the last place of the true value.
"""

from __future__ import annotations

import math
from bisect import bisect

from evenmark.core.geometry import tolerance as tol

_PARTS = 128
"""Into how many steps a whole turn is parted."""
_BITS = 140
_ONE = 1 << _BITS


def _pi() -> int:
    """Return pi in units of 2^-_BITS, by Machin's formula: pi = 16 atan(1/5) - 4 atan(1/239)."""

    def atan_of(n: int) -> int:
        term = total = (_ONE << 16) // n
        k = 1
        while term:
            term //= -n * n
            k += 2
            total += term // k
        return total

    return (16 * atan_of(5) - 4 * atan_of(239)) >> 16


_PI = _pi()


def _double(units: int) -> float:
    return units / _ONE  # the quotient of two whole numbers is rounded once


def _split(units: int) -> tuple[float, float]:
    """Return a number as the sum of two doubles."""
    high = _double(units)
    top, bottom = high.as_integer_ratio()
    return high, _double(units - top * _ONE // bottom)


def _series(angle: int, first: int, k: int) -> int:
    """Return the sum of the sine's or cosine's series at an angle."""
    total, term, sign = 0, first, 1
    square = angle * angle >> _BITS
    while term:
        total += sign * term
        term = (term * square >> _BITS) // (k * (k + 1))
        sign, k = -sign, k + 2
    return total


def _table() -> list[tuple[float, float, float, float]]:
    """Return sine and cosine of every step of a turn, each as the sum of two doubles."""
    out = []
    for k in range(_PARTS):
        quarter, rest = divmod(k, _PARTS // 4)
        angle = 2 * _PI * rest // _PARTS
        sine, cosine = (0, _ONE) if rest == 0 else (_series(angle, angle, 2), _series(angle, _ONE, 1))
        for _ in range(quarter):
            sine, cosine = cosine, -sine
        out.append((*_split(sine), *_split(cosine)))
    return out


_TABLE = _table()
_STEP = 2 * _PI // _PARTS
_PER_RAD = _PARTS / (2.0 * math.pi)
# a step as the sum of three doubles, of which the first two have so few bits that small multiples are exact
_STEP_1 = _double(_STEP >> (_BITS - 30) << (_BITS - 30))
_STEP_2 = _double((_STEP - int(_STEP_1 * 2**60) * (_ONE >> 60)) >> (_BITS - 60) << (_BITS - 60))
_STEP_3 = _double(_STEP - (_STEP >> (_BITS - 60) << (_BITS - 60)))
_STEPS = [_split(_STEP * k) for k in range(_PARTS)]


def cos_sin(rad: float) -> tuple[float, float]:
    """Return cosine and sine of an angle.

    >>> cos_sin(0.0), cos_sin(math.pi / 6)[1]
    ((1.0, 0.0), 0.49999999999999994)
    """
    if not -1e4 < rad < 1e4:
        rad = math.fmod(rad, 2.0 * math.pi)
    k = round(rad * _PER_RAD)
    h = ((rad - k * _STEP_1) - k * _STEP_2) - k * _STEP_3
    s, s_low, c, c_low = _TABLE[k % _PARTS]
    q = h * h
    sin_h = h + h * q * (q * (1.0 / 120.0 - q / 5040.0) - 1.0 / 6.0)
    cos_less = q * (q * (1.0 / 24.0 - q / 720.0) - 0.5)
    return (
        c + (c_low + (c * cos_less - s * sin_h)),
        s + (s_low + (s * cos_less + c * sin_h)),
    )


def _tangents() -> list[float]:
    """Return the tangents half way between the steps of an eighth of a turn."""
    out = []
    for k in range(_PARTS // 8):
        angle = _STEP * (2 * k + 1) // 2
        out.append(_series(angle, angle, 2) / _series(angle, _ONE, 1))
    return out


_BETWEEN = _tangents()


def turn_of(y: float, x: float) -> float:
    """Return the direction of a vector, in (-pi, pi], as ``math.atan2`` does.

    >>> turn_of(1.0, 1.0) == math.pi / 4, turn_of(0.0, -1.0) == math.pi, turn_of(-2.0, 0.0) == -math.pi / 2
    (True, True, True)
    """
    ax, ay = abs(x), abs(y)
    if ay == 0.0 or ax == 0.0 or not tol.SMALLEST < max(ax, ay) < 1.0 / tol.SMALLEST:
        return math.atan2(y, x)  # exact, or beyond any drawing
    low, high = (ay, ax) if ay <= ax else (ax, ay)
    k = bisect(_BETWEEN, low / high)
    if k:
        s, s_low, c, c_low = _TABLE[k]
        (p, p_low), (r, r_low) = _product(low, c), _product(high, s)
        across = (p - r) + ((p_low - r_low) + (low * c_low - high * s_low))
        along = high * c + low * s
    else:
        across, along = low, high
    d = across / along
    q = d * d
    step, step_low = _STEPS[k]
    rest = d + d * q * (q * (0.2 - q * (1.0 / 7.0 - q * (1.0 / 9.0 - q / 11.0))) - 1.0 / 3.0)
    # in the eighth of a turn in which the vector lies: from an axis, one way or the other
    if ay <= ax:
        turn = step + (step_low + rest) if x > 0.0 else math.pi - (step + (step_low + rest - _PI_LOW))
    else:
        quarter, quarter_low = _STEPS[_PARTS // 4]
        if x > 0.0:
            turn = quarter - (step + (step_low + rest - quarter_low))
        else:
            turn = quarter + (step + (step_low + rest + quarter_low))
    return turn if y > 0.0 else -turn


def _product(a: float, b: float) -> tuple[float, float]:
    """Return a product as the sum of two doubles (Dekker 1971, from memory)."""
    p, u, v = a * b, _HALVES * a, _HALVES * b
    a_high, b_high = u - (u - a), v - (v - b)
    a_low, b_low = a - a_high, b - b_high
    return p, ((a_high * b_high - p) + a_high * b_low + a_low * b_high) + a_low * b_low


_HALVES = 134217729.0
_PI_LOW = _split(_PI)[1]


def tangent(rad: float) -> float:
    """Return the tangent of an angle."""
    c, s = cos_sin(rad)
    return s / c
