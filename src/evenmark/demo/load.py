"""Loads the demo through the product's own services: people, classes, exercises, attempts. The marking is the
engine's.

Three steps, so that all cores have something to do and no transaction is open meanwhile: drawings are read,
everything is kept, attempts are marked. Whatever is cut off is taken up again when the demo is loaded next.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import TypeVar

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.marking.reading_json import ReadingJson
from evenmark.core.marking.rules_types import RulesJson
from evenmark.demo import parts
from evenmark.demo.drawn import OnTheBoard, draft, draw
from evenmark.demo.plans import (
    INSTRUCTOR,
    PASSWORD,
    PLANS,
    SCHOOL,
    STUDENTS,
    Plan,
    Remark,
    StudentWork,
    sign_in_of,
)
from evenmark.services.acts import comment, override
from evenmark.services.board_out import as_file
from evenmark.services.boards import new_board
from evenmark.services.classes import enrol, make_class
from evenmark.services.exercise_edit import add_file, change_revision
from evenmark.services.exercises import keep_exercise, put_issue
from evenmark.services.hand_in import keep_attempt, look
from evenmark.services.keys import TakenKey, proof_of, read_key, to_prove
from evenmark.services.marking import mark_in_turn
from evenmark.services.marking_view import attempt_in_full
from evenmark.services.people import make_person, person_of
from evenmark.services.returning import return_all
from evenmark.store.database import Database
from evenmark.store.models import Attempt, Issue, MarkingAct, Revision
from evenmark.store.people import Person, now

T = TypeVar("T")
U = TypeVar("U")
Drawn = tuple[str, bytes, ReadingJson]
"""A file that was handed in: its name, its bytes, and what was understood of it."""


def loaded(session: Session) -> bool:
    """Say whether there is anybody at all; then the demo is not loaded again."""
    return session.scalar(select(Person.id).limit(1)) is not None


def load_demo(database: Database) -> bool:
    """Load the demo into an empty database, or finish one that was cut off; return whether something was
    done."""
    with database.transaction() as session:
        empty = not loaded(session)
    if empty:
        _keep_all(database)
    return _mark_all(database) or empty


def _keep_all(database: Database) -> None:
    """Keep everything but marks, as a whole or not at all."""
    drawn = _at_once(_handed_in, [(p, w) for p in PLANS for w in p.work if w.drawn is None])
    files = iter(drawn)
    with database.transaction() as session:
        instructor = make_person(
            session,
            name=INSTRUCTOR[0],
            sign_in=INSTRUCTOR[1],
            password=PASSWORD,
            role="instructor",
            school=SCHOOL,
        )
        people: dict[str, Person] = {}
        groups = {}
        for group, names in STUDENTS.items():
            groups[group] = make_class(session, instructor, group)
            for name in names:
                people[name] = make_person(
                    session, name=name, sign_in=sign_in_of(name), password=PASSWORD, role="student"
                )
                enrol(session, people[name], groups[group])
        named = {plan.title: _key_of(session, instructor, plan) for plan in PLANS}
        taken = _at_once(lambda plan: _taken(instructor, plan, *named[plan.title]), PLANS)
        for plan, key in zip(PLANS, taken, strict=True):
            revision = keep_exercise(session, instructor, key, text=plan.text)
            issue = _issue(session, instructor, plan, revision, groups[plan.group].id)
            for begun in plan.drafts:
                assert begun.drawn is not None
                draft(
                    session, people[begun.student], issue, begun.drawn, now() - timedelta(hours=begun.hours)
                )
            for work in plan.work:
                file = None if work.drawn is not None else next(files)
                _attempt(session, plan, work, issue, people[work.student], file)


def _mark_all(database: Database) -> bool:
    """Mark what waits, then say what the instructor says of it; return whether there was anything to do."""
    with database.transaction() as session:
        instructor = person_of(session, INSTRUCTOR[1])
        if instructor is None:
            return False
        mine = select(Attempt).join(Issue).join(Revision).where(Revision.title.in_([p.title for p in PLANS]))
        waiting = session.scalars(mine.where(Attempt.state == "waiting").order_by(Attempt.id)).all()
        by_issue: dict[int, list[int]] = {}
        for attempt in waiting:
            by_issue.setdefault(attempt.issue_id, []).append(attempt.id)
        said = session.scalar(select(func.count()).select_from(MarkingAct)) or 0
    if not by_issue and said:
        return False
    _at_once(lambda ids: mark_in_turn(database, ids), list(by_issue.values()))
    if not said:
        with database.transaction() as session:
            _say_all(session)
    return True


def _say_all(session: Session) -> None:
    instructor = person_of(session, INSTRUCTOR[1])
    assert instructor is not None
    for plan in PLANS:
        issue = session.scalars(select(Issue).join(Revision).where(Revision.title == plan.title)).one()
        attempts = {
            a.student.name: a.id
            for a in session.scalars(select(Attempt).where(Attempt.issue_id == issue.id).order_by(Attempt.id))
        }
        for remark in plan.remarks:
            _remark(session, instructor, attempts[remark.student], remark)
        if plan.returns == "by-hand" and plan.returned:
            return_all(session, instructor, issue.id)


def _at_once(work: Callable[[T], U], of: Sequence[T]) -> list[U]:
    """Do some work for each of several, as many at once as there are cores, each in a process of its own."""
    with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
        return list(pool.map(work, of))


def _handed_in(asked: tuple[Plan, StudentWork]) -> Drawn:
    plan, work = asked
    data = write_dxf(work.slip((work.part or plan.part).drawing), work.manner)
    name = f"{sign_in_of(work.student)}-{plan.file}.dxf"
    return name, data, look(data, name)[0]


def _remark(session: Session, instructor: Person, attempt_id: int, remark: Remark) -> None:
    if remark.kind is None:
        comment(session, instructor, attempt_id, text=remark.text, at=remark.at)
        return
    marks = attempt_in_full(session, instructor, attempt_id)["marks"]
    findings = marks["findings"] if marks else []
    about = next(f for f in findings if f["kind"] == remark.kind and f["verdict"] not in ("met", "follows"))
    override(session, instructor, attempt_id, finding=about["id"], verdict=remark.verdict, reason=remark.text)


def _key_of(session: Session, instructor: Person, plan: Plan) -> tuple[str, bytes]:
    """Return the key of an exercise as a file: drawn on the board, or in other software."""
    if not plan.on_board:
        return f"{plan.file}-key.dxf", write_dxf(plan.part.sheet, Manner(polylines=True))
    board = new_board(session, instructor, plan.title)
    drawn = OnTheBoard(document=parts.document(plan.file))
    draw(session, instructor, board, drawn, now() - timedelta(hours=126))
    return as_file(session, instructor, board.id)


def _taken(instructor: Person, plan: Plan, name: str, key: bytes) -> TakenKey:
    return read_key(instructor, title=plan.title, key_name=name, key=key)


def _issue(session: Session, instructor: Person, plan: Plan, revision: Revision, class_id: int) -> Issue:
    if plan.start:
        data = write_dxf(plan.start.drawing)
        revision = add_file(
            session, instructor, revision.id, part="start", name=f"{plan.file}-start.dxf", data=data
        )
    rules: RulesJson = {**revision.rules, "placement": plan.placement, "numbered": plan.numbered}
    if plan.in_line:
        offered = proof_of(to_prove(revision))["offered"]
        rules["listing"], rules["taken"] = "sheet", dict.fromkeys(offered, True)
        revision = change_revision(session, instructor, revision.id, {"rules": rules})
        rules = revision.rules
    wordings = [r for r in rules["requirements"] if r["kind"] == "wording"]
    by_field = {r["id"]: f for r, f in zip(wordings, plan.fields, strict=False) if f}
    rules["requirements"] = [
        {**r, "by": "field", "pattern": by_field[r["id"]], "any_case": True} if r["id"] in by_field else r
        for r in rules["requirements"]
    ]
    revision = change_revision(session, instructor, revision.id, {"rules": rules})
    due = now() + timedelta(hours=plan.due_hours)
    return put_issue(
        session,
        revision,
        class_id,
        due_at=due,
        tries=plan.tries,
        detail=plan.detail,
        returns=plan.returns,
        issued_at=now() - timedelta(hours=120),
    )


def _attempt(
    session: Session, plan: Plan, work: StudentWork, issue: Issue, student: Person, file: Drawn | None
) -> None:
    at, board = now() - timedelta(hours=work.hours), None
    if file is None:
        assert work.drawn is not None
        board = draft(session, student, issue, work.drawn, at - timedelta(minutes=2))
        name, data = as_file(session, student, board.id)
        reading = look(data, name)[0]
    else:
        name, data, reading = file
    attempt = keep_attempt(session, issue, student.id, file_name=name, data=data, reading=reading, at=at)
    if board is not None:
        attempt.board_id, attempt.made_version = board.id, board.version
