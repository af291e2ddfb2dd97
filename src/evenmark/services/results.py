"""Results for instructors: what needs attention, a class at a glance, classes and exercises in lists."""

from __future__ import annotations

from collections import Counter, defaultdict
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any, NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload

from evenmark import ENGINE_VERSION
from evenmark.core.marking.slips.records import SLIPS
from evenmark.core.marking.wording import centre_lines, named
from evenmark.services.classes import students_of
from evenmark.services.issue_upkeep import AllowanceView, allowances_view
from evenmark.services.issues import (
    IssueHead,
    IssueRow,
    issue_head,
    issues_of,
    newest_attempts,
    own_issue,
)
from evenmark.services.people import told_apart
from evenmark.services.standing import OPEN, MarksSummary, findings_of, glances, returned_of, returned_word
from evenmark.store.models import Attempt, Batch, MarkSheetRow
from evenmark.store.people import Person

MOST_MISSED = 10


@dataclass(frozen=True, kw_only=True)
class Latest:
    """An attempt that came in lately."""

    attempt_id: int
    issue_id: int
    student: str
    title: str
    class_name: str
    handed_in_at: datetime
    state: str
    earned: float | None
    possible: float | None


@dataclass(frozen=True, kw_only=True)
class SlipCount:
    """A slip, how many drawings show it, of how many, and the first of them."""

    code: str
    title: str
    students: int
    of: int = 0
    first: int | None = None


@dataclass(frozen=True, kw_only=True)
class DeskView:
    """What needs attention now."""

    issues: list[IssueRow]
    latest: list[Latest]
    causes: list[SlipCount]


class SlipTitle(NamedTuple):
    """A slip by name."""

    code: str
    title: str


@dataclass(frozen=True, kw_only=True)
class StudentResult:
    """A student in a class's results: the newest attempt, check by check; ``left`` the class since."""

    student_id: int
    name: str
    sign_in: str
    left: bool
    attempt_id: int | None
    try_number: int
    handed_in_at: datetime | None
    late: bool
    state: str
    trouble: str | None
    verdicts: dict[str, int] | None
    cells: list[str | None]
    """One verdict a check; empty when there is no mark sheet of the first key."""
    key: int
    by_hand: list[int]
    returned: str
    causes: list[SlipTitle]
    allowance: AllowanceView | None
    earned: float | None
    possible: float | None


@dataclass(frozen=True, kw_only=True)
class CheckCount:
    """A check, what it is worth, and how many drawings missed it."""

    id: int
    kind: str
    name: str
    features: list[str]
    possible: float
    missed: int


@dataclass(frozen=True, kw_only=True)
class MissedCheck:
    """A check that many missed, and the first of their drawings."""

    finding: int
    name: str
    students: int
    of: int
    first: int | None


@dataclass(frozen=True, kw_only=True)
class OpenBatch:
    """A hand-in for the class that has files left."""

    id: int
    created_at: datetime
    left: int
    of: int


@dataclass(frozen=True, kw_only=True)
class ClassResults:
    """A class at one issue."""

    issue: IssueHead
    students: list[StudentResult]
    checks: list[CheckCount]
    missed: list[MissedCheck]
    slips: list[SlipCount]
    outdated: int
    batches: list[OpenBatch]


def desk(session: Session, instructor: Person) -> DeskView:
    """Return what needs attention now: what was handed in lately, what comes due, what most failed."""
    issues = [i for i in issues_of(session, instructor) if not i.archived]
    ids = [i.id for i in issues]
    latest = session.scalars(
        select(Attempt)
        .where(Attempt.issue_id.in_(ids))
        .options(joinedload(Attempt.student), joinedload(Attempt.issue))
        .order_by(Attempt.handed_in_at.desc(), Attempt.id.desc())
        .limit(8)
    ).all()
    names = told_apart({a.student_id: a.student for a in latest}.values())
    newest = newest_attempts(session, ids)
    summaries = _summaries(session, [*newest, *(a.id for a in latest)])
    shown = glances(session, {a.id: a.issue.revision.rules for a in latest})
    causes: Counter[str] = Counter()
    for attempt_id in newest:
        causes.update({c for c in summaries.get(attempt_id, []) if c != "unexplained"})
    return DeskView(
        issues=[i for i in issues if not i.past_due] + [i for i in issues if i.past_due][:4],
        latest=[_latest(a, names[a.student_id], shown.get(a.id)) for a in latest],
        causes=[
            SlipCount(code=code, title=SLIPS[code].title, students=n) for code, n in causes.most_common(6)
        ],
    )


def _latest(a: Attempt, student: str, marks: MarksSummary | None) -> Latest:
    return Latest(
        attempt_id=a.id,
        issue_id=a.issue_id,
        student=student,
        title=a.issue.revision.title,
        class_name=a.issue.school_class.name,
        handed_in_at=a.handed_in_at,
        state=a.state,
        earned=marks.earned if marks else None,
        possible=marks.possible if marks else None,
    )


def _summaries(session: Session, attempt_ids: list[int]) -> dict[int, list[str]]:
    """Return the codes of causes on the newest mark sheet of each attempt."""
    rows = session.execute(
        select(MarkSheetRow.attempt_id, MarkSheetRow.summary)
        .where(MarkSheetRow.attempt_id.in_(attempt_ids))
        .order_by(MarkSheetRow.id)
    )
    return {attempt_id: summary["causes"] for attempt_id, summary in rows}


