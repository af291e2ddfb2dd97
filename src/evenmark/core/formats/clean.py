"""A Drawing made fit to be kept: no character that nothing can store, no number that is none. What was
changed is told.

Readers bound the coordinates as they take them; this looks once more at everything that they hand out, in
every field, because a code in a text may stand for any character (``\\U+0000``, ``%%000``) and a scale may
make any number infinite.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import fields, is_dataclass, replace
from typing import Any

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Arc, Drawing, Entity, Text
from evenmark.core.drawing.styles import styles_of
from evenmark.core.formats.bounds import FARTHEST
from evenmark.core.formats.oddities import oddity
from evenmark.core.geometry.units import Unit
from evenmark.core.plain import is_plain, shown

WIDEST = 1000.0
"""Line weights beyond this many millimetres are none."""


def cleaned(drawing: Drawing) -> Drawing:
    """Return a drawing of which every word can be kept and every number is one; the same drawing where it is
    so already."""
    out = _whole_numbers(drawing)
    if not all(map(_plain, _words(out))):
        out = replace(_shown(out), oddities=tuple(_shown(o) for o in out.oddities))
        out = replace(out, oddities=(*out.oddities, oddity("odd-characters", "", 1)))
    return out


def _plain(word: str) -> bool:
    return word.isprintable() or is_plain(word)


def _words(d: Drawing) -> Iterable[str]:
    """Yield every word of a drawing, many of them joined into one, since looking at one long word is
    quick."""
    on_layouts = [e for s in d.layouts for e in s.entities]
    everything = [*d.entities, *d.endless, *on_layouts]
    yield "".join([e.layer for e in everything])
    yield "".join([e.source for e in everything])
    yield "".join(s.line_type for s in styles_of(d))
    yield from (e.wording for e in everything if isinstance(e, Text))
    for layer in d.layers.values():
        yield layer.name + layer.style.line_type
    annotated: list[Any] = [*d.dimensions, *d.hatches, *d.notes]
    annotated += [t for s in d.layouts for t in (*s.dimensions, *s.hatches, *s.notes)]
    for o in annotated:
        yield "".join(v for f in fields(o) if isinstance(v := getattr(o, f.name), str))
    yield from (s.name for s in d.layouts)
    yield from (o.says for o in d.oddities)


def _shown(value: Any) -> Any:
    """Return a value with every word in it as it can be shown; values that hold none are themselves."""
    if isinstance(value, str):
        return shown(value)
    if isinstance(value, Unit | float | int) or value is None:
        return value
    if isinstance(value, tuple):
        made = [_shown(v) for v in value]
        return type(value)(*made) if hasattr(value, "_fields") else tuple(made)
    if isinstance(value, dict):
        return {_shown(k): _shown(v) for k, v in value.items()}
    if is_dataclass(value) and not isinstance(value, type):
        return replace(value, **{f.name: _shown(getattr(value, f.name)) for f in fields(value)})
    return value


def _whole_numbers(d: Drawing) -> Drawing:
    """Return a drawing without what holds a number that is none, or one beyond all bounds."""
    if not all(map(_sound_style, styles_of(d))):
        d = _restyled(d)
    left = 0

    def sound(things: tuple[Any, ...]) -> tuple[Any, ...]:
        nonlocal left
        kept = tuple(t for t in things if _finite(t))
        left += len(things) - len(kept)
        return kept if len(kept) != len(things) else things

    entities = _sound_entities(d.entities)
    left += len(d.entities) - len(entities)
    dimensions, hatches, notes, endless = (
        sound(d.dimensions),
        sound(d.hatches),
        sound(d.notes),
        sound(d.endless),
    )
    layouts = tuple(
        replace(
            s,
            entities=_sound_entities(s.entities),
            views=sound(s.views),
            paper=s.paper if _finite(s.paper) else None,
            dimensions=sound(s.dimensions),
            hatches=sound(s.hatches),
            notes=sound(s.notes),
        )
        for s in d.layouts
    )
    if not left and layouts == d.layouts:
        return d
    odd = (oddity("not-readable", "number", left),) if left else ()
    return replace(
        d,
        entities=entities,
        dimensions=dimensions,
        hatches=hatches,
        notes=notes,
        endless=endless,
        layouts=layouts,
        oddities=(*d.oddities, *odd),
    )


def _sound_entities(entities: tuple[Entity, ...]) -> tuple[Entity, ...]:
    """Leave out round pieces and lettering whose turns are no numbers; places and sizes were bounded when
    they were read."""
    wrong = [
        e
        for e in entities
        if (isinstance(e, Arc) and not math.isfinite(e.start_rad + e.sweep_rad))
        or (isinstance(e, Text) and not (math.isfinite(e.turn_deg) and 0.0 < e.height <= FARTHEST))
    ]
    if not wrong:
        return entities
    out = {id(e) for e in wrong}
    return tuple(e for e in entities if id(e) not in out)


def _finite(value: Any) -> bool:
    """Say whether every number in a value lies within bounds."""
    if isinstance(value, float):
        return abs(value) <= FARTHEST**2  # an area is a product of two lengths
    if isinstance(value, tuple):
        return all(map(_finite, value))
    if is_dataclass(value) and not isinstance(value, Style | Unit | type):
        return all(_finite(getattr(value, f.name)) for f in fields(value))
    return True


def _sound_style(s: Style) -> bool:
    return (s.weight is None or 0.0 <= s.weight <= WIDEST) and 0.0 <= s.dash <= FARTHEST


def _sounder(s: Style) -> Style:
    weight = s.weight if s.weight is not None and 0.0 <= s.weight <= WIDEST else None
    return replace(s, weight=weight, dash=s.dash if 0.0 <= s.dash <= FARTHEST else 0.0)


def _restyled(value: Any) -> Any:
    """Return a value in which no look has a weight or a pattern beyond bounds."""
    if isinstance(value, Style):
        return value if _sound_style(value) else _sounder(value)
    if isinstance(value, tuple):
        made = [_restyled(v) for v in value]
        return type(value)(*made) if hasattr(value, "_fields") else tuple(made)
    if isinstance(value, dict):
        return {k: _restyled(v) for k, v in value.items()}
    if is_dataclass(value) and not isinstance(value, Unit | type):
        return replace(value, **{f.name: _restyled(getattr(value, f.name)) for f in fields(value)})
    return value
