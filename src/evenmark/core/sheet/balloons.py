"""Where numbered balloons stand on a printed sheet: outward from what they point at, apart from each other,
inside the frame."""

from __future__ import annotations

import math
from collections.abc import Mapping

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point

REACH, APART, EDGE = 11.0, 8.4, 5.0
"""How far a balloon stands from its place, from the next balloon, and from the frame, in mm of paper."""
ROUNDS = 80
MOST = 200
"""More balloons than this would only hide the drawing; the list has them all."""


def stand(places: Mapping[int, Point], center: Point, room: Box) -> dict[int, Point]:
    """Return where each balloon stands, by its number; places and answer in mm of paper."""
    at: dict[int, list[float]] = {}
    for n, (i, p) in enumerate(list(places.items())[:MOST]):
        dx, dy = p[0] - center[0], p[1] - center[1]
        angle = math.atan2(dy, dx) if math.hypot(dx, dy) > 1.0 else n * 2.4
        at[i] = [p[0] + math.cos(angle) * REACH, p[1] + math.sin(angle) * REACH]
    order = list(at)
    for _ in range(ROUNDS):
        moved = False
        for n, i in enumerate(order):
            for j in order[n + 1 :]:
                moved |= _push(at[i], at[j], n)
        for q in at.values():
            q[0] = min(max(q[0], room[0] + EDGE), room[2] - EDGE)
            q[1] = min(max(q[1], room[1] + EDGE), room[3] - EDGE)
        if not moved:
            break
    return {i: (q[0], q[1]) for i, q in at.items()}


def _push(a: list[float], b: list[float], n: int) -> bool:
    """Move two balloons apart if they are too close; say whether they were."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    far = math.hypot(dx, dy)
    if far >= APART:
        return False
    if far < tol.ONE_PLACE_MM:
        dx, dy, far = math.cos(n * 2.4), math.sin(n * 2.4), 1.0
        by = APART / 2
    else:
        by = (APART - far) / 2
    a[0] -= dx / far * by
    a[1] -= dy / far * by
    b[0] += dx / far * by
    b[1] += dy / far * by
    return True
