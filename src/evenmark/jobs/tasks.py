"""The tasks that workers run."""

from __future__ import annotations

import logging
from collections.abc import Callable

from procrastinate import Blueprint, JobContext, RetryStrategy

from evenmark.services import batch_reading, exports, marking
from evenmark.store.database import Database

MOST_RETRIES = 5
RETRY = RetryStrategy(max_attempts=MOST_RETRIES, exponential_wait=2)
tasks = Blueprint()
log = logging.getLogger(__name__)
_database: Database | None = None


def database() -> Database:
    """Return this process's database, opened at first use."""
    global _database
    if _database is None:
        _database = Database()
    return _database


def _to_an_end(context: JobContext, work: Callable[[], None], give_up: Callable[[], None]) -> None:
    """Do some work; what goes wrong is tried again by the queue, and the last time said of what was to be
    worked on."""
    try:
        work()
    except Exception as why:
        if context.job is None or context.job.attempts < MOST_RETRIES:
            raise
        log.error("given up after %s tries: %s", context.job.attempts + 1, type(why).__name__)
        give_up()


@tasks.task(name="mark_attempt", queue="marking", retry=RETRY, pass_context=True)
def mark(context: JobContext, attempt_id: int) -> None:
    """Mark one attempt; a second run finds it marked and leaves it."""
    mark_several(context, [attempt_id])


@tasks.task(name="mark_attempts", queue="marking", retry=RETRY, pass_context=True)
def mark_several(context: JobContext, attempt_ids: list[int]) -> None:
    """Mark a few attempts, each kept by itself; a second run leaves what is marked."""
    _to_an_end(
        context,
        lambda: marking.mark_in_turn(database(), attempt_ids),
        lambda: marking.give_up(database(), attempt_ids),
    )


@tasks.task(name="read_files", queue="marking", retry=RETRY, pass_context=True)
def read(context: JobContext, file_ids: list[int]) -> None:
    """Read a few files of a batch, each kept by itself; a second run leaves what is read."""
    _to_an_end(
        context,
        lambda: batch_reading.read_in_turn(database(), file_ids),
        lambda: batch_reading.give_up_reading(database(), file_ids),
    )


@tasks.task(name="make_export", queue="marking", retry=RETRY, pass_context=True)
def export(context: JobContext, export_id: int) -> None:
    """Make a file for an instructor; a second run begins it anew."""
    _to_an_end(
        context,
        lambda: exports.make_export(database(), export_id),
        lambda: exports.fail(database(), export_id),
    )
