"""The task queue: PostgreSQL itself, through procrastinate. A task is deferred in the transaction that makes it needed."""

from __future__ import annotations

from typing import Any

from procrastinate import App, PsycopgConnector
from sqlalchemy.orm import Session

NAMESPACE = "evenmark"
MARK = "evenmark:mark_attempt"
"""Marks one attempt; asked for twice, it marks once."""
READ_FILE = "evenmark:read_file"
"""Reads one file of a batch."""


def driver_url(url: str) -> str:
    """Return the URL as the driver understands it."""
    return url.replace("postgresql+psycopg://", "postgresql://", 1)


def make_app(url: str, *, most_connections: int = 4) -> App:
    """Return a queue application on a database; open it before use."""
    return App(connector=PsycopgConnector(conninfo=driver_url(url), min_size=1, max_size=most_connections))


def defer_marking(session: Session, queue: App, attempt_id: int) -> None:
    """Ask for an attempt to be marked, in this very transaction: if it is undone, so is the asking."""
    task = queue.configure_task(
        MARK, queue="marking", lock=f"attempt-{attempt_id}", connection=_driver_connection(session)
    )
    task.defer(attempt_id=attempt_id)


def defer_reading(session: Session, queue: App, file_ids: list[int]) -> None:
    """Ask for files of a batch to be read, in this very transaction."""
    connection = _driver_connection(session)
    for file_id in file_ids:
        queue.configure_task(READ_FILE, queue="marking", connection=connection).defer(file_id=file_id)


def _driver_connection(session: Session) -> Any:
    return session.connection().connection.driver_connection
