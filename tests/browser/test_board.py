"""The board in the browser: drawn by typing and by pointing, handed in; nothing is lost."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from evenmark.core.construct.document import from_text, shown
from evenmark.demo.parts import KIT
from tests.browser.boarding import (
    Hands,
    at,
    begin,
    choose,
    kept,
    press,
    settled,
    step_act,
    type_all,
    values,
    write,
)
from tests.browser.test_axe import violations
from tests.extent import only_in_full


def test_the_crank_link_by_typing_alone(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Crank link, typed")
    text = (KIT / "crank-link.txt").read_text()
    document = from_text(text)
    values(page, [(i.name, i.says) for i in document.items if i.kind == "value"])
    for says in shown(document):
        write(page, says)
    mine = from_text(kept(page))
    assert shown(mine) == shown(document)
    page.get_by_role("button", name="Create key").click()
    expect(page.get_by_text("What counts")).to_be_visible()


def test_a_number_is_corrected_and_all_that_follows_moves(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Plate")
    write(page, "rectangle 0, 0; 80 by 50")
    write(page, "circle 20, 25; radius 8")
    write(page, "circle by 40, 0 from centre of circle 2; radius 5")
    row = page.locator("[data-step='2']")
    row.get_by_role("button").first.click()
    chosen = page.locator("[data-chosen]")
    expect(chosen).to_contain_text("circle 2")
    chosen.get_by_label("radius of circle 2").fill("9")
    chosen.get_by_label("radius of circle 2").press("Enter")
    expect(row).to_contain_text("radius 9")
    step_act(page, "Correct")
    field = page.get_by_label("what to do")
    expect(field).to_have_value("circle 20, 25; radius 9")
    field.fill("circle 22, 25; radius 9")
    expect(page.locator("[data-wants]")).to_contain_text("complete")
    field.press("Enter")
    expect(row).to_contain_text("22, 25")
    page.keyboard.press("Control+z")
    expect(row).to_contain_text("20, 25")
    page.keyboard.press("Control+y")
    expect(row).to_contain_text("22, 25")
    assert "circle 22, 25; radius 9" in kept(page)


def test_what_is_taken_away_is_asked_about_and_comes_back(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Taken away")
    write(page, "circle 0, 0; radius 8")
    write(page, "circle centre of circle 1; radius 5")
    page.locator("[data-step='1']").get_by_role("button").first.click()
    step_act(page, "Delete step")
    expect(page.get_by_text("Step 2 uses step 1")).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Delete step").click()
    expect(page.locator("[data-broken]")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-broken]")).to_have_count(0)
    expect(page.locator("[data-step]")).to_have_count(2)


def test_what_cannot_be_read_is_said_and_nothing_is_lost(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Wrong words")
    field = page.get_by_label("what to do")
    field.fill("circle 0, 0; radios 4")
    expect(page.locator("[data-refused]")).to_contain_text("radius or diameter")
    field.press("Enter")
    expect(page.locator("[data-refused]")).to_be_visible()
    expect(field).to_have_value("circle 0, 0; radios 4")
    field.fill("circle 0, 0; radius -4")
    expect(page.locator("[data-refused]")).to_contain_text("more than 0")


def test_typing_finds_a_kind_by_any_word(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Words")
    field = page.get_by_label("what to do")
    field.fill("round corner")
    expect(page.locator("[data-next] button").first).to_contain_text("fillet")
    field.press("Enter")
    expect(field).to_have_value("fillet ")
    field.press("Escape")
    expect(field).to_have_value("")


def test_a_plate_by_pointer_alone(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Plate, pointed")
    page.get_by_label("Grid").select_option("10")
    choose(page, "rectangle")
    press(page, 0, 0)
    press(page, 80, 50)
    expect(page.locator("[data-step]")).to_have_count(1)
    for n, (x, y) in enumerate(((10, 10), (70, 10), (70, 40), (10, 40)), 2):
        choose(page, "circle by centre and size")
        press(page, x, y)
        expect(page.get_by_label("what to do")).to_have_value(f"circle {x}, {y}; ")
        page.locator("[data-answers]").get_by_role("button", name="diameter").click()
        expect(page.get_by_label("what to do")).to_have_value(f"circle {x}, {y}; diameter ")
        expect(page.get_by_label("what to do")).to_be_focused()
        page.keyboard.type("6")
        page.get_by_role("button", name="Add step").click()
        expect(page.locator("[data-step]")).to_have_count(n)
    assert kept(page).splitlines() == [
        "unit mm",
        "rectangle 0, 0; 80, 50",
        *(f"circle {x}, {y}; diameter 6" for x, y in ((10, 10), (70, 10), (70, 40), (10, 40))),
    ]


def test_catches_and_answers_are_pointed(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Link, pointed")
    write(page, "circle 0, 0; radius 24")
    write(page, "circle 82, 0; radius 13")
    page.get_by_role("button", name="Fit").click()
    choose(page, "line tangent to two circles")
    press(page, 0, 24)
    press(page, 82, 13)
    press(page, 40, 19)
    expect(page.locator("[data-step]")).to_have_count(3)
    choose(page, "circle by centre and size")
    press(page, 0.3, 0.2)
    field = page.get_by_label("what to do")
    expect(field).to_have_value("circle centre of circle 1; ")
    expect(field).to_be_focused()
    page.keyboard.type("diameter 28")
    page.keyboard.press("Enter")
    expect(page.locator("[data-step]")).to_have_count(4)
    text = kept(page)
    assert "line tangent to circle 1; circle 2; outer left" in text
    assert "circle centre of circle 1; diameter 28" in text


def test_quick_hands_lose_nothing(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Quick")
    field = page.get_by_label("what to do")
    field.click()
    for n in range(6):
        page.keyboard.type(f"circle {10 * n}, 0; radius {n + 1}")
        page.keyboard.press("Enter")
    expect(page.locator("[data-step]")).to_have_count(6)
    assert [line.split("; ")[1] for line in kept(page).splitlines()[1:]] == [
        f"radius {n}" for n in range(1, 7)
    ]


def test_what_was_written_ahead_and_cannot_be_taken_waits(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Ahead")
    page.get_by_label("what to do").click()
    for says in ("circle centre of circle 7; radius 5", "tidy", "circle 0, 0; radius 4"):
        page.keyboard.type(says)
        page.keyboard.press("Enter")
    page.keyboard.type("line 0, 0")  # and types on
    expect(page.locator("[data-step]")).to_have_count(2)
    waits = page.locator("[data-not-taken] li")
    expect(waits).to_have_count(1)
    expect(waits).to_contain_text("There is no step 7 before this one.")
    waits.get_by_role("button", name="correct it").click()
    expect(page.get_by_label("what to do")).to_have_value("circle centre of circle 7; radius 5")
    expect(waits).to_have_count(0)


def test_a_lost_connection_loses_nothing(anyone: Any, faults: list[str]) -> None:
    page: Page = anyone("maren", "/exercises", worker=True)
    begin(page, "Offline")
    write(page, "circle 0, 0; radius 8")
    settled(page)
    expect(page.locator("[data-worker]")).to_have_attribute("data-worker", "ready", timeout=60_000)
    page.route("**/api/boards/*/acts", lambda r: r.abort())
    write(page, "circle centre of circle 1; radius 5")
    write(page, "circle centre of circle 1; radius 3")
    expect(page.locator("[data-saved]")).to_contain_text("kept in this browser")
    page.unroute("**/api/boards/*/acts")
    page.on("dialog", lambda d: d.accept())
    page.reload()
    expect(page.locator("[data-step]")).to_have_count(3)
    assert kept(page).count("centre of circle 1") == 2
    faults[:] = [f for f in faults if "ERR_FAILED" not in f]


def test_what_is_typed_while_nobody_can_be_asked_waits_in_order(anyone: Any, faults: list[str]) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Nobody there")
    write(page, "circle 0, 0; radius 8")
    settled(page)
    page.reload()
    expect(page.locator("[data-step]")).to_have_count(1)
    page.context.set_offline(True)
    page.get_by_label("what to do").click()
    for n in range(1, 11):
        page.keyboard.type(f"circle {10 * n}, 8; diameter {n}")
        page.keyboard.press("Enter")
    page.keyboard.type("circle 0, 0; radios 3")
    page.keyboard.press("Enter")
    page.keyboard.type("line 0, 0; 9")
    field = page.get_by_label("what to do")
    expect(field).to_have_value("line 0, 0; 9")
    expect(page.locator("[data-waiting] li")).to_have_count(11)
    expect(page.locator("[data-step]")).to_have_count(1)
    page.context.set_offline(False)
    expect(page.locator("[data-step]")).to_have_count(11)
    expect(page.locator("[data-waiting]")).to_have_count(0)
    expect(page.locator("[data-not-taken] li")).to_contain_text("radios 3")
    expect(field).to_have_value("line 0, 0; 9")
    assert [line.split("; ")[1] for line in kept(page).splitlines()[2:]] == [
        f"diameter {n}" for n in range(1, 11)
    ]
    # what was refused, and what was not finished, is there again after the page was closed
    url = page.url
    page.close(run_before_unload=False)
    again = page.context.new_page()
    again.goto(url)
    expect(again.get_by_label("what to do")).to_have_value("line 0, 0; 9")
    expect(again.locator("[data-not-taken] li")).to_contain_text("radios 3")
    faults[:] = [f for f in faults if "ERR_INTERNET_DISCONNECTED" not in f]


def test_signing_out_asks_about_what_is_not_saved(anyone: Any, faults: list[str]) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Left behind")
    write(page, "circle 0, 0; radius 8")
    settled(page)
    page.route("**/api/boards/*/a*", lambda r: r.abort())
    page.get_by_label("what to do").fill("circle 0, 0; radius 5")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Maren Oakes").click()
    page.get_by_role("menuitem", name="Sign out").click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("One step is kept in this browser alone")
    dialog.get_by_role("button", name="Cancel").click()
    page.unroute("**/api/boards/*/a*")
    page.get_by_role("button", name="Maren Oakes").click()
    page.get_by_role("menuitem", name="Sign out").click()
    expect(page.get_by_label("Sign-in name")).to_be_visible()
    assert page.evaluate("() => Object.keys(localStorage).filter((k) => k.includes('outbox'))") == []
    faults[:] = [f for f in faults if "ERR_FAILED" not in f]


def test_two_pages_are_told_apart_and_neither_list_is_lost(anyone: Any, faults: list[str]) -> None:
    page: Page = anyone("maren", "/exercises", worker=True)
    begin(page, "Two pages")
    write(page, "circle 0, 0; radius 8")
    settled(page)
    other = page.context.new_page()
    other.goto(page.url)
    expect(other.locator("[data-step]")).to_have_count(1)
    # a page that is drawn on follows in the other
    write(page, "circle 20, 0; radius 4")
    expect(other.locator("[data-step]")).to_have_count(2)
    other.route("**/api/boards/*/acts", lambda r: r.abort())
    expect(other.locator("[data-worker]")).to_have_attribute("data-worker", "ready", timeout=60_000)
    write(other, "line 0, 0; 9, 9")
    write(page, "line 0, 0; 9, -9")
    settled(page)
    other.unroute("**/api/boards/*/acts")
    expect(other.get_by_text("This drawing was changed in two tabs")).to_be_visible()
    other.get_by_role("region", name="Drawn in this tab").get_by_role("button", name="Use this list").click()
    expect(other.locator("[data-step='3']")).to_contain_text("9, 9")
    settled(other)
    expect(page.locator("[data-step='3']")).to_contain_text("9, 9")
    other.get_by_text("Set aside").click()
    expect(other.get_by_text("the list that was kept, 3 steps")).to_be_visible()
    faults[:] = [f for f in faults if "ERR_FAILED" not in f]


@only_in_full
def test_a_worker_that_crashes_is_replaced(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises", worker=True)
    begin(page, "Crashed")
    write(page, "circle 0, 0; radius 8")
    expect(page.locator("[data-worker]")).to_have_attribute("data-worker", "ready", timeout=60_000)
    page.workers[0].evaluate("close()")
    write(page, "circle 0, 0; radius 5")
    settled(page)
    expect(page.locator("[data-step]")).to_have_count(2)
    expect(page.locator("[data-worker]")).to_have_attribute("data-worker", "ready", timeout=60_000)


def test_a_student_draws_and_hands_in(anyone: Any) -> None:
    page: Page = anyone("priya", "/work")
    page.get_by_role("link", name="Gate plate, holes and slot").first.click()
    page.get_by_role("button", name="Draw it on the board").click()
    expect(page.get_by_label("what to do")).to_be_visible()
    text = (KIT / "gate-holes.txt").read_text()
    document = from_text(text)
    values(page, [(i.name, i.says) for i in document.items if i.kind == "value"])
    for says in shown(document):
        write(page, says)
    settled(page)
    page.get_by_role("button", name="Hand in …").click()
    page.locator("[data-hand-in]").click()
    expect(page).to_have_url(re.compile("/results/"))
    expect(page.get_by_text("100").first).to_be_visible()


def test_nothing_stands_against_anybodys_use_of_it(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "For everybody")
    assert violations(page) == []
    write(page, "circle 0, 0; radius 24")
    write(page, "circle 82, 0; radius 13")
    write(page, "circle centre of circle 1; radius 5")
    page.locator("[data-step='1']").get_by_role("button").first.click()
    expect(page.locator("[data-chosen]")).to_be_visible()
    assert violations(page) == []
    page.keyboard.press("Escape")
    page.get_by_label("what to do").fill("line tangent to circle 1; circle 2; ")
    expect(page.locator("[data-answers] button")).to_have_count(4)
    assert violations(page) == []
    page.get_by_label("what to do").fill("circle 0, 0; radios")
    expect(page.locator("[data-refused]")).to_be_visible()
    assert violations(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("button", name="values", exact=True).click()
    page.get_by_label("Name of a new value").fill("reach")
    page.get_by_label("What the new value is").fill("from 60 to 96 by 2")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_label("reach, from 60 to 96 by 2")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="close", exact=True).click()
    page.get_by_role("button", name="pad", exact=True).click()
    expect(page.locator("[data-pad]")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="pad", exact=True).click()
    row = page.locator("[data-step='1']")
    row.get_by_role("button").first.click()
    step_act(page, "Bookmark before")
    expect(page.get_by_role("button", name="Go back here: here")).to_be_visible()
    assert violations(page) == []
    page.locator("[data-step='3']").get_by_role("button").first.click()
    step_act(page, "Correct")
    page.get_by_label("what to do").fill("circle centre of circle 1; radius 6")
    expect(page.locator("[data-wants]")).to_contain_text("complete")
    assert violations(page) == []


def test_layers_measuring_and_pulling(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Layers")
    write(page, "line 0, 0; 60, 40")
    hands = Hands(page)
    hands.layer("centre")
    write(page, "circle 80, 20; radius 8")
    expect(page.locator("[data-step='2']")).to_contain_text("centre")
    page.get_by_role("button", name="layers").click()
    assert violations(page) == []
    page.get_by_label("centre is shown").uncheck()
    page.get_by_role("button", name="close").click()
    expect(page.get_by_text(", 1 hidden")).to_be_visible()
    # what is hidden is not chosen by pressing it, what is shown is
    press(page, 80, 28)
    expect(page.locator("[data-chosen]")).to_have_count(0)
    press(page, 30, 20)
    expect(page.locator("[data-chosen]")).to_contain_text("edge 1")
    # its end is pulled to another place
    page.get_by_label("Grid").select_option("10")
    page.mouse.move(*at(page, 60, 40))
    page.mouse.down()
    page.mouse.move(*at(page, 40, 45), steps=4)
    page.mouse.move(*at(page, 40, 50), steps=4)
    page.mouse.up()
    expect(page.locator("[data-step='1']")).to_contain_text("0, 0 · 40, 50")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-step='1']")).to_contain_text("0, 0 · 60, 40")
    page.get_by_label("Grid").select_option("0")
    page.get_by_role("button", name="measure", exact=True).click()
    press(page, 0, 0)
    press(page, 60, 40)
    measured = page.locator("[data-measuring]")
    expect(measured).to_contain_text("horizontal 60 mm · vertical 40 mm")
    assert violations(page) == []
    measured.get_by_role("button", name="Use in the sentence").click()
    expect(page.get_by_label("what to do")).to_have_value(re.compile(r"^distance of \("))
    page.get_by_role("button", name="measure", exact=True).click()
    expect(measured).to_have_count(0)
    assert violations(page) == []
    assert kept(page).count("\n") == 3


def test_on_a_phone_a_number_is_corrected(anyone: Any) -> None:
    page: Page = anyone(
        "maren", "/exercises", viewport={"width": 390, "height": 800}, has_touch=True, is_mobile=True
    )
    begin(page, "On a phone")
    type_all(page, ["rectangle 0, 0; 80 by 50", "circle 20, 25; radius 8"])
    sheet, row = page.locator("[data-sheet]"), page.locator("[data-step='2']")
    expect(sheet).to_be_in_viewport()
    row.scroll_into_view_if_needed()
    row.get_by_role("button").first.tap()
    number = page.get_by_label("radius of circle 2")
    number.fill("9.5")
    number.press("Enter")
    expect(row).to_contain_text("radius 9.5")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    assert violations(page) == []
    settled(page)


def test_a_board_is_printed_with_its_whole_list(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Printed")
    type_all(page, [f"circle {n * 5}, 0; radius 2" for n in range(30)])
    page.emulate_media(media="print")
    expect(page.get_by_label("what to do")).to_be_hidden()
    for n in (1, 30):
        expect(page.locator(f"[data-step='{n}']")).to_be_visible()
    sheet = page.locator("[data-sheet]").bounding_box()
    assert sheet is not None
    assert sheet["height"] > 300
    cut = page.locator("[data-steps]").evaluate("(list) => list.scrollHeight - list.clientHeight")
    assert cut <= 2
    page.emulate_media(media="screen")
