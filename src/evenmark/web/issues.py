"""What was issued, put right afterwards."""

from __future__ import annotations

from typing import cast

from apiflask import APIBlueprint

from evenmark.services import issue_upkeep
from evenmark.services.issue_upkeep import IssueChanges
from evenmark.web.access import me
from evenmark.web.context import database
from evenmark.web.models.base import Done
from evenmark.web.models.issues import AllowanceIn, IssueChange

routes = APIBlueprint("issues", __name__, url_prefix="/api/issues")


@routes.patch("/<int:issue_id>")
@routes.input(IssueChange)
@routes.output(Done)
def change(issue_id: int, json_data: IssueChange) -> Done:
    """Give another date or other tries, or show students more or less."""
    with database().transaction() as db:
        issue_upkeep.change_issue(
            db, me(), issue_id, cast(IssueChanges, json_data.model_dump(exclude_none=True))
        )
    return Done(says="Changed. It is in the record.")


@routes.delete("/<int:issue_id>")
@routes.output(Done)
def withdraw(issue_id: int) -> Done:
    """Take an issue back that nobody has handed in to."""
    with database().transaction() as db:
        issue_upkeep.withdraw(db, me(), issue_id)
    return Done(says="Withdrawn. The class no longer sees it.")


@routes.post("/<int:issue_id>/close")
@routes.output(Done)
def close(issue_id: int) -> Done:
    """End handing in now."""
    with database().transaction() as db:
        issue_upkeep.close(db, me(), issue_id)
    return Done(says="Closed. Only students with a later date can still hand in.")


@routes.post("/<int:issue_id>/reopen")
@routes.output(Done)
def reopen(issue_id: int) -> Done:
    """Let students hand in again."""
    with database().transaction() as db:
        issue_upkeep.reopen(db, me(), issue_id)
    return Done(says="Reopened.")


@routes.put("/<int:issue_id>/students/<int:student_id>/allowance")
@routes.input(AllowanceIn)
@routes.output(Done)
def allow(issue_id: int, student_id: int, json_data: AllowanceIn) -> Done:
    """Allow one student a later date or more tries, or take that back."""
    with database().transaction() as db:
        given = issue_upkeep.allow(
            db,
            me(),
            issue_id,
            student_id,
            due_at=json_data.due_at,
            more_tries=json_data.more_tries,
            reason=json_data.reason,
        )
    return Done(says="Allowed. It is in the record." if given else "Withdrawn. It is in the record.")
