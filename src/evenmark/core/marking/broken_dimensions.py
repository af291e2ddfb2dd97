"""Dimensions that an export left behind as lines and figures: they are recognised as what they were,
and not charged as things that nobody asked for.

- *figure*: lettering that says a number. *Extension lines*: straight pieces square on the dimension line, as
  far apart as the figure says; there are two. *Strokes* of arrows begin where these meet the dimension line.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import Edge, Linework, TextFeature

MOST_FIGURES, MOST_LINES = 100, 1000
"""Where more is left over, nothing is looked for."""
BESIDE_HEIGHTS = 3.0
"""A figure stands no farther from its line than this many of its own heights."""
_NUMBER = re.compile(r"(?:\d+ ?[x×] ?)?[ØR⌀]?\s*(\d+(?:[.,]\d+)?)")


class _Stop(NamedTuple):
    """Where an extension line meets a dimension line: how far along it, the place, and its id."""

    along: float
    at: Point
    line: str


def parts_of_dimensions(
    drawn: Linework, edges: Iterable[str], texts: Iterable[str], reach: float
) -> set[str]:
    """Return, of edges and lettering that nobody asked for, those that are parts of dimensions."""
    figures = [t for i in texts if isinstance(t := drawn.feature(i), TextFeature)]
    lines = [e for i in edges if isinstance(e := drawn.curves.get(i), Edge)]
    out: set[str] = set()
    if not 0 < len(figures) <= MOST_FIGURES or len(lines) > MOST_LINES:
        return out
    for t in figures:
        found = _NUMBER.fullmatch(t.wording.strip())
        if found is not None:
            out |= _parts_of(t, float(found.group(1).replace(",", ".")), lines, reach)
    return out


def _parts_of(t: TextFeature, value: float, lines: Sequence[Edge], reach: float) -> set[str]:
    """Return a figure with all that makes up its dimension; nothing where there is no dimension line."""
    exact = reach + tol.TYPED_LEAST * max(1.0, value)
    for e in lines:
        if distance_to_supporting_line(t.at, *e.ends) > BESIDE_HEIGHTS * t.height:
            continue
        stops = _stops(e, lines, t.height)
        for n, a in enumerate(stops):
            b = next((s for s in stops[n + 1 :] if abs(s.along - a.along - value) <= exact), None)
            middle = along_supporting_line(t.at, *e.ends)
            if b is None or not a.along - 2 * t.height <= middle <= b.along + 2 * t.height:
                continue
            return {t.id, a.line, b.line, *_between(e, a, b, lines, t.height, reach)}
    return set()


def _stops(e: Edge, lines: Sequence[Edge], height: float) -> list[_Stop]:
    """Return where other pieces stand square on the line of one, in order along it."""
    out = []
    (ax, ay), length = e.start, e.length
    ux, uy = (e.end[0] - ax) / length, (e.end[1] - ay) / length
    for f in lines:
        (px, py), (qx, qy) = f.ends
        if f.id == e.id or abs(ux * (qx - px) + uy * (qy - py)) > tol.ALIGNED_RAD * f.length:
            continue
        along = along_supporting_line(f.start, *e.ends)
        at = (ax + ux * along, ay + uy * along)
        if min(distance(at, f.start), distance(at, f.end)) <= height or _passes(f, at):
            out.append(_Stop(along, at, f.id))
    return sorted(out)


def _passes(f: Edge, p: Point) -> bool:
    return distance(f.start, p) + distance(p, f.end) <= f.length * (1 + tol.TYPED_LEAST)


def _between(
    e: Edge, a: _Stop, b: _Stop, lines: Sequence[Edge], height: float, reach: float
) -> Iterable[str]:
    """Yield the pieces of a dimension line between two stops, and the strokes of its arrows."""
    for f in lines:
        first, last = sorted(along_supporting_line(p, *e.ends) for p in f.ends)
        in_line = max(distance_to_supporting_line(p, *e.ends) for p in f.ends) <= reach
        piece = in_line and last > a.along - reach and first < b.along + reach
        stroke = f.length <= 4 * height and (_passes(f, a.at) or _passes(f, b.at))
        if piece or stroke:
            yield f.id
