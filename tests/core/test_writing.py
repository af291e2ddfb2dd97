"""A sentence being written: whatever may stand next is offered, for every sentence there is."""

from __future__ import annotations

import re
from typing import Any

import pytest

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.hand import HandText
from evenmark.core.board.pointer import Pointer, Pointing
from evenmark.core.construct.completion import answers, complete, wanted
from evenmark.core.construct.document import from_text, shown
from tests.catalogue import EXAMPLES
from tests.conftest import ROOT

SENTENCES = [(f"{e.name} {n}", says) for e in EXAMPLES for n, says in enumerate(shown(from_text(e.text)), 1)]
DOCUMENTS = sorted((ROOT / "tests" / "documents").glob("*.txt")) + sorted(
    (ROOT / "src" / "evenmark" / "demo" / "kit").glob("*.txt")
)
SENTENCES += [
    (f"{p.stem} {n}", says) for p in DOCUMENTS for n, says in enumerate(shown(from_text(p.read_text())), 1)
]
TOKEN = re.compile(r'"(?:[^"\\]|\\.)*"|[^\W\d_][\w\']*|[-(√\d.]+|;|,|#|\S')
POINTED = {"point", "feature", "things", "direction", "shift", "number", "wording", "name", "part"}


def ids(number: int) -> int | None:
    return number


@pytest.mark.parametrize(("name", "says"), SENTENCES, ids=[n for n, _ in SENTENCES])
def test_whatever_stands_next_was_offered(name: str, says: str) -> None:
    """Every word of every sentence, asked for at the place where it stands: a word that was not offered there
    could not be found by somebody who does not know it."""
    whole = complete(says, len(says), ids)
    assert whole.sentence is not None, whole.wrong
    inside = [s for s in whole.spans if s.kind in ("number", "wording", "name")]
    for token in TOKEN.finditer(says):
        begin = token.start()
        if any(s.begin < begin < s.end for s in inside):
            continue
        found, _ = wanted(says[:begin], ids)
        words = {w.says for w in found if w.kind in ("word", "sign")}
        kinds = {w.kind for w in found}
        word = token.group().lower().replace("·", ";")
        word = {"center": "centre", "dia": "diameter"}.get(word, word)
        offered = any(w.split()[0] == word or w == word for w in words if w)
        assert offered or kinds & POINTED, f"{says[:begin]}|{says[begin:]} {sorted(words)}"


@pytest.mark.parametrize(
    ("text", "offered"),
    [
        (
            "line touching circle 1; circle 2; ",
            ["outer left", "outer right", "crossing left", "crossing right"],
        ),
        ("circle 0, 0; ", ["radius", "diameter", "through"]),
        ("polygon 6; centre 0, 0; ", ["inside", "outside"]),
        ("trim edge 1; at edge 2; ", ["keep", "drop"]),
        ("size 0, 0; 9, 0; ", ["horizontal", "vertical", "along"]),
        ('text "A"; 0, 0; height 3; ', ["anchor left top", "turned", "layer", "line dashed"]),
        ("chain 0, 0; 9, 0; ", ["close", "tangent arc to", "arc through", "arc to"]),
    ],
)
def test_answers_are_offered_joined(text: str, offered: list[str]) -> None:
    assert set(offered) <= set(answers(text, ids))


def test_a_slot_that_is_filled_can_be_written_over() -> None:
    says = "circle centre of circle 1; radius 4"
    w = complete(says, says.index("1") + 1, ids)
    assert (says[w.begin : w.end], [x.kind for x in w.wanted]) == ("circle 1", ["feature"])
    w = complete(says, len(says), ids)
    assert (says[w.begin : w.end], [x.kind for x in w.wanted]) == ("4", ["number"])
    w = complete("circle 0, 0; rad", 16, ids)
    assert (w.stem, {x.says for x in w.wanted}) == ("rad", {"radius", "diameter", "through"})


def test_what_is_wrong_says_at_which_character() -> None:
    w = complete("circle 0, 0; radios 4", 21, ids)
    assert w.wrong is not None
    assert (w.wrong.at, w.sentence) == (13, None)
    assert "radius or diameter" in w.wrong.says


# on a board


def hand(text: str) -> Pointer:
    board = BoardDocument(from_text(text))
    board.view()
    return Pointer(board)


def at(x: float, y: float, **more: Any) -> Pointing:
    return Pointing((x, y), 3.0, 0.2, **more)


LINK = "circle 0, 0; radius 24\ncircle 82, 0; radius 13\n"


@pytest.mark.parametrize(
    ("says", "settled"),
    [
        ("trim circle 1", "trim circle 1; at "),
        ("line touching circle 1", "line touching circle 1; "),
        ("parallel outline step 1", "parallel outline step 1; gap "),
        ("pitch", "pitch circle "),
        ("circle 0, 0; radius 4", "circle 0, 0; radius 4"),
        ("circle ", "circle "),
        ("mirror circle 1", "mirror circle 1"),
    ],
)
def test_what_can_only_follow_is_written_at_once(says: str, settled: str) -> None:
    board = BoardDocument(from_text(LINK))
    assert Pointer(board).settled(says) == settled


