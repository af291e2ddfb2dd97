"""Views of one part: missing, swapped, moved or out of line, each told as that and charged once, in
proportion (marking.md: views arranged wrongly 8 to 12)."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import replace

import pytest

from evenmark.core.drawing.model import Drawing, Entity, reach_of
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework.model import View
from evenmark.core.marking import MarkSheet, RuleSet, check, prepare
from evenmark.core.marking.key import Key
from evenmark.core.marking.model import POLICIES, Listing, Policy
from evenmark.core.marking.views import inside
from evenmark.demo import parts
from tests.builders import chain, circle, drawing, line
from tests.extent import seeds

MARGIN = 6.0
"""How far axes reach past a view."""


def shows(view: View, e: Entity) -> bool:
    return all(inside(p, view.box, MARGIN) for p in reach_of(e))


def without(d: Drawing, view: View) -> Drawing:
    return replace(d, entities=tuple(e for e in d.entities if not shows(view, e)))


def moved(d: Drawing, view: View, x: float, y: float) -> Drawing:
    by = Similarity(shift=(x, y))
    return replace(d, entities=tuple(moved_entity(e, by) if shows(view, e) else e for e in d.entities))


def a_key(seed: int, listing: Listing, placement: Policy) -> tuple[Key, Drawing]:
    rng = random.Random(seed)
    part = parts.shaft_bracket(
        rise=rng.randint(48, 58), bore=rng.randint(9, 12), depth=float(rng.randint(34, 44))
    )
    return prepare(part.sheet, RuleSet(listing=listing, placement=placement)), part.drawing


def cost(sheet: MarkSheet) -> float:
    return float(sheet.possible - sheet.earned)


BOTH = pytest.mark.parametrize("listing", ["feature", "sheet"])
WHERE = pytest.mark.parametrize("placement", ["as-drawn", "slide"])


@pytest.mark.parametrize("seed", seeds(3))
@pytest.mark.parametrize("which", [0, 1, 2])
@BOTH
@WHERE
def test_a_view_that_is_missing(listing: Listing, placement: Policy, which: int, seed: int) -> None:
    key, d = a_key(seed, listing, placement)
    view = (key.rules.views or ())[which]
    sheet = check(key, without(d, view))
    assert "was not drawn." in sheet.causes[0].says
    assert "view" in sheet.causes[0].says
    assert len(sheet.causes) == 1, [c.says for c in sheet.causes]
    assert sheet.earned < 90


def _below(d: Drawing, key: Key) -> Drawing:
    front, top, _ = key.rules.views or ()
    return moved(d, top, 0, -(top.box[3] - front.box[1]) - 20)


def _left(d: Drawing, key: Key) -> Drawing:
    front, _, side = key.rules.views or ()
    return moved(d, side, -(side.box[2] - front.box[0]) - 20, 0)


def _one(which: int, x: float, y: float) -> Callable[[Drawing, Key], Drawing]:
    return lambda d, key: moved(d, (key.rules.views or ())[which], x, y)


STORIES: dict[str, tuple[Callable[[Drawing, Key], Drawing], str, str]] = {
    "front view moved": (_one(0, -8, -7), "shifted", "The front view is 8 mm to the left and 7 mm below"),
    "plan out of line": (_one(1, 4, 0), "shifted", "The view above is 4 mm to the right of its place."),
    "side view too low": (_one(2, 0, -3), "shifted", "The view on the right is 3 mm below its place."),
    "plan below": (_below, "views-exchanged", "projection were confused"),
    "side view on the left": (_left, "views-exchanged", "projection were confused"),
    "the other angle of projection": (
        lambda d, key: _left(_below(d, key), key),
        "views-exchanged",
        "First-angle and third-angle projection were confused",
    ),
}


@pytest.mark.parametrize("name", STORIES)
@BOTH
@WHERE
def test_views_that_stand_otherwise(listing: Listing, placement: Policy, name: str) -> None:
    key, d = a_key(1, listing, placement)
    draw, code, says = STORIES[name]
    sheet = check(key, draw(d, key))
    assert [c.code for c in sheet.causes] == [code]
    assert says in sheet.causes[0].says
    assert 8 <= cost(sheet) <= 12


@BOTH
def test_a_view_may_stand_farther_away_where_drawings_slide(listing: Listing) -> None:
    key, d = a_key(2, listing, "slide")
    assert cost(check(key, moved(d, (key.rules.views or ())[1], 0, 5))) == 0
    key, d = a_key(2, listing, "as-drawn")
    assert 8 <= cost(check(key, moved(d, (key.rules.views or ())[1], 0, 5))) <= 12


@pytest.mark.parametrize("seed", seeds(40))
def test_whatever_is_missing_breaks_nothing(seed: int) -> None:
    rng = random.Random(seed)
    listings: list[Listing] = ["feature", "sheet"]
    key, d = a_key(seed, rng.choice(listings), rng.choice(POLICIES))
    share = rng.random()
    sheet = check(key, replace(d, entities=tuple(e for e in d.entities if rng.random() < share)))
    assert 0 <= sheet.earned <= 100


@pytest.mark.parametrize("listing", ["feature", "sheet"])
@pytest.mark.parametrize(
    ("wrong", "code"),
    [({"bore": 13.0}, "unexplained"), ({"rise": 56.0}, "follows-edge"), ({"depth": 43.0}, "follows-edge")],
    ids=["a bore", "a height", "a depth"],
)
def test_what_agrees_with_a_wrong_view_is_charged_there_once(
    wrong: dict[str, float], code: str, listing: Listing
) -> None:
    key = prepare(parts.shaft_bracket().sheet, RuleSet(listing=listing))
    sheet = check(key, parts.shaft_bracket(**wrong).drawing)
    assert [c.code for c in sheet.causes] == [code]
    assert 5 <= cost(sheet) <= 8


@pytest.mark.parametrize("listing", ["feature", "sheet"])
@pytest.mark.parametrize("seed", seeds(40))
def test_a_view_that_disagrees_is_charged_itself(seed: int, listing: Listing) -> None:
    """A bore of another size in the front view, and the hidden edges of yet another in the view above."""
    rng = random.Random(seed)
    key = prepare(parts.shaft_bracket().sheet, RuleSet(listing=listing))
    one, other = rng.sample([9.0, 10.0, 12.0, 13.0], 2)
    above = next(v for v in key.rules.views or () if v.name == "above")
    front, top = (parts.shaft_bracket(bore=b).drawing for b in (one, other))
    mixed = (*without(front, above).entities, *(e for e in top.entities if shows(above, e)))
    sheet = check(key, replace(front, entities=mixed))
    assert len(sheet.causes) == 2
    assert cost(sheet) > 2 * 4.9 if listing == "feature" else cost(sheet) > 6


# views against each other


def bored(
    *, top: float = 6, side: float = 6, front: float = 6, at: float = 20, top_at: float = 20, wide: float = 60
) -> Drawing:
    """A block with a hole, in three views; what the views from above and from the side show may differ."""
    return drawing(
        [*chain((0, 0), (60, 0), (60, 40), (0, 40)), circle((at, 25), front)],
        chain((0, 60), (wide, 60), (wide, 90), (0, 90)),
        [line((x, 60), (x, 90), "hidden") for x in (top_at - top, top_at + top)],
        chain((80, 0), (110, 0), (110, 40), (80, 40)),
        [line((80, y), (110, y), "hidden") for y in (25 - side, 25 + side)],
    )


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"top": 8}, "The view above says 16, the front view 12."),
        ({"front": 8}, "The front view says 16, the view above 12."),
        ({"side": 5}, "The view on the right says 10, the front view 12."),
        ({"wide": 64}, "The view above says 64, the front view 60."),
        ({"top_at": 24}, "The view above says 18, the front view 14."),
    ],
)
def test_views_that_disagree_are_told_with_both_numbers(wrong: dict[str, float], says: str) -> None:
    sheet = check(prepare(bored()), bored(**wrong))
    assert len(sheet.causes) == 1
    assert sheet.causes[0].says.endswith(says)
    assert sheet.earned >= 92


def test_what_agrees_with_a_wrong_view_is_no_disagreement() -> None:
    sheet = check(prepare(bored()), bored(at=24, top_at=24))
    assert not any(" says " in c.says for c in sheet.causes)


def test_a_hole_that_two_views_show_otherwise_is_one_slip() -> None:
    sheet = check(prepare(bored()), bored(top=8, side=8))
    assert len(sheet.causes) == 1
    assert sheet.causes[0].says.endswith("The view above says 16, the front view 12.")
    apart = check(prepare(bored()), bored(top=8, side=5))
    assert len(apart.causes) == 2
