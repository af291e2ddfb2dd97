"""A Drawing made to fit into a DXF file: names, colours and weights that the format can hold, with a word on
what had to change.

Source: the published DXF reference (characters of names, indexed colours 1 to 255, the weights that group
code 370 knows).
"""

from __future__ import annotations

import re
from dataclasses import replace
from typing import Any

from ezdxf.lldxf.const import VALID_DXF_LINEWEIGHTS

from evenmark.core.drawing.model import Drawing, Entity, Layer, Style

_NOT_IN_NAMES = re.compile(r"[<>/\\\":;?*|=`'\x00-\x1f]")
_LONGEST_NAME = 255
MOST_NOTES = 12


def fitted(drawing: Drawing) -> tuple[Drawing, list[str]]:
    """Return a drawing that a DXF file can hold, and sentences on what is called or looks different in it."""
    names: dict[str, str] = {}
    taken: set[str] = set()
    for name in (*drawing.layers, *(e.layer for e in drawing.entities)):
        if name not in names:
            names[name] = _free(_NOT_IN_NAMES.sub("_", name).strip()[:_LONGEST_NAME] or "_", taken)
            taken.add(names[name].lower())
    styles: dict[Style, Style] = {}

    def style(s: Style) -> Style:
        if s not in styles:
            styles[s] = replace(s, color=_color(s.color), weight=_weight(s.weight))
        return styles[s]

    def entity(e: Entity) -> Entity:
        named: Any = e._replace(layer=names[e.layer], style=style(e.style))
        return named  # type: ignore[no-any-return]

    layers = {
        names[n]: Layer(name=names[n], style=style(v.style), shown=v.shown) for n, v in drawing.layers.items()
    }
    notes = ["This file was written anew from what was understood of the one handed in."]
    notes += [
        f"Layer {old!r} is called {new} here: DXF does not allow that name."
        for old, new in names.items()
        if old != new
    ]
    return replace(drawing, layers=layers, entities=tuple(map(entity, drawing.entities))), notes[:MOST_NOTES]


def _free(name: str, taken: set[str]) -> str:
    """Return a name that no other layer has in any letter case."""
    n, free = 1, name
    while free.lower() in taken:
        n += 1
        free = f"{name[: _LONGEST_NAME - 8]}_{n}"
    return free


def _color(color: int | str) -> int | str:
    if isinstance(color, str):
        return color if re.fullmatch("#[0-9a-f]{6}", color) else 7
    return color if 1 <= color <= 255 else 7


def _weight(weight: float | None) -> float | None:
    if weight is None:
        return None
    return min((w for w in VALID_DXF_LINEWEIGHTS if w >= 0), key=lambda w: abs(w - weight * 100)) / 100
