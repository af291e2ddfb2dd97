"""What all models of requests and responses share."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

Point = tuple[float, float]
Verdict = Literal["met", "near", "missed", "absent", "follows"]
Detail = Literal["score", "checks", "numbers"]
State = Literal["none", "waiting", "marked", "failed", "kept"]
"""``kept`` is what a student sees of an attempt that is marked and not returned yet."""
Examines = Literal["model", "sheet"]
Returns = Literal["at-once", "by-hand"]
OwnSays = Literal["count", "which"]
"""How much a check of one's own work says."""
ReturnedWord = Literal["no", "yes", "changed"]


class Model(BaseModel):
    """Root of all: unknown fields are refused."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)


class Problem(Model):
    """Why a request was refused: a code for the page, a sentence for the person."""

    code: str
    says: str


class AwayIn(Model):
    """Whether something is put away, or brought back."""

    away: bool


class Done(Model):
    """It is done."""

    says: str


class YourStepOut(Model):
    """A step of the board that drew something, and how the board calls what it drew."""

    step: int
    says: str
