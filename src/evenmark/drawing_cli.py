"""``even-mark draw``: a document of steps evaluated, and what it draws written out.

Exit status: 0 when every step could be built; 1 when some are broken (the rest is drawn); 2 with one line on
standard error when the document cannot be read or the drawing not be written.
"""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from evenmark.core.construct.building import Built, GivenError, build
from evenmark.core.construct.document import shown
from evenmark.core.construct.measuring import measured
from evenmark.core.construct.state import Annotation, Broken, Feature
from evenmark.core.construct.words import Unreadable
from evenmark.core.drawing.annotations import Dimension, Hatch
from evenmark.core.drawing.model import FreeCurve, Text
from evenmark.core.drawing.picture import figure
from evenmark.core.formats import UnreadableDrawing, steps
from evenmark.core.formats.dxf_holds import left_out
from evenmark.core.formats.errors import Unwritable
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.exact import Number
from evenmark.core.geometry.numbers import NumberError
from evenmark.core.linework.wording import typed_number as number
from evenmark.core.sheet.ways_out import USUAL_VERSION, VERSIONS, WAYS_OUT, written

ENDINGS = tuple(f".{way}" for way in WAYS_OUT)


class CannotDraw(Exception):
    """What was asked for cannot be done; the message is for the person at the shell."""


def add_parser(commands: Any) -> None:
    """Add the command to those of the program."""
    drawing = commands.add_parser("draw", help="what the steps of a document draw")
    drawing.add_argument("steps", metavar="STEPS", help="a document of steps, as text or JSON")
    drawing.add_argument(
        "-o", dest="out", metavar="OUT", help=f"where to write the drawing: {', '.join(ENDINGS)}"
    )
    drawing.add_argument(
        "--set",
        metavar="NAME=VALUE",
        dest="given",
        action="append",
        default=[],
        help="with another value: reach=84",
    )
    drawing.add_argument(
        "--measure",
        metavar="F",
        action="append",
        default=[],
        help="the numbers of 'edge 1.3', 'step 2', 'end of edge 4', 'distance of (0, 0) and (9, 4)'",
    )
    drawing.add_argument("--explain", action="store_true", help="each step, what it made, its numbers")
    drawing.add_argument(
        "--version", choices=VERSIONS, default=USUAL_VERSION, help="version of DXF; default R2010"
    )
    drawing.add_argument("--binary", action="store_true", help="DXF as binary")
    drawing.set_defaults(run=run)


def run(options: argparse.Namespace, read: Callable[[str], bytes]) -> int:
    """Run the command; ``read_steps`` gives the bytes of a file by its name. Raises CannotDraw."""
    try:
        built = build(steps.document(read(options.steps)), dict(_given(word) for word in options.given))
    except UnreadableDrawing as why:
        raise CannotDraw(f"{options.steps}: {why.says}") from why
    except GivenError as why:
        raise CannotDraw(f"{options.steps}: {why}") from why
    for problem in built.problems:
        print(problem, file=sys.stderr)
    if options.explain:
        for line in explained(built):
            print(line)
    wrong = 0
    for says in options.measure:
        wrong += not _measure(built, says)
    if options.out:
        _write(built, options)
    elif not options.explain and not options.measure:
        print(_summary(options.steps, built))
    return 1 if built.problems or wrong else 0


def _given(word: str) -> tuple[str, str]:
    name, sign, value = word.partition("=")
    if not sign or not name.strip() or not value.strip():
        raise CannotDraw(f"--set {word}: write NAME=VALUE, as reach=84.")
    return name.strip(), value.strip()


def _measure(built: Built, says: str) -> bool:
    try:
        found = measured(built, says)
    except Unreadable as why:
        print(f"{says}: {why.says} (At character {why.at + 1}.)", file=sys.stderr)
        return False
    except Broken as why:
        print(f"{says}: {why.says}", file=sys.stderr)
        return False
    if len(found) == 1 and not found[0].name and not isinstance(found[0].value, tuple):
        print(f"{says} = {_number(found[0].value)}")
    else:
        print(f"{says}: {'; '.join(f'{t.name} {_value(t.value)}' for t in found)}")
    return True


