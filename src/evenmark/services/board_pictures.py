"""Pictures under boards: checked, made upright, kept with the board, and where they lie."""

from __future__ import annotations

import hashlib
import io
from dataclasses import dataclass
from typing import TypedDict

from PIL import Image, ImageOps
from sqlalchemy.orm import Session

from evenmark.core.board.near import box_of_features
from evenmark.core.board.underlay import Underlay, UnderlayJson, laid_under, length_of, moved_underlay, scaled
from evenmark.core.construct.building import build
from evenmark.core.construct.document import KeptDocument, from_json
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.units import BY_SYMBOL
from evenmark.core.sheet.frame import EMPTY_BOX
from evenmark.services import room
from evenmark.services.boards import own_board
from evenmark.services.errors import NotThere, NotUsable
from evenmark.store.boards import BoardPicture
from evenmark.store.people import Person

MOST_DOTS = 40_000_000
"""Of a picture that is taken in; more are no scan of a sheet, but may be an attack."""
MOST_SIDE = 4000
"""Dots of its longer side as it is kept."""
KINDS = {"PNG": "image/png", "JPEG": "image/jpeg"}
FAR = 1e9
CANNOT = "This picture cannot be read. Save it again as PNG or JPEG and use that file."


@dataclass(frozen=True, kw_only=True, slots=True)
class Picture:
    """A picture as it is kept: its kind, its bytes with nothing but dots, and how it lies at first."""

    kind: str
    data: bytes
    lies: UnderlayJson


class UnderlayChange(TypedDict, total=False):
    """How a picture is to lie otherwise."""

    strength: float | None
    places: tuple[Point, Point] | None
    apart: str
    level: bool


def made_ready(data: bytes, document: KeptDocument) -> Picture | str:
    """Return a picture that is to lie under a board, round what is drawn; or why it cannot be used. Done in a
    bounded process."""
    try:
        with Image.open(io.BytesIO(data), formats=tuple(KINDS)) as found:
            if found.width * found.height > MOST_DOTS:
                return f"This picture has more than {MOST_DOTS // 10**6} million pixels. Save a smaller one."
            kind = found.format or "PNG"
            picture: Image.Image = ImageOps.exif_transpose(found)
            picture.thumbnail((MOST_SIDE, MOST_SIDE))
            clear = kind == "PNG" and (picture.mode in ("RGBA", "LA") or "transparency" in picture.info)
            picture = picture.convert("RGBA" if clear else "RGB")
            kept = Image.new(picture.mode, picture.size)
            kept.paste(picture)
            out = io.BytesIO()
            kept.save(out, kind, quality=88)
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return CANNOT
    state = build(from_json(document)).evaluation.state
    lies = laid_under(box_of_features(state.standing()) or EMPTY_BOX, *kept.size)
    mark = hashlib.sha256(out.getvalue()).hexdigest()[:16]
    return Picture(
        kind=KINDS[kind],
        data=out.getvalue(),
        lies={
            "at": lies.at,
            "scale": lies.scale,
            "turn": lies.turn,
            "width": kept.width,
            "height": kept.height,
            "strength": 0.5,
            "mark": mark,
        },
    )


def put(session: Session, person: Person, board_id: int, picture: Picture) -> UnderlayJson:
    """Lay a picture under a board; another one goes. Return where it lies."""
    board = own_board(session, person, board_id, locked=True)
    room.check_own(session, person, len(picture.data))
    session.merge(BoardPicture(board_id=board.id, kind=picture.kind, data=picture.data))
    board.underlay = picture.lies
    session.flush()
    return board.underlay


def picture_of(session: Session, person: Person, board_id: int) -> tuple[str, bytes]:
    """Return the picture under a board: its kind and bytes. Raises NotThere."""
    board = own_board(session, person, board_id)
    found = session.get(BoardPicture, board.id)
    if found is None:
        raise NotThere("This drawing has no picture to trace. Open one first.")
    return found.kind, found.data


def place(session: Session, person: Person, board_id: int, change: UnderlayChange) -> UnderlayJson:
    """Change how a picture lies: ``strength`` alone; ``move`` from one place to another; ``scale`` by two
    places and how far they are apart, as it is typed, ``level`` or not. Raises NotThere, NotUsable."""
    board = own_board(session, person, board_id, locked=True)
    if board.underlay is None:
        raise NotThere("This drawing has no picture to trace. Open one first.")
    kept: UnderlayJson = {**board.underlay}
    lies = Underlay(at=(kept["at"][0], kept["at"][1]), scale=kept["scale"], turn=kept["turn"])
    strength = change.get("strength")
    if strength is not None:
        kept["strength"] = strength
    places = change.get("places")
    if places is not None:
        a, b = ((p[0], p[1]) for p in places)
        if not all(abs(v) < FAR for v in (*a, *b)):
            raise NotUsable("This place is too far away. Click nearer to the drawing.")
        if change.get("apart"):
            unit = BY_SYMBOL[from_json(board.document).unit]
            try:
                apart = length_of(change["apart"], unit)
                lies = scaled(lies, a, b, apart, level=bool(change.get("level")))
            except ValueError as why:  # a number that cannot be read is one
                raise NotUsable(str(why)) from why
        else:
            lies = moved_underlay(lies, a, b)
        if not (1 / FAR < lies.scale < FAR and all(abs(v) < FAR for v in lies.at)):
            raise NotUsable(
                "The picture would be too large or too small to see. Choose two places farther apart."
            )
    board.underlay = {**kept, "at": lies.at, "scale": lies.scale, "turn": lies.turn}
    session.flush()
    return board.underlay


def drop(session: Session, person: Person, board_id: int) -> None:
    """Take the picture under a board away."""
    board = own_board(session, person, board_id, locked=True)
    found = session.get(BoardPicture, board.id)
    if found is not None:
        session.delete(found)
    board.underlay = None
