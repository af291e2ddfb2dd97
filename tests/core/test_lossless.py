"""Whatever a Drawing holds is read as it was written: numbers to the last digit, names, looks, layouts."""

from __future__ import annotations

import math
from dataclasses import fields, is_dataclass, replace
from typing import Any

import pytest
from ezdxf.lldxf.const import VALID_DXF_LINEWEIGHTS
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.conventions.lines import WEIGHTS
from evenmark.core.drawing.annotations import Dimension, Endless, Hatch, Note, Vertex, measure
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import (
    Arc,
    Circle,
    Drawing,
    Entity,
    FreeCurve,
    Layout,
    LayoutView,
    Line,
    Text,
)
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_holds import left_out
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.formats.errors import Unwritable
from evenmark.core.geometry.units import BY_SYMBOL, MM
from evenmark.core.plain import is_plain
from tests.extent import examples

VERSIONS = ("R2000", "R2004", "R2007", "R2010", "R2013", "R2018")
HOLDS_NO_TRUE_COLOUR = ("R2000",)

numbers = st.floats(-1e6, 1e6, allow_nan=False).map(lambda v: v + 0.0)
sizes = st.floats(1e-3, 1e4)
points = st.tuples(numbers, numbers)
turns = st.floats(0, 359).map(lambda d: math.radians(d))
words = st.text(
    st.characters(max_codepoint=0xFFFF, exclude_categories=("C", "Z")) | st.sampled_from(" %^\\{};°Ø±\"'<>"),
    min_size=1,
    max_size=12,
).filter(lambda w: is_plain(w) and " ".join(w.split()) == w and bool(w) and "<>" not in w)
names = st.text("abc XYZ äß-_1", min_size=1, max_size=8).filter(lambda n: n.strip() == n and bool(n))
colors = st.integers(1, 255) | st.integers(0, 0xFFFFFF).map(lambda v: f"#{v:06x}")
patterns = st.sampled_from(["dashed", "dotted", "chain", "double chain"])


@st.composite
def styles(draw: Any) -> Style:
    weight = draw(st.none() | st.sampled_from(WEIGHTS))
    if draw(st.booleans()):
        return Style(color=draw(colors), weight=weight)
    return Style(color=draw(colors), line_type=draw(patterns), weight=weight, dash=draw(st.floats(0.1, 500)))


@st.composite
def entities(draw: Any, looks: list[tuple[str, Style]]) -> Entity:
    layer, style = draw(st.sampled_from(looks))
    look = (layer, style, "")
    kind = draw(st.sampled_from(["line", "arc", "circle", "text", "curve"]))
    if kind == "line":
        return Line(draw(points), draw(points), *look)
    if kind == "arc":
        start, sweep = draw(turns), draw(st.floats(1, 359).map(math.radians))
        return Arc(draw(points), draw(sizes), start, sweep, *look)
    if kind == "circle":
        return Circle(draw(points), draw(sizes), *look)
    if kind == "curve":
        # far from straight and from round, which a reader would see
        x, y = draw(points)
        zigzag = [(x + 3.0 * k, y + (k % 2) * 7.0 + k * k) for k in range(9)]
        return FreeCurve(tuple(zigzag), draw(st.sampled_from(["spline", "ellipse", "curve"])), *look)
    wording, turn = draw(words), draw(st.floats(0, 359))
    if draw(st.booleans()):
        second = draw(points)
        fits = draw(st.sampled_from(["width", "size"]))
        at = draw(points)
        return Text(wording, at, "left baseline", draw(sizes), turn, *look, draw(names), second, fits)
    if draw(st.booleans()):
        wording, up = f"{wording}\n{draw(words)}", draw(st.sampled_from(["top", "middle", "bottom"]))
    else:
        up = draw(st.sampled_from(["top", "middle", "baseline", "bottom"]))
    across = draw(st.sampled_from(["left", "centre", "right"]))
    return Text(wording, draw(points), f"{across} {up}", draw(sizes), turn, *look, draw(names))


