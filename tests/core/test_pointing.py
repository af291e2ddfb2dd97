"""Pointing draws what was pressed: guides, ways, shifts, typed lengths, presses one behind the other."""

from __future__ import annotations

from typing import Any

import pytest

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.catches import HELPING_LAYERS
from evenmark.core.board.session import BoardSession
from evenmark.core.construct.document import from_text
from evenmark.core.construct.references import Ref

PX = 0.2
"""How wide a dot of the screen is here, in units."""


def desk_of(text: str) -> BoardSession:
    made = BoardSession()
    made.open(BoardDocument(from_text(text)))
    made.board.view()
    return made


def pointed(desk: BoardSession, says: str, x: float, y: float, **more: Any) -> Any:
    """Point at a place of the drawing, as the page does: y downward from the origin of the scene."""
    ox, oy = desk.board.frame().origin
    where = {"x": x - ox, "y": oy - y, "reach": 11 * PX, "pixel": PX}
    return desk.ask("point", {"says": says, "caret": len(says), **where, **more})


def pressed(desk: BoardSession, says: str, *places: tuple[float, float], **more: Any) -> str:
    """Press places one behind the other."""
    for x, y in places:
        answer = pointed(desk, says, x, y, **more)
        assert answer["choices"], (says, x, y)
        says = str(answer["text"])
    return says


def rested(desk: BoardSession, *places: tuple[float, float]) -> list[dict[str, Any]]:
    """What the page keeps of places on which the pointer rested."""
    out = []
    for x, y in places:
        answer = pointed(desk, "circle ", x, y)
        choice = answer["choices"][answer["which"]]
        out.append({"writes": choice["writes"], "x": choice["at"][0], "y": choice["at"][1]})
    return out


@pytest.mark.parametrize("y", [30, -30, 0, 12.5])
@pytest.mark.parametrize("text", ["line 10, {y}; 60, {y}", "line 500010, {y}; 500060, {y}"])
def test_guides_are_level_with_where_the_pointer_rested(text: str, y: float) -> None:
    desk = desk_of(text.format(y=y))
    far = 500_000 if "500010" in text else 0
    guides = rested(desk, (far + 60, y))
    guided = pointed(desk, "circle ", far + 90, y + 1, rested=guides)
    assert guided["choices"][0]["says"] == "horizontal with end of edge 1"
    assert f"({'end of edge 1'})" in guided["text"]
    assert guided["choices"][0]["at"][1] == desk.board.frame().origin[1] - y
    assert not any(
        "level" in c["says"] for c in pointed(desk, "circle ", far + 90, -y - 40, rested=guides)["choices"]
    )


def test_a_crossing_of_two_is_a_guide_where_it_was_pointed() -> None:
    desk = desk_of("line -30, 0; 30, 0\ncircle 0, 0; radius 20")
    guides = rested(desk, (-20, 0.2))
    says = pointed(desk, "circle ", -19, 40, rested=guides)["text"]
    done = desk.ask("write", {"says": says + "radius 2"})
    assert "refused" not in done
    assert desk.board.evaluation.state.last == (-20, 40)


@pytest.mark.parametrize("word", ["move", "copy"])
@pytest.mark.parametrize("led", ["{word} edge 1; ", "{word} edge 1; by ", "{word} edge 1; from "])
def test_things_move_from_where_to_where_they_are_pressed(word: str, led: str) -> None:
    desk = desk_of("line 10, 10; 20, 10")
    says = pressed(desk, led.format(word=word), (10.2, 10.1), (60, -10))
    assert says == f"{word} edge 1; from start of edge 1 to 60, -10"
    desk.ask("write", {"says": says})
    made = [f.shape.start for f in desk.board.evaluation.state.standing()]
    assert (60.0, -10.0) in made


def test_a_window_is_stretched_from_where_to_where() -> None:
    desk = desk_of("rectangle 0, 0; 40, 20")
    says = pressed(desk, "stretch ", (30, -10), (60, 30), (40.1, 0.1), (50, 0))
    assert says == "stretch 30, -10; 60, 30; from start of edge 1.2 to right 10"
    desk.ask("write", {"says": says})
    assert (50.0, 0.0) in [f.shape.end for f in desk.board.evaluation.state.standing()]


