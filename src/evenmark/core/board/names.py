"""How the board speaks of what steps made: ``circle 2``, ``edge 1.3``, with the numbers of the steps; names
as sentences hold them."""

from __future__ import annotations

import re
from collections.abc import Container, Mapping

from evenmark.core.construct.references import Ref
from evenmark.core.construct.state import State
from evenmark.core.geometry.arcs import Round


def spoken(ref: Ref, numbers: Mapping[int, int], state: State) -> str:
    """Return a name as it is read: the part is left out where the step made but one of its kind.

    >>> from evenmark.core.construct.state import State
    >>> spoken(Ref("circle", 7, 1), {7: 2}, State(parts={7: [Ref("circle", 7, 1)]}))
    'circle 2'
    """
    number = numbers.get(ref.step, 0)
    kind = _kind_now(ref, state)
    if ref.part is None:
        return f"{kind} {number}"
    alike = sum(1 for other in state.parts.get(ref.step, ()) if other.kind == ref.kind)
    return f"{kind} {number}" if alike == 1 else f"{kind} {number}.{ref.part}"


def _kind_now(ref: Ref, state: State) -> str:
    """Return what it is now: a trimmed circle is an arc."""
    found = state.places.get(ref)
    if found is None or ref.kind != "circle" or not isinstance(found.shape, Round):
        return ref.called
    return "circle" if found.shape.whole else "arc"


def free_name(name: str, taken: Container[str]) -> str:
    """Return a name for what is kept with a document, as near to a given one as a line can hold and none has
    yet.

    >>> free_name('a "b": c;', {"a b c"})
    'a b c 2'
    """
    name = " ".join(re.sub(r'[":;·#\\\x00-\x1f\x7f]', " ", name).split())[:80] or "drawing"
    count, out = 1, name
    while out in taken:
        count += 1
        out = f"{name} {count}"
    return out


def as_name(name: str) -> str:
    """Return a name as a sentence holds it: quoted where it would end early."""
    if not any(sign in name for sign in ';·"#'):
        return name
    return '"' + name.replace("\\", "\\\\").replace('"', '\\"') + '"'
