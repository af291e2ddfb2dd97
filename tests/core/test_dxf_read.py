"""Reading DXF: every version, every way of stating the same thing, and files that are not as they should
be."""

from __future__ import annotations

import io
import math
from dataclasses import replace
from typing import Any

import ezdxf
import pytest
from ezdxf import recover
from ezdxf.document import Drawing as DxfDocument
from ezdxf.lldxf.tagger import ascii_tags_loader, tag_compiler
from ezdxf.math import Vec2
from shapely import Polygon

from evenmark.core.drawing.model import Arc, Circle, FreeCurve, Line, Text
from evenmark.core.drawing.refusal import refuse
from evenmark.core.formats import UnreadableDrawing, read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_tags import tags
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.linework.annotations import polygon_of
from tests.builders import dxf, dxf_bytes, dxf_drawing
from tests.core.test_innocent import KEYS, MANNERS

VERSIONS = ["R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018"]


def only(drawing: Any, kind: type) -> Any:
    found = [e for e in drawing.entities if isinstance(e, kind)]
    assert len(found) == 1, drawing.entities
    return found[0]


def draw_some(space: Any, doc: DxfDocument) -> None:
    doc.layers.add("Umriß", color=3)
    space.add_line((0, 0), (10, 0), dxfattribs={"layer": "Umriß"})
    space.add_circle((5, 5), 2)
    space.add_arc((0, 0), 4, 350, 10)
    space.add_text("Ø 12 größer", height=2.5)


@pytest.mark.parametrize("version", VERSIONS)
@pytest.mark.parametrize("binary", [False, True])
def test_every_version_ascii_and_binary(version: str, binary: bool) -> None:
    doc = ezdxf.new(version)
    draw_some(doc.modelspace(), doc)
    if binary:
        out = io.BytesIO()
        doc.write(out, fmt="bin")
        data = out.getvalue()
    else:
        data = dxf_bytes(doc)
    drawing = read_file(data)
    assert only(drawing, Line).layer == "Umriß"
    assert only(drawing, Line).style.color == 3
    assert math.degrees(only(drawing, Arc).sweep_rad) == pytest.approx(20)
    assert only(drawing, Text).wording == "Ø 12 größer"
    assert drawing.version == version


@pytest.mark.parametrize("code_page", ["cp1252", "cp1251", "cp932", "gbk", "cp1250"])
def test_code_pages_before_unicode(code_page: str) -> None:
    words = {"cp1252": "Größe", "cp1251": "Корпус", "cp932": "軸", "gbk": "板", "cp1250": "Řez"}
    doc = ezdxf.new("R2000")
    doc.encoding = code_page
    doc.layers.add(words[code_page])
    doc.modelspace().add_line((0, 0), (1, 1), dxfattribs={"layer": words[code_page]})
    assert only(read_file(dxf_bytes(doc)), Line).layer == words[code_page]


@pytest.mark.parametrize(
    "change",
    [
        lambda t: t.replace("\n", "\r\n"),
        lambda t: "\ufeff" + t,
        lambda t: t + "\nwhat stands\nbehind the end\nis ignored\n",
        lambda t: "999\na comment first\n" + t,
        lambda t: t[: t.index("  0\nENDSEC")] + "999\nin the middle\n" + t[t.index("  0\nENDSEC") :],
        lambda t: "\n".join(row.strip() for row in t.split("\n")),
    ],
)
def test_ascii_is_read_however_its_lines_are_set(change: Any) -> None:
    text = change(dxf(draw_some, "R2010").decode())
    drawing = read_file(text.encode())
    assert (len(drawing.entities), drawing.unit and drawing.unit.symbol) == (4, "mm")


def test_a_file_without_header_or_tables() -> None:
    rows = [
        "0",
        "SECTION",
        "2",
        "ENTITIES",
        "0",
        "LINE",
        "8",
        "undeclared",
        "10",
        "1.5",
        "20",
        "2",
        "11",
        "3",
        "21",
        "4",
        "0",
        "ENDSEC",
        "0",
        "EOF",
        "",
    ]
    drawing = read_file("\n".join(rows).encode())
    line = only(drawing, Line)
    assert (line.start, line.end, line.layer, drawing.unit) == ((1.5, 2), (3, 4), "undeclared", None)


