"""Tables of boards: what is drawn in the page, what was done to it, and what lies beside it."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import (
    BigInteger,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    Text,
    text,
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
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    issue_id: Mapped[int | None] = mapped_column(ForeignKey("issue.id", ondelete="CASCADE"), index=True)
    title: Mapped[str] = mapped_column(String(160))
    document: Mapped[KeptDocument] = mapped_column(JSONB, deferred=True)
    version: Mapped[int] = mapped_column(default=0)
    underlay: Mapped[UnderlayJson | None] = mapped_column(JSONB)
    """Where the picture lies that is traced."""
    created_at: Mapped[datetime] = mapped_column(default=now)
    changed_at: Mapped[datetime] = mapped_column(default=now)
    bytes: Mapped[int] = mapped_column(BigInteger, default=0, server_default="0")
    """What was done to it and its snapshots, as JSON."""
    part_bytes: Mapped[int] = mapped_column(default=0, server_default="0")
    """Of those, what was done since the last snapshot."""
    taken_away_at: Mapped[datetime | None]
    """Since when it is there no more but for how an attempt was made."""
    issue: Mapped[Issue | None] = relationship()
    __table_args__ = (
        Index(
            "uq_board_person_id_issue_id",
            "person_id",
            "issue_id",
            unique=True,
            postgresql_where=text("taken_away_at is null"),
        ),
    )


class BoardAct(Base):
    """Something that was done to a board: the splices that made this version of the one before."""

    __tablename__ = "board_act"
    board_id: Mapped[int] = mapped_column(ForeignKey("board.id", ondelete="CASCADE"), primary_key=True)
    version: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(default=now)
    splices: Mapped[list[Edit]] = mapped_column(JSONB)


class BoardSnapshot(Base):
    """A board's list as it was at a version: at its begin, and after every so many bytes of acts, so that a
    long history is read in parts."""

    __tablename__ = "board_snapshot"
    board_id: Mapped[int] = mapped_column(ForeignKey("board.id", ondelete="CASCADE"), primary_key=True)
    version: Mapped[int] = mapped_column(primary_key=True)
    document: Mapped[KeptDocument] = mapped_column(JSONB, deferred=True)


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
    """A student's check of their own work before handing in; it is counted before it is worked out."""

    __tablename__ = "own_check"
    id: Mapped[int] = mapped_column(primary_key=True)
    issue_id: Mapped[int] = mapped_column(ForeignKey("issue.id", ondelete="CASCADE"), index=True)
    student_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    at: Mapped[datetime] = mapped_column(default=now)
    key: Mapped[str] = mapped_column(String(80), default="", server_default="")
    """The key of its request: asked again, it is not counted again."""
    sizes: Mapped[dict[str, list[float]]] = mapped_column(JSONB, default=dict, server_default="{}")
    """Of each requirement that was told, what was measured: guessing is known by it."""
