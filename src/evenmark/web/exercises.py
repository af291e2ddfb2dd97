"""Exercises."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, cast

from apiflask import APIBlueprint
from flask import Response, request
from sqlalchemy.orm import Session

from evenmark.core.marking.rules_json import FORMAT
from evenmark.core.marking.wording import centre_lines, for_reader, named
from evenmark.services import exercise_edit, exercise_upkeep, exercises, keys, lists, prints
from evenmark.services.errors import NotUsable
from evenmark.services.exercise_edit import Changes, ExerciseEdit
from evenmark.services.issues import issues_of
from evenmark.store.models import Issue, Revision
from evenmark.web.access import me
from evenmark.web.context import database
from evenmark.web.files import download, given_file, picture
from evenmark.web.models.base import AwayIn, Done
from evenmark.web.models.exercises import (
    ExerciseChange,
    ExerciseGoes,
    ExercisePage,
    ExerciseRows,
)
from evenmark.web.models.issues import IssueIn
from evenmark.web.models.proof import CostsOut, ProofOut
from evenmark.web.once import answered, once

routes = APIBlueprint("exercises", __name__, url_prefix="/api/exercises")


@routes.get("")
@routes.output(ExerciseRows)
def listing() -> ExerciseRows:
    """List the caller's exercises."""
    with database().transaction() as db:
        rows = lists.exercise_rows(db, exercises.newest_revisions(db, me()))
        return ExerciseRows.model_validate({"exercises": rows})


@routes.post("")
@routes.output(ExercisePage)
def make() -> ExercisePage:
    """Make an exercise from a key drawing (multipart: ``file``, ``title``, ``text``)."""
    name, data = given_file()
    taken = keys.read_key(me(), title=request.form.get("title", ""), key_name=name, key=data)
    return _made(lambda db: exercises.keep_exercise(db, me(), taken, text=request.form.get("text", "")))


def _made(make_one: Callable[[Session], Revision]) -> ExercisePage:
    """Make an exercise, once, and show it."""
    with database().transaction() as db:
        kept = once(db, lambda: {"revision": make_one(db).id})
    return page_of(cast(int, kept["revision"]))


@routes.get("/<int:revision_id>")
@routes.output(ExercisePage)
def page(revision_id: int) -> ExercisePage:
    """Show one revision."""
    return page_of(revision_id)


@routes.patch("/<int:revision_id>")
@routes.input(ExerciseChange)
@routes.output(ExercisePage)
def change(revision_id: int, json_data: ExerciseChange) -> ExercisePage:
    """Change a revision, or begin the next one if it was issued."""
    sent = json_data.model_dump(exclude_none=True, mode="json", exclude={"based_on"})
    changes = cast(Changes, sent)
    if "rules" in changes:
        changes["rules"] = {"format": FORMAT, **changes["rules"]}
    words = set(changes) <= exercise_edit.WORDS
    with database().transaction() as db:
        basis = exercise_edit.begin(db, me(), revision_id, json_data.based_on, words=words)
    return _kept(exercise_edit.changed(basis, changes))


def _kept(edit: ExerciseEdit) -> ExercisePage:
    """Keep a change that was worked through, and show what it led to."""
    with database().transaction() as db:
        revision_id = exercise_edit.keep(db, me(), edit).id
    return page_of(revision_id)


def page_of(revision_id: int) -> ExercisePage:
    """Return a revision as its page shows it."""
    _make_ready(revision_id)
    with database().transaction() as db:
        return _page(db, exercises.own_revision(db, me(), revision_id))


def _make_ready(revision_id: int) -> None:
    keys.make_ready(database(), lambda db: (exercises.own_revision(db, me(), revision_id), 0))


def _page(db: Session, revision: Revision) -> ExercisePage:
    view = keys.key_view(revision)
    rules: dict[str, Any] = {k: v for k, v in view.rules.items() if k not in ("format", "version")}
    centre = centre_lines(rules["requirements"])
    rules["names"] = dict(view.names)
    rules["requirements"] = [
        {**for_reader(r), "tolerance": r["tolerance"], "name": named(r, centre)}
        for r in rules["requirements"]
    ]
    mine = issues_of(db, me(), revision_id=revision.id)
    return ExercisePage.model_validate(
        {
            "revision_id": revision.id,
            "exercise_id": revision.exercise_id,
            "number": revision.number,
            "newest": revision.exercise.revisions[-1].id,
            "title": revision.title,
            "text": revision.text,
            "key_name": revision.key_name,
            "issued_at": revision.issued_at,
            "changed_at": revision.changed_at,
            "archived": revision.exercise.archived_at is not None,
            "rules": rules,
            "scene": view.scene,
            "reading": view.reading,
            "flaws": view.flaws,
            "issues": mine,
            "files": [{"id": f.id, "part": f.part, "name": f.name} for f in revision.files],
        }
    )


@routes.get("/<int:revision_id>/proof")
@routes.output(ProofOut)
def proof(revision_id: int) -> ProofOut:
    """Say whether the sheet says every size once."""
    with database().transaction() as db:
        key = keys.to_prove(exercises.own_revision(db, me(), revision_id))
    return ProofOut.model_validate(keys.proof_of(key))


@routes.get("/<int:revision_id>/costs")
@routes.output(CostsOut)
def costs(revision_id: int) -> CostsOut:
    """Say what typical slips would cost."""
    with database().transaction() as db:
        key = keys.to_cost(exercises.own_revision(db, me(), revision_id))
    return CostsOut.model_validate({"slips": keys.costs_of(key)})


