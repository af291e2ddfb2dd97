"""The board: acts and their splices, what is shown after each, what chosen things tell and take."""

from __future__ import annotations

import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.board.board import BoardDocument, NotDone
from evenmark.core.board.correcting import correct, pull
from evenmark.core.board.describing import describe
from evenmark.core.board.edits import Conflict, back, edited
from evenmark.core.board.offers import OFFERS, found, picture
from evenmark.core.board.session import CALLS, BoardSession
from evenmark.core.construct.building import build
from evenmark.core.construct.document import Document, DocumentError, from_json, from_text, to_json, to_text
from evenmark.core.construct.references import Ref
from tests.extent import examples

LINK = """unit mm
R = 24
reach from 60 to 96 by 2, now 82
circle 0, 0; radius R
circle reach toward 0 from centre of circle 1; radius R - 11
line touching circle 1; circle 2; outer left
--- the bores
circle centre of circle 1; diameter 28
guide level 0, 0
size diameter circle 4; at -40, 30
"""


def board(text: str) -> BoardDocument:
    made = BoardDocument(from_text(text))
    made.view()
    return made


def merged(shown: dict[str, Any], view: dict[str, Any]) -> dict[str, Any]:
    """What a page shows after a difference."""
    rows = {r["key"]: r for r in shown["rows"]} | {r["key"]: r for r in view["rows"]}
    pieces = {p["id"]: p for p in shown["pieces"] if p["id"] not in view["gone"]}
    pieces |= {p["id"]: p for p in view["pieces"]}
    return {**view, "rows": [rows[k] for k in view["order"]], "pieces": list(pieces.values()), "gone": []}


def same(shown: dict[str, Any], text: str) -> None:
    """A page that was kept up to date shows what a new one would."""
    fresh = BoardDocument(from_text(text)).view()
    # text cannot name a step that is gone: there the sentence cannot be read any more
    left_out = ["id", "key", "refs", *(("does", "broken", "waits", "shows", "layer") if "?" in text else ())]
    for part in ("rows", "values", "layers", "box", "problems"):
        mine, theirs = (
            [{k: v for k, v in r.items() if k not in left_out} for r in s[part]]
            if part == "rows"
            else s[part]
            for s in (shown, fresh)
        )
        assert mine == theirs, part
    assert sorted(p["path"] for p in shown["pieces"]) == sorted(p["path"] for p in fresh["pieces"])


def test_rows_say_steps_by_their_numbers_and_what_formulas_come_to() -> None:
    view = BoardDocument(from_text(LINK)).view()
    steps = [r for r in view["rows"] if r["kind"] == "step"]
    assert [r["number"] for r in steps] == [1, 2, 3, 4, 5, 6]
    assert steps[1]["says"] == "circle reach toward 0 from centre of circle 1; radius R - 11"
    assert steps[1]["shows"] == ["82", "13"]
    assert [steps[2]["says"][a:b] for a, b, _ in steps[2]["refs"]] == ["1", "2"]
    assert [r["says"] for r in view["rows"] if r["kind"] == "bookmark"] == ["the bores"]
    assert [(v["name"], v["shows"]) for v in view["values"]] == [("R", "24"), ("reach", "82")]
    assert view["values"][1]["permitted"]["says"] == "from 60 to 96 by 2"
    assert {p["id"] for p in view["pieces"]} >= {"circle 1.1", "edge 3.1", "guide 5.1", "size 6.1"}


def test_a_difference_holds_what_has_changed_alone() -> None:
    b = board(LINK)
    done = b.write("circle 0, 60; radius 3")
    assert [p["id"] for p in done["view"]["pieces"]] == ["circle 7.1"]
    assert [r["key"] for r in done["view"]["rows"]] == ["s7"]
    done = b.change(4, "circle centre of circle 1; diameter 30")
    assert {p["id"] for p in done["view"]["pieces"]} == {"circle 4.1", "size 6.1"}
    assert done["view"]["gone"] == []
    done = b.take_away([7])
    assert done["view"]["gone"] == ["circle 7.1"]


ACTS = st.lists(
    st.tuples(
        st.sampled_from(["write", "before", "change", "take", "move", "value", "bookmark", "undo", "redo"]),
        st.integers(0, 30),
        st.integers(0, 30),
    ),
    max_size=14,
)
SENTENCES = (
    "circle 10, 20; radius 5",
    "line 0, 0; 40, 10",
    "circle centre of circle 1; diameter 9",
    "line start of edge 2; by 5, 5",
    "move circle 1; by 3, 0",
    "trim edge 2; at circle 1; keep 40, 10",
    "rectangle 0, 0; R by 12",
    "text \"a; 'b'\"; 0, 0; height 3",
    "guide level 4, 4",
)


