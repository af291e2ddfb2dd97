"""Numbers of what is chosen as their step has said them: ``R - 11``, ``7/16``, not what they come to."""

from __future__ import annotations

from evenmark.core.board.board import NotDone
from evenmark.core.board.correcting import Spoken, end_said, place_said, size_said
from evenmark.core.construct.kinds.arcs import ArcByCentre
from evenmark.core.construct.kinds.beside import BisectorOfEdges, BisectorOfPoints, Perpendicular
from evenmark.core.construct.kinds.centres import PitchCircle
from evenmark.core.construct.kinds.chains import Chain
from evenmark.core.construct.kinds.circles import CircleByCentre
from evenmark.core.construct.kinds.lines import LineAtAngle, LineBetween, LineFromMiddle, TangentAt
from evenmark.core.construct.kinds.outlines import Polygon, Rectangle
from evenmark.core.construct.references import Expression
from evenmark.core.construct.state import Feature

LONG = LineFromMiddle | LineAtAngle | TangentAt | Perpendicular | BisectorOfEdges | BisectorOfPoints


def as_said(said: Spoken, f: Feature, name: str) -> str | None:
    """Return how a sentence says a number of something that it has drawn; None where it says it otherwise: a
    point by a way, a length by its ends."""
    value = _value(said, f, name)
    if value is None or (isinstance(value, Expression) and value.how != "at"):
        return None
    try:
        span = said.span(value)
    except NotDone:
        return None
    return said.says[span.begin : span.end].strip()


def _value(said: Spoken, f: Feature, name: str) -> object:
    meaning = said.sentence.meaning
    if name in ("radius", "diameter"):
        found = size_said(meaning, f)
        return found[1] if found is not None and found[0] == name else None
    if name == "at":
        return place_said(meaning)
    if name == "centre" and isinstance(meaning, CircleByCentre | ArcByCentre | Polygon | PitchCircle):
        return meaning.centre
    if name == "length" and isinstance(meaning, LONG):
        return meaning.length
    if name == "length" and isinstance(meaning, Rectangle):
        return meaning.width if (f.ref.part or 1) % 2 else meaning.height
    if name in ("start", "end", "length") and isinstance(meaning, LineBetween | Chain):
        return _of_line(said, f, name)
    return None


def _of_line(said: Spoken, f: Feature, name: str) -> object:
    try:
        point = end_said(said, f, "end" if name == "length" else name)
    except NotDone:
        return None
    if name != "length":
        return point
    if point.how in ("axis", "toward", "along", "square"):
        return point.parts[1 if point.how == "axis" else 0]
    return None
