"""The tasks that workers run."""

from __future__ import annotations

from procrastinate import Blueprint, RetryStrategy

from evenmark.services.batches import read_file
from evenmark.services.marking import mark_attempt
from evenmark.store.database import Database

tasks = Blueprint()
_database: Database | None = None


def database() -> Database:
    """Return this process's database, opened at first use."""
    global _database
    if _database is None:
        _database = Database()
    return _database


@tasks.task(name="mark_attempt", queue="marking", retry=RetryStrategy(max_attempts=5, exponential_wait=2))
def mark(attempt_id: int) -> None:
    """Mark one attempt; a second run finds it marked and leaves it."""
    with database().transaction() as session:
        mark_attempt(session, attempt_id)


@tasks.task(name="read_file", queue="marking", retry=RetryStrategy(max_attempts=5, exponential_wait=2))
def read(file_id: int) -> None:
    """Read one file of a batch; a second run finds it read and leaves it."""
    with database().transaction() as session:
        read_file(session, file_id)