def test_the_tags_are_those_of_the_library() -> None:
    text = dxf(draw_some, "R2018").decode()
    assert [(t.code, t.value) for t in tags(text)] == [
        (t.code, t.value) for t in tag_compiler(ascii_tags_loader(io.StringIO(text)))
    ]


def test_coordinates_out_of_order_are_recovered() -> None:
    """Some old writers put all x before all y; the library's recovering reader puts them in order."""
    rows = [
        "0",
        "SECTION",
        "2",
        "ENTITIES",
        "0",
        "LINE",
        "8",
        "0",
        "10",
        "1",
        "11",
        "3",
        "20",
        "2",
        "21",
        "4",
        "0",
        "ENDSEC",
        "0",
        "EOF",
        "",
    ]
    line = only(read_file("\n".join(rows).encode()), Line)
    assert (line.start, line.end) == ((1, 2), (3, 4))


@pytest.mark.parametrize(
    ("start", "end", "sweep"),
    [
        (0, 90, 90),
        (350, 10, 20),
        (-10, 10, 20),
        (270, 0, 90),
        (0, 360, 360),
        (45, 45, 360),
        (720, 810, 90),
        (90, -270, 360),
    ],
)
def test_arcs_across_zero_in_every_notation(start: float, end: float, sweep: float) -> None:
    arc = only(dxf_drawing(lambda s, _: s.add_arc((1, 2), 3, start, end)), Arc)
    assert math.degrees(arc.sweep_rad) == pytest.approx(sweep)
    assert arc.start == pytest.approx(
        (1 + 3 * math.cos(math.radians(start)), 2 + 3 * math.sin(math.radians(start)))
    )


def test_flipped_normals_are_what_they_look_like() -> None:
    below = {"extrusion": (0, 0, -1)}

    def draw(s: Any, _: DxfDocument) -> None:
        s.add_circle((-5, 5), 2, dxfattribs=below)
        s.add_arc((-10, 0), 4, 0, 90, dxfattribs=below)
        s.add_lwpolyline([(-20, 0, 0), (-30, 0, 1.0), (-30, 8, 0)], format="xyb", dxfattribs=below)
        s.add_text("below", height=2, dxfattribs={**below, "insert": (-3, 4)})

    drawing = dxf_drawing(draw)
    assert only(drawing, Circle).center == (5, 5)
    quarter, half = [e for e in drawing.entities if isinstance(e, Arc)]
    assert quarter.center == (10, 0)
    assert sorted(map(tuple, [quarter.start, quarter.end])) == [
        pytest.approx((6, 0), abs=1e-9),
        pytest.approx((10, 4), abs=1e-9),
    ]
    assert half.center == pytest.approx((30, 4))
    middle = half.start_rad + half.sweep_rad / 2
    assert 30 + 4 * math.cos(middle) == pytest.approx(26)  # bulging toward smaller x: mirrored
    assert only(drawing, Text).at == pytest.approx((3, 4))


def test_tilted_planes_and_heights_are_said() -> None:
    def draw(s: Any, _: DxfDocument) -> None:
        s.add_circle((0, 0), 2, dxfattribs={"extrusion": (0, 1, 1)})
        s.add_line((0, 0, 0), (5, 0, 3))
        s.add_lwpolyline([(0, 0), (1, 0)], dxfattribs={"elevation": 7})

    drawing = dxf_drawing(draw)
    assert {(o.code, o.count) for o in drawing.oddities} == {("tilted", 1), ("off-plane", 2)}
    assert len(drawing.entities) == 3
    seen = only(drawing, FreeCurve)  # leaning 45 degrees, it is seen sqrt(1/2) as high as it is wide
    xs, ys = zip(*seen.points, strict=True)
    assert (max(xs) - min(xs), max(ys) - min(ys)) == pytest.approx((4, 2 * math.sqrt(2)), abs=1e-5)


