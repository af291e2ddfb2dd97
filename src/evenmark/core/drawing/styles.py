"""The styles that a drawing uses."""

from __future__ import annotations

from collections.abc import Iterator

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Drawing, Layout


def styles_of(d: Drawing) -> Iterator[Style]:
    """Yield every style that a drawing uses, each once."""
    spaces: list[Drawing | Layout] = [d, *d.layouts]
    used = [layer.style for layer in d.layers.values()]
    used += [e.style for space in spaces for e in space.entities]
    used += [x.style for space in spaces for x in space.dimensions]
    used += [h.style for space in spaces for h in space.hatches]
    used += [n.style for space in spaces for n in space.notes]
    used += [e.style for e in d.endless]
    by_object = {id(s): s for s in used}  # styles are shared, and slow to hash
    return iter(dict.fromkeys(by_object.values()))
