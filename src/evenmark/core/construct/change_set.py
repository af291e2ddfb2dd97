"""What a step makes: features under its own names, edges, arcs and circles counted separately, in the order
in which its sentence says them; and changes to what stands already."""

from __future__ import annotations

from collections.abc import Iterable

from evenmark.core.construct.references import Ref
from evenmark.core.construct.state import (
    XY,
    Annotation,
    Broken,
    Change,
    Corner,
    Feature,
    Group,
    KeptThings,
    State,
    edge_between,
    plain,
)
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Point, distance

MOST_MADE = 20_000
"""What all steps of a document may draw together."""


class ChangeSet:
    """Collects what one step makes and changes."""

    __slots__ = (
        "changes",
        "corners",
        "counts",
        "group",
        "groups",
        "kept",
        "layer",
        "line",
        "points",
        "said_layer",
        "state",
        "step",
    )

    def __init__(self, step: int, state: State, said_layer: str | None, line: str | None) -> None:
        self.step, self.state, self.said_layer, self.line = step, state, said_layer, line
        self.layer = said_layer or state.layer
        self.changes: list[Change] = []
        self.points: dict[str, XY] = {}
        self.corners: list[Corner] = []
        self.counts: dict[str, int] = {}
        self.groups = 0
        self.group: Group | None = None
        """The outline that what is drawn next belongs to."""
        self.kept: tuple[str, KeptThings] | None = None

    def add(
        self,
        shape: Curve,
        exact: tuple[XY, ...] = (),
        *,
        kind: str | None = None,
        layer: str | None = None,
        line: str | None = None,
        nothing: bool = False,
        begins: Point | None = None,
    ) -> Ref:
        """Draw a shape under the next name of its kind; an arc that begins at a point runs from there. Raises
        Broken for one of no size."""
        if type(shape) is Straight:
            if shape.start == shape.end and not nothing:
                raise Broken("Both ends are the same point. Choose another one.")
            kind = kind or "edge"
        elif kind is None:
            kind = "circle" if shape.whole else "arc"  # type: ignore[union-attr]
        number = self.counts[kind] = self.counts.get(kind, 0) + 1
        ref = Ref(kind, self.step, number)
        if len(self.state.places) + len(self.changes) >= MOST_MADE:
            raise Broken(f"The drawing would have more than {MOST_MADE} objects. Draw fewer.")
        made = Feature(ref, shape, layer or self.layer, line or self.line, exact, None, self.group)
        if begins is not None and isinstance(shape, Round) and not shape.whole:
            back = distance(begins, shape.end) < distance(begins, shape.start)
            made = made._replace(back=back)
        self.changes.append(Change(ref, None, made))
        return ref

    def note(self, kind: str, says: Annotation, at: Point, *, layer: str | None = None) -> Ref:
        """Put a size, a note, lettering or hatching under the next name of its kind."""
        ref = self.add(Straight(at, at), kind=kind, layer=layer, nothing=True)
        self.changes[-1] = Change(ref, None, self.changes[-1].after._replace(says=says))  # type: ignore[union-attr]
        return ref

    def edge(self, a: XY, b: XY) -> Ref:
        """Draw an edge between two points. Raises Broken."""
        return self.add(edge_between(a, b), (a, b), kind="edge")

    def circle(self, center: XY, radius: Number) -> Ref:
        """Draw a circle."""
        return self.add(Round(plain(center), float(radius)), (center,))

    def next_group(self) -> Group:
        """Return the name of another outline of this step."""
        self.groups += 1
        return (self.step, self.groups)

    def copies(self, what: Iterable[Feature]) -> None:
        """Draw features under the next names of their kinds; what was one outline is one again."""
        groups: dict[Group, Group] = {}
        for f in what:
            ref = self.add(f.shape, f.exact, kind=f.ref.kind, nothing=f.says is not None)
            group = None if f.group is None else groups.get(f.group) or self.next_group()
            if f.group is not None and group is not None:
                groups[f.group] = group
            self.changes[-1] = Change(ref, None, f._replace(ref=ref, group=group))

    def replace(self, feature: Feature, shape: Curve, exact: tuple[XY, ...] = ()) -> None:
        """Give a feature another shape; it keeps its name."""
        self.changes.append(Change(feature.ref, feature, feature._replace(shape=shape, exact=exact)))

    def change(self, feature: Feature, after: Feature | None) -> None:
        """Change what stands under a name, or take it away."""
        self.changes.append(Change(feature.ref, feature, after))
