"""Write docs/slips.md and its pictures: twenty typical slips on three exercises of the demo, marked.

``python -m scripts.slips_page`` writes it anew; a test says when that is due.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from typing import NamedTuple

from evenmark.core.drawing.model import Circle, Drawing, Line
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.formats.svg_write import write_svg
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework.wording import number
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.costs import costs_of
from evenmark.core.marking.marks_json import to_json
from evenmark.demo import parts
from evenmark.demo import slips as s

DOCS = Path(__file__).parents[1] / "docs"
PAGE, PICTURES = "slips.md", "slips"
HEAD = """# Twenty typical slips, marked

What an instructor would try before trusting a marking machine: each slip is made in a right drawing, and this
is what the engine says, with what each sentence costs. The pictures are what was handed in. The page is
written by `python -m scripts.slips_page`; a test keeps it true.
"""


class Tried(NamedTuple):
    """One slip: what was done, and the drawing with it."""

    says: str
    drawing: Drawing


def _turned(drawing: Drawing, degrees: float) -> Drawing:
    return Drawing(
        entities=tuple(moved_entity(e, Similarity(turn_deg=degrees)) for e in drawing.entities),
        layers=drawing.layers,
        unit=drawing.unit,
    )


def _gate() -> Iterator[Tried]:
    gate = parts.gate_holes().drawing
    yield Tried("Drawn rightly.", gate)
    yield Tried("A hole drawn with its diameter as radius.", s.circle_scaled(4, 2)(gate))
    yield Tried("A hole placed by eye.", s.circle_moved(1, (0.031, -0.017))(gate))
    yield Tried("The two holes on the right 2 mm too far.", parts.gate_holes(second=80.0).drawing)
    yield Tried("The slot 27 mm long instead of 24.", parts.gate_holes(slot=27.0).drawing)
    yield Tried("A hole left out.", s.left_out(Circle, 1)(gate))
    yield Tried("An end that stops 0.02 mm short.", s.end_moved(0, -0.02)(gate))
    yield Tried("Everything on layer 0.", s.on_layer("0")(gate))
    yield Tried("Mirrored.", s.mirrored()(gate))


def _hub() -> Iterator[Tried]:
    hub = parts.wheel_hub().drawing
    yield Tried("The ring of holes begins at 10° instead of 0°.", parts.wheel_hub(start_deg=10.0).drawing)
    yield Tried("Its pitch circle has 112 mm instead of 120.", parts.wheel_hub(pitch=56.0).drawing)
    yield Tried("One hole left out with its centre line.", s.left_out(Circle, 3)(hub))
    yield Tried("All six holes with the diameter as radius.", parts.wheel_hub(hole=12.0).drawing)
    yield Tried("A bore of 54 mm instead of 50.", parts.wheel_hub(bore=27.0).drawing)
    yield Tried("Turned by 5° as a whole.", _turned(hub, 5.0))
    yield Tried("Drawn in inches: 25.4 times too small.", s.scaled(1 / 25.4)(hub))


def _bracket() -> Iterator[Tried]:
    bracket = parts.shaft_bracket().drawing
    yield Tried("A bore of 26 mm instead of 22, in all three views.", parts.shaft_bracket(bore=13.0).drawing)
    yield Tried("4 mm too high, in both views that show it.", parts.shaft_bracket(rise=56.0).drawing)
    yield Tried("4 mm too deep, in both views that show it.", parts.shaft_bracket(depth=44.0).drawing)
    yield Tried("A construction line left in.", s.construction((0.0, 12.0), (100.0, 12.0))(bracket))
    yield Tried("An edge left out.", s.left_out(Line, 2)(bracket))


EXERCISES: tuple[tuple[str, Drawing, Callable[[], Iterator[Tried]]], ...] = (
    ("Gate plate, holes and slot", parts.gate_holes().sheet, _gate),
    ("Wheel hub", parts.wheel_hub().sheet, _hub),
    ("Shaft bracket in three views", parts.shaft_bracket().sheet, _bracket),
)


def page() -> tuple[str, dict[str, bytes]]:
    """Return the page, and its pictures by name."""
    out, pictures, n = [HEAD], dict[str, bytes](), 0
    for title, sheet, made in EXERCISES:
        key = prepare(sheet, RuleSet())
        out.append(f"## {title}\n")
        for tried in made():
            mark = check(key, tried.drawing)
            name = f"{n:02}.svg"
            pictures[name] = write_svg(tried.drawing)
            heading = f"{n}. {tried.says}" if n else tried.says
            out.append(f"### {heading}\n\n**{number(float(mark.earned), 2)} of 100**\n")
            told, _ = costs_of(to_json(mark, tried.says))
            out += [f"- {c.says} (−{number(float(told[c.id]), 2)})" for c in mark.causes]
            out.append(f"\n![{tried.says}]({PICTURES}/{name})\n")
            n += 1
    return "\n".join(out), pictures


def main() -> None:
    """Write the page and its pictures."""
    text, pictures = page()
    (DOCS / PICTURES).mkdir(exist_ok=True)
    (DOCS / PAGE).write_text(text)
    for name, data in pictures.items():
        (DOCS / PICTURES / name).write_bytes(data)


if __name__ == "__main__":
    main()
