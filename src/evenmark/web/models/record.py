"""The record, and files that are made to be taken away."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from evenmark.web.models.base import Model

ExportKind = Literal["feedback", "files", "class", "student"]


class RecordRow(Model):
    """Something an instructor did."""

    id: int
    at: datetime
    act: str
    says: str


class RecordOut(Model):
    """A page of the record, newest first."""

    entries: list[RecordRow]
    of: int
    page: int
    pages: int


class ExportIn(Model):
    """Which file to make: about an issue, a class or a student, by number."""

    kind: ExportKind
    number: int


class ExportOut(Model):
    """How far a file is."""

    id: int
    kind: ExportKind
    name: str
    state: Literal["waiting", "ready", "failed"]
    done: int
    of: int
    size: int
    trouble: str | None
