"""Documents of steps against loading the DXF that they give with the DXF library.

    python -m bench.steps [STEPS]

Prints, for documents of several shapes: from nothing, against loading; one more step, against all; growth.
"""

from __future__ import annotations

import argparse
import statistics
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

import ezdxf

from bench.__main__ import timed
from bench.extent import SMALLEST, sized
from evenmark.core.construct.building import build
from evenmark.core.construct.document import by_number, from_text, understood
from evenmark.core.construct.evaluation import Step
from evenmark.core.construct.sentences import Sentence
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf

FROM_NOTHING, ONE_MORE, GROWTH = 0.25, 0.01, 1.15


def mixed(n: int) -> list[str]:
    """Plates: a rectangle, bores, lines that touch them, fillets, parallels, centre marks, ten steps each."""
    out = []
    for k in range(n // 10):
        x, y, s = 130 * (k % 40), 90 * (k // 40), 10 * k
        out += [
            f"rectangle {x}, {y}; 100 by 60.5",
            f"circle {x + 25}, {y + 30}; radius 12",
            f"circle by 45, 0 from centre of circle {s + 2}; diameter 14",
            f"line touching circle {s + 2}; circle {s + 3}; outer left",
            f"line touching circle {s + 2}; circle {s + 3}; outer right",
            f"fillet corners of step {s + 1}; radius 6",
            f"circle centre of circle {s + 2}; radius 5",
            f"centre mark circle {s + 3}; past 3; layer centre",
            f"parallel edge {s + 1}.1; gap 7/2; left; layer hidden",
            f"chain corner 1 of step {s + 1}; right 20; 8 toward 45; up 5; layer outline",
        ]
    return out


def lines(n: int) -> list[str]:
    """Lines by coordinates."""
    return [f"line {7 * k}, {k % 90}; {7 * k + 5}, {k % 90 + 12.25}" for k in range(n)]


def circles(n: int) -> list[str]:
    """Circles by coordinates."""
    return [f"circle {30 * (k % 50)}, {30 * (k // 50)}; diameter {10 + k % 9}" for k in range(n)]


def ways(n: int) -> list[str]:
    """Lines, each from the end of the one before, by distance and direction."""
    return ["line 0, 0; right 5"] + [
        f"line end of edge {k}; {5 + k % 7} toward {37 * k % 360}" for k in range(1, n)
    ]


def changes(n: int) -> list[str]:
    """Lines that are trimmed, moved, turned, mirrored."""
    out = []
    for k in range(n // 5):
        x, s = 40 * k, 5 * k
        out += [
            f"line {x}, 0; {x + 30}, 0",
            f"line {x + 10}, -10; {x + 10}, 20",
            f"trim edge {s + 1}; at edge {s + 2}; keep {x + 20}, 0",
            f"mirror edge {s + 1}; about edge {s + 2}; copy",
            f"turn edge {s + 2}; about {x + 10}, 0; 15",
        ]
    return out


SHAPES: dict[str, Callable[[int], list[str]]] = {
    "mixed": mixed,
    "lines": lines,
    "circles": circles,
    "ways": ways,
    "changes": changes,
}


class Measured(NamedTuple):
    """What was measured of one shape."""

    pieces: int
    against: float
    one: float
    grown: float

    @property
    def beyond(self) -> bool:
        """Whether a figure is beyond its limit."""
        return self.against > FROM_NOTHING or self.one > ONE_MORE or self.grown > GROWTH


def measure(shape: Callable[[int], list[str]], n: int) -> Measured:
    """Measure one shape of document."""
    text, large = "\n".join(shape(n)), "\n".join(shape(8 * n))
    built = build(from_text(text))
    assert not built.problems, built.problems[:3]

    def whole() -> object:
        return build(from_text(text))

    with tempfile.NamedTemporaryFile(suffix=".dxf") as file:
        Path(file.name).write_bytes(write_dxf(built.drawing, Manner(polylines=True)))
        against = statistics.median(
            timed(whole) / timed(lambda: ezdxf.readfile(file.name)) for _ in range(sized(9, 1))
        )
    ids = [item.id for item in built.document.steps]
    said = understood(shape(n)[-1], by_number(ids, len(ids)))
    assert isinstance(said, Sentence)
    step = Step(built.document.next_id, said)
    one = statistics.median(timed(lambda: built.evaluation.preview(step)) for _ in range(sized(50, 2)))
    one /= statistics.median(timed(whole) for _ in range(sized(5, 1)))
    grown = statistics.median(
        timed(lambda: build(from_text(large))) / timed(whole) / 8 for _ in range(sized(3, 1))
    )
    return Measured(len(built.drawing.entities), against, one, grown)


def main() -> int:
    """Print the figures; 1 where one is beyond its limit."""
    parser = argparse.ArgumentParser()
    parser.add_argument("steps", type=int, nargs="?", default=sized(1_000, 40))
    n = parser.parse_args().steps
    found = {name: measure(shape, n) for name, shape in SHAPES.items()}
    for name, m in found.items():
        print(
            f"{name:<8} {n} steps, {m.pieces} pieces: from nothing {m.against:.2f} of loading (limit "
            f"{FROM_NOTHING}), one more {m.one:.4f} of all (limit {ONE_MORE}), eight times as many "
            f"{m.grown:.2f} of proportional (limit {GROWTH})"
        )
    return int(any(m.beyond for m in found.values()) and not SMALLEST)


if __name__ == "__main__":
    raise SystemExit(main())
