"""Exact arithmetic: whole and rational numbers stay what they are as long as an answer is rational.

>>> sine(30), root(Fraction(9, 4)), power(2, -2)
(Fraction(1, 2), Fraction(3, 2), Fraction(1, 4))
"""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction

from evenmark.core.geometry.deterministic import cos_sin, tangent, turn_of

Exact = int | Fraction
Number = int | Fraction | float

LARGEST = 10**15
"""No number in a drawing is larger; one that is was not meant."""


MOST_BITS = 512
"""A rational number whose terms are longer is worked with as the nearest double: no drawing says one."""


def bounded(x: Number) -> Number:
    """Return a number, as the nearest double where its terms have grown beyond what anybody said.

    >>> bounded(Fraction(1, 3)), bounded(Fraction(1, 3**999))
    (Fraction(1, 3), 0.0)
    """
    kind = type(x)
    if kind is int:
        return x if x.bit_length() <= 2 * MOST_BITS else float(x)  # type: ignore[union-attr]
    if kind is Fraction and x.denominator.bit_length() > MOST_BITS:  # type: ignore[union-attr]
        return float(x)
    return x


_TENS: list[int] = [10**k for k in range(16)]


def double(x: Number) -> float:
    """Return the nearest double."""
    if type(x) is Fraction:  # as `float` does it, without looking for what kind of number it is
        return x.numerator / x.denominator
    return float(x)


def decimal(whole: str, rest: str) -> Exact:
    """Return a decimal from the digits before and behind its point.

    >>> decimal("12", "25"), decimal("3", "0")
    (Fraction(49, 4), 3)
    """
    return ratio(int(whole + rest), _TENS[len(rest)] if len(rest) < len(_TENS) else 10 ** len(rest))


def ratio(top: int, bottom: int) -> Exact:
    """Return a whole number by another that is positive. Raises ZeroDivisionError."""
    if bottom == 0:
        raise ZeroDivisionError
    by = math.gcd(top, bottom)
    if by == bottom:
        return top // bottom
    return Fraction(top // by, bottom // by)


def root(x: Number) -> Number:
    """Return a square root, exact where it is rational."""
    if x < 0:
        raise ValueError("A negative number has no root. Change the sign or the formula.")
    if isinstance(x, int | Fraction):
        top, bottom = math.isqrt(x.numerator), math.isqrt(x.denominator)
        if top * top == x.numerator and bottom * bottom == x.denominator:
            return top if bottom == 1 else Fraction(top, bottom)
    return math.sqrt(x)


_SINES: dict[Exact, Exact] = {
    0: 0,
    30: Fraction(1, 2),
    90: 1,
    150: Fraction(1, 2),
    180: 0,
    210: Fraction(-1, 2),
    270: -1,
    330: Fraction(-1, 2),
}


def sine(degrees: Number) -> Number:
    """Return the sine of an angle in degrees, exact where it is rational (Niven's theorem: at multiples of 30
    alone)."""
    if not isinstance(degrees, float):
        degrees = degrees % 360
        found = _SINES.get(degrees)
        if found is not None:
            return found
    return _cosine_sine(degrees)[1]


def cosine(degrees: Number) -> Number:
    """Return the cosine of an angle in degrees, exact where it is rational."""
    if not isinstance(degrees, float):
        found = _SINES.get((degrees + 90) % 360)
        if found is not None:
            return found
    return _cosine_sine(degrees)[0]


def _cosine_sine(degrees: Number) -> tuple[float, float]:
    """Return cosine and sine of an angle in degrees: those of its place in the first eighth of a turn, so
    that angles which mirror each other have the same ones to the last digit."""
    at = double(degrees % 360)
    down, left = at > 180.0, False
    at = 360.0 - at if down else at
    if at > 90.0:
        at, left = 180.0 - at, True
    if at == 45.0:
        c = s = math.sqrt(0.5)
    elif at > 45.0:
        s, c = cos_sin(math.radians(90.0 - at))
    else:
        c, s = cos_sin(math.radians(at))
    return (-c if left else c), (-s if down else s)


_TANGENTS: dict[Exact, Exact] = {0: 0, 45: 1, 135: -1}


def _tangent(degrees: Number) -> Number:
    if not isinstance(degrees, float):
        degrees = degrees % 180
        if degrees in _TANGENTS:
            return _TANGENTS[degrees]
        if degrees == 90:
            raise ValueError("A right angle has no tangent. Use another angle.")
    return tangent(math.radians(degrees))


def _arc(of: Callable[[float], float]) -> Callable[[Number], Number]:
    def found(x: Number) -> Number:
        if not -1 <= x <= 1:
            raise ValueError("No angle has a sine or cosine beyond 1. Use a number from −1 to 1.")
        return math.degrees(of(float(x)))

    return found


FUNCTIONS: dict[str, tuple[int, Callable[..., Number]]] = {
    "sqrt": (1, root),
    "sin": (1, sine),
    "cos": (1, cosine),
    "tan": (1, _tangent),
    "asin": (1, _arc(lambda x: turn_of(x, math.sqrt((1.0 - x) * (1.0 + x))))),
    "acos": (1, _arc(lambda x: turn_of(math.sqrt((1.0 - x) * (1.0 + x)), x))),
    "atan": (1, lambda x: math.degrees(turn_of(float(x), 1.0))),
    "abs": (1, abs),
    "round": (1, lambda x: math.floor(x + Fraction(1, 2))),
    "min": (0, min),
    "max": (0, max),
}
"""The functions that a formula may hold, with how many numbers each takes (0: any); angles in degrees."""


def power(a: Number, b: Number) -> Number:
    """Return a power, exact for whole exponents of rational numbers."""
    if not -100 <= b <= 100 or not -LARGEST <= a <= LARGEST:
        raise OverflowError
    if not isinstance(a, float) and not isinstance(b, float) and b.denominator == 1:
        out = Fraction(a) ** b.numerator
        return out.numerator if out.denominator == 1 else out
    if a < 0:
        raise ValueError("A negative number has no root. Change the sign or the formula.")
    return math.pow(a, b)


def share(a: Number, b: Number) -> Number:
    """Return one number by another, exact where both are; the other may not be 0.

    >>> share(1, 3), share(6, 3)
    (Fraction(1, 3), Fraction(2, 1))
    """
    return a / b if isinstance(a, float) or isinstance(b, float) else Fraction(a) / b
