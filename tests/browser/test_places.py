"""Each place opens, by keyboard too, at the sizes it must hold, and shows nothing that it must not."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.boarding import widest

PLACES = {
    "desk": ("maren", "/desk", "Desk"),
    "exercises": ("maren", "/exercises", "Exercises"),
    "exercise": ("maren", "/exercises/4", "What counts"),
    "class results": ("maren", "/issues/4", "Crank link"),
    "marking": ("maren", "/marking/20", "Inspection list"),
    "classes": ("maren", "/classes", "Classes"),
    "class": ("maren", "/classes/1", "Group A"),
    "account": ("maren", "/account", "Maren Oakes"),
    "my work": ("noor", "/work", "My work"),
    "one exercise": ("noor", "/work/4", "Crank link"),
}


@pytest.mark.parametrize("place", PLACES)
def test_places_hold_at_the_sizes_of_a_desk(anyone: Any, place: str) -> None:
    who, path, heading = PLACES[place]
    page: Page = anyone(who, path, viewport={"width": 1280, "height": 800})
    expect(page.get_by_role("heading", name=heading).first).to_be_visible()
    for width in (1280, 1024, 1600):
        assert widest(page, width) <= width, width


@pytest.mark.parametrize("place", ["marking", "one exercise", "my work"])
def test_marking_and_feedback_hold_on_a_phone(anyone: Any, place: str) -> None:
    who, path, heading = PLACES[place]
    page: Page = anyone(who, path, viewport={"width": 390, "height": 800})
    expect(page.get_by_role("heading", name=heading).first).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")


def test_marking_by_keyboard_alone(anyone: Any) -> None:
    page: Page = anyone("maren", "/issues/4")
    page.get_by_role("link", name="Review drawings").click()
    page.wait_for_url("**/marking/*")
    expect(page.get_by_text("1 of 5")).to_be_visible()
    first = page.url
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("2 of 5")).to_be_visible()
    assert page.url != first
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_text("1 of 5")).to_be_visible()
    page.keyboard.press("k")
    expect(page.get_by_role("radio", name="Key")).to_be_checked()
    page.keyboard.press("b")
    page.keyboard.press("ArrowDown")
    chosen = page.locator("tr[aria-current]")
    expect(chosen).to_have_count(1)
    page.keyboard.press("Escape")
    expect(chosen).to_have_count(0)


def test_findings_are_filtered_by_verdict_and_kind(anyone: Any) -> None:
    page: Page = anyone("maren", "/marking/20")
    rows = page.locator("tbody tr")
    everything = rows.count()
    page.get_by_role("button", name=re.compile("^Verdict:")).click()
    page.get_by_role("option", name="missed").click()
    expect(rows).not_to_have_count(everything)
    page.get_by_role("button", name=re.compile("^Verdict:")).click()
    page.get_by_role("option", name="in order").click()
    page.get_by_role("button", name=re.compile("^Kind:")).click()
    page.get_by_role("option", name="tangent").click()
    expect(rows).to_have_count(4)


def test_strangers_are_asked_to_sign_in_and_come_back(anyone: Any) -> None:
    page: Page = anyone()
    page.goto("/issues/4")
    page.get_by_label("Sign-in name").fill("maren")
    page.get_by_label("Password").fill("not the password")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("Wrong sign-in name or password")
    page.get_by_label("Password").fill("tide-mill-2026")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", name="Crank link")).to_be_visible()


def test_students_have_no_way_to_the_instructors_places(anyone: Any) -> None:
    page: Page = anyone("noor", "/exercises/4")
    expect(page.get_by_text("What counts")).to_have_count(0)
    answer = page.request.get("/api/exercises/4")
    assert answer.status == 403


def test_a_class_is_joined_with_its_code(anyone: Any) -> None:
    maren: Page = anyone("maren", "/classes/2")
    code = maren.get_by_text(re.compile(r"^[A-Z0-9]{3}-[A-Z0-9]{3}$")).first.inner_text()
    page: Page = anyone()
    page.get_by_role("link", name="Join a class").click()
    page.get_by_label(re.compile("code", re.I)).fill(code.lower())
    page.get_by_label(re.compile("^(Your )?name", re.I)).fill("Lin Gray")
    page.get_by_label(re.compile("Sign-in name")).fill("lin.gray")
    page.get_by_label(re.compile("Password")).fill("a few words in a row")
    page.get_by_role("button", name=re.compile("Join")).click()
    expect(page.get_by_role("heading", name="My work")).to_be_visible()
    expect(page.get_by_text("Crank link")).to_be_visible()


def test_a_change_of_an_exercise_can_be_undone(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises/5")
    page.get_by_role("tab", name="By feature").click()
    switch = page.get_by_role("switch", name="Check Left edge", exact=True)
    expect(switch).to_be_checked()
    switch.click()
    expect(page.get_by_text("Saved")).to_be_visible()
    expect(switch).not_to_be_checked()
    page.get_by_role("button", name="Undo").click()
    expect(switch).to_be_checked()
    expect(page.get_by_text("100.00 marks")).to_be_visible()
