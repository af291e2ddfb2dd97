"""A random hand with a real pointer: what it presses is in what is drawn, as near as the pointer catches, or
the page had said another place. `tests.random_hand` does the same to the core, for every kind of sentence."""

from __future__ import annotations

import os
import random
import re
from datetime import UTC, datetime
from typing import Any, NamedTuple

import pytest
from playwright.sync_api import Page, expect

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.near import distance_to
from evenmark.core.construct.document import from_text
from evenmark.core.geometry.points import distance
from tests.browser.boarding import at, begin, choose, kept, type_all
from tests.random_hand import REACH_PX, named_features, said_points, some_sentences

KINDS = (
    "line",
    "chain of lines",
    "circle by centre and size",
    "rectangle",
    "arc by centre",
    "arc through three points",
    "circle across two points",
    "circle through three points",
    "regular polygon",
    "slot with round ends",
    "line from its middle",
    "named point",
    "perpendicular to a line",
    "parallel",
    "move",
    "dimension between two points",
)
NUMBER = r"-?[\d.]+"
SIZE = re.compile(
    rf"[;\s]*(gap|width|length)\b|(?<=turn)\s*{NUMBER}$|[;\s]*({NUMBER}|left|right|inside|outside)$"
)
"""What a press says that lies at no place of its own."""
TRIES = int(os.environ.get("EVENMARK_HAND_TRIES", "4"))
"""Sentences at each zoom."""
MOST_PRESSES = 6


class Press(NamedTuple):
    """A press: at which place, which the page had said, how wide a pixel was, and what was written."""

    at: tuple[float, float]
    said: tuple[float, float] | None
    pixel: float
    words: str
    before: str


@pytest.mark.parametrize("turned", [0, -240, 500])
def test_what_is_pressed_is_drawn(anyone: Any, turned: float) -> None:
    seed = os.environ.get("EVENMARK_HAND_SEED") or f"{datetime.now(UTC):%Y-%m-%d}"
    rng = random.Random(f"{seed} {turned}")
    page: Page = anyone("maren", "/exercises")
    begin(page, "A random hand")
    type_all(page, some_sentences(rng).splitlines())
    page.get_by_role("button", name="Fit").click()
    page.mouse.move(*at(page, rng.uniform(-40, 20), rng.uniform(-30, 10)))
    page.mouse.wheel(0, turned)
    page.wait_for_timeout(250)
    page.get_by_label("Grid").select_option(rng.choice(["0", "10"]))
    drawn = 0
    for n in range(TRIES):
        kind = rng.choice(KINDS)
        presses = hand(page, rng, kind)
        if presses is None:
            page.get_by_label("what to do").focus()
            for _ in range(3):
                page.keyboard.press("Escape")
            expect(page.get_by_label("what to do")).to_have_value("")
            continue
        drawn += 1
        text = kept(page)
        after = [*(p.before for p in presses[1:]), text.splitlines()[-1].partition("; layer")[0]]
        led = [(p, a.removeprefix(p.before.rstrip(" ;"))) for p, a in zip(presses, after, strict=True)]
        wrong = [w for w in (lost(text, p) for p, a in led if not SIZE.match(a)) if w]
        assert not wrong, f"{seed} {turned} {n}: {kind}: {text.splitlines()!r}: {wrong}"
    assert drawn


def hand(page: Page, rng: random.Random, kind: str) -> list[Press] | None:
    """Press at random until a sentence of a kind is added; None where it came to nothing."""
    count, presses = page.locator("[data-step]").count(), []
    choose(page, kind)
    field, sheet = page.get_by_label("what to do"), page.locator("[data-sheet]")
    sentence = page.locator("[data-sentence]")
    box = sheet.bounding_box()
    assert box is not None
    for _ in range(MOST_PRESSES):
        x, y = somewhere(page, rng, box)
        page.mouse.move(x + rng.uniform(-40, 40), y + rng.uniform(-40, 40))
        page.mouse.move(x, y, steps=rng.randint(1, 4))
        patient = rng.random() < 0.6
        said, words = None, ""
        if patient:
            page.wait_for_timeout(200)
            said, words = says(page)
        before = field.input_value()
        press = Press(place(page, x, y), place(page, *said) if said else None, width(page), words, before)
        page.mouse.click(x, y)
        expect(sentence).to_have_attribute("data-read", "yes")
        if page.locator("[data-step]").count() > count:
            presses.append(press)
            return presses
        if not field.input_value():
            return None  # refused, and said so
        if field.input_value() != before:
            presses.append(press)
        if page.locator("[data-wants]").text_content() and rng.random() < 0.5:
            field.focus()
            whole = "complete" in (page.locator("[data-wants]").text_content() or "")
            if whole:
                page.keyboard.press("Enter")
                expect(sentence).to_have_attribute("data-read", "yes")
                page.wait_for_timeout(100)
                return presses if page.locator("[data-step]").count() > count else None
    return None


def width(page: Page) -> float:
    """Return how wide a pixel is, in units of the drawing."""
    return 1 / (at(page, 1, 0)[0] - at(page, 0, 0)[0])


def place(page: Page, x: float, y: float) -> tuple[float, float]:
    """Return which place of the drawing is at one of the screen."""
    (x0, y0), pixel = at(page, 0, 0), width(page)
    return (x - x0) * pixel, (y0 - y) * pixel


def somewhere(page: Page, rng: random.Random, box: Any) -> tuple[float, float]:
    """Return a place on the sheet, mostly near what is drawn."""
    for _ in range(20):
        x, y = at(page, rng.uniform(-60, 60), rng.uniform(-50, 50))
        if rng.random() < 0.1:
            x = box["x"] + rng.uniform(0.1, 0.9) * box["width"]
        inside = box["x"] + 20 < x < box["x"] + box["width"] - 60
        if inside and box["y"] + 90 < y < box["y"] + box["height"] - 90:
            return x, y
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def says(page: Page) -> tuple[tuple[float, float] | None, str]:
    """Return the place on the screen that the page says would be pressed, and in which words."""
    found = page.evaluate(
        """() => {
          const caught = document.querySelector('[data-caught]');
          if (!caught) return null;
          const [x, y] = caught.getAttribute('transform').match(/-?\\d+(\\.\\d+)?/g).map(Number);
          const box = caught.ownerSVGElement.getBoundingClientRect();
          const meant = document.querySelector('[data-reach] .meant') ?? caught;
          return [box.left + x, box.top + y, meant.textContent.trim()];
        }"""
    )
    return ((found[0], found[1]), found[2]) if found else (None, "")


def lost(text: str, press: Press) -> str:
    """Say that a pressed place is nowhere in the step that was drawn last, nor the one that was said."""
    head, _, says = text.rstrip().rpartition("\n")
    before, after = (BoardDocument(from_text(t)) for t in (head, text))
    step = after.document.steps[-1].id
    made = [f for f in after.evaluation.state.standing() if f.ref.step == step]
    points = said_points(before, says)
    for spot, near in ((press.at, REACH_PX * 1.3), (press.said, 2.0)):
        if spot is None:
            continue
        reach = near * press.pixel
        if any(distance(p, spot) <= reach for p in points):
            return ""
        if any(distance_to(f, spot) <= reach for f in (*made, *named_features(before, says))):
            return ""
    return f"{press} is not in it"
