"""Bring a database to the newest shape; forward only."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config

FOLDER = Path(__file__).parent / "migrations"


def configuration(url: str) -> Config:
    """Return Alembic's configuration for a database."""
    config = Config()
    config.set_main_option("script_location", str(FOLDER))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def upgrade(url: str) -> None:
    """Apply every migration that is not applied yet."""
    command.upgrade(configuration(url), "head")
