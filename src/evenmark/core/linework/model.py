"""Linework: the canonical geometry of a drawing, as features that can be checked.

- *edge*: a maximal straight piece. *arc*: a maximal round piece that is not a whole *circle*.
- *end*: one of the two ends of an edge or arc, named by feature id and 0 (start) or 1 (end).
- *corner*: two or more ends within weld. *tee*: ends at one place on another feature's interior.
- *outline*: a closed chain of edges and arcs of one layer in which just two ends meet at each corner.
- *free*: a curve that is neither straight nor round. *endless*: a construction line without an end.
- *text*: lettering. *note*: lettering with a leader. *dimension*, *hatch*: as drawn, in the linework's unit.

Ids are a letter and a number (e1, a1, c1, f1, r1, k1, t1, o1, x1, n1, d1, h1) counted in the order of sorted
geometry, so that they do not depend on the order of drawing. Lengths are in the linework's unit.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import NamedTuple

from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.geometry.points import Box, Point, distance, middle, point_on

End = tuple[str, int]
"""A feature id, and 0 for its start or 1 for its end."""


class Edge(NamedTuple):
    """A maximal straight piece; start and end are in sorted order and say nothing about how it was drawn."""

    id: str
    start: Point
    end: Point
    layer: str
    style: Style
    sources: tuple[str, ...]

    @property
    def length(self) -> float:
        """Distance of the ends."""
        return distance(self.start, self.end)

    @property
    def size(self) -> float:
        """How large it is, for deciding whether something drawn could be meant as it."""
        return self.length

    @property
    def at(self) -> Point:
        """Where a balloon points."""
        return middle(self.start, self.end)

    @property
    def ends(self) -> tuple[Point, Point]:
        """Start and end."""
        return (self.start, self.end)


class ArcFeature(NamedTuple):
    """A maximal round piece, counter-clockwise."""

    id: str
    center: Point
    radius: float
    start_rad: float
    sweep_rad: float
    layer: str
    style: Style
    sources: tuple[str, ...]

    @property
    def start(self) -> Point:
        """Where the sweep begins."""
        return point_on(self.center, self.radius, self.start_rad)

    @property
    def end(self) -> Point:
        """Where the sweep ends."""
        return point_on(self.center, self.radius, self.start_rad + self.sweep_rad)

    @property
    def size(self) -> float:
        """The diameter."""
        return 2 * self.radius

    @property
    def at(self) -> Point:
        """Half way along."""
        return point_on(self.center, self.radius, self.start_rad + self.sweep_rad / 2)

    @property
    def ends(self) -> tuple[Point, Point]:
        """Start and end."""
        return (self.start, self.end)


class CircleFeature(NamedTuple):
    """A whole circle."""

    id: str
    center: Point
    radius: float
    layer: str
    style: Style
    sources: tuple[str, ...]

    @property
    def size(self) -> float:
        """The diameter."""
        return 2 * self.radius

    @property
    def at(self) -> Point:
        """The centre."""
        return self.center


class Corner(NamedTuple):
    """Ends that meet."""

    id: str
    at: Point
    ends: tuple[End, ...]


class Tee(NamedTuple):
    """Ends at one place on the interior of another feature."""

    id: str
    at: Point
    ends: tuple[End, ...]
    on: str


class Outline(NamedTuple):
    """A closed chain, counter-clockwise from its first corner; each member with whether it runs from its end
    to its start."""

    id: str
    at: Point
    members: tuple[tuple[str, bool], ...]
    corners: tuple[str, ...]
    layer: str


class TextFeature(NamedTuple):
    """Lettering."""

    id: str
    wording: str
    at: Point
    anchor: str
    height: float
    turn_deg: float
    layer: str
    style: Style
    sources: tuple[str, ...]

    @property
    def size(self) -> float:
        """The height."""
        return self.height


class Free(NamedTuple):
    """A free curve through points that lie on it; closed when the first is the last."""

    id: str
    points: tuple[Point, ...]
    kind: str
    layer: str
    style: Style
    sources: tuple[str, ...]

    @property
    def start(self) -> Point:
        """The first point."""
        return self.points[0]

    @property
    def end(self) -> Point:
        """The last point."""
        return self.points[-1]

    @property
    def ends(self) -> tuple[Point, Point]:
        """Start and end."""
        return (self.points[0], self.points[-1])

    @property
    def closed(self) -> bool:
        """Whether it comes back to its start."""
        return self.points[0] == self.points[-1]

    @property
    def size(self) -> float:
        """The longer side of its box."""
        xs, ys = zip(*self.points, strict=True)
        return float(max(max(xs) - min(xs), max(ys) - min(ys)))

    @property
    def at(self) -> Point:
        """A point half way along by count."""
        return self.points[len(self.points) // 2]


class EndlessFeature(NamedTuple):
    """A construction line through two points, without an end; a ray begins at the first."""

    id: str
    at: Point
    toward: Point
    ray: bool
    layer: str
    style: Style
    sources: tuple[str, ...]


class NoteFeature(NamedTuple):
    """A leader with its tip and the wording at its other end."""

    id: str
    tip: Point
    wording: str
    at: Point
    height: float
    layer: str
    style: Style
    sources: tuple[str, ...]


class HatchFeature(NamedTuple):
    """A filled region: boundary loops, its area (holes taken off), and the centre of its box."""

    id: str
    loops: tuple[tuple[Point, ...], ...]
    area: float
    at: Point
    pattern: str
    layer: str
    style: Style
    sources: tuple[str, ...]

    @property
    def size(self) -> float:
        """The longer side of its box."""
        xs, ys = zip(*(p for loop in self.loops for p in loop), strict=True)
        return float(max(max(xs) - min(xs), max(ys) - min(ys)))


Curve = Edge | ArcFeature | CircleFeature | Free
Feature = Edge | ArcFeature | CircleFeature | Free | TextFeature | Dimension | NoteFeature | HatchFeature
AnyFeature = Feature | EndlessFeature | Corner | Tee | Outline


@dataclass(frozen=True, kw_only=True, slots=True)
class View:
    """One view of a key: its id (v1, v2, ...), a name, and the box in key units in which its features lie."""

    id: str
    name: str
    box: Box


class Clutter(NamedTuple):
    """Something that simplifying found and took out: its code (drawn-twice, debris), place, layer and where
    it came from."""

    code: str
    at: Point
    layer: str
    sources: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Linework:
    """All features of one drawing."""

    edges: tuple[Edge, ...] = ()
    arcs: tuple[ArcFeature, ...] = ()
    circles: tuple[CircleFeature, ...] = ()
    corners: tuple[Corner, ...] = ()
    tees: tuple[Tee, ...] = ()
    outlines: tuple[Outline, ...] = ()
    texts: tuple[TextFeature, ...] = ()
    frees: tuple[Free, ...] = ()
    endless: tuple[EndlessFeature, ...] = ()
    dimensions: tuple[Dimension, ...] = ()
    notes: tuple[NoteFeature, ...] = ()
    hatches: tuple[HatchFeature, ...] = ()
    clutter: tuple[Clutter, ...] = ()
    layers: dict[str, Layer] = field(default_factory=dict)
    weld: float = 0.0
    box: Box | None = None
    names: Mapping[str, str] = field(default_factory=dict)
    """What its features are called, by id (see `naming`); empty where nobody asked."""

    @cached_property
    def by_id(self) -> dict[str, AnyFeature]:
        """Every feature by its id."""
        groups = (
            self.edges,
            self.arcs,
            self.circles,
            self.texts,
            self.corners,
            self.tees,
            self.outlines,
            self.frees,
            self.endless,
            self.dimensions,
            self.notes,
            self.hatches,
        )
        return {feature.id: feature for group in groups for feature in group}

    @cached_property
    def curves(self) -> dict[str, Curve]:
        """Everything that is drawn as a line: edges, arcs, circles and free curves by id."""
        return {f.id: f for group in (self.edges, self.arcs, self.circles, self.frees) for f in group}

    def curves_of(self, features: Sequence[str]) -> list[str]:
        """Return the curves that features are made of: of corners and meetings those that end there, of
        outlines their members."""
        out: list[str] = []
        for i in features:
            feature = self.by_id.get(i)
            if isinstance(feature, Corner | Tee):
                out += [e for e, _ in feature.ends]
                if isinstance(feature, Tee):
                    out.append(feature.on)
            elif isinstance(feature, Outline):
                out += [m for m, _ in feature.members]
            else:
                out.append(i)
        return out

    def feature(self, i: str) -> AnyFeature:
        """Return a feature by its id. Of what was drawn hardly anybody asks for corners and outlines, and a
        table of everything is large."""
        return self.curves.get(i) or self._lettered.get(i) or self.by_id[i]

    @cached_property
    def _lettered(self) -> dict[str, AnyFeature]:
        lettered: list[Feature] = [*self.texts, *self.dimensions, *self.notes, *self.hatches]
        return {f.id: f for f in lettered}

    @cached_property
    def rounds(self) -> tuple[ArcFeature | CircleFeature, ...]:
        """Everything round: circles, then arcs."""
        return (*self.circles, *self.arcs)

    @property
    def drawn(self) -> tuple[Feature, ...]:
        """Everything that stands on a layer, but for construction lines without an end."""
        return (
            *self.edges,
            *self.arcs,
            *self.circles,
            *self.texts,
            *self.frees,
            *self.dimensions,
            *self.notes,
            *self.hatches,
        )

    @cached_property
    def meetings(self) -> dict[str, Corner | Tee]:
        """Corners and tees by their ids."""
        found: list[Corner | Tee] = [*self.corners, *self.tees]
        return {joint.id: joint for joint in found}

    @cached_property
    def corner_of(self) -> dict[End, Corner]:
        """The corner that an end belongs to."""
        return {end: corner for corner in self.corners for end in corner.ends}

    @cached_property
    def outlines_at(self) -> dict[str, tuple[Outline, ...]]:
        """The outlines that pass a corner, by the corner's id."""
        found: dict[str, tuple[Outline, ...]] = {}
        for outline in self.outlines:
            for corner in outline.corners:
                found[corner] = (*found.get(corner, ()), outline)
        return found

    @cached_property
    def pieces(self) -> tuple[tuple[str, ...], ...]:
        """What hangs together by corners and meetings: curves by piece, in sorted order; one that touches
        nothing is in none."""
        root: dict[str, str] = {}

        def find(i: str) -> str:
            while root.setdefault(i, i) != i:
                root[i] = root[root[i]]
                i = root[i]
            return i

        for joint in self.meetings.values():
            first, *rest = [i for i, _ in joint.ends]
            for i in (*rest, *((joint.on,) if isinstance(joint, Tee) else ())):
                root[find(i)] = find(first)
        groups: dict[str, list[str]] = {}
        for i in root:
            groups.setdefault(find(i), []).append(i)
        return tuple(tuple(sorted(g)) for g in groups.values())

    @cached_property
    def piece_of(self) -> dict[str, int]:
        """Which of the pieces a curve, corner, meeting or outline belongs to."""
        out = {i: n for n, piece in enumerate(self.pieces) for i in piece}
        rest = [(k.id, k.ends[0][0]) for k in self.meetings.values()]
        rest += [(o.id, o.members[0][0]) for o in self.outlines]
        return out | {i: out[curve] for i, curve in rest if curve in out}

    @cached_property
    def joints_at(self) -> dict[str, tuple[str, ...]]:
        """The corners and meetings at which a curve ends, by the curve's id."""
        found: dict[str, dict[str, None]] = {}
        for joint in self.meetings.values():
            for i, _ in joint.ends:
                found.setdefault(i, {})[joint.id] = None
        return {i: tuple(ids) for i, ids in found.items()}

    @cached_property
    def open_chains(self) -> tuple[tuple[tuple[str, bool], ...], ...]:
        """Chains of two or more edges, arcs and free curves of one layer that do not come back to where they
        began.

        Members as in outlines: each with whether it is run through from its end to its start.
        """
        inside = {m for o in self.outlines for m, _ in o.members}
        rest = [i for i in self.curves if i[0] != "c" and i not in inside]
        seen: set[str] = set()
        out = []
        for f in rest:
            if f in seen:
                continue
            back = self.walk(f, 0)
            chain = (*((i, not b) for i, b in reversed(back)), (f, False), *self.walk(f, 1))
            seen.update(i for i, _ in chain)
            if len(chain) > 1 and len({i for i, _ in chain}) == len(chain):
                out.append(chain)
        return tuple(out)

    def walk(self, feature: str, leave: int, avoid: Collection[str] = ()) -> list[tuple[str, bool]]:
        """Go on from one end of a feature through corners at which just two ends of its layer meet, until
        there is none or the feature itself is met again."""
        layer = self.curves[feature].layer
        out: list[tuple[str, bool]] = []
        end: End = (feature, leave)
        for _ in range(len(self.edges) + len(self.arcs) + len(self.frees)):
            corner = self.corner_of.get(end)
            ends = [e for e in corner.ends if self.curves[e[0]].layer == layer] if corner else []
            if len(ends) != 2:
                break
            other = ends[0] if ends[1] == end else ends[1]
            if other[0] == feature or other[0] in avoid:
                break
            out.append((other[0], other[1] == 1))
            end = (other[0], 1 - other[1])
        return out

    @property
    def largest(self) -> float:
        """The largest coordinate, for the slack of comparisons."""
        return max((abs(v) for v in self.box), default=0.0) if self.box else 0.0

    @property
    def extent(self) -> float:
        """The longer side of the box."""
        return max(self.box[2] - self.box[0], self.box[3] - self.box[1]) if self.box else 0.0

    def with_(self, **changes: object) -> Linework:
        """Return a copy with some fields changed."""
        return replace(self, **changes)  # type: ignore[arg-type]


def end_point(curve: Edge | ArcFeature | Free, which: int) -> Point:
    """Return the start (0) or end (1) of an edge or arc."""
    return curve.end if which else curve.start
