"""Numbers that were taken otherwise than they were given."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="clockwise-angle",
        title="An angle was taken clockwise",
        means="a typed direction was measured clockwise",
        advice=(
            "Angles count counter-clockwise from east. Before typing one, point roughly where the line "
            "should go and compare."
        ),
    ),
    Slip(
        code="angle-from-vertical",
        title="An angle was taken from the vertical",
        means="a typed direction was measured from the vertical",
        advice=(
            "Angles count from the horizontal. If the sheet shows one from the vertical, take it from "
            "90 first."
        ),
    ),
    Slip(
        code="angle-from-previous",
        title="An angle was taken from the line before",
        means="a typed direction was measured from the line before",
        advice=(
            "Say to yourself what the angle is measured from: the horizontal, or the line before. Then "
            "type it."
        ),
    ),
    Slip(
        code="supplementary-angle",
        title="The supplement of an angle was drawn",
        means="the supplement of a typed direction was drawn",
        advice=("Two lines make two angles that add up to 180. Check on the sheet which side its arc is on."),
    ),
    Slip(
        code="axes-swapped",
        title="Horizontal and vertical were swapped",
        means="horizontal and vertical of a typed step or place were swapped",
        advice="Horizontal comes first, then vertical. Say both aloud as you type them.",
    ),
    Slip(
        code="sign-flipped",
        title="A sign was changed",
        means="a typed step or place has a wrong sign",
        advice=(
            "Left and down are negative. Sketch the step before you type it, and look where the point lands."
        ),
    ),
    Slip(
        code="coordinate-as-step",
        title="A coordinate was taken as a step",
        means="a coordinate was taken as a step from the last point",
        advice=(
            "A place counted from the origin and a step counted from the last point are typed "
            "differently. Decide which one the sheet gives."
        ),
    ),
    Slip(
        code="step-as-coordinate",
        title="A step was taken as a coordinate",
        means="a step was taken as a coordinate",
        advice=(
            "A step starts at the last point, not at the origin. If a line shoots off toward the "
            "origin, this is why."
        ),
    ),
    Slip(
        code="baseline-as-chain",
        title="Baseline dimensions were drawn as a chain",
        means="baseline dimensions were each taken from the one before",
        advice="When all dimensions start at one edge, each is counted from that edge. Add nothing up.",
    ),
    Slip(
        code="chain-as-baseline",
        title="Chain dimensions were drawn from one base",
        means="chain dimensions were all taken from one base",
        advice="In a chain of dimensions, each begins where the one before ended.",
    ),
)
