"""The connection: one engine a process, one transaction a use case."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from sqlalchemy import Engine, create_engine
from sqlalchemy.exc import IntegrityError, InterfaceError, OperationalError, StatementError
from sqlalchemy.orm import Session, sessionmaker

open_transactions: ContextVar[int] = ContextVar("open_transactions", default=0)
"""How many transactions this thread holds open: no long work belongs inside one."""
URL_VARIABLE = "EVENMARK_DATABASE_URL"


class Conflict(ValueError):
    """A rule of the database stands against a change; ``constraint`` names it."""

    def __init__(self, constraint: str) -> None:
        self.constraint = constraint
        super().__init__(f"This change breaks the rule {constraint}.")


def is_away(why: StatementError) -> bool:
    """Say whether an error is about the database itself (gone, full, going down) and not about what was to be
    kept: then it is worth another try."""
    return isinstance(why, OperationalError | InterfaceError)


class Database:
    """Hands out transactions."""

    def __init__(self, url: str | None = None) -> None:
        self.url = url or os.environ[URL_VARIABLE]
        self.engine: Engine = create_engine(
            self.url,
            pool_size=8,
            max_overflow=8,
            pool_pre_ping=True,
            hide_parameters=True,  # a failed statement is logged without what somebody typed
        )
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def transaction(self) -> Iterator[Session]:
        """Yield a session whose work is kept as a whole when the block ends, or not at all.

        Raises Conflict, from the driver's error, where a named constraint stands against it.
        """
        token = open_transactions.set(open_transactions.get() + 1)
        try:
            with self._sessions.begin() as session:
                yield session
        except IntegrityError as why:
            name = getattr(getattr(why.orig, "diag", None), "constraint_name", None) or "unknown"
            raise Conflict(name) from why
        finally:
            open_transactions.reset(token)

    def close(self) -> None:
        """Give all connections back."""
        self.engine.dispose()
