"""Marked drawings to take away: the PDF at true scale, the DXF with marks exactly over the student's own
objects and nothing else changed."""

from __future__ import annotations

import io
import math
import re
from collections import Counter
from typing import Any

import ezdxf
import pytest
from ezdxf import recover
from pypdf import PdfReader

from evenmark.core.drawing.model import Arc, Circle, Line
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_over import PREFIX
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry.units import INCH, MM, Unit
from evenmark.core.marking import RuleSet, prepare
from evenmark.core.marking.rules_json import proposal_json
from evenmark.core.sheet.marked import Balloon, Lesson, MarkedSheet, Pin, Row, letter
from evenmark.core.sheet.pdf import marked_pdf
from evenmark.demo import parts
from evenmark.demo import slips as s
from evenmark.services.engine_work import Marked, mark
from evenmark.services.print_work import print_dxf
from tests.builders import chain, circle, drawing

CM = Unit(name="centimetre", symbol="cm", mm=10.0)
RULES: dict[str, Any] = {"placement": "slide-and-turn"}


def marked(key: bytes, attempt: bytes, placement: str = "slide-and-turn") -> tuple[Marked, MarkedSheet]:
    """An attempt held against a key, and what its marked drawing shows."""
    m = mark([key], {"placement": placement}, attempt, "a.dxf", {})
    wrong = {
        m.partners[i]
        for f in m.marks["findings"]
        if f["verdict"] == "missed"
        for i in f["features"]
        if i in m.partners
    }
    return m, MarkedSheet(
        title="Crank link",
        student="Zoë Łukasz",
        group="Group A",
        handed_in="Try 1",
        file="a.dxf",
        score="98.00 of 100",
        unit=m.marks["unit"],
        unit_mm=MM.mm if m.marks["unit"] == "mm" else INCH.mm,
        drawn=m.drawn,
        wrong=frozenset(wrong),
        balloons=tuple(
            Balloon(id=f["id"], at=tuple(m.places[f["id"]]), verdict=f["verdict"])  # type: ignore[arg-type]
            for f in m.marks["findings"]
            if f["verdict"] != "met" and f["id"] in m.places
        ),
        pins=(Pin(number=1, text="Look at this corner.", by="Ada", at=(10.0, 10.0)),),
        lessons=tuple(
            Lesson(says=c["says"], lines=(), avoid="Measure it.", explains=tuple(c["explains"]), costs="2.00")
            for c in m.marks["causes"]
        ),
        rows=tuple(
            Row(
                id=f["id"],
                name=f["kind"],
                asked="1",
                drawn="2",
                off="1",
                verdict=f["verdict"],
                marks="1 of 1",
            )
            for f in m.marks["findings"]
        ),
    )


LINK = parts.crank_link().drawing
KEY = write_dxf(LINK)
SLIP = s.circle_scaled(1, 2)


# PDF


def lines_of(page: Any) -> list[tuple[float, float, float, float]]:
    """Straight lines of a page's content stream, in mm (PDF reference: m moves, l draws a line)."""
    number = r"(-?[\d.]+)"
    found = re.findall(
        rf"{number} {number} m {number} {number} l", page.get_contents().get_data().decode("latin-1")
    )
    return [tuple(float(v) * 25.4 / 72 for v in line) for line in found]  # type: ignore[misc]


@pytest.mark.parametrize(
    ("wide", "high", "unit", "paper", "scale"),
    [
        (100.0, 60.0, MM, (297.0, 210.0), 1.0),
        (60.0, 200.0, MM, (210.0, 297.0), 1.0),
        (300.0, 200.0, MM, (420.0, 297.0), 1.0),
        (1100.0, 700.0, MM, (1189.0, 841.0), 1.0),
        (9000.0, 4000.0, MM, (420.0, 297.0), 1 / 50),
        (6.0, 3.0, INCH, (279.4, 215.9), 1.0),
        (12.0, 8.0, INCH, (431.8, 279.4), 1.0),
    ],
)
def test_a_sheet_has_its_exact_size_and_the_drawing_its_true_scale(
    wide: float, high: float, unit: Any, paper: tuple[float, float], scale: float
) -> None:
    data = write_dxf(drawing(chain((0, 0), (wide, 0), (wide, high), (0, high)), unit=unit))
    page = PdfReader(io.BytesIO(marked_pdf(marked(data, data)[1]))).pages[0]
    box = [float(v) * 25.4 / 72 for v in page.mediabox[2:]]
    assert box == pytest.approx(paper, abs=1e-3)
    on_paper = wide * unit.mm * scale
    lengths = [math.dist(line[:2], line[2:]) for line in lines_of(page)]
    assert any(length == pytest.approx(on_paper, abs=2e-3) for length in lengths), sorted(lengths)[-4:]


