"""Fixtures: a PostgreSQL server of the tests' own, a database emptied for each test, the application and
people in it."""

from __future__ import annotations

import contextlib
import hashlib
import os
import pickle
import threading
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import pytest
from argon2 import PasswordHasher
from flask.testing import FlaskClient
from scripts.cluster import Cluster
from sqlalchemy import text
from sqlalchemy.orm import Session

from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from evenmark.services import bounded, people
from evenmark.services.board_out import digest_of
from evenmark.services.bounded import Worked
from evenmark.services.classes import enrol, make_class
from evenmark.services.people import make_person
from evenmark.store.database import Database
from evenmark.store.people import Person, SchoolClass
from tests.template import own_server

ROOT = Path(__file__).parents[1]
PASSWORD = "a few words in a row"
GUARD = "X-Even-Mark-Guard"


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What starts and ends processes mostly waits: it comes first, that nothing waits for it in the end."""
    items.sort(key=lambda item: item.get_closest_marker("processes") is None)


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    """A throw-away server on loopback, in a folder named after this process."""
    with own_server(f"tests-{os.getpid()}") as server:
        yield server


@pytest.fixture(scope="session", autouse=True)
def quick_hashes() -> Iterator[None]:
    """Hash passwords with the least work: the tests make hundreds of accounts."""
    real = people._hasher
    people._hasher = PasswordHasher(time_cost=1, memory_cost=64, parallelism=1)
    yield
    people._hasher = real


@pytest.fixture(scope="session", autouse=True)
def work_done_once(tmp_path_factory: pytest.TempPathFactory) -> Iterator[None]:
    """Do bounded work once for the whole run: it is pure (same input, same answer), and hundreds of tests
    read the same key. What does not end well, and work of the tests' own, is done each time."""
    shared = tmp_path_factory.getbasetemp().parent if "PYTEST_XDIST_WORKER" in os.environ else None
    folder = (shared or tmp_path_factory.getbasetemp()) / "work-done"
    folder.mkdir(exist_ok=True)
    real = bounded.near

    def near(work: Any, arguments: tuple[Any, ...], seconds: int) -> Worked:
        if work.__module__.startswith("tests") or seconds < bounded.SECONDS:
            return real(work, arguments, seconds)
        asked = f"{work.__module__}.{work.__qualname__}".encode() + pickle.dumps(arguments)
        kept = folder / hashlib.sha256(asked).hexdigest()
        with contextlib.suppress(OSError):
            return Worked(True, pickle.loads(kept.read_bytes()), 0.0)
        worked = real(work, arguments, seconds)
        if worked.done:
            half = folder / f"{kept.name}-{os.getpid()}-{threading.get_ident()}"
            half.write_bytes(pickle.dumps(worked.value))
            half.rename(kept)
        return worked

    bounded.near = near
    yield
    bounded.near = real


@pytest.fixture
def db(cluster: Cluster) -> Iterator[Database]:
    """An empty database."""
    database = Database(cluster.url)
    tables = "person, school_class, exercise, revision, issue, attempt, sign_in_try, procrastinate_jobs"
    with database.engine.begin() as connection:
        connection.execute(text(f"truncate {tables} restart identity cascade"))
    yield database
    database.close()


@dataclass(kw_only=True)
class School:
    """Two instructors, two classes and three students; Ada teaches Ben and Cy, Dot teaches Eve."""

    ada: int
    dot: int
    ben: int
    cy: int
    eve: int
    adas: int
    dots: int


def instructor(session: Session, name: str) -> Person:
    return make_person(
        session, name=f"{name} Ash", sign_in=name.lower(), password=PASSWORD, role="instructor"
    )


def student(session: Session, name: str, group: SchoolClass) -> Person:
    person = make_person(session, name=f"{name} Elm", sign_in=name.lower(), password=PASSWORD, role="student")
    enrol(session, person, group)
    return person


@pytest.fixture
def school(db: Database) -> School:
    with db.transaction() as session:
        ada, dot = instructor(session, "Ada"), instructor(session, "Dot")
        adas, dots = make_class(session, ada, "Ada's class"), make_class(session, dot, "Dot's class")
        ben, cy, eve = (
            student(session, "Ben", adas),
            student(session, "Cyd", adas),
            student(session, "Eve", dots),
        )
        return School(ada=ada.id, dot=dot.id, ben=ben.id, cy=cy.id, eve=eve.id, adas=adas.id, dots=dots.id)


@pytest.fixture(scope="session")
def key_bytes() -> bytes:
    """The crank link as a key file, with its dimensions."""
    part = parts.crank_link()
    return write_dxf(part.sheet, Manner(polylines=True))


@pytest.fixture
def application(db: Database, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Any:
    from evenmark.web import app as web
    from evenmark.web import pages as built

    pages = tmp_path / "pages"
    (pages / "assets").mkdir(parents=True)
    (pages / "index.html").write_text("<!doctype html><title>Even Mark</title>")
    monkeypatch.setattr(built, "PAGES", pages)
    app = web.create_app(db)
    app.before_request(lambda: bounded.strict.set(True) and None)
    app.teardown_request(lambda _: bounded.strict.set(False) and None)
    return app


class Caller:
    """A browser's worth of one person: keeps the cookie and sends the guard along."""

    def __init__(self, application: Any, sign_in: str | None = None) -> None:
        self.client: FlaskClient = application.test_client()
        self.guard = ""
        if sign_in:
            answer = self.client.post("/api/sign-in", json={"sign_in": sign_in, "password": PASSWORD})
            assert answer.status_code == 200, answer.json
            self.guard = answer.json["guard"]  # type: ignore[index]

    def call(self, method: str, path: str, **more: Any) -> Any:
        headers = {GUARD: self.guard, **more.pop("headers", {})}
        return self.client.open(path, method=method, headers=headers, **more)

    def get(self, path: str) -> Any:
        return self.call("GET", path)

    def list_of(self, board: int) -> dict[str, str]:
        """What a page says of the list that it asks something for: its digest."""
        return {"digest": digest_of(self.get(f"/api/boards/{board}").json["document"])}

    def post(self, path: str, body: Any = None, **more: Any) -> Any:
        return self.call("POST", path, **({"json": body} if body is not None else {}), **more)
