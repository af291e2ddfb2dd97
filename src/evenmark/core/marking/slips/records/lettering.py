"""Lettering and dimensions."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="text-height",
        title="Wrong text height",
        means="text of the wrong height",
        advice="Set the text height before you write, from the sheet.",
    ),
    Slip(
        code="text-case",
        title="Capitals and small letters",
        means="the right letters, upper and lower case swapped",
        advice="Text on drawings is in capitals unless the sheet says otherwise.",
    ),
    Slip(
        code="text-anchor",
        title="Text placed by the wrong corner",
        means="text put on the right point by another of its corners",
        advice="Choose which corner of the text lies on the point before you place it.",
    ),
    Slip(
        code="typed-over",
        title="A dimension was typed over",
        means="a dimension says another number than it measures",
        advice=(
            "A dimension should show what it measures. If it is wrong, the drawing is wrong: correct that."
        ),
    ),
)
