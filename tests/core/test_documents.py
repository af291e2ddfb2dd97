"""Whole drawings in steps: evaluated, written, read back, and marked against themselves with full marks."""

from __future__ import annotations

import io
import itertools
import math
from pathlib import Path

import pytest
from ezdxf import recover
from shapely.geometry import Polygon

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.drawing.model import Circle, Drawing, Line
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.formats.svg_write import write_svg
from evenmark.core.marking import check, prepare
from evenmark.core.sheet.drawn_pdf import drawing_pdf
from evenmark.demo.parts import KIT
from tests.catalogue import EXAMPLES, Example, number_of, wrong_in

OWN = Path(__file__).parents[1] / "documents"
DOCUMENTS = {p.stem: p.read_text() for p in sorted([*OWN.glob("*.txt"), *KIT.glob("*.txt")])}


@pytest.mark.parametrize("name", DOCUMENTS)
def test_a_document_is_as_it_says(name: str) -> None:
    example = Example(name, DOCUMENTS[name])
    assert wrong_in(example, example.built()) == []


@pytest.mark.parametrize("version", ["R2000", "R2010", "R2018"])
@pytest.mark.parametrize("name", DOCUMENTS)
def test_a_document_marked_against_itself_is_full(name: str, version: str) -> None:
    text = DOCUMENTS[name]
    key = read_file(write_dxf(build(from_text(text)).drawing, Manner(version=version, polylines=True)))
    for attempt in (key, read_file(text.encode())):
        sheet = check(prepare(key), attempt)
        assert (sheet.earned, sheet.causes) == (sheet.possible, ())
        assert not [f for f in sheet.findings if f.verdict != "met"]


@pytest.mark.parametrize("name", DOCUMENTS)
def test_a_document_comes_out_as_svg_and_pdf(name: str) -> None:
    drawing = build(from_text(DOCUMENTS[name])).drawing
    again = read_file(write_svg(drawing))
    assert again.unit == drawing.unit
    straight = [e for e in drawing.entities if isinstance(e, Line)]
    found = {(e.start, e.end) for e in again.entities if isinstance(e, Line)}
    assert {(e.start, e.end) for e in straight} <= found  # to the last digit
    circles = {(e.center, e.radius) for e in again.entities if isinstance(e, Circle)}
    assert {(e.center, e.radius) for e in drawing.entities if isinstance(e, Circle)} <= circles
    pdf = drawing_pdf(drawing, name)
    assert pdf.startswith(b"%PDF")
    assert pdf == drawing_pdf(drawing, name)


def test_the_bracket_has_its_views_in_line() -> None:
    d = build(from_text(DOCUMENTS["bracket"])).drawing
    assert d.endless == ()  # all guides are gone
    hidden = [e for e in d.entities if e.layer == "hidden"]
    assert {e.style.line_type for e in hidden} == {"dashed"}
    assert len(hidden) == 4


# facts of the trade: common practice, no published source


def value(text: str, what: str) -> float:
    built = build(from_text(text))
    assert not built.problems
    return float(number_of(built, what))


def lines(text: str) -> Drawing:
    return build(from_text(text)).drawing


def test_a_strip_of_260_with_two_cells_of_80_leaves_100() -> None:
    text = "line 0, 0; right 260\nline 0, 10; right 80\nline end of edge 2; right 80\n"
    assert value(text + "line end of edge 3; right 260 - 2*80", "length of edge 4") == 100
    assert value(text, "distance of (end of edge 3) and (260, 10)") == 100


def test_a_block_of_64_with_walls_of_20_leaves_a_slot_of_24() -> None:
    text = (
        "chain -32, 0; right 64; up 40; left 20; down 25; left 64 - 2*20; up 25; left 20; close\n"
        "line 0, 0; up 60; layer centre\npoint m; middle of edge 1.5\n"
    )
    assert value(text, "length of edge 1.5") == 24
    assert (
        value(text, "distance of (start of edge 1.5) and (level with point m plumb with start of edge 2)")
        == 12
    )


def test_a_frame_of_letter_size_is_stretched_to_the_next() -> None:
    text = (
        "unit in\nrectangle 0, 0; 11, 8.5\nstretch 5, -1; 12, 9; by 6, 0\nstretch -1, 4; 18, 9; by 0, 2.5\n"
    )
    assert lines(text).box == (0, 0, 17, 11)


def test_300_up_and_400_at_minus_45_moves_by_282_84_and_17_16() -> None:
    d = lines("chain 0, 0; 300 toward 90; 400 toward -45")
    end = [e for e in d.entities if isinstance(e, Line)][-1].end
    assert (round(end[0], 2), round(end[1], 2)) == (282.84, 17.16)


def test_a_quarter_inch_past_is_6_35_mm() -> None:
    assert (
        value('circle 0, 0; radius 10\ncentre mark circle 1; past 0.25"', "length of edge 2.1")
        == 20 + 2 * 6.35
    )


def test_a_rectangle_of_24_by_48_is_144_round() -> None:
    d = lines("rectangle 0, 0; 24 by 48")
    assert sum(math.dist(e.start, e.end) for e in d.entities if isinstance(e, Line)) == 144
    corners = [e.start for e in d.entities if isinstance(e, Line)]
    assert Polygon(corners).area == 24 * 48


@pytest.mark.parametrize("turn", [15.0, 60.0, 90.0, 145.0])
def test_a_fillet_touches_at_both_of_its_ends(turn: float) -> None:
    text = f"line 0, 0; right 90\nline 0, 0; 80 toward {turn}\nfillet edge 1; edge 2; radius 5"
    ends = ("start of arc 3", "end of arc 3")
    for edge, foot in itertools.product(("edge 1", "edge 2"), ["centre of arc 3"]):
        off = value(text, f"distance of (foot on {edge} from {foot}) and ({foot})")
        assert off == pytest.approx(5, abs=1e-12)
    for end in ends:
        near = min(
            value(text, f"distance of ({end}) and ({which} of {edge})")
            for edge in ("edge 1", "edge 2")
            for which in ("start", "end")
        )
        assert near == pytest.approx(0, abs=1e-12)


@pytest.mark.parametrize("version", ["R12", "R2000", "R2018"])
def test_the_library_finds_nothing_to_mend_in_what_is_written(version: str) -> None:
    texts = [*DOCUMENTS.values(), *(e.text for e in EXAMPLES)]
    for text in texts:
        drawing = build(from_text(text)).drawing
        data = write_dxf(drawing, Manner(version=version, polylines=True))
        _, auditor = recover.read(io.BytesIO(data))
        assert [e.message for e in (*auditor.errors, *auditor.fixes)] == []
        again = read_file(data)
        assert not again.oddities
        assert len(again.dimensions) == len(drawing.dimensions)
