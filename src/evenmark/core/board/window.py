"""What lies in a window that is dragged over the drawing: wholly inside it, or touched by it, too."""

from __future__ import annotations

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.names import spoken
from evenmark.core.board.near import box_of
from evenmark.core.construct.state import Feature
from evenmark.core.geometry.crossings import crossings
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Box, distance


def window(board: BoardDocument, box: Box, *, touches: bool = False) -> list[str]:
    """Return the names of what lies in a window, as things of a sentence; guides are not among it. What is
    lettered stands where its point is."""
    state, numbers = board.evaluation.state, board.numbers
    out = []
    for _, f in board.near().at(((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), distance(box[:2], box[2:])):
        if not f.endless and (is_inside(f, box) or (touches and is_touched(f, box))):
            out.append(spoken(f.ref, numbers, state))
    return out


def is_inside(f: Feature, box: Box) -> bool:
    """Say whether all of a feature lies in a window."""
    (a, b, c, d) = box_of(f)
    return box[0] <= a and box[1] <= b and c <= box[2] and d <= box[3]


def is_touched(f: Feature, box: Box) -> bool:
    """Say whether a window holds a part of a feature, or its sides cross it."""
    (a, b, c, d) = box_of(f)
    if c < box[0] or box[2] < a or d < box[1] or box[3] < b:
        return False
    if f.says is not None:
        return True
    if any(box[0] <= x <= box[2] and box[1] <= y <= box[3] for x, y in (f.start, f.end)):
        return True
    left, low, right, top = box
    corners = ((left, low), (right, low), (right, top), (left, top))
    sides = (Straight(p, q) for p, q in zip(corners, (*corners[1:], corners[0]), strict=True) if p != q)
    return any(crossings(f.shape, side) for side in sides)
