"""Every requirement kind that this engine examines: one table, each kind asked and measured beside its
like."""

from __future__ import annotations

from collections.abc import Callable

from evenmark.core.marking.examination import Ask, Kind, MarkingSetting
from evenmark.core.marking.kinds import (
    axes,
    joints,
    lettering,
    looks,
    notes,
    places,
    relations,
    said,
    sets,
    sizes,
    views,
    whole,
)
from evenmark.core.marking.model import Requirement

KINDS: dict[str, Kind] = {
    kind.name: kind
    for module in (
        whole,
        sizes,
        said,
        places,
        axes,
        relations,
        joints,
        sets,
        looks,
        lettering,
        notes,
        views,
    )
    for kind in module.KINDS
}
"""Every kind by its name."""
TITLES = {kind.name: kind.title for kind in sorted(KINDS.values(), key=lambda k: k.listed)}
"""What all checks of a kind are called together, in the order in which they are listed."""


def those(which: Callable[[Kind], bool]) -> frozenset[str]:
    """Return the names of the kinds of which something holds."""
    return frozenset(kind.name for kind in KINDS.values() if which(kind))


IN_DEGREES = those(lambda k: k.unit == "degrees")
"""Kinds whose deviation is in degrees."""
MARKS_ITS_FEATURE = tuple(name for name in TITLES if KINDS[name].marks_its_feature)
"""Kinds that are about one feature alone, so that missing them marks it, on page, PDF and DXF."""

LINE_TYPE, SENSES = "line-type", "differs"
"""The kinds that ask for lines as they are seen, and for all that no other says (see `senses`)."""


def ask(r: Requirement, setting: MarkingSetting) -> Ask:
    """Return what a requirement asks for, read off the key. Raises RuleError where the key itself does not
    hold it."""
    return KINDS[r.kind].ask(r, setting)