def test_the_pdf_says_who_what_and_why_in_letters_that_can_be_searched() -> None:
    _, sheet = marked(KEY, write_dxf(SLIP(LINK)))
    reader = PdfReader(io.BytesIO(marked_pdf(sheet)))
    first, rest = reader.pages[0].extract_text(), "\n".join(p.extract_text() for p in reader.pages[1:])
    for word in ("Zoë Łukasz", "Crank link", "98.00 of 100", "to scale, 1:1", "50 mm on paper"):
        assert word in first
    assert sheet.lessons[0].says in " ".join(rest.split())
    assert "Look at this corner." in rest
    assert "Inspection list" in rest


def test_the_same_marks_give_the_same_bytes() -> None:
    _, sheet = marked(KEY, write_dxf(SLIP(LINK)))
    assert marked_pdf(sheet) == marked_pdf(sheet)


def test_an_empty_list_and_names_of_any_script_do_no_harm() -> None:
    _, sheet = marked(KEY, KEY)
    from dataclasses import replace

    bare = replace(sheet, student="王小明 Ωмега <b>&", rows=(), lessons=(), pins=(), balloons=())
    assert marked_pdf(bare).startswith(b"%PDF")


def test_comments_have_letters() -> None:
    assert [letter(n) for n in (1, 26, 27, 52, 53)] == ["A", "Z", "AA", "AZ", "BA"]


# DXF


def over(manner: Manner, attempt: Any = None, placement: str = "slide-and-turn") -> tuple[bytes, bytes]:
    """A student's file, and the same with marks over it."""
    data = write_dxf(attempt or SLIP(LINK), manner)
    m, sheet = marked(KEY, data, placement)
    return data, print_dxf(sheet, data, m.marks, [])


MANNERS = {
    "plain": Manner(),
    "shifted": Manner(shift=(120.5, -33.25)),
    "polylines": Manner(polylines=True),
    "blocks": Manner(blocks=True),
    "below": Manner(below=True),
    "R12": Manner(version="R12"),
    "R2000": Manner(version="R2000"),
    "R2018": Manner(version="R2018"),
    "binary": Manner(binary=True),
    "inches": Manner(unit=INCH),
    "centimetres": Manner(unit=CM),
}


@pytest.mark.parametrize("manner", MANNERS)
def test_marks_lie_exactly_over_what_the_student_drew(manner: str) -> None:
    before, after = over(MANNERS[manner])
    _doc, auditor = recover.read(io.BytesIO(after)) if manner != "binary" else (None, None)
    assert auditor is None or not auditor.errors
    drawn = read_file(before)
    wide = max(
        (e for e in drawn.entities if isinstance(e, Circle)), key=lambda e: -abs(e.radius - _twelve(manner))
    )
    on_marks = _entities(after, "FINDINGS")
    [e] = on_marks  # the circle that is twice too large
    assert e.dxftype() == "CIRCLE"
    assert math.dist((e.dxf.center.x, e.dxf.center.y), wide.center) < 1e-6
    assert e.dxf.radius == pytest.approx(wide.radius, rel=1e-9)


def _twelve(manner: str) -> float:
    return {"inches": 12 / 25.4, "centimetres": 1.2}.get(manner, 12.0)


def _entities(data: bytes, layer: str) -> list[Any]:
    if data[:22].endswith(b"\x1a\x00"):
        from ezdxf.document import Drawing as Document
        from ezdxf.lldxf.tagger import binary_tags_loader

        doc = Document.load(binary_tags_loader(data))
    else:
        doc = ezdxf.read(io.StringIO(data.decode("utf-8", "surrogateescape")))
    return [e for e in doc.modelspace() if e.dxf.layer == PREFIX + layer]


@pytest.mark.parametrize(
    "slip", [s.mirrored(), s.scaled(25.4), s.moved((40, 7))], ids=["mirrored", "scaled", "moved"]
)
def test_marks_lie_on_the_drawing_however_it_was_laid_on_the_key(slip: Any) -> None:
    attempt = slip(SLIP(LINK))
    before, after = over(Manner(), attempt, "as-drawn")
    centers = {
        (round(e.center[0], 6), round(e.center[1], 6), round(e.radius, 6))
        for e in read_file(before).entities
        if isinstance(e, Circle)
    }
    for e in _entities(after, "FINDINGS"):
        if e.dxftype() == "CIRCLE":
            found = min(centers, key=lambda c: math.dist(c, (e.dxf.center.x, e.dxf.center.y, e.dxf.radius)))
            # a mark sheet has nine decimals, of its scale too
            assert math.dist(found, (e.dxf.center.x, e.dxf.center.y, e.dxf.radius)) < 1e-8 * math.hypot(
                *found
            )


