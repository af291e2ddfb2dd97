"""Sentences that were met before with other numbers are filled in instead of being read anew.

- *template*: a sentence without its digits. Drawings say the same few kinds of sentences over and over, so
  that a sentence is read letter by letter once, and then its template is filled with numbers and references.

What is filled in is just what reading gives: a template is kept only where every one of its digits became a
plain number or a reference, which does not depend on what the digits are.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from operator import itemgetter
from typing import NamedTuple

from evenmark.core.construct.kinds.record import Meaning
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Ref, StepMention
from evenmark.core.geometry.exact import Exact, decimal, ratio
from evenmark.core.geometry.numbers import Typed

MOST_TEMPLATES = 20_000
_DIGITS = re.compile(r"(?<![\w.#/])(#?\d{1,15}(?:\.\d{1,15}|/\d{1,9})?)(?![\d./])")
_templates: dict[str, Template | None] = {}

Tuple = tuple[object, ...]


class TuplePart(NamedTuple):
    """A tuple within a meaning: of which type, and which of what is there already it is made of."""

    of: type[Tuple]
    parts: Callable[[Sequence[object]], Tuple]


class Template(NamedTuple):
    """How a sentence is filled: of each of its digits what they are (a number, a negative number, or a
    reference of some kind); what does not change; and the tuples that are made of these and of each other,
    the whole meaning last."""

    roles: tuple[str, ...]
    constants: Tuple
    parts: tuple[TuplePart, ...]
    layer: str | None
    line: str | None

    def fill(self, leaves: Sequence[object]) -> Meaning:
        """Return the meaning with other numbers and references."""
        there: list[object] = [*leaves, *self.constants]
        for of, parts in self.parts:
            there.append(tuple.__new__(of, parts(there)))
        return there[-1]  # type: ignore[return-value]


Filled = tuple[Meaning, str | None, str | None, tuple[StepMention, ...]]


def filled(says: str, id_of: Callable[[int], int | None]) -> Filled | None:
    """Return a sentence of a known template; None where it has to be read."""
    parts = _DIGITS.split(says)
    template = _templates.get("\0".join(parts[::2]))
    if template is None:
        return None
    leaves: list[object] = []
    places: list[StepMention] = []
    at = 0
    for n, role in enumerate(template.roles):
        word = parts[2 * n + 1]
        if role == "+" or role == "-":
            value = _number(word)
            if value is None:
                return None  # which reading tells
            leaves.append(Typed("number", (-value if role == "-" else value,)))
            continue
        step, point, rest = word.partition(".")
        if "/" in word:
            return None
        known = int(step[1:]) if step[0] == "#" else id_of(int(step))
        if known is None or len(step) > 9:
            return None  # which reading tells
        begin = sum(map(len, parts[at : 2 * n + 1])) + (places[-1].begin if places else 0)
        at = 2 * n + 1
        places.append(StepMention(begin, begin + len(step), known))
        leaves.append(Ref(role, known, int(rest[:9]) if point else None))
    return template.fill(leaves), template.layer, template.line, tuple(places)


def _number(word: str) -> Exact | None:
    """Return the number that digits are; None where they are none."""
    if word[0] == "#":
        return None
    whole, point, rest = word.partition(".")
    if point:
        return decimal(whole, rest)
    if "/" in word:
        top, _, bottom = word.partition("/")
        return ratio(int(top), int(bottom)) if int(bottom) else None
    return int(whole)


def learn(r: Reader, meaning: Meaning, layer: str | None, line: str | None) -> None:
    """Keep the template of a sentence that was read."""
    if '"' in r.text or "\0" in r.text:
        return
    parts = _DIGITS.split(r.text)
    key = "\0".join(parts[::2])
    if key in _templates:
        return
    if len(_templates) >= MOST_TEMPLATES:
        _templates.clear()
    _templates[key] = _made(r, parts, meaning, layer, line)


def _made(
    r: Reader, parts: list[str], meaning: Meaning, layer: str | None, line: str | None
) -> Template | None:
    roles: list[str] = []
    index: dict[int, int] = {}
    at = 0
    for n in range(1, len(parts), 2):
        at += len(parts[n - 1])
        found = r.taken.get(at)
        if found is None:
            return None
        what, negative = found
        index[id(what)] = len(roles)
        roles.append(what.kind if isinstance(what, Ref) else "-" if negative else "+")
        at += len(parts[n])
    used: set[int] = set()
    constants: list[object] = []
    tuples: list[tuple[type[Tuple], list[tuple[str, int]]]] = []

    def place_of(value: object) -> tuple[str, int]:
        """Return where a value comes from: the digits, what does not change, or a tuple that is made."""
        if id(value) in index:
            used.add(index[id(value)])
            return "digits", index[id(value)]
        if not isinstance(value, tuple) or not value:
            constants.append(value)
            return "constants", len(constants) - 1
        tuples.append((type(value), [place_of(part) for part in value]))
        return "tuples", len(tuples) - 1

    place_of(meaning)
    if len(used) != len(roles):
        return None
    first = {"digits": 0, "constants": len(roles), "tuples": len(roles) + len(constants)}
    made = tuple(TuplePart(of, _getter([first[kind] + n for kind, n in places])) for of, places in tuples)
    return Template(tuple(roles), tuple(constants), made, layer, line)


def _getter(places: list[int]) -> Callable[[Sequence[object]], Tuple]:
    """Return what takes the values at some places."""
    if len(places) > 1:
        return itemgetter(*places)
    (place,) = places
    return lambda there: (there[place],)
