"""The web server: loads the application once for all processes that serve, waits for its turn where it is a
spare, then serves. The arguments are gunicorn's."""

from __future__ import annotations

import importlib
import pkgutil

from gunicorn.app.wsgiapp import run

import evenmark.web
from evenmark.jobs.spare import wait_for_turn


def main() -> None:
    """Load, wait, serve."""
    for module in pkgutil.walk_packages(evenmark.web.__path__, "evenmark.web."):
        importlib.import_module(module.name)
    wait_for_turn()
    run()


if __name__ == "__main__":
    main()
