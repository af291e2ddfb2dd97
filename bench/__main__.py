"""`python -m bench`: a whole check against merely loading the same file with the DXF library, and how it grows.

Each figure is the median of pairs measured in turn, so that a change in the machine's speed falls on both sides alike.
"""

from __future__ import annotations

import argparse
import gc
import json
import logging
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

LOAD_LIMIT = 2.0
GROWTH_LIMIT = 1.25


def timed(work: Callable[[], object]) -> float:
    gc.collect()
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def against_load(
    entities: int, slips: float, placement: str, pairs: int, folder: Path
) -> tuple[float, float, float]:
    """Return the ratio of a whole check to loading, and the median seconds of both."""
    key_bytes = write(plates(entities), Manner(polylines=True))
    path = folder / "attempt.dxf"
    path.write_bytes(write(plates(entities, slips)))
    key = prepare(read(key_bytes), RuleSet(placement=placement))  # type: ignore[arg-type]

    def load() -> object:
        return ezdxf.readfile(path)

    def whole() -> object:
        return check_bytes(key, path.read_bytes())

    load(), whole()  # what is done once a process is not measured
    both = [(timed(load), timed(whole)) for _ in range(pairs)]
    ratio = statistics.median(w / f for f, w in both)
    return ratio, statistics.median(f for f, _ in both), statistics.median(w for _, w in both)


def main() -> None:
    parser = argparse.ArgumentParser(prog="python -m bench", description=__doc__)
    parser.add_argument(
        "--pairs", type=int, default=9, help="pairs a figure (default 9; large drawings a third of it)"
    )
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args()
    logging.disable(logging.WARNING)
    rows = []
    with tempfile.TemporaryDirectory() as name:
        for slips in (0.0, 0.1):
            for placement in ("as-drawn", "slide"):
                for entities in (40, 400, 4_000, 40_000):
                    pairs = max(3, options.pairs // (1 if entities < 4_000 else 3))
                    ratio, load, whole = against_load(entities, slips, placement, pairs, Path(name))
                    rows.append(
                        {
                            "entities": entities,
                            "slips": slips,
                            "placement": placement,
                            "ratio": ratio,
                            "load": load,
                            "check": whole,
                        }
                    )
                    if not options.json:
                        print(
                            f"{entities:>6} entities, {placement:<9} {'a tenth with slips' if slips else 'all right':<19} check / load = {ratio:.2f}",
                            flush=True,
                        )
    growth = [_growth(rows, slips, placement) for slips in (0.0, 0.1) for placement in ("as-drawn", "slide")]
    if options.json:
        print(json.dumps({"rows": rows, "growth": growth}))
        return
    for g in growth:
        print(
            f"growth 400 to 40,000, {g['placement']:<9} {'a tenth with slips' if g['slips'] else 'all right':<19} check {g['check']:.2f}, load {g['load']:.2f} times proportional"
        )
    limits = [r["ratio"] <= LOAD_LIMIT for r in rows if r["entities"] in (40, 4_000)] + [
        g["check"] <= GROWTH_LIMIT for g in growth
    ]
    print(
        f"{sum(limits)} of {len(limits)} figures within their limits (check / load {LOAD_LIMIT} at 40 and 4,000; growth {GROWTH_LIMIT} times proportional)"
    )


def _growth(rows: list[dict[str, object]], slips: float, placement: str) -> dict[str, object]:
    """Return how time grew from 400 to 40,000 entities, as a share of a hundredfold."""
    small, large = (
        next(r for r in rows if (r["slips"], r["placement"], r["entities"]) == (slips, placement, n))
        for n in (400, 40_000)
    )
    return {
        "slips": slips,
        "placement": placement,
        **{what: large[what] / small[what] / 100 for what in ("check", "load")},
    }  # type: ignore[operator]


if __name__ == "__main__":
    main()
