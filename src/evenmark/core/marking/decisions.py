"""Dimensions of a key whose value is not what they measure: what was decided about them, and what is still to
be decided before it is issued."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace

from evenmark.core.dimensioning.deciding import SheetSetting, contradicting, decided
from evenmark.core.dimensioning.says import contradiction
from evenmark.core.drawing.model import Drawing
from evenmark.core.drawing.roles import Role
from evenmark.core.geometry.tolerance import Tolerances
from evenmark.core.linework.model import Linework
from evenmark.core.marking.key import Key
from evenmark.core.marking.model import RuleSet
from evenmark.core.marking.views import find_views, moved_views


def as_decided(
    linework: Linework,
    rules: RuleSet,
    roles: dict[str, Role],
    tolerances: Tolerances,
    out_of: Collection[str] = (),
) -> tuple[Linework, RuleSet]:
    """Return a key, and its rule set with the views that it then has, after what was decided about its
    dimensions."""
    if not rules.decided:
        return linework, rules
    after = decided(linework, _setting(linework, rules, roles, tolerances, out_of), rules.decided)
    if rules.views is not None:
        rules = replace(rules, views=moved_views(rules.views, linework, after))
    return after, rules


def key_drawing(key: Key, drawing: Drawing) -> Drawing:
    """Return what is examined of the drawing of a key, its dimensions as they stand after what was decided
    about them."""
    shown = key.examined(drawing)
    return replace(shown, dimensions=key.linework.dimensions) if key.rules.decided else shown


def undecided(key: Key) -> list[str]:
    """Return, in words, the dimensions of a key whose value is not what they measure, after all that was
    decided about them."""
    if not key.linework.dimensions:
        return []
    setting = _setting(key.linework, key.rules, key.rules.roles, key.tolerances, key.aside)
    return [
        contradiction(s, key.unit.symbol, key.rules.decided.get(s.id))
        for s in contradicting(key.linework, setting)
    ]


def _setting(
    linework: Linework,
    rules: RuleSet,
    roles: dict[str, Role],
    tolerances: Tolerances,
    out_of: Collection[str],
) -> SheetSetting:
    return SheetSetting(
        roles=roles,
        reach=tolerances.length,
        angle_deg=tolerances.angle_deg,
        views=find_views(linework, roles, tolerances.length) if rules.views is None else rules.views,
        leave_out=out_of,
        ties=rules.ties,
        switched=rules.taken,
    )
