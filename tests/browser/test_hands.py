"""Hands, eyes and small screens: the keyboard alone for both roles, a phone, zoom, long names, and a grid
that answers at once."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from evenmark.demo.plans import PASSWORD
from tests.browser.boarding import widest

PHONE = {"viewport": {"width": 390, "height": 800}, "has_touch": True, "is_mobile": True}


def tab_to(page: Page, role: str, name: str | re.Pattern[str], most: int = 80) -> None:
    """Go on by the tab key alone until the focus is on something of a role and name."""
    wanted = page.get_by_role(role, name=name).first  # type: ignore[arg-type]
    expect(wanted).to_be_attached()
    for _ in range(most):
        page.keyboard.press("Tab")
        if wanted.evaluate("e => e === document.activeElement"):
            return
    raise AssertionError(f"{role} {name} is not reached by the tab key")


def sign_in(page: Page, who: str) -> None:
    tab_to(page, "textbox", "Sign-in name")
    page.keyboard.type(who)
    page.keyboard.press("Tab")
    page.keyboard.type(PASSWORD)
    page.keyboard.press("Enter")


def test_an_instructor_by_the_keyboard_alone(anyone: Any) -> None:
    page: Page = anyone()
    sign_in(page, "maren")
    expect(page.get_by_role("heading", name="Desk")).to_be_visible()
    tab_to(page, "link", re.compile("Gate plate, holes"))
    page.keyboard.press("Enter")
    expect(page.get_by_role("grid")).to_be_visible()
    expect(page.locator("main")).to_be_focused()
    expect(page.locator("[data-announced]")).to_have_text(
        "Gate plate, holes and slot, Group A · Class results · Even Mark"
    )
    tab_to(page, "grid", "Students by checks")
    for key in ("ArrowDown", "ArrowDown", "ArrowRight", "ArrowRight"):
        page.keyboard.press(key)
    expect(page.locator("[data-reading]")).to_contain_text("Otto Lindqvist")
    page.keyboard.press("Enter")
    page.wait_for_url("**/marking/*")
    expect(page.get_by_role("heading", name="Inspection list")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("o")
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("heading")).to_contain_text("Change the verdict")
    while page.evaluate("document.activeElement.getAttribute('role')") != "radio":
        page.keyboard.press("Tab")
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Enter")  # a row of choices neither sends nor closes
    expect(dialog.get_by_role("heading")).to_be_visible()
    tab_to(page, "textbox", re.compile("Reason"))
    page.keyboard.type("Seen by hand.")
    page.keyboard.press("Enter")
    expect(dialog).to_have_count(0)
    expect(page.get_by_text("Seen by hand.").first).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.locator("tr", has_text="Seen by hand.")).to_have_count(0)

    page.keyboard.press("c")  # a pin, placed by keys
    expect(dialog.get_by_role("heading")).to_have_text("Comment")
    page.keyboard.type("Look here.")
    while page.evaluate("document.activeElement.getAttribute('role')") != "radio":
        page.keyboard.press("Tab")
    for _ in range(4):  # going through the choices leads nowhere by itself
        page.keyboard.press("ArrowRight")
    expect(dialog.get_by_role("heading")).to_have_text("Comment")
    while not page.get_by_role("radio", name="A place").is_checked():
        page.keyboard.press("ArrowRight")
    tab_to(page, "button", "Click it on the drawing")
    page.keyboard.press("Enter")
    expect(page.locator("[data-cross]")).to_be_visible()
    expect(page.get_by_role("group", name=re.compile("Drawing of"))).to_be_focused()
    for key in ("ArrowUp", "ArrowLeft", "Shift+ArrowLeft"):
        page.keyboard.press(key)
    page.keyboard.press("Enter")
    expect(dialog.get_by_role("heading")).to_have_text("Comment")
    tab_to(page, "button", "Add comment")
    page.keyboard.press("Enter")
    expect(dialog).to_have_count(0)
    expect(page.locator("[data-pin]")).to_have_count(1)
    page.keyboard.press("Control+z")
    expect(page.locator("[data-pin]")).to_have_count(0)


def test_a_student_by_the_keyboard_alone(anyone: Any) -> None:
    page: Page = anyone()
    page.on("filechooser", lambda _: None)  # listened for early: a chooser that opens before that is lost
    sign_in(page, "tamsin")
    expect(page.get_by_role("heading", name="My work")).to_be_visible()
    page.reload()
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="To the content")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("main")).to_be_focused()
    tab_to(page, "link", re.compile("Gate plate, holes"))
    page.keyboard.press("Enter")
    box = page.get_by_label("Choose your drawing")
    expect(box).to_be_attached()
    expect(page.locator("main")).to_be_focused()  # the new page has taken the focus
    for _ in range(120):
        page.keyboard.press("Tab")
        if box.evaluate("e => e === document.activeElement"):
            break
    expect(box).to_be_focused()
    with page.expect_file_chooser() as chooser:
        page.keyboard.press("Enter")
    drawing = write_dxf(parts.gate_holes().drawing, Manner())
    chooser.value.set_files({"name": "mine.dxf", "mimeType": "application/dxf", "buffer": drawing})
    expect(page.get_by_role("heading", name=re.compile("What was understood of mine.dxf"))).to_be_visible()
    expect(page.locator("[data-overall]")).to_contain_text("mm")
    tab_to(page, "button", re.compile("^Hand in ·"))
    page.keyboard.press("Enter")
    page.wait_for_url("**/results/*")
    expect(page.get_by_role("heading", name="Inspection list")).to_be_visible(timeout=30_000)
    tab_to(page, "button", "Finding 3")
    page.keyboard.press("Enter")
    expect(page.locator("tr[aria-current]")).to_have_count(1)


def test_a_phone_shows_drawing_and_words_together(anyone: Any) -> None:
    page: Page = anyone("wren", "/work", **PHONE)
    page.get_by_role("link", name=re.compile("Gate plate, holes")).first.click()
    page.get_by_role("link", name=re.compile("Try 1")).click()
    finding = page.locator("tbody tr.cursor-pointer").first
    expect(finding).to_be_visible()
    finding.click()
    drawing = page.locator("[data-drawing]")
    row = page.locator("tr[aria-current]")
    page.wait_for_timeout(300)
    top, below = drawing.bounding_box(), row.bounding_box()
    assert top is not None
    assert below is not None
    assert top["y"] >= -1
    assert top["y"] + top["height"] <= below["y"] + 1  # the row is not under the drawing
    assert below["y"] < 800
    expect(page.locator(".balloon.picked")).to_have_count(1)


def _scale(page: Page) -> float:
    box = page.locator("[role=group] > svg").first.get_attribute("viewBox") or ""
    return 1 / float(box.split()[2])


def test_a_drawing_is_enlarged_by_two_fingers_and_by_buttons(anyone: Any) -> None:
    page: Page = anyone("wren", "/work", **PHONE)
    page.get_by_role("link", name=re.compile("Gate plate, holes")).first.click()
    page.get_by_role("link", name=re.compile("Try 1")).click()
    sheet = page.get_by_role("group", name="Your drawing")
    expect(sheet).to_be_visible()
    page.wait_for_timeout(300)
    before = _scale(page)
    page.get_by_role("button", name="Enlarge the drawing").tap()
    assert _scale(page) == pytest.approx(before * 1.5)
    page.get_by_role("button", name="Make the drawing smaller").tap()
    assert _scale(page) == pytest.approx(before)
    box = sheet.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    client = page.context.new_cdp_session(page)

    def touch(kind: str, apart: float) -> None:
        points = (
            []
            if kind == "touchEnd"
            else [{"x": x - apart, "y": y, "id": 1}, {"x": x + apart, "y": y, "id": 2}]
        )
        client.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    touch("touchStart", 30)
    for apart in (40, 50, 60):
        touch("touchMove", apart)
    touch("touchEnd", 0)
    assert _scale(page) == pytest.approx(before * 2, rel=0.05)


def test_the_lens_is_there_on_a_phone(anyone: Any) -> None:
    page: Page = anyone("felix", "/work", **PHONE)
    page.get_by_role("link", name=re.compile("Crank link")).first.click()
    page.get_by_role("link", name=re.compile("Try 1")).click()
    page.locator("tbody tr.cursor-pointer", has_text="ends meet").first.click()
    expect(page.locator("[data-lens]")).to_be_visible()
    expect(page.locator("[data-lens]")).to_contain_text("0.018 mm apart")


def test_single_letters_can_be_switched_off(anyone: Any) -> None:
    page: Page = anyone("maren", "/issues/4")
    page.get_by_role("link", name="Review drawings").click()
    expect(page.get_by_role("heading", name="Inspection list")).to_be_visible()
    page.keyboard.press("?")
    page.get_by_label("Single letters work as shortcuts").uncheck()
    page.get_by_role("button", name="Close").click()
    page.keyboard.press("c")
    page.wait_for_timeout(200)
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("ArrowDown")  # no letter
    expect(page.locator("tr[aria-current]")).to_have_count(1)
    page.reload()
    expect(page.get_by_role("heading", name="Inspection list")).to_be_visible()
    page.keyboard.press("c")
    page.wait_for_timeout(200)
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="all keys").click()
    page.get_by_label("Single letters work as shortcuts").check()
    page.get_by_role("button", name="Close").click()
    page.keyboard.press("c")
    expect(page.get_by_role("dialog").get_by_role("heading")).to_be_visible()


@pytest.mark.parametrize("size", [(1280, 800), (640, 400), (1023, 700)], ids=str)
def test_the_exercise_page_fits_and_its_settings_are_reached(anyone: Any, size: tuple[int, int]) -> None:
    page: Page = anyone("maren", "/exercises/2", viewport={"width": size[0], "height": size[1]})
    settings = page.get_by_role("button", name=re.compile("Tolerances and placement"))
    expect(settings).to_be_visible()
    if size[0] >= 1024:  # nothing beyond the window but empty desk would be there
        assert page.evaluate("document.documentElement.scrollHeight <= innerHeight")
    settings.scroll_into_view_if_needed()
    settings.click()
    field = page.get_by_label("Sizes")
    field.scroll_into_view_if_needed()
    expect(field).to_be_in_viewport()
    box = field.bounding_box()
    assert box is not None
    assert box["width"] > 40
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")


WIDE = {"students": 60, "checks": 134}


def _grown(answer: dict[str, Any]) -> dict[str, Any]:
    """A class of sixty by 134 checks, out of one of six."""
    row = next(s for s in answer["students"] if s["cells"])
    check = answer["checks"][0]
    answer["checks"] = [
        {**check, "id": n + 1, "name": f"Edge {n + 1}, length"} for n in range(WIDE["checks"])
    ]
    answer["students"] = [
        {
            **row,
            "student_id": 1000 + n,
            "name": f"Student {n:02}",
            "cells": ["met" if (n + c) % 7 else "missed" for c in range(WIDE["checks"])],
        }
        for n in range(WIDE["students"])
    ]
    return answer


def test_moving_in_the_grid_changes_no_rows(anyone: Any) -> None:
    page: Page = anyone("maren")
    page.route("**/api/issues/4/results", lambda r: r.fulfill(json=_grown(r.fetch().json())))
    page.goto("/issues/4?order=number")
    grid = page.get_by_role("grid")
    expect(grid.locator("[data-cell]")).to_have_count(WIDE["students"] * WIDE["checks"])
    grid.focus()
    page.keyboard.press("ArrowDown")
    page.evaluate(
        """() => { window.rows = new Set();
        new MutationObserver(all => all.forEach(m => {
            const row = m.target.closest('tbody tr');
            if (row) window.rows.add(row.rowIndex);
          }))
          .observe(document.querySelector('[role=grid] tbody'), {
            subtree: true, childList: true, attributes: true, characterData: true,
          }); }"""
    )
    for _ in range(5):
        page.keyboard.press("ArrowDown")
    expect(page.locator("[data-reading]")).to_contain_text("Student 06")
    assert page.evaluate("window.rows.size") == 0


def test_place_and_order_of_the_grid_survive_going_back(anyone: Any) -> None:
    page: Page = anyone("maren", "/issues/4")
    page.get_by_role("button", name=re.compile("^Students:")).click()
    page.get_by_role("option", name="lowest marks first").click()
    page.get_by_role("button", name=re.compile("^Checks:")).click()
    page.get_by_role("option", name="most missed first").click()
    page.get_by_role("grid").focus()
    for key in ("ArrowDown", "ArrowDown", "ArrowRight", "ArrowRight", "ArrowRight"):
        page.keyboard.press(key)
    said = page.locator("[data-reading]").inner_text()
    page.keyboard.press("Enter")
    page.wait_for_url("**/marking/*")
    expect(page.get_by_role("heading", name="Inspection list")).to_be_visible()
    page.go_back()
    expect(page.locator("[data-reading]")).to_have_text(said)
    expect(page.get_by_role("grid")).to_be_focused()
    expect(page.get_by_role("button", name="Students: lowest marks first")).to_be_visible()
    expect(page.get_by_role("button", name="Checks: most missed first")).to_be_visible()


LONG_TITLE = ("Sluice gate plate with fixing holes, lifting slot and chamfered corners " * 3)[:160].strip()
LONG_NAME = ("Maximiliana Theodora Featherstonehaugh " * 3)[:95].strip()


def _lengthened(value: Any) -> Any:
    """The same answer with the longest titles and names that there can be."""
    if isinstance(value, list):
        return [_lengthened(v) for v in value]
    if not isinstance(value, dict):
        return value
    names = {
        "title": LONG_TITLE,
        "name": LONG_NAME,
        "student": LONG_NAME,
        "class_name": LONG_NAME,
        "file_name": LONG_NAME.replace(" ", "_") + ".dxf",
    }
    return {
        k: names[k]
        if k in names
        and isinstance(v, str)
        and not (k in ("title", "name") and ({"code", "marks", "colour", "kind"} & set(value)))
        else _lengthened(v)
        for k, v in value.items()
    }


@pytest.mark.parametrize(
    ("who", "path"),
    [
        ("maren", "/desk"),
        ("maren", "/exercises"),
        ("maren", "/exercises/2"),
        ("maren", "/classes"),
        ("maren", "/classes/1"),
        ("maren", "/issues/4"),
        ("maren", "/issues/4?view=list"),
        ("maren", "/issues/4/hand-in"),
        ("maren", "/marking/20"),
        ("wren", "/work"),
        ("wren", "/work/1"),
        ("wren", "/results/1"),
    ],
)
def test_long_names_and_titles_stay_on_the_page(anyone: Any, who: str, path: str) -> None:
    page: Page = anyone(who, viewport={"width": 1280, "height": 800})
    page.route(re.compile(r"/api/(?!session).*"), lambda r: _long(r))
    page.goto(path)
    expect(page.locator("h1").first).to_be_attached()
    page.wait_for_load_state("networkidle")
    for width in (1280, 1024, 390):
        assert widest(page, width) <= width, width


def _long(route: Any) -> None:
    answer = route.fetch()
    if "application/json" not in answer.headers.get("content-type", ""):
        route.fulfill(response=answer)
    else:
        route.fulfill(response=answer, json=_lengthened(answer.json()))


def test_little_motion_is_respected(anyone: Any) -> None:
    page: Page = anyone("maren", "/desk", reduced_motion="reduce")
    expect(page.get_by_role("heading", name="Desk")).to_be_visible()
    page.add_style_tag(content="main { transition: opacity 3s }")
    assert page.evaluate("getComputedStyle(document.querySelector('main')).transitionDuration") == "0s"


def test_pointing_at_a_row_shows_where_it_is(anyone: Any) -> None:
    page: Page = anyone("wren", "/results/1")
    rows = page.locator("tbody tr")
    expect(rows.first).to_be_visible()
    met = page.locator("tr", has_text="from the left").last
    before = page.locator(".balloon").count()
    met.scroll_into_view_if_needed()
    met.hover()
    expect(page.locator(".balloon")).to_have_count(before + 1)
    page.mouse.move(5, 5)
    expect(page.locator(".balloon")).to_have_count(before)
    page.get_by_label("all numbers on the drawing").check()
    assert page.locator(".balloon").count() > before + 5
