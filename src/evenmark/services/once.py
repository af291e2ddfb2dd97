"""Asked once, done once: a request that uses something up carries a key of its own, and what it is answered
is kept with what it did, in one transaction. Asked again with that key, nothing is done and the answer is
the same.

The field is that of draft-ietf-httpapi-idempotency-key-header.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from datetime import timedelta
from typing import NamedTuple

from sqlalchemy import delete, text
from sqlalchemy.orm import Session

from evenmark.services.errors import NotUsable
from evenmark.store.database import Database
from evenmark.store.people import Person, RequestAnswer, now

KEPT = timedelta(days=7)
_KEY = re.compile(r"[A-Za-z0-9_-]{8,80}")
Answer = Mapping[str, object]


class Asked(NamedTuple):
    """What is asked for, and by which key; an empty one is asked without a key."""

    key: str
    what: str


def asked(key: str, what: str) -> Asked:
    """Return what is asked. Raises NotUsable for a key that is none."""
    if key and not _KEY.fullmatch(key):
        raise NotUsable("The request is not valid. Reload the page, then try again.")
    return Asked(key, what[:200])


def answered(session: Session, person: Person, request: Asked) -> Answer | None:
    """Return what a request was answered before, if it was. Raises NotUsable where its key is that of
    another."""
    if not request.key:
        return None
    row = session.get(RequestAnswer, (person.id, request.key))
    if row is None:
        return None
    if row.asked != request.what:
        raise NotUsable("This request was used before. Reload the page, then try again.")
    return row.answer


def once(session: Session, person: Person, request: Asked, work: Callable[[], Answer]) -> Answer:
    """Do some work and keep its answer, in this very transaction; or return what it was answered before. Two
    that come at once with one key wait for each other."""
    if not request.key:
        return work()
    session.execute(
        text("select pg_advisory_xact_lock(hashtextextended(:key, :person))"),
        {"key": request.key, "person": person.id},
    )
    before = answered(session, person, request)
    if before is not None:
        return before
    answer = work()
    session.add(RequestAnswer(person_id=person.id, key=request.key, asked=request.what, answer=dict(answer)))
    session.flush()
    return answer


def forget_old(database: Database) -> None:
    """Forget answers that nobody asks for any more."""
    with database.transaction() as session:
        session.execute(delete(RequestAnswer).where(RequestAnswer.at < now() - KEPT))