def test_blocks_nested_turned_mirrored_and_repeated() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        inner = doc.blocks.new("INNER")
        inner.add_line((0, 0), (1, 0), dxfattribs={"layer": "0", "color": 0})
        inner.add_arc((0, 0), 1, 0, 90, dxfattribs={"layer": "fixed"})
        outer = doc.blocks.new("OUTER")
        outer.add_blockref("INNER", (2, 0), dxfattribs={"xscale": -1, "rotation": 90, "layer": "0"})
        s.add_blockref(
            "OUTER", (10, 10), dxfattribs={"xscale": 3, "yscale": 3, "layer": "outline", "color": 1}
        )
        s.add_blockref(
            "INNER",
            (0, 0),
            dxfattribs={"row_count": 2, "column_count": 3, "row_spacing": 5, "column_spacing": 7},
        )

    drawing = dxf_drawing(draw)
    lines = [e for e in drawing.entities if isinstance(e, Line)]
    assert len(lines) == 1 + 6
    # mirrored to (-1, 0), turned to (0, -1), moved by 2 across, times 3, moved by 10, 10
    assert lines[0].start == pytest.approx((16, 10))
    assert lines[0].end == pytest.approx((16, 7))
    assert lines[0].layer == "outline"
    first = [e for e in drawing.entities if isinstance(e, Arc)][0]
    assert (first.layer, first.radius) == ("fixed", pytest.approx(3))
    assert {tuple(round(v) for v in e.start) for e in lines[1:]} == {
        (x, y) for x in (0, 7, 14) for y in (0, 5)
    }


def test_unequal_scales_make_ellipses() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        doc.blocks.new("B").add_circle((0, 0), 1)
        s.add_blockref("B", (0, 0), dxfattribs={"xscale": 2, "yscale": 1})

    curve = only(dxf_drawing(draw), FreeCurve)
    assert curve.points[0] == curve.points[-1]
    for x, y in curve.points:
        assert (x / 2) ** 2 + y**2 == pytest.approx(1, abs=1e-9)


def test_an_ellipse_scaled_back_to_a_circle_is_one() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        doc.blocks.new("B").add_ellipse((0, 0), (4, 0), 0.5)
        s.add_blockref("B", (3, 1), dxfattribs={"xscale": 1, "yscale": 2})

    arc = only(dxf_drawing(draw), Arc)
    assert (arc.center, arc.radius, arc.sweep_rad) == (
        pytest.approx((3, 1)),
        pytest.approx(4),
        pytest.approx(math.tau),
    )


@pytest.mark.parametrize("sweep", [90, 200, 360])
def test_a_rational_spline_that_is_a_circle_is_round(sweep: float) -> None:
    from ezdxf.math import rational_bspline_from_arc

    def draw(s: Any, _: DxfDocument) -> None:
        tool = rational_bspline_from_arc((7, -2), 12.5, 10, 10 + sweep)
        s.add_spline().apply_construction_tool(tool)

    arc = only(dxf_drawing(draw), Arc)
    assert (arc.center, arc.radius) == (pytest.approx((7, -2)), pytest.approx(12.5))
    assert math.degrees(arc.sweep_rad) == pytest.approx(sweep)


def test_a_spline_that_runs_straight_is_a_line() -> None:
    def draw(s: Any, _: DxfDocument) -> None:
        s.add_open_spline([(0, 0), (3, 4), (4.5, 6), (6, 8)], degree=3)

    line = only(dxf_drawing(draw), Line)
    assert sorted([line.start, line.end]) == [pytest.approx((0, 0)), pytest.approx((6, 8))]


def test_a_spline_near_a_circle_stays_free() -> None:
    k = 4 / 3 * math.tan(math.pi / 8)  # the usual cubic for a quarter turn: off by 2.7e-4 of the radius

    def draw(s: Any, _: DxfDocument) -> None:
        s.add_open_spline([(10, 0), (10, 10 * k), (10 * k, 10), (0, 10)], degree=3)

    curve = only(dxf_drawing(draw), FreeCurve)
    assert max(abs(math.hypot(x, y) - 10) for x, y in curve.points) == pytest.approx(2.7e-3, rel=0.02)


@pytest.mark.parametrize(
    ("first", "last", "sweep"), [(0, math.tau, 360), (0, math.pi / 2, 90), (math.pi, math.tau, 180)]
)
@pytest.mark.parametrize("normal", [(0, 0, 1), (0, 0, -1)])
def test_an_ellipse_of_equal_axes_is_round(first: float, last: float, sweep: float, normal: Any) -> None:
    def draw(s: Any, _: DxfDocument) -> None:
        s.add_ellipse((1, 2), (0, 5), 1.0, first, last, dxfattribs={"extrusion": normal})

    doc = ezdxf.new()
    draw(doc.modelspace(), doc)
    ellipse = doc.modelspace()[0]
    arc = only(dxf_drawing(draw), Arc)
    assert math.degrees(arc.sweep_rad) == pytest.approx(sweep)
    ends = {tuple(round(v, 6) + 0.0 for v in p) for p in (arc.start, arc.end)}
    assert ends == {(round(p.x, 6) + 0.0, round(p.y, 6) + 0.0) for p in ellipse.vertices([first, last])}


