"""What students are told of an exercise beyond its sheet: everything that is marked, and nothing of the key's
geometry.

Layers with the look that is asked, in words; where the drawing may stand; how exactly it is held against the
key; what the marks are for.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import asdict, dataclass
from typing import NamedTuple

from evenmark.core.conventions import colours
from evenmark.core.drawing.roles import stated_role
from evenmark.core.linework.wording import number
from evenmark.core.marking.kinds import TITLES
from evenmark.core.marking.model import Charges
from evenmark.core.marking.reading_json import LayerJson
from evenmark.core.marking.rules_types import RequirementJson, RulesJson, TolerancesJson
from evenmark.services.key_work import KeyView
from evenmark.services.keys import examined

NOT_A_LAYER_NAME = ("", None)


@dataclass(frozen=True, kw_only=True)
class AskedLayer:
    """A layer that is asked for: what it is for, and its look in words where one is asked."""

    name: str
    role: str | None
    colour: str | None
    swatch: str | None
    line_type: str | None
    weight: float | None


class MarkedKind(NamedTuple):
    """What marks are given for."""

    title: str
    marks: float


@dataclass(frozen=True, kw_only=True)
class AskedOf:
    """What is asked of a drawing: unit, placement, tolerances, layers with their looks, what earns how many
    marks, and what takes some away."""

    unit: str
    any_unit: bool
    placement: str
    examines: str
    tolerances: dict[str, float]
    exact_layers: bool
    layers: list[AskedLayer]
    marked: list[MarkedKind]
    charged: list[str]


def describe_rules(rules: RulesJson, view: KeyView) -> AskedOf:
    """Return what is asked of a drawing. ``rules`` are those that are kept with the revision, ``view`` is its
    key made ready."""
    asked = [r for r in view.rules["requirements"] if r.get("on", True)]
    return AskedOf(
        unit=view.rules.get("unit") or rules.get("unit") or "mm",
        any_unit=view.rules["any_unit"],
        placement=rules["placement"],
        examines=examined(rules),
        tolerances=_allowed(view.rules["tolerances"]),
        exact_layers=view.rules["exact_layers"],
        layers=_layers(asked, view),
        marked=_marked(asked),
        charged=_charged(view.rules),
    )


def _allowed(t: TolerancesJson) -> dict[str, float]:
    return {"length": t["length"], "position": t["position"], "angle_deg": t["angle_deg"]}


def _layers(asked: list[RequirementJson], view: KeyView) -> list[AskedLayer]:
    """Return the layers that are asked for, by name, each with what it is for and the look that it should
    have, if one is asked."""
    looks = {r["layer"] for r in asked if r["kind"] == "layer-style"}
    names = looks | {name for r in asked if r["kind"] == "layer" and isinstance(name := r["expected"], str)}
    known = {layer["name"]: layer for layer in view.reading["layers"]}
    return [
        _layer(name, known.get(name), name in looks, view)
        for name in sorted(n for n in names if n not in NOT_A_LAYER_NAME)
    ]


def _layer(name: str, layer: LayerJson | None, look: bool, view: KeyView) -> AskedLayer:
    shown = layer if look else None
    return AskedLayer(
        name=name,
        role=stated_role(view.rules["roles"], name),
        colour=colours.said(shown["color"]) if shown else None,
        swatch=colours.swatch(shown["color"]) if shown else None,
        line_type=shown["line_type"] if shown else None,
        weight=shown["weight"] if shown else None,
    )


def _charged(rules: RulesJson) -> list[str]:
    """Return in words what takes marks away; nothing where nothing is charged."""
    charges = rules.get("charges")
    if not charges:
        return []
    # charges are said of 100; an exercise of other marks takes them in proportion
    known = {**asdict(Charges()), **charges}  # a revision may be older than an amount
    c = {k: number(v * rules["marks"] / 100, 2) for k, v in known.items() if not isinstance(v, bool)}
    said = [
        (charges["whole"], f"Whole drawing wrongly placed, turned or scaled: {c['whole']}"),
        (charges["mirrored"], f"Whole drawing mirrored: {c['mirrored']}"),
        (
            charges["each"],
            f"Each extra object or duplicate: {c['each']}, together at most {c['most']}",
        ),
        (
            charges["floor_sizes"],
            f"Each slip costs at least {c['floor']}; wrong size or place "
            f"{c['floor_sizes']} to {c['size_most']}, missing feature "
            f"{c['floor_missing']} to {c['missing_most']}, "
            f"views not aligned {c['floor_views']}; a habit such as wrong layers at most {c['habit_most']}",
        ),
    ]
    return [words for value, words in said if value]


def _marked(asked: list[RequirementJson]) -> list[MarkedKind]:
    """Return what the marks are for, kind by kind in the order of the lists."""
    marks: dict[str, float] = defaultdict(float)
    for r in asked:
        marks[r["kind"]] += r["marks"]
    return [
        MarkedKind(title, round(marks[kind], 6))
        for kind, title in TITLES.items()
        if marks.get(kind, 0.0) > 0.0
    ]
