"""Accounts and sessions."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from evenmark.web.models.base import Model


class SignInIn(Model):
    """Name and password."""

    sign_in: str = Field(max_length=200)
    password: str = Field(max_length=400)
    zone: str = Field(default="", max_length=100)
    """The browser's time zone: an instructor's school has it until another is chosen."""


class JoinIn(Model):
    """A new student account, made with a class's join code."""

    code: str = Field(max_length=20)
    name: str = Field(max_length=200)
    sign_in: str = Field(max_length=200)
    password: str = Field(max_length=400)


class CodeIn(Model):
    """A join code."""

    code: str = Field(max_length=20)


class FirstCodeIn(Model):
    """A one-time code and the password that is chosen with it."""

    code: str = Field(max_length=40)
    password: str = Field(max_length=400)


class ForgottenIn(Model):
    """Whose password was forgotten."""

    sign_in: str = Field(max_length=200)


class AskedRow(Model):
    """A class that somebody is asked to join."""

    class_id: int
    class_name: str
    instructor: str


class AskedRows(Model):
    """The classes that the caller is asked to join."""

    asked: list[AskedRow]


class AnswerIn(Model):
    """Whether to join."""

    join: bool


class PasswordIn(Model):
    """The present password and the next."""

    old: str = Field(max_length=400)
    new: str = Field(max_length=400)


class PersonOut(Model):
    """Who somebody is."""

    id: int
    name: str
    sign_in: str
    role: Literal["instructor", "student"]
    school: str
    zone: str
    decimal_comma: bool


class NumbersIn(Model):
    """How somebody writes numbers."""

    decimal_comma: bool


class ZoneIn(Model):
    """The time zone of an instructor's school, by its name in the tz database."""

    zone: str = Field(max_length=100)


class SchoolIn(Model):
    """What stands as school on an instructor's sheets."""

    school: str = Field(max_length=200)


class SessionOut(Model):
    """Who is signed in, if anybody, and what pages must send along with every change."""

    person: PersonOut | None
    guard: str | None
