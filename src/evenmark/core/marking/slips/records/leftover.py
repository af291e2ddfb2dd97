"""Layers, looks, and what was drawn too much or not at all."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="edges-exchanged",
        title="Hidden and visible edges were swapped",
        means="a hidden and a visible edge have each other's layer",
        advice=("For each edge ask whether you would see it from this side. Only what is hidden is dashed."),
    ),
    Slip(
        code="wrong-layer",
        title="Wrong layer",
        means="right shape, wrong layer",
        advice=("Choose the layer before you draw. At the end, show one layer at a time and check it."),
    ),
    Slip(
        code="layer-misnamed",
        title="A layer is misnamed",
        means="the layer is named as asked but for letter case, spaces or one letter",
        advice="Type layer names exactly as the page of the exercise lists them.",
    ),
    Slip(
        code="default-layer",
        title="Left on the default layer",
        means="right shape, left on layer 0",
        advice=(
            "Nothing belongs on the default layer. Create your layers first, and choose one before you draw."
        ),
    ),
    Slip(
        code="wrong-line-type",
        title="Wrong line type",
        means="the line style is right but for the line type",
        advice="Let the layer set the line type, and set it there once.",
    ),
    Slip(
        code="dashes-too-long",
        title="Dashes do not show",
        means="the dash pattern is longer than the line, so that no dashes show",
        advice=(
            "Dashes longer than the line do not show. Use a pattern with several dashes on the shortest line."
        ),
    ),
    Slip(
        code="drawn-twice",
        title="Drawn twice",
        means="something lies on top of something else",
        advice=(
            "Two lines on top of each other look like one. Delete one: if a line is still there, it was "
            "drawn twice."
        ),
    ),
    Slip(
        code="construction-left",
        title="Construction left in",
        means="construction was left in",
        advice=(
            "Delete construction lines when you no longer need them. Keep them on the construction "
            "layer if the exercise allows it."
        ),
    ),
    Slip(
        code="left-on-construction",
        title="Left on the construction layer",
        means="right shape, left on the construction layer",
        advice=(
            "Hide the construction layer before you hand in. What vanishes and should not belongs on "
            "another layer."
        ),
    ),
    Slip(
        code="chords",
        title="An arc drawn as straight lines",
        means="an arc or circle was drawn as short straight lines, one after the other",
        advice=(
            "Draw what is round as an arc or a circle: its size and centre can then be asked, and it stays "
            "round at any scale."
        ),
    ),
    Slip(
        code="lettering-as-lines",
        title="Text drawn as lines",
        means="text was drawn, or exported, as separate lines",
        advice=(
            "Write it as text. If you did, check how you save the drawing: text must stay text, not "
            "become lines."
        ),
    ),
    Slip(
        code="debris",
        title="Debris",
        means="something is so short that nothing can be seen of it",
        advice=("Points and lines without length come from double clicks. Delete them before you hand in."),
    ),
    Slip(
        code="not-drawn",
        title="Not drawn",
        means="nothing was drawn for a feature",
        advice=("Before you hand in, go over the sheet with a pencil and tick off each line that you have."),
    ),
)
