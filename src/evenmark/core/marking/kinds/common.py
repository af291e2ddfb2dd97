"""What kinds share: nothing drawn, partly drawn, near bands, and where drawn counterparts are."""

from __future__ import annotations

import math
from typing import TypeVar, overload

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import AnyFeature, ArcFeature, CircleFeature, Corner, Edge, Tee
from evenmark.core.marking.examination import ABSENT, FOLLOWS, Examination, MarkingSetting, Measure, near_size
from evenmark.core.marking.model import Requirement

NOTHING = Measure(state=ABSENT)
"""Nothing was drawn for it."""
PARTLY = Measure(state=FOLLOWS)
"""Part of what it is about was not drawn: it follows that."""


F = TypeVar("F")
G = TypeVar("G")


@overload
def as_a(feature: object, kind: type[F], /) -> F: ...
@overload
def as_a(feature: object, kind: type[F], other: type[G], /) -> F | G: ...
def as_a(feature: object, *kinds: type) -> object:
    """Return a feature as one of the sorts that a kind of requirement can be asked of (`Kind.of`). Raises
    TypeError for any other, which would be a fault of whoever asked."""
    if not isinstance(feature, kinds):
        raise TypeError(f"a {type(feature).__name__} was asked as {' or '.join(k.__name__ for k in kinds)}")
    return feature


def feature_of(r: Requirement, s: MarkingSetting, which: int = 0) -> AnyFeature:
    """Return a feature of the key that a requirement is about."""
    return s.key.by_id[r.features[which]]


def angle_band(aside: float, length: float, exam: Examination) -> float:
    """Return the near band of an angle: none where the far end of the piece is off by more than the band of
    its length."""
    band = near_size(length, exam.tolerances)
    return tol.NEAR_ANGLE_DEG if tol.within(aside, band, exam.slack) else 0.0


def lacking(features: tuple[str, ...], exam: Examination) -> Measure | None:
    """Return what to say where some or all of the features of a relation were not drawn; None where all
    were."""
    drawn = sum(1 for i in features if i in exam.drawn_for)
    if drawn == len(features):
        return None
    return PARTLY if drawn else NOTHING


def drawn_place(feature: AnyFeature, exam: Examination) -> Point | None:
    """Return where the counterpart of a corner, meeting, circle or arc is: of several ends the one nearest to
    its place."""
    if isinstance(feature, ArcFeature | CircleFeature):
        drawn = exam.drawn_for.get(feature.id)
        return drawn.center if isinstance(drawn, ArcFeature | CircleFeature) else None
    if isinstance(feature, Corner | Tee):
        found: Point | None = None
        best = math.inf
        for i, which in feature.ends:
            p = exam.drawn_end(i, which)
            if p is not None and (off := distance(p, feature.at)) < best:
                best, found = off, p
        return found
    drawn_feature = exam.drawn_for.get(feature.id)
    return getattr(drawn_feature, "at", None)


def key_place(feature: AnyFeature) -> Point:
    """Return the place of a corner, meeting, circle, arc or text of the key."""
    return feature.center if isinstance(feature, ArcFeature | CircleFeature) else feature.at


def along(edge: Edge) -> Point:
    """Return the unit vector of an edge."""
    length = edge.length or 1.0
    return ((edge.end[0] - edge.start[0]) / length, (edge.end[1] - edge.start[1]) / length)