@routes.get("/<int:revision_id>/sheet.png")
def sheet(revision_id: int) -> Response:
    """Give the exercise sheet as the students get it."""
    with database().transaction() as db:
        return picture(exercises.own_revision(db, me(), revision_id).sheet_png)


@routes.get("/<int:revision_id>/key.dxf")
def key_file(revision_id: int) -> Response:
    """Give the key's own file."""
    with database().transaction() as db:
        revision = exercises.own_revision(db, me(), revision_id)
        return download(revision.key_bytes, revision.key_name)


@routes.post("/<int:revision_id>/issues")
@routes.input(IssueIn)
@routes.output(Done)
def issue(revision_id: int, json_data: IssueIn) -> Done:
    """Issue a revision to a class."""
    with database().transaction() as db:
        before = answered(db)
        if before is not None:
            return Done.model_validate(before)
        key = keys.to_prove(exercises.own_revision(db, me(), revision_id))
    keys.see_decided(key)

    def issued(db: Session) -> Issue:
        return exercises.issue_exercise(
            db,
            me(),
            revision_id=revision_id,
            class_id=json_data.class_id,
            due_at=json_data.due_at,
            tries=json_data.tries,
            detail=json_data.detail,
            returns=json_data.returns,
            own_checks=json_data.own_checks,
            own_says=json_data.own_says,
        )

    with database().transaction() as db:
        return Done.model_validate(once(db, lambda: {"says": f"Issued to {issued(db).school_class.name}."}))


@routes.post("/<int:revision_id>/files")
@routes.output(ExercisePage)
def add_file(revision_id: int) -> ExercisePage:
    """Give an exercise a start drawing or another key (multipart: ``file``, ``part`` start or key)."""
    name, data = given_file()
    part = request.form.get("part", "")
    if part not in ("start", "key"):
        raise NotUsable("Choose whether this is the start drawing or another key.")
    with database().transaction() as db:
        basis = exercise_edit.begin(db, me(), revision_id)
    return _kept(exercise_edit.with_file(basis, part=part, name=name, data=data))


@routes.delete("/<int:revision_id>/files/<int:file_id>")
@routes.output(ExercisePage)
def remove_file(revision_id: int, file_id: int) -> ExercisePage:
    """Take a start drawing or another key away."""
    with database().transaction() as db:
        going = exercise_edit.file_of(db, me(), revision_id, file_id)
        basis = exercise_edit.begin(db, me(), revision_id)
    return _kept(exercise_edit.without_file(basis, going.part, going.sha256))


@routes.get("/<int:revision_id>/files/<int:file_id>")
def file(revision_id: int, file_id: int) -> Response:
    """Give a start drawing or another key back."""
    with database().transaction() as db:
        found = exercise_edit.file_of(db, me(), revision_id, file_id)
        return download(found.data, found.name)


@routes.get("/<int:revision_id>/sheet.pdf")
def sheet_pdf(revision_id: int) -> Response:
    """Give the sheet as PDF at true scale; ``?paper=A3`` on that paper."""
    with database().transaction() as db:
        revision = exercises.own_revision(db, me(), revision_id)
        wanted = prints.sheet(revision, me().school, request.args.get("paper", ""))
    return download(wanted.made(), wanted.name, prints.TYPES["pdf"])


@routes.post("/<int:revision_id>/archive")
@routes.input(AwayIn)
@routes.output(Done)
def archive(revision_id: int, json_data: AwayIn) -> Done:
    """Put an exercise away, or bring it back."""
    with database().transaction() as db:
        exercise = exercises.own_revision(db, me(), revision_id).exercise_id
        exercise_upkeep.archive(db, me(), exercise, away=json_data.away)
    return Done(says="Exercise archived." if json_data.away else "Exercise restored.")


@routes.post("/<int:revision_id>/duplicate")
@routes.output(ExercisePage)
def duplicate(revision_id: int) -> ExercisePage:
    """Make a new exercise like this one (multipart: ``title``; ``file`` for another key)."""
    title = request.form.get("title", "")
    with database().transaction() as db:
        exercise = exercises.own_revision(db, me(), revision_id).exercise_id
    if "file" not in request.files:
        return _made(lambda db: exercise_upkeep.duplicate(db, me(), exercise, title))
    name, data = given_file()
    taken = keys.read_key(me(), title=title, key_name=name, key=data)
    return _made(lambda db: exercise_upkeep.duplicate_with_key(db, me(), exercise, taken))


@routes.get("/<int:revision_id>/deletion")
@routes.output(ExerciseGoes)
def deletion(revision_id: int) -> ExerciseGoes:
    """Say what would be deleted with an exercise."""
    with database().transaction() as db:
        exercise = exercises.own_revision(db, me(), revision_id).exercise_id
        return ExerciseGoes.model_validate(exercise_upkeep.what_goes(db, me(), exercise))


@routes.delete("/<int:revision_id>")
@routes.output(Done)
def delete(revision_id: int) -> Done:
    """Delete an exercise with everything that was handed in of it."""
    with database().transaction() as db:
        exercise = exercises.own_revision(db, me(), revision_id).exercise_id
        exercise_upkeep.delete(db, me(), exercise)
    return Done(says="Exercise deleted.")
