"""Sizes of other features, rounded ones, and what they carry along."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="size-of-another",
        title="The size of another feature",
        means="a size is exactly that of another feature",
        advice=("Follow the lines of a dimension to its edge before you type it."),
    ),
    Slip(
        code="follows-edge",
        title="Carried along by an edge",
        means=(
            "what an edge of the wrong size or direction carried along, and which edge; the edge "
            "itself, too, where nothing else accounts for it"
        ),
        advice=("One wrong length moves everything after it. Correct that one, and the rest will follow."),
    ),
    Slip(
        code="rounded-value",
        title="A rounded value was drawn",
        means="the number that a rounded display shows was drawn",
        advice=(
            "A number on the screen may be rounded. Type the size from the sheet, not the one on the screen."
        ),
    ),
)
