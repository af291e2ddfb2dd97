"""Boards: drawing in steps."""

from __future__ import annotations

from collections.abc import Callable
from typing import cast

from apiflask import APIBlueprint
from flask import Response, current_app, request
from sqlalchemy.orm import Session

from evenmark.core.construct.document import from_json
from evenmark.core.sheet.ways_out import USUAL_VERSION, VERSIONS
from evenmark.services import (
    board_files,
    board_history,
    board_out,
    board_pictures,
    board_saving,
    board_work,
    boards,
    exercises,
    own_checks,
)
from evenmark.services.board_pictures import UnderlayChange
from evenmark.services.board_sessions import BoardSessions
from evenmark.services.bounded import read_bounded, run_bounded
from evenmark.services.errors import NotUsable, Outdated
from evenmark.services.keys import read_key
from evenmark.services.once import Answer as Answered
from evenmark.store.boards import Board
from evenmark.web.access import me
from evenmark.web.context import database, queue
from evenmark.web.files import download, given_file
from evenmark.web.models.base import Done
from evenmark.web.models.boards import (
    ActsIn,
    Answer,
    AskIn,
    BoardIn,
    BoardMade,
    BoardPage,
    BoardRows,
    DocumentOut,
    KeyIn,
    KeyMade,
    ListIn,
    MadeOut,
    OpenedOut,
    OwnCheckTold,
    PartIn,
    Saved,
    TitleIn,
    UnderlayIn,
    UnderlayOut,
)
from evenmark.web.models.work import HandedIn, UnderstoodOut
from evenmark.web.once import answered, once, request_key

routes = APIBlueprint("boards", __name__, url_prefix="/api")
TYPES = {
    "dxf": "image/vnd.dxf",
    "svg": "image/svg+xml",
    "pdf": "application/pdf",
    "json": "application/json",
    "txt": "text/plain",
}


def _desks() -> BoardSessions:
    found: BoardSessions = current_app.extensions["desks"]
    return found


@routes.get("/boards")
@routes.output(BoardRows)
def listing() -> BoardRows:
    """List the caller's boards."""
    with database().transaction() as db:
        return BoardRows.model_validate({"boards": boards.boards_of(db, me())})


@routes.post("/boards")
@routes.input(BoardIn)
@routes.output(BoardMade)
def make(json_data: BoardIn) -> BoardMade:
    """Begin a board of one's own."""
    with database().transaction() as db:
        return _begun(db, lambda: boards.new_board(db, me(), json_data.title, json_data.unit))


def _begun(db: Session, begin: Callable[[], Board]) -> BoardMade:
    """Begin a board, once."""
    return BoardMade.model_validate(once(db, lambda: {"board_id": begin().id}))


@routes.post("/work/<int:issue_id>/board")
@routes.output(BoardMade)
def draft(issue_id: int) -> BoardMade:
    """Give the caller's draft for what was issued; begun if there is none."""
    with database().transaction() as db:
        start = board_files.start_for(db, me(), issue_id)
    begins = start.document() if start is not None else None
    with database().transaction() as db:
        return BoardMade(board_id=boards.draft_for(db, me(), issue_id, begins).id)


@routes.post("/exercises/<int:revision_id>/board")
@routes.output(BoardMade)
def from_key(revision_id: int) -> BoardMade:
    """Begin a board with the key of an exercise on it, to be drawn on."""
    with database().transaction() as db:
        key = board_files.key_for(db, me(), revision_id)
    document = key.document()
    with database().transaction() as db:
        return _begun(db, lambda: boards.new_board(db, me(), key.title, key.unit, document))


@routes.get("/boards/<int:board_id>")
@routes.output(BoardPage)
def page(board_id: int) -> BoardPage:
    """Show a board."""
    with database().transaction() as db:
        return BoardPage.model_validate(boards.opened(db, me(), board_id))


@routes.post("/boards/<int:board_id>/acts")
@routes.input(ActsIn)
@routes.output(Saved)
def save(board_id: int, json_data: ActsIn) -> Saved:
    """Save what was done since a version."""
    with database().transaction() as db:
        saved = board_saving.save(db, me(), board_id, json_data.base, json_data.acts)
    _desks().done(board_id, json_data.base, saved.version, json_data.acts)
    return Saved.model_validate(saved)


