"""Innocent ways of drawing never change a finding or cost a mark: every demo key in all of them (marking.md,
Simplify)."""

from __future__ import annotations

from dataclasses import replace

import pytest

from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry.units import INCH
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.engine import Key
from evenmark.core.marking.model import POLICIES, Policy
from evenmark.demo import parts

KEYS = {
    "gate outline": parts.gate_outline(),
    "gate holes": parts.gate_holes(),
    "wheel hub": parts.wheel_hub(),
    "crank link": parts.crank_link(),
    "cover gasket": parts.cover_gasket(),
    "shaft bracket": parts.shaft_bracket(),
}
MANNERS = {
    "lines": Manner(),
    "polylines": Manner(polylines=True),
    "R12": Manner(version="R12"),
    "R12 polylines": Manner(version="R12", polylines=True),
    "R2000": Manner(version="R2000"),
    "R2018": Manner(version="R2018", polylines=True),
    "binary": Manner(binary=True),
    "pieces": Manner(pieces=7),
    "reversed": Manner(reverse=True),
    "circles as arcs": Manner(circles="arcs"),
    "circles as half turns": Manner(circles="bulges"),
    "circles as ellipses": Manner(circles="ellipses"),
    "flipped normals": Manner(below=True),
    "flipped polylines": Manner(below=True, polylines=True),
    "nested mirrored blocks": Manner(blocks=True),
    "pieces in blocks": Manner(blocks=True, pieces=3, circles="arcs"),
    "style on the object": Manner(explicit=True),
    "paragraph text": Manner(paragraph=True),
    "inches": Manner(unit=INCH),
    "layers in capitals": Manner(lettercase=True),
    "much at once": Manner(
        below=True,
        pieces=5,
        reverse=True,
        circles="arcs",
        unit=INCH,
        explicit=True,
        lettercase=True,
        version="R2013",
    ),
}


@pytest.fixture(scope="module")
def keys() -> dict[tuple[str, Policy], Key]:
    """Every demo key made ready once for each placement."""
    return {
        (name, policy): prepare(
            read_file(write_dxf(part.drawing, Manner(polylines=True))), RuleSet(placement=policy)
        )
        for name, part in KEYS.items()
        for policy in POLICIES
    }


@pytest.mark.parametrize("policy", POLICIES)
@pytest.mark.parametrize("manner", MANNERS)
@pytest.mark.parametrize("name", KEYS)
def test_full_marks_and_no_cause(
    keys: dict[tuple[str, Policy], Key], name: str, manner: str, policy: Policy
) -> None:
    how = MANNERS[manner]
    if policy != "as-drawn":
        how = replace(how, shift=(123.4567, -89.1))
    sheet = check(keys[name, policy], read_file(write_dxf(KEYS[name].drawing, how)))
    assert [f for f in sheet.findings if f.verdict != "met"] == []
    assert sheet.causes == ()
    assert sheet.earned == sheet.possible == 100


def test_the_same_drawing_gives_the_same_sheet_byte_for_byte(keys: dict[tuple[str, Policy], Key]) -> None:
    import json

    from evenmark.core.marking.marks_json import to_json

    data = write_dxf(KEYS["shaft bracket"].drawing, Manner(pieces=3, reverse=True, shift=(5, 5)))
    key = keys["shaft bracket", "slide"]
    first, again = (json.dumps(to_json(check(key, read_file(data)), "a.dxf")) for _ in range(2))
    assert first == again
