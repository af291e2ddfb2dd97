"""Numbers as the board shows and writes them: decimals, or inches to the nearest 1/64; what is rounded says
so."""

from __future__ import annotations

import math
from fractions import Fraction

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.units import Unit

DECIMALS = 3
SIXTY_FOURTHS = 64


def shown(value: Number, unit: Unit | None = None) -> str:
    """Return a number as it is shown: ``≈`` before it where more decimals were left out. Without a unit it is
    degrees.

    >>> from evenmark.core.geometry.units import MM, INCH
    >>> shown(12.5, MM), shown(81.25853, MM), shown(4.625, INCH), shown(0.3, INCH)
    ('12.5', '≈81.259', '4 5/8', '≈19/64')
    """
    v = float(value)
    if not math.isfinite(v):
        return "?"
    if unit is not None and unit.imperial:
        near: Number = Fraction(round(v * SIXTY_FOURTHS), SIXTY_FOURTHS)
        text = _mixed(Fraction(near))
    else:
        near = round(v, DECIMALS)
        text = plain(float(near))
    return text if abs(float(near) - v) <= tol.SHOWN_SHARE * max(1.0, abs(v)) else f"≈{text}"


def plain(value: float) -> str:
    """Return a number without zeros that say nothing.

    >>> plain(20.0), plain(-0.0), plain(7.4375)
    ('20', '0', '7.4375')
    """
    text = f"{value:.9f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def _mixed(value: Fraction) -> str:
    whole, rest = divmod(abs(value), 1)
    sign = "-" if value < 0 else ""
    if not rest:
        return f"{sign}{whole}"
    return f"{sign}{whole} {rest}" if whole else f"{sign}{rest}"


def tidied(value: Number) -> Number:
    """Return a number as somebody has said it, where it differs from that by what arithmetic leaves alone.

    >>> tidied(50.00000000000001), tidied(1 / 3)
    (50.0, 0.3333333333333333)
    """
    if not isinstance(value, float) or not math.isfinite(value):
        return value
    near = float(plain(value))
    return near if abs(near - value) <= tol.AS_SAID_SHARE * max(1.0, abs(value)) else value


def typed(value: Number, unit: Unit) -> str:
    """Return a number as it is written into a sentence: exactly, where it has nine decimals or is a
    sixty-fourth, else with as many digits as say it.

    >>> from evenmark.core.geometry.units import MM, INCH
    >>> typed(35, MM), typed(Fraction(1, 3), MM), typed(4.625, INCH), typed(-0.5, INCH)
    ('35', '1/3', '4 5/8', '-1/2')
    """
    if unit.imperial and Fraction(value) * SIXTY_FOURTHS == int(Fraction(value) * SIXTY_FOURTHS):
        return _mixed(Fraction(value))
    if isinstance(value, Fraction) and value.denominator < 10**9:
        return str(value) if plain(float(value)) != repr(float(value)) else plain(float(value))
    v = float(value)
    return plain(v) if float(plain(v)) == v else repr(v)


def rounded(value: float, pixel: float, unit: Unit) -> float:
    """Return what a pointer says where it stands on a number: to the last place that is as wide as a pixel or
    wider.

    >>> from evenmark.core.geometry.units import MM, INCH
    >>> rounded(83.7442, 0.13, MM), rounded(1.27, 0.02, INCH)
    (83.8, 1.28125)
    """
    step = pitch(pixel, unit)
    return round(value / step) * step if step >= 1.0 or unit.imperial else _decimal(value, step)


def _decimal(value: float, step: float) -> float:
    """Return a number rounded to a step below one, as the decimal that it is."""
    digits = max(0, -math.floor(math.log10(step) + tol.SHOWN_SHARE))
    return round(round(value / step) * step, digits)


def pitch(least: float, unit: Unit) -> float:
    """Return the least round step that is not less than a length: 1, 2 or 5 of a power of ten, or a part of
    an inch.

    >>> from evenmark.core.geometry.units import MM, INCH
    >>> pitch(0.13, MM), pitch(3.0, MM), pitch(0.02, INCH)
    (0.2, 5.0, 0.03125)
    """
    least = max(least, tol.LEAST_PITCH)
    if unit.imperial and least < 1.0:
        return 2.0 ** math.ceil(math.log2(least) - tol.SHOWN_SHARE)
    power = 10.0 ** math.floor(math.log10(least))
    found = next(n for n in (1.0, 2.0, 5.0, 10.0) if n * power >= least * (1.0 - tol.SHOWN_SHARE))
    return found * power if power >= 1.0 else found / round(1.0 / power)
