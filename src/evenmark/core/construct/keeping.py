"""Steps that keep things under a name, and place them again: by a point, turned, with values of their own.

Placed with other values, the steps up to the one that kept them are evaluated once more with these.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from evenmark.core.construct.making import Build, Making
from evenmark.core.construct.points import Context
from evenmark.core.construct.state import XY, Broken, Feature, Kept
from evenmark.core.construct.things import Way, laid, shift, things, turn
from evenmark.core.geometry.exact import Number

MOST_PLACED = 10_000


def _keep(c: Context, s: dict[str, Any], made: Making) -> None:
    made.kept = (s["name"], Kept(tuple(things(c, s["what"])), c.point(s["at"]), made.step, s["what"]))


def _place(c: Context, s: dict[str, Any], made: Making) -> None:
    kept = c.state.kept.get(s["name"])
    if kept is None:
        names = ", ".join(c.state.kept)
        raise Broken(
            f"Nothing is kept under {s['name']!r} before this step. "
            + (f"There is: {names}." if names else "Keep it with: keep NAME; step 3; at 0, 0.")
        )
    if s["values"] and c.setting.again is not None:
        given: dict[str, Number] = {name: c.number(typed) for name, typed in s["values"]}
        for name in given:
            if name not in c.values.defined and name not in c.values.given:
                raise Broken(f"There is no value {name!r}.")
        kept = c.setting.again(kept, given)
    lay(c, s, kept.things, kept.at, made)


def lay(c: Context, s: dict[str, Any], kept: Sequence[Feature], base: XY, made: Making) -> None:
    """Draw copies of things where a sentence says: a point of theirs at its point, turned about that."""
    at = c.point(s["at"]) if s["at"] is not None else (0, 0)
    degrees = c.number(s["turned"]) if s["turned"] is not None else 0
    if len(kept) > MOST_PLACED:
        raise Broken(f"That would be {len(kept)} pieces; {MOST_PLACED} at most.")
    ways: list[Way] = [shift((at[0] - base[0], at[1] - base[1]))]
    if degrees % 360:
        ways.append(turn(at, degrees))
    moved = list(kept)
    for way in ways:
        moved = [laid(f, way) for f in moved]
    made.copies(f._replace(layer=made.said_layer or f.layer) for f in moved)


KINDS: dict[str, Build] = {"keep": _keep, "place": _place}
"""How each kind of step is built."""
