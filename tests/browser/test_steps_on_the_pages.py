"""Documents of steps on the pages: one becomes a key, and what is broken in one is told in its place."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from evenmark.core.construct.document import from_text, shown
from evenmark.demo.parts import KIT
from tests.browser.boarding import draft, give, settled


def test_a_document_of_steps_becomes_a_key(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    page.get_by_role("button", name="New exercise").click()
    expect(page.get_by_text("or a document of steps").first).to_be_visible()
    page.get_by_label("Choose the key drawing").set_input_files(KIT / "wheel-hub.txt")
    page.get_by_label("Title").fill("Hub in steps")
    page.get_by_role("button", name="Create exercise").click()
    expect(page.get_by_text("What counts")).to_be_visible()
    expect(page.get_by_text("wheel-hub.txt")).to_be_visible()
    expect(page.locator("[data-balloon]")).to_have_count(5)


def test_a_student_sees_what_is_broken_before_handing_in(anyone: Any, tmp_path: Path) -> None:
    text = (KIT / "gate-holes.txt").read_text() + "circle centre of circle 99; radius 4\n"
    (tmp_path / "mine.txt").write_text(text)
    page: Page = anyone("priya", "/work")
    page.get_by_role("link", name="Gate plate, holes and slot").first.click()
    page.get_by_label("Choose your drawing").set_input_files(tmp_path / "mine.txt")
    expect(page.get_by_text("There is no step 99 before this one.")).to_be_visible()
    expect(page.get_by_role("button", name="Hand in")).to_be_enabled()


def test_a_self_check_leads_to_the_step_that_made_it(anyone: Any) -> None:
    maren: Page = anyone("maren", "/desk")
    guard = maren.request.get("/api/session").json()["guard"]
    [issue] = [i for i in maren.request.get("/api/desk").json()["issues"] if i["title"] == "Crank link"]
    changed = maren.request.patch(
        f"/api/issues/{issue['id']}",
        data={"own_checks": 2, "own_says": "which"},
        headers={"X-Even-Mark-Guard": guard},
    )
    assert changed.ok, changed.text()
    page: Page = anyone("noor", "/work")
    draft(page, "Crank link")
    text = (KIT / "crank-link.txt").read_text().replace("left_bore = 14", "left_bore = 12")
    give(page, "mine.txt", text.encode(), "text/plain")
    expect(page.locator("[data-opened]")).to_be_visible()
    settled(page)
    bore = 1 + next(n for n, says in enumerate(shown(from_text(text))) if "left_bore" in says)
    page.get_by_role("button", name=re.compile("^Check my work")).click()
    told = page.locator("[data-own-check]")
    expect(told).to_contain_text("not met yet")
    told.get_by_role("button", name=re.compile(f"circle {bore}")).first.click()
    expect(page.locator(f"[data-step='{bore}'] > [aria-pressed]")).to_have_attribute("aria-pressed", "true")
    expect(told).to_be_visible()  # it stays in view until the next one
