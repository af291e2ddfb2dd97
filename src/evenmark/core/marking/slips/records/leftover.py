"""Layers, looks, and what was drawn too much or not at all."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="edges-exchanged",
        title="Hidden and visible edges were exchanged",
        means="a hidden and a visible edge have each other's layer",
        advice=("For each edge ask whether you would see it from this side. Only what is hidden is dashed."),
    ),
    Slip(
        code="wrong-layer",
        title="On another layer",
        means="right shape, another layer",
        advice=(
            "Choose the layer before you draw. At the end show one layer after the other and look at "
            "what is on it."
        ),
    ),
    Slip(
        code="layer-misnamed",
        title="A layer is misnamed",
        means="the layer is named as asked but for letter case, blanks or one letter",
        advice="Type layer names exactly as the page of the exercise lists them.",
    ),
    Slip(
        code="default-layer",
        title="Left on the default layer",
        means="right shape, left on layer 0",
        advice=(
            "Nothing belongs on the layer that is there before you make any. Make and choose your "
            "layers first."
        ),
    ),
    Slip(
        code="wrong-line-type",
        title="Another line type",
        means="everything about the look is right but the line type",
        advice="Let the layer set the line type, and set it there once.",
    ),
    Slip(
        code="dashes-too-long",
        title="Dashes do not show",
        means="the dashes repeat more seldom than the line is long, so that they do not show",
        advice=(
            "Dashes longer than the line do not show. Make the pattern so fine that several of its "
            "dashes fit on the shortest line."
        ),
    ),
    Slip(
        code="drawn-twice",
        title="Drawn twice",
        means="something lies on top of something else",
        advice=(
            "Two lines on top of each other look like one. Take one away: if a line still stands there, "
            "it was drawn twice."
        ),
    ),
    Slip(
        code="construction-left",
        title="Construction left in",
        means="construction was left in",
        advice=(
            "Rub out helper lines when they have done their work, or keep them on the construction "
            "layer if the exercise allows it."
        ),
    ),
    Slip(
        code="left-on-construction",
        title="Left on the construction layer",
        means="right shape, left on the construction layer",
        advice=(
            "Switch the construction layer off before you hand in: whatever vanishes and should not "
            "belongs on another layer."
        ),
    ),
    Slip(
        code="chords",
        title="An arc drawn as straight pieces",
        means="an arc or circle was drawn as short straight pieces, one after the other",
        advice=(
            "Draw what is round as an arc or a circle: its size and centre can then be asked, and it stays "
            "round at any scale."
        ),
    ),
    Slip(
        code="lettering-as-lines",
        title="Lettering drawn as lines",
        means="lettering was drawn, or exported, as separate lines",
        advice=(
            "Write it as a text. If you did, look at how you save the drawing: keep texts as texts, instead "
            "of turning them into lines."
        ),
    ),
    Slip(
        code="debris",
        title="Debris",
        means="something is so short that nothing can be seen of it",
        advice=(
            "Points and lines without length come from a doubled press. Clear them away before you hand in."
        ),
    ),
    Slip(
        code="not-drawn",
        title="Not drawn",
        means="nothing was drawn for a feature",
        advice=("Before you hand in, go over the sheet with a pencil and tick off each line that you have."),
    ),
)
