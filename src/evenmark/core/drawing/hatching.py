"""Pictures of hatching: the lines that fill a region, cut exactly where they meet its boundary.

Lines of one angle and gap are those of one family through the origin, so that the hatching of neighbouring
pieces of one part goes on from one to the other.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable

from evenmark.core.drawing.annotations import Hatch, Vertex
from evenmark.core.drawing.model import Line
from evenmark.core.geometry import arcs
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.crossings import crossings, how_far
from evenmark.core.geometry.deterministic import cos_sin
from evenmark.core.geometry.lines import Straight, beside
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.regions import box_round

USUAL_LINES = 40
"""Lines across a region where its pattern does not say how far they are apart, or they would be too many: it
shows that it is filled, and not with what."""
MOST_LINES = 4000
"""Of a whole drawing; regions beyond them stay empty."""


def pieces_of(loop: tuple[Vertex, ...]) -> list[Curve]:
    """Return a boundary as straight and round pieces."""
    out: list[Curve] = []
    for v, w in zip(loop, (*loop[1:], loop[0]), strict=True):
        if v.at == w.at:
            continue
        bends = abs(v.bulge) > tol.SLACK_SHARE  # less than that is not seen, and its radius has no end
        out.append(Round(*arcs.from_bulge(v.at, w.at, v.bulge)) if bends else Straight(v.at, w.at))
    return out


def picture_of_hatches(hatches: Iterable[Hatch]) -> list[Line]:
    """Return the lines of hatching; what is filled solid has lines, too, as far apart as where nothing is
    known of them."""
    out: list[Line] = []
    for hatch in hatches:
        for a, b in strokes(hatch, MOST_LINES - len(out)):
            out.append(Line(a, b, hatch.layer, hatch.style, hatch.source))
    return out


def strokes(hatch: Hatch, most: int = MOST_LINES) -> list[tuple[Point, Point]]:
    """Return the lines that fill a region: inside an odd number of its loops."""
    pieces = [c for loop in hatch.loops for c in pieces_of(loop)]
    turn = math.radians(hatch.angle_deg)
    quarter = {0.0: (1.0, 0.0), 90.0: (0.0, 1.0)}.get(hatch.angle_deg % 180.0)
    u = quarter or cos_sin(turn)
    spans = [_across(c, u) for c in pieces]
    if not spans:
        return []
    low, high = min(s[0] for s in spans), max(s[1] for s in spans)
    gap = hatch.gap
    if not gap > 0.0 or (high - low) / gap > most:
        gap = (high - low) / USUAL_LINES
        if most < USUAL_LINES:
            return []
    if not gap > 0.0 or not math.isfinite(low / gap):
        return []
    out: list[tuple[Point, Point]] = []
    k = math.ceil(low / gap)
    while k * gap <= high:
        out += _cut(pieces, spans, u, k * gap)
        k += 1
    return out


def _across(c: Curve, u: Point) -> tuple[float, float]:
    """Return from where to where a piece reaches square to a direction."""
    if isinstance(c, Round):
        off = c.center[1] * u[0] - c.center[0] * u[1]
        return (off - c.radius, off + c.radius)
    offs = [p[1] * u[0] - p[0] * u[1] for p in c]
    return (min(offs), max(offs))


def _cut(
    pieces: list[Curve], spans: list[tuple[float, float]], u: Point, off: float
) -> list[tuple[Point, Point]]:
    """Return the parts of one line that lie inside: between each odd and the next crossing. Where the line
    passes a corner it is moved aside by nothing that can be seen."""
    near = [c for c, (low, high) in zip(pieces, spans, strict=True) if low <= off <= high]
    if not near:
        return []
    boxes = [box_round(c) for c in near]
    reach = max(max(map(abs, box)) for box in boxes) + 1.0
    spare = reach * tol.WELD_SHARE
    tries: list[list[float]] = []
    for aside in (0.0, spare, -spare):
        at = off + aside
        base, far = (-u[1] * at, u[0] * at), 4.0 * reach
        line = Straight(beside(base, u, -far), beside(base, u, far))
        found = sorted(how_far(p, line) for c in near for p in crossings(line, c))
        if len(found) % 2 == 0 and all(b - a > spare for a, b in itertools.pairwise(found)):
            tries.append(found)
            if aside == 0.0:
                break
    if not tries:
        return []
    found = min(tries, key=len)  # where it only touches, nothing
    start = beside((-u[1] * off, u[0] * off), u, -4.0 * reach)
    points = [beside(start, u, d) for d in found]
    return list(itertools.pairwise(points))[::2]
