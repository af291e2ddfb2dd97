"""Results for instructors: desk and class results."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response

from evenmark.services import results
from evenmark.services.gradebook import gradebook
from evenmark.services.issues import own_issue
from evenmark.services.tables import table
from evenmark.web.access import me
from evenmark.web.context import database
from evenmark.web.files import download
from evenmark.web.models.results import ClassResults, DeskOut

routes = APIBlueprint("results", __name__, url_prefix="/api")


@routes.get("/desk")
@routes.output(DeskOut)
def desk() -> DeskOut:
    """Show what needs attention."""
    with database().transaction() as db:
        return DeskOut.model_validate(results.desk(db, me()))


@routes.get("/issues/<int:issue_id>/results")
@routes.output(ClassResults)
def class_results(issue_id: int) -> ClassResults:
    """Show a class at a glance."""
    with database().transaction() as db:
        return ClassResults.model_validate(results.class_results(db, me(), issue_id))


@routes.get("/issues/<int:issue_id>/results.csv")
def csv_results(issue_id: int) -> Response:
    """Give a class's results as CSV."""
    with database().transaction() as db:
        issue = own_issue(db, me(), issue_id)
        name = f"{issue.revision.title} {issue.school_class.name}.csv"
        return download(table(gradebook(db, me(), issue_id)), name, "text/csv")
