"""What `./start` runs once everything is installed: database, migrations, demo, worker, web server, until
Ctrl-C."""

from __future__ import annotations

import argparse
import atexit
import contextlib
import fcntl
import os
import pwd
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path
from typing import IO

from scripts.cluster import Cluster, ClusterError, data_folder
from scripts.supervise import Ending, Part, Supervisor, end_left_over, open_log, unprivileged

ROOT = Path(__file__).resolve().parent.parent
STATE = ROOT / ".data"
PORT = 8040
KEEP_ALIVE = 120
"""Seconds for which an idle connection is kept: longer than proxies and browsers keep theirs, so that none is
closed under a request."""


class Stop(SystemExit):
    """Says what stands in the way and ends."""

    def __init__(self, says: str) -> None:
        print(f"even-mark: {says}", file=sys.stderr)
        super().__init__(2)


def main() -> None:
    """Bring everything up, print where it is, watch over it, and take it down again."""
    options = _options()
    lock = _only_one()
    record = STATE / "parts.json"
    cluster = None if options.database_url else Cluster(data_folder(ROOT))
    parts: Supervisor | None = None
    pages: subprocess.Popen[bytes] | None = None
    ending = Ending()
    try:
        ending.listen()
        left = end_left_over(record)
        if left:
            print(f"An earlier run had left {', '.join(left)} behind; that was ended.")
        _check_port(options.port)
        pages = _build_pages()
        if cluster is not None:
            if options.fresh:
                _begin_anew(cluster.folder.parent, options.yes)
            if not cluster.folder.is_relative_to(ROOT):
                print(
                    "This folder is closed to the database's user, so the data lie in "
                    f"{cluster.folder.parent}."
                )
            cluster.start()
        url = options.database_url or cluster.url  # type: ignore[union-attr]
        _prepare(url, demo=not options.no_demo)
        if options.instructor:
            _add_instructor(url, *options.instructor)
        if pages.wait():
            raise SystemExit(2)  # it has said why
        user = unprivileged([ROOT / "src" / "evenmark" / "__init__.py", Path(sys.executable)], print)
        parts = Supervisor(folder=ROOT, log=open_log(STATE / "server.log"), record=record, user=user)
        for part in _parts(options, url, user, cluster.folder.parent if cluster else STATE):
            parts.start(part)
        _wait_until_up(options.port, parts)
        _greet(options.port, demo=not options.no_demo)
        _watch(parts, cluster)
    except ClusterError as why:
        raise Stop(str(why)) from why
    except KeyboardInterrupt:
        print("\nStopping ...")
    finally:
        ending.begun = True
        if parts is not None:
            parts.stop(ending)
        if pages is not None and pages.poll() is None:
            with contextlib.suppress(ProcessLookupError):
                os.killpg(pages.pid, signal.SIGTERM)
        if cluster is not None:
            cluster.stop(patience=0 if ending.hurry else 2)
        lock.close()


