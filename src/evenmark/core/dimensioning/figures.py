"""Figures: what the text of a dimension says: a number, how many times, whether it is only for information.

- *count*: ``4 x`` or ``4 ×`` before a figure: it holds for so many equal features.
- *brackets*: a figure in round brackets is auxiliary: it follows from others and is not counted (ISO 129-1,
  from memory).
- *shown to*: how far a figure may lie from what is measured and still be its rounding.
"""

from __future__ import annotations

import re

from evenmark.core.drawing.annotations import Dimension

_NUMBER = re.compile(r"\d+(?:[.,]\d+)?(?:\s+\d+/\d+|/\d+)?|[.,]\d+")
_COUNT = re.compile(r"(?:^|[\s(])(\d{1,3})\s*[xX×*](?=$|[\s)Ø⌀RMr\d])")
_BRACKETED = re.compile(r"\(.*\)", re.DOTALL)
MOST_EQUAL = 200
"""A count of more is not believed."""


def numbers_in(text: str) -> list[float]:
    """Return every number that a typed text shows: decimals with point or comma, fractions, mixed numbers.

    >>> numbers_in("4x Ø12,5"), numbers_in("7 7/16")
    ([4.0, 12.5], [7.4375])
    """
    return [value for value, _ in _figures(text)]


def _figures(text: str) -> list[tuple[float, float]]:
    """Return every number with half of its last place."""
    out = []
    for word in _NUMBER.findall(text):
        total, half = 0.0, 0.5
        for part in word.replace(",", ".").split():
            top, _, bottom = part.partition("/")
            if bottom and float(bottom) == 0.0:
                break
            total += float(top) / float(bottom) if bottom else float(top)
            half = 0.5 / float(bottom) if bottom else 0.5 * 10.0 ** -len(top.partition(".")[2])
        out.append((total, half))
    return out


def count_of(d: Dimension) -> int:
    """Return for how many equal features a dimension stands: a number before a multiplication sign, beside
    the figure; 1 where there is none.

    In ``2 x 45°``, typed over a size of 2, the 2 is the figure itself.
    """
    text = d.typed if d.typed is not None else f"{d.before} Ø {d.after}"
    found = _COUNT.search(text)
    n = int(found[1]) if found else 1
    if not 1 <= n <= MOST_EQUAL or (d.typed is not None and figure_of(d) == n):
        return 1
    return n


def in_brackets(d: Dimension) -> bool:
    """Say whether a dimension is only for information: its whole figure stands in round brackets."""
    if d.typed is not None:
        return _BRACKETED.fullmatch(d.typed.strip()) is not None
    return d.before.rstrip().endswith("(") and d.after.lstrip().startswith(")")


def figure_of(d: Dimension) -> float:
    """Return the number that a dimension says: what was typed over, nearest to what it shows, else that."""
    if d.typed is None:
        return d.shown
    return min((v for v, _ in _figures(d.typed)), key=lambda v: abs(v - d.shown), default=d.shown)


def agrees(d: Dimension, tolerance: float) -> bool:
    """Say whether what was typed over a dimension is what it measures, rounded to its places."""
    if d.typed is None:
        return True
    found = _figures(d.typed)
    return not found or any(abs(v - d.shown) <= half + tolerance for v, half in found)
