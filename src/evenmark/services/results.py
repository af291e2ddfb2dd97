"""Results for instructors: what needs attention, a class at a glance, classes and exercises in lists."""

from __future__ import annotations

from collections import Counter, defaultdict
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from evenmark import ENGINE_VERSION
from evenmark.core.marking.slips.records import SLIPS
from evenmark.core.marking.wording import centre_lines, named
from evenmark.services.classes import asked_into, codes_of, own_class, students_of
from evenmark.services.issue_upkeep import allowances_view
from evenmark.services.issues import issue_head, issues_of, newest_attempts, own_issue
from evenmark.services.people import told_apart
from evenmark.services.standing import OPEN, MarksSummary, findings_of, glances, returned_of, returned_word
from evenmark.store.models import (
    Attempt,
    Batch,
    Enrolment,
    Issue,
    MarkSheetRow,
    Person,
    Revision,
    SchoolClass,
)

MOST_MISSED = 10


def desk(session: Session, instructor: Person) -> dict[str, Any]:
    """Return what needs attention now: what was handed in lately, what comes due, what most failed."""
    issues = [i for i in issues_of(session, instructor) if not i["archived"]]
    ids = [i["id"] for i in issues]
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
    return {
        "issues": [i for i in issues if not i["past_due"]] + [i for i in issues if i["past_due"]][:4],
        "latest": [
            {
                "attempt_id": a.id,
                "issue_id": a.issue_id,
                "student": names[a.student_id],
                "title": a.issue.revision.title,
                "class_name": a.issue.school_class.name,
                "handed_in_at": a.handed_in_at,
                "state": a.state,
                **_score(shown.get(a.id)),
            }
            for a in latest
        ],
        "causes": [
            {"code": code, "title": SLIPS[code].title, "students": n} for code, n in causes.most_common(6)
        ],
    }


def _summaries(session: Session, attempt_ids: list[int]) -> dict[int, list[str]]:
    """Return the codes of causes on the newest mark sheet of each attempt."""
    rows = session.execute(
        select(MarkSheetRow.attempt_id, MarkSheetRow.summary)
        .where(MarkSheetRow.attempt_id.in_(attempt_ids))
        .order_by(MarkSheetRow.id)
    )
    return {attempt_id: summary["causes"] for attempt_id, summary in rows}


def _score(stand: MarksSummary | None) -> dict[str, Any]:
    return {"earned": stand.earned if stand else None, "possible": stand.possible if stand else None}


def class_results(session: Session, instructor: Person, issue_id: int) -> dict[str, Any]:
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
        stand = every.get(attempt.id) if attempt else None
        students.append(
            {
                "student_id": person.id,
                "name": names[person.id],
                "sign_in": person.sign_in,
                "left": person in gone,
                "attempt_id": attempt.id if attempt else None,
                "try_number": attempt.number if attempt else 0,
                "handed_in_at": attempt.handed_in_at if attempt else None,
                "late": attempt.late if attempt else False,
                "state": attempt.state if attempt else "none",
                "trouble": attempt.trouble if attempt else None,
                "verdicts": stand.verdicts if stand else None,
                "cells": [stand.verdict_of.get(c["id"]) for c in checks] if stand and stand.key == 0 else [],
                "key": stand.key if stand else 0,
                "by_hand": stand.by_hand if stand else [],
                "returned": returned_word(stand, given.get(attempt.id)) if attempt else "no",
                "causes": [{"code": c, "title": SLIPS[c].title} for c in stand.causes] if stand else [],
                "allowance": allowed.get(person.id),
                **_score(stand),
            }
        )
    return {
        "issue": issue_head(session, issue),
        "students": students,
        "checks": checks,
        "missed": _most_missed(checks, first_key, order),
        "slips": _most_made(found, order),
        "outdated": sum(1 for s in found.values() if s.engine_version != ENGINE_VERSION),
        "batches": _open_batches(session, issue.id),
    }


def _checks(session: Session, found: dict[int, MarksSummary]) -> list[dict[str, Any]]:
    """Return every check on any of the mark sheets, with how many drawings missed it, in the order of their
    numbers.

    One sheet names nearly all of them; another is read only where it has a check that none before it had.
    """
    checks: dict[int, dict[str, Any]] = {}
    for glance in found.values():
        if glance.verdict_of.keys() <= checks.keys():
            continue
        findings = findings_of(session, glance.sheet_id)
        centre = centre_lines(findings)
        for f in findings:
            name = named(f, centre)
            checks.setdefault(
                f["id"],
                {"id": f["id"], "kind": f["kind"], "name": name, "possible": f["possible"], "missed": 0},
            )
    for glance in found.values():
        for finding, verdict in glance.verdict_of.items():
            if verdict in OPEN and finding in checks:
                checks[finding]["missed"] += 1
    return [checks[i] for i in sorted(checks)]


