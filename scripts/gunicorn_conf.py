"""The web server's hooks."""

from __future__ import annotations

import os
import threading
from typing import Any


def post_worker_init(worker: Any) -> None:
    """Keep half of the threads free for pages, and have the engine loaded before the first file comes in, and
    what answers for boards before the first board."""
    from evenmark.services.bounded import let_wait, warm_up

    let_wait(max(1, int(os.environ.get("EVENMARK_WEB_THREADS", "4")) // 2))
    warm_up()
    threading.Thread(target=worker.wsgi.extensions["desks"].warm_up, daemon=True).start()
