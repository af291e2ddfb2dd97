"""The paths of a scene, taken apart again into lines and arcs: for sheets and files that are drawn from what
was stored."""

from __future__ import annotations

import math
from typing import NamedTuple

from svgelements import Arc as SvgArc
from svgelements import Close, Move, Path

from evenmark.core.geometry.points import Point


class Piece(NamedTuple):
    """A line from ``start`` to ``end``, or with a ``radius`` an arc through ``via`` half way along; in scene
    coordinates, y down."""

    start: Point
    end: Point
    via: Point
    radius: float = 0.0
    center: Point = (0.0, 0.0)


def pieces(path: str) -> list[Piece]:
    """Return the lines and arcs of a path as `scene` writes it, in their order.

    >>> [p.radius for p in pieces("M0 0L10 0")], len(pieces("M10 0A5 5 0 1 0 0 0A5 5 0 1 0 10 0Z"))
    ([0.0], 2)
    """
    out = []
    for part in Path(path):
        if isinstance(part, Move) or part.start is None:
            continue
        a, b = (part.start.x, part.start.y), (part.end.x, part.end.y)
        if isinstance(part, SvgArc):
            middle = part.point(0.5)
            center = (part.center.x, part.center.y)
            out.append(Piece(start=a, end=b, via=(middle.x, middle.y), radius=float(part.rx), center=center))
        elif not (isinstance(part, Close) and math.dist(a, b) == 0.0):
            out.append(Piece(start=a, end=b, via=((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)))
    return out
