"""Tables of people and classes, and what all tables share. Times are UTC."""

from __future__ import annotations

from datetime import UTC, datetime

from sqlalchemy import (
    CheckConstraint,
    DateTime,
    ForeignKey,
    Index,
    MetaData,
    String,
    UniqueConstraint,
    false,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


def now() -> datetime:
    """Return the time, in UTC."""
    return datetime.now(UTC)


class Base(DeclarativeBase):
    """Root of all tables; constraints are named so that errors can name them."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {datetime: DateTime(timezone=True)}  # noqa: RUF012


class Person(Base):
    """Someone with an account: an instructor or a student."""

    __tablename__ = "person"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    sign_in: Mapped[str] = mapped_column(String(120))
    role: Mapped[str] = mapped_column(String(12))
    password_hash: Mapped[str] = mapped_column(String(200))
    """Empty until a first password is chosen."""
    school: Mapped[str] = mapped_column(String(120), default="", server_default="")
    """What stands as school in the title block of an instructor's sheets."""
    zone: Mapped[str] = mapped_column(String(64), default="", server_default="")
    """The time zone of an instructor's school, by its name in the tz database; empty for UTC."""
    decimal_comma: Mapped[bool] = mapped_column(default=False, server_default=false())
    """Whether a comma between two digits is a decimal one in the sentences that this person writes."""
    created_at: Mapped[datetime] = mapped_column(default=now)
    __table_args__ = (
        CheckConstraint("role in ('instructor', 'student')", name="role"),
        Index("uq_person_sign_in", func.lower(sign_in), unique=True),
    )


class SignedIn(Base):
    """A server-side session: ends when it is ended, unused too long, or too old. Only a hash of its token is
    kept."""

    __tablename__ = "signed_in"
    id: Mapped[int] = mapped_column(primary_key=True)
    token_hash: Mapped[str] = mapped_column(String(64), unique=True)
    guard: Mapped[str] = mapped_column(String(64))
    """What a page must send along to change anything (protection against forged requests)."""
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    created_at: Mapped[datetime] = mapped_column(default=now)
    seen_at: Mapped[datetime] = mapped_column(default=now)
    ended_at: Mapped[datetime | None]
    person: Mapped[Person] = relationship(lazy="joined")


class SignInTry(Base):
    """A try to sign in, for slowing down guessing: ``wrong`` once it went wrong, gone when it went well."""

    __tablename__ = "sign_in_try"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(160), index=True)
    address: Mapped[str] = mapped_column(String(64), index=True)
    wrong: Mapped[bool] = mapped_column(default=False, server_default=false())
    at: Mapped[datetime] = mapped_column(default=now)


class KnownDevice(Base):
    """A browser that somebody has signed in with before: guesses made elsewhere do not slow it down. Only a
    hash of its token is kept."""

    __tablename__ = "known_device"
    id: Mapped[int] = mapped_column(primary_key=True)
    token_hash: Mapped[str] = mapped_column(String(64), index=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    seen_at: Mapped[datetime] = mapped_column(default=now)
    __table_args__ = (UniqueConstraint("token_hash", "person_id"),)


class FirstCode(Base):
    """A one-time code with which somebody chooses a password: to be read by their instructor until it is
    used."""

    __tablename__ = "first_code"
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), primary_key=True)
    code: Mapped[str] = mapped_column(String(20), unique=True)
    made_at: Mapped[datetime] = mapped_column(default=now)


class SchoolClass(Base):
    """A class: students of one instructor, joined by code or roster."""

    __tablename__ = "school_class"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    instructor_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    join_code: Mapped[str] = mapped_column(String(12), unique=True)
    created_at: Mapped[datetime] = mapped_column(default=now)
    archived_at: Mapped[datetime | None]
    """Since when it is over: it stays readable, and nothing is issued to it or handed in to it."""
    student_mb: Mapped[int] = mapped_column(default=100, server_default="100")
    """How many megabytes the drawings of one student may take up."""
    instructor: Mapped[Person] = relationship()
    __table_args__ = (CheckConstraint("student_mb between 20 and 2000", name="student_mb"),)


class Enrolment(Base):
    """A student in a class."""

    __tablename__ = "enrolment"
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), primary_key=True)
    student_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True
    )
    joined_at: Mapped[datetime] = mapped_column(default=now)
    left_at: Mapped[datetime | None]
    """When the student was taken out; what was handed in before stays readable to both."""
    student: Mapped[Person] = relationship(lazy="joined")


class RequestAnswer(Base):
    """What a request was answered that carried a key of its own: asked again, it is answered the same, and
    nothing is done twice."""

    __tablename__ = "request_answer"
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), primary_key=True)
    key: Mapped[str] = mapped_column(String(80), primary_key=True)
    asked: Mapped[str] = mapped_column(String(200))
    """What was asked for: a key means nothing for anything else."""
    answer: Mapped[dict[str, object]] = mapped_column(JSONB)
    at: Mapped[datetime] = mapped_column(default=now, index=True)


class Invitation(Base):
    """A student who was asked into a class, and has not answered yet."""

    __tablename__ = "invitation"
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), primary_key=True)
    student_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True
    )
    called: Mapped[str] = mapped_column(String(120))
    """What the roster calls the student: the instructor learns no more until the student agrees."""
    asked_at: Mapped[datetime] = mapped_column(default=now)
    school_class: Mapped[SchoolClass] = relationship(lazy="joined")
    student: Mapped[Person] = relationship(lazy="joined")
