"""What was issued, to whom and until when, and what is put right of it afterwards."""

from __future__ import annotations

from datetime import datetime

from pydantic import AwareDatetime, Field

from evenmark.web.models.base import Detail, Model, OwnSays, Returns


class IssueHead(Model):
    """What was issued to whom."""

    id: int
    revision_id: int
    revision: int
    title: str
    class_id: int
    class_name: str
    due_at: datetime
    issued_at: datetime
    tries: int
    detail: Detail
    returns: Returns
    own_checks: int
    own_says: OwnSays
    past_due: bool
    closed_at: datetime | None
    newer: int | None
    """The issue of a newer revision that took its place."""
    archived: bool
    """Whether the class is over."""


class IssueRow(IssueHead):
    """An issue with how far the class is."""

    students: int
    handed_in: int
    waiting: int
    failed: int
    to_return: int


class IssueIn(Model):
    """To whom, until when, how often, and how much is shown."""

    class_id: int
    due_at: AwareDatetime
    tries: int = Field(ge=1, le=99)
    detail: Detail
    returns: Returns = "at-once"
    own_checks: int = Field(default=0, ge=0, le=99)
    own_says: OwnSays = "which"


class IssueChange(Model):
    """What to change of something issued."""

    due_at: AwareDatetime | None = None
    tries: int | None = Field(default=None, ge=1, le=99)
    detail: Detail | None = None
    own_checks: int | None = Field(default=None, ge=0, le=99)
    own_says: OwnSays | None = None


class AllowanceIn(Model):
    """A later date or more tries for one student; neither takes back what was allowed."""

    due_at: AwareDatetime | None = None
    more_tries: int = Field(default=0, ge=0, le=99)
    reason: str = Field(max_length=2000)
