"""`python -m bench`: a whole check against merely loading the same file with the DXF library, and how it
grows.

Each figure is the median of pairs measured in turn, so that a change in the machine's speed falls on both
sides alike.
"""

from __future__ import annotations

import argparse
import functools
import gc
import io
import statistics
import subprocess
import sys
import tempfile
import time
import zipfile
from collections.abc import Callable
from pathlib import Path

import ezdxf

from bench.drawings import ADVERSE, plates
from bench.extent import sized
from bench.families import FAMILIES, family
from evenmark.core.drawing.model import Drawing
from evenmark.core.formats import read_file
from evenmark.core.formats.archive import unpack
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.marking import RuleSet, check_bytes, prepare
from evenmark.core.marking.marks_json import to_text
from evenmark.core.marking.model import POLICIES, Policy

FEW, SOME, MANY, MOST = 40, sized(400, 60), sized(4_000, 80), sized(40_000, 120)
"""Entities of a drawing."""
CLASS = sized(30, 2)
THOUSAND = sized(1_000, 12)
"""Of one shape over and over."""
LOAD_LIMITS = {(FEW, 0.0): 1.2, (FEW, 0.1): 1.2, (MANY, 0.0): 1.5, (MANY, 0.1): 2.0}
"""The most that a whole check may take, output counted, in loadings of the same file: by entities, and the
share of them with a slip."""
GROWTH_LIMIT = 1.15
CLASS_LIMIT = 5.0
MEMORY_LIMIT = 2.5
ADVERSE_LIMIT = 1.5
"""How much more than proportional drawings of one shape over and over may grow, from 1,000 to 8,000."""


def timed(work: Callable[[], object]) -> float:
    gc.collect()
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


class Task:
    """One attempt against its key, and the mere loading of the same file; of plates, or of a family."""

    def __init__(
        self, entities: int, slips: float, placement: Policy, folder: Path, of: str = "plates"
    ) -> None:
        self.path = folder / f"attempt-{of}-{entities}.dxf"
        shift = (0.0, 0.0) if placement == "as-drawn" else (12.5, -3.25)
        draw = plates if of == "plates" else functools.partial(family, of)
        manner = Manner(shift=shift, polylines=of != "plates")
        self.path.write_bytes(write_dxf(draw(entities, slips), manner))
        key = write_dxf(draw(entities, 0.0), Manner(polylines=True))
        self.key = prepare(read_file(key), RuleSet(placement=placement))
        self.load(), self.check()  # what is done once a process is not measured

    def load(self) -> object:
        return ezdxf.readfile(self.path)

    def check(self) -> object:
        return to_text(check_bytes(self.key, self.path.read_bytes()), self.path.name)


def against_load(task: Task, pairs: int) -> float:
    """Return the ratio of a whole check to loading: the median of pairs measured in turn."""
    return statistics.median(timed(task.check) / timed(task.load) for _ in range(pairs))


