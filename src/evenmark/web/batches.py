"""Handing in for a class at once."""

from __future__ import annotations

from typing import cast

from apiflask import APIBlueprint
from flask import request
from sqlalchemy.orm import Session

from evenmark.services import batches
from evenmark.web.access import me
from evenmark.web.context import database, queue
from evenmark.web.models.base import Done
from evenmark.web.models.batches import BatchHandIn, BatchOut, DecisionIn
from evenmark.web.once import done_once, once

routes = APIBlueprint("batches", __name__, url_prefix="/api")
MOST_REQUEST = 96 * 1024 * 1024
"""A class's drawings together; one drawing by itself may have less."""


def _page(db: Session, batch_id: int) -> BatchOut:
    return BatchOut.model_validate(batches.batch_page(db, me(), batch_id))


@routes.post("/issues/<int:issue_id>/batches")
@routes.output(BatchOut)
def start(issue_id: int) -> BatchOut:
    """Take in a ZIP or a set of files (multipart field ``files``, several times); nothing is handed in
    yet."""
    request.max_content_length = MOST_REQUEST
    given = [(f.filename or "drawing", f.stream.read()) for f in request.files.getlist("files")]
    with database().transaction() as db:
        kept = once(db, lambda: {"batch": batches.start_batch(db, queue(), me(), issue_id, given).id})
        return _page(db, cast(int, kept["batch"]))


@routes.get("/batches/<int:batch_id>")
@routes.output(BatchOut)
def page(batch_id: int) -> BatchOut:
    """Show each file and how far it is."""
    with database().transaction() as db:
        return _page(db, batch_id)


@routes.patch("/batches/<int:batch_id>/files/<int:file_id>")
@routes.input(DecisionIn)
@routes.output(BatchOut)
def decide(batch_id: int, file_id: int, json_data: DecisionIn) -> BatchOut:
    """Say whose a file is."""
    with database().transaction() as db:
        batches.decide(db, me(), batch_id, file_id, json_data.student_id)
        return _page(db, batch_id)


@routes.post("/batches/<int:batch_id>/files/<int:file_id>/read-again")
@routes.output(BatchOut)
def read_again(batch_id: int, file_id: int) -> BatchOut:
    """Try once more to read a file."""
    with database().transaction() as db:
        done_once(db, lambda: batches.read_again(db, queue(), me(), batch_id, file_id))
        return _page(db, batch_id)


@routes.post("/batches/<int:batch_id>/hand-in")
@routes.input(BatchHandIn)
@routes.output(BatchOut)
def hand_in(batch_id: int, json_data: BatchHandIn) -> BatchOut:
    """Hand in every file whose student is known."""
    with database().transaction() as db:
        done_once(db, lambda: batches.hand_in_batch(db, queue(), me(), batch_id, on_time=json_data.on_time))
        return _page(db, batch_id)


@routes.delete("/batches/<int:batch_id>")
@routes.output(Done)
def drop(batch_id: int) -> Done:
    """Forget the files that were not handed in."""
    with database().transaction() as db:
        batches.drop_batch(db, me(), batch_id)
    return Done(says="Remaining files discarded. Drawings that were handed in stay.")
