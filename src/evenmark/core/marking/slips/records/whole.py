"""The drawing, or a view of it, as a whole."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="unit-factor",
        title="Drawn in another unit",
        means="everything is off by a factor between units, or by ten",
        advice="Set the unit before the first line, and measure one known edge before you go on.",
    ),
    Slip(
        code="mirrored",
        title="Mirrored",
        means="everything is mirrored",
        advice=(
            "Compare one corner of your drawing with the sheet before you go on: what is on the left "
            "there should be on the left here."
        ),
    ),
    Slip(
        code="turned",
        title="Turned",
        means="everything is turned",
        advice="Check which way up the sheet is: one long edge level on both is enough.",
    ),
    Slip(
        code="shifted",
        title="Out of its place as one",
        means="everything is right but for one vector",
        advice=("Begin at the point that the sheet gives, and read its coordinates back before you draw on."),
    ),
    Slip(
        code="left-behind",
        title="Left behind",
        means=(
            "something stayed where it was when everything else was moved, or where the start drawing had it"
        ),
        advice=("When you move or stretch a piece, look at its neighbours: all of them have to come along."),
    ),
    Slip(
        code="views-exchanged",
        title="Views were exchanged",
        means="a view is on the other side of the front view",
        advice="Name each view before you place it: from the front, from above, from the side.",
    ),
)
