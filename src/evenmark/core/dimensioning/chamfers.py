"""Chamfers by one figure: ``7 x 45°`` says a leg and an angle, whether it stands at one leg, along the
chamfer or at the corner that it took away; ``2 x 7 x 45°`` says it of two (common practice, no source)."""

from __future__ import annotations

import math
from collections.abc import Iterator

from evenmark.core.dimensioning.figures import agrees, chamfer_of, in_brackets
from evenmark.core.dimensioning.measured import Measured, MeasuredPlace
from evenmark.core.dimensioning.size import Size
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, distance
from evenmark.core.linework.model import Edge
from evenmark.core.linework.sharp import sharp_at


def chamfer_size(d: Dimension, m: Measured) -> Size | None:
    """Return what a dimension says of a chamfer; None where it says none, or stands at none."""
    said = chamfer_of(d)
    if said is None:
        return None
    count, leg, slant = said
    found = [e for e in m.edges if _stands_at(d, e, m)]
    if len(found) != 1:
        return None
    own = found[0]
    way = min(
        (0.0, 90.0), key=lambda w: (abs(_leg(own, w) - leg), abs(direction_difference_deg(w, d.turn_deg)))
    )
    expected = _leg(own, way)
    turn = abs(direction_difference_deg(direction_deg(*own.ends), way))
    like = [e for e in m.edges if e.id != own.id and _alike(e, own, m)]
    if count > 1:
        like = like[: count - 1] if len(like) >= count - 1 else []
        if len(like) != count - 1:
            return None
    features = (own.id, *(e.id for e in like)) if count > 1 else (own.id,)
    agreed = agrees(d, expected * d.factor, 2 * m.reach) and abs(turn - slant) <= tol.ANGLE_SHOWN_DEG
    return Size(
        id=d.id,
        kind="chamfer",
        places=(MeasuredPlace(own.id, "0"), MeasuredPlace(own.id, "1")),
        expected=expected,
        says=leg / d.factor,
        direction_deg=way,
        features=features,
        count=count,
        brackets=in_brackets(d),
        slant_deg=slant,
        agrees=agreed,
        at=d.at,
    )


def _leg(e: Edge, way: float) -> float:
    return abs(e.end[0] - e.start[0]) if way == 0.0 else abs(e.end[1] - e.start[1])


def _points(e: Edge, m: Measured) -> Iterator[Point]:
    yield from e.ends
    sharp = sharp_at(m.key, e.id)
    if sharp is not None:
        yield sharp.at


def _stands_at(d: Dimension, e: Edge, m: Measured) -> bool:
    """Say whether both points of a dimension are ends of a slanted edge, or the corner that it took away."""
    turn = direction_deg(*e.ends) % 90.0
    if min(turn, 90.0 - turn) <= tol.TURN_DEG:
        return False
    return all(any(distance(p, q) <= m.reach for q in _points(e, m)) for p in d.points)


def _alike(e: Edge, own: Edge, m: Measured) -> bool:
    """Say whether an edge is a chamfer of the same legs, whichever way round they lie."""
    legs, others = (sorted(math.fabs(_leg(f, way)) for way in (0.0, 90.0)) for f in (e, own))
    near = all(abs(a - b) <= m.reach for a, b in zip(legs, others, strict=True))
    return near and sharp_at(m.key, e.id) is not None
