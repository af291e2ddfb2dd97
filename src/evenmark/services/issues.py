"""What an instructor issued, and the attempts at it: whose they are, and what every list says of them."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session, contains_eager

from evenmark.services.errors import NotThere
from evenmark.services.terms import newer_issues
from evenmark.store.models import Attempt, Issue, Returned
from evenmark.store.people import Enrolment, Person, SchoolClass, now


def own_issue(session: Session, instructor: Person, issue_id: int) -> Issue:
    """Return what this instructor issued. Raises NotThere for anything else."""
    issue = session.get(Issue, issue_id)
    if issue is None or issue.school_class.instructor_id != instructor.id:
        raise NotThere("Withdrawn, or not yours. Go back to the Desk.")
    return issue


def own_attempt(session: Session, instructor: Person, attempt_id: int) -> Attempt:
    """Return an attempt at something this instructor issued. Raises NotThere for any other."""
    attempt = session.get(Attempt, attempt_id)
    if attempt is None:
        raise NotThere("No such attempt. Go back to the Desk.")
    own_issue(session, instructor, attempt.issue_id)
    return attempt


def drawn_here(session: Session, attempt_id: int) -> bool:
    """Say whether it is known how an attempt was drawn: on the board."""
    return session.scalar(select(Attempt.board_id).where(Attempt.id == attempt_id)) is not None


@dataclass(frozen=True, kw_only=True)
class IssueHead:
    """What every list says of an issue: what was issued to whom, until when, and how."""

    id: int
    revision_id: int
    revision: int
    title: str
    class_id: int
    class_name: str
    due_at: datetime
    issued_at: datetime
    tries: int
    detail: str
    returns: str
    own_checks: int
    own_says: str
    past_due: bool
    closed_at: datetime | None
    newer: int | None
    """The issue of a newer revision that took its place."""
    archived: bool
    """Whether the class is over."""


@dataclass(frozen=True, kw_only=True)
class IssueRow(IssueHead):
    """An issue with how far the class is."""

    students: int
    handed_in: int
    waiting: int
    failed: int
    to_return: int


def issue_head(session: Session, issue: Issue) -> IssueHead:
    """Return what every list says of an issue."""
    return issue_heads(session, [issue])[issue.id]


def issue_heads(session: Session, issues: Sequence[Issue]) -> dict[int, IssueHead]:
    """Return what every list says of issues, by issue."""
    newer = newer_issues(session, issues)
    return {i.id: _head(i, newer.get(i.id)) for i in issues}


def _head(issue: Issue, newer: int | None) -> IssueHead:
    return IssueHead(
        id=issue.id,
        revision_id=issue.revision_id,
        revision=issue.revision.number,
        title=issue.revision.title,
        class_id=issue.class_id,
        class_name=issue.school_class.name,
        due_at=issue.due_at,
        issued_at=issue.issued_at,
        tries=issue.tries,
        detail=issue.detail,
        returns=issue.returns,
        own_checks=issue.own_checks,
        own_says=issue.own_says,
        past_due=issue.due_at <= now(),
        closed_at=issue.closed_at,
        newer=newer,
        archived=issue.school_class.archived_at is not None,
    )


def issues_of(
    session: Session, instructor: Person, *, class_id: int | None = None, revision_id: int | None = None
) -> list[IssueRow]:
    """Return what an instructor has issued, with how far it is, latest due first: all, or to a class, or of a
    revision."""
    wanted = [SchoolClass.instructor_id == instructor.id]
    if class_id is not None:
        wanted.append(Issue.class_id == class_id)
    if revision_id is not None:
        wanted.append(Issue.revision_id == revision_id)
    issues = session.scalars(
        select(Issue)
        .join(SchoolClass, SchoolClass.id == Issue.class_id)
        .where(*wanted)
        .options(contains_eager(Issue.school_class))
    ).all()
    enrolled: dict[int, set[int]] = defaultdict(set)
    for class_id, student_id in session.execute(
        select(Enrolment.class_id, Enrolment.student_id).where(
            Enrolment.class_id.in_([i.class_id for i in issues]), Enrolment.left_at.is_(None)
        )
    ):
        enrolled[class_id].add(student_id)
    to_return = _to_return(session, [i for i in issues if i.returns == "by-hand"])
    rows = defaultdict(list)
    for issue_id, student_id, state in session.execute(
        select(Attempt.issue_id, Attempt.student_id, Attempt.state).where(
            Attempt.issue_id.in_([i.id for i in issues])
        )
    ):
        rows[issue_id].append((student_id, state))
    heads = issue_heads(session, issues)
    out = [
        IssueRow(
            **vars(heads[issue.id]),
            students=len(enrolled[issue.class_id]),
            handed_in=len({s for s, _ in rows[issue.id]} & enrolled[issue.class_id]),
            waiting=sum(1 for _, state in rows[issue.id] if state == "waiting"),
            failed=sum(1 for _, state in rows[issue.id] if state == "failed"),
            to_return=to_return.get(issue.id, 0),
        )
        for issue in issues
    ]
    return sorted(out, key=lambda r: (r.due_at, r.id), reverse=True)


def _to_return(session: Session, issues: list[Issue]) -> dict[int, int]:
    """Return how many marked drawings of each issue have never been returned."""
    newest = newest_attempts(session, [i.id for i in issues])
    given = set(session.scalars(select(Returned.attempt_id).where(Returned.attempt_id.in_(newest))))
    return Counter(a.issue_id for a in newest.values() if a.state == "marked" and a.id not in given)


def newest_attempts(session: Session, issue_ids: list[int]) -> dict[int, Attempt]:
    """Return each student's newest attempt at each issue, by attempt id."""
    newest: dict[tuple[int, int], Attempt] = {}
    for a in session.scalars(select(Attempt).where(Attempt.issue_id.in_(issue_ids)).order_by(Attempt.number)):
        newest[a.issue_id, a.student_id] = a
    return {a.id: a for a in newest.values()}
