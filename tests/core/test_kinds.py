"""Each requirement kind on drawings just inside and just outside its tolerance; what it asks, measures, and
what is left out."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest

from evenmark.core.drawing.annotations import Dimension, Hatch, Note, Vertex
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Drawing
from evenmark.core.geometry.points import point_on
from evenmark.core.marking import MarkSheet, RuleError, RuleSet, check, prepare
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.model import Finding, Requirement, View
from tests.builders import LAYERS, PLAIN, PLATE, arc, chain, circle, drawing, finding, line, marked, text
from tests.core.cause_cases import three_views

KEY = drawing(PLATE)


def asked(
    key: Drawing,
    attempt: Drawing,
    kind: str,
    *features: str,
    fields: dict[str, str] | None = None,
    **how: Any,
) -> Finding:
    """The finding of one requirement."""
    r = Requirement(id=1, kind=kind, features=features, **how)
    return check(prepare(key, RuleSet(requirements=(r,))), attempt, fields).findings[0]


def with_hole(x: float, y: float = 25.0, r: float = 6.0) -> Drawing:
    return drawing(PLATE[:4], circle((x, y), r), PLATE[5])


TABLE: list[tuple[str, tuple[str, ...], Drawing, Drawing, str, float]] = [
    ("distance", ("c1", "c2"), KEY, with_hole(20.0009), "met", -0.0009),
    ("distance", ("c1", "c2"), KEY, with_hole(20.3), "near", -0.3),
    ("distance", ("c1", "c2"), KEY, with_hole(21.5), "missed", -1.5),
    ("distance", ("k1", "c1"), KEY, with_hole(20, 25.2), "near", math.hypot(20, 25.2) - math.hypot(20, 25)),
    ("distance", ("e1", "c1"), KEY, with_hole(23), "missed", 3.0),
    ("distance", ("e1", "e4"), KEY, KEY, "met", 0.0),
    (
        "included-angle",
        ("e1", "e2"),
        KEY,
        drawing(chain((0, 0), (80, 0), (80, 50), (0.2, 50)), PLATE[4:]),
        "near",
        -0.2292,
    ),
    (
        "perpendicular",
        ("e1", "e2"),
        KEY,
        drawing(chain((0, 0), (80, 0), (80, 50), (2, 50)), PLATE[4:]),
        "missed",
        2.2906,
    ),
    (
        "perpendicular",
        ("e1", "e2"),
        KEY,
        drawing(chain((0, 0), (80, 0), (80, 50), (0.005, 50)), PLATE[4:]),
        "met",
        0.00573,
    ),
    (
        "parallel",
        ("e1", "e4"),
        KEY,
        drawing(chain((0, 0), (80, 0), (80, 50), (2, 50)), PLATE[4:]),
        "missed",
        2.2906,
    ),
    (
        "concentric",
        ("c1", "c2"),
        drawing(circle((0, 0), 9), circle((0, 0), 5)),
        drawing(circle((0.0009, 0), 9), circle((0, 0), 5)),
        "met",
        0.0009,
    ),
    (
        "concentric",
        ("c1", "c2"),
        drawing(circle((0, 0), 9), circle((0, 0), 5)),
        drawing(circle((0.02, 0), 9), circle((0, 0), 5)),
        "missed",
        0.02,
    ),
    (
        "whole-edge",
        ("e2",),
        KEY,
        drawing(line((0, 0), (30, 0)), line((30.5, 0), (80, 0)), PLATE[1:]),
        "missed",
        0.5,
    ),
    (
        "whole-edge",
        ("e2",),
        KEY,
        drawing(line((0, 0), (30, 0)), line((30.0005, 0), (80, 0)), PLATE[1:]),
        "met",
        0.0005,
    ),
    ("area", ("o1",), KEY, drawing(chain((0, 0), (80, 0), (80, 50), (0, 50)), PLATE[4:]), "met", 0.0),
    ("area", ("o1",), KEY, drawing(chain((0, 0), (81, 0), (81, 50), (0, 50)), PLATE[4:]), "near", 50.0),
    ("area", ("o1",), KEY, drawing(chain((0, 0), (90, 0), (90, 50), (0, 50)), PLATE[4:]), "missed", 500.0),
    (
        "perimeter",
        ("o1",),
        KEY,
        drawing(chain((0, 0), (80.1, 0), (80.1, 50), (0, 50)), PLATE[4:]),
        "near",
        0.2,
    ),
    ("equal", ("c1", "c2"), KEY, with_hole(20, 25, 6.0009), "met", 0.0009),
    ("equal", ("c1", "c2"), KEY, with_hole(20, 25, 6.2), "missed", 0.2),
    (
        "evenly-spaced",
        ("c1", "c2", "c3"),
        drawing(circle((0, 0), 3), circle((20, 0), 3), circle((40, 0), 3)),
        drawing(circle((0, 0), 3), circle((21, 0), 3), circle((40, 0), 3)),
        "missed",
        2 / 3,
    ),
    ("diameter", ("c1",), KEY, with_hole(20, 25, 6.0004), "met", 0.0008),
    ("diameter", ("c1",), KEY, with_hole(20, 25, 6.0006), "near", 0.0012),
    ("diameter", ("c1", "c2"), KEY, with_hole(20, 25, 8), "missed", 4.0),
    ("radius", ("c1", "c2"), KEY, with_hole(20, 25, 8), "missed", 2.0),
    ("arc-length", ("a1",), drawing(arc((0, 0), 10, 0, 90)), drawing(arc((0, 0), 10, 0, 90)), "met", 0.0),
    (
        "arc-length",
        ("a1",),
        drawing(arc((0, 0), 10, 0, 90)),
        drawing(arc((0, 0), 12, 0, 90)),
        "missed",
        math.pi,  # a quarter of the difference of circumferences
    ),
    (
        "in-line",
        ("e1", "e2"),
        drawing(line((0, 0), (20, 0)), line((40, 0), (60, 0))),
        drawing(line((0, 0), (20, 0)), line((40, 0.5), (60, 0.5))),
        "missed",
        0.5,
    ),
    ("free-ends", ("e1",), drawing(line((0, 0), (9, 0))), drawing(line((0, 0), (9, 0.0009))), "met", 0.0009),
    (
        "free-ends",
        ("e1",),
        drawing(line((0, 0), (9, 0)), PLATE[5]),
        drawing(line((0, 7), (9, 7)), PLATE[5]),
        "missed",
        7.0,
    ),
    (
        "free-ends",
        ("a1",),
        drawing(arc((0, 0), 10, 0, 90), PLATE[5]),
        drawing(arc((0, 0), 10, 90, 180), PLATE[5]),
        "missed",
        10 * math.sqrt(2),  # a quarter on
    ),
    ("count", ("c1",), KEY, drawing(PLATE, circle((40, 25), 6)), "missed", 1.0),
    ("count", ("c1",), KEY, KEY, "met", 0.0),
]


@pytest.mark.parametrize(("kind", "features", "key", "attempt", "verdict", "deviation"), TABLE)
def test_each_measure_is_judged_by_its_tolerance(
    kind: str, features: tuple[str, ...], key: Drawing, attempt: Drawing, verdict: str, deviation: float
) -> None:
    f = asked(key, attempt, kind, *features)
    assert (f.verdict, f.deviation) == (verdict, pytest.approx(deviation, abs=1e-4))


def test_an_area_with_round_parts_is_exact() -> None:
    """Area of a slot: the rectangle between its centres and one whole circle, a b + pi r^2 (elementary
    geometry)."""
    slot = drawing(
        line((0, 0), (40, 0)), arc((40, 10), 10, -90, 90), line((40, 20), (0, 20)), arc((0, 10), 10, 90, 270)
    )
    area, around = asked(slot, slot, "area", "o1"), asked(slot, slot, "perimeter", "o1")
    assert area.expected == area.measured == pytest.approx(40 * 20 + math.pi * 100, rel=1e-14)
    assert around.expected == pytest.approx(80 + 20 * math.pi, rel=1e-14)


def test_a_rectangle_24_by_48_has_a_perimeter_of_144() -> None:
    """Common practice, no published source."""
    key = drawing(chain((0, 0), (24, 0), (24, 48), (0, 48)))
    assert asked(key, key, "perimeter", "o1").expected == 144


def test_square_to_a_circle_at_its_foot() -> None:
    key = drawing(circle((0, 0), 10), line((6, 8), (12, 16)))
    asked_for = [(r.kind, r.features) for r in prepare(key).requirements if r.kind == "perpendicular"]
    assert asked_for == [("perpendicular", ("e1", "c1"))]
    attempt = drawing(circle((0, 0), 10), line((6, 8), (13, 16)))
    f = finding(marked(key, attempt), "perpendicular", "e1", "c1")
    assert f.deviation == pytest.approx(
        abs(math.degrees(math.atan2(8, 7)) - math.degrees(math.atan2(8, 6))), abs=0.01
    )


def test_symmetric_about_an_axis() -> None:
    def made(x: float) -> Drawing:
        return drawing(line((40, -5), (40, 55), "centre"), PLATE[:4], circle((20, 25), 6), circle((x, 25), 6))

    key = made(60)
    axis = next(e.id for e in prepare(key).linework.edges if e.layer == "centre")
    r = Requirement(id=1, kind="symmetric", features=(axis, "c1"))
    ready = prepare(key, RuleSet(requirements=(r,)))
    assert check(ready, made(60)).findings[0].verdict == "met"
    assert check(ready, made(60.5)).findings[0].deviation == pytest.approx(0.5)
    with pytest.raises(RuleError, match="not symmetric"):
        prepare(made(61), RuleSet(requirements=(r,)))


# axes


def hub(*axis: Any) -> Drawing:
    return drawing(circle((0, 0), 20), line(*axis, "centre"))


@pytest.mark.parametrize(
    ("axis", "verdict"),
    [
        (((-26, 0), (26, 0)), "met"),
        (((26, 0), (-23, 0)), "met"),  # overshoots of 6 and 3 where 6 is drawn in the key
        (((-21, 0), (26, 0)), "missed"),  # 1 is less than a quarter of it
        (((-26, 0), (60, 0)), "missed"),  # 40 is more than four times
        (((-26, 0.02), (26, 0.02)), "missed"),
        (((-26, -0.5), (26, 0.5)), "missed"),  # through the centre, in another direction
    ],
)
def test_an_axis_runs_through_its_centre_and_past_it(axis: Any, verdict: str) -> None:
    sheet = marked(hub((-26, 0), (26, 0)), hub(*axis))
    assert finding(sheet, "axis", "e1").verdict == verdict
    if verdict == "met":
        assert sheet.earned == sheet.possible


def test_an_axis_is_asked_for_no_length_end_or_joint() -> None:
    kinds = {r.kind for r in prepare(hub((-20, 0), (20, 0))).requirements if "e1" in r.features}
    assert kinds == {"axis", "layer"}


# looks


def look(**style: Any) -> Drawing:
    own = Style(**{"color": 5, "line_type": "dashed", "weight": 0.25, "dash": 5.0, **style})
    return replace(drawing(line((0, 0), (30, 0))._replace(style=own)), layers=dict(LAYERS))


@pytest.mark.parametrize(
    ("style", "verdict"),
    [
        ({}, "met"),
        ({"color": 1}, "missed"),
        ({"line_type": "chain"}, "missed"),
        ({"weight": 0.5}, "missed"),
        ({"weight": None}, "met"),
        ({"dash": 20.0}, "met"),
        ({"dash": 31.0}, "missed"),
    ],
)
def test_a_look_is_color_line_type_weight_and_dashes_that_show(style: dict[str, Any], verdict: str) -> None:
    assert asked(look(), look(**style), "style", "e1").verdict == verdict


def test_one_piece_counts_the_objects_of_an_outline() -> None:
    assert asked(KEY, KEY, "one-piece", "o1").verdict == "met"  # all of one source
    loose = drawing([e._replace(source=f"s{n}") for n, e in enumerate(PLATE)])
    f = asked(KEY, loose, "one-piece", "o1")
    assert (f.verdict, f.measured) == ("missed", "4 objects")


# lettering


def titled(wording: str = "GATE 12", **change: Any) -> Drawing:
    return drawing(PLATE, text(wording, (10, 10))._replace(**change))


@pytest.mark.parametrize(
    ("how", "wording", "fields", "verdict"),
    [
        ({}, "GATE 12", {}, "met"),
        ({}, "GATE  12", {}, "met"),
        ({}, "Gate 12", {}, "missed"),
        ({"any_case": True}, "Gate 12", {}, "met"),
        ({"by": "pattern", "pattern": "GATE ##"}, "GATE 77", {}, "met"),
        ({"by": "pattern", "pattern": "GATE ##"}, "GATE 7", {}, "missed"),
        ({"by": "pattern", "pattern": "*/?"}, "sheet 3/A", {}, "met"),
        ({"by": "field", "pattern": "name"}, "Wren Halloran", {"name": "Wren Halloran"}, "met"),
        ({"by": "field", "pattern": "name"}, "Otto Lindqvist", {"name": "Wren Halloran"}, "missed"),
        ({"by": "field", "pattern": "name"}, "anybody", {}, "met"),
    ],
)
def test_wording(how: dict[str, Any], wording: str, fields: dict[str, str], verdict: str) -> None:
    assert asked(titled(), titled(wording), "wording", "x1", fields=fields, **how).verdict == verdict


def test_a_pattern_takes_no_more_than_the_product_of_both_lengths() -> None:
    f = asked(titled(), titled("a" * 900), "wording", "x1", by="pattern", pattern="*a" * 400 + "b")
    assert f.verdict == "missed"


@pytest.mark.parametrize(
    ("change", "verdict"),
    [
        ({"at": (10.4, 10.2)}, "met"),
        ({"at": (11, 10)}, "missed"),
        ({"anchor": "left top", "at": (10, 13.5)}, "met"),
        ({"anchor": "left baseline"}, "met"),
        ({"anchor": "right bottom", "at": (30, 10)}, "met"),  # as wide as seven letters may be
        ({"anchor": "right bottom", "at": (10, 10)}, "missed"),
        ({"anchor": "centre middle", "at": (20, 11.75)}, "met"),
    ],
)
def test_a_place_is_the_same_by_any_justification(change: dict[str, Any], verdict: str) -> None:
    assert asked(titled(), titled(**change), "text-anchor", "x1").verdict == verdict


@pytest.mark.parametrize(
    ("turn", "verdict"), [(0.0, "met"), (359.995, "met"), (1.0, "missed"), (180.0, "missed")]
)
def test_lettering_is_turned(turn: float, verdict: str) -> None:
    assert asked(titled(), titled(turn_deg=turn), "text-turn", "x1").verdict == verdict


@pytest.mark.parametrize(("height", "verdict"), [(3.5, "met"), (3.6, "near"), (5.0, "missed")])
def test_lettering_has_a_height(height: float, verdict: str) -> None:
    assert asked(titled(), titled(height=height), "text-height", "x1").verdict == verdict


# dimensions, notes, hatches


def dimensioned(d: Dimension | None) -> Drawing:
    return replace(drawing(PLATE), dimensions=(d,) if d else ())


SPAN = Dimension(
    kind="linear", points=((0, 0), (80, 0)), measured=80.0, at=(40, -9), layer="dimension", style=PLAIN
)


@pytest.mark.parametrize(
    ("drawn", "verdict"),
    [
        (SPAN, "met"),
        (
            replace(SPAN, points=((80, 50), (0, 50)), at=(40, 60)),
            "met",
        ),  # the same extent, from the other side
        (replace(SPAN, points=((0, 0), (79.7, 0)), measured=79.7), "near"),
        (replace(SPAN, points=((0, 0), (50, 0)), measured=50.0), "missed"),
        (replace(SPAN, typed="82"), "missed"),
        (replace(SPAN, typed="80"), "missed"),  # right by luck: it will not change with the drawing
        (replace(SPAN, factor=2.0), "missed"),  # shows 160
        (replace(SPAN, turn_deg=90.0, measured=0.0), "absent"),
        (None, "absent"),
    ],
)
def test_a_dimension_measures_and_shows(drawn: Dimension | None, verdict: str) -> None:
    assert asked(dimensioned(SPAN), dimensioned(drawn), "dimension", "d1").verdict == verdict


def noted(*tip: float, wording: str = "2 holes") -> Drawing:
    note = Note(points=((tip[0], tip[1]), (90, 60)), wording=wording, at=(90, 60), height=3.5, style=PLAIN)
    return replace(drawing(PLATE), notes=(note,))


@pytest.mark.parametrize(
    ("tip", "verdict"), [((26, 25), "met"), ((20, 31), "met"), ((26.4, 25), "met"), ((28, 25), "missed")]
)
def test_a_leader_ends_anywhere_on_its_feature(tip: tuple[float, float], verdict: str) -> None:
    assert asked(noted(26, 25), noted(*tip), "note", "n1").verdict == verdict


def hatched(*loops: list[tuple[float, float]]) -> Drawing:
    h = Hatch(
        loops=tuple(tuple(Vertex(*p) for p in loop) for loop in loops),
        pattern="lines",
        layer="section",
        style=PLAIN,
        source="h",
    )
    return replace(drawing(PLATE), hatches=(h,))


SQUARE = [(0.0, 0.0), (30.0, 0.0), (30.0, 20.0), (0.0, 20.0)]
HOLE = [point_on((15, 10), 5, k * math.tau / 400) for k in range(400)]


@pytest.mark.parametrize(
    ("loops", "verdict", "off"),
    [
        ((SQUARE, HOLE), "met", 0.0),
        ((HOLE[::-1], SQUARE[2:] + SQUARE[:2]), "met", 0.0),
        ((SQUARE,), "missed", 78.53),  # the hole was filled
        (([(0, 0), (31, 0), (31, 20), (0, 20)], HOLE), "missed", 20.0),
    ],
)
def test_a_hatch_fills_its_region(loops: Any, verdict: str, off: float) -> None:
    f = asked(hatched(SQUARE, HOLE), hatched(*loops), "hatch", "h1")
    assert (f.verdict, f.deviation) == (verdict, pytest.approx(off, abs=0.01))
    assert f.expected == pytest.approx(600 - 400 / 2 * 25 * math.sin(math.tau / 400))


# views


@pytest.mark.parametrize("placement", ["as-drawn", "slide"])
def test_views_are_found_and_placed_on_their_own(placement: Any) -> None:
    key = drawing(three_views())
    ready = prepare(key, RuleSet(placement=placement))
    assert [v.name for v in ready.views.values()] == ["front", "above", "right"]
    low = check(ready, drawing(three_views((0.0, -3.0))))
    assert [(f.kind, f.verdict, f.deviation) for f in low.findings if f.verdict != "met"] == [
        ("arrangement", "missed", pytest.approx(3))
    ]
    assert list(low.view_motions) == ["v3"]
    wide = check(ready, drawing(three_views((7.0, 0.0))))
    assert [f.kind for f in wide.findings if f.verdict != "met"] == (
        ["arrangement"] if placement == "as-drawn" else []
    )


def test_views_agree_on_the_sizes_that_they_share() -> None:
    key = drawing(three_views())
    shared = [r.features for r in prepare(key).requirements if r.kind == "agreement"]
    assert shared == [("v1", "v2"), ("v1", "v3"), ("v2", "v3")]
    other = [e for e in three_views() if getattr(e, "start", None) != (80.0, 20.0)]
    step = line((80, 22), (105, 22))
    r = Requirement(id=1, kind="agreement", features=("v1", "v3"))
    f = check(prepare(key, RuleSet(requirements=(r,))), drawing(other, step)).findings[0]
    assert (f.verdict, f.deviation) == ("missed", pytest.approx(2))


def test_views_can_be_named_by_the_rule_set() -> None:
    views = (
        View(id="v1", name="front", box=(-1, -1, 61, 41)),
        View(id="v2", name="side", box=(79, -1, 106, 41)),
    )
    r = Requirement(id=1, kind="arrangement", features=("v1", "v2"))
    ready = prepare(drawing(three_views()), RuleSet(views=views, requirements=(r,)))
    assert check(ready, drawing(three_views())).findings[0].verdict == "met"
    with pytest.raises(RuleError, match="no feature v9"):
        prepare(
            drawing(three_views()), RuleSet(views=views, requirements=(replace(r, features=("v1", "v9")),))
        )


# what is proposed


def test_nothing_is_said_twice_and_nothing_trivial() -> None:
    c, s = math.cos(0.3), math.sin(0.3)
    turned = [(x * c - y * s, x * s + y * c) for x, y in ((0, 0), (60, 0), (60, 30), (0, 30))]
    asked_for = [(r.kind, r.features) for r in prepare(drawing(chain(*turned))).requirements]
    kinds = [k for k, _ in asked_for]
    assert (kinds.count("perpendicular"), kinds.count("parallel")) == (3, 0)  # the rest follows from these
    level = [r.kind for r in prepare(KEY).requirements]
    assert not {
        "perpendicular",
        "parallel",
        "equal",
        "area",
        "perimeter",
        "one-piece",
        "style",
        "count",
    } & set(level)


def test_patterns_are_found_round_a_hub_and_in_rows() -> None:
    flange = [circle(point_on((0, 0), 60, math.radians(45 + 90 * k)), 6) for k in range(4)]
    row = [circle((x, -150), 6) for x in (-90, -40, 10)]
    found = [
        r.features
        for r in prepare(drawing(circle((0, 0), 75), flange, row)).requirements
        if r.kind == "evenly-spaced"
    ]
    assert sorted(len(f) for f in found) == [3, 4]


def test_holes_off_their_pitch_circle_are_told_by_how_far() -> None:
    def hub(pitch: float) -> Drawing:
        holes = [circle(point_on((0, 0), pitch, math.radians(72 * k)), 6) for k in range(5)]
        return drawing(circle((0, 0), 60, "centre"), holes)

    ring, *holes = (c.id for c in sorted(prepare(hub(60)).linework.circles, key=lambda c: -c.radius))
    for pitch, verdict, off in ((60.0, "met", 0.0), (60.0009, "met", 0.0009), (58.0, "missed", 2.0)):
        f = asked(hub(60), hub(pitch), "on-circle", ring, *holes)
        assert (f.verdict, f.deviation) == (verdict, pytest.approx(off, abs=1e-9))
    with pytest.raises(RuleError, match="do not lie on"):
        asked(drawing(circle((0, 0), 60), circle((50, 0), 5)), KEY, "on-circle", "c1", "c2")


def test_what_a_higher_role_covers_is_neither_required_nor_spare() -> None:
    key = drawing(PLATE, line((0, 0), (80, 0), "hidden"), line((10, 10), (50, 10), "hidden"))
    asked_for = {i for r in prepare(key).requirements for i in r.features if i[0] == "e"}
    assert len(asked_for) == 5
    assert marked(key, drawing(PLATE, line((10, 10), (50, 10), "hidden"))).earned == 100
    assert marked(key, key).earned == 100


def test_every_kind_is_tried_here_or_beside() -> None:
    """Kinds of the first exercise have their tables in test_examine; all others have theirs above."""
    import pathlib

    here = "".join(p.read_text() for p in pathlib.Path(__file__).parent.glob("test_*.py"))
    assert {k for k in KINDS if f'"{k}"' not in here} == set()


# start drawings, several keys, marks


def test_given_geometry_is_neither_marked_nor_spare_and_reported_if_changed() -> None:
    frame = drawing(chain((-20, -20), (120, -20), (120, 90), (-20, 90), layer="frame"))
    frame = replace(frame, layers={**frame.layers, "frame": Layer(name="frame", style=PLAIN)})
    key = prepare(KEY, RuleSet(), start=frame)
    assert len(key.rules.given) == 4
    assert {r.kind for r in key.requirements if set(r.features) & set(key.rules.given)} == set()
    whole = replace(frame, entities=frame.entities + KEY.entities)
    assert check(key, whole).earned == 100
    moved = replace(
        frame, entities=(*frame.entities[:3], line((-20, 88), (-20, -20), "frame"), *KEY.entities)
    )
    sheet = check(key, moved)
    assert [i.code for f in sheet.findings if f.kind == "clean" for i in f.items if i.code == "given-changed"]
    assert "changed from the start drawing" in " ".join(c.says for c in sheet.causes)


def test_one_of_several_keys_is_enough() -> None:
    from evenmark.core.marking import check_any

    left, right = (drawing(PLATE[:4], circle((x, 25), 6)) for x in (20, 60))
    keys = [prepare(k) for k in (left, right)]
    for attempt, which in ((left, 0), (right, 1)):
        found = check_any(keys, attempt)
        assert (found.key, found.sheet.earned) == (which, 100)


def earned(sheet: MarkSheet) -> dict[str, float]:
    out: dict[str, float] = {}
    for f in sheet.findings:
        out[f.kind] = out.get(f.kind, 0.0) + float(sheet.possible_for.get(f.id, 0))
    return out


def test_marks_by_kind_and_feature_add_up() -> None:
    sheet = marked(KEY, KEY, kind_marks={"radius": 30, "clean": 10}, feature_marks={"o1": 7.5}, charges=None)
    assert sheet.possible == sheet.earned == 100
    assert (earned(sheet)["radius"], earned(sheet)["clean"], earned(sheet)["closed"]) == (30, 10, 7.5)
    with pytest.raises(RuleError, match="more than the 100"):
        marked(KEY, KEY, kind_marks={"radius": 80, "length": 30})


def test_clutter_costs_what_the_rule_set_says_and_never_more_than_there_is() -> None:
    spare = drawing(PLATE, [line((x, 60), (x, 70)) for x in range(10)])
    assert marked(KEY, spare, charges=None).earned == 95
    assert marked(KEY, spare).earned == 90
    assert marked(KEY, spare, clutter_each=3, clutter_cap=12, charges=None).earned == 88
    assert marked(KEY, spare, clutter_each=50, clutter_cap=1000, charges=None).earned == 0
