"""The pictures of docs/screenshots/, of the demo as it is: `pytest tests/browser/screenshots.py` makes them.

No test: nothing is collected from here unless it is named.
"""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.boarding import at, choose, draft, type_all
from tests.conftest import ROOT

PICTURES = ROOT / "docs" / "screenshots"
SETTLES_MS = 900
PLATE = (
    "rectangle 0, 0; 100, 60",
    "circle 14, 12; diameter 10",
    "copy circle 2; by 64, 0",
    "copy circle 2; by 0, 36",
    "copy circle 2; by 64, 36",
    "circle 46, 30; radius 9",
    "rectangle 86, 16; 92, 42",
    'text "GATE PLATE"; 31, 3; height 3.5; anchor left bottom',
)


def shot(page: Page, name: str) -> None:
    """Make a picture once the page is still."""
    page.wait_for_timeout(SETTLES_MS)
    expect(page.get_by_text("Loading")).to_have_count(0)
    page.wait_for_timeout(SETTLES_MS)
    page.screenshot(path=PICTURES / f"{name}.png")


def test_of_a_stranger(anyone: Any) -> None:
    page: Page = anyone()
    page.goto("/sign-in")
    shot(page, "sign-in")


def test_of_an_instructor(anyone: Any, tmp_path: Path) -> None:
    page: Page = anyone("maren", "/desk")
    shot(page, "desk")
    page.goto("/exercises")
    shot(page, "exercises")
    page.get_by_role("link", name="Gate plate, holes and slot").first.click()
    shot(page, "exercise")
    page.goto("/classes")
    page.get_by_role("link", name="Group A").first.click()
    shot(page, "class")
    page.goto("/desk")
    page.get_by_role("link", name="Crank link").first.click()
    page.wait_for_timeout(SETTLES_MS)
    cell = page.locator("[data-cell]").first
    if cell.count():
        cell.hover()
    shot(page, "class-results")
    page.get_by_role("link", name="Review drawings").click()
    expect(page.get_by_text("Inspection list")).to_be_visible()
    page.wait_for_timeout(SETTLES_MS)
    page.keyboard.press("ArrowDown")
    shot(page, "marking")
    page.keyboard.press("o")
    shot(page, "override")
    page.keyboard.press("Escape")
    _lens(page)
    page.goto("/desk")
    page.get_by_role("link", name="Gate plate, holes and slot").first.click()
    page.get_by_role("button", name="More about what was issued").click()
    page.get_by_role("menuitem", name="Extra time or tries").click()
    page.get_by_label("Reason").fill("Was ill on Tuesday.")
    page.get_by_label("More tries").fill("1")
    shot(page, "more-for-one")
    page.get_by_role("button", name="Allow", exact=True).click()
    page.wait_for_timeout(SETTLES_MS)
    page.goto("/record")
    shot(page, "record")


def _lens(page: Page) -> None:
    """The lens on a gap, where somebody of the class has one."""
    for _ in range(8):
        gap = page.get_by_text("do not meet").first
        if gap.count():
            gap.click()
            page.mouse.move(640, 790)
            shot(page, "marking-lens")
            return
        page.keyboard.press("ArrowRight")
        page.wait_for_timeout(SETTLES_MS)


def test_of_cards_and_a_batch(anyone: Any) -> None:
    from evenmark.core.formats.dxf_pen import Manner
    from evenmark.core.formats.dxf_write import write_dxf
    from evenmark.demo import parts

    page: Page = anyone("maren", "/classes")
    head = {"X-Even-Mark-Guard": page.request.get("/api/session").json()["guard"]}
    made = page.request.post("/api/classes", data={"name": "Evening group"}, headers=head).json()["id"]
    names = ("Ida Fenwick", "Tom Garrow", "Lena Marsh", "Piet Salter")
    rows = "".join(f"{name},{name.lower().replace(' ', '.')}\n" for name in names)
    file = {"name": "r.csv", "mimeType": "text/csv", "buffer": f"name,sign-in\n{rows}".encode()}
    page.request.post(f"/api/classes/{made}/roster", multipart={"file": file}, headers=head)
    page.goto(f"/classes/{made}/slips")
    expect(page.get_by_text("Ida Fenwick")).to_be_visible()
    shot(page, "slips")
    page.goto("/desk")
    page.get_by_role("link", name="Gear cover gasket").first.click()
    page.get_by_role("link", name="Hand in for the class").click()
    gasket = write_dxf(parts.cover_gasket().drawing, Manner())
    page.get_by_label("Choose a ZIP, or all the drawings").set_input_files(
        [
            {"name": name, "mimeType": "application/dxf", "buffer": data}
            for name, data in (
                ("Wren Halloran.dxf", gasket),
                ("idris_gasket_final.dxf", gasket + b"\n"),
                ("gasket (2).dxf", gasket + b"\n\n"),
                ("priya.dwg", b"AC1027" + bytes(200)),
            )
        ]
    )
    expect(page.get_by_text("Cannot be read")).to_be_visible()
    page.wait_for_timeout(2000)
    shot(page, "batch")


def test_of_a_student(anyone: Any) -> None:
    page: Page = anyone("otto", "/work")
    shot(page, "my-work")
    page.get_by_role("link", name="Gate plate, holes and slot").first.click()
    page.set_viewport_size({"width": 1280, "height": 1200})
    shot(page, "hand-in")
    phone: Page = anyone(
        "noor", "/work", viewport={"width": 390, "height": 800}, has_touch=True, is_mobile=True
    )
    phone.get_by_role("link", name="Crank link").first.click()
    phone.get_by_role("link", name=re.compile("^Try")).first.click()
    shot(phone, "phone")
    result: Page = anyone("wren", "/work")
    result.get_by_role("link", name="Gate plate, holes and slot").first.click()
    result.get_by_role("link", name=re.compile("^Try")).first.click()
    shot(result, "result")


def test_of_the_board(anyone: Any) -> None:
    page: Page = anyone("callum", "/work")
    draft(page, "Gate plate, holes and slot")
    if not page.locator("[data-step]").count():
        type_all(page, list(PLATE))
    page.get_by_role("button", name="Fit").click()
    choose(page, "slot with round ends")
    page.keyboard.type("30, 48;")
    page.mouse.move(*at(page, 62, 48), steps=4)
    shot(page, "board")


def test_of_how_it_was_made(anyone: Any) -> None:
    page: Page = anyone("maren", "/desk")
    page.get_by_role("link", name="Crank link").first.click()
    page.get_by_role("link", name="Review drawings").click()
    for _ in range(8):
        made = page.get_by_role("link", name="how it was made")
        page.wait_for_timeout(SETTLES_MS)
        if made.count():
            made.click()
            shot(page, "how-it-was-made")
            return
        page.keyboard.press("ArrowRight")
