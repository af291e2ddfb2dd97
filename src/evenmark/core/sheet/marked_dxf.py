"""Marks over a student's own file: wrong features in red, numbered balloons, comments, and the slips beside
the drawing."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

from evenmark.core.formats.dxf_over import PREFIX, Over, OverText, arc_through, draw_over
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.points import Point, distance, middle
from evenmark.core.sheet.balloons import stand
from evenmark.core.sheet.marked import MarkedSheet, letter
from evenmark.core.sheet.tracing import Along, Plain, curve_of

FINDINGS, BALLOONS, COMMENTS, LIST = (PREFIX + w for w in ("FINDINGS", "BALLOONS", "COMMENTS", "LIST"))
LAYERS = {FINDINGS: 1, BALLOONS: 1, COMMENTS: 4, LIST: 8}
PAPER = 200.0
"""Marks are as large as if the drawing were this many millimetres wide on paper."""
BALLOON, HEIGHT, LINE = 3.4, 3.0, 5.0
MOST_LETTERS = 110


def marked_dxf(data: bytes, sheet: MarkedSheet, back: Callable[[Point], Point]) -> bytes:
    """Return a student's file with its marks; ``back`` gives where a place on the key lies in the file.
    Raises UnreadableDrawing."""
    left, bottom, right, top = sheet.drawn["box"]
    extent = max(right - left, top - bottom, tol.LEAST_EXTENT)
    size = distance(back((left, top)), back((left + extent, top))) / PAPER
    over = Over(layers=dict(LAYERS))
    for f in sheet.drawn["features"]:
        if f["id"] in sheet.wrong:
            _redrawn(over, curve_of(f["shape"]), back)
    _balloons(over, sheet, back, PAPER / extent, size)
    for pin in sheet.pins:
        if pin.at is not None:
            at = back(pin.at)
            over.circles.append((at, BALLOON * size, COMMENTS))
            over.texts.append(
                OverText(text=letter(pin.number), at=at, height=HEIGHT * size, layer=COMMENTS, centred=True)
            )
    corners = [back(p) for p in ((left, bottom), (right, bottom), (left, top), (right, top))]
    x, y = max(c[0] for c in corners) + 30 * size, max(c[1] for c in corners)
    for n, line in enumerate(_lines(sheet)):
        if line:
            over.texts.append(
                OverText(text=line, at=(x, y - n * LINE * size), height=HEIGHT * size, layer=LIST)
            )
    return draw_over(data, over)


def _redrawn(over: Over, curve: Plain, back: Callable[[Point], Point]) -> None:
    if isinstance(curve, Round):
        center, start, via, end = map(back, (curve.center, curve.start, curve.middle, curve.end))
        if curve.whole:
            over.circles.append((center, distance(center, start), FINDINGS))
        else:
            over.arcs.append(arc_through(start, via, end, center, FINDINGS))
        return
    points = [back(p) for p in (curve.points if isinstance(curve, Along) else (curve.start, curve.end))]
    over.lines += [(a, b, FINDINGS) for a, b in pairwise(points)]


def _balloons(over: Over, sheet: MarkedSheet, back: Callable[[Point], Point], k: float, size: float) -> None:
    """Place balloons as on paper, ``k`` mm to a unit of the key."""
    left, bottom, right, top = (v * k for v in sheet.drawn["box"])
    places = {b.id: (b.at[0] * k, b.at[1] * k) for b in sheet.balloons}
    room = (left - 30.0, bottom - 30.0, right + 30.0, top + 30.0)
    for i, p in stand(places, middle((left, bottom), (right, top)), room).items():
        place, at = back((places[i][0] / k, places[i][1] / k)), back((p[0] / k, p[1] / k))
        far = distance(place, at)
        if far > BALLOON * size:
            share = (far - BALLOON * size) / far
            rim = (place[0] + (at[0] - place[0]) * share, place[1] + (at[1] - place[1]) * share)
            over.lines.append((place, rim, BALLOONS))
        over.circles.append((at, BALLOON * size, BALLOONS))
        over.texts.append(OverText(text=str(i), at=at, height=HEIGHT * size, layer=BALLOONS, centred=True))


def _lines(sheet: MarkedSheet) -> list[str]:
    lines = [f"{sheet.title}, {sheet.student}: {sheet.score}", ""]
    for one in sheet.lessons:
        about = ", ".join(map(str, one.explains[:8]))
        lines += [*_wrapped(f"{about}: {one.says}"), *_wrapped(f"Next time: {one.avoid}"), ""]
    for pin in sheet.pins:
        lines += _wrapped(f"Comment {letter(pin.number)}: {pin.text} ({pin.by})")
    return lines


def _wrapped(text: str) -> list[str]:
    out, line = [], ""
    for word in text.split():
        if line and len(line) + len(word) >= MOST_LETTERS:
            out.append(line)
            line = word
        else:
            line = f"{line} {word}".strip()
    return [*out, line] if line else out