def test_what_was_pressed_is_whole() -> None:
    desk = desk_of("line -30, 0; 30, 0\nline 0, -30; 0, 30")
    # on a crossing, which could be said more of
    assert pressed(desk, "line ", (0.1, 0.1)) == "line crossing of edge 1 and edge 2; "
    assert pressed(desk, "line ", (0.1, 0.1), (20, 20)) == "line crossing of edge 1 and edge 2; 20, 20"
    two = pressed(desk, "size ", (0.1, 0.1), (30, 0.1), (15, 20))
    assert two.startswith("size crossing of edge 1 and edge 2; end of edge 1; ")
    # level with the one before
    assert pressed(desk, "circle through ", (10, 30), (30, 30.2), (44, 11)) == (
        "circle through 10, 30; right 20; 44, 11"
    )
    assert (
        pressed(desk, "arc through ", (10, 30), (30, 30.2), (44, 11))
        == "arc through 10, 30; right 20; 44, 11"
    )


def test_a_typed_number_behind_a_press_begins_the_next_item() -> None:
    desk = desk_of("")
    one = pressed(desk, "chain ", (0, 0))
    two = pressed(desk, one + "120", (60, 0.4))
    assert two == "chain 0, 0; right 120; "
    assert pressed(desk, two + "70", (120, 40)) == "chain 0, 0; right 120; up 70; "
    assert pressed(desk, "arc ", (0, 0), (20, 0.1)) + "15" == "arc 0, 0; right 20; radius 15"
    # in a list the page writes the sign itself, once a number is typed
    desk = desk_of("circle 0, 0; radius 5")
    answer = pointed(desk, "move ", 5, 0)
    assert (answer["text"], answer["onward"]) == ("move circle 1", "move circle 1; ")


def test_a_typed_length_is_held() -> None:
    desk = desk_of("line 0, 40; 40, 40")
    assert pressed(desk, "line middle ", (0, 0)) == "line middle 0, 0; "
    assert pressed(desk, "line middle 0, 0; 20", (30, 30.1)) == "line middle 0, 0; 20 toward 45"
    assert pressed(desk, "line middle 0, 0; 20", (30, 0.5)) == "line middle 0, 0; 20 toward 0"
    assert pressed(desk, "line middle 0, 0; 20", (40, 40)) == "line middle 0, 0; 20 toward end of edge 1"


def test_a_line_from_its_middle_ends_where_it_is_pressed() -> None:
    desk = desk_of("line 10, 10; 40, 40")
    assert pressed(desk, "line middle ", (0, 0), (21, 17)) == "line middle 0, 0; 21, 17"
    assert pressed(desk, "line middle ", (0, 0), (40, 40.3)) == "line middle 0, 0; end of edge 1"
    desk.ask("write", {"says": "line middle 0, 0; end of edge 1"})
    last = desk.board.evaluation.state.find(Ref("edge", desk.board.document.steps[-1].id, 1))
    assert (last.start, last.end) == ((-40.0, -40.0), (40.0, 40.0))


@pytest.mark.parametrize("centre", ["centre of circle 1", "start of edge 2", "nearest on circle 1 to 0, 9"])
def test_a_pressed_radius_is_measured_from_the_centre_however_it_is_said(centre: str) -> None:
    desk = desk_of("circle 0, 0; radius 10\nline 0, 0; 0, -30")
    at = (0, 10) if "nearest" in centre else (0, 0)
    says = pressed(desk, f"circle {centre}; ", (at[0] + 30, at[1] + 0.2))
    assert says == f"circle {centre}; radius 30"
    assert pressed(desk, "line 0, 0; 20", (30, 0.5)) == "line 0, 0; right 20"
    assert pointed(desk, "circle 0, 0; radius 5", 30, 30)["choices"] == []


def test_by_is_said_from_the_last_point() -> None:
    desk = desk_of("line 10, 10; 30, 10")
    assert pressed(desk, "line 10, 20; by ", (30, 50), level="not") == "line 10, 20; by 20, 30"
    assert pressed(desk, "line 10, 20; by ", (30.2, 10.1)) == "line 10, 20; end of edge 1"
    assert pressed(desk, "rectangle 0, 0; 40 by ", (30, 17)).startswith("rectangle 0, 0; 40 by ")


def test_a_chain_lines_up_with_its_own_start_and_corners() -> None:
    desk = desk_of("")
    says = pressed(desk, "chain ", (0, 0), (100, 0.3), (100.1, 60), level="gently")
    assert says == "chain 0, 0; right 100; up 60; "
    back = pointed(desk, says, 0.8, 60.3)
    assert back["choices"][0]["says"] == "left to vertical with the start"
    assert back["text"] == says + "left 100; "
    assert pointed(desk, back["text"], 0.6, 0.5)["text"] == back["text"] + "close"
    slanted = "chain 0, 0; right 100; up 60; 40, 80; "
    assert pointed(desk, slanted, 1, 1.4)["text"] == slanted + "close"


