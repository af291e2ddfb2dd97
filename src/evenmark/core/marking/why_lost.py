"""Why a finding lost marks, in one sentence; which slip made it so is said by its cause."""

from __future__ import annotations

from evenmark.core.linework.wording import number
from evenmark.core.marking.kinds import IN_DEGREES
from evenmark.core.marking.model import Finding
from evenmark.core.marking.score import TIMES_PAIRED

LOST_HABIT = "It earns only where size and place are right, and one of them is not."
LOST_LOOK = "It earns by how much of its layer is drawn right and on it."


def why_lost(f: Finding, unit: str) -> str:
    """Return why a finding did not earn all its marks, with its numbers."""
    if f.verdict == "absent":
        return "Nothing was drawn for it."
    if f.kind == "clean" and f.verdict != "met":
        many = int(f.deviation or 0)
        return f"{many} extra {'object' if many == 1 else 'objects'}; each costs part of these marks."
    if f.kind in TIMES_PAIRED and f.verdict in ("met", "follows"):
        return "It counts by how much was drawn, and some was not."
    if f.verdict == "near" and f.deviation is not None and f.tolerance is not None:
        return f"{_off(f, unit)}; {_with(f, f.tolerance, unit)} is allowed. It is near, which earns a share."
    if f.deviation is not None and f.tolerance is not None:
        return f"{_off(f, unit)}; {_with(f, f.tolerance, unit)} is allowed."
    return "It is not what was asked for."


def _off(f: Finding, unit: str) -> str:
    assert f.deviation is not None
    off = f"off by {_with(f, abs(f.deviation), unit)}"
    return f"Its {f.what} is {off}" if f.what else f"O{off[1:]}"


def _with(f: Finding, value: float, unit: str) -> str:
    if f.kind == "radius" and all(i[0] == "c" for i in f.features):
        value *= 2  # people read circles by their diameters
    if f.kind in IN_DEGREES:
        return f"{number(value)}°"
    if f.kind == "count":
        return number(value)
    return f"{number(value)} {unit}{'²' if f.kind in ('area', 'hatch') else ''}"
