"""Pointing on the board with real pointers, at several zooms: what was pressed is what is drawn."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.construct.state import plain
from tests.browser.boarding import at, begin, choose, draft, kept, press, settled, type_all

ZOOMS = (0, -120, 500)
"""How far the wheel is turned over the middle of the drawing: as fitted, larger, smaller."""


def zoom(page: Page, turned: float, x: float, y: float) -> None:
    page.mouse.move(*at(page, x, y))
    page.mouse.wheel(0, turned)
    page.wait_for_timeout(150)


def field(page: Page) -> Any:
    return page.get_by_label("what to do")


def last(page: Page) -> str:
    """The step that was added last, once it is saved."""
    return kept(page).splitlines()[-1]


@pytest.mark.parametrize("turned", ZOOMS)
@pytest.mark.parametrize("y", [30, -30])
def test_a_guide_is_level_with_what_the_pointer_rested_on(anyone: Any, turned: float, y: int) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Guides")
    type_all(page, [f"line -20, {y}; 20, {y}", "line 0, -40; 0, 40"])
    page.get_by_role("button", name="Fit").click()
    zoom(page, turned, 20, y)
    choose(page, "circle by centre and size")
    page.mouse.move(*at(page, 20, y))
    expect(page.locator("[data-caught]")).to_be_visible()
    page.wait_for_timeout(700)
    x, py = at(page, 20, y)
    page.mouse.move(x + 60, py + 4)
    expect(page.locator("[data-reach]")).to_contain_text("horizontal with end of edge 1")
    page.mouse.click(x + 60, py + 4)
    expect(field(page)).to_have_value(re.compile(r"^circle horizontal with \(end of edge 1\) vertical with "))
    page.keyboard.type("radius 2")
    field(page).press("Enter")
    expect(page.locator("[data-step]")).to_have_count(3)
    assert plain(build(from_text(kept(page))).evaluation.state.last)[1] == y  # type: ignore[arg-type]


@pytest.mark.parametrize("turned", ZOOMS)
def test_things_move_from_where_to_where(anyone: Any, turned: float) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Moved")
    type_all(page, ["line 10, 10; 20, 10", "circle 60, -10; radius 4"])
    page.get_by_role("button", name="Fit").click()
    zoom(page, turned, 35, 0)
    page.mouse.click(*at(page, 15, 10))
    expect(page.locator("[data-chosen]")).to_contain_text("edge 1")
    choose(page, "move")
    expect(field(page)).to_have_value("move edge 1 ")
    press(page, 10, 10)
    press(page, 60, -10)
    expect(page.locator("[data-step]")).to_have_count(3)
    assert last(page) == "move edge 1; from start of edge 1 to centre of circle 2"


def test_typed_numbers_begin_the_next_item_and_lengths_are_held(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Chain, both ways")
    page.get_by_label("Grid").select_option("10")
    choose(page, "chain of lines")
    press(page, 0, 0)
    page.mouse.move(*at(page, 60, 0.4))
    page.keyboard.type("120")
    press(page, 60, 0.4)
    expect(field(page)).to_have_value("chain 0, 0; right 120; ")
    page.keyboard.type("70")
    press(page, 120, 30)
    expect(field(page)).to_have_value("chain 0, 0; right 120; up 70; ")
    press(page, 0.3, 0.2)  # its own start
    expect(page.locator("[data-step]")).to_have_count(1)
    assert last(page) == "chain 0, 0; right 120; up 70; close"
    # in a list, too
    page.mouse.click(*at(page, 60, 0))
    choose(page, "copy")
    expect(field(page)).to_have_value("copy edge 1.1 ")
    page.keyboard.type("by 0, -20")
    field(page).press("Enter")
    expect(page.locator("[data-step]")).to_have_count(2)
    assert last(page) == "copy edge 1.1; by 0, -20"


def test_a_typed_length_goes_where_the_pointer_shows(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Aimed")
    choose(page, "chain of lines")
    press(page, 0, 0)
    page.keyboard.type("50")
    expect(field(page)).to_have_value("chain 0, 0; 50")
    expect(page.locator("[data-sentence]")).to_have_attribute("data-read", "yes")
    page.mouse.move(*at(page, 0.3, 20), steps=3)
    page.keyboard.press("Enter")
    expect(field(page)).to_have_value("chain 0, 0; up 50; ")
    page.keyboard.type("30")
    expect(page.locator("[data-sentence]")).to_have_attribute("data-read", "yes")
    page.mouse.move(*at(page, 20, 70), steps=3)
    page.keyboard.press("Enter")
    expect(field(page)).to_have_value("chain 0, 0; up 50; 30 toward 45; ")
    page.keyboard.type("10")
    expect(page.locator("[data-sentence]")).to_have_attribute("data-read", "yes")
    page.keyboard.press("ArrowDown")  # another answer is chosen: it counts, not the pointer
    page.keyboard.press("Enter")
    expect(field(page)).to_have_value(re.compile("30 toward 45; left 10"))
    page.keyboard.press("Escape")
    choose(page, "line from its middle")
    press(page, 10, 10)
    page.keyboard.type("20")
    expect(field(page)).to_have_value("line middle 10, 10; 20")
    expect(page.locator("[data-sentence]")).to_have_attribute("data-read", "yes")
    page.mouse.move(*at(page, 40, 10.2), steps=3)
    page.keyboard.press("Enter")
    expect(page.locator("[data-step]")).to_have_count(1)
    assert last(page) == "line middle 10, 10; 20 toward 0"


def pressed_until(page: Page, key: str, ends: tuple[str, int]) -> list[tuple[str, int]]:
    """Press a key until the sentence and the number of steps are some, each time waiting until it has done
    something; return what they were on the way."""
    seen: list[tuple[str, int]] = []
    for _ in range(8):
        said, steps = field(page).input_value(), page.locator("[data-step]").count()
        page.keyboard.press(key)
        page.wait_for_function(
            """([said, steps]) => document.querySelector('[data-sentence] textarea').value !== said
                || document.querySelectorAll('[data-step]').length !== steps""",
            arg=[said, steps],
        )
        seen.append((field(page).input_value(), page.locator("[data-step]").count()))
        if seen[-1] == ends:
            return seen
    raise AssertionError(seen)


def test_undo_goes_by_press_and_word_then_by_step_and_redo_the_same_way(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Undo")
    type_all(page, ["circle 20, 10; radius 34"])
    page.get_by_role("button", name="Fit").click()
    page.get_by_label("Grid").select_option("10")
    choose(page, "chain of lines")
    press(page, 0, 0)
    press(page, 50, 0)
    page.keyboard.type("up 20")  # quicker than the presses are worked out
    expect(field(page)).to_have_value("chain 0, 0; 50, 0; up 20")
    seen = pressed_until(page, "Control+z", ("", 0))
    # what was typed while a press was worked out is taken back at once
    assert seen[0][0] in ("chain 0, 0; 50, 0; up", "chain 0, 0; 50, 0; ")
    assert ("chain 0, 0; ", 1) in seen
    expect(page.locator("[data-step]")).to_have_count(0)
    expect(field(page)).to_have_value("")
    pressed_until(page, "Control+y", ("chain 0, 0; 50, 0; up 20", 1))


def test_keys_repeat_and_open_where_nothing_is_written(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Keys")
    type_all(page, ["circle 0, 0; radius 8"])
    page.locator("[data-sheet]").focus()
    page.keyboard.press("=")
    expect(field(page)).to_have_value("circle ")
    page.keyboard.press("Escape")
    field(page).focus()
    page.keyboard.press("=")
    expect(field(page)).to_have_value("circle ")
    page.keyboard.press("Escape")
    page.locator("[data-sheet]").focus()
    page.keyboard.press("/")
    expect(page.locator("[data-next]")).to_be_visible()
    expect(field(page)).to_be_focused()
    # what has no use for what is chosen ignores it
    page.keyboard.press("Escape")
    page.mouse.click(*at(page, 8, 0))
    expect(page.locator("[data-chosen]")).to_contain_text("circle 1")
    choose(page, "line")
    expect(field(page)).to_have_value("line ")
    page.keyboard.press("Escape")
    page.mouse.click(*at(page, 8, 0))
    page.locator("[data-sheet]").focus()
    page.keyboard.press("Delete")
    expect(page.locator("[data-step]")).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(page.locator("[data-step]")).to_have_count(1)


def test_refusals_show_what_may_be_meant(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Meant")
    field(page).fill("circle 60,40; 8")
    expect(page.locator("[data-readings] button")).to_have_count(2)
    page.locator("[data-readings]").get_by_role("button", name="diameter 8").click()
    expect(page.locator("[data-step]")).to_have_count(1)
    page.keyboard.type("line 0,0 to 100,0\ncircle 10 10 Ø12\n")
    expect(page.locator("[data-step]")).to_have_count(3)
    page.keyboard.type("circle 5,5; 4\n")
    expect(page.locator("[data-refused], [data-not-taken]").first).to_be_visible()
    settled(page)
    assert kept(page).splitlines()[-3:] == [
        "circle 60,40; diameter 8",
        "line 0,0; 100,0",
        "circle 10, 10; diameter 12",
    ]


def test_several_pasted_lines_are_several_steps(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Pasted")
    field(page).click()
    pasted = "rectangle 0, 0; 80 by 50\n# holes\ncircle 20, 25; radius 6\n\ncircle 60, 25; r 6\n"
    page.evaluate(
        """(text) => {
          const data = new DataTransfer();
          data.setData('text', text);
          const pasted = {clipboardData: data, bubbles: true, cancelable: true};
          document.activeElement.dispatchEvent(new ClipboardEvent('paste', pasted));
        }""",
        pasted,
    )
    expect(page.locator("[data-step]")).to_have_count(3)
    assert last(page) == "circle 60, 25; radius 6"


def test_a_frame_says_what_it_takes_and_a_key_switches_it(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Frames")
    type_all(page, ["circle 0, 0; radius 5", "line -20, 0; 40, 0"])
    page.get_by_role("button", name="Fit").click()

    def drag(*keys: str) -> None:
        page.get_by_role("button", name="frame", exact=True).click()
        page.mouse.move(*at(page, -8, -8))
        page.mouse.down()
        page.mouse.move(*at(page, 0, 0))
        page.mouse.move(*at(page, 8, 8))
        for key in keys:
            page.keyboard.press(key)

    drag()
    expect(page.locator("[data-frame]")).to_contain_text("wholly inside")
    page.mouse.up()
    expect(page.locator("[data-chosen]")).to_contain_text("circle 1")
    expect(page.locator("[data-chosen]")).not_to_contain_text("edge 2")
    page.keyboard.press("Escape")
    drag("Tab")
    expect(page.locator("[data-frame]")).to_contain_text("what it touches, too")
    page.mouse.up()
    expect(page.locator("[data-chosen]")).to_contain_text("2 selected")
    page.keyboard.press("Escape")
    # by keys alone; what was switched holds
    page.get_by_role("button", name="frame", exact=True).click()
    page.locator("[data-sheet]").focus()
    page.mouse.move(*at(page, -8, -8))
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowRight")
    for _ in range(6):
        page.keyboard.press("ArrowRight")
        page.keyboard.press("ArrowUp")
    page.keyboard.press("Tab")
    expect(page.locator("[data-frame]")).to_contain_text("wholly inside")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.locator("[data-chosen]")).to_be_visible()


def test_the_list_and_the_drawing_are_one(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "One")
    type_all(
        page,
        [*(f"circle {12 * n}, 0; radius {n % 4 + 1}" for n in range(24)), "centre mark circle 1; past 2"],
    )
    page.get_by_role("button", name="Fit").click()
    page.mouse.click(*at(page, 0.6, 0.8))  # circle 1, of radius 1, at the top of a long list
    expect(page.locator("[data-step='1']")).to_be_in_viewport()
    page.locator("[data-step='1']").hover()
    page.get_by_label("Find a step").fill("centre")
    expect(page.locator("[data-step]")).to_have_count(1)
    page.locator("[data-step='25'] .named").click()
    expect(page.locator("[data-chosen]")).to_contain_text("circle 1")
    page.get_by_label("Find a step").fill("")
    expect(page.locator("[data-step]")).to_have_count(25)
    page.locator("[data-step='1'] strong").nth(2).dblclick()
    expect(field(page)).to_have_value("circle 0, 0; radius 1")
    assert field(page).evaluate("f => f.value.slice(f.selectionStart, f.selectionEnd)") == "1"
    page.keyboard.press("Escape")
    rows = page.locator("[data-steps]").bounding_box()
    field(page).click()
    expect(page.locator("[data-next]")).to_be_visible()
    assert rows is not None
    again = page.locator("[data-steps]").bounding_box()
    assert again is not None
    assert again["height"] >= 8 * 36


def test_handing_in_shows_first_what_was_understood(anyone: Any) -> None:
    page: Page = anyone("hana", "/work")
    draft(page, "Wheel hub")
    type_all(page, ["rectangle 0, 0; 100, 60"])
    field(page).fill("circle 10, 1")
    tries = page.request.get("/api/work").json()["work"]
    page.get_by_role("button", name="Hand in …").click()
    shown = page.locator("[data-understood]")
    expect(shown).to_contain_text("4 edges")
    expect(shown.locator("[data-unfinished]")).to_contain_text("circle 10, 1")
    page.get_by_role("button", name="Keep drawing").click()
    expect(field(page)).to_have_value("circle 10, 1")
    assert page.request.get("/api/work").json()["work"] == tries  # nothing was used up


def test_area_and_perimeter_by_a_press_inside(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Area")
    type_all(page, ["rectangle -40, -30; 40 by 30", "circle -20, -15; radius 5"])
    page.get_by_role("button", name="Fit").click()
    page.get_by_role("button", name="measure", exact=True).click()
    box = page.locator("[data-measuring]")
    box.get_by_role("button", name="area and perimeter").click()
    press(page, -35, -25)
    for says in ("perimeter 140 mm", "around cut-outs ≈31.416 mm", "area ≈1121.46 mm²"):
        expect(box.get_by_role("listitem")).to_contain_text(says)
    press(page, 3, -15)
    expect(box.get_by_role("alert")).to_be_visible()


def test_numbers_with_a_decimal_comma_for_whom_wants_them(anyone: Any) -> None:
    page: Page = anyone("maren", "/account")
    comma = page.get_by_label(re.compile("^Decimal comma"))
    comma.check()
    expect(page.get_by_role("status")).to_contain_text("three and a half")
    try:
        page.goto("/exercises")
        begin(page, "Commas")
        field(page).click()
        page.keyboard.type("circle 3,5; 4,25; diameter 2,5", delay=15)
        expect(field(page)).to_have_value("circle 3.5, 4.25; diameter 2.5")
        page.keyboard.press("Enter")
        expect(page.locator("[data-step]")).to_have_count(1)
        page.keyboard.insert_text("line 0 0; 10,5 5")  # quicker than it is read
        page.keyboard.press("Enter")
        expect(page.locator("[data-step]")).to_have_count(2)
        assert kept(page).splitlines()[-2:] == ["circle 3.5, 4.25; diameter 2.5", "line 0, 0; 10.5, 5"]
    finally:
        page.goto("/account")
        comma.uncheck()
        expect(page.get_by_role("status")).to_contain_text("separates two coordinates")
