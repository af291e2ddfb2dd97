"""Drawings that are kept with a document, and laid into it by a step: what stands in one as features that
later steps can name.

- *kept drawing*: a line of the document, ``drawing "plate": {...}``, with a drawing as plain values
  (`core.drawing.stored`). It draws nothing by itself.
"""

from __future__ import annotations

import json
import re
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import lru_cache
from typing import NamedTuple, TypeVar

from evenmark.core.construct.references import Ref
from evenmark.core.construct.state import Annotation, Feature, Group
from evenmark.core.drawing.annotations import Dimension, Endless, Hatch, Note
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, FreeCurve, Line, Text
from evenmark.core.drawing.moving import moved_drawing
from evenmark.core.drawing.stored import Row, StoredError, rows_of, unpacked, with_look
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.geometry.units import Unit

_KIND = {Text: "text", Dimension: "size", Hatch: "hatch", Note: "note", FreeCurve: "curve"}


@lru_cache(maxsize=16)
def read_drawing(says: str) -> Drawing:
    """Return a drawing that is kept. Raises StoredError."""
    try:
        return unpacked(json.loads(says))
    except (ValueError, RecursionError) as why:
        if isinstance(why, StoredError):
            raise
        raise StoredError("The added drawing is damaged. Add the file again.") from None


def features_of(drawing: Drawing, step: int) -> Iterator[Feature]:
    """Yield what stands in a drawing as features that a step makes; pieces of one source are one outline, and
    what has no size is left out."""
    sources = Counter(x.source for x in drawing.entities if isinstance(x, Line | Arc))
    groups: dict[str, Group] = {}
    counts: Counter[str] = Counter()
    lettering = (x for x in drawing.entities if isinstance(x, Text))
    texts = {x.source: f"text {step}.{n}" for n, x in enumerate(lettering, 1)}
    for x in rows_of(drawing):
        made = _feature(x, texts)
        if made is None:
            continue
        counts[made.kind] += 1
        group = None
        if isinstance(x, Line | Arc) and x.source and sources[x.source] > 1:
            group = groups.setdefault(x.source, (step, len(groups) + 1))
        shape, says = made.shape, made.says
        ref = Ref(made.kind, step, counts[made.kind])
        yield Feature(ref, shape, x.layer, says=says, group=group, look=_look(x, drawing))


class _Row(NamedTuple):
    """A row of a drawing as a feature: its kind, its shape, and what it says where it says something."""

    kind: str
    shape: Curve
    says: Annotation | None = None


def _feature(x: Row, texts: dict[str, str]) -> _Row | None:
    if isinstance(x, Line):
        return _Row("edge", Straight(x.start, x.end)) if x.start != x.end else None
    if isinstance(x, Arc):
        return _Row("arc", Round(x.center, x.radius, x.start_rad, x.sweep_rad))
    if isinstance(x, Circle):
        return _Row("circle", Round(x.center, x.radius))
    if isinstance(x, Endless):
        (px, py), (ux, uy) = x.at, x.way
        return _Row("guide", Straight((px, py), (px + ux, py + uy)))
    if isinstance(x, Hatch):
        at = x.loops[0][0].at
    else:
        at = x.at if isinstance(x, Text | Dimension) else x.points[0]
    if isinstance(x, Note) and x.text_source:
        x = replace(x, text_source=texts.get(x.text_source, ""))
    return _Row(_KIND[type(x)], Straight(at, at), x)


def _look(x: Row, drawing: Drawing) -> Style | None:
    """Return how a thing looks where it does not look as its layer did."""
    layer = drawing.layers.get(x.layer)
    return None if layer is None or layer.style == x.style else x.style


def ready(drawing: Drawing, unit: Unit) -> tuple[Drawing, list[str]]:
    """Return what of a drawing that was read can be laid into one in some unit, in that unit; and what was
    left out or changed, in sentences."""
    says = []
    scale = 1.0 if drawing.unit is None else drawing.unit.mm / unit.mm
    if drawing.unit is None:
        says.append(f"The file declares no unit: its numbers are read as {unit.symbol}.")
    elif scale != 1.0:
        says.append(f"It was converted from {drawing.unit.symbol} to {unit.symbol}.")
    out = replace(
        drawing,
        entities=tuple(x for x in drawing.entities if not isinstance(x, Line) or x.start != x.end),
        hatches=tuple(h for h in drawing.hatches if h.loops and all(len(loop) > 1 for loop in h.loops)),
    )
    nothing = len(drawing.entities) - len(out.entities) + len(drawing.hatches) - len(out.hatches)
    if nothing:
        says.append(f"{_things(nothing)} without size left out.")
    if drawing.on_layouts:
        says.append("Objects on its sheet layouts left out.")
    if drawing.solids:
        says.append(f"{_things(drawing.solids)} in three dimensions left out.")
    if any(e.ray for e in out.endless):
        says.append("Rays extend at both ends.")
    hidden = sorted(name for name, layer in drawing.layers.items() if not layer.shown)
    if hidden:
        says.append(f"Layers hidden in the file are shown here: {', '.join(hidden[:8])}.")
    out = _with(
        moved_drawing(out, Similarity(scale=scale)),
        _layer_name,
        lambda style: style if scale == 1.0 else replace(style, dash=style.dash * scale),
    )
    return out, says


def _things(count: int) -> str:
    return f"{count} object{'' if count == 1 else 's'}"


T = TypeVar("T", bound=Row)


def _with(drawing: Drawing, layer: Callable[[str], str], style: Callable[[Style], Style]) -> Drawing:
    """Return a drawing with other names of layers and other looks."""

    def other(things: tuple[T, ...]) -> tuple[T, ...]:
        return tuple(with_look(x, layer(x.layer), style(x.style)) for x in things)

    return replace(
        drawing,
        entities=other(drawing.entities),
        dimensions=other(drawing.dimensions),
        hatches=other(drawing.hatches),
        notes=other(drawing.notes),
        endless=other(drawing.endless),
        layers={
            layer(n): replace(known, name=layer(n), style=style(known.style))
            for n, known in drawing.layers.items()
        },
    )


def _layer_name(name: str) -> str:
    """Return a name of a layer as a document can hold it."""
    return re.sub(r'[\s"\\]+', " ", name).strip() or "0"
