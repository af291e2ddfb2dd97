"""What may be meant by a sentence that cannot be read: one reading is taken, of several one is chosen."""

from __future__ import annotations

import pytest

from evenmark.core.board.board import BoardDocument, NotDone
from evenmark.core.board.hand import HandText
from evenmark.core.board.pointer import Pointer
from evenmark.core.board.session import BoardSession
from evenmark.core.construct.document import from_text, shown
from evenmark.core.construct.meant import both_ways, meanings, separated
from tests.catalogue import EXAMPLES


def ids(number: int) -> int | None:
    return number


ONE = [
    ("line 0,0 to 100,0", "line 0,0; 100,0"),
    ("line from 0,0 to 10,10", "line 0,0; 10,10"),
    ("line 0,0; 50 at 30", "line 0,0; 50 toward 30"),
    ("line 10 20; 30 40", "line 10, 20; 30, 40"),
    ("line (0,0) (10,10)", "line (0,0); (10,10)"),
    ("line 0;0 10;5", "line 0, 0; 10, 5"),
    ("line −5, −3; 10, 2", "line -5, -3; 10, 2"),
    ("line 0, 0; 10, −28.58", "line 0, 0; 10, -28.58"),
    ("line tangent to circle 1; from 40,0; left", "line tangent to circle 1; from 40,0; left"),
    ("circle 60, 40 radius 8", "circle 60, 40; radius 8"),
    ("circle 60,40; Ø12", "circle 60,40; diameter 12"),
    ("circle 60,40 ⌀ 12", "circle 60,40; diameter 12"),
    ("circle 60,40; r10", "circle 60,40; radius 10"),
    ("circle 60,40 R10", "circle 60,40; radius 10"),
    ("circle 0,0; r 4", "circle 0,0; radius 4"),
    ("circle 0,0; 8 radius", "circle 0,0; radius 8"),
    ("circle 0,0; radius = 8", "circle 0,0; radius 8"),
    ("circle 0,0; diameter 8 mm", "circle 0,0; diameter 8"),
    ("circle center 10,10; radius 4", "circle 10,10; radius 4"),
    ("circle at 10,10; radius 4", "circle 10,10; radius 4"),
    ("circle 3,5; 2,5; radius 2", "circle 3.5, 2.5; radius 2"),
    ("circle 3,5 2,5; radius 2,5", "circle 3.5, 2.5; radius 2.5"),
    ("circle 0,0; radius 2½", "circle 0,0; radius 2 1/2"),
    ("circle 0,0; 10,0", "circle 0,0; through 10,0"),
    ("rectangle 0,0; 40 x 20", "rectangle 0,0; 40 by 20"),
    ("rectangle 0,0 40×20", "rectangle 0,0; 40 by 20"),
    ("rotate circle 1 about 0,0 30", "turn circle 1; about 0,0; 30"),
    ("dim 0,0; 10,0; horizontal; at 5,5", "dimension 0,0; 10,0; horizontal; at 5,5"),
    ("perpendicular edge 1 from 0,0", "perpendicular edge 1; from 0,0"),
    ("parallel line 1 gap 5 left", "parallel edge 1; gap 5; left"),
    ("line tangent circle 1; from 40,0; left", "line tangent to circle 1; from 40,0; left"),
    ("circle concentric circle 1; radius 3", "circle concentric with circle 1; radius 3"),
    ("delete line 1", "erase edge 1"),
    ("array circle 1; 4 across 20", "repeat circle 1; 4 across 20"),
    ("move circle 1 by 10,0", "move circle 1; by 10,0"),
    ("fillet edge 1, edge 2, radius 5", "fillet edge 1; edge 2; radius 5"),
    ("mirror circle 1 about edge 2 copy", "mirror circle 1; about edge 2; copy"),
    ("trim edge 1 at edge 2 keep 0,0", "trim edge 1; at edge 2; keep 0,0"),
    ("text GATE PLATE; 0,0; height 3", 'text "GATE PLATE"; 0,0; height 3'),
    ("hexagon centre 0,0; inside 20", "polygon 6; centre 0,0; inside 20"),
    ("chain 0,0 right 20 up 10 close", "chain 0,0; right 20; up 10; close"),
]


