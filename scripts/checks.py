"""What `./test` runs once everything is installed: the parts side by side, and what each of them took.

- *part*: one command with its name and its budget, in seconds of processor time, which a busy machine does
  not change. A part that takes half as much again as its budget fails, so that `./test` stays quick.
- *lane*: parts that run one after the other, beside the other lanes.
"""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
import tempfile
import threading
import time
from dataclasses import dataclass
from pathlib import Path
from xml.etree import ElementTree  # our own reports

from tests.extent import DAY, DAY_VARIABLE, FULL_VARIABLE

ROOT = Path(__file__).resolve().parent.parent
LOGS = ROOT / ".data" / "tests"
OVER = 1.5
SLOWEST = 20
NOTHING_TO_RUN = 5
"""How pytest says that its words left no test."""


@dataclass(kw_only=True)
class Part:
    """One part, and how it went; what it says stands in a file, which can be followed while it runs."""

    name: str
    command: list[str]
    budget: float
    report: Path | None = None
    some: bool = False
    """Whether its words may leave it nothing to do."""
    took: float = 0.0
    spent: float = 0.0
    """Seconds of processor time."""
    answer: int | None = None

    @property
    def over(self) -> bool:
        """Whether it took much more than its budget."""
        return self.spent > OVER * self.budget

    @property
    def held(self) -> bool:
        """Whether all of it holds."""
        return self.answer == 0 or (self.some and self.answer == NOTHING_TO_RUN)


def main() -> int:
    """Run everything; 0 where it holds."""
    options, words = _options()
    began = time.monotonic()
    if options.extent == "all":
        os.environ[FULL_VARIABLE] = "1"
    print(f"Random tests are those of day {DAY} ({DAY_VARIABLE}={DAY} ./test repeats them).", flush=True)
    with tempfile.TemporaryDirectory() as reports:
        lanes = _lanes(options.extent, words, Path(reports))
        threads = [threading.Thread(target=_run_lane, args=(lane,)) for lane in lanes]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        parts = [part for lane in lanes for part in lane]
        _tell_slowest(parts)
    _tell_budget(parts, judged=options.extent == "day" and not words)
    fell = [p.name for p in parts if not p.held]
    late = [p.name for p in parts if p.over] if options.extent == "day" and not words else []
    took = time.monotonic() - began
    if fell:
        print(f"These do not hold: {', '.join(fell)}. It took {took:.0f} seconds.")
    if late:
        print(f"These take far more than their budget: {', '.join(late)}. Make them quicker.")
    if not fell and not late:
        print(f"Everything holds; it took {took:.0f} seconds.")
    return int(bool(fell or late))


def _options() -> tuple[argparse.Namespace, list[str]]:
    parser = argparse.ArgumentParser(
        prog="./test",
        description="Everything that must hold. Further words go to pytest.",
    )
    parser.add_argument(
        "extent",
        nargs="?",
        choices=("day", "fast", "all"),
        default="day",
        help="fast leaves the browser out, all runs every random and long test in full (else a day's share)",
    )
    known, words = ("day", "fast", "all"), sys.argv[1:]
    chosen = [words[0]] if words and words[0] in known else []
    return parser.parse_args(chosen or (["-h"] if words[:1] == ["-h"] else [])), words[len(chosen) :]


def _lanes(extent: str, words: list[str], reports: Path) -> list[list[Part]]:
    python, tool = sys.executable, Path(sys.executable).parent
    folders = ["src", "tests", "bench", "scripts"]

    def npm(name: str, script: str, budget: float) -> Part:
        return Part(name=name, command=["npm", "--prefix", "frontend", "run", "-s", script], budget=budget)

    def pytest(name: str, which: str, budget: float, more: list[str]) -> Part:
        report = reports / f"{which.replace(' ', '-')}.xml"
        command = [python, "-m", "pytest", "-m", which, f"--junitxml={report}", "-o", "junit_family=xunit1"]
        command += [f"--hypothesis-seed={DAY}", *more, *words]
        return Part(name=name, command=command, budget=budget, report=report, some=bool(words))

    at_once = str(min(os.cpu_count() or 1, 4))
    static = [
        Part(name="formatting", command=[str(tool / "ruff"), "format", "--check", "-q", *folders], budget=5),
        Part(name="lint", command=[str(tool / "ruff"), "check", "-q", *folders], budget=5),
        Part(name="architecture", command=[str(tool / "lint-imports"), "--no-logo"], budget=20),
        Part(name="types", command=[str(tool / "mypy"), "--no-error-summary"], budget=90),
        npm("front end: formatting", "format", 30),
        npm("front end: lint", "lint", 40),
        npm("front end: types", "types", 70),
        npm("front end: units", "unit", 80),
    ]
    lanes = [static, [pytest("python", "not browser", 1000, ["-n", at_once])]]
    if extent != "fast":
        # each of the two has a server, a worker and a demo of its own
        lanes.append([pytest("browser", "browser", 600, ["-n", "2", "--dist", "loadfile"])])
    return lanes


def _run_lane(lane: list[Part]) -> None:
    for part in lane:
        _run(part)


def _run(part: Part) -> None:
    began = time.monotonic()
    _say(f"== {part.name} ...")
    LOGS.mkdir(parents=True, exist_ok=True)
    log = LOGS / f"{part.name.replace(' ', '-').replace(':', '')}.log"
    environment = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"}
    try:
        with log.open("w") as file:
            process = subprocess.Popen(
                part.command,
                cwd=ROOT,
                env=environment,
                stdin=subprocess.DEVNULL,
                stdout=file,
                stderr=subprocess.STDOUT,
            )
    except OSError as why:
        part.answer = 127
        _say(f"== {part.name} could not be started: {why}")
        return
    _, status, used = os.wait4(process.pid, 0)
    process.returncode = part.answer = os.waitstatus_to_exitcode(status)
    part.took, part.spent = time.monotonic() - began, used.ru_utime + used.ru_stime
    _say(f"== {part.name}: {'holds' if part.held else 'DOES NOT HOLD'}, {part.took:.0f} s")
    if not part.held:
        _say(log.read_text(errors="replace"))


_saying = threading.Lock()


def _say(words: str) -> None:
    with _saying:
        print(words, flush=True)


def _tell_slowest(parts: list[Part]) -> None:
    took: list[tuple[float, str]] = []
    for part in parts:
        if part.report is None or not part.report.exists():
            continue
        for case in ElementTree.parse(part.report).iter("testcase"):  # noqa: S314 - written by our own pytest
            took.append((float(case.get("time", 0)), f"{case.get('file', '')} {case.get('name', '')}"))
    if took:
        print(f"\nThe {SLOWEST} slowest tests:")
        for seconds, name in sorted(took, reverse=True)[:SLOWEST]:
            print(f"  {seconds:6.1f} s  {name}")


def _tell_budget(parts: list[Part], *, judged: bool) -> None:
    print(f"\n{'part':<24}{'seconds':>9}{'processor':>11}{'budget':>8}")
    for part in parts:
        word = "   over by half" if judged and part.over else ""
        print(f"{part.name:<24}{part.took:>9.0f}{part.spent:>11.0f}{part.budget:>8.0f}{word}")
    print()


if __name__ == "__main__":
    sys.exit(main())
