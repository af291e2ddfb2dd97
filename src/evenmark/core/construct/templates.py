"""Sentences that were met before with other numbers are filled in instead of being read anew.

- *template*: a sentence without its digits. Drawings say the same few kinds of sentences over and over, so
  that a sentence is read letter by letter once, and then its template is filled with numbers and references.

What is filled in is just what reading gives: a template is kept only where every one of its digits became a
plain number or a reference, which does not depend on what the digits are.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, NamedTuple

from evenmark.core.construct.reading import Place, Reader, Ref, Said
from evenmark.core.geometry.exact import Exact, decimal, ratio
from evenmark.core.geometry.numbers import Typed

MOST_TEMPLATES = 20_000
_DIGITS = re.compile(r"(?<![\w.#/])(#?\d{1,15}(?:\.\d{1,15}|/\d{1,9})?)(?![\d./])")
_templates: dict[str, Template | None] = {}


class Template(NamedTuple):
    """How a sentence is filled: of each of its digits what they are (a number, a negative number, or a
    reference of some kind), and what makes its slots of them."""

    roles: tuple[str, ...]
    fill: Callable[[list[Any]], dict[str, Any]]
    kind: str
    layer: str | None
    line: str | None
    refers: bool


Filled = tuple[str, dict[str, Any], str | None, str | None, tuple[Place, ...]]


def filled(says: str, id_of: Callable[[int], int | None]) -> Filled | None:
    """Return a sentence of a known template; None where it has to be read."""
    parts = _DIGITS.split(says)
    template = _templates.get("\0".join(parts[::2]))
    if template is None:
        return None
    leaves: list[Any] = []
    places: list[Place] = []
    at = 0
    for n, role in enumerate(template.roles):
        word = parts[2 * n + 1]
        if role == "+" or role == "-":
            if word[0] == "#":
                return None  # which reading tells
            whole, point, rest = word.partition(".")
            value: Exact
            if point:
                value = decimal(whole, rest)
            elif "/" in word:
                top, _, bottom = word.partition("/")
                if not int(bottom):
                    return None  # which reading tells
                value = ratio(int(top), int(bottom))
            else:
                value = int(whole)
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
        places.append(Place(begin, begin + len(step), known))
        leaves.append(Ref(role, known, int(rest[:9]) if point else None))
    return template.kind, template.fill(leaves), template.layer, template.line, tuple(places)


def learn(r: Reader, kind: str, slots: dict[str, Any], layer: str | None, line: str | None) -> None:
    """Keep the template of a sentence that was read."""
    if '"' in r.text or "\0" in r.text:
        return
    parts = _DIGITS.split(r.text)
    key = "\0".join(parts[::2])
    if key in _templates:
        return
    if len(_templates) >= MOST_TEMPLATES:
        _templates.clear()
    _templates[key] = _made(r, parts, kind, slots, layer, line)


def _made(
    r: Reader, parts: list[str], kind: str, slots: dict[str, Any], layer: str | None, line: str | None
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
    constants: list[Any] = []

    def code(value: Any) -> str:
        if id(value) in index:
            used.add(index[id(value)])
            return f"n[{index[id(value)]}]"
        if isinstance(value, Said):
            return f"Said({value.how!r}, {code(value.parts)})"
        if isinstance(value, tuple) and not hasattr(value, "_fields"):
            return f"({''.join(code(v) + ', ' for v in value)})"
        constants.append(value)
        return f"c[{len(constants) - 1}]"

    body = ", ".join(f"{name!r}: {code(value)}" for name, value in slots.items())
    if len(used) != len(roles):
        return None
    # the names and words in it are those of this package; everything else is a constant
    fill = eval(f"lambda n: {{{body}}}", {"Said": Said, "c": constants})  # noqa: S307
    return Template(tuple(roles), fill, kind, layer, line, any(len(role) > 1 for role in roles))
