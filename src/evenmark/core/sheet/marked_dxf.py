"""Marks over a student's own file: wrong features in red, numbered balloons, comments, and the slips beside
the drawing."""

from __future__ import annotations

from collections.abc import Callable

from evenmark.core.formats.dxf_over import PREFIX, Over, OverText, arc_through, draw_over
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point, distance
from evenmark.core.sheet.balloons import stand
from evenmark.core.sheet.marked import MarkedSheet, letter
from evenmark.core.sheet.paths import pieces

FINDINGS, BALLOONS, COMMENTS, LIST = (PREFIX + w for w in ("FINDINGS", "BALLOONS", "COMMENTS", "LIST"))
LAYERS = {FINDINGS: 1, BALLOONS: 1, COMMENTS: 4, LIST: 8}
PAPER = 200.0
"""Marks are as large as if the drawing were this many millimetres wide on paper."""
BALLOON, HEIGHT, LINE = 3.4, 3.0, 5.0
MOST_LETTERS = 110


def marked_dxf(data: bytes, sheet: MarkedSheet, back: Callable[[Point], Point]) -> bytes:
    """Return a student's file with its marks; ``back`` gives where a place of the scene lies in the file.
    Raises UnreadableDrawing."""
    box = sheet.scene["box"]
    extent = max(box[2], box[3], tol.LEAST_EXTENT)
    size = distance(back((0.0, 0.0)), back((extent, 0.0))) / PAPER
    over = Over(layers=dict(LAYERS))
    for f in sheet.scene["features"]:
        if f["id"] in sheet.wrong:
            _redrawn(over, f["path"], back)
    _balloons(over, sheet, back, PAPER / extent, size)
    for pin in sheet.pins:
        if pin.at is not None:
            at = back(pin.at)
            over.circles.append((at, BALLOON * size, COMMENTS))
            over.texts.append(
                OverText(text=letter(pin.number), at=at, height=HEIGHT * size, layer=COMMENTS, centred=True)
            )
    corners = [back(p) for p in ((0.0, 0.0), (box[2], 0.0), (0.0, box[3]), (box[2], box[3]))]
    x, y = max(c[0] for c in corners) + 30 * size, max(c[1] for c in corners)
    for n, line in enumerate(_lines(sheet)):
        if line:
            over.texts.append(
                OverText(text=line, at=(x, y - n * LINE * size), height=HEIGHT * size, layer=LIST)
            )
    return draw_over(data, over)


def _redrawn(over: Over, path: str, back: Callable[[Point], Point]) -> None:
    for piece in pieces(path):
        a, b = back(piece.start), back(piece.end)
        if piece.radius:
            over.arcs.append(arc_through(a, back(piece.via), b, back(piece.center), FINDINGS))
        else:
            over.lines.append((a, b, FINDINGS))


def _balloons(over: Over, sheet: MarkedSheet, back: Callable[[Point], Point], k: float, size: float) -> None:
    """Place balloons as on paper, ``k`` mm to a unit of the scene."""
    box = sheet.scene["box"]
    places = {b.id: (b.at[0] * k, b.at[1] * k) for b in sheet.balloons}
    room = (-30.0, -30.0, box[2] * k + 30.0, box[3] * k + 30.0)
    for i, p in stand(places, (box[2] * k / 2, box[3] * k / 2), room).items():
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
