"""A worker: `python -m evenmark.jobs`. Runs until it is told to stop, then finishes what it has in hand."""

from __future__ import annotations

import asyncio
import logging
import os
from datetime import timedelta

from procrastinate import App

from evenmark.jobs.tasks import tasks
from evenmark.services.bounded import warm_up
from evenmark.store.database import URL_VARIABLE
from evenmark.store.queue import NAMESPACE, make_app

STALLED_VARIABLE = "EVENMARK_STALLED_SECONDS"
STALLED = timedelta(seconds=float(os.environ.get(STALLED_VARIABLE, "180")))
"""A job whose worker has not been heard of for this long died with it, and is run again."""


async def work(app: App) -> None:
    """Run jobs, and take up again what a dead worker left behind."""
    async with app.open_async():
        await _take_up_again(app)
        minder = asyncio.create_task(_mind(app))
        try:
            await app.run_worker_async(
                concurrency=2,
                install_signal_handlers=True,
                shutdown_graceful_timeout=20,
                update_heartbeat_interval=min(10.0, STALLED.total_seconds() / 3),
                stalled_worker_timeout=max(30.0, STALLED.total_seconds()),
            )
        finally:
            minder.cancel()


async def _mind(app: App) -> None:
    while True:
        await asyncio.sleep(min(60.0, STALLED.total_seconds() / 2))
        await _take_up_again(app)


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
