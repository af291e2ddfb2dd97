"""A backup in the middle of handing in, restored elsewhere: nothing that was acknowledged before it began is
missing."""

from __future__ import annotations

import hashlib
import os
import shutil
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from scripts import backup, code
from scripts.cluster import Cluster, data_folder
from sqlalchemy import select

from evenmark.services import hand_in, people
from evenmark.store.database import Database
from evenmark.store.migrate import upgrade
from evenmark.store.models import Attempt
from evenmark.store.people import Person
from tests.conftest import ROOT, instructor
from tests.extent import size
from tests.services.test_worker_killed import a_class, drawn
from tests.template import copied

pytestmark = pytest.mark.processes


@pytest.fixture
def folder() -> Iterator[Path]:
    made = data_folder(ROOT).parent / f"tests-backup-{os.getpid()}"
    made.mkdir(parents=True, exist_ok=True)
    yield made
    shutil.rmtree(made, ignore_errors=True)


def test_a_backup_while_students_hand_in_holds_everything_acknowledged(
    folder: Path, key_bytes: bytes
) -> None:
    here = copied(folder / "here")
    there = Cluster(folder / "there" / "postgres", durable=False)
    file = folder / "all.backup"
    db: Database | None = None
    try:
        db = Database(here.url)
        _, issue, people = a_class(db, key_bytes, size(5, 12))
        acknowledged: list[tuple[int, str]] = []
        half_way = threading.Event()

        def hand_all_in() -> None:
            for n, person in enumerate(people):
                with db.transaction() as session:
                    who = session.get_one(Person, person)
                    intake, _ = hand_in.lay_in(session, who, issue, f"{n}.dxf", drawn(n))
                    attempt = hand_in.hand_in(session, None, who, intake.id)
                    found = attempt.id, attempt.sha256
                acknowledged.append(found)
                if n == len(people) // 2:
                    half_way.set()

        busy = threading.Thread(target=hand_all_in)
        busy.start()
        half_way.wait(60)
        before = list(acknowledged)
        backup.backup(
            Cluster(here.folder, durable=False), file
        )  # another process's view of a server that runs
        busy.join()
        assert here.alive()
        assert file.stat().st_mode & 0o777 == 0o600
        with pytest.raises(SystemExit):
            backup.backup(here, file)  # never over one that is there
        backup.restore(there, file)
        there.start()
        upgrade(there.url)
        restored = Database(there.url)
        with restored.transaction() as session:
            kept = {(a.id, a.sha256): a.data for a in session.scalars(select(Attempt))}
        restored.close()
        assert set(before) <= set(kept)
        assert all(hashlib.sha256(data).hexdigest() == sha for (_, sha), data in kept.items())
        there.stop()
        with pytest.raises(SystemExit):
            backup.restore(there, file)  # never over data that are there
    finally:
        if db is not None:
            db.close()
        here.stop()
        there.stop()


def test_what_cannot_be_backed_up_or_restored_is_said(
    folder: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    with pytest.raises(SystemExit):
        backup.backup(Cluster(folder / "nothing" / "postgres"), folder / "x")
    assert "no data yet" in capsys.readouterr().err
    with pytest.raises(SystemExit):
        backup.restore(Cluster(folder / "nothing" / "postgres"), folder / "missing")
    assert "is not there" in capsys.readouterr().err
    (folder / "no.backup").write_text("nothing")
    with pytest.raises(SystemExit):
        backup.restore(Cluster(folder / "fresh" / "postgres", durable=False), folder / "no.backup")
    assert "pg_restore did not finish" in capsys.readouterr().err


def test_a_code_for_anybody_from_the_shell(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    here = copied(folder / "code")
    try:
        db = Database(here.url)
        with db.transaction() as session:
            instructor(session, "Ada")
        found = code.code_for(Cluster(here.folder, durable=False), "ADA")
        with db.transaction() as session:
            assert people.use_first_code(session, found, "another few words").person.sign_in == "ada"
        db.close()
        with pytest.raises(SystemExit):
            code.code_for(here, "nobody")
        assert "Nobody signs in as nobody" in capsys.readouterr().err
        assert here.alive()
    finally:
        here.stop()
