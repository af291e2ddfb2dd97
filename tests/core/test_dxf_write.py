"""Writing DXF: what is written is what is read, in every manner; the library's own audit finds nothing to
mend."""

from __future__ import annotations

import io
from dataclasses import replace

import pytest
from ezdxf import recover
from ezdxf.filemanagement import read as library_read

from evenmark.core.drawing import placed
from evenmark.core.drawing.annotations import Dimension, Note
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Drawing, Line, Text
from evenmark.core.drawing.picture import figure
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry.units import INCH, MM
from tests.builders import PLATE, arc, drawing, text

EVERYTHING = drawing(PLATE, arc((100, 20), 8, 300, 60), text("GATE PLATE", (3, 60)))


@pytest.mark.parametrize("version", ["R12", "R2000", "R2007", "R2018"])
def test_the_library_has_nothing_to_mend(version: str) -> None:
    doc, auditor = recover.read(io.BytesIO(write_dxf(EVERYTHING, Manner(version=version))))
    assert not auditor.errors
    assert not auditor.fixes
    assert len(doc.modelspace()) == 8


@pytest.mark.parametrize(
    "manner", [Manner(), Manner(version="R12"), Manner(binary=True), Manner(explicit=True)]
)
def test_numbers_survive_to_the_last_digit(manner: Manner) -> None:
    again = read_file(write_dxf(EVERYTHING, manner))
    assert [e.start for e in again.entities if hasattr(e, "start") and not hasattr(e, "radius")] == [
        e.start for e in EVERYTHING.entities if hasattr(e, "start") and not hasattr(e, "radius")
    ]
    assert [e.style for e in again.entities] == [e.style for e in EVERYTHING.entities]


def test_another_unit_converts_sizes() -> None:
    again = read_file(write_dxf(EVERYTHING, Manner(unit=INCH)))
    assert again.unit == INCH
    assert again.box == pytest.approx([v / 25.4 for v in EVERYTHING.box or ()])


def test_dimensions_say_what_they_measure() -> None:
    dims = (
        placed.linear((0.0, 0.0), (80.0, 0.0), 0.0, (40.0, -10.0)),
        placed.linear((0.0, 0.0), (0.0, 50.0), 90.0, (-10.0, 25.0)),
        placed.of_radius((20.0, 25.0), 6.0, (30.0, 30.0)),
        placed.of_diameter((60.0, 25.0), 6.0, (70.0, 30.0)),
    )
    data = write_dxf(replace(EVERYTHING, dimensions=dims))
    doc = library_read(io.StringIO(data.decode()))
    assert [d.get_measurement() for d in doc.modelspace().query("DIMENSION")] == pytest.approx(
        [80, 50, 6, 12]
    )
    assert [figure(d) for d in read_file(data).dimensions] == ["80", "50", "R6", "Ø12"]
    blocks = [doc.blocks[d.dxf.geometry] for d in doc.modelspace().query("DIMENSION")]
    assert [t.dxf.text for b in blocks for t in b.query("TEXT")] == ["80", "50", "R6", "Ø12"]


@pytest.mark.parametrize("wording", ["%", "%%", "%%%", "%%%%%", "5 %%d", "{%%}", "^%%x", "\\%%P"])
def test_signs_that_begin_codes_are_read_as_they_were_written(wording: str) -> None:
    size = Dimension(
        kind="linear", points=((0, 0), (9, 0)), measured=9.0, typed=wording, at=(4, 4), line=(0, 4)
    )
    note = Note(points=((0.0, 0.0), (5.0, 5.0)), wording=wording, at=(5.0, 5.0), height=3.5)
    line = Line((0, 0), (9, 0), "0", Style(), "")
    text = Text(wording, (0, 9), "left baseline", 3.5, 0.0, "0", Style(), "")
    again = read_file(write_dxf(Drawing(entities=(line, text), dimensions=(size,), notes=(note,), unit=MM)))
    assert again.dimensions[0].typed == wording
    assert again.notes[0].wording == wording
    assert [e.wording for e in again.entities if isinstance(e, Text)] == [wording]
