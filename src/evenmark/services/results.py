"""What people see of results: a class at a glance for the instructor, one attempt in full, and a student's own."""

from __future__ import annotations

from collections import Counter, defaultdict
from datetime import timedelta
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from evenmark.core.marking.wording import CAUSE_TITLES, characteristic
from evenmark.services.classes import own_class, students_of
from evenmark.services.errors import NotThere
from evenmark.services.exercises import key_view
from evenmark.services.hand_in import attempts_of, issue_for, tries_left
from evenmark.services.marking import newest_sheet
from evenmark.store.models import Attempt, Enrolment, Issue, MarkSheetRow, Person, Revision, SchoolClass, now

VERDICTS = ("met", "near", "missed", "absent", "follows")
SOON = timedelta(days=3)


def own_issue(session: Session, instructor: Person, issue_id: int) -> Issue:
    """Return what this instructor issued. Raises NotThere for anything else."""
    issue = session.get(Issue, issue_id)
    if issue is None or issue.school_class.instructor_id != instructor.id:
        raise NotThere("There is no such issued exercise among yours.")
    return issue


def issues_of(session: Session, instructor: Person) -> list[dict[str, Any]]:
    """Return everything an instructor has issued, with how far it is, latest due first."""
    issues = session.scalars(
        select(Issue)
        .join(SchoolClass, SchoolClass.id == Issue.class_id)
        .where(SchoolClass.instructor_id == instructor.id)
    ).all()
    enrolled = _count(session, Enrolment.class_id, [i.class_id for i in issues])
    rows = defaultdict(list)
    for issue_id, student_id, state in session.execute(
        select(Attempt.issue_id, Attempt.student_id, Attempt.state).where(
            Attempt.issue_id.in_([i.id for i in issues])
        )
    ):
        rows[issue_id].append((student_id, state))
    out = [
        {
            **issue_head(issue),
            "students": enrolled.get(issue.class_id, 0),
            "handed_in": len({s for s, _ in rows[issue.id]}),
            "waiting": sum(1 for _, state in rows[issue.id] if state == "waiting"),
            "failed": sum(1 for _, state in rows[issue.id] if state == "failed"),
        }
        for issue in issues
    ]
    return sorted(out, key=lambda r: (r["due_at"], r["id"]), reverse=True)


def _count(session: Session, column: Any, values: list[int]) -> dict[int, int]:
    rows = session.execute(select(column, func.count()).where(column.in_(values)).group_by(column))
    return {value: n for value, n in rows}  # noqa: C416 - rows are typed as tuples only when taken apart


def issue_head(issue: Issue) -> dict[str, Any]:
    """Return what every list says of an issue."""
    return {
        "id": issue.id,
        "revision_id": issue.revision_id,
        "revision": issue.revision.number,
        "title": issue.revision.title,
        "class_id": issue.class_id,
        "class_name": issue.school_class.name,
        "due_at": issue.due_at,
        "issued_at": issue.issued_at,
        "tries": issue.tries,
        "detail": issue.detail,
        "past_due": issue.due_at <= now(),
    }


def desk(session: Session, instructor: Person) -> dict[str, Any]:
    """Return what needs attention now: what was handed in lately, what comes due, what most failed."""
    issues = issues_of(session, instructor)
    ids = [i["id"] for i in issues]
    latest = session.scalars(
        select(Attempt)
        .where(Attempt.issue_id.in_(ids))
        .options(joinedload(Attempt.student), joinedload(Attempt.issue))
        .order_by(Attempt.handed_in_at.desc(), Attempt.id.desc())
        .limit(8)
    ).all()
    sheets = _sheets(session, [a.id for a in latest])
    causes: Counter[str] = Counter()
    newest = _newest_attempts(session, ids)
    for sheet in _sheets(session, list(newest)).values():
        causes.update({c for c in sheet.summary["causes"] if c != "unexplained"})
    return {
        "issues": [i for i in issues if not i["past_due"]] + [i for i in issues if i["past_due"]][:4],
        "latest": [
            {
                "attempt_id": a.id,
                "issue_id": a.issue_id,
                "student": a.student.name,
                "title": a.issue.revision.title,
                "class_name": a.issue.school_class.name,
                "handed_in_at": a.handed_in_at,
                "state": a.state,
                **_score(sheets.get(a.id)),
            }
            for a in latest
        ],
        "causes": [
            {"code": code, "title": CAUSE_TITLES[code], "students": n} for code, n in causes.most_common(6)
        ],
    }