@settings(max_examples=examples(60), deadline=None)
@given(ACTS)
def test_whatever_is_done_the_page_shows_what_a_new_one_would(acts: list[tuple[str, int, int]]) -> None:
    b = BoardDocument(from_text("R = 30\ncircle 0, 0; radius 20\nline -30, 0; 30, 8\n"))
    shown = b.view()
    done: list[list[Any]] = []
    undone: list[list[Any]] = []
    for what, m, n in acts:
        ids = [i.id for i in b.document.steps]
        step = ids[m % len(ids)] if ids else None
        other = ids[n % len(ids)] if ids else None
        try:
            if what in ("undo", "redo"):
                source, target = (done, undone) if what == "undo" else (undone, done)
                if source:
                    splices = source.pop()
                    shown = merged(shown, b.apply(splices))
                    target.append(back(splices))
                continue
            if what == "write":
                answer = b.write(SENTENCES[m % len(SENTENCES)])
            elif what == "before" and step:
                answer = b.write(SENTENCES[n % len(SENTENCES)], step)
            elif what == "change" and step:
                answer = b.change(step, SENTENCES[n % len(SENTENCES)])
            elif what == "take" and step:
                answer = b.take_away([step])
            elif what == "move" and step:
                answer = b.move(step, other)
            elif what == "value":
                answer = b.set_line(0, True, {"kind": "value", "name": "R", "says": str(20 + m)})
            else:
                answer = b.set_line(b.head_line() + 1, False, {"kind": "bookmark", "says": f"mark {m}"})
        except NotDone:
            continue
        shown = merged(shown, answer["view"])
        done.append(back(answer["splices"]))
        undone = []
    text = b.text()
    same(shown, text)
    assert from_json(json.loads(json.dumps(b.kept()))).items == b.document.items
    assert to_text(from_text(text)) == text


def test_what_was_done_is_taken_back_to_the_letter() -> None:
    b = board(LINK)
    before = to_json(b.document)
    done = [
        b.write("circle 0, 60; radius 3", 2)["splices"],
        b.change(1, "circle 0, 0; radius R + 1")["splices"],
        b.move(5, 1)["splices"],
        b.take_away([3, 4])["splices"],
        b.open(from_text("circle 1, 1; radius 2\ncircle centre of circle 1; radius 1\n"))["splices"],
    ]
    assert [i.id for i in b.document.steps] == [8, 9]
    for splices in reversed(done):
        b.apply(back(splices))
    kept = to_json(b.document)
    assert kept["lines"] == before["lines"]
    assert kept["next"] > before["next"]  # ids are never used again


def test_splices_for_other_lines_are_refused() -> None:
    b = board(LINK)
    done = b.write("circle 0, 60; radius 3")
    with pytest.raises(Conflict):
        b.apply([{"at": 3, "gone": [{"kind": "blank"}], "come": []}])
    with pytest.raises(DocumentError):
        edited(Document(), [{"at": True}])
    with pytest.raises(DocumentError):
        edited(from_text("line 0, 0; 1, 1"), [{"at": 0, "gone": [], "come": [{"kind": "step", "id": 1}]}])
    assert b.apply(back(done["splices"]))["gone"] == ["circle 7.1"]


def test_a_step_moves_where_nothing_forbids_it() -> None:
    b = board("circle 0, 0; radius 5\nline 0, 0; 9, 9\ncircle centre of circle 1; radius 2\n")
    with pytest.raises(NotDone, match="Step 3 needs step 1: it has to stay after it"):
        b.move(3, 1)
    with pytest.raises(NotDone, match="Step 3 needs step 1: it has to stay before it"):
        b.move(1, None)
    b.move(2, 1)
    assert b.text().splitlines()[0] == "line 0, 0; 9, 9"
    assert b.text().splitlines()[2] == "circle centre of circle 2; radius 2"
    assert b.needed_by([1]) == [3]


def test_what_needs_what_went_says_so() -> None:
    b = board(LINK)
    view = b.take_away([1])["view"]
    broken = {r["number"]: r["broken"] for r in view["rows"] if r["kind"] == "step" and r["broken"]}
    assert set(broken) == {1, 2, 3, 5}
    assert all(says.endswith((".", ")")) for says in broken.values())


