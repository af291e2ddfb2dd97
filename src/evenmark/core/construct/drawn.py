"""What steps have made as a Drawing: entities by their names, one outline as pieces of one source."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Any

from evenmark.core.construct.joined import chained
from evenmark.core.construct.layers import in_unit
from evenmark.core.construct.setting import DocumentSetting
from evenmark.core.construct.state import Feature, Group, State
from evenmark.core.drawing.annotations import Dimension, Endless, Hatch, Note
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, FreeCurve, Line, Text
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.lines import Straight


def drawing_of(state: State, setting: DocumentSetting) -> Drawing:
    """Return the drawing that steps have made, in the order of the steps."""
    layers: dict[str, Layer] = dict(setting.layers)
    styles: dict[tuple[str, str | None, Style | None], Style] = {}

    def style(f: Feature) -> Style:
        key = (f.layer, f.line, f.look)
        if key not in styles:
            layers.setdefault(f.layer, setting.layer(f.layer))
            styles[key] = style_of(f, setting)
        return styles[key]

    entities: list[Entity] = []
    said: dict[type, list[Any]] = {Dimension: [], Hatch: [], Note: []}
    endless: list[Endless] = []
    for f, source in _in_order(state):
        look = (f.layer, style(f), source)
        if f.says is not None:
            if isinstance(f.says, Text | FreeCurve):
                entities.append(f.says._replace(layer=f.layer, style=look[1], source=source))
            else:
                said[type(f.says)].append(replace(f.says, layer=f.layer, style=look[1], source=source))
        elif f.endless and isinstance(f.shape, Straight):
            endless.append(Endless(f.shape.start, f.shape.unit, False, *look))
        else:
            entities.append(_entity(f, look))
    return Drawing(
        entities=tuple(entities),
        dimensions=tuple(said[Dimension]),
        hatches=tuple(said[Hatch]),
        notes=tuple(said[Note]),
        endless=tuple(endless),
        layers=layers,
        unit=setting.unit,
    )


def style_of(f: Feature, setting: DocumentSetting) -> Style:
    """Return how a feature looks: as it was laid in or as its layer does, with a line of its own where it was
    said."""
    style = f.look or setting.layer(f.layer).style
    return style if f.line is None else in_unit(replace(style, line_type=f.line), setting.unit)


def _entity(f: Feature, look: tuple[str, Style, str]) -> Entity:
    if isinstance(f.shape, Round):
        if f.shape.whole:
            return Circle(f.shape.center, f.shape.radius, *look)
        return Arc(f.shape.center, f.shape.radius, f.shape.start_rad, f.shape.sweep_rad, *look)
    return Line(f.shape.start, f.shape.end, *look)


def _in_order(state: State) -> Iterable[tuple[Feature, str]]:
    """Yield features with the names of their sources; those of one outline one behind the other, where the
    first of them stands."""
    groups: dict[Group, list[Feature]] = {}
    for f in state.standing():
        if f.group is not None:
            groups.setdefault(f.group, []).append(f)
    done: set[Group] = set()
    for f in state.standing():
        if f.group is None:
            yield f, name_of(f)
        elif f.group not in done:
            done.add(f.group)
            yield from _outline(groups[f.group])


def _outline(pieces: list[Feature]) -> list[tuple[Feature, str]]:
    looks = {(f.layer, f.line, f.look) for f in pieces}
    order = chained(pieces) if len(pieces) > 1 and len(looks) == 1 else None
    if order is None:
        return [(f, name_of(f)) for f in pieces]
    assert order[0].group is not None
    step, number = order[0].group
    return [(f, f"outline {step}.{number}") for f in order]


def name_of(f: Feature) -> str:
    """Return the name of a feature, with the id of its step."""
    return f"{f.ref.kind} {f.ref.step}.{f.ref.part}"
