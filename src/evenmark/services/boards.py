"""Boards: a list of steps is opened, drawn on, saved act by act, handed in, made into a key.

- *act*: the edits of one thing that was done; every act makes another version of the board.
- *parted*: two pages have gone on from one version. Nothing is written over: one list is taken, the other is
  set aside, where it can be looked at and taken later.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple, cast

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from evenmark.core.board.answers import Edit
from evenmark.core.board.edits import Conflict, edited
from evenmark.core.board.underlay import UnderlayJson
from evenmark.core.construct.document import (
    Document,
    DocumentError,
    DocumentLine,
    KeptDocument,
    from_json,
    to_json,
    to_text,
)
from evenmark.core.geometry.units import BY_SYMBOL
from evenmark.services.errors import NotThere, NotUsable, Outdated
from evenmark.services.hand_in import issue_for
from evenmark.services.issues import IssueHead, issue_head
from evenmark.services.names import plain_name
from evenmark.services.terms import check_open, terms_of
from evenmark.store.boards import Board, BoardAct, BoardAside, OwnCheck
from evenmark.store.models import Issue, Revision
from evenmark.store.people import Person, now

MOST_BOARDS, MOST_ASIDE = 500, 40
MOST_ACTS = 500
"""Acts in one request: what was done while there was no connection."""
MOST_BYTES = 3_000_000
"""Of a document as it is kept."""
FAR_AHEAD = 200_000
"""Acts of one board; more are no drawing."""


def own_board(session: Session, person: Person, board_id: int, *, locked: bool = False) -> Board:
    """Return a board of this person. Raises NotThere for anybody else's."""
    query = select(Board).where(Board.id == board_id)
    board = session.scalar(query.with_for_update() if locked else query)
    if board is None or board.person_id != person.id:
        raise NotThere("There is no such drawing of yours.")
    return board


class BoardRow(NamedTuple):
    """A board in a list."""

    id: int
    title: str
    issue_id: int | None
    version: int
    changed_at: datetime


Acted = Sequence[Mapping[str, object]]
"""The edits of one act, as anybody may have sent them."""


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
        select(Board).where(Board.person_id == person.id).order_by(Board.changed_at.desc(), Board.id.desc())
    )
    return [BoardRow(b.id, b.title, b.issue_id, b.version, b.changed_at) for b in found]


def new_board(
    session: Session, person: Person, title: str, unit: str = "mm", document: Document | None = None
) -> Board:
    """Begin a board of one's own. Raises NotUsable."""
    if unit not in BY_SYMBOL:
        raise NotUsable(f"Choose a unit: {', '.join(BY_SYMBOL)}.")
    _room_for_one(session, person)
    board = Board(
        person_id=person.id,
        title=_title(title),
        document=to_json(document or Document((DocumentLine("unit", unit),))),
        version=0,
    )
    session.add(board)
    session.flush()
    return board


def _room_for_one(session: Session, person: Person) -> None:
    count = session.scalar(select(func.count()).select_from(Board).where(Board.person_id == person.id)) or 0
    if count >= MOST_BOARDS:
        raise NotUsable(f"You have {MOST_BOARDS} drawings. Take one away first.")


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
    found = session.scalar(select(Board).where(Board.person_id == student.id, Board.issue_id == issue.id))
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


def save(session: Session, person: Person, board_id: int, base: int, acts: Sequence[Acted]) -> int:
    """Do acts on the version of a board that they were made for; return the version that they make. What was
    saved already, by a request whose answer was lost, is not done twice. Raises Outdated where somebody went
    on from it meanwhile, NotUsable."""
    board = own_board(session, person, board_id, locked=True)
    if len(acts) > MOST_ACTS:
        raise NotUsable(f"At most {MOST_ACTS} things can be saved at once.")
    known = _done_already(session, board, base, acts)
    if base + known != board.version:
        raise Outdated("This drawing was changed in another page meanwhile.", "parted")
    document = from_json(board.document)
    try:
        for edits in acts[known:]:
            document = edited(document, edits)
            board.version += 1
            session.add(BoardAct(board_id=board.id, version=board.version, splices=_edits(edits)))
    except Conflict as why:
        raise Outdated(str(why), "parted") from why
    except DocumentError as why:
        raise NotUsable(str(why)) from why
    _put(board, document)
    session.flush()
    return board.version


