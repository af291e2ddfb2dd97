"""What `./start` runs once everything is installed: database, migrations, demo, worker, web server, until Ctrl-C."""

from __future__ import annotations

import argparse
import contextlib
import fcntl
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path
from types import FrameType
from typing import IO

from scripts.cluster import Cluster, ClusterError, data_folder

ROOT = Path(__file__).resolve().parent.parent
STATE = ROOT / ".data"
PORT = 8040


class Stop(SystemExit):
    """Says what stands in the way and ends."""

    def __init__(self, says: str) -> None:
        print(f"even-mark: {says}", file=sys.stderr)
        super().__init__(2)


def main() -> None:
    """Bring everything up, print where it is, and take it down again."""
    options = _options()
    lock = _only_one()
    cluster = Cluster(data_folder(ROOT))
    children: list[subprocess.Popen[bytes]] = []
    try:
        _check_port(options.port)
        if options.fresh:
            _begin_anew(cluster.folder.parent, options.yes)
        if not cluster.folder.is_relative_to(ROOT):
            print(
                f"This folder is closed to the database's user, so the data lie in {cluster.folder.parent}."
            )
        for stop in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
            signal.signal(stop, _terminated)  # also where a shell had it ignored
        cluster.start()
        os.environ["EVENMARK_DATABASE_URL"] = cluster.url
        _prepare(cluster.url, demo=not options.no_demo)
        if options.instructor:
            _add_instructor(cluster.url, *options.instructor)
        children += _serve(options.port)
        _wait_until_up(options.port, children)
        _greet(options.port, demo=not options.no_demo)
        _watch(children)
    except ClusterError as why:
        raise Stop(str(why)) from why
    except KeyboardInterrupt:
        print("\nStopping ...")
    finally:
        for child in children:
            with contextlib.suppress(ProcessLookupError):
                child.terminate()
        for child in children:
            try:
                child.wait(25)
            except subprocess.TimeoutExpired:
                child.kill()
        cluster.stop()
        lock.close()