@pytest.mark.parametrize(("typed", "meant"), ONE, ids=[t for t, _ in ONE])
def test_one_reading_is_what_was_meant(typed: str, meant: str) -> None:
    assert meanings(typed, ids) == [meant]


@pytest.mark.parametrize(
    ("typed", "ways"),
    [
        ("circle 60,40; 8", ["circle 60,40; radius 8", "circle 60,40; diameter 8"]),
        ("circle 60,40 R", ["circle 60,40; radius R", "circle 60,40; diameter R"]),
        ("line 0,0; +20,+10", ["line 0,0; 20, 10", "line 0,0; by 20, 10"]),
        ("line 0,0; +20,-10", ["line 0,0; 20, -10", "line 0,0; by 20, -10"]),
        ("line 0,0; xyz", []),
        ("foo 1, 2", []),
        ('text "a" "b"', []),
    ],
)
def test_of_several_readings_all_are_shown(typed: str, ways: list[str]) -> None:
    assert meanings(typed, ids, names=("R",)) == ways


def test_what_can_be_read_means_itself() -> None:
    for example in EXAMPLES:
        for says in shown(from_text(example.text)):
            assert meanings(says, ids) == [says]
            assert separated(says, ids) == says
    for says in (
        "line 0,0; by +20,+10",
        "line -20,-10; 5, 5",
        "circle 2+3, 4+5; radius 2",
        'text "+1,+2"; 0,0; height 3',
    ):
        assert both_ways(says) is None


def test_every_sentence_may_be_written_without_the_signs_between_its_slots() -> None:
    """But where the slots then run into each other, so that it could be something else."""
    lost = []
    for example in EXAMPLES:
        for says in shown(from_text(example.text)):
            bare = says.replace(";", "") if '"' not in says else says
            found = meanings(bare, ids)
            if says not in found and " ".join(says.split()) not in found:
                lost.append(says)
    assert len(lost) <= 12, lost


@pytest.mark.parametrize(
    ("typed", "stands"),
    [
        ("circle 60, 40 r", "circle 60, 40; r"),
        ("line 0,0; right 20 f", "line 0,0; right 20 f"),
        ("line 0,0; right 20 from 5,5", "line 0,0; right 20 from 5,5"),
        ("circle 0,0; radius 4 5", "circle 0,0; radius 4 5"),
        ("circle 0,0; radius 4 5/8", "circle 0,0; radius 4 5/8"),
        ("trim edge 1; at edge 2 a", "trim edge 1; at edge 2 a"),
        ("trim edge 1; at edge 2 k", "trim edge 1; at edge 2; k"),
        ("line 0,0 1", "line 0,0 1"),
        ("line 0,0 10,", "line 0,0; 10,"),
        ("line 0, 0 ", "line 0, 0 "),
        ("line 0, 0", "line 0, 0"),
    ],
)
def test_the_sign_between_slots_is_written_where_a_slot_has_surely_ended(typed: str, stands: str) -> None:
    assert separated(typed, ids) == stands
    board = BoardDocument(from_text("line 0, 0; 9, 9\nline 5, 0; 5, 9"))
    assert Pointer(board).state(HandText(typed, len(typed)))["text"] == stands


def test_a_board_takes_what_was_meant_and_shows_both_ways_of_what_is_not_clear() -> None:
    board = BoardDocument(from_text("R = 4"))
    board.write("circle 60,40 Ø12")
    board.write("line 0,0 to 100,0")
    assert shown(board.document) == ["circle 60,40; diameter 12", "line 0,0; 100,0"]
    with pytest.raises(NotDone) as why:
        board.write("circle 60,40; R")
    assert why.value.readings == ("circle 60,40; radius R", "circle 60,40; diameter R")
    state = Pointer(board).state(HandText("circle 60,40; 8", 15))
    assert (state["whole"], len(state["readings"])) == (False, 2)
    state = Pointer(board).state(HandText("circle 60,40; Ø8", 16))
    assert (state["whole"], state["wrong"], state["readings"]) == (True, None, ["circle 60,40; diameter 8"])
    assert state["preview"]["pieces"]


