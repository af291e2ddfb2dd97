"""Boards: a list of steps is opened, drawn on, saved act by act, handed in, made into a key.

- *act*: the edits of one thing that was done; every act makes another version of the board.
- *parted*: two pages have gone on from one version. Nothing is written over: one list is taken, the other is
  set aside, where it can be looked at and taken later.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple

from sqlalchemy import ColumnElement, delete, func, select
from sqlalchemy.orm import Session, undefer

from evenmark.core.board.underlay import UnderlayJson
from evenmark.core.construct.document import (
    Document,
    DocumentLine,
    KeptDocument,
    to_json,
)
from evenmark.core.geometry.units import BY_SYMBOL
from evenmark.services import room
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.hand_in import issue_for
from evenmark.services.issues import IssueHead, issue_head
from evenmark.services.names import plain_name
from evenmark.services.terms import check_open, terms_of
from evenmark.store.boards import Board, BoardAct, BoardAside, BoardPicture, BoardSnapshot, OwnCheck
from evenmark.store.models import Attempt, Issue, Revision
from evenmark.store.people import Person, now

MOST_BOARDS = 500


def own_board(session: Session, person: Person, board_id: int, *, locked: bool = False) -> Board:
    """Return a board of this person. Raises NotThere for anybody else's."""
    query = select(Board).where(Board.id == board_id)
    if locked:  # to be changed: with its list, in one question
        query = query.options(undefer(Board.document)).with_for_update()
    board = session.scalar(query)
    if board is None or board.person_id != person.id or board.taken_away_at is not None:
        raise NotThere("Deleted, or not yours. Go back to Exercises.")
    return board


class BoardRow(NamedTuple):
    """A board in a list."""

    id: int
    title: str
    issue_id: int | None
    version: int
    changed_at: datetime


class ChecksAllowed(NamedTuple):
    """How many checks of one's own an exercise allows, how many are left, and how much they say."""

    of: int
    left: int
    says: str


class AsideRow(NamedTuple):
    """A list that was set aside."""

    id: int
    at: datetime
    says: str


@dataclass(frozen=True, kw_only=True)
class BoardView:
    """A board with its list of steps as it is kept."""

    id: int
    title: str
    version: int
    document: KeptDocument
    changed_at: datetime
    issue: IssueHead | None
    own_check: ChecksAllowed | None
    underlay: UnderlayJson | None
    aside: list[AsideRow]


def boards_of(session: Session, person: Person) -> list[BoardRow]:
    """Return somebody's boards, most lately changed first."""
    found = session.scalars(
        select(Board).where(_is_there(person.id)).order_by(Board.changed_at.desc(), Board.id.desc())
    )
    return [BoardRow(b.id, b.title, b.issue_id, b.version, b.changed_at) for b in found]


def new_board(
    session: Session, person: Person, title: str, unit: str = "mm", document: Document | None = None
) -> Board:
    """Begin a board of one's own. Raises NotUsable."""
    if unit not in BY_SYMBOL:
        raise NotUsable(f"Choose a unit: {', '.join(BY_SYMBOL)}.")
    _room_for_one(session, person)
    kept = to_json(document or Document((DocumentLine("unit", unit),)))
    room.check_own(session, person, room.bytes_of(kept))
    board = Board(person_id=person.id, title=_title(title), document=kept, version=0)
    session.add(board)
    session.flush()
    snapshot(session, board)
    return board


def snapshot(session: Session, board: Board) -> None:
    """Keep a board's list as it is, so that its history can be read from here on."""
    session.add(BoardSnapshot(board_id=board.id, version=board.version, document=board.document))
    board.bytes += room.bytes_of(board.document)
    board.part_bytes = 0
    session.flush()


def _is_there(person_id: int) -> ColumnElement[bool]:
    """Whether a board is this person's, and was not taken away."""
    return (Board.person_id == person_id) & Board.taken_away_at.is_(None)


def _room_for_one(session: Session, person: Person) -> None:
    count = session.scalar(select(func.count()).select_from(Board).where(_is_there(person.id))) or 0
    if count >= MOST_BOARDS:
        raise NotUsable(f"You have {MOST_BOARDS} drawings. Delete one first.")


def _title(title: str) -> str:
    title = plain_name(title, "title")
    if not 1 <= len(title) <= 160:
        raise NotUsable("Give the drawing a title of at most 160 letters.")
    return title


def draft_for(session: Session, student: Person, issue_id: int, begins: Document | None = None) -> Board:
    """Return a student's draft for what was issued; begun if there is none, with what the exercise gives.
    Raises NotThere, NotUsable."""
    issue = issue_for(session, student, issue_id)
    session.execute(select(Person.id).where(Person.id == student.id).with_for_update())
    found = draft_of(session, student.id, issue.id)
    if found is not None:
        return found
    check_open(terms_of(session, issue, student.id))
    board = new_board(session, student, issue.revision.title, unit_of(issue.revision), begins)
    board.issue_id = issue.id
    session.flush()
    return board


def unit_of(revision: Revision) -> str:
    """Return the unit in which an exercise is drawn."""
    unit = revision.rules.get("unit")
    return unit if unit in BY_SYMBOL else "mm"


def opened(session: Session, person: Person, board_id: int) -> BoardView:
    """Return a board with its list."""
    board = own_board(session, person, board_id)
    issue: Issue | None = board.issue
    aside = session.scalars(
        select(BoardAside).where(BoardAside.board_id == board.id).order_by(BoardAside.id.desc())
    )
    return BoardView(
        id=board.id,
        title=board.title,
        version=board.version,
        document=board.document,
        changed_at=board.changed_at,
        issue=issue_head(session, issue) if issue is not None else None,
        own_check=allowed(session, issue, person.id) if issue is not None else None,
        underlay=board.underlay,
        aside=[AsideRow(a.id, a.at, a.says) for a in aside],
    )


def allowed(session: Session, issue: Issue, student_id: int) -> ChecksAllowed:
    """Return how many checks an exercise allows, how many are left to a student, and how much they say."""
    used = session.scalar(
        select(func.count())
        .select_from(OwnCheck)
        .where(OwnCheck.issue_id == issue.id, OwnCheck.student_id == student_id)
    )
    return ChecksAllowed(issue.own_checks, max(issue.own_checks - (used or 0), 0), issue.own_says)


def rename(session: Session, person: Person, board_id: int, title: str) -> None:
    """Give a board another title. Raises NotUsable."""
    own_board(session, person, board_id).title = _title(title)


def take_away(session: Session, person: Person, board_id: int) -> None:
    """Take a board of one's own away for good, with all that was done to it; what was handed in of it stays,
    with how it was made up to then."""
    board = own_board(session, person, board_id, locked=True)
    handed_in = select(func.max(Attempt.made_version)).where(Attempt.board_id == board.id)
    version = session.scalar(handed_in)
    if version is None:
        session.delete(board)
        return
    board.taken_away_at = now()
    for kept in (BoardAct, BoardSnapshot):
        session.execute(delete(kept).where(kept.board_id == board.id, kept.version > version))
    for other in (BoardAside, BoardPicture):
        session.execute(delete(other).where(other.board_id == board.id))
    board.underlay = None


def draft_of(session: Session, student_id: int, issue_id: int) -> Board | None:
    """Return a student's draft for what was issued, where there is one."""
    return session.scalar(select(Board).where(_is_there(student_id), Board.issue_id == issue_id))