GRID = {"grid": 5.0}


def test_the_nearest_in_pixels_is_meant_and_each_place_stands_once() -> None:
    desk = desk_of("line 0, 0; 41, 0\nline 41, 0; 41, 30")
    on_grid = pointed(desk, "circle ", 40, 0.1, **GRID)["choices"]
    assert on_grid[0]["says"] == "grid 40, 0"
    assert pointed(desk, "circle ", 41, 0.1, **GRID)["choices"][0]["kind"] == "end"
    places = [tuple(c["at"]) for c in on_grid]
    assert len(places) == len(set(places))
    corner = pointed(desk, "circle ", 41, 0)["choices"]
    assert [c["kind"] for c in corner if tuple(c["at"]) == (41.0, 30.0)] == [], corner


@pytest.mark.parametrize("helps", HELPING_LAYERS)
def test_outlines_come_before_what_helps_to_draw(helps: str) -> None:
    desk = desk_of(f"circle 20, 20; radius 8\nline 20, 20; 20.9, 20; layer {helps}\nguide level 20, 20")
    assert pointed(desk, "circle ", 20, 20)["choices"][0]["says"] == "centre of circle 1"
    assert pointed(desk, "circle ", 20.9, 20)["choices"][0]["says"] == "end of edge 2"
    marked = desk_of("circle 20, 20; radius 8\ncentre mark circle 1; past 1")
    assert pointed(marked, "line ", 20.1, 20)["choices"][0]["says"] == "centre of circle 1"
    assert pointed(marked, "line ", 29, 20)["choices"][0]["kind"] == "end"
    assert pointed(marked, "size diameter ", 28, 20.2)["choices"][0]["says"] == "circle 1"


@pytest.mark.parametrize(
    ("says", "place", "live"),
    [
        ("line 0, 0; ", (40, 30), "50 mm toward ≈36.87°"),
        ("rectangle 0, 0; ", (40, 30), "40 × 30 mm"),
        ("circle 0, 0; radius ", (10, 0), "Ø20 · R10 mm"),
        ("circle 0, 0; through ", (10, 0), "Ø20 · R10 mm"),
        ("circle across 0, 0; ", (10, 0), "Ø10 · R5 mm"),
        ("polygon 6; centre 0, 0; inside ", (10, 0), "≈17.321 across flats · 20 corners mm"),
        ("polygon 4; centre 0, 0; outside ", (10, 0), "20 across flats · ≈28.284 corners mm"),
        ("polygon 3; edge 0, 0; ", (10, 0), "≈8.66 across flats · ≈11.547 corners mm"),
        ("arc centre 0, 0; from 10, 0; turn ", (0, 10), "R10 mm · 90°"),
        ("chain 0, 0; right 30; ", (30, 20), "20 mm toward 90°"),
    ],
)
def test_what_is_being_drawn_says_its_numbers(says: str, place: tuple[float, float], live: str) -> None:
    desk = desk_of("")
    answer = pointed(desk, says, *place, level="not")
    if says.startswith("polygon 3"):
        answer = pointed(desk, answer["text"], 5, 9)
    assert answer["live"] == live


def test_what_is_nearest_on_a_guide_may_lie_anywhere_along_it() -> None:
    desk = desk_of("guide level 0, 20")
    says = pressed(desk, "line ", (-900, 20.2), level="not")
    assert says == "line nearest on guide 1 to -900, 20.2; "
    desk.ask("write", {"says": says + "right 5"})
    assert [f.start for f in desk.board.evaluation.state.standing() if f.drawn] == [(-900.0, 20.0)]


def test_what_a_stretch_begins_at_ends_with_its_press() -> None:
    desk = desk_of("rectangle 0, 0; 40, 20")
    says = pressed(desk, "stretch 30, -10; 60, 30; from ", (30, 8), (50, 8), level="gently")
    assert says == "stretch 30, -10; 60, 30; from 30, 8 to right 20"


LETTERS = 'text "A"; 9, 9; height 4; turned '
PLATE = "line 0, 0; 60, 0\nrectangle 100, 0; 60 by 40\ncircle 30, 60; radius 10"


