"""The tasks that workers run."""

from __future__ import annotations

from procrastinate import Blueprint, RetryStrategy

from evenmark.services.batches import read_file, read_files
from evenmark.services.marking import mark_attempt, mark_attempts
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


@tasks.task(name="mark_attempts", queue="marking", retry=RetryStrategy(max_attempts=5, exponential_wait=2))
def mark_several(attempt_ids: list[int]) -> None:
    """Mark a few attempts together, or one by one where that does not work; a second run leaves what is marked."""
    with database().transaction() as session:
        done = mark_attempts(session, attempt_ids)
    if not done:
        for attempt_id in attempt_ids:
            mark(attempt_id)


@tasks.task(name="read_files", queue="marking", retry=RetryStrategy(max_attempts=5, exponential_wait=2))
def read(file_ids: list[int]) -> None:
    """Read a few files of a batch together, or one by one where that does not work; a second run leaves what is read."""
    with database().transaction() as session:
        done = read_files(session, file_ids)
    if not done:
        for file_id in file_ids:
            with database().transaction() as session:
                read_file(session, file_id)
