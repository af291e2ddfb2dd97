"""Drawings that are laid into a document: kept without loss, drawn as they were, named by later steps."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings

from evenmark.core.board.board import BoardDocument, NotDone
from evenmark.core.board.edits import back
from evenmark.core.construct.building import build
from evenmark.core.construct.document import Document, DocumentLine, from_json, from_text, to_json, to_text
from evenmark.core.construct.laying import ready
from evenmark.core.construct.measuring import measured
from evenmark.core.drawing.annotations import Hatch, Note, Vertex
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Circle, Drawing, Line, Text
from evenmark.core.drawing.moving import moved_drawing
from evenmark.core.drawing.stored import packed, unpacked
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.geometry.units import INCH, MM
from tests.core.test_lossless import drawings, nameless
from tests.extent import examples

OUTLINE = Style(weight=0.5)
PLATE = Drawing(
    entities=(
        *(
            Line(a, b, "outline", OUTLINE, "1")
            for a, b in [((0, 0), (40, 0)), ((40, 0), (40, 26)), ((40, 26), (0, 26)), ((0, 26), (0, 0))]
        ),
        Circle((26.0, 13.0), 7.0, "bores", Style(color=2), "2"),
        Text("P1", (3.0, 3.0), "left bottom", 3.5, 0.0, "0", Style(), "3"),
    ),
    notes=(Note(points=((26.0, 20.0), (30.0, 32.0)), text_source="3", at=(30.0, 32.0), layer="0"),),
    layers={
        "0": Layer(name="0", style=Style()),
        "outline": Layer(name="outline", style=OUTLINE),
        "bores": Layer(name="bores", style=Style(color=1, line_type="chain", dash=17.0)),
    },
    unit=MM,
)


def bare(d: Drawing) -> dict[str, Any]:
    """What stands in a drawing, without the names that it goes by."""
    named = nameless(d)
    return {k: getattr(named, k) for k in ("entities", "dimensions", "hatches", "notes", "endless")}


@settings(max_examples=examples(60), deadline=None)
@given(drawings())
def test_what_is_kept_is_what_was_there(d: Drawing) -> None:
    again = unpacked(json.loads(json.dumps(packed(d))))
    assert bare(again) == bare(d)
    for name in {e.layer for e in d.entities}:
        assert again.layers[name].style == d.layers[name].style


@settings(max_examples=examples(60), deadline=None)
@given(drawings())
def test_what_is_laid_in_is_drawn_as_it_was(d: Drawing) -> None:
    d = ready(replace(d, unit=MM), MM)[0]
    board = BoardDocument(Document())
    board.lay_in("any", packed(d))
    drawn, was = bare(board.built.drawing), bare(d)
    was["endless"] = tuple(e._replace(ray=False) for e in was["endless"])
    for mine, theirs in zip(drawn.pop("endless"), was.pop("endless"), strict=True):
        assert mine.at == theirs.at
        assert math.dist(mine.way, theirs.way) < 1e-9
    for kind, things in drawn.items():
        assert len(things) == len(was[kind])
    for mine, theirs in zip(drawn["entities"], was["entities"], strict=True):
        assert mine._replace(style=theirs.style) == theirs
        assert (mine.style.color, mine.style.line_type) == (theirs.style.color, theirs.style.line_type)


def laid(*steps: str) -> BoardDocument:
    board = BoardDocument(Document())
    board.lay_in("plate.dxf", packed(ready(PLATE, MM)[0]))
    for says in steps:
        board.write(says)
    return board


def number(board: BoardDocument, says: str) -> float:
    (told,) = measured(board.built, says)
    assert isinstance(told.value, int | float)
    return float(told.value)


def test_later_steps_name_what_was_laid_in() -> None:
    board = laid("circle centre of circle 1; diameter 20", "fillet edge 1.1; edge 1.2; radius 5")
    assert board.built.problems == []
    assert number(board, "length of edge 1.1") == 35.0
    assert number(board, "distance of (centre of circle 2) and (0, 0)") == math.hypot(26, 13)
    # one outline of the file is one here: corners can be rounded at once
    board = laid("fillet corners of step 1; radius 4")
    assert board.built.problems == []


def test_it_is_laid_in_where_it_is_said_and_turned() -> None:
    board = laid()
    step = board.document.steps[0].id
    board.change(step, "lay in plate.dxf; at 100, 50; turned 90")
    d = board.built.drawing
    want = moved_drawing(PLATE, Similarity(turn_deg=90.0, shift=(100.0, 50.0)))
    for mine, theirs in zip(d.entities, want.entities, strict=True):
        for a, b in zip(mine[:2], theirs[:2], strict=True):
            if isinstance(a, tuple):
                assert math.dist(a, b) < 1e-9


def test_layers_come_with_it_and_looks_of_its_own_stay() -> None:
    d = laid().built.drawing
    assert d.layers["bores"].style.color == 1
    assert d.layers["bores"].style.line_type == "chain"
    hole = next(e for e in d.entities if isinstance(e, Circle))
    assert (hole.style.color, hole.style.line_type) == (2, "continuous")
    # what looks as its layer does follows it
    board = BoardDocument(from_text("layer outline: colour 3, dashed, 0.25\n"))
    board.lay_in("p", packed(PLATE))
    line = next(e for e in board.built.drawing.entities if isinstance(e, Line))
    assert (line.style.color, line.style.line_type) == (3, "dashed")


def test_a_note_stays_tied_to_its_text() -> None:
    d = laid().built.drawing
    [note] = d.notes
    assert note.text_source in {e.source for e in d.entities if isinstance(e, Text)}


def test_text_and_json_hold_it_without_loss() -> None:
    board = laid("circle centre of circle 1; diameter 20")
    again = from_text(to_text(board.document))
    assert [i._replace(id=0) for i in again.items] == [i._replace(id=0) for i in board.document.items]
    assert from_json(to_json(board.document)) == board.document
    assert bare(build(again).drawing) == bare(board.built.drawing)


@pytest.mark.parametrize(
    "name", ["a#b", "#1", "x;y", "p: q", 'it"s', "back\\slash", "a·b", "  wide  ", "\n", "äö/1"]
)
def test_layers_of_any_name_can_be_kept_and_drawn_on(name: str) -> None:
    plate = replace(
        PLATE,
        entities=(Line((0, 0), (9, 0), name, OUTLINE, "1"),),
        notes=(),
        layers={name: Layer(name=name, style=OUTLINE)},
    )
    board = BoardDocument(Document())
    board.lay_in("plate", packed(ready(plate, MM)[0]))
    [line] = board.built.drawing.entities
    board.write("circle 0, 0; radius 3", layer=line.layer)
    again = from_text(to_text(board.document))
    assert [i._replace(id=0) for i in again.items] == [i._replace(id=0) for i in board.document.items]
    assert {e.layer for e in build(again).drawing.entities} == {line.layer}
    assert not build(again).problems


def test_a_second_one_gets_a_name_of_its_own() -> None:
    board = laid()
    board.lay_in("plate.dxf", packed(PLATE))
    assert [i.name for i in board.document.items if i.kind == "drawing"] == ["plate.dxf", "plate.dxf 2"]
    assert not any(o.broken for o in board.evaluation.outcomes)


def test_it_goes_with_the_last_step_that_lays_it_in() -> None:
    board = laid("lay in plate.dxf; at 100, 0")
    first, second = (i.id for i in board.document.steps)
    before = board.document
    board.take_away([first])
    assert [i.kind for i in board.document.items if i.kind == "drawing"] == ["drawing"]
    done = board.take_away([second])
    assert not [i for i in board.document.items if i.kind in ("drawing", "step")]
    board.apply(back(done["splices"]))
    assert [i for i in board.document.items if i.kind == "drawing"] == [
        i for i in before.items if i.kind == "drawing"
    ]
    assert not any(o.broken for o in board.evaluation.outcomes)


def test_units_are_converted_and_what_is_left_out_is_said() -> None:
    inches = replace(PLATE, unit=INCH, entities=(*PLATE.entities, Line((1, 1), (1, 1), "0", Style(), "9")))
    d, says = ready(inches, MM)
    assert d.entities[0].end == (1016.0, 0.0)
    assert says == ["It was converted from in to mm.", "1 object without size left out."]
    assert ready(replace(PLATE, unit=None), MM)[1] == [
        "The file declares no unit: its numbers are read as mm."
    ]


PLAIN: dict[str, Any] = {"styles": [[7, "continuous", None, 0]], "layers": [["0", 0]]}
WRONG: dict[str, Any] = {
    "nothing": None,
    "a list": [],
    "rows that are none": {"rows": 3, "styles": [], "layers": []},
    "an unknown kind": {"rows": [["spiral", 1, 0, 0, ""]], **PLAIN},
    "a row cut short": {"rows": [["line"]], "styles": [], "layers": []},
    "a layer that is not there": {"rows": [["line", [0, 0], [1, 1], 4, 0, ""]], "styles": [], "layers": []},
    "a number too large": {"rows": [["circle", [0, 1e300], 1, 0, 0, ""]], **PLAIN},
    "no radius": {"rows": [["circle", [0, 0], 0, 0, 0, ""]], **PLAIN},
    "a colour": {"rows": [], "styles": [["red", "continuous", None, 0]], "layers": []},
    "too many": {"rows": [[]] * 10_001, "styles": [], "layers": []},
}


@pytest.mark.parametrize("what", WRONG)
def test_what_is_no_drawing_is_refused_in_a_sentence(what: str) -> None:
    board = BoardDocument(Document())
    with pytest.raises(NotDone) as why:
        board.lay_in("x", WRONG[what])
    assert str(why.value).endswith(".")
    assert board.document == Document()
    # and in a document it is a problem of its line; the rest stands
    kept = DocumentLine("drawing", json.dumps(WRONG[what]), "x")
    built = build(
        Document(
            (
                kept,
                DocumentLine("step", "lay in x", "", 1),
                DocumentLine("step", "circle 0, 0; radius 2", "", 2),
            ),
            3,
        )
    )
    assert [p.line for p in built.problems] == [1, 2]
    assert len(built.drawing.entities) == 1


def test_hatching_that_bends_by_nothing_is_drawn_as_straight() -> None:
    corners = tuple(Vertex(x, y, 5e-324) for x, y in ((0.0, 0.0), (40.0, 0.0), (40.0, 26.0)))
    for gap in (5e-324, 4.0, 0.0):
        plate = replace(PLATE, hatches=(Hatch(loops=(corners,), gap=gap),))
        board = BoardDocument(Document())
        board.lay_in("plate", packed(plate))
        [piece] = [p for p in board.view()["pieces"] if p["kind"] == "hatch"]
        assert "nan" not in piece["path"]
        assert "inf" not in piece["path"]
        assert piece["path"].startswith("M")


def test_what_breaks_off_is_told() -> None:
    built = build(from_text('drawing x: {"rows": [\nlay in x\nlay in y\n'))
    assert [str(p) for p in built.problems] == [
        "line 1: The added drawing is damaged. Add the file again.",
        "step 1: There is no drawing 'x' with this document. Open a file to add it.",
        "step 2: There is no drawing 'y' with this document. Open a file to add it.",
    ]
