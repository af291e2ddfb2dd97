"""Watches over everything that `./start` started: what dies is started again, what must end ends within
seconds.

- *part*: one program of the server: the readers, a worker, the web server. Each is the leader of a process
  group of its own, ends when this process dies, and writes into one log that only its owner may read and that
  never grows without bound.
- *record*: which processes belong to a run, kept in a file, so that the next run can end what a killed one
  left behind, and nothing else.
"""

from __future__ import annotations

import contextlib
import ctypes
import json
import logging
import os
import pwd
import signal
import subprocess
import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from logging.handlers import RotatingFileHandler
from pathlib import Path
from types import FrameType
from typing import IO

SPARE = "EVENMARK_SPARE"
"""What tells a program that it is one (`evenmark.jobs.spare`)."""
USER = "even-mark"
GRACE = 2.5
"""Seconds in which a part may end by itself; then it is ended."""
BACKOFF = (0.2, 0.5, 1.0, 2.0, 5.0, 10.0)
"""Seconds before a part is started again, the longer the more often it died lately."""
SETTLED = 4.0
"""Seconds that a part is up before its spare is loaded, so that starting is not slowed down by it."""
STEADY = 30.0
"""Seconds after which a part that runs counts as steady again."""
LOG_BYTES, LOG_COPIES = 5_000_000, 4
_PR_SET_PDEATHSIG = 1
_libc = ctypes.CDLL(None, use_errno=True)


def _end_with_parent() -> None:
    _libc.prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


def open_log(path: Path) -> logging.Logger:
    """Return a log of so many bytes, older ones beside it, readable by its owner alone."""
    path.touch(mode=0o600, exist_ok=True)
    for old in path.parent.glob(f"{path.name}*"):
        old.chmod(0o600)
    log = logging.getLogger("even-mark-parts")
    log.setLevel(logging.INFO)
    log.propagate = False
    log.handlers = [
        _PrivateLog(path, maxBytes=LOG_BYTES, backupCount=LOG_COPIES, encoding="utf-8", errors="replace")
    ]
    logging.raiseExceptions = False  # a full disk stops the log, not the server
    return log


class _PrivateLog(RotatingFileHandler):
    def _open(self) -> IO[str]:  # type: ignore[override]
        return open(
            self.baseFilename,
            self.mode,
            encoding=self.encoding,
            errors=self.errors,
            opener=lambda path, flags: os.open(path, flags, 0o600),
        )


class Ending:
    """How a run is told to end. The first signal breaks off what is being done; ending itself is never broken
    off: being told again only has it wait for nothing any more."""

    def __init__(self) -> None:
        self.begun = self.hurry = False

    def listen(self) -> None:
        """Take the signals that mean the end, also where a shell had them ignored."""
        for one in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
            signal.signal(one, self._told)

    def _told(self, _signal: int, _frame: FrameType | None) -> None:
        if self.begun:
            self.hurry = True
            return
        self.begun = True
        raise KeyboardInterrupt


@dataclass(kw_only=True)
class Part:
    """One program of the server, and how it fares."""

    name: str
    command: Sequence[str]
    environment: dict[str, str] = field(default_factory=dict)
    process: subprocess.Popen[bytes] | None = None
    with_spare: bool = False
    """Whether another one is kept loaded beside it, to take its place at once."""
    spare: subprocess.Popen[bytes] | None = None
    deaths: int = 0
    began: float = 0.0
    next_try: float = 0.0

    @property
    def runs(self) -> bool:
        """Whether it runs."""
        return self.process is not None and self.process.poll() is None


