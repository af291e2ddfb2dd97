"""What is asked of a board: one frozen value for each call, read from plain values that anybody may have
sent.

Every field has a type that says its limits; what is not so is refused by its name.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import MISSING, dataclass, fields
from typing import Annotated, NewType, TypeVar, get_type_hints

from evenmark.core.construct.building import MOST_STEPS
from evenmark.core.construct.words import MOST_LETTERS

MOST_CHOSEN, MOST_LINE = 500, 400
MOST_TEXT, MOST_EDITS, MOST_RECENT, MOST_TRACKED = 2_000_000, 400, 20, 8
BEYOND = 10**12
PIXEL = 0.1
"""How large a dot of the screen is in the drawing, until the page says so."""
_LARGEST = 10**9


class NotAsked(ValueError):
    """Arguments are not what a call takes: says which."""


Reading = Callable[[str, object], object]
"""Reads the value of an argument, by its name. Raises NotAsked."""


def _text(most: int) -> Reading:
    def read(_name: str, value: object) -> str:
        if not isinstance(value, str) or len(value) > most:
            raise NotAsked("This is too long.")
        return value

    return read


def _maybe_text(name: str, value: object) -> str:
    return "" if value is None else str(_text(MOST_LETTERS)(name, value))


def _whole(name: str, value: object) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or not 0 <= value < _LARGEST:
        raise NotAsked(f"{name!r} has to be a whole number.")
    return value


def _whole_or_none(name: str, value: object) -> int | None:
    return None if value is None else _whole(name, value)


def _number(name: str, value: object) -> float:
    if not isinstance(value, int | float) or isinstance(value, bool) or not abs(value) < BEYOND:
        raise NotAsked(f"{name!r} has to be a number.")
    return float(value)


def _list(kind: type, most: int) -> Reading:
    def read(name: str, value: object) -> tuple[object, ...]:
        if not isinstance(value, list) or len(value) > most or not all(isinstance(v, kind) for v in value):
            raise NotAsked(f"{name!r} has to be a list.")
        return tuple(value)

    return read


def _line(_name: str, value: object) -> Mapping[str, object] | None:
    if value is not None and not isinstance(value, dict):
        raise NotAsked("'come' has to be a line.")
    return value


def _switch(_name: str, value: object) -> bool:
    return bool(value)


def _as_it_is(_name: str, value: object) -> object:
    return value


Says = Annotated[str, _text(MOST_LETTERS)]
"""A sentence, or what else is asked in words."""
Name = Annotated[str, _text(255)]
Short = Annotated[str, _text(MOST_LINE)]
Word = Annotated[str, _text(20)]
Text = Annotated[str, _text(MOST_TEXT)]
StepId = Annotated[int, _whole]
MaybeStep = Annotated[int | None, _whole_or_none]
"""The id of a step; none for the end of the list."""
MaybeWhole = Annotated[int | None, _whole_or_none]
Number = Annotated[float, _number]
Switch = Annotated[bool, _switch]
Steps = Annotated[tuple[int, ...], _list(int, MOST_STEPS)]
Names = Annotated[tuple[str, ...], _list(str, MOST_CHOSEN)]
Edits = Annotated[tuple[Mapping[str, object], ...], _list(dict, MOST_EDITS)]
Line = Annotated[Mapping[str, object] | None, _line]
Plain = NewType("Plain", object)
"""Plain values that are read where they are used: a document, a drawing."""
Unread = Annotated[Plain, _as_it_is]


@dataclass(frozen=True)
class Open:
    """The whole view of another board (worker alone)."""

    document: Unread = Plain(None)


@dataclass(frozen=True)
class View:
    """The whole view: rows, pieces, values, layers, box, unit."""


@dataclass(frozen=True)
class Write:
    """A step put in, at the end or before another; ``layer`` is that of what it draws where it says none."""

    says: Says = ""
    before: MaybeStep = None
    layer: Name = ""


@dataclass(frozen=True)
class Change:
    """A step written over."""

    step: StepId
    says: Says = ""


@dataclass(frozen=True)
class Try:
    """What ``change``, ``correct`` or ``pull`` would do, with what these take; nothing stays changed."""

    call: Word = ""


@dataclass(frozen=True)
class TakeAway:
    """Steps taken away."""

    steps: Steps = ()


@dataclass(frozen=True)
class Needed:
    """Which steps need some."""

    steps: Steps = ()


@dataclass(frozen=True)
class Move:
    """A step put before another one, or last."""

    step: StepId
    before: MaybeStep = None


@dataclass(frozen=True)
class SetLine:
    """A value, layer, unit, bookmark or remark put in, changed, taken away."""

    line: MaybeWhole = None
    gone: Switch = False
    come: Line = None


@dataclass(frozen=True)
class Apply:
    """Edits done (worker alone)."""

    splices: Edits = ()


@dataclass(frozen=True)
class Replace:
    """Another document in the place of this one: as it is kept, or as text."""

    document: Unread = Plain(None)
    text: Text = ""


@dataclass(frozen=True)
class LayIn:
    """A drawing kept with the document and laid in; as plain values (steps.md)."""

    name: Name = ""
    drawing: Unread = Plain(None)


@dataclass(frozen=True)
class PutOn:
    """What is chosen put on a layer, with a further step."""

    names: Names = ()
    layer: Name = ""


@dataclass(frozen=True)
class State:
    """The sentence being written, at the end or before a step."""

    says: Says = ""
    caret: MaybeWhole = None
    before: MaybeStep = None


@dataclass(frozen=True)
class Tracked:
    """A point that the pointer has rested on."""

    writes: Short = ""
    x: Number = 0.0
    y: Number = 0.0


@dataclass(frozen=True)
class Point(State):
    """What a pointer means in the sentence being written: within ``reach`` of a place, with ``pixel`` the
    size of a dot, one kind of catch ``held`` or all ``off``, how strongly it catches (``level``), on a
    ``grid``, from the points that it ``rested`` on; ``which`` of several, without ``hidden`` layers."""

    x: Number = 0.0
    y: Number = 0.0
    reach: Number = 1.0
    pixel: Number = PIXEL
    held: Word = ""
    off: Switch = False
    level: Word = ""
    grid: Number = 0.0
    rested: Annotated[tuple[Mapping[str, object], ...], _list(dict, MOST_TRACKED)] = ()
    which: MaybeWhole = None
    hidden: Names = ()


@dataclass(frozen=True)
class Tell:
    """The numbers of pieces, which of them can be corrected, and the points that can be pulled."""

    names: Names = ()


@dataclass(frozen=True)
class Correct:
    """A number of a piece given another value; ``stays`` says which end of an edge does."""

    name: Short = ""
    number: Short = ""
    says: Short = ""
    stays: Annotated[str, _as_it_is] = "start"


@dataclass(frozen=True)
class Pull:
    """An end or centre put elsewhere."""

    name: Short = ""
    which: Short = ""
    says: Short = ""


@dataclass(frozen=True)
class Measure:
    """The numbers of a feature, a step, a point, or a number; with ``to``, those between two points or
    features."""

    says: Says = ""
    to: Annotated[str, _maybe_text] = ""


@dataclass(frozen=True)
class Window:
    """What lies in a window, as sentences name it."""

    x: Number = 0.0
    y: Number = 0.0
    x2: Number = 0.0
    y2: Number = 0.0
    hidden: Names = ()


@dataclass(frozen=True)
class Offered:
    """All that can be done, with small pictures."""


@dataclass(frozen=True)
class Find:
    """The kinds of sentences that a word may mean, the recent ones first."""

    says: Annotated[str, _text(200)] = ""
    recent: Annotated[tuple[str, ...], _list(str, MOST_RECENT)] = ()


@dataclass(frozen=True)
class Kept:
    """The document, as it is kept and as text."""


R = TypeVar("R")


_known: dict[type, dict[str, tuple[Reading, bool]]] = {}


def _readings(kind: type) -> dict[str, tuple[Reading, bool]]:
    """Return how each argument of a call is read, and whether it may be left out."""
    if kind not in _known:
        _known[kind] = _worked_out(kind)
    return _known[kind]


def _worked_out(kind: type) -> dict[str, tuple[Reading, bool]]:
    hints = get_type_hints(kind, include_extras=True)
    return {f.name: (hints[f.name].__metadata__[0], f.default is not MISSING) for f in fields(kind)}


def asked(kind: type[R], args: Mapping[str, object]) -> R:
    """Return what is asked, of plain values. Raises NotAsked."""
    given = {}
    for name, (read, may_lack) in _readings(kind).items():
        if name in args or not may_lack:
            given[name] = read(name, args.get(name))
    return kind(**given)
