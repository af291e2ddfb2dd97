"""How a list is proposed: by the sheet or by feature, anew with what was changed by hand; what slips cost."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest

from evenmark.core.drawing.model import Circle, Drawing, Line
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.anew import anew
from evenmark.core.marking.costs import costs_of
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.model import Requirement
from evenmark.core.marking.propose_sheet import parts_of
from evenmark.core.marking.rules_json import proposal_json
from evenmark.core.marking.typical import typical
from evenmark.core.marking.wording import for_reader, named
from evenmark.demo import parts
from evenmark.demo import slips as s
from tests.builders import PLATE, chain, circle, drawing
from tests.dimensioned import across, diameter, up


def said(part: parts.Part) -> Drawing:
    return read_file(write_dxf(part.sheet))


@pytest.mark.parametrize(
    ("part", "listing"),
    [
        (parts.gate_outline(), "sheet"),
        (parts.wheel_hub(), "sheet"),
        (parts.crank_link(), "sheet"),
        (parts.shaft_bracket(), "sheet"),
        (parts.gate_holes(), "sheet"),  # that the holes stand level is implied
        (parts.Part(drawing=parts.wheel_hub().drawing), "feature"),
    ],
)
def test_the_list_is_by_the_sheet_where_that_settles_everything(part: parts.Part, listing: str) -> None:
    key = prepare(said(part))
    assert key.rules.listing == listing
    assert check(key, part.drawing).earned == 100


def test_what_is_taken_as_read_by_hand_settles_and_is_asked() -> None:
    drawn = said(parts.gate_holes())
    needed = prepare(drawn).proof.needed
    off = prepare(drawn, RuleSet(taken=dict.fromkeys(needed, False)))
    assert off.rules.listing == "feature"
    offered = off.proof.offered
    assert set(offered) == needed
    key = prepare(drawn, RuleSet(taken=dict.fromkeys(offered, True)))
    assert key.rules.listing == "sheet"
    level = [key.words[r.id] for r in key.requirements if r.kind == "distance" and not r.size]
    assert len(level) == len(offered) == 4
    parts_by = parts_of(key.requirements)
    assert {parts_by[r.id] for r in key.requirements if r.kind == "distance" and not r.size} == {"read"}


def test_a_list_is_proposed_anew_with_what_was_changed_by_hand() -> None:
    drawn = said(parts.wheel_hub())
    before = prepare(drawn).requirements
    kept = tuple(
        replace(r, weight=2.5) if n == 0 else replace(r, on=False) if r.kind == "layer" else r
        for n, r in enumerate(before)
    )
    more = Requirement(id=900, kind="area", features=("c4",), weight=3.0)
    even = next(t.id for t in prepare(drawn).proof.taken if t.kind == "even")
    now = prepare(drawn, RuleSet(listing="sheet", taken={even: False})).requirements
    out = anew((*kept, more), before, now)
    assert out[0].weight == 2.5
    assert not any(r.on for r in out if r.kind == "layer")
    assert [(r.kind, r.features) for r in out if r.kind == "area"] == [("area", ("c4",))]
    assert len({r.id for r in out}) == len(out)
    # another way of making the list shares marks out as it proposes
    assert anew(kept, before, now, weights=False)[0].weight != 2.5
    assert anew(before, before, now) == now


@pytest.mark.parametrize(("few", "many"), [(1, 12), (2, 30)])
def test_one_size_is_never_worth_most_of_the_marks(few: int, many: int) -> None:
    def with_sizes(n: int) -> Drawing:
        holes = [circle((10.0 + 9.0 * k, 10.0 + 1.3 * (k % 5)), 2.0) for k in range(n)]
        sizes = [way((0, 0), h.center) for h in holes for way in (across, up)]
        sizes += [diameter(h.center, 2.0) for h in holes]
        plate = chain((0, 0), (400, 0), (400, 80), (0, 80))
        dims = (across((0, 0), (400, 0)), up((0, 0), (0, 80)), *sizes)
        return replace(drawing([*plate, *holes]), dimensions=dims)

    for n in (few, many):
        key = prepare(with_sizes(n))
        worth = [float(key.marks[r.id]) for r in key.requirements if r.size]
        assert max(worth) <= 7.001
        assert sum(key.marks.values()) == 100
    assert sum(worth) == pytest.approx(55, abs=5)


SLIPS: list[tuple[str, parts.Part, Any]] = [
    ("hub", parts.wheel_hub(), s.circle_scaled(2, 2)),
    ("link", parts.crank_link(), s.all_of(s.end_moved(1, 0.4), s.on_layer("0", Circle, 0))),
    (
        "outline",
        parts.gate_outline(),
        s.all_of(s.on_layer("0"), s.twice(Line, 3)),
    ),
    ("bracket", parts.shaft_bracket(), s.left_out(Line, 14)),
]


@pytest.mark.parametrize(("name", "part", "slip"), SLIPS, ids=[x[0] for x in SLIPS])
def test_what_slips_cost_is_everything_that_was_lost(name: str, part: parts.Part, slip: Any) -> None:
    marks = to_json(check(prepare(said(part)), slip(part.drawing)), "a")
    by_cause, by_finding = costs_of(marks)
    lost = Decimal(str(marks["score"]["possible"])) - Decimal(str(marks["score"]["earned"]))
    assert sum(by_cause.values()) + sum(by_finding.values()) == lost
    assert all(cost >= 0 for cost in by_cause.values())
    assert any(by_cause.values())


def test_typical_slips_are_made_in_any_key_and_cost_something() -> None:
    for part in (parts.gate_outline(), parts.wheel_hub(), parts.shaft_bracket(), parts.kit_sheet()):
        key = prepare(said(part))
        found = typical(part.drawing, key.rules.roles)
        assert len(found) in (2, 3)
        for slip in found:
            assert check(key, slip.drawing).earned < 100, slip.says
    nothing = typical(Drawing(entities=(), layers={}), {})
    assert nothing == ()


def test_circles_are_read_by_their_diameters() -> None:
    key = prepare(drawing(PLATE))
    r = next(r for r in proposal_json(key)["requirements"] if r["kind"] == "radius")
    assert (r["expected"], for_reader(r)["expected"], named(r)) == (6.0, 12.0, "Left hole, diameter")
    arc = {"kind": "radius", "features": ["a1"], "expected": 8.0}
    assert for_reader(arc) == arc
    assert named(arc) == "Arc 1, radius"


def test_a_size_is_named_by_what_it_measures_in_its_view() -> None:
    key = prepare(said(parts.shaft_bracket()))
    words = list(key.words.values())
    assert (words.count("overall, horizontal"), words.count("overall, vertical")) == (2, 1)
    assert "hole in the front view from the left" in words
