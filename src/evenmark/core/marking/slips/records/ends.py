"""Ends and places: by eye, gaps, other points, tangents, sides."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="by-eye",
        title="Placed by eye",
        means="a point or size is near, off by no round number, and nothing else agrees",
        advice="Pointing by hand is never exact. Type the number, or catch the exact point.",
    ),
    Slip(
        code="gap",
        title="Ends do not meet",
        means="ends that should meet do not",
        advice=(
            "Let the second line begin on the end of the first instead of near it. Enlarge each corner "
            "once before you hand in."
        ),
    ),
    Slip(
        code="overshoot",
        title="An end runs past its junction",
        means="an end runs past the point where it should stop",
        advice="Trim what runs past its corner, then enlarge the corner and check it.",
    ),
    Slip(
        code="caught-wrong-point",
        title="Wrong point caught",
        means="an end or centre lies exactly on another characteristic point",
        advice=("When several points are close together, enlarge first, and read which one is being caught."),
    ),
    Slip(
        code="not-quite-tangent",
        title="Not quite tangent",
        means="a line and a curve meet, and are nearly tangent",
        advice=(
            "A tangent cannot be placed by eye. Construct it from the circle, with its point of tangency."
        ),
    ),
    Slip(
        code="wrong-tangent-side",
        title="Tangent on the other side",
        means="an edge is tangent to the right curve, on its other side",
        advice=(
            "Two tangents fit most pairs of circles. Look at the sheet: does the line cross between the "
            "circles or stay on one side?"
        ),
    ),
    Slip(
        code="tangent-to-another",
        title="Tangent to another circle",
        means="an edge is tangent to another curve than was asked",
        advice="Name both circles of a tangent before you draw it.",
    ),
    Slip(
        code="wrong-side",
        title="On the other side",
        means="as far from an edge as asked, on its other side",
        advice=("A parallel lies on one of two sides. Check the side before you accept it."),
    ),
)
