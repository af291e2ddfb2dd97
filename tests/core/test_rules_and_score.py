"""Propose, score, rule sets as JSON, mark sheets as JSON."""

from __future__ import annotations

import json
from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.linework.wording import counted, feature_name, number
from evenmark.core.marking import RuleError, RuleSet, check, prepare
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.marks_json import to_json, to_text
from evenmark.core.marking.model import Requirement
from evenmark.core.marking.reading_json import reading
from evenmark.core.marking.rules_json import from_json, parse, proposal_json
from evenmark.core.marking.rules_json import to_json as rules_to_json
from evenmark.core.marking.score import allot
from evenmark.core.marking.slips.records import SLIPS
from evenmark.core.marking.wording import characteristic
from evenmark.core.plain import plain_number as plain
from evenmark.demo import parts
from tests.builders import FIRST_VERSION, PLATE, circle, drawing, line, marked
from tests.extent import examples

KEY = drawing(PLATE)


@given(
    st.lists(st.floats(0.0, 50.0, allow_nan=False), min_size=1, max_size=300),
    st.sampled_from([1.0, 10.0, 20.0, 100.0, 33.33]),
)
@settings(deadline=None)
def test_marks_add_up_to_the_last_digit(weights: list[float], marks: float) -> None:
    requirements = tuple(Requirement(id=i, kind="whole", weight=w) for i, w in enumerate(weights, 1))
    allotted = allot(requirements, RuleSet(marks=marks, charges=None))
    if any(w > 0 for w in weights):
        assert sum(allotted.values()) == Decimal(str(marks))
        assert all(v >= 0 for v in allotted.values())
    else:
        assert allotted == {}


def test_equal_weights_differ_by_at_most_a_hundredth() -> None:
    allotted = allot(tuple(Requirement(id=i, kind="whole") for i in range(7)), FIRST_VERSION)
    assert max(allotted.values()) - min(allotted.values()) <= Decimal("0.01")


@pytest.mark.parametrize(
    ("extra", "lost"),
    [(0, "0"), (1, "1.00"), (2, "2.00"), (5, "5.00"), (9, "5.00")],
)
def test_each_spare_takes_a_fifth_of_clean(extra: int, lost: str) -> None:
    attempt = drawing(PLATE, [line((0, 60 + i), (50, 60 + i)) for i in range(extra)])
    sheet = check(prepare(KEY, FIRST_VERSION), attempt)
    assert Decimal(100) - sheet.earned == Decimal(lost)


def test_near_earns_the_rule_sets_share() -> None:
    attempt = drawing(PLATE[:5], circle((60.02, 25), 6))  # type: ignore[arg-type]
    half = check(prepare(KEY, FIRST_VERSION), attempt)
    none = check(prepare(KEY, replace(FIRST_VERSION, near_share=0.0)), attempt)
    lost = 100 - none.earned
    assert lost > 0
    assert 100 - half.earned == pytest.approx(lost / 2, abs=Decimal("0.01"))


def test_default_shares_of_a_proposal() -> None:
    """marking.md: whole a fifth, clean and layer-style by the share drawn; size 4, place 3, relations 2,
    layer 1."""
    key = prepare(KEY, FIRST_VERSION)
    by_kind: dict[str, Decimal] = {}
    for r in key.requirements:
        by_kind[r.kind] = by_kind.get(r.kind, Decimal(0)) + key.marks[r.id]
    assert (by_kind["whole"], by_kind["clean"], by_kind["layer-style"]) == (20, 5, 5)
    circle_marks = {r.kind: float(key.marks[r.id]) for r in key.requirements if r.features[:1] == ("c1",)}
    per = circle_marks["layer"]
    assert circle_marks["radius"] == pytest.approx(4 * per, abs=0.05)
    assert circle_marks["position"] == pytest.approx(3 * per, abs=0.05)


def test_a_proposal_asks_each_size_place_and_relation_once() -> None:
    key = prepare(parts.crank_link().drawing)
    asked = [(r.kind, r.features) for r in key.requirements if r.features]
    assert len(asked) == len(set(asked))
    assert sum(kind == "tangent" for kind, _ in asked) == 4
    assert sum(kind == "closed" for kind, _ in asked) == 1
    kinds = {kind for kind, _ in asked}
    assert kinds == {
        "length",
        "angle",
        "whole-edge",
        "radius",
        "sweep",
        "position",
        "joined",
        "tangent",
        "concentric",
        "closed",
        "axis",
        "layer",
        "line-type",
    }


