"""Pictures under boards: checked, made upright, kept with the board, and where they lie."""

from __future__ import annotations

import hashlib
import io
from dataclasses import asdict
from typing import Any

from PIL import Image, ImageOps
from sqlalchemy.orm import Session

from evenmark.core.board.near import box_of_features
from evenmark.core.board.underlay import Underlay, laid_under, moved, scaled
from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_json
from evenmark.core.geometry.numbers import NumberError, evaluate, parse
from evenmark.core.geometry.units import BY_SYMBOL, inch_in
from evenmark.core.sheet.frame import EMPTY_BOX
from evenmark.services.boards import own_board
from evenmark.services.errors import NotThere, NotUsable
from evenmark.store.models import BoardPicture, Person

MOST_DOTS = 40_000_000
"""Of a picture that is taken in; more are no scan of a sheet, but may be an attack."""
MOST_SIDE = 4000
"""Dots of its longer side as it is kept."""
KINDS = {"PNG": "image/png", "JPEG": "image/jpeg"}
FAR = 1e9
CANNOT = "This picture cannot be read. Save it again as PNG or JPEG and use that file."


def upright(data: bytes) -> tuple[str, bytes, int, int] | str:
    """Return a picture as it is kept: its kind, its bytes without anything but dots, its width and height; or
    why it cannot be used. Done in a bounded process."""
    try:
        with Image.open(io.BytesIO(data), formats=tuple(KINDS)) as found:
            if found.width * found.height > MOST_DOTS:
                return (
                    f"This picture has more than {MOST_DOTS // 1_000_000} million dots: save a smaller one."
                )
            kind = found.format or "PNG"
            picture: Image.Image = ImageOps.exif_transpose(found)
            picture.thumbnail((MOST_SIDE, MOST_SIDE))
            clear = picture.mode in ("RGBA", "LA") or "transparency" in picture.info
            picture = picture.convert("RGBA" if clear else "RGB")
            kept = Image.new(picture.mode, picture.size)
            kept.paste(picture)
            out = io.BytesIO()
            if kind == "JPEG":
                kept.convert("RGB").save(out, "JPEG", quality=88)
            else:
                kept.save(out, "PNG")
            return KINDS[kind], out.getvalue(), kept.width, kept.height
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return CANNOT


def put(
    session: Session, person: Person, board_id: int, kind: str, data: bytes, width: int, height: int
) -> dict[str, Any]:
    """Lay a picture under a board, round what is drawn; another one goes. Return where it lies."""
    board = own_board(session, person, board_id, locked=True)
    state = build(from_json(board.document)).evaluation.state
    found = laid_under(box_of_features(state.standing()) or EMPTY_BOX, width, height)
    old = session.get(BoardPicture, board.id)
    if old is None:
        session.add(BoardPicture(board_id=board.id, kind=kind, data=data))
    else:
        old.kind, old.data = kind, data
    mark = hashlib.sha256(data).hexdigest()[:16]
    board.underlay = {**asdict(found), "width": width, "height": height, "strength": 0.5, "mark": mark}
    session.flush()
    return board.underlay


def picture_of(session: Session, person: Person, board_id: int) -> tuple[str, bytes]:
    """Return the picture under a board: its kind and bytes. Raises NotThere."""
    board = own_board(session, person, board_id)
    found = session.get(BoardPicture, board.id)
    if found is None:
        raise NotThere("There is no picture under this drawing.")
    return found.kind, found.data


def place(session: Session, person: Person, board_id: int, change: dict[str, Any]) -> dict[str, Any]:
    """Change how a picture lies: ``strength`` alone; ``move`` from one place to another; ``scale`` by two
    places and how far they are apart, as it is typed, ``level`` or not. Raises NotThere, NotUsable."""
    board = own_board(session, person, board_id, locked=True)
    if board.underlay is None:
        raise NotThere("There is no picture under this drawing.")
    kept = dict(board.underlay)
    lies = Underlay(at=(kept["at"][0], kept["at"][1]), scale=kept["scale"], turn=kept["turn"])
    if change.get("strength") is not None:
        kept["strength"] = change["strength"]
    places = change.get("places")
    if places is not None:
        a, b = ((p[0], p[1]) for p in places)
        if not all(abs(v) < FAR for v in (*a, *b)):
            raise NotUsable("This place is too far away.")
        if change.get("apart"):
            apart = _length(change["apart"], from_json(board.document).unit)
            try:
                lies = scaled(lies, a, b, apart, level=bool(change.get("level")))
            except ValueError as why:
                raise NotUsable(str(why)) from why
        else:
            lies = moved(lies, a, b)
        if not (1 / FAR < lies.scale < FAR and all(abs(v) < FAR for v in lies.at)):
            raise NotUsable("So the picture would be too large or too small to be seen.")
    board.underlay = {**kept, **asdict(lies)}
    session.flush()
    return board.underlay


def _length(typed: str, unit: str) -> float:
    try:
        return float(evaluate(parse(typed, inch=inch_in(BY_SYMBOL[unit]))))
    except (NumberError, ArithmeticError, ValueError) as why:
        says = (
            why.says if isinstance(why, NumberError) else "The number is beyond what can be calculated with."
        )
        raise NotUsable(says) from why


def drop(session: Session, person: Person, board_id: int) -> None:
    """Take the picture under a board away."""
    board = own_board(session, person, board_id, locked=True)
    found = session.get(BoardPicture, board.id)
    if found is not None:
        session.delete(found)
    board.underlay = None
