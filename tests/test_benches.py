"""Every bench starts and ends at its smallest size: none is broken when it is needed."""

from __future__ import annotations

import os
import subprocess
import sys

import pytest

from tests.conftest import ROOT

BENCHES = [
    "bench",
    *(f"bench.{p.stem}" for p in sorted((ROOT / "bench").glob("*.py")) if "__main__" in p.read_text()),
]
WHOLE = ("bench.board", "bench.load", "bench.through_workers")
"""Those that start servers."""
OTHERS_PART = ("bench.memory", "bench.__main__")
"""Those that others start."""


@pytest.mark.processes
@pytest.mark.parametrize("name", [b for b in BENCHES if b not in OTHERS_PART])
def test_a_bench_runs(name: str) -> None:
    done = subprocess.run(
        [sys.executable, "-m", name],
        cwd=ROOT,
        env={**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", "EVENMARK_BENCH_SMALLEST": "1"},
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr[-3000:]
    assert done.stdout.strip()


def test_all_of_them_are_started() -> None:
    assert {*BENCHES} > {*WHOLE, "bench.page", "bench.rounds", "bench.slips", "bench.steps"}
