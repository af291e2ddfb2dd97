"""Marking an attempt: the engine's mark sheet, stored with the version that made it, once for each
version."""

from __future__ import annotations

import logging
from collections import defaultdict
from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass

from procrastinate import App
from sqlalchemy import select
from sqlalchemy.exc import StatementError
from sqlalchemy.orm import Session

from evenmark import ENGINE_VERSION
from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import RuleError
from evenmark.core.marking.rules_types import RulesJson
from evenmark.services.bounded import run_bounded
from evenmark.services.engine_work import Marked, mark, mark_many
from evenmark.services.errors import NotUsable, Refused
from evenmark.services.issues import own_attempt, own_issue
from evenmark.services.keys import start_of
from evenmark.services.returning import return_at_once
from evenmark.services.standing import VERDICTS
from evenmark.store.database import Conflict, Database, is_away
from evenmark.store.kept import Summary
from evenmark.store.models import Attempt, MarkSheetRow, Revision
from evenmark.store.people import Person
from evenmark.store.queue import defer_marking, defer_marking_of_many, stranded_attempts

SECONDS = 120
"""The longest that a marking may take, of one attempt or of several together."""
COULD_NOT = "This drawing could not be marked. Mark it again, or hand in a new export; no try was used."
log = logging.getLogger(__name__)


@dataclass(frozen=True, kw_only=True, slots=True)
class MarkingWork:
    """Attempts at one revision that want marking, as plain values: worked through while no transaction is
    open."""

    keys: list[bytes]
    rules: RulesJson
    start: bytes | None
    attempts: list[tuple[int, bytes, str, dict[str, str]]]
    """Id, bytes, file name, and what the sheet should say of its student."""


def mark_in_turn(database: Database, attempt_ids: Sequence[int]) -> None:
    """Mark attempts and keep each mark sheet by itself, so that none suffers from another; one that is marked
    already stays as it is.

    A drawing that cannot be marked, or whose marks cannot be kept, has the reason on it and can be marked
    again. Only a database that cannot be reached is raised: then the whole is done once more.
    """
    with database.transaction() as session:
        works = _works(session, attempt_ids)
    for work in works:
        for attempt_id, marked in _results(work):
            _keep_alone(database, attempt_id, marked)


def mark_attempt(session: Session, attempt_id: int) -> MarkSheetRow | None:
    """Mark an attempt within a transaction; one that is marked already stays as it is. None when it cannot be
    marked."""
    attempt = session.get(Attempt, attempt_id)
    if attempt is None:
        return None
    for work in _works(session, [attempt_id]):
        for _, marked in _results(work):
            return _keep(session, attempt, marked)
    return newest_sheet(session, attempt_id)


def give_up(database: Database, attempt_ids: Sequence[int]) -> None:
    """Say of attempts that they could not be marked: when all tries of the queue are used up, or their marks
    cannot be kept.

    Marks of an earlier engine stand; then only the reason is noted beside them.
    """
    for attempt_id in attempt_ids:
        with database.transaction() as session:
            attempt = _locked(session, attempt_id)
            if attempt is not None and attempt.state != "failed" and _known(session, attempt) is None:
                _keep(session, attempt, COULD_NOT)


def give_up_stranded(database: Database) -> int:
    """Give up attempts that wait although nothing in the queue will mark them any more; return how many."""
    with database.transaction() as session:
        found = stranded_attempts(session)
    give_up(database, found)
    return len(found)


def _works(session: Session, attempt_ids: Sequence[int]) -> list[MarkingWork]:
    """Return what is to be done for attempts, those at one revision together."""
    found = session.scalars(select(Attempt).where(Attempt.id.in_(attempt_ids)).order_by(Attempt.id))
    by_revision: dict[int, list[Attempt]] = defaultdict(list)
    for attempt in found:
        if _known(session, attempt) is None:
            by_revision[attempt.issue.revision_id].append(attempt)
    return [
        MarkingWork(
            keys=_keys_of(attempts[0].issue.revision),
            rules=attempts[0].issue.revision.rules,
            start=start_of(attempts[0].issue.revision),
            attempts=[(a.id, a.data, a.file_name, _fields_of(a)) for a in attempts],
        )
        for attempts in by_revision.values()
    ]


def _results(work: MarkingWork) -> Iterator[tuple[int, Marked | str]]:
    """Yield each attempt with its marks or why there are none: worked through together, else each by
    itself."""
    given = [(data, name, fields) for _, data, name, fields in work.attempts]
    if len(given) > 1:
        with suppress(UnreadableDrawing, RuleError, Refused):
            together = run_bounded(mark_many, work.keys, work.rules, given, work.start, seconds=SECONDS)
            yield from zip([a[0] for a in work.attempts], together, strict=True)
            return
    for attempt_id, data, name, fields in work.attempts:
        try:
            yield (
                attempt_id,
                run_bounded(mark, work.keys, work.rules, data, name, fields, work.start, seconds=SECONDS),
            )
        except (UnreadableDrawing, RuleError, Refused) as why:
            yield attempt_id, getattr(why, "says", str(why))


