"""The exercise sheet as SVG in millimetres of paper: what a student is given to draw from.

Border and title block follow ISO 5457 (border 20 mm on the filing edge, 10 mm elsewhere), paper and scale the
tables of `conventions`; line weights 0.5 and 0.25 mm (ISO 128-2, wide to narrow 2:1). Values written down
from memory of those standards.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple
from xml.sax.saxutils import escape

from evenmark.core.conventions.papers import PAPERS, Placed, largest_scale, series
from evenmark.core.drawing import model as drawn
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.picture import CAPITALS, LETTER_WIDTH
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance, point_on
from evenmark.core.geometry.units import MM
from evenmark.core.linework.model import Linework
from evenmark.core.sheet.cells import fitted
from evenmark.core.sheet.frame import EMPTY_BOX, Frame, Lettering, num
from evenmark.core.sheet.tracing import box_with

FILING_EDGE, EDGE, STRIP = 20.0, 10.0, 14.0
WIDE, NARROW = 0.5, 0.25
LETTERING = 4.6
"""Size of the words in the title block, mm."""
LEAST_TRUE = 40.0
"""Drawings with no side of this length are enlarged rather than printed at true size, mm."""
LEAST_LETTERING = 2.2
"""Lettering smaller than this cannot be read on the printed sheet, mm."""
DASHES = {
    "dashed": "3.5 1.5",
    "dotted": "0.1 1.2",
    "chain": "8 1.5 1 1.5",
    "double chain": "8 1.5 1 1.5 1 1.5",
}
INK = "#23282F"
BALLOON = 2.4
"""Radius of a balloon beside a size, mm."""


@dataclass(frozen=True, kw_only=True, slots=True)
class SheetWords:
    """What stands in the title block."""

    title: str
    school: str
    unit: str


def placed_on(size: tuple[float, float], unit: str, paper: str = "", *, true_size: bool = False) -> Placed:
    """Return how a drawing (its sides in mm) stands on a paper of its unit's series.

    On a named paper, else on the smallest, it has the largest standard scale that fits. With ``true_size``
    and no paper named it stands 1:1 on the smallest paper that holds it so: the largest paper and a reduction
    where none does, an enlargement where it would be too small to be read. Raises KeyError for a paper that
    there is not.
    """
    papers = series(unit)
    names = list(papers)
    if true_size and not paper:
        fits = (n for n in names if all(s <= r for s, r in zip(size, _room(papers[n]), strict=True)))
        paper = next(fits, names[-1]) if max(size) >= LEAST_TRUE else names[0]
        if max(size) >= LEAST_TRUE and all(s <= r for s, r in zip(size, _room(papers[paper]), strict=True)):
            return Placed(paper=paper, width=papers[paper][0], height=papers[paper][1], scale=1.0)
    paper = paper or names[0]
    width, height = PAPERS[paper]
    return Placed(paper=paper, width=width, height=height, scale=largest_scale(_room((width, height)), size))


def _room(paper: tuple[float, float]) -> tuple[float, float]:
    """Return the room inside border and strip, mm."""
    return paper[0] - FILING_EDGE - EDGE - 16, paper[1] - 2 * EDGE - STRIP - 16


def exercise_sheet(
    linework: Linework,
    annotations: tuple[drawn.Entity, ...],
    words: SheetWords,
    unit_mm: float = MM.mm,
    paper: str = "",
    *,
    true_size: bool = False,
    balloons: Sequence[Numbered] = (),
) -> tuple[str, Placed]:
    """Return the key on its sheet with its dimensions, and how it stands there (see `placed_on`)."""
    box = box_with(linework.box, annotations) or EMPTY_BOX
    wide, high = (
        max(box[2] - box[0], tol.LEAST_EXTENT) * unit_mm,
        max(box[3] - box[1], tol.LEAST_EXTENT) * unit_mm,
    )
    placed = placed_on((wide, high), words.unit, paper, true_size=true_size)
    width, height, scale = placed.width, placed.height, placed.scale
    per_unit = scale * unit_mm
    left = FILING_EDGE + (width - FILING_EDGE - EDGE - wide * scale) / 2
    top = EDGE + (height - 2 * EDGE - STRIP - high * scale) / 2
    frame = Frame(box)
    body = [
        _path(
            frame.curve(f),
            WIDE if f.style.line_type == "continuous" else NARROW,
            DASHES.get(f.style.line_type),
            per_unit,
        )
        for f in linework.curves.values()
    ]
    body += [
        _path(frame.curve(e), NARROW, None, per_unit) for e in annotations if not isinstance(e, drawn.Text)
    ]
    lettered: list[Lettering] = [*linework.texts, *(a for a in annotations if isinstance(a, drawn.Text))]
    body += [_lettering(t, frame, per_unit) for t in lettered]
    body += [_balloon(b, frame, per_unit) for b in balloons]
    body.append(_axes(frame, per_unit, box))
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{num(width)}mm" height="{num(height)}mm" '
        f'viewBox="0 0 {num(width)} {num(height)}" font-family="Even Mark Lettering">'
        f'<rect width="{num(width)}" height="{num(height)}" '
        f'fill="#fff"/>{_border(width, height, words, placed.said)}'
        f'<g transform="translate({num(left)} {num(top)}) scale({num(per_unit)})" fill="none" stroke="{INK}" '
        f'stroke-linecap="round">{"".join(body)}</g></svg>'
    )
    return svg, placed


class Numbered(NamedTuple):
    """A number in a balloon beside the figure of a size: where the figure stands and how it is turned, and
    how far it reaches from there along itself, in key units."""

    number: int
    at: Point
    turn_deg: float
    reach: float


def beside_sizes(
    dimensions: Iterable[Dimension], annotations: Iterable[drawn.Entity], numbers: Mapping[str, int]
) -> tuple[Numbered, ...]:
    """Return the balloons of dimensions, by the numbers of those that have one."""
    figures = [a for a in annotations if isinstance(a, drawn.Text)]
    out = []
    for d in dimensions:
        number = numbers.get(d.id)
        if number is None:
            continue
        figure = min(figures, key=lambda t: distance(t.at, d.at), default=None)
        if figure is None:
            out.append(Numbered(number, d.at, 0.0, 0.0))
        else:
            reach = figure.height * LETTER_WIDTH * len(figure.wording) / 2
            out.append(Numbered(number, figure.at, figure.turn_deg, reach))
    return tuple(out)


def _balloon(b: Numbered, frame: Frame, per_unit: float) -> str:
    """Return a balloon before the figure that it belongs to."""
    r, size = BALLOON / per_unit, num(2.7 / per_unit)
    turn = math.radians(b.turn_deg + 180.0)
    x, y = frame.at(point_on(b.at, b.reach + 1.3 * r, turn))
    return (
        f'<circle cx="{num(x)}" cy="{num(y)}" r="{num(r)}" fill="#fff" '
        f'stroke-width="{num(NARROW / per_unit)}"/>'
        f'<text x="{num(x)}" y="{num(y + 0.9 / per_unit)}" font-size="{size}" text-anchor="middle" '
        f'fill="{INK}" stroke="none">{b.number}</text>'
    )


def _path(path: str, weight: float, dashes: str | None, per_unit: float) -> str:
    dash = (
        f' stroke-dasharray="{" ".join(num(float(d) / per_unit) for d in dashes.split())}"' if dashes else ""
    )
    return f'<path d="{path}" stroke-width="{num(weight / per_unit)}"{dash}/>'


def _lettering(t: Lettering, frame: Frame, per_unit: float) -> str:
    text = frame.text(t)
    across, up = text["anchor"].split()
    height = max(text["height"], LEAST_LETTERING / per_unit)
    size = height / CAPITALS
    lines = text["wording"].split("\n")
    shift = {"top": height, "middle": height / 2, "bottom": 0.0, "baseline": 0.0}[up]
    anchor = {"left": "start", "centre": "middle", "right": "end"}[across]
    (x, y), turn = text["at"], -text["turn"]
    rows = "".join(
        f'<text x="0" y="{num(shift + n * size * 1.25)}" font-size="{num(size)}" '
        f'text-anchor="{anchor}">{escape(row)}</text>'
        for n, row in enumerate(lines)
    )
    return (
        f'<g transform="translate({num(x)} {num(y)}) rotate({num(turn)})" fill="{INK}" '
        f'stroke="none">{rows}</g>'
    )


def _axes(frame: Frame, per_unit: float, box: tuple[float, float, float, float]) -> str:
    """Return the origin with short axes, when it lies on or near the drawing."""
    reach = 12 / per_unit
    if not (box[0] - reach <= 0 <= box[2] + reach and box[1] - reach <= 0 <= box[3] + reach):
        return ""
    x, y = frame.at((0.0, 0.0))
    arm, w = 5 / per_unit, num(0.35 / per_unit)
    letter = f'fill="#0B6B6F" stroke="none" font-size="{num(3 / per_unit)}"'
    return (
        f'<g stroke="#0B6B6F" stroke-width="{w}"><path d="M{num(x)} {num(y)}h{num(arm)}M{num(x)} '
        f'{num(y)}v{num(-arm)}"/>'
        f'<circle cx="{num(x)}" cy="{num(y)}" r="{num(0.9 / per_unit)}" fill="#fff"/>'
        f'<text x="{num(x + arm * 1.15)}" y="{num(y + 1 / per_unit)}" {letter}>x</text>'
        f'<text x="{num(x - 0.8 / per_unit)}" y="{num(y - arm * 1.2)}" {letter}>y</text></g>'
    )


def _border(width: float, height: float, words: SheetWords, scale: str) -> str:
    right, bottom = width - EDGE, height - EDGE
    top = bottom - STRIP
    cells: list[tuple[float, str, str]] = [
        (FILING_EDGE, "Drawn by", ""),
        (FILING_EDGE + 80, "Title", words.title),
        (right - 92, "School", words.school),
        (right - 46, "Unit", words.unit),
        (right - 26, "Scale", scale),
    ]
    parts = [
        f'<g fill="none" stroke="{INK}"><rect x="{FILING_EDGE}" y="{EDGE}" '
        f'width="{num(width - FILING_EDGE - EDGE)}" '
        f'height="{num(height - 2 * EDGE)}" stroke-width="0.7"/><path d="M{FILING_EDGE} '
        f'{num(top)}H{num(right)}" stroke-width="0.5"/>'
    ]
    parts += [f'<path d="M{num(x)} {num(top)}V{num(bottom)}" stroke-width="0.25"/>' for x, _, _ in cells[1:]]
    parts.append(f'</g><g fill="{INK}">')
    ends = [x for x, _, _ in cells[1:]] + [right]
    for (x, label, value), end in zip(cells, ends, strict=True):
        parts.append(
            f'<text x="{num(x + 2)}" y="{num(top + 4)}" font-size="2.6" fill="#5B636E">{escape(label)}</text>'
        )
        lines, size = fitted(value, end - x - 4, LETTERING)
        places = (top + 10.5,) if len(lines) == 1 else (top + 8.3, top + 12.0)
        parts += [
            f'<text x="{num(x + 2)}" y="{num(y)}" font-size="{num(size)}">{escape(line)}</text>'
            for line, y in zip(lines, places, strict=True)
        ]
    return "".join(parts) + "</g>"