def hand(text: str, *things: str | tuple[float, float], **more: Any) -> str:
    """Type and press in turn; what then stands there."""
    desk, says = desk_of(text), ""
    for thing in things:
        says = says + thing if isinstance(thing, str) else pressed(desk, says, thing, **more)
    return says


@pytest.mark.parametrize(
    ("things", "says"),
    [
        # slots and ellipses by their places
        (("slot ", (20, 20), (50, 20), (50, 26)), "slot 20, 20; right 30; width 6"),
        (("slot ", (20, -20), (50, 20), "12"), "slot 20, -20; 50, 20; width 12"),
        (("ellipse ", (20, 20), (50, 20), (30, 32)), "ellipse 20, 20; right 30; 30, 32"),
        # a parallel through what is caught, else at the gap to the pointer
        (("parallel ", (30, 0), (40, 60)), "parallel edge 1; through quarter of circle 3 right"),
        (("parallel ", (30, 0), (33, 17), (30, 20)), "parallel edge 1; gap 17; left"),
        (("parallel outline ", (130, 0), (130, -6), (130, -6)), "parallel outline edge 2.1; gap 6; outside"),
        # split where it is pressed; a circle at two places
        (("split ", (30, 0), (20, 0)), "split edge 1; at nearest on edge 1 to 20, 0"),
        (
            ("split ", (37, 67), (40, 60), (30, 70)),
            "split circle 3; at quarter of circle 3 right and quarter of circle 3 above",
        ),
        # so far along an edge from the end that is nearer
        (("circle 12", (3, 0), "radius 2"), "circle 12 along edge 1 from start of edge 1; radius 2"),
        (("circle 7/2", (57, 0), "radius 2"), "circle -(7/2) along edge 1 from end of edge 1; radius 2"),
        # lettering along an edge, or as the pointer points
        ((LETTERS, (100, 20)), f"{LETTERS}angle of edge 2.4"),
        ((LETTERS, (60, 60)), f"{LETTERS}45"),
        # rows by the place of the second, then up; in line with what is caught, else round it
        (("repeat ", (30, 70), "; 3 ", (55, 61), "2 ", (31, 85)), "repeat circle 3; 3 across 25; 2 up 25"),
        (("repeat ", (30, 70), "; 3 ", (31, 20)), "repeat circle 3; 3 up -40; "),
        (("repeat ", (30, 70), "; 3 ", (160, 0)), "repeat circle 3; 3 round end of edge 2.1"),
    ],
)  # fmt: skip
def test_what_is_pressed_is_said(things: tuple[Any, ...], says: str) -> None:
    desk = desk_of(PLATE)
    found = hand(PLATE, *things)
    assert found == says
    assert desk.ask("write", {"says": found.rstrip("; ")})["view"]["problems"] == []


def test_in_line_with_what_is_repeated_a_place_is_its_pitch() -> None:
    text = PLATE + "\ncircle 60, 60; radius 3"
    plain = hand(text, "repeat ", (30, 70), "; 3 ", (90, 60), grid=10.0)
    assert (
        plain == "repeat circle 3; 3 across 60; "
    )  # a point of the grid in line with it is no centre, either
    assert hand(text, "repeat ", (30, 70), "; 3 ", (60, 60)) == "repeat circle 3; 3 across 30; "


def test_no_place_says_how_many_and_a_polygon_has_its_centre_first() -> None:
    desk = desk_of("circle 10, 10; diameter 8")
    for says in ("repeat circle 1; ", "polygon ", "pitch circle 0, 0; diameter 40; "):
        assert pointed(desk, says, 60, 10)["choices"] == [], says
        offered = desk.ask("state", {"says": says})
        assert {"3", "4", "6"} <= {a["says"] for a in offered["answers"]}, says
    assert pressed(desk, "polygon 6; ", (0, 0), (0, 15)) == "polygon 6; centre 0, 0; inside 15"
    assert desk.ask("state", {"says": "repeat circle 1"})["needs"] == "how many"


def test_a_row_may_become_a_grid() -> None:
    desk = desk_of("circle 10, 10; diameter 8")
    row = desk.ask("state", {"says": "repeat circle 1; 2 across 80; "})
    assert row["whole"]
    assert row["goes_on"]
    assert row["needs"] == "how many up"
    assert (
        pressed(desk, "repeat circle 1; 2 across 80; 2 ", (10, 50)) == "repeat circle 1; 2 across 80; 2 up 40"
    )
