"""Boards as what becomes of them: files, and what is handed in. What a page asks for is made of the list
that it shows, or not at all."""

from __future__ import annotations

import hashlib
import json
from typing import NamedTuple

from procrastinate import App
from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.construct.document import KeptDocument, from_json, to_json, to_text
from evenmark.core.marking.model import Examines
from evenmark.services.boards import own_board
from evenmark.services.errors import NotThere, NotUsable, Outdated
from evenmark.services.hand_in import issue_for, keep_attempt, look
from evenmark.services.keys import examined
from evenmark.services.terms import Terms, check_open, terms_of
from evenmark.store.boards import Board
from evenmark.store.models import Attempt
from evenmark.store.people import Person, now
from evenmark.store.queue import defer_marking


def digest_of(document: KeptDocument) -> str:
    """Return a digest of a list, as the page works it out too (`frontend/src/board/digest.ts`)."""
    fields = ("kind", "id", "name", "says", "after")
    text = "".join("\x1f".join(str(line.get(f, "")) for f in fields) + "\x1e" for line in document["lines"])
    return hashlib.sha256(text.encode("utf-8", "replace")).hexdigest()


def as_file(session: Session, person: Person, board_id: int, digest: str | None = None) -> tuple[str, bytes]:
    """Return a board as the file that is handed in or made into a key: its name, and its document as JSON.
    Raises NotUsable for one with nothing on it; Outdated where it is another list than that of a digest."""
    board = own_board(session, person, board_id)
    if digest is not None and digest != digest_of(board.document):
        raise Outdated(
            "Changed in another tab. You now see the saved drawing. Check it, then try again.",
            "other-list",
        )
    document = from_json(board.document)
    if not document.steps:
        raise NotUsable("Nothing is drawn yet. Draw something first.", "nothing-drawn")
    data = json.dumps(to_json(document), ensure_ascii=False, indent=1)
    return f"{board.title}.json"[:255], data.encode()


def as_text(session: Session, person: Person, board_id: int) -> tuple[str, bytes]:
    """Return a board as a text document."""
    board = own_board(session, person, board_id)
    return board.title, to_text(from_json(board.document)).encode()


class ToHandIn(NamedTuple):
    """A draft that somebody is about to hand in: as the file that it would be, what of it is examined, what
    holds for the student, and the attempt as which this same list was handed in already."""

    name: str
    data: bytes
    examines: Examines
    terms: Terms
    before: int | None


def to_hand_in(session: Session, student: Person, board_id: int, digest: str) -> ToHandIn:
    """Return a draft as it would be handed in; nothing is. Raises NotThere, NotUsable, Outdated."""
    board = own_board(session, student, board_id)
    if board.issue_id is None:
        raise NotThere("This drawing belongs to no exercise. Open the exercise under My work.")
    issue = issue_for(session, student, board.issue_id)
    name, data = as_file(session, student, board_id, digest)
    before = _handed_in(session, board)
    terms = terms_of(session, issue, student.id)
    if before is None:
        check_open(terms)
    return ToHandIn(name, data, examined(issue.revision.rules), terms, before.id if before else None)


def understood(given: ToHandIn) -> dict[str, object]:
    """Return what is understood of a draft, as for a file, with its picture and the tries that are left.
    Raises NotUsable."""
    reading, scene = look(given.data, given.name, given.examines)
    terms = given.terms
    return {
        "reading": reading,
        "scene": scene,
        "tries": terms.tries,
        "tries_left": terms.tries_left,
        "past_due": now() > terms.due_at,
        "handed_in": given.before,
    }


def _handed_in(session: Session, board: Board) -> Attempt | None:
    """Return the attempt as which a board was handed in just as it stands."""
    return session.scalar(
        select(Attempt).where(
            Attempt.board_id == board.id, Attempt.made_version == board.version, Attempt.state != "failed"
        )
    )


def hand_in_board(
    session: Session, queue: App | None, student: Person, board_id: int, digest: str | None
) -> Attempt:
    """Hand in a draft as it is kept, with how it was made; it is read when it is marked. Asked again for a
    list that is handed in already, it is that attempt. Raises NotThere, NotUsable, Outdated."""
    board = own_board(session, student, board_id, locked=True)
    if board.issue_id is None:
        raise NotThere("This drawing belongs to no exercise. Open the exercise under My work.")
    issue = issue_for(session, student, board.issue_id)
    name, data = as_file(session, student, board_id, digest)
    before = _handed_in(session, board)
    if before is not None:
        return before
    attempt = keep_attempt(session, issue, student.id, file_name=name, data=data, reading={})
    attempt.board_id, attempt.made_version = board.id, board.version
    session.flush()
    if queue is not None:
        defer_marking(session, queue, attempt.id)
    return attempt
