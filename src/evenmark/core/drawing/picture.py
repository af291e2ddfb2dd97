"""Pictures of dimensions and notes: lines, arcs and lettering, the same on page, SVG, PDF and in DXF.

Extension lines leave a gap and run past the dimension line, figures stand above it and are turned to be read
from below and from the right, arrowheads are slim and closed (ISO 129-1, values from memory); on inch sheets
figures are upright and break the line (ASME Y14.5, from memory). All measures are shares of the lettering's
height.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from fractions import Fraction
from typing import NamedTuple

from evenmark.core.drawing.annotations import USUAL_HEIGHT, Dimension, Note
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Arc, Entity, Line, Text
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import turn_to
from evenmark.core.geometry.deterministic import cos_sin, turn_of
from evenmark.core.geometry.lines import beside, left_of
from evenmark.core.geometry.points import TAU, Point, distance, middle, point_on

CAPITALS = 0.66
"""The capitals of the lettering face, as a share of its size."""
LETTER_WIDTH = 0.75
"""Width of a letter of the lettering face, as a share of the height of its capitals."""
PARTS_OF_INCH = 64


class _Shares(NamedTuple):
    gap: float
    past: float
    arrow: float
    slim: float


_ISO = _Shares(gap=0.3, past=0.6, arrow=0.9, slim=0.15)
_INCH = _Shares(gap=0.5, past=1.0, arrow=1.0, slim=0.17)
ABOVE = 0.35
"""Between a figure and the line below it, as a share of its height."""


def in_figures(value: float, decimals: int = 2, *, zeros: bool = False, fractions: bool = False) -> str:
    """Return a number as it is written: decimals, without zeros at the end unless they are asked for, or
    inches in parts.

    >>> in_figures(12.5), in_figures(4.625, fractions=True), in_figures(12.0, 3, zeros=True)
    ('12.5', '4 5/8', '12.000')
    """
    if fractions:
        whole, part = divmod(round(abs(value) * PARTS_OF_INCH), PARTS_OF_INCH)
        said = [str(whole)] if whole or not part else []
        said += [str(Fraction(part, PARTS_OF_INCH))] if part else []
        return ("-" if value < 0 else "") + " ".join(said)
    said_once = f"{value:.{decimals}f}"
    if not zeros and "." in said_once:
        said_once = said_once.rstrip("0").rstrip(".")
    return said_once.removeprefix("-") if not float(said_once) else said_once


def figure(d: Dimension) -> str:
    """Return what a dimension shows."""
    if d.typed is not None:
        return d.typed
    value = d.measured if d.kind == "angular" else d.measured * d.factor
    said = in_figures(value, d.decimals, zeros=d.zeros, fractions=d.fractions)
    sign = {"radius": "R", "diameter": "Ø"}.get(d.kind, "")
    sign = "" if sign and d.before.rstrip().endswith(sign) else sign
    after = "°" if d.kind == "angular" and not d.after.startswith("°") else ""
    return f"{d.before}{sign}{said}{after}{_limits(d)}{d.after}"


def _limits(d: Dimension) -> str:
    if d.tolerance is None:
        return ""
    up, down = d.tolerance
    if up == -down:
        return f" ±{in_figures(up, d.decimals, zeros=d.zeros)}"
    return f" {up:+g}/{down:+g}"


def width_of(wording: str, height: float) -> float:
    """Return about how wide lettering is."""
    return max(map(len, wording.split("\n"))) * height * LETTER_WIDTH


def lines_of(e: Text) -> list[Text]:
    """Return the lines of lettering of several, each as one of its own, 1.6 heights apart."""
    rows = e.wording.split("\n")
    up = e.anchor.split()[1]
    before = {"top": 0.0, "middle": (len(rows) - 1) / 2}.get(up, len(rows) - 1.0)
    turn = math.radians(e.turn_deg)
    down = (math.sin(turn), -math.cos(turn))
    step = 1.6 * e.height
    return [
        e._replace(wording=row, at=beside(e.at, down, step * (n - before)))
        for n, row in enumerate(rows)
        if row.strip()
    ]


class _Pen:
    """Draws one annotation's picture."""

    def __init__(self, layer: str, style: Style, source: str, height: float, inch: bool) -> None:
        self.layer, self.source, self.height = layer, source, height
        self.style, self.inch = style, inch
        self.shares = _INCH if inch else _ISO
        self.out: list[Entity] = []

    def line(self, a: Point, b: Point) -> None:
        if a != b:
            self.out.append(Line(a, b, self.layer, self.style, self.source))

    def arc(self, center: Point, radius: float, start: float, sweep: float) -> None:
        self.out.append(Arc(center, radius, start, sweep, self.layer, self.style, self.source))

    def text(self, wording: str, at: Point, turn: float, anchor: str = "centre middle") -> None:
        self.out.append(Text(wording, at, anchor, self.height, turn, self.layer, self.style, self.source))

    def arrow(self, tip: Point, way: Point) -> None:
        """Draw an arrowhead that points along a direction of unit length."""
        long = self.shares.arrow * self.height
        back = beside(tip, way, -long)
        across = left_of(way)
        a, b = (beside(back, across, s * self.shares.slim * self.height) for s in (1, -1))
        self.line(tip, a)
        self.line(a, b)
        self.line(b, tip)


