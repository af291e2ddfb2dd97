"""Results for instructors: desk and class results."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint
from flask import Response

from evenmark.services import results
from evenmark.services.standing import VERDICTS
from evenmark.web.access import me
from evenmark.web.context import database
from evenmark.web.files import download, table
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
        found = results.class_results(db, me(), issue_id)
    heads = [
        "student",
        "sign-in",
        "try",
        "handed in",
        "late",
        "earned",
        "possible",
        *VERDICTS,
        "returned",
        "slips",
    ]
    rows: list[list[Any]] = [[*heads, *(f"{c['id']} {c['name']}" for c in found["checks"])]]
    for row in found["students"]:
        verdicts = row["verdicts"] or {}
        when = row["handed_in_at"].isoformat(timespec="seconds") if row["handed_in_at"] else ""
        rows.append(
            [row["name"], row["sign_in"], row["try_number"] or "", when, "yes" if row["late"] else "", row["earned"], row["possible"]]
            + [verdicts.get(v, "") for v in VERDICTS]
            + [row["returned"], "; ".join(c["title"] for c in row["causes"])]
            + [v or "" for v in row["cells"] or [None] * len(found["checks"])]
        )  # fmt: skip
    return download(table(rows), f"{found['issue']['title']} {found['issue']['class_name']}.csv", "text/csv")
