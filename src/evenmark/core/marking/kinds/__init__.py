"""Every requirement kind that this engine examines: one table, each kind asked and measured beside its
like."""

from __future__ import annotations

from evenmark.core.marking.examination import Ask, Kind, Setting
from evenmark.core.marking.kinds import lettering, looks, places, relations, said, sets, sizes, views, whole
from evenmark.core.marking.model import Requirement

KINDS: dict[str, Kind] = {
    kind.name: kind
    for module in (whole, sizes, said, places, relations, sets, looks, lettering, views)
    for kind in module.KINDS
}
"""Every kind by its name."""


def ask(r: Requirement, setting: Setting) -> Ask:
    """Return what a requirement asks for, read off the key. Raises RuleError where the key itself does not
    hold it."""
    return KINDS[r.kind].ask(r, setting)
