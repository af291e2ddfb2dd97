"""Layers on the board, measuring between two picks, and what is offered behind what was just said."""

from __future__ import annotations

import math
from typing import Any

import pytest

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.session import BoardSession
from evenmark.core.construct.document import from_text
from evenmark.core.geometry import nearest
from evenmark.core.geometry.arcs import Round


@pytest.fixture
def desk() -> BoardSession:
    """A rectangle, a circle on ``holes`` and a guide."""
    made = BoardSession()
    for says in ("rectangle 0, 0; 80 by 50", "circle 20, 25; radius 8; layer holes", "guide level 0, 25"):
        assert "refused" not in made.ask("write", {"says": says})
    return made


def last(desk: BoardSession, **args: Any) -> str:
    return str(desk.ask("write", args)["view"]["rows"][-1]["says"])


def test_what_is_drawn_goes_on_the_layer_that_is_drawn_on(desk: BoardSession) -> None:
    assert last(desk, says="line 0, 0; 9, 9", layer="holes") == "line 0, 0; 9, 9"
    assert last(desk, says="line 0, 0; 9, 9", layer="centre") == "line 0, 0; 9, 9; layer centre"
    assert last(desk, says="line 0, 0; 9, 8; layer a", layer="b") == "line 0, 0; 9, 8; layer a"
    assert last(desk, says="move circle 2; by 1, 0", layer="b") == "move circle 2; by 1, 0"
    odd = last(desk, says="line 0, 0; 9, 7", layer='a; "b"')
    assert odd == r'line 0, 0; 9, 7; layer "a; \"b\""'
    assert desk.ask("view", {})["layer"] == 'a; "b"'


def test_nothing_on_a_hidden_layer_is_met(desk: BoardSession) -> None:
    scene = {"x": 28.0, "y": -25.0, "reach": 1.0, "pixel": 0.1, "level": "not"}
    seen = desk.ask("point", {"says": "line ", **scene})["choices"]
    assert any("circle 2" in c["says"] for c in seen)
    for hidden in (["holes"], ["holes", "construction"]):
        left = desk.ask("point", {"says": "line ", **scene, "hidden": hidden})["choices"]
        assert not any("circle 2" in c["says"] for c in left)
    box = {"x": -5.0, "y": 5.0, "x2": 90.0, "y2": -60.0}
    assert "circle 2" in desk.ask("window", box)["names"]
    assert "circle 2" not in desk.ask("window", {**box, "hidden": ["holes"]})["names"]


PICKS = [
    ("0, 0", "3, 4", {"distance": "5", "across": "3", "up": "4", "direction": "≈53.13"}),
    ("edge 1.1", "edge 1.3", {"distance": "50", "up": "50", "angle": "0"}),
    ("edge 1.1", "edge 1.2", {"distance": "0", "angle": "90"}),
    ("centre of circle 2", "edge 1.4", {"distance": "20", "across": "-20", "direction": "180"}),
    ("edge 1.4", "circle 2", {"distance": "12", "across": "12"}),
    ("circle 2", "circle 2", {"distance": "0", "centres": "0"}),
]


@pytest.mark.parametrize(("first", "second", "told"), PICKS)
def test_two_picks_are_measured_where_they_are_nearest(
    desk: BoardSession, first: str, second: str, told: dict[str, str]
) -> None:
    shown = {t["name"]: t["shows"] for t in desk.ask("measure", {"says": first, "to": second})["told"]}
    assert shown.items() >= told.items()


def test_a_pick_that_is_not_there_is_said(desk: BoardSession) -> None:
    assert "step 9" in desk.ask("measure", {"says": "circle 9", "to": "0, 0"})["refused"]


def test_circles_about_one_centre_have_a_shortest_link() -> None:
    outer, inner = (Round((0.0, 0.0), r, 0.0, math.tau) for r in (5.0, 3.0))
    for f, g in ((outer, inner), (inner, outer)):
        assert nearest.shortest(f, g).length == 2.0
        assert {nearest.shortest(f, g).start, nearest.shortest(f, g).end} == {(5.0, 0.0), (3.0, 0.0)}


OFFERED = [
    ("trim circle 2; at edge 1.1", ["keep", "drop", "and"]),
    ("join edge 1.1", ["and"]),
    ("circle 0, 0; radius 5; layer h", ["holes", "hidden"]),
    ("circle 0, 0; radius r", ["R"]),
    ("place ", ["stud"]),
]


