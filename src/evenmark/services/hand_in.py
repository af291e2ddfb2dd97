"""Handing in: a file is laid in, shown as it was understood, then confirmed. Only confirming uses up a
try."""

from __future__ import annotations

import hashlib
from datetime import datetime

from procrastinate import App
from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from evenmark.core.formats.sniff import MOST_BYTES
from evenmark.core.marking.model import Examines
from evenmark.core.marking.reading_json import ReadingJson
from evenmark.core.sheet.scene import Scene
from evenmark.services import room
from evenmark.services.bounded import read_bounded
from evenmark.services.classes import is_in
from evenmark.services.engine_work import look_at
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.keys import examined
from evenmark.services.terms import check_open, terms_of
from evenmark.store.models import Attempt, Intake, Issue
from evenmark.store.people import Person, now
from evenmark.store.queue import defer_marking


def issue_for(session: Session, student: Person, issue_id: int) -> Issue:
    """Return what was issued to a class of this student. Raises NotThere for anything else."""
    issue = session.get(Issue, issue_id)
    if issue is None or not is_in(session, issue.class_id, student.id):
        raise NotThere("You have no such exercise. If you expected one, ask your instructor.")
    return issue


def readable_issue(session: Session, student: Person, issue_id: int) -> Issue:
    """Return what was issued to a class of this student, or to one that they left and had handed in to.
    Raises NotThere."""
    issue = session.get(Issue, issue_id)
    if issue is not None and attempts_of(session, issue.id, student.id):
        return issue
    return issue_for(session, student, issue_id)


def attempts_of(session: Session, issue_id: int, student_id: int) -> list[Attempt]:
    """Return a student's attempts at one issue, first to last."""
    found = session.scalars(
        select(Attempt)
        .where(Attempt.issue_id == issue_id, Attempt.student_id == student_id)
        .order_by(Attempt.number)
    )
    return list(found)


def clean_name(name: str) -> str:
    """Return a file name without folders or control characters, fit to be shown and kept."""
    plain = name.replace("\\", "/").rsplit("/", 1)[-1]
    plain = "".join(c for c in plain if c.isprintable()).strip()
    return plain[:200] or "drawing.dxf"


def look(data: bytes, file_name: str, examines: Examines = "model") -> tuple[ReadingJson, Scene]:
    """Return what is understood of a file and its picture. Raises NotUsable with how to put it right."""
    if len(data) > MOST_BYTES:
        raise NotUsable(
            f"The file is larger than {MOST_BYTES // 1048576} MB. Remove what does not belong to the "
            "drawing, then export it again.",
            "too-large",
        )
    seen = read_bounded(look_at, data, file_name, examines)
    if seen.refusal:
        raise NotUsable(seen.refusal.says, seen.refusal.code)
    return seen.reading, seen.scene


def lay_in(
    session: Session, student: Person, issue_id: int, file_name: str, data: bytes
) -> tuple[Intake, Scene]:
    """Take a file in without handing it in yet, within one transaction; a later one takes its place. Returns
    it with its picture.

    A page does the three steps one by one, so that nothing is held open while the file is read.
    """
    name = clean_name(file_name)
    reading, scene = look(data, name, may_lay_in(session, student, issue_id))
    return keep_intake(session, student, issue_id, name, data, reading), scene


def may_lay_in(session: Session, student: Person, issue_id: int) -> Examines:
    """Return what of a file will be examined. Raises NotThere, NotUsable when nothing can be handed in."""
    issue = issue_for(session, student, issue_id)
    check_open(terms_of(session, issue, student.id))
    return examined(issue.revision.rules)


def keep_intake(
    session: Session, student: Person, issue_id: int, name: str, data: bytes, reading: ReadingJson
) -> Intake:
    """Keep a file that was read until it is handed in, or another one takes its place."""
    issue = issue_for(session, student, issue_id)
    session.execute(select(Person.id).where(Person.id == student.id).with_for_update())
    session.execute(delete(Intake).where(Intake.issue_id == issue.id, Intake.student_id == student.id))
    room.check_own(session, student, len(data))
    intake = Intake(
        issue_id=issue.id,
        student_id=student.id,
        file_name=name,
        sha256=hashlib.sha256(data).hexdigest(),
        data=data,
        reading=reading,
    )
    session.add(intake)
    session.flush()
    return intake


def hand_in(session: Session, queue: App | None, student: Person, intake_id: int) -> Attempt:
    """Hand in what was laid in: from now on it is kept as it came, and waits for marking. Raises NotUsable,
    NotThere."""
    intake = session.get(Intake, intake_id)
    if intake is None or intake.student_id != student.id:
        raise NotThere("This file is no longer waiting to be handed in. Choose it again.")
    issue = issue_for(session, student, intake.issue_id)
    attempt = keep_attempt(
        session, issue, student.id, file_name=intake.file_name, data=intake.data, reading=intake.reading
    )
    session.delete(intake)
    session.flush()
    if queue is not None:
        defer_marking(session, queue, attempt.id)
    return attempt


def keep_attempt(
    session: Session,
    issue: Issue,
    student_id: int,
    *,
    file_name: str,
    data: bytes,
    reading: ReadingJson,
    at: datetime | None = None,
    by: int | None = None,
    on_time: bool = False,
) -> Attempt:
    """Keep an attempt as the student's next one. Raises NotUsable when no try is left, or nothing is handed
    in any more.

    An instructor (``by``) may hand in for a student beyond the tries, and say that it came ``on_time``.

    The issue is locked for the moment, so that two requests at once cannot use one try twice.
    """
    session.execute(select(Person.id).where(Person.id == student_id).with_for_update())
    terms = terms_of(session, issue, student_id)
    if by is None:
        check_open(terms)
    number = len(attempts_of(session, issue.id, student_id)) + 1
    time = at or now()
    attempt = Attempt(
        issue_id=issue.id,
        student_id=student_id,
        number=number,
        file_name=file_name,
        sha256=hashlib.sha256(data).hexdigest(),
        data=data,
        reading=reading,
        handed_in_at=time,
        late=time > terms.due_at and not on_time,
        handed_in_by=by,
    )
    session.add(attempt)
    session.flush()
    return attempt
