"""Marks that an instructor would give over the demo's parts and a plate in inches: bands, not digits (common
practice, no published source)."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import pytest

from evenmark.core.drawing.model import Circle, Drawing, Line
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry.units import INCH
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.key import Key
from evenmark.core.marking.model import Policy
from evenmark.demo import parts
from evenmark.demo import slips as s
from tests.builders import chain, circle, drawing
from tests.dimensioned import across, diameter, up

HOLES = parts.gate_holes()
PARTS: dict[str, tuple[parts.Part, Policy]] = {
    "gate outline": (parts.gate_outline(), "as-drawn"),
    "gate holes": (HOLES, "slide"),
    "hub": (parts.wheel_hub(), "as-drawn"),
    "link": (parts.crank_link(), "slide"),
    "gasket": (parts.cover_gasket(), "slide"),
    "bracket": (parts.shaft_bracket(), "slide"),
    "kit sheet": (parts.kit_sheet(), "as-drawn"),
}


@cache
def key_of(name: str) -> Key:
    """A demo part as its exercise marks it: by the sheet, with what looks level taken as read."""
    part, placement = PARTS[name]
    drawn = read_file(write_dxf(part.sheet))
    first = prepare(drawn, RuleSet(placement=placement, listing="sheet"))
    taken = dict.fromkeys(first.proof.offered, True)
    return prepare(drawn, RuleSet(placement=placement, listing="sheet", taken=taken))


def only(name: str, kind: type) -> Drawing:
    whole = PARTS[name][0].drawing
    return replace(whole, entities=tuple(e for e in whole.entities if isinstance(e, kind)))


def of(name: str, slip: s.Slip) -> Drawing:
    return slip(PARTS[name][0].drawing)


# part, what was done, the drawing, and the band in which an instructor's mark lies
ROWS: list[tuple[str, str, Drawing, float, float]] = [
    ("gate outline", "a gap of 0.02", of("gate outline", s.end_moved(1, -0.02)), 96, 98),
    ("gate outline", "a notch too shallow", parts.gate_outline(notch=16.0).drawing, 88, 95),
    ("gate outline", "the left side too high", parts.gate_outline(left=73.0).drawing, 85, 95),
    ("gate outline", "in inches", of("gate outline", s.scaled(1 / 25.4)), 75, 85),
    ("gate outline", "all on the default layer", of("gate outline", s.on_layer("0")), 90, 95),
    ("gate holes", "a hole as a diameter", of("gate holes", s.circle_scaled(4, 2)), 93, 96),
    ("gate holes", "a hole by eye", of("gate holes", s.circle_moved(1, (0.031, -0.017))), 93, 97),
    ("gate holes", "the right holes 2 too far", parts.gate_holes(second=80.0).drawing, 85, 95),
    ("gate holes", "a slot too long", parts.gate_holes(slot=27.0).drawing, 85, 95),
    ("gate holes", "a helper left in", of("gate holes", s.construction((0, 12), (100, 12))), 98, 99.5),
    ("hub", "another bore", parts.wheel_hub(bore=27.0).drawing, 87, 94),
    ("hub", "another pitch circle", parts.wheel_hub(pitch=58.0).drawing, 87, 95),
    ("hub", "holes that start elsewhere", parts.wheel_hub(start_deg=17.0).drawing, 85, 97),
    ("hub", "a hole missing", of("hub", s.left_out(Circle, 6)), 88, 94),
    (
        "hub",
        "the axes missing",
        replace(of("hub", s.moved((0, 0))), entities=only("hub", Circle).entities),
        70,
        92,
    ),
    ("link", "bosses too far apart", parts.crank_link(reach=85.0).drawing, 84, 95),
    ("link", "a boss too large", parts.crank_link(left=26.0).drawing, 84, 95),
    ("link", "a flank short by 0.018", of("link", s.end_moved(0, -0.018)), 96, 98),
    ("link", "mirrored", of("link", s.mirrored()), 65, 82),
    ("gasket", "fillets inside as diameters", parts.cover_gasket(inner=12.0).drawing, 90, 96),
    ("gasket", "a hole drawn twice", of("gasket", s.twice(Circle, 0)), 98, 99.5),
    ("gasket", "too wide", parts.cover_gasket(width=114.0).drawing, 80, 95),
    ("bracket", "an edge missing", of("bracket", s.left_out(Line, 14)), 93, 98),
    ("bracket", "an upright too low", parts.shaft_bracket(rise=50.0).drawing, 75, 96),
    ("bracket", "the bore too large", parts.shaft_bracket(bore=12.0).drawing, 80, 96),
    ("kit sheet", "a divider 2 off", parts.kit_sheet(divider=82.0).drawing, 85, 95),
    ("kit sheet", "lettering too low", parts.kit_sheet(height=5.0).drawing, 90, 98),
    ("kit sheet", "only the border", parts.kit_sheet(begun=True).drawing, 0, 45),
]


@pytest.mark.parametrize(
    ("part", "what", "attempt", "low", "high"), ROWS, ids=[f"{r[0]}: {r[1]}" for r in ROWS]
)
def test_marks_over_the_demo_are_those_of_an_instructor(
    part: str, what: str, attempt: Drawing, low: float, high: float
) -> None:
    mark = check(key_of(part), attempt)
    assert low <= mark.earned <= high, (mark.earned, [(c.code, c.says) for c in mark.causes])


def inches(hole: float = 0.25, at: float = 1.0, wide: float = 5.0) -> Drawing:
    """A plate in inches: five by three, with two holes and a notch."""
    outline = chain((0, 0), (wide, 0), (wide, 3), (3.5, 3), (3.5, 2.25), (2, 2.25), (2, 3), (0, 3))
    return replace(drawing([*outline, circle((at, 1), hole), circle((4, 1), 0.375)]), unit=INCH)


SAID = (
    across((0, 0), (5, 0)),
    up((0, 0), (0, 3)),
    across((0, 3), (2, 3)),
    across((2, 2.25), (3.5, 2.25)),
    up((2, 2.25), (2, 3)),
    across((0, 0), (1, 1)),
    up((0, 0), (1, 1)),
    across((0, 0), (4, 1)),
    up((0, 0), (4, 1)),
    diameter((1, 1), 0.25),
    diameter((4, 1), 0.375),
)


@pytest.mark.parametrize(
    ("attempt", "low", "high"),
    [
        (inches(), 100, 100),
        (inches(hole=0.5), 92, 96),
        (inches(at=1.25), 92, 96),
        (inches(wide=5.125), 88, 95),
        (s.scaled(25.4)(inches()), 75, 85),
        (s.end_moved(0, -0.0008)(inches()), 96, 98),
    ],
    ids=["right", "a hole twice the size", "a hole elsewhere", "too wide", "in millimetres", "a gap"],
)
def test_marks_over_a_plate_in_inches(attempt: Drawing, low: float, high: float) -> None:
    key = prepare(replace(inches(), dimensions=SAID))
    assert (key.rules.listing, key.unit.symbol) == ("sheet", "in")
    mark = check(key, attempt)
    assert low <= mark.earned <= high, (mark.earned, [(c.code, c.says) for c in mark.causes])
