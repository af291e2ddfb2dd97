"""Simplify: drawings that look and measure the same have equal linework; what is not the same stays apart."""

from __future__ import annotations

import math
import random
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Entity, Line
from evenmark.core.geometry.points import point_on
from evenmark.core.linework import Linework
from evenmark.core.linework.near import on_arcs, on_segments, points_in_boxes
from evenmark.core.linework.nodes import by_label, cluster, unique_rows
from tests.builders import PLATE, arc, chain, circle, drawing, line, linework, text
from tests.extent import examples


def shape(work: Linework) -> list[tuple[object, ...]]:
    """All numbers of a linework, rounded for comparing what came from different arithmetic."""

    def n(*values: float) -> tuple[float, ...]:
        return tuple(round(v, 7) + 0.0 for v in values)

    return [
        *(("edge", e.id, *n(*e.start, *e.end), e.layer) for e in work.edges),
        *(("arc", a.id, *n(*a.center, a.radius, *a.start, *a.end), a.layer) for a in work.arcs),
        *(("circle", c.id, *n(*c.center, c.radius), c.layer) for c in work.circles),
        *(("corner", k.id, *n(*k.at), k.ends) for k in work.corners),
        *(("tee", t.id, *n(*t.at), t.ends, t.on) for t in work.tees),
        *(("outline", o.id, o.members, o.corners) for o in work.outlines),
    ]


SLOT: list[Entity] = [
    line((0, 0), (40, 0)),
    arc((40, 10), 10, -90, 90),
    line((40, 20), (0, 20)),
    arc((0, 10), 10, 90, 270),
]
TEE: list[Entity] = [
    *chain((0, 0), (30, 0), (30, 20), (0, 20)),
    line((12, 0), (12, 20)),
    line((12, 10), (30, 10)),
]
STAR: list[Entity] = [line((0, 0), (9 * math.cos(i), 9 * math.sin(i))) for i in range(7)]
CATALOGUE = {"plate": PLATE, "slot": SLOT, "tee": TEE, "star": STAR}


@pytest.mark.parametrize("name", CATALOGUE)
@pytest.mark.parametrize("seed", range(4))
def test_order_and_direction_do_not_matter(name: str, seed: int) -> None:
    rng = random.Random(seed)
    entities = [
        e._replace(start=e.end, end=e.start) if isinstance(e, Line) and rng.random() < 0.5 else e
        for e in CATALOGUE[name]
    ]
    rng.shuffle(entities)
    assert shape(linework(entities)) == shape(linework(CATALOGUE[name]))


@pytest.mark.parametrize("name", CATALOGUE)
@pytest.mark.parametrize("pieces", [2, 5])
def test_touching_and_overlapping_pieces_are_one(name: str, pieces: int) -> None:
    cut: list[Entity] = []
    for e in CATALOGUE[name]:
        if not isinstance(e, Line):
            cut.append(e)
            continue
        (ax, ay), (bx, by) = e.start, e.end
        at = [(ax + (bx - ax) * k / pieces, ay + (by - ay) * k / pieces) for k in range(pieces + 1)]
        cut += [line(p, q) for p, q in pairwise(at)]
    assert shape(linework(cut)) == shape(linework(CATALOGUE[name]))


def test_overlapping_pieces_are_one_edge_and_one_duplicate() -> None:
    work = linework(line((0, 0), (6, 0)), line((4, 0), (10, 0)))
    assert [(e.start, e.end) for e in work.edges] == [((0, 0), (10, 0))]
    assert [c.code for c in work.clutter] == ["drawn-twice"]
    assert work.clutter[0].at == pytest.approx((5, 0))


@pytest.mark.parametrize("count", [2, 3, 20])
def test_a_circle_in_pieces_is_a_circle(count: int) -> None:
    step = 360 / count
    work = linework([arc((5, 5), 4, 17 + i * step, 17 + (i + 1) * step) for i in range(count)])
    assert (len(work.arcs), len(work.circles), work.clutter) == (0, 1, ())
    assert (*work.circles[0].center, work.circles[0].radius) == pytest.approx((5, 5, 4))


def test_a_circle_with_a_piece_left_out_is_an_arc() -> None:
    work = linework([arc((0, 0), 4, i * 60, (i + 1) * 60) for i in (0, 1, 2, 4, 5)])
    assert len(work.arcs) == 1
    assert math.degrees(work.arcs[0].sweep_rad) == pytest.approx(300)
    assert work.arcs[0].start == pytest.approx(
        (4 * math.cos(math.radians(240)), 4 * math.sin(math.radians(240)))
    )


@pytest.mark.parametrize(
    ("gap", "edges"),
    [(0.5e-4, 1), (0.99e-4, 1), (1.2e-4, 2), (0.01, 2)],
)
def test_pieces_merge_just_within_weld(gap: float, edges: int) -> None:
    # extent 100: weld is a millionth of that, 1e-4
    work = linework(line((0, 0), (50, 0)), line((50 + gap, 0), (100, 0)), tolerance=0.001)
    assert len(work.edges) == edges


