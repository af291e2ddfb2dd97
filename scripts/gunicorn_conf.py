"""The web server's hooks."""

from __future__ import annotations

import os


def post_worker_init(_worker: object) -> None:
    """Keep half of the threads free for pages, and have the engine loaded before the first file comes in."""
    from evenmark.services.bounded import let_wait, warm_up

    let_wait(max(1, int(os.environ.get("EVENMARK_WEB_THREADS", "4")) // 2))
    warm_up()
