"""Wiping people's data for good: a student's, or a class's with everything in it.

An instructor wipes what belongs to the instructor's own classes. Somebody's account goes too once nothing of
theirs is left in a class of another instructor. What stays is an entry in the record, without a name. Nothing
of this can be undone; backups made before still hold it.
"""

from __future__ import annotations

from collections import Counter
from typing import NamedTuple

from sqlalchemy import ColumnElement, Select, delete, func, select
from sqlalchemy.orm import Session

from evenmark.services.batches import files_of_student
from evenmark.services.classes import own_class, own_student
from evenmark.services.record import note
from evenmark.services.throttle import forget_name
from evenmark.store.boards import Board, OwnCheck
from evenmark.store.models import (
    Allowance,
    Attempt,
    BatchFile,
    Export,
    Intake,
    Issue,
    MarkingAct,
    MarkSheetRow,
    RecordEntry,
    Returned,
)
from evenmark.store.people import Enrolment, Invitation, Person, SchoolClass
from evenmark.store.queue import forget_attempts


def wipe_attempts(session: Session, which: ColumnElement[bool]) -> int:
    """Delete attempts with their marks, whatever was done to them and the files they came from; return how
    many."""
    ids = list(session.scalars(select(Attempt.id).where(which).order_by(Attempt.id).with_for_update()))
    # first what refers to others, then what is referred to
    session.execute(delete(BatchFile).where(BatchFile.attempt_id.in_(ids)))
    for table in (Returned, MarkingAct, MarkSheetRow):
        session.execute(delete(table).where(table.attempt_id.in_(ids)))
    session.execute(delete(Attempt).where(Attempt.id.in_(ids)))
    session.expire_all()
    forget_attempts(session, ids)
    return len(ids)


class StudentGoes(NamedTuple):
    """What is wiped with a student: drawings of so many issues, and whether the account goes, too."""

    name: str
    sign_in: str
    classes: list[str]
    attempts: int
    issues: int
    account: bool


class ClassGoes(NamedTuple):
    """What is wiped with a class."""

    name: str
    students: int
    issues: int
    attempts: int
    accounts: int


def _issues_of(instructor: Person) -> Select[int]:
    """Return a query for everything that an instructor issued."""
    return (
        select(Issue.id)
        .join(SchoolClass, SchoolClass.id == Issue.class_id)
        .where(SchoolClass.instructor_id == instructor.id)
    )


def _elsewhere(session: Session, student_id: int, class_ids: set[int]) -> bool:
    """Say whether anything of a student's belongs to other classes than these."""
    enrolled = select(Enrolment.class_id).where(
        Enrolment.student_id == student_id, Enrolment.class_id.not_in(class_ids)
    )
    handed_in = (
        select(Attempt.id)
        .join(Issue, Issue.id == Attempt.issue_id)
        .where(Attempt.student_id == student_id, Issue.class_id.not_in(class_ids))
    )
    return session.scalar(enrolled.limit(1)) is not None or session.scalar(handed_in.limit(1)) is not None


def _own_classes(session: Session, instructor: Person) -> dict[int, SchoolClass]:
    rows = session.scalars(select(SchoolClass).where(SchoolClass.instructor_id == instructor.id))
    return {c.id: c for c in rows}


def what_goes_of_student(session: Session, instructor: Person, student_id: int) -> StudentGoes:
    """Return what is wiped with a student, to be asked about."""
    student = own_student(session, instructor, student_id)
    classes = _own_classes(session, instructor)
    enrolled = session.scalars(
        select(Enrolment.class_id).where(
            Enrolment.student_id == student_id, Enrolment.class_id.in_(list(classes))
        )
    )
    attempts, issues = session.execute(
        select(func.count(Attempt.id), func.count(Attempt.issue_id.distinct())).where(
            Attempt.student_id == student_id, Attempt.issue_id.in_(_issues_of(instructor))
        )
    ).one()
    return StudentGoes(
        name=student.name,
        sign_in=student.sign_in,
        classes=sorted(classes[c].name for c in enrolled),
        attempts=attempts,
        issues=issues,
        account=not _elsewhere(session, student_id, set(classes)),
    )


