"""Files that come to a board: drawings laid in, start drawings, keys to be drawn on, pictures to trace."""

from __future__ import annotations

import io
import struct
import zlib
from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest
from PIL import Image

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_json, from_text, to_json
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.formats.svg_write import write_svg as svg
from evenmark.services import board_files, board_pictures, board_work, boards, exercise_edit, exercises
from evenmark.services.errors import NotThere, NotUsable
from evenmark.store.boards import BoardPicture
from evenmark.store.database import Database
from evenmark.store.people import Person, now
from tests.conftest import Caller, School
from tests.core.test_laying import PLATE
from tests.services.test_from_key_to_result import GOOD


def opened(caller: Caller, board: int, data: bytes, name: str, path: str = "opened") -> Any:
    return caller.call(
        "POST",
        f"/api/boards/{board}/{path}",
        data={"file": (io.BytesIO(data), name)},
        content_type="multipart/form-data",
    )


@pytest.fixture
def board(db: Database, school: School) -> int:
    """An empty board of Ada's, in millimetres."""
    with db.transaction() as session:
        return boards.new_board(session, session.get_one(Person, school.ada), "Plate").id


FILES = {
    "plate.dxf": lambda: write_dxf(PLATE),
    "plate of R12.dxf": lambda: write_dxf(PLATE, Manner(version="R12")),
    "plate.svg": lambda: svg(replace(PLATE, notes=())),
}


@pytest.mark.parametrize("name", FILES)
def test_a_drawing_of_any_open_format_can_be_laid_in(
    application: Any, school: School, board: int, name: str
) -> None:
    ada = Caller(application, "ada")
    found = opened(ada, board, FILES[name](), name).json
    assert found["name"] == name.rsplit(".", 1)[0]
    assert found["document"] is None
    answer = ada.post(
        f"/api/boards/{board}/ask",
        {"version": 0, "call": "lay_in", "args": {"name": found["name"], "drawing": found["drawing"]}},
    ).json["answer"]
    saved = ada.post(f"/api/boards/{board}/acts", {"base": 0, "acts": [answer["splices"]]})
    assert saved.json == {"version": 1, "room": ""}
    # what is handed out again is what came
    again = ada.get(f"/api/boards/{board}/file.dxf").data
    lines = [e[:2] for e in read_file(again).entities if hasattr(e, "end") and not hasattr(e, "radius")]
    assert sorted(lines) == sorted(e[:2] for e in PLATE.entities[:4])


CANNOT = {
    "closed.dwg": b"AC1032" + b"\0" * 200,
    "nothing.dxf": write_dxf(type(PLATE)(unit=PLATE.unit)),
    "broken.dxf": b"  0\nSECTION\n  2\nENTI",
    "picture.gif": b"GIF89a" + b"\0" * 40,
    "empty.dxf": b"",
    "archive.zip": b"PK\x03\x04" + b"\0" * 60,
}


@pytest.mark.parametrize("name", CANNOT)
def test_what_cannot_be_opened_is_said_and_nothing_changes(
    application: Any, school: School, board: int, name: str
) -> None:
    ada = Caller(application, "ada")
    answer = opened(ada, board, CANNOT[name], name)
    assert answer.status_code == 422, answer.json
    assert answer.json["says"].endswith(".")
    assert ada.get(f"/api/boards/{board}").json["version"] == 0


def test_what_has_too_many_things_is_refused() -> None:
    many = type(PLATE)(entities=PLATE.entities[:1] * 10_001, layers=PLATE.layers, unit=PLATE.unit)
    with pytest.raises(UnreadableDrawing, match="10,001 objects"):
        board_work.opened(write_dxf(many), "many.dxf", "mm")


@pytest.mark.parametrize("kind", ["dxf", "steps"])
def test_a_draft_begins_with_what_the_exercise_gives(db: Database, school: School, kind: str) -> None:
    start = write_dxf(PLATE) if kind == "dxf" else b"rectangle 0, 0; 40 by 26\ncircle 26, 13; radius 7\n"
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        drawn = exercises.make_exercise(session, ada, title="Either way", text="", key_name="k.dxf", key=GOOD)
        exercise_edit.add_file(session, ada, drawn.id, part="start", name=f"begun.{kind}", data=start)
        due = now() + timedelta(days=3)
        issue = exercises.put_issue(session, drawn, school.adas, due_at=due, tries=3, detail="numbers").id
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        begins = board_files.start_for(session, ben, issue)
    assert begins is not None
    document = begins.document()
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        draft = boards.draft_for(session, ben, issue, document)
        number = draft.id
        built = build(from_json(draft.document))
        assert not built.problems
        assert sum(1 for e in built.drawing.entities if hasattr(e, "radius")) == 1
        # it is begun once: what was drawn on it since is not begun anew
        assert board_files.start_for(session, ben, issue) is None
        assert boards.draft_for(session, ben, issue).id == number
        with pytest.raises(NotThere):
            board_files.key_for(session, ben, drawn.id)


