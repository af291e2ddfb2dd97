"""Alembic's entry point: runs migrations on the database of the given configuration."""

from alembic import context
from sqlalchemy import create_engine, pool

from evenmark.store import boards, models
from evenmark.store.people import Base

TABLES = (boards, models)
"""What has to be known for all tables to be."""


def ours(_object: object, name: str | None, kind: str, _reflected: bool, _other: object) -> bool:
    """Say whether a table is ours to compare: the queue's tables come from its own package."""
    return not (kind == "table" and (name or "").startswith("procrastinate"))


engine = create_engine(context.config.get_main_option("sqlalchemy.url") or "", poolclass=pool.NullPool)
with engine.connect() as connection:
    context.configure(
        connection=connection, target_metadata=Base.metadata, include_object=ours, compare_type=True
    )
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