def test_polylines_old_and_new() -> None:
    def draw(s: Any, _: DxfDocument) -> None:
        s.add_lwpolyline([(0, 0, 0), (4, 0, 1), (4, 2, 0), (0, 2, 0)], format="xyb", close=True)
        s.add_polyline2d([(0, 10), (4, 10), (4, 10), (0, 10)])
        s.add_polyline3d([(0, 20, 0), (4, 20, 0)])

    drawing = dxf_drawing(draw)
    assert sum(isinstance(e, Arc) for e in drawing.entities) == 1
    assert sum(isinstance(e, Line) for e in drawing.entities) == 3 + 2 + 1
    assert drawing.oddities == ()


def test_styles_by_layer_by_block_and_stated() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        doc.linetypes.add("AXIS", [20, 12, -2, 2, -2], description="long, short")
        doc.layers.add("centre", color=1, linetype="AXIS", lineweight=25)
        s.add_line((0, 0), (1, 0), dxfattribs={"layer": "centre"})
        s.add_line(
            (0, 1), (1, 1), dxfattribs={"layer": "0", "color": 1, "linetype": "AXIS", "lineweight": 25}
        )
        block = doc.blocks.new("B")
        block.add_line(
            (0, 2), (1, 2), dxfattribs={"layer": "0", "color": 0, "linetype": "BYBLOCK", "lineweight": -2}
        )
        s.add_blockref("B", (0, 0), dxfattribs={"layer": "centre"})

    styles = {e.style for e in dxf_drawing(draw).entities}
    assert len(styles) == 1
    style = styles.pop()
    assert (style.color, style.line_type, style.weight) == (1, "chain", 0.25)


def test_what_is_switched_off_is_said_and_not_seen() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        doc.layers.add("off").off()
        doc.layers.add("frozen").freeze()
        s.add_line((0, 0), (1, 0), dxfattribs={"layer": "off"})
        s.add_line((0, 0), (1, 0), dxfattribs={"layer": "frozen"})
        s.add_line((0, 0), (1, 0), dxfattribs={"invisible": 1})

    drawing = dxf_drawing(draw)
    assert sum(o.count for o in drawing.oddities if o.code == "switched-off") == 3
    refusal = refuse(drawing)
    assert refusal is not None
    assert refusal.code == "all-switched-off"


def test_nothing_is_dropped_in_silence() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        s.add_solid([(0, 0), (1, 2), (3, 1), (4, 4)])
        s.add_shape("NOT HERE", (4, 0), 0.5)
        s.add_point((1, 1))
        s.add_hatch().paths.add_polyline_path([(0, 0), (1, 0), (1, 1)])
        s.add_linear_dim((0, -3), (0, 0), (10, 0)).render()
        s.add_leader([(0, 0), (5, 5)])
        s.add_blockref("NOT THERE", (0, 0))

    drawing = dxf_drawing(draw)
    seen = {o.code: 0 for o in drawing.oddities}
    for o in drawing.oddities:
        seen[o.code] += o.count
        assert o.says.endswith(".")
    assert seen == {"not-understood": 2, "not-examined": 1, "block-missing": 1}
    assert (len(drawing.hatches), len(drawing.dimensions), len(drawing.notes)) == (1, 1, 1)


@pytest.mark.parametrize(
    ("anchor", "expected"),
    [
        ("LEFT", "left baseline"),
        ("MIDDLE_CENTER", "centre middle"),
        ("TOP_RIGHT", "right top"),
        ("BOTTOM_CENTER", "centre bottom"),
        ("MIDDLE", "centre middle"),
    ],
)
def test_aligned_text_stands_at_its_second_point(anchor: str, expected: str) -> None:
    from ezdxf.enums import TextEntityAlignment

    def draw(s: Any, _: DxfDocument) -> None:
        s.add_text("A", height=3).set_placement((7, 8), align=TextEntityAlignment[anchor])

    found = only(dxf_drawing(draw), Text)
    assert (found.at, found.anchor) == ((7, 8), expected)