def test_a_key_is_drawn_on(application: Any, db: Database, school: School) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        drawn = exercises.make_exercise(session, ada, title="Plate", text="", key_name="k.dxf", key=GOOD)
        number = drawn.id
    ada_, dot = Caller(application, "ada"), Caller(application, "dot")
    assert dot.post(f"/api/exercises/{number}/board").status_code == 404
    made = ada_.post(f"/api/exercises/{number}/board").json["board_id"]
    page = ada_.get(f"/api/boards/{made}").json
    assert [line["kind"] for line in page["document"]["lines"]][-1] == "step"
    answer = ada_.post(
        f"/api/boards/{made}/exercise", {**ada_.list_of(made), "title": "Plate with more", "text": ""}
    )
    assert answer.status_code == 200, answer.json


def picture(kind: str, size: tuple[int, int] = (300, 200), mode: str = "RGB", **more: Any) -> bytes:
    out = io.BytesIO()
    Image.new(mode, size, 128 if mode == "L" else (20, 40, 60, 200)[: len(mode)]).save(out, kind, **more)
    return out.getvalue()


NOTHING = to_json(from_text("unit mm\n"))


def ready_picture(data: bytes, document: dict[str, Any] = NOTHING) -> board_pictures.Picture:
    found = board_pictures.made_ready(data, document)
    assert not isinstance(found, str)
    return found


def test_pictures_are_made_upright_and_bare() -> None:
    exif = Image.Exif()
    exif[0x0112] = 6  # lies on its side
    exif[0x010F] = "somebody's telephone"
    kept = ready_picture(picture("JPEG", exif=exif))
    assert (kept.kind, kept.lies["width"], kept.lies["height"]) == ("image/jpeg", 200, 300)
    assert b"telephone" not in kept.data
    large = ready_picture(picture("PNG", (6000, 300), "L"))
    assert (large.lies["width"], large.lies["height"]) == (4000, 200)
    clear = ready_picture(picture("PNG", mode="RGBA"))
    assert Image.open(io.BytesIO(clear.data)).mode == "RGBA"


def huge() -> bytes:
    """A picture that says that it is 60,000 by 60,000 dots large."""
    head = struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0)
    chunk = b"IHDR" + head
    body = struct.pack(">I", len(head)) + chunk + struct.pack(">I", zlib.crc32(chunk))
    return b"\x89PNG\r\n\x1a\n" + body


@pytest.mark.parametrize(
    "data",
    [b"", b"no picture", huge(), picture("PNG")[:60], picture("GIF", mode="L"), picture("TIFF")],
    ids=["nothing", "words", "huge", "cut short", "gif", "tiff"],
)
def test_what_is_no_picture_is_refused_in_a_sentence(data: bytes) -> None:
    says = board_pictures.made_ready(data, NOTHING)
    assert isinstance(says, str)
    assert says.endswith(".")


def test_a_picture_is_scaled_moved_and_taken_away(db: Database, school: School) -> None:
    with db.transaction() as session:
        ada, dot = session.get_one(Person, school.ada), session.get_one(Person, school.dot)
        document = from_text("unit in\nrectangle 0, 0; 8 by 4\n")
        board = boards.new_board(session, ada, "P", "in", document)
        kept = ready_picture(picture("PNG", (1000, 500)), to_json(document))
        lies = board_pictures.put(session, ada, board.id, kept)
        assert (lies["at"], lies["scale"]) == ((-1.0, 4.5), 0.01)
        # an edge of 800 dots is 8 1/2 in long; its first end stays, and it is level then
        change = {"places": [(0.0, 0.0), (8.0, 0.08)], "apart": "8 1/2", "level": True}
        lies = board_pictures.place(session, ada, board.id, change)
        assert lies["scale"] == pytest.approx(0.01 * 8.5 / (8.0**2 + 0.08**2) ** 0.5)
        assert lies["turn"] == pytest.approx(-0.5729386)
        lies = board_pictures.place(session, ada, board.id, {"places": [(0.0, 0.0), (1.0, 2.0)]})
        for wrong in (
            {"places": [(0.0, 0.0), (0.0, 0.0)], "apart": "3"},
            {"places": [(0.0, 0.0), (1.0, 0.0)], "apart": "three"},
            {"places": [(0.0, 0.0), (1.0, 0.0)], "apart": "1e300"},
            {"places": [(0.0, 0.0), (1e300, 0.0)]},
            {"places": [(0.0, 0.0), (1.0, 0.0)], "apart": "-2"},
        ):
            with pytest.raises(NotUsable):
                board_pictures.place(session, ada, board.id, wrong)
        assert board.underlay == lies
        with pytest.raises(NotThere):
            board_pictures.picture_of(session, dot, board.id)
        board_pictures.drop(session, ada, board.id)
        assert board.underlay is None
        with pytest.raises(NotThere):
            board_pictures.picture_of(session, ada, board.id)
        # and it goes with the board
        board_pictures.put(session, ada, board.id, kept)
        number = board.id
        boards.take_away(session, ada, number)
        session.flush()
        assert session.get(BoardPicture, number) is None
