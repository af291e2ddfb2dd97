"""Keeping exercises in order: duplicating, putting away at the end of a year and bringing back, deleting with
everything handed in."""

from __future__ import annotations

from typing import NamedTuple, cast

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from evenmark.core.marking.rules_types import RulesJson
from evenmark.services.errors import NotThere
from evenmark.services.exercise_edit import same_again
from evenmark.services.exercises import keep_exercise, stored_rules
from evenmark.services.keys import TakenKey, title_of, unbound
from evenmark.services.record import note
from evenmark.services.wiping import wipe_attempts
from evenmark.store.models import Attempt, Exercise, Issue, Revision
from evenmark.store.people import Person, now

SHARED = (
    "requirements",
    "given",
    "views",
    "feature_marks",
    "roles",
    "unit",
    "examines",
    "listing",
    "numbered",
)
"""What a rule set says of its own key; another key has its own."""


def own_exercise(session: Session, instructor: Person, exercise_id: int) -> Exercise:
    """Return an exercise of this instructor. Raises NotThere for any other."""
    exercise = session.get(Exercise, exercise_id)
    if exercise is None or exercise.instructor_id != instructor.id:
        raise NotThere("Deleted, or not yours. Go back to Exercises.")
    return exercise


def _title(exercise: Exercise) -> str:
    return exercise.revisions[-1].title


def archive(session: Session, instructor: Person, exercise_id: int, *, away: bool) -> Exercise:
    """Put an exercise away, or bring it back; what was issued of it goes on."""
    exercise = own_exercise(session, instructor, exercise_id)
    if (exercise.archived_at is not None) != away:
        exercise.archived_at = now() if away else None
        word = "Archived" if away else "Restored"
        note(
            session,
            instructor,
            "archived" if away else "back",
            f"{word} the exercise “{_title(exercise)}”.",
            exercise_id=exercise.id,
        )
        session.flush()
    return exercise


def duplicate(session: Session, instructor: Person, exercise_id: int, title: str) -> Revision:
    """Make a new exercise like the newest revision of another, without anything that was handed in."""
    old = own_exercise(session, instructor, exercise_id).revisions[-1]
    exercise = Exercise(instructor_id=instructor.id)
    session.add(exercise)
    session.flush()
    return same_again(session, old, exercise, number=1, title=title_of(title))


def duplicate_with_key(session: Session, instructor: Person, exercise_id: int, taken: TakenKey) -> Revision:
    """Make a new exercise with another key that was read: words, tolerances and marks of the old one, checks
    as proposed for the new key."""
    old = own_exercise(session, instructor, exercise_id).revisions[-1]
    revision = keep_exercise(session, instructor, taken, text=old.text)
    shared = (*SHARED, "format", "version")
    kept = cast(RulesJson, {k: v for k, v in unbound(old.rules).items() if k not in shared})
    if old.rules.get("unit") == taken.view.rules.get("unit"):
        revision.rules = stored_rules({**taken.view.rules, **kept})
    session.flush()
    return revision


class ExerciseGoes(NamedTuple):
    """What is deleted with an exercise."""

    issues: int
    classes: int
    attempts: int
    students: int


def what_goes(session: Session, instructor: Person, exercise_id: int) -> ExerciseGoes:
    """Return what is deleted with an exercise, to be asked about."""
    exercise = own_exercise(session, instructor, exercise_id)
    issues, classes = session.execute(
        select(func.count(Issue.id), func.count(Issue.class_id.distinct()))
        .join(Revision)
        .where(Revision.exercise_id == exercise.id)
    ).one()
    attempts, students = session.execute(
        select(func.count(Attempt.id), func.count(Attempt.student_id.distinct()))
        .join(Issue, Issue.id == Attempt.issue_id)
        .join(Revision, Revision.id == Issue.revision_id)
        .where(Revision.exercise_id == exercise.id)
    ).one()
    return ExerciseGoes(issues, classes, attempts, students)


def delete(session: Session, instructor: Person, exercise_id: int) -> None:
    """Delete an exercise with all its revisions, issues and what was handed in of it."""
    exercise = own_exercise(session, instructor, exercise_id)
    goes = what_goes(session, instructor, exercise_id)
    title = _title(exercise)
    issues = list(session.scalars(select(Issue).join(Revision).where(Revision.exercise_id == exercise.id)))
    wipe_attempts(session, Attempt.issue_id.in_([i.id for i in issues]))
    for row in (*issues, *exercise.revisions, exercise):
        session.delete(row)
        session.flush()
    said = f" with {goes.attempts} drawings of {goes.students} students" if goes.attempts else ""
    note(session, instructor, "deleted", f"Deleted the exercise “{title}”{said}.")
    session.flush()
