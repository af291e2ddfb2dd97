"""What every route needs of the application that it runs in."""

from __future__ import annotations

from flask import Response, current_app, jsonify
from procrastinate import App

from evenmark.store.database import Database


def database() -> Database:
    """Return the database of the application at hand."""
    found: Database = current_app.extensions["database"]
    return found


def queue() -> App | None:
    """Return the open task queue; None where there is none, as in tests."""
    found: App | None = current_app.extensions["queue"]
    return found


def problem(status: int, code: str, says: str) -> tuple[Response, int]:
    """Return a refusal as the pages expect it."""
    return jsonify({"code": code, "says": says}), status
