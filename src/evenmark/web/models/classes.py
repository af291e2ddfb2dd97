"""Classes and rosters."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from evenmark.services.room import LEAST_MB, MOST_MB
from evenmark.web.models.base import Model


class ClassIn(Model):
    """A class's name."""

    name: str = Field(max_length=200)


class ClassChange(Model):
    """What is changed of a class: its name, or how many megabytes each student's drawings may take up."""

    name: str | None = Field(default=None, max_length=200)
    student_mb: int | None = Field(default=None, ge=LEAST_MB, le=MOST_MB)


class ClassRoom(Model):
    """How many megabytes the drawings of one student may take up; how many bytes those of the class do, of
    how many."""

    student_mb: int
    used: int
    of: int


class ClassRow(Model):
    """A class in a list."""

    id: int
    name: str
    join_code: str
    students: int
    archived: bool


class ClassCopy(Model):
    """How a class is duplicated."""

    name: str = Field(max_length=200)
    students: bool


class ClassGoes(Model):
    """What is wiped with a class."""

    name: str
    students: int
    issues: int
    attempts: int
    accounts: int


class StudentGoes(Model):
    """What is wiped with a student."""

    name: str
    sign_in: str
    classes: list[str]
    attempts: int
    issues: int
    account: bool


class ClassRows(Model):
    """An instructor's classes."""

    classes: list[ClassRow]


class StudentRow(Model):
    """A student in a class; with the one-time code that is to be used yet."""

    id: int
    name: str
    sign_in: str
    code: str | None


class AskedStudent(Model):
    """A student who is asked to join and has not answered; nothing but what the roster said."""

    called: str
    sign_in: str


class RosterRow(Model):
    """What became of one row of a roster."""

    line: int
    name: str
    sign_in: str
    outcome: Literal["made", "enrolled", "asked", "known", "left-out"]
    says: str
    code: str | None


class RosterOut(Model):
    """What became of a roster."""

    rows: list[RosterRow]
