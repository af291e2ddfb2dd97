"""A worker killed in the middle of a class, and the database restarted in the middle: every attempt is marked
exactly once."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import suppress

import pytest
from scripts.cluster import Cluster
from sqlalchemy import func, select
from sqlalchemy.exc import SQLAlchemyError

from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import slips as s
from evenmark.services import batches, hand_in
from evenmark.store.database import Database
from evenmark.store.models import Attempt, BatchFile, MarkSheetRow
from evenmark.store.people import Person
from evenmark.store.queue import make_app
from tests import waiting
from tests.conftest import ROOT, School, instructor, make_class, student
from tests.extent import DAY, only_in_full, size
from tests.services.test_batches import packed
from tests.services.test_from_key_to_result import LINK, put
from tests.template import new_database, own_server

PATIENCE = 90.0


@pytest.fixture(scope="module")
def own() -> Iterator[Cluster]:
    """A server of these tests' own, since it is stopped and started again."""
    with own_server(f"tests-killed-{os.getpid()}") as server:
        yield server


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
    return write_dxf(s.circle_scaled(1, 1 + n % 3)(LINK), Manner(shift=(n, 0)))


def by_students(db: Database, url: str, key: bytes) -> int:
    """Each student hands in; each attempt is asked to be marked in the transaction that keeps it."""
    _, issue, people = a_class(db, key, size(6, 14))
    with make_app(url).open() as queue:
        for n, person in enumerate(people):
            with db.transaction() as session:
                who = session.get_one(Person, person)
                intake, _ = hand_in.lay_in(session, who, issue, f"{n}.dxf", drawn(n))
                hand_in.hand_in(session, queue, who, intake.id)
    return len(people)


def by_archive(db: Database, url: str, key: bytes) -> int:
    """The instructor hands a ZIP in for everybody; files are read and marked a few at a time."""
    ada, issue, people = a_class(db, key, size(8, 30))
    archive = packed({f"student{n}.dxf": drawn(n) for n in range(len(people))})
    reader = worker(url)
    try:
        with make_app(url).open() as queue:
            with db.transaction() as session:
                who = session.get_one(Person, ada)
                batch = batches.start_batch(session, queue, who, issue, [("class.zip", archive)]).id

            def read() -> int:
                count = select(func.count(BatchFile.id)).where(BatchFile.state == "read")
                with db.transaction() as session:
                    return session.scalar(count) or 0

            waiting.until(lambda: read() == len(people), lambda: f"{read()} of {len(people)} read")
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

    def enough() -> bool:
        if keep[0].poll() is not None:
            keep[0] = worker(url)
        return marked(db) >= wanted

    waiting.until(enough, lambda: f"{marked(db)} of {wanted} marked", PATIENCE)


@pytest.mark.processes
@pytest.mark.parametrize(
    ("handed_in", "trouble"),
    [
        pytest.param(by_students, "worker", marks=only_in_full if DAY % 2 else []),
        pytest.param(by_archive, "database", marks=[] if DAY % 2 else only_in_full),
        pytest.param(by_students, "database", marks=only_in_full),
        pytest.param(by_archive, "worker", marks=only_in_full),
    ],
)
def test_every_attempt_is_marked_exactly_once(
    own: Cluster, key_bytes: bytes, handed_in: Callable[[Database, str, bytes], int], trouble: str
) -> None:
    url = new_database(own, "killed")
    db = Database(url)
    wanted = handed_in(db, url, key_bytes)
    with db.transaction() as session:
        attempts = list(session.scalars(select(Attempt.id)))
    assert len(attempts) == wanted
    keep = [worker(url)]
    try:
        until(db, 2, keep, url)
        if trouble == "worker":
            os.killpg(keep[0].pid, signal.SIGKILL)
            keep[0].wait(10)
            assert marked(db) < wanted
        else:
            db.close()
            own.restart()
            db = Database(url)
        until(db, wanted, keep, url)
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
