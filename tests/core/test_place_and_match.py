"""Place and match: the motion by voting, partners by position, shape and displacement; both against brute
force."""

from __future__ import annotations

import random
from dataclasses import replace

import numpy as np
import pytest

from evenmark.core.drawing.model import Drawing, Entity
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework import simplify
from evenmark.core.marking import RuleSet, place, prepare
from evenmark.core.marking.assign import exact_pairs
from evenmark.core.marking.bound import UpperBound
from evenmark.core.marking.engine import check_in_full
from evenmark.core.marking.match import match
from evenmark.core.marking.move import moved_linework
from evenmark.core.marking.shapes import moved_tables, tables
from evenmark.demo import parts
from evenmark.demo import slips as s
from tests.builders import PLATE, arc, chain, circle, codes, drawing, finding, line, linework, marked

LINK = parts.crank_link().drawing
BRACKET = parts.shaft_bracket().drawing


@pytest.mark.parametrize("by", [(12.4, -3.0), (-1000.0, 0.001), (1e5, 1e5)])
@pytest.mark.parametrize("part", [LINK, BRACKET])
def test_a_slide_is_found_and_said(part: Drawing, by: tuple[float, float]) -> None:
    sheet = marked(part, s.moved(by)(part), "slide")
    assert sheet.earned == 100
    assert sheet.motion.shift == pytest.approx((-by[0], -by[1]), abs=1e-6)
    assert (sheet.motion.scale, sheet.motion.mirror, sheet.motion.turn_deg) == (1.0, False, 0.0)


def _turned(part: Drawing, turn_deg: float, shift: tuple[float, float] = (7.0, -3.0)) -> Drawing:
    motion = Similarity(turn_deg=turn_deg, shift=shift)

    def turn(e: Entity) -> Entity:
        if hasattr(e, "sweep_rad"):
            start, sweep = motion.sweep(e.start_rad, e.sweep_rad)
            return e._replace(center=motion.point(e.center), start_rad=start, sweep_rad=sweep)
        if hasattr(e, "center"):
            return e._replace(center=motion.point(e.center))
        if hasattr(e, "wording"):
            return e._replace(at=motion.point(e.at))
        return e._replace(start=motion.point(e.start), end=motion.point(e.end))

    return replace(part, entities=tuple(turn(e) for e in part.entities))


@pytest.mark.parametrize("turn", [90.0, 180.0, 33.7, 271.25])
def test_slide_and_turn(turn: float) -> None:
    sheet = marked(BRACKET, _turned(BRACKET, turn), "slide-and-turn")
    assert sheet.earned == 100
    assert (sheet.motion.turn_deg + turn) % 360 == pytest.approx(0, abs=1e-6) or (
        sheet.motion.turn_deg + turn
    ) % 360 == pytest.approx(360)
    assert codes(marked(BRACKET, _turned(BRACKET, 90), "slide")) == ["turned"]


@pytest.mark.parametrize("missing", [0, 3, 9])
def test_a_missing_or_spare_piece_moves_nothing(missing: int) -> None:
    entities = list(s.moved((40, 25))(BRACKET).entities)
    del entities[missing]
    entities.append(line((500, 500), (600, 640)))
    sheet = marked(BRACKET, replace(BRACKET, entities=tuple(entities)), "slide")
    assert sheet.motion.shift == pytest.approx((-40, -25))
    assert finding(sheet, "clean").measured in (0, 1)


def test_the_plainest_of_equally_good_motions_is_kept() -> None:
    """A row of equal circles fits in several places; of those that earn most, the least shift."""
    key = drawing([circle((i * 10, 0), 3) for i in range(6)])
    sheet = marked(key, key, "slide")
    assert sheet.motion.still


def test_corners_vote_where_no_length_is_right() -> None:
    key, attempt = (
        drawing(chain((0, 0), (60, 0), (60, 40), (0, 40))),
        drawing(chain((5, 5), (67, 5), (67, 43), (5, 43))),
    )
    sheet = marked(key, attempt, "slide")
    assert sheet.motion.shift[0] in (pytest.approx(-5), pytest.approx(-7))
    assert sheet.motion.shift[1] in (pytest.approx(-5), pytest.approx(-3))


@pytest.mark.parametrize("seed", range(4))
def test_candidates_left_out_could_not_have_earned_more(seed: int) -> None:
    """What the bound says is lost is never more than what a full examination loses."""
    rng = random.Random(seed)
    key_drawing = drawing(
        [circle((x * 10, y * 10), 2 + (x + y) % 3) for x in range(5) for y in range(4)],
        chain((-5, -5), (50, -5), (50, 40), (-5, 40)),
    )
    attempt = s.moved((rng.choice([10.0, 20.0]), 0.0))(key_drawing)
    attempt = replace(attempt, entities=tuple(e for e in attempt.entities if rng.random() < 0.9))
    key = prepare(key_drawing, RuleSet(placement="slide"))
    own = tables(simplify(attempt, length_tolerance=0.001))
    hopes = UpperBound(key.joint_spots, key.center_spots, own, 0.5, 1e-7)
    for motion in place.candidates(key.tables, own, "slide", 0.001):
        fixed = prepare(key_drawing, RuleSet(placement="as-drawn"))
        there = s.moved(motion.shift)(attempt)
        result = check_in_full(fixed, there)
        if result.sheet.motion.still:
            assert float(key.possible - result.sheet.earned) >= hopes.lost(motion) - 1e-6