@pytest.mark.parametrize(
    ("text", "name", "number", "says", "after"),
    [
        ("circle 0, 0; radius 24", "circle 1.1", "radius", "25", "circle 0, 0; radius 25"),
        ("circle 0, 0; radius 24", "circle 1.1", "diameter", "50", "circle 0, 0; diameter 50"),
        ("circle 0, 0; diameter 24", "circle 1.1", "radius", "13.5", "circle 0, 0; radius 13.5"),
        ("circle 0, 0; radius 24", "circle 1.1", "centre", "3, 4", "circle 3, 4; radius 24"),
        ("line 0, 0; 30, 40", "edge 1.1", "length", "100", "line 0, 0; 100 toward 30, 40"),
        ("line 1, 2; right 30", "edge 1.1", "length", "31", "line 1, 2; right 31"),
        ("line 1, 2; right 30", "edge 1.1", "direction", "5", "line 1, 2; 30 toward 5"),
        ("line 1, 2; 30 toward 45", "edge 1.1", "direction", "5", "line 1, 2; 30 toward 5"),
        ("chain 0, 0; right 72; up 5; close", "edge 1.2", "length", "6", "chain 0, 0; right 72; up 6; close"),
        ("chain 0, 0; 9, 0; 9, 9; close", "edge 1.2", "end", "8, 8", "chain 0, 0; 9, 0; 8, 8; close"),
        ("chain 0, 0; 9, 0; 9, 9; close", "edge 1.3", "start", "8, 8", "chain 0, 0; 9, 0; 8, 8; close"),
        ("chain 0, 0; 9, 0; 9, 9; close", "edge 1.3", "end", "1, 1", "chain 1, 1; 9, 0; 9, 9; close"),
        ("rectangle 0, 0; 40 by 30", "edge 1.2", "length", "31", "rectangle 0, 0; 40 by 31"),
        ("rectangle 0, 0; 40.5, 30", "edge 1.1", "length", "41", "rectangle 0, 0; 41 by 30"),
        ("rectangle 1, 1; 40, 30", "edge 1.2", "end", "50, 50", "rectangle 1, 1; 50, 50"),
        ("line middle 0, 0; 40 toward 0", "edge 1.1", "length", "44", "line middle 0, 0; 44 toward 0"),
    ],
)
def test_a_number_is_corrected_where_its_step_said_it(
    text: str, name: str, number: str, says: str, after: str
) -> None:
    b = board(text)
    correct(b, name, number, says)
    assert b.text().strip() == after


def test_the_other_end_may_stay() -> None:
    b = board("line 0, 0; 30, 40")
    correct(b, "edge 1.1", "length", "25", "end")
    assert b.text().strip() == "line 25 toward 0, 0 from 30, 40; 30, 40"
    f = next(iter(b.evaluation.state.standing()))
    assert f.shape.start == pytest.approx((15, 20))
    assert f.shape.end == (30.0, 40.0)


def test_what_follows_from_other_steps_says_from_which() -> None:
    b = board("circle 0, 0; radius 24\nline touching circle 1; from 60, 0; left\n")
    with pytest.raises(NotDone, match="step 1"):
        correct(b, "edge 2.1", "length", "31")
    before = b.text()
    with pytest.raises(NotDone):
        correct(b, "circle 1.1", "radius", "-1")
    assert b.text() == before
    told = describe(b, ["circle 1.1", "edge 2.1"])
    assert told["together"].startswith("≈")
    [circle, edge] = told["chosen"]
    assert {n["name"]: n["can"] for n in circle["numbers"]}["radius"]
    assert not any(n["can"] for n in edge["numbers"] if n["name"] == "length")
    assert [p["which"] for p in circle["pulled"]] == ["centre"]


DRAW_NOTHING = ("erase", "erase all guides", "keep under a name", "delete duplicates")


@pytest.mark.parametrize("kind", OFFERS, ids=lambda k: k.says)
def test_each_kind_that_is_offered_has_an_example_that_draws(kind: Any) -> None:
    lines = kind.example.split("|")
    assert not build(from_text("\n".join(lines))).problems
    assert lines[-1].startswith(kind.begins.strip()) or kind.says == "named point"
    made = picture(kind)
    assert made["box"][2] >= 0.0
    assert made["strong"] or made["texts"] or kind.says in DRAW_NOTHING


@pytest.mark.parametrize(
    ("word", "first"),
    [
        ("round corner", "fillet"),
        ("tangent", "circle tangent to two or three"),
        ("bolt", "pitch circle with holes"),
        ("perpendicular", "perpendicular to a line"),
        ("dimension", "dimension between two points"),
        ("cut", "trim"),
        ("hexagon", "regular polygon"),
    ],
)
def test_kinds_are_found_by_words_of_students(word: str, first: str) -> None:
    assert found(word)[0].says == first


