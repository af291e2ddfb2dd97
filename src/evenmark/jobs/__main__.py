"""A worker: `python -m evenmark.jobs`. Runs until it is told to stop, then finishes what it has in hand."""

from __future__ import annotations

import asyncio
import logging
import os
from contextlib import suppress
from datetime import timedelta

from procrastinate import App
from procrastinate.exceptions import ConnectorException
from sqlalchemy.exc import SQLAlchemyError

from evenmark.jobs.tasks import database, tasks
from evenmark.services.batch_reading import give_up_stranded_files
from evenmark.services.bounded import warm_up
from evenmark.services.marking import give_up_stranded
from evenmark.services.once import forget_old
from evenmark.store.database import URL_VARIABLE
from evenmark.store.queue import NAMESPACE, make_app

STALLED_VARIABLE = "EVENMARK_STALLED_SECONDS"
STALLED = timedelta(seconds=float(os.environ.get(STALLED_VARIABLE, "10")))
"""A job whose worker has not been heard of for this long died with it, and is run again."""
LOOKS = min(5.0, STALLED.total_seconds() / 3)
"""Seconds between two looks for such jobs: nobody waits longer than both together."""
GRACE = 3
"""Seconds that a job may take to end when the worker is told to stop; a longer one is run again by the next
worker."""


async def work(app: App) -> None:
    """Run jobs, and take up again what a dead worker left behind."""
    async with app.open_async():
        await _take_up_again(app)
        minder = asyncio.create_task(_mind(app))
        try:
            await app.run_worker_async(
                concurrency=2,
                install_signal_handlers=True,
                shutdown_graceful_timeout=GRACE,
                update_heartbeat_interval=min(5.0, STALLED.total_seconds() / 4),
                stalled_worker_timeout=STALLED.total_seconds(),
            )
        finally:
            minder.cancel()


async def _mind(app: App) -> None:
    while True:
        await asyncio.sleep(LOOKS)
        with suppress(
            ConnectorException, SQLAlchemyError
        ):  # the database is away: the next turn finds it again
            await _take_up_again(app)
            await asyncio.to_thread(give_up_stranded, database())
            await asyncio.to_thread(give_up_stranded_files, database())
            await asyncio.to_thread(forget_old, database())


async def _take_up_again(app: App) -> None:
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=STALLED.total_seconds()):
        await app.job_manager.retry_job(job)


def main() -> None:
    """Start a worker on the database of the environment."""
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(name)s %(message)s")
    warm_up()
    app = make_app(os.environ[URL_VARIABLE])
    app.add_tasks_from(tasks, namespace=NAMESPACE)
    asyncio.run(work(app))


if __name__ == "__main__":
    main()
