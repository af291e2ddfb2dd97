"""The picture under a board that is traced: where it lies, and how two points and a distance scale it.

- *underlay*: where the upper left corner of a picture lies in the drawing (``at``), how many units of the
  drawing one of its dots is (``scale``), by how much it is turned about that corner (``turn``, degrees,
  counter-clockwise).
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import TypedDict

from evenmark.core.geometry.numbers import NumberError, evaluate, parse
from evenmark.core.geometry.points import Box, Point, distance
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.geometry.units import Unit, inch_in

ROOM = 1.25
"""How much wider than the drawing a picture is at first."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Underlay:
    """Where a picture lies."""

    at: Point
    scale: float
    turn: float = 0.0


class UnderlayJson(TypedDict):
    """Where a picture lies, as it is kept: with its size in dots, how strongly it is shown, and a mark that
    another picture does not have."""

    at: Point
    scale: float
    turn: float
    width: int
    height: int
    strength: float
    mark: str


def laid_under(box: Box, width: int, height: int) -> Underlay:
    """Return how a picture of so many dots lies round what is drawn at first.

    >>> laid_under((0.0, 0.0, 80.0, 40.0), 1000, 500)
    Underlay(at=(-10.0, 45.0), scale=0.1, turn=0.0)
    """
    scale = ROOM * max((box[2] - box[0]) / width, (box[3] - box[1]) / height)
    middle = ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2)
    return Underlay(at=(middle[0] - width * scale / 2, middle[1] + height * scale / 2), scale=scale)


def scaled(underlay: Underlay, a: Point, b: Point, apart: float, *, level: bool = False) -> Underlay:
    """Return how a picture lies where two places of it are so far apart; the first stays where it is.

    ``level`` turns it, too, so that they are level or plumb, whichever is nearer. Raises ValueError where the
    two places are one, or the distance is nothing.

    >>> scaled(Underlay(at=(0.0, 0.0), scale=1.0), (10.0, 0.0), (30.0, 0.0), 10.0)
    Underlay(at=(5.0, 0.0), scale=0.5, turn=0.0)
    """
    far = distance(a, b)
    if far == 0.0 or apart <= 0.0 or not math.isfinite(apart / far):
        raise ValueError("The two places are the same. Choose them farther apart.")
    turn = 0.0
    if level:
        way = math.degrees(math.atan2(b[1] - a[1], b[0] - a[0]))
        turn = round(way / 90.0) * 90.0 - way
    grown = apart / far
    shifted = Similarity(scale=grown, turn_deg=turn).point((underlay.at[0] - a[0], underlay.at[1] - a[1]))
    return replace(
        underlay,
        at=(a[0] + shifted[0], a[1] + shifted[1]),
        scale=underlay.scale * grown,
        turn=(underlay.turn + turn + 180.0) % 360.0 - 180.0 + 0.0,
    )


def length_of(typed: str, unit: Unit) -> float:
    """Return how far two places are apart as it is typed, in a unit. Raises NumberError.

    >>> from evenmark.core.geometry.units import INCH
    >>> length_of("2 1/2", INCH)
    2.5
    """
    try:
        return float(evaluate(parse(typed, inch=inch_in(unit))))
    except NumberError:
        raise
    except (ArithmeticError, ValueError) as why:
        raise NumberError("The number is too large. Type a smaller one.", 0) from why


def moved_underlay(underlay: Underlay, a: Point, b: Point) -> Underlay:
    """Return how a picture lies where what was at one place of it is at another one."""
    x, y = underlay.at
    return replace(underlay, at=(x + b[0] - a[0], y + b[1] - a[1]))
