"""Accounts and sign-in.

Passwords are hashed with argon2id. A session's token is known to the browser alone; the database keeps its hash. Guessing
is slowed down by sign-in name and by address (OWASP ASVS 4, 2.2.1 and 3.x).
"""

from __future__ import annotations

import hashlib
import re
import secrets
from dataclasses import dataclass
from datetime import timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from evenmark.services.errors import NotSignedIn, NotUsable, TooOften
from evenmark.store.models import Person, SignedIn, SignInTry, now

IDLE = timedelta(days=3)
OLDEST = timedelta(days=30)
WINDOW = timedelta(minutes=15)
MOST_TRIES = 10
"""Failed tries for one name, or five times as many from one address, within the window."""
LEAST_PASSWORD, MOST_PASSWORD = 10, 200
_hasher = PasswordHasher()
_NO_ONE = _hasher.hash("nobody has this password")


@dataclass(frozen=True, kw_only=True, slots=True)
class Ticket:
    """A new session as the browser gets it."""

    token: str
    guard: str
    person: Person


def make_person(
    session: Session, *, name: str, sign_in: str, password: str, role: str, school: str = ""
) -> Person:
    """Make an account. Raises NotUsable with what is wrong; a taken sign-in name is a Conflict of the database."""
    name, sign_in = " ".join(name.split()), sign_in.strip().lower()
    if not 1 <= len(name) <= 120:
        raise NotUsable("Give a name of at most 120 letters.")
    if not re.fullmatch(r"[a-z0-9][a-z0-9._+@-]{2,119}", sign_in):
        raise NotUsable(
            "A sign-in name has 3 to 120 letters, digits, dots, hyphens or an e-mail address; begin with a letter or digit."
        )
    check_password(password)
    person = Person(
        name=name,
        sign_in=sign_in,
        role=role,
        password_hash=_hasher.hash(password),
        school=_school(school),
    )
    session.add(person)
    session.flush()
    return person


def _school(school: str) -> str:
    school = " ".join(school.split())
    if len(school) > 120:
        raise NotUsable("Give the school a name of at most 120 letters.")
    return school


def change_school(session: Session, row: SignedIn, school: str) -> None:
    """Change what stands as school on an instructor's sheets from now on. Raises NotUsable."""
    session.get_one(Person, row.person_id).school = _school(school)


def check_password(password: str) -> None:
    """Raise NotUsable for a password that is too short or too long."""
    if not LEAST_PASSWORD <= len(password) <= MOST_PASSWORD:
        raise NotUsable(
            f"A password has {LEAST_PASSWORD} to {MOST_PASSWORD} characters. A few words in a row are fine."
        )


def note_try(session: Session, sign_in: str, address: str) -> None:
    """Count one try to sign in, in a transaction of its own. Raises TooOften when there were too many lately."""
    since = now() - WINDOW
    session.execute(delete(SignInTry).where(SignInTry.at < since))
    keys = {f"name {sign_in.strip().lower()[:120]}": MOST_TRIES, f"address {address}": MOST_TRIES * 5}
    for who, most in keys.items():
        tries = session.scalar(select(func.count()).select_from(SignInTry).where(SignInTry.who == who)) or 0
        if tries >= most:
            minutes = int(WINDOW.total_seconds() // 60)
            raise TooOften(f"There were too many tries to sign in. Wait {minutes} minutes, then try again.")
    session.add_all(SignInTry(who=who) for who in keys)


def sign_in(session: Session, sign_in_name: str, password: str, address: str) -> Ticket:
    """Open a session. Raises NotSignedIn; takes as long for a name that does not exist as for a wrong password."""
    name = sign_in_name.strip().lower()
    person = session.scalar(select(Person).where(func.lower(Person.sign_in) == name))
    try:
        good = (
            _hasher.verify(person.password_hash if person else _NO_ONE, password[:MOST_PASSWORD])
            and person is not None
        )
    except (VerificationError, InvalidHashError):
        good = False
    if not good or person is None:
        raise NotSignedIn(
            "This sign-in name and password do not belong together. Check both, then try again.",
            "wrong-password",
        )
    _forget_try(session, name, address)
    return open_session(session, person)


def _forget_try(session: Session, name: str, address: str) -> None:
    """Take a try that went well out of the count: a whole class may sign in from one address within minutes."""
    session.execute(delete(SignInTry).where(SignInTry.who == f"name {name[:120]}"))
    last = select(func.max(SignInTry.id)).where(SignInTry.who == f"address {address}").scalar_subquery()
    session.execute(delete(SignInTry).where(SignInTry.id == last))


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
    try:
        _hasher.verify(person.password_hash, old[:MOST_PASSWORD])
    except (VerificationError, InvalidHashError) as why:
        raise NotUsable("The present password is not right. Type it again.") from why
    check_password(new)
    person.password_hash = _hasher.hash(new)
    end_other_sessions(session, row)


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
