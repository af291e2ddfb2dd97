"""What is printed in a bounded process: marked drawings as PDF, and as DXF over the student's own file."""

from __future__ import annotations

import math
from collections.abc import Callable

from evenmark.core.drawing.model import Drawing
from evenmark.core.formats import read_file
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.marking.marks_types import MarksJson
from evenmark.core.marking.rules_types import ViewJson
from evenmark.core.sheet.marked import MarkedSheet


def print_pdf(sheet: MarkedSheet) -> bytes:
    """Return a marked drawing as PDF."""
    from evenmark.core.sheet.pdf import marked_pdf

    return marked_pdf(sheet)


def print_dxf(sheet: MarkedSheet, attempt_data: bytes, marks: MarksJson, views: list[ViewJson]) -> bytes:
    """Return a student's file with its marks over it. ``views`` are the rule set's, for drawings whose views
    were placed by themselves."""
    from evenmark.core.sheet.marked_dxf import marked_dxf

    return marked_dxf(attempt_data, sheet, _back(read_file(attempt_data), sheet, marks, views))


def _back(
    drawing: Drawing, sheet: MarkedSheet, marks: MarksJson, views: list[ViewJson]
) -> Callable[[Point], Point]:
    """Return where a place on the key lies in the attempt's own file: what laid it there, undone."""
    p = marks["placement"]
    motion = Similarity(
        scale=p["scale"], mirror=p["mirror"], turn_deg=p["turn"], shift=(p["shift"][0], p["shift"][1])
    )
    undone = motion.undone
    converted = any(n["code"] == "unit-converted" for n in marks["notes"])
    scale = drawing.unit.mm / sheet.unit_mm if converted and drawing.unit else 1.0
    boxes = {v["id"]: v["box"] for v in views}
    shifts = [(boxes[v["view"]], v["shift"]) for v in p["views"] if v["view"] in boxes]

    def outside(box: list[float], x: float, y: float) -> float:
        return math.hypot(max(box[0] - x, 0, x - box[2]), max(box[1] - y, 0, y - box[3]))

    def back(q: Point) -> Point:
        x, y = q
        if shifts:
            _, (dx, dy) = min(shifts, key=lambda s: outside(s[0], x, y))
            x, y = x - dx, y - dy
        u, v = undone.point((x, y))
        return (u / scale, v / scale)

    return back
