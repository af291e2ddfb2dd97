"""A class's grades at one issue as a table: for the spreadsheet or the school's own system."""

from __future__ import annotations

from sqlalchemy.orm import Session

from evenmark.services.results import class_results
from evenmark.services.standing import VERDICTS
from evenmark.services.times import offset, zone_of
from evenmark.store.people import Person

HEADS = (
    "student",
    "sign-in",
    "try",
    "handed in",
    "zone",
    "late",
    "earned",
    "possible",
    *VERDICTS,
    "returned",
    "slips",
)

Line = list[str | int | float | None]


def gradebook(session: Session, instructor: Person, issue_id: int) -> list[Line]:
    """Return a heading row and one row a student, with a column for every check; times in the school's
    zone."""
    found = class_results(session, instructor, issue_id)
    zone = zone_of(instructor)
    rows: list[Line] = [[*HEADS, *(f"{c.id} {c.name}" for c in found.checks)]]
    for row in found.students:
        verdicts = row.verdicts or {}
        at = row.handed_in_at.astimezone(zone) if row.handed_in_at else None
        rows.append(
            [
                row.name,
                row.sign_in,
                row.try_number or "",
                f"{at:%Y-%m-%d %H:%M:%S}" if at else "",
                offset(at),
            ]
            + ["yes" if row.late else "", row.earned, row.possible]
            + [verdicts.get(v, "") for v in VERDICTS]
            + [row.returned, "; ".join(c.title for c in row.causes)]
            + [v or "" for v in row.cells or [None] * len(found.checks)]
        )
    return rows
