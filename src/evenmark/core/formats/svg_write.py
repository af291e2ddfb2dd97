"""Drawing to SVG bytes, at true size: one group a layer, lines and arcs as such, dimensions, notes and
hatching as their pictures.

Coordinates are those of the drawing with y turned over; `svg_read` knows that by an attribute of the root, so
that lines and circles are read again to the last digit. Lettering stands by its baseline, which is all that
SVG knows.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from xml.sax.saxutils import escape, quoteattr

from evenmark.core.conventions.lines import PATTERNS
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, FreeCurve, Line, Text
from evenmark.core.drawing.picture import CAPITALS, lines_of
from evenmark.core.drawing.shown import all_shown, box_shown
from evenmark.core.formats.svg_words import OWN
from evenmark.core.geometry.points import TAU, Point, point_on
from evenmark.core.geometry.units import INCH, MM

EMPTY = (0.0, 0.0, 100.0, 70.0)
ROOM, USUAL_WEIGHT = 10.0, 0.25
"""Round the drawing, mm; weight of what states none, mm."""
COLOURS = {1: "#c4352b", 2: "#8a5a00", 3: "#0b6b6f", 4: "#77808b", 5: "#2b5fa8", 6: "#5f4b8b", 7: "#000000"}


def write_svg(drawing: Drawing) -> bytes:
    """Return the bytes of an SVG file."""
    unit = drawing.unit or MM
    shown = all_shown(drawing)
    room = ROOM / unit.mm
    left, bottom, right, top = box_shown(shown) or EMPTY
    left, bottom, right, top = left - room, bottom - room, right + room, top + room
    wide, high = right - left, top - bottom
    said = "in" if unit == INCH else "mm"
    size = 1.0 if unit == INCH else unit.mm
    names = dict.fromkeys([*drawing.layers, *(e.layer for e in shown)])
    by_layer: dict[str, list[Entity]] = {name: [] for name in names}
    for e in shown:
        by_layer[e.layer].append(e)
    groups = "".join(_group(name, found, unit.mm) for name, found in by_layer.items())
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {OWN}="{unit.symbol}" width="{wide * size!r}{said}" '
        f'height="{high * size!r}{said}" viewBox="{left!r} {-top!r} {wide!r} {high!r}" fill="none" '
        f'stroke-linecap="round" stroke-linejoin="round">{groups}</svg>\n'
    ).encode()


def _group(layer: str, entities: Iterable[Entity], mm: float) -> str:
    drawn = "".join(_element(e, mm) for e in entities)
    return f"<g data-label={quoteattr(layer)}><title>{escape(layer)}</title>{drawn}</g>"


def _look(e: Entity, mm: float) -> str:
    color = e.style.color if isinstance(e.style.color, str) else COLOURS.get(e.style.color, "#000000")
    weight = USUAL_WEIGHT if e.style.weight is None else e.style.weight
    out = f'stroke="{color}" stroke-width="{weight / mm!r}"'
    elements = PATTERNS.get(e.style.line_type)
    if elements is not None:
        usual = sum(map(abs, elements))
        factor = (e.style.dash or usual / mm) / usual
        out += f' stroke-dasharray="{" ".join(repr(abs(d) * factor) for d in elements)}"'
    return out


def _pair(p: Point) -> str:
    return f"{p[0] + 0.0!r} {0.0 - p[1]!r}"


def _element(e: Entity, mm: float) -> str:
    if isinstance(e, Text):
        return _text(e)
    look = _look(e, mm)
    if isinstance(e, Line):
        return f'<path d="M{_pair(e.start)} L{_pair(e.end)}" {look}/>'
    if isinstance(e, Circle):
        x, y = e.center
        return f'<circle cx="{x!r}" cy="{0.0 - y!r}" r="{e.radius!r}" {look}/>'
    if isinstance(e, FreeCurve):
        first, *rest = map(_pair, e.points)
        return f'<path d="M{first} L{" ".join(rest)}" {look}/>'
    return f'<path d="{_arc(e)}" {look}/>'


def _arc(e: Arc) -> str:
    """Return the path of an arc; more than half a turn in two pieces, whose centre is then sure."""
    count = 2 if e.sweep_rad > math.pi / 2 else 1
    out = f"M{_pair(e.start)}"
    for k in range(1, count + 1):
        at = point_on(e.center, e.radius, e.start_rad + e.sweep_rad * k / count)
        large = int(e.sweep_rad / count > TAU / 2)
        out += f" A{e.radius!r} {e.radius!r} 0 {large} 0 {_pair(at)}"
    return out


def _text(e: Text) -> str:
    return "".join(map(_row, lines_of(e)))


def _row(e: Text) -> str:
    across, up = e.anchor.split()
    shift = {"top": e.height, "middle": e.height / 2}.get(up, 0.0)
    anchor = {"left": "start", "centre": "middle", "right": "end"}[across]
    color = e.style.color if isinstance(e.style.color, str) else COLOURS.get(e.style.color, "#000000")
    fits = ""
    if e.second is not None:
        fits = f' textLength="{math.dist(e.at, e.second)!r}" lengthAdjust="spacingAndGlyphs"'
    turn = f" rotate({0.0 - e.turn_deg!r})" if e.turn_deg else ""
    return (
        f'<text transform="translate({_pair(e.at)}){turn}" x="0" y="{shift!r}" '
        f'font-size="{e.height / CAPITALS!r}" font-family="Even Mark Lettering, sans-serif" '
        f'text-anchor="{anchor}" fill="{color}" stroke="none"{fits}>{escape(e.wording)}</text>'
    )
