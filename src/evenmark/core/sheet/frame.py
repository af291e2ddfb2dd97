"""Frames: coordinates of a drawing as those of a page, and its lines as paths.

Scene coordinates are drawing units with y downward, relative to an origin near the drawing, so that a
browser's single-precision paths still show a gap of a thousandth far from zero. An origin may be given: then
it stays where it is while the drawing grows.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Protocol, TypedDict, TypeGuard, cast

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point, point_on

EMPTY_BOX: Box = (0.0, 0.0, 100.0, 70.0)
"""What is shown of a drawing with nothing in it."""
ScenePoint = list[float]
"""A place of the scene: right, down."""
SceneBox = list[float]
"""The upper left corner, how wide and how high."""


class SceneText(TypedDict):
    """Lettering with its place and anchor; ``turn`` in degrees."""

    wording: str
    at: ScenePoint
    anchor: str
    height: float
    turn: float


class Free(Protocol):
    """A free curve by points along it."""

    @property
    def points(self) -> tuple[Point, ...]:
        """Points on it, from end to end."""


class Straight(Protocol):
    """A line."""

    @property
    def start(self) -> Point:
        """Where it begins."""

    @property
    def end(self) -> Point:
        """Where it ends."""


class Circular(Protocol):
    """A circle; an arc of it where it has a sweep, too."""

    @property
    def center(self) -> Point:
        """Its centre."""

    @property
    def radius(self) -> float:
        """Its radius."""


class Bent(Circular, Protocol):
    """An arc, counter-clockwise."""

    @property
    def start_rad(self) -> float:
        """Where it begins, in radians."""

    @property
    def sweep_rad(self) -> float:
        """How far it sweeps, in radians."""


Curve = Free | Straight | Circular
"""A line, arc, circle or free curve of a drawing or of its linework: both have the same fields."""


def is_free(curve: Curve) -> TypeGuard[Free]:
    """Say whether a curve is a free one."""
    return hasattr(curve, "points")


def is_circular(curve: Curve) -> TypeGuard[Circular]:
    """Say whether a curve is an arc or a circle."""
    return hasattr(curve, "radius")


def is_bent(curve: Curve) -> TypeGuard[Bent]:
    """Say whether a curve has a sweep: an arc, or a whole turn said as one."""
    return hasattr(curve, "sweep_rad")


class Lettering(Protocol):
    """Text of a drawing or of its linework."""

    @property
    def wording(self) -> str:
        """What it says."""

    @property
    def at(self) -> Point:
        """Its anchor."""

    @property
    def anchor(self) -> str:
        """Which of its places that is."""

    @property
    def height(self) -> float:
        """How high capitals are."""

    @property
    def turn_deg(self) -> float:
        """By how much it is turned, in degrees."""


def num(value: float) -> str:
    """Return a number for a path: twelve figures, no minus zero."""
    return f"{value + 0.0:.12g}" if abs(value) > tol.SHOWN_AS_ZERO else "0"


class Frame:
    """Turns drawing coordinates into scene coordinates."""

    def __init__(self, box: Box | None, origin: Point | None = None) -> None:
        self.box = box or EMPTY_BOX
        self.origin: Point = origin or (self.box[0], self.box[3])

    def at(self, p: Sequence[float]) -> ScenePoint:
        """Return a point of the scene."""
        return [round(p[0] - self.origin[0], 9) + 0.0, round(self.origin[1] - p[1], 9) + 0.0]

    def pair(self, p: Point) -> str:
        """Return a point as it stands in a path."""
        x, y = self.at(p)
        return f"{num(x)} {num(y)}"

    def line(self, a: Point, b: Point) -> str:
        """Return the path of a straight piece."""
        return f"M{self.pair(a)}L{self.pair(b)}"

    def arc(self, center: Point, radius: float, start_rad: float, sweep_rad: float) -> str:
        """Return the path of an arc; a full turn is two half turns (SVG 2, elliptical arc commands).

        Counter-clockwise with y up is sweep flag 0 with y down.
        """
        r = num(radius)
        if sweep_rad >= 2 * math.pi - tol.BACKWARD_RAD:
            a, b = point_on(center, radius, 0.0), point_on(center, radius, math.pi)
            return f"M{self.pair(a)}A{r} {r} 0 1 0 {self.pair(b)}A{r} {r} 0 1 0 {self.pair(a)}Z"
        a, b = point_on(center, radius, start_rad), point_on(center, radius, start_rad + sweep_rad)
        return f"M{self.pair(a)}A{r} {r} 0 {int(sweep_rad > math.pi)} 0 {self.pair(b)}"

    def curve(self, f: Curve) -> str:
        """Return the path of anything drawn as a line, of a drawing or of its linework."""
        if is_free(f):
            first, *rest = (self.pair(p) for p in f.points)
            return f"M{first}L{' '.join(rest)}"
        if is_bent(f):
            return self.arc(f.center, f.radius, f.start_rad, f.sweep_rad)
        if is_circular(f):
            return self.arc(f.center, f.radius, 0.0, 2 * math.pi)
        line = cast(Straight, f)
        return self.line(line.start, line.end)

    def text(self, t: Lettering) -> SceneText:
        """Return lettering with its place and anchor."""
        return {
            "wording": t.wording,
            "at": self.at(t.at),
            "anchor": t.anchor,
            "height": round(t.height, 9),
            "turn": round(t.turn_deg, 6),
        }
