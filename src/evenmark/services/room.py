"""Room: how many bytes the drawings of a board, a person and a class may take up; said before it is used up.

- *own room*: of one student, with everything: boards and all that was done to them, pictures, what was
  handed in. Their instructors say how much (`SchoolClass.student_mb`); the most generous of their classes
  counts.
- *board room*: a quarter of it, for one drawing with its history.
- *class room*: ten times it, for all students of a class together.

Handing in and taking away are never refused for want of room.
"""

from __future__ import annotations

import json

from sqlalchemy import ColumnElement, func, select
from sqlalchemy.orm import Session

from evenmark.services.errors import NoRoom
from evenmark.store.boards import Board, BoardAside, BoardPicture
from evenmark.store.models import Attempt, Intake
from evenmark.store.people import Enrolment, Person, SchoolClass

MB = 1_000_000
LEAST_MB, USUAL_MB, MOST_MB = 20, 100, 2000
OF_INSTRUCTOR_MB = 2000
BOARDS_IN_OWN, OWN_IN_CLASS = 4, 10
NEAR = 0.8
"""From this share on it is said how much is used up."""
LOOKED_EVERY = 250_000
"""Bytes after which it is looked again how much a person's and a class's drawings take up together."""
YOURS = "Delete drawings that you do not need"
ASK = "ask your instructor for more storage (on the page of the class)"


def bytes_of(value: object) -> int:
    """Return how long a value is as JSON."""
    return len(json.dumps(value, ensure_ascii=False, separators=(",", ":")).encode())


def own_mb(session: Session, person: Person) -> int:
    """Return how many megabytes the drawings of a person may take up."""
    if person.role == "instructor":
        return OF_INSTRUCTOR_MB
    most = session.scalar(
        select(func.max(SchoolClass.student_mb))
        .join(Enrolment, Enrolment.class_id == SchoolClass.id)
        .where(Enrolment.student_id == person.id, Enrolment.left_at.is_(None))
    )
    return most or USUAL_MB


def add_to_board(session: Session, person: Person, board: Board, more: int) -> str:
    """Count bytes that come to a board; return a sentence where there is not much room left. Raises NoRoom,
    where it is full."""
    looked, total = board.bytes // LOOKED_EVERY, board.bytes + more
    if total < NEAR * LEAST_MB * MB / BOARDS_IN_OWN and total // LOOKED_EVERY == looked:
        board.bytes = total  # far below the least room that there is: nobody needs to be asked
        return ""
    own = own_mb(session, person)
    most = own * MB // BOARDS_IN_OWN
    if board.bytes + more > most:
        raise NoRoom(
            f"This drawing and its history use {_mb(board.bytes)} of {_mb(most)} MB. "
            f"Nothing more can be added; what is saved is "
            f"safe{', and can be handed in' if board.issue_id else ''}. "
            + (
                "Download its steps, then open them on a new board."
                if _is_teaching(person)
                else f"To go on, {ASK}."
            )
        )
    board.bytes = total
    if total // LOOKED_EVERY != looked:
        session.flush()
        check_own(session, person, 0, own)
    if board.bytes < NEAR * most:
        return ""
    return f"{_mb(board.bytes)} of {_mb(most)} MB used"


def check_own(session: Session, person: Person, more: int, own: int | None = None) -> None:
    """Make sure that so many bytes more of a person can be kept. Raises NoRoom."""
    own = own or own_mb(session, person)
    used = used_by(session, Person.id == person.id)
    if used + more > own * MB:
        raise NoRoom(
            f"Your drawings use {_mb(used)} of {own} MB. "
            + (f"{YOURS}." if _is_teaching(person) else f"{YOURS}, or {ASK}.")
        )
    if _is_teaching(person):
        return
    for group in session.scalars(
        select(SchoolClass)
        .join(Enrolment, Enrolment.class_id == SchoolClass.id)
        .where(Enrolment.student_id == person.id, Enrolment.left_at.is_(None))
    ):
        used = used_by_class(session, group.id)
        if used + more > of_class(group):
            raise NoRoom(
                f"The drawings of your class use {_mb(used)} MB, all there is. What is saved is safe "
                f"and can be handed in. To go on, {ASK}."
            )


def of_class(group: SchoolClass) -> int:
    """Return how many bytes the drawings of a class may take up."""
    return group.student_mb * OWN_IN_CLASS * MB


def used_by_class(session: Session, class_id: int) -> int:
    """Return how many bytes the drawings of a class's students take up."""
    students = select(Enrolment.student_id).where(Enrolment.class_id == class_id, Enrolment.left_at.is_(None))
    return used_by(session, Person.id.in_(students))


def used_by(session: Session, who: ColumnElement[bool]) -> int:
    """Return how many bytes everything of some persons takes up."""
    people = select(Person.id).where(who)
    boards = select(Board.id).where(Board.person_id.in_(people))
    parts = (
        select(func.sum(Board.bytes)).where(Board.person_id.in_(people)),
        select(func.sum(func.octet_length(BoardPicture.data))).where(BoardPicture.board_id.in_(boards)),
        select(func.sum(func.pg_column_size(BoardAside.document))).where(BoardAside.board_id.in_(boards)),
        select(func.sum(func.octet_length(Attempt.data))).where(Attempt.student_id.in_(people)),
        select(func.sum(func.octet_length(Intake.data))).where(Intake.student_id.in_(people)),
    )
    return sum(int(session.scalar(part) or 0) for part in parts)


def _is_teaching(person: Person) -> bool:
    return person.role == "instructor"


def _mb(size: int) -> str:
    return f"{size / MB:.0f}" if size >= 10 * MB else f"{size / MB:.1f}"
