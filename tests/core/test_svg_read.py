"""Reading SVG: the same drawing as from DXF, with its size, its layers and its line types; and files that are
not as they should be."""

from __future__ import annotations

import math
from xml.sax.saxutils import escape

import pytest

from evenmark.core.drawing.model import Arc, Circle, Drawing, FreeCurve, Line, Text
from evenmark.core.formats import UnreadableDrawing, read_file
from evenmark.core.linework import simplify
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.sheet.frame import Frame
from tests.core.test_innocent import KEYS


def page(body: str, size: str = 'width="200mm" height="100mm" viewBox="0 0 200 100"') -> bytes:
    return f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:any="urn:any" {size}>{body}</svg>'.encode()


DASHES = {"dashed": "3 1.5", "chain": "6 1.5 0.5 1.5"}


def svg_of(drawing: Drawing) -> bytes:
    """A drawing as SVG, its layers as groups, its line types as dashes; the page begins at the origin."""
    frame = Frame((0.0, 0.0, 300.0, 200.0))
    groups: dict[str, list[str]] = {}
    for e in drawing.entities:
        dashes = f' stroke-dasharray="{DASHES[e.style.line_type]}"' if e.style.line_type in DASHES else ""
        if isinstance(e, Text):
            x, y = frame.at(e.at)
            anchor = {"left": "start", "centre": "middle", "right": "end"}[e.anchor.split()[0]]
            shape = (
                f'<text x="{x}" y="{y}" font-size="{e.height}" '
                f'text-anchor="{anchor}">{escape(e.wording)}</text>'
            )
        elif isinstance(e, Circle):
            x, y = frame.at(e.center)
            shape = f'<circle cx="{x}" cy="{y}" r="{e.radius}"{dashes}/>'
        else:
            assert isinstance(e, Line | Arc)
            shape = f'<path d="{frame.curve(e)}"{dashes}/>'
        groups.setdefault(e.layer, []).append(shape)
    body = "".join(f'<g any:label="{name}">{"".join(shapes)}</g>' for name, shapes in groups.items())
    return page(body, 'width="300mm" height="200mm" viewBox="0 0 300 200"')


@pytest.mark.parametrize("name", KEYS)
def test_every_demo_key_is_the_same_drawing_in_svg(name: str) -> None:
    drawing = KEYS[name].drawing
    seen = read_file(svg_of(drawing))
    assert seen.unit is not None
    assert seen.unit.symbol == "mm"
    a, b = (simplify(d, length_tolerance=0.001) for d in (drawing, seen))
    for ours, theirs in (
        (a.edges, b.edges),
        (a.arcs, b.arcs),
        (a.circles, b.circles),
        (a.corners, b.corners),
    ):
        assert len(ours) == len(theirs)
        for f, g in zip(ours, theirs, strict=True):
            assert math.dist(f.at, g.at) < 1e-8  # the path says 9 decimals
    key = prepare(drawing, RuleSet(placement="slide"))
    sheet = check(key, seen)
    assert [
        f for f in sheet.findings if f.verdict != "met" and f.kind not in ("layer-style", "text-anchor")
    ] == []


@pytest.mark.parametrize(
    ("size", "symbol", "expected"),
    [
        ('width="200mm" height="100mm" viewBox="0 0 200 100"', "mm", 30),
        ('width="20cm" height="10cm" viewBox="0 0 200 100"', "mm", 30),
        ('width="8in" height="4in" viewBox="0 0 200 100"', "in", 30 * 8 / 200),
        ('width="720pt" height="360pt" viewBox="0 0 200 100"', "mm", 30 * 254 / 200),
        ('width="200mm" height="100mm"', "mm", 30 * 25.4 / 96),
        ('viewBox="0 0 200 100"', None, 30),
        ('width="800" height="400" viewBox="0 0 200 100"', None, 30),
    ],
)
def test_the_page_says_unit_and_size_to_the_last_digit(
    size: str, symbol: str | None, expected: float
) -> None:
    drawing = read_file(page('<line x1="10" y1="90" x2="40" y2="90"/>', size))
    (line,) = drawing.of(Line)
    assert (drawing.unit and drawing.unit.symbol) == symbol
    assert math.dist(line.start, line.end) == pytest.approx(expected, rel=1e-14)  # type: ignore[union-attr]


