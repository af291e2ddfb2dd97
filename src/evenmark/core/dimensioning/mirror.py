"""A centre line as a mirror: what is alike on both its sides."""

from __future__ import annotations

from collections.abc import Sequence

from evenmark.core.geometry.lines import along_supporting_line
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge


class MirrorAxis:
    """A centre line as a mirror."""

    def __init__(self, axis: Edge, reach: float) -> None:
        self.axis, self.reach = axis, reach
        length = axis.length
        self.u = ((axis.end[0] - axis.start[0]) / length, (axis.end[1] - axis.start[1]) / length)

    def of(self, p: Point) -> Point:
        """Return the image of a point."""
        (ux, uy), (ox, oy) = self.u, self.axis.start
        x, y = p[0] - ox, p[1] - oy
        t = x * ux + y * uy
        return (ox + 2 * t * ux - x, oy + 2 * t * uy - y)

    def side(self, p: Point) -> float:
        """Return how far a point lies to the left of the axis."""
        (ux, uy), (ox, oy) = self.u, self.axis.start
        return ux * (p[1] - oy) - uy * (p[0] - ox)

    def runs_through(self, points: Sequence[Point]) -> bool:
        """Say whether the axis runs past a set of points at both ends, with points on both its sides."""
        if not points:
            return False
        along = [along_supporting_line(p, self.axis.start, self.axis.end) for p in points]
        sides = [self.side(p) for p in points]
        return (
            min(along) >= -self.reach
            and max(along) <= self.axis.length + self.reach
            and min(sides) < -self.reach
            and max(sides) > self.reach
        )

    def runs_along(self, e: Edge) -> bool:
        """Say whether the axis is drawn beside an edge, in its direction and for all its length."""
        turn = direction_difference_deg(direction_deg(*self.axis.ends), direction_deg(*e.ends))
        along = [along_supporting_line(p, self.axis.start, self.axis.end) for p in e.ends]
        return abs(turn) <= 1.0 and min(along) >= -self.reach and max(along) <= self.axis.length + self.reach

    def pairs(self, points: Sequence[Point], radii: Sequence[float] = ()) -> list[tuple[int, int]] | None:
        """Return which points are each other's images, each with itself where it lies on the axis; None where
        one has none."""
        out = []
        for i, p in enumerate(points):
            image = self.of(p)
            j = next(
                (
                    n
                    for n, q in enumerate(points)
                    if distance(q, image) <= self.reach
                    and (not radii or abs(radii[n] - radii[i]) <= self.reach)
                ),
                None,
            )
            if j is None:
                return None
            if i <= j:
                out.append((i, j))
        return out

    def some_pairs(self, circles: Sequence[CircleFeature]) -> list[tuple[int, int]]:
        """Return which circles off the axis are each other's images."""
        out = []
        for i, c in enumerate(circles):
            if self.side(c.center) <= self.reach:
                continue
            image = self.of(c.center)
            out += [
                (i, j)
                for j, d in enumerate(circles)
                if distance(d.center, image) <= self.reach and abs(d.radius - c.radius) <= self.reach
            ][:1]
        return out

    def runs_beside(self, f: Edge | ArcFeature | CircleFeature) -> bool:
        """Say whether the axis is drawn for all the length that a piece has along it; of something round, as
        far as its centre."""
        points = f.ends if isinstance(f, Edge) else (f.center,)
        along = [along_supporting_line(p, self.axis.start, self.axis.end) for p in points]
        return min(along) >= -self.reach and max(along) <= self.axis.length + self.reach

    def are_images(self, f: Edge | ArcFeature | CircleFeature, g: Edge | ArcFeature | CircleFeature) -> bool:
        """Say whether two pieces are each other's images."""
        if isinstance(f, Edge) and isinstance(g, Edge):
            return self.images(f, g)
        if isinstance(f, Edge) or isinstance(g, Edge) or type(f) is not type(g):
            return False
        if isinstance(f, ArcFeature) and isinstance(g, ArcFeature):
            ends = ((f.start, g.end), (f.end, g.start))
            if any(distance(self.of(p), q) > self.reach for p, q in ends):
                return False
        return distance(self.of(f.center), g.center) <= self.reach and abs(f.radius - g.radius) <= self.reach

    def images(self, a: Edge, b: Edge) -> bool:
        """Say whether two edges are each other's images."""
        p, q = self.of(a.start), self.of(a.end)
        return (
            min(max(distance(p, b.start), distance(q, b.end)), max(distance(p, b.end), distance(q, b.start)))
            <= self.reach
        )
