"""Sketch: what is drawn between key and attempt for one finding, so that the difference is seen and not only
read.

- *mark*: one thing of a sketch, as JSON. ``span``: a size between two points. ``turn``: an angle about a
  point. ``reach``: a radius. ``back``: an arrow from where a piece was drawn to where it belongs.
- *tone*: ``asked`` for what the key asks, ``drawn`` for what was measured. Only ``drawn`` marks may be shown
  to a student.

Places are in key units, as laid on the key; how large lettering and arrowheads are is for whoever draws the
sketch.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_supporting_line
from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework import Linework
from evenmark.core.linework.model import AnyFeature, ArcFeature, CircleFeature, Edge, TextFeature
from evenmark.core.linework.wording import number, size
from evenmark.core.marking.model import Finding
from evenmark.core.plain import plain_number as plain
from evenmark.core.sheet.marked import Mark

MOST_MARKS = 24
"""A pattern of a hundred holes that are all elsewhere is shown by its first ones."""


class _Between:
    """One finding with its features on both sides."""

    def __init__(
        self, f: Finding, key: Linework, placed: Linework, partners: Mapping[str, str], unit: str
    ) -> None:
        self.f, self.unit = f, unit
        self.asked = [key.by_id[i] for i in f.features if i in key.by_id]
        self.pairs: list[tuple[AnyFeature, AnyFeature]] = [
            (key.by_id[i], placed.by_id[partners[i]])
            for i in f.features
            if i in key.by_id and partners.get(i) in placed.by_id
        ]


def sketch(f: Finding, key: Linework, placed: Linework, partners: Mapping[str, str], unit: str) -> list[Mark]:
    """Return the marks that show a finding; none for one that is met or that a picture cannot show."""
    if f.verdict == "met":
        return []
    if isinstance(f.measured, tuple) and isinstance(f.expected, tuple):
        return _back(f.measured, f.expected)
    draw = _DRAWN.get(f.kind)
    return draw(_Between(f, key, placed, partners, unit))[:MOST_MARKS] if draw else []


def _at(p: Point) -> list[float]:
    return [plain(p[0]), plain(p[1])]


def _span(tone: str, a: Point, b: Point, says: str) -> Mark:
    return {"as": "span", "tone": tone, "a": _at(a), "b": _at(b), "says": says}


def _back(drawn: Point, asked: Point) -> list[Mark]:
    return [{"as": "back", "tone": "asked", "a": _at(drawn), "b": _at(asked), "says": ""}]


def _turn(tone: str, at: Point, start_deg: float, sweep_deg: float, says: str) -> Mark:
    return {
        "as": "turn",
        "tone": tone,
        "a": _at(at),
        "b": [plain(start_deg), plain(sweep_deg)],
        "says": says,
    }


def _length(b: _Between) -> list[Mark]:
    out = [_span("asked", e.start, e.end, size(e.length, b.unit)) for e in b.asked if isinstance(e, Edge)]
    return out + [
        _span("drawn", d.start, d.end, size(d.length, b.unit)) for _, d in b.pairs if isinstance(d, Edge)
    ]


def _lower(e: Edge) -> Point:
    """Return the end from which an edge runs in its direction in [0, 180) degrees."""
    (ax, ay), (bx, by) = e.start, e.end
    return e.start if (ay, -ax) < (by, -bx) or (ay == by and ax < bx) else e.end


def _angle(b: _Between) -> list[Mark]:
    if not b.pairs or not isinstance(b.f.measured, float | int) or not isinstance(b.f.expected, float | int):
        return []
    drawn = b.pairs[0][1]
    if not isinstance(drawn, Edge):
        return []
    at = _lower(drawn)
    asked, measured = float(b.f.expected), float(b.f.measured)
    return [
        _turn("asked", at, 0.0, asked, f"{number(asked)}°"),
        _turn("drawn", at, 0.0, measured, f"{number(measured)}°"),
    ]


def _rim(tone: str, f: AnyFeature, deg: float, unit: str) -> list[Mark]:
    if not isinstance(f, ArcFeature | CircleFeature):
        return []
    if isinstance(f, ArcFeature):
        deg = math.degrees(f.start_rad + f.sweep_rad / 2) % 360
    return [
        {
            "as": "reach",
            "tone": tone,
            "a": _at(f.center),
            "b": [plain(f.radius), plain(deg)],
            "says": f"Ø{size(2 * f.radius, unit)}"
            if isinstance(f, CircleFeature)
            else f"R{size(f.radius, unit)}",
        }
    ]


def _radius(b: _Between) -> list[Mark]:
    out = [m for f in b.asked for m in _rim("asked", f, 145.0, b.unit)]
    return out + [m for _, f in b.pairs for m in _rim("drawn", f, 25.0, b.unit)]


def _sweep(b: _Between) -> list[Mark]:
    def of(tone: str, a: AnyFeature) -> list[Mark]:
        if not isinstance(a, ArcFeature):
            return []
        start, sweep = math.degrees(a.start_rad), math.degrees(a.sweep_rad)
        return [_turn(tone, a.center, start, sweep, f"{number(sweep)}°")]

    return [m for a in b.asked for m in of("asked", a)] + [m for _, a in b.pairs for m in of("drawn", a)]


def _between(a: AnyFeature, b: AnyFeature) -> tuple[Point, Point]:
    """Return the two points between which the distance of two features is taken."""
    p = a.center if isinstance(a, ArcFeature | CircleFeature) else a.at
    q = b.center if isinstance(b, ArcFeature | CircleFeature) else b.at
    if isinstance(b, Edge):
        along = along_supporting_line(p, b.start, b.end)
        reach = distance(b.start, b.end) or 1.0
        q = (
            b.start[0] + (b.end[0] - b.start[0]) * along / reach,
            b.start[1] + (b.end[1] - b.start[1]) * along / reach,
        )
    elif isinstance(a, Edge):
        return _between(b, a)[::-1]
    return p, q


def _distance(b: _Between) -> list[Mark]:
    """Return the spans of a distance: across or up where the sheet says it so, else the shortest way."""
    out: list[Mark] = []
    if len(b.asked) != 2:
        return out
    p, q = _between(b.asked[0], b.asked[1])
    level = _way(p, q, b.f.expected)
    for tone, ends in (("asked", (p, q)), ("drawn", _between(*_drawn_two(b)) if len(b.pairs) == 2 else None)):
        if ends is not None:
            a, z = ends[0], _squared(*ends, level)
            out.append(_span(tone, a, z, size(distance(a, z), b.unit)))
    return out


def _drawn_two(b: _Between) -> tuple[AnyFeature, AnyFeature]:
    return b.pairs[0][1], b.pairs[1][1]


def _way(p: Point, q: Point, expected: object) -> str:
    """Return how a distance is measured between two points of the key: across, up, or straight."""
    if not isinstance(expected, float | int):
        return ""
    reach = tol.WELD_SHARE * max(1.0, abs(float(expected)))
    for way, off in (("across", abs(q[0] - p[0])), ("up", abs(q[1] - p[1]))):
        if abs(off - abs(float(expected))) <= reach:
            return way
    return ""


def _squared(p: Point, q: Point, way: str) -> Point:
    return (q[0], p[1]) if way == "across" else (p[0], q[1]) if way == "up" else q


def _displaced(b: _Between) -> list[Mark]:
    """Return an arrow back for each member of a set that lies elsewhere than the key's."""
    allowed = b.f.tolerance or 0.0
    out: list[Mark] = []
    for asked, drawn in b.pairs:
        p = drawn.center if isinstance(drawn, ArcFeature | CircleFeature) else drawn.at
        q = asked.center if isinstance(asked, ArcFeature | CircleFeature) else asked.at
        if distance(p, q) > allowed:
            out += _back(p, q)
    return out


def _height(b: _Between) -> list[Mark]:
    def of(tone: str, t: AnyFeature) -> list[Mark]:
        if not isinstance(t, TextFeature):
            return []
        up = math.radians(t.turn_deg + 90)
        top = (t.at[0] + math.cos(up) * t.height, t.at[1] + math.sin(up) * t.height)
        return [_span(tone, t.at, top, size(t.height, b.unit))]

    return [m for t in b.asked for m in of("asked", t)] + [m for _, t in b.pairs for m in of("drawn", t)]


def _absent(b: _Between) -> list[Mark]:
    """Return how long what is missing should be; its place shows by itself."""
    return _length(b) if not b.pairs else []


_DRAWN: Mapping[str, Callable[[_Between], list[Mark]]] = {
    "length": _length,
    "angle": _angle,
    "radius": _radius,
    "diameter": _radius,
    "sweep": _sweep,
    "distance": _distance,
    "whole-edge": _absent,
    "evenly-spaced": _displaced,
    "on-circle": _displaced,
    "equal": _radius,
    "concentric": _displaced,
    "symmetric": _displaced,
    "arrangement": _displaced,
    "text-height": _height,
    "text-anchor": _displaced,
}
