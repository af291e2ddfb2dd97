"""Results for instructors: desk, class results, marking."""

from __future__ import annotations

import csv
import io

from apiflask import APIBlueprint
from flask import Response

from evenmark.services import results
from evenmark.services.errors import NotThere
from evenmark.store.models import Attempt
from evenmark.web.access import me
from evenmark.web.app import database
from evenmark.web.files import download
from evenmark.web.models import ClassResults, DeskOut, MarkingOut

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
        found = results.class_results(db, me(), issue_id)
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["student", "try", "handed in", "late", "earned", "possible", *results.VERDICTS, "slips"])
    for row in found["students"]:
        verdicts = row["verdicts"] or {}
        when = row["handed_in_at"].isoformat(timespec="seconds") if row["handed_in_at"] else ""
        writer.writerow(
            [
                _cell(row["name"]),
                row["try_number"] or "",
                when,
                "yes" if row["late"] else "",
                row["earned"],
                row["possible"],
            ]
            + [verdicts.get(v, "") for v in results.VERDICTS]
            + ["; ".join(c["title"] for c in row["causes"])]
        )
    return download(
        out.getvalue().encode("utf-8-sig"),
        f"{found['issue']['title']} {found['issue']['class_name']}.csv",
        "text/csv",
    )


def _cell(text: str) -> str:
    """Return text that no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith(("=", "+", "-", "@", "\t")) else text


@routes.get("/attempts/<int:attempt_id>")
@routes.output(MarkingOut)
def marking(attempt_id: int) -> MarkingOut:
    """Show one attempt over its key."""
    with database().transaction() as db:
        return MarkingOut.model_validate(results.attempt_in_full(db, me(), attempt_id))


@routes.get("/attempts/<int:attempt_id>/file")
def attempt_file(attempt_id: int) -> Response:
    """Give an attempt as it was handed in."""
    with database().transaction() as db:
        attempt = db.get(Attempt, attempt_id)
        if attempt is None:
            raise NotThere("There is no such attempt.")
        results.own_issue(db, me(), attempt.issue_id)
        return download(attempt.data, attempt.file_name)