@pytest.mark.parametrize(
    ("says", "place", "first", "text"),
    [
        ("circle ", at(0.5, 0.4), "centre of circle 1", "circle centre of circle 1; "),
        ("circle ", at(40, 40), "40, 40", "circle 40, 40; "),
        ("circle 0, 50; ", at(40, 50), "radius 40 mm", "circle 0, 50; radius 40"),
        ("line touching ", at(23, 1), "circle 1", "line touching circle 1; "),
        (
            "line touching circle 1; circle 2; ",
            at(40, -20),
            "outer right",
            "line touching circle 1; circle 2; outer right",
        ),
        ("chain 0, 0; ", at(44.1, 0.8), "right 44", "chain 0, 0; right 44; "),
        ("chain 0, 0; right 44", at(44.4, 20.2), "up 20.2", "chain 0, 0; right 44; up 20.2; "),
        ("chain 0, 0; 30", at(40, 0.4), "right 30", "chain 0, 0; right 30; "),
        ("trim circle 1; at circle 2; ", at(-20, 3), "keep", "trim circle 1; at circle 2; keep "),
        ("move ", at(24.1, 0), "circle 1", "move circle 1"),
        ("size radius ", at(24.1, 0), "circle 1", "size radius circle 1; at "),
        ("rectangle ", at(4.4, 5.2, grid=5.0), "grid 5, 5", "rectangle 5, 5; "),
        ("rectangle ", at(4.4, 5.2, grid=5.0, off=True), "4.4, 5.2", "rectangle 4.4, 5.2; "),
        (
            "line -40, 0; ",
            at(-13.5, 20),
            "tangent point of circle 1",
            "line -40, 0; tangent on circle 1 from -40, 0 left",
        ),
        ("polygon 6; centre 0, 0; inside ", at(12, 0), "inside 12 mm", "polygon 6; centre 0, 0; inside 12"),
        ("arc centre 0, 0; from 9, 0; turn ", at(0, 9), "turn 90°", "arc centre 0, 0; from 9, 0; turn 90"),
    ],
)
def test_pointing_writes_what_is_pointed(says: str, place: Pointing, first: str, text: str) -> None:
    answer = hand(LINK).point(HandText(says, len(says)), place)
    assert answer["choices"], answer
    if first == "keep":
        assert answer["text"].startswith(text)
        return
    assert answer["choices"][0]["says"] == first
    assert answer["text"] == text


def test_pointing_fills_the_slot_in_which_the_caret_stands() -> None:
    says = "circle 40, 40; radius 4"
    answer = hand(LINK).point(HandText(says, 10), at(82.2, 0.3))
    assert answer["text"] == "circle centre of circle 2; radius 4"
    assert answer["preview"]["pieces"][0]["path"].startswith("M86 0")


def test_all_in_reach_are_listed_and_one_kind_can_be_held() -> None:
    h = hand("line 0, 0; 40, 0\nline 20, -10; 20, 10\n")
    says = [c["says"] for c in h.point(HandText("circle ", 7), at(20.5, 0.5))["choices"]]
    assert says[0] == "crossing of edge 1 and edge 2"
    assert "middle of edge 1" not in says  # each place once
    assert {"nearest on edge 1", "nearest on edge 2", "20.4, 0.4"} <= set(says)
    held = h.point(HandText("circle ", 7), at(20.5, 0.5, held="middle"))["choices"]
    assert held[0]["says"] == "middle of edge 1"
    second = h.point(HandText("circle ", 7), at(20.5, 0.5), 1)
    assert second["which"] == 1
    assert second["text"] == f"circle {says[1]}; ".replace(",", "") or second["text"]


def test_level_and_plumb_firmly_and_guides_from_rested_places() -> None:
    from evenmark.core.board.catches import TrackingPoint

    h = hand(LINK)
    firm = h.point(HandText("line 0, 60; ", 12), at(30, 74, level="firmly"))
    assert firm["text"] == "line 0, 60; right 30"
    rested = (TrackingPoint("centre of circle 2", (82.0, 0.0)), TrackingPoint("40, 90", (40.0, 90.0)))
    guided = h.point(HandText("circle ", 7), at(81.5, 90.8, rested=rested))
    assert guided["text"] == "circle horizontal with (40, 90) vertical with (centre of circle 2); "
    alone = h.point(HandText("circle ", 7), at(60, 89.5, rested=rested))
    assert alone["text"] == "circle 60, 90; "


def test_what_is_wanted_is_said_in_words_with_what_each_answer_draws() -> None:
    state = hand(LINK).state(HandText("line touching circle 1; circle 2; ", 34))
    assert state["about"] == "Which of the four lines"
    assert [a["says"] for a in state["answers"]][:2] == ["outer left", "outer right"]
    assert all(len(a["paths"]) == 1 for a in state["answers"])
    state = hand(LINK).state(HandText("circle 0, 0; radius -4", 22))
    assert (state["whole"], state["preview"]["broken"]) == (
        True,
        "The radius is -4. It has to be more than 0.",
    )
    state = hand(LINK).state(HandText("circle 0, 0; radios 4", 21))
    assert state["wrong"]["at"] == 13
