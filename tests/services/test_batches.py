"""Handing in for a class at once: matched, asked, handed in once each, whatever the files are and however
often it is tried."""

from __future__ import annotations

import io
import threading
import zipfile
from typing import Any

import pytest
from sqlalchemy import func, select

from evenmark.core.drawing.model import Drawing
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.services import batch_reading, batches, marking
from evenmark.services.bounded import run_bounded
from evenmark.services.engine_work import mark
from evenmark.services.errors import Busy, NotThere, NotUsable
from evenmark.store.database import Database
from evenmark.store.models import Attempt, Batch, BatchFile, MarkSheetRow
from evenmark.store.people import Person
from evenmark.store.queue import bundles
from tests.builders import text
from tests.conftest import School
from tests.services.test_from_key_to_result import GOOD, LINK, WRONG, put


def packed(files: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        for name, data in files.items():
            z.writestr(name, data)
    return out.getvalue()


def titled(words: str) -> bytes:
    """The link with a name in its title block."""
    signed = Drawing(entities=(*LINK.entities, text(words, (0, -40))), layers=LINK.layers, unit=LINK.unit)
    return write_dxf(signed)


class Ada:
    """Ada hands in for her class."""

    def __init__(self, db: Database, school: School, issue: int) -> None:
        self.db, self.school, self.issue, self.id = db, school, issue, 0

    def do(self, act: Any, *arguments: Any, **more: Any) -> Any:
        with self.db.transaction() as session:
            return act(session, session.get_one(Person, self.school.ada), *arguments, **more)

    def start(self, *files: tuple[str, bytes], read: bool = True) -> None:
        def begin(session: Any, who: Person) -> int:
            return batches.start_batch(session, None, who, self.issue, files).id

        self.id = self.do(begin)
        if read:
            self.read()

    def read(self) -> None:
        with self.db.transaction() as session:
            for i in session.scalars(select(BatchFile.id).where(BatchFile.batch_id == self.id)).all():
                batch_reading.read_file(session, i)

    def hand_in(self, *, on_time: bool = False) -> int:
        def give(session: Any, who: Person) -> int:
            return batches.hand_in_batch(session, None, who, self.id, on_time=on_time)

        done: int = self.do(give)
        return done

    def mark(self) -> None:
        with self.db.transaction() as session:
            for i in session.scalars(select(Attempt.id)).all():
                marking.mark_attempt(session, i)

    @property
    def files(self) -> dict[str, dict[str, Any]]:
        page = self.do(batches.batch_page, self.id)
        return {f["path"].rsplit("/", 1)[-1]: f for f in page["files"]}


@pytest.fixture
def ada(db: Database, school: School, key_bytes: bytes) -> Ada:
    return Ada(db, school, put(db, school, key_bytes))


def test_a_class_out_of_one_archive(ada: Ada) -> None:
    ada.start(
        (
            "class.zip",
            packed(
                {
                    "Elm, Ben/link.dxf": GOOD,
                    "x17.dxf": titled("DRAWN BY CYD ELM"),
                    "nobody.dxf": WRONG,
                    "notes.docx": b"PK\x03\x04 no drawing",
                    "old.dwg": b"AC1032" + bytes(100),
                    "__MACOSX/._x.dxf": b"junk",
                }
            ),
        )
    )
    files = ada.files
    assert {n: f["state"] for n, f in files.items()} == {
        "link.dxf": "ready",
        "x17.dxf": "ready",
        "nobody.dxf": "asked",
        "notes.docx": "unusable",
        "old.dwg": "unusable",
    }
    assert (files["link.dxf"]["student_id"], files["x17.dxf"]["student_id"]) == (
        ada.school.ben,
        ada.school.cy,
    )
    assert "export" in files["old.dwg"]["trouble"]
    assert ada.hand_in() == 2
    ada.mark()
    files = ada.files
    assert (files["link.dxf"]["state"], files["link.dxf"]["earned"]) == ("marked", 100.0)
    with pytest.raises(NotUsable, match="No file is ready"):
        ada.hand_in()


def test_what_is_decided_is_kept_and_can_be_changed_until_it_is_handed_in(ada: Ada) -> None:
    ada.start(("a.dxf", WRONG), ("b.dxf", GOOD))
    one, two = ada.files["a.dxf"]["id"], ada.files["b.dxf"]["id"]
    ada.do(batches.decide, ada.id, one, ada.school.ben)
    ada.do(batches.decide, ada.id, two, None)
    assert [(f["state"], f["student_id"]) for f in ada.files.values()] == [
        ("ready", ada.school.ben),
        ("left-out", None),
    ]
    ada.do(batches.decide, ada.id, one, ada.school.cy)
    assert ada.hand_in() == 1
    with pytest.raises(NotUsable, match="handed in already"):
        ada.do(batches.decide, ada.id, one, ada.school.ben)
    with pytest.raises(NotThere, match="student is not in the class"):
        ada.do(batches.decide, ada.id, two, ada.school.eve)
    with pytest.raises(NotThere):
        ada.do(batches.decide, ada.id, 99999, ada.school.ben)


def test_two_presses_at_once_hand_each_file_in_once(ada: Ada, db: Database) -> None:
    ada.start(("ben.dxf", GOOD), ("cyd.dxf", WRONG))
    done: list[int] = []

    def press() -> None:
        try:
            done.append(ada.hand_in())
        except NotUsable:
            done.append(0)

    presses = [threading.Thread(target=press) for _ in range(4)]
    for t in presses:
        t.start()
    for t in presses:
        t.join()
    assert sorted(done) == [0, 0, 0, 2]
    with db.transaction() as session:
        assert session.scalar(select(func.count()).select_from(Attempt)) == 2


def test_a_second_file_of_a_student_is_asked_about(ada: Ada) -> None:
    ada.start(("ben.dxf", GOOD), ("ben elm.dxf", WRONG))
    assert {f["state"] for f in ada.files.values()} == {"asked"}
    ada.do(batches.decide, ada.id, ada.files["ben.dxf"]["id"], ada.school.ben)
    assert ada.files["ben elm.dxf"]["why"] == "Another file was given to this student."


def test_what_was_handed_in_before_is_told(ada: Ada) -> None:
    ada.start(("ben.dxf", GOOD))
    ada.hand_in()
    ada.start(("ben.dxf", GOOD), ("cyd.dxf", GOOD))
    files = ada.files
    assert files["ben.dxf"]["notes"] == ["The same file was handed in before, as try 1."]
    assert files["cyd.dxf"]["notes"] == ["Ben Elm handed in the same file."]


def test_an_instructor_may_hand_in_beyond_the_tries_and_after_the_date(
    db: Database, school: School, key_bytes: bytes
) -> None:
    ada = Ada(db, school, put(db, school, key_bytes, tries=1, days=-1))
    for on_time in (False, True):
        ada.start(("ben.dxf", GOOD if on_time else WRONG))
        ada.hand_in(on_time=on_time)
    ada.start(("ben.dxf", write_dxf(LINK, Manner(version="R12"))))
    assert ada.files["ben.dxf"]["notes"] == ["All tries are used; this one is extra."]
    with db.transaction() as session:
        found = session.scalars(select(Attempt).order_by(Attempt.number)).all()
        assert [(a.number, a.late, a.handed_in_by) for a in found] == [
            (1, True, school.ada),
            (2, False, school.ada),
        ]


def test_reading_again_and_putting_away(ada: Ada, db: Database) -> None:
    ada.start(("ben.dxf", GOOD), ("bad.dxf", b"no drawing at all"))
    bad = ada.files["bad.dxf"]

    def again(session: Any, who: Person, file_id: int) -> None:
        batches.read_again(session, None, who, ada.id, file_id)

    ada.do(again, bad["id"])
    assert ada.files["bad.dxf"]["state"] == "reading"
    ada.read()
    assert ada.files["bad.dxf"]["state"] == "unusable"
    with pytest.raises(NotUsable):
        ada.do(again, ada.files["ben.dxf"]["id"])
    ada.hand_in()
    assert ada.do(batches.drop_batch, ada.id) == ada.issue
    with db.transaction() as session:
        assert session.scalar(select(func.count()).select_from(Batch)) == 0
        assert session.scalar(select(func.count()).select_from(Attempt)) == 1
    with pytest.raises(NotThere, match="batch is gone"):
        ada.do(batches.batch_page, ada.id)


@pytest.mark.parametrize(
    ("files", "word"),
    [
        ([], "No file arrived"),
        ([("a.zip", b"PK\x03\x04 broken")], "a.zip: The archive is damaged"),
        ([("a.zip", packed({}))], "empty"),
        ([(f"{n}.dxf", b"x") for n in range(401)], "at most 400"),
    ],
)
def test_what_cannot_be_taken_in_says_why_and_leaves_nothing(
    ada: Ada, db: Database, files: list[tuple[str, bytes]], word: str
) -> None:
    with pytest.raises(NotUsable, match=word):
        ada.start(*files)
    with db.transaction() as session:
        assert session.scalar(select(func.count()).select_from(Batch)) == 0


def test_nobody_elses_batch(ada: Ada, db: Database) -> None:
    ada.start(("ben.dxf", GOOD))
    with db.transaction() as session:
        dot = session.get_one(Person, ada.school.dot)
        with pytest.raises(NotThere):
            batches.batch_page(session, dot, ada.id)
        with pytest.raises(NotThere):
            batches.hand_in_batch(session, None, dot, ada.id, on_time=False)
        with pytest.raises(NotThere):
            batches.start_batch(session, None, dot, ada.issue, [("a.dxf", GOOD)])


def test_names_of_files_are_kept_without_folders(ada: Ada, db: Database) -> None:
    ada.start(("x.zip", packed({"../../ben elm.dxf": GOOD})))
    ada.hand_in()
    with db.transaction() as session:
        assert session.scalar(select(Attempt.file_name)) == "ben elm.dxf"


def test_a_slot_in_the_title_block_may_be_on_a_sheet_layout(ada: Ada) -> None:
    import ezdxf

    doc = ezdxf.read(io.StringIO(write_dxf(LINK).decode()))
    doc.layout("Layout1").add_text("CYD ELM", height=5)
    out = io.StringIO()
    doc.write(out)
    ada.start(("drawing7.dxf", out.getvalue().encode()))
    assert ada.files["drawing7.dxf"]["student_id"] == ada.school.cy


def test_files_are_read_and_marked_a_few_at_a_time(ada: Ada, db: Database) -> None:
    ada.start(("ben.dxf", GOOD), ("bad.dxf", b"no drawing"), ("cyd.dxf", WRONG), read=False)
    with db.transaction() as session:
        ids = session.scalars(select(BatchFile.id)).all()
    batch_reading.read_in_turn(db, ids)
    batch_reading.read_in_turn(db, ids)  # once more does nothing
    assert [f["state"] for f in ada.files.values()] == ["ready", "unusable", "ready"]
    assert ada.hand_in() == 2
    with db.transaction() as session:
        attempts = session.scalars(select(Attempt.id)).all()
    marking.mark_in_turn(db, [*attempts, 99999])
    marking.mark_in_turn(db, attempts)
    with db.transaction() as session:
        assert session.scalar(select(func.count()).select_from(MarkSheetRow)) == 2
    together = {n: f["earned"] for n, f in ada.files.items()}
    with db.transaction() as session:
        for row in session.scalars(select(MarkSheetRow)):
            alone = run_bounded(
                mark,
                [row.attempt.issue.revision.key_bytes],
                row.attempt.issue.revision.rules,
                row.attempt.data,
                row.attempt.file_name,
                {"name": row.attempt.student.name, "group": "Ada's class"},
                None,
                seconds=60,
            )
            assert alone.marks == row.sheet["marks"]
    assert together["ben.dxf"] == 100.0


def test_what_cannot_be_worked_through_together_is_tried_by_itself(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    ada.start(("ben.dxf", GOOD), ("cyd.dxf", WRONG))
    ada.hand_in()
    real = marking.run_bounded

    def breaks(work: Any, *given: Any, seconds: int) -> Any:
        if work is marking.mark_many or given[3] == "cyd.dxf":
            raise Busy("It takes too long.")
        return real(work, *given, seconds=seconds)

    with db.transaction() as session:
        attempts = session.scalars(select(Attempt.id)).all()
    monkeypatch.setattr(marking, "run_bounded", breaks)
    marking.mark_in_turn(db, attempts)
    with db.transaction() as session:
        found = {a.file_name: (a.state, a.trouble) for a in session.scalars(select(Attempt))}
    assert found == {"ben.dxf": ("marked", None), "cyd.dxf": ("failed", "It takes too long.")}


def test_small_files_go_together_and_large_ones_alone() -> None:
    sized = [(n, 1000) for n in range(20)] + [(20, 5_000_000), (21, 10), (22, 10)]
    found = bundles(sized)
    assert [i for b in found for i in b] == [i for i, _ in sized]
    assert [len(b) for b in found] == [8, 8, 4, 1, 2]
