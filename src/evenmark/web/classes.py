"""Classes."""

from __future__ import annotations

from dataclasses import asdict

from apiflask import APIBlueprint

from evenmark.services import classes, results
from evenmark.web.access import me
from evenmark.web.context import database
from evenmark.web.files import given_file
from evenmark.web.models.base import Done
from evenmark.web.models.classes import ClassIn, ClassRow, ClassRows, RosterOut
from evenmark.web.models.results import ClassPage

routes = APIBlueprint("classes", __name__, url_prefix="/api/classes")


@routes.get("")
@routes.output(ClassRows)
def listing() -> ClassRows:
    """List the caller's classes."""
    with database().transaction() as db:
        return ClassRows.model_validate({"classes": results.classes_of(db, me())})


@routes.post("")
@routes.input(ClassIn)
@routes.output(ClassRow)
def make(json_data: ClassIn) -> ClassRow:
    """Make a class."""
    with database().transaction() as db:
        group = classes.make_class(db, me(), json_data.name)
        return ClassRow(id=group.id, name=group.name, join_code=group.join_code, students=0)


@routes.get("/<int:class_id>")
@routes.output(ClassPage)
def page(class_id: int) -> ClassPage:
    """Show one class."""
    with database().transaction() as db:
        return ClassPage.model_validate(results.class_page(db, me(), class_id))


@routes.post("/<int:class_id>/code")
@routes.output(ClassPage)
def renew_code(class_id: int) -> ClassPage:
    """Give the class a new join code."""
    with database().transaction() as db:
        classes.renew_code(db, me(), class_id)
        return ClassPage.model_validate(results.class_page(db, me(), class_id))


@routes.post("/<int:class_id>/roster")
@routes.output(RosterOut)
def roster(class_id: int) -> RosterOut:
    """Enrol everyone on a roster (multipart field ``file``, CSV)."""
    _, data = given_file()
    with database().transaction() as db:
        rows = classes.take_roster(db, me(), class_id, data)
        return RosterOut.model_validate({"rows": [asdict(r) for r in rows]})


@routes.post("/<int:class_id>/students/<int:student_id>/code")
@routes.output(ClassPage)
def new_code(class_id: int, student_id: int) -> ClassPage:
    """Give a student a one-time code to choose a new password with."""
    with database().transaction() as db:
        classes.new_code_for(db, me(), class_id, student_id)
        return ClassPage.model_validate(results.class_page(db, me(), class_id))


@routes.delete("/<int:class_id>/students/<int:student_id>")
@routes.output(Done)
def remove(class_id: int, student_id: int) -> Done:
    """Take a student out of a class."""
    with database().transaction() as db:
        classes.remove_student(db, me(), class_id, student_id)
    return Done(says="The student is no longer in the class; what they handed in is kept.")
