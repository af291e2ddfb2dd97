"""Every comparison of floating-point numbers goes through here, and every constant it uses is named here.

- *tolerance*: how far a drawn value may lie from the value asked for; belongs to a requirement, in key units.
- *weld*: how far apart two points may lie and still be one point of the same drawing. It absorbs the rounding
  of file writers, never a slip of the person who drew: it is at most the default tolerance.
- *slack*: what floating-point arithmetic itself may add; relative to the largest coordinate.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

SLACK_SHARE = 1e-9
"""Slack as a share of the largest coordinate (marking.md, Verdicts): far above double rounding, far below any
tolerance."""
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
HAND_SHARE = 0.1
"""An end that misses its meeting by more than this share of its edge was drawn to somewhere else."""
NEAR_SHARE = 0.05
"""Near band of sizes as a share of the expected size; the smaller of the two bands holds."""
NEAR_ANGLE_DEG = 0.5
"""Near band of angles, degrees."""
SAME_DIRECTION_RAD = 1e-4
"""The most by which the directions of two short pieces may differ and still be tried as one edge, rad."""
PLANE_NORMAL = 1e-9
"""How far the normal of an entity may lean and still count as square to the drawing plane."""
SAME_CURVE_SHARE = 1e-9
"""How far, as a share of its extent, the points of an ellipse or spline may lie from a line or circle that it
then is."""
EQUAL_AXES_SHARE = 1e-9
"""How far the axes of an ellipse may differ, as a share, for it to be a circle."""
SEEN_DEG = 0.001
"""An arc of less is not drawn on paper: at any radius that a sheet has it is a dot."""
NOT_ZERO = 1e-300
"""Floor of a divisor that may be zero: what is divided is zero then, too, and so is what comes out."""
LEAST_EXTENT = 1e-9
"""Floor of the sides of a drawing that is a point or a line, where it is laid on a sheet; in units."""
TIDY_REACH = 1e-9
"""What is drawn twice lies within this share of the drawing's reach: it was drawn by the same numbers."""
SMALLEST = 1e-150
"""Vectors shorter than this, or longer than one by it, have products beyond what doubles hold."""
LEAST_SIZE = 1e-12
"""Floor of a size or step that others are divided by, far below any weld."""
SHOWN_AS_ZERO = 1e-12
"""A coordinate of a picture below this is written as 0."""
SAME_FACTOR_SHARE = 1e-9
"""How far two factors between units may differ, as a share, and still be the same."""
TYPED_SHARE = 1e-9
"""How far a drawn number may lie from one that was typed, as a share: what writing it into a file leaves."""
TYPED_LEAST = 1e-7
"""The same for small numbers and angles, in their own unit."""
TYPED_DEG = 1e-6
"""How far an angle may lie from a multiple of a round one and still have been typed, degrees."""
FULL_TURN_RAD = 1e-6
"""How far the steps of a pattern may miss a full turn together and still go all the way round, rad."""
NEARLY_FULL_TURN_RAD = 1e-3
"""The same for one step of a pattern placed by eye, rad."""
RANK_SHARE = 1e-12
"""Singular values below this share of the largest count as none."""
SHIFT_NOISE_SHARE = 1e-6
"""A shift of less than this share of the reach is what arithmetic left, and none."""
SAME_TURN_DEG = 1e-4
"""Turns within this are one turn for a count of votes; the mean of the votes is then taken."""
QUARTER_TURN_DEG = 1e-9
"""A turn within this of a quarter turn is one."""
UNIT_STEP = 1e-6
"""Unit vectors that agree within this in each coordinate have one direction; also the sine between two
endless lines of one direction."""
PARALLEL_SINE = 1.7e-5
"""Lines whose directions differ by less than this sine (a thousandth of a degree) have no crossing that a
slip could be measured to."""
NO_CROSSING_SINE = 1e-12
"""Lines whose directions differ by less than this sine are parallel: where they would cross is noise."""
TOUCHES_SHARE = 1e-10
"""How far a line or circle may miss another, as a share of what is measured, and still touch it: what
arithmetic leaves of an exact tangent."""
READABLE_DEG = 1e-6
"""A direction that is off plumb by less is read from the right."""
ALIGNED_RAD = 2e-4
"""Turns of a sequence within this are equal; on short pieces, as much as their ends may be off, rad."""
DISPLACEMENT_WEIGHT = 1e-3
"""What displacement counts beside edits of an alignment: it decides between equal ones and nothing else."""
FEWER_EDITS = 1e-6
"""By how much one alignment must need fewer edits than another to be better."""
SAME_COST = 1e-12
"""Costs within this are equal; the first then holds."""
ORDER_WEIGHT = 1e-6
"""What order and layer count beside the cost of an assignment: they decide between equal ones and nothing
else."""
SURELY_MARKS = 1e-6
"""Marks by which a placement must be beaten for certain before it is left out unexamined."""
HATCH_AREA_SHARE = 1e-5
"""How far a hatched area may differ, as a share of its region's size times the way round it."""
START_STEP_RAD = 1e-6
"""Arcs of one circle are sorted by start angle in steps of this, rad."""
FAR_FROM_ORIGIN_SHARE = 1e-3
"""What part of the largest coordinate a curve is taken to extend over at least: far from the origin its
points are rounded more."""
BACKWARD_RAD = 1e-12
"""A curve that turns back by no more than this turns one way, rad."""
LEVEL_SHARE = 1e-12
"""A line that rises by no more than this share of its run is level."""
CELL_SHARE = 1e-6
"""By how much of a cell a search for neighbours reaches further than asked, so that arithmetic loses none at
an edge."""
SAME_TURN_RAD = 1e-12
"""Directions within this, in rad, are sorted as one."""
CURVE_STEP = 1e-3
"""How far the chords of a hatch's boundary may lie from its curve, in units; what is examined of it is its
area."""
PEN_UP = 1e-6
"""Pieces that end within this of where the next begins are written as one polyline."""