class Supervisor:
    """Starts parts and keeps them running until it is told to stop."""

    def __init__(self, *, folder: Path, log: logging.Logger, record: Path, user: str | None) -> None:
        self.folder, self.log, self.record, self.user = folder, log, record, user
        self.parts: list[Part] = []

    def start(self, part: Part) -> None:
        """Start a part and watch over it from now on; its spare takes the place of one that has died."""
        if part not in self.parts:
            self.parts.append(part)
        part.process, part.spare = self._turn_of(part.spare) or self._begun(part), None
        part.began = time.monotonic()
        self._note()

    def _begun(self, part: Part, *, spare: bool = False) -> subprocess.Popen[bytes]:
        process: subprocess.Popen[bytes] = subprocess.Popen(
            list(part.command),
            cwd=self.folder,
            env={**os.environ, **part.environment, **({SPARE: "1"} if spare else {})},
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            stdin=subprocess.PIPE if spare else subprocess.DEVNULL,
            start_new_session=True,
            preexec_fn=_end_with_parent,
            **_as(self.user),  # type: ignore[call-overload]
        )
        threading.Thread(target=self._copy, args=(part.name, process.stdout), daemon=True).start()
        return process

    def _turn_of(self, spare: subprocess.Popen[bytes] | None) -> subprocess.Popen[bytes] | None:
        """Tell a spare that it is its turn; None where there is none that lives."""
        if spare is None or spare.poll() is not None or spare.stdin is None:
            return None
        try:
            spare.stdin.write(b"go\n")
            spare.stdin.close()
        except OSError:
            return None
        return spare

    def _copy(self, name: str, output: IO[bytes]) -> None:
        for line in output:
            self.log.info("%s: %s", name, line.decode(errors="replace").rstrip("\n")[:2000])

    def _note(self) -> None:
        """Write down which processes are ours, each with the moment it began, so that no other is ever taken
        for it."""
        rows = [
            {"name": name, **_identity(process.pid)}
            for p in self.parts
            for name, process in ((p.name, p.process), (f"spare of {p.name}", p.spare))
            if process is not None and process.poll() is None
        ]
        with contextlib.suppress(OSError):
            fresh = self.record.with_suffix(".new")
            fresh.write_text(json.dumps(rows))
            fresh.replace(self.record)

    def look_after(self) -> None:
        """Start again what has died, sooner or later by how often it did."""
        now = time.monotonic()
        for part in self.parts:
            if part.runs:
                if now - part.began > STEADY:
                    part.deaths = 0
                self._keep_spare(part, now)
                continue
            if part.process is not None:
                wait = BACKOFF[min(part.deaths, len(BACKOFF) - 1)]
                self.log.info(
                    "%s ended with %s; started again in %s s", part.name, part.process.returncode, wait
                )
                _kill_group(part.process.pid)  # what it left behind of its own
                part.process = None
                part.deaths += 1
                part.next_try = now + wait
            elif now >= part.next_try:
                with contextlib.suppress(OSError):
                    self.start(part)

    def _keep_spare(self, part: Part, now: float) -> None:
        """Load another one beside a part that has been up for a while."""
        if (
            part.with_spare
            and now - part.began > SETTLED
            and (part.spare is None or part.spare.poll() is not None)
        ):
            with contextlib.suppress(OSError):
                part.spare = self._begun(part, spare=True)
                self._note()

    def stop(self, ending: Ending | None = None) -> None:
        """End all parts, those that others need last to be told; what does not end in time is ended, and at
        once where it hurries."""
        going = [process for p in self.parts for process in (p.process, p.spare) if process is not None]
        for process in reversed(going):
            with contextlib.suppress(ProcessLookupError):
                process.terminate()
        until = time.monotonic() + GRACE
        while time.monotonic() < until and any(p.poll() is None for p in going):
            if ending and ending.hurry:
                break
            time.sleep(0.05)
        for process in going:
            _kill_group(process.pid)
            with contextlib.suppress(subprocess.TimeoutExpired):
                process.wait(1)
        with contextlib.suppress(OSError):
            self.record.unlink(missing_ok=True)


def _as(user: str | None) -> dict[str, object]:
    if user is None:
        return {}
    entry = pwd.getpwnam(user)
    return {"user": entry.pw_uid, "group": entry.pw_gid, "extra_groups": []}


def _kill_group(pid: int) -> None:
    with contextlib.suppress(ProcessLookupError, PermissionError):
        os.killpg(pid, signal.SIGKILL)


def _identity(pid: int) -> dict[str, int]:
    """Return a process's number with the tick at which it began."""
    try:
        after_name = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
        return {"pid": pid, "since": int(after_name[19])}
    except (OSError, IndexError, ValueError):
        return {"pid": pid, "since": -1}


def end_left_over(record: Path) -> list[str]:
    """End what an earlier run that was killed left behind, by its record; return the names of what was
    ended."""
    try:
        rows = json.loads(record.read_text())
    except (OSError, ValueError):
        return []
    ours = [
        r
        for r in rows
        if r.get("since", -1) >= 0 and _identity(int(r["pid"])) == {"pid": r["pid"], "since": r["since"]}
    ]
    for row in ours:
        with contextlib.suppress(ProcessLookupError, PermissionError):
            os.killpg(row["pid"], signal.SIGTERM)
    until = time.monotonic() + GRACE
    while time.monotonic() < until and any(_alive(r["pid"]) for r in ours):
        time.sleep(0.05)
    for row in ours:
        _kill_group(row["pid"])
    record.unlink(missing_ok=True)
    return [str(r["name"]) for r in ours]


def _alive(pid: int) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    except OSError:
        return False


def unprivileged(needed: Sequence[Path], say: Callable[[str], None]) -> str | None:
    """Return the user that everything which reads files from outside runs as: one without rights when we are
    root, else ourselves.

    ``needed`` are the places that it has to reach; where one is closed to it, that is said and nothing is
    dropped but in the readers.
    """
    if os.geteuid() != 0:
        return None
    try:
        pwd.getpwnam(USER)
    except KeyError:
        made = subprocess.run(
            ["useradd", "--system", "--no-create-home", "--shell", "/usr/sbin/nologin", USER],
            capture_output=True,
            check=False,
        )
        if made.returncode:
            say(
                f"The user {USER} could not be made, so the pages run as root: run Even Mark as an "
                "ordinary user instead."
            )
            return None
    for place in needed:
        real = place.resolve()
        if not all(parent.stat().st_mode & 0o001 for parent in real.parents):
            say(
                f"{real} is closed to the user {USER}, so the pages run as root: put Even Mark where "
                "others may read it."
            )
            return None
    return USER
