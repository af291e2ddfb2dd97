"""What holds for one student at something issued: until when, how many tries, and whether anything is handed
in still.

- *allowance*: what one student was allowed beyond the others.
- *closed*: nothing is handed in any more, but by those who were given a later date.
- *replaced*: a newer revision of the same exercise was issued to the same class; its own page takes the
  drawings.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.services.errors import NotUsable
from evenmark.store.models import Allowance, Attempt, Issue, Revision
from evenmark.store.people import now

NO_TRIES = "You have no tries left. Ask your instructor if you need another."


@dataclass(frozen=True, kw_only=True, slots=True)
class Terms:
    """Due date and tries of one student, what is left of them, and why nothing is handed in, if so."""

    due_at: datetime
    tries: int
    tries_left: int
    allowed: bool
    """Whether the student was allowed more than the others."""
    shut: tuple[str, str] | None
    """Code and sentence of why nothing can be handed in."""


def terms_of(session: Session, issue: Issue, student_id: int) -> Terms:
    """Return what holds for a student at one issue; an attempt that could not be marked uses up no try."""
    return terms_of_work(session, [issue], student_id)[issue.id]


def terms_of_work(session: Session, issues: list[Issue], student_id: int) -> dict[int, Terms]:
    """Return what holds for a student at several issues, by issue."""
    ids = [i.id for i in issues]
    query = select(Allowance).where(Allowance.issue_id.in_(ids), Allowance.student_id == student_id)
    allowed = {a.issue_id: a for a in session.scalars(query)}
    states = select(Attempt.issue_id).where(
        Attempt.issue_id.in_(ids), Attempt.student_id == student_id, Attempt.state != "failed"
    )
    used = Counter(session.scalars(states))
    newer = newer_issues(session, issues)
    return {i.id: _terms(i, allowed.get(i.id), used[i.id], newer.get(i.id)) for i in issues}


def terms_of_class(session: Session, issue: Issue, student_ids: Iterable[int]) -> dict[int, Terms]:
    """Return what holds for several students at one issue, by student."""
    allowed = allowances_of(session, issue.id)
    states = select(Attempt.student_id).where(Attempt.issue_id == issue.id, Attempt.state != "failed")
    used = Counter(session.scalars(states))
    newer = newer_issues(session, [issue]).get(issue.id)
    return {s: _terms(issue, allowed.get(s), used[s], newer) for s in student_ids}


def _terms(issue: Issue, allowance: Allowance | None, used: int, newer: int | None) -> Terms:
    tries = issue.tries + (allowance.more_tries if allowance else 0)
    own = allowance.due_at if allowance else None
    # a date of the class that was moved beyond a student's own one holds for that student too
    due_at = own if own and (issue.closed_at is not None or own > issue.due_at) else issue.due_at
    left = max(0, tries - used)
    shut = None
    if issue.school_class.archived_at is not None:
        shut = ("archived", "This class is archived. You can still read what you handed in.")
    elif newer is not None:
        shut = (
            "replaced",
            "A newer revision replaced it. Draw and hand in that one, under My work.",
        )
    elif issue.closed_at is not None and (own is None or own <= now()):
        shut = ("closed", "Your instructor has closed this exercise. Ask for more time if you need it.")
    elif left < 1:
        shut = ("no-tries", NO_TRIES)
    return Terms(due_at=due_at, tries=tries, tries_left=left, allowed=allowance is not None, shut=shut)


def check_open(terms: Terms) -> None:
    """Raise NotUsable, with the reason, where nothing can be handed in."""
    if terms.shut is not None:
        code, says = terms.shut
        raise NotUsable(says, code)


def allowances_of(session: Session, issue_id: int) -> Mapping[int, Allowance]:
    """Return what students were allowed beyond the others, by student."""
    return {a.student_id: a for a in session.scalars(select(Allowance).where(Allowance.issue_id == issue_id))}


def newer_issues(session: Session, issues: Iterable[Issue]) -> dict[int, int]:
    """Return which issues are replaced, each with the issue of the newest revision of its exercise to its
    class."""
    asked = list(issues)
    exercises = {i.revision.exercise_id for i in asked}
    rows = session.execute(
        select(Issue.id, Issue.class_id, Revision.exercise_id, Revision.number)
        .join(Revision, Revision.id == Issue.revision_id)
        .where(Revision.exercise_id.in_(exercises), Issue.class_id.in_({i.class_id for i in asked}))
    )
    newest: dict[tuple[int, int], tuple[int, int]] = {}
    for issue_id, class_id, exercise_id, number in rows:
        place = (class_id, exercise_id)
        newest[place] = max(newest.get(place, (0, 0)), (number, issue_id))
    found = {i.id: newest[i.class_id, i.revision.exercise_id] for i in asked}
    return {i.id: found[i.id][1] for i in asked if found[i.id][1] != i.id}
