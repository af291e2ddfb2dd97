"""Colours in words.

- *colour*: a number from 1 to 255, as the DXF reference counts them, or ``#rrggbb``.
- *word*: what anybody would call it on white paper: 7, which is drawn in whatever stands out, is black there.

The numbers from 10 to 249 go round the colour circle in steps of 15 degrees, ten shades each: five of falling
brightness, full and half as strong in turn; 250 to 255 are greys (from memory of the DXF reference; held
against a library's table in the tests).
"""

from __future__ import annotations

import colorsys

NAMED = {
    1: (255, 0, 0),
    2: (255, 255, 0),
    3: (0, 255, 0),
    4: (0, 255, 255),
    5: (0, 0, 255),
    6: (255, 0, 255),
    7: (0, 0, 0),
    8: (128, 128, 128),
    9: (192, 192, 192),
}
_BRIGHT = (255, 165, 127, 76, 38)
_ROUNDED = 2
"""By how much a channel may differ, of 255: what conversion to other scales and back leaves."""
_GREYS = (51, 80, 105, 130, 190, 255)
_HUES = (
    (15, "red"),
    (45, "orange"),
    (70, "yellow"),
    (95, "yellow-green"),
    (150, "green"),
    (170, "blue-green"),
    (195, "cyan"),
    (260, "blue"),
    (290, "violet"),
    (330, "magenta"),
    (345, "pink"),
    (361, "red"),
)
"""Up to which place on the colour circle, in degrees, a hue is called so."""


def rgb(colour: int | str) -> tuple[int, int, int]:
    """Return red, green and blue, 0 to 255.

    >>> rgb(1), rgb(30), rgb("#0b6b6f")
    ((255, 0, 0), (255, 127, 0), (11, 107, 111))
    """
    if isinstance(colour, str):
        return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)
    if colour in NAMED:
        return NAMED[colour]
    if colour >= 250:
        grey = _GREYS[min(colour, 255) - 250]
        return grey, grey, grey
    hue, shade = divmod(colour - 10, 10)
    bright = _BRIGHT[shade // 2]
    strong = colorsys.hsv_to_rgb(hue * 15 / 360, 1.0, 1.0)
    parts = [(1.0 + part) / 2 if shade % 2 else part for part in strong]
    return int(parts[0] * bright), int(parts[1] * bright), int(parts[2] * bright)


def word(colour: int | str) -> str:
    """Return what a colour is called.

    >>> word(1), word(7), word(8), word(30), word(96), word("#0b6b6f")
    ('red', 'black', 'grey', 'orange', 'dark green', 'dark cyan')
    """
    hue, strong, bright = colorsys.rgb_to_hsv(*(part / 255 for part in rgb(colour)))
    if bright <= 0.12:
        return "black"
    if strong <= 0.12:
        return next(
            w
            for most, w in ((0.35, "dark grey"), (0.6, "grey"), (0.9, "light grey"), (1.1, "white"))
            if bright <= most
        )
    name = next(w for most, w in _HUES if hue * 360 <= most)
    if bright <= 0.55:
        return f"dark {name}"
    return f"light {name}" if strong <= 0.55 else name


def same(a: int | str, b: int | str) -> bool:
    """Say whether two colours look the same, stated as a number or as red, green and blue: within what
    rounding of a channel leaves. Pure black and pure white are both what stands out, as 7 is.

    >>> same(1, "#ff0000"), same(7, "#ffffff"), same(1, 10), same(1, 5)
    (True, True, True, False)
    """
    if a == b:
        return True
    one, other = ((0, 0, 0) if rgb(c) == (255, 255, 255) else rgb(c) for c in (a, b))
    return all(abs(p - q) <= _ROUNDED for p, q in zip(one, other, strict=True))


def said(colour: int | str) -> str:
    """Return a colour as findings say it: the word, with the number that the standard gives it beside it.

    >>> said(1), said("#ff8800")
    ('red (DXF 1)', 'orange (#ff8800)')
    """
    return f"{word(colour)} ({colour if isinstance(colour, str) else f'DXF {colour}'})"


def swatch(colour: int | str) -> str:
    """Return a colour as ``#rrggbb``."""
    return "#{:02x}{:02x}{:02x}".format(*rgb(colour))
