"""What one file or attempt holds stops nobody else, and never for good: it ends as what could not be read or
marked, to be tried again."""

from __future__ import annotations

from collections.abc import Callable
from types import SimpleNamespace
from typing import Any

import pytest
from sqlalchemy import select, text, update
from sqlalchemy.exc import OperationalError

from evenmark.core.formats.dxf_write import write_dxf
from evenmark.jobs import tasks
from evenmark.services import batch_reading, batches, marking, terms
from evenmark.store.database import Database
from evenmark.store.models import Attempt, BatchFile, Issue
from evenmark.store.people import Person, now
from evenmark.store.queue import make_app
from tests.services.test_batches import GOOD, Ada, packed
from tests.services.test_batches import ada as ada
from tests.services.test_from_key_to_result import LINK

POISON = write_dxf(LINK).replace(b"outline", b"out\x00ine")


def states(db: Database) -> dict[str, tuple[str, bool]]:
    with db.transaction() as session:
        return {a.file_name: (a.state, bool(a.trouble)) for a in session.scalars(select(Attempt))}


def test_a_nul_in_one_of_six_files_of_a_zip_is_read_like_the_others(ada: Ada, db: Database) -> None:
    files = {f"{name}{n}.dxf": GOOD for n in range(3) for name in ("ben", "cyd")} | {"ben0.dxf": POISON}
    ada.start(("class.zip", packed(files)), read=False)
    with db.transaction() as session:
        ids = list(session.scalars(select(BatchFile.id)))
    batch_reading.read_in_turn(db, ids)
    assert {f["state"] for f in ada.files.values()} <= {"ready", "asked"}