def _first(attempt_ids: list[int], order: list[int]) -> int | None:
    """Return which of some attempts comes first in the class's order."""
    wanted = set(attempt_ids)
    return next((i for i in order if i in wanted), None)


def _most_missed(
    checks: list[dict[str, Any]], found: dict[int, MarksSummary], order: list[int]
) -> list[dict[str, Any]]:
    """Return the checks that most students missed, with how many, and the first of their drawings."""
    top = sorted((c for c in checks if c["missed"]), key=lambda c: (-c["missed"], c["id"]))[:MOST_MISSED]
    out = []
    for c in top:
        who = [i for i, s in found.items() if s.misses(c["id"])]
        out.append(
            {
                "finding": c["id"],
                "name": c["name"],
                "students": c["missed"],
                "of": len(found),
                "first": _first(who, order),
            }
        )
    return out


def _most_made(found: dict[int, MarksSummary], order: list[int]) -> list[dict[str, Any]]:
    """Return the slips that most students made, with how many, and the first of their drawings."""
    who: dict[str, list[int]] = defaultdict(list)
    for attempt_id, stand in found.items():
        for code in stand.causes:
            who[code].append(attempt_id)
    top = sorted(who.items(), key=lambda w: (w[0] == "unexplained", -len(w[1]), w[0]))[:MOST_MISSED]
    return [
        {
            "code": code,
            "title": SLIPS[code].title,
            "students": len(ids),
            "of": len(found),
            "first": _first(ids, order),
        }
        for code, ids in top
    ]


def _open_batches(session: Session, issue_id: int) -> list[dict[str, Any]]:
    """Return the hand-ins for the class that still have files in them which are not handed in."""
    out = []
    for batch in session.scalars(select(Batch).where(Batch.issue_id == issue_id).order_by(Batch.id)):
        left = sum(1 for f in batch.files if f.attempt_id is None)
        if left:
            out.append({"id": batch.id, "created_at": batch.created_at, "left": left, "of": len(batch.files)})
    return out


def classes_of(session: Session, instructor: Person) -> list[dict[str, Any]]:
    """Return an instructor's classes with how many students each has."""
    groups = session.scalars(
        select(SchoolClass).where(SchoolClass.instructor_id == instructor.id).order_by(SchoolClass.name)
    ).all()
    query = (
        select(Enrolment.class_id, func.count())
        .where(Enrolment.class_id.in_([g.id for g in groups]), Enrolment.left_at.is_(None))
        .group_by(Enrolment.class_id)
    )
    sizes = {class_id: n for class_id, n in session.execute(query)}  # noqa: C416 - rows are typed only when taken apart
    return [class_head(g, sizes.get(g.id, 0)) for g in groups]


def class_head(group: SchoolClass, students: Any = 0) -> dict[str, Any]:
    """Return how a class is listed, with its students or how many they are."""
    return {
        "id": group.id,
        "name": group.name,
        "join_code": group.join_code,
        "archived": group.archived_at is not None,
        "students": students,
    }


def class_page(session: Session, instructor: Person, class_id: int) -> dict[str, Any]:
    """Return one class with its students and what was issued to it."""
    group = own_class(session, instructor, class_id)
    codes = codes_of(session, group.id)
    students = [
        {"id": p.id, "name": p.name, "sign_in": p.sign_in, "code": codes.get(p.id)}
        for p in students_of(session, group.id)
    ]
    return {
        **class_head(group, students),
        "left": [
            {"id": p.id, "name": p.name, "sign_in": p.sign_in, "code": None}
            for p in students_of(session, group.id, left=True)
        ],
        "asked": [{"called": i.called, "sign_in": i.student.sign_in} for i in asked_into(session, group.id)],
        "issues": issues_of(session, instructor, class_id=group.id),
    }


def exercise_rows(session: Session, revisions: list[Revision]) -> list[dict[str, Any]]:
    """Return rows for the list of exercises: the newest revision of each and who has which."""
    issued: dict[int, list[str]] = defaultdict(list)
    numbers = {r.exercise_id for r in revisions}
    rows = session.execute(
        select(Revision.exercise_id, SchoolClass.name)
        .join(Issue, Issue.revision_id == Revision.id)
        .join(SchoolClass, SchoolClass.id == Issue.class_id)
        .where(Revision.exercise_id.in_(numbers))
        .order_by(Issue.id)
    )
    for exercise_id, name in rows:
        issued[exercise_id].append(name)
    return [
        {
            "revision_id": r.id,
            "exercise_id": r.exercise_id,
            "number": r.number,
            "title": r.title,
            "key_name": r.key_name,
            "changed_at": r.changed_at,
            "issued": r.issued_at is not None,
            "classes": list(dict.fromkeys(issued[r.exercise_id])),
            "archived": r.exercise.archived_at is not None,
        }
        for r in revisions
    ]
