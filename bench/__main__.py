"""`python -m bench`: a whole check against merely loading the same file with the DXF library, and how it grows.

Each figure is the median of pairs measured in turn, so that a change in the machine's speed falls on both sides alike.
"""

from __future__ import annotations

import argparse
import gc
import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import ezdxf

from bench.drawings import plates
from evenmark.core.formats import read
from evenmark.core.formats.dxf_write import Manner, write
from evenmark.core.marking import RuleSet, check_bytes, prepare
from evenmark.core.marking.model import POLICIES, Policy

LOAD_LIMIT = 2.0
GROWTH_LIMIT = 1.25


def timed(work: Callable[[], object]) -> float:
    gc.collect()
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


class Task:
    """One attempt against its key, and the mere loading of the same file."""

    def __init__(self, entities: int, slips: float, placement: Policy, folder: Path) -> None:
        self.path = folder / f"attempt-{entities}.dxf"
        shift = (0.0, 0.0) if placement == "as-drawn" else (12.5, -3.25)
        self.path.write_bytes(write(plates(entities, slips), Manner(shift=shift)))
        key = write(plates(entities), Manner(polylines=True))
        self.key = prepare(read(key), RuleSet(placement=placement))
        self.load(), self.check()  # what is done once a process is not measured

    def load(self) -> object:
        return ezdxf.readfile(self.path)

    def check(self) -> object:
        return check_bytes(self.key, self.path.read_bytes())


def against_load(task: Task, pairs: int) -> float:
    """Return the ratio of a whole check to loading: the median of pairs measured in turn."""
    return statistics.median(timed(task.check) / timed(task.load) for _ in range(pairs))


def growth(small: Task, large: Task, rounds: int, each: int = 20) -> tuple[float, float]:
    """Return how check and load grow from 400 to 40,000 entities, as a share of a hundredfold; 1 is proportional."""

    def once(of: Callable[[Task], object]) -> float:
        before = sum(timed(lambda: of(small)) for _ in range(each // 2))
        big = timed(lambda: of(large))
        after = sum(timed(lambda: of(small)) for _ in range(each // 2))
        return big / ((before + after) / each) / 100

    both = [(once(Task.check), once(Task.load)) for _ in range(rounds)]
    return statistics.median(c for c, _ in both), statistics.median(f for _, f in both)


def main() -> None:
    parser = argparse.ArgumentParser(prog="python -m bench", description=__doc__)
    parser.add_argument(
        "--pairs", type=int, default=21, help="pairs for a small drawing (default 21); a third for 4,000"
    )
    options = parser.parse_args()
    within: list[bool] = []
    with tempfile.TemporaryDirectory() as name:
        for placement in POLICIES[:2]:
            for slips in (0.0, 0.1):
                what = f"{placement:<9} {'a tenth with slips' if slips else 'all right':<19}"
                tasks = {n: Task(n, slips, placement, Path(name)) for n in (40, 400, 4_000, 40_000)}
                for n in (40, 400, 4_000):
                    ratio = against_load(tasks[n], options.pairs if n < 4_000 else max(5, options.pairs // 3))
                    within += [ratio <= LOAD_LIMIT] if n != 400 else []
                    print(f"{n:>6,} entities, {what} check / load = {ratio:.2f}", flush=True)
                check, load = growth(tasks[400], tasks[40_000], 3)
                within.append(check <= GROWTH_LIMIT)
                print(
                    f"400 to 40,000,   {what} check {check:.2f}, load {load:.2f} times proportional",
                    flush=True,
                )
    print(
        f"{sum(within)} of {len(within)} figures within their limits "
        f"(check / load {LOAD_LIMIT} at 40 and 4,000; growth {GROWTH_LIMIT} times proportional)"
    )


if __name__ == "__main__":
    main()
