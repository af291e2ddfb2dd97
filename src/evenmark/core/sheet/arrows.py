"""What is free, as arrows: how each point may move and each radius change, in scene coordinates.

- *arrow*: where it stands, and in which direction something may move there, to both sides; the longest of a
  motion has length 1.
"""

from __future__ import annotations

import math

from evenmark.core.dimensioning.proof_json import ArrowJson
from evenmark.core.dimensioning.proved import FreeMotion
from evenmark.core.dimensioning.says import place_in
from evenmark.core.geometry.points import Point, point_on
from evenmark.core.linework.model import ArcFeature, CircleFeature, Linework
from evenmark.core.sheet.frame import Frame

MOST_ARROWS = 16
"""Arrows of one motion: a few say how a whole outline slides."""
_RIM = math.radians(30)


def arrows(motion: FreeMotion, key: Linework, frame: Frame) -> list[ArrowJson]:
    """Return the arrows of a motion: ``at`` in the scene, ``by`` with y downward."""
    found = [(place_in(i, key), v) for i, v in sorted(motion.moves.items())]
    for i, v in sorted(motion.grows.items()):
        f = key.by_id[i]
        if isinstance(f, ArcFeature | CircleFeature):
            turn = _RIM if isinstance(f, CircleFeature) else f.start_rad + f.sweep_rad / 2
            found.append((point_on(f.center, f.radius, turn), (v * math.cos(turn), v * math.sin(turn))))
    return [_arrow(p, v, frame) for p, v in found[:MOST_ARROWS]]


def _arrow(p: Point, v: Point, frame: Frame) -> ArrowJson:
    return {"at": frame.at(p), "by": [round(v[0], 6) + 0.0, round(-v[1], 6) + 0.0]}
