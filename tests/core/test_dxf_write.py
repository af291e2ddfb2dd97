"""Writing DXF: what is written is what is read, in every manner; the library's own audit finds nothing to
mend."""

from __future__ import annotations

import io

import pytest
from ezdxf import recover
from ezdxf.filemanagement import read as library_read

from evenmark.core.formats import read
from evenmark.core.formats.dxf_write import Dimension, Manner, write
from evenmark.core.geometry.units import INCH
from tests.builders import PLATE, arc, drawing, text

EVERYTHING = drawing(PLATE, arc((100, 20), 8, 300, 60), text("GATE PLATE", (3, 60)))


@pytest.mark.parametrize("version", ["R12", "R2000", "R2007", "R2018"])
def test_the_library_has_nothing_to_mend(version: str) -> None:
    doc, auditor = recover.read(io.BytesIO(write(EVERYTHING, Manner(version=version))))
    assert not auditor.errors
    assert not auditor.fixes
    assert len(doc.modelspace()) == 8


@pytest.mark.parametrize(
    "manner", [Manner(), Manner(version="R12"), Manner(binary=True), Manner(explicit=True)]
)
def test_numbers_survive_to_the_last_digit(manner: Manner) -> None:
    again = read(write(EVERYTHING, manner))
    assert [e.start for e in again.entities if hasattr(e, "start") and not hasattr(e, "radius")] == [
        e.start for e in EVERYTHING.entities if hasattr(e, "start") and not hasattr(e, "radius")
    ]
    assert [e.style for e in again.entities] == [e.style for e in EVERYTHING.entities]


def test_another_unit_converts_sizes() -> None:
    again = read(write(EVERYTHING, Manner(unit=INCH)))
    assert again.unit == INCH
    assert again.box == pytest.approx([v / 25.4 for v in EVERYTHING.box or ()])


def test_dimensions_say_what_they_measure() -> None:
    dims = [
        Dimension(kind="linear", a=(0, 0), b=(80, 0), at=(0, -10)),
        Dimension(kind="linear", a=(0, 0), b=(0, 50), at=(-10, 0), turn_deg=90.0),
        Dimension(kind="radius", a=(20, 25), radius=6.0, turn_deg=30.0),
        Dimension(kind="diameter", a=(60, 25), radius=6.0, turn_deg=30.0),
    ]
    data = write(EVERYTHING, None, dims)
    doc = library_read(io.StringIO(data.decode()))
    assert [d.get_measurement() for d in doc.modelspace().query("DIMENSION")] == pytest.approx(
        [80, 50, 6, 12]
    )
    shown = [t.wording for t in read(data, annotations=True).annotations if hasattr(t, "wording")]
    assert shown == ["80", "50", "R6", "Ø12"]
    assert read(data).annotations == ()
