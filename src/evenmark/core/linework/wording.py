"""Numbers and features in words, for sentences that a student reads."""

from __future__ import annotations

from collections.abc import Container, Mapping

from evenmark.core.drawing.annotations import Dimension
from evenmark.core.linework.model import (
    AnyFeature,
    ArcFeature,
    CircleFeature,
    Corner,
    Edge,
    EndlessFeature,
    Free,
    HatchFeature,
    NoteFeature,
    Outline,
    Tee,
    TextFeature,
)

_NOUNS: dict[type, str] = {
    Edge: "edge",
    ArcFeature: "arc",
    CircleFeature: "circle",
    Corner: "corner",
    Tee: "junction",
    Outline: "outline",
    Free: "curve",
    TextFeature: "text",
    NoteFeature: "note",
    Dimension: "dimension",
    HatchFeature: "hatching",
    EndlessFeature: "construction line",
}


def number(value: float, digits: int = 4) -> str:
    """Return a number for a sentence that is read: with a true minus.

    >>> number(20.0), number(7.4375), number(-0.00001234), number(-1e-15)
    ('20', '7.4375', '−0.0000123', '0')
    """
    return typed_number(value, digits).replace("-", "−")


def typed_number(value: float, digits: int = 4) -> str:
    """Return a number as it is typed: at most ``digits`` decimals, more for tiny ones, no trailing zeros, no
    minus zero.

    >>> typed_number(20.0), typed_number(-7.4375), typed_number(-1e-15)
    ('20', '-7.4375', '0')
    """
    if 0 < abs(value) < 10**-digits:
        digits = min(12, digits + 3)
    text = f"{value:.{digits}f}".rstrip("0").rstrip(".") if digits else f"{value:.0f}"
    return "0" if text in ("-0", "") else text


def size(value: float, unit: str) -> str:
    """Return a length with its unit."""
    return f"{number(value)} {unit}"


def noun(feature: AnyFeature, centre: Container[str] = ()) -> str:
    """Return what a feature is called: edge, arc, circle, corner ...; ``centre`` are the edges that are
    centre lines."""
    if isinstance(feature, Edge) and feature.id in centre:
        return "centre line"
    return _NOUNS.get(type(feature), "feature")


def counted(n: int, word: str) -> str:
    """Return a count with its word: ``1 edge``, ``3 edges``."""
    return f"{n} {word}" if n == 1 else f"{n} {word}es" if word.endswith("s") else f"{n} {word}s"


def place(feature: AnyFeature, digits: int = 3) -> str:
    """Return where a feature is, to tell it from its like: rounded, since it only points."""
    x, y = feature.at
    return f"at {number(x, digits)}, {number(y, digits)}"


def off_its_place(across: float, up: float, unit: str, least: float, *, of: str = "its place") -> str:
    """Return how far something stands from its place; what is not more than ``least`` is not told.

    >>> off_its_place(3.0, 0.0, "mm", 0.001), off_its_place(-1.5, 2.0, "mm", 0.001)
    ('3 mm to the right of its place', '1.5 mm to the left and 2 mm above its place')
    """
    beside = f"{size(abs(across), unit)} to the {'right' if across > 0 else 'left'}"
    over = f"{size(abs(up), unit)} {'above' if up > 0 else 'below'} {of}"
    if abs(up) <= least:
        return f"{beside} of {of}"
    return over if abs(across) <= least else f"{beside} and {over}"


_VIEWS = {
    "above": "view above",
    "below": "view below",
    "left": "view on the left",
    "right": "view on the right",
}


def view_name(name: str) -> str:
    """Return what a view is called in a sentence. Whether the one above is the top view or the bottom view
    goes by the angle of projection, so that it is called by where it stands.

    >>> view_name("front"), view_name("above"), view_name("view 2")
    ('front view', 'view above', 'view 2')
    """
    return _VIEWS.get(name) or (name if "view" in name.casefold() else f"{name} view")


FEATURE_WORDS = {
    "o": "Outline",
    "e": "Edge",
    "a": "Arc",
    "c": "Circle",
    "k": "Corner",
    "t": "Junction",
    "f": "Curve",
    "x": "Text",
    "n": "Note",
    "d": "Dimension",
    "h": "Hatching",
    "v": "View",
    "r": "Construction line",
}
"""What features are called, by the letter that their ids begin with, in the order of lists."""


def feature_name(feature_id: str, centre: Container[str] = ()) -> str:
    """Return what the pages call a feature; ``centre`` are the edges that are centre lines.

    >>> feature_name("c2"), feature_name("e2", {"e2"})
    ('Circle 2', 'Centre line 2')
    """
    name = "Centre line" if feature_id in centre else FEATURE_WORDS[feature_id[0]]
    return f"{name} {feature_id[1:]}"


def called(feature_id: str, names: Mapping[str, str]) -> str:
    """Return what a feature of a key is called in a sentence: by its name, else by kind and number."""
    return names.get(feature_id) or feature_name(feature_id).lower()
