"""Classes and rosters."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from evenmark.web.models.base import Model


class ClassIn(Model):
    """A class's name."""

    name: str = Field(max_length=200)


class ClassRow(Model):
    """A class in a list."""

    id: int
    name: str
    join_code: str
    students: int


class ClassRows(Model):
    """An instructor's classes."""

    classes: list[ClassRow]


class StudentRow(Model):
    """A student in a class."""

    id: int
    name: str
    sign_in: str


class RosterRow(Model):
    """What became of one row of a roster."""

    line: int
    name: str
    sign_in: str
    outcome: Literal["made", "enrolled", "known", "left-out"]
    says: str
    password: str | None


class RosterOut(Model):
    """What became of a roster."""

    rows: list[RosterRow]
