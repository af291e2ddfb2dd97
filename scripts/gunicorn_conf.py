"""The web server's hooks."""

from __future__ import annotations


def post_worker_init(_worker: object) -> None:
    """Have the engine loaded before the first file comes in."""
    from evenmark.services.bounded import warm_up

    warm_up()