@st.composite
def dimensions(draw: Any, looks: list[tuple[str, Style]]) -> Dimension:
    layer, style = draw(st.sampled_from(looks))
    kind = draw(st.sampled_from(["linear", "angular", "radius", "diameter", "ordinate", "arc"]))
    count = {"linear": 2, "radius": 2, "diameter": 2, "ordinate": 2}.get(kind, 3)
    at = tuple(draw(st.lists(points, min_size=count, max_size=count, unique=True)))
    turn = 0.0
    if kind == "linear":
        turn = draw(st.floats(0, 179.5))
    elif kind == "ordinate":
        turn = draw(st.sampled_from([0.0, 90.0]))
    typed = draw(st.none() | words)
    return Dimension(
        kind=kind,  # type: ignore[arg-type]
        points=at,
        measured=measure(kind, at, turn),  # type: ignore[arg-type]
        turn_deg=turn,
        typed=typed,
        before=draw(st.sampled_from(["", "4 × ", "("])) if typed is None else "",
        after=draw(st.sampled_from(["", " H7", ")"])) if typed is None else "",
        factor=draw(st.sampled_from([1.0, 2.5, 1 / 3])),
        at=draw(points),
        line=None if kind in ("radius", "diameter") else draw(points),
        decimals=draw(st.integers(0, 8)),
        zeros=draw(st.booleans()),
        fractions=draw(st.booleans()),
        tolerance=draw(st.none() | st.tuples(st.floats(0, 1), st.floats(-1, 0).map(lambda v: v + 0.0))),
        height=draw(sizes),
        layer=layer,
        style=style,
    )


@st.composite
def hatches(draw: Any, looks: list[tuple[str, Style]]) -> Hatch:
    layer, style = draw(st.sampled_from(looks))
    bulges = st.just(0.0) | st.floats(-2, 2).map(lambda v: v + 0.0)
    vertices = st.builds(Vertex, numbers, numbers, bulges)
    loops = tuple(
        tuple(draw(st.lists(vertices, min_size=3, max_size=6))) for _ in range(draw(st.integers(1, 3)))
    )
    if draw(st.booleans()):
        return Hatch(loops=loops, pattern="solid", angle_deg=0.0, layer=layer, style=style)
    angle = draw(st.floats(0, 179))
    return Hatch(loops=loops, pattern="lines", angle_deg=angle, gap=draw(sizes), layer=layer, style=style)


@st.composite
def notes(draw: Any, looks: list[tuple[str, Style]]) -> Note:
    layer, style = draw(st.sampled_from(looks))
    return Note(
        points=tuple(draw(st.lists(points, min_size=2, max_size=4))),
        wording=draw(words),
        at=draw(points),
        across=draw(st.sampled_from(["left", "centre", "right"])),
        height=draw(sizes),
        layer=layer,
        style=style,
    )


@st.composite
def drawings(draw: Any) -> Drawing:
    layers = {"0": Layer(name="0", style=Style())}
    for name in draw(st.lists(names, max_size=3, unique_by=str.lower)):
        layers[name] = Layer(name=name, style=draw(styles()))
    looks = [(n, layer.style) for n, layer in layers.items()]
    looks += [(n, draw(styles())) for n in layers]

    def space() -> dict[str, Any]:
        return {
            "entities": tuple(draw(st.lists(entities(looks), min_size=1, max_size=4))),
            "dimensions": tuple(draw(st.lists(dimensions(looks), max_size=2))),
            "hatches": tuple(draw(st.lists(hatches(looks), max_size=2))),
            "notes": tuple(draw(st.lists(notes(looks), max_size=2))),
        }

    layouts = []
    for name in draw(st.lists(names, max_size=2, unique_by=str.lower)):
        view = LayoutView(
            at=draw(points),
            size=(draw(sizes), draw(sizes)),
            center=draw(points),
            seen=draw(sizes),
            turn_deg=30.0,
        )
        paper = draw(st.none() | st.tuples(st.floats(10, 2000), st.floats(10, 2000)))
        layouts.append(Layout(name=name, views=(view,), paper=paper, **space()))
    turn = draw(turns)
    endless = (Endless(draw(points), (math.cos(turn), math.sin(turn)), draw(st.booleans()), *looks[0], ""),)
    unit = draw(st.none() | st.sampled_from(list(BY_SYMBOL.values())))
    return Drawing(**space(), endless=endless, layouts=tuple(layouts), layers=layers, unit=unit)


def nameless(d: Any) -> Any:
    """A drawing without the names that a file gives its objects."""
    out = replace(
        d,
        entities=tuple(e._replace(source="") for e in d.entities),
        dimensions=tuple(replace(x, source="") for x in d.dimensions),
        hatches=tuple(replace(x, source="") for x in d.hatches),
        notes=tuple(replace(x, source="") for x in d.notes),
    )
    if isinstance(d, Layout):
        return out
    return replace(
        out,
        endless=tuple(e._replace(source="") for e in d.endless),
        layouts=tuple(nameless(s) for s in sorted(d.layouts, key=lambda s: s.name)),
        version="",
    )


