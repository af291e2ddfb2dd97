"""Work on files from outside, in a process of its own with bounded time and memory.

A fork server has the engine loaded, so that each piece of work starts within milliseconds; a process that
takes too long is ended, and whatever happens in it cannot hurt the one that serves pages.

- *near*: done by this process's own fork server.
- *far*: done by the readers, one service for all web processes of a machine, which gives each person a fair
  turn (`turns`). Where the environment names its address, everything that a page waits for goes there.
"""

from __future__ import annotations

import contextlib
import logging
import multiprocessing
import os
import resource
import signal
import threading
import time
from collections.abc import Callable, Iterator
from contextvars import ContextVar
from functools import cache
from multiprocessing.connection import Client, Connection
from multiprocessing.context import ForkServerContext
from typing import NamedTuple, TypeVar, cast

from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import RuleError
from evenmark.services.errors import Busy, Crowded, NotUsable
from evenmark.store.database import open_transactions

T = TypeVar("T")
SECONDS = 10
"""The longest that somebody waits for a drawing to be read."""
GIB = 1024**3
MEMORY, MOST_MEMORY = GIB, 3 * GIB
"""What reading one file may take, and what longer work may."""
READERS_VARIABLE, KEY_VARIABLE = "EVENMARK_READERS", "EVENMARK_READERS_KEY"
NICE = 5
LATER = 3
"""How many times as long as it may take of the processor is waited for it, on a machine that is busy with
others."""
PATIENCE = 15.0
"""Seconds for which readers that are being started again are waited for."""
BROKE = (
    "The drawing could not be read; the fault is ours. If it was a file, export it as DXF again and try that."
)

log = logging.getLogger(__name__)
whose_turn: ContextVar[str] = ContextVar("whose_turn", default="")
"""For whom this thread works: one piece of work at a time is done for each person."""
strict: ContextVar[bool] = ContextVar("strict", default=False)
"""Whether work inside an open transaction is a fault; the tests of the pages have it so."""
_BOARDS = ["__main__", "evenmark.services.bounded", "evenmark.services.board_sessions"]
"""What processes have loaded when they are forked: what they need themselves too, else each loads it anew."""
_ENGINE = [
    "evenmark.services.board_work",
    "evenmark.services.engine_work",
    "evenmark.services.key_work",
    "evenmark.services.print_work",
    "evenmark.core.sheet.pdf",
    "evenmark.core.sheet.marked_dxf",
]
_waiting: threading.BoundedSemaphore | None = None


class Worked(NamedTuple):
    """Whether work was done, its value or what was raised, and the seconds of processor time that it took."""

    done: bool
    value: object
    cost: float


class Gone(Exception):
    """The process that did the work ended without an answer."""


@cache
def context() -> ForkServerContext:
    """Return what this process forks others with; where the readers do the work of the engine, for boards
    alone."""
    found = multiprocessing.get_context("forkserver")
    found.set_forkserver_preload(_BOARDS if os.environ.get(READERS_VARIABLE) else [*_BOARDS, *_ENGINE])
    return found


def let_wait(most: int) -> None:
    """Say how many threads of this process may wait for bounded work at once; the others stay free for
    pages."""
    global _waiting
    _waiting = threading.BoundedSemaphore(most)


def run_bounded(work: Callable[..., T], *arguments: object, seconds: int = SECONDS) -> T:
    """Return what ``work`` returns, done elsewhere.

    Raises UnreadableDrawing and RuleError as the work does, Busy when it takes too long, Crowded when too
    many wait, NotUsable when it breaks. Work whose process was killed is done once more before that is said.
    """
    if strict.get() and open_transactions.get():
        raise RuntimeError(f"{work.__name__} inside a transaction")
    far = os.environ.get(READERS_VARIABLE)
    with _room():
        for last in (False, True):
            try:
                worked = _far(far, work, arguments, seconds) if far else near(work, arguments, seconds)
                break
            except Gone as why:
                if last:
                    raise NotUsable(BROKE) from why
                log.warning("a reader ended without an answer; trying again")
    if worked.done:
        return cast(T, worked.value)
    if isinstance(worked.value, UnreadableDrawing | RuleError | Busy | Crowded):
        raise worked.value
    log.error("bounded work broke: %s", worked.value)
    raise NotUsable(BROKE)


