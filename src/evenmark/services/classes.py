"""Classes, and how students come into them: by join code, or by a roster in CSV."""

from __future__ import annotations

import csv
import io
import re
import secrets
from dataclasses import dataclass

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from evenmark.core.plain import shown
from evenmark.services.errors import NotAllowed, NotThere, NotUsable
from evenmark.services.names import plain_name
from evenmark.services.people import CODE_LETTERS, make_person, new_first_code
from evenmark.store.people import Enrolment, FirstCode, Invitation, Person, SchoolClass, now

MOST_ROWS = 1000


@dataclass(frozen=True, kw_only=True, slots=True)
class RosterEntry:
    """What became of one row of a roster."""

    line: int
    name: str
    sign_in: str
    outcome: str
    says: str
    code: str | None = None
    """The one-time code of an account that has no password yet."""


def make_class(session: Session, instructor: Person, name: str) -> SchoolClass:
    """Make a class with a new join code."""
    group = SchoolClass(name=class_name(name), instructor_id=instructor.id, join_code=new_code())
    session.add(group)
    session.flush()
    return group


def class_name(name: str) -> str:
    """Return a class's name without blanks round it. Raises NotUsable."""
    name = plain_name(name, "name")
    if not 1 <= len(name) <= 120:
        raise NotUsable("Give the class a name of at most 120 letters.")
    return name


def new_code() -> str:
    """Return a join code such as KD4-PXR."""
    letters = "".join(secrets.choice(CODE_LETTERS) for _ in range(6))
    return f"{letters[:3]}-{letters[3:]}"


def own_class(session: Session, instructor: Person, class_id: int) -> SchoolClass:
    """Return a class of this instructor. Raises NotThere for any other, so that nothing is learnt of it."""
    group = session.get(SchoolClass, class_id)
    if group is None or group.instructor_id != instructor.id:
        raise NotThere("Deleted, or not yours. Go back to Classes.")
    return group


def own_student(session: Session, instructor: Person, student_id: int) -> Person:
    """Return somebody who is or was in a class of this instructor's. Raises NotThere."""
    row = session.scalar(
        select(Enrolment)
        .join(SchoolClass, SchoolClass.id == Enrolment.class_id)
        .where(Enrolment.student_id == student_id, SchoolClass.instructor_id == instructor.id)
        .limit(1)
    )
    if row is None:
        raise NotThere("No such student in your classes. Go back to Classes.")
    return row.student


def renew_code(session: Session, instructor: Person, class_id: int) -> SchoolClass:
    """Give a class a new join code; the old one works no more."""
    group = own_class(session, instructor, class_id)
    group.join_code = new_code()
    return group


def class_of_code(session: Session, code: str) -> SchoolClass:
    """Return the class that a join code stands for, however it was typed."""
    letters = re.sub(r"[^A-Z0-9]", "", code.upper())
    group = session.scalar(select(SchoolClass).where(SchoolClass.join_code == f"{letters[:3]}-{letters[3:]}"))
    if group is None or group.archived_at is not None:
        raise NotThere(
            "No class has this code. Check it with your instructor; it has six letters or digits.",
            "no-such-code",
        )
    return group


def enrol(session: Session, student: Person, group: SchoolClass) -> bool:
    """Put a student into a class; return whether they were new to it."""
    if student.role != "student":
        raise NotAllowed("Only students join classes. Sign in as a student.")
    row = session.get(Enrolment, (group.id, student.id))
    if row is not None:
        back = row.left_at is not None
        row.left_at = None
        session.flush()
        return back
    session.add(Enrolment(class_id=group.id, student_id=student.id))
    session.flush()
    return True


def ask_in(session: Session, student: Person, group: SchoolClass, called: str) -> bool:
    """Ask somebody who is no student of this instructor's into a class; return whether they were not asked
    yet."""
    if session.get(Invitation, (group.id, student.id)):
        return False
    session.add(Invitation(class_id=group.id, student_id=student.id, called=called[:120]))
    session.flush()
    return True


def asked_of(session: Session, student: Person) -> list[Invitation]:
    """Return the classes that a student is asked into."""
    query = select(Invitation).where(Invitation.student_id == student.id).order_by(Invitation.asked_at)
    return list(session.scalars(query))


