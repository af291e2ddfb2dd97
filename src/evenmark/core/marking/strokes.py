"""Lettering that an export left behind as strokes: lines, arcs and curves that nobody asked for, where the
key's lettering stands and the drawing has none. They are recognised as what they were: the lettering is
charged once, under its own name, and none of its strokes."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np

from evenmark.core.geometry.points import Point
from evenmark.core.linework.apart import box_of_curve
from evenmark.core.linework.model import TextFeature
from evenmark.core.marking.examination import Examination

LEAST_STROKES = 3
"""Fewer lines where lettering should stand are no lettering."""
STROKES_A_LETTER = 1
"""So many strokes each letter has at least, on average; round ones have one."""
WIDEST_HEIGHTS = 1.1
"""How wide a letter is at most, with the gap behind it, in text heights."""
_BESIDE_HEIGHTS = 1.0
"""How far strokes may reach beyond where lettering should stand, in its heights."""


def strokes_of(exam: Examination, spare: Iterable[str]) -> dict[str, list[str]]:
    """Return, for each lettering of the key that is missing, the spare curves of a drawing that are its
    strokes."""
    missing = [t for t in exam.key.texts if t.id not in exam.pairing.partners]
    curves = [i for i in spare if i in exam.drawn.curves]
    if not missing or len(curves) < LEAST_STROKES:
        return {}
    boxes = np.array([box_of_curve(exam.drawn.curves[i]) for i in curves], np.float64)
    out: dict[str, list[str]] = {}
    taken = np.zeros(len(curves), np.bool_)
    for t in missing:
        letters = sum(not c.isspace() for c in t.wording)
        inside = _inside(t, boxes) & ~taken
        found = np.nonzero(inside)[0].tolist()
        if len(found) >= max(LEAST_STROKES, STROKES_A_LETTER * letters):
            taken |= inside
            out[t.id] = [curves[n] for n in found]
    return out


def _inside(t: TextFeature, boxes: np.ndarray) -> np.ndarray:
    """Say which boxes lie where lettering stands, turned as it is."""
    low, high = _place(t)
    turn = -math.radians(t.turn_deg)
    cos, sin = math.cos(turn), math.sin(turn)
    corners = boxes[:, [[0, 1], [2, 1], [2, 3], [0, 3]]] - np.array(t.at)
    x = corners[..., 0] * cos - corners[..., 1] * sin
    y = corners[..., 0] * sin + corners[..., 1] * cos
    near = _BESIDE_HEIGHTS * t.height
    within = (x >= low[0] - near) & (x <= high[0] + near) & (y >= low[1] - near) & (y <= high[1] + near)
    found: np.ndarray = within.all(axis=1)
    return found


def _place(t: TextFeature) -> tuple[Point, Point]:
    """Return where lettering stands, from its own place and in its own direction."""
    lines = t.wording.splitlines() or [t.wording]
    wide = WIDEST_HEIGHTS * t.height * max(map(len, lines))
    tall = t.height * (1 + 5 / 3 * (len(lines) - 1))
    across, up = t.anchor.split()
    left = {"left": 0.0, "centre": -wide / 2, "right": -wide}.get(across, 0.0)
    bottom = {"top": -tall, "middle": -tall / 2}.get(up, 0.0)
    return (left, bottom), (left + wide, bottom + tall)