def test_a_number_too_many_is_no_name_of_a_layer() -> None:
    assert meanings("circle 0, 0; radius 2 4", lambda n: None) == []


@pytest.mark.parametrize(
    ("typed", "meant"),
    [
        ("rectangle 100 x 60 at 0,0", ["rectangle 0,0; 100 by 60"]),
        ("hexagon at 0,0 outside 15", ["polygon 6; centre 0,0; outside 15"]),
        ("hexagon 0,0 30", ["polygon 6; centre 0,0; inside 30", "polygon 6; centre 0,0; outside 30"]),
        ("fillet edge 1 and edge 2 radius 5", ["fillet edge 1; edge 2; radius 5"]),
        ("slot 20,20 to 60,20 width 10", ["slot 20,20; 60,20; width 10"]),
        ("move circle 2 to 20,20",
         ["move circle 2; by 20,20", "move circle 2; from centre of circle 2 to 20,20"]),
        ("copy edge 1 to 5, 5", ["copy edge 1; by 5, 5", "copy edge 1; from start of edge 1 to 5, 5"]),
        ("line 10 long from 0,0 at 45", []),  # no value is called so
    ],
)  # fmt: skip
def test_as_a_new_hand_types_it(typed: str, meant: list[str]) -> None:
    assert sorted(meanings(typed, ids, 1, {"wide"})) == sorted(meant)


def test_no_word_is_read_as_a_value_that_there_is_not() -> None:
    assert meanings("rectangle 0,0 wide x 20", ids, 1, {"wide"}) == ["rectangle 0,0; wide by 20"]
    assert meanings("rectangle 0,0 wide x 20", ids, 1, ()) == []


TASKS = {
    "plate with a notch": """
        chain 0,0 to 100,0 to 100,60 to 60,60 to 60,40 to 40,40 to 40,60 to 0,60 close
        circle 10,10 d8
        repeat circle 2 2 across 80 2 up 40
        = chain 0,0; 100,0; 100,60; 60,60; 60,40; 40,40; 40,60; 0,60; close
        = circle 10,10; diameter 8
        = repeat circle 2; 2 across 80; 2 up 40
    """,
    "crank link": """
        circle 0,0 r20
        circle 80,0 r10
        line tangent to circle 1 circle 2 outer left
        = circle 0,0; radius 20
        = circle 80,0; radius 10
        = line tangent to circle 1; circle 2; outer left
    """,
    "hexagon nut": """
        hexagon 0,0 outside 15
        rectangle -15,30 30x15
        line -5,30 to -5,45
        = polygon 6; centre 0,0; outside 15
        = rectangle -15,30; 30 by 15
        = line -5,30; -5,45
    """,
    "gasket": """
        rectangle 0,0 100x60
        fillet corners of step 1 radius 10
        circle 50,30 d40
        pitch circle 50,30 diameter 52 6 holes diameter 4 first 0
        = rectangle 0,0; 100 by 60
        = fillet corners of step 1; radius 10
        = circle 50,30; diameter 40
        = pitch circle 50,30; diameter 52; 6 holes diameter 4; first 0
    """,
}


@pytest.mark.parametrize("task", TASKS)
def test_whole_tasks_as_a_new_hand_types_them(task: str) -> None:
    """Letter by letter: what stands there is whole at the end, and what becomes of it is what was meant."""
    desk = BoardSession()
    lines = [line.strip() for line in TASKS[task].strip().splitlines()]
    for line in lines:
        if line.startswith("="):
            continue
        says = ""
        for letter in line:
            now = desk.ask("state", {"says": says + letter})
            says = str(now["text"])
        assert now["whole"], (says, now["wrong"])
        assert "refused" not in desk.ask("write", {"says": says})
    assert shown(desk.board.document) == [x[2:] for x in lines if x.startswith("=")]
    assert [o.broken for o in desk.board.evaluation.outcomes if o.broken] == []
