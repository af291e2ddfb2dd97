"""Handing in for a class at once."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from evenmark.web.models.base import Model, ReturnedWord
from evenmark.web.models.issues import IssueHead


class BatchFileOut(Model):
    """One file: how far it is, whose it is or may be, and what speaks for that."""

    id: int
    path: str
    state: Literal["reading", "unusable", "asked", "ready", "left-out", "waiting", "marked", "failed"]
    trouble: str | None
    student_id: int | None
    why: str
    notes: list[str]
    attempt_id: int | None
    earned: float | None
    possible: float | None
    returned: ReturnedWord


class BatchStudent(Model):
    """Somebody whose drawing it could be."""

    id: int
    name: str
    tries_left: int


class BatchOut(Model):
    """Files handed in for a class at once."""

    id: int
    issue: IssueHead
    created_at: datetime
    files: list[BatchFileOut]
    students: list[BatchStudent]


class DecisionIn(Model):
    """Whose a file is; nobody's when it is left out."""

    student_id: int | None


class BatchHandIn(Model):
    """Whether the files came before the due date."""

    on_time: bool = False
