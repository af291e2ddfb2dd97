"""After each slot all that may follow is offered: words, ways of saying a point, where a typed length may
lead."""

from __future__ import annotations

from typing import Any

import pytest

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.session import BoardSession
from evenmark.core.construct.document import from_text


def offered(text: str, says: str) -> Any:
    desk = BoardSession()
    desk.open(BoardDocument(from_text(text)))
    return desk.ask("state", {"says": says})


DRAWN = "line 0, 0; 40, 0\ncircle 9, 9; radius 3"


@pytest.mark.parametrize(
    ("text", "says", "answers"),
    [
        ("", "line ", {"middle", "tangent to"}),
        ("", "line 0, 0; ", {"right", "left", "up", "down", "by"}),
        (DRAWN, "line 0, 0; ", {"right", "by", "end of", "middle of", "centre of", "crossing of"}),
        (
            DRAWN,
            "line 0, 0; 20",
            {"right 20", "up 20", "left 20", "down 20", "20 toward", "20 perpendicular to"},
        ),
        (DRAWN, "chain 0, 0; right 20; ", {"close", "tangent arc to", "up", "by", "layer"}),
        (DRAWN, "circle 0, 0 ", {"radius", "diameter", "through"}),
        (DRAWN, "circle 0, 0; ", {"radius", "diameter", "through"}),
        (DRAWN, "move circle 2", {"and", "by", "from"}),
        (DRAWN, "move circle 2 ", {"by", "from"}),
        (DRAWN, "trim edge 1 ", {"at"}),
        (DRAWN, "trim edge 1; at circle 2", {"and", "keep", "drop"}),
        (DRAWN, "line middle 0, 0; 20", {"20 toward"}),
        (DRAWN, 'text "A"; 0, 0; height 3 ', {"turned", "layer"}),
        (DRAWN, "line touching circle 2; ", {"from", "at"}),
    ],
)
def test_what_may_follow_is_offered(text: str, says: str, answers: set[str]) -> None:
    found = offered(text, says)
    assert answers <= {a["says"] for a in found["answers"]}
    for one in found["answers"]:
        again = offered(text, one["text"])
        assert again["wrong"] is None, one


def test_how_it_looks_is_offered_last() -> None:
    says = [a["says"] for a in offered(DRAWN, "chain 0, 0; right 20; ")["answers"]]
    assert says.index("layer") > says.index("close")
    assert says.index("layer") > says.index("centre of")


def test_by_is_offered_wherever_a_point_follows_another() -> None:
    for says in ("line 0, 0; ", "circle through 0, 0; 4, 4; ", "size 0, 0; ", "text \"A\"; between 0, 0; ",
                 "arc centre 0, 0; from ", "rectangle 0, 0; ", "sizes in a row 0, 0; "):  # fmt: skip
        assert "by" in {a["says"] for a in offered("", says)["answers"]}, says
    assert "by" not in {a["says"] for a in offered("", "circle ")["answers"]}


@pytest.mark.parametrize(
    ("says", "onward"),
    [
        ("circle 0, 0", "circle 0, 0; "),
        ("circle 0, 0 ", "circle 0, 0; "),
        ("circle 0, 0; radius 4", ""),
        ("move circle 2", "move circle 2; "),
        ("trim edge 1; at circle 2", "trim edge 1; at circle 2; "),
        ("chain 0, 0; right 20", "chain 0, 0; right 20; "),
        ("line 0, 0; 20", ""),
    ],
)
def test_a_filled_slot_goes_on_to_the_next(says: str, onward: str) -> None:
    assert offered(DRAWN, says)["onward"] == onward


CONSTRUCTIONS = [
    ("line touching circle 3; circle 4; ", 4, (45, 14)),
    ("line touching circle 3; from 0, 0; ", 2, (20, 26)),
    ("circle touching edge 1; edge 2; radius 11; ", 4, (11, 22)),
    ("circle touching edge 1; circle 3; radius 11; ", 2, (30, 10)),
    ("circle touching edge 1; edge 2; circle 3; ", 4, (12, 12)),
    ("circle touching edge 1; at 20, 0; radius 5; ", 2, (20, 10)),
    ("arc 0, 0; 20, 0; radius 12; ", 4, (10, 3)),
    ("polygon 6; edge 0, 0; 10, 0; ", 2, (5, 9)),
    ("parallel edge 1; gap 5; ", 2, (20, 6)),
    ("square edge 1; at 20, 0; length 12; ", 2, (20, 6)),
]


@pytest.mark.parametrize(("says", "count", "place"), CONSTRUCTIONS)
def test_all_answers_of_a_construction_are_shown_and_the_nearest_is_meant(
    says: str, count: int, place: tuple[float, float]
) -> None:
    text = "line 0, 0; 40, 0\nline 0, 0; 0, 40\ncircle 30, 30; radius 9\ncircle 60, 5; radius 4"
    desk = BoardSession()
    desk.open(BoardDocument(from_text(text)))
    state = desk.ask("state", {"says": says})
    assert len([a for a in state["answers"] if a["paths"]]) == count
    ox, oy = desk.board.frame().origin
    where = {"x": place[0] - ox, "y": oy - place[1], "reach": 2.0, "pixel": 0.2}
    found = desk.ask("point", {"says": says, **where})
    assert (len(found["choices"]), len(found["others"])) == (
        count,
        sum(len(a["paths"]) for a in state["answers"]) - len(found["preview"]["pieces"]),
    )
    assert not found["preview"]["broken"]
    assert {c["says"] for c in found["choices"]} == {a["says"] for a in state["answers"]}
    for answer in state["answers"]:
        assert "refused" not in desk.ask("write", {"says": answer["text"]})
        assert not desk.board.evaluation.outcomes[-1].broken
