"""Notes, hatching and endless construction lines are drawn; what is annotated on a sheet layout is read."""

from __future__ import annotations

import math
from typing import Any

import pytest

from evenmark.core.drawing.annotations import Endless, Hatch, Vertex
from evenmark.core.drawing.hatching import USUAL_LINES, strokes
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Drawing, Line, Text, layout_of
from evenmark.core.drawing.picture import figure
from evenmark.core.formats import read_file
from evenmark.core.sheet.pictures import pictures
from evenmark.services.key_work import draw_sheet, view_key
from tests.builders import dxf

PLAIN = Style()
PLATE = tuple(
    Line(a, b, "outline", PLAIN, f"l{n}")
    for n, (a, b) in enumerate(
        (((0, 0), (80, 0)), ((80, 0), (80, 50)), ((80, 50), (0, 50)), ((0, 50), (0, 0)))
    )
)


def square(x: float, size: float) -> tuple[Vertex, ...]:
    return tuple(Vertex(*p) for p in ((x, x), (x + size, x), (x + size, x + size), (x, x + size)))


def test_hatching_fills_its_region_and_leaves_holes_open() -> None:
    hatch = Hatch(
        loops=(square(0.0, 40.0), square(10.0, 20.0)), pattern="x", layer="section", style=PLAIN, source="h"
    )
    strokes = [e for e in pictures(Drawing(entities=PLATE, hatches=(hatch,))) if isinstance(e, Line)]
    step = 80 * math.cos(math.radians(45)) / USUAL_LINES
    area = sum(math.dist(e.start, e.end) for e in strokes) * step
    assert area == pytest.approx(40 * 40 - 20 * 20, rel=0.01)
    for e in strokes:
        x, y = ((a + b) / 2 for a, b in zip(e.start, e.end, strict=True))
        assert not (10.001 < x < 29.999 and 10.001 < y < 29.999)


@pytest.mark.parametrize(
    ("line", "ends"),
    [
        (
            Endless((10.0, 10.0), (1.0, 0.0), False, "construction", PLAIN, "x"),
            ((-4.0, 10.0), (84.0, 10.0)),
        ),
        (Endless((10.0, 10.0), (0.0, -1.0), True, "construction", PLAIN, "r"), ((10.0, 10.0), (10.0, -4.0))),
        (Endless((200.0, 200.0), (1.0, 0.0), False, "construction", PLAIN, "x"), None),
        (Endless((200.0, 25.0), (1.0, 0.0), True, "construction", PLAIN, "r"), None),
    ],
)
def test_endless_lines_run_a_little_past_the_drawing(line: Endless, ends: Any) -> None:
    found = [e for e in pictures(Drawing(entities=PLATE, endless=(line,))) if isinstance(e, Line)]
    assert [(*e.start, *e.end) for e in found] == ([pytest.approx((*ends[0], *ends[1]))] if ends else [])


def everything(space: Any, doc: Any) -> None:
    space.add_lwpolyline([(0, 0), (80, 0), (80, 50), (0, 50)], close=True, dxfattribs={"layer": "outline"})
    text = space.add_mtext("DEBURR", dxfattribs={"char_height": 3, "insert": (60, 70)})
    leader = space.add_leader([(40, 50), (58, 70)])
    leader.dxf.annotation_handle = text.dxf.handle
    space.add_hatch().paths.add_polyline_path([(0, 0), (20, 0), (20, 20), (0, 20)], is_closed=True)
    space.add_xline((0, 25), (1, 0))
    layout = doc.layout("Layout1")
    layout.add_line((0, 0), (10, 0))
    layout.add_linear_dim((0, 9), (0, 0), (10, 0)).render()


def test_page_and_sheet_show_what_a_key_has_beside_its_features() -> None:
    data = dxf(everything)
    view = view_key(data, "k.dxf", None)
    assert [t["wording"] for t in view.scene["annotations"]["texts"]] == ["DEBURR"]
    bare = view_key(dxf(lambda s, _: s.add_line((0, 0), (80, 0))), "k.dxf", None)
    assert len(view.scene["annotations"]["path"]) > len(bare.scene["annotations"]["path"]) + 500
    assert draw_sheet(data, "Plate", "School") != draw_sheet(
        dxf(lambda s, _: s.add_line((0, 0), (80, 0))), "Plate", "School"
    )


