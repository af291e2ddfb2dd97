"""Figures: what the text of a dimension says: a number, how many times, whether it is only for information.

- *count*: ``4 x Ø10``, ``4-Ø10``, ``4 HOLES Ø10``, ``Ø10 4 OFF``: it holds for so many equal features;
  ``R9 TYP`` for all that are alike (common practice, no published source).
- *brackets*: a figure in round brackets is auxiliary: it follows from others and is not counted (ISO 129-1,
  from memory).
- *shown to*: how far a figure may lie from what is measured and still be its rounding.
"""

from __future__ import annotations

import re

from evenmark.core.drawing.annotations import Dimension

_NUMBER = re.compile(r"\d+(?:[.,]\d+)?(?:\s+\d+/\d+|/\d+)?|[.,]\d+")
_FEET = re.compile(r"(\d+)\s*['′]\s*-?\s*(?:(\d+(?:[.,]\d+)?(?:\s+\d+/\d+|/\d+)?)\s*(?:[\"″]|'')?)?")
_MANY = r"holes?|off|pl(?:aces?|cs?)?|pos(?:itions?|ns?)?|times|slots?|nos?|eq(?:ually)?"
_COUNTS = (
    re.compile(r"(?:^|[\s(])(\d{1,3})\s*[xX×*](?=$|[\s)Ø⌀RMr\d])(?!\s*\d+(?:[.,]\d+)?\s*°)"),
    re.compile(r"(?:^|[\s(])(\d{1,3})\s*[-–]\s*(?=[Ø⌀RMr])"),
    re.compile(rf"(?:^|[\s(])(\d{{1,3}})\s*(?:{_MANY})\b\.?", re.IGNORECASE),
)
_CHAMFER = re.compile(
    r"(?:(?:^|[\s(])(\d{1,3})\s*[xX×*]\s*)?(\d+(?:[.,]\d+)?)\s*[xX×*]\s*(\d+(?:[.,]\d+)?)\s*°"
)
_TYPICAL = re.compile(r"\btyp(?:ical)?\b", re.IGNORECASE)
_BRACKETED = re.compile(r"\(.*\)", re.DOTALL)
_OPENED = re.compile(r"\(\s*(?:\d{1,3}\s*[xX×*]\s*)?[Ø⌀RMr]?\s*$")
FINEST_FRACTION = 64
"""The smallest parts of an inch that a dimension shows."""
MOST_EQUAL = 200
"""A count of more is not believed."""
ALL_ALIKE = 0
"""The count of what is said once for all that are alike."""


def numbers_in(text: str) -> list[float]:
    """Return every number that a typed text shows: decimals with point or comma, fractions, mixed numbers,
    feet and inches (in inches, and in feet). How many times it holds is none of them.

    >>> numbers_in("4x Ø12,5"), numbers_in("7 7/16"), numbers_in("2'-6 1/2\\"")
    ([12.5], [7.4375], [30.5, 2.5416666666666665])
    """
    return [value for value, _ in _figures(text)]


def _figures(text: str) -> list[tuple[float, float]]:
    """Return every number with half of its last place."""
    text = _without_count(text)
    out = []
    for feet, inches in _FEET.findall(text):
        more, half = _value(inches) if inches else (0.0, 0.5)
        out += [(12 * float(feet) + more, half), (float(feet) + more / 12, half / 12)]
    out += [_value(word) for word in _NUMBER.findall(_FEET.sub(" ", text))]
    return out


def _value(word: str) -> tuple[float, float]:
    """Return a number with half of its last place."""
    total, half = 0.0, 0.5
    for part in word.replace(",", ".").split():
        top, _, bottom = part.partition("/")
        if bottom and float(bottom) == 0.0:
            break
        total += float(top) / float(bottom) if bottom else float(top)
        half = 0.5 / float(bottom) if bottom else 0.5 * 10.0 ** -len(top.partition(".")[2])
    return total, half


def _count_in(text: str) -> re.Match[str] | None:
    """Return where a text says how many times it holds."""
    for pattern in _COUNTS:
        found = pattern.search(text)
        if found and 1 <= int(found[1]) <= MOST_EQUAL:
            return found
    return None


def _without_count(text: str) -> str:
    found = _count_in(text)
    rest = text[: found.start()] + " " + text[found.end() :] if found else text
    return rest if _NUMBER.search(rest) else text


def count_of(d: Dimension) -> int:
    """Return for how many equal features a dimension stands: 1 where it does not say, `ALL_ALIKE` for all.

    In ``2 x 45°`` the 2 is the figure itself.
    """
    text = d.typed if d.typed is not None else f"{d.before} Ø {d.after}"
    found = _count_in(text)
    if found and (d.typed is None or _NUMBER.search(text[: found.start()] + " " + text[found.end() :])):
        return int(found[1])
    return ALL_ALIKE if _TYPICAL.search(text) else 1


def chamfer_of(d: Dimension) -> tuple[int, float, float] | None:
    """Return how many chamfers a text says, the leg and the angle of each; None where it says none.

    >>> from evenmark.core.drawing.annotations import Dimension
    >>> chamfer_of(Dimension(kind="linear", points=((0, 0), (7, 7)), measured=7.0, typed="2 x 7 x 45°"))
    (2, 7.0, 45.0)
    """
    found = _CHAMFER.search(d.typed if d.typed is not None else f"{d.before}{d.shown:.9g}{d.after}")
    if not found or d.kind != "linear":
        return None
    return int(found[1] or 1), _value(found[2])[0], _value(found[3])[0]


def in_brackets(d: Dimension) -> bool:
    """Say whether a dimension is only for information: its whole figure stands in round brackets."""
    if d.typed is not None:
        return _BRACKETED.fullmatch(d.typed.strip()) is not None
    return bool(_OPENED.search(d.before)) and d.after.lstrip().startswith(")")


def figure_of(d: Dimension) -> float:
    """Return the number that a dimension says: what was typed over, nearest to what it shows, else that."""
    if d.typed is None:
        return d.shown
    return min((v for v, _ in _figures(d.typed)), key=lambda v: abs(v - d.shown), default=d.shown)


def agrees(d: Dimension, measured: float, tolerance: float) -> bool:
    """Say whether what a dimension says is what the drawing measures there, rounded to its places: whoever
    tied it, and whatever was typed. What shows no number says none."""
    if d.typed is None:
        half = 0.5 / FINEST_FRACTION if d.fractions else 0.5 * 10.0**-d.decimals
        return abs(d.shown - measured) <= max(half, tolerance)
    found = _figures(d.typed)
    return not found or any(abs(v - measured) <= half + tolerance for v, half in found)
