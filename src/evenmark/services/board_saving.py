"""What was done on boards is saved, act by act; lists of two pages that have parted are settled."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import NamedTuple, cast

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from evenmark.core.board.answers import Edit
from evenmark.core.board.edits import Conflict, edited_by
from evenmark.core.construct.document import Document, DocumentError, KeptDocument, from_json, to_json
from evenmark.services import room
from evenmark.services.boards import own_board, snapshot
from evenmark.services.errors import NotThere, NotUsable, Outdated
from evenmark.store.boards import Board, BoardAct, BoardAside
from evenmark.store.people import Person, now

MOST_ASIDE = 40
MOST_ACTS = 500
"""Acts in one request: what was done while there was no connection."""
MOST_IN_PART = 2_000_000
"""Bytes of acts from one snapshot to the next."""
FAR_AHEAD = 200_000
"""Acts of one board; more are no drawing."""
Acted = Sequence[Mapping[str, object]]
"""The edits of one act, as anybody may have sent them."""


class SavedTo(NamedTuple):
    """The version that a board has now, and what is to be said of its room, if there is not much left."""

    version: int
    room: str = ""


def save(session: Session, person: Person, board_id: int, base: int, acts: Sequence[Acted]) -> SavedTo:
    """Do acts on the version of a board that they were made for; return the version that they make. What was
    saved already, by a request whose answer was lost, is not done twice. Raises Outdated where somebody went
    on from it meanwhile, NotUsable, NoRoom."""
    board = own_board(session, person, board_id, locked=True)
    if len(acts) > MOST_ACTS:
        raise NotUsable(f"At most {MOST_ACTS} changes can be saved at once. Reload the page.")
    known = _done_already(session, board, base, acts)
    if base + known != board.version:
        raise Outdated("Changed in another tab. Reload, then go on.", "parted")
    if known == len(acts):
        return SavedTo(board.version)
    try:
        document = edited_by(from_json(board.document), acts[known:])
    except Conflict as why:
        raise Outdated(str(why), "parted") from why
    except DocumentError as why:
        raise NotUsable(str(why)) from why
    return SavedTo(board.version + len(acts) - known, _put(session, person, board, acts[known:], document))


def _edits(edits: Acted) -> list[Edit]:
    """Return edits that were read as what they are."""
    return [cast(Edit, one) for one in edits]


def _done_already(session: Session, board: Board, base: int, acts: Sequence[Acted]) -> int:
    """Return how many of some acts are the ones that followed on a version."""
    if base >= board.version:
        return 0
    after = session.scalars(
        select(BoardAct)
        .where(BoardAct.board_id == board.id, BoardAct.version > base)
        .order_by(BoardAct.version)
        .limit(len(acts))
    ).all()
    count = 0
    for act, mine in zip(after, acts, strict=False):
        if act.splices != list(mine):
            break
        count += 1
    return count


def _put(session: Session, person: Person, board: Board, acts: Sequence[Acted], document: Document) -> str:
    """Keep acts, and the document that they lead to; return what is to be said of the room left. Raises
    NoRoom, NotUsable."""
    if board.version + len(acts) > FAR_AHEAD:
        raise NotUsable(
            "This drawing has too many changes. Download its steps, then open them on a new board."
        )
    size = sum(room.bytes_of(edits) for edits in acts)
    says = room.add_to_board(session, person, board, size)
    for edits in acts:
        board.version += 1
        session.add(BoardAct(board_id=board.id, version=board.version, splices=_edits(edits)))
    board.document, board.changed_at = to_json(document), now()
    board.part_bytes += size
    session.flush()
    if board.part_bytes > MOST_IN_PART:
        snapshot(session, board)
    return says


def part(
    session: Session, person: Person, board_id: int, base: int, document: Mapping[str, object], *, mine: bool
) -> int:
    """Settle that two pages have gone on from one version: take the list of the page that asks, or the one
    that is kept here; the other is set aside. Returns the version. Raises NotUsable, Outdated."""
    board = own_board(session, person, board_id, locked=True)
    if base != board.version:
        raise Outdated("Changed in another tab again. Reload, then go on.", "parted")
    try:
        theirs, here = from_json(document), from_json(board.document)
    except DocumentError as why:
        raise NotUsable(str(why)) from why
    room.check_own(session, person, room.bytes_of(document))
    _set_aside(
        session, board, here if mine else theirs, "the list that was kept" if mine else "the other list"
    )
    if mine:
        whole: dict[str, object] = {
            "at": 0,
            "gone": board.document["lines"],
            "come": to_json(theirs)["lines"],
        }
        _put(session, person, board, [[whole]], Document(theirs.items, max(theirs.next_id, here.next_id)))
    session.flush()
    return board.version


def _set_aside(session: Session, board: Board, document: Document, says: str) -> None:
    count = sum(1 for i in document.items if i.kind == "step")
    said = f"{says}, {count} step{'' if count == 1 else 's'}"
    session.add(BoardAside(board_id=board.id, says=said, document=to_json(document)))
    session.flush()
    old = session.scalars(
        select(BoardAside.id)
        .where(BoardAside.board_id == board.id)
        .order_by(BoardAside.id.desc())
        .offset(MOST_ASIDE)
    ).all()
    session.execute(delete(BoardAside).where(BoardAside.id.in_(old)))


def set_aside(session: Session, person: Person, board_id: int, aside_id: int) -> KeptDocument:
    """Return a list that was set aside. Raises NotThere."""
    board = own_board(session, person, board_id)
    found = session.get(BoardAside, aside_id)
    if found is None or found.board_id != board.id:
        raise NotThere("This list is gone. Reload the page.")
    return found.document
