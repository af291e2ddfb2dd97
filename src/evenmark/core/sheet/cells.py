"""Words in the cells of a title block: as large as they fit, on two lines where they are long, cut where even
that is too little."""

from __future__ import annotations

from evenmark.core.sheet import faces

SMALLEST = 0.75
"""How far words are made smaller before they go on a second line, as a share of the cell's own size."""
TWO_LINES = 0.62
"""Size of words on two lines, as a share of the cell's own."""
CUT = "…"


def fitted(words: str, room: float, size: float, weight: int = faces.REGULAR) -> tuple[list[str], float]:
    """Return the lines of some words, one or two, and the size at which they fit a cell that is ``room``
    wide, all in mm.

    >>> fitted("Crank link", 80.0, 4.6)
    (['Crank link'], 4.6)
    >>> lines, size = fitted("A very long title " * 9, 80.0, 4.6)
    >>> len(lines), round(size, 2), lines[1].endswith("…")
    (2, 2.85, True)
    """
    plain = " ".join(words.split())
    wide = faces.width(plain, size, weight)
    if wide <= room:
        return [plain], size
    if wide * SMALLEST <= room:
        return [plain], size * room / wide
    small = size * TWO_LINES
    first, rest = _taken(plain, room, small, weight)
    if not rest:
        return [first], small
    second, left = _taken(rest, room, small, weight)
    if left:
        second = _cut(rest, room, small, weight)
    return [first, second], small


def _fits(words: str, room: float, size: float, weight: int) -> bool:
    return faces.width(words, size, weight) <= room


def _taken(words: str, room: float, size: float, weight: int) -> tuple[str, str]:
    """Return as many whole words as fit a line, and what is left; a word that is longer than the line is
    broken."""
    line, rest = "", words
    while rest:
        word, _, after = rest.partition(" ")
        tried = f"{line} {word}".strip()
        if not _fits(tried, room, size, weight):
            break
        line, rest = tried, after
    if line:
        return line, rest
    n = _letters(words, room, size, weight)
    return words[:n], words[n:].lstrip()


def _letters(words: str, room: float, size: float, weight: int) -> int:
    """Return how many letters fit, at least one."""
    low, high = 1, len(words)
    while low < high:
        middle = (low + high + 1) // 2
        low, high = (middle, high) if _fits(words[:middle], room, size, weight) else (low, middle - 1)
    return low


def _cut(words: str, room: float, size: float, weight: int) -> str:
    """Return the beginning of some words with a sign that they go on."""
    return words[: _letters(words, room - faces.width(CUT, size, weight), size, weight)].rstrip() + CUT
