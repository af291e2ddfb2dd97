"""Database servers made once and copied: a bare one with the tables of today, and one with the demo loaded.

- *template*: the folder of a server that was stopped, named after all that it depends on. Whoever needs it
  first makes it, the others wait and copy it.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import shutil
import subprocess
import time
from collections.abc import Callable, Iterator
from pathlib import Path

from scripts.cluster import Cluster, data_folder
from sqlalchemy import create_engine, text

from evenmark.demo.load import load_demo
from evenmark.store.database import Database
from evenmark.store.migrate import FOLDER as MIGRATIONS
from evenmark.store.migrate import upgrade

ROOT = Path(__file__).parents[1]
TEMPLATES = data_folder(ROOT).parent / "tests-templates"
SITE = "site"
"""The database with the demo, beside the bare one."""
DEMO_LASTS = 2 * 3600.0
"""Seconds after which the demo is loaded again: its days are counted from when that is done."""


def copied(to: Path, *, demo: bool = False) -> Cluster:
    """Return a server of its own in a new folder, started, with the tables in it; with the demo in a database
    named SITE. Whoever has it stops it and removes the folder."""
    lay(to, demo=demo)
    server = Cluster(to / "postgres", durable=False)
    server.start()
    return server


def lay(to: Path, *, demo: bool = False) -> None:
    """Copy a template into a folder, not started."""
    to.mkdir(parents=True, exist_ok=True)
    (_copy_demo if demo else _copy_bare)(to)


@contextlib.contextmanager
def own_server(name: str, *, demo: bool = False) -> Iterator[Cluster]:
    """Yield a server of one's own, gone in the end."""
    folder = data_folder(ROOT).parent / name
    server = copied(folder, demo=demo)
    try:
        yield server
    finally:
        server.stop()
        shutil.rmtree(folder, ignore_errors=True)


def new_database(server: Cluster, name: str) -> str:
    """Return the address of another database of a server, with the tables in it; in the place of one that is
    there."""
    admin = create_engine(server.url, isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text(f"drop database if exists {name} with (force)"))
        connection.execute(text(f"create database {name} template bare"))
    admin.dispose()
    return f"{server.url.rsplit('/', 1)[0]}/{name}"


def _copy_bare(to: Path) -> None:
    def fill(server: Cluster) -> None:
        upgrade(server.url)
        admin = create_engine(server.url.rsplit("/", 1)[0] + "/postgres", isolation_level="AUTOCOMMIT")
        with admin.connect() as connection:
            connection.execute(text("create database bare template evenmark"))
        admin.dispose()

    of = _digest(MIGRATIONS, ROOT / "scripts/cluster.py", ROOT / "requirements")
    _copy(f"bare-{of}", to, lambda _: None, fill)


def _copy_demo(to: Path) -> None:
    def fill(server: Cluster) -> None:
        database = Database(new_database(server, SITE))
        load_demo(database)
        database.close()

    _copy(f"demo-{_digest(ROOT / 'src', ROOT / 'requirements')}", to, _copy_bare, fill, lasts=DEMO_LASTS)


def _copy(
    name: str,
    to: Path,
    begin: Callable[[Path], None],
    fill: Callable[[Cluster], None],
    lasts: float = float("inf"),
) -> None:
    """Copy the template of a name, made now unless it is there and young enough; one at a time, so that
    none is replaced while it is copied."""
    made = TEMPLATES / name
    TEMPLATES.mkdir(parents=True, exist_ok=True)
    kind = name.split("-")[0]
    with (TEMPLATES / f"{kind}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        stamp = made / "made"
        if not stamp.exists() or time.time() - stamp.stat().st_mtime > lasts:
            for old in TEMPLATES.glob(f"{kind}-*"):
                shutil.rmtree(old, ignore_errors=True)
            made.mkdir()
            begin(made)
            server = Cluster(made / "postgres", durable=False)
            server.start()
            try:
                fill(server)
            finally:
                server.stop()
            stamp.touch()
        subprocess.run(["cp", "-a", "--reflink=auto", *made.glob("postgres*"), to], check=True)


def _digest(*places: Path) -> str:
    found = hashlib.sha256()
    for place in places:
        for file in sorted(place.rglob("*")) if place.is_dir() else [place]:
            if file.is_file() and "__pycache__" not in file.parts:
                found.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes())
    return found.hexdigest()[:16]
