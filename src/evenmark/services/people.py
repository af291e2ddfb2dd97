"""Accounts and sign-in.

Passwords are hashed with argon2id. A session's token is known to the browser alone; the database keeps its
hash. Guessing is slowed down (`throttle`; OWASP ASVS 4, 2.2.1 and 3.x).

- *first code*: a one-time code with which somebody chooses a password: a new student's first one, or a new
  one in place of one forgotten.
"""

from __future__ import annotations

import hashlib
import re
import secrets
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from evenmark.services.errors import NotSignedIn, NotThere, NotUsable
from evenmark.services.names import plain_name
from evenmark.services.times import is_zone
from evenmark.store.people import FirstCode, Person, SignedIn, now

CODE_LETTERS = "ACDEFHJKLMNPRTUVWXY3479"
"""No letters and digits that are mistaken for each other when read aloud or off a board."""
IDLE = timedelta(days=3)
OLDEST = timedelta(days=30)
LONGEST_FOR_INSTRUCTORS = timedelta(hours=1)
"""How long an instructor's one-time code works; a student's waits on its slip until it is used."""
LEAST_PASSWORD, MOST_PASSWORD = 10, 200
_hasher = PasswordHasher(time_cost=2, memory_cost=19 * 1024, parallelism=1)
"""19 MiB, two passes, one lane: the lower of the equivalent settings in OWASP's password storage cheat sheet
(from memory), since a whole class signs in within a minute. Hashes of another setting are renewed when their
owners sign in (decision 0016)."""
_NO_ONE = _hasher.hash("nobody has this password")


@dataclass(frozen=True, kw_only=True, slots=True)
class Ticket:
    """A new session as the browser gets it."""

    token: str
    guard: str
    person: Person


def make_person(
    session: Session, *, name: str, sign_in: str, password: str | None, role: str, school: str = ""
) -> Person:
    """Make an account, without a password where it is to be chosen with a first code.

    Raises NotUsable with what is wrong; a taken sign-in name is a Conflict of the database.
    """
    name, sign_in = plain_name(name, "name"), sign_in.strip().lower()
    if not 1 <= len(name) <= 120:
        raise NotUsable("Give a name, of at most 120 letters.")
    if not re.fullmatch(r"[a-z0-9][a-z0-9._+@-]{2,119}", sign_in):
        raise NotUsable(
            "A sign-in name has 3 to 120 letters, digits, dots, hyphens or an e-mail address; begin with a "
            "letter or digit."
        )
    if password is not None:
        check_password(password)
    person = Person(
        name=name,
        sign_in=sign_in,
        role=role,
        password_hash="" if password is None else _hasher.hash(password),
        school=_school(school),
    )
    session.add(person)
    session.flush()
    return person


def told_apart(people: Iterable[Person]) -> dict[int, str]:
    """Return the name of each person, with the sign-in name beside it where another of them has the same
    name."""
    people = list(people)
    many = Counter(p.name.casefold() for p in people)
    return {p.id: p.name if many[p.name.casefold()] == 1 else f"{p.name} ({p.sign_in})" for p in people}


def _school(school: str) -> str:
    school = plain_name(school, "school's name")
    if len(school) > 120:
        raise NotUsable("Give the school a name of at most 120 letters.")
    return school


def change_school(session: Session, row: SignedIn, school: str) -> None:
    """Change what stands as school on an instructor's sheets from now on. Raises NotUsable."""
    session.get_one(Person, row.person_id).school = _school(school)


def change_zone(session: Session, row: SignedIn, zone: str) -> None:
    """Change the time zone of an instructor's school. Raises NotUsable."""
    if zone and not is_zone(zone):
        raise NotUsable("Unknown time zone. Choose one from the list.")
    session.get_one(Person, row.person_id).zone = zone


def change_numbers(session: Session, row: SignedIn, *, decimal_comma: bool) -> None:
    """Change whether a comma between two digits is a decimal one in the sentences that a person writes."""
    session.get_one(Person, row.person_id).decimal_comma = decimal_comma


def check_password(password: str) -> None:
    """Raise NotUsable for a password that is too short or too long."""
    if not LEAST_PASSWORD <= len(password) <= MOST_PASSWORD:
        raise NotUsable(
            f"A password has {LEAST_PASSWORD} to {MOST_PASSWORD} characters. A few words in a row are fine."
        )


