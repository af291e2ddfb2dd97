"""Files that boards begin with: the start drawing of an exercise, a key that is drawn on.

What is found here is worked through while no transaction is open.
"""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.construct.document import Document, from_json
from evenmark.services import board_work
from evenmark.services.boards import unit_of
from evenmark.services.bounded import read_bounded
from evenmark.services.exercises import own_revision
from evenmark.services.hand_in import issue_for
from evenmark.store.boards import Board
from evenmark.store.people import Person


@dataclass(frozen=True, kw_only=True, slots=True)
class Begins:
    """A file that a board begins with, and the unit of the exercise."""

    title: str
    name: str
    data: bytes
    unit: str

    def document(self) -> Document:
        """Read it. Raises NotUsable."""
        return from_json(read_bounded(board_work.begun, self.data, self.name, self.unit))


def start_for(session: Session, student: Person, issue_id: int) -> Begins | None:
    """Return the start drawing that a student's draft begins with; none where there is none, or the draft is
    begun already. Raises NotThere."""
    issue = issue_for(session, student, issue_id)
    query = select(Board.id).where(Board.person_id == student.id, Board.issue_id == issue.id)
    start = issue.revision.start
    if start is None or session.scalar(query) is not None:
        return None
    return Begins(title=issue.revision.title, name=start.name, data=start.data, unit=unit_of(issue.revision))


def key_for(session: Session, instructor: Person, revision_id: int) -> Begins:
    """Return the key of an exercise, to be drawn on. Raises NotThere."""
    revision = own_revision(session, instructor, revision_id)
    return Begins(
        title=revision.title, name=revision.key_name, data=revision.key_bytes, unit=unit_of(revision)
    )