def test_paragraph_text_is_decoded() -> None:
    def draw(s: Any, _: DxfDocument) -> None:
        s.add_mtext(
            r"{\fArial|b1;\H2.5x;GATE} \PPLATE %%c12",
            dxfattribs={"char_height": 3, "attachment_point": 5, "insert": (1, 2)},
        )

    found = only(dxf_drawing(draw), Text)
    assert (found.wording.split(), found.anchor, found.height) == (
        ["GATE", "PLATE", "Ø12"],
        "centre middle",
        3,
    )


@pytest.mark.parametrize(
    ("code", "symbol"), [(1, "in"), (2, "ft"), (4, "mm"), (5, "cm"), (6, "m"), (0, None), (21, None)]
)
def test_declared_units(code: int, symbol: str | None) -> None:
    drawing = dxf_drawing(lambda s, _: s.add_line((0, 0), (1, 0)), unit=code)
    assert (drawing.unit.symbol if drawing.unit else None) == symbol
    assert [o.code for o in drawing.oddities] == (["unit-unknown"] if code == 21 else [])


# what cannot be handed in


def _sheet_only(_: Any, doc: DxfDocument) -> None:
    doc.layout("Layout1").add_line((0, 0), (10, 0))


def _solid(s: Any, _: DxfDocument) -> None:
    s.add_mesh()
    s.add_3dface([(0, 0, 0), (1, 0, 0), (1, 1, 1), (0, 1, 1)])


@pytest.mark.parametrize(
    ("draw", "code"),
    [
        (lambda s, d: None, "empty"),
        (_sheet_only, "sheet-layout-only"),
        (_solid, "three-dimensional"),
        (lambda s, d: s.add_solid([(0, 0), (1, 2), (3, 1), (4, 4)]), "nothing-understood"),
    ],
)
def test_drawings_with_nothing_to_examine_say_why(draw: Any, code: str) -> None:
    refusal = refuse(dxf_drawing(draw))
    assert refusal is not None
    assert refusal.code == code
    assert "export" in refusal.says


@pytest.mark.parametrize(
    ("data", "code", "word"),
    [
        (b"", "empty-file", "empty"),
        (b"\0\0\r\n ", "empty-file", "empty"),
        (b"AC1032\0\0\0\0\0\0" + bytes(200), "closed-format", "DXF"),
        (b"AC1015" + bytes(200), "closed-format", "DXF"),
        (b"\xd0\xcf\x11\xe0" + bytes(200), "closed-format", "DXF"),
        (b"%PDF-1.7\n", "not-a-drawing", "PDF"),
        (b"\x89PNG\r\n\x1a\n", "not-a-drawing", "PNG"),
        (b"PK\x03\x04" + bytes(50), "not-a-drawing", "ZIP"),
        (b"<?xml version='1.0'?><html/>", "not-a-drawing", "XML"),
        (b"just words", "not-a-drawing", "DXF"),
        ("0\nSECTION\n".encode("utf-16"), "not-a-drawing", "DXF"),
        (b"0\nSECTION\n2\nENTITIES\n0\nLINE\nten\n1\n", "damaged", "damaged"),
    ],
)
def test_bytes_that_are_no_drawing_say_what_to_do(data: bytes, code: str, word: str) -> None:
    with pytest.raises(UnreadableDrawing) as caught:
        drawing = read_file(data)
        refusal = refuse(drawing)
        assert refusal is not None
        raise UnreadableDrawing(refusal.says)
    assert word in caught.value.says
    assert caught.value.says.endswith(".")
    if code != "damaged":
        assert caught.value.code == code


@pytest.mark.parametrize("cut", [200, 900, 3000, 6000, 12000])
def test_a_file_cut_short_is_read_or_said_to_be_damaged(cut: int) -> None:
    data = dxf(draw_some, "R2010")[:cut]
    try:
        drawing = read_file(data)
    except UnreadableDrawing as why:
        assert why.says
    else:
        assert "cut-short" in {o.code for o in drawing.oddities}