def _keep_alone(database: Database, attempt_id: int, marked: Marked | str) -> None:
    try:
        with database.transaction() as session:
            attempt = _locked(session, attempt_id)
            if attempt is not None and _known(session, attempt) is None:
                _keep(session, attempt, marked)
    except Conflict:
        return  # another worker was there first
    except StatementError as why:
        if is_away(why):
            raise
        log.error("the marks of attempt %s could not be kept: %s", attempt_id, type(why.orig).__name__)
        give_up(database, [attempt_id])


def _locked(session: Session, attempt_id: int) -> Attempt | None:
    """Return an attempt that nobody else marks meanwhile."""
    return session.scalar(select(Attempt).where(Attempt.id == attempt_id).with_for_update(of=Attempt))


def _known(session: Session, attempt: Attempt) -> MarkSheetRow | None:
    """Return the mark sheet that this engine made of an attempt before, and note that it is marked."""
    known = session.scalar(
        select(MarkSheetRow).where(
            MarkSheetRow.attempt_id == attempt.id, MarkSheetRow.engine_version == ENGINE_VERSION
        )
    )
    if known is not None:
        attempt.state = "marked"
    return known


def _keys_of(revision: Revision) -> list[bytes]:
    return [revision.key_bytes, *(f.data for f in revision.other_keys)]


def _fields_of(attempt: Attempt) -> dict[str, str]:
    """Return what the sheet should say of its student: the group as it was called when the exercise was
    issued."""
    return {"name": attempt.student.name, "group": attempt.issue.group_name}


def _keep(session: Session, attempt: Attempt, marked: Marked | str) -> MarkSheetRow | None:
    """Keep a mark sheet, or the reason why there is none."""
    if isinstance(marked, str):
        attempt.trouble = marked
        if newest_sheet(session, attempt.id) is None:
            attempt.state = "failed"  # else the marks of an earlier engine still stand
        return None
    row = MarkSheetRow(
        attempt_id=attempt.id,
        engine_version=ENGINE_VERSION,
        sheet={
            "marks": marked.marks,
            "drawn": marked.drawn,
            "partners": marked.partners,
            "places": {str(i): at for i, at in marked.places.items()},
            "sketches": {str(i): marks for i, marks in marked.sketches.items()},
            "key": marked.key,
            "yours": marked.yours,
        },
        summary=summary_of(marked),
        earned=marked.earned,
        possible=marked.possible,
    )
    session.add(row)
    if not attempt.reading:  # handed in from the board: it was not read before
        attempt.reading = marked.reading
    attempt.state, attempt.trouble = "marked", None
    session.flush()
    return_at_once(session, attempt, row)
    return row


def mark_again(session: Session, queue: App | None, instructor: Person, attempt_id: int) -> None:
    """Ask for an attempt to be marked once more: one that could not be, or one marked by another version of
    the engine.

    What its student was given stays until it is returned again. Raises NotUsable when there is nothing to be
    done.
    """
    attempt = own_attempt(session, instructor, attempt_id)
    if not _wants_marking(session, attempt):
        raise NotUsable(
            "This drawing is already marked by the current engine. Reload the page.", "marked-already"
        )
    if queue is not None:
        defer_marking(session, queue, attempt.id)


def _wants_marking(session: Session, attempt: Attempt) -> bool:
    """Say whether an attempt could not be marked, or was by another version of the engine; then it waits from
    now on."""
    newest = newest_sheet(session, attempt.id)
    if attempt.state == "marked" and newest is not None and newest.engine_version == ENGINE_VERSION:
        return False
    if attempt.state == "failed":
        attempt.state, attempt.trouble = "waiting", None
    return True


def mark_class_again(session: Session, queue: App | None, instructor: Person, issue_id: int) -> int:
    """Ask for all of a class's attempts to be marked that could not be or were marked by another version;
    return how many."""
    issue = own_issue(session, instructor, issue_id)
    found = session.scalars(select(Attempt).where(Attempt.issue_id == issue.id).order_by(Attempt.id)).all()
    asked = [(a.id, len(a.data)) for a in found if _wants_marking(session, a)]
    if queue is not None:
        defer_marking_of_many(session, queue, asked)
    return len(asked)


def summary_of(marked: Marked) -> Summary:
    """Return what lists and grids show of a mark sheet, so that they need not read the sheets themselves."""
    by_verdict: dict[str, list[int]] = defaultdict(list)
    for f in marked.marks["findings"]:
        by_verdict[f["verdict"]].append(f["id"])
    return {
        "verdicts": {v: len(by_verdict[v]) for v in VERDICTS},
        "by_verdict": dict(by_verdict),
        "causes": [c["code"] for c in marked.marks["causes"]],
        "key": marked.key,
        "share": float(marked.earned / marked.possible) if marked.possible else 0.0,
    }


def newest_sheet(session: Session, attempt_id: int) -> MarkSheetRow | None:
    """Return the newest mark sheet of an attempt."""
    return session.scalar(
        select(MarkSheetRow)
        .where(MarkSheetRow.attempt_id == attempt_id)
        .order_by(MarkSheetRow.id.desc())
        .limit(1)
    )