def assert_same(one: Any, other: Any, at: str = "") -> None:
    """Every number is the same, those of arcs as near as degrees can say them."""
    assert type(one) is type(other), at
    if isinstance(one, Arc):
        assert (other.start_rad, other.sweep_rad) == pytest.approx(
            (one.start_rad, one.sweep_rad), rel=0, abs=4e-15
        )
        other = other._replace(start_rad=one.start_rad, sweep_rad=one.sweep_rad)
    if hasattr(one, "_fields"):
        for name in one._fields:
            assert_same(getattr(one, name), getattr(other, name), f"{at}.{name}")
    elif isinstance(one, tuple):
        assert len(one) == len(other), at
        for n, (a, b) in enumerate(zip(one, other, strict=True)):
            assert_same(a, b, f"{at}[{n}]")
    elif is_dataclass(one):
        for f in fields(one):
            assert_same(getattr(one, f.name), getattr(other, f.name), f"{at}.{f.name}")
    else:
        assert one == other, at


@settings(max_examples=examples(120), deadline=None)
@given(drawings(), st.sampled_from(VERSIONS), st.booleans())
def test_what_is_written_is_read(d: Drawing, version: str, binary: bool) -> None:
    if version in HOLDS_NO_TRUE_COLOUR:
        d = read_colours(d)
    again = read_file(write_dxf(d, Manner(version=version, binary=binary)))
    assert not again.oddities
    assert_same(nameless(d), nameless(again))
    twice = read_file(write_dxf(again, Manner(version=version)))
    assert nameless(twice) == nameless(again)  # and from then on nothing changes at all


def read_colours(d: Drawing) -> Drawing:
    """A drawing whose colours are all numbered."""

    def plain(s: Style) -> Style:
        return s if isinstance(s.color, int) else replace(s, color=1)

    def space(x: Any) -> Any:
        return replace(
            x,
            entities=tuple(e._replace(style=plain(e.style)) for e in x.entities),
            **{
                k: tuple(replace(v, style=plain(v.style)) for v in getattr(x, k))
                for k in ("dimensions", "hatches", "notes")
            },
        )

    layers = {n: replace(layer, style=plain(layer.style)) for n, layer in d.layers.items()}
    return replace(
        space(d),
        layers=layers,
        endless=tuple(e._replace(style=plain(e.style)) for e in d.endless),
        layouts=tuple(space(s) for s in d.layouts),
    )


def test_what_r12_cannot_hold_is_said() -> None:
    d = Drawing(
        entities=(Line((0.0, 0.0), (5.0, 0.0), "0", Style(weight=0.5, color="#102030"), ""),),
        hatches=(Hatch(loops=((Vertex(0, 0), Vertex(5, 0), Vertex(0, 5)),), gap=1.0),),
        unit=MM,
    )
    assert left_out(d, "R12") == [
        "R12 has only numbered colours: others are left out.",
        "R12 cannot hold hatchings: 1 left out.",
        "R12 has no line widths: they are left out.",
        "R12 declares no unit: tell the reader that it is in mm.",
    ]
    assert left_out(d, "R2000") == ["R2000 has only numbered colours: others are left out."]
    assert left_out(d, "R2004") == []
    assert read_file(write_dxf(d, Manner(version="R12"))).entities[0][:2] == ((0.0, 0.0), (5.0, 0.0))


@pytest.mark.parametrize(
    ("layer", "style", "says"),
    [
        ("a/b", Style(), "'a/b'"),
        ("a", Style(weight=0.33), "0.33 mm. The nearest is 0.35 mm"),
        ("a", Style(line_type="zigzag"), "zigzag"),
        ("a", Style(color=300), "300"),
        ("a", Style(color="red"), "red"),
    ],
)
def test_what_no_file_can_hold_is_refused_by_its_name(layer: str, style: Style, says: str) -> None:
    with pytest.raises(Unwritable, match=says):
        write_dxf(Drawing(entities=(Line((0.0, 0.0), (5.0, 0.0), layer, style, ""),)))


def test_a_note_stays_tied_to_its_text() -> None:
    style = Style()
    text = Text("2 HOLES", (60.0, 70.0), "left middle", 3.0, 0.0, "0", style, "t1")
    note = Note(points=((0.0, 0.0), (50.0, 70.0)), text_source="t1", layer="0", style=style)
    again = read_file(write_dxf(Drawing(entities=(text,), notes=(note,))))
    assert again.notes[0].text_source == again.entities[0].source
    assert again.notes[0].wording == "2 HOLES"


def test_weights_are_those_that_the_library_knows() -> None:
    assert sorted(WEIGHTS) == [w / 100 for w in sorted(VALID_DXF_LINEWEIGHTS) if w >= 0]


@pytest.mark.parametrize("wording", ["^", "0^", "^^", "a ^ b", "50 %^"])  # found by a random drawing
def test_a_caret_is_lettering_wherever_it_stands(wording: str) -> None:
    text = Text(wording, (0.0, 0.0), "left baseline", 3.0, 0.0, "0", Style(), "t1")
    assert read_file(write_dxf(Drawing(entities=(text,)))).entities[0].wording == wording  # type: ignore[union-attr]