def test_construction_and_dimensions_in_the_key_are_not_asked() -> None:
    key = prepare(drawing(PLATE, line((0, 0), (80, 50), "construction")))
    asked = {i for r in key.requirements for i in r.features}
    unasked = [e.id for e in key.linework.edges if e.layer == "construction"]
    assert unasked
    assert not asked & set(unasked)


def test_a_rule_set_comes_back_as_it_went() -> None:
    key = prepare(KEY, RuleSet(placement="slide", near_share=0.25, roles={"hidden": "construction"}))
    data = proposal_json(key)
    for r in data["requirements"]:
        for derived in ("marks", "expected", "of"):
            r.pop(derived, None)  # type: ignore[misc]
    again = from_json(json.loads(json.dumps(data)))
    assert again.requirements == key.requirements
    assert rules_to_json(again) == {**data, "roles": again.roles}
    assert check(prepare(KEY, again), KEY).earned == 100


@pytest.mark.parametrize(
    ("change", "word"),
    [
        ("not json", "JSON"),
        ("[1, 2]", "object"),
        ({"format": "other"}, "format"),
        ({"version": 99}, "version"),
        ({"colour": 1}, "colour"),
        ({"unit": "furlong"}, "furlong"),
        ({"placement": "anywhere"}, "placement"),
        ({"near_share": 2}, "near_share"),
        ({"near_share": True}, "near_share"),
        ({"marks": float("nan")}, "marks"),
        ({"any_unit": "yes"}, "any_unit"),
        ({"tolerances": {"length": -1}}, "length"),
        ({"tolerances": [1]}, "tolerances"),
        ({"roles": {"outline": "hero"}}, "roles"),
        ({"requirements": {}}, "list"),
        ({"requirements": [{"kind": "magic"}]}, "kind"),
        ({"requirements": [{"kind": "whole", "features": "e1"}]}, "features"),
        ({"requirements": [{"kind": "whole", "id": "one"}]}, "id"),
        ({"requirements": [{"kind": "whole", "weight": -1}]}, "weight"),
        ({"requirements": [{"kind": "whole", "layer": 3}]}, "layer"),
        ({"requirements": [{"kind": "length", "features": ["e99"]}]}, "e99"),
        ({"requirements": [{"kind": "length", "features": ["c1"]}]}, "length"),
        ({"requirements": [{"kind": "length"}]}, "length"),
        ({"requirements": [{"kind": "tangent", "features": ["c1"]}]}, "tangent"),
        ({"requirements": [{"kind": "layer-style", "layer": "nowhere"}]}, "nowhere"),
        ({"requirements": [{"kind": "whole", "id": 1}, {"kind": "clean", "id": 1}]}, "number 1"),
    ],
)
def test_a_rule_set_that_does_not_fit_says_which_part(change: Any, word: str) -> None:
    text = change if isinstance(change, str) else json.dumps(change)
    with pytest.raises(RuleError, match=word):
        prepare(KEY, parse(text))


@given(
    st.recursive(
        st.none() | st.booleans() | st.floats() | st.text(max_size=5),
        lambda inner: (
            st.lists(inner, max_size=3)
            | st.dictionaries(
                st.sampled_from(
                    ["kind", "requirements", "roles", "tolerances", "unit", "features", "length"]
                ),
                inner,
                max_size=3,
            )
        ),
        max_leaves=8,
    )
)
@settings(max_examples=examples(150), deadline=None)
def test_no_rule_set_breaks_the_reader(data: Any) -> None:
    try:
        from_json(data)
    except RuleError as why:
        assert len(str(why)) > 20


