"""Length units: names, symbols, size in millimetres, and the codes that DXF files declare them with.

Source of the codes: the published DXF reference, header variable ``$INSUNITS``. The sizes follow from the
inch of exactly 25.4 mm (ISO 80000-3).
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import cache

from evenmark.core.geometry import tolerance


@dataclass(frozen=True, kw_only=True, slots=True)
class Unit:
    """A unit of length: its word, its symbol, and how many millimetres it is."""

    name: str
    symbol: str
    mm: float

    @property
    def imperial(self) -> bool:
        """Whether sizes are spoken of in inches and parts of inches."""
        return self.name in ("inch", "foot", "yard", "mil")

    @property
    def tolerances(self) -> tolerance.Tolerances:
        """The default tolerances in this unit: 0.001 mm or 0.0001 in, 0.01 degree."""
        if self.imperial:
            inch = 25.4 / self.mm
            length, near = tolerance.LENGTH_IN * inch, tolerance.NEAR_IN * inch
        else:
            length, near = tolerance.LENGTH_MM / self.mm, tolerance.NEAR_MM / self.mm
        return tolerance.Tolerances(length=length, position=length, near=near)


MM = Unit(name="millimetre", symbol="mm", mm=1.0)
INCH = Unit(name="inch", symbol="in", mm=25.4)

BY_DXF_CODE: dict[int, Unit] = {
    1: INCH,
    2: Unit(name="foot", symbol="ft", mm=304.8),
    4: MM,
    5: Unit(name="centimetre", symbol="cm", mm=10.0),
    6: Unit(name="metre", symbol="m", mm=1000.0),
    9: Unit(name="mil", symbol="mil", mm=0.0254),
    10: Unit(name="yard", symbol="yd", mm=914.4),
    13: Unit(name="micrometre", symbol="µm", mm=0.001),
    14: Unit(name="decimetre", symbol="dm", mm=100.0),
}
BY_SYMBOL: dict[str, Unit] = {unit.symbol: unit for unit in BY_DXF_CODE.values()}


@cache
def inch_in(unit: Unit) -> int | Fraction:
    """Return what an inch is in a unit, exactly.

    >>> inch_in(MM), inch_in(INCH)
    (Fraction(127, 5), 1)
    """
    found = Fraction("25.4") / Fraction(str(unit.mm))
    return found.numerator if found.denominator == 1 else found


def dxf_code(unit: Unit) -> int:
    """Return the ``$INSUNITS`` code of a unit."""
    return next(code for code, other in BY_DXF_CODE.items() if other == unit)
