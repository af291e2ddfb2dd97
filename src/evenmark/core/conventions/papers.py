"""Papers and scales of drawings.

- *paper*: a size by its name, across (the longer side level), mm. ISO A series: ISO 216 and ISO 5457; ANSI A
  to E: ASME Y14.1. From memory.
- *scale*: size on paper by true size; the standard ones are those of ISO 5455 (from memory), enlargements
  first.
"""

from __future__ import annotations

from dataclasses import dataclass

from evenmark.core.geometry import tolerance as tol

ISO = {
    "A4": (297.0, 210.0),
    "A3": (420.0, 297.0),
    "A2": (594.0, 420.0),
    "A1": (841.0, 594.0),
    "A0": (1189.0, 841.0),
}
_INCHES = {"A": (11.0, 8.5), "B": (17.0, 11.0), "C": (22.0, 17.0), "D": (34.0, 22.0), "E": (44.0, 34.0)}
ANSI = {f"ANSI {letter}": (w * 25.4, h * 25.4) for letter, (w, h) in _INCHES.items()}
PAPERS = {**ISO, **ANSI}
SCALES = (
    50.0,
    20.0,
    10.0,
    5.0,
    2.0,
    1.0,
    1 / 2,
    1 / 5,
    1 / 10,
    1 / 20,
    1 / 50,
    1 / 100,
    1 / 200,
    1 / 500,
    1 / 1000,
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Placed:
    """A drawing on a paper: the paper's name, its sides in mm across and up, and the scale."""

    paper: str
    width: float
    height: float
    scale: float

    @property
    def said(self) -> str:
        """The scale as a sheet says it: ``2:1``, ``1:5``."""
        shown = self.scale if self.scale >= 1 else 1 / self.scale
        number = f"{round(shown, 3):g}"
        return f"{number}:1" if self.scale >= 1 else f"1:{number}"


def series(unit: str) -> dict[str, tuple[float, float]]:
    """Return the papers that a unit is drawn on, smallest first: ISO for metric ones, ANSI for inches and
    feet."""
    return ANSI if unit in ("in", "ft") else ISO


def largest_scale(room: tuple[float, float], size: tuple[float, float]) -> float:
    """Return the largest standard scale at which a drawing fits into room, both in mm; below all of them
    whatever just fits."""
    wide, high = max(size[0], tol.LEAST_EXTENT), max(size[1], tol.LEAST_EXTENT)
    fits = (s for s in SCALES if wide * s <= room[0] and high * s <= room[1])
    return next(fits, min(room[0] / wide, room[1] / high))
