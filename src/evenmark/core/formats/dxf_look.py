"""How an object of a DXF file looks in the end: style resolved through object, block and layer."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from evenmark.core.drawing.model import Layer, Style

if TYPE_CHECKING:
    from ezdxf.document import Drawing as DxfDocument

BY_BLOCK, BY_LAYER = 0, 256
"""Colour numbers that are taken from elsewhere (DXF reference, group code 62)."""
WEIGHT_BY_LAYER, WEIGHT_BY_BLOCK, WEIGHT_DEFAULT = -1, -2, -3
"""Line weights that are taken from elsewhere (DXF reference, group code 370)."""


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


class Look:
    """Resolves layers and styles of one document; remembers each combination, since files have few."""

    def __init__(self, doc: DxfDocument) -> None:
        self.weights_said = doc.dxfversion >= "AC1015"
        self._patterns = {"continuous": "continuous", "bylayer": "continuous", "byblock": "continuous"}
        for line_type in doc.linetypes:
            name = str(line_type.dxf.name).lower()
            if name not in ("bylayer", "byblock"):
                self._patterns[name] = pattern_class(
                    [float(t.value) for t in line_type.pattern_tags.tags if t.code == 49]
                )
        self.layers: dict[str, Layer] = {}
        self._keys: dict[str, str] = {}
        for layer in doc.layers:
            self._declare(layer)
        self._styles: dict[tuple[Any, ...], Style] = {}

    def _declare(self, layer: Any) -> None:
        name = str(layer.dxf.name)
        color: int | str = abs(int(layer.dxf.color)) or 7
        if layer.dxf.hasattr("true_color"):
            color = f"#{int(layer.dxf.true_color) & 0xFFFFFF:06x}"
        weight = layer.dxf.get("lineweight", WEIGHT_DEFAULT)
        style = Style(
            color=color,
            line_type=self.pattern(str(layer.dxf.get("linetype", "Continuous"))),
            weight=weight / 100 if self.weights_said and weight >= 0 else None,
        )
        self.layers[name] = Layer(name=name, style=style, shown=not (layer.is_off() or layer.is_frozen()))
        self._keys[name.lower()] = name

    def pattern(self, line_type: str) -> str:
        """Return the pattern class of a line type name; an undeclared one is its own class."""
        return self._patterns.get(line_type.lower(), line_type.lower())

    def layer(self, name: str) -> Layer:
        """Return a layer by name in any letter case; one that is used but not declared has the default style."""
        known = self._keys.get(name.lower())
        if known is None:
            known = self._keys[name.lower()] = name
            self.layers[name] = Layer(name=name, style=Style())
        return self.layers[known]

    def style(self, stated: dict[str, Any], layer: Layer, block: Style | None) -> Style:
        """Return the resulting style of an object from its own attributes, its layer and the block it stands in."""
        color, line_type, weight = (
            stated.get("color", BY_LAYER),
            stated.get("linetype", "BYLAYER"),
            stated.get("lineweight", -1),
        )
        true_color = stated.get("true_color")
        if (
            color == BY_LAYER
            and true_color is None
            and weight == WEIGHT_BY_LAYER
            and line_type.upper() == "BYLAYER"
        ):
            return layer.style
        key = (color, true_color, line_type, weight, layer.style, block)
        style = self._styles.get(key)
        if style is None:
            above = block or Style()
            style = self._styles[key] = Style(
                color=self._color(color, true_color, layer.style, above),
                line_type=self._line_type(line_type, layer.style, above),
                weight=self._weight(weight, layer.style, above),
            )
        return style

    @staticmethod
    def _color(color: int, true_color: int | None, layer: Style, block: Style) -> int | str:
        if true_color is not None:
            return f"#{int(true_color) & 0xFFFFFF:06x}"
        if color == BY_LAYER:
            return layer.color
        return block.color if color == BY_BLOCK else abs(color)

    def _line_type(self, line_type: str, layer: Style, block: Style) -> str:
        name = line_type.upper()
        if name == "BYLAYER":
            return layer.line_type
        return block.line_type if name == "BYBLOCK" else self.pattern(line_type)

    def _weight(self, weight: int, layer: Style, block: Style) -> float | None:
        if not self.weights_said or weight == WEIGHT_DEFAULT:
            return None
        if weight == WEIGHT_BY_LAYER:
            return layer.weight
        return block.weight if weight == WEIGHT_BY_BLOCK else weight / 100