def sign_in(session: Session, sign_in_name: str, password: str, *, zone: str = "") -> Ticket:
    """Open a session. Raises NotSignedIn; takes as long for a name that does not exist as for a wrong
    password.

    ``zone`` is the browser's time zone: an instructor's school has it until another is chosen.
    """
    person = person_of(session, sign_in_name)
    kept = (person.password_hash if person else "") or _NO_ONE
    good = _is(kept, password) and kept is not _NO_ONE
    if not good or person is None:
        raise NotSignedIn(
            "Wrong sign-in name or password. Check both, then try again.",
            "wrong-password",
        )
    if _hasher.check_needs_rehash(person.password_hash):
        person.password_hash = _hasher.hash(password)
    if person.role == "instructor" and not person.zone and is_zone(zone):
        person.zone = zone
    return open_session(session, person)


def _is(kept: str, password: str) -> bool:
    """Say whether a password is the one of a hash."""
    try:
        return _hasher.verify(kept, password[:MOST_PASSWORD])
    except (VerificationError, InvalidHashError):
        return False


def person_of(session: Session, sign_in_name: str) -> Person | None:
    """Return who signs in with a name, in any letter case."""
    return session.scalar(select(Person).where(func.lower(Person.sign_in) == sign_in_name.strip().lower()))


def ask_for_code(session: Session, sign_in_name: str) -> tuple[Person, str] | None:
    """Return an instructor and a new one-time code for them, to be sent to them alone; None for anybody else.

    Students have codes from their instructors.
    """
    person = person_of(session, sign_in_name)
    if person is None or person.role != "instructor":
        return None
    return person, new_first_code(session, person)


def new_first_code(session: Session, person: Person) -> str:
    """Give somebody a new one-time code in place of the one before, if any. Their password goes on working
    until it is used."""
    code = "-".join("".join(secrets.choice(CODE_LETTERS) for _ in range(4)) for _ in range(3))
    row = session.get(FirstCode, person.id)
    if row is None:
        session.add(FirstCode(person_id=person.id, code=code))
    else:
        row.code, row.made_at = code, now()
    session.flush()
    return code


def use_first_code(session: Session, typed: str, password: str) -> Ticket:
    """Choose a password with a one-time code, which works no more then, and open a session; all others are
    ended.

    Raises NotThere for a code that nobody has, NotUsable for a password that is too short or too long.
    """
    letters = re.sub(r"[^A-Z0-9]", "", typed.upper())[:12]
    code = "-".join(letters[i : i + 4] for i in (0, 4, 8))
    row = session.scalar(select(FirstCode).where(FirstCode.code == code).with_for_update())
    person = session.get_one(Person, row.person_id) if row is not None else None
    old = row is not None and now() - row.made_at > LONGEST_FOR_INSTRUCTORS
    if row is None or person is None or (person.role == "instructor" and old):
        raise NotThere(
            "This code is wrong or was used already. Check your sign-in card, or ask your instructor "
            "for a new code.",
            "no-such-code",
        )
    check_password(password)
    person.password_hash = _hasher.hash(password)
    session.delete(row)
    ticket = open_session(session, person)
    session.flush()
    opened = session.scalars(select(SignedIn).where(SignedIn.token_hash == _hash(ticket.token))).one()
    end_other_sessions(session, opened)
    return ticket


def open_session(session: Session, person: Person) -> Ticket:
    """Open a session for somebody who has just proved who they are."""
    token, guard = secrets.token_urlsafe(32), secrets.token_urlsafe(32)
    session.add(SignedIn(token_hash=_hash(token), guard=guard, person_id=person.id))
    return Ticket(token=token, guard=guard, person=person)


def who(session: Session, token: str | None) -> SignedIn | None:
    """Return the open session of a token, and note that it was used; None when it has ended or is too old."""
    if not token:
        return None
    row = session.scalar(select(SignedIn).where(SignedIn.token_hash == _hash(token)))
    time = now()
    if row is None or row.ended_at or time - row.seen_at > IDLE or time - row.created_at > OLDEST:
        return None
    if time - row.seen_at > timedelta(minutes=1):
        row.seen_at = time
    return row


def end_session(session: Session, row_id: int) -> None:
    """End one session."""
    row = session.get(SignedIn, row_id)
    if row is not None:
        row.ended_at = now()


def end_other_sessions(session: Session, row: SignedIn) -> int:
    """End all sessions of a person but this one; return how many."""
    others = session.scalars(
        select(SignedIn).where(
            SignedIn.person_id == row.person_id, SignedIn.id != row.id, SignedIn.ended_at.is_(None)
        )
    ).all()
    for other in others:
        other.ended_at = now()
    return len(others)


def change_password(session: Session, row: SignedIn, old: str, new: str) -> None:
    """Change the password of the person signed in, and end their other sessions. Raises NotUsable."""
    person = session.get_one(Person, row.person_id)
    if not _is(person.password_hash, old):
        raise NotUsable("The current password is not right. Type it again.", "wrong-password")
    check_password(new)
    person.password_hash = _hasher.hash(new)
    end_other_sessions(session, row)


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
