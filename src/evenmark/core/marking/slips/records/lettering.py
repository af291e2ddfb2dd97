"""Lettering and dimensions."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="text-height",
        title="Lettering of another height",
        means="lettering of another height",
        advice="Set the height of lettering before you write, from the heights that the sheet asks for.",
    ),
    Slip(
        code="text-case",
        title="Capitals and small letters",
        means="the right letters, capitals and small ones exchanged",
        advice="Lettering on drawings is in capitals unless the sheet says otherwise.",
    ),
    Slip(
        code="text-anchor",
        title="Lettering at another corner",
        means="lettering put by another of its corners on the right point",
        advice="Choose which corner of the lettering stands on the point before you place it.",
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
