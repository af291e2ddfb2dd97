"""Readers: a turn for each person, one piece of work at a time, and nobody before the pages; what was killed
is done once more."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from evenmark.services import bounded
from evenmark.services.bounded import run_bounded, whose_turn
from evenmark.services.errors import Busy, Crowded, NotUsable
from evenmark.services.turns import HALVED_IN, LONG, MOST_OF_ONE, MUCH, Turns
from tests.conftest import ROOT


def together(
    turns: Turns, wanted: list[str], gate: threading.Event
) -> tuple[list[str], list[threading.Thread]]:
    """Ask for turns in some order; each is held until the gate opens, then for a moment."""
    order: list[str] = []

    def work(person: str) -> None:
        with turns.turn(person):
            order.append(person)
            gate.wait(10)
            time.sleep(0.005)

    threads = []
    for person in wanted:
        threads.append(threading.Thread(target=work, args=(person,)))
        threads[-1].start()
        time.sleep(0.02)
    return order, threads


def test_one_who_sends_many_waits_behind_everybody_else() -> None:
    gate = threading.Event()
    order, threads = together(Turns(1), ["a", "a", "a", "a", "b", "c"], gate)
    assert order == ["a"]
    gate.set()
    for t in threads:
        t.join(10)
    assert order == ["a", "a", "b", "c", "a", "a"] or order == ["a", "b", "c", "a", "a", "a"]


def test_nobody_works_twice_at_once_although_there_is_room() -> None:
    gate = threading.Event()
    order, threads = together(Turns(3), ["a", "a", "b"], gate)
    assert sorted(order) == ["a", "b"]
    gate.set()
    for t in threads:
        t.join(10)
    assert sorted(order) == ["a", "a", "b"]


def test_too_many_of_one_are_refused_and_a_break_gives_the_turn_back() -> None:
    gate, turns = threading.Event(), Turns(1)
    _, threads = together(turns, ["a"] * (MOST_OF_ONE + 1), gate)
    with pytest.raises(Crowded), turns.turn("a"):
        pass
    gate.set()
    for t in threads:
        t.join(10)
    with pytest.raises(ValueError, match="x"), turns.turn("a"):
        raise ValueError("x")
    with turns.turn("a"):
        pass


def test_shares_are_of_processor_time_not_of_requests() -> None:
    """Who has used little comes first, however many others came before."""
    time_ = [0.0]
    turns = Turns(1, lambda: time_[0])
    gate, order = threading.Event(), []
    for person, cost in (("much", 2.5), ("more", 2.9), ("little", 0.1)):
        with turns.turn(person) as turn:
            turn.cost = cost

    def work(person: str) -> None:
        with turns.turn(person) as turn:
            order.append(person)
            gate.wait(10)
            turn.cost = 0.0

    threads = [threading.Thread(target=work, args=(p,)) for p in ("first", "more", "much", "little")]
    for t in threads:
        t.start()
        time.sleep(0.02)
    gate.set()
    for t in threads:
        t.join(10)
    assert order == ["first", "little", "much", "more"]


def test_what_was_used_is_forgotten_and_counts_whatever_came_of_it() -> None:
    time_ = [0.0]
    turns = Turns(1, lambda: time_[0])
    with pytest.raises(Busy), turns.turn("a"):
        time_[0] += 30.0
        raise Busy("too much work")
    assert turns.used.of("a") == pytest.approx(30.0)
    time_[0] += HALVED_IN
    assert turns.used.of("a") == pytest.approx(15.0)
    time_[0] += 20 * HALVED_IN
    assert turns.used.of("a") < MUCH


def test_the_cheap_passes_the_dear() -> None:
    """Three who ask dear things in a loop leave a place for a fourth; and what goes on for long is passed."""
    time_ = [0.0]
    turns = Turns(2, lambda: time_[0])
    gate, order, threads = threading.Event(), list[str](), []

    def ask(person: str, held: threading.Event) -> None:
        def work() -> None:
            with turns.turn(person) as turn:
                order.append(person)
                held.wait(20)
                turn.cost = 0.0

        threads.append(threading.Thread(target=work))
        threads[-1].start()
        time.sleep(0.05)

    for person in ("a", "b", "c"):
        with turns.turn(person) as turn:
            turn.cost = 10.0
    for person in ("a", "b", "c"):
        ask(person, gate)
    assert order == ["a"]  # the other place is for what is cheap
    done = threading.Event()
    done.set()
    ask("d", done)
    assert order == ["a", "d"]
    # two who are cheap still and then take long: a third one passes them
    slow = threading.Event()
    time_[0] += 1.0
    ask("e", slow)
    assert order[-1] == "e"
    ask("f", slow)
    assert "f" not in order
    time_[0] += LONG
    time.sleep(LONG / 2)
    assert order[-1] == "f"
    for event in (gate, slow):
        event.set()
    for t in threads:
        t.join(20)
    assert sorted(order) == ["a", "b", "c", "d", "e", "f"]


@pytest.fixture(scope="module")
def readers() -> Iterator[list[subprocess.Popen[bytes]]]:
    """The service as ./start runs it; the one that is there last."""
    with tempfile.TemporaryDirectory(prefix="even-mark-") as place, pytest.MonkeyPatch.context() as patch:
        address = str(Path(place) / "readers")
        environment = {
            bounded.READERS_VARIABLE: address,
            bounded.KEY_VARIABLE: "k" * 32,
            "EVENMARK_READERS_AT_ONCE": "2",
            "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}",
        }
        for name, value in environment.items():
            patch.setenv(name, value)
        processes = [_service()]
        yield processes
        processes[-1].kill()
        processes[-1].wait(10)


@pytest.fixture
def without_readers(monkeypatch: pytest.MonkeyPatch) -> None:
    """Work is done by this process's own fork server."""
    monkeypatch.delenv(bounded.READERS_VARIABLE, raising=False)