def class_results(session: Session, instructor: Person, issue_id: int) -> ClassResults:
    """Return a class at one issue: each student's verdicts check by check, score and time, and what most of
    them missed."""
    issue = own_issue(session, instructor, issue_id)
    newest = {a.student_id: a for a in newest_attempts(session, [issue.id]).values()}
    people = students_of(session, issue.class_id)
    gone = [p for p in students_of(session, issue.class_id, left=True) if p.id in newest]
    names = told_apart([*people, *gone])
    here = {newest[p.id].id for p in people if p.id in newest}
    every = glances(session, {a.id: issue.revision.rules for a in newest.values()})
    found = {i: g for i, g in every.items() if i in here}  # what counts for the class is who is in it
    given = returned_of(session, list(every))
    allowed = allowances_view(session, issue)
    first_key = {i: s for i, s in found.items() if s.key == 0}  # other keys have findings of their own
    checks = _checks(session, first_key)
    order = [newest[p.id].id for p in people if p.id in newest and newest[p.id].id in found]
    students = []
    for person in (*people, *gone):
        attempt = newest.get(person.id)
        marks = every.get(attempt.id) if attempt else None
        returned = returned_word(marks, given.get(attempt.id)) if attempt else "no"
        row = _student_row(attempt, marks, checks)
        students.append(
            StudentResult(
                student_id=person.id,
                name=names[person.id],
                sign_in=person.sign_in,
                left=person in gone,
                returned=returned,
                allowance=allowed.get(person.id),
                **row,
            )
        )
    return ClassResults(
        issue=issue_head(session, issue),
        students=students,
        checks=checks,
        missed=_most_missed(checks, first_key, order),
        slips=_most_made(found, order),
        outdated=sum(1 for s in found.values() if s.engine_version != ENGINE_VERSION),
        batches=_open_batches(session, issue.id),
    )


def _student_row(
    attempt: Attempt | None, marks: MarksSummary | None, checks: list[CheckCount]
) -> dict[str, Any]:
    """Return what a student's newest attempt and its marks say."""
    cells = [marks.verdict_of.get(c.id) for c in checks] if marks and marks.key == 0 else []
    return {
        "attempt_id": attempt.id if attempt else None,
        "try_number": attempt.number if attempt else 0,
        "handed_in_at": attempt.handed_in_at if attempt else None,
        "late": attempt.late if attempt else False,
        "state": attempt.state if attempt else "none",
        "trouble": attempt.trouble if attempt else None,
        "verdicts": marks.verdicts if marks else None,
        "cells": cells,
        "key": marks.key if marks else 0,
        "by_hand": marks.by_hand if marks else [],
        "causes": [SlipTitle(c, SLIPS[c].title) for c in marks.causes] if marks else [],
        "earned": marks.earned if marks else None,
        "possible": marks.possible if marks else None,
    }


def _checks(session: Session, found: dict[int, MarksSummary]) -> list[CheckCount]:
    """Return every check on any of the mark sheets, with how many drawings missed it, in the order of their
    numbers.

    One sheet names nearly all of them; another is read only where it has a check that none before it had.
    """
    known: dict[int, CheckCount] = {}
    for glance in found.values():
        if glance.verdict_of.keys() <= known.keys():
            continue
        findings = findings_of(session, glance.sheet_id)
        centre = centre_lines(findings)
        for f in findings:
            if f["id"] not in known:
                known[f["id"]] = CheckCount(
                    id=f["id"],
                    kind=f["kind"],
                    name=named(f, centre),
                    features=f["features"],
                    possible=f["possible"],
                    missed=0,
                )
    missed = Counter(i for g in found.values() for i, verdict in g.verdict_of.items() if verdict in OPEN)
    return [replace(check, missed=missed[i]) for i, check in sorted(known.items())]


def _first(attempt_ids: list[int], order: list[int]) -> int | None:
    """Return which of some attempts comes first in the class's order."""
    wanted = set(attempt_ids)
    return next((i for i in order if i in wanted), None)


def _most_missed(
    checks: list[CheckCount], found: dict[int, MarksSummary], order: list[int]
) -> list[MissedCheck]:
    """Return the checks that most students missed, with how many, and the first of their drawings."""
    top = sorted((c for c in checks if c.missed), key=lambda c: (-c.missed, c.id))[:MOST_MISSED]
    return [
        MissedCheck(
            finding=c.id,
            name=c.name,
            students=c.missed,
            of=len(found),
            first=_first([i for i, s in found.items() if s.misses(c.id)], order),
        )
        for c in top
    ]


def _most_made(found: dict[int, MarksSummary], order: list[int]) -> list[SlipCount]:
    """Return the slips that most students made, with how many, and the first of their drawings."""
    who: dict[str, list[int]] = defaultdict(list)
    for attempt_id, marks in found.items():
        for code in marks.causes:
            who[code].append(attempt_id)
    top = sorted(who.items(), key=lambda w: (w[0] == "unexplained", -len(w[1]), w[0]))[:MOST_MISSED]
    return [
        SlipCount(
            code=code, title=SLIPS[code].title, students=len(ids), of=len(found), first=_first(ids, order)
        )
        for code, ids in top
    ]


def _open_batches(session: Session, issue_id: int) -> list[OpenBatch]:
    """Return the hand-ins for the class that still have files in them which are not handed in."""
    out = []
    for batch in session.scalars(select(Batch).where(Batch.issue_id == issue_id).order_by(Batch.id)):
        left = sum(1 for f in batch.files if f.attempt_id is None)
        if left:
            out.append(OpenBatch(id=batch.id, created_at=batch.created_at, left=left, of=len(batch.files)))
    return out
