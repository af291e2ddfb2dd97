"""The task queue: PostgreSQL itself, through procrastinate. A task is deferred in the transaction that makes
it needed."""

from __future__ import annotations

from typing import Any

from procrastinate import App, PsycopgConnector
from sqlalchemy import text
from sqlalchemy.orm import Session

NAMESPACE = "evenmark"
MARK = "evenmark:mark_attempt"
"""Marks one attempt; asked for twice, it marks once."""
MARK_MANY = "evenmark:mark_attempts"
"""Marks a few attempts at one exercise together."""
READ_FILES = "evenmark:read_files"
"""Reads a few files of a batch."""
MAKE_EXPORT = "evenmark:make_export"
"""Makes a file for an instructor; done when nothing is waiting to be marked."""
AFTER_MARKING = -10
MOST_TOGETHER = 8
MOST_BYTES_TOGETHER = 400_000
"""What is worked through as one job: so little that progress shows, so much that starting it does not cost
the most."""


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


def defer_marking_of_many(session: Session, queue: App, attempts: list[tuple[int, int]]) -> None:
    """Ask for attempts (id and size in bytes) to be marked, a few at a time, in this very transaction."""
    connection = _driver_connection(session)
    ids: Any  # the queue wants JSON, of which a list of numbers is a kind
    for ids in bundles(attempts):
        queue.configure_task(MARK_MANY, queue="marking", connection=connection).defer(attempt_ids=ids)


def defer_reading(session: Session, queue: App, files: list[tuple[int, int]]) -> None:
    """Ask for files of a batch (id and size in bytes) to be read, a few at a time, in this very
    transaction."""
    connection = _driver_connection(session)
    ids: Any
    for ids in bundles(files):
        queue.configure_task(READ_FILES, queue="marking", connection=connection).defer(file_ids=ids)


def defer_export(session: Session, queue: App, export_id: int) -> None:
    """Ask for a file to be made, in this very transaction, after whatever waits to be marked."""
    queue.configure_task(
        MAKE_EXPORT, queue="marking", priority=AFTER_MARKING, connection=_driver_connection(session)
    ).defer(export_id=export_id)


def bundles(sized: list[tuple[int, int]]) -> list[list[int]]:
    """Return ids in bundles of a few small files each; a large file stands alone, so that others do not wait
    for it.

    >>> bundles([(1, 10), (2, 10), (3, 2_000_000), (4, 10)])
    [[1, 2], [3], [4]]
    """
    out: list[list[int]] = []
    room = 0
    for i, size in sized:
        if not out or len(out[-1]) >= MOST_TOGETHER or size > room:
            out.append([])
            room = MOST_BYTES_TOGETHER
        out[-1].append(i)
        room -= size
    return out


_STRANDED = """
select {table}.id from {table}
where {table}.state = 'waiting' and {old} and not exists (
  select 1 from procrastinate_jobs j where j.status in ('todo', 'doing')
  and ((j.args ->> :one) = {table}.id::text or (j.args -> :many) @> to_jsonb({table}.id)))
order by {table}.id
"""


def stranded_attempts(session: Session) -> list[int]:
    """Return attempts that wait although no job is left that would mark them."""
    old = "attempt.handed_in_at < now() - interval '1 minute'"
    query = text(_STRANDED.format(table="attempt", old=old))
    return list(session.scalars(query, {"one": "attempt_id", "many": "attempt_ids"}))


def stranded_files(session: Session) -> list[int]:
    """Return files of batches that wait although no job is left that would read them."""
    old = (
        "exists (select 1 from batch b where b.id = batch_id and b.created_at < now() - interval '1 minute')"
    )
    query = text(_STRANDED.format(table="batch_file", old=old))
    return list(session.scalars(query, {"one": "file_id", "many": "file_ids"}))


_FORGET_ONE = """
delete from procrastinate_jobs where status <> 'doing' and (args ->> 'attempt_id')::bigint = any(:ids)
"""
_FORGET_AMONG = """
update procrastinate_jobs set args = jsonb_set(args, '{attempt_ids}', coalesce(
  (select jsonb_agg(i) from jsonb_array_elements(args -> 'attempt_ids') i
   where (i #>> '{}')::bigint <> all(:ids)), '[]'))
where args ? 'attempt_ids'
"""


def forget_attempts(session: Session, attempt_ids: list[int]) -> None:
    """Take attempts out of the queue, those that were worked through included."""
    if attempt_ids:
        for statement in (_FORGET_ONE, _FORGET_AMONG):
            session.execute(text(statement), {"ids": attempt_ids})


def _driver_connection(session: Session) -> Any:
    return session.connection().connection.driver_connection
