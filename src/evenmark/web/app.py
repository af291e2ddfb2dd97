"""The web application."""

from __future__ import annotations

import gzip
import logging
import os
import traceback
from typing import Any

from apiflask import APIFlask
from flask import Response, request
from procrastinate import App
from psycopg.errors import DiskFull
from sqlalchemy.exc import DataError, InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from werkzeug.exceptions import HTTPException
from werkzeug.routing import IntegerConverter, Map

from evenmark.services import disk, errors
from evenmark.services.board_sessions import BoardSessions
from evenmark.services.errors import Refused
from evenmark.store.database import Conflict, Database
from evenmark.store.queue import make_app as make_queue
from evenmark.web.access import load_session
from evenmark.web.context import problem
from evenmark.web.request_checks import Forwarded

log = logging.getLogger(__name__)
MOST_REQUEST = 34 * 1024 * 1024
THREADS_VARIABLE = "EVENMARK_WEB_THREADS"
PROXIES_VARIABLE = "EVENMARK_PROXIES"
STATUS = {
    errors.NotSignedIn: 401,
    errors.NotAllowed: 403,
    errors.NotThere: 404,
    errors.NotUsable: 422,
    errors.Outdated: 409,
    errors.TooOften: 429,
    errors.Busy: 422,
    errors.Crowded: 503,
    errors.Full: 503,
}
WORTH_PACKING = 4000
"""Bytes of an answer from which on it is packed."""
AGAIN_AFTER = "2"
"""Seconds after which pages ask once more by themselves."""
CONFLICTS = {
    "uq_person_sign_in": "This sign-in name is taken. Choose another, or sign in if it is yours.",
    "uq_issue_revision_id_class_id": "This exercise is issued to that class already. Choose another class.",
    "uq_batch_file_attempt_id": "This file is handed in already. Choose another one.",
    "fk_attempt_issue_id_issue": (
        "This exercise was withdrawn just now. Ask your instructor; your drawing is still with you."
    ),
    "fk_intake_issue_id_issue": (
        "This exercise was withdrawn just now. Ask your instructor; your drawing is still with you."
    ),
    "issued_revision_stays": "This revision is issued and cannot change. Change the newest one.",
}
HEADERS = {
    "Content-Security-Policy": "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; worker-src 'self'; "
    "img-src 'self' data: blob:; "
    "style-src 'self' 'unsafe-inline'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; "
    "form-action 'self'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "X-Frame-Options": "DENY",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=(), payment=(), usb=()",
}


class NumberConverter(IntegerConverter):
    """Numbers in addresses: none beyond what the database can hold, so that such an address is simply not
    there."""

    def __init__(self, url_map: Map, *arguments: Any, **options: Any) -> None:
        options.setdefault("max", 2**31 - 1)
        super().__init__(url_map, *arguments, **options)