def test_what_cannot_be_kept_of_a_file_stops_none_beside_it(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    ada.start(("ben.dxf", GOOD), ("cyd.dxf", GOOD), read=False)
    real = batch_reading.run_bounded

    def poisoned(*given: Any) -> Any:
        first, second = real(*given)
        first.reading["file"] = "a\0b"
        return [first, second]

    monkeypatch.setattr(batch_reading, "run_bounded", poisoned)
    with db.transaction() as session:
        ids = list(session.scalars(select(BatchFile.id)))
    batch_reading.read_in_turn(db, ids)
    found = {n: (f["state"], f["trouble"]) for n, f in ada.files.items()}
    assert found["cyd.dxf"][0] == "ready"
    assert found["ben.dxf"] == ("unusable", batch_reading.COULD_NOT)
    monkeypatch.setattr(batch_reading, "run_bounded", real)
    number = next(f["id"] for f in ada.files.values() if f["state"] == "unusable")
    with db.transaction() as session:
        batches.read_again(session, None, session.get_one(Person, ada.school.ada), ada.id, number)
    batch_reading.read_in_turn(db, ids)
    assert ada.files["ben.dxf"]["state"] == "ready"


@pytest.mark.parametrize(
    "spoil",
    [
        lambda m: m.marks.update(x="a\0"),
        lambda m: m.drawn.update(x=float("nan")),
        lambda m: m.marks.update(x="\ud800"),
    ],
)
def test_marks_that_cannot_be_kept_end_as_could_not_be_marked(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch, spoil: Callable[[Any], None]
) -> None:
    ada.start(("ben.dxf", GOOD), ("cyd.dxf", GOOD))
    ada.hand_in()
    real = marking.run_bounded

    def poisoned(*given: Any, **more: Any) -> Any:
        found = real(*given, **more)
        spoil(found[0])
        return found

    monkeypatch.setattr(marking, "run_bounded", poisoned)
    with db.transaction() as session:
        ids = list(session.scalars(select(Attempt.id).order_by(Attempt.id)))
    marking.mark_in_turn(db, ids)
    assert sorted(states(db).values()) == [("failed", True), ("marked", False)]
    with db.transaction() as session:  # it uses up no try, and can be marked again
        failed = session.scalars(select(Attempt).where(Attempt.state == "failed")).one()
        issue = session.get_one(Issue, failed.issue_id)
        assert terms.terms_of(session, issue, failed.student_id).tries_left == issue.tries
        marking.mark_again(session, None, session.get_one(Person, ada.school.ada), failed.id)
    monkeypatch.setattr(marking, "run_bounded", real)
    marking.mark_in_turn(db, ids)
    assert set(states(db).values()) == {("marked", False)}


def test_marks_of_an_earlier_engine_stand_when_a_newer_one_cannot_be_kept(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    ada.start(("ben.dxf", GOOD))
    ada.hand_in()
    with db.transaction() as session:
        ids = list(session.scalars(select(Attempt.id)))
    marking.mark_in_turn(db, ids)
    monkeypatch.setattr(marking, "ENGINE_VERSION", "9.9")
    real = marking.run_bounded

    def poisoned(*given: Any, **more: Any) -> Any:
        found = real(*given, **more)
        found.marks.update(x="a\0")
        return found

    monkeypatch.setattr(marking, "run_bounded", poisoned)
    marking.mark_in_turn(db, ids)
    assert states(db) == {
        "ben.dxf": ("marked", True)
    }  # the marks stand, with the reason why there are no newer ones


def test_a_job_is_tried_again_and_given_up_at_last(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    ada.start(("ben.dxf", GOOD))
    ada.hand_in()
    with db.transaction() as session:
        (number,) = session.scalars(select(Attempt.id))

    def broken(*_: Any) -> None:
        raise RuntimeError("a fault of ours")

    monkeypatch.setattr(tasks, "_database", db)
    monkeypatch.setattr(marking, "mark_in_turn", broken)
    for attempts in range(tasks.MOST_RETRIES):
        with pytest.raises(RuntimeError):
            tasks.mark_several(SimpleNamespace(job=SimpleNamespace(attempts=attempts)), [number])  # type: ignore[arg-type]
        assert states(db) == {"ben.dxf": ("waiting", False)}
    tasks.mark_several(SimpleNamespace(job=SimpleNamespace(attempts=tasks.MOST_RETRIES)), [number])  # type: ignore[arg-type]
    assert states(db) == {"ben.dxf": ("failed", True)}


def test_a_database_that_is_away_is_nobodys_fault(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    ada.start(("ben.dxf", GOOD))
    ada.hand_in()

    def away(*_: Any) -> None:
        raise OperationalError("select", {}, Exception("connection refused"))

    with db.transaction() as session:
        ids = list(session.scalars(select(Attempt.id)))
    monkeypatch.setattr(marking, "_keep", away)
    with pytest.raises(OperationalError):
        marking.mark_in_turn(db, ids)
    assert states(db) == {"ben.dxf": ("waiting", False)}


def test_what_waits_although_no_job_is_left_is_given_up_after_a_while(ada: Ada, db: Database) -> None:
    ada.start(("ben.dxf", GOOD), ("cyd.dxf", GOOD))
    ada.hand_in()
    with make_app(db.url).open() as queue, db.transaction() as session:
        ben, cyd = session.scalars(select(Attempt).order_by(Attempt.id))
        marking.defer_marking(session, queue, ben.id)
        marking.defer_marking_of_many(session, queue, [(cyd.id, 10)])
    assert marking.give_up_stranded(db) == 0  # handed in this minute
    with db.transaction() as session:
        session.execute(update(Attempt).values(handed_in_at=text("handed_in_at - interval '1 hour'")))
    assert marking.give_up_stranded(db) == 0  # jobs are left
    with db.transaction() as session:
        session.execute(text("update procrastinate_jobs set status = 'failed' where args ? 'attempt_ids'"))
    assert marking.give_up_stranded(db) == 1
    assert sorted(states(db).values()) == [("failed", True), ("waiting", False)]


def test_files_that_wait_although_no_job_is_left_are_given_up(ada: Ada, db: Database) -> None:
    ada.start(("ben.dxf", GOOD), read=False)
    assert batch_reading.give_up_stranded_files(db) == 0
    with db.transaction() as session:
        session.execute(text("update batch set created_at = :then"), {"then": now().replace(year=2020)})
    assert batch_reading.give_up_stranded_files(db) == 1
    assert [f["state"] for f in ada.files.values()] == ["unusable"]
