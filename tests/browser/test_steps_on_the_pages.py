"""Documents of steps on the pages: one becomes a key, and what is broken in one is told in its place."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from evenmark.demo.parts import KIT


def test_a_document_of_steps_becomes_a_key(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    page.get_by_role("button", name="New exercise").click()
    expect(page.get_by_text("or a document of steps").first).to_be_visible()
    page.get_by_label("Choose the key drawing").set_input_files(KIT / "wheel-hub.txt")
    page.get_by_label("Title").fill("Hub in steps")
    page.get_by_role("button", name="Make it").click()
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
    expect(page.get_by_role("button", name="Hand it in")).to_be_enabled()