VALUES = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-(10**20), 10**20),
    st.floats(allow_nan=True),
    st.text(max_size=30),
    st.lists(
        st.one_of(st.text(max_size=9), st.integers(), st.dictionaries(st.text(max_size=5), st.integers()))
    ),
    st.dictionaries(st.text(max_size=9), st.text(max_size=9), max_size=3),
)
NAMES = ("says", "step", "before", "steps", "line", "come", "splices", "document", "caret", "x", "y", "reach")
MORE = (
    "names",
    "name",
    "number",
    "rested",
    "which",
    "grid",
    "level",
    "held",
    "recent",
    "x2",
    "pixel",
)


@settings(max_examples=examples(300), deadline=None)
@given(st.sampled_from(list(CALLS)), st.dictionaries(st.sampled_from(NAMES + MORE), VALUES, max_size=6))
def test_whatever_is_asked_is_answered(call: str, args: dict[str, Any]) -> None:
    desk = BoardSession()
    desk.ask("replace", {"text": LINK})
    answer = desk.ask(call, args)
    json.dumps(answer, allow_nan=False)
    if "refused" in answer:
        assert answer["refused"]
    assert desk.ask("nonsense", {}) == {"refused": "Unknown request. Reload the page."}


def test_a_list_of_things_is_pointed_one_behind_the_other() -> None:
    desk = BoardSession()
    desk.open(BoardDocument(from_text("line 0, 0; 40, 0\nline 40, 0; 40, 30\nline 40, 30; 0, 30\n")))
    at = {"x": 20.0, "y": -30.0, "reach": 2.0, "pixel": 0.2}
    one = desk.ask("point", {"says": "join edge 1 and ", **at})
    assert (one["text"], one["more"]) == ("join edge 1 and edge 3", True)
    other = desk.ask("point", {"says": one["text"], **at, "x": 40.0, "y": -10.0})
    assert (other["text"], other["more"]) == ("join edge 1 and edge 3 and edge 2", True)
    # a single thing is taken at once, and another one pressed is meant in its place
    assert desk.ask("point", {"says": "erase ", **at})["more"] is False
    assert desk.ask("point", {"says": "erase edge 1", **at})["text"] == "erase edge 3"


def test_what_is_tried_leaves_nothing_behind() -> None:
    desk = BoardSession()
    desk.open(BoardDocument(from_text("circle 0, 0; radius 9\ncircle centre of circle 1; radius 4\n")))
    before = desk.ask("kept", {})
    step = desk.board.document.steps[0].id
    found = desk.ask("try", {"call": "change", "step": step, "says": "circle 5, 0; radius 9"})
    assert {p["id"] for p in found["view"]["pieces"]} == {"circle 1.1", "circle 2.1"}
    pulled = desk.ask("try", {"call": "pull", "name": "circle 1.1", "which": "centre", "says": "7, 7"})
    assert "view" in pulled
    assert "refused" in desk.ask("try", {"call": "write", "says": "circle 0, 0; radius 1"})
    assert "refused" in desk.ask("try", {"call": "change", "step": step, "says": "circle 5, 0; radios"})
    after = desk.ask("kept", {})
    assert after["text"] == before["text"]


def test_many_steps_go_at_once_and_come_back() -> None:
    board = BoardDocument(from_text("".join(f"circle {n}, 0; radius 1\n" for n in range(900))))
    before = board.document
    done = board.take_away([i.id for i in before.steps if i.id % 2 or i.id > 100])
    assert len(board.document.steps) == 50
    assert len(done["splices"]) <= 51
    board.apply(back(done["splices"]))
    assert board.document.items == before.items


MIDDLES = {
    "line 0, 0; 40, 10": (1, "line 13, 39; 53, 49"),
    "line 5, 5; right 30": (1, "line 18, 44; right 30"),
    "line middle 0, 50; 20 toward 30": (1, "line middle 33, 44; 20 toward 30"),
    # the corners that its neighbours share move with it
    "chain 50, 0; 90, 0; 90, 31; 50, 31; close": (2, "chain 50, 0; 33, 28.5; 33, 59.5; 50, 31; close"),
}


