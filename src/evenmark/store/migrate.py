"""Bring a database to the newest shape; forward only."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script.revision import ResolutionError
from alembic.util import CommandError

FOLDER = Path(__file__).parent / "migrations"


def configuration(url: str) -> Config:
    """Return Alembic's configuration for a database."""
    config = Config()
    config.set_main_option("script_location", str(FOLDER))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


class NewerData(RuntimeError):
    """The database was shaped by a newer release than this one."""

    def __init__(self) -> None:
        super().__init__(
            "The data were written by a newer Even Mark than this one: start that one, or a copy of the "
            "data from before."
        )


def upgrade(url: str) -> None:
    """Apply every migration that is not applied yet. Raises NewerData."""
    config = configuration(url)
    try:
        command.upgrade(config, "head")
    except CommandError as why:
        if isinstance(why.__cause__, ResolutionError) or "locate revision" in str(why):
            raise NewerData from why
        raise
