"""How a drawing was made on a board: what was done to it, and when, in parts that can be read one by one.

- *part*: the list as it was at a snapshot, and what was done from there to the next one, some megabytes at
  most."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from datetime import datetime
from typing import TypedDict

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.board.made import KeptAct
from evenmark.core.construct.document import KeptDocument
from evenmark.services.errors import NotThere
from evenmark.services.issues import own_attempt
from evenmark.store.boards import BoardAct, BoardSnapshot
from evenmark.store.models import Attempt
from evenmark.store.people import Person

ROWS_AT_ONCE = 200


class HowMade(TypedDict):
    """A part of how an attempt was drawn: whose it is, how many acts there were and how many parts they are
    in; after how many of them this part begins, the list as it was then, and what was done to it."""

    student: str
    title: str
    handed_in_at: datetime
    of: int
    parts: int
    first: int
    document: KeptDocument
    acts: list[KeptAct]


def acts_between(session: Session, board_id: int, first: int, version: int) -> Iterator[KeptAct]:
    """Yield what was done to a board and when, from one version to another, a few rows at a time."""
    acts = session.execute(
        select(BoardAct.at, BoardAct.splices)
        .where(BoardAct.board_id == board_id, BoardAct.version > first, BoardAct.version <= version)
        .order_by(BoardAct.version)
        .execution_options(yield_per=ROWS_AT_ONCE)
    )
    for at, splices in acts:
        yield {"at": at.isoformat(), "splices": splices}


def how_made(session: Session, instructor: Person, attempt_id: int, part: int) -> HowMade:
    """Return to an instructor a part of how an attempt was drawn on the board. Raises NotThere for one that
    came as a file, and for a part that there is not."""
    attempt, board_id, last = _drawn_on(session, instructor, attempt_id)
    starts = snapshots_of(session, board_id, last)
    if not 0 <= part < len(starts):
        raise NotThere("This part of the history is gone. Reload the page.")
    first = starts[part]
    end = starts[part + 1] if part + 1 < len(starts) else last
    return {
        "student": attempt.student.name,
        "title": attempt.issue.revision.title,
        "handed_in_at": attempt.handed_in_at,
        "of": last,
        "parts": len(starts),
        "first": first,
        "document": _document(session, board_id, first),
        "acts": list(acts_between(session, board_id, first, end)),
    }


def made_up_to(
    session: Session, instructor: Person, attempt_id: int, count: int
) -> tuple[KeptDocument, list[KeptAct]]:
    """Return to an instructor the list of a board from which some of its first acts can be reached, and what
    of them was done to it. Raises NotThere."""
    _, board_id, last = _drawn_on(session, instructor, attempt_id)
    count = min(count, last)
    first = snapshots_of(session, board_id, count)[-1]
    return _document(session, board_id, first), list(acts_between(session, board_id, first, count))


def snapshots_of(session: Session, board_id: int, version: int) -> Sequence[int]:
    """Return the versions up to one of which a board's list is kept as it was."""
    return session.scalars(
        select(BoardSnapshot.version)
        .where(BoardSnapshot.board_id == board_id, BoardSnapshot.version <= version)
        .order_by(BoardSnapshot.version)
    ).all()


def history_written(session: Session, board_id: int, version: int) -> Iterator[bytes]:
    """Yield a JSON document of how a board was made up to a version, piece by piece."""
    start = json.dumps(_document(session, board_id, 0), ensure_ascii=False)
    yield f'{{"format": "even-mark/history", "version": 1, "begins": {start}, "acts": ['.encode()
    for n, act in enumerate(acts_between(session, board_id, 0, version)):
        yield (("," if n else "") + "\n" + json.dumps(act, ensure_ascii=False)).encode()
    yield b"\n]}\n"


def _document(session: Session, board_id: int, version: int) -> KeptDocument:
    return session.get_one(BoardSnapshot, (board_id, version)).document


def _drawn_on(session: Session, instructor: Person, attempt_id: int) -> tuple[Attempt, int, int]:
    attempt = own_attempt(session, instructor, attempt_id)
    if attempt.board_id is None or attempt.made_version is None:
        raise NotThere(
            "This attempt was handed in as a file: its steps are not known. Look at the drawing instead."
        )
    return attempt, attempt.board_id, attempt.made_version