@pytest.mark.parametrize("says", MIDDLES)
def test_a_middle_is_pulled_and_the_edge_stays_as_long(says: str) -> None:
    part, want = MIDDLES[says]
    board = BoardDocument(from_text(says + "\n"))
    [step] = [i.id for i in board.document.steps]
    length = board.evaluation.state.find(Ref("edge", step, part)).shape.length
    assert "middle" in [p["which"] for p in describe(board, [f"edge {step}.{part}"])["chosen"][0]["pulled"]]
    pull(board, f"edge {step}.{part}", "middle", "33, 44")
    assert board.document.steps[0].says == want
    f = board.evaluation.state.find(Ref("edge", step, part)).shape
    assert (f.length, f.middle) == (pytest.approx(length), pytest.approx((33, 44)))


def test_a_middle_that_follows_from_other_steps_is_not_pulled() -> None:
    board = BoardDocument(
        from_text("line 0, 0; 40, 10\nline end of edge 1; 60, 60\nrectangle 0, 80; 30 by 20\n")
    )
    for name in ("edge 2.1", "edge 3.1"):
        assert "middle" not in [p["which"] for p in describe(board, [name])["chosen"][0]["pulled"]]
        with pytest.raises(NotDone):
            pull(board, name, "middle", "1, 1")


AS_SAID = [
    ("R = 24\ncircle 0, 0; radius R - 11", "circle 1.1", {"radius": "R - 11", "diameter": "26"}),
    ("circle 7/16, 2*3; diameter 4 5/8", "circle 1.1", {"diameter": "4 5/8", "centre": "7/16, 2*3"}),
    ("line 0, 0; right 0.1+0.2", "edge 1.1", {"length": "0.1+0.2", "start": "0, 0"}),
    ("line middle 0, 0; 50 toward 37", "edge 1.1", {"length": "50"}),
    ("line 0, 0; 30, 40\nturn edge 1; about 0, 0; 37", "edge 1.1", {"length": "50"}),
    ("rectangle 0, 0; 2*40 by 30", "edge 1.1", {"length": "2*40"}),
    ("size 0, 0; 80, 0; across; at 40, -12", "size 1.1", {"at": "40, -12"}),
    ('text "A"; 4, 2*2; height 3', "text 1.1", {"at": "4, 2*2"}),
]


@pytest.mark.parametrize(("text", "name", "numbers"), AS_SAID)
def test_numbers_are_shown_as_they_were_said(text: str, name: str, numbers: dict[str, str]) -> None:
    [one] = describe(board(text), [name])["chosen"]
    told = {n["name"]: n["says"] for n in one["numbers"]}
    assert {k: told[k] for k in numbers} == numbers
    assert not any("0000000" in says for says in told.values())


@pytest.mark.parametrize(
    ("text", "name", "after"),
    [
        ("size 0, 0; 80, 0; across; at 40, -12", "size 1.1", "dimension 0, 0; 80, 0; horizontal; at 50, -20"),
        ('text "A"; 4, 4; height 3', "text 1.1", 'text "A"; 50, -20; height 3'),
        ('note "A"; 4, 4; 20, 20', "note 1.1", 'note "A"; 4, 4; 50, -20'),
    ],
)
def test_what_is_lettered_is_put_elsewhere(text: str, name: str, after: str) -> None:
    made = board(text)
    [one] = describe(made, [name])["chosen"]
    assert [g["which"] for g in one["pulled"]] == ["at"]
    pull(made, name, "at", "50, -20")
    assert made.text().splitlines()[-1] == after


def test_impossible_values_are_said_before_a_step_is_added() -> None:
    made = board("line 0, 0; 9, 9")
    desk = BoardSession()
    desk.open(made)
    for says, why in (
        ("circle 0, 0; radius 0", "more than 0"),
        ("circle 0, 0; radius 1/0", "zero"),
        ("circle 0, 0; radius sqrt(-4)", ""),
        ("polygon 2; centre 0, 0; inside 4", "from 3"),
        ("repeat edge 1; 0 across 5", "from"),
    ):
        state = desk.ask("state", {"says": says})
        told = (state["wrong"] or {"says": ""})["says"] + state["preview"]["broken"]
        assert told, says
        assert why in told, told


def test_what_made_a_piece_and_what_changed_it() -> None:
    b = board("line 0, 0; 60, 0\nline 20, -9; 20, 9\ntrim edge 1; at edge 2; keep 0, 0\nmove step 1; by 0, 4")
    [one] = describe(b, [feature_name(b, 1)])["chosen"]
    assert [(t["how"], t["number"]) for t in one["by"]] == [("made", 1), ("changed", 3), ("changed", 4)]
    assert [t["how"] for t in describe(b, [feature_name(b, 2)])["chosen"][0]["by"]] == ["made"]


def feature_name(b: BoardDocument, step: int) -> str:
    """The name of the edge of a step."""
    return f"edge {b.document.steps[step - 1].id}.1"
