"""Work on files from outside, in a process of its own with bounded time and memory.

A fork server has the engine loaded, so that each piece of work starts within milliseconds; a process that takes too long
is ended, and whatever happens in it cannot hurt the one that serves pages.
"""

from __future__ import annotations

import contextlib
import logging
import multiprocessing
import resource
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import RuleError
from evenmark.services.errors import Busy, NotUsable

T = TypeVar("T")
SECONDS = 30
MEMORY = 4 * 1024**3

log = logging.getLogger(__name__)
_context = multiprocessing.get_context("forkserver")
_context.set_forkserver_preload(
    ["__main__", "evenmark.services.engine_work", "evenmark.core.sheet.pdf", "evenmark.core.sheet.marked_dxf"]
)


def run_bounded(work: Callable[..., T], *arguments: Any, seconds: int = SECONDS) -> T:
    """Return what ``work`` returns, done elsewhere.

    Raises UnreadableDrawing and RuleError as the work does, Busy when it takes too long, NotUsable when it breaks.
    """
    receiver, sender = _context.Pipe(duplex=False)
    process = _context.Process(target=_do, args=(sender, work, arguments, seconds), daemon=True)
    process.start()
    sender.close()
    try:
        if not receiver.poll(seconds):
            raise Busy(
                f"The drawing takes more than {seconds} seconds to work through. Remove what does not belong to it, then try again."
            )
        done, value = receiver.recv()
    except EOFError as why:
        raise NotUsable(
            "The drawing could not be worked through. Export it as DXF again and try the new file."
        ) from why
    finally:
        receiver.close()
        if process.is_alive():
            process.kill()
        process.join()
    if done:
        return value  # type: ignore[no-any-return]
    if isinstance(value, UnreadableDrawing | RuleError):
        raise value
    log.error("bounded work broke: %s", value)
    raise NotUsable("The drawing could not be worked through. Export it as DXF again and try the new file.")


def _do(sender: Connection, work: Callable[..., Any], arguments: tuple[Any, ...], seconds: int) -> None:
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_CPU, (seconds + 5, seconds + 5))
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    try:
        result: tuple[bool, Any] = (True, work(*arguments))
    except (UnreadableDrawing, RuleError) as why:
        result = (False, why)
    except BaseException as why:
        result = (False, f"{type(why).__name__}: {why}")
    with contextlib.suppress(BrokenPipeError):
        sender.send(result)
    sender.close()


def warm_up() -> None:
    """Start the fork server now, so that the first person does not wait for it."""
    run_bounded(_nothing)


def _nothing() -> None:
    return None
