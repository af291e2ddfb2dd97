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
        advice=("Compare one corner with the sheet: what is on the left there should be on the left here."),
    ),
    Slip(
        code="turned",
        title="Turned",
        means="everything is turned",
        advice="Check which way up the sheet is: compare one long horizontal edge.",
    ),
    Slip(
        code="shifted",
        title="Whole drawing out of place",
        means="everything is right but for one vector",
        advice=("Begin at the point that the sheet gives, and check its coordinates before you go on."),
    ),
    Slip(
        code="left-behind",
        title="Left behind",
        means=(
            "something stayed where it was when everything else was moved, or where the start drawing had it"
        ),
        advice=("When you move or stretch objects, check their neighbours: all of them have to come along."),
    ),
    Slip(
        code="views-exchanged",
        title="Views were swapped",
        means="a view is on the other side of the front view",
        advice="Name each view before you place it: from the front, from above, from the side.",
    ),
)
