"""Drawings to follow: whoever presses what the marker shows and types what is said has drawn them."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.boarding import begin, draft, kept, settled
from tests.browser.test_axe import violations

LESSONS = {
    "A plate with a notch": "circle 80, 20; diameter 12",
    "A crank link": "circle centre of circle 2; radius 5",
    "A bracket": "slot 40, 10; 60, 10; width 8",
}
STANDS = """() => ['[data-follow]', '[data-steps]'].map((k) => document.querySelector(k)?.textContent)
  .concat(document.querySelector('[data-sentence] textarea').value).join('|')"""
"""What the page says of how far it is."""


def followed(page: Page) -> None:
    """Do what is said until the drawing is done."""
    box, field = page.locator("[data-follow]"), page.get_by_label("what to do")
    for _ in range(60):
        expect(page.locator("[data-sentence]")).to_have_attribute("data-read", "yes")
        before = page.evaluate(STANDS)
        how, says = box.get_attribute("data-how"), page.locator("[data-follow-says]").inner_text()
        if how == "done":
            return
        assert how != "astray", says
        if how == "kind":
            field.click()
            page.locator("[data-next] .marked").click()
        elif how == "press":
            mark = page.locator("[data-follow-mark] .dot").bounding_box()
            assert mark is not None
            x, y = mark["x"] + mark["width"] / 2, mark["y"] + mark["height"] / 2
            page.mouse.move(x - 4, y - 4)
            page.mouse.move(x, y)
            page.mouse.click(x, y)
        elif how == "type":
            found = re.search(r"Type (?:.*, )?([a-z]* ?\d+)\.", says)
            assert found is not None, says
            page.keyboard.type(found[1])
        else:
            page.keyboard.press("Enter")
        page.wait_for_function(f"before => ({STANDS})() !== before", arg=before)
    raise AssertionError("It never ends.")


@pytest.mark.parametrize("title", LESSONS)
def test_what_is_followed_is_drawn(anyone: Any, title: str) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Not yet")
    page.evaluate("localStorage.clear()")
    page.reload()
    page.locator("[data-follow-offer]").get_by_role("button", name=title).click()
    expect(page.locator("[data-follow]")).to_be_visible()
    assert violations(page) == []
    followed(page)
    lines = [line for line in kept(page).splitlines() if line and not line.startswith("unit")]
    assert LESSONS[title] in "\n".join(lines)
    expect(page.locator("[data-broken]")).to_have_count(0)
    page.get_by_role("button", name="Delete this practice and go back").click()
    expect(page).to_have_url(re.compile(r"/boards/\d+$"))
    expect(page.locator("[data-follow-offer]")).to_have_count(0)  # once is enough; it stands under help


def test_a_press_elsewhere_is_said_and_taken_back(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Not yet")
    page.get_by_role("button", name="help").click()
    expect(page.get_by_role("dialog")).to_contain_text("slot 0, 0 · 30, 8 · width 12")
    assert violations(page) == []
    page.get_by_role("dialog").get_by_role("button", name="A plate with a notch").click()
    box = page.locator("[data-follow]")
    expect(box).to_have_attribute("data-how", "kind")
    page.keyboard.type("chain ")
    expect(box).to_have_attribute("data-how", "press")
    mark = page.locator("[data-follow-mark] .dot").bounding_box()
    assert mark is not None
    page.mouse.click(mark["x"] + 90, mark["y"] - 60)
    expect(box).to_have_attribute("data-how", "astray")
    page.keyboard.press("Control+z")
    expect(box).to_have_attribute("data-how", "press")
    page.keyboard.press("Escape")
    page.keyboard.type("circle 0, 0; radius 4")
    expect(box).to_have_attribute("data-how", "astray")
    page.keyboard.press("Enter")
    expect(page.locator("[data-step]")).to_have_count(1)
    expect(page.locator("[data-follow-says]")).to_contain_text("a different step")
    page.keyboard.press("Control+z")
    expect(box).to_have_attribute("data-how", "kind")
    settled(page)
    page.get_by_role("button", name="Leave").click()
    expect(page).to_have_url(re.compile(r"/boards/\d+$"))


def test_the_example_of_a_kind_is_one_key_away(anyone: Any) -> None:
    page: Page = anyone("hana", "/work")
    draft(page, "Wheel hub")
    page.keyboard.press("Escape")
    field = page.get_by_label("what to do")
    field.fill("slot ")
    page.keyboard.press("?")
    expect(page.locator("[data-example]")).to_contain_text("slot 0, 0 · 30, 8 · width 12")
    expect(field).to_have_value("slot ")
    page.keyboard.press("?")
    expect(page.locator("[data-example]")).to_have_count(0)
    field.fill('text "WHY')
    page.keyboard.press("?")
    expect(field).to_have_value('text "WHY?')
    page.keyboard.press("Escape")