def readable(turn_deg: float) -> float:
    """Return the turn of lettering along a direction that is read from below or from the right.

    >>> readable(90.0), readable(180.0), readable(135.0)
    (90.0, 0.0, -45.0)
    """
    turn = turn_deg % 180.0
    return turn - 180.0 if turn > 90.0 + tol.READABLE_DEG else turn


def picture_of(d: Dimension, *, inch: bool = False) -> tuple[Entity, ...]:
    """Return the picture of a dimension."""
    pen = _Pen(d.layer, d.style, d.source, d.height, inch)
    draw = {
        "linear": _linear,
        "radius": _radius,
        "diameter": _diameter,
        "angular": _angular,
        "arc": _angular,
        "ordinate": _ordinate,
    }[d.kind]
    draw(d, pen)
    return tuple(pen.out)


def _linear(d: Dimension, pen: _Pen) -> None:
    turn = math.radians(d.turn_deg)
    u = {0.0: (1.0, 0.0), 90.0: (0.0, 1.0)}.get(d.turn_deg % 180.0) or cos_sin(turn)
    n = left_of(u)
    through = d.line if d.line is not None else d.at
    feet = []
    for p in d.points:
        off = (through[0] - p[0]) * n[0] + (through[1] - p[1]) * n[1]
        foot = beside(p, n, off)
        feet.append(foot)
        side = 1.0 if off >= 0 else -1.0
        if abs(off) > pen.shares.gap * pen.height:
            pen.line(
                beside(p, n, side * pen.shares.gap * pen.height),
                beside(foot, n, side * pen.shares.past * pen.height),
            )
    _measured_line(d, pen, feet[0], feet[1], u)


def _measured_line(d: Dimension, pen: _Pen, a: Point, b: Point, u: Point) -> None:
    """Draw the line of a size between two points with its arrows, as far as its figure, and the figure."""
    wide = width_of(figure(d), pen.height)
    ends = sorted((x - a[0]) * u[0] + (y - a[1]) * u[1] for x, y in (a, b))
    at = (d.at[0] - a[0]) * u[0] + (d.at[1] - a[1]) * u[1]
    off = abs((d.at[0] - a[0]) * u[1] - (d.at[1] - a[1]) * u[0])
    long = pen.shares.arrow * pen.height
    inside = ends[1] - ends[0] > 3 * long and not (
        ends[0] < at < ends[1] and off < pen.height / 2 and ends[1] - ends[0] < wide + 3 * long
    )
    low, high = ends if inside else (ends[0] - 2 * long, ends[1] + 2 * long)
    beyond = at < low or at > high
    if beyond:
        low, high = min(low, at - wide / 2), max(high, at + wide / 2)
    if off < pen.height / 2:  # the figure stands in the line
        spare = wide / 2 + pen.height * ABOVE
        for first, last in ((low, min(at - spare, high)), (max(at + spare, low), high)):
            if last > first:
                pen.line(beside(a, u, first), beside(a, u, last))
    else:
        pen.line(beside(a, u, low), beside(a, u, high))
    way = 1.0 if inside else -1.0
    for end, side in ((ends[0], -way), (ends[1], way)):
        pen.arrow(beside(a, u, end), (u[0] * side, u[1] * side))
    turn = 0.0 if pen.inch else readable(math.degrees(turn_of(u[1], u[0])))
    pen.text(figure(d), d.at, turn)


