"""The tables of exercises and of what is handed in; those of people and classes are in `people`, those of
boards in `boards`. Bytes handed in are kept as they came, and everything derived can be computed again."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal

from sqlalchemy import (
    CheckConstraint,
    ForeignKey,
    Index,
    LargeBinary,
    Numeric,
    String,
    Text,
    UniqueConstraint,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from evenmark.core.marking.reading_json import ReadingJson
from evenmark.core.marking.rules_types import RulesJson
from evenmark.store.kept import About, ActDetail, Held, KeptSheet, Summary
from evenmark.store.people import Base, Person, SchoolClass, now


class Exercise(Base):
    """An exercise through all its revisions."""

    __tablename__ = "exercise"
    id: Mapped[int] = mapped_column(primary_key=True)
    instructor_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    created_at: Mapped[datetime] = mapped_column(default=now)
    archived_at: Mapped[datetime | None]
    """Since when it is put away; what was issued of it goes on."""
    revisions: Mapped[list[Revision]] = relationship(back_populates="exercise", order_by="Revision.number")


class Revision(Base):
    """One state of an exercise. What is marked of it never changes once it is issued: the database itself
    refuses (migrations 1 and 6).

    Title and text may be put right, and a revision of which every issue was withdrawn is open again.
    """

    __tablename__ = "revision"
    id: Mapped[int] = mapped_column(primary_key=True)
    exercise_id: Mapped[int] = mapped_column(ForeignKey("exercise.id", ondelete="CASCADE"))
    number: Mapped[int]
    title: Mapped[str] = mapped_column(String(160))
    text: Mapped[str] = mapped_column(Text, default="")
    key_name: Mapped[str] = mapped_column(String(255))
    key_hash: Mapped[str] = mapped_column(String(64))
    key_bytes: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    rules: Mapped[RulesJson] = mapped_column(JSONB, deferred=True)
    sheet_png: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    created_at: Mapped[datetime] = mapped_column(default=now)
    changed_at: Mapped[datetime] = mapped_column(default=now)
    issued_at: Mapped[datetime | None]
    exercise: Mapped[Exercise] = relationship(back_populates="revisions")
    files: Mapped[list[RevisionFile]] = relationship(
        back_populates="revision",
        order_by="RevisionFile.id",
        cascade="all, delete-orphan",
        passive_deletes=True,
    )
    __table_args__ = (UniqueConstraint("exercise_id", "number"),)

    @property
    def start(self) -> RevisionFile | None:
        """The start drawing, if students are given one."""
        return next((f for f in self.files if f.part == "start"), None)

    @property
    def other_keys(self) -> list[RevisionFile]:
        """The keys that are accepted beside the first."""
        return [f for f in self.files if f.part == "key"]


class RevisionFile(Base):
    """A drawing that belongs to a revision beside its key: the start drawing, or another key that is accepted
    as well."""

    __tablename__ = "revision_file"
    id: Mapped[int] = mapped_column(primary_key=True)
    revision_id: Mapped[int] = mapped_column(ForeignKey("revision.id", ondelete="CASCADE"), index=True)
    part: Mapped[str] = mapped_column(String(8))
    name: Mapped[str] = mapped_column(String(255))
    sha256: Mapped[str] = mapped_column(String(64))
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    revision: Mapped[Revision] = relationship(back_populates="files")
    __table_args__ = (CheckConstraint("part in ('start', 'key')", name="part"),)


class Issue(Base):
    """A revision issued to a class: until when, how many tries, and how much of the result students see."""

    __tablename__ = "issue"
    id: Mapped[int] = mapped_column(primary_key=True)
    revision_id: Mapped[int] = mapped_column(ForeignKey("revision.id"), index=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), index=True)
    issued_at: Mapped[datetime] = mapped_column(default=now)
    due_at: Mapped[datetime]
    tries: Mapped[int]
    detail: Mapped[str] = mapped_column(String(12))
    returns: Mapped[str] = mapped_column(String(12), default="at-once", server_default="at-once")
    """Whether students see their marks as soon as there are any, or when the instructor returns them."""
    closed_at: Mapped[datetime | None]
    """Since when nothing is handed in any more, but by those who were given a later date."""
    group_name: Mapped[str] = mapped_column(String(120), default="", server_default="")
    """What the class was called when it was issued: what the title block of its drawings should say."""
    own_checks: Mapped[int] = mapped_column(default=0, server_default="0")
    """How often a student may have the drawing on the board checked before it is handed in."""
    own_says: Mapped[str] = mapped_column(String(12), default="which", server_default="which")
    """Whether such a check says which checks are not met yet, or only how many."""
    revision: Mapped[Revision] = relationship(lazy="joined")
    school_class: Mapped[SchoolClass] = relationship(lazy="joined")
    __table_args__ = (
        UniqueConstraint("revision_id", "class_id"),
        CheckConstraint("tries between 1 and 99", name="tries"),
        CheckConstraint("detail in ('score', 'checks', 'numbers')", name="detail"),
        CheckConstraint("returns in ('at-once', 'by-hand')", name="returns"),
        CheckConstraint("own_checks between 0 and 99", name="own_checks"),
        CheckConstraint("own_says in ('count', 'which')", name="own_says"),
    )


class Allowance(Base):
    """What one student was allowed of an issue beyond the others: a later date, more tries, with the
    reason."""

    __tablename__ = "allowance"
    issue_id: Mapped[int] = mapped_column(ForeignKey("issue.id", ondelete="CASCADE"), primary_key=True)
    student_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True
    )
    due_at: Mapped[datetime | None]
    more_tries: Mapped[int] = mapped_column(default=0, server_default="0")
    reason: Mapped[str] = mapped_column(Text)
    """For the record; not shown to the student."""
    given_at: Mapped[datetime] = mapped_column(default=now)
    __table_args__ = (CheckConstraint("more_tries between 0 and 99", name="more_tries"),)


class Intake(Base):
    """A file laid in but not yet handed in: shown as it was understood, and forgotten if not confirmed."""

    __tablename__ = "intake"
    id: Mapped[int] = mapped_column(primary_key=True)
    issue_id: Mapped[int] = mapped_column(ForeignKey("issue.id", ondelete="CASCADE"))
    student_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    file_name: Mapped[str] = mapped_column(String(255))
    sha256: Mapped[str] = mapped_column(String(64))
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    reading: Mapped[ReadingJson] = mapped_column(JSONB)
    created_at: Mapped[datetime] = mapped_column(default=now)
    __table_args__ = (UniqueConstraint("issue_id", "student_id"),)


class Attempt(Base):
    """What was handed in, as it came: bytes, hash, who and when. Never changed, only marked."""

    __tablename__ = "attempt"
    id: Mapped[int] = mapped_column(primary_key=True)
    issue_id: Mapped[int] = mapped_column(ForeignKey("issue.id"))
    student_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    number: Mapped[int]
    file_name: Mapped[str] = mapped_column(String(255))
    sha256: Mapped[str] = mapped_column(String(64))
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    reading: Mapped[ReadingJson] = mapped_column(JSONB, deferred=True)
    handed_in_at: Mapped[datetime] = mapped_column(default=now)
    late: Mapped[bool] = mapped_column(default=False)
    state: Mapped[str] = mapped_column(String(12), default="waiting")
    trouble: Mapped[str | None] = mapped_column(Text)
    handed_in_by: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    """The instructor who handed it in for the student; None when the student did."""
    board_id: Mapped[int | None] = mapped_column(ForeignKey("board.id", ondelete="SET NULL"), index=True)
    """The board that it was drawn on; None for a file."""
    made_version: Mapped[int | None]
    """What was done to that board up to this version is how it was made."""
    issue: Mapped[Issue] = relationship()
    student: Mapped[Person] = relationship(foreign_keys=[student_id])
    sheets: Mapped[list[MarkSheetRow]] = relationship(back_populates="attempt", order_by="MarkSheetRow.id")
    __table_args__ = (
        UniqueConstraint("issue_id", "student_id", "number"),
        CheckConstraint("state in ('waiting', 'marked', 'failed')", name="state"),
        Index("ix_attempt_waiting", "id", postgresql_where=text("state = 'waiting'")),
    )


class MarkSheetRow(Base):
    """The mark sheet of an attempt by one version of the engine; each version marks an attempt once."""

    __tablename__ = "mark_sheet"
    id: Mapped[int] = mapped_column(primary_key=True)
    attempt_id: Mapped[int] = mapped_column(ForeignKey("attempt.id", ondelete="CASCADE"))
    engine_version: Mapped[str] = mapped_column(String(20))
    sheet: Mapped[KeptSheet] = mapped_column(JSONB, deferred=True)
    summary: Mapped[Summary] = mapped_column(JSONB)
    """Counts of verdicts and the codes of causes, for lists."""
    earned: Mapped[Decimal] = mapped_column(Numeric(14, 6))
    possible: Mapped[Decimal] = mapped_column(Numeric(14, 6))
    marked_at: Mapped[datetime] = mapped_column(default=now)
    attempt: Mapped[Attempt] = relationship(back_populates="sheets")
    __table_args__ = (UniqueConstraint("attempt_id", "engine_version"),)


class MarkingAct(Base):
    """Something an instructor did to the marks of an attempt; only ever added to, so that it is also the
    record of who did what.

    ``override``: detail has verdict, reason and perhaps marks. ``comment``: text and perhaps a place in key
    units. ``undo`` takes back another act; an undo that is undone itself leaves that act standing again.
    """

    __tablename__ = "marking_act"
    id: Mapped[int] = mapped_column(primary_key=True)
    attempt_id: Mapped[int] = mapped_column(ForeignKey("attempt.id", ondelete="CASCADE"), index=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(default=now)
    act: Mapped[str] = mapped_column(String(12))
    finding: Mapped[int | None]
    detail: Mapped[ActDetail] = mapped_column(JSONB)
    undoes_id: Mapped[int | None] = mapped_column(ForeignKey("marking_act.id", ondelete="CASCADE"))
    person: Mapped[Person] = relationship(lazy="joined")
    __table_args__ = (
        CheckConstraint("act in ('override', 'comment', 'undo')", name="act"),
        CheckConstraint("(act = 'undo') = (undoes_id is not null)", name="undoes"),
    )


class Returned(Base):
    """Marks as a student was given them: which mark sheet, and the overrides and comments that stood then. It
    never changes; taking it back only hides it, and returning again adds another."""

    __tablename__ = "returned"
    id: Mapped[int] = mapped_column(primary_key=True)
    attempt_id: Mapped[int] = mapped_column(ForeignKey("attempt.id", ondelete="CASCADE"), index=True)
    sheet_id: Mapped[int] = mapped_column(ForeignKey("mark_sheet.id"))
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    """Who returned it; None when it was returned at once by itself."""
    at: Mapped[datetime] = mapped_column(default=now)
    held: Mapped[Held] = mapped_column(JSONB)
    """Overrides and comments as they stood."""
    earned: Mapped[Decimal] = mapped_column(Numeric(14, 6))
    possible: Mapped[Decimal] = mapped_column(Numeric(14, 6))
    taken_back_at: Mapped[datetime | None]
    sheet: Mapped[MarkSheetRow] = relationship()
    person: Mapped[Person | None] = relationship()


class RecordEntry(Base):
    """Something an instructor did to what was issued, to a class or to an exercise, in one sentence; only
    ever added to.

    An entry about a student goes when the student's data are wiped; that they were is an entry without a
    name.
    """

    __tablename__ = "record_entry"
    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(default=now)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    """Who did it."""
    act: Mapped[str] = mapped_column(String(20))
    says: Mapped[str] = mapped_column(Text)
    class_id: Mapped[int | None] = mapped_column(
        ForeignKey("school_class.id", ondelete="SET NULL"), index=True
    )
    exercise_id: Mapped[int | None] = mapped_column(
        ForeignKey("exercise.id", ondelete="SET NULL"), index=True
    )
    student_id: Mapped[int | None] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    person: Mapped[Person] = relationship(foreign_keys=[person_id])


class Export(Base):
    """A file that is made for an instructor by a worker, to be fetched within a day."""

    __tablename__ = "export"
    id: Mapped[int] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    kind: Mapped[str] = mapped_column(String(12))
    about: Mapped[About] = mapped_column(JSONB)
    """What it is made of: ``issue``, ``class`` or ``student``, by their numbers."""
    name: Mapped[str] = mapped_column(String(255))
    state: Mapped[str] = mapped_column(String(12), default="waiting")
    done: Mapped[int] = mapped_column(default=0)
    of: Mapped[int] = mapped_column(default=0)
    size: Mapped[int] = mapped_column(default=0)
    trouble: Mapped[str | None] = mapped_column(Text)
    made_at: Mapped[datetime] = mapped_column(default=now, index=True)
    __table_args__ = (
        CheckConstraint("kind in ('feedback', 'files', 'class', 'student')", name="kind"),
        CheckConstraint("state in ('waiting', 'ready', 'failed')", name="state"),
    )


class ExportPart(Base):
    """A piece of a made file, so that none of any size is ever held whole."""

    __tablename__ = "export_part"
    export_id: Mapped[int] = mapped_column(ForeignKey("export.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class Batch(Base):
    """Files that an instructor hands in for a class at once; it stays until every file is handed in or left
    out."""

    __tablename__ = "batch"
    id: Mapped[int] = mapped_column(primary_key=True)
    issue_id: Mapped[int] = mapped_column(ForeignKey("issue.id", ondelete="CASCADE"), index=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    created_at: Mapped[datetime] = mapped_column(default=now)
    files: Mapped[list[BatchFile]] = relationship(
        back_populates="batch", order_by="BatchFile.id", cascade="all, delete-orphan", passive_deletes=True
    )


class BatchFile(Base):
    """One file of a batch: read by a worker, matched to a student, then handed in as an attempt, once."""

    __tablename__ = "batch_file"
    id: Mapped[int] = mapped_column(primary_key=True)
    batch_id: Mapped[int] = mapped_column(ForeignKey("batch.id", ondelete="CASCADE"), index=True)
    path: Mapped[str] = mapped_column(String(400))
    sha256: Mapped[str] = mapped_column(String(64))
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    reading: Mapped[ReadingJson | None] = mapped_column(JSONB, deferred=True)
    wordings: Mapped[list[str] | None] = mapped_column(JSONB)
    state: Mapped[str] = mapped_column(String(12), default="waiting")
    trouble: Mapped[str | None] = mapped_column(Text)
    student_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    """Whose the instructor said it is; None means nobody's once it is ``decided``."""
    decided: Mapped[bool] = mapped_column(default=False)
    attempt_id: Mapped[int | None] = mapped_column(ForeignKey("attempt.id"), unique=True)
    batch: Mapped[Batch] = relationship(back_populates="files")
    attempt: Mapped[Attempt | None] = relationship()
    __table_args__ = (CheckConstraint("state in ('waiting', 'read', 'unusable')", name="state"),)
