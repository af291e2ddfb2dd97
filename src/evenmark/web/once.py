"""Requests that are answered once: those that carry a key of their own (`Idempotency-Key`) and are asked
again are answered as before, and nothing is done twice."""

from __future__ import annotations

from collections.abc import Callable

from flask import request
from sqlalchemy.orm import Session

from evenmark.services import once as answers
from evenmark.services.once import Answer, Asked
from evenmark.web.access import me

KEY_HEADER = "Idempotency-Key"


def request_key() -> Asked:
    """Return what the request asks for, and its key. Raises NotUsable."""
    return answers.asked(request.headers.get(KEY_HEADER, ""), f"{request.method} {request.path}")


def once(db: Session, work: Callable[[], Answer]) -> Answer:
    """Do some work in a transaction, and keep what it answers; or return what the request was answered
    before."""
    return answers.once(db, me(), request_key(), work)


def answered(db: Session) -> Answer | None:
    """Return what the request was answered before, if it was: before work that takes long."""
    return answers.answered(db, me(), request_key())


def done_once(db: Session, work: Callable[[], object]) -> None:
    """Do some work in a transaction that is answered with what the page shows then; not again, where the
    request was answered before."""

    def done() -> Answer:
        work()
        return {}

    once(db, done)