@pytest.mark.parametrize("value", ["nan", "inf", "1e400", "1e15", "abc", ""])
def test_numbers_beyond_all_bounds(value: str) -> None:
    text = (
        dxf(lambda s, _: (s.add_circle((3.25, 0), 2), s.add_line((0, 0), (1, 0))), "R2000")
        .decode()
        .replace("3.25", value)
    )
    try:
        drawing = read_file(text.encode())
    except UnreadableDrawing:
        return
    assert all(math.isfinite(v) for e in drawing.entities if isinstance(e, Circle) for v in e.center)


def test_blocks_that_contain_themselves_end() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        block = doc.blocks.new("B")
        block.add_line((0, 0), (1, 0))
        block.add_blockref("B", (1, 1))
        s.add_blockref("B", (0, 0))

    drawing = dxf_drawing(draw)
    assert [o.code for o in drawing.oddities] == ["blocks-too-deep"]
    assert len(drawing.entities) <= 32


def test_a_block_bomb_is_too_large() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        doc.blocks.new("B0").add_line((0, 0), (1, 0))
        for level in range(1, 7):
            block = doc.blocks.new(f"B{level}")
            for i in range(12):
                block.add_blockref(f"B{level - 1}", (i, level))
        s.add_blockref("B6", (0, 0))

    with pytest.raises(UnreadableDrawing) as caught:
        dxf_drawing(draw)
    assert caught.value.code == "too-large"


def test_a_file_beyond_the_limit_is_refused_unread() -> None:
    from evenmark.core.formats.sniff import kind_of

    with pytest.raises(UnreadableDrawing) as caught:
        kind_of(b"0\nSECTION\n" * 200, most=1000)
    assert caught.value.code == "too-large"


def test_drawings_that_come_with_the_library_are_read() -> None:
    """What its own factory makes, with all resources of its setup, read by us as by its recovering reader."""
    doc = ezdxf.new("R2010", setup=True)
    doc.modelspace().add_line((0, 0), (3, 4), dxfattribs={"linetype": "DASHDOT"})
    data = dxf_bytes(doc)
    assert len(read_file(data).entities) == len(recover.read(io.BytesIO(data))[0].modelspace()) == 1
    assert only(read_file(data), Line).style.line_type == "chain"


@pytest.mark.parametrize("version", VERSIONS)
@pytest.mark.parametrize("manner", MANNERS)
def test_quick_and_loaded_reading_give_the_same_drawing(version: str, manner: str) -> None:
    """The reader that goes straight through the tags against the DXF library, on every demo key in every
    manner."""
    for part in KEYS.values():
        data = write_dxf(part.drawing, replace(MANNERS[manner], version=version))
        quick, loaded = read_file(data), read_file(data, quick=False)
        assert sorted(map(repr, nameless(quick))) == sorted(map(repr, nameless(loaded)))
        assert (quick.unit, quick.layers, quick.oddities, quick.version) == (
            loaded.unit,
            loaded.layers,
            loaded.oddities,
            loaded.version,
        )


def nameless(drawing: Any) -> list[Any]:
    """The entities without their handles, which the library gives anew to old files."""
    return [e._replace(source="") for e in drawing.entities]


def test_plain_files_are_read_quickly() -> None:
    from evenmark.core.formats import dxf_quick

    read_so = [
        dxf_quick.read_quickly(write_dxf(p.drawing, Manner(polylines=True)).decode()) for p in KEYS.values()
    ]
    assert None not in read_so


# dimensions, hatches, leaders, construction lines and sheet layouts


