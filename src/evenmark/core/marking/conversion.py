"""Sizes of an attempt in the unit of the key, and what is said of it (marking.md, Read: units)."""

from __future__ import annotations

from evenmark.core.drawing.model import Drawing
from evenmark.core.marking.key import Key
from evenmark.core.marking.model import SheetNote


def conversion(key: Key, attempt: Drawing) -> tuple[float, list[SheetNote]]:
    """Return the factor from attempt units to key units; other than 1 only when both files declare a unit."""
    if attempt.unit is None:
        return 1.0, [
            SheetNote(
                code="unit-assumed",
                says=f"The file declares no unit; its sizes are read as {key.unit.symbol}.",
            )
        ]
    if not key.declared or not key.rules.any_unit or attempt.unit.mm == key.unit.mm:
        return 1.0, []
    return attempt.unit.mm / key.unit.mm, [unit_note("unit-converted", key, attempt)]


def unit_note(code: str, key: Key, attempt: Drawing) -> SheetNote:
    """Say what was done with the unit that an attempt declares."""
    unit = attempt.unit or key.unit
    if code == "unit-converted":
        return SheetNote(
            code=code, says=f"The file declares {unit.symbol}; its sizes were converted to {key.unit.symbol}."
        )
    says = (
        f"The file declares {unit.symbol}, but its numbers are those asked for in {key.unit.symbol}; "
        "they were used as they are."
    )
    return SheetNote(code=code, says=says)
