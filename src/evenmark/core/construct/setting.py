"""Setting: what all steps of a document share: its unit, its layers, and which named points are broken."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from evenmark.core.construct.layers import LAYERS, layer_of
from evenmark.core.drawing.look import Layer
from evenmark.core.drawing.model import Drawing
from evenmark.core.geometry.arcs import Curve
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.regions import Faces
from evenmark.core.geometry.units import MM, Unit

if TYPE_CHECKING:
    from evenmark.core.construct.state import KeptThings

HEIGHT = 3.5
"""Height of figures and notes, mm of paper (ISO 3098, nominal sizes; from memory)."""


@dataclass
class DocumentSetting:
    """The unit and the layers of a document; the id of the step that should have made each named point that
    there is not; and how what was kept is built again with other values."""

    unit: Unit = MM
    layers: Mapping[str, Layer] = field(default_factory=lambda: dict(LAYERS))
    broken_points: dict[str, int] = field(default_factory=dict)
    spent: int = 0
    """How many features have been looked at."""
    faces: tuple[list[Curve], Faces] | None = None
    """What was enclosed when something was hatched last, and by what."""
    drawings: Mapping[str, Drawing] = field(default_factory=dict)
    """Drawings that are kept with the document, by their names."""
    again: Callable[[KeptThings, Mapping[str, Number]], KeptThings] | None = None

    @property
    def height(self) -> float:
        """Height of figures and notes, in units of the drawing."""
        return HEIGHT / self.unit.mm

    def layer(self, name: str) -> Layer:
        """Return a layer by its name: as it is declared, or as one that is not looks."""
        return self.layers.get(name) or layer_of(name, self.unit)
