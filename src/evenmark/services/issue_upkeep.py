"""What can be put right once an exercise is issued: another date, more tries, closing it, withdrawing it, and
more for one student.

Everything here is in the record. Moving a date never makes a drawing late that was not.
"""

from __future__ import annotations

from datetime import datetime
from typing import NamedTuple, TypedDict

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.services.classes import is_in
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.exercises import DETAILS, check_due, may_check, named
from evenmark.services.issues import own_issue
from evenmark.services.names import plain_text
from evenmark.services.record import note
from evenmark.services.terms import allowances_of, terms_of_class
from evenmark.services.times import said
from evenmark.store.models import Allowance, Attempt, Issue
from evenmark.store.people import Person, now

MOST_REASON = 2000


def _locked(session: Session, instructor: Person, issue_id: int) -> Issue:
    """Return an issue that nobody else changes meanwhile."""
    issue = own_issue(session, instructor, issue_id)
    session.execute(select(Issue.id).where(Issue.id == issue.id).with_for_update())
    session.refresh(issue)
    return issue


def _note(
    session: Session, instructor: Person, issue: Issue, act: str, says: str, student_id: int | None = None
) -> None:
    note(
        session,
        instructor,
        act,
        says,
        group=issue.school_class,
        exercise_id=issue.revision.exercise_id,
        student_id=student_id,
    )


def _for_class(issue: Issue) -> str:
    return f"{named(issue.revision)} for {issue.school_class.name}"


def withdraw(session: Session, instructor: Person, issue_id: int) -> None:
    """Take an issue back as if it had not been issued. Raises NotUsable once somebody has handed in.

    What was laid in and not handed in goes with it. A revision that nobody has any more is open to changes
    again.
    """
    issue = _locked(session, instructor, issue_id)
    if session.scalar(select(Attempt.id).where(Attempt.issue_id == issue.id).limit(1)) is not None:
        raise NotUsable(
            "Somebody has handed in already, so it cannot be withdrawn. Close it instead.",
            "handed-in",
        )
    says = f"Withdrew {named(issue.revision)} from {issue.school_class.name}."
    _note(session, instructor, issue, "withdrawn", says)
    revision = issue.revision
    session.delete(issue)
    session.flush()
    if session.scalar(select(Issue.id).where(Issue.revision_id == revision.id).limit(1)) is None:
        revision.issued_at = None
    session.flush()


def close(session: Session, instructor: Person, issue_id: int) -> None:
    """End handing in now, whatever the date; students with a later date of their own may still hand in."""
    issue = _locked(session, instructor, issue_id)
    if issue.closed_at is None:
        issue.closed_at = now()
        _note(session, instructor, issue, "closed", f"Closed {_for_class(issue)}.")
        session.flush()


def reopen(session: Session, instructor: Person, issue_id: int) -> None:
    """Let students hand in again."""
    issue = _locked(session, instructor, issue_id)
    if issue.closed_at is not None:
        issue.closed_at = None
        _note(session, instructor, issue, "opened", f"Reopened {_for_class(issue)}.")
        session.flush()


class IssueChanges(TypedDict, total=False):
    """What may be changed of something issued."""

    due_at: datetime
    tries: int
    detail: str
    own_checks: int
    own_says: str


def change_issue(session: Session, instructor: Person, issue_id: int, changes: IssueChanges) -> None:
    """Give an issue another date (``due_at``), other tries, show students more or less (``detail``), or
    let them check their own work (``own_checks``, ``own_says``). Raises NotUsable."""
    issue = _locked(session, instructor, issue_id)
    words = []
    due_at = changes.get("due_at")
    if due_at is not None and due_at != issue.due_at:
        check_due(due_at)
        words.append(f"due {said(due_at, instructor)} instead of {said(issue.due_at, instructor)}")
        issue.due_at = due_at
    tries = changes.get("tries")
    if tries is not None and tries != issue.tries:
        if not 1 <= tries <= 99:
            raise NotUsable("Choose 1 to 99 tries.")
        words.append(f"{tries} tries instead of {issue.tries}")
        issue.tries = tries
    detail = changes.get("detail")
    if detail is not None and detail != issue.detail:
        if detail not in DETAILS:
            raise NotUsable("Choose how much students see of the result.")
        words.append(f"students see {SEES[detail]}")
        issue.detail = detail
    own_checks = changes.get("own_checks", issue.own_checks)
    own_says = changes.get("own_says") or issue.own_says
    if (own_checks, own_says) != (issue.own_checks, issue.own_says):
        may_check(issue, own_checks, own_says)
        words.append(f"students may check their own work {own_checks} times")
    if words:
        session.flush()
        _not_late_any_more(session, issue)
        _note(session, instructor, issue, "changed", f"Changed {_for_class(issue)}: {', '.join(words)}.")
        session.flush()