def test_a_page_is_turned_over_at_its_bottom() -> None:
    (line,) = read_file(page('<line x1="10" y1="90" x2="40" y2="100"/>')).of(Line)
    assert (line.start, line.end) == ((10, 10), (40, 0))  # type: ignore[union-attr]


def test_transforms_uses_and_rounded_rectangles() -> None:
    body = """<defs><g id="hole"><circle r="3"/></g></defs>
      <g id="outline" transform="translate(50 50)"><use href="#hole" x="10" y="-5"/>
        <rect x="-20" y="-10" width="40" height="20" rx="4"/></g>
      <g id="other" transform="rotate(90) scale(-1 1)"><path d="M0 0 A5 5 0 0 1 5 5"/></g>"""
    work = simplify(read_file(page(body)), length_tolerance=0.001)
    assert [(c.center, c.radius) for c in work.circles] == [(pytest.approx((60, 55)), pytest.approx(3))]
    assert (len(work.edges), len(work.arcs), len(work.outlines)) == (4, 5, 1)
    assert {f.layer for f in work.drawn} == {"outline", "other"}
    assert {round(a.radius, 9) for a in work.arcs} == {4, 5}


@pytest.mark.parametrize(
    ("dashes", "kind"), [("none", "continuous"), ("3 1", "dashed"), ("3", "dashed"), ("8,1,1,1", "chain")]
)
def test_dashes_are_line_types(dashes: str, kind: str) -> None:
    (line,) = read_file(
        page(f'<path d="M0 0H9" stroke="#c00" stroke-width="0.5" stroke-dasharray="{dashes}"/>')
    ).of(Line)
    assert (line.style.line_type, line.style.color, line.style.weight) == (kind, "#cc0000", 0.5)


def test_beziers_are_free_unless_straight() -> None:
    drawing = read_file(
        page(
            '<path d="M0 0C1 1 2 2 3 3"/><path d="M10 0C10 5 15 10 20 10"/><path d="M0 50A20 10 0 0 1 40 '
            '50"/>'
        )
    )
    assert [type(e) for e in drawing.entities] == [Line, FreeCurve, FreeCurve]


def test_what_is_not_shown_is_said() -> None:
    drawing = read_file(
        page('<path d="M0 0H9" display="none"/><path d="M0 0H9" visibility="hidden"/><path d="M0 0V9"/>')
    )
    assert len(drawing.entities) == 1
    assert [(o.code, o.count) for o in drawing.oddities] == [("switched-off", 2)]


def test_spans_of_one_text_are_one_wording() -> None:
    (text,) = read_file(
        page('<text x="5" y="6" font-size="4" text-anchor="middle">Gate <tspan>plate</tspan></text>')
    ).of(Text)
    assert (text.wording, text.height, text.anchor) == ("Gate plate", 4, "centre baseline")  # type: ignore[union-attr]


BOMB = "".join(
    f'<g id="b{n}">{f"<use href=%s#b{n - 1}%s/>" % (chr(34), chr(34)) * 12}</g>' for n in range(1, 9)
)


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (page('<g id="b0"><path d="M0 0H1"/></g>' + BOMB), "too-large"),
        (page('<g id="a"><use href="#a"/></g>'), "too-large"),
        (page("<g>" * 3000 + "</g>" * 3000), "too-large"),
        (page("<path d='M0 0"), "damaged"),
        (
            b'<!DOCTYPE s [<!ENTITY a "b"><!ENTITY c "&a;&a;">]><svg '
            b'xmlns="http://www.w3.org/2000/svg"><text>&c;</text></svg>',
            "damaged",
        ),
        (b"<html><svg></svg></html>", "not-a-drawing"),
        (page('<path d="M0 0H9"/>', 'viewBox="nan 0 5 5"'), "damaged"),
    ],
)
def test_hostile_pages_end_in_a_sentence(data: bytes, code: str) -> None:
    with pytest.raises(UnreadableDrawing) as caught:
        read_file(data)
    assert caught.value.code == code
