"""A student's work: what was issued to them, how far they are, and each exercise as they see it; nothing of a
key's geometry."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import exists, or_, select
from sqlalchemy.orm import Session, joinedload

from evenmark.services.classes import classes_now, is_in
from evenmark.services.described import AskedOf, describe_rules
from evenmark.services.hand_in import attempts_of, readable_issue
from evenmark.services.issues import IssueHead, issue_head, issue_heads
from evenmark.services.keys import key_view
from evenmark.services.own_results import state_of
from evenmark.services.standing import returned_of
from evenmark.services.terms import Terms, terms_of, terms_of_work
from evenmark.store.models import Attempt, Issue, Returned
from evenmark.store.people import Enrolment, Person, now


@dataclass(frozen=True, kw_only=True)
class OwnHead(IssueHead):
    """Something issued, with the student's own date and tries, and why nothing is handed in, if so."""

    tries_left: int
    allowed: bool
    shut: str | None
    shut_says: str | None


@dataclass(frozen=True, kw_only=True)
class EarlierRow:
    """An older revision of an exercise, with how it went."""

    id: int
    revision: int
    title: str
    handed_in: int
    best: float | None
    possible: float | None


@dataclass(frozen=True, kw_only=True)
class WorkRow(OwnHead):
    """An exercise in a student's list."""

    left: bool
    handed_in: int
    waiting: bool
    best: float | None
    possible: float | None
    earlier: list[EarlierRow]


@dataclass(frozen=True, kw_only=True)
class OwnAttempt:
    """One of a student's own tries."""

    attempt_id: int
    number: int
    file_name: str
    handed_in_at: datetime
    late: bool
    state: str
    trouble: str | None
    earned: float | None
    possible: float | None


@dataclass(frozen=True, kw_only=True)
class WorkView(OwnHead, AskedOf):
    """One exercise as its student sees it."""

    text: str
    earlier: list[EarlierRow]
    left: bool
    start_name: str | None
    attempts: list[OwnAttempt]


def my_work(session: Session, student: Person) -> list[WorkRow]:
    """Return what was issued to a student's classes, what is due first first, and how far they are.

    Of several revisions of one exercise the newest stands for all; the older ones are listed with it, newest
    first.
    """
    issues = session.scalars(
        select(Issue)
        .join(Enrolment, Enrolment.class_id == Issue.class_id)
        .where(
            Enrolment.student_id == student.id,
            or_(
                Enrolment.left_at.is_(None),
                exists().where(Attempt.issue_id == Issue.id, Attempt.student_id == student.id),
            ),
        )
        .options(joinedload(Issue.school_class))
    ).all()
    heads, terms = issue_heads(session, issues), terms_of_work(session, list(issues), student.id)
    here = classes_now(session, student.id)
    tries: dict[int, list[Attempt]] = defaultdict(list)
    for attempt in session.scalars(
        select(Attempt).where(Attempt.student_id == student.id).order_by(Attempt.number)
    ):
        tries[attempt.issue_id].append(attempt)
    given = returned_of(session, [a.id for many in tries.values() for a in many])
    known = {i.id for i in issues}
    out = []
    for issue in issues:
        if heads[issue.id].newer in known:
            continue
        attempts = tries[issue.id]
        best, possible = _best(attempts, given)
        out.append(
            WorkRow(
                **_own_head(heads[issue.id], terms[issue.id]),
                left=issue.class_id not in here,
                handed_in=len(attempts),
                waiting=any(a.state == "waiting" for a in attempts),
                best=best,
                possible=possible,
                earlier=_earlier(issue, issues, tries, given),
            )
        )
    return sorted(out, key=lambda w: (w.past_due, w.due_at, w.id))


def _own_head(head: IssueHead, terms: Terms) -> dict[str, Any]:
    """Return what every list says of an issue, with one student's own date and tries."""
    return vars(head) | {
        "due_at": terms.due_at,
        "past_due": terms.due_at <= now(),
        "tries": terms.tries,
        "tries_left": terms.tries_left,
        "allowed": terms.allowed,
        "shut": terms.shut[0] if terms.shut else None,
        "shut_says": terms.shut[1] if terms.shut else None,
    }


def _best(attempts: Sequence[Attempt], given: Mapping[int, Returned]) -> tuple[float | None, float | None]:
    """Return the best marks that were returned, and of how many."""
    best = max((given[a.id] for a in attempts if a.id in given), key=lambda r: r.earned, default=None)
    return (float(best.earned), float(best.possible)) if best else (None, None)


def _earlier(
    issue: Issue, issues: Sequence[Issue], tries: Mapping[int, list[Attempt]], given: Mapping[int, Returned]
) -> list[EarlierRow]:
    """Return the older revisions of an exercise that the same class had, newest first."""
    older = [
        i
        for i in issues
        if i.class_id == issue.class_id
        and i.revision.exercise_id == issue.revision.exercise_id
        and i.revision.number < issue.revision.number
    ]
    out = []
    for i in sorted(older, key=lambda i: -i.revision.number):
        attempts = tries.get(i.id, [])
        best, possible = _best(attempts, given)
        out.append(
            EarlierRow(
                id=i.id,
                revision=i.revision.number,
                title=i.revision.title,
                handed_in=len(attempts),
                best=best,
                possible=possible,
            )
        )
    return out


def work_of(session: Session, student: Person, issue_id: int) -> WorkView:
    """Return one exercise as its student sees it: the text, what is asked of the file, and the tries so
    far."""
    issue = readable_issue(session, student, issue_id)
    revision = issue.revision
    row = next((w for w in my_work(session, student) if w.id == issue.id), None)
    attempts = attempts_of(session, issue.id, student.id)
    given = returned_of(session, [a.id for a in attempts])
    return WorkView(
        **_own_head(issue_head(session, issue), terms_of(session, issue, student.id)),
        **vars(describe_rules(revision.rules, key_view(revision))),
        earlier=row.earlier if row else [],
        text=revision.text,
        left=not is_in(session, issue.class_id, student.id),
        start_name=revision.start.name if revision.start else None,
        attempts=[_own_attempt(a, given.get(a.id)) for a in reversed(attempts)],
    )


def _own_attempt(a: Attempt, returned: Returned | None) -> OwnAttempt:
    return OwnAttempt(
        attempt_id=a.id,
        number=a.number,
        file_name=a.file_name,
        handed_in_at=a.handed_in_at,
        late=a.late,
        state=state_of(a, returned),
        trouble=a.trouble,
        earned=float(returned.earned) if returned else None,
        possible=float(returned.possible) if returned else None,
    )
