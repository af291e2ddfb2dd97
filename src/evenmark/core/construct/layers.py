"""Layers of a document of steps: how one is declared, and what the usual ones look like.

Weights after ISO 128-2 (wide 0.5, narrow 0.25, from memory); colours are numbers of the DXF reference.
"""

from __future__ import annotations

import re
from dataclasses import replace

from evenmark.core.conventions.lines import DASHES, WEIGHTS, nearest_weight
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.geometry.units import MM, Unit

_USUAL: dict[str, tuple[int, str, float]] = {
    "outline": (7, "continuous", 0.5),
    "hidden": (5, "dashed", 0.25),
    "centre": (1, "chain", 0.25),
    "construction": (4, "continuous", 0.13),
    "dimension": (3, "continuous", 0.25),
    "lettering": (7, "continuous", 0.35),
    "section": (6, "continuous", 0.25),
    "frame": (7, "continuous", 1.0),
}
_NUMBER = re.compile(r"\d+(?:\.\d+)?")
_COLOUR = re.compile(r"colou?r\s+(\d{1,3}|#[0-9a-fA-F]{6})", re.IGNORECASE)


class LayerError(ValueError):
    """A layer cannot be declared so: says what was expected."""


def in_unit(style: Style, unit: Unit) -> Style:
    """Return a style with its dashes as long on paper in another unit."""
    dash = DASHES.get(style.line_type, 0.0)
    return replace(style, dash=dash / unit.mm if unit.mm != 1.0 else dash)


def layer_of(name: str, unit: Unit = MM) -> Layer:
    """Return a layer that is not declared: the usual look of its name, else a continuous narrow line."""
    color, line, weight = _USUAL.get(name.lower(), (7, "continuous", 0.25))
    return Layer(name=name, style=in_unit(Style(color=color, line_type=line, weight=weight), unit))


LAYERS = {name: layer_of(name) for name in _USUAL}


def read_layer(name: str, says: str, unit: Unit = MM) -> Layer:
    """Return a declared layer: colour, line and weight in any order, each as usual where it is not said.
    Raises LayerError.

    >>> read_layer("outline", "colour 3, dashed, 0.35").style.weight
    0.35
    """
    style = layer_of(name, unit).style
    for part in filter(None, (p.strip() for p in says.split(","))):
        colour = _COLOUR.fullmatch(part)
        if colour is not None:
            style = replace(style, color=_color(colour.group(1)))
        elif part.lower() in ("continuous", *DASHES):
            style = replace(style, line_type=part.lower())
        elif _NUMBER.fullmatch(part.lower().removesuffix("mm").strip()):
            style = replace(style, weight=_weight(float(part.lower().removesuffix("mm"))))
        else:
            lines = ", ".join(("continuous", *DASHES))
            raise LayerError(
                f"Expected a colour (colour 7), a line ({lines}) or a width (0.5), not {part!r}."
            )
    return Layer(name=name, style=in_unit(style, unit))


def layer_says(style: Style) -> str:
    """Return how a layer is declared that looks so, as nearly as it can be.

    >>> layer_says(Style(color=3, line_type="dashed", weight=0.36))
    'colour 3, dashed, 0.35'
    """
    line = style.line_type if style.line_type in DASHES else "continuous"
    weight = "" if style.weight is None else f", {nearest_weight(style.weight):g}"
    return f"colour {style.color}, {line}{weight}"


def _color(word: str) -> int | str:
    if word.startswith("#"):
        return word.lower()
    if not 1 <= int(word) <= 255:
        raise LayerError(f"There is no colour {word}: use a number from 1 to 255.")
    return int(word)


def _weight(weight: float) -> float:
    if weight not in WEIGHTS:
        near = nearest_weight(weight)
        raise LayerError(f"There is no line width of {weight:g} mm. The nearest is {near:g}.")
    return weight