@pytest.mark.parametrize(("aside", "edges"), [(0.8e-4, 1), (1.3e-4, 2)])
def test_a_bent_chain_merges_only_within_weld(aside: float, edges: int) -> None:
    work = linework(line((0, 0), (50, aside)), line((50, aside), (100, 0)))
    assert len(work.edges) == edges


@pytest.mark.parametrize("n", [3, 4, 6, 8, 12, 17])
def test_a_polygon_stays_a_polygon(n: int) -> None:
    work = linework(chain(*(point_on((0, 0), 50, i * math.tau / n) for i in range(n))))
    assert len(work.edges) == n
    assert len(work.outlines) == 1


@pytest.mark.parametrize("n", [18, 36, 720])
def test_a_ring_of_short_chords_is_the_circle_that_it_was(n: int) -> None:
    work = linework(chain(*(point_on((10, 20), 50, 0.3 + i * math.tau / n) for i in range(n))))
    (circle_drawn,) = work.circles
    assert math.dist(circle_drawn.center, (10, 20)) < 1e-9
    assert circle_drawn.radius == pytest.approx(50, abs=1e-9)
    assert [c.code for c in work.clutter] == ["chords"]
    assert not work.edges


@pytest.mark.parametrize("way", [1, -1])
@pytest.mark.parametrize(("sweep", "n"), [(90.0, 9), (200.0, 30), (330.0, 40)])
def test_an_arc_of_short_chords_is_the_arc_that_it_was(sweep: float, n: int, way: int) -> None:
    turns = [math.radians(40.0 + sweep * k / n) for k in range(n + 1)][::way]
    work = linework(chain(*(point_on((10, 20), 50, t) for t in turns), close=False))
    (drawn,) = work.arcs
    assert math.dist(drawn.center, (10, 20)) < 1e-9
    assert drawn.radius == pytest.approx(50, abs=1e-9)
    assert math.degrees(drawn.sweep_rad) == pytest.approx(sweep, abs=1e-9)
    assert math.degrees(drawn.start_rad) == pytest.approx(40.0, abs=1e-9)


def test_rows_of_like_pieces_are_no_arcs() -> None:
    comb = [line((3.0 * k, 0), (3.0 * k, 5)) for k in range(40)]
    zigzag = chain(*((3.0 * k, 20 + 4 * (k % 2)) for k in range(40)), close=False)
    work = linework(comb, zigzag)
    assert (len(work.edges), work.arcs, work.circles) == (79, (), ())


def test_layers_and_styles_never_merge() -> None:
    work = linework(line((0, 0), (5, 0)), line((5, 0), (9, 0), layer="hidden"))
    assert len(work.edges) == 2
    styled = line((5, 0), (9, 0))._replace(style=Style(color=1))
    assert len(linework(line((0, 0), (5, 0)), styled).edges) == 2


def test_tees_do_not_split_an_edge() -> None:
    work = linework(TEE)
    assert len(work.edges) == 6
    assert {t.at for t in work.tees} == {(12.0, 0.0), (12.0, 20.0), (12.0, 10.0), (30.0, 10.0)}
    assert len(work.outlines) == 1


def test_ends_on_arcs_and_circles_are_tees() -> None:
    work = linework(
        circle((0, 0), 5), line((5, 0), (12, 0)), arc((20, 0), 8, 90, 270), line((0, 30), (12.0, 0.0))
    )
    on = {t.on for t in work.tees}
    assert on == {"c1", "a1"}


def test_debris_is_named_and_left_out() -> None:
    work = linework(PLATE, line((3, 3), (3, 3)), line((7, 7), (7 + 1e-9, 7)), arc((9, 9), 1e-9, 0, 90))
    assert [c.code for c in work.clutter] == ["debris"] * 3
    assert shape(work)[:4] == shape(linework(PLATE))[:4]


def test_outlines_are_counter_clockwise_from_their_lowest_corner() -> None:
    for points in (((0, 0), (4, 0), (4, 3), (0, 3)), ((0, 3), (4, 3), (4, 0), (0, 0))):
        outline = linework(chain(*points)).outlines[0]
        assert outline.at == (0, 0)
        assert len(outline.members) == 4


def test_two_outlines_that_touch_in_a_corner_are_none() -> None:
    work = linework(chain((0, 0), (4, 0), (4, 4), (0, 4)), chain((4, 4), (7, 5), (5, 8)))
    assert work.outlines == ()
    assert max(len(k.ends) for k in work.corners) == 4


def test_nothing_drawn_is_an_empty_linework() -> None:
    work = linework()
    assert (work.drawn, work.box, work.extent, work.largest) == ((), None, 0.0, 0.0)
    assert linework(line((1, 1), (1, 1))).edges == ()


