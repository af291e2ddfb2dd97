"""Marking: one attempt over its key, what the instructor does to its marks, returning them."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from apiflask import APIBlueprint
from flask import Response, request
from sqlalchemy.orm import Session

from evenmark.core.sheet.scene import frame_of, from_scene
from evenmark.services import acts, marking, prints, returning
from evenmark.services.issues import own_attempt
from evenmark.services.keys import key_view, make_ready
from evenmark.services.marking_view import attempt_in_full, key_of
from evenmark.web.access import me
from evenmark.web.context import database, queue
from evenmark.web.files import download
from evenmark.web.models.base import Done, Point
from evenmark.web.models.marking import CommentIn, MarkingOut, OverrideIn, UndoIn
from evenmark.web.once import done_once, once

routes = APIBlueprint("marking", __name__, url_prefix="/api")


@contextmanager
def _at_hand(attempt_id: int) -> Iterator[Session]:
    """Open a transaction in which an attempt's key is at hand, made ready while none was open."""
    make_ready(
        database(),
        lambda db: key_of(own_attempt(db, me(), attempt_id), marking.newest_sheet(db, attempt_id)),
    )
    with database().transaction() as db:
        yield db


def _page(db: Session, attempt_id: int) -> MarkingOut:
    return MarkingOut.model_validate(attempt_in_full(db, me(), attempt_id, request.args.get("only") or None))


@routes.get("/attempts/<int:attempt_id>")
@routes.output(MarkingOut)
def page(attempt_id: int) -> MarkingOut:
    """Show one attempt over its key; ``?only=finding-12`` or ``cause-gap`` goes through those drawings
    alone."""
    with _at_hand(attempt_id) as db:
        return _page(db, attempt_id)


@routes.post("/attempts/<int:attempt_id>/overrides")
@routes.input(OverrideIn)
@routes.output(MarkingOut)
def override(attempt_id: int, json_data: OverrideIn) -> MarkingOut:
    """Give a finding another verdict."""
    with _at_hand(attempt_id) as db:
        done_once(
            db,
            lambda: acts.override(
                db,
                me(),
                attempt_id,
                finding=json_data.finding,
                verdict=json_data.verdict,
                reason=json_data.reason,
                marks=json_data.marks,
            ),
        )
        return _page(db, attempt_id)


@routes.post("/attempts/<int:attempt_id>/comments")
@routes.input(CommentIn)
@routes.output(MarkingOut)
def comment(attempt_id: int, json_data: CommentIn) -> MarkingOut:
    """Pin a comment."""
    with _at_hand(attempt_id) as db:
        at = _in_key(db, attempt_id, json_data.at) if json_data.at else None
        done_once(
            db,
            lambda: acts.comment(db, me(), attempt_id, text=json_data.text, finding=json_data.finding, at=at),
        )
        return _page(db, attempt_id)


def _in_key(db: Session, attempt_id: int, at: Point) -> Point:
    """Return a place of the key's scene in key units."""
    attempt = own_attempt(db, me(), attempt_id)
    sheet = marking.newest_sheet(db, attempt.id)
    return from_scene(at, frame_of(key_view(*key_of(attempt, sheet)).tracing))


@routes.post("/attempts/<int:attempt_id>/undo")
@routes.input(UndoIn)
@routes.output(MarkingOut)
def undo(attempt_id: int, json_data: UndoIn) -> MarkingOut:
    """Take back an override or comment."""
    with _at_hand(attempt_id) as db:
        done_once(db, lambda: acts.undo(db, me(), attempt_id, json_data.act))
        return _page(db, attempt_id)


@routes.post("/attempts/<int:attempt_id>/redo")
@routes.output(MarkingOut)
def redo(attempt_id: int) -> MarkingOut:
    """Let what was last taken back stand again."""
    with _at_hand(attempt_id) as db:
        done_once(db, lambda: acts.redo(db, me(), attempt_id))
        return _page(db, attempt_id)


@routes.post("/attempts/<int:attempt_id>/return")
@routes.output(MarkingOut)
def return_one(attempt_id: int) -> MarkingOut:
    """Return an attempt's marks to its student as they stand."""
    with _at_hand(attempt_id) as db:
        done_once(db, lambda: returning.return_one(db, me(), attempt_id))
        return _page(db, attempt_id)


@routes.post("/attempts/<int:attempt_id>/take-back")
@routes.output(MarkingOut)
def take_back(attempt_id: int) -> MarkingOut:
    """Take returned marks back."""
    with _at_hand(attempt_id) as db:
        done_once(db, lambda: returning.take_back(db, me(), attempt_id))
        return _page(db, attempt_id)


@routes.post("/attempts/<int:attempt_id>/mark-again")
@routes.output(MarkingOut)
def mark_again(attempt_id: int) -> MarkingOut:
    """Ask for an attempt to be marked once more."""
    with _at_hand(attempt_id) as db:
        done_once(db, lambda: marking.mark_again(db, queue(), me(), attempt_id))
        return _page(db, attempt_id)


@routes.post("/issues/<int:issue_id>/return")
@routes.output(Done)
def return_all(issue_id: int) -> Done:
    """Return the marks of a whole class."""
    with database().transaction() as db:
        n = once(db, lambda: {"count": returning.return_all(db, me(), issue_id)})["count"]
    return Done(
        says=f"Returned {n} {'drawing' if n == 1 else 'drawings'}."
        if n
        else "All marks were returned already."
    )


@routes.post("/issues/<int:issue_id>/mark-again")
@routes.output(Done)
def mark_class_again(issue_id: int) -> Done:
    """Ask for a class's attempts to be marked that could not be or were marked by another version of the
    engine."""
    with database().transaction() as db:
        n = once(db, lambda: {"count": marking.mark_class_again(db, queue(), me(), issue_id)})["count"]
    return Done(
        says=f"{n} {'drawing is' if n == 1 else 'drawings are'} being marked."
        if n
        else "All drawings are marked."
    )


@routes.get("/attempts/<int:attempt_id>/file")
def attempt_file(attempt_id: int) -> Response:
    """Give an attempt as it was handed in."""
    with database().transaction() as db:
        attempt = own_attempt(db, me(), attempt_id)
        return download(attempt.data, attempt.file_name)


@routes.get("/attempts/<int:attempt_id>/marked.<any(pdf, dxf):form>")
def marked(attempt_id: int, form: str) -> Response:
    """Give an attempt with its marks as they stand, as PDF at true scale or as DXF."""
    with _at_hand(attempt_id) as db:
        wanted = prints.marked(db, me(), attempt_id, form)
    return download(wanted.made(), wanted.name, prints.TYPES[form])
