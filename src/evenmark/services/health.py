"""How the parts of the server are, each by itself: database, queue, workers, readers, disk."""

from __future__ import annotations

import os
import socket

from sqlalchemy import text
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from evenmark.services.bounded import READERS_VARIABLE
from evenmark.services.disk import disk
from evenmark.store.database import Database

LONGEST_UNHEARD = 15
"""Seconds after which a worker that was not heard of counts as gone."""
Part = dict[str, str | int]


def parts(database: Database) -> dict[str, Part]:
    """Return each part with its state (up, slow, down) and one sentence; never raises, and names no place of
    this machine."""
    try:
        with database.transaction() as session:
            session.execute(text("set local statement_timeout = 2000"))
            return {
                "database": _part("up", "Answers."),
                **_of_queue(session),
                "readers": _readers(),
                "disk": _disk(),
            }
    except (SQLAlchemyError, OSError):
        away = _part("down", "Cannot be reached; it is started again by itself.")
        unknown = _part("down", "Cannot be asked without the database.")
        return {
            "database": away,
            "queue": unknown,
            "workers": unknown,
            "readers": _readers(),
            "disk": _disk(),
        }


def _part(state: str, says: str, **more: int) -> Part:
    return {"state": state, "says": says, **more}


def _of_queue(session: Session) -> dict[str, Part]:
    waiting, oldest = session.execute(
        text(
            "select count(*), coalesce(extract(epoch from now() - min(e.at)), 0) from procrastinate_jobs j "
            "left join procrastinate_events e on e.job_id = j.id and e.type = 'deferred' where j.status = "
            "'todo'"
        )
    ).one()
    workers = session.scalar(
        text(
            "select count(*) from procrastinate_workers where last_heartbeat > now() - make_interval(secs "
            "=> :s)"
        ),
        {"s": LONGEST_UNHEARD},
    )
    slow = float(oldest) > 60
    queue = _part(
        "slow" if slow else "up", f"{waiting} waiting.", waiting=waiting, oldest_seconds=round(float(oldest))
    )
    if workers:
        return {"queue": queue, "workers": _part("up", f"{workers} at work.", at_work=workers)}
    return {
        "queue": queue,
        "workers": _part("slow", "None was heard of lately; one is started again by itself.", at_work=0),
    }


def _readers() -> Part:
    address = os.environ.get(READERS_VARIABLE)
    if not address:
        return _part("up", "Each web process reads for itself.")
    with socket.socket(socket.AF_UNIX) as s:
        s.settimeout(1)
        try:
            s.connect(address)
        except OSError:
            return _part("slow", "Cannot be reached; they are started again by themselves.")
    return _part("up", "Answer.")


def _disk() -> Part:
    found = disk()
    if found is None:
        return _part("up", "The database is on another machine.")
    if found.full:
        says = "Full: nothing more is saved until there is room on the disk that holds the database."
        return _part("down", says, free_bytes=found.free)
    return _part("up", "Has room.", free_bytes=found.free)
