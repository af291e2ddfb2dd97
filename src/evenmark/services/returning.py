"""Returning marks to students: to one, or to all of a class. What was returned stays as it was until it is
returned again."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.services.errors import NotUsable
from evenmark.services.issues import newest_attempts, own_attempt, own_issue
from evenmark.services.standing import NOTHING_HELD, CurrentMarks, returned_of, returned_word, stands
from evenmark.store.models import Attempt, MarkSheetRow, Returned
from evenmark.store.people import Person, now


def return_one(session: Session, instructor: Person, attempt_id: int) -> Returned:
    """Return an attempt's marks as they stand now. Raises NotUsable when it is not marked yet or they are
    returned already."""
    attempt = own_attempt(session, instructor, attempt_id)
    done = _give(session, instructor, [attempt])
    if not done:
        marked = attempt.state == "marked"
        raise NotUsable(
            "These marks are returned already. Reload the page."
            if marked
            else "This drawing is not marked yet. Wait a moment, then try again.",
            "returned-already" if marked else "not-marked",
        )
    return done[0]


def return_all(session: Session, instructor: Person, issue_id: int) -> int:
    """Return the marks of every student's newest attempt at an issue as they stand; return how many were not
    with them yet."""
    issue = own_issue(session, instructor, issue_id)
    return len(_give(session, instructor, list(newest_attempts(session, [issue.id]).values())))


def take_back(session: Session, instructor: Person, attempt_id: int) -> None:
    """Take returned marks back; the student sees that they are being looked at again. Raises NotUsable when
    none are out."""
    attempt = own_attempt(session, instructor, attempt_id)
    session.execute(select(Attempt.id).where(Attempt.id == attempt.id).with_for_update())
    out = returned_of(session, [attempt.id]).get(attempt.id)
    if out is None:
        raise NotUsable("These marks are not returned. Reload the page.", "not-returned")
    out.taken_back_at = now()
    session.flush()


def return_at_once(session: Session, attempt: Attempt, sheet: MarkSheetRow) -> None:
    """Return a first mark sheet by itself, where the exercise says so; a later one never replaces what a
    student has."""
    if attempt.issue.returns != "at-once":
        return
    if session.scalar(select(Returned.id).where(Returned.attempt_id == attempt.id).limit(1)):
        return
    session.add(
        Returned(
            attempt_id=attempt.id,
            sheet_id=sheet.id,
            held=NOTHING_HELD,
            earned=sheet.earned,
            possible=sheet.possible,
        )
    )
    session.flush()


def _give(session: Session, instructor: Person, attempts: Sequence[Attempt]) -> list[Returned]:
    ids = [a.id for a in attempts if a.state == "marked"]
    session.execute(select(Attempt.id).where(Attempt.id.in_(ids)).order_by(Attempt.id).with_for_update())
    found = stands(session, {a.id: a.issue.revision.rules for a in attempts if a.id in ids})
    given = returned_of(session, ids)
    out = []
    for attempt_id, stand in sorted(found.items()):
        if returned_word(stand, given.get(attempt_id)) == "yes":
            continue
        out.append(_row(attempt_id, stand, instructor))
    session.add_all(out)
    session.flush()
    return out


def _row(attempt_id: int, stand: CurrentMarks, instructor: Person) -> Returned:
    return Returned(
        attempt_id=attempt_id,
        sheet_id=stand.sheet_id,
        person_id=instructor.id,
        held=stand.held,
        earned=Decimal(str(stand.earned)),
        possible=Decimal(str(stand.possible)),
    )
