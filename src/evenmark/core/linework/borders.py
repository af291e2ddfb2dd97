"""The border of a sheet, with its title block, told from the part that is drawn inside.

By its layer's role where the layer says so. Else by its look: a rectangle round everything else that
*frames* it: no dimension ends on it and the figures of all stand inside, or lettering stands in cells that
lines make along its sides. A plate with holes is a rectangle round everything, too: its dimensions end on it.
A sheet may have a line for the paper's edge round its border.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.geometry.points import Box, Point, box_of, distance
from evenmark.core.linework.apart import box_of_curve
from evenmark.core.linework.model import Curve, Edge, Linework, TextFeature

MOST_BORDERS = 3
"""The paper's edge, a border, and one more."""
MOST_FEATURES = 20_000
_PART: tuple[Role, ...] = ("outline", "hidden", "section")
_DRAWN: tuple[Role, ...] = ("outline", "hidden", "frame", "section", "centre")


def borders_of(key: Linework, roles: Mapping[str, Role], reach: float) -> frozenset[str]:
    """Return the curves of a drawing that are its border and title block."""
    known = dict(roles)
    own = {i for i, f in key.curves.items() if role_of(known, f.layer) == "frame"}
    if own and _is_the_part(own, key, known, reach):
        return frozenset()
    if len(key.edges) < 4 or len(key.curves) > MOST_FEATURES:
        return frozenset(own)
    left = {i: f for i, f in key.curves.items() if i not in own and role_of(known, f.layer) in _DRAWN}
    boxes = {i: box_of_curve(f) for i, f in left.items()}
    for _ in range(MOST_BORDERS):
        found = _border(key, left, boxes, reach)
        if not found:
            break
        own |= found
        left = {i: f for i, f in left.items() if i not in found}
    return frozenset(own)


def _is_the_part(own: set[str], key: Linework, roles: dict[str, Role], reach: float) -> bool:
    """Say whether a border is what the drawing is about: a dimension ends on it, or there is nothing else."""
    others = (f for i, f in key.curves.items() if i not in own)
    if not any(role_of(roles, f.layer) in _PART for f in others):
        return True
    ends = [p for i in own if isinstance(f := key.curves[i], Edge) for p in f.ends]
    said = [p for d in key.dimensions for p in d.points]
    return any(distance(p, q) <= reach for p in said for q in ends)


def _border(key: Linework, left: Mapping[str, Curve], boxes: Mapping[str, Box], reach: float) -> set[str]:
    """Return the outermost rectangle with what hangs on it and stands along its sides, where it frames what
    is left."""
    if len(left) < 5:
        return set()
    box = _round([boxes[i] for i in left])
    sides = [i for i, f in left.items() if isinstance(f, Edge) and _side(f, box, reach) is not None]
    if {_side(f, box, reach) for i in sides if isinstance(f := left[i], Edge)} != {0, 1, 2, 3}:
        return set()
    if not all(_covered(n, sides, left, box, reach) for n in range(4)):
        return set()
    hung = _hung(sides, key) & left.keys()
    if any(not isinstance(left[i], Edge) for i in hung):
        return set()
    inside = left.keys() - hung
    ends_on = any(_on(p, box, reach) for d in key.dimensions for p in d.points)
    if ends_on or not inside:
        return set()
    within = _round([boxes[i] for i in inside])
    strip = [t for t in key.texts if _in(t.at, box) and not _in(t.at, within)]
    lines = hung - set(sides)
    said_inside = all(_in(d.at, box) for d in key.dimensions) and _said_of_edges(key, left, inside, reach)
    return hung if said_inside or (lines and _in_cells(strip, [left[i] for i in lines], box)) else set()


def _said_of_edges(key: Linework, left: Mapping[str, Curve], inside: Iterable[str], reach: float) -> bool:
    """Say whether a dimension ends at an edge of what stands inside: of a part, not of holes in a plate."""
    edges = [f for i in inside if isinstance(f := left[i], Edge)]
    linear = [p for d in key.dimensions if d.kind in ("linear", "ordinate") for p in d.points]
    return any(distance(p, q) <= reach for e in edges for q in e.ends for p in linear)


def _in_cells(texts: Iterable[TextFeature], lines: Iterable[Curve], box: Box) -> bool:
    """Say whether lettering stands between a line that hangs on the border and one of its sides."""
    for t in texts:
        for f in lines:
            if not isinstance(f, Edge):
                continue
            (ax, ay), (bx, by) = sorted(f.ends)
            if ax <= t.at[0] <= bx and abs(ay - by) <= abs(bx - ax) and box[1] <= t.at[1] <= max(ay, by):
                return True
    return False


def _side(e: Edge, box: Box, reach: float) -> int | None:
    """Return on which side of a box an edge lies: left, below, right, above; None where on none."""
    for n, level in enumerate(box):
        axis = n % 2
        if max(abs(p[axis] - level) for p in e.ends) <= reach:
            return n
    return None


def _covered(side: int, sides: Iterable[str], left: Mapping[str, Curve], box: Box, reach: float) -> bool:
    """Say whether edges cover all of a side of a box."""
    along = 1 - side % 2
    spans = sorted(
        (min(f.start[along], f.end[along]), max(f.start[along], f.end[along]))
        for i in sides
        if isinstance(f := left[i], Edge) and _side(f, box, reach) == side
    )
    at = box[along]
    for low, high in spans:
        if low > at + reach:
            return False
        at = max(at, high)
    return at >= box[along + 2] - reach


def _hung(curves: Iterable[str], key: Linework) -> set[str]:
    """Return curves with all that hangs on them by corners and meetings."""
    pieces = {key.piece_of[i] for i in curves if i in key.piece_of}
    return {i for n in pieces for i in key.pieces[n]} | set(curves)


def _on(p: Point, box: Box, reach: float) -> bool:
    left, low, right, high = box
    corners = [(left, low), (right, low), (right, high), (left, high)]
    near = any(
        distance_to_supporting_line(p, a, b) <= reach
        for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)
    )
    return near and left - reach <= p[0] <= right + reach and low - reach <= p[1] <= high + reach


def _in(p: Point, box: Box) -> bool:
    return box[0] < p[0] < box[2] and box[1] < p[1] < box[3]


def _round(boxes: Iterable[Box]) -> Box:
    found = box_of([p for b in boxes for p in (b[:2], b[2:])])
    assert found is not None
    return found
