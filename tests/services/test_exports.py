"""Files to be taken away: whose each is, that nothing is missing, and that nobody else gets them."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from datetime import datetime
from zoneinfo import ZoneInfo

import pytest
from pypdf import PdfReader
from sqlalchemy import select

from evenmark.core.conventions.papers import ANSI, ISO
from evenmark.services import classes, exports, prints
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.gradebook import gradebook
from evenmark.services.people import make_person
from evenmark.store.database import Database
from evenmark.store.models import Attempt, Export, ExportPart, Issue
from evenmark.store.people import Person, SchoolClass
from tests.conftest import PASSWORD, School
from tests.extent import daily
from tests.services.test_from_key_to_result import GOOD, hand, put


@pytest.fixture
def handed(db: Database, school: School, key_bytes: bytes) -> int:
    """An issue that two students of one name and one of a long one handed in to."""
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        group = session.get_one(SchoolClass, school.adas)
        twin = make_person(session, name="Ben Elm", sign_in="ben.2", password=PASSWORD, role="student")
        long = make_person(session, name="Ö/" + "x" * 93, sign_in="long", password=PASSWORD, role="student")
        for person in (twin, long):
            classes.enrol(session, person, group)
        ids = (school.ben, twin.id, long.id)
    for student in ids:
        hand(db, student, issue, GOOD, "drawing.DXF")
    hand(db, school.ben, issue, GOOD, "second.dxf")
    return issue


def made(db: Database, school: School, kind: str, number: int) -> bytes:
    with db.transaction() as session:
        row = exports.start_export(session, None, session.get_one(Person, school.ada), kind, number)
        export = row.id
    exports.make_export(db, export)
    with db.transaction() as session:
        row = session.get_one(Export, export)
        assert (row.state, row.trouble, row.done) == ("ready", None, row.of)
        size = row.size
    data = b"".join(exports.parts_of(db, export))
    assert len(data) == size
    return data


def test_drawings_say_whose_they_are(db: Database, school: School, handed: int) -> None:
    archive = zipfile.ZipFile(io.BytesIO(made(db, school, "files", handed)))
    names = archive.namelist()
    assert {"Ben Elm (ben), try 2.dxf", "Ben Elm (ben.2), try 1.dxf"} < set(names)
    assert len(names) == 3
    assert all(archive.read(n) == GOOD and "/" not in n and len(n) <= 130 for n in names)


def test_feedback_is_one_pdf_with_an_entry_for_each(db: Database, school: School, handed: int) -> None:
    reader = PdfReader(io.BytesIO(made(db, school, "feedback", handed)))
    assert [o.title for o in reader.outline][:2] == ["Ben Elm (ben)", "Ben Elm (ben.2)"]  # type: ignore[union-attr]
    assert len(reader.outline) == 3
    assert len(reader.pages) >= 6
    words = "".join(p.extract_text() for p in reader.pages)
    assert "UTC" not in words


def test_a_class_is_taken_away_whole(db: Database, school: School, handed: int) -> None:
    archive = zipfile.ZipFile(io.BytesIO(made(db, school, "class", school.adas)))
    drawings = [n for n in archive.namelist() if "/drawings/" in n]
    marks = [n for n in archive.namelist() if "/marks/" in n]
    assert (len(drawings), len(marks)) == (4, 4)
    rows = list(csv.reader(io.StringIO(archive.read("students.csv").decode("utf-8-sig"))))
    assert len(rows) == 5
    kept = json.loads(archive.read(marks[0]))
    assert kept["mark_sheets"][0]["findings"]
    assert any(n.endswith("grades.csv") for n in archive.namelist())


def test_a_student_is_taken_away_whole(db: Database, school: School, handed: int) -> None:
    archive = zipfile.ZipFile(io.BytesIO(made(db, school, "student", school.ben)))
    kept = json.loads(archive.read("student.json"))
    assert (kept["name"], kept["sign_in"], len(kept["attempts"])) == ("Ben Elm", "ben", 2)
    for attempt in kept["attempts"]:
        assert archive.read(attempt["kept_as"]) == GOOD
        assert attempt["returned"][0]["earned"] == attempt["mark_sheets"][0]["score"]["earned"]
    assert "ben.2" not in json.dumps(kept)


def test_nothing_to_take_away_is_said(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    for kind, word in (("files", "Nobody has handed in"), ("feedback", "Nothing is marked")):
        with db.transaction() as session:
            ada = session.get_one(Person, school.ada)
            export = exports.start_export(session, None, ada, kind, issue).id
        exports.make_export(db, export)
        with db.transaction() as session:
            row = session.get_one(Export, export)
            assert row.state == "failed"
            assert word in (row.trouble or "")


def test_others_files_are_not_there(db: Database, school: School, handed: int) -> None:
    with db.transaction() as session:
        ada, dot = session.get_one(Person, school.ada), session.get_one(Person, school.dot)
        mine = exports.start_export(session, None, ada, "files", handed)
        for kind, number in (
            ("files", handed),
            ("feedback", handed),
            ("class", school.adas),
            ("student", school.ben),
        ):
            with pytest.raises(NotThere):
                exports.start_export(session, None, dot, kind, number)
        with pytest.raises(NotThere):
            exports.own_export(session, dot, mine.id)
        with pytest.raises(NotThere):
            exports.cancel(session, dot, mine.id)
        for _ in range(2):
            exports.start_export(session, None, ada, "files", handed)
        with pytest.raises(NotUsable, match="already"):
            exports.start_export(session, None, ada, "files", handed)


def test_what_is_cancelled_is_not_made_and_a_second_run_makes_it_once(
    db: Database, school: School, handed: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        gone = exports.start_export(session, None, ada, "files", handed).id
        twice = exports.start_export(session, None, ada, "files", handed).id
    with db.transaction() as session:
        exports.cancel(session, session.get_one(Person, school.ada), gone)
    exports.make_export(db, gone)
    monkeypatch.setattr(exports, "PIECE", 1000)
    exports.make_export(db, twice)
    first = b"".join(exports.parts_of(db, twice))
    exports.make_export(db, twice)
    assert b"".join(exports.parts_of(db, twice)) == first
    with db.transaction() as session:
        assert {p.export_id for p in session.scalars(select(ExportPart))} == {twice}


def test_grades_are_told_in_the_schools_zone(db: Database, school: School, handed: int) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        ada.zone = "Asia/Kathmandu"
        session.flush()
        heads, *rows = gradebook(session, ada, handed)
        attempt = session.scalars(select(Attempt).where(Attempt.student_id == school.ben)).all()[-1]
        row = next(r for r in rows if r[heads.index("sign-in")] == "ben")
        assert row[heads.index("zone")] == "+05:45"
        told = datetime.fromisoformat(row[heads.index("handed in")]).replace(
            tzinfo=ZoneInfo("Asia/Kathmandu")
        )
        assert abs((told - attempt.handed_in_at).total_seconds()) < 1
        wanted = prints.marked(session, ada, attempt.id, "pdf")
        assert f"{told:%H:%M}" in wanted.given[0].handed_in


@pytest.mark.parametrize("paper", ["", *daily([*ISO, *ANSI])])
def test_the_sheet_prints_at_true_scale_on_every_paper(
    db: Database, school: School, key_bytes: bytes, paper: str
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        wanted = prints.sheet(session.get_one(Issue, issue).revision, "Saltmarsh", paper)
    [page] = PdfReader(io.BytesIO(wanted.made())).pages
    width, height = ({**ISO, **ANSI}[paper or "A4"][i] for i in (0, 1))
    assert float(page.mediabox.width) / 72 * 25.4 == pytest.approx(width, abs=0.01)
    assert float(page.mediabox.height) / 72 * 25.4 == pytest.approx(height, abs=0.01)
    assert page.extract_text().strip() == ""  # a picture: no geometry of the key is in it
    assert len(page.images) == 1


def test_a_paper_that_there_is_not(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session, pytest.raises(NotUsable, match="A4"):
        prints.sheet(session.get_one(Issue, issue).revision, "", "A9")
