"""State: what steps have made so far, under the names by which later steps speak of it.

- *feature*: an edge, arc, circle or guide with its name, its shape in doubles, and its ends or centre as
  exactly as they are known. *Change*: what one step did to one name: what stood there before, and after.

A state goes forward by doing changes and back by undoing them, so that a preview costs one step and going
back to an earlier one costs what was done since.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import NamedTuple

from evenmark.core.construct.reading import Ref
from evenmark.core.geometry.arcs import Curve
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Point

XY = tuple[Number, Number]
"""A point as exactly as it is known: whole and rational numbers where it was said in such."""


class Broken(Exception):
    """A step cannot be built: says why, and what would help."""

    def __init__(self, says: str) -> None:
        super().__init__(says)
        self.says = says


class Feature(NamedTuple):
    """Something drawn. ``exact`` are the ends of an edge, or the centre of something round; ``line`` is how
    its line is drawn where that was said."""

    ref: Ref
    shape: Curve
    layer: str
    line: str | None = None
    exact: tuple[XY, ...] = ()

    @property
    def endless(self) -> bool:
        """Whether it is a guide, which has no ends."""
        return self.ref.kind == "guide"


Corner = tuple[Ref | None, int] | tuple[Ref | None, Ref | None]
"""A corner of what a step drew: an edge and which of its ends, or the two edges whose carriers meet there."""


class Change(NamedTuple):
    """What a step did to a name: the feature that stood there before and after, None for none."""

    ref: Ref
    before: Feature | None
    after: Feature | None


def plain(p: XY) -> Point:
    """Return a point in the nearest doubles."""
    return (float(p[0]), float(p[1]))


def edge_between(a: XY, b: XY) -> Straight:
    """Return the straight piece between two points."""
    return Straight(plain(a), plain(b))


@dataclass
class State:
    """What steps have made: features by their names, named points, the last point that was said, and the
    layer of the step before."""

    features: dict[Ref, Feature] = field(default_factory=dict)
    points: dict[str, XY] = field(default_factory=dict)
    last: XY | None = None
    layer: str = "outline"
    corners: dict[int, list[Corner]] = field(default_factory=dict)

    def do(self, changes: list[Change]) -> None:
        """Do some changes."""
        for ref, _, after in changes:
            if after is None:
                self.features.pop(ref, None)
            else:
                self.features[ref] = after

    def undo(self, changes: list[Change]) -> None:
        """Take back changes that were done last."""
        for ref, before, _ in reversed(changes):
            if before is None:
                self.features.pop(ref, None)
            else:
                self.features[ref] = before

    def of_step(self, step: int) -> Iterator[Feature]:
        """Yield what a step made that still stands, in the order of its parts."""
        return (f for ref, f in self.features.items() if ref.step == step)

    def find(self, ref: Ref) -> Feature:
        """Return a feature by its name. Raises Broken."""
        if ref.part is not None:
            found = self.features.get(ref)
            if found is not None:
                return found
            raise Broken(self._missing(ref))
        if ref.kind in ("arc", "circle") and not self._has(ref):  # a trimmed circle keeps its name
            ref = ref._replace(kind="circle" if ref.kind == "arc" else "arc")
        found = self.features.get(ref._replace(part=1))
        if found is None or ref._replace(part=2) in self.features:
            raise Broken(self._missing(ref))
        return found

    def _has(self, ref: Ref) -> bool:
        return ref._replace(part=1) in self.features

    def _missing(self, ref: Ref) -> str:
        there = sorted(r.part or 0 for r in self.features if r.kind == ref.kind and r.step == ref.step)
        if not there:
            return f"The step has no {ref.kind}."
        if ref.part is None:
            return f"The step has {len(there)} {ref.kind}s: say which, as {ref.kind} STEP.{there[0]}."
        return f"The step has no {ref.kind} {ref.part}; there is {', '.join(map(str, there[:12]))}."
