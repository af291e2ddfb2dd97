"""The cyclic garbage collector, held still while one drawing is worked through.

Reading and checking a drawing makes some hundred thousand small values, none of which can be freed before the
end; looking through them again and again for garbage cycles took a fifth of the time. Nothing is collected
later than by the next allocation after the work.
"""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def held_still() -> Iterator[None]:
    """Hold the collector still until the block ends; blocks may stand inside each other."""
    running = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if running:
            gc.enable()