@pytest.mark.parametrize(
    ("draw", "kind", "measured"),
    [
        (lambda s: s.add_linear_dim((0, 9), (0, 0), (30, 4)), "linear", 30),
        (lambda s: s.add_linear_dim((0, 9), (0, 0), (30, 4), angle=90), "linear", 4),
        (lambda s: s.add_aligned_dim((0, 0), (30, 40), 5), "linear", 50),
        (lambda s: s.add_radius_dim((5, 5), radius=4, angle=30), "radius", 4),
        (lambda s: s.add_diameter_dim((5, 5), radius=4, angle=30), "diameter", 8),
        (lambda s: s.add_angular_dim_3p((5, 5), (0, 0), (4, 0), (0, 4)), "angular", 90),
        (lambda s: s.add_angular_dim_2l((5, 5), ((0, 0), (4, 0)), ((1, 1), (4, 4))), "angular", 45),
        (lambda s: s.add_ordinate_x_dim((3, 4), (1, 2)), "ordinate", 3),
        (lambda s: s.add_ordinate_y_dim((3, 4), (1, 2)), "ordinate", 4),
        (lambda s: s.add_arc_dim_3p((5, 5), (0, 0), (4, 0), (0, 4)), "arc", 2 * math.pi),
    ],
)
def test_dimensions_measure_what_they_show(draw: Any, kind: str, measured: float) -> None:
    (d,) = dxf_drawing(lambda s, _: draw(s).render(), "R2013").dimensions
    assert (d.kind, d.measured, d.typed) == (kind, pytest.approx(measured), None)


@pytest.mark.parametrize(
    ("text", "typed"),
    [("<>", None), ("", None), ("4x <>", None), ("32", "32"), ("%%c32", "Ø32"), ("{\\H2;31.8}", "31.8")],
)
def test_a_text_typed_over_a_dimension_is_seen(text: str, typed: str | None) -> None:
    def draw(s: Any, _: DxfDocument) -> None:
        s.add_linear_dim((0, 9), (0, 0), (30, 4), text=text).render()

    assert dxf_drawing(draw).dimensions[0].typed == typed


def test_a_hatch_keeps_its_boundary_with_round_parts_and_holes() -> None:
    def draw(s: Any, _: DxfDocument) -> None:
        hatch = s.add_hatch()
        hatch.paths.add_polyline_path([(0, 0), (40, 0), (40, 30), (0, 30)])
        hatch.paths.add_polyline_path([(15, 15, 1), (25, 15, 1)])
        edges = hatch.paths.add_edge_path()
        edges.add_arc((8, 8), 3, 0, 180)
        edges.add_line((5, 8), (11, 8))

    (hatch,) = dxf_drawing(draw).hatches
    areas = [abs(Polygon(polygon_of(loop)).area) for loop in hatch.loops]
    assert areas == pytest.approx([1200, math.pi * 25, math.pi * 4.5], rel=1e-4)


def test_leaders_and_endless_lines() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        s.add_xline((0, 5), (1, 0))
        s.add_ray((0, 5), (0, 3))
        s.add_leader([(10, 10), (20, 20), (25, 20)])
        s.add_multileader_mtext("Standard").quick_leader("2 holes", target=Vec2(1, 2), segment1=Vec2(9, 9))

    drawing = dxf_drawing(draw)
    assert [(e.at, e.way, e.ray) for e in drawing.endless] == [
        ((0, 5), (1, 0), False),
        ((0, 5), (0, 1), True),
    ]
    assert [(n.points[0], n.wording) for n in drawing.notes] == [((10, 10), ""), ((1, 2), "2 holes")]


def test_sheet_layouts_with_frame_and_scaled_view() -> None:
    def draw(s: Any, doc: DxfDocument) -> None:
        s.add_line((0, 0), (100, 0))
        sheet = doc.layout("Layout1")
        sheet.add_lwpolyline([(10, 10), (190, 10), (190, 287), (10, 287)], close=True)
        sheet.add_viewport((100, 150), (120, 80), (50, 0), 160)

    drawing = dxf_drawing(draw)
    assert len(drawing.entities) == 1
    (sheet,) = drawing.layouts
    assert (sheet.name, len(sheet.entities)) == ("Layout1", 4)
    (view,) = sheet.views
    assert (view.center, view.scale, view.box) == ((50, 0), 0.5, (40, 110, 160, 190))


@pytest.mark.parametrize("bulge", [5e-324, 1e-30, 1e-17, -1e-12])
def test_a_bulge_of_nothing_is_a_straight_piece(bulge: float) -> None:
    doc = ezdxf.new()
    doc.modelspace().add_lwpolyline(
        [(0, 0, bulge), (40, 0, bulge), (40, 26, bulge)], format="xyb", close=True
    )
    out = io.StringIO()
    doc.write(out)
    drawing = read_file(out.getvalue().encode())
    assert [e[:2] for e in drawing.entities] == [((0, 0), (40, 0)), ((40, 0), (40, 26)), ((40, 26), (0, 0))]
    assert drawing.oddities == ()
