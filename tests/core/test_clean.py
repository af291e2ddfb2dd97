"""What nothing can keep is cleaned as a file is read, and whatever is read comes out by every way."""

from __future__ import annotations

import json
import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.construct.building import build
from evenmark.core.construct.document import DocumentError, from_json, from_text, item_of, to_text
from evenmark.core.drawing.annotations import Dimension, Hatch, Note, Vertex
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, Layout, LayoutView, Line, Text
from evenmark.core.formats import UnreadableDrawing, read_file
from evenmark.core.formats.clean import cleaned
from evenmark.core.formats.dxf_over import Over, OverText, draw_over
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.plain import CONTROL, hidden_in_name, is_plain, shown
from evenmark.core.sheet.ways_out import written
from evenmark.demo import parts
from evenmark.demo import slips as s
from tests.builders import dxf
from tests.extent import daily, examples
from tests.mutations import mutated, seeds
from tests.ways_out import every_way, storable

PLAIN = Style()
GOOD = seeds()
KEYS = [write_dxf(parts.gate_holes().drawing)]


def one_of_everything(word: str, number: float) -> Drawing:
    """A drawing with a word and a number in every field that holds one."""
    style = Style(color=1, line_type=word or "x", weight=number, dash=number)
    line = Line((0.0, 0.0), (1.0, 0.0), word, style, word)
    return Drawing(
        entities=(
            line,
            Arc((0.0, 0.0), 1.0, number, number, word, style, word),
            Circle((0.0, 0.0), 1.0, word, style, word),
            Text(word or "x", (0.0, 0.0), "left bottom", 2.0, number, word, style, word),
        ),
        dimensions=(
            Dimension(
                kind="linear",
                points=((0.0, 0.0), (1.0, 0.0)),
                measured=number,
                typed=word,
                layer=word,
                style=style,
                source=word,
            ),
        ),
        hatches=(
            Hatch(
                loops=((Vertex(0.0, 0.0), Vertex(1.0, 0.0), Vertex(0.0, 1.0)),),
                pattern=word,
                layer=word,
                style=style,
                source=word,
            ),
        ),
        notes=(
            Note(
                points=((0.0, 0.0), (1.0, 1.0)),
                wording=word,
                text_source=word,
                height=number,
                layer=word,
                style=style,
                source=word,
            ),
        ),
        layouts=(
            Layout(
                name=word,
                entities=(line,),
                views=(LayoutView(at=(0.0, 0.0), size=(1.0, 1.0), center=(0.0, 0.0), seen=number),),
                paper=(number, 1.0),
            ),
        ),
        layers={word: Layer(name=word, style=style)},
    )


def everything_in(value: Any) -> tuple[list[str], list[float]]:
    words, numbers, waiting = [], [], [value]
    while waiting:
        v = waiting.pop()
        if isinstance(v, str):
            words.append(v)
        elif isinstance(v, float):
            numbers.append(v)
        elif isinstance(v, dict):
            waiting += [*v, *v.values()]
        elif isinstance(v, tuple | list):
            waiting += v
        elif hasattr(v, "__dataclass_fields__"):
            waiting += [getattr(v, n) for n in v.__dataclass_fields__]
    return words, numbers


@given(word=st.text(max_size=12), number=st.floats())
@settings(max_examples=examples(200), deadline=None)
def test_every_field_can_be_kept(word: str, number: float) -> None:
    words, numbers = everything_in(cleaned(one_of_everything(word, number)))
    for w in words:
        w.encode()
        assert is_plain(w), ascii(w)
    assert all(map(math.isfinite, numbers))


def test_a_drawing_that_is_clean_is_itself() -> None:
    drawing = one_of_everything("outline", 0.5)
    assert cleaned(drawing) is drawing


