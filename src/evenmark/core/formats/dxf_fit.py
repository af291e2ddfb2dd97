"""A Drawing made to fit into a DXF file: names, colours and weights that the format can hold, with a word on
what had to change.

Source: the published DXF reference (characters of names, indexed colours 1 to 255, the weights that group
code 370 knows).
"""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar, cast

from evenmark.core.conventions.lines import PATTERNS, nearest_weight
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Drawing, Layout, Text
from evenmark.core.drawing.stored import R, with_look
from evenmark.core.formats.dxf_holds import COLOR, LONGEST_NAME, NOT_IN_NAMES, names_of

D = TypeVar("D", Drawing, Layout)
MOST_NOTES = 12


def fitted(drawing: Drawing) -> tuple[Drawing, list[str]]:
    """Return a drawing that a DXF file can hold, and sentences on what is called or looks different in it."""
    names: dict[str, str] = {}
    taken: set[str] = set()
    for name in names_of(drawing):
        if name not in names:
            names[name] = _free(NOT_IN_NAMES.sub("_", name).strip()[:LONGEST_NAME] or "_", taken)
            taken.add(names[name].lower())
    styles: dict[Style, Style] = {}

    def style(s: Style) -> Style:
        if s not in styles:
            line = s.line_type if s.line_type in PATTERNS else "continuous"
            styles[s] = replace(s, color=_color(s.color), weight=_weight(s.weight), line_type=line)
        return styles[s]

    def fit(things: tuple[R, ...]) -> tuple[R, ...]:
        return tuple(_fit(x, names[x.layer], style(x.style)) for x in things)

    def space(d: D) -> D:
        return replace(
            d,
            entities=fit(d.entities),
            dimensions=fit(d.dimensions),
            hatches=fit(d.hatches),
            notes=fit(d.notes),
        )

    layers = {
        names[n]: Layer(name=names[n], style=style(v.style), shown=v.shown) for n, v in drawing.layers.items()
    }
    notes = ["This file was written again from what was understood of the one handed in."]
    notes += [
        f"Layer {old!r} is called {new} here: DXF does not allow that name."
        for old, new in names.items()
        if old != new
    ]
    layouts = tuple(map(space, drawing.layouts))
    out = replace(space(drawing), layers=layers, endless=fit(drawing.endless), layouts=layouts)
    return out, notes[:MOST_NOTES]


def _fit(thing: R, layer: str, style: Style) -> R:
    out = with_look(thing, layer, style)
    if isinstance(out, Text) and "\n" in out.wording and out.anchor.endswith("baseline"):
        return cast(R, out._replace(anchor=out.anchor.replace("baseline", "bottom")))
    return out


def _free(name: str, taken: set[str]) -> str:
    """Return a name that no other layer has in any letter case."""
    n, free = 1, name
    while free.lower() in taken:
        n += 1
        free = f"{name[: LONGEST_NAME - 8]}_{n}"
    return free


def _color(color: int | str) -> int | str:
    if isinstance(color, str):
        return color if COLOR.fullmatch(color) else 7
    return color if 1 <= color <= 255 else 7


def _weight(weight: float | None) -> float | None:
    if weight is None:
        return None
    return nearest_weight(weight)
