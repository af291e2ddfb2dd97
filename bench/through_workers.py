"""`python -m bench.through_workers`: a class of thirty handed in as one ZIP, through database, queue and
worker, until every drawing is marked; against loading the thirty files once in this process.

Reading the files and marking them are both counted; so is unpacking, matching and handing in.
"""

from __future__ import annotations

import io
import os
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
import zipfile
from datetime import timedelta
from pathlib import Path

import ezdxf
from scripts.cluster import Cluster, data_folder
from sqlalchemy import func, select

from bench.drawings import plates
from bench.extent import sized
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.services import batches, exercise_edit, exercises
from evenmark.services.classes import enrol, make_class
from evenmark.services.people import make_person
from evenmark.store.database import Database
from evenmark.store.migrate import upgrade
from evenmark.store.models import Attempt, BatchFile
from evenmark.store.people import Person, now
from evenmark.store.queue import make_app

ROOT = Path(__file__).parents[1]
STUDENTS = sized(30, 2)
LIMIT = 5.0
PASSWORD = "a few words in a row"  # noqa: S105 - of a throw-away database


def packed(files: list[bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for n, data in enumerate(files):
            archive.writestr(f"student{n:02}-plate.dxf", data)
    return out.getvalue()


def prepare_class(database: Database, rounds: int) -> tuple[int, list[int]]:
    """An instructor with a class of thirty, and the same exercise issued once for each round."""
    with database.transaction() as session:
        ada = make_person(session, name="Ada Ash", sign_in="ada", password=PASSWORD, role="instructor")
        group = make_class(session, ada, "Thirty")
        for n in range(STUDENTS):
            enrol(
                session,
                make_person(
                    session,
                    name=f"Student{n:02} Elm{n:02}",
                    sign_in=f"student{n:02}",
                    password=PASSWORD,
                    role="student",
                ),
                group,
            )
        issues = []
        for _ in range(rounds):
            revision = exercises.make_exercise(
                session, ada, title="Plate", text="", key_name="k.dxf", key=write_dxf(plates(40))
            )
            rules = {**revision.rules, "placement": "slide"}
            exercise_edit.change_revision(session, ada, revision.id, {"rules": rules})
            due = now() + timedelta(days=1)
            issues.append(
                exercises.put_issue(session, revision, group.id, due_at=due, tries=3, detail="numbers").id
            )
        return ada.id, issues


def through(database: Database, queue: object, ada: int, issue: int, archive: bytes) -> float:
    """Return the seconds from the ZIP to thirty marks."""
    began = time.perf_counter()
    with database.transaction() as session:
        who = session.get_one(Person, ada)
        batch = batches.start_batch(session, queue, who, issue, [("class.zip", archive)]).id  # type: ignore[arg-type]
    _until(
        database,
        lambda s: s.scalar(
            select(func.count())
            .select_from(BatchFile)
            .where(BatchFile.batch_id == batch, BatchFile.state == "read")
        ),
    )
    with database.transaction() as session:
        who = session.get_one(Person, ada)
        assert batches.hand_in_batch(session, queue, who, batch, on_time=True) == STUDENTS  # type: ignore[arg-type]
    _until(
        database,
        lambda s: s.scalar(
            select(func.count())
            .select_from(Attempt)
            .where(Attempt.issue_id == issue, Attempt.state == "marked")
        ),
    )
    return time.perf_counter() - began


def _until(database: Database, count: object) -> None:
    for _ in range(6000):
        with database.transaction() as session:
            if count(session) == STUDENTS:  # type: ignore[operator]
                return
        time.sleep(0.02)
    raise TimeoutError("the class was not done within two minutes")


def main() -> None:
    rounds = sized(5, 1)
    files = [write_dxf(plates(40, 0.1 * (n % 4)), Manner(shift=(n, 2.0 * n))) for n in range(STUDENTS)]
    folder = data_folder(ROOT).parent / f"bench-{os.getpid()}"
    server = Cluster(folder / "postgres", durable=False)
    try:
        server.start()
        upgrade(server.url)
        database = Database(server.url)
        queue = make_app(server.url)
        queue.open()
        environment = {**os.environ, "EVENMARK_DATABASE_URL": server.url}
        worker = subprocess.Popen([sys.executable, "-m", "evenmark.jobs"], env=environment)
        try:
            ada, issues = prepare_class(database, rounds + 1)
            with tempfile.TemporaryDirectory() as name:
                for n, data in enumerate(files):
                    (Path(name) / f"{n}.dxf").write_bytes(data)
                ratios = []
                for n, issue in enumerate(issues):
                    took = through(database, queue, ada, issue, packed(files))
                    began = time.perf_counter()
                    for k in range(STUDENTS):
                        ezdxf.readfile(Path(name) / f"{k}.dxf")
                    loaded = time.perf_counter() - began
                    if n:  # the first round warms everything up
                        ratios.append(took / loaded)
        finally:
            worker.terminate()
            worker.wait(30)
            queue.close()
            database.close()
    finally:
        server.stop()
        shutil.rmtree(folder, ignore_errors=True)
    ratio = statistics.median(ratios)
    print(
        f"a class of {STUDENTS} as one ZIP through the worker, marked / loaded = {ratio:.2f} (limit {LIMIT})"
    )


if __name__ == "__main__":
    main()
