"""Classes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict

from apiflask import APIBlueprint
from sqlalchemy.orm import Session

from evenmark.services import class_upkeep, classes, lists, wiping
from evenmark.store.people import SchoolClass
from evenmark.web.access import me
from evenmark.web.context import database
from evenmark.web.files import given_file
from evenmark.web.models.base import AwayIn, Done
from evenmark.web.models.classes import (
    ClassChange,
    ClassCopy,
    ClassGoes,
    ClassIn,
    ClassRow,
    ClassRows,
    RosterOut,
    StudentGoes,
)
from evenmark.web.models.results import ClassPage
from evenmark.web.once import done_once, once

routes = APIBlueprint("classes", __name__, url_prefix="/api/classes")


@routes.get("")
@routes.output(ClassRows)
def listing() -> ClassRows:
    """List the caller's classes."""
    with database().transaction() as db:
        return ClassRows.model_validate({"classes": lists.classes_of(db, me())})


@routes.post("")
@routes.input(ClassIn)
@routes.output(ClassRow)
def make(json_data: ClassIn) -> ClassRow:
    """Make a class."""
    with database().transaction() as db:
        return _made(db, lambda: classes.make_class(db, me(), json_data.name))


def _made(db: Session, make_one: Callable[[], SchoolClass]) -> ClassRow:
    """Make a class, once."""

    def made() -> dict[str, object]:
        group = make_one()
        return asdict(lists.class_head(group, len(classes.students_of(db, group.id))))

    return ClassRow.model_validate(once(db, made))


@routes.patch("/<int:class_id>")
@routes.input(ClassChange)
@routes.output(ClassPage)
def rename(class_id: int, json_data: ClassChange) -> ClassPage:
    """Give a class another name, or its students more room for drawings."""
    with database().transaction() as db:
        if json_data.name is not None:
            class_upkeep.rename(db, me(), class_id, json_data.name)
        if json_data.student_mb is not None:
            class_upkeep.give_room(db, me(), class_id, json_data.student_mb)
        return ClassPage.model_validate(lists.class_page(db, me(), class_id))


@routes.post("/<int:class_id>/archive")
@routes.input(AwayIn)
@routes.output(ClassPage)
def archive(class_id: int, json_data: AwayIn) -> ClassPage:
    """End a class, or bring it back."""
    with database().transaction() as db:
        class_upkeep.archive(db, me(), class_id, away=json_data.away)
        return ClassPage.model_validate(lists.class_page(db, me(), class_id))


@routes.post("/<int:class_id>/duplicate")
@routes.input(ClassCopy)
@routes.output(ClassRow)
def duplicate(class_id: int, json_data: ClassCopy) -> ClassRow:
    """Make a new class like this one, with its students if wanted."""
    with database().transaction() as db:
        return _made(
            db,
            lambda: class_upkeep.duplicate(db, me(), class_id, json_data.name, students=json_data.students),
        )


@routes.get("/<int:class_id>/deletion")
@routes.output(ClassGoes)
def deletion(class_id: int) -> ClassGoes:
    """Say what would be wiped with a class."""
    with database().transaction() as db:
        return ClassGoes.model_validate(wiping.what_goes_of_class(db, me(), class_id))


@routes.delete("/<int:class_id>")
@routes.output(Done)
def delete(class_id: int) -> Done:
    """Delete a class with everything that was handed in to it."""
    with database().transaction() as db:
        wiping.wipe_class(db, me(), class_id)
    return Done(says="Class deleted, with all its drawings.")


@routes.get("/students/<int:student_id>/deletion")
@routes.output(StudentGoes)
def student_deletion(student_id: int) -> StudentGoes:
    """Say what would be wiped with a student."""
    with database().transaction() as db:
        return StudentGoes.model_validate(wiping.what_goes_of_student(db, me(), student_id))


@routes.delete("/students/<int:student_id>")
@routes.output(Done)
def wipe(student_id: int) -> Done:
    """Wipe everything of a student in the caller's classes."""
    with database().transaction() as db:
        wiping.wipe_student(db, me(), student_id)
    return Done(says="Student data deleted.")


@routes.get("/<int:class_id>")
@routes.output(ClassPage)
def page(class_id: int) -> ClassPage:
    """Show one class."""
    with database().transaction() as db:
        return ClassPage.model_validate(lists.class_page(db, me(), class_id))


@routes.post("/<int:class_id>/code")
@routes.output(ClassPage)
def renew_code(class_id: int) -> ClassPage:
    """Give the class a new join code."""
    with database().transaction() as db:
        done_once(db, lambda: classes.renew_code(db, me(), class_id))
        return ClassPage.model_validate(lists.class_page(db, me(), class_id))


@routes.post("/<int:class_id>/roster")
@routes.output(RosterOut)
def roster(class_id: int) -> RosterOut:
    """Enrol everyone on a roster (multipart field ``file``, CSV)."""
    _, data = given_file()
    with database().transaction() as db:
        rows = classes.take_roster(db, me(), class_id, data)  # taken once more, it changes nothing
        return RosterOut.model_validate({"rows": [asdict(r) for r in rows]})


@routes.post("/<int:class_id>/students/<int:student_id>/code")
@routes.output(ClassPage)
def new_code(class_id: int, student_id: int) -> ClassPage:
    """Give a student a one-time code to choose a new password with."""
    with database().transaction() as db:
        done_once(db, lambda: classes.new_code_for(db, me(), class_id, student_id))
        return ClassPage.model_validate(lists.class_page(db, me(), class_id))


@routes.delete("/<int:class_id>/students/<int:student_id>")
@routes.output(Done)
def remove(class_id: int, student_id: int) -> Done:
    """Take a student out of a class."""
    with database().transaction() as db:
        classes.remove_student(db, me(), class_id, student_id)
    return Done(says="Student removed. Their drawings are kept.")