def _edits(edits: Acted) -> list[Edit]:
    """Return edits that were read as what they are."""
    return [cast(Edit, one) for one in edits]


def _done_already(session: Session, board: Board, base: int, acts: Sequence[Acted]) -> int:
    """Return how many of some acts are the ones that followed on a version."""
    if base >= board.version:
        return 0
    after = session.scalars(
        select(BoardAct)
        .where(BoardAct.board_id == board.id, BoardAct.version > base)
        .order_by(BoardAct.version)
        .limit(len(acts))
    ).all()
    count = 0
    for act, mine in zip(after, acts, strict=False):
        if act.splices != list(mine):
            break
        count += 1
    return count


def _put(board: Board, document: Document) -> None:
    kept = to_json(document)
    if len(json.dumps(kept)) > MOST_BYTES or board.version > FAR_AHEAD:
        raise NotUsable("The drawing is too large to be kept. Take something away, or begin another one.")
    board.document, board.changed_at = kept, now()


def part(
    session: Session, person: Person, board_id: int, base: int, document: Mapping[str, object], *, mine: bool
) -> int:
    """Settle that two pages have gone on from one version: take the list of the page that asks, or the one
    that is kept here; the other is set aside. Returns the version. Raises NotUsable, Outdated."""
    board = own_board(session, person, board_id, locked=True)
    if base != board.version:
        raise Outdated("This drawing was changed once more meanwhile.", "parted")
    try:
        theirs, here = from_json(document), from_json(board.document)
    except DocumentError as why:
        raise NotUsable(str(why)) from why
    _set_aside(
        session, board, here if mine else theirs, "the list that was kept" if mine else "the other list"
    )
    if mine:
        whole: Edit = {
            "at": 0,
            "gone": board.document["lines"],
            "come": to_json(theirs)["lines"],
        }
        board.version += 1
        session.add(BoardAct(board_id=board.id, version=board.version, splices=[whole]))
        _put(board, Document(theirs.items, max(theirs.next_id, here.next_id)))
    session.flush()
    return board.version


def _set_aside(session: Session, board: Board, document: Document, says: str) -> None:
    count = sum(1 for i in document.items if i.kind == "step")
    said = f"{says}, {count} step{'' if count == 1 else 's'}"
    session.add(BoardAside(board_id=board.id, says=said, document=to_json(document)))
    session.flush()
    old = session.scalars(
        select(BoardAside.id)
        .where(BoardAside.board_id == board.id)
        .order_by(BoardAside.id.desc())
        .offset(MOST_ASIDE)
    ).all()
    session.execute(delete(BoardAside).where(BoardAside.id.in_(old)))


def set_aside(session: Session, person: Person, board_id: int, aside_id: int) -> KeptDocument:
    """Return a list that was set aside. Raises NotThere."""
    board = own_board(session, person, board_id)
    found = session.get(BoardAside, aside_id)
    if found is None or found.board_id != board.id:
        raise NotThere("This list is no longer there.")
    return found.document


def rename(session: Session, person: Person, board_id: int, title: str) -> None:
    """Give a board another title. Raises NotUsable."""
    own_board(session, person, board_id).title = _title(title)


def take_away(session: Session, person: Person, board_id: int) -> None:
    """Take a board of one's own away for good, with all that was done to it."""
    session.delete(own_board(session, person, board_id))


def as_file(session: Session, person: Person, board_id: int) -> tuple[str, bytes]:
    """Return a board as the file that is handed in or made into a key: its name, and its document as JSON.
    Raises NotUsable for one with nothing on it."""
    board = own_board(session, person, board_id)
    document = from_json(board.document)
    if not document.steps:
        raise NotUsable("Nothing is drawn yet.", "nothing-drawn")
    data = json.dumps(to_json(document), ensure_ascii=False, indent=1)
    return f"{board.title}.json"[:255], data.encode()


def as_text(session: Session, person: Person, board_id: int) -> tuple[str, bytes]:
    """Return a board as a text document."""
    board = own_board(session, person, board_id)
    return board.title, to_text(from_json(board.document)).encode()


def draft_of(session: Session, student_id: int, issue_id: int) -> Board | None:
    """Return a student's draft for what was issued, where there is one."""
    return session.scalar(select(Board).where(Board.person_id == student_id, Board.issue_id == issue_id))
