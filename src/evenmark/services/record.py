"""The record: what an instructor did to exercises, classes and what was issued, one sentence each, only ever
added to."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from evenmark.store.models import RecordEntry
from evenmark.store.people import Person, SchoolClass

PAGE = 50


def note(
    session: Session,
    instructor: Person,
    act: str,
    says: str,
    *,
    group: SchoolClass | None = None,
    exercise_id: int | None = None,
    student_id: int | None = None,
) -> None:
    """Note something that was done, in the transaction that does it; what is about one student goes when that
    one's data are wiped."""
    session.add(
        RecordEntry(
            person_id=instructor.id,
            act=act,
            says=says,
            class_id=group.id if group else None,
            exercise_id=exercise_id,
            student_id=student_id,
        )
    )


def record_of(
    session: Session,
    instructor: Person,
    *,
    class_id: int | None = None,
    exercise_id: int | None = None,
    page: int = 1,
) -> dict[str, object]:
    """Return what an instructor did, newest first: all of it, or what was about a class or an exercise."""
    wanted = [RecordEntry.person_id == instructor.id]
    if class_id is not None:
        wanted.append(RecordEntry.class_id == class_id)
    if exercise_id is not None:
        wanted.append(RecordEntry.exercise_id == exercise_id)
    of = session.scalar(select(func.count()).select_from(RecordEntry).where(*wanted)) or 0
    rows = session.scalars(
        select(RecordEntry)
        .where(*wanted)
        .order_by(RecordEntry.id.desc())
        .limit(PAGE)
        .offset((page - 1) * PAGE)
    )
    return {
        "entries": [{"id": r.id, "at": r.at, "act": r.act, "says": r.says} for r in rows],
        "of": of,
        "page": page,
        "pages": max(1, -(-of // PAGE)),
    }
