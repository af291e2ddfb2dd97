"""No single slip."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="unexplained",
        title="No single slip explains it",
        means="no single slip accounts for the numbers, or several would (`candidates` lists them)",
        advice=(
            "Measure it on your drawing, compare it with the sheet, and correct the step where they differ."
        ),
    ),
)