@contextlib.contextmanager
def _room() -> Iterator[None]:
    if _waiting is None:
        yield
        return
    if not _waiting.acquire(blocking=False):
        raise Crowded
    try:
        yield
    finally:
        _waiting.release()


def read_bounded(work: Callable[..., T], *arguments: object, seconds: int = SECONDS) -> T:
    """Return what ``work`` returns that reads a file, done elsewhere. Raises NotUsable with how to put the
    file right, and what else `run_bounded` raises."""
    try:
        return run_bounded(work, *arguments, seconds=seconds)
    except UnreadableDrawing as why:
        raise NotUsable(why.says, why.code) from why


def near(work: Callable[..., object], arguments: tuple[object, ...], seconds: int) -> Worked:
    """Do some work in a process forked for it; return what became of it. Raises Gone."""
    receiver, sender = context().Pipe(duplex=False)
    process = context().Process(target=_do, args=(sender, work, arguments, seconds), daemon=True)
    process.start()
    sender.close()
    try:
        if not receiver.poll(seconds * LATER):
            return _too_long(seconds)
        found: Worked = receiver.recv()
        return found
    except (EOFError, ConnectionError) as why:
        process.join(1)
        if process.exitcode == -signal.SIGXCPU:
            return _too_long(seconds)
        raise Gone from why
    finally:
        receiver.close()
        if process.is_alive():
            process.kill()
        process.join()


def _too_long(seconds: int) -> Worked:
    says = (
        f"The drawing takes more than {seconds} seconds to read. Remove what does not belong to "
        f"it, then "
        "try again."
    )
    return Worked(False, Busy(says), float(seconds))


def _far(address: str, work: Callable[..., object], arguments: tuple[object, ...], seconds: int) -> Worked:
    """Have the readers do some work in this person's turn. Raises Gone, Crowded."""
    connection = _connected(address)
    try:
        connection.send((whose_turn.get(), work, arguments, seconds))
        found: Worked | None = connection.recv()
    except (EOFError, OSError) as why:
        raise Gone from why
    finally:
        connection.close()
    if found is None:
        raise Gone
    return found


def _connected(address: str) -> Connection:
    key = os.environ.get(KEY_VARIABLE, "").encode()
    until = time.monotonic() + PATIENCE
    while True:
        try:
            return Client(address, family="AF_UNIX", authkey=key)
        except (OSError, EOFError) as why:
            if time.monotonic() > until:
                raise Crowded from why
            time.sleep(0.1)


def _do(sender: Connection, work: Callable[..., object], arguments: tuple[object, ...], seconds: int) -> None:
    memory = MEMORY if seconds <= SECONDS else MOST_MEMORY
    with contextlib.suppress(ValueError, OSError):
        os.nice(NICE)  # pages come first
        resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 1))
        resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    try:
        result: tuple[bool, object] = (True, work(*arguments))
    except (UnreadableDrawing, RuleError) as why:
        result = (False, why)
    except MemoryError:
        result = (
            False,
            Busy(
                "The drawing takes more memory than is allowed. Remove what does not belong to it, then "
                "try again."
            ),
        )
    except BaseException as why:
        result = (False, f"{type(why).__name__}: {why}")
    with contextlib.suppress(BrokenPipeError):
        took = resource.getrusage(resource.RUSAGE_SELF)
        sender.send(Worked(*result, took.ru_utime + took.ru_stime))
    sender.close()


def warm_up() -> None:
    """Start the fork server now, so that the first person does not wait for it."""
    if not os.environ.get(READERS_VARIABLE):
        near(_nothing, (), SECONDS)


def _nothing() -> None:
    return None
