"""Exercises and their revisions: put a key in, decide what counts, issue to a class."""

from __future__ import annotations

import hashlib
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import RuleError
from evenmark.services.bounded import run_bounded
from evenmark.services.classes import own_class
from evenmark.services.engine_work import draw_sheet, look_at, view_key
from evenmark.services.errors import NotThere, NotUsable, Outdated
from evenmark.services.keys import (
    TakenKey,
    examined,
    mark_of,
    read_key,
    remember,
    start_of,
    title_of,
    unbound,
)
from evenmark.services.names import plain_text
from evenmark.store.models import Exercise, Issue, Person, Revision, RevisionFile, now

DETAILS = ("score", "checks", "numbers")
RETURNS = ("at-once", "by-hand")
MOST_KEYS = 7
"""Keys accepted beside the first one."""


def make_exercise(
    session: Session, instructor: Person, *, title: str, text: str, key_name: str, key: bytes
) -> Revision:
    """Make an exercise from a key drawing, with the requirements that the engine proposes. Raises NotUsable."""
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
        text=plain_text(text)[:20_000],
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


def stored_rules(rules: dict[str, Any]) -> dict[str, Any]:
    """Return a rule set without what is derived from the key, as it is kept."""
    kept = [{k: v for k, v in r.items() if k not in ("marks", "expected")} for r in rules["requirements"]]
    return {**rules, "requirements": kept}


def own_revision(session: Session, instructor: Person, revision_id: int) -> Revision:
    """Return a revision of this instructor's exercises. Raises NotThere for any other."""
    revision = session.get(Revision, revision_id)
    if revision is None or revision.exercise.instructor_id != instructor.id:
        raise NotThere("There is no such exercise among yours.")
    return revision


def newest_revisions(session: Session, instructor: Person) -> list[Revision]:
    """Return the newest revision of each exercise, most lately changed first."""
    exercises = session.scalars(select(Exercise).where(Exercise.instructor_id == instructor.id)).all()
    newest = [e.revisions[-1] for e in exercises if e.revisions]
    return sorted(newest, key=lambda r: (r.changed_at, r.id), reverse=True)


def change_revision(
    session: Session,
    instructor: Person,
    revision_id: int,
    changes: dict[str, Any],
    based_on: datetime | None = None,
) -> Revision:
    """Change what an exercise says or examines. An issued revision never changes: the next one is made and changed.

    ``based_on`` is when the revision had last changed as the one who changes it knows it. Raises Outdated when somebody changed it since;
    NotUsable for a rule set that does not fit the key.
    """
    revision = _changeable(session, instructor, revision_id, based_on)
    if "title" in changes:
        revision.title = title_of(changes["title"])
    if "text" in changes:
        revision.text = plain_text(str(changes["text"]))[:20_000]
    turned = "rules" in changes and examined(changes["rules"]) != examined(revision.rules)
    if "rules" in changes:
        # the sheet has other features than the model: what counts is then proposed anew
        rules = unbound(changes["rules"]) if turned else changes["rules"]
        try:
            view = run_bounded(view_key, revision.key_bytes, revision.key_name, rules, start_of(revision))
        except RuleError as why:
            raise NotUsable(str(why), "rules") from why
        if turned and not view.scene["features"] and not view.scene["texts"]:
            raise NotUsable(
                "There is nothing on a sheet layout of the key. Draw the sheet in the key, and put that in as a new exercise."
            )
        revision.rules = stored_rules(view.rules)
    if "title" in changes or turned:
        revision.sheet_png = run_bounded(
            draw_sheet, revision.key_bytes, revision.title, instructor.school, examined(revision.rules)
        )
    revision.changed_at = now()
    session.flush()
    return revision