def on_layout(_space: Any, doc: Any) -> None:
    layout = doc.layout("Layout1")
    layout.add_lwpolyline([(0, 0), (80, 0), (80, 50), (0, 50)], close=True)
    layout.add_linear_dim((0, 9), (0, 0), (80, 0), text="2x <> TYP").render()
    text = layout.add_mtext("DEBURR", dxfattribs={"char_height": 3, "insert": (60, 70)})
    layout.add_leader([(40, 50), (58, 70)]).dxf.annotation_handle = text.dxf.handle
    layout.add_hatch().paths.add_polyline_path([(0, 0), (20, 0), (20, 20), (0, 20)], is_closed=True)


def test_what_is_annotated_on_a_sheet_layout_is_read_and_examined() -> None:
    drawing = read_file(dxf(on_layout))
    [layout] = drawing.layouts
    assert (len(layout.dimensions), len(layout.hatches), len(layout.notes)) == (1, 1, 1)
    assert drawing.dimensions == drawing.hatches == drawing.notes == ()  # nothing of it is in the model
    assert [(d.measured, d.typed, d.before, d.after) for d in layout.dimensions] == [
        (80.0, None, "2x ", " TYP")
    ]
    assert [figure(d) for d in layout.dimensions] == ["2x 80 TYP"]
    assert not [o for o in drawing.oddities if o.code == "not-examined"]
    seen = layout_of(drawing)
    assert (seen.dimensions, seen.notes, seen.hatches) == (
        layout.dimensions,
        layout.notes,
        layout.hatches,
    )
    view = view_key(dxf(on_layout), "k.dxf", {"examines": "sheet"})
    asked = {r["kind"] for r in view.rules["requirements"]}
    assert {"dimension", "note", "hatch"} <= asked
    assert "DEBURR" in [t["wording"] for t in view.scene["annotations"]["texts"]]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("<>", (None, "", "")),
        ("2x <>", (None, "2x ", "")),
        ("4%%p0.1", ("4±0.1", "", "")),
        ("%%c<> H7", (None, "Ø", " H7")),
        ("{\\H3;2x} <>", (None, "2x ", "")),
    ],
)
def test_what_stands_beside_a_value_is_read(text: str, expected: tuple[str | None, str, str]) -> None:
    def drawn(space: Any, _doc: Any) -> None:
        space.add_line((0, 0), (80, 0))
        space.add_linear_dim((0, 9), (0, 0), (80, 0), text=text).render()

    [d] = read_file(dxf(drawn)).dimensions
    assert (d.typed, d.before, d.after) == expected


def test_hatching_is_cut_exactly_at_round_boundaries() -> None:
    """A circle of radius 10 with lines of gap 1 across: each is the chord at its height (Pythagoras)."""
    circle = (Vertex(-10.0, 0.0, 1.0), Vertex(10.0, 0.0, 1.0))
    found = strokes(Hatch(loops=(circle,), angle_deg=0.0, gap=1.0))
    assert len(found) == 19  # above and below only touch
    for (ax, ay), (bx, by) in found:
        assert ay == by == round(ay)
        assert (-ax, bx) == pytest.approx((math.sqrt(100 - ay * ay),) * 2, abs=1e-9)


def test_lettering_that_is_no_note_is_no_picture() -> None:
    drawing = Drawing(
        entities=(*PLATE, Text("GATE", (1.0, 1.0), "left bottom", 3.0, 0.0, "text", PLAIN, "t"))
    )
    assert pictures(drawing) == ()


@pytest.mark.parametrize(
    ("post", "text", "shows"),
    [
        ("<> mm", "<>", "80 mm"),
        ("L=<>", "", "L=80"),
        ("<> mm", "2x <>", "2x 80 mm"),
        ("<> mm", "x", "x"),
    ],
)
def test_what_a_style_puts_beside_every_figure_is_read(post: str, text: str, shows: str) -> None:
    def drawn(space: Any, _doc: Any) -> None:
        space.add_line((0, 0), (80, 0))
        override = {"dimpost": post, "dimzin": 8}
        space.add_linear_dim((0, 9), (0, 0), (80, 0), text=text, override=override).render()

    [d] = read_file(dxf(drawn)).dimensions
    assert figure(d) == shows