def _shelf(d: Dimension, pen: _Pen, touch: Point, way: Point) -> None:
    """Draw an arrow that touches a curve at a point along a direction, and its line to a shelf under the
    figure."""
    wide = width_of(figure(d), pen.height)
    level = d.at[1] - pen.height * (0.5 + ABOVE)
    ends = ((d.at[0] - wide / 2, level), (d.at[0] + wide / 2, level))
    near = min(ends, key=lambda p: distance(p, touch))
    pen.line(touch, near)
    pen.line(*ends)
    pen.arrow(touch, way)
    pen.text(figure(d), d.at, 0.0)


def _toward(a: Point, b: Point) -> Point:
    long = distance(a, b)
    return ((b[0] - a[0]) / long, (b[1] - a[1]) / long) if long > 0.0 else (1.0, 0.0)


def _radius(d: Dimension, pen: _Pen) -> None:
    center, touch = d.points
    outward = _toward(center, touch)
    outside = distance(d.at, center) > d.measured
    _shelf(d, pen, touch, (-outward[0], -outward[1]) if outside else outward)


def _diameter(d: Dimension, pen: _Pen) -> None:
    a, b = d.points
    center = middle(a, b)
    if distance(d.at, center) < d.measured / 2:
        u = _toward(a, b)
        _measured_line(d, pen, a, b, u)
        return
    touch = min((a, b), key=lambda p: distance(p, d.at))
    _shelf(d, pen, touch, _toward(touch, center))


def _angular(d: Dimension, pen: _Pen) -> None:
    vertex, a, b = d.points
    through = d.line if d.line is not None else d.at
    radius = distance(vertex, through)
    if radius == 0.0:
        radius = max(distance(vertex, a), distance(vertex, b))
    first, last = turn_to(a, vertex), turn_to(b, vertex)
    if d.kind == "angular" and (last - first) % TAU > math.pi:
        first, last = last, first
        a, b = b, a
    sweep = (last - first) % TAU or TAU
    pen.arc(vertex, radius, first, sweep)
    long = pen.shares.arrow * pen.height
    inside = radius * sweep > 3 * long
    for p, turn, side in ((a, first, -1.0), (b, last, 1.0)):
        tip = point_on(vertex, radius, turn)
        bend = long / radius / 2 if inside else -long / radius / 2  # along the chord of the arrow
        ahead = turn - side * bend + (math.pi / 2 if side > 0 else -math.pi / 2)
        pen.arrow(tip, cos_sin(ahead) if inside else _back(ahead))
        away = radius - distance(vertex, p)
        if away > pen.shares.gap * pen.height:
            way = _toward(vertex, p)
            pen.line(
                beside(p, way, pen.shares.gap * pen.height),
                beside(vertex, way, radius + pen.shares.past * pen.height),
            )
    turn = 0.0 if pen.inch else readable(math.degrees(turn_to(d.at, vertex)) + 90.0)
    pen.text(figure(d), d.at, turn)


def _back(ahead: float) -> Point:
    cos, sin = cos_sin(ahead)
    return (-cos, -sin)


def _ordinate(d: Dimension, pen: _Pen) -> None:
    p = d.points[0]
    end = d.line if d.line is not None else d.at
    way = _toward(p, end)
    pen.line(beside(p, way, pen.shares.gap * pen.height), end)
    turn = 0.0 if pen.inch else readable(math.degrees(turn_of(way[1], way[0])))
    pen.text(figure(d), d.at, turn)


def picture_of_note(n: Note, *, inch: bool = False) -> tuple[Entity, ...]:
    """Return the picture of a note: its leader with an arrow at the tip, and its wording unless that is a
    text of its own."""
    pen = _Pen(n.layer, n.style, n.source, n.height or USUAL_HEIGHT, inch)
    points: Sequence[Point] = n.points
    for a, b in itertools.pairwise(points):
        pen.line(a, b)
    if len(points) > 1:
        pen.arrow(points[0], _toward(points[1], points[0]))
    if n.wording and not n.text_source:
        pen.text(n.wording, n.at, 0.0, f"{n.across} top")
    return tuple(pen.out)
