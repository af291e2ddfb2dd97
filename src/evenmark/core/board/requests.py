"""What is asked of a board: one frozen value for each call, read from plain values that anybody may have
sent.

Every field has a type that says its limits (`arguments`); what is not so is refused by its name.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import MISSING, dataclass, fields
from typing import Annotated, TypeVar, get_type_hints

from evenmark.core.board.arguments import (
    MOST_RECENT,
    MOST_TRACKED,
    NONE,
    PIXEL,
    Edits,
    Line,
    MaybeStep,
    MaybeWhole,
    Name,
    Names,
    Number,
    Reading,
    Says,
    Short,
    StepId,
    Steps,
    Switch,
    Text,
    Unread,
    Word,
    as_it_is,
    list_of,
    maybe_text,
    text_of,
)


@dataclass(frozen=True)
class Open:
    """The whole view of another board (worker alone)."""

    document: Unread = NONE


@dataclass(frozen=True)
class View:
    """The whole view: rows, pieces, values, layers, box, unit."""


@dataclass(frozen=True)
class Write:
    """A step put in, at the end or before another; ``layer`` is that of outlines where it says none, ``own``
    the one that was chosen for this step alone; with ``commas`` where those between digits are decimal
    ones."""

    says: Says = ""
    before: MaybeStep = None
    layer: Name = ""
    own: Name = ""
    commas: Switch = False


@dataclass(frozen=True)
class Change:
    """A step written over; with ``commas`` where those between digits are decimal ones."""

    step: StepId
    says: Says = ""
    commas: Switch = False


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

    document: Unread = NONE
    text: Text = ""


@dataclass(frozen=True)
class LayIn:
    """A drawing kept with the document and laid in; as plain values (steps.md)."""

    name: Name = ""
    drawing: Unread = NONE


@dataclass(frozen=True)
class PutOn:
    """What is chosen put on a layer, with a further step."""

    names: Names = ()
    layer: Name = ""


@dataclass(frozen=True)
class State:
    """The sentence being written, at the end or before a step; ``layer`` is that of outlines, ``own`` the
    one that was chosen for this step alone; with ``commas`` where those between digits are decimal ones."""

    says: Says = ""
    caret: MaybeWhole = None
    before: MaybeStep = None
    layer: Name = ""
    own: Name = ""
    commas: Switch = False


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
    rested: Annotated[tuple[Mapping[str, object], ...], list_of(dict, MOST_TRACKED)] = ()
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
    stays: Annotated[str, as_it_is] = "start"


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
    to: Annotated[str, maybe_text] = ""


@dataclass(frozen=True)
class Window:
    """What lies in a window, as sentences name it; with what it ``touches``."""

    x: Number = 0.0
    y: Number = 0.0
    x2: Number = 0.0
    y2: Number = 0.0
    touches: Switch = False
    hidden: Names = ()


@dataclass(frozen=True)
class Offered:
    """All that can be done, with small pictures."""


@dataclass(frozen=True)
class Find:
    """The kinds of sentences that a word may mean, the recent ones first."""

    says: Annotated[str, text_of(200)] = ""
    recent: Annotated[tuple[str, ...], list_of(str, MOST_RECENT)] = ()


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
