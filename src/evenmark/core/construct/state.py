"""State: what steps have made so far, under the names by which later steps speak of it.

- *feature*: an edge, arc, circle or guide with its name, its shape in doubles, and its ends or centre as
  exactly as they are known. *Change*: what one step did to one name: what stood there before, and after.

A state goes forward by doing changes and back by undoing them, so that a preview costs one step and going
back to an earlier one costs what was done since.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from evenmark.core.construct.references import Expression, Ref
from evenmark.core.drawing.annotations import Dimension, Hatch, Note
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import FreeCurve, Text
from evenmark.core.geometry.arcs import Curve
from evenmark.core.geometry.exact import Number, double
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Point

XY = tuple[Number, Number]
"""A point as exactly as it is known: whole and rational numbers where it was said in such."""


Group = tuple[int, int]
"""The id of a step, and which of its outlines."""
Annotation = Text | Dimension | Hatch | Note | FreeCurve


class Broken(Exception):
    """A step cannot be built: says why, and what would help; ``waits_for`` is the id of the broken step that
    it needs, None where it needs none."""

    def __init__(self, says: str, waits_for: int | None = None) -> None:
        super().__init__(says)
        self.says, self.waits_for = says, waits_for


class Feature(NamedTuple):
    """Something drawn. ``exact`` are the ends of an edge, or the centre of something round; ``line`` is how
    its line is drawn where that was said, ``look`` how it looks where it was laid in with a look of its own.
    ``says`` is a size, a note, lettering, hatching, or a curve that is neither straight nor round: its shape
    is the point at which it stands. ``group`` names the outline that it is part of, by the step that made it
    one; ``back`` says that an arc runs clockwise, from the end of its shape to the start, as its sentence
    says."""

    ref: Ref
    shape: Curve
    layer: str
    line: str | None = None
    exact: tuple[XY, ...] = ()
    says: Annotation | None = None
    group: Group | None = None
    back: bool = False
    look: Style | None = None

    @property
    def start(self) -> Point:
        """Where it starts, as its sentence says."""
        return self.shape.end if self.back else self.shape.start

    @property
    def end(self) -> Point:
        """Where it ends, as its sentence says."""
        return self.shape.start if self.back else self.shape.end

    @property
    def drawn(self) -> bool:
        """Whether it is an edge, an arc or a circle, rather than a guide or an annotation."""
        return self.says is None and self.ref.kind != "guide"

    @property
    def endless(self) -> bool:
        """Whether it is a guide, which has no ends."""
        return self.ref.kind == "guide"


Corner = tuple[Ref | None, int] | tuple[Ref | None, Ref | None]
"""A corner of what a step drew: an edge and which of its ends, or the two edges whose supporting lines meet
there."""


class Change(NamedTuple):
    """What a step did to a name: the feature that stood there before and after, None for none."""

    ref: Ref
    before: Feature | None
    after: Feature | None


class KeptThings(NamedTuple):
    """What was kept under a name: the things as they stood, the point by which they are placed, and the step
    that kept them."""

    things: tuple[Feature, ...]
    at: XY
    step: int
    what: Expression


def plain(p: XY) -> Point:
    """Return a point in the nearest doubles."""
    x, y = p
    return (float(x) if type(x) is int else double(x), float(y) if type(y) is int else double(y))


def edge_between(a: XY, b: XY) -> Straight:
    """Return the straight piece between two points."""
    return Straight(plain(a), plain(b))


MOST_TOLD = 12


def _one(kind: str) -> str:
    return f"{'an' if kind[0] in 'aeiou' else 'a'} {kind}"


@dataclass
class State:
    """What steps have made: features by their names, named points, the last point that was said, and the
    layer of the step before.

    What is erased leaves its place in the order: going back and forth changes no order.
    """

    places: dict[Ref, Feature | None] = field(default_factory=dict)
    parts: dict[int, list[Ref]] = field(default_factory=dict)
    """The names that each step has given, in the order of its parts."""
    points: dict[str, XY] = field(default_factory=dict)
    last: XY | None = None
    layer: str = "outline"
    corners: dict[int, list[Corner]] = field(default_factory=dict)
    kept: dict[str, KeptThings] = field(default_factory=dict)
    order: list[int] = field(default_factory=list)
    """The ids of the steps so far, in their order."""

    @property
    def features(self) -> dict[Ref, Feature]:
        """What stands, by its name, in the order in which it was made."""
        return {ref: f for ref, f in self.places.items() if f is not None}

    def standing(self) -> Iterator[Feature]:
        """Yield what stands, in the order in which it was made."""
        return (f for f in self.places.values() if f is not None)

    def get(self, ref: Ref) -> Feature | None:
        """Return a feature by its whole name; None where there is none."""
        return self.places.get(ref)

    def do(self, changes: Sequence[Change]) -> None:
        """Do some changes."""
        for ref, before, after in changes:
            if before is None:
                self.parts.setdefault(ref.step, []).append(ref)
            self.places[ref] = after

    def undo(self, changes: Sequence[Change]) -> None:
        """Undo changes that were done last."""
        for ref, before, _ in reversed(changes):
            if before is None:
                del self.places[ref]
                self.parts[ref.step].pop()
            else:
                self.places[ref] = before

    def of_step(self, step: int) -> Iterator[Feature]:
        """Yield what a step made that still stands, in the order of its parts."""
        return (f for ref in self.parts.get(step, ()) if (f := self.places[ref]) is not None)

    def find(self, ref: Ref) -> Feature:
        """Return a feature by its name. Raises Broken."""
        if ref.part is not None:
            found = self.places.get(ref)
            if found is None and ref.kind in ("arc", "circle"):  # a trimmed circle keeps its name
                found = self.places.get(ref._replace(kind="circle" if ref.kind == "arc" else "arc"))
            if found is None:
                raise Broken(self._missing(ref))
            return found
        there = [f for f in self.of_step(ref.step) if f.ref.kind == ref.kind]
        if not there and ref.kind in ("arc", "circle"):
            there = [f for f in self.of_step(ref.step) if f.ref.kind in ("arc", "circle")]
        if len(there) != 1:
            raise Broken(self._missing(ref))
        return there[0]

    def _missing(self, ref: Ref) -> str:
        made = [f.ref for f in self.of_step(ref.step)]
        there = sorted(r.part or 0 for r in made if r.kind == ref.kind)
        number = self.order.index(ref.step) + 1 if ref.step in self.order else 0
        step = f"Step {number}" if number else "This step"
        if not made:
            return f"{step} drew nothing that is still there. Name another step."
        if not there:
            drew = " and ".join(dict.fromkeys(_one(r.called) for r in made))
            return f"{step} drew {drew}, not {_one(ref.called)}."
        which = [f"{ref.called} {number or 'STEP'}.{part}" for part in there]
        if ref.part is None:
            return f"{step} drew {len(there)} of these. Say which, as {which[0]}."
        more = " and others" if len(which) > MOST_TOLD else ""
        return f"{step} has no {ref.called} {ref.part}. It has {', '.join(which[:MOST_TOLD])}{more}."
