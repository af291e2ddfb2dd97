"""Colours in words, held against the DXF library's own table of what each number looks like."""

from __future__ import annotations

import pytest
from ezdxf.colors import DXF_DEFAULT_COLORS, int2rgb

from evenmark.core.conventions import colours

TABLE = [int2rgb(value) for value in DXF_DEFAULT_COLORS]


DARK = {
    109,
    119,
    129,
    139,
    147,
    149,
    157,
    159,
    167,
    169,
    177,
    179,
    187,
    189,
    197,
    199,
    209,
    219,
    229,
    239,
    249,
}
"""Pale shades of the last brightness, where the library's table leaves its own rule (19, 38, 23 becomes 19,
88, 23)."""
GREYS = {250, 251, 252, 253, 254}
"""The published tables differ here; ours is the one that gets lighter evenly (from memory)."""


@pytest.mark.parametrize("number", sorted(set(range(1, 256)) - {7} - DARK - GREYS))
def test_every_number_looks_as_the_table_says(number: int) -> None:
    """Within what the eye cannot tell apart: the table rounds here and there otherwise."""
    ours, theirs = colours.rgb(number), TABLE[number]
    assert max(abs(a - b) for a, b in zip(ours, (theirs.r, theirs.g, theirs.b), strict=True)) <= 2


def test_greys_are_greys_and_get_lighter() -> None:
    greys = [colours.rgb(n) for n in range(250, 256)]
    assert all(r == g == b for r, g, b in greys)
    assert greys == sorted(greys)


@pytest.mark.parametrize(
    ("colour", "word"),
    [
        (1, "red"),
        (2, "yellow"),
        (3, "green"),
        (4, "cyan"),
        (5, "blue"),
        (6, "magenta"),
        (7, "black"),
        (8, "grey"),
        (9, "light grey"),
        (250, "dark grey"),
        (255, "white"),
        (30, "orange"),
        (210, "magenta"),
        (11, "light red"),
        ("#000000", "black"),
        ("#ffffff", "white"),
        ("#ffa500", "orange"),
        ("#00008b", "dark blue"),
        ("#808080", "grey"),
    ],
)
def test_colours_are_called_what_anybody_calls_them(colour: int | str, word: str) -> None:
    """Common practice, no published source; 1 to 6 are named so in the DXF reference (from memory)."""
    assert colours.word(colour) == word


def test_no_number_is_without_a_word_or_a_swatch() -> None:
    for number in range(1, 256):
        assert colours.said(number).endswith(f"(DXF {number})")
        assert len(colours.swatch(number)) == 7
