"""Files that boards begin with: the start drawing of an exercise, a key that is drawn on.

What is found here is worked through while no transaction is open.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.construct.document import Document, from_json
from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.geometry.units import BY_SYMBOL
from evenmark.services import board_work
from evenmark.services.bounded import run_bounded
from evenmark.services.errors import NotUsable
from evenmark.services.exercises import own_revision
from evenmark.services.hand_in import issue_for
from evenmark.store.models import Board, Person, Revision


def opened(data: bytes, name: str, unit: str) -> dict[str, Any]:
    """Read a file for a board: a document of steps, or a drawing to be laid in. Raises NotUsable."""
    return _read(board_work.opened, data, name, unit)


def _read(work: Callable[[bytes, str, str], dict[str, Any]], *given: Any) -> dict[str, Any]:
    try:
        return run_bounded(work, *given)
    except UnreadableDrawing as why:
        raise NotUsable(why.says, why.code) from why


@dataclass(frozen=True, kw_only=True, slots=True)
class Begins:
    """A file that a board begins with, and the unit of the exercise."""

    title: str
    name: str
    data: bytes
    unit: str

    def document(self) -> Document:
        """Read it. Raises NotUsable."""
        return from_json(_read(board_work.begun, self.data, self.name, self.unit))


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


def unit_of(revision: Revision) -> str:
    """Return the unit in which an exercise is drawn."""
    unit = revision.rules.get("unit")
    return unit if unit in BY_SYMBOL else "mm"