def create_app(database: Database | None = None, queue: App | None = None) -> APIFlask:
    """Return the application on a database; the queue is opened when there is one to be had."""
    from evenmark.web import (
        batches,
        boards,
        classes,
        exercises,
        issues,
        marking,
        pages,
        people,
        record,
        results,
        work,
    )

    app = APIFlask("evenmark", title="Even Mark", version="1", enable_openapi=False, static_folder=None)  # type: ignore[arg-type]
    app.url_map.converters["int"] = NumberConverter
    app.config["MAX_CONTENT_LENGTH"] = MOST_REQUEST
    app.config["MAX_FORM_MEMORY_SIZE"] = 1024 * 1024
    app.config["VALIDATION_ERROR_STATUS_CODE"] = 422
    app.json.sort_keys = False  # type: ignore[attr-defined]
    if database is not None:
        app.extensions["database"] = database
    app.extensions["queue"] = queue
    app.extensions["desks"] = BoardSessions(max(3, int(os.environ.get(THREADS_VARIABLE, "16")) * 3 // 8))
    for part in (people, classes, exercises, issues, results, marking, batches, boards, work, record, pages):
        app.register_blueprint(part.routes)
    proxies = os.environ.get(PROXIES_VARIABLE, "")
    if proxies:
        app.wsgi_app = Forwarded(app.wsgi_app, proxies.split(","))  # type: ignore[method-assign]
    app.before_request(load_session)
    app.after_request(_headers)
    app.register_error_handler(Refused, _refused)
    app.register_error_handler(Conflict, _conflict)
    app.register_error_handler(OperationalError, _away)
    app.register_error_handler(InterfaceError, _away)
    app.register_error_handler(PoolTimeout, _away)
    app.register_error_handler(DataError, _not_storable)
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


def _headers(response: Response) -> Response:
    for name, value in HEADERS.items():
        response.headers.setdefault(name, value)
    if response.status_code == 503:
        response.headers.setdefault("Retry-After", AGAIN_AFTER)  # pages ask once more by themselves
    if request.is_secure:
        response.headers.setdefault("Strict-Transport-Security", "max-age=31536000")
    if request.path.startswith("/api/"):
        response.headers.setdefault("Cache-Control", "no-store")
        _pack(response)
    return response


def _pack(response: Response) -> None:
    """Pack a large answer where the browser takes it so; what holds secrets is short and stays as it is."""
    if (
        response.mimetype == "application/json"
        and response.content_length is not None
        and response.content_length >= WORTH_PACKING
        and request.accept_encodings["gzip"] > 0
        and "Content-Encoding" not in response.headers
    ):
        response.set_data(gzip.compress(response.get_data(), 1))
        response.headers["Content-Encoding"] = "gzip"
        response.headers.add("Vary", "Accept-Encoding")


def _refused(why: Refused) -> tuple[Response, int]:
    response, status = problem(
        next((s for kind, s in STATUS.items() if isinstance(why, kind)), 400), why.code, why.says
    )
    if isinstance(why, errors.TooOften):
        response.headers["Retry-After"] = str(why.seconds)
    return response, status


def _conflict(why: Conflict) -> tuple[Response, int]:
    return problem(
        409,
        "conflict",
        CONFLICTS.get(why.constraint, "Somebody changed this at the same time. Reload the page."),
    )


def _away(why: Exception) -> tuple[Response, int]:
    log.error(
        "the database cannot be reached on %s %s: %s",
        request.method,
        request.path,
        type(getattr(why, "orig", None) or why).__name__,
    )
    if isinstance(getattr(why, "orig", None), DiskFull):
        return problem(
            503,
            "full",
            disk.SAYS,
        )
    return problem(
        503,
        "away",
        "The database cannot be reached just now and is being restarted. What was saved is safe. Try "
        "again in a moment.",
    )


def _not_storable(_why: Exception) -> tuple[Response, int]:
    return problem(422, "not-usable", "Something you typed cannot be saved. Type it again, then try again.")


def _http(why: HTTPException) -> tuple[Response, int]:
    status = why.code or 500
    return problem(status, *_said(status))


def _said(status: int) -> tuple[str, str]:
    """Return code and sentence for a refusal of the protocol's own."""
    says = {
        404: "There is no such page. Go back.",
        405: "This cannot be done here. Reload the page.",
        413: "Too large: a drawing has at most 32 MB, all drawings of a class 96 MB. Split it, then try "
        "again.",
    }.get(status, "The request could not be understood. Reload the page.")
    return "too-large" if status == 413 else "http", says


def _broken(why: Exception) -> tuple[Response, int]:
    log.error("unexpected error on %s %s\n%s", request.method, request.path, where(why))
    return problem(
        500,
        "broken",
        "Something went wrong on our side; nothing you handed in is lost. Try again in a moment.",
    )


def where(why: BaseException) -> str:
    """Return the kind of an error and the lines that it came through, without its words: those may hold what
    somebody typed."""
    lines = [
        f"{f.filename.rsplit('/src/', 1)[-1]}:{f.lineno} {f.name}"
        for f in traceback.extract_tb(why.__traceback__)
    ]
    return "\n".join([f"{type(why).__module__}.{type(why).__name__}", *lines[-12:]])


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