@pytest.mark.parametrize(
    ("text", "seen"),
    [
        ("AB\x00C", "AB�C"),
        ("a\x1b[2Jb", "a�[2Jb"),
        ("x\u202ey", "x‹U+202E›y"),
        ("\u200bz", "‹U+200B›z"),
        ("a\nb\tc", "a\nb\tc"),
        ("नेहा ‍", "नेहा ‍"),
    ],
)
def test_characters_are_shown_as_what_they_are(text: str, seen: str) -> None:
    assert shown(text) == seen
    assert is_plain(seen)


@pytest.mark.parametrize("name", ["Wren Ó Hallorán", "d’Arc", "नेहा", "محمد", "می‌خواهم", "李娜"])
def test_names_of_all_scripts_are_names(name: str) -> None:
    assert not hidden_in_name(name)


def poisoned(word: str) -> list[bytes]:
    """Files with a word in a layer's name, in lettering and in paragraph text: as text, as bytes, as an
    escape."""

    def draw(space: Any, _doc: Any) -> None:
        space.add_line((0, 0), (96, 0), dxfattribs={"layer": "QQQQ"})
        space.add_text("WWWW", height=3)
        space.add_mtext("MMMM", dxfattribs={"char_height": 3})

    out = []
    for version in ("R12", "R2000", "R2018"):
        data = dxf(
            draw
            if version != "R12"
            else lambda a, b: (
                a.add_line((0, 0), (9, 0), dxfattribs={"layer": "QQQQ"}),
                a.add_text("WWWW", height=3),
            ),
            version,
        )
        out.append(
            data.replace(b"QQQQ", word.encode("utf-8", "surrogatepass"))
            .replace(b"WWWW", word.encode("utf-8", "surrogatepass"))
            .replace(b"MMMM", word.encode("utf-8", "surrogatepass"))
        )
    return out


@pytest.mark.parametrize(
    "word",
    [
        "AB\x00C",
        "\x01\x02",
        "\x7f",
        "\ud800",
        "a\u202eb",
        "\\U+0000",
        "\\U+D800",
        "%%000",
        "^@",
        "\x85",
        "\ufeff",
        "a\x0bb",
    ],
)
def test_a_poisoned_word_stops_nothing(word: str) -> None:
    for data in poisoned(word):
        try:
            every_way(data, KEYS, {"placement": "slide"})
        except UnreadableDrawing as why:
            assert why.says.endswith(".")


@pytest.mark.parametrize(
    "inside",
    [
        '<g transform="scale(1e200)"><path transform="scale(1e200)" d="M0 0h0" stroke-width="3"/></g><path '
        'd="M0 0h9"/>',
        '<path d="M0 0h9" stroke-width="1e400" stroke-dasharray="1e400 2"/>',
        '<path d="M0 0h9" stroke-width="1e300" stroke-dasharray="1e308 1e308" stroke="url(#x)"/>',
        '<text x="1" y="9" font-size="4">' + "Gate plate " * 3000 + "</text><path d='M0 0h9'/>",
        '<g id="Outline: visible"><path d="M0 0h9"/></g><g id="outline_ visible"><path d="M0 5h9"/></g><g '
        'id="a/=*&lt;b"><path d="M0 9h9"/></g>',
        f'<g id="{"n" * 400}"><path d="M0 0h9"/></g>',
    ],
)
def test_odd_pages_come_out_by_every_way(inside: str) -> None:
    data = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 '
        f'100">{inside}</svg>'
    )
    every_way(data.encode(), KEYS, {"placement": "slide"})


@pytest.mark.parametrize("part", daily(list(range(6)), 2))
def test_whatever_is_read_of_a_broken_file_comes_out_by_every_way(part: int) -> None:
    for number in range(40_000 + part * 20, 40_000 + part * 20 + 20):
        _, data = mutated(number, GOOD)
        try:
            every_way(data, KEYS, {"placement": "slide"})
        except UnreadableDrawing as why:
            assert why.says.endswith("."), why.says