@routes.post("/boards/<int:board_id>/ask")
@routes.input(AskIn)
@routes.output(Answer)
def ask(board_id: int, json_data: AskIn) -> Answer:
    """Answer a call about a version of a board, as the page's own worker does."""
    with database().transaction() as db:
        board = boards.own_board(db, me(), board_id)
        version, document = board.version, board.document
    if version != json_data.version:
        raise Outdated("Changed in another tab. Reload, then go on.", "parted")
    answer = _desks().ask(me().id, (board_id, version), document, json_data.call, json_data.args)
    return Answer(answer=dict(answer or {}))


@routes.post("/boards/<int:board_id>/part")
@routes.input(PartIn)
@routes.output(Saved)
def part(board_id: int, json_data: PartIn) -> Saved:
    """Take one of two lists that have parted; the other is set aside."""
    with database().transaction() as db:
        version = board_saving.part(
            db, me(), board_id, json_data.base, json_data.document, mine=json_data.take == "mine"
        )
    return Saved(version=version)


@routes.get("/boards/<int:board_id>/aside/<int:aside_id>")
@routes.output(DocumentOut)
def aside(board_id: int, aside_id: int) -> DocumentOut:
    """Give a list that was set aside."""
    with database().transaction() as db:
        return DocumentOut(document=dict(board_saving.set_aside(db, me(), board_id, aside_id)))


@routes.patch("/boards/<int:board_id>")
@routes.input(TitleIn)
@routes.output(Done)
def rename(board_id: int, json_data: TitleIn) -> Done:
    """Give a board another title."""
    with database().transaction() as db:
        boards.rename(db, me(), board_id, json_data.title)
    return Done(says="Renamed.")


@routes.delete("/boards/<int:board_id>")
@routes.output(Done)
def take_away(board_id: int) -> Done:
    """Take a board away for good."""
    with database().transaction() as db:
        boards.take_away(db, me(), board_id)
    return Done(says="Deleted.")


@routes.get("/boards/<int:board_id>/file.<any(dxf, svg, pdf, json, txt):way>")
def file(board_id: int, way: str) -> Response:
    """Give a board as a file; ``?version=R12`` for another version of DXF."""
    version = request.args.get("version", USUAL_VERSION)
    if version not in VERSIONS:
        raise NotUsable(f"Choose a version of DXF: {', '.join(VERSIONS)}.")
    with database().transaction() as db:
        board = boards.own_board(db, me(), board_id)
        title, document = board.title, board.document
    made = run_bounded(board_work.write_file, document, way, title, version)
    if isinstance(made, str):
        raise NotUsable(made)
    return download(made, f"{title}.{way}", TYPES[way])


@routes.post("/boards/<int:board_id>/opened")
@routes.output(OpenedOut)
def opened(board_id: int) -> OpenedOut:
    """Read a file (multipart field ``file``) for a board: a document of steps, to be put in the place of its
    own, or a drawing, to be laid in."""
    with database().transaction() as db:
        unit = from_json(boards.own_board(db, me(), board_id).document).unit
    name, data = given_file()
    return OpenedOut.model_validate(read_bounded(board_work.opened, data, name, unit))


@routes.post("/boards/<int:board_id>/picture")
@routes.output(UnderlayOut)
def put_picture(board_id: int) -> UnderlayOut:
    """Lay a picture (multipart field ``file``, PNG or JPEG) under a board."""
    with database().transaction() as db:
        document = boards.own_board(db, me(), board_id).document
    _, data = given_file()
    found = run_bounded(board_pictures.made_ready, data, document)
    if isinstance(found, str):
        raise NotUsable(found)
    with database().transaction() as db:
        return UnderlayOut.model_validate(board_pictures.put(db, me(), board_id, found))


@routes.get("/boards/<int:board_id>/picture")
def picture(board_id: int) -> Response:
    """Give the picture under a board."""
    with database().transaction() as db:
        kind, data = board_pictures.picture_of(db, me(), board_id)
    return Response(data, mimetype=kind)


