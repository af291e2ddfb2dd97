"""Chamfers by one figure, and sizes to the sharp corner that a fillet took away: proved, asked, marked."""

from __future__ import annotations

import math

import pytest

from evenmark.core.dimensioning.figures import chamfer_of
from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.model import Entity
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.geometry.points import Point
from evenmark.core.marking import RuleSet, check, prepare
from tests.builders import arc, chain, drawing, line
from tests.dimensioned import across, along, angle, dimensioned, proved, radius, up

SAID = [across((0, 0), (80, 0)), up((0, 0), (0, 50))]


def chamfered(x: float = 7, y: float | None = None) -> list[Entity]:
    """A plate with one chamfer."""
    return chain((0, 0), (80, 0), (80, 50 - (x if y is None else y)), (80 - x, 50), (0, 50))


WAYS = {
    "at one leg": across((73, 50), (80, 43), typed="7 x 45°"),
    "at the other leg": up((73, 50), (80, 43), typed="7×45°"),
    "along the chamfer": along((73, 50), (80, 43), 135, typed="7 X 45°"),
    "to the corner that it took away": across((73, 50), (80, 50), typed="7 x 45%%d".replace("%%d", "°")),
    "beside the figure": across((73, 50), (80, 43), after=" x 45°"),
}


@pytest.mark.parametrize("name", WAYS)
def test_a_chamfer_is_said_by_one_figure(name: str) -> None:
    said = [*SAID, WAYS[name]]
    proof = proved(chamfered(), said)
    assert proof.complete, (proof.freedoms, proof.untied, proof.contradictions)
    assert proved(chamfered(), SAID).freedoms
    for read in (dimensioned(chamfered(), said), read_file(write_dxf(dimensioned(chamfered(), said)))):
        key = prepare(read)
        assert key.rules.listing == "sheet"
        assert check(key, drawing(chamfered())).earned == 100
        for other in (chamfered(10), chamfered(7, 10), chamfered(6.9)):
            assert 85 <= check(key, drawing(other)).earned <= 96
        sharp = check(key, drawing(chain((0, 0), (80, 0), (80, 50), (0, 50))))
        assert [c.code for c in sharp.causes] == ["corner-left-sharp"]
        assert 88 <= sharp.earned <= 94


def test_a_chamfer_of_another_size_or_angle_contradicts() -> None:
    for typed in ("8 x 45°", "7 x 30°"):
        proof = proved(chamfered(), [*SAID, across((73, 50), (80, 43), typed=typed)])
        assert len(proof.contradictions) == 1
    assert proved(chamfered(12, 7), [*SAID, across((68, 50), (80, 43), typed="12 x 30.256°")]).complete


def test_two_chamfers_by_one_figure() -> None:
    part = chain((7, 0), (73, 0), (80, 7), (80, 50), (0, 50), (0, 7))
    said = [across((0, 50), (80, 50)), up((7, 0), (0, 50)), across((73, 0), (80, 7), typed="2 x 7 x 45°")]
    assert proved(part, said).complete
    assert proved(part, [*said[:2], across((73, 0), (80, 7), typed="7 x 45°")]).freedoms


def test_the_other_leg_of_a_chamfer_is_said_twice() -> None:
    said = [*SAID, WAYS["at one leg"], up((80, 43), (73, 50), at=(95, 46))]
    proof = proved(chamfered(), said)
    assert len(proof.twice) == 1


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("7 x 45°", (1, 7.0, 45.0)),
        ("2x7x45°", (2, 7.0, 45.0)),
        ("2,5 × 30°", (1, 2.5, 30.0)),
        ("45°", None),
        ("4 x Ø7", None),
        ("7", None),
    ],
)
def test_what_a_chamfers_figure_says(typed: str, says: tuple[int, float, float] | None) -> None:
    """How drawings say chamfers (common practice, no published source)."""
    assert chamfer_of(across((0, 0), (7, 7), typed=typed)) == says


# sharp corners

TURN = math.radians(60)


def leaning(w: float = 80, r: float = 8) -> tuple[list[Entity], Point, Point]:
    """A plate whose right side leans in at 60°, its lower right corner rounded; the fillet's centre, and
    where it ends on the leaning side."""
    d = r / math.tan(TURN / 2)
    end, center = (w - d * math.cos(TURN), d * math.sin(TURN)), (w - d, r)
    top = (w - 40 / math.tan(TURN), 40.0)
    drawn = [
        line((0, 0), (w - d, 0)),
        arc(center, r, -90, 30),
        line(end, top),
        line(top, (0, 40)),
        line((0, 40), (0, 0)),
    ]
    return drawn, center, end


def leaning_said() -> list[Dimension]:
    _, center, end = leaning()
    return [across((0, 0), (80, 0)), up((0, 0), (0, 40)), angle((80, 0), end, (0, 0)), radius(center, 8)]


def test_a_size_ends_at_the_corner_that_a_fillet_took_away() -> None:
    drawn, *_ = leaning()
    said = leaning_said()
    assert proved(drawn, said).complete
    assert len(proved(drawn, said[1:]).freedoms) == 1
    key = prepare(dimensioned(drawn, said), RuleSet())
    assert check(key, drawing(drawn)).earned == 100
    for other in (leaning(85)[0], leaning(80, 10)[0], leaning(80.3)[0]):
        assert 85 <= check(key, drawing(other)).earned <= 96
