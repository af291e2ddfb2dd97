"""Exercises."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint
from flask import Response, request
from sqlalchemy.orm import Session

from evenmark.core.marking.rules_json import FORMAT, VERSION
from evenmark.core.marking.wording import characteristic
from evenmark.services import exercises, keys, results
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.issues import issues_of
from evenmark.store.models import Revision
from evenmark.web.access import me
from evenmark.web.context import database
from evenmark.web.files import download, given_file, picture
from evenmark.web.models.base import Done
from evenmark.web.models.exercises import ExerciseChange, ExercisePage, ExerciseRows, IssueIn

routes = APIBlueprint("exercises", __name__, url_prefix="/api/exercises")


@routes.get("")
@routes.output(ExerciseRows)
def listing() -> ExerciseRows:
    """List the caller's exercises."""
    with database().transaction() as db:
        rows = results.exercise_rows(db, exercises.newest_revisions(db, me()))
        return ExerciseRows.model_validate({"exercises": rows})


@routes.post("")
@routes.output(ExercisePage)
def make() -> ExercisePage:
    """Make an exercise from a key drawing (multipart: ``file``, ``title``, ``text``)."""
    name, data = given_file()
    taken = keys.read_key(me(), title=request.form.get("title", ""), key_name=name, key=data)
    with database().transaction() as db:
        return _page(db, exercises.keep_exercise(db, me(), taken, text=request.form.get("text", "")))


@routes.get("/<int:revision_id>")
@routes.output(ExercisePage)
def page(revision_id: int) -> ExercisePage:
    """Show one revision."""
    with database().transaction() as db:
        return _page(db, exercises.own_revision(db, me(), revision_id))


@routes.patch("/<int:revision_id>")
@routes.input(ExerciseChange)
@routes.output(ExercisePage)
def change(revision_id: int, json_data: ExerciseChange) -> ExercisePage:
    """Change a revision, or begin the next one if it was issued."""
    changes = json_data.model_dump(exclude_none=True, mode="json", exclude={"based_on"})
    if "rules" in changes:
        changes["rules"] = {"format": FORMAT, "version": VERSION, **changes["rules"]}
    with database().transaction() as db:
        return _page(db, exercises.change_revision(db, me(), revision_id, changes, json_data.based_on))


def _page(db: Session, revision: Revision) -> ExercisePage:
    view = keys.key_view(revision)
    rules: dict[str, Any] = {k: v for k, v in view.rules.items() if k not in ("format", "version")}
    rules["requirements"] = [
        {**r, "name": characteristic(r["kind"], r["features"], r["layer"])} for r in rules["requirements"]
    ]
    mine = [i for i in issues_of(db, me()) if i["revision_id"] == revision.id]
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
            "rules": rules,
            "scene": view.scene,
            "reading": view.reading,
            "issues": mine,
            "files": [{"id": f.id, "part": f.part, "name": f.name} for f in revision.files],
        }
    )


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
        made = exercises.issue_exercise(
            db,
            me(),
            revision_id=revision_id,
            class_id=json_data.class_id,
            due_at=json_data.due_at,
            tries=json_data.tries,
            detail=json_data.detail,
            returns=json_data.returns,
        )
        return Done(says=f"Issued to {made.school_class.name}.")


@routes.post("/<int:revision_id>/files")
@routes.output(ExercisePage)
def add_file(revision_id: int) -> ExercisePage:
    """Give an exercise a start drawing or another key (multipart: ``file``, ``part`` start or key)."""
    name, data = given_file()
    part = request.form.get("part", "")
    if part not in ("start", "key"):
        raise NotUsable("Say whether this is the start drawing or another key.")
    with database().transaction() as db:
        revision = exercises.add_file(db, me(), revision_id, part=part, name=name, data=data)
        return _page(db, revision)


@routes.delete("/<int:revision_id>/files/<int:file_id>")
@routes.output(ExercisePage)
def remove_file(revision_id: int, file_id: int) -> ExercisePage:
    """Take a start drawing or another key away."""
    with database().transaction() as db:
        return _page(db, exercises.remove_file(db, me(), revision_id, file_id))


@routes.get("/<int:revision_id>/files/<int:file_id>")
def file(revision_id: int, file_id: int) -> Response:
    """Give a start drawing or another key back."""
    with database().transaction() as db:
        revision = exercises.own_revision(db, me(), revision_id)
        found = next((f for f in revision.files if f.id == file_id), None)
        if found is None:
            raise NotThere("This exercise has no such drawing.")
        return download(found.data, found.name)