def _newest_attempts(session: Session, issue_ids: list[int]) -> dict[int, Attempt]:
    """Return each student's newest attempt at each issue, by attempt id."""
    newest: dict[tuple[int, int], Attempt] = {}
    for a in session.scalars(select(Attempt).where(Attempt.issue_id.in_(issue_ids)).order_by(Attempt.number)):
        newest[a.issue_id, a.student_id] = a
    return {a.id: a for a in newest.values()}


def _sheets(session: Session, attempt_ids: list[int]) -> dict[int, MarkSheetRow]:
    """Return the newest mark sheet of each attempt."""
    rows = session.scalars(
        select(MarkSheetRow).where(MarkSheetRow.attempt_id.in_(attempt_ids)).order_by(MarkSheetRow.id)
    )
    return {row.attempt_id: row for row in rows}


def _score(sheet: MarkSheetRow | None) -> dict[str, Any]:
    return {
        "earned": float(sheet.earned) if sheet else None,
        "possible": float(sheet.possible) if sheet else None,
    }


def class_results(session: Session, instructor: Person, issue_id: int) -> dict[str, Any]:
    """Return the students of a class by verdict, score and time for one issue, and what most of them missed."""
    issue = own_issue(session, instructor, issue_id)
    newest = {a.student_id: a for a in _newest_attempts(session, [issue.id]).values()}
    sheets = _sheets(session, [a.id for a in newest.values()])
    students = []
    for person in students_of(session, issue.class_id):
        attempt = newest.get(person.id)
        sheet = sheets.get(attempt.id) if attempt else None
        students.append(
            {
                "student_id": person.id,
                "name": person.name,
                "attempt_id": attempt.id if attempt else None,
                "try_number": attempt.number if attempt else 0,
                "handed_in_at": attempt.handed_in_at if attempt else None,
                "late": attempt.late if attempt else False,
                "state": attempt.state if attempt else "none",
                "trouble": attempt.trouble if attempt else None,
                "verdicts": sheet.summary["verdicts"] if sheet else None,
                "causes": [
                    {"code": c, "title": CAUSE_TITLES[c]} for c in dict.fromkeys(sheet.summary["causes"])
                ]
                if sheet
                else [],
                **_score(sheet),
            }
        )
    return {"issue": issue_head(issue), "students": students, "missed": _most_missed(sheets)}


def _most_missed(sheets: dict[int, MarkSheetRow]) -> list[dict[str, Any]]:
    """Return the checks that most students missed, with how many."""
    missed: Counter[tuple[int, str]] = Counter()
    for row in sheets.values():
        for f in row.sheet["marks"]["findings"]:
            if f["verdict"] in ("missed", "absent"):
                missed[f["id"], characteristic(f["kind"], f["features"], f.get("layer"))] += 1
    top = sorted(missed.items(), key=lambda m: (-m[1], m[0]))[:8]
    return [{"finding": i, "name": name, "students": n, "of": len(sheets)} for (i, name), n in top]


def attempt_in_full(session: Session, instructor: Person, attempt_id: int) -> dict[str, Any]:
    """Return one attempt over its key: scenes, findings, causes, and who comes before and after in the class."""
    attempt = session.get(Attempt, attempt_id)
    if attempt is None:
        raise NotThere("There is no such attempt.")
    issue = own_issue(session, instructor, attempt.issue_id)
    sheet = newest_sheet(session, attempt.id)
    key = key_view(issue.revision)
    newest = {a.student_id: a.id for a in _newest_attempts(session, [issue.id]).values()}
    order = [(p, newest[p.id]) for p in students_of(session, issue.class_id) if p.id in newest]
    here = next((n for n, (p, _) in enumerate(order) if p.id == attempt.student_id), 0)
    out: dict[str, Any] = {
        "attempt_id": attempt.id,
        "issue": issue_head(issue),
        "student": attempt.student.name,
        "try_number": attempt.number,
        "tries": [
            {"attempt_id": a.id, "number": a.number}
            for a in attempts_of(session, issue.id, attempt.student_id)
        ],
        "file_name": attempt.file_name,
        "handed_in_at": attempt.handed_in_at,
        "late": attempt.late,
        "state": attempt.state,
        "trouble": attempt.trouble,
        "place": here + 1,
        "of": len(order),
        "previous": order[here - 1][1] if here > 0 else None,
        "next": order[here + 1][1] if here + 1 < len(order) else None,
        "key": key.scene,
        "drawn": None,
        "marks": None,
        "engine_version": sheet.engine_version if sheet else None,
    }
    if sheet is not None:
        out["drawn"] = sheet.sheet["scene"]
        out["marks"] = _marks_view(sheet, key.scene["origin"])
    return out


