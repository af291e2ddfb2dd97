"""The parts of the tide-mill model kit, as drawings with their dimensions. Millimetres.

Each is a document of steps in ``kit`` with values, so that a slip can be made by drawing it with another
value.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path

from evenmark.core.construct.building import build
from evenmark.core.construct.document import Document, from_text
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.model import Drawing

KIT = Path(__file__).parent / "kit"


@dataclass(frozen=True, kw_only=True)
class Part:
    """A drawing and the dimensions that its sheet shows."""

    drawing: Drawing
    dimensions: tuple[Dimension, ...] = ()

    @property
    def sheet(self) -> Drawing:
        """The drawing with its dimensions."""
        return replace(self.drawing, dimensions=self.dimensions)


@cache
def document(name: str) -> Document:
    """Return the document of a part."""
    return from_text((KIT / f"{name}.txt").read_text())


LAYERS = dict(build(document("gate-outline")).setting.layers)
"""The layers of the kit's drawings."""


def _part(steps: Document, **values: float) -> Part:
    """Return what a document draws, some of its values given."""
    built = build(steps, {name: repr(value) for name, value in values.items()})
    assert not built.problems, built.problems
    return Part(drawing=replace(built.drawing, dimensions=()), dimensions=built.drawing.dimensions)


def gate_outline(width: float = 96.0, left: float = 70.0, notch: float = 18.0) -> Part:
    """Sluice gate plate, outline by coordinates."""
    return _part(document("gate-outline"), width=width, left=left, notch=notch)


def gate_holes(second: float = 78.0, hole: float = 4.0, slot: float = 24.0) -> Part:
    """Sluice gate plate with located holes and a slot for the lifting bar."""
    return _part(document("gate-holes"), second=second, hole=hole, slot=slot)


def wheel_hub(
    bore: float = 25.0, pitch: float = 60.0, holes: int = 6, hole: float = 6.0, start_deg: float = 0.0
) -> Part:
    """Wheel hub: a flange with a boss, a bore, and holes on a pitch circle, with its axes."""
    return _part(document("wheel-hub"), bore=bore, pitch=pitch, holes=holes, hole=hole, first=start_deg)


def crank_link(
    reach: float = 82.0,
    left: float = 24.0,
    right: float = 13.0,
    left_bore: float = 14.0,
    right_bore: float = 6.0,
) -> Part:
    """Crank link: two bosses joined by their outer tangents, each with a bore."""
    return _part(
        document("crank-link"),
        reach=reach,
        left=left,
        right=right,
        left_bore=left_bore,
        right_bore=right_bore,
    )


def cover_gasket(
    corner: float = 12.0, inner: float = 6.0, width: float = 110.0, height: float = 74.0, hole: float = 3.5
) -> Part:
    """Gear cover gasket: a filleted frame with a filleted opening and five holes."""
    return _part(document("cover-gasket"), corner=corner, inner=inner, width=width, height=height, hole=hole)


def shaft_bracket(rise: float = 52.0, bore: float = 11.0, depth: float = 40.0) -> Part:
    """Shaft bracket in three views: front, top above it, side to its right, with hidden edges and axes."""
    return _part(document("shaft-bracket"), rise=rise, bore=bore, depth=depth)


def kit_sheet(
    name: str = "NAME",
    group: str = "GROUP",
    *,
    divider: float = 80.0,
    height: float = 6.0,
    begun: bool = False,
) -> Part:
    """Border and title block of the kit sheet, filled in by its student. ``begun`` gives the border alone."""
    sheet = document("kit-sheet")
    if begun:
        return replace(_part(document("kit-border")), dimensions=_part(sheet).dimensions)
    lettered = tuple(
        item._replace(says=item.says.replace('"NAME"', f'"{name}"').replace('"GROUP"', f'"{group}"'))
        for item in sheet.items
    )
    return _part(Document(lettered, sheet.next_id), divider=divider, lettering=height)