def _build_pages() -> subprocess.Popen[bytes]:
    """Begin to install what the pages need and to build them, where that is not done yet: beside the
    database, which is made ready meanwhile."""
    return subprocess.Popen(
        ["bash", "-c", ". scripts/setup.sh; ensure_pages"], cwd=ROOT, start_new_session=True
    )


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
    cores = os.cpu_count() or 1
    parser.add_argument(
        "--web",
        type=_count,
        default=max(2, cores),
        help="processes that serve pages (else one a core, at least 2)",
    )
    parser.add_argument(
        "--threads", type=_count, default=16, help="requests that each of them serves at once (else 16)"
    )
    parser.add_argument(
        "--workers",
        type=int,
        default=max(1, cores // 2),
        help="processes that mark (else one for two cores); 0 for none",
    )
    parser.add_argument(
        "--readers", type=_count, default=cores, help="drawings that are read at once (else one a core)"
    )
    parser.add_argument(
        "--database-url",
        default=os.environ.get("EVENMARK_DATABASE_URL"),
        help="a database that others share, instead of one of our own (else EVENMARK_DATABASE_URL)",
    )
    return parser.parse_args()


def _count(word: str) -> int:
    number = int(word)
    if not 1 <= number <= 256:
        raise argparse.ArgumentTypeError("choose a number from 1 to 256")
    return number


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
    from evenmark.store.migrate import NewerData, upgrade

    try:
        upgrade(url)
    except NewerData as why:
        raise Stop(str(why)) from why
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


def _parts(options: argparse.Namespace, url: str, user: str | None, data: Path) -> list[Part]:
    """Return the programs of the server, in the order in which they are started."""
    place = _run_folder(user)
    environment = {
        "EVENMARK_DATABASE_URL": url,
        "EVENMARK_DATA": str(data),
        "EVENMARK_READERS": str(place / "readers"),
        "EVENMARK_READERS_KEY": secrets.token_hex(16),
        "EVENMARK_MAIL": str(_mail_folder(user)),
        "EVENMARK_READERS_AT_ONCE": str(options.readers),
        "EVENMARK_WEB_THREADS": str(options.threads),
        "HOME": str(place),  # libraries look for settings of their own there, and are to find none
        "XDG_CONFIG_HOME": str(place),
        "XDG_CACHE_HOME": str(place),
        "OPENBLAS_NUM_THREADS": "1",  # each process has its own work; more threads would stand in the way
    }
    # a worker marks in processes of its own, so that the readers are there for those who wait at a page
    alone = {k: v for k, v in environment.items() if not k.startswith("EVENMARK_READERS")}
    web = [
        "-m",
        "scripts.web",
        "--bind",
        f"127.0.0.1:{options.port}",
        "--workers",
        str(options.web),
        "--threads",
        str(options.threads),
        "--worker-class",
        "gthread",
        "--keep-alive",
        str(KEEP_ALIVE),
        "--timeout",
        "90",
        "--graceful-timeout",
        "2",
        "--no-control-socket",
        "--worker-tmp-dir",
        str(place),
        "--log-level",
        "warning",
        "--config",
        str(ROOT / "scripts" / "gunicorn_conf.py"),
        "evenmark.web.app:from_environment()",
    ]
    python = sys.executable
    return [
        Part(
            name="readers",
            command=[python, "-m", "evenmark.jobs.readers"],
            environment=environment,
            with_spare=True,
        ),
        *(
            Part(name=f"worker {n + 1}", command=[python, "-m", "evenmark.jobs"], environment=alone)
            for n in range(options.workers)
        ),
        Part(name="web", command=[python, *web], environment=environment, with_spare=True),
    ]


def _mail_folder(user: str | None) -> Path:
    """Return where the mail stand-in writes, which the parts alone can look into."""
    place = STATE / "mail"
    place.mkdir(mode=0o700, exist_ok=True)
    if user is not None:
        entry = pwd.getpwnam(user)
        os.chown(place, entry.pw_uid, entry.pw_gid)
    return place


def _run_folder(user: str | None) -> Path:
    """Return a new folder for what lives as long as this run, which the parts alone can look into."""
    place = Path(tempfile.mkdtemp(prefix="even-mark-"))
    if user is not None:
        entry = pwd.getpwnam(user)
        os.chown(place, entry.pw_uid, entry.pw_gid)
    atexit.register(shutil.rmtree, place, ignore_errors=True)
    return place


def _wait_until_up(port: int, parts: Supervisor) -> None:
    for _ in range(300):
        if any(p.process is not None and p.process.poll() is not None for p in parts.parts):
            raise Stop("A part of the server ended at once; the reason is in .data/server.log.")
        with contextlib.suppress(OSError):
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=2).close()
            return
        time.sleep(0.1)
    raise Stop("The server did not answer within half a minute; the reason is in .data/server.log.")


def _greet(port: int, *, demo: bool) -> None:
    from evenmark.demo.plans import INSTRUCTOR, PASSWORD, STUDENTS, sign_in_of

    print(f"\nEven Mark is up at http://127.0.0.1:{port}")
    if demo:
        print(f"  instructor  {INSTRUCTOR[1]:<8} {PASSWORD}   ({INSTRUCTOR[0]})")
        for group, names in STUDENTS.items():
            print(
                f"  student     {sign_in_of(names[0]):<8} {PASSWORD}   ({names[0]}, {group}; also "
                f"{', '.join(map(sign_in_of, names[1:]))})"
            )
    print("Ctrl-C stops it.\n", flush=True)


def _watch(parts: Supervisor, cluster: Cluster | None) -> None:
    """Start again whatever dies, the database first, until we are told to stop."""
    said, next_try = False, 0.0
    while True:
        time.sleep(0.25)
        parts.look_after()
        if cluster is None or cluster.alive():
            said = False
            continue
        if time.monotonic() < next_try:
            continue
        next_try = time.monotonic() + 2.0
        try:
            cluster.revive()
            parts.log.info("the database had ended; it was started again")
        except (ClusterError, OSError, subprocess.SubprocessError) as why:
            if not said:
                print(
                    f"even-mark: The database has ended and does not start again yet; trying on. {why}",
                    file=sys.stderr,
                    flush=True,
                )
            said = True


if __name__ == "__main__":
    main()
