"""Exercises and their revisions: put a key in, decide what counts, issue to a class."""

from __future__ import annotations

import hashlib
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session, contains_eager

from evenmark.core.marking.rules_types import RulesJson
from evenmark.services.classes import own_class
from evenmark.services.engine_work import plain_requirement
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.keys import TakenKey, mark_of, read_key, remember
from evenmark.services.names import plain_text
from evenmark.services.record import note
from evenmark.services.times import said
from evenmark.store.models import Exercise, Issue, Revision
from evenmark.store.people import Person, SchoolClass, now

DETAILS = ("score", "checks", "numbers")
RETURNS = ("at-once", "by-hand")
OWN_SAYS = ("count", "which")
LONGEST_AHEAD = timedelta(days=3660)


def make_exercise(
    session: Session, instructor: Person, *, title: str, text: str, key_name: str, key: bytes
) -> Revision:
    """Make an exercise from a key drawing, with the requirements that the engine proposes. Raises
    NotUsable."""
    taken = read_key(instructor, title=title, key_name=key_name, key=key)
    return keep_exercise(session, instructor, taken, text=text)


def keep_exercise(session: Session, instructor: Person, taken: TakenKey, *, text: str) -> Revision:
    """Make an exercise of a key that was read."""
    exercise = Exercise(instructor_id=instructor.id)
    session.add(exercise)
    session.flush()
    revision = Revision(
        exercise_id=exercise.id,
        number=1,
        title=taken.title,
        text=told_text(text),
        key_name=taken.key_name[:255],
        key_hash=hashlib.sha256(taken.key).hexdigest(),
        key_bytes=taken.key,
        rules=stored_rules(taken.view.rules),
        sheet_png=taken.sheet,
    )
    session.add(revision)
    session.flush()
    remember(mark_of(revision, None), taken.view)
    return revision


def told_text(text: str) -> str:
    """Return what the students are told as it is kept."""
    return plain_text(text)[:20_000]


def stored_rules(rules: RulesJson) -> RulesJson:
    """Return a rule set without what is derived from the key, as it is kept."""
    return {**rules, "requirements": [plain_requirement(r) for r in rules["requirements"]]}


def own_revision(session: Session, instructor: Person, revision_id: int) -> Revision:
    """Return a revision of this instructor's exercises. Raises NotThere for any other."""
    revision = session.get(Revision, revision_id)
    if revision is None or revision.exercise.instructor_id != instructor.id:
        raise NotThere("Deleted, or not yours. Go back to Exercises.")
    return revision


def newest_revisions(session: Session, instructor: Person) -> list[Revision]:
    """Return the newest revision of each exercise, most lately changed first."""
    newest = session.scalars(
        select(Revision)
        .join(Exercise, Exercise.id == Revision.exercise_id)
        .where(Exercise.instructor_id == instructor.id)
        .options(contains_eager(Revision.exercise))
        .ext(distinct_on(Revision.exercise_id))
        .order_by(Revision.exercise_id, Revision.number.desc())
    )
    return sorted(newest, key=lambda r: (r.changed_at, r.id), reverse=True)


def issue_exercise(
    session: Session,
    instructor: Person,
    *,
    revision_id: int,
    class_id: int,
    due_at: datetime,
    tries: int,
    detail: str,
    returns: str = "at-once",
    own_checks: int = 0,
    own_says: str = "which",
) -> Issue:
    """Issue a revision to a class. From then on the revision stays as it is. Raises NotUsable."""
    revision = own_revision(session, instructor, revision_id)
    group = own_class(session, instructor, class_id)
    check_due(due_at)
    if group.archived_at is not None:
        raise NotUsable("This class is archived. Restore it first, on its page.", "archived")
    made = put_issue(session, revision, group.id, due_at=due_at, tries=tries, detail=detail, returns=returns)
    may_check(made, own_checks, own_says)
    says = f"Issued {named(revision)} to {group.name}, due {said(due_at, instructor)}."
    note(session, instructor, "issued", says, group=group, exercise_id=revision.exercise_id)
    return made


def may_check(issue: Issue, own_checks: int, own_says: str) -> None:
    """Say how often students may check their own work before handing in, and how much that says. Raises
    NotUsable."""
    if not 0 <= own_checks <= 99 or own_says not in OWN_SAYS:
        raise NotUsable("Choose how often students may check their own work, 0 to 99 times.")
    issue.own_checks, issue.own_says = own_checks, own_says


def check_due(due_at: datetime) -> None:
    """Raise NotUsable for a date without a zone, one that has passed, or one that is no date of a school."""
    if due_at.tzinfo is None:
        raise NotUsable("The due date needs its time zone. Reload the page.")
    if due_at <= now():
        raise NotUsable("The due date has passed already. Choose a later one.")
    if due_at > now() + LONGEST_AHEAD:
        raise NotUsable("The due date is more than ten years ahead. Check the year.")


def named(revision: Revision) -> str:
    """Return how the record calls a revision."""
    return f"“{revision.title}” revision {revision.number}"


def put_issue(
    session: Session,
    revision: Revision,
    class_id: int,
    *,
    due_at: datetime,
    tries: int,
    detail: str,
    issued_at: datetime | None = None,
    returns: str = "at-once",
) -> Issue:
    """Issue without asking whether the date lies ahead: for data that come with their own dates."""
    if detail not in DETAILS or not 1 <= tries <= 99:
        raise NotUsable("Choose how much students see of the result, and 1 to 99 tries.")
    if returns not in RETURNS:
        raise NotUsable("Choose whether marks are returned at once or by you.")
    if not any(r.get("on", True) and r.get("weight", 1) > 0 for r in revision.rules["requirements"]):
        raise NotUsable("No check is switched on. Switch on at least one before issuing.")
    if session.scalar(select(Issue).where(Issue.revision_id == revision.id, Issue.class_id == class_id)):
        raise NotUsable(
            "This exercise is issued to that class already. Choose another class.", "issued-already"
        )
    issue = Issue(
        revision_id=revision.id,
        class_id=class_id,
        due_at=due_at,
        tries=tries,
        detail=detail,
        returns=returns,
        issued_at=issued_at or now(),
        group_name=session.get_one(SchoolClass, class_id).name,
    )
    session.add(issue)
    if revision.issued_at is None:
        revision.issued_at = issue.issued_at
    session.flush()
    return issue