@pytest.mark.parametrize(("says", "offered"), OFFERED)
def test_what_may_follow_is_offered_behind_what_was_said(
    desk: BoardSession, says: str, offered: list[str]
) -> None:
    desk.ask("line", {"come": {"kind": "value", "name": "R", "says": "4"}})
    desk.ask("write", {"says": "keep stud; circle 2; at 0, 0"})
    found = [a["says"] for a in desk.ask("state", {"says": says})["answers"]]
    assert found[: len(offered)] == offered


@pytest.mark.parametrize("layer", ["notes", "a; b", "a#b", 'say "so"'])
def test_what_is_chosen_is_put_on_a_layer_of_any_name(layer: str) -> None:
    desk = BoardSession()
    desk.open(BoardDocument(from_text("circle 0, 0; radius 3\nline 0, 0; 9, 9\n")))
    assert "refused" not in desk.ask("put_on", {"names": ["circle 1", "edge 2"], "layer": layer})
    assert {f.layer for f in desk.board.evaluation.state.standing()} == {layer}
    assert "refused" in desk.ask("put_on", {"names": ["circle 7"], "layer": layer})


OWN = [
    ("size 0, 0; 80, 0; across; at 40, -20", "dimension"),
    ("sizes in a row 0, 0; 40, 0; 80, 0; across; at 40, -20", "dimension"),
    ('note "CHAMFER"; 0, 0; -20, 20', "dimension"),
    ('text "PLATE"; 4, 4; height 3', "lettering"),
    ("hatch 70, 40; 45; gap 4", "section"),
    ("guide level 0, 9", "construction"),
    ("centre mark circle 2; past 3", "centre"),
    ("centre line 0, 0; 80, 50; past 3", "centre"),
    ("hide edges edge 1.1", "hidden"),
    ("frame A4 across", "frame"),
    ("line 1, 1; 9, 9", "holes"),
    ("move circle 2; by 1, 0", ""),
]


@pytest.mark.parametrize(("says", "layer"), OWN)
def test_each_kind_has_its_own_layer_and_outlines_stay_on_theirs(
    desk: BoardSession, says: str, layer: str
) -> None:
    """Whatever stands between, the next outline is on the layer of the outline before it."""
    before = desk.ask("view", {})["layer"]
    assert before == "holes"
    assert desk.ask("state", {"says": says, "layer": before})["layer"] == layer
    row = desk.ask("write", {"says": says, "layer": before})["view"]["rows"][-1]
    assert row["layer"] == layer
    assert desk.ask("view", {})["layer"] == "holes"
    assert last(desk, says="circle 60, 30; radius 2", layer="holes").endswith(
        "; layer holes" if layer in ("dimension", "lettering", "section") else "radius 2"
    )
    drawn = {f.layer for f in desk.board.evaluation.state.of_step(desk.board.document.steps[-1].id)}
    assert drawn == {"holes"}


def test_the_holes_of_a_pitch_circle_are_never_on_centre_by_themselves(desk: BoardSession) -> None:
    desk.ask("write", {"says": "line -9, 25; 90, 25; layer centre"})
    desk.ask("write", {"says": "pitch circle 40, 25; diameter 30; 4 holes diameter 4; first 0"})
    made = list(desk.board.evaluation.state.of_step(desk.board.document.steps[-1].id))
    assert [f.layer for f in made] == ["centre", *["outline"] * 4]
    assert desk.ask("view", {})["layer"] == "centre"


@pytest.mark.parametrize(("says", "layer"), [("size ", "dimension"), ("circle ", "holes"), ("move ", "")])
def test_the_layer_is_known_as_soon_as_the_kind_is(desk: BoardSession, says: str, layer: str) -> None:
    assert desk.ask("state", {"says": says})["layer"] == layer


@pytest.mark.parametrize(
    ("says", "row"),
    [
        ("circle 9, 9; radius 1", "circle 9, 9; radius 1; layer a"),
        ("size 0, 0; 9, 0; across; at 4, -9", "dimension 0, 0; 9, 0; horizontal; at 4, -9; layer a"),
        ("guide level 0, 3", "guide horizontal 0, 3; layer a"),
        ("move circle 2; by 1, 0", "move circle 2; by 1, 0"),
        ("circle 9, 9; radius 1; layer b", "circle 9, 9; radius 1; layer b"),
    ],
)
def test_a_layer_that_was_chosen_for_a_step_holds(desk: BoardSession, says: str, row: str) -> None:
    assert last(desk, says=says, layer="holes", own="a") == row