def _terminated(_signal: int, _frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _options() -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Runs Even Mark until Ctrl-C.")
    parser.add_argument("--port", type=int, default=PORT, help=f"where the pages are served (else {PORT})")
    parser.add_argument("--fresh", action="store_true", help="make the demo anew, after asking")
    parser.add_argument("--yes", action="store_true", help="with --fresh: do not ask")
    parser.add_argument(
        "--instructor",
        nargs=2,
        metavar=("NAME", "SIGN-IN"),
        help="make an account for an instructor; prints its password once",
    )
    parser.add_argument("--no-demo", action="store_true", help="leave a new database empty")
    return parser.parse_args()


def _only_one() -> IO[str]:
    """Make sure that no other run uses this folder."""
    try:
        STATE.mkdir(exist_ok=True)
        lock = (STATE / "running").open("a+")
    except OSError as why:
        raise Stop(
            "The folder .data cannot be written to: give yourself the right to write in it, then start again."
        ) from why
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as why:
        raise Stop(
            "Even Mark is running from this folder already: use that one, or end it with Ctrl-C first."
        ) from why
    return lock


def _check_port(port: int) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except PermissionError as why:
            raise Stop(
                f"Port {port} needs more rights than you have: choose one from 1024 on with --port."
            ) from why
        except (OSError, OverflowError) as why:
            raise Stop(
                f"Port {port} is taken by another program: end that one, or choose another port with --port."
            ) from why


def _begin_anew(folder: Path, yes: bool) -> None:
    if not (folder / "postgres").exists():
        return
    if not yes:
        try:
            answer = input(
                "This deletes everything in Even Mark's database, handed-in work too. Type 'anew' to go on: "
            )
        except EOFError:
            answer = ""
        if answer.strip() != "anew":
            raise Stop("Nothing was deleted.")
    Cluster(folder / "postgres").stop_left_over()
    shutil.rmtree(folder / "postgres")
    (folder / "postgres.json").unlink(missing_ok=True)


def _prepare(url: str, *, demo: bool) -> None:
    from evenmark.demo.load import load_demo
    from evenmark.store.database import Database
    from evenmark.store.migrate import upgrade

    upgrade(url)
    if demo:
        database = Database(url)
        began = time.monotonic()
        if load_demo(database):
            print(f"The demo was loaded in {time.monotonic() - began:.0f} seconds.")
        database.close()


def _add_instructor(url: str, name: str, sign_in: str) -> None:
    """Make an account for an instructor and print its password, which is kept nowhere."""
    from evenmark.services.errors import Refused
    from evenmark.services.people import make_person
    from evenmark.store.database import Conflict, Database

    password = "-".join(secrets.token_hex(2) for _ in range(4))
    database = Database(url)
    try:
        with database.transaction() as session:
            make_person(session, name=name, sign_in=sign_in, password=password, role="instructor")
    except Conflict as why:
        raise Stop(f"The sign-in name {sign_in} is taken. Choose another.") from why
    except Refused as why:
        raise Stop(why.says) from why
    finally:
        database.close()
    print(f"New instructor: {name} signs in as {sign_in} with {password} (change it on the account page).")


def _serve(port: int) -> list[subprocess.Popen[bytes]]:
    """Start a worker and the web server, each in a session of its own so that Ctrl-C reaches us first."""
    log = (STATE / "server.log").open("ab")
    server = [
        "-m", "gunicorn", "--bind", f"127.0.0.1:{port}", "--workers", "2", "--threads", "4", "--worker-class", "gthread",
        "--timeout", "180", "--graceful-timeout", "10", "--no-control-socket", "--config", str(ROOT / "scripts" / "gunicorn_conf.py"),
        "evenmark.web.app:from_environment()",
    ]  # fmt: skip
    commands = [["-m", "evenmark.jobs"], server]
    return [
        subprocess.Popen(
            [sys.executable, *words],
            cwd=ROOT,
            stdout=log,
            stderr=log,
            stdin=subprocess.DEVNULL,
            start_new_session=True,
        )
        for words in commands
    ]


def _wait_until_up(port: int, children: list[subprocess.Popen[bytes]]) -> None:
    for _ in range(300):
        if any(child.poll() is not None for child in children):
            raise Stop("A part of the server ended at once; the reason is in .data/server.log.")
        with contextlib.suppress(OSError):
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=2).close()
            return
        time.sleep(0.1)
    raise Stop("The server did not answer within half a minute; the reason is in .data/server.log.")


def _greet(port: int, *, demo: bool) -> None:
    from evenmark.demo.load import INSTRUCTOR, PASSWORD, STUDENTS, sign_in_of

    print(f"\nEven Mark is up at http://127.0.0.1:{port}")
    if demo:
        print(f"  instructor  {INSTRUCTOR[1]:<8} {PASSWORD}   ({INSTRUCTOR[0]})")
        for group, names in STUDENTS.items():
            print(
                f"  student     {sign_in_of(names[0]):<8} {PASSWORD}   ({names[0]}, {group}; also {', '.join(map(sign_in_of, names[1:]))})"
            )
    print("Ctrl-C stops it.\n", flush=True)


def _watch(children: list[subprocess.Popen[bytes]]) -> None:
    """Wait; start a worker again if it dies, and stop when the web server does."""
    worker, server = children
    while True:
        time.sleep(1)
        if server.poll() is not None:
            raise Stop("The web server ended; the reason is in .data/server.log.")
        if worker.poll() is not None:
            log = (STATE / "server.log").open("ab")
            worker = children[0] = subprocess.Popen(
                [sys.executable, "-m", "evenmark.jobs"],
                cwd=ROOT,
                stdout=log,
                stderr=log,
                stdin=subprocess.DEVNULL,
                start_new_session=True,
            )


if __name__ == "__main__":
    main()
