"""What a DXF file can hold: what none can is refused, what a version cannot is left out, and both are said.

Source: the published DXF reference (characters of names, weights of group code 370, objects by version).
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Iterator

from evenmark.core.conventions.lines import PATTERNS, WEIGHTS, nearest_weight
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Drawing, Layout, Text
from evenmark.core.drawing.styles import styles_of

NOT_IN_NAMES = re.compile(r"[<>/\\\":;?*|=`'\x00-\x1f]")
LONGEST_NAME = 255
COLOR = re.compile("#[0-9a-f]{6}")
MOST_SAID = 12
OLD = ("R12", "R2000")
"""Versions that number colours and know no others."""


def refused(drawing: Drawing) -> list[str]:
    """Return what no DXF file can hold of a drawing, a sentence each; none where all can be written."""
    return list(dict.fromkeys(_refused(drawing)))[:MOST_SAID]


def _refused(drawing: Drawing) -> Iterator[str]:
    for name in names_of(drawing):
        if NOT_IN_NAMES.search(name) or not 0 < len(name) <= LONGEST_NAME or name != name.strip():
            yield (
                f"DXF allows no layer called {name!r}. Give it a name of letters, numbers, spaces, - and _."
            )
    for style in styles_of(drawing):
        yield from _style(style)
    for t in drawing.of(Text):
        assert isinstance(t, Text)
        if "\n" in t.wording and (t.anchor.endswith("baseline") or t.second is not None):
            yield (
                f"Text of several lines ({t.wording.splitlines()[0]!r}) is placed by its top, middle or "
                "bottom in DXF. Choose one of these."
            )
    for e in drawing.entities:
        if not all(map(math.isfinite, _numbers(e))):
            yield f"A {type(e).__name__.lower()} on layer {e.layer!r} has a number that is none. Correct it."


def _numbers(value: object) -> Iterator[float]:
    if isinstance(value, float):
        yield value
    elif isinstance(value, tuple):
        for v in value:
            yield from _numbers(v)


def _style(s: Style) -> Iterator[str]:
    if s.line_type not in (*PATTERNS, "continuous"):
        known = ", ".join(("continuous", *PATTERNS))
        yield f"The line {s.line_type!r} is not known. Use one of: {known}."
    if s.weight is not None and s.weight not in WEIGHTS:
        near = nearest_weight(s.weight)
        yield f"DXF has no line width of {s.weight:g} mm. The nearest is {near:g} mm."
    if isinstance(s.color, int) and not 1 <= s.color <= 255:
        yield f"There is no colour {s.color}. Use a number from 1 to 255."
    if isinstance(s.color, str) and not COLOR.fullmatch(s.color):
        yield f"{s.color!r} is not a colour. Write # and six digits of 0-9 and a-f."


def names_of(drawing: Drawing) -> Iterable[str]:
    """Return the names of all layers that a drawing declares or uses, each once."""
    spaces: list[Drawing | Layout] = [drawing, *drawing.layouts]
    used = (x.layer for d in spaces for x in (*d.entities, *d.dimensions, *d.hatches, *d.notes))
    return dict.fromkeys([*drawing.layers, *used, *(e.layer for e in drawing.endless)])


def left_out(drawing: Drawing, version: str) -> list[str]:
    """Return what a version cannot hold of a drawing, a sentence each.

    >>> left_out(Drawing(), "R2010")
    []
    """
    styles = list(styles_of(drawing))
    colours = any(isinstance(s.color, str) for s in styles)
    out = [f"{version} has only numbered colours: others are left out."] if colours and version in OLD else []
    if version != "R12":
        return out
    what = [
        (len(drawing.hatches), "hatchings"),
        (len(drawing.notes), "notes with leaders"),
        (len(drawing.endless), "construction lines without an end"),
        (len(drawing.layouts), "sheet layouts"),
        (sum(d.kind == "arc" for d in drawing.dimensions), "dimensions of arcs"),
    ]
    out += [f"R12 cannot hold {what}: {count} left out." for count, what in what if count]
    if any(s.weight is not None for s in styles):
        out.append("R12 has no line widths: they are left out.")
    if any("\n" in t.wording for t in drawing.of(Text) if isinstance(t, Text)):
        out.append("R12 has no text of several lines: each line becomes a text of its own.")
    if drawing.unit is not None:
        out.append(f"R12 declares no unit: tell the reader that it is in {drawing.unit.symbol}.")
    return out
