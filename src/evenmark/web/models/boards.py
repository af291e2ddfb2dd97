"""Requests and responses of boards."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import Field

from evenmark.core.board.made import DoneWord
from evenmark.web.models.base import Model, OwnSays, YourStepOut
from evenmark.web.models.issues import IssueHead

Splices = list[dict[str, object]]


class BoardRow(Model):
    """One board of the caller's."""

    id: int
    title: str
    issue_id: int | None
    version: int
    changed_at: datetime


class BoardRows(Model):
    """The caller's boards."""

    boards: list[BoardRow]


class BoardIn(Model):
    """A new board."""

    title: str = Field(max_length=200)
    unit: str = Field(default="mm", max_length=20)


class TitleIn(Model):
    """Another title."""

    title: str = Field(max_length=200)


class BoardMade(Model):
    """A board that was begun or found."""

    board_id: int


class AsideRow(Model):
    """A list that was set aside."""

    id: int
    at: datetime
    says: str


class OwnCheckOut(Model):
    """How often the caller may have the drawing checked before it is handed in, and how much that says."""

    of: int
    left: int
    says: OwnSays


class NotMetOut(Model):
    """A check that is not met yet, and the steps that drew what it is about."""

    name: str
    yours: list[YourStepOut]


class OwnCheckTold(Model):
    """What a check of one's own work says."""

    not_met: int
    of: int
    held_back: int
    why: list[str]
    which: list[NotMetOut] | None
    left: int


class MadeAct(Model):
    """One thing that was done, in words; ``was`` is what stood there before a correction, ``steps`` the ids
    of the steps that it was about, ``length`` how many there were after it."""

    at: datetime
    kind: DoneWord
    says: str
    was: str
    steps: list[int]
    length: int
    splices: Splices


class MadeOut(Model):
    """A part of how an attempt was made: how many acts there were in how many parts, after how many of them
    it begins, the list as it was then, and what was done to it."""

    student: str
    title: str
    handed_in_at: datetime
    of: int
    parts: int
    first: int
    document: dict[str, object]
    acts: list[MadeAct]


class UnderlayOut(Model):
    """A picture under a board: where its upper left corner lies, units of the drawing a dot, turn in degrees,
    its size in dots, how strongly it is shown, and a mark that another picture does not have."""

    at: tuple[float, float]
    scale: float
    turn: float
    width: int
    height: int
    strength: float
    mark: str


class BoardPage(Model):
    """A board with its list of steps as it is kept."""

    id: int
    title: str
    version: int
    document: dict[str, object]
    changed_at: datetime
    issue: IssueHead | None
    own_check: OwnCheckOut | None
    underlay: UnderlayOut | None
    aside: list[AsideRow]


class UnderlayIn(Model):
    """Another strength; or two places of the drawing: the first moves to the second, or both come to lie so
    far apart."""

    strength: float | None = Field(default=None, ge=0, le=1)
    places: tuple[tuple[float, float], tuple[float, float]] | None = None
    apart: str = Field(default="", max_length=200)
    level: bool = False


class ActsIn(Model):
    """What was done since a version, act by act."""

    base: int = Field(ge=0)
    acts: list[Splices] = Field(max_length=500)


class Saved(Model):
    """The version that is kept now, and what is to be said of the room that is left, if there is not much."""

    version: int
    room: str = ""


class AskIn(Model):
    """A call about a version of a board (docs/formats/board.md)."""

    version: int = Field(ge=0)
    call: str = Field(max_length=40)
    args: dict[str, object]


class Answer(Model):
    """What a call was answered."""

    answer: dict[str, object]


class ListIn(Model):
    """The list that something is asked for, by its digest: what is kept has to be that one."""

    digest: str = Field(max_length=64)


class PartIn(Model):
    """Which of two lists is taken, of which the caller's is sent along."""

    base: int = Field(ge=0)
    take: Literal["mine", "kept"]
    document: dict[str, object]


class DocumentOut(Model):
    """A document as it is kept."""

    document: dict[str, object]


class OpenedOut(Model):
    """What a file is for a board: a document of steps, or a drawing to be laid in under a name, with what was
    left out of it."""

    document: dict[str, object] | None = None
    drawing: dict[str, object] | None = None
    name: str = ""
    says: list[str] = Field(default_factory=list)


class KeyIn(ListIn):
    """An exercise that a board becomes the key of."""

    title: str = Field(max_length=200)
    text: str = Field(default="", max_length=20_000)


class KeyMade(Model):
    """The exercise that was made."""

    revision_id: int