@routes.patch("/boards/<int:board_id>/picture")
@routes.input(UnderlayIn)
@routes.output(UnderlayOut)
def place_picture(board_id: int, json_data: UnderlayIn) -> UnderlayOut:
    """Change how the picture under a board lies."""
    with database().transaction() as db:
        placed = board_pictures.place(db, me(), board_id, cast(UnderlayChange, json_data.model_dump()))
        return UnderlayOut.model_validate(placed)


@routes.delete("/boards/<int:board_id>/picture")
@routes.output(Done)
def drop_picture(board_id: int) -> Done:
    """Take the picture under a board away."""
    with database().transaction() as db:
        board_pictures.drop(db, me(), board_id)
    return Done(says="Picture deleted.")


@routes.post("/boards/<int:board_id>/hand-in")
@routes.input(ListIn)
@routes.output(HandedIn)
def hand_in_board(board_id: int, json_data: ListIn) -> HandedIn:
    """Hand in a draft as it is kept, with how it was made."""
    with database().transaction() as db:

        def handed_in() -> Answered:
            attempt = board_out.hand_in_board(db, queue(), me(), board_id, json_data.digest)
            return {"attempt_id": attempt.id}

        return HandedIn.model_validate(once(db, handed_in))


@routes.post("/boards/<int:board_id>/understood")
@routes.input(ListIn)
@routes.output(UnderstoodOut)
def understood(board_id: int, json_data: ListIn) -> UnderstoodOut:
    """Say what is understood of a draft before it is handed in; uses up no try."""
    with database().transaction() as db:
        given = board_out.to_hand_in(db, me(), board_id, json_data.digest)
    return UnderstoodOut.model_validate(board_out.understood(given))


@routes.post("/boards/<int:board_id>/check")
@routes.input(ListIn)
@routes.output(OwnCheckTold)
def check(board_id: int, json_data: ListIn) -> OwnCheckTold:
    """Hold the caller's draft against the key, where the exercise allows it: which checks are not met yet, or
    how many."""
    with database().transaction() as db:
        before = answered(db)
        if before is not None:
            return OwnCheckTold.model_validate(before)
        given = own_checks.to_check(db, me(), board_id, json_data.digest, request_key().key)
    marked = own_checks.worked_out(database(), given)
    with database().transaction() as db:

        def told() -> Answered:
            return own_checks.describe_own_check(db, me(), given, marked)._asdict()

        return OwnCheckTold.model_validate(once(db, told))


@routes.get("/attempts/<int:attempt_id>/made")
@routes.output(MadeOut)
def made(attempt_id: int) -> MadeOut:
    """Show an instructor how an attempt was drawn on the board: what was done, when, in words; ``?part=1``
    for the second part of a long history."""
    with database().transaction() as db:
        found = board_history.how_made(db, me(), attempt_id, request.args.get("part", 0, int))
    acts = run_bounded(board_work.made, found["document"], found["acts"])
    return MadeOut.model_validate({**found, "acts": acts})


@routes.get("/attempts/<int:attempt_id>/made/<int:count>")
@routes.output(Answer)
def made_so_far(attempt_id: int, count: int) -> Answer:
    """Show an instructor what the board showed after some of what was done."""
    with database().transaction() as db:
        start, acts = board_history.made_up_to(db, me(), attempt_id, count)
    shown = run_bounded(board_work.made_view, start, acts)
    return Answer(answer=dict(shown))


@routes.post("/boards/<int:board_id>/exercise")
@routes.input(KeyIn)
@routes.output(KeyMade)
def exercise(board_id: int, json_data: KeyIn) -> KeyMade:
    """Make an exercise whose key a board is."""
    with database().transaction() as db:
        name, data = board_out.as_file(db, me(), board_id, json_data.digest)
    taken = read_key(me(), title=json_data.title, key_name=name, key=data)
    with database().transaction() as db:

        def kept() -> Answered:
            return {"revision_id": exercises.keep_exercise(db, me(), taken, text=json_data.text).id}

        return KeyMade.model_validate(once(db, kept))
