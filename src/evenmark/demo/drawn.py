"""What of the demo is drawn on the board: step by step, as somebody would, with what was corrected later."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from itertools import cycle
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.board.board import BoardDocument as OnBoard
from evenmark.core.construct.document import Document, from_text, shown, to_text
from evenmark.services import board_saving, boards
from evenmark.store.boards import Board, BoardAct
from evenmark.store.models import Issue
from evenmark.store.people import Person

PACE = (35, 48, 27, 70, 41, 55, 33, 90)
"""Seconds between two things that are done, over and over."""


@dataclass(frozen=True, kw_only=True)
class OnTheBoard:
    """How somebody draws a document of steps: what some steps say instead (by their numbers), what some said
    at first and were corrected from later, and after how many steps they stop for now."""

    document: Document
    says: Mapping[int, str] = field(default_factory=dict)
    at_first: Mapping[int, str] = field(default_factory=dict)
    stops_after: int | None = None

    def acts(self) -> list[Any]:
        """Return the edits of each thing that is done, on an empty list in the same unit."""
        [unit] = [i for i in self.document.items if i.kind == "unit"]
        board = OnBoard(from_text(to_text(Document((unit,)))))
        done: list[Any] = []
        for item in self.document.items:
            if item.kind in ("layer", "value"):
                come = {"kind": item.kind, "name": item.name, "says": item.says}
                done.append(board.set_line(board.head_line(), False, come))
        sentences = shown(self.document)[: self.stops_after]
        for number, says in enumerate(sentences, 1):
            says = self.says.get(number, says)
            first = self.at_first.get(number)
            done.append(board.write(first or says))
            if first is not None:
                done.append(board.change(done[-1]["id"], says))
        return [one["splices"] for one in done]


def with_value(document: Document, name: str, says: str) -> Document:
    """Return a document with another value under a name."""
    items = tuple(i._replace(says=says) if (i.kind, i.name) == ("value", name) else i for i in document.items)
    return Document(items, document.next_id)


def draw(session: Session, person: Person, board: Board, plan: OnTheBoard, ends: datetime) -> Board:
    """Draw on a board of somebody's, so that the last thing was done at a moment."""
    acts = plan.acts()
    board_saving.save(session, person, board.id, board.version, acts)
    kept = session.scalars(
        select(BoardAct).where(BoardAct.board_id == board.id).order_by(BoardAct.version.desc())
    )
    at = ends
    for act, seconds in zip(kept, cycle(PACE), strict=False):
        act.at = at
        at -= timedelta(seconds=seconds)
    board.changed_at = ends
    session.flush()
    return board


def draft(session: Session, student: Person, issue: Issue, plan: OnTheBoard, ends: datetime) -> Board:
    """Draw a student's draft for what was issued."""
    return draw(session, student, boards.draft_for(session, student, issue.id), plan, ends)
