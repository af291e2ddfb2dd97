"""Slips of known story on random keys: found at their feature, charged once, and no untrue cause; a slice of
what `python -m bench.slips` tries."""

from __future__ import annotations

import random
from dataclasses import replace

import pytest
from bench.rounds import try_one
from bench.slips import run

from evenmark.core.drawing.model import Circle, Drawing, Line
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.demo import parts
from tests.builders import PLATE, chain, circle, drawing, line, marked


@pytest.mark.parametrize("by", ["feature", "sheet"])
@pytest.mark.parametrize(("slips", "once"), [(1, 0.97), (2, 0.95), (3, 0.9)])
def test_slips_are_found_charged_once_and_told_truly(by: str, slips: int, once: float) -> None:
    found = run(60, seed=20 + slips, by=by, slips=slips, show=False)
    drawings = sum(c.drawings for c in found.values())
    assert sum(c.found for c in found.values()) == drawings
    assert sum(c.untrue for c in found.values()) == 0
    assert sum(c.once for c in found.values()) >= once * drawings


def _moved(d: Drawing, inside: tuple[float, float, float, float], by: tuple[float, float]) -> Drawing:
    """Everything that lies in a box, moved."""
    x0, y0, x1, y1 = inside

    def at(e: Line | Circle) -> list[tuple[float, float]]:
        return [e.start, e.end] if isinstance(e, Line) else [e.center]

    out = [
        moved_entity(e, Similarity(shift=by))
        if isinstance(e, Line | Circle) and all(x0 <= x <= x1 and y0 <= y <= y1 for x, y in at(e))
        else e
        for e in d.entities
    ]
    return replace(d, entities=tuple(out))


PIN = drawing(
    PLATE[:4],
    circle((40, 25), 6),
    circle((40, 25), 9),
    circle((12, 12), 2),
    line((25, 25), (55, 25), "centre"),
    line((40, 10), (40, 40), "centre"),
)
SLOT = drawing(
    PLATE[:4], chain((20, 10), (30, 10), (30, 30), (20, 30)), circle((60, 25), 5), circle((60, 8), 2)
)
VIEWS = parts.shaft_bracket().drawing


@pytest.mark.parametrize(
    ("key", "inside", "by"),
    [
        (PIN, (24, 9, 56, 41), (2.3, 0.0)),
        (PIN, (24, 9, 56, 41), (-1.7, 2.9)),
        (SLOT, (19, 9, 31, 31), (0.0, 3.1)),
        (SLOT, (59, 24, 61, 26), (1.3, 1.1)),
        (VIEWS, (100, -10, 160, 60), (0.0, 3.0)),
    ],
)
@pytest.mark.parametrize("rules", [RuleSet(listing="feature"), RuleSet(listing="sheet")])
def test_what_was_moved_together_is_one_slip(
    key: Drawing,
    inside: tuple[float, float, float, float],
    by: tuple[float, float],
    rules: RuleSet,
) -> None:
    sheet = check(prepare(key, rules), _moved(key, inside, by))
    open_ = [f for f in sheet.findings if f.verdict in ("near", "missed", "absent")]
    if key is VIEWS:  # its arrangement and what it shares with the front view are asked, too
        open_ = [f for f in open_ if f.kind not in ("arrangement", "agreement")]
    assert len(open_) <= 1, open_
    assert sheet.earned >= 89


def test_nearly_everything_moved_is_the_whole_drawing() -> None:
    sheet = marked(PIN, _moved(PIN, (-1, -1, 99, 99), (3.3, 1.7)))
    assert [f.kind for f in sheet.findings if f.verdict == "missed"] == ["whole"]
    assert [c.code for c in sheet.causes] == ["shifted"]


@pytest.mark.parametrize("dx", [0.0, 7.0])
@pytest.mark.parametrize("by", [RuleSet(listing="feature"), RuleSet(listing="sheet")])
def test_what_touches_nothing_has_a_place(dx: float, by: RuleSet) -> None:
    key = drawing(PLATE[:4], line((20, 20), (50, 20)), circle((60, 30), 5))
    attempt = drawing(PLATE[:4], line((20 + dx, 13), (50 + dx, 13)), circle((60, 30), 5))
    sheet = check(prepare(key, by), attempt)
    assert [(f.kind, f.features) for f in sheet.findings if f.verdict == "missed"] == [("free-ends", ("e2",))]


def test_random_round_outlines_are_charged_once() -> None:
    """A slice of what `python -m bench.rounds` tries."""
    rng = random.Random(5)
    found = [try_one(rng) for _ in range(40)]
    once = [charged == 1 and there for _, charged, there, _, _ in found]
    assert sum(once) >= 39
    assert not {c for _, _, _, codes, _ in found for c in codes} - {
        "unexplained",
        "follows-edge",
        "wrong-fillet",
        "shifted",
    }