def _changeable(
    session: Session, instructor: Person, revision_id: int, based_on: datetime | None = None
) -> Revision:
    """Return the revision to change: the newest, or the next one when that is issued. Raises Outdated for an older one."""
    revision = own_revision(session, instructor, revision_id)
    session.execute(select(Exercise.id).where(Exercise.id == revision.exercise_id).with_for_update())
    session.refresh(revision, ["changed_at"])
    session.expire(revision.exercise, ["revisions"])
    if revision.exercise.revisions[-1].id != revision.id:
        raise Outdated(
            "There is a newer revision of this exercise. Open that one to change it.", "newer-revision"
        )
    if based_on is not None and revision.changed_at != based_on:
        raise Outdated("This exercise was changed meanwhile, in another window or by somebody else.")
    return revision if revision.issued_at is None else _next_revision(session, revision)


def add_file(
    session: Session, instructor: Person, revision_id: int, *, part: str, name: str, data: bytes
) -> Revision:
    """Give an exercise a start drawing (in place of the one before), or another key that is accepted as well. Raises NotUsable.

    A start drawing changes what is left to draw, so what counts is proposed anew.
    """
    revision = _changeable(session, instructor, revision_id)
    if part == "key" and len(revision.other_keys) >= MOST_KEYS:
        raise NotUsable(f"At most {MOST_KEYS + 1} keys are accepted side by side.")
    try:
        refusal = run_bounded(look_at, data, name, examined(revision.rules)).refusal
        if refusal:
            raise NotUsable(refusal.says, refusal.code)
        if part == "key":
            run_bounded(view_key, data, name, unbound(revision.rules), start_of(revision))
    except UnreadableDrawing as why:
        raise NotUsable(why.says, why.code) from why
    except RuleError as why:
        raise NotUsable(str(why), "rules") from why
    if part == "start":
        revision.files = [f for f in revision.files if f.part != "start"]
    revision.files.append(
        RevisionFile(part=part, name=name[:255], sha256=hashlib.sha256(data).hexdigest(), data=data)
    )
    if part == "start":
        _propose_anew(revision)
    revision.changed_at = now()
    session.flush()
    return revision


def remove_file(session: Session, instructor: Person, revision_id: int, file_id: int) -> Revision:
    """Take a start drawing or a further key away again. Raises NotThere."""
    old = own_revision(session, instructor, revision_id)
    going = next((f for f in old.files if f.id == file_id), None)
    if going is None:
        raise NotThere("This exercise has no such drawing any more.")
    part, sha256 = going.part, going.sha256
    revision = _changeable(session, instructor, revision_id)
    revision.files = [f for f in revision.files if (f.part, f.sha256) != (part, sha256)]
    if part == "start":
        _propose_anew(revision)
    revision.changed_at = now()
    session.flush()
    return revision


def _propose_anew(revision: Revision) -> None:
    view = run_bounded(
        view_key, revision.key_bytes, revision.key_name, unbound(revision.rules), start_of(revision)
    )
    revision.rules = stored_rules(view.rules)


def _next_revision(session: Session, old: Revision) -> Revision:
    revision = Revision(
        exercise=old.exercise,
        number=old.number + 1,
        title=old.title,
        text=old.text,
        key_name=old.key_name,
        key_hash=old.key_hash,
        key_bytes=old.key_bytes,
        rules=old.rules,
        sheet_png=old.sheet_png,
        files=[RevisionFile(part=f.part, name=f.name, sha256=f.sha256, data=f.data) for f in old.files],
    )
    session.add(revision)
    session.flush()
    return revision


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
) -> Issue:
    """Issue a revision to a class. From then on the revision stays as it is. Raises NotUsable."""
    revision = own_revision(session, instructor, revision_id)
    group = own_class(session, instructor, class_id)
    if due_at.tzinfo is None:
        raise NotUsable("The due date needs its time zone.")
    if due_at <= now():
        raise NotUsable("The due date has passed already. Choose a later one.")
    return put_issue(session, revision, group.id, due_at=due_at, tries=tries, detail=detail, returns=returns)


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
        raise NotUsable("This exercise is issued to that class already.", "issued-already")
    issue = Issue(
        revision_id=revision.id,
        class_id=class_id,
        due_at=due_at,
        tries=tries,
        detail=detail,
        returns=returns,
        issued_at=issued_at or now(),
    )
    session.add(issue)
    if revision.issued_at is None:
        revision.issued_at = issue.issued_at
    session.flush()
    return issue