def _marks_view(sheet: MarkSheetRow, origin: list[float]) -> dict[str, Any]:
    """Return marks for a page: findings named and placed in the key's scene."""
    marks = sheet.sheet["marks"]
    partners = sheet.sheet["partners"]
    places = sheet.sheet["places"]
    drawn_origin = sheet.sheet["scene"]["origin"]
    findings = []
    for f in marks["findings"]:
        own = places.get(str(f["id"]))
        in_key = [own[0] + drawn_origin[0] - origin[0], own[1] - drawn_origin[1] + origin[1]] if own else None
        at = [f["at"][0] - origin[0], origin[1] - f["at"][1]] if f["at"] else in_key
        shown = {**f, "layer": f.get("layer"), "items": f.get("items", [])}
        findings.append(
            {
                **shown,
                "name": characteristic(f["kind"], f["features"], f.get("layer")),
                "at": at,
                "seen_at": in_key,
                "partners": [partners[i] for i in f["features"] if i in partners],
                "items": [
                    {**item, "at": [item["at"][0] - origin[0], origin[1] - item["at"][1]]}
                    for item in shown["items"]
                ],
            }
        )
    lost = {f["id"]: f["possible"] - f["earned"] for f in marks["findings"]}
    causes = [
        {**c, "title": CAUSE_TITLES[c["code"]], "costs": round(sum(lost[i] for i in c["explains"]), 6)}
        for c in marks["causes"]
    ]
    return {
        "unit": marks["unit"],
        "placement": marks["placement"],
        "earned": marks["score"]["earned"],
        "possible": marks["score"]["possible"],
        "findings": findings,
        "causes": causes,
        "notes": marks["notes"],
    }


def my_work(session: Session, student: Person) -> list[dict[str, Any]]:
    """Return what was issued to a student's classes, what is due first first, and how far they are."""
    issues = session.scalars(
        select(Issue)
        .join(Enrolment, Enrolment.class_id == Issue.class_id)
        .where(Enrolment.student_id == student.id)
    ).all()
    out = []
    for issue in sorted(issues, key=lambda i: (i.due_at <= now(), i.due_at)):
        attempts = attempts_of(session, issue.id, student.id)
        sheets = _sheets(session, [a.id for a in attempts])
        best = max((float(s.earned) for s in sheets.values()), default=None)
        out.append(
            {
                **issue_head(issue),
                "tries_left": tries_left(session, issue, student.id),
                "handed_in": len(attempts),
                "waiting": any(a.state == "waiting" for a in attempts),
                "best": best,
                "possible": float(next(iter(sheets.values())).possible) if sheets else None,
            }
        )
    return out


def work_of(session: Session, student: Person, issue_id: int) -> dict[str, Any]:
    """Return one exercise as its student sees it: the text, what is asked of the file, and the tries so far."""
    issue = issue_for(session, student, issue_id)
    revision = issue.revision
    attempts = attempts_of(session, issue.id, student.id)
    sheets = _sheets(session, [a.id for a in attempts])
    rules = revision.rules
    return {
        **issue_head(issue),
        "text": revision.text,
        "unit": rules.get("unit") or "mm",
        "placement": rules["placement"],
        "layers": sorted(
            {r["layer"] for r in rules["requirements"] if r["kind"] == "layer-style" and r.get("on", True)}
        ),
        "tries_left": tries_left(session, issue, student.id),
        "attempts": [
            {
                "attempt_id": a.id,
                "number": a.number,
                "file_name": a.file_name,
                "handed_in_at": a.handed_in_at,
                "late": a.late,
                "state": a.state,
                "trouble": a.trouble,
                **_score(sheets.get(a.id)),
            }
            for a in reversed(attempts)
        ],
    }