def asked_into(session: Session, class_id: int) -> list[Invitation]:
    """Return the students who are asked into a class and have not answered."""
    query = select(Invitation).where(Invitation.class_id == class_id).order_by(Invitation.called)
    return list(session.scalars(query))


def answer(session: Session, student: Person, class_id: int, *, join: bool) -> SchoolClass:
    """Join a class that the student was asked into, or decline. Raises NotThere."""
    row = session.get(Invitation, (class_id, student.id))
    if row is None:
        raise NotThere("This invitation is gone. Ask your instructor for the class code.")
    group = row.school_class
    session.delete(row)
    session.flush()
    if join:
        enrol(session, student, group)
    return group


def is_student_of(session: Session, student_id: int, instructor_id: int) -> bool:
    """Say whether somebody is in a class of an instructor's."""
    query = (
        select(Enrolment.student_id)
        .join(SchoolClass, SchoolClass.id == Enrolment.class_id)
        .where(
            Enrolment.student_id == student_id,
            Enrolment.left_at.is_(None),
            SchoolClass.instructor_id == instructor_id,
        )
    )
    return session.scalar(query.limit(1)) is not None


def new_code_for(session: Session, instructor: Person, class_id: int, student_id: int) -> str:
    """Give a student of this class a one-time code to choose a password with. Raises NotThere.

    Raises NotUsable for one who is in another instructor's class as well: a new password would open that
    one's feedback too.
    """
    own_class(session, instructor, class_id)
    if not is_in(session, class_id, student_id):
        raise NotThere("This student is not in the class. Reload the page.")
    elsewhere = (
        select(SchoolClass.id)
        .join(Enrolment, Enrolment.class_id == SchoolClass.id)
        .where(Enrolment.student_id == student_id, SchoolClass.instructor_id != instructor.id)
    )
    if session.scalar(elsewhere.limit(1)) is not None:
        raise NotUsable(
            "This student is in another instructor's class too. Ask whoever runs Even Mark for a code."
        )
    return new_first_code(session, session.get_one(Person, student_id))


def codes_of(session: Session, class_id: int) -> dict[int, str]:
    """Return the one-time codes of a class's students that are not used yet, by student."""
    rows = session.execute(
        select(FirstCode.person_id, FirstCode.code)
        .join(Enrolment, Enrolment.student_id == FirstCode.person_id)
        .where(Enrolment.class_id == class_id, Enrolment.left_at.is_(None))
    )
    return {person: code for person, code in rows}  # noqa: C416 - rows are typed as tuples only when taken apart


def is_in(session: Session, class_id: int, student_id: int) -> bool:
    """Say whether somebody is in a class now."""
    row = session.get(Enrolment, (class_id, student_id))
    return row is not None and row.left_at is None


def classes_now(session: Session, student_id: int) -> set[int]:
    """Return the classes that somebody is in now."""
    query = select(Enrolment.class_id).where(Enrolment.student_id == student_id, Enrolment.left_at.is_(None))
    return set(session.scalars(query))


def students_of(session: Session, class_id: int, *, left: bool = False) -> list[Person]:
    """Return the students of a class by name; with ``left`` those who were taken out instead."""
    gone = Enrolment.left_at.is_not(None) if left else Enrolment.left_at.is_(None)
    found = session.scalars(
        select(Person)
        .join(Enrolment, Enrolment.student_id == Person.id)
        .where(Enrolment.class_id == class_id, gone)
    ).all()
    return sorted(found, key=lambda p: (p.name.split()[-1].casefold(), p.name.casefold()))


def remove_student(session: Session, instructor: Person, class_id: int, student_id: int) -> None:
    """Take a student out of a class; their account stays, and past work stays readable to both."""
    own_class(session, instructor, class_id)
    row = session.get(Enrolment, (class_id, student_id))
    if row is None or row.left_at is not None:
        raise NotThere("This student is not in the class. Reload the page.")
    row.left_at = now()
    session.flush()


