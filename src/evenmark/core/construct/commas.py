"""Numbers with a decimal comma, where whoever writes has said that they write them so.

- *decimal comma*: a comma between two digits. Coordinates then stand apart by ``;``, by a blank, or by a
  comma with a blank behind it. ISO 80000-1 has the comma or the point as decimal sign (from memory); the
  signs between coordinates are common practice, no published source.

What comes of it says the same when it is read so again: behind a comma between coordinates stands a blank.
"""

from __future__ import annotations

import re
from collections.abc import Callable

from evenmark.core.construct.completion import wanted
from evenmark.core.construct.sentences import read_sentence
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.exact import Exact

MOST_PAIRS = 200
"""Coordinates that are set apart in one sentence."""
_QUOTED = re.compile(r'("(?:[^"\\]|\\.)*")')
_DIGITS = re.compile(r"\d+(?:[.,]\d+)+")
_TWO_NUMBERS = re.compile(r"(?:^|[\s;,])-?[\d./]+(\s)-[\d./]+\s*\Z")
_MAYBE_MIXED = re.compile(r"\d+(?:/\d*)?\s*\Z")


def with_points(text: str) -> str:
    """Return a text with a point for each decimal comma.

    >>> with_points('circle 3,5; 4,25; radius 2'), with_points('text 1, 2; "3,5"; 3,5')
    ('circle 3.5; 4.25; radius 2', 'text 1, 2; "3,5"; 3.5')
    >>> with_points('3,5,4,5'), with_points('3.5,4')
    ('3.5,4.5', '3.5,4')
    """
    parts = _QUOTED.split(text)
    parts[::2] = [_DIGITS.sub(_with_points, p) for p in parts[::2]]
    return "".join(parts)


def _with_points(found: re.Match[str]) -> str:
    signs = re.split(r"([.,])", found.group())
    begun = False
    for n in range(1, len(signs), 2):
        decimal = not begun
        signs[n] = "." if decimal else signs[n]
        begun = decimal
    return "".join(signs)


def without_commas(
    text: str, id_of: Callable[[int], int | None], inch: Exact = 1, *, ends: bool = True
) -> str:
    """Return a sentence that is written with decimal commas as one without: with points, and with a comma
    between the coordinates of a pair, wherever reading it stops for one. Where it has not come to its end, a
    number behind a blank may yet become the fraction of an inch."""
    text = re.sub(r", {2,}\Z", ", ", with_points(text))  # the sign was a blank already
    for _ in range(MOST_PAIRS):
        try:
            read_sentence(text, id_of, inch)
        except Unreadable as why:
            at = _between(text, why.at, mixed=inch == 1 and not ends)
            if at is None or not any(
                x.kind == "sign" and x.says == "," for x in wanted(text[: why.at], id_of, inch)[0]
            ):
                return text
            text = f"{text[:at]}, {text[at + 1 :].lstrip()}"
        else:
            return text
    return text


def _between(text: str, at: int, *, mixed: bool) -> int | None:
    """Return where the sign between two coordinates stands, near the place where reading stopped; ``mixed``
    where a number behind a blank may be the beginning of a fraction."""
    two = _TWO_NUMBERS.search(text[:at])
    if two:  # 3 -4 is no difference, but two numbers
        return two.start(1)
    rest = text[at:]
    if rest[:1] == ";":
        return at
    if text[at - 1 : at].isspace() and re.match(r"[\d(√]", rest):
        return None if mixed and _MAYBE_MIXED.match(rest) else at - 1
    return None
