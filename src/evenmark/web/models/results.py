"""Results as the instructor sees them."""

from __future__ import annotations

from datetime import datetime

from evenmark.web.models.base import Model, ReturnedWord, State, Verdict
from evenmark.web.models.classes import AskedStudent, ClassRoom, ClassRow, StudentRow
from evenmark.web.models.issues import IssueHead, IssueRow


class Latest(Model):
    """An attempt that came in lately."""

    attempt_id: int
    issue_id: int
    student: str
    title: str
    class_name: str
    handed_in_at: datetime
    state: State
    earned: float | None
    possible: float | None


class CauseCount(Model):
    """A slip and how many drawings show it."""

    code: str
    title: str
    students: int


class DeskOut(Model):
    """What needs attention now."""

    issues: list[IssueRow]
    latest: list[Latest]
    causes: list[CauseCount]


class CauseTitle(Model):
    """A slip by name."""

    code: str
    title: str


class AllowanceOut(Model):
    """What a student was allowed beyond the others."""

    due_at: datetime | None
    more_tries: int
    reason: str


class ResultRow(Model):
    """A student in a class's results."""

    student_id: int
    name: str
    sign_in: str
    left: bool
    """Whether the student was taken out of the class since."""
    attempt_id: int | None
    try_number: int
    handed_in_at: datetime | None
    late: bool
    state: State
    trouble: str | None
    verdicts: dict[Verdict, int] | None
    cells: list[Verdict | None]
    """One verdict a check, in the order of ``checks``; empty when there is no mark sheet."""
    key: int
    by_hand: list[int]
    returned: ReturnedWord
    causes: list[CauseTitle]
    earned: float | None
    possible: float | None
    allowance: AllowanceOut | None


class MissedCheck(Model):
    """A check that many missed."""

    finding: int
    name: str
    students: int
    of: int
    first: int | None


class MadeSlip(Model):
    """A slip that many made."""

    code: str
    title: str
    students: int
    of: int
    first: int | None


class CheckOut(Model):
    """A column of the grid."""

    id: int
    kind: str
    name: str
    features: list[str] = []
    possible: float
    missed: int


class OpenBatch(Model):
    """A hand-in for the class that is not finished."""

    id: int
    created_at: datetime
    left: int
    of: int


class ClassResults(Model):
    """A class at a glance."""

    issue: IssueHead
    students: list[ResultRow]
    checks: list[CheckOut]
    missed: list[MissedCheck]
    slips: list[MadeSlip]
    outdated: int
    batches: list[OpenBatch]


class ClassPage(ClassRow):
    """One class in full."""

    students: list[StudentRow]  # type: ignore[assignment]
    asked: list[AskedStudent]
    left: list[StudentRow]
    issues: list[IssueRow]
    room: ClassRoom
