"""Files that are not as they should be, made from good ones: the same number makes the same file.

`python -m tests.mutations 10000` reads and checks so many of them and prints what became of them; a slice
runs with the tests.
"""

from __future__ import annotations

import json
import random
import re
import signal
import sys
import time
import traceback
from collections import Counter
from collections.abc import Callable
from functools import cache
from pathlib import Path
from types import FrameType
from typing import Any

import ezdxf

from evenmark.core.construct.document import from_text
from evenmark.core.construct.document import to_json as to_kept
from evenmark.core.formats import UnreadableDrawing, read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.marking import RuleError, RuleSet, check, prepare
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.reading_json import reading
from evenmark.demo import parts
from tests.builders import PARTS, dxf

ezdxf.options.write_fixed_meta_data_for_testing = True
"""Without the time of writing and random ids in it, the same number makes the same file in every run."""
DOCUMENTS = Path(__file__).parent / "documents"
LONGEST = 10
"""Seconds after which a file counts as hanging."""
EXTREME = [
    "0",
    "-0",
    "1e308",
    "-1e308",
    "1e-320",
    "nan",
    "inf",
    "-inf",
    "99999999999999999999",
    "-1",
    "2147483648",
    "1e12",
    "0x10",
    "",
    " ",
    "1,5",
    "1e400",
]


def everything(s: Any, doc: Any) -> None:
    """One object of every kind that is read."""
    block = doc.blocks.new("B")
    block.add_line((0, 0), (5, 5))
    block.add_circle((2, 2), 1)
    s.add_blockref(
        "B",
        (10, 10),
        dxfattribs={"xscale": -2, "yscale": 2, "rotation": 30, "column_count": 2, "column_spacing": 9},
    )
    s.add_lwpolyline([(0, 0, 0.5), (10, 0, 0), (10, 10, -0.3)], format="xyb", close=True)
    s.add_polyline2d([(0, 0), (5, 0), (5, 5)])
    s.add_arc((0, 0), 5, 350, 20)
    s.add_ellipse((3, 3), (4, 1), 0.4)
    s.add_spline([(0, 0), (3, 5), (9, 2), (12, 7)])
    s.add_text("Ø 12 %%c", height=2.5).set_placement((1, 1))
    s.add_mtext("{\\H3;Gate\\Pplate}", dxfattribs={"char_height": 2.5})
    s.add_linear_dim((0, 9), (0, 0), (30, 4)).render()
    s.add_radius_dim((5, 5), radius=4, angle=30).render()
    hatch = s.add_hatch()
    hatch.paths.add_polyline_path([(0, 0), (40, 0, 1), (40, 30)])
    hatch.paths.add_edge_path().add_arc((8, 8), 3, 0, 360)
    s.add_leader([(10, 10), (20, 20)])
    s.add_multileader_mtext("Standard").quick_leader(
        "note", target=ezdxf.math.Vec2(1, 2), segment1=ezdxf.math.Vec2(9, 9)
    )
    s.add_xline((0, 5), (1, 0))
    doc.layout("Layout1").add_viewport((100, 150), (120, 80), (50, 0), 160)
    doc.layout("Layout1").add_line((0, 0), (1, 1))


SVG = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100"><defs><g '
    b'id="a"><circle r="3"/></g></defs>'
    b'<g id="outline" transform="rotate(10) scale(2)"><path d="M10 10h30v20a5 5 0 0 1-5 5z M1 1C2 2 3 9 4 '
    b'4Q5 5 6 1"/><use href="#a" x="5" y="9"/></g>'
    b'<text x="5" y="6" font-size="4">Gate <tspan>plate</tspan></text><rect x="1" y="2" width="3" '
    b'height="4" rx="1"/></svg>'
)


def seeds() -> list[bytes]:
    """Good files: every demo part in some manner, one with every kind of object, one of each format."""
    manners = [
        Manner(),
        Manner(polylines=True),
        Manner(version="R12"),
        Manner(binary=True),
        Manner(blocks=True),
        Manner(version="R2018", polylines=True),
    ]
    made = [
        write_dxf(p().drawing, m)
        for p, m in zip(
            PARTS,
            manners,
            strict=True,
        )
    ]
    steps = [p.read_bytes() for p in sorted(DOCUMENTS.glob("*.txt"))]
    kept = [json.dumps(to_kept(from_text(text.decode())), indent=1).encode() for text in steps]
    return [*made, dxf(everything), dxf(everything, "R2018"), SVG, *steps, *kept]


def flipped(data: bytes, rng: random.Random) -> bytes:
    out = bytearray(data)
    for _ in range(rng.choice([1, 3, 20, 200])):
        out[rng.randrange(max(1, len(out)))] ^= 1 << rng.randrange(8)
    return bytes(out)


def cut(data: bytes, rng: random.Random) -> bytes:
    at = rng.randrange(len(data))
    return (
        data[:at] if rng.random() < 0.7 else data[:at] + data[min(len(data), at + rng.randrange(1, 4000)) :]
    )


def _pairs(data: bytes) -> list[list[bytes]]:
    rows = data.replace(b"><", b">\n<").split(b"\n")
    return [rows[i : i + 2] for i in range(0, len(rows), 2)]


def shuffled(data: bytes, rng: random.Random) -> bytes:
    pairs = _pairs(data)
    for _ in range(rng.choice([1, 5, 40])):
        i, j = rng.randrange(len(pairs)), rng.randrange(len(pairs))
        how = rng.random()
        if how < 0.5:
            pairs[i], pairs[j] = pairs[j], pairs[i]
        elif how < 0.75:
            pairs.insert(i, pairs[j])
        elif len(pairs) > 2:
            del pairs[i]
    return b"\n".join(b"\n".join(p) for p in pairs) + b"\n"


