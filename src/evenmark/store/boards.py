"""Tables of boards: what is drawn in the page, what was done to it, and what lies beside it."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import (
    ForeignKey,
    LargeBinary,
    String,
    Text,
    UniqueConstraint,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from evenmark.core.board.answers import Edit
from evenmark.core.board.underlay import UnderlayJson
from evenmark.core.construct.document import KeptDocument
from evenmark.store.models import Issue
from evenmark.store.people import Base, now


class Board(Base):
    """A document of steps that is drawn on in the page: an instructor's own, or a student's draft for what
    was issued. ``version`` counts what was done to it."""

    __tablename__ = "board"
    id: Mapped[int] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    issue_id: Mapped[int | None] = mapped_column(ForeignKey("issue.id", ondelete="CASCADE"), index=True)
    title: Mapped[str] = mapped_column(String(160))
    document: Mapped[KeptDocument] = mapped_column(JSONB, deferred=True)
    version: Mapped[int] = mapped_column(default=0)
    underlay: Mapped[UnderlayJson | None] = mapped_column(JSONB)
    """Where the picture lies that is traced."""
    created_at: Mapped[datetime] = mapped_column(default=now)
    changed_at: Mapped[datetime] = mapped_column(default=now)
    issue: Mapped[Issue | None] = relationship()
    __table_args__ = (UniqueConstraint("person_id", "issue_id"),)


class BoardAct(Base):
    """Something that was done to a board: the splices that made this version of the one before."""

    __tablename__ = "board_act"
    board_id: Mapped[int] = mapped_column(ForeignKey("board.id", ondelete="CASCADE"), primary_key=True)
    version: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(default=now)
    splices: Mapped[list[Edit]] = mapped_column(JSONB)


class BoardAside(Base):
    """A list that was not taken when two were to choose from: it can be looked at and taken later."""

    __tablename__ = "board_aside"
    id: Mapped[int] = mapped_column(primary_key=True)
    board_id: Mapped[int] = mapped_column(ForeignKey("board.id", ondelete="CASCADE"), index=True)
    at: Mapped[datetime] = mapped_column(default=now)
    says: Mapped[str] = mapped_column(Text)
    document: Mapped[KeptDocument] = mapped_column(JSONB, deferred=True)


class BoardPicture(Base):
    """A picture that lies under a board."""

    __tablename__ = "board_picture"
    board_id: Mapped[int] = mapped_column(ForeignKey("board.id", ondelete="CASCADE"), primary_key=True)
    kind: Mapped[str] = mapped_column(String(20))
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)


class OwnCheck(Base):
    """A student's check of their own work before handing in; it is counted, what it said is not kept."""

    __tablename__ = "own_check"
    id: Mapped[int] = mapped_column(primary_key=True)
    issue_id: Mapped[int] = mapped_column(ForeignKey("issue.id", ondelete="CASCADE"), index=True)
    student_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    at: Mapped[datetime] = mapped_column(default=now)
