"""Arguments of what is asked of a board: types that say their limits, each with what reads it from a plain
value."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Annotated, NewType

from evenmark.core.construct.building import MOST_STEPS
from evenmark.core.construct.words import MOST_LETTERS
from evenmark.core.plain import one_line, why_not_kept

MOST_CHOSEN, MOST_LINE = 500, 400
MOST_TEXT, MOST_EDITS, MOST_RECENT, MOST_TRACKED = 2_000_000, 400, 20, 8
BEYOND = 10**12
PIXEL = 0.1
"""How large a dot of the screen is in the drawing, until the page says so."""
_LARGEST = 10**9


class NotAsked(ValueError):
    """Arguments are not what a call takes: says which, and at which letter where it is one."""

    def __init__(self, says: str, at: int | None = None) -> None:
        super().__init__(says)
        self.at = at


Reading = Callable[[str, object], object]
"""Reads the value of an argument, by its name. Raises NotAsked."""


def text_of(most: int) -> Reading:
    """Return what reads a text of one line, of so many letters at most."""

    def read(_name: str, value: object) -> str:
        if not isinstance(value, str) or len(value) > most:
            raise NotAsked("This is too long. Shorten it.")
        return _kept_line(value)

    return read


def _kept_line(text: str) -> str:
    """Return a text as one line. Raises NotAsked where it holds what cannot be kept."""
    line = one_line(text)
    why = why_not_kept(line)
    if why is not None:
        raise NotAsked(*why)
    return line


def _long_text(name: str, value: object) -> str:
    if not isinstance(value, str) or len(value) > MOST_TEXT:
        raise NotAsked(f"{name!r} is too long. Shorten it.")
    return value


def maybe_text(name: str, value: object) -> str:
    """Read a text that may be none. Raises NotAsked."""
    return "" if value is None else str(text_of(MOST_LETTERS)(name, value))


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


def list_of(kind: type, most: int) -> Reading:
    """Return what reads a list of values of one type, of so many at most."""

    def read(name: str, value: object) -> tuple[object, ...]:
        if not isinstance(value, list) or len(value) > most or not all(isinstance(v, kind) for v in value):
            raise NotAsked(f"{name!r} has to be a list.")
        return tuple(_kept_line(v) if isinstance(v, str) else v for v in value)

    return read


def _line(_name: str, value: object) -> Mapping[str, object] | None:
    if value is not None and not isinstance(value, dict):
        raise NotAsked("'come' has to be a line.")
    return value and {k: _kept_line(v) if isinstance(v, str) else v for k, v in value.items()}


def _switch(_name: str, value: object) -> bool:
    return bool(value)


def as_it_is(_name: str, value: object) -> object:
    """Take a value that is read where it is used."""
    return value


Says = Annotated[str, text_of(MOST_LETTERS)]
"""A sentence, or what else is asked in words."""
Name = Annotated[str, text_of(255)]
Short = Annotated[str, text_of(MOST_LINE)]
Word = Annotated[str, text_of(20)]
Text = Annotated[str, _long_text]
"""A whole document, of many lines."""
StepId = Annotated[int, _whole]
MaybeStep = Annotated[int | None, _whole_or_none]
"""The id of a step; none for the end of the list."""
MaybeWhole = Annotated[int | None, _whole_or_none]
Number = Annotated[float, _number]
Switch = Annotated[bool, _switch]
Steps = Annotated[tuple[int, ...], list_of(int, MOST_STEPS)]
Names = Annotated[tuple[str, ...], list_of(str, MOST_CHOSEN)]
Edits = Annotated[tuple[Mapping[str, object], ...], list_of(dict, MOST_EDITS)]
Line = Annotated[Mapping[str, object] | None, _line]
Plain = NewType("Plain", object)
"""Plain values that are read where they are used: a document, a drawing."""
Unread = Annotated[Plain, as_it_is]
NONE = Plain(None)
"""Nothing of them."""
