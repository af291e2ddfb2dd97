"""What processes take of the machine."""

from __future__ import annotations

import os
from pathlib import Path


def seconds_of(pid: int) -> float:
    """Return the seconds of processor that a process and all below it have taken."""
    below: dict[int, list[int]] = {}
    times: dict[int, float] = {}
    for folder in Path("/proc").iterdir():
        if not folder.name.isdigit():
            continue
        try:
            words = (folder / "stat").read_text().rsplit(") ", 1)[1].split()
        except OSError:
            continue
        below.setdefault(int(words[1]), []).append(int(folder.name))
        times[int(folder.name)] = sum(map(int, words[11:15])) / os.sysconf("SC_CLK_TCK")
    todo, total = [pid], 0.0
    while todo:
        one = todo.pop()
        total += times.get(one, 0.0)
        todo += below.get(one, [])
    return total
