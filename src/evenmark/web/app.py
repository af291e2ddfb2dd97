"""The web application."""

from __future__ import annotations

import logging
import os
from pathlib import Path
from typing import Any

from apiflask import APIFlask
from flask import Response, current_app, jsonify, request
from procrastinate import App
from werkzeug.exceptions import HTTPException
from werkzeug.routing import IntegerConverter, Map

from evenmark.services import errors
from evenmark.services.errors import Refused
from evenmark.store.database import Conflict, Database
from evenmark.store.queue import make_app as make_queue
from evenmark.web.access import load_session

log = logging.getLogger(__name__)
MOST_REQUEST = 34 * 1024 * 1024
PAGES = Path(os.environ.get("EVENMARK_PAGES", Path(__file__).parents[3] / "frontend" / "dist"))
STATUS = {
    errors.NotSignedIn: 401,
    errors.NotAllowed: 403,
    errors.NotThere: 404,
    errors.NotUsable: 422,
    errors.TooOften: 429,
    errors.Busy: 422,
}
CONFLICTS = {
    "uq_person_sign_in": "This sign-in name is taken. Choose another, or sign in if it is yours.",
    "uq_issue_revision_id_class_id": "This exercise is issued to that class already.",
    "uq_batch_file_attempt_id": "This file is handed in already.",
    "issued_revision_stays": "This revision was issued and stays as it is. Change the next one.",
}
HEADERS = {
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}


class NumberConverter(IntegerConverter):
    """Numbers in addresses: none beyond what the database can hold, so that such an address is simply not there."""

    def __init__(self, url_map: Map, *arguments: Any, **options: Any) -> None:
        options.setdefault("max", 2**31 - 1)
        super().__init__(url_map, *arguments, **options)


def create_app(database: Database | None = None, queue: App | None = None) -> APIFlask:
    """Return the application on a database; the queue is opened when there is one to be had."""
    from evenmark.web import batches, classes, exercises, marking, pages, people, results, work

    app = APIFlask("evenmark", title="Even Mark", version="1", enable_openapi=False, static_folder=None)  # type: ignore[arg-type]
    app.url_map.converters["int"] = NumberConverter
    app.config["MAX_CONTENT_LENGTH"] = MOST_REQUEST
    app.config["MAX_FORM_MEMORY_SIZE"] = 1024 * 1024
    app.config["VALIDATION_ERROR_STATUS_CODE"] = 422
    app.json.sort_keys = False  # type: ignore[attr-defined]
    if database is not None:
        app.extensions["database"] = database
    app.extensions["queue"] = queue
    for part in (people, classes, exercises, results, marking, batches, work, pages):
        app.register_blueprint(part.routes)
    app.before_request(load_session)
    app.after_request(_headers)
    app.register_error_handler(Refused, _refused)
    app.register_error_handler(Conflict, _conflict)
    app.register_error_handler(Exception, _broken)
    app.register_error_handler(HTTPException, _http)
    app.error_processor(_invalid)
    return app


def from_environment() -> APIFlask:
    """Return the application on the database of the environment, with an open queue: what the server runs."""
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(name)s %(message)s")
    database = Database()
    queue = make_queue(database.url)
    queue.open()
    return create_app(database, queue)


def database() -> Database:
    """Return the database of the application at hand."""
    found: Database = current_app.extensions["database"]
    return found


def problem(status: int, code: str, says: str) -> tuple[Response, int]:
    """Return a refusal as the pages expect it."""
    return jsonify({"code": code, "says": says}), status


def _headers(response: Response) -> Response:
    for name, value in HEADERS.items():
        response.headers.setdefault(name, value)
    if request.path.startswith("/api/"):
        response.headers.setdefault("Cache-Control", "no-store")
    return response


def _refused(why: Refused) -> tuple[Response, int]:
    return problem(next((s for kind, s in STATUS.items() if isinstance(why, kind)), 400), why.code, why.says)


def _conflict(why: Conflict) -> tuple[Response, int]:
    return problem(
        409,
        "conflict",
        CONFLICTS.get(why.constraint, "Somebody changed this at the same time. Load the page again."),
    )


def _http(why: HTTPException) -> tuple[Response, int]:
    status = why.code or 500
    return problem(status, *_said(status))


def _said(status: int) -> tuple[str, str]:
    """Return code and sentence for a refusal of the protocol's own."""
    says = {
        404: "There is no such page. Go back to where you came from.",
        405: "This cannot be done here.",
        413: "What was sent is too large: a drawing may have 32 MB, a class's drawings together 96 MB. "
        "Remove what does not belong to them, then try again.",
    }.get(status, "The request could not be understood. Load the page again.")
    return "too-large" if status == 413 else "http", says


def _broken(why: Exception) -> tuple[Response, int]:
    log.error("unexpected error on %s %s", request.method, request.path, exc_info=why)
    return problem(
        500,
        "broken",
        "Something went wrong on our side; nothing you handed in is lost. Try again in a moment.",
    )


def _invalid(why: Any) -> tuple[dict[str, str], int, dict[str, str]]:
    """Turn a validation error into a sentence that names the field."""
    if why.status_code != 422:
        code, says = _said(why.status_code)
        return {"code": code, "says": says}, why.status_code, {}
    detail = (why.detail or {}).get("json") or (why.detail or {}).get("query") or {}
    field = next(iter(detail), None)
    said = f"{field}: {detail[field][0]}." if field else why.message
    return (
        {"code": "not-usable", "says": f"Something in the form cannot be used. {said}"},
        why.status_code,
        {},
    )
