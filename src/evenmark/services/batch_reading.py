"""Reading the files of a batch: by the workers, a few at a time, each kept by itself, so that none suffers
from another."""

from __future__ import annotations

import logging
from collections.abc import Iterator, Sequence
from contextlib import suppress

from sqlalchemy import select
from sqlalchemy.exc import StatementError
from sqlalchemy.orm import Session

from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import Examines
from evenmark.services.bounded import run_bounded
from evenmark.services.engine_work import Reading, look_at, look_at_many
from evenmark.services.errors import Refused
from evenmark.services.hand_in import clean_name
from evenmark.services.keys import examined
from evenmark.store.database import Database, is_away
from evenmark.store.models import BatchFile, Issue
from evenmark.store.queue import stranded_files

COULD_NOT = "This file could not be read. Read it again, or export the drawing again and hand that in."
log = logging.getLogger(__name__)


def read_in_turn(database: Database, file_ids: Sequence[int]) -> None:
    """Read files of a batch and keep what is in each by itself, so that none suffers from another; what is
    read already stays.

    Only a database that cannot be reached is raised: then the whole is done once more.
    """
    with database.transaction() as session:
        rows = _waiting(session, file_ids)
        given = [(f.id, f.data, clean_name(f.path)) for f in rows]
        examines = _examined(session, rows[0]) if rows else "model"
    for file_id, seen in _seen(given, examines):
        try:
            with database.transaction() as session:
                for row in _waiting(session, [file_id], locked=True):
                    _keep_reading(row, seen)
        except StatementError as why:
            if is_away(why):
                raise
            log.error("what is in file %s could not be kept: %s", file_id, type(why.orig).__name__)
            give_up_reading(database, [file_id])


def read_file(session: Session, file_id: int) -> None:
    """Read one file of a batch within a transaction; one that is read already stays as it is."""
    for row in _waiting(session, [file_id]):
        for _, seen in _seen([(row.id, row.data, clean_name(row.path))], _examined(session, row)):
            _keep_reading(row, seen)


def give_up_reading(database: Database, file_ids: Sequence[int]) -> None:
    """Say of files that still wait that they could not be read: when all tries of the queue are used up."""
    for file_id in file_ids:
        with database.transaction() as session:
            for row in _waiting(session, [file_id], locked=True):
                _keep_reading(row, COULD_NOT)


def give_up_stranded_files(database: Database) -> int:
    """Give up files that wait although nothing in the queue will read them any more; return how many."""
    with database.transaction() as session:
        found = stranded_files(session)
    give_up_reading(database, found)
    return len(found)


def _waiting(session: Session, file_ids: Sequence[int], *, locked: bool = False) -> list[BatchFile]:
    query = (
        select(BatchFile)
        .where(BatchFile.id.in_(file_ids), BatchFile.state == "waiting")
        .order_by(BatchFile.id)
    )
    return list(session.scalars(query.with_for_update(of=BatchFile) if locked else query))


def _seen(given: Sequence[tuple[int, bytes, str]], examines: Examines) -> Iterator[tuple[int, Reading | str]]:
    """Yield each file (id, bytes, name) with what is in it or why it cannot be read: read together, else each
    by itself."""
    if len(given) > 1:
        with suppress(UnreadableDrawing, Refused):
            together = run_bounded(look_at_many, [(data, name) for _, data, name in given], examines)
            yield from zip([i for i, _, _ in given], together, strict=True)
            return
    for file_id, data, name in given:
        try:
            yield file_id, run_bounded(look_at, data, name, examines)
        except (UnreadableDrawing, Refused) as why:
            yield file_id, why.says


def _examined(session: Session, row: BatchFile) -> Examines:
    return examined(session.get_one(Issue, row.batch.issue_id).revision.rules)


def _keep_reading(row: BatchFile, seen: Reading | str) -> None:
    if isinstance(seen, str) or seen.refusal:
        row.state = "unusable"
        row.trouble = seen if isinstance(seen, str) else seen.refusal.says if seen.refusal else None
        return
    row.state, row.reading, row.wordings, row.trouble = "read", seen.reading, seen.wordings, None