@pytest.mark.parametrize("turn", [2.0, -2.0, 30.0])
def test_a_level_line_drawn_tilted_and_a_slanted_one_drawn_level_are_printed(turn: float) -> None:
    loose = Drawing(
        entities=(
            Line((0.0, 0.0), (40.0, 0.0), "outline", PLAIN, "a"),
            Line((0.0, 30.0), (40.0, 30.0), "outline", PLAIN, "b"),
        )
    )
    c, n = 40 * math.cos(math.radians(turn)), 40 * math.sin(math.radians(turn))
    tilted = Drawing(
        entities=(
            Line((0.0, 0.0), (c, n), "outline", PLAIN, "a"),
            Line((0.0, 30.0), (40.0, 30.0), "outline", PLAIN, "b"),
        )
    )
    for key, attempt in ((loose, tilted), (tilted, loose)):
        marked = every_way(write_dxf(attempt), [write_dxf(key)], {"placement": "as-drawn"})
        assert any(f["kind"] == "angle" and f["verdict"] != "met" for f in marked.marks["findings"])


@pytest.mark.parametrize("slip", [s.circle_scaled(1, 2.0), s.circle_scaled(0, 0.5)])
def test_every_manner_of_a_slip_comes_out_by_every_way(slip: Any) -> None:
    part = parts.crank_link()
    for manner in (
        Manner(),
        Manner(binary=True),
        Manner(version="R12"),
        Manner(blocks=True),
        Manner(below=True, polylines=True),
    ):
        storable(
            every_way(
                write_dxf(slip(part.drawing), manner), [write_dxf(part.drawing)], {"placement": "slide"}
            ).marks
        )


def test_marks_over_a_page_name_what_had_to_be_called_otherwise() -> None:
    data = (
        b'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm" viewBox="0 0 9 9"><g '
        b'id="Outline: visible"><path d="M0 0h9"/></g></svg>'
    )
    over = Over(
        layers={"EVENMARK-LIST": 8},
        texts=[OverText(text="List", at=(0.0, 0.0), height=2.0, layer="EVENMARK-LIST")],
    )
    out = draw_over(data, over)
    assert b"Layer 'Outline: visible' is called Outline_ visible here" in out
    assert "Outline_ visible" in read_file(out).layers


def test_control_characters_are_few_and_known() -> None:
    assert [c for c in map(chr, range(32)) if CONTROL.search(c)] == [
        chr(n) for n in range(32) if n not in (9, 10)
    ]


@pytest.mark.parametrize("bad", ["\x02", "\x85", "\u2028", "\ud800", "\ufffe", "\U0001fffe", "\ufdd0"])
def test_a_document_holds_nothing_that_cannot_be_kept(bad: str) -> None:
    """Whatever a file says: layers, lettering, drawings that are laid in can be written as SVG, DXF and
    text."""
    packed_ = json.dumps(
        {
            "layers": [[f"a{bad}b", None]],
            "styles": [[7, f"d{bad}", None, 0.0]],
            "rows": [["line", [0, 0], [9, 9], 0, 0, f"s{bad}"]],
        }
    )
    lines = [
        {"kind": "layer", "name": f"L{bad}", "says": "black, 0.5"},
        {"kind": "drawing", "name": "D", "says": packed_},
        {"kind": "step", "id": 1, "says": f'text "A{bad}B"; 0, 0; height 5'},
        {"kind": "step", "id": 2, "says": "lay in D"},
        {"kind": "remark", "says": f"r{bad}"},
    ]
    document = from_json({"format": "even-mark/steps", "version": 1, "next": 3, "lines": lines})
    assert from_text(to_text(document)).items == document.items
    drawing = build(document).drawing
    assert len(drawing.entities) == 2
    for way in ("svg", "dxf", "txt"):
        made = to_text(document).encode() if way == "txt" else written(build(document), way, title="T")
        assert bad.encode("utf-8", "surrogatepass") not in made
    with pytest.raises(DocumentError, match="cannot be seen or saved"):
        item_of({"kind": "remark", "says": f"r{bad}"}, 1)