def my_result(session: Session, student: Person, attempt_id: int) -> dict[str, Any]:
    """Return a student's own result, with as much detail as the exercise allows and nothing of the key's geometry.

    ``score`` gives marks only; ``checks`` names the checks and slips without sizes; ``numbers`` gives everything measured.
    """
    attempt = session.get(Attempt, attempt_id)
    if attempt is None or attempt.student_id != student.id:
        raise NotThere("There is no such attempt of yours.")
    issue = issue_for(session, student, attempt.issue_id)
    sheet = newest_sheet(session, attempt.id)
    out: dict[str, Any] = {
        "attempt_id": attempt.id,
        "issue": issue_head(issue),
        "number": attempt.number,
        "file_name": attempt.file_name,
        "handed_in_at": attempt.handed_in_at,
        "late": attempt.late,
        "state": attempt.state,
        "trouble": attempt.trouble,
        "tries_left": tries_left(session, issue, student.id),
        "detail": issue.detail,
        **_score(sheet),
        "verdicts": sheet.summary["verdicts"] if sheet else None,
        "drawn": sheet.sheet["scene"] if sheet else None,
        "findings": [],
        "causes": [],
        "notes": sheet.sheet["marks"]["notes"] if sheet else [],
        "unit": sheet.sheet["marks"]["unit"] if sheet else None,
    }
    if sheet is None or issue.detail == "score":
        out["verdicts"] = None
        return out
    numbers = issue.detail == "numbers"
    places, partners = sheet.sheet["places"], sheet.sheet["partners"]
    for f in sheet.sheet["marks"]["findings"]:
        own = {
            "id": f["id"],
            "kind": f["kind"],
            "name": characteristic(f["kind"], f["features"], f.get("layer")),
            "verdict": f["verdict"],
            "earned": f["earned"],
            "possible": f["possible"],
            "follows": f["follows"],
            "causes": f["causes"],
            "at": places.get(str(f["id"])),
            "drawn": [partners[i] for i in f["features"] if i in partners],
            "expected": f["expected"] if numbers else None,
            "measured": f["measured"] if numbers else None,
            "deviation": f["deviation"] if numbers else None,
            "why": f.get("why") if numbers else None,
        }
        out["findings"].append(own)
    lost = {f["id"]: f["possible"] - f["earned"] for f in sheet.sheet["marks"]["findings"]}
    for c in sheet.sheet["marks"]["causes"]:
        title = CAUSE_TITLES[c["code"]]
        out["causes"].append(
            {
                "id": c["id"],
                "code": c["code"],
                "title": title,
                "says": c["says"] if numbers else f"{title}.",
                "explains": c["explains"],
                "costs": round(sum(lost[i] for i in c["explains"]), 6),
            }
        )
    return out


def classes_of(session: Session, instructor: Person) -> list[dict[str, Any]]:
    """Return an instructor's classes with how many students each has."""
    groups = session.scalars(
        select(SchoolClass).where(SchoolClass.instructor_id == instructor.id).order_by(SchoolClass.name)
    ).all()
    sizes = _count(session, Enrolment.class_id, [g.id for g in groups])
    return [
        {"id": g.id, "name": g.name, "join_code": g.join_code, "students": sizes.get(g.id, 0)} for g in groups
    ]


def class_page(session: Session, instructor: Person, class_id: int) -> dict[str, Any]:
    """Return one class with its students and what was issued to it."""
    group = own_class(session, instructor, class_id)
    return {
        "id": group.id,
        "name": group.name,
        "join_code": group.join_code,
        "students": [
            {"id": p.id, "name": p.name, "sign_in": p.sign_in} for p in students_of(session, group.id)
        ],
        "issues": [i for i in issues_of(session, instructor) if i["class_id"] == group.id],
    }


def exercise_rows(session: Session, revisions: list[Revision]) -> list[dict[str, Any]]:
    """Return rows for the list of exercises: the newest revision of each and who has which."""
    issued: dict[int, list[str]] = defaultdict(list)
    numbers = {r.exercise_id for r in revisions}
    for issue in session.scalars(
        select(Issue).join(Revision).where(Revision.exercise_id.in_(numbers)).order_by(Issue.id)
    ):
        issued[issue.revision.exercise_id].append(issue.school_class.name)
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
        }
        for r in revisions
    ]