def growth(small: Task, large: Task, rounds: int, each: int = sized(20, 2)) -> tuple[float, float]:
    """Return how check and load grow from 400 to 40,000 entities, as a share of a hundredfold; 1 is
    proportional."""

    def once(of: Callable[[Task], object]) -> float:
        before = sum(timed(lambda: of(small)) for _ in range(each // 2))
        big = timed(lambda: of(large))
        after = sum(timed(lambda: of(small)) for _ in range(each // 2))
        return big / ((before + after) / each) / (MOST / SOME)

    both = [(once(Task.check), once(Task.load)) for _ in range(rounds)]
    return statistics.median(c for c, _ in both), statistics.median(f for _, f in both)


def main() -> None:
    parser = argparse.ArgumentParser(prog="python -m bench", description=__doc__)
    parser.add_argument(
        "--pairs",
        type=int,
        default=sized(21, 1),
        help="pairs for a small drawing (default 21); a third for 4,000",
    )
    options = parser.parse_args()
    within: list[bool] = []
    with tempfile.TemporaryDirectory() as name:
        for placement in POLICIES[:2]:
            for slips in (0.0, 0.1):
                what = f"{placement:<9} {'a tenth with slips' if slips else 'all right':<19}"
                tasks = {n: Task(n, slips, placement, Path(name)) for n in (FEW, SOME, MANY, MOST)}
                for n in (FEW, SOME, MANY):
                    ratio = against_load(
                        tasks[n], options.pairs if n < MANY else sized(max(5, options.pairs // 3), 1)
                    )
                    within += [ratio <= LOAD_LIMITS[n, slips]] if (n, slips) in LOAD_LIMITS else []
                    print(f"{n:>6,} entities, {what} check / load = {ratio:.2f}", flush=True)
                check, load = growth(tasks[SOME], tasks[MOST], sized(3, 1))
                within.append(check <= GROWTH_LIMIT)
                print(
                    f"400 to 40,000,   {what} check {check:.2f}, load {load:.2f} times proportional",
                    flush=True,
                )
        within += families(Path(name), options.pairs)
        within.append(a_class(Path(name), options.pairs // 3))
        within.append(memory(Path(name)))
    within += [adverse(draw) for draw in ADVERSE]
    print(
        f"{sum(within)} of {len(within)} figures within their limits (check / load 1.2 at 40, 1.5 at 4,000, "
        f"2.0 with a tenth wrong; growth {GROWTH_LIMIT} times proportional; a class {CLASS_LIMIT}; memory "
        f"{MEMORY_LIMIT}; one shape over and over {ADVERSE_LIMIT})"
    )


def families(folder: Path, pairs: int) -> list[bool]:
    """Every family against loading, right and with a tenth wrong, and how the mixed one grows."""
    within = []
    for name in FAMILIES:
        for slips in (0.0, 0.1):
            for n in (FEW, MANY):
                ratio = against_load(
                    Task(n, slips, "as-drawn", folder, name), pairs if n < MANY else sized(5, 1)
                )
                within.append(ratio <= LOAD_LIMITS[n, slips])
                what = "a tenth wrong" if slips else "right"
                print(f"{n:>6,} objects,  {name:<9} {what:<13} check / load = {ratio:.2f}", flush=True)
    for slips in (0.0, 0.1):
        small, large = (Task(n, slips, "as-drawn", folder, "mixed") for n in (SOME, MOST))
        check, load = growth(small, large, sized(3, 1))
        within.append(check <= GROWTH_LIMIT)
        what = "a tenth wrong" if slips else "right"
        print(f"400 to 40,000,   mixed {what}: check {check:.2f}, load {load:.2f} times proportional")
    return within


def a_class(folder: Path, rounds: int) -> bool:
    """A class of thirty forty-entity attempts out of one ZIP, against loading the thirty files once."""
    key = prepare(read_file(write_dxf(plates(40), Manner(polylines=True))), RuleSet(placement="slide"))
    files = [write_dxf(plates(40, 0.1 * (k % 4)), Manner(shift=(k, 2.0 * k))) for k in range(CLASS)]
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for k, data in enumerate(files):
            archive.writestr(f"{k}.dxf", data)
            (folder / f"class-{k}.dxf").write_bytes(data)

    def mark() -> None:
        for member in unpack(packed.getvalue()):
            to_text(check_bytes(key, member.data), member.path)

    def load() -> None:
        for k in range(CLASS):
            ezdxf.readfile(folder / f"class-{k}.dxf")

    ratio = statistics.median(timed(mark) / timed(load) for _ in range(sized(max(3, rounds), 1)))
    print(f"a class of {CLASS} out of a ZIP, marked / loaded = {ratio:.2f}", flush=True)
    return ratio <= CLASS_LIMIT


def memory(folder: Path) -> bool:
    """The most memory that a check of 40,000 entities takes, against that of loading the file, each in a
    process of its own."""
    path = folder / "memory.dxf"
    path.write_bytes(write_dxf(plates(MOST, 0.1)))
    (folder / "memory-key.dxf").write_bytes(write_dxf(plates(MOST), Manner(polylines=True)))

    def peak(work: str) -> float:
        done = subprocess.run(
            [sys.executable, "-m", "bench.memory", work, str(path), str(folder / "memory-key.dxf")],
            capture_output=True,
            text=True,
            check=True,
        )
        return float(done.stdout)

    ratio = peak("check") / peak("load")
    print(f"40,000 entities, memory of a check / of the loaded file = {ratio:.2f}", flush=True)
    return ratio <= MEMORY_LIMIT


def adverse(draw: Callable[[int], Drawing]) -> bool:
    """How the check of one shape over and over grows from 1,000 to 8,000, as a share of proportional."""

    def once(n: int) -> float:
        data = write_dxf(draw(n), Manner(shift=(5.0, 5.0)))
        key = prepare(read_file(write_dxf(draw(n))), RuleSet(placement="slide"))
        check_bytes(key, data)
        return statistics.median(timed(lambda: check_bytes(key, data)) for _ in range(sized(3, 1)))

    ratio = once(8 * THOUSAND) / once(THOUSAND) / 8
    print(f"1,000 to 8,000, {draw.__name__:<12} check {ratio:.2f} times proportional", flush=True)
    return ratio <= ADVERSE_LIMIT


if __name__ == "__main__":
    main()
