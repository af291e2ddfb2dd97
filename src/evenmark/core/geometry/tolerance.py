"""Every comparison of floating-point numbers goes through here, and every constant it uses is named here.

- *tolerance*: how far a drawn value may lie from the value asked for; belongs to a requirement, in key units.
- *weld*: how far apart two points may lie and still be one point of the same drawing. It absorbs the rounding of
  file writers, never a slip of the person who drew: it is at most the default tolerance.
- *slack*: what floating-point arithmetic itself may add; relative to the largest coordinate.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

SLACK_SHARE = 1e-9
"""Slack as a share of the largest coordinate (marking.md, Verdicts): far above double rounding, far below any tolerance."""
WELD_SHARE = 1e-6
"""Weld as a share of the drawing's extent (marking.md, Simplify)."""
LENGTH_MM = 0.001
"""Default length tolerance of a metric drawing, mm."""
LENGTH_IN = 0.0001
"""Default length tolerance of an inch drawing, in."""
ANGLE_DEG = 0.01
"""Default tolerance of angles, degrees."""
NEAR_MM = 0.5
"""Near band of sizes in a metric drawing, mm."""
NEAR_IN = 0.02
"""Near band of sizes in an inch drawing, in."""
NEAR_SHARE = 0.05
"""Near band of sizes as a share of the expected size; the smaller of the two bands holds."""
NEAR_ANGLE_DEG = 0.5
"""Near band of angles, degrees."""
SAME_DIRECTION_RAD = 1e-4
"""The most by which the directions of two short pieces may differ and still be tried as one edge, rad."""
PLANE_NORMAL = 1e-9
"""How far the normal of an entity may lean and still count as square to the drawing plane."""
SAME_CURVE_SHARE = 1e-9
"""How far, as a share of its extent, the points of an ellipse or spline may lie from a line or circle that it then is."""
FLAT_SHARE = 1e-7
"""How far, as a share of its extent, the chords of a free curve may lie from it: far below any tolerance of its drawing."""
EQUAL_AXES_SHARE = 1e-9
"""How far the axes of an ellipse may differ, as a share, for it to be a circle."""
SEEN_DEG = 0.001
"""An arc of less is not drawn on paper: at any radius that a sheet has it is a dot."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Tolerances:
    """The tolerances a rule set gives to requirements that state none of their own: lengths in key units, angle in degrees."""

    length: float = LENGTH_MM
    position: float = LENGTH_MM
    angle_deg: float = ANGLE_DEG
    near: float = NEAR_MM


def slack(largest_coordinate: float) -> float:
    """Return what arithmetic may add to a deviation, in the unit of the coordinate."""
    return SLACK_SHARE * max(1.0, abs(largest_coordinate))


def within(deviation: float, tolerance: float, slack: float) -> bool:
    """Say whether a deviation is allowed: ``abs(deviation) <= tolerance + slack``.

    >>> within(0.001, 0.001, 1e-7), within(0.0011, 0.001, 1e-7), within(math.nan, 1, 0)
    (True, False, False)
    """
    return abs(deviation) <= tolerance + slack


def weld_of(extent: float, length_tolerance: float) -> float:
    """Return the weld of a drawing from its extent (longer side) and the default length tolerance, all in one unit."""
    return min(WELD_SHARE * extent, length_tolerance) if extent > 0 else length_tolerance * WELD_SHARE


def is_round(value: float, step: float, tolerance: float) -> bool:
    """Say whether a value is a multiple of a step, as a typed number would be and a number placed by eye would not."""
    return math.isfinite(value) and abs(value - round(value / step) * step) <= tolerance