def test_the_json_is_as_documented() -> None:
    sheet = marked(KEY, drawing(PLATE[:4], circle((20, 25), 12)), "slide")  # type: ignore[arg-type]
    data = json.loads(json.dumps(to_json(sheet, "a.dxf"), allow_nan=False))
    assert list(data) == [
        "format",
        "version",
        "attempt",
        "unit",
        "placement",
        "score",
        "findings",
        "causes",
        "notes",
    ]
    assert data["placement"] == {
        "policy": "slide",
        "scale": 1.0,
        "mirror": False,
        "turn": 0.0,
        "shift": [0.0, 0.0],
        "views": [],
    }
    assert len(data["findings"]) == len(prepare(KEY).requirements)
    wanted = {
        "id",
        "kind",
        "features",
        "at",
        "expected",
        "measured",
        "deviation",
        "tolerance",
        "verdict",
        "earned",
        "possible",
        "causes",
        "follows",
    }
    for f in data["findings"]:
        assert wanted <= set(f) <= wanted | {"layer", "of", "items", "why", "taken", "lost_with"}
    radius = next(f for f in data["findings"] if f["kind"] == "radius" and f["features"] == ["c1"])
    assert (radius["expected"], radius["measured"], radius["deviation"], radius["tolerance"]) == (
        6.0,
        12.0,
        6.0,
        0.001,
    )
    assert radius["causes"] == [c["id"] for c in data["causes"] if radius["id"] in c["explains"]]
    assert sum(Decimal(str(f["possible"])) for f in data["findings"]) == 100
    assert sum(Decimal(str(f["earned"])) for f in data["findings"]) == Decimal(str(data["score"]["earned"]))


@pytest.mark.parametrize(
    ("value", "shown"), [(-0.0, 0.0), (-1e-12, 0.0), (1 / 3, 0.333333333), (2.0000000004, 2.0)]
)
def test_numbers_have_nine_decimals_and_no_minus_zero(value: float, shown: float) -> None:
    assert (plain(value), str(plain(value))) == (shown, str(shown))


def test_reading_lists_every_feature_and_oddity() -> None:
    data = reading(drawing(PLATE, line((3, 3), (3, 3)), circle((20, 25), 6)), "plate.dxf", features=True)
    assert {name: n for name, n in data["counts"].items() if n} == {
        "edges": 4,
        "circles": 2,
        "corners": 4,
        "outlines": 1,
        "drawn_twice": 1,
        "debris": 1,
    }
    assert len(data["features"]) == 4 + 2 + 4 + 1
    assert (data["unit"], data["box"], data["refused"]) == ("mm", [0, 0, 80, 50], None)


@pytest.mark.parametrize(
    ("value", "said"),
    [
        (20.0, "20"),
        (7.4375, "7.4375"),
        (0.00002, "0.00002"),
        (-1e-15, "0"),
        (1e9, "1000000000"),
        (2 / 3, "0.6667"),
    ],
)
def test_numbers_in_sentences(value: float, said: str) -> None:
    assert number(value) == said


def test_every_kind_and_cause_has_its_words() -> None:
    from evenmark.core.marking import slips

    assert all(characteristic(kind, [], None) == KINDS[kind].word for kind in KINDS if kind != "layer-style")
    assert characteristic("tangent", ["c1", "e2"], None) == "Circle 1, tangent to edge 2"
    assert feature_name("k12") == "Corner 12"
    assert [counted(n, "edge") for n in (1, 2)] == ["1 edge", "2 edges"]
    assert {"gap", "overshoot", "by-eye", "not-drawn", "unexplained"} <= set(SLIPS)
    assert len(slips.ALL) >= 8


@pytest.mark.parametrize("slip", [0.0, 0.02, 9.0])
def test_the_text_of_a_mark_sheet_is_its_json(slip: float) -> None:
    """What is written at once is, byte for byte, what the object would be written as."""
    link = parts.crank_link()
    attempt = drawing(PLATE[:4], circle((60 + slip, 25), 6), line((1, 2), (3, 4 + slip)))  # type: ignore[arg-type]
    for sheet in (
        check(prepare(KEY), attempt),
        check(prepare(KEY, FIRST_VERSION), attempt),
        check(prepare(link.drawing), parts.crank_link(left_bore=14.0 + slip).drawing),
    ):
        assert to_text(sheet, 'a "ü".dxf') == json.dumps(
            to_json(sheet, 'a "ü".dxf'), ensure_ascii=False, allow_nan=False
        )
