"""What a sheet says, on the exercise page: the proof, what is implied, dimensions tied by pointing,
what slips cost, and the list by the sheet."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from tests.builders import chain, drawing, line
from tests.dimensioned import across, up

FIFTH = "Corner of lower left horizontal edge and lower right vertical edge"


def made(anyone: Any, tmp_path: Path, part: parts.Part, title: str) -> Page:
    """A new exercise of a part, open on its page."""
    (tmp_path / "key.dxf").write_bytes(write_dxf(part.sheet))
    page: Page = anyone("maren", "/exercises")
    page.get_by_role("button", name="New exercise").click()
    page.get_by_label("Choose the key drawing").set_input_files(tmp_path / "key.dxf")
    page.get_by_label("Title").fill(title)
    page.get_by_role("button", name="Create exercise").click()
    expect(page.get_by_text("What counts")).to_be_visible()
    return page


def test_a_sheet_that_says_everything_is_listed_by_its_sizes(anyone: Any, tmp_path: Path) -> None:
    page = made(anyone, tmp_path, parts.crank_link(), "Link by its sizes")
    expect(page.get_by_text("Fully dimensioned, nothing redundant.")).to_be_visible()
    expect(page.get_by_role("tab", name="By the sheet")).to_have_attribute("aria-selected", "true")
    expect(page.get_by_role("button", name="Left hole to right hole, horizontal")).to_be_visible()
    expect(page.locator("[data-balloon]")).to_have_count(5)
    page.locator("[data-balloon='1']").click()
    expect(page.get_by_role("button", name=re.compile("1 Left hole to right hole"))).to_be_visible()

    page.get_by_role("button", name="How the list is built").click()
    page.get_by_role("option", name="proposed by feature").click()
    expect(page.get_by_role("tab", name="By the sheet")).to_have_count(0)
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("tab", name="By the sheet")).to_be_visible()
    expect(page.get_by_text("100.00 marks")).to_be_visible()


def test_what_is_free_is_shown_and_settled_by_taking_it_as_read(anyone: Any, tmp_path: Path) -> None:
    gate = parts.gate_holes()
    least = parts.Part(drawing=gate.drawing, dimensions=gate.dimensions[1:])
    page = made(anyone, tmp_path, least, "Plate with free holes")
    expect(page.get_by_text("5 dimensions missing.")).to_be_visible()
    page.get_by_role("button", name=re.compile("^The sheet")).click()
    page.locator("[data-free]").first.click()
    expect(page.locator("[data-arrows] path[marker-end]")).not_to_have_count(0)
    expect(page.get_by_text("Add ").first).to_be_visible()
    page.get_by_role("button", name="Issue to a class").click()
    expect(page.locator("[data-unproved]")).to_contain_text("5 dimensions missing")
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^Imply all 4")).click()
    expect(page.get_by_text("1 dimension missing.")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("5 dimensions missing.")).to_be_visible()


def test_holes_that_stand_level_are_implied_and_can_be_switched_off(anyone: Any, tmp_path: Path) -> None:
    page = made(anyone, tmp_path, parts.gate_holes(), "Plate with holes in rows")
    expect(page.get_by_text("Fully dimensioned, nothing redundant.")).to_be_visible()
    expect(page.get_by_role("tab", name="By the sheet")).to_be_visible()
    page.get_by_role("button", name=re.compile("^The sheet")).click()
    page.get_by_role("switch", name="Implied, all: aligned horizontally").click()
    expect(page.get_by_text("4 dimensions missing.")).to_be_visible()
    expect(page.get_by_role("button", name="Imply all 4")).to_be_visible()


def test_a_dimension_is_tied_by_pointing(anyone: Any, tmp_path: Path) -> None:
    plate = parts.gate_outline()
    astray = across((3.3, 4.4), (9.9, 4.4), at=(6.6, 11.0), line=(3.3, 9.0))
    loose = parts.Part(drawing=plate.drawing, dimensions=(*plate.dimensions, astray))
    page = made(anyone, tmp_path, loose, "Plate with a loose size")
    expect(page.get_by_text("1 dimension not attached.")).to_be_visible()
    page.get_by_role("button", name=re.compile("^The sheet")).click()
    page.get_by_role("button", name="Attach dimension").click()
    tie = page.locator("[data-tie]")
    expect(tie.get_by_role("button", name="Done")).to_be_disabled()
    page.locator("[data-joint='k3']").click()
    expect(tie).to_contain_text("It measures the corner of upper left vertical edge")
    tie.get_by_role("button", name="Add a feature").click()
    page.get_by_role("option", name=FIFTH, exact=True).click()
    expect(tie).to_contain_text("and the corner of lower left horizontal edge and lower right vertical edge.")
    tie.get_by_role("button", name="Done").click()
    expect(page.get_by_text("Attached by hand")).to_be_visible()
    expect(page.get_by_text("not attached")).to_have_count(0)


def test_a_dimension_that_contradicts_is_decided_before_issuing(anyone: Any, tmp_path: Path) -> None:
    plate = [across((0, 0), (80, 0), at=(40, -10), typed="80.4"), up((0, 0), (0, 50), at=(-10, 25))]
    drawn = drawing(chain((0, 0), (80, 0), (80, 50), (0, 50)))
    part = parts.Part(drawing=drawn, dimensions=tuple(plate))
    page = made(anyone, tmp_path, part, "Plate that reads 80.4")
    page.get_by_role("button", name=re.compile("^The sheet")).click()
    wrong = page.locator("[data-contradiction]")
    expect(wrong).to_contain_text("says 80.4 mm; the drawing measures 80 mm")

    page.get_by_role("button", name="Issue to a class").click()
    page.get_by_role("button", name="Issue", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("decide under The sheet which of the two holds")
    page.keyboard.press("Escape")

    sheet = f"/api{page.url.split('/', 3)[3].join(('/', ''))}/sheet.png"
    before = page.request.get(sheet).body()
    wrong.get_by_role("button", name="Change drawing to 80.4").click()
    expect(page.get_by_text("Fully dimensioned, nothing redundant.")).to_be_visible()
    expect(page.get_by_text("the drawing follows the sheet")).to_be_visible()
    page.get_by_role("button", name="Undo decision").click()
    expect(wrong).to_be_visible()
    wrong.get_by_role("button", name="Show 80 on sheet").click()
    expect(page.get_by_text("the sheet shows what is drawn")).to_be_visible()
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()
    assert page.request.get(sheet).body() != before
    page.get_by_role("button", name="Issue to a class").click()
    page.get_by_role("button", name="Issue", exact=True).click()
    expect(page.get_by_text(re.compile("· issued "))).to_be_visible()


def test_what_slips_cost_is_shown_with_each_change(anyone: Any, tmp_path: Path) -> None:
    page = made(anyone, tmp_path, parts.wheel_hub(), "Hub with its price")
    page.get_by_role("button", name=re.compile("^What slips cost")).click()
    costs = page.locator("[data-costs]")
    expect(costs.locator("li")).to_have_count(2)  # a hub has no edge that could stop short
    expect(costs).to_contain_text("A circle drawn with its diameter as radius")
    before = costs.locator("li b").first.inner_text()
    field = page.get_by_label("Wrong size or place, at least")
    field.fill("22")
    field.press("Enter")
    expect(costs.locator("li b").first).not_to_have_text(before)
    expect(costs.locator("li b").first).to_have_text(re.compile(r"^2[2-9]\."))


def test_numbers_stand_on_the_sheet_that_students_get_when_wanted(anyone: Any, tmp_path: Path) -> None:
    page = made(anyone, tmp_path, parts.wheel_hub(), "Hub with numbers")
    bare = page.request.get(f"/api{page.url.split('/', 3)[3].join(('/', ''))}/sheet.png").body()
    page.get_by_role("button", name=re.compile("^The sheet")).click()
    page.get_by_role("switch", name="Number the dimensions on the sheet").click()
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()
    page.wait_for_timeout(300)
    numbered = page.request.get(f"/api{page.url.split('/', 3)[3].join(('/', ''))}/sheet.png").body()
    assert bare != numbered


def test_flaws_of_a_key_are_told_when_it_is_made_an_exercise(anyone: Any, tmp_path: Path) -> None:
    flawed = drawing(chain((0, 0), (80, 0), (80, 50), (0, 50)), line((0, 0), (80, 0)))
    page = made(anyone, tmp_path, parts.Part(drawing=flawed), "Key with a flaw")
    noticed = page.locator("[data-flaws]")
    expect(noticed).to_contain_text("drawn twice")
    expect(noticed).to_contain_text("No student loses marks for these")
    noticed.get_by_role("button").first.click()
