"""Steps that help: guides, views carried round a mitre, centre marks and lines, pitch circles, hidden edges.

A guide is endless and stands on the layer ``construction`` unless another is said; marks and lines of centres
stand on ``centre`` as chain lines, hidden edges on ``hidden``, dashed.
"""

from __future__ import annotations

from typing import Any

from evenmark.core.construct.directions import unit_between
from evenmark.core.construct.draw_round import half
from evenmark.core.construct.making import Build, Making
from evenmark.core.construct.points import Context
from evenmark.core.construct.state import XY, Broken, edge_between, plain
from evenmark.core.construct.things import things
from evenmark.core.geometry import lines
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.exact import Number, cosine, share, sine

CONSTRUCTION, CENTRE, HIDDEN = "construction", "centre", "hidden"
MOST_HOLES = 1_000


def _guide_through(made: Making, p: XY, way: tuple[Number, Number]) -> None:
    other = (p[0] + way[0], p[1] + way[1])
    layer = made.said_layer or CONSTRUCTION
    made.add(edge_between(p, other), (p, other), kind="guide", layer=layer)


def _guide(c: Context, s: dict[str, Any], made: Making) -> None:
    p = c.point(s["through"])
    if s["how"] == "angle":
        degrees = c.number(s["angle"])
        _guide_through(made, p, (cosine(degrees), sine(degrees)))
    else:
        _guide_through(made, p, (1, 0) if s["how"] == "level" else (0, 1))


def _mitre(c: Context, s: dict[str, Any], made: Making) -> None:
    _guide_through(made, c.point(s["through"]), (1, 1))


def _carry(c: Context, s: dict[str, Any], made: Making) -> None:
    """Carry a point to another view: level, plumb, or level to the mitre and plumb from there."""
    p = c.point(s["from"])
    if s["how"] == "plumb":
        _guide_through(made, p, (0, 1))
        return
    _guide_through(made, p, (1, 0))
    if s["how"] == "round":
        (ax, ay), (bx, by) = c.feature(s["round"]).exact or c.straight(s["round"])
        if ay == by:
            raise Broken("The mitre is level: a level guide never meets it.")
        x = ax + (bx - ax) * share(p[1] - ay, by - ay)
        _guide_through(made, (x, p[1]), (0, 1))


def _centre_edge(made: Making, a: XY, b: XY, past: Number) -> None:
    """Draw a centre line between two points, run past them."""
    ux, uy = unit_between(a, b)
    ends = ((a[0] - ux * past, a[1] - uy * past), (b[0] + ux * past, b[1] + uy * past))
    layer, line = made.said_layer or CENTRE, made.line or "chain"
    made.add(edge_between(*ends), ends, layer=layer, line=line)


def _past(c: Context, s: dict[str, Any]) -> Number:
    past = c.number(s["past"])
    if past < 0:
        raise Broken("A centre line runs past by 0 or more.")
    return past


def _centre_mark(c: Context, s: dict[str, Any], made: Making) -> None:
    f, past = c.feature(s["of"]), _past(c, s)
    assert isinstance(f.shape, Round)
    (x, y), r = f.exact[0] if f.exact else f.shape.center, f.shape.radius
    _centre_edge(made, (x - r, y), (x + r, y), past)
    _centre_edge(made, (x, y - r), (x, y + r), past)


def _centre_line(c: Context, s: dict[str, Any], made: Making) -> None:
    if "points" in s:
        a, b = (c.point(p) for p in s["points"])
    else:
        f, g = s["between"]
        found = lines.halfway(c.straight(f), c.straight(g))
        if found is None:
            raise Broken("The edges are not parallel: a bisector lies between them.")
        a, b = found
    _centre_edge(made, a, b, _past(c, s))


def _pitch_circle(c: Context, s: dict[str, Any], made: Making) -> None:
    """Draw a pitch circle and its holes, the first at an angle, the others counter-clockwise from it."""
    x, y = c.point(s["centre"])
    radius = half(c.length(s["diameter"], "diameter"))
    holes = c.count(s["holes"], "holes", 1, MOST_HOLES)
    hole, first = half(c.length(s["hole"], "diameter of the holes")), c.number(s["first"])
    made.add(
        Round(plain((x, y)), float(radius)),
        ((x, y),),
        layer=made.said_layer or CENTRE,
        line=made.line or "chain",
    )
    for k in range(holes):
        at = first + share(360 * k, holes)
        made.circle((x + radius * cosine(at), y + radius * sine(at)), hole)


def _hide(c: Context, s: dict[str, Any], made: Making) -> None:
    for f in things(c, s["what"]):
        made.change(f, f._replace(layer=made.said_layer or HIDDEN, line=made.line or "dashed"))


KINDS: dict[str, Build] = {
    "guide": _guide,
    "mitre": _mitre,
    "carry": _carry,
    "centre mark": _centre_mark,
    "centre line": _centre_line,
    "pitch circle": _pitch_circle,
    "hide edges": _hide,
}
"""How each kind of step is built."""
