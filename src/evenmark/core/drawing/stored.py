"""Drawings as plain values, as a document of steps keeps one that it lays in (docs/formats/steps.md).

- *row*: one thing of a drawing: its kind, its fields in their order, then the places of its layer and of its
  style in their lists, and the name of its source.

Numbers are kept to the last bit. Sheet layouts, oddities and solids are no part of it.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import astuple, replace
from typing import NamedTuple, TypedDict, TypeVar, cast

from evenmark.core.drawing.annotations import Dimension, Endless, Hatch, Note, Vertex
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, FreeCurve, Line, Text
from evenmark.core.plain import shown

MOST_ROWS, MOST_POINTS = 10_000, 100_000
FAR = 1e12
_COLOR = re.compile("#[0-9a-fA-F]{6}")


class StoredError(ValueError):
    """What is kept is no drawing: says where."""


class _Kind(NamedTuple):
    """A kind of row: what it is, and its fields with what each holds."""

    of: type
    fields: tuple[tuple[str, str], ...]


def _fields(says: str) -> tuple[tuple[str, str], ...]:
    return tuple((name, code) for name, _, code in (part.partition(":") for part in says.split()))


_KINDS = {
    "line": _Kind(Line, _fields("start:p end:p")),
    "arc": _Kind(Arc, _fields("center:p radius:r start_rad:n sweep_rad:n")),
    "circle": _Kind(Circle, _fields("center:p radius:r")),
    "text": _Kind(Text, _fields("wording:t at:p anchor:t height:n turn_deg:n face:t second:p? fits:t")),
    "curve": _Kind(FreeCurve, _fields("points:P kind:t")),
    "size": _Kind(
        Dimension,
        _fields(
            "kind:t points:P measured:n turn_deg:n typed:t? before:t after:t factor:n at:p line:p? "
            "decimals:w zeros:b fractions:b tolerance:p? height:n"
        ),
    ),
    "hatch": _Kind(Hatch, _fields("loops:L pattern:t angle_deg:n gap:n")),
    "note": _Kind(Note, _fields("points:P wording:t text_source:t at:p across:t height:n")),
    "endless": _Kind(Endless, _fields("at:p way:p ray:b")),
}
_NAMES = {kind.of: name for name, kind in _KINDS.items()}


Row = Entity | Dimension | Hatch | Note | Endless
"""Anything that stands in a drawing."""
R = TypeVar("R", bound=Row)
T = TypeVar("T")


def rows_of(drawing: Drawing) -> Iterator[Row]:
    """Yield all that stands in a drawing."""
    yield from drawing.entities
    yield from drawing.dimensions
    yield from drawing.hatches
    yield from drawing.notes
    yield from drawing.endless


def with_look(row: R, layer: str, style: Style) -> R:
    """Return the same on another layer, with another look."""
    if isinstance(row, Dimension | Hatch | Note):
        return replace(row, layer=layer, style=style)
    return cast(R, row._replace(layer=layer, style=style))


class Packed(TypedDict):
    """A drawing as plain values: layers by name with the place of their style, styles, rows."""

    layers: list[list[object]]
    styles: list[list[object]]
    rows: list[list[object]]


def packed(drawing: Drawing) -> Packed:
    """Return a drawing as plain values."""
    layers: dict[str, int] = {}
    styles: dict[Style, int] = {}
    rows: list[list[object]] = []
    for x in rows_of(drawing):
        name = _NAMES[type(x)]
        row: list[object] = [name, *(_plain(getattr(x, field)) for field, _ in _KINDS[name].fields)]
        row += [layers.setdefault(x.layer, len(layers)), styles.setdefault(x.style, len(styles)), x.source]
        rows.append(row)
    looks = [drawing.layers.get(name) for name in layers]
    return {
        "layers": [
            [name, styles.setdefault(look.style, len(styles)) if look else None]
            for name, look in zip(layers, looks, strict=True)
        ],
        "styles": [list(astuple(s)) for s in styles],
        "rows": rows,
    }


def _plain(value: object) -> object:
    return [_plain(v) for v in value] if isinstance(value, tuple) else value


def unpacked(data: object) -> Drawing:
    """Return the drawing that plain values are. Raises StoredError."""
    if not isinstance(data, dict):
        raise StoredError("The kept drawing is not whole: layers, styles and rows are needed.")
    rows = _list(data.get("rows"), "rows")
    if len(rows) > MOST_ROWS:
        raise StoredError(f"It has {len(rows):,} objects: {MOST_ROWS:,} at most can be added.")
    styles = [_style(s) for s in _list(data.get("styles"), "styles")]
    names: list[str] = []
    layers: dict[str, Layer] = {}
    for row in _list(data.get("layers"), "layers"):
        name, style = _list(row, "layers", 2)
        names.append(_text(name))
        if style is not None:
            layers[names[-1]] = Layer(name=names[-1], style=_one(styles, style))
    made: list[Row] = []
    points = 0
    for number, row in enumerate(rows, 1):
        try:
            thing = _thing(_list(row, "a row"), names, styles)
        except (StoredError, ValueError, TypeError, IndexError) as why:
            says = str(why) if isinstance(why, StoredError) else "Something of it is missing."
            raise StoredError(f"Object {number} of the drawing cannot be read: {says}") from None
        made.append(thing)
        points += len(thing.points) if isinstance(thing, FreeCurve | Note | Dimension) else 1
        points += sum(map(len, thing.loops)) if isinstance(thing, Hatch) else 0
        if points > MOST_POINTS:
            raise StoredError(f"A drawing that is added has {MOST_POINTS:,} points at most. Simplify it.")
    return Drawing(
        entities=tuple(x for x in made if isinstance(x, Line | Arc | Circle | Text | FreeCurve)),
        dimensions=tuple(x for x in made if isinstance(x, Dimension)),
        hatches=tuple(x for x in made if isinstance(x, Hatch)),
        notes=tuple(x for x in made if isinstance(x, Note)),
        endless=tuple(x for x in made if isinstance(x, Endless)),
        layers=layers,
    )


def _thing(row: list[object], names: list[str], styles: list[Style]) -> Row:
    kind = _KINDS.get(_text(row[0]))
    if kind is None:
        raise StoredError(f"there is no {row[0]!r}; there are {', '.join(_KINDS)}.")
    fields = {name: _READ[code](value) for (name, code), value in zip(kind.fields, row[1:-3], strict=True)}
    layer, style, source = row[-3:]
    thing: Row = kind.of(**fields, layer=_one(names, layer), style=_one(styles, style), source=_text(source))
    _check(thing)
    return thing


_COUNTS = {"linear": 2, "angular": 3, "radius": 2, "diameter": 2, "ordinate": 2, "arc": 3}


def _check(thing: Row) -> None:
    """Refuse what has no size, or too few points."""
    if isinstance(thing, Dimension) and _COUNTS.get(thing.kind) != len(thing.points):
        raise StoredError("a dimension has a kind and its points.")
    if isinstance(thing, Arc) and not 0 < thing.sweep_rad <= math.tau:
        raise StoredError("an arc sweeps more than nothing, and once round at most.")
    if isinstance(thing, Endless) and not math.isclose(math.hypot(*thing.way), 1.0):
        raise StoredError("its way has to be of length 1.")
    if isinstance(thing, FreeCurve) and len(thing.points) < 2:
        raise StoredError("a curve has two points at least.")
    if isinstance(thing, Note) and not thing.points:
        raise StoredError("a note has a tip.")
    if isinstance(thing, Hatch) and not all(len(loop) > 1 for loop in thing.loops or ((),)):
        raise StoredError("hatching has a boundary.")


def _list(value: object, what: str, count: int | None = None) -> list[object]:
    if not isinstance(value, list) or (count is not None and len(value) != count):
        raise StoredError(f"{what} has to be a list{'' if count is None else f' of {count}'}.")
    return value


def _one(of: Sequence[T], place: object) -> T:
    if not isinstance(place, int) or isinstance(place, bool) or not 0 <= place < len(of):
        raise StoredError("a layer or a style that is not there.")
    return of[place]


def _text(value: object) -> str:
    if not isinstance(value, str) or len(value) > 10_000:
        raise StoredError("this has to be text.")
    return shown(value)


def _number(value: object) -> float:
    if not isinstance(value, int | float) or isinstance(value, bool) or not abs(value) < FAR:
        raise StoredError("this has to be a number.")
    return float(value)


def _radius(value: object) -> float:
    radius = _number(value)
    if radius <= 0:
        raise StoredError("a radius is more than nothing.")
    return radius


def _whole(value: object) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or not 0 <= value <= 12:
        raise StoredError("this has to be a whole number.")
    return value


def _point(value: object) -> tuple[float, float]:
    x, y = _list(value, "a point", 2)
    return (_number(x), _number(y))


def _points(value: object) -> tuple[tuple[float, float], ...]:
    return tuple(map(_point, _list(value, "points")))


def _loops(value: object) -> tuple[tuple[Vertex, ...], ...]:
    return tuple(
        tuple(Vertex(*map(_number, _list(v, "a corner", 3))) for v in _list(loop, "a boundary"))
        for loop in _list(value, "boundaries")
    )


def _maybe(read: Callable[[object], object]) -> Callable[[object], object]:
    return lambda value: None if value is None else read(value)


_READ: dict[str, Callable[[object], object]] = {
    "t": _text,
    "t?": _maybe(_text),
    "n": _number,
    "r": _radius,
    "w": _whole,
    "b": bool,
    "p": _point,
    "p?": _maybe(_point),
    "P": _points,
    "L": _loops,
}


def _style(value: object) -> Style:
    color, line_type, weight, dash = _list(value, "a style", 4)
    if not (isinstance(color, str) and _COLOR.fullmatch(color)) and not (
        isinstance(color, int) and not isinstance(color, bool) and 0 < color < 256
    ):
        raise StoredError("a colour is a number from 1 to 255, or #rrggbb.")
    found = Style(color=color, line_type=_text(line_type), dash=_number(dash))
    return found if weight is None else replace(found, weight=_number(weight))