def test_texts_are_read_with_their_blanks_collapsed() -> None:
    work = linework(text("GATE   PLATE\n 2", (3, 4)))
    assert work.texts[0].wording == "GATE PLATE 2"


def test_far_from_the_origin_nothing_is_lost() -> None:
    far = (1e7, -1e7)
    moved = [
        e._replace(
            start=(e.start[0] + far[0], e.start[1] + far[1]), end=(e.end[0] + far[0], e.end[1] + far[1])
        )
        for e in TEE
        if isinstance(e, Line)
    ]
    here, there = linework(TEE), linework(moved)
    assert [len(x) for x in (here.edges, here.corners, here.tees, here.outlines)] == [
        len(x) for x in (there.edges, there.corners, there.tees, there.outlines)
    ]


def test_a_star_of_many_lines_and_a_long_open_chain_cost_no_square() -> None:
    star: list[Entity] = [
        line((0, 0), (100 * math.cos(i / 500), 100 * math.sin(i / 500))) for i in range(3000)
    ]
    zigzag = chain(*[(i, 200 + (i % 2)) for i in range(4000)], close=False)
    work = linework(star, zigzag)
    assert len(work.edges) == 3000 + 3999
    assert len(work.corners) == 1 + 3998


# the parts


@given(st.lists(st.tuples(st.integers(-40, 40), st.integers(-40, 40)), min_size=1, max_size=260))
@settings(max_examples=examples(60), deadline=None)
def test_clusters_are_those_of_all_pairs(cells: list[tuple[int, int]]) -> None:
    """Cells of 0.6 with a reach of 1: neighbours across link, diagonal ones do not; more than 128 go the
    other way."""
    points = np.array(cells, float) * 0.6
    labels, count = cluster(points, 1.0)
    gaps = np.hypot(*(points[:, None] - points[None]).transpose(2, 0, 1))
    together = labels[:, None] == labels[None]
    assert together[gaps <= 1.0].all()
    assert len({int(v) for v in labels}) == count
    reach = gaps <= 1.0  # linked directly or through others
    for _ in range(len(points)):
        wider = reach @ reach
        if (wider == reach).all():
            break
        reach = wider
    assert (together == reach).all()


def test_members_by_label() -> None:
    assert by_label(np.array([2, 0, 2, 1]), 3) == [[1], [3], [0, 2]]
    assert by_label(np.empty(0, np.int64), 0) == []


@given(st.lists(st.tuples(st.integers(-3, 3), st.integers(-3, 3)), min_size=1, max_size=40))
def test_unique_rows_are_numpys(rows: list[tuple[int, int]]) -> None:
    cells = np.array(rows)
    n, first, member = unique_rows(cells)
    distinct = np.unique(cells, axis=0)
    assert n == len(distinct)
    assert (cells[first][member] == cells).all()


@pytest.mark.parametrize("count", [30, 700])
def test_boxes_by_cells_are_boxes_by_table(count: int) -> None:
    rng = np.random.default_rng(count)
    points = rng.uniform(0, 100, (count, 2))
    corner = rng.uniform(0, 100, (count, 2))
    boxes = np.column_stack((corner, corner + rng.exponential(3, (count, 2))))
    p, b = points_in_boxes(points, boxes)
    inside = ((points[:, None] >= boxes[None, :, :2]) & (points[:, None] <= boxes[None, :, 2:])).all(axis=2)
    assert {*zip(p.tolist(), b.tolist(), strict=True)} == {tuple(x) for x in np.argwhere(inside).tolist()}


def test_points_on_segments_and_arcs_leave_the_ends_out() -> None:
    starts, ends = np.array([[0.0, 0.0]]), np.array([[10.0, 0.0]])
    p, _ = on_segments(np.array([[0.0, 0.0], [5.0, 0.0], [5.0, 0.02], [10.0, 0.0]]), starts, ends, 0.01)
    assert p.tolist() == [1]
    at = np.array([[1.0, 0.0], [math.sqrt(0.5), math.sqrt(0.5)], [0.0, 1.0], [-1.0, 0.0]])
    p, _ = on_arcs(at, np.array([[0.0, 0.0]]), np.array([[1.0, 0.0, math.pi / 2]]), 0.001)
    assert p.tolist() == [1]
    p, _ = on_arcs(at, np.array([[0.0, 0.0]]), np.array([[1.0, 0.0, math.tau]]), 0.001)
    assert p.tolist() == [0, 1, 2, 3]


def test_unit_conversion_scales_everything() -> None:
    from evenmark.core.linework import simplify

    work = simplify(drawing(PLATE), length_tolerance=0.001, scale=25.4)
    assert work.box == pytest.approx((0, 0, 80 * 25.4, 50 * 25.4))
    assert work.circles[0].radius == pytest.approx(6 * 25.4)
