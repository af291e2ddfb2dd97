"""A worker killed in the middle of a class, and the database restarted in the middle: every attempt is marked
exactly once."""

from __future__ import annotations

import os
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import suppress

import pytest
from scripts.cluster import Cluster, data_folder
from sqlalchemy import func, select
from sqlalchemy.exc import SQLAlchemyError

from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write
from evenmark.demo import slips as s
from evenmark.services import batches, hand_in
from evenmark.store.database import Database
from evenmark.store.migrate import upgrade
from evenmark.store.models import Attempt, BatchFile, MarkSheetRow, Person
from evenmark.store.queue import make_app
from tests.conftest import ROOT, School, instructor, make_class, student
from tests.services.test_batches import packed
from tests.services.test_from_key_to_result import LINK, put

PATIENCE = 90.0


@pytest.fixture
def own(key_bytes: bytes) -> Iterator[Cluster]:
    """A server of this test's own, since it is stopped and started again."""
    folder = data_folder(ROOT).parent / f"killed-{os.getpid()}"
    server = Cluster(folder / "postgres", durable=False)
    try:
        server.start()
        upgrade(server.url)
        yield server
    finally:
        server.stop()
        shutil.rmtree(folder, ignore_errors=True)


def a_class(db: Database, key: bytes, size: int) -> tuple[int, int, list[int]]:
    """An instructor, an exercise issued to a class of hers, and its students."""
    with db.transaction() as session:
        ada, dot = instructor(session, "Ada"), instructor(session, "Dot")
        group, other = make_class(session, ada, "Ada's class"), make_class(session, dot, "Dot's class")
        people = [student(session, f"Student{n}", group).id for n in range(size)]
        school = School(
            ada=ada.id, dot=dot.id, ben=people[0], cy=people[1], eve=0, adas=group.id, dots=other.id
        )
    return school.ada, put(db, school, key), people


def drawn(n: int) -> bytes:
    return write(s.circle_scaled(1, 1 + n % 3)(LINK), Manner(shift=(n, 0)))


def by_students(db: Database, url: str, key: bytes) -> int:
    """Each student hands in; each attempt is asked to be marked in the transaction that keeps it."""
    _, issue, people = a_class(db, key, 14)
    with make_app(url).open() as queue:
        for n, person in enumerate(people):
            with db.transaction() as session:
                who = session.get_one(Person, person)
                intake, _ = hand_in.lay_in(session, who, issue, f"{n}.dxf", drawn(n))
                hand_in.hand_in(session, queue, who, intake.id)
    return len(people)


def by_archive(db: Database, url: str, key: bytes) -> int:
    """The instructor hands a ZIP in for everybody; files are read and marked a few at a time."""
    ada, issue, people = a_class(db, key, 30)
    archive = packed({f"student{n}.dxf": drawn(n) for n in range(len(people))})
    reader = worker(url)
    try:
        with make_app(url).open() as queue:
            with db.transaction() as session:
                who = session.get_one(Person, ada)
                batch = batches.start_batch(session, queue, who, issue, [("class.zip", archive)]).id
            began, read = time.monotonic(), 0
            while read < len(people):
                assert time.monotonic() - began < PATIENCE
                time.sleep(0.05)
                with db.transaction() as session:
                    read = (
                        session.scalar(select(func.count(BatchFile.id)).where(BatchFile.state == "read")) or 0
                    )
            os.killpg(reader.pid, signal.SIGKILL)
            with db.transaction() as session:
                who = session.get_one(Person, ada)
                assert batches.hand_in_batch(session, queue, who, batch, on_time=True) == len(people)
    finally:
        with suppress(ProcessLookupError):
            os.killpg(reader.pid, signal.SIGKILL)
        reader.wait(10)
    return len(people)


def worker(url: str) -> subprocess.Popen[bytes]:
    environment = {
        **os.environ,
        "EVENMARK_DATABASE_URL": url,
        "EVENMARK_STALLED_SECONDS": "3",
        "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}",
    }
    return subprocess.Popen(
        [sys.executable, "-m", "evenmark.jobs"],
        cwd=ROOT,
        env=environment,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )


def test_nobody_waits_longer_than_twenty_seconds_for_a_dead_workers_jobs() -> None:
    code = "from evenmark.jobs.__main__ import LOOKS, STALLED; print(STALLED.total_seconds() + LOOKS)"
    environment = {k: v for k, v in os.environ.items() if k != "EVENMARK_STALLED_SECONDS"}
    said = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, check=True, env=environment, cwd=ROOT
    )
    assert float(said.stdout) <= 20


def marked(db: Database) -> int:
    with suppress(SQLAlchemyError), db.transaction() as session:
        return session.scalar(select(func.count(MarkSheetRow.id))) or 0
    return 0


def until(db: Database, wanted: int, keep: list[subprocess.Popen[bytes]], url: str) -> None:
    """Wait until so many are marked, starting a worker again whenever it has died, as the start command
    does."""
    began = time.monotonic()
    while marked(db) < wanted:
        assert time.monotonic() - began < PATIENCE, f"{marked(db)} of {wanted} marked"
        if keep[0].poll() is not None:
            keep[0] = worker(url)
        time.sleep(0.05)


@pytest.mark.parametrize("trouble", ["worker", "database"])
@pytest.mark.parametrize("handed_in", [by_students, by_archive])
def test_every_attempt_is_marked_exactly_once(
    own: Cluster, key_bytes: bytes, handed_in: Callable[[Database, str, bytes], int], trouble: str
) -> None:
    db = Database(own.url)
    wanted = handed_in(db, own.url, key_bytes)
    with db.transaction() as session:
        attempts = list(session.scalars(select(Attempt.id)))
    assert len(attempts) == wanted
    keep = [worker(own.url)]
    try:
        until(db, 2, keep, own.url)
        if trouble == "worker":
            os.killpg(keep[0].pid, signal.SIGKILL)
            keep[0].wait(10)
            assert marked(db) < wanted
        else:
            db.close()
            own.restart()
            db = Database(own.url)
        until(db, wanted, keep, own.url)
        time.sleep(1)
        with db.transaction() as session:
            rows = session.execute(
                select(MarkSheetRow.attempt_id, func.count()).group_by(MarkSheetRow.attempt_id)
            ).all()
            states = set(session.scalars(select(Attempt.state)))
        assert sorted((a, n) for a, n in rows) == [(a, 1) for a in sorted(attempts)]
        assert states == {"marked"}
    finally:
        db.close()
        with suppress(ProcessLookupError):
            os.killpg(keep[0].pid, signal.SIGTERM)
        keep[0].wait(40)
