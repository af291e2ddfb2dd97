"""Guessing passwords and codes is slowed down, never shut: the innocent behind the same address or of the
same name go on.

- *try*: noted before it is known how it goes, in a transaction of its own; wrong or gone once that is known.
  Several at once are no guessing: only very many that are not decided yet hold up the next.
- *pair*: a name tried from one address. After a few tries that went wrong each next one has to wait twice as
  long.
- *known device*: a browser with which this person signed in before. Only its own tries count for it, so that
  nobody can shut somebody else out by guessing, not even from behind the same address.
- Somebody's first try from an address is never held up by what others tried at the name.

Source of the aims: OWASP ASVS 4, 2.2.1 (anti-automation); the numbers are ours.
"""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Sequence
from datetime import datetime, timedelta

from sqlalchemy import ColumnElement, delete, func, select, text, update
from sqlalchemy.orm import Session

from evenmark.services.errors import TooOften
from evenmark.store.people import KnownDevice, Person, SignInTry, now

WINDOW = timedelta(minutes=15)
FREE_AT_PAIR, LONGEST_AT_PAIR = 5, 30.0
FREE_AT_CODES = 30
"""A class that types its code from the board does so from one address."""
FREE_AT_NAME, LONGEST_AT_NAME = 20, 15.0
"""Wrong tries at one name from anywhere: somebody new to it waits a few seconds from then on."""
FREE_AT_ADDRESS, WAIT_AT_ADDRESS = 300, 1.0
"""Wrong tries from one address at any names: more than a school makes in a quarter of an hour."""
MOST_AT_ONCE, UNDECIDED = 40, timedelta(seconds=30)
"""Tries at one pair that are under way at once; one that a crash left undecided is passed over after a
while."""
MOST_DEVICES = 20
"""Known devices of one person; the one that was unused longest is forgotten."""


def note_try(
    session: Session, name: str, address: str, device: str | None = None, *, free: int = FREE_AT_PAIR
) -> int:
    """Count one try at a name and return its number, to be forgotten when it goes well. Raises TooOften with
    how long to wait.

    ``free`` is how many may go wrong at the pair before the next has to wait.
    """
    name, address = name.strip().lower()[:120], address[:64]
    time = now()
    session.execute(text("select pg_advisory_xact_lock(hashtext(:name))"), {"name": name})
    session.execute(delete(SignInTry).where(SignInTry.at < time - WINDOW))
    known = is_known(session, name, device)
    if known and device:
        address = f"device {_hash(device)[:40]}"
    pair = (SignInTry.name == name, SignInTry.address == address)
    at_pair = _tries(session, *pair)
    waits = [_wait(at_pair, time, free, LONGEST_AT_PAIR)]
    undecided = select(func.count(SignInTry.id)).where(
        *pair, SignInTry.wrong.is_(False), SignInTry.at > time - UNDECIDED
    )
    if (session.scalar(undecided) or 0) >= MOST_AT_ONCE:
        waits.append(1.0)
    if not known:
        if at_pair:
            waits.append(_wait(_tries(session, SignInTry.name == name), time, FREE_AT_NAME, LONGEST_AT_NAME))
        everywhere = _tries(session, SignInTry.address == address)
        if len(everywhere) >= FREE_AT_ADDRESS:
            waits.append(WAIT_AT_ADDRESS - (time - everywhere[-1]).total_seconds())
    wait = max(waits)
    if wait > 0:
        seconds = max(1, round(wait + 0.5))
        refused = TooOften(
            f"There were several wrong tries. Wait {seconds} {'second' if seconds == 1 else 'seconds'}, "
            "then try again."
        )
        refused.seconds = seconds
        raise refused
    row = SignInTry(name=name, address=address, at=time)
    session.add(row)
    session.flush()
    return row.id


def was_wrong(session: Session, number: int) -> None:
    """Count a try as one that went wrong."""
    session.execute(update(SignInTry).where(SignInTry.id == number).values(wrong=True))


def was_none(session: Session, number: int) -> None:
    """Take a try out that guessed nothing, and nothing else with it."""
    session.execute(delete(SignInTry).where(SignInTry.id == number))


def forget_try(session: Session, number: int) -> None:
    """Take a try that went well out of the count, with what went wrong before it at the same name and
    address."""
    row = session.get(SignInTry, number)
    if row is not None:
        session.execute(delete(SignInTry).where(SignInTry.name == row.name, SignInTry.address == row.address))


def forget_name(session: Session, person: Person) -> None:
    """Forget every try at somebody's name, in whatever way: when the account is wiped."""
    name = person.sign_in.lower()
    names = [name, *(f"{way} {name}" for way in ("code of", "forgotten")), f"password of {person.id}"]
    session.execute(delete(SignInTry).where(SignInTry.name.in_([n[:120] for n in names])))


def _tries(session: Session, *conditions: ColumnElement[bool]) -> Sequence[datetime]:
    """Return when tries were made that went wrong, first to last."""
    return session.scalars(
        select(SignInTry.at).where(SignInTry.wrong, *conditions).order_by(SignInTry.at)
    ).all()


def _wait(tries: Sequence[datetime], time: datetime, free: int, longest: float) -> float:
    """Return for how many seconds more a next try has to wait: twice as long after each, and never long."""
    over = len(tries) - free
    if over < 0:
        return 0.0
    return float(min(longest, 2.0 ** min(over, 10))) - (time - tries[-1]).total_seconds()


def remember_device(session: Session, person: Person, token: str | None) -> str:
    """Note that somebody signed in with a browser, and return the token that it is known by."""
    token = token if token and len(token) <= 64 else secrets.token_urlsafe(32)
    kept = _hash(token)
    row = session.scalar(
        select(KnownDevice).where(KnownDevice.token_hash == kept, KnownDevice.person_id == person.id)
    )
    if row is None:
        session.add(KnownDevice(token_hash=kept, person_id=person.id))
        session.flush()
        old = (
            select(KnownDevice.id)
            .where(KnownDevice.person_id == person.id)
            .order_by(KnownDevice.seen_at.desc())
        )
        session.execute(
            delete(KnownDevice).where(KnownDevice.id.in_(old.offset(MOST_DEVICES).scalar_subquery()))
        )
    else:
        row.seen_at = now()
    return token


def is_known(session: Session, name: str, device: str | None) -> bool:
    """Say whether somebody of this sign-in name signed in with a browser before."""
    if not device:
        return False
    query = (
        select(KnownDevice.id)
        .join(Person, Person.id == KnownDevice.person_id)
        .where(KnownDevice.token_hash == _hash(device), func.lower(Person.sign_in) == name)
    )
    return session.scalar(query) is not None


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
