"""Documents of steps that are not as they should be, made from good ones."""

from __future__ import annotations

import random
import re

NUMBERS = (
    "1e308",
    "-1",
    "0",
    "1/0",
    "9" * 400,
    "1000000",
    "1e-320",
    "nan",
    "sqrt(-1)",
    "2^9^9",
    "0.1",
    "360",
)
SIGNS = (";", ",", "(", ")", '"', "#", "°", "'", "·", "<b>", "&", "\\", "\t", "\u0000", "\u202e", "=", ".")
WORDS = (
    *("line", "circle", "step", "edge 1", "edge 999", "circle #77", "everything", "inside", "toward", "from"),
    *("nearest", "by", "layer", "close", "copy", "first", "left", "outer", "R", "length of edge 1", "point"),
)


def mutated(text: str, chance: random.Random) -> str:
    """A document with something in it changed."""
    kind = chance.randrange(8)
    at = chance.randrange(len(text))
    if kind == 0:
        return text[:at]
    if kind == 1:
        return text[:at] + text[at + chance.randrange(1, 9) :]
    if kind == 2:
        return text[:at] + chance.choice(SIGNS) + text[at:]
    if kind == 3:
        return text[:at] + " " + chance.choice(WORDS) + " " + text[at:]
    if kind == 4:
        found = list(re.finditer(r"\d+(?:\.\d+)?", text))
        one = chance.choice(found) if found else None
        return text if one is None else text[: one.start()] + chance.choice(NUMBERS) + text[one.end() :]
    lines = text.split("\n")
    n = chance.randrange(len(lines))
    if kind == 5:
        del lines[n]
    elif kind == 6:
        lines.insert(chance.randrange(len(lines)), lines[n])
    else:
        m = chance.randrange(len(lines))
        lines[n], lines[m] = lines[m], lines[n]
    return "\n".join(lines)
