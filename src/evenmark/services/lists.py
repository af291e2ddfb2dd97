"""Lists for instructors: classes with their students, exercises with the classes that have them."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from evenmark.services import room
from evenmark.services.classes import asked_into, codes_of, own_class, students_of
from evenmark.services.issues import IssueRow, issues_of
from evenmark.store.models import Issue, Revision
from evenmark.store.people import Enrolment, Person, SchoolClass


@dataclass(frozen=True, kw_only=True)
class ClassHead:
    """A class as it is listed, with how many students it has."""

    id: int
    name: str
    join_code: str
    archived: bool
    students: int


class StudentOfClass(NamedTuple):
    """A student in a class; with the one-time code that is to be used yet."""

    id: int
    name: str
    sign_in: str
    code: str | None


class AskedStudent(NamedTuple):
    """A student who is asked to join and has not answered."""

    called: str
    sign_in: str


class ClassRoom(NamedTuple):
    """How many megabytes the drawings of one student may take up; how many bytes those of the class do, of
    how many."""

    student_mb: int
    used: int
    of: int


@dataclass(frozen=True, kw_only=True)
class ClassView:
    """One class with its students and what was issued to it."""

    id: int
    name: str
    join_code: str
    archived: bool
    students: list[StudentOfClass]
    left: list[StudentOfClass]
    asked: list[AskedStudent]
    issues: list[IssueRow]
    room: ClassRoom


@dataclass(frozen=True, kw_only=True)
class ExerciseRow:
    """An exercise in the list, by its newest revision, with the classes that have it."""

    revision_id: int
    exercise_id: int
    number: int
    title: str
    key_name: str
    changed_at: datetime
    issued: bool
    classes: list[str]
    archived: bool


def classes_of(session: Session, instructor: Person) -> list[ClassHead]:
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


def class_head(group: SchoolClass, students: int = 0) -> ClassHead:
    """Return how a class is listed."""
    return ClassHead(
        id=group.id,
        name=group.name,
        join_code=group.join_code,
        archived=group.archived_at is not None,
        students=students,
    )


def class_page(session: Session, instructor: Person, class_id: int) -> ClassView:
    """Return one class with its students and what was issued to it."""
    group = own_class(session, instructor, class_id)
    codes = codes_of(session, group.id)
    return ClassView(
        id=group.id,
        name=group.name,
        join_code=group.join_code,
        archived=group.archived_at is not None,
        students=[
            StudentOfClass(p.id, p.name, p.sign_in, codes.get(p.id)) for p in students_of(session, group.id)
        ],
        left=[
            StudentOfClass(p.id, p.name, p.sign_in, None) for p in students_of(session, group.id, left=True)
        ],
        asked=[AskedStudent(i.called, i.student.sign_in) for i in asked_into(session, group.id)],
        issues=issues_of(session, instructor, class_id=group.id),
        room=ClassRoom(group.student_mb, room.used_by_class(session, group.id), room.of_class(group)),
    )


def exercise_rows(session: Session, revisions: list[Revision]) -> list[ExerciseRow]:
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
        ExerciseRow(
            revision_id=r.id,
            exercise_id=r.exercise_id,
            number=r.number,
            title=r.title,
            key_name=r.key_name,
            changed_at=r.changed_at,
            issued=r.issued_at is not None,
            classes=list(dict.fromkeys(issued[r.exercise_id])),
            archived=r.exercise.archived_at is not None,
        )
        for r in revisions
    ]
