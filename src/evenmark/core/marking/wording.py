"""Numbers and features in words, for sentences that a student reads."""

from __future__ import annotations

from evenmark.core.linework.model import AnyFeature, Arc, Circle, Corner, Edge, Outline, Tee


def number(value: float, digits: int = 4) -> str:
    """Return a number for a sentence: at most ``digits`` decimals, more for tiny ones, no trailing zeros, no minus zero.

    >>> number(20.0), number(7.4375), number(-0.00001234), number(-1e-15)
    ('20', '7.4375', '-0.0000123', '0')
    """
    if 0 < abs(value) < 10**-digits:
        digits = min(12, digits + 3)
    text = f"{value:.{digits}f}".rstrip("0").rstrip(".") if digits else f"{value:.0f}"
    return "0" if text in ("-0", "") else text


def size(value: float, unit: str) -> str:
    """Return a length with its unit."""
    return f"{number(value)} {unit}"


def noun(feature: AnyFeature) -> str:
    """Return what a feature is called: edge, arc, circle, corner ..."""
    for kind, word in (
        (Edge, "edge"),
        (Arc, "arc"),
        (Circle, "circle"),
        (Corner, "corner"),
        (Tee, "meeting"),
        (Outline, "outline"),
    ):
        if isinstance(feature, kind):
            return word
    return "text"


def counted(n: int, word: str) -> str:
    """Return a count with its word: ``1 edge``, ``3 edges``."""
    return f"{n} {word}" if n == 1 else f"{n} {word}es" if word.endswith("s") else f"{n} {word}s"


def place(feature: AnyFeature, digits: int = 2) -> str:
    """Return where a feature is, to tell it from its like: rounded, since it only points."""
    x, y = feature.at
    return f"at {number(x, digits)}, {number(y, digits)}"


KIND_WORDS = {
    "whole": "Placement of the whole drawing",
    "length": "length",
    "angle": "direction",
    "position": "position",
    "radius": "radius",
    "sweep": "included angle",
    "tangent": "tangent to",
    "joined": "ends meet",
    "closed": "closed",
    "layer": "layer",
    "layer-style": "Look of layer",
    "clean": "Nothing left over",
}
"""Each requirement kind as the pages name it."""

CAUSE_TITLES = {
    "radius-for-diameter": "A diameter was drawn as a radius",
    "diameter-for-radius": "A radius was drawn as a diameter",
    "by-eye": "Placed by eye",
    "gap": "Ends do not meet",
    "overshoot": "An end runs past its meeting point",
    "shifted": "The whole drawing is shifted",
    "mirrored": "The whole drawing is mirrored",
    "turned": "The whole drawing is turned",
    "unit-factor": "Drawn in another unit",
    "wrong-layer": "On another layer",
    "default-layer": "Left on the default layer",
    "drawn-twice": "Drawn twice",
    "construction-left": "Construction left in",
    "debris": "Debris",
    "not-drawn": "Not drawn",
    "unexplained": "No single slip explains it",
}
"""Each cause without its numbers, for results that show which checks were missed but no sizes."""

_LETTERS = {
    "e": "Edge",
    "a": "Arc",
    "c": "Circle",
    "k": "Corner",
    "t": "Meeting",
    "o": "Outline",
    "x": "Text",
}


def feature_name(feature_id: str) -> str:
    """Return what the pages call a feature.

    >>> feature_name("c2")
    'Circle 2'
    """
    return f"{_LETTERS[feature_id[0]]} {feature_id[1:]}"


def characteristic(kind: str, features: list[str], layer: str | None) -> str:
    """Return the name of a requirement in an inspection list.

    >>> characteristic("radius", ["c2"], None), characteristic("tangent", ["a1", "e3"], None)
    ('Circle 2, radius', 'Arc 1, tangent to edge 3')
    """
    word = KIND_WORDS[kind]
    if kind == "layer-style":
        return f"{word} {layer}"
    if not features:
        return word
    if kind == "tangent" and len(features) > 1:
        return f"{feature_name(features[0])}, {word} {feature_name(features[1]).lower()}"
    return f"{feature_name(features[0])}, {word}"