def wipe_student(session: Session, instructor: Person, student_id: int) -> StudentGoes:
    """Wipe everything of a student in this instructor's classes, and the account where nothing of it is
    elsewhere.

    Returns what went.
    """
    goes = what_goes_of_student(session, instructor, student_id)
    classes = _own_classes(session, instructor)
    groups = list(
        session.scalars(
            select(Enrolment.class_id).where(
                Enrolment.student_id == student_id, Enrolment.class_id.in_(list(classes))
            )
        )
    )
    issues = _issues_of(instructor)
    files = files_of_student(session, instructor, student_id)
    wipe_attempts(session, (Attempt.student_id == student_id) & Attempt.issue_id.in_(issues))
    session.execute(delete(BatchFile).where(BatchFile.id.in_(files)))
    for table in (Intake, Allowance, OwnCheck):
        session.execute(delete(table).where(table.student_id == student_id, table.issue_id.in_(issues)))
    session.execute(delete(Board).where(Board.person_id == student_id, Board.issue_id.in_(issues)))
    session.execute(
        delete(RecordEntry).where(
            RecordEntry.student_id == student_id, RecordEntry.person_id == instructor.id
        )
    )
    for membership in (Enrolment, Invitation):
        session.execute(
            delete(membership).where(
                membership.student_id == student_id, membership.class_id.in_(list(classes))
            )
        )
    session.execute(delete(Export).where(Export.person_id == instructor.id))
    if goes.account:
        _wipe_account(session, student_id)
    account = ", and the account" if goes.account else "; the account is in use elsewhere and stays"
    says = f"Deleted the data of one student: {_drawings(goes.attempts)}{account}."
    for class_id in groups:
        note(session, instructor, "wiped", says, group=classes[class_id])
    session.expire_all()
    session.flush()
    return goes


def _drawings(n: int) -> str:
    return f"{n} drawing{'' if n == 1 else 's'}"


def _wipe_account(session: Session, student_id: int) -> None:
    """Delete an account that nothing belongs to any more, with its sessions, devices, codes and tries to sign
    in."""
    person = session.get_one(Person, student_id)
    forget_name(session, person)
    session.execute(delete(RecordEntry).where(RecordEntry.student_id == student_id))
    session.execute(delete(Person).where(Person.id == student_id))
    session.expire_all()


def what_goes_of_class(session: Session, instructor: Person, class_id: int) -> ClassGoes:
    """Return what is wiped with a class, to be asked about."""
    group = own_class(session, instructor, class_id)
    students = list(session.scalars(select(Enrolment.student_id).where(Enrolment.class_id == group.id)))
    issues = session.scalar(select(func.count(Issue.id)).where(Issue.class_id == group.id)) or 0
    attempts = session.scalar(
        select(func.count(Attempt.id))
        .join(Issue, Issue.id == Attempt.issue_id)
        .where(Issue.class_id == group.id)
    )
    return ClassGoes(
        name=group.name,
        students=len(students),
        issues=issues,
        attempts=attempts or 0,
        accounts=sum(1 for s in students if not _elsewhere(session, s, {group.id})),
    )


def wipe_class(session: Session, instructor: Person, class_id: int) -> ClassGoes:
    """Delete a class with everything that was issued to it and handed in, and the accounts of students who
    are in no other class.

    Returns what went.
    """
    group = own_class(session, instructor, class_id)
    goes = what_goes_of_class(session, instructor, class_id)
    students = list(session.scalars(select(Enrolment.student_id).where(Enrolment.class_id == group.id)))
    alone = [s for s in students if not _elsewhere(session, s, {group.id})]
    issues = list(session.scalars(select(Issue.id).where(Issue.class_id == group.id)))
    wipe_attempts(session, Attempt.issue_id.in_(issues))
    session.execute(delete(Issue).where(Issue.id.in_(issues)))
    session.execute(
        delete(RecordEntry).where(RecordEntry.class_id == group.id, RecordEntry.student_id.is_not(None))
    )
    session.execute(delete(Export).where(Export.person_id == instructor.id))
    session.execute(delete(SchoolClass).where(SchoolClass.id == group.id))
    for student_id in alone:
        _wipe_account(session, student_id)
    said = Counter({"students": goes.students, "drawings": goes.attempts, "accounts": len(alone)})
    note(
        session,
        instructor,
        "deleted",
        f"Deleted the class “{goes.name}”: {', '.join(f'{n} {what}' for what, n in said.items())}.",
    )
    session.expire_all()
    session.flush()
    return goes
