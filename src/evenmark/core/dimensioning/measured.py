"""What sizes can be measured between: the features of a key that count, and what lies at a point of it.

- *place*: what a size is measured from or to: a corner, meeting, centre or loose end (a point); the rim of
  something round, in the direction that is measured; a straight piece (a supporting line).

Of several features at one point the most telling is named: a circle's centre before the corner that happens
to lie there.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import (
    Point,
    direction_deg,
    direction_difference_deg,
    distance,
    in_sweep,
)
from evenmark.core.linework.borders import borders_of
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, End, Linework
from evenmark.core.linework.sharp import sharp_at

Floats = NDArray[np.float64]
_IN_FRONT: dict[Role, int] = {"outline": 0, "frame": 0, "hidden": 1, "section": 1, "centre": 2}
_NOT_MEASURED: frozenset[Role] = frozenset({"construction", "dimension", "lettering"})


class MeasuredPlace(NamedTuple):
    """What a size is measured from or to: a feature, and which part of it.

    ``part`` is empty for a point that the feature has (corner, meeting, centre), ``0`` or ``1`` for the loose
    end of an edge or arc, ``rim`` for the far side of something round, ``carrier`` for a straight piece,
    ``sharp`` for the corner that a fillet or a chamfer took away. ``sign`` says on which side of the centre
    the rim is, along the direction that is measured.
    """

    feature: str
    part: str = ""
    sign: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Measured:
    """The features of a key that sizes can be measured between, by kind, in the order in which they are
    named first: round things (circles before arcs, outlines before axes), edges, axes, and loose ends."""

    key: Linework
    roles: Mapping[str, Role]
    reach: float
    edges: tuple[Edge, ...] = ()
    rounds: tuple[ArcFeature | CircleFeature, ...] = ()
    axes: tuple[Edge, ...] = ()
    loose: tuple[tuple[End, Point], ...] = ()

    def role(self, layer: str) -> Role:
        """Return the role of a layer."""
        return role_of(dict(self.roles), layer)

    def place_at(self, p: Point, direction: float) -> MeasuredPlace | None:
        """Return what lies at a point, for a size that is measured in a direction (degrees); None where
        nothing does."""
        spot = self._spot_at(p)
        return spot or self._rim_at(p, direction) or self._line_at(p, direction) or self._sharp_at(p)

    def rounds_at(self, center: Point) -> list[ArcFeature | CircleFeature]:
        """Return what is round about a point."""
        return [self.rounds[n] for n, _, _ in self._near(center) if n < len(self.rounds)]

    # points

    def _sharp_at(self, p: Point) -> MeasuredPlace | None:
        """Return the corner that a fillet or a chamfer took away at a point."""
        return next(
            (MeasuredPlace(i, "sharp") for i, at in self._sharps if distance(at, p) <= self.reach), None
        )

    @cached_property
    def _sharps(self) -> list[tuple[str, Point]]:
        arcs = [c.id for c in self.rounds if isinstance(c, ArcFeature)]
        found = ((i, sharp_at(self.key, i)) for i in (*arcs, *(e.id for e in self.edges)))
        return [(i, sharp.at) for i, sharp in found if sharp is not None]

    @cached_property
    def _spots(self) -> dict[tuple[int, int], list[tuple[int, MeasuredPlace, Point]]]:
        """Every point that has a name, by cell, with its place in the order of naming."""
        named = [(MeasuredPlace(c.id), c.center) for c in self.rounds]
        named += [(MeasuredPlace(k.id), k.at) for k in self.key.meetings.values() if self._counts(k.ends)]
        named += [(MeasuredPlace(i, str(which)), at) for (i, which), at in self.loose]
        out: dict[tuple[int, int], list[tuple[int, MeasuredPlace, Point]]] = {}
        for n, (place, at) in enumerate(named):
            out.setdefault(self._cell(at), []).append((n, place, at))
        return out

    def _cell(self, p: Point) -> tuple[int, int]:
        return round(p[0] / (4 * self.reach)), round(p[1] / (4 * self.reach))

    def _near(self, p: Point) -> list[tuple[int, MeasuredPlace, Point]]:
        x, y = self._cell(p)
        found = [one for i in (-1, 0, 1) for j in (-1, 0, 1) for one in self._spots.get((x + i, y + j), ())]
        return sorted(one for one in found if distance(one[2], p) <= self.reach)

    def _spot_at(self, p: Point) -> MeasuredPlace | None:
        return next((place for _, place, _ in self._near(p)), None)

    def _counts(self, ends: tuple[End, ...]) -> bool:
        return any(self.role(self.key.curves[i].layer) not in _NOT_MEASURED for i, _ in ends)

    # round things and straight ones

    @cached_property
    def _circles(self) -> tuple[Floats, Floats]:
        return (
            np.array([c.center for c in self.rounds], np.float64).reshape(-1, 2),
            np.array([c.radius for c in self.rounds], np.float64),
        )

    def _rim_at(self, p: Point, direction: float) -> MeasuredPlace | None:
        centers, radii = self._circles
        ux, uy = math.cos(math.radians(direction)), math.sin(math.radians(direction))
        d = np.array(p) - centers
        along, aside = d[:, 0] * ux + d[:, 1] * uy, d[:, 0] * uy - d[:, 1] * ux
        on = (np.abs(np.abs(along) - radii) <= self.reach) & (aside * aside <= 2 * self.reach * radii)
        for n in np.nonzero(on)[0].tolist():
            c = self.rounds[n]
            turn = math.atan2(d[n, 1], d[n, 0])
            if isinstance(c, CircleFeature) or in_sweep(turn, c.start_rad, c.sweep_rad, tol.NEARLY_ENDED_RAD):
                return MeasuredPlace(c.id, "rim", math.copysign(1.0, along[n]))
        return None

    @cached_property
    def straight(self) -> tuple[Edge, ...]:
        """Edges, then axes."""
        return (*self.edges, *self.axes)

    @cached_property
    def _lines(self) -> tuple[Floats, Floats, Floats]:
        """Starts, directions and lengths of what is straight."""
        ends = np.array([e.ends for e in self.straight], np.float64).reshape(-1, 2, 2)
        along = ends[:, 1] - ends[:, 0]
        lengths = np.hypot(along[:, 0], along[:, 1])
        return ends[:, 0], along / np.maximum(lengths, tol.LEAST_SIZE)[:, None], lengths

    def beside(self, p: Point) -> tuple[Floats, Floats]:
        """Return how far a point lies beside the supporting line of each straight piece, and how far it lies
        past its ends (0 between them)."""
        starts, u, lengths = self._lines
        d = np.array(p) - starts
        along = d[:, 0] * u[:, 0] + d[:, 1] * u[:, 1]
        past = np.maximum(np.maximum(-along, along - lengths), 0.0)
        return np.abs(u[:, 0] * d[:, 1] - u[:, 1] * d[:, 0]), past

    def _line_at(self, p: Point, direction: float) -> MeasuredPlace | None:
        """Return a straight piece square to a direction: one that a point lies on; else the nearest whose
        supporting line it lies on, as where a corner was rounded off. Of an axis, what it is the axis of."""
        aside, past = self.beside(p)
        on = [
            n for n in np.nonzero(aside <= self.reach)[0].tolist() if square_to(self.straight[n], direction)
        ]
        best = min(on, key=lambda n: (past[n] if past[n] > self.reach else 0.0, n), default=None)
        if best is None:
            return None
        centre = self._centre_on(best) if best >= len(self.edges) else None
        return centre or MeasuredPlace(self.straight[best].id, "carrier")

    def _centre_on(self, n: int) -> MeasuredPlace | None:
        """Return the first of the round things that an axis is the axis of: a size that ends on the axis
        measures to their centre."""
        start, u, length = (part[n] for part in self._lines)
        d = self._circles[0] - start
        along, aside = d[:, 0] * u[0] + d[:, 1] * u[1], np.abs(u[0] * d[:, 1] - u[1] * d[:, 0])
        on = np.nonzero((aside <= self.reach) & (along >= -self.reach) & (along <= length + self.reach))[0]
        return MeasuredPlace(self.rounds[int(on[0])].id) if len(on) else None

    def level_with(self, p: Point, direction: float) -> MeasuredPlace | None:
        """Return the edge that a point is level with across a direction: an origin beside the part stands for
        it."""
        aside, past = self.beside(p)
        on = [
            n
            for n in np.nonzero(aside <= self.reach)[0].tolist()
            if n < len(self.edges) and square_to(self.straight[n], direction)
        ]
        best = min(on, key=lambda n: (past[n], n), default=None)
        return None if best is None else MeasuredPlace(self.straight[best].id, "carrier")


def measured(key: Linework, roles: Mapping[str, Role], reach: float) -> Measured:
    """Return what sizes of a key can be measured between; construction,
    lettering, the border and the title block never."""
    known = dict(roles)
    role = {f.id: role_of(known, f.layer) for f in key.curves.values()}
    bordered = borders_of(key, known, reach)
    seen = [f for i, f in key.curves.items() if role[i] not in _NOT_MEASURED and i not in bordered]
    edges = [f for f in seen if isinstance(f, Edge) and role[f.id] != "centre"]
    rounds = sorted(
        (f for f in seen if isinstance(f, ArcFeature | CircleFeature)),
        key=lambda f: (isinstance(f, ArcFeature), _IN_FRONT[role[f.id]]),
    )
    joined = {end for joint in key.meetings.values() for end in joint.ends}
    loose = [
        ((f.id, which), p)
        for f in seen
        if isinstance(f, Edge | ArcFeature) and role[f.id] != "centre"
        for which, p in enumerate(f.ends)
        if (f.id, which) not in joined
    ]
    axes = [f for f in seen if isinstance(f, Edge) and role[f.id] == "centre"]
    return Measured(
        key=key,
        roles=roles,
        reach=reach,
        edges=tuple(edges),
        rounds=tuple(rounds),
        axes=tuple(axes),
        loose=tuple(loose),
    )


def ends_at(place: MeasuredPlace, key: Linework) -> tuple[End, ...]:
    """Return the ends of curves that a place is; none where it is no corner, meeting or loose end."""
    if place.feature[0] in "kt":
        return key.meetings[place.feature].ends
    return ((place.feature, int(place.part)),) if place.part in ("0", "1") else ()


def point_of(place: MeasuredPlace, direction: float, key: Linework) -> Point:
    """Return a point of a place from which a distance in a direction can be measured."""
    f = key.by_id[place.feature]
    if place.part == "sharp" and (sharp := sharp_at(key, place.feature)) is not None:
        return sharp.at
    if isinstance(f, Edge | ArcFeature) and place.part in ("carrier", "0", "1"):
        return f.ends[int(place.part) if place.part != "carrier" else 0]
    if isinstance(f, ArcFeature | CircleFeature):
        reach = place.sign * f.radius if place.part == "rim" else 0.0
        turn = math.radians(direction)
        return (f.center[0] + reach * math.cos(turn), f.center[1] + reach * math.sin(turn))
    return f.at


def exact_turn(turn_deg: float) -> float:
    """Return a direction in [0, 180) with level and plumb exact."""
    turn = turn_deg % 180.0
    for right in (0.0, 90.0, 180.0):
        if abs(turn - right) <= tol.TURN_DEG:
            return right % 180.0
    return turn


def square_to(e: Edge, direction: float) -> bool:
    """Say whether an edge is square to a direction in degrees."""
    return abs(direction_difference_deg(direction_deg(*e.ends), direction)) >= 90.0 - tol.TURN_DEG
