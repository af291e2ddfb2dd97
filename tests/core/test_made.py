"""How a drawing was made is told act by act, and every moment of it can be shown again."""

from __future__ import annotations

from typing import Any

import pytest

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.edits import Conflict, back
from evenmark.core.board.made import after, deeds
from evenmark.core.construct.document import Document, DocumentLine, to_text


class Made:
    """A board, and what was done to it."""

    def __init__(self) -> None:
        self.start = Document((DocumentLine("unit", "mm"),))
        self.board = BoardDocument(self.start)
        self.acts: list[Any] = []

    def __call__(self, what: str, *args: Any) -> int:
        done = getattr(self.board, what)(*args)
        self.acts.append(done["splices"])
        return int(done.get("id", 0))

    def told(self) -> list[tuple[str, str, str]]:
        return [(d.kind, d.says, d.was) for d in deeds(self.start, self.acts)]


def test_each_thing_that_was_done_is_told_as_it_was_read_then() -> None:
    made = Made()
    made("set_line", 1, False, {"kind": "value", "name": "R", "says": "24"})
    first = made("write", "circle 0, 0; radius R")
    second = made("write", 'text "# 1; no step"; centre of circle 1; height 5')
    made("change", first, "circle 0, 0; radius 25")
    made("write", "line 0, 0; 9, 9", first)
    made("move", second, None)
    made("set_line", 1, True, {"kind": "value", "name": "R", "says": "26"})
    made("take_away", [first])
    assert made.told() == [
        ("value", "R = 24", ""),
        ("wrote", "1  circle 0, 0 · radius R", ""),
        ("wrote", '2  text "# 1; no step" · centre of circle 1 · height 5', ""),
        ("corrected", "1  circle 0, 0 · radius 25", "circle 0, 0 · radius R"),
        ("wrote", "1  line 0, 0 · 9, 9", ""),
        ("other", "changed the list", ""),
        ("value", "R = 26", "24"),
        ("away", "deleted 2  circle 0, 0 · radius 25", ""),
    ]


def test_what_is_taken_back_says_so_and_can_be_done_once_more() -> None:
    made = Made()
    for says in ("circle 0, 0; radius 4", "circle 9, 0; radius 4"):
        made("write", says)
    undone = [back(made.acts[1]), back(made.acts[0])]
    made.acts += [*undone, made.acts[0]]
    assert [d.kind for d in deeds(made.start, made.acts)] == ["wrote", "wrote", "back", "back", "wrote"]
    assert [d.length for d in deeds(made.start, made.acts)] == [1, 2, 1, 0, 1]
    assert deeds(made.start, made.acts)[2].says == "2  circle 9, 0 · radius 4"


def test_every_moment_is_shown_again() -> None:
    made = Made()
    for n in range(5):
        made("write", f"circle {n}, 0; radius 4")
    for n in range(6):
        assert len(after(made.start, made.acts[:n]).steps) == n
    assert to_text(after(made.start, made.acts)) == to_text(made.board.document)


def test_acts_of_another_list_are_refused() -> None:
    made = Made()
    made("write", "circle 0, 0; radius 4")
    made("take_away", [1])
    with pytest.raises(Conflict):
        after(Document((DocumentLine("unit", "in"),)), made.acts[1:])
