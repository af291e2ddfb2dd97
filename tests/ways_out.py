"""Every way by which a marked drawing comes out: what is stored, the PDF, the DXF over the student's own
file, which is read again."""

from __future__ import annotations

import io
import json
from collections.abc import Iterable
from typing import Any

from pypdf import PdfReader

from evenmark.core.formats import read_file
from evenmark.core.geometry.units import BY_SYMBOL, MM
from evenmark.core.sheet.marked import Balloon, Lesson, MarkedSheet, Pin
from evenmark.services.engine_work import Marked, mark
from evenmark.services.print_work import print_dxf, print_pdf
from evenmark.services.prints import row_of


def storable(value: Any) -> str:
    """Return a value as the database would keep it; raises where it could not."""
    text = json.dumps(value, allow_nan=False)
    for word in _words(value):
        word.encode()
        assert "\0" not in word
    return text


def _words(value: Any) -> Iterable[str]:
    if isinstance(value, str):
        yield value
    elif isinstance(value, dict):
        for k, v in value.items():
            yield from _words(k)
            yield from _words(v)
    elif isinstance(value, list | tuple):
        for v in value:
            yield from _words(v)


def sheet_of(marked: Marked) -> MarkedSheet:
    """A marked drawing with everything on it that a page may ask to be drawn."""
    findings = marked.marks["findings"]
    unit = marked.marks["unit"] or "mm"
    open_ones = [f for f in findings if f["verdict"] not in ("met", "follows")]
    drawn = {p for f in open_ones for i in f["features"] if (p := marked.partners.get(i))}
    return MarkedSheet(
        title="Sluice gate plate",
        student="Wren Halloran",
        group="Drawing 1",
        handed_in="Try 1",
        file="a.dxf",
        score="12.00 of 100",
        unit=unit,
        unit_mm=BY_SYMBOL.get(unit, MM).mm,
        drawn=marked.drawn,
        wrong=frozenset(drawn),
        sketches=tuple(m for f in open_ones for m in marked.sketches.get(f["id"], ())),
        balloons=tuple(
            Balloon(id=f["id"], at=tuple(marked.places[f["id"]]), verdict=f["verdict"])
            for f in open_ones
            if f["id"] in marked.places
        ),
        pins=(Pin(number=1, text="See here", by="Maren", at=(1.0, 1.0)),),
        lessons=tuple(
            Lesson(
                says=c["says"],
                lines=(c["says"],),
                avoid="Look twice.",
                explains=tuple(c["explains"]),
                costs="1.00",
            )
            for c in marked.marks["causes"]
        ),
        rows=tuple(row_of({**f, "name": f"{f['kind']} {' '.join(f['features'])}"}, unit) for f in findings),
        notes=tuple(n["says"] for n in marked.marks["notes"]),
        key=None,
    )


def every_way(data: bytes, keys: list[bytes], rules: dict[str, Any]) -> Marked:
    """Mark a file and bring it out by every way; whatever breaks is raised."""
    marked = mark(keys, rules, data, "a.dxf", {"name": "Wren Halloran", "group": "Drawing 1"})
    for part in (marked.marks, marked.drawn, marked.partners, marked.sketches, marked.places):
        storable(part)
    sheet = sheet_of(marked)
    pages = PdfReader(io.BytesIO(print_pdf(sheet))).pages
    assert len(pages) >= 2
    read_file(print_dxf(sheet, data, marked.marks, []))
    return marked
