"""A roster's codes outlive a reload and are used once; what many ask at once, or meets a closed connection,
is asked again by the page itself."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Route, expect

from evenmark.demo.plans import INSTRUCTOR


def test_a_roster_with_codes_that_are_readable_until_they_are_used(anyone: Any) -> None:
    page = anyone(INSTRUCTOR[1], "/classes")
    page.get_by_label("New class").fill("Night group")
    page.get_by_role("button", name="Create class").click()
    expect(page.get_by_role("heading", name="Night group")).to_be_visible()
    roster = {
        "name": "roster.csv",
        "mimeType": "text/csv",
        "buffer": b"name,sign-in\nLinnea Gray,linnea\n,nobody\n",
    }
    page.locator("input[type=file]").set_input_files(roster)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text("New account, added.")).to_be_visible()
    code = dialog.locator("tr", has_text="linnea").locator("td").nth(3).inner_text()
    assert re.fullmatch(r"[A-Z0-9]{4}(-[A-Z0-9]{4}){2}", code)
    page.reload()  # in the middle of reading them
    row = page.locator("li", has_text="Linnea Gray")
    expect(row.get_by_text(code)).to_be_visible()
    page.get_by_role("link", name="Print 1 sign-in card").click()
    expect(page.get_by_text(code)).to_be_visible()
    page.emulate_media(media="print")
    expect(page.get_by_role("button", name="Print")).to_be_hidden()

    student = anyone(None, "/")
    student.goto(f"/first/{code}")
    student.get_by_label("Password").fill("short")
    student.get_by_role("button", name="Save password and sign in").click()
    expect(student.get_by_role("alert")).to_contain_text("10 to 200 characters")
    student.get_by_label("Password").fill("a few words in a row")
    student.get_by_role("button", name="Save password and sign in").click()
    expect(student.get_by_role("heading", name="My work")).to_be_visible()

    page.emulate_media(media="screen")
    page.go_back()
    page.reload()
    expect(row.get_by_text(code)).to_have_count(0)
    row.get_by_role("button", name="More about Linnea Gray").click()
    page.get_by_role("menuitem", name="New password").click()
    page.get_by_role("button", name="Create code").click()
    expect(row.locator("b")).to_have_text(re.compile(r"[A-Z0-9-]{14}"))


def test_what_is_turned_away_for_a_moment_is_asked_again(anyone: Any, faults: list[str]) -> None:
    page = anyone(INSTRUCTOR[1], "/classes")
    refused = {"desk": 2, "name": 1}

    def crowded(route: Route) -> None:
        refused["desk"] -= 1
        if refused["desk"] < 0:
            route.continue_()
        else:
            body = '{"code": "away", "says": "It is being brought back."}'
            route.fulfill(
                status=503, headers={"Retry-After": "1", "Content-Type": "application/json"}, body=body
            )

    page.route("**/api/desk", crowded)
    page.get_by_role("link", name="Desk").click()
    expect(page.get_by_text("Handed in recently").first).to_be_visible()
    assert refused["desk"] < 0

    def closed(route: Route) -> None:
        refused["name"] -= 1
        if refused["name"] < 0:
            route.continue_()
        else:
            route.abort("connectionreset")

    page.route("**/api/exercises", closed)
    page.get_by_role("link", name="Exercises").click()
    expect(page.get_by_role("heading", name="Exercises")).to_be_visible()
    expect(page.get_by_text("Sluice gate plate, outline").first).to_be_visible()
    assert refused["name"] < 0
    faults[:] = [f for f in faults if "503" not in f and "ERR_CONNECTION_RESET" not in f]
