"""How the board speaks of what steps made: ``circle 2``, ``edge 1.3``, with the numbers of the steps."""

from __future__ import annotations

from collections.abc import Mapping

from evenmark.core.construct.reading import Ref
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
        return ref.kind
    return "circle" if found.shape.whole else "arc"
