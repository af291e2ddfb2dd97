"""Every number of what a document draws, to its last digit."""

from __future__ import annotations

from typing import Any

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text


def digits(text: str) -> list[str]:
    """Every number of what a document draws, as it is held, and what is wrong with it."""
    built = build(from_text(text))
    d = built.drawing
    return [*map(str, built.problems), *_of((d.entities, d.dimensions, d.hatches, d.notes, d.endless))]


def _of(value: Any) -> list[str]:
    if isinstance(value, float):
        return [value.hex()]
    if isinstance(value, tuple):
        return [n for v in value for n in _of(v)]
    if hasattr(value, "__dataclass_fields__"):
        return [n for name in value.__dataclass_fields__ for n in _of(getattr(value, name))]
    return []
