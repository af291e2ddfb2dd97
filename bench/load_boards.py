"""Two hundred students draw on boards at once: forty steps each, saved singly, one check of their own work,
handed in within a minute of each other; then thirty who draw where no worker can run, so that the server
answers for them. Part of `python -m bench.load`."""

from __future__ import annotations

import random
import threading
import time
from datetime import timedelta

from sqlalchemy import func, select

from bench.extent import sized
from bench.processes import seconds_of
from bench.visitor import Visitor
from evenmark.core.construct.document import Document, from_text, to_json
from evenmark.demo.parts import KIT
from evenmark.services import exercises
from evenmark.services.board_out import digest_of
from evenmark.store.database import Database
from evenmark.store.models import Attempt, Issue
from evenmark.store.people import Person, SchoolClass, now

STUDENTS, STEPS = sized(200, 3), sized(40, 24)
DRAWING, HANDING_IN = sized(100.0, 2.0), sized(60.0, 1.0)
"""Seconds that a student draws, and within which all hand in."""
SERVED, SECONDS_SERVED = sized(30, 2), sized(30.0, 3.0)
PAUSE = 6.0
"""Seconds from one step to the next of somebody who draws briskly."""
LIMITS = {"save a step": 0.3, "hand in the board": 0.5, "check it": 3.0}
ALL_MARKED = 90.0
HALF_A_CORE = 0.5


def drawn() -> Document:
    """Return a drawing of so many steps: the gate plate with more holes."""
    text = (KIT / "gate-holes.txt").read_text()
    more = STEPS - len(from_text(text).steps)
    holes = "".join(f"circle {20 * n}, -60; radius {3 + n % 5}\n" for n in range(more))
    return from_text(text + holes)


def prepare(database: Database, class_id: int, instructor: str) -> int:
    """Issue the drawing to a class; return the issue."""
    with database.transaction() as session:
        ada = session.scalars(select(Person).where(Person.sign_in == instructor)).one()
        key = to_text_bytes()
        revision = exercises.make_exercise(
            session, ada, title="Drawn at once", text="", key_name="k.txt", key=key
        )
        issue = exercises.put_issue(
            session,
            revision,
            session.get_one(SchoolClass, class_id).id,
            due_at=now() + timedelta(days=1),
            tries=3,
            detail="numbers",
        )
        session.get_one(Issue, issue.id).own_checks = 5
        return issue.id


def to_text_bytes() -> bytes:
    """Return the drawing as a file."""
    from evenmark.core.construct.document import to_text

    return to_text(drawn()).encode()


def _draw(visitor: Visitor, board: int, pauses: float) -> dict[str, str]:
    """Save the drawing step by step; return the digest of the list."""
    page = visitor.json("open the board", "GET", f"/api/boards/{board}")
    version, lines = page["version"], page["document"]["lines"]
    wanted = [line for line in to_json(drawn())["lines"] if line["kind"] != "unit"]
    heads = [line for line in wanted if line["kind"] != "step"]
    acts = [heads, *([line] for line in wanted if line["kind"] == "step")]
    rng = random.Random(board)  # noqa: S311 - how long somebody thinks
    for come in acts:
        edit = {"at": len(lines), "gone": [], "come": come}
        body = {"base": version, "acts": [[edit]]}
        version = visitor.json("save a step", "POST", f"/api/boards/{board}/acts", body)["version"]
        lines = [*lines, *come]
        time.sleep(rng.uniform(0.5, 1.5) * pauses)
    return {"digest": digest_of({"format": "", "version": 1, "next": 1, "lines": lines})}


def _student(
    port: int, n: int, issue: int, password: str, begin: float, visitors: list[Visitor], faults: list[str]
) -> None:
    visitor = Visitor(port)
    visitors.append(visitor)
    try:
        time.sleep(max(0.0, begin - time.monotonic()))
        visitor.sign_in(f"student{n:03}", password)
        board = visitor.json("begin", "POST", f"/api/work/{issue}/board")["board_id"]
        listed = _draw(visitor, board, DRAWING / (STEPS + 1))
        visitor.json("check it", "POST", f"/api/boards/{board}/check", listed)
        visitor.json("hand in the board", "POST", f"/api/boards/{board}/hand-in", listed)
    except (RuntimeError, OSError) as why:
        faults.append(str(why))
    finally:
        visitor.close()


def play(
    port: int, database: Database, issue: int, password: str, visitors: list[Visitor]
) -> tuple[list[str], float]:
    """Have all draw and hand in; return what went wrong, and the seconds from the last hand-in until all was
    marked."""
    faults: list[str] = []
    began = time.monotonic() + 1.0
    threads = [
        threading.Thread(
            target=_student,
            args=(port, n, issue, password, began + n * HANDING_IN * 0.8 / STUDENTS, visitors, faults),
        )
        for n in range(STUDENTS)
    ]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    done = time.monotonic()
    print(f"{STUDENTS} drew {STEPS} steps and handed in within {done - began:.0f} s; faults: {len(faults)}")
    while True:
        with database.transaction() as session:
            query = select(func.count(Attempt.id)).where(
                Attempt.issue_id == issue, Attempt.state == "waiting"
            )
            if not session.scalar(query):
                break
        time.sleep(0.2)
    return faults, time.monotonic() - done


def served(port: int, pid: int, issue: int, password: str) -> tuple[list[Visitor], list[str], float]:
    """Have some draw where the server answers for them; return how it went, and how many cores that took."""
    visitors: list[Visitor] = []
    faults: list[str] = []
    until = time.monotonic() + SECONDS_SERVED + SERVED * 0.1

    def draws(n: int) -> None:
        visitor = Visitor(port)
        visitors.append(visitor)
        try:
            visitor.sign_in(f"student{n:03}", password)
            board = visitor.json("begin", "POST", f"/api/work/{issue}/board")["board_id"]
            page = visitor.json("open the board", "GET", f"/api/boards/{board}")
            version, at, rng = page["version"], 0, random.Random(n)  # noqa: S311 - where somebody points
            while time.monotonic() < until:
                says = f"circle {rng.randrange(200)}, {rng.randrange(200)}; radius {rng.randrange(2, 9)}"
                for end in (8, 16, len(says)):
                    _ask(visitor, board, version, "state", {"says": says[:end]})
                    time.sleep(PAUSE / 6)
                wrote = _ask(visitor, board, version, "write", {"says": says})
                body = {"base": version, "acts": [wrote["splices"]]}
                version = visitor.json("save a step", "POST", f"/api/boards/{board}/acts", body)["version"]
                at += 1
                time.sleep(PAUSE / 2)
        except (RuntimeError, OSError) as why:
            faults.append(str(why))
        finally:
            visitor.close()

    threads = [threading.Thread(target=draws, args=(n,)) for n in range(SERVED)]
    for t in threads:
        t.start()
        time.sleep(0.1)
    began, cpu = time.monotonic(), seconds_of(pid)
    time.sleep(max(1.0, until - time.monotonic() - 1.0))
    cores = (seconds_of(pid) - cpu) / (time.monotonic() - began)
    for t in threads:
        t.join()
    return visitors, faults, cores


def _ask(visitor: Visitor, board: int, version: int, call: str, args: dict[str, object]) -> dict[str, object]:
    body = {"version": version, "call": call, "args": args}
    answer = visitor.json(f"ask ({call})", "POST", f"/api/boards/{board}/ask", body)["answer"]
    return dict(answer)