def _service() -> subprocess.Popen[bytes]:
    return subprocess.Popen([sys.executable, "-m", "evenmark.jobs.readers"], cwd=ROOT, env=dict(os.environ))


def nap(seconds: float) -> int:
    time.sleep(seconds)
    return os.getpid()


def die_first(mark: str) -> str:
    if not os.path.exists(mark):
        Path(mark).touch()
        os.kill(os.getpid(), signal.SIGKILL)
    return "done"


def die(_: str) -> None:
    os.kill(os.getpid(), signal.SIGKILL)


def grow() -> int:
    return len(bytearray(1100 * 1024**2))


def test_work_goes_to_the_readers_and_a_killed_one_is_tried_once_more(
    readers: list[subprocess.Popen[bytes]], tmp_path: Path
) -> None:
    assert run_bounded(nap, 0.0) != os.getpid()
    assert run_bounded(die_first, str(tmp_path / "a")) == "done"
    with pytest.raises(NotUsable, match="could not be read"):
        run_bounded(die, "always")
    with pytest.raises(Busy, match="1 seconds"):
        run_bounded(nap, 30.0, seconds=1)
    with pytest.raises(Busy, match="memory"):
        run_bounded(grow)


def test_readers_that_were_killed_are_waited_for(readers: list[subprocess.Popen[bytes]]) -> None:
    assert run_bounded(nap, 0.0)
    found: list[Any] = []
    waiting = threading.Thread(target=lambda: found.append(run_bounded(nap, 1.0)))
    waiting.start()
    time.sleep(0.5)
    readers[-1].kill()
    readers[-1].wait(10)
    readers.append(_service())
    waiting.join(60)
    assert len(found) == 1


def test_eight_slow_files_of_one_do_not_keep_another_waiting(
    readers: list[subprocess.Popen[bytes]],
) -> None:
    assert run_bounded(nap, 0.0)
    faults: list[str] = []

    def send() -> None:
        whose_turn.set("one")
        try:
            run_bounded(nap, 0.7)
        except Crowded as why:
            faults.append(why.says)

    threads = [threading.Thread(target=send) for _ in range(8)]
    for t in threads:
        t.start()
    time.sleep(0.3)
    whose_turn.set("another")
    run_bounded(nap, 0.0)
    whose_turn.set("")
    waiting = sum(t.is_alive() for t in threads)
    for t in threads:
        t.join(30)
    assert waiting >= MOST_OF_ONE - 1  # most of the other's are still to come
    assert 0 < len(faults) <= 8 - MOST_OF_ONE


@pytest.mark.usefixtures("without_readers")
def test_the_killed_process_of_a_reading_is_done_once_more_without_readers_too(tmp_path: Path) -> None:
    assert run_bounded(die_first, str(tmp_path / "b")) == "done"


@pytest.mark.usefixtures("without_readers")
def test_pages_keep_threads_of_their_own(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(bounded, "_waiting", threading.BoundedSemaphore(1))
    slow = threading.Thread(target=run_bounded, args=(nap, 1.0))
    slow.start()
    time.sleep(0.3)
    with pytest.raises(Crowded):
        run_bounded(nap, 0.0)
    slow.join(10)
    assert run_bounded(nap, 0.0)
