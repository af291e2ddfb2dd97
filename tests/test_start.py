"""The start command: what stands in its way is said in one sentence with the remedy; it stops only what it
started."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from bench.visitor import Visitor
from scripts import supervise
from scripts.cluster import Cluster, ClusterError, data_folder
from sqlalchemy import create_engine, select, text

from evenmark.store.database import Database
from evenmark.store.models import Attempt, MarkSheetRow
from tests.conftest import PASSWORD, ROOT
from tests.extent import FULL, daily, only_in_full, size
from tests.services.test_worker_killed import a_class, drawn
from tests.template import copied, lay, new_database
from tests.waiting import until

pytestmark = pytest.mark.processes


@pytest.fixture
def folder() -> Iterator[Path]:
    made = data_folder(ROOT).parent / f"tests-start-{os.getpid()}"
    made.mkdir(parents=True, exist_ok=True)
    yield made
    shutil.rmtree(made, ignore_errors=True)


def test_a_broken_data_folder_is_said(folder: Path) -> None:
    data = folder / "postgres"
    data.mkdir()
    (data / "something").write_text("")
    with pytest.raises(ClusterError, match=r"PG_VERSION is missing\): move it away"):
        Cluster(data, durable=False).start()


def test_a_lost_password_and_a_foreign_version_are_said(folder: Path) -> None:
    cluster = copied(folder)
    cluster.stop()
    cluster.secret.rename(folder / "elsewhere")
    with pytest.raises(ClusterError, match="password file"):
        Cluster(cluster.folder, durable=False).start()
    (folder / "elsewhere").rename(cluster.secret)
    (cluster.folder / "PG_VERSION").write_text("9.6\n")
    with pytest.raises(ClusterError, match=r"postgresql-9\.6"):
        Cluster(cluster.folder, durable=False).start()


def test_the_server_listens_on_loopback_only_and_not_as_root(cluster: Cluster) -> None:
    pid = (cluster.folder / "postmaster.pid").read_text().split()[0]
    status = Path(f"/proc/{pid}/status").read_text()
    assert status.split("Uid:")[1].split()[0] != "0"
    listening = {
        line.split()[1]
        for line in Path("/proc/net/tcp").read_text().splitlines()[1:]
        if line.split()[3] == "0A"
    }
    ports = {a.split(":")[1]: a.split(":")[0] for a in listening}
    assert ports[f"{cluster.port:04X}"] == "0100007F"


def _run(*words: str, state: Path) -> subprocess.Popen[str]:
    """The script that ./start runs, with a state folder of its own so that a running Even Mark is left
    alone."""
    code = (
        "import scripts.run as r, scripts.cluster, sys, pathlib; "
        f"r.STATE = pathlib.Path({str(state)!r}); r.data_folder = lambda _: "
        f"pathlib.Path({str(state / 'postgres')!r}); r.main()"
    )
    environment = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"}
    return subprocess.Popen(
        [sys.executable, "-c", code, *words],
        cwd=ROOT,
        env=environment,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        stdin=subprocess.DEVNULL,
        text=True,
    )


def _free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def test_a_taken_port_is_said(folder: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        process = _run("--port", str(taken.getsockname()[1]), state=folder)
        _, err = process.communicate(timeout=60)
    assert process.returncode == 2
    assert "is taken by another program" in err
    assert len(err.strip().splitlines()) == 1


def test_up_down_and_up_again_with_the_data_as_it_was(folder: Path) -> None:
    port = _free_port()
    url = f"http://127.0.0.1:{port}"
    process = _run("--port", str(port), "--no-demo", "--instructor", "Ann Ash", "ann", state=folder)
    try:
        _until_up(url, process)
        second = _run("--port", str(_free_port()), state=folder)
        _, err = second.communicate(timeout=60)
        assert second.returncode == 2
        assert "running from this folder already" in err
    finally:
        process.send_signal(signal.SIGINT)
        out, _ = process.communicate(timeout=90)
    password = out.split(" signs in as ann with ")[1].split()[0]
    assert not _listening(port)
    again = _run("--port", str(port), "--no-demo", state=folder)
    try:
        _until_up(url, again)
        asked = urllib.request.Request(
            f"{url}/api/sign-in",
            json.dumps({"sign_in": "ann", "password": password}).encode(),
            {"Content-Type": "application/json"},
        )
        with urllib.request.urlopen(asked) as answer:
            assert json.load(answer)["person"]["name"] == "Ann Ash"
    finally:
        again.send_signal(signal.SIGTERM)
        again.communicate(timeout=90)
    assert not _listening(port)


@pytest.mark.parametrize("more", [(signal.SIGINT,), (signal.SIGTERM, signal.SIGINT, signal.SIGHUP)])
@pytest.mark.parametrize("when", daily(["up", "starting"]))
def test_ending_cannot_be_interrupted(folder: Path, when: str, more: tuple[signal.Signals, ...]) -> None:
    """Asked again it goes on quicker; nothing is left running, and nothing is said that is no sentence."""
    if when == "up":
        lay(folder)
    port = _free_port()
    process = _run("--port", str(port), "--no-demo", state=folder)
    if when == "up":
        _until_up(f"http://127.0.0.1:{port}", process)
    else:
        until((folder / "postgres" / "postmaster.pid").exists, "the database was not begun")
    mine = {int(n) for n in _children(process.pid)}
    process.send_signal(signal.SIGINT)
    for one in more:
        time.sleep(0.15)
        process.send_signal(one)
    _, err = process.communicate(timeout=60)
    assert "Traceback" not in err
    assert not _listening(port)
    until(lambda: not [p for p in mine if _runs(p)], lambda: [p for p in mine if _runs(p)])
    left = [
        p for p in Path("/proc").iterdir() if p.name.isdigit() and str(folder / "postgres") in _command_of(p)
    ]
    assert not left


def _command_of(process: Path) -> str:
    try:
        return (process / "cmdline").read_text().replace("\0", " ")
    except OSError:
        return ""


def _children(pid: int) -> list[str]:
    """The processes that one has started, and those that these have."""
    found = []
    for task in Path(f"/proc/{pid}/task").glob("*/children"):
        with contextlib.suppress(OSError):
            found += task.read_text().split()
    return [*found, *(c for one in found for c in _children(int(one)))]


def _parts(state: Path) -> dict[str, int]:
    """Return which process is which part by the record of the run, which is gone while the next one ends
    what is left over."""
    try:
        return {row["name"]: row["pid"] for row in json.loads((state / "parts.json").read_text())}
    except FileNotFoundError:
        return {}


def _health(url: str) -> dict[str, str]:
    try:
        with urllib.request.urlopen(f"{url}/api/health", timeout=5) as answer:
            body = json.load(answer)
    except urllib.error.HTTPError as why:
        body = json.load(why)
    except OSError:
        return {}
    return {name: part["state"] for name, part in body["parts"].items()}


def _well_again(url: str, changed: Callable[[], bool]) -> None:
    until(lambda: changed() and set(_health(url).values()) == {"up"}, lambda: _health(url))


def _runs(pid: int) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    except OSError:
        return False


def test_whatever_dies_is_started_again_and_a_killed_start_leaves_nothing_behind(folder: Path) -> None:
    lay(folder)
    port = _free_port()
    url = f"http://127.0.0.1:{port}"
    process = _run("--port", str(port), "--no-demo", state=folder)
    try:
        _until_up(url, process)
        if os.geteuid() == 0:
            for name, pid in _parts(folder).items():
                assert Path(f"/proc/{pid}/status").read_text().split("Uid:")[1].split()[0] != "0", name
        kept = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
        for _ in range(2):  # an idle connection is still good after what the web server would wait by itself
            kept.request("GET", "/api/session")
            kept.getresponse().read()
            time.sleep(3 if FULL else 0)
        kept.close()
        until(lambda: {"spare of web", "spare of readers"} <= _parts(folder).keys(), lambda: _parts(folder))
        loaded = _parts(folder)
        for name in ("web", "readers"):  # what is loaded already takes over
            os.kill(loaded[name], signal.SIGKILL)
            _well_again(url, lambda name=name: _parts(folder).get(name) == loaded[f"spare of {name}"])  # type: ignore[misc]
        for name, pid in daily(list(_parts(folder).items())):
            os.kill(pid, signal.SIGKILL)
            _well_again(url, lambda name=name, pid=pid: _parts(folder).get(name, pid) != pid)  # type: ignore[misc]
        database = folder / "postgres" / "postmaster.pid"
        before = database.read_text().split()[0]
        os.kill(int(before), signal.SIGKILL)
        _well_again(url, lambda: database.exists() and database.read_text().split()[0] != before)
        assert (folder / "server.log").stat().st_mode & 0o777 == 0o600
        numbers = [*_parts(folder).values(), int(database.read_text().split()[0])]
        left = [supervise._identity(pid) for pid in numbers]
        process.kill()
        process.communicate(timeout=10)
        assert _runs(numbers[-1])  # the database; the other parts end with their parent
        web = _parts(folder)["web"]
        process = _run("--port", str(port), "--no-demo", state=folder)
        # the old web server may answer for a moment yet
        _well_again(url, lambda: _parts(folder).get("web", web) != web)
        assert not [one for one in left if _runs(one["pid"]) and supervise._identity(one["pid"]) == one]
        os.kill(int(database.read_text().split()[0]), signal.SIGKILL)
    finally:
        process.send_signal(signal.SIGINT)
        process.communicate(timeout=20)  # although the database is dead
    assert not _listening(port)


def test_what_a_killed_run_left_behind_is_ended_and_nothing_else(folder: Path) -> None:
    record = folder / "parts.json"
    mine, others = (subprocess.Popen(["sleep", "60"], start_new_session=True) for _ in range(2))
    try:
        record.write_text(
            json.dumps(
                [
                    {"name": "web", **supervise._identity(mine.pid)},
                    {"name": "worker", **supervise._identity(others.pid), "since": 1},
                ]
            )
        )
        assert supervise.end_left_over(record) == ["web"]
        mine.wait(5)
        assert others.poll() is None
        assert supervise.end_left_over(record) == []
    finally:
        for p in (mine, others):
            p.kill()
            p.wait()


def test_the_log_is_its_owners_and_bounded(folder: Path) -> None:
    log = supervise.open_log(folder / "parts.log")
    for n in range(300):
        log.info("%s %s", n, "x" * 100_000)
    kept = sorted(folder.glob("parts.log*"))
    assert len(kept) == supervise.LOG_COPIES + 1
    assert {p.stat().st_mode & 0o777 for p in kept} == {0o600}
    assert sum(p.stat().st_size for p in kept) <= (supervise.LOG_COPIES + 1) * supervise.LOG_BYTES
    log.handlers[0].close()


def test_a_copy_of_the_data_whose_owner_was_lost_starts(folder: Path) -> None:
    first = copied(folder)
    first.stop()
    copy = folder / "elsewhere"
    shutil.copytree(folder / "postgres", copy / "postgres")
    shutil.copy(first.secret, copy)
    (copy / "postgres").chmod(0o755)
    again = Cluster(copy / "postgres", durable=False)
    try:
        again.start()
        assert again.alive()
    finally:
        again.stop()


def test_old_code_on_newer_data_says_so(cluster: Cluster, folder: Path) -> None:
    admin = create_engine(cluster.url, isolation_level="AUTOCOMMIT")
    url = new_database(cluster, "newer")
    engine = create_engine(url)
    with engine.begin() as connection:
        connection.execute(text("update alembic_version set version_num = '9999'"))
    engine.dispose()
    process = _run("--port", str(_free_port()), "--database-url", url, state=folder)
    _, err = process.communicate(timeout=60)
    with admin.connect() as connection:
        connection.execute(text("drop database newer with (force)"))
    admin.dispose()
    assert process.returncode == 2
    assert "written by a newer Even Mark" in err
    assert len(err.strip().splitlines()) == 1


@only_in_full
def test_several_servers_and_workers_on_one_database(
    cluster: Cluster, folder: Path, key_bytes: bytes
) -> None:
    admin = create_engine(cluster.url, isolation_level="AUTOCOMMIT")
    url = new_database(cluster, "shared")
    db = Database(url)
    _, issue, people = a_class(db, key_bytes, size(4, 10))
    ports = [_free_port(), _free_port()]
    servers = []
    for n, port in enumerate(ports):
        state = folder / str(n)
        state.mkdir()
        servers.append(
            _run(
                "--port",
                str(port),
                "--no-demo",
                "--database-url",
                url,
                "--web",
                "1",
                "--workers",
                "1",
                state=state,
            )
        )
    try:
        for port, process in zip(ports, servers, strict=True):
            _until_up(f"http://127.0.0.1:{port}", process)
        for n in range(len(people)):
            here, there = Visitor(ports[n % 2]), Visitor(ports[1 - n % 2])
            here.sign_in(f"student{n}", PASSWORD)
            there.cookies, there.guard = here.cookies, here.guard  # a session holds at each of them
            intake = here.file("lay in", f"/api/work/{issue}/intake", f"{n}.dxf", drawn(n))["intake_id"]
            there.json("hand in", "POST", f"/api/work/intakes/{intake}/hand-in")
            here.close()
            there.close()

        def states() -> list[str]:
            with db.transaction() as session:
                return list(session.scalars(select(Attempt.state)))

        until(lambda: states() == ["marked"] * len(people), states)
        with db.transaction() as session:
            sheets = list(session.scalars(select(MarkSheetRow.attempt_id)))
        assert len(sheets) == len(set(sheets)) == len(people)
    finally:
        for process in servers:
            process.send_signal(signal.SIGINT)
        for process in servers:
            process.communicate(timeout=30)
        db.close()
        with admin.connect() as connection:
            connection.execute(text("drop database shared with (force)"))
        admin.dispose()


def test_making_anew_asks_first(folder: Path) -> None:
    (folder / "postgres").mkdir()
    (folder / "postgres" / "PG_VERSION").write_text("15\n")
    process = _run("--fresh", "--port", str(_free_port()), state=folder)
    _, err = process.communicate(timeout=60)
    assert (process.returncode, (folder / "postgres" / "PG_VERSION").exists()) == (2, True)
    assert "Nothing was deleted" in err


def _listening(port: int) -> bool:
    with socket.socket() as s:
        return s.connect_ex(("127.0.0.1", port)) == 0


def _until_up(url: str, process: subprocess.Popen[str]) -> None:
    def up() -> bool:
        if process.poll() is not None:
            raise AssertionError(process.communicate())
        with contextlib.suppress(OSError):
            urllib.request.urlopen(f"{url}/api/session", timeout=2).close()
            return True
        return False

    until(up, f"{url} did not come up")
