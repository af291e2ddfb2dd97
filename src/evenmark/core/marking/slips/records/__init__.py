"""Every slip that the engine names: one record each, in groups beside their like. What puts them forward is
in the modules of `slips`."""

from __future__ import annotations

from evenmark.core.marking.slips.records import (
    circles,
    ends,
    leftover,
    lettering,
    numbers,
    sizes,
    unexplained,
    whole,
)
from evenmark.core.marking.slips.records.record import Slip

SLIPS: dict[str, Slip] = {
    slip.code: slip
    for module in (circles, numbers, sizes, whole, ends, leftover, lettering, unexplained)
    for slip in module.SLIPS
}
"""Every slip by its code."""
