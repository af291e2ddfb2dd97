"""How a drawing was made on a board: what was done to it, and when."""

from __future__ import annotations

import json
from datetime import datetime
from typing import TypedDict

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.board.made import KeptAct
from evenmark.core.construct.document import KeptDocument
from evenmark.services.errors import NotThere
from evenmark.services.issues import own_attempt
from evenmark.store.boards import BoardAct
from evenmark.store.people import Person


class HowMade(TypedDict):
    """How an attempt was drawn: whose it is, what it led to, and all that was done."""

    student: str
    title: str
    handed_in_at: datetime
    document: KeptDocument
    acts: list[KeptAct]


def made_so_far(session: Session, board_id: int, version: int) -> list[KeptAct]:
    """Return what was done to a board and when, up to a version, as it is kept with an attempt."""
    acts = session.scalars(
        select(BoardAct)
        .where(BoardAct.board_id == board_id, BoardAct.version <= version)
        .order_by(BoardAct.version)
    )
    return [{"at": a.at.isoformat(), "splices": a.splices} for a in acts]


def how_made(session: Session, instructor: Person, attempt_id: int) -> HowMade:
    """Return to an instructor how an attempt was drawn on the board. Raises NotThere for one that came as a
    file."""
    attempt = own_attempt(session, instructor, attempt_id)
    if attempt.made is None:
        raise NotThere("This attempt was handed in as a file: how it was drawn is not known.")
    return {
        "student": attempt.student.name,
        "title": attempt.issue.revision.title,
        "handed_in_at": attempt.handed_in_at,
        "document": json.loads(attempt.data),
        "acts": attempt.made,
    }
