"""What `./even-mark-backup` and `./even-mark-restore` run: everything in the database into one file, and back
into an empty one.

A backup is one consistent moment (PostgreSQL's own dump), taken while Even Mark runs or not: whatever was
acknowledged before it began is in it. It holds people's work and password hashes, so that its owner alone may
read it.
"""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path

from scripts.cluster import USER, Cluster, ClusterError, data_folder

ROOT = Path(__file__).resolve().parent.parent
DATABASE = "evenmark"


class Refused(SystemExit):
    """Says what stands in the way and ends."""

    def __init__(self, says: str) -> None:
        print(f"even-mark: {says}", file=sys.stderr)
        super().__init__(2)


@contextmanager
def at_hand(cluster: Cluster) -> Iterator[Cluster]:
    """Yield a cluster that runs: the one that serves just now, else one that is started for the moment and
    stopped again."""
    if cluster.find_running():
        yield cluster
        return
    cluster.start()
    try:
        yield cluster
    finally:
        cluster.stop()


def backup(cluster: Cluster, file: Path) -> None:
    """Write everything into a file that is there whole or not at all. Raises Refused."""
    if not (cluster.folder / "PG_VERSION").exists():
        raise Refused("There are no data yet: nothing was backed up.")
    if file.exists():
        raise Refused(f"{file} is there already: choose another name, or move it away.")
    part = file.with_name(f"{file.name}.part")
    part.touch(mode=0o600)
    try:
        with at_hand(cluster):
            _run(cluster, "pg_dump", "--format=custom", "--no-owner", f"--file={part}", DATABASE)
        part.replace(file)
    finally:
        part.unlink(missing_ok=True)
    print(f"Backed up into {file} ({file.stat().st_size / 1e6:.1f} MB).")


def restore(cluster: Cluster, file: Path) -> None:
    """Bring everything in a file back into a database that holds nothing yet. Raises Refused."""
    if not file.is_file():
        raise Refused(f"{file} is not there: name the file that even-mark-backup wrote.")
    if cluster.find_running():
        raise Refused("Even Mark is running from this folder: end it with Ctrl-C first.")
    with at_hand(cluster):
        tables = _run(
            cluster,
            "psql",
            "-At",
            "-c",
            "select count(*) from pg_tables where schemaname = 'public'",
            "-d",
            DATABASE,
        )
        if tables.strip() != "0":
            raise Refused(
                "There are data already, and restoring does not mix: move the data folder away, or restore "
                "in another checkout."
            )
        _run(
            cluster,
            "pg_restore",
            "--no-owner",
            "--exit-on-error",
            "--single-transaction",
            f"--dbname={DATABASE}",
            str(file),
        )
        people = _run(cluster, "psql", "-At", "-c", "select count(*) from person", "-d", DATABASE)
    print(f"Restored: {people.strip()} people and all their work. Start Even Mark with ./start --no-demo.")


def _run(cluster: Cluster, program: str, *words: str) -> str:
    done = subprocess.run(
        [str(cluster.programs / program), *words],
        env={
            **os.environ,
            "PGHOST": "127.0.0.1",
            "PGPORT": str(cluster.port),
            "PGUSER": USER,
            "PGPASSWORD": cluster.password,
        },
        cwd="/",
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode:
        reason = (done.stderr.strip().splitlines() or ["no reason given"])[-1]
        raise Refused(f"{program} did not finish: {reason}")
    return done.stdout


def main() -> None:
    """Take the words of the command line."""
    parser = argparse.ArgumentParser(
        prog="even-mark-backup", description="Backs up or restores everything in Even Mark's database."
    )
    parser.add_argument("what", choices=["backup", "restore"])
    parser.add_argument("file", nargs="?", type=Path)
    parser.add_argument(
        "--data", type=Path, default=data_folder(ROOT), help="the data folder (else this checkout's)"
    )
    options = parser.parse_args()
    cluster = Cluster(options.data.resolve())
    try:
        if options.what == "backup":
            name = f"even-mark-{datetime.now().astimezone():%Y-%m-%d-%H%M%S}.backup"
            backup(cluster, (options.file or Path(name)).resolve())
        elif options.file is None:
            raise Refused("Name the file to restore from.")
        else:
            restore(cluster, options.file.resolve())
    except ClusterError as why:
        raise Refused(str(why)) from why


if __name__ == "__main__":
    main()