# exact pairs


@pytest.mark.parametrize(("by", "pairs"), [(0.0, 3), (0.0009, 3), (0.0011, 0)])
def test_exact_pairs_at_the_edge_of_tolerance(by: float, pairs: int) -> None:
    parts_ = (line((0, 0), (40, 0)), arc((40, 10), 10, 270, 45), circle((7, 7), 3))
    a, b = tables(linework(*parts_)), tables(linework(*s.moved((by, 0))(drawing(*parts_)).entities))
    found = sum(len(exact_pairs(a[k], b[k], 0.001)[0]) for k in place.KINDS)
    assert found == pairs


@pytest.mark.parametrize("seed", range(5))
def test_exact_pairs_are_those_of_brute_force(seed: int) -> None:
    rng = np.random.default_rng(seed)
    at = rng.uniform(0, 3, (60, 2))
    a = linework([circle((x, y), 1) for x, y in at])
    b = linework([circle((x, y), 1) for x, y in at + rng.normal(0, 0.004, at.shape)])
    ta, tb = tables(a)["circle"], tables(b)["circle"]
    rows, columns = exact_pairs(ta, tb, 0.01)
    assert len(set(rows.tolist())) == len(rows) == len(set(columns.tolist()))
    gaps = np.hypot(*(ta.points[0][:, None] - tb.points[0][None]).transpose(2, 0, 1))
    lonely = [
        (i, j)
        for i, j in np.argwhere(gaps <= 0.01).tolist()
        if (gaps[i] <= 0.01).sum() == 1 and (gaps[:, j] <= 0.01).sum() == 1
    ]
    assert set(lonely) <= set(zip(rows.tolist(), columns.tolist(), strict=True))


def test_layers_break_ties_and_decide_nothing_else() -> None:
    key = linework(circle((5, 5), 3, "centre"))
    both = linework(circle((5, 5), 3, "outline"), circle((5, 5), 3, "centre"))
    pairing = match(key, both, tables(key), tables(both), 0.001)
    assert both.curves[pairing.partners["c1"].id].layer == "centre"
    other = linework(circle((5, 5), 3, "outline"))
    assert match(key, other, tables(key), tables(other), 0.001).partners["c1"].exact


def test_nothing_is_matched_twice_and_the_rest_is_spare() -> None:
    key, attempt = linework(PLATE), linework(PLATE, circle((20, 25), 6), line((0, 0), (80, 50)))
    pairing = match(key, attempt, tables(key), tables(attempt), 0.001)
    drawn = [p.id for p in pairing.partners.values()]
    assert len(drawn) == len(set(drawn)) == 6
    assert len(pairing.spare) == len(attempt.curves) - 6


def test_many_unequal_features_are_assigned_without_a_dense_table() -> None:
    key = linework([circle((i * 10, j * 10), 2) for i in range(20) for j in range(20)])
    attempt = linework([circle((i * 10 + 0.2, j * 10 + 0.1), 2.1) for i in range(20) for j in range(20)])
    pairing = match(key, attempt, tables(key), tables(attempt), 0.001)
    assert len(pairing.partners) == 400
    for i, partner in pairing.partners.items():
        a, b = key.curves[i].at, attempt.curves[partner.id].at
        assert np.hypot(a[0] - b[0], a[1] - b[1]) < 1


@pytest.mark.parametrize(
    "motion",
    [
        Similarity(shift=(3, -4)),
        Similarity(turn_deg=90),
        Similarity(mirror=True, shift=(1, 1)),
        Similarity(scale=25.4, turn_deg=30),
    ],
)
def test_a_moved_linework_is_the_linework_of_the_moved(motion: Similarity) -> None:
    work = linework(PLATE, arc((100, 20), 8, 300, 60), line((100, 0), (108, 0)))
    there = moved_linework(work, motion)
    assert [len(e.ends) for e in there.edges] == [2] * len(work.edges)
    for before, after in zip(tables(work).values(), moved_tables(tables(work), motion).values(), strict=True):
        direct = tables(there)[before.kind]
        assert after.ids == direct.ids
        for p, q in zip(after.points, direct.points, strict=True):
            assert np.allclose(p, q, atol=1e-9)
        assert np.allclose(after.radii, direct.radii)
    for corner in there.corners:
        assert all(np.allclose(there.curves[i].ends[w], corner.at, atol=1e-6) for i, w in corner.ends)
