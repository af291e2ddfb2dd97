"""Marking an attempt: the engine's mark sheet, stored with the version that made it, once for each version."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

from procrastinate import App
from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark import ENGINE_VERSION
from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import RuleError
from evenmark.services.bounded import run_bounded
from evenmark.services.engine_work import Marked, mark, mark_many
from evenmark.services.errors import NotUsable, Refused
from evenmark.services.issues import own_attempt, own_issue
from evenmark.services.returning import return_at_once
from evenmark.store.models import Attempt, MarkSheetRow, Person, Revision
from evenmark.store.queue import defer_marking, defer_marking_of_many

SECONDS = 120
"""The longest that a marking may take, of one attempt or of several together."""


def mark_attempt(session: Session, attempt_id: int) -> MarkSheetRow | None:
    """Mark an attempt and keep its mark sheet; one that is marked already by this engine stays as it is.

    The attempt is locked meanwhile, so that two workers never mark it at once. A drawing that cannot be marked leaves the
    reason on the attempt and returns None.
    """
    attempt = session.scalar(select(Attempt).where(Attempt.id == attempt_id).with_for_update())
    if attempt is None:
        return None
    known = _known(session, attempt)
    if known is not None:
        return known
    revision = attempt.issue.revision
    try:
        marked = run_bounded(
            mark,
            _keys_of(revision),
            revision.rules,
            attempt.data,
            attempt.file_name,
            _fields_of(attempt),
            _start_of(revision),
            seconds=SECONDS,
        )
    except (UnreadableDrawing, RuleError, Refused) as why:
        return _keep(session, attempt, getattr(why, "says", str(why)))
    return _keep(session, attempt, marked)


def mark_attempts(session: Session, attempt_ids: Sequence[int]) -> bool:
    """Mark several attempts at one exercise in one go, its key made ready once, all kept together or not at all.

    Returns False, with nothing done, when they could not be worked through together: then each wants marking by itself, so that
    none suffers from another.
    """
    attempts = session.scalars(
        select(Attempt).where(Attempt.id.in_(attempt_ids)).order_by(Attempt.id).with_for_update(of=Attempt)
    ).all()
    open_ones = [a for a in attempts if _known(session, a) is None]
    if not open_ones:
        return True
    revision = open_ones[0].issue.revision
    if any(a.issue.revision_id != revision.id for a in open_ones):
        return False
    given = [(a.data, a.file_name, _fields_of(a)) for a in open_ones]
    try:
        results = run_bounded(
            mark_many, _keys_of(revision), revision.rules, given, _start_of(revision), seconds=SECONDS
        )
    except (UnreadableDrawing, RuleError, Refused):
        return False
    for attempt, result in zip(open_ones, results, strict=True):
        _keep(session, attempt, result)
    return True


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


def _start_of(revision: Revision) -> bytes | None:
    return revision.start.data if revision.start else None


def _fields_of(attempt: Attempt) -> dict[str, str]:
    """Return what the sheet should say of its student."""
    return {"name": attempt.student.name, "group": attempt.issue.school_class.name}


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
            "scene": marked.scene,
            "partners": marked.partners,
            "places": {str(i): at for i, at in marked.places.items()},
            "sketches": {str(i): marks for i, marks in marked.sketches.items()},
            "key": marked.key,
        },
        summary=summary_of(marked),
        earned=marked.earned,
        possible=marked.possible,
    )
    session.add(row)
    attempt.state, attempt.trouble = "marked", None
    session.flush()
    return_at_once(session, attempt, row)
    return row


def mark_again(session: Session, queue: App | None, instructor: Person, attempt_id: int) -> None:
    """Ask for an attempt to be marked once more: one that could not be, or one marked by another version of the engine.

    What its student was given stays until it is returned again. Raises NotUsable when there is nothing to be done.
    """
    attempt = own_attempt(session, instructor, attempt_id)
    if not _wants_marking(session, attempt):
        raise NotUsable("This drawing is marked by the present engine already.", "marked-already")
    if queue is not None:
        defer_marking(session, queue, attempt.id)


def _wants_marking(session: Session, attempt: Attempt) -> bool:
    """Say whether an attempt could not be marked, or was by another version of the engine; then it waits from now on."""
    newest = newest_sheet(session, attempt.id)
    if attempt.state == "marked" and newest is not None and newest.engine_version == ENGINE_VERSION:
        return False
    if attempt.state == "failed":
        attempt.state, attempt.trouble = "waiting", None
    return True


def mark_class_again(session: Session, queue: App | None, instructor: Person, issue_id: int) -> int:
    """Ask for all of a class's attempts to be marked that could not be or were marked by another version; return how many."""
    issue = own_issue(session, instructor, issue_id)
    found = session.scalars(select(Attempt).where(Attempt.issue_id == issue.id).order_by(Attempt.id)).all()
    asked = [(a.id, len(a.data)) for a in found if _wants_marking(session, a)]
    if queue is not None:
        defer_marking_of_many(session, queue, asked)
    return len(asked)


def summary_of(marked: Marked) -> dict[str, Any]:
    """Return counts of verdicts and codes of causes, for lists."""
    verdicts = Counter(f["verdict"] for f in marked.marks["findings"])
    return {
        "verdicts": {v: verdicts.get(v, 0) for v in ("met", "near", "missed", "absent", "follows")},
        "causes": [c["code"] for c in marked.marks["causes"]],
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
