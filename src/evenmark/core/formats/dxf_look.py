"""How an object of a DXF file looks in the end: style resolved through object, block and layer."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from typing import TYPE_CHECKING, Any, NamedTuple

from evenmark.core.drawing.look import Layer, Style

if TYPE_CHECKING:
    from ezdxf.document import Drawing as DxfDocument

BY_BLOCK, BY_LAYER = 0, 256
"""Colour numbers that are taken from elsewhere (DXF reference, group code 62)."""
WEIGHT_BY_LAYER, WEIGHT_BY_BLOCK, WEIGHT_DEFAULT = -1, -2, -3
"""Line weights that are taken from elsewhere (DXF reference, group code 370)."""

FROZEN = 1
"""Flag of a layer that is not shown (DXF reference, LAYER, group code 70)."""
FIRST_WITH_WEIGHTS = "AC1015"
"""The first version of the format that states line weights."""

Attributes = Mapping[str, Any]
"""What an entity of a file states of itself, by the names of the DXF reference in the library's spelling."""


def pattern_class(elements: list[float]) -> str:
    """Name the class of a line type from its dashes (positive), gaps (negative) and dots (zero).

    Named as in ISO 128-2: continuous, dashed, dotted, chain (long dash, short dash or dot), double chain.

    >>> pattern_class([0.5, -0.25]), pattern_class([1.25, -0.25, 0.25, -0.25]), pattern_class([0, -0.1])
    ('dashed', 'chain', 'dotted')
    """
    drawn = [e for e in elements if e >= 0]
    if not drawn or not any(e < 0 for e in elements):
        return "continuous"
    longest = max(drawn)
    if longest == 0:
        return "dotted"
    short = sum(1 for e in drawn if e <= longest / 2)
    full = len(drawn) - short
    if short == 0:
        return "dashed"
    return "chain" if short <= full else "double chain"


class LayerRow(NamedTuple):
    """A layer as its table says it: colour number (negative when off), true colour, line type, weight code,
    flags."""

    name: str
    color: int = 7
    true_color: int | None = None
    line_type: str = "Continuous"
    weight: int = WEIGHT_DEFAULT
    flags: int = 0


class Look:
    """Resolves layers and styles of one document; remembers each combination, since files have few.

    ``patterns`` gives the elements of each line type: dashes positive, gaps negative, dots zero. ``scale`` is
    the scale of all line types of the drawing. ``weights_said`` says whether the version of the file can
    state line weights.
    """

    def __init__(
        self,
        layers: Iterable[LayerRow],
        patterns: Iterable[tuple[str, list[float]]],
        *,
        weights_said: bool,
        scale: float = 1.0,
    ) -> None:
        self.weights_said = weights_said
        self.scale = scale if math.isfinite(scale) and scale > 0 else 1.0
        self._patterns = dict.fromkeys(("continuous", "bylayer", "byblock"), ("continuous", 0.0))
        for name, elements in patterns:
            if name.lower() not in ("bylayer", "byblock"):
                self._patterns[name.lower()] = pattern_class(elements), sum(abs(e) for e in elements)
        self.layers: dict[str, Layer] = {}
        self._keys: dict[str, str] = {}
        for row in layers:
            self._declare(row)
        self._styles: dict[tuple[Any, ...], Style] = {}

    @classmethod
    def of(cls, doc: DxfDocument) -> Look:
        """Return the look of a loaded document."""
        rows = [
            LayerRow(
                name=str(layer.dxf.name),
                color=int(layer.dxf.color),
                true_color=layer.dxf.get("true_color"),
                line_type=str(layer.dxf.get("linetype", "Continuous")),
                weight=layer.dxf.get("lineweight", WEIGHT_DEFAULT),
                flags=int(layer.dxf.get("flags", 0)),
            )
            for layer in doc.layers
        ]
        patterns = [
            (str(t.dxf.name), [float(tag.value) for tag in t.pattern_tags.tags if tag.code == 49])
            for t in doc.linetypes
        ]
        scale = float(doc.header.get("$LTSCALE", 1.0))
        return cls(rows, patterns, weights_said=doc.dxfversion >= FIRST_WITH_WEIGHTS, scale=scale)

    def _declare(self, row: LayerRow) -> None:
        color: int | str = abs(row.color) or 7
        if row.true_color is not None:
            color = f"#{row.true_color & 0xFFFFFF:06x}"
        line_type, dash = self.pattern(row.line_type)
        style = Style(
            color=color,
            line_type=line_type,
            weight=row.weight / 100 if self.weights_said and row.weight >= 0 else None,
            dash=dash * self.scale,
        )
        self.layers[row.name] = Layer(
            name=row.name, style=style, shown=row.color >= 0 and not row.flags & FROZEN
        )
        self._keys[row.name.lower()] = row.name

    def pattern(self, line_type: str) -> tuple[str, float]:
        """Return the pattern class of a line type name and the length of one repeat; an undeclared one is its
        own class."""
        return self._patterns.get(line_type.lower(), (line_type.lower(), 0.0))

    def layer(self, name: str) -> Layer:
        """Return a layer by name in any letter case; one that is used but not declared has the default
        style."""
        known = self._keys.get(name.lower())
        if known is None:
            known = self._keys[name.lower()] = name
            self.layers[name] = Layer(name=name, style=Style())
        return self.layers[known]

    def style(self, stated: Attributes, layer: Layer, block: Style | None) -> Style:
        """Return the resulting style of an object from its own attributes, its layer and the block it stands
        in."""
        color, line_type, weight = (
            stated.get("color", BY_LAYER),
            stated.get("linetype", "BYLAYER"),
            stated.get("lineweight", -1),
        )
        true_color, scale = stated.get("true_color"), stated.get("ltscale", 1.0)
        if (
            color == BY_LAYER
            and true_color is None
            and weight == WEIGHT_BY_LAYER
            and scale == 1.0
            and line_type.upper() == "BYLAYER"
        ):
            return layer.style
        key = (color, true_color, line_type, weight, scale, layer.style, block)
        style = self._styles.get(key)
        if style is None:
            above = block or Style()
            pattern, dash = self._line_type(line_type, layer.style, above)
            style = self._styles[key] = Style(
                color=self._color(color, true_color, layer.style, above),
                line_type=pattern,
                weight=self._weight(weight, layer.style, above),
                dash=dash * abs(scale),
            )
        return style

    @staticmethod
    def _color(color: int, true_color: int | None, layer: Style, block: Style) -> int | str:
        if true_color is not None:
            return f"#{int(true_color) & 0xFFFFFF:06x}"
        if color == BY_LAYER:
            return layer.color
        return block.color if color == BY_BLOCK else abs(color)

    def _line_type(self, line_type: str, layer: Style, block: Style) -> tuple[str, float]:
        name = line_type.upper()
        if name == "BYLAYER":
            return layer.line_type, layer.dash
        if name == "BYBLOCK":
            return block.line_type, block.dash
        pattern, dash = self.pattern(line_type)
        return pattern, dash * self.scale

    def _weight(self, weight: int, layer: Style, block: Style) -> float | None:
        if not self.weights_said or weight == WEIGHT_DEFAULT:
            return None
        if weight == WEIGHT_BY_LAYER:
            return layer.weight
        return block.weight if weight == WEIGHT_BY_BLOCK else weight / 100