TURN_DEG = 0.01
"""How far a direction may lie from another and still be the same for a dimension, degrees."""
TURN_STEP_DEG = 0.1
"""Straight pieces are looked up by their direction in steps of this, degrees."""
HELD_APART = 0.1
"""How far two places have to lie apart to hold a turn, where the extent of a drawing is 1."""
SMOOTH_RAD = 0.05
"""The largest bend at which two pieces are one curve; their chords say the direction only so well."""
CUT_RAD = 0.1234567
"""Directions are sorted from this angle on, so that level and plumb lines do not fall on both ends of the
order."""
STRAIGHT_ON_SINE = 0.02
"""Sine of the largest bend at which two pieces are tried as one; the test by weld then decides."""
SLIGHT_SHARE = 0.1
"""What share of the near band a piece may miss level or touching by and be meant so: more is a taper."""
LEAST_SIDE_SHARE = 0.04
"""A group of features smaller than this share of the whole is no view."""
VIEW_MARGIN_SHARE = 0.02
"""How far round a view lettering still belongs to it, as a share of its longer side."""
GENTLE_SHARE = 0.05
"""A length that was typed before goes along an axis where it is pointed so nearly, as a share of it."""
TYPED_STEP_MM = 0.05
"""Step on which a typed number lies, and a number placed by eye hardly ever, mm."""
ROUGH_SHARE = 0.01
"""How far a freehand curve may lie from something round that it stands for, as a share of its size."""
FIGURE_WEIGHT = 0.1
"""What the distance of two figures counts beside that of what they measure."""
TYPICAL_GAP_MM = 0.02
"""The gap of a typical slip, mm: seen by no eye, and far above any tolerance."""
SPARE_WIDTH_SHARE = 0.3
"""How far the width of lettering in another face may differ, as a share."""
ONE_PLACE_MM = 0.01
"""Marks of a sheet nearer to each other than this stand in one place, mm of paper."""
NEARLY_ENDED_RAD = 1e-3
"""By how much the end of an arc may fall short of the side at which a size is measured to it, rad."""
PROOF_STEP = 1e-6
"""Half the step of central differences in the proof, where the extent of a drawing is 1: the error, of third
order, is far below what counts as zero."""
PROOF_ZERO = 1e-7
"""A derivative, or what is left of one after elimination, below this is none."""
PROOF_SETTLES = 1e-3
"""How much of a motion a size must take up to be offered as what would settle it."""
PROOF_PIVOT_SHARE = 0.1
"""What a pivot of the proof may be smaller than the largest of its row, so that rows stay short."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Tolerances:
    """The tolerances a rule set gives to requirements that state none of their own: lengths in key units,
    angle in degrees."""

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
    """Return the weld of a drawing from its extent (longer side) and the default length tolerance, all in one
    unit."""
    return min(WELD_SHARE * extent, length_tolerance) if extent > 0 else length_tolerance * WELD_SHARE


def is_round(value: float, step: float, tolerance: float) -> bool:
    """Say whether a value is a multiple of a step, as a typed number would be and a number placed by eye
    would not."""
    return math.isfinite(value) and abs(value - round(value / step) * step) <= tolerance


SHOWN_SHARE = 1e-9
"""Of its size: a number that is nearer than this to what is shown of it is shown whole."""
LEAST_PITCH = 1e-6
"""No pointer says numbers finer than this, in units of the drawing."""
AS_SAID_SHARE = 1e-13
"""Of its size: a number that is nearer than this to a shorter one differs from it by arithmetic alone."""
ONE_PLACE_SHARE = 1e-6
"""Catches within this share of a pointer's reach are one place."""
DRIVEN = 1e-12
"""How far an equation may be off where a drawing was made to follow its sheet, its extent being 1."""
DRIVEN_RANK = 1e-9
"""A direction in which the equations hold less than this of their largest hold is free."""
ANGLE_SHOWN_DEG = 0.05
"""How far an angle that stands beside a chamfer's leg may be off: it is shown in whole or half degrees."""
ALONG_DEG = 0.05
"""How far from level or plumb an edge may run and still be called horizontal or vertical."""
ROUND_END_RAD = 0.9 * math.pi
"""An arc of at least this sweep is called a round end; one of less rounds a corner."""
CHAMFER_SHARE = 0.34
"""A slanted edge across a corner, no longer than this share of both its neighbours, is called a chamfer."""