def extreme(data: bytes, rng: random.Random) -> bytes:
    pairs = _pairs(data)
    for _ in range(rng.choice([1, 3, 30])):
        pair = rng.choice(pairs)
        if len(pair) == 2:
            pair[rng.random() < 0.9] = rng.choice(EXTREME).encode()
    return b"\n".join(b"\n".join(p) for p in pairs) + b"\n"


def nested(_data: bytes, rng: random.Random) -> bytes:
    """Blocks inside blocks, some of them inside themselves, many times over."""
    depth, wide = rng.choice([(40, 1), (6, 12), (3, 60), (60, 2)])

    def draw(s: Any, doc: Any) -> None:
        for level in range(depth):
            block = doc.blocks.new(f"B{level}")
            if level == 0 and rng.random() < 0.5:
                block.add_line((0, 0), (1, 0))
            for i in range(wide):
                at = (i, level)
                name = f"B{level - 1}" if level and rng.random() < 0.98 else f"B{rng.randrange(depth)}"
                block.add_blockref(name, at)
        ref = s.add_blockref(f"B{depth - 1}", (0, 0))
        if rng.random() < 0.3:
            ref.dxf.column_count, ref.dxf.row_count = 30_000, 30_000
            ref.dxf.column_spacing = ref.dxf.row_spacing = 1

    return dxf(draw)


def counted(data: bytes, rng: random.Random) -> bytes:
    """Counts (vertices, knots, columns, rows) that promise far more than there is."""
    pairs = _pairs(data)
    for pair in pairs:
        if (
            len(pair) == 2
            and pair[0].strip() in (b"70", b"71", b"72", b"73", b"74", b"90", b"91", b"93", b"95", b"97")
            and rng.random() < 0.1
        ):
            pair[1] = rng.choice([b"2147483647", b"-5", b"1000000", b"65535"])
    return b"\n".join(b"\n".join(p) for p in pairs) + b"\n"


def respelled(data: bytes, rng: random.Random) -> bytes:
    """Numbers and words of a line that are others: another number, or a word of elsewhere."""
    parts = re.split(rb"(\s+|[,;:=()\"])", data)
    said = [i for i, part in enumerate(parts) if part and not part.isspace()]
    for _ in range(rng.choice([1, 3, 20])):
        i = rng.choice(said)
        number = bool(re.match(rb"[-+.\d]", parts[i]))
        parts[i] = rng.choice(EXTREME).encode() if number and rng.random() < 0.5 else parts[rng.choice(said)]
    return b"".join(parts)


MUTATORS: tuple[Callable[[bytes, random.Random], bytes], ...] = (
    flipped,
    cut,
    shuffled,
    extreme,
    counted,
    respelled,
    nested,
)


def mutated(number: int, good: list[bytes]) -> tuple[str, bytes]:
    """Return how a file was made, and the file."""
    rng = random.Random(number)
    maker = MUTATORS[number % len(MUTATORS)]
    if maker is nested and number % 42 != 6:
        maker = rng.choice(MUTATORS[:-1])  # these take longest to make
    data = maker(good[rng.randrange(len(good))], rng)
    if rng.random() < 0.15:
        data = rng.choice(MUTATORS[:-1])(data, rng) if data else data
    return maker.__name__, data


class TooLong(BaseException):
    """A file took longer than it may."""


def _ring(_signal: int, _frame: FrameType | None) -> None:
    raise TooLong


def outcome(data: bytes, key: Any) -> str:
    """Read and check a file; return what became of it. Anything but a sentence or a mark sheet is raised."""
    try:
        drawing = read_file(data)
    except UnreadableDrawing as why:
        assert why.says.endswith("."), why.says
        return f"refused: {why.code}"
    reading(drawing, "a.dxf", features=True)
    to_json(check(key, drawing), "a.dxf")
    try:
        own = prepare(drawing)
    except RuleError as why:  # nothing is left of it that could be asked for
        assert str(why).endswith("."), why
        return "checked"
    to_json(check(own, drawing), "a.dxf")
    return "checked"


@cache
def good() -> list[bytes]:
    """Return the files that others are made of."""
    return seeds()


def the_key() -> Any:
    return prepare(read_file(write_dxf(parts.gate_holes().drawing)), RuleSet(placement="slide"))


def run(first: int, count: int) -> int:
    """Try so many files; return how many crashed or hung."""
    good, key = seeds(), the_key()
    became: Counter[str] = Counter()
    slowest = (0.0, 0)
    bad = 0
    signal.signal(signal.SIGALRM, _ring)
    for number in range(first, first + count):
        how, data = mutated(number, good)
        began = time.perf_counter()
        signal.alarm(LONGEST)
        try:
            became[outcome(data, key)] += 1
        except TooLong:
            bad += 1
            print(f"{number} ({how}): longer than {LONGEST} s", flush=True)
            traceback.print_exc(limit=-6)
        except Exception as why:
            bad += 1
            print(f"{number} ({how}): {why!r}", flush=True)
            traceback.print_exc(limit=-4)
        finally:
            signal.alarm(0)
        slowest = max(slowest, (time.perf_counter() - began, number))
    for what, n in became.most_common():
        print(f"{n:>7,}  {what}")
    print(
        f"{count:,} files, {bad} crashed or hung; the slowest took {slowest[0]:.1f} s (number {slowest[1]})"
    )
    return bad


if __name__ == "__main__":
    numbers = [int(a) for a in sys.argv[1:]]
    sys.exit(1 if run(numbers[1] if len(numbers) > 1 else 0, numbers[0] if numbers else 10_000) else 0)
