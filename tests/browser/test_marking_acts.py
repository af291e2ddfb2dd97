"""Marking a class in the real interface: other verdicts, comments, taking back, returning, downloads; a class
handed in at once; the grid."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from evenmark.demo import slips as s
from tests.browser.test_axe import violations
from tests.extent import FULL


def test_another_verdict_a_comment_taking_back_and_returning(anyone: Any) -> None:
    maren: Page = anyone("maren", "/issues/6")
    hana: Page = anyone("hana", "/work/6")
    hana.get_by_role("link", name=re.compile("Try 1")).click()
    expect(hana.get_by_text("with your instructor")).to_be_visible()

    maren.get_by_role("link", name="Hana Voss").click()
    maren.wait_for_url("**/marking/*")
    expect(maren.get_by_role("heading", name="Inspection list")).to_be_visible()
    maren.keyboard.press("ArrowDown")
    row = maren.locator("tr[aria-current]")
    expect(row).to_have_count(1)
    before = maren.locator("header b.text-xl").inner_text()
    maren.keyboard.press("o")
    expect(maren.get_by_role("heading", name=re.compile("Change the verdict"))).to_be_visible()
    expect(maren.get_by_role("button", name="Change verdict")).to_be_disabled()
    maren.get_by_role("radio", name="met").click()
    maren.get_by_label("Reason").fill("The sheet left this line out.")
    maren.keyboard.press("Enter")
    expect(maren.get_by_text("The sheet left this line out.").first).to_be_visible()
    expect(maren.locator("header b.text-xl")).not_to_have_text(before)
    after = maren.locator("header b.text-xl").inner_text()

    maren.keyboard.press("Control+z")
    expect(maren.locator("header b.text-xl")).to_have_text(before)
    maren.keyboard.press("Control+Shift+Z")
    expect(maren.locator("header b.text-xl")).to_have_text(after)

    maren.keyboard.press("c")
    maren.get_by_label("What the student should read").fill("Look at this place again.")
    maren.get_by_role("radio", name="A place").click()
    expect(maren.get_by_role("button", name="Add comment")).to_be_disabled()
    maren.get_by_role("button", name="Click it on the drawing").click()
    expect(maren.get_by_text("Click the place on the drawing")).to_be_visible()
    sheet = maren.get_by_role("group", name=re.compile("Drawing of Hana Voss"))
    box = sheet.bounding_box()
    assert box is not None
    maren.mouse.click(box["x"] + box["width"] * 0.55, box["y"] + box["height"] * 0.45)
    expect(maren.get_by_label("What the student should read")).to_have_value("Look at this place again.")
    maren.get_by_role("button", name="Add comment").click()
    expect(maren.locator("[data-pin]")).to_have_count(1)
    pin = maren.locator("[data-pin] .foot").bounding_box()
    assert pin is not None
    assert abs(pin["x"] + pin["width"] / 2 - box["x"] - box["width"] * 0.55) < 4

    maren.keyboard.press("h")
    expect(maren.get_by_role("heading", name="Record")).to_be_visible()
    expect(maren.get_by_text("Commented: Look at this place again.")).to_be_visible()
    expect(maren.get_by_text(re.compile("Redone"))).to_be_visible()
    maren.keyboard.press("Escape")
    expect(maren.get_by_role("heading", name="Record")).to_have_count(0)

    maren.keyboard.press("r")
    expect(maren.get_by_role("button", name="Returned", exact=True)).to_be_disabled()
    hana.reload()
    expect(hana.get_by_text("The sheet left this line out.")).to_be_visible()
    expect(hana.get_by_role("list", name="Comments")).to_contain_text("Look at this place again.")
    expect(hana.locator("[data-pin]")).to_have_count(1)
    expect(hana.get_by_text(after).first).to_be_visible()


@pytest.mark.parametrize("form", ["PDF", "DXF"])
def test_marked_drawings_are_downloaded(anyone: Any, form: str) -> None:
    maren: Page = anyone("maren", "/marking/20")
    noor: Page = anyone("noor", "/results/19")
    for page, name in ((maren, f"marked {form}"), (noor, f"Download {form}")):
        with page.expect_download() as waiting:
            page.get_by_role("link", name=name).click()
        saved = waiting.value
        data = Path(saved.path()).read_bytes()
        assert saved.suggested_filename.endswith(f"marked.{form.lower()}")
        if form == "PDF":
            assert data.startswith(b"%PDF")
        else:
            assert any(o.code == "marks-left-out" for o in read_file(data).oddities)


def test_a_class_is_handed_in_out_of_one_archive(anyone: Any, tmp_path: Path) -> None:
    gasket = parts.cover_gasket().drawing
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as z:
        z.writestr("Pell, Idris/gasket.dxf", write_dxf(gasket, Manner(polylines=True)))
        z.writestr("priya-gasket.dxf", write_dxf(s.circle_scaled(1, 2)(gasket)))
        z.writestr("gasket final.dxf", write_dxf(gasket, Manner(version="R12")))
        z.writestr("old.dwg", b"AC1032" + bytes(200))
    (tmp_path / "class.zip").write_bytes(out.getvalue())
    maren: Page = anyone("maren", "/issues/5")
    maren.get_by_role("link", name="Hand in for the class").click()
    maren.get_by_label(re.compile("Choose a ZIP")).set_input_files(tmp_path / "class.zip")
    maren.wait_for_url("**/batches/*")
    expect(maren.get_by_text("Ready to hand in · 2")).to_be_visible()
    expect(maren.get_by_text("Cannot be read · 1")).to_be_visible()
    expect(maren.get_by_text(re.compile("closed drawing format"))).to_be_visible()

    # what is doubtful is asked, and what was said is kept when the page is left
    maren.get_by_role("button", name=re.compile("Student of gasket final.dxf")).click()
    maren.get_by_role("option", name="Otto Lindqvist").click()
    expect(maren.get_by_text("Ready to hand in · 3")).to_be_visible()
    maren.goto("/issues/5")
    maren.get_by_role("link", name="Continue").click()
    maren.get_by_role("button", name="Hand in 3 drawings").click()
    expect(maren.get_by_text("Handed in · 3")).to_be_visible()
    expect(maren.locator("[data-file='gasket.dxf']").get_by_role("link")).to_have_text("100.00 of 100")
    expect(maren.locator("[data-file='priya-gasket.dxf']").get_by_role("link")).to_be_visible()
    otto: Page = anyone("otto", "/work")
    expect(otto.get_by_role("link", name=re.compile("Gear cover gasket"))).to_contain_text("100")
    maren.get_by_role("button", name="Discard remaining files").click()
    maren.get_by_role("button", name="Discard files").click()
    maren.wait_for_url("**/issues/5")
    expect(maren.get_by_role("link", name="Otto Lindqvist")).to_be_visible()


def test_an_archive_that_is_none_says_so(anyone: Any, tmp_path: Path) -> None:
    (tmp_path / "broken.zip").write_bytes(b"PK\x03\x04 and nothing more")
    maren: Page = anyone("maren", "/issues/5/hand-in")
    maren.get_by_label(re.compile("Choose a ZIP")).set_input_files(tmp_path / "broken.zip")
    expect(maren.get_by_role("alert")).to_contain_text("The archive is damaged")
    expect(maren.get_by_role("alert")).to_contain_text("Nothing was handed in")


def test_the_grid_by_keyboard_and_the_way_to_the_drawings(anyone: Any) -> None:
    maren: Page = anyone("maren", "/issues/3")
    grid = maren.get_by_role("grid", name="Students by checks")
    results = maren.request.get("/api/issues/3/results").json()
    expect(grid.locator("[data-cell]")).to_have_count(len(results["students"]) * len(results["checks"]))
    # every sign has the colour of the theme: one without is not seen
    signs = grid.evaluate(
        "g => ['met', 'near', 'missed', 'absent', 'follows']"
        ".map(v => g.style.getPropertyValue('--sign-' + v))"
    )
    assert all("stroke%3D%22%23" in sign for sign in signs)
    grid.focus()
    for key in ("ArrowDown", "ArrowRight", "ArrowRight"):
        maren.keyboard.press(key)
    expect(maren.locator("[data-reading]")).to_contain_text("Noor Castell")
    expect(maren.locator("[data-reading]")).to_contain_text("met")
    # the head of a column: its name, and a picture of what it is about
    for key in ("ArrowUp", "ArrowUp"):
        maren.keyboard.press(key)
    check = results["checks"][2]
    expect(maren.locator("[data-reading]")).to_contain_text(check["name"])
    expect(maren.locator("[data-glimpse] [data-lit]")).not_to_have_count(0)
    maren.locator("[data-head]").nth(0).hover()
    expect(maren.locator("[data-reading]")).to_contain_text(results["checks"][0]["name"])
    maren.get_by_role("link", name=re.compile("Wrong pitch circle")).click()
    maren.wait_for_url("**/marking/*only=cause-pattern-circle")
    expect(maren.get_by_text("Reviewing Wrong pitch circle")).to_be_visible()
    expect(maren.get_by_text("1 of 1")).to_be_visible()
    maren.keyboard.press("ArrowDown")
    expect(maren.locator("[data-sketch]").first).to_be_visible()
    assert maren.locator("[data-sketch]").count() >= 6
    maren.get_by_role("link", name="All students").click()
    expect(maren.get_by_text("6 of 6")).to_be_visible()


def test_what_follows_is_tied_to_what_it_follows(anyone: Any) -> None:
    maren: Page = anyone("maren", "/marking/20")
    expect(maren.get_by_text(re.compile(r"^follows \d+$")).first).to_be_visible()
    maren.keyboard.press("ArrowDown")
    expect(maren.get_by_role("button", name="Fit")).to_be_visible()
    maren.get_by_role("button", name="Fit").click()
    expect(maren.locator("[data-chain]").first).to_be_visible()


def test_layers_side_by_side(anyone: Any) -> None:
    maren: Page = anyone("maren", "/marking/22")
    expect(maren.get_by_role("heading", name="Inspection list")).to_be_visible()
    maren.keyboard.press("l")
    layers = maren.locator("[data-layers]")
    expect(layers).to_contain_text("outline")
    expect(layers).to_contain_text("not asked for")
    maren.keyboard.press("l")
    expect(layers).to_have_count(0)


def test_the_measured_size_stands_in_red_beside_the_asked_one(anyone: Any) -> None:
    maren: Page = anyone("maren", "/marking/19")
    expect(maren.get_by_role("heading", name="Inspection list")).to_be_visible()
    maren.keyboard.press("ArrowDown")
    expect(maren.locator("[data-sketch='asked'] text")).to_have_text("Ø12 mm")
    expect(maren.locator("[data-sketch='drawn'] text")).to_have_text("Ø24 mm")
    noor: Page = anyone("noor", "/results/19")
    noor.get_by_role("button", name=re.compile("12 is the diameter")).click()
    expect(noor.locator("[data-sketch='drawn'] text")).to_have_text("Ø24 mm")
    expect(noor.locator("[data-sketch='asked']")).to_have_count(0)
    expect(noor.get_by_text("Look for the diameter sign")).to_be_visible()


def test_a_start_drawing_is_given_out(anyone: Any, tmp_path: Path) -> None:
    hub = parts.wheel_hub().drawing
    (tmp_path / "begun.dxf").write_bytes(
        write_dxf(s.construction((0, 0), (5, 5))(parts.gate_outline().drawing))
    )
    (tmp_path / "hub.dxf").write_bytes(write_dxf(hub))
    maren: Page = anyone("maren", "/exercises")
    maren.get_by_role("button", name="New exercise").click()
    maren.get_by_label("Choose the key drawing").set_input_files(tmp_path / "hub.dxf")
    maren.get_by_label("Title").fill("Hub from a frame")
    maren.get_by_role("button", name="Create exercise").click()
    maren.get_by_role("button", name=re.compile("Tolerances and placement")).click()
    maren.get_by_label("Choose: Start drawing").set_input_files(tmp_path / "begun.dxf")
    expect(maren.get_by_role("link", name="begun.dxf")).to_be_visible()
    maren.get_by_label("Marks for Radii").fill("40")
    maren.get_by_label("Marks for Radii").press("Tab")
    expect(maren.get_by_text("100.00 marks")).to_be_visible()
    maren.get_by_role("button", name="Issue to a class").click()
    maren.get_by_role("button", name=re.compile("^When students see")).click()
    maren.get_by_role("option", name="When you return it").click()
    maren.get_by_role("button", name="Issue", exact=True).click()
    expect(maren.get_by_text(re.compile("Group [AB]: 0 of"))).to_be_visible()


def test_a_class_of_thirty_by_sixty_checks_is_seen_at_once(anyone: Any) -> None:
    """At 1280 by 800: no scrolling sideways, signs large enough to tell apart, the whole class one screen
    high."""
    maren: Page = anyone("maren")
    page = maren.request.get("/api/issues/3/results").json()
    first = next(s for s in page["students"] if s["cells"])
    page["checks"] = [
        {**page["checks"][0], "id": n, "name": f"Circle {n}, radius", "missed": n % 4} for n in range(1, 61)
    ]
    verdicts = ("met", "met", "met", "missed", "met", "near", "met", "absent", "met", "follows")
    page["students"] = [
        {
            **first,
            "student_id": 1000 + n,
            "name": f"Student {chr(65 + n % 26)} Longfellow-{n}",
            "cells": [verdicts[(n * 7 + c * 3) % 10] for c in range(60)],
        }
        for n in range(30)
    ]
    maren.route("**/api/issues/3/results", lambda route: route.fulfill(json=page))
    maren.goto("/issues/3")
    grid = maren.get_by_role("grid", name="Students by checks")
    expect(grid.locator("[data-cell]")).to_have_count(30 * 60)
    wide, room, high = grid.locator("xpath=..").evaluate(
        "e => [e.scrollWidth, e.clientWidth, e.firstElementChild.scrollHeight]"
    )
    assert wide <= room
    assert high < 780
    cell = grid.locator("[data-cell='0 0']")
    assert cell.evaluate("e => getComputedStyle(e).backgroundSize").startswith("14px")
    assert cell.evaluate("e => getComputedStyle(e).backgroundImage").startswith("url(")


def test_how_an_attempt_was_made_is_played_forward(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises", worker=FULL)
    results = page.request.get("/api/boards").json()["boards"]
    assert {b["title"] for b in results} >= {"Crank link", "Gear cover gasket"}
    made = next(
        n
        for n in range(1, 60)
        if "Yuki" in page.request.get(f"/api/attempts/{n}/made").json().get("student", "")
    )
    page.goto(f"/marking/{made}")
    page.get_by_role("link", name="how it was made").click()
    root = page.locator("[data-pieces]")
    expect(page.locator("[data-summary]")).to_contain_text("17 steps, drawn in")
    expect(page.locator("[data-summary]")).to_contain_text("2 corrections")
    whole = root.get_attribute("data-pieces")
    corrected = page.get_by_role("button", name="corrected").first
    corrected.click()
    expect(corrected).to_contain_text("was line tangent to circle 2")
    expect(root).to_have_attribute("data-pieces", "4")
    if FULL:
        expect(root).to_have_attribute("data-worker", "ready")
    page.get_by_role("button", name="Previous").click()
    expect(page.locator("[data-doing]")).to_contain_text("outer left")
    page.get_by_role("button", name="Next").click()
    page.get_by_role("button", name="Play", exact=True).click()
    while (shown := root.get_attribute("data-pieces")) != whole:  # as long as it goes on, however slowly
        expect(root).not_to_have_attribute("data-pieces", shown or "", timeout=40_000)
    assert violations(page) == []
