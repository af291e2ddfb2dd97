"""Students: their work, handing in, their results. Nothing here gives geometry of a key."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response, current_app

from evenmark.services import hand_in as handing
from evenmark.services import results
from evenmark.services.errors import NotThere
from evenmark.store.models import Attempt
from evenmark.web.access import me
from evenmark.web.app import database
from evenmark.web.files import download, given_file, picture
from evenmark.web.models import HandedIn, IntakeOut, OwnResult, WorkPage, WorkRows

routes = APIBlueprint("work", __name__, url_prefix="/api/work")


@routes.get("")
@routes.output(WorkRows)
def listing() -> WorkRows:
    """List what was issued to the caller."""
    with database().transaction() as db:
        return WorkRows.model_validate({"work": results.my_work(db, me())})


@routes.get("/<int:issue_id>")
@routes.output(WorkPage)
def page(issue_id: int) -> WorkPage:
    """Show one exercise."""
    with database().transaction() as db:
        return WorkPage.model_validate(results.work_of(db, me(), issue_id))


@routes.get("/<int:issue_id>/sheet.png")
def sheet(issue_id: int) -> Response:
    """Give the sheet to draw from, as a picture."""
    with database().transaction() as db:
        return picture(handing.issue_for(db, me(), issue_id).revision.sheet_png)


@routes.post("/<int:issue_id>/intake")
@routes.output(IntakeOut)
def lay_in(issue_id: int) -> IntakeOut:
    """Lay a file in and say what is understood of it (multipart field ``file``); uses up no try."""
    name, data = given_file()
    with database().transaction() as db:
        intake, scene = handing.lay_in(db, me(), issue_id, name, data)
        return IntakeOut.model_validate(
            {"intake_id": intake.id, "file_name": intake.file_name, "reading": intake.reading, "scene": scene}
        )


@routes.post("/intakes/<int:intake_id>/hand-in")
@routes.output(HandedIn)
def hand_in(intake_id: int) -> HandedIn:
    """Hand in what was laid in."""
    with database().transaction() as db:
        attempt = handing.hand_in(db, current_app.extensions["queue"], me(), intake_id)
        return HandedIn(attempt_id=attempt.id)


@routes.get("/results/<int:attempt_id>")
@routes.output(OwnResult)
def result(attempt_id: int) -> OwnResult:
    """Show a result of the caller's."""
    with database().transaction() as db:
        return OwnResult.model_validate(results.my_result(db, me(), attempt_id))


@routes.get("/results/<int:attempt_id>/file")
def own_file(attempt_id: int) -> Response:
    """Give the caller's own attempt back as it was handed in."""
    with database().transaction() as db:
        attempt = db.get(Attempt, attempt_id)
        if attempt is None or attempt.student_id != me().id:
            raise NotThere("There is no such attempt of yours.")
        return download(attempt.data, attempt.file_name)