def _value(value: Any) -> str:
    return ", ".join(map(_number, value)) if isinstance(value, tuple) else _number(value)


def _number(value: Number) -> str:
    """Return a number with all of its figures."""
    return repr(float(value)) if float(value) != int(value) else str(int(value))


def _summary(name: str, built: Built) -> str:
    d = built.drawing
    counts = {
        "pieces": len(d.entities) - sum(isinstance(e, Text) for e in d.entities),
        "texts": sum(isinstance(e, Text) for e in d.entities),
        "sizes": len(d.dimensions),
        "notes": len(d.notes),
        "hatchings": len(d.hatches),
        "construction lines": len(d.endless),
    }
    said = ", ".join(f"{n} {what}" for what, n in counts.items() if n) or "nothing drawn"
    broken = sum(p.step is not None for p in built.problems)
    count, unit = len(built.document.steps), built.setting.unit.symbol
    return f"{name}: {count} steps, {broken} broken; unit {unit}; {said}"


def explained(built: Built) -> Iterator[str]:
    """Yield each step with what it made, and its numbers."""
    numbers = built.numbers
    for item in built.document.items:
        if item.kind == "value" and item.name in built.values.defined:
            try:
                value = built.values.get(item.name, built.evaluation.context().measured)
            except (Broken, NumberError):
                continue  # said among the problems
            yield f"{item.name} = {_number(value) if value is not None else '-'}"
    for says, step, outcome in zip(
        shown(built.document), built.evaluation.steps, built.evaluation.outcomes, strict=False
    ):
        yield f"{numbers[step.id]:>5}  {says}"
        if outcome.broken:
            yield f"         is broken: {outcome.broken}"
            continue
        for name, point in outcome.points.items():
            yield f"         point {name}: {_point(point)}"
        for change in outcome.changes:
            if change.after is None:
                yield f"         {_name(change.before, numbers)} is gone"
            else:
                yield f"         {_name(change.after, numbers)}: {_numbers_of(change.after)}"


def _name(f: Feature | None, numbers: dict[int, int]) -> str:
    assert f is not None
    return f"{f.ref.called} {numbers.get(f.ref.step, f.ref.step)}.{f.ref.part}"


def _point(p: Any) -> str:
    return ", ".join(number(float(v), 9) for v in p)


def _numbers_of(f: Feature) -> str:
    where = f"layer {f.layer}" + (f", {f.line}" if f.line else "")
    if f.says is not None:
        return f"{_said_of(f.says)}, {where}"
    if isinstance(f.shape, Round):
        said = f"centre {_point(f.shape.center)}, radius {number(f.shape.radius, 9)}"
        if not f.shape.whole:
            said += f", from {_point(f.start)} to {_point(f.end)}"
        return f"{said}, {where}"
    if f.endless:
        return f"through {_point(f.shape.start)}, {where}"
    return f"{_point(f.shape.start)} to {_point(f.shape.end)}, length {number(f.shape.length, 9)}, {where}"


def _said_of(says: Annotation) -> str:
    if isinstance(says, FreeCurve):
        return f"{says.kind}, {len(says.points)} points from {_point(says.points[0])}"
    if isinstance(says, Dimension):
        return f"{figure(says)} at {_point(says.at)}"
    if isinstance(says, Hatch):
        return f"{len(says.loops)} boundaries, {number(says.angle_deg, 6)}°, gap {number(says.gap, 6)}"
    return f'"{says.wording}" at {_point(says.at)}'


def _write(built: Built, options: argparse.Namespace) -> None:
    path = Path(options.out)
    way = path.suffix.lower()
    if way not in ENDINGS:
        raise CannotDraw(f"{options.out}: write to a name that ends with {', '.join(ENDINGS)}.")
    try:
        data = written(
            built, way[1:], title=Path(options.steps).stem, version=options.version, binary=options.binary
        )
    except Unwritable as why:
        raise CannotDraw(f"{options.out}: {' '.join(why.says)}") from why
    if way == ".dxf":
        for says in left_out(built.drawing, options.version):
            print(f"note: {says}", file=sys.stderr)
    try:
        path.write_bytes(data)
    except OSError as why:
        raise CannotDraw(f"{options.out}: {(why.strerror or 'cannot be written').lower()}.") from why
