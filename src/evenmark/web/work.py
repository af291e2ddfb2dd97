"""Students: their work, handing in, their results. Nothing here gives geometry of a key."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response, request

from evenmark.services import hand_in as handing
from evenmark.services import own_results, own_work, prints
from evenmark.services.errors import NotThere
from evenmark.services.keys import make_ready
from evenmark.web.access import me
from evenmark.web.context import database, queue
from evenmark.web.files import download, given_file, picture
from evenmark.web.models.work import HandedIn, IntakeOut, OwnResult, WorkPage, WorkRows
from evenmark.web.once import once

routes = APIBlueprint("work", __name__, url_prefix="/api/work")


@routes.get("")
@routes.output(WorkRows)
def listing() -> WorkRows:
    """List what was issued to the caller."""
    with database().transaction() as db:
        return WorkRows.model_validate({"work": own_work.my_work(db, me())})


@routes.get("/<int:issue_id>")
@routes.output(WorkPage)
def page(issue_id: int) -> WorkPage:
    """Show one exercise."""
    make_ready(database(), lambda db: (handing.readable_issue(db, me(), issue_id).revision, 0))
    with database().transaction() as db:
        return WorkPage.model_validate(own_work.work_of(db, me(), issue_id))


@routes.get("/<int:issue_id>/sheet.png")
def sheet(issue_id: int) -> Response:
    """Give the sheet to draw from, as a picture."""
    with database().transaction() as db:
        return picture(handing.readable_issue(db, me(), issue_id).revision.sheet_png)


@routes.get("/<int:issue_id>/sheet.pdf")
def sheet_pdf(issue_id: int) -> Response:
    """Give the sheet as PDF at true scale; ``?paper=A3`` on that paper."""
    with database().transaction() as db:
        issue = handing.readable_issue(db, me(), issue_id)
        wanted = prints.sheet(
            issue.revision, issue.school_class.instructor.school, request.args.get("paper", "")
        )
    return download(wanted.made(), wanted.name, prints.TYPES["pdf"])


@routes.post("/<int:issue_id>/intake")
@routes.output(IntakeOut)
def lay_in(issue_id: int) -> IntakeOut:
    """Lay a file in and say what is understood of it (multipart field ``file``); uses up no try."""
    name, data = given_file()
    with database().transaction() as db:
        examines = handing.may_lay_in(db, me(), issue_id)
    reading, scene = handing.look(data, name, examines)
    with database().transaction() as db:
        intake = handing.keep_intake(db, me(), issue_id, name, data, reading)
        return IntakeOut.model_validate(
            {"intake_id": intake.id, "file_name": intake.file_name, "reading": intake.reading, "scene": scene}
        )


@routes.post("/intakes/<int:intake_id>/hand-in")
@routes.output(HandedIn)
def hand_in(intake_id: int) -> HandedIn:
    """Hand in what was laid in."""
    with database().transaction() as db:
        return HandedIn.model_validate(
            once(db, lambda: {"attempt_id": handing.hand_in(db, queue(), me(), intake_id).id})
        )


@routes.get("/results/<int:attempt_id>")
@routes.output(OwnResult)
def result(attempt_id: int) -> OwnResult:
    """Show a result of the caller's."""
    with database().transaction() as db:
        return OwnResult.model_validate(own_results.my_result(db, me(), attempt_id))


@routes.get("/results/<int:attempt_id>/file")
def own_file(attempt_id: int) -> Response:
    """Give the caller's own attempt back as it was handed in."""
    with database().transaction() as db:
        attempt = own_results.own_attempt_of(db, me(), attempt_id)
        return download(attempt.data, attempt.file_name)


@routes.get("/results/<int:attempt_id>/marked.<any(pdf, dxf):form>")
def own_marked(attempt_id: int, form: str) -> Response:
    """Give the caller's returned drawing with its marks, as PDF at true scale or as DXF."""
    with database().transaction() as db:
        wanted = prints.own_marked(db, me(), attempt_id, form)
    return download(wanted.made(), wanted.name, prints.TYPES[form])


@routes.get("/<int:issue_id>/start")
def start(issue_id: int) -> Response:
    """Give the start drawing."""
    with database().transaction() as db:
        given = handing.readable_issue(db, me(), issue_id).revision.start
        if given is None:
            raise NotThere("This exercise has no start drawing. Begin with an empty one.")
        return download(given.data, given.name)
