"""What things look like: styles, and the layers that give them."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True, slots=True)
class Style:
    """Resulting look: colour (number 1-255 of the DXF reference, or "#rrggbb"), line type by pattern class,
    weight in mm.

    A weight of None means that the file does not say one. ``dash`` is how long one repeat of the pattern is,
    in drawing units with all scales of line types; 0 where there is no pattern.
    """

    color: int | str = 7
    line_type: str = "continuous"
    weight: float | None = None
    dash: float = 0.0


PLAIN = Style()


@dataclass(frozen=True, kw_only=True, slots=True)
class Layer:
    """A layer as declared: its name, the style it gives, and whether it is shown."""

    name: str
    style: Style
    shown: bool = True
