"""The most that a placement could earn, without examining it: so that hopeless candidates cost next to
nothing.

A corner, tee or circle centre earns the marks of its `position` only if something was drawn there that could
be its partner: an end for a corner or tee, a circle's centre for a circle. Where nothing lies within
tolerance, at most the near share is earned; where nothing lies within the near band, nothing. All other marks
are counted as earned.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from decimal import Decimal

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.rows import undone
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.marking.examination import Ask
from evenmark.core.marking.shapes import Table

Floats = NDArray[np.float64]
_SOME = 4
"""Every so many places are looked at first."""


@dataclass(frozen=True, kw_only=True)
class Spots:
    """Places that are asked for, of one kind: where, marks, tolerance, near band, as arrays."""

    at: Floats
    marks: Floats
    allowed: Floats
    near: Floats


def spots(asks: tuple[Ask, ...], marks: dict[int, Decimal], letters: str) -> Spots:
    """Return the places asked of features whose ids begin with one of some letters."""
    chosen = [
        a
        for a in asks
        if a.r.kind == "position" and a.r.features[0][0] in letters and isinstance(a.expected, tuple)
    ]
    rows = np.array(
        [
            (
                *a.expected,  # type: ignore[misc]
                float(marks.get(a.r.id, 0)),
                a.allowed if a.r.tolerance is None else a.r.tolerance,
                a.near if a.r.near is None else a.r.near,
            )
            for a in chosen
        ],
        np.float64,
    ).reshape(-1, 5)
    return Spots(at=rows[:, :2], marks=rows[:, 2], allowed=rows[:, 3], near=rows[:, 4])


class UpperBound:
    """What one attempt may hope for under the motions that a policy allows, which neither scale nor
    mirror."""

    def __init__(
        self, joints: Spots, centers: Spots, drawn: dict[str, Table], near_share: float, slack: float
    ) -> None:
        self.near_share, self.slack = near_share, slack
        ends = np.concatenate([p for kind in ("edge", "arc") for p in drawn[kind].points[:2]])
        self.parts = [
            (spots, cKDTree(found) if len(found) else None)
            for spots, found in ((joints, ends), (centers, drawn["circle"].points[0]))
            if len(spots.at)
        ]

    def lost(self, motion: Similarity, enough: float = math.inf) -> float:
        """Return the marks that are lost for certain: of places where nothing was drawn.

        A quarter of the places is looked at first; when they alone lose more than ``enough``, that is the
        answer.
        """
        some = self._lost(motion, _SOME)
        return some if some > enough else self._lost(motion, 1)

    def _lost(self, motion: Similarity, step: int) -> float:
        total = 0.0
        for wanted, tree in self.parts:
            marks = wanted.marks[::step]
            if tree is None:
                total += float(marks.sum())
                continue
            allowed, near = wanted.allowed[::step] + self.slack, wanted.near[::step] + self.slack
            reach = float(max(allowed.max(), near.max()))
            gaps, _ = tree.query(
                undone(wanted.at[::step], motion), distance_upper_bound=reach * (1 + tol.SLACK_SHARE)
            )
            kept = np.where(gaps <= allowed, 1.0, np.where(gaps <= near, self.near_share, 0.0))
            total += float((marks * (1.0 - kept)).sum())
        return total
