"""The record of what the caller did, and files that are made to be taken away."""

from __future__ import annotations

from typing import cast

from apiflask import APIBlueprint
from flask import Response, request

from evenmark.services import exports
from evenmark.services.errors import NotUsable
from evenmark.services.record import record_of
from evenmark.web.access import me
from evenmark.web.context import database, queue
from evenmark.web.files import streamed
from evenmark.web.models.base import Done
from evenmark.web.models.record import ExportIn, ExportOut, RecordOut
from evenmark.web.once import once

routes = APIBlueprint("record", __name__, url_prefix="/api")
MOST = 2**31 - 1


def _asked(name: str) -> int | None:
    """Return a number out of the address; None where there is none."""
    text = request.args.get(name, "")
    return min(int(text), MOST) if text.isascii() and text.isdigit() and len(text) < 12 else None


@routes.get("/record")
@routes.output(RecordOut)
def record() -> RecordOut:
    """Show what the caller did, newest first; ``?class=``, ``?exercise=`` what was about one, ``?page=`` goes
    on."""
    with database().transaction() as db:
        found = record_of(
            db,
            me(),
            class_id=_asked("class"),
            exercise_id=_asked("exercise"),
            page=max(1, min(_asked("page") or 1, 10_000)),
        )
        return RecordOut.model_validate(found)


@routes.post("/exports")
@routes.input(ExportIn)
@routes.output(ExportOut)
def start(json_data: ExportIn) -> ExportOut:
    """Have a file made."""
    if not 0 < json_data.number <= MOST:
        raise NotUsable("No such download. Go back.")
    with database().transaction() as db:
        kept = once(
            db,
            lambda: {"export": exports.start_export(db, queue(), me(), json_data.kind, json_data.number).id},
        )
        return ExportOut.model_validate(exports.own_export(db, me(), cast(int, kept["export"])))


@routes.get("/exports/<int:export_id>")
@routes.output(ExportOut)
def export(export_id: int) -> ExportOut:
    """Say how far a file is."""
    with database().transaction() as db:
        return ExportOut.model_validate(exports.own_export(db, me(), export_id))


@routes.get("/exports/<int:export_id>/file")
def export_file(export_id: int) -> Response:
    """Give a made file."""
    with database().transaction() as db:
        row = exports.own_export(db, me(), export_id)
        if row.state != "ready":
            raise NotUsable("This file is not ready yet. Wait a moment.", "not-ready")
        size, name = row.size, row.name
    kind = "application/pdf" if name.endswith(".pdf") else "application/zip"
    return streamed(exports.parts_of(database(), export_id), size, name, kind)


@routes.delete("/exports/<int:export_id>")
@routes.output(Done)
def cancel(export_id: int) -> Done:
    """Forget a file, also while it is being made."""
    with database().transaction() as db:
        exports.cancel(db, me(), export_id)
    return Done(says="The file could not be prepared. Try again.")