SEES = {"score": "only the marks", "checks": "which checks and slips", "numbers": "all numbers"}


def _not_late_any_more(session: Session, issue: Issue) -> None:
    """Take "late" off the drawings that came before the date as it is now."""
    late = session.scalars(select(Attempt).where(Attempt.issue_id == issue.id, Attempt.late)).all()
    terms = terms_of_class(session, issue, {a.student_id for a in late})
    for attempt in late:
        if attempt.handed_in_at <= terms[attempt.student_id].due_at:
            attempt.late = False


def allow(
    session: Session,
    instructor: Person,
    issue_id: int,
    student_id: int,
    *,
    due_at: datetime | None,
    more_tries: int,
    reason: str,
) -> Allowance | None:
    """Allow one student a later date or more tries, with a reason for the record; neither of them takes an
    allowance back.

    Raises NotThere for somebody who is not in the class, NotUsable for a date that is not later or a missing
    reason.
    """
    issue = _locked(session, instructor, issue_id)
    if not is_in(session, issue.class_id, student_id):
        raise NotThere("This student is not in the class. Reload the page.")
    student = session.get_one(Person, student_id)
    reason = plain_text(reason)[:MOST_REASON]
    if not reason:
        raise NotUsable("Give a reason. It goes into the record and is not shown to the student.")
    if not 0 <= more_tries <= 99:
        raise NotUsable("Choose 0 to 99 more tries.")
    row = session.get(Allowance, (issue.id, student_id))
    if due_at is not None and (row is None or row.due_at != due_at):
        check_due(due_at)
        if due_at <= issue.due_at and issue.closed_at is None:
            raise NotUsable(
                f"The class has until {said(issue.due_at, instructor)}. Choose a later date for this student."
            )
    what = f"for {named(issue.revision)} in {issue.school_class.name}"
    if due_at is None and not more_tries:
        says = f"Withdrew what was allowed to {student.name} {what}: {reason}"
        _take_back(session, instructor, issue, row, says)
        return None
    if row is None:
        row = Allowance(issue_id=issue.id, student_id=student_id, reason=reason)
        session.add(row)
    row.due_at, row.more_tries, row.reason, row.given_at = due_at, more_tries, reason, now()
    session.flush()
    _not_late_any_more(session, issue)
    given = [f"until {said(due_at, instructor)}"] if due_at else []
    if more_tries:
        given.append(f"{more_tries} more {'try' if more_tries == 1 else 'tries'}")
    says = f"Allowed {student.name} {' and '.join(given)} {what}: {reason}"
    _note(session, instructor, issue, "allowance", says, student_id)
    session.flush()
    return row


def _take_back(session: Session, instructor: Person, issue: Issue, row: Allowance | None, says: str) -> None:
    if row is not None:
        session.delete(row)
        _note(session, instructor, issue, "allowance", says, row.student_id)
        session.flush()


class AllowanceView(NamedTuple):
    """What a student was allowed beyond the others, as their instructor sees it."""

    due_at: datetime | None
    more_tries: int
    reason: str


def allowances_view(session: Session, issue: Issue) -> dict[int, AllowanceView]:
    """Return what students were allowed, by student."""
    return {
        student: AllowanceView(a.due_at, a.more_tries, a.reason)
        for student, a in allowances_of(session, issue.id).items()
    }