@pytest.mark.parametrize("manner", MANNERS)
def test_everything_of_the_student_is_kept_and_marks_are_left_out_when_handed_in_again(manner: str) -> None:
    before, after = over(MANNERS[manner])
    old, new = read_file(before), read_file(after)

    def shapes(d: Any) -> Counter[Any]:
        def rounded(e: Any) -> Any:
            if isinstance(e, Line):
                return ("line", e.layer, *(round(v, 7) + 0.0 for p in (e.start, e.end) for v in p))
            if isinstance(e, Circle | Arc):
                return (type(e).__name__, e.layer, *(round(v, 7) + 0.0 for v in (*e.center, e.radius)))
            return (type(e).__name__, e.layer)

        return Counter(rounded(e) for e in d.entities)

    assert shapes(new) == shapes(old)
    assert not any(n.startswith(PREFIX) for n in new.layers)
    assert any(o.code == "marks-left-out" for o in new.oddities)
    assert not any(o.code == "marks-left-out" for o in old.oddities)


def test_a_marked_file_that_was_corrected_earns_full_marks() -> None:
    _, after = over(Manner())
    doc = ezdxf.read(io.StringIO(after.decode()))
    for e in doc.modelspace().query("CIRCLE"):
        if e.dxf.radius == 12.0:
            e.dxf.radius = 6.0
    out = io.StringIO()
    doc.write(out)
    again = mark([KEY], RULES, out.getvalue().encode(), "a.dxf", {})
    assert again.earned == again.possible
    twice = print_dxf(marked(KEY, after)[1], after, again.marks, [])
    count = len(_entities(after, "BALLOONS"))
    assert len(_entities(twice, "BALLOONS")) <= count  # marks of an earlier return are replaced, not piled up


def test_a_drawing_in_svg_becomes_dxf() -> None:
    svg = (
        b'<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60"><g '
        b'id="outline"><rect width="100" height="60" fill="none" stroke="#000"/></g></svg>'
    )
    key = write_dxf(drawing(chain((0, 0), (100, 0), (100, 50), (0, 50))))
    m, sheet = marked(key, svg, "slide")
    after = print_dxf(sheet, svg, m.marks, [])
    assert read_file(after).entities
    assert _entities(after, "LIST")


def test_views_that_were_placed_by_themselves_are_marked_where_they_stand() -> None:
    bracket = parts.shaft_bracket().drawing
    key = write_dxf(bracket)
    rules = proposal_json(prepare(read_file(key), RuleSet(placement="slide")))
    attempt = write_dxf(s.circle_scaled(0, 1.5)(bracket))
    m = mark([key], {"placement": "slide"}, attempt, "a.dxf", {})
    _, sheet = marked(key, attempt, "slide")
    data = print_dxf(sheet, attempt, m.marks, rules.get("views") or [])
    drawn = {
        (round(c.center[0], 5), round(c.center[1], 5))
        for c in read_file(attempt).entities
        if isinstance(c, Circle)
    }
    round_ones = [e for e in _entities(data, "FINDINGS") if e.dxftype() == "CIRCLE"]
    assert round_ones
    assert all((round(e.dxf.center.x, 5), round(e.dxf.center.y, 5)) in drawn for e in round_ones)


def test_circles_far_from_the_origin_are_marked_in_place() -> None:
    far = drawing(
        chain((1e6, 1e6), (1e6 + 40, 1e6), (1e6 + 40, 1e6 + 30), (1e6, 1e6 + 30)),
        circle((1e6 + 20, 1e6 + 15), 5),
    )
    wrong = drawing(
        chain((1e6, 1e6), (1e6 + 40, 1e6), (1e6 + 40, 1e6 + 30), (1e6, 1e6 + 30)),
        circle((1e6 + 20, 1e6 + 15), 9),
    )
    m, sheet = marked(write_dxf(far), write_dxf(wrong), "as-drawn")
    [found] = _entities(print_dxf(sheet, write_dxf(wrong), m.marks, []), "FINDINGS")
    assert math.dist((found.dxf.center.x, found.dxf.center.y), (1e6 + 20, 1e6 + 15)) < 1e-6
    assert found.dxf.radius == pytest.approx(9.0, abs=1e-6)