def take_roster(session: Session, instructor: Person, class_id: int, data: bytes) -> list[RosterEntry]:
    """Enrol everyone on a roster; make accounts for those who have none.

    Columns: those of the open OneRoster standard for users (givenName, familyName, username or email, role,
    enabledUser; from memory of OneRoster 1.1), or simply name and sign-in. Raises NotUsable for a file that
    is no such table; a single row that cannot be used is told and left out.
    """
    group = own_class(session, instructor, class_id)
    rows = _table(data)
    out: list[RosterEntry] = []
    for line, row in rows:
        if (
            row.get("role", "student").lower() not in ("student", "learner", "")
            or row.get("enableduser", "true").lower() == "false"
        ):
            continue
        name = row.get("name") or f"{row.get('givenname', '')} {row.get('familyname', '')}".strip()
        sign_in = (
            (row.get("username") or row.get("email") or row.get("sign-in") or row.get("signin") or "")
            .strip()
            .lower()
        )
        out.append(_take_row(session, instructor, group, line, name, sign_in))
    if not out:
        raise NotUsable("The roster has no students in it. It needs a heading row and one row a student.")
    return out


def _table(data: bytes) -> list[tuple[int, dict[str, str]]]:
    if len(data) > 1_000_000:
        raise NotUsable("The roster is larger than 1 MB. Save it as CSV with one row a student.")
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        data = data.decode("utf-16", "replace").encode()
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("cp1252", "replace")
    if "\0" in text:
        raise NotUsable(
            "This is not a CSV file. In the spreadsheet, save or export the table as CSV, then choose that "
            "file."
        )
    text = text.replace("\r\n", "\n").replace("\r", "\n")
    first = text.split("\n", 1)[0]
    reader = csv.DictReader(io.StringIO(text), delimiter=";" if first.count(";") > first.count(",") else ",")
    try:
        return _rows_of(reader)
    except csv.Error as why:
        raise NotUsable(
            "The roster cannot be read as a table: a cell is far too long, or a quotation mark is left "
            "open. Save it as CSV again."
        ) from why


def _rows_of(reader: csv.DictReader[str]) -> list[tuple[int, dict[str, str]]]:
    heads = [h.strip().lower() for h in (reader.fieldnames or [])]
    named = "name" in heads or {"givenname", "familyname"} <= set(heads)
    if not named or not {"username", "email", "sign-in", "signin"} & set(heads):
        raise NotUsable(
            'The roster needs a heading row with "givenName", "familyName" and "username" (or "email"), or '
            '"name" and "sign-in". Add it, then choose the file again.'
        )
    rows = []
    for n, row in enumerate(reader, 2):
        if n > MOST_ROWS + 1:
            raise NotUsable(f"The roster has more than {MOST_ROWS} rows. Split it by class.")
        rows.append(
            (
                n,
                {
                    str(k).strip().lower(): (v or "").strip()
                    for k, v in row.items()
                    if isinstance(k, str) and isinstance(v, str)
                },
            )
        )
    return rows


def _take_row(
    session: Session, instructor: Person, group: SchoolClass, line: int, name: str, sign_in: str
) -> RosterEntry:
    def row(outcome: str, says: str, code: str | None = None) -> RosterEntry:
        return RosterEntry(
            line=line, name=shown(name), sign_in=shown(sign_in), outcome=outcome, says=says, code=code
        )

    plain = sign_in.isprintable()
    person = (
        session.scalar(select(Person).where(func.lower(Person.sign_in) == sign_in))
        if sign_in and plain
        else None
    )
    if person is None:
        try:
            person = make_person(session, name=name, sign_in=sign_in, password=None, role="student")
        except NotUsable as why:
            return row("left-out", why.says)
        enrol(session, person, group)
        return row("made", "New account, added.", new_first_code(session, person))
    if person.role != "student":
        return row("left-out", "This sign-in name belongs to an instructor.")
    if is_student_of(session, person.id, instructor.id):
        fresh = enrol(session, person, group)
        return row("enrolled" if fresh else "known", "Enrolled." if fresh else "Was in the class already.")
    fresh = ask_in(session, person, group, name or sign_in)
    return row(
        "asked", "Has an account already, and is asked to join." if fresh else "Is asked to join already."
    )
