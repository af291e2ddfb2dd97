"""Nothing that axe finds stands against anybody's use of a page: every page and dialog, in the states that it
has (WCAG 2.2 AA and axe's best practices)."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from evenmark.demo.plans import INSTRUCTOR
from tests.conftest import ROOT
from tests.extent import daily

AXE = ROOT / "frontend/node_modules/axe-core/axe.min.js"
Step = Callable[[Page], None]


def violations(page: Page) -> list[str]:
    """Return what axe finds on a page as it stands, one line a kind with where."""
    page.wait_for_load_state("networkidle")
    page.evaluate(AXE.read_text())
    found = page.evaluate("axe.run(document, {resultTypes: ['violations']})")
    return [
        f"{v['id']}: {json.dumps([n['target'] for n in v['nodes']][:4])} "
        f"{v['nodes'][0]['failureSummary'].splitlines()[1].strip()}"
        for v in found["violations"]
    ]


def to(role: str, name: str) -> Step:
    """Press something by its role and name."""

    def press(page: Page) -> None:
        page.get_by_role(role, name=name).first.click()  # type: ignore[arg-type]

    return press


def by_menu(menu: str, item: str) -> Step:
    """Choose from a menu."""

    def choose(page: Page) -> None:
        page.get_by_role("button", name=menu).first.click()
        page.get_by_role("menuitem", name=item).click()
        expect(page.get_by_role("dialog").get_by_role("heading").first).to_be_visible()

    return choose


def key(pressed: str) -> Step:
    """Press a key."""
    return lambda page: page.keyboard.press(pressed)


def wait(milliseconds: int) -> Step:
    """Give the page a moment to show what was asked for."""
    return lambda page: page.wait_for_timeout(milliseconds)


A_CLASS, AN_ISSUE, AN_EXERCISE = (
    to("link", "Group A"),
    to("link", "Gate plate, holes and slot"),
    to("link", "Crank link"),
)
MARKING = (AN_ISSUE, to("link", "Review drawings"), wait(400))
STRANGER: dict[str, tuple[str, tuple[Step, ...]]] = {
    "sign in": ("/sign-in", ()),
    "sign in, refused": ("/sign-in", (to("button", "Sign in"),)),
    "join": ("/join", ()),
    "first code": ("/first/AAAA-BBBB-CCCC", ()),
    "nowhere": ("/nowhere/at/all", ()),
}
INSTRUCTORS: dict[str, tuple[str, tuple[Step, ...]]] = {
    "desk": ("/desk", ()),
    "exercises": ("/exercises", ()),
    "exercises, none found": ("/exercises?find=qqqq", ()),
    "new exercise": ("/exercises?new=1", ()),
    "exercise": ("/exercises", (AN_EXERCISE, wait(500))),
    "exercise, a feature open": (
        "/exercises",
        (AN_EXERCISE, to("tab", "By feature"), to("button", "edge ")),
    ),
    "exercise, the sheet": ("/exercises", (AN_EXERCISE, to("button", "The sheet"), wait(800))),
    "exercise, what slips cost": ("/exercises", (AN_EXERCISE, to("button", "What slips cost"), wait(3000))),
    "exercise, how exactly": ("/exercises", (AN_EXERCISE, to("button", "Tolerances and placement"))),
    "exercise, issue": ("/exercises", (AN_EXERCISE, to("button", "Issue to a class"))),
    "exercise, menu": ("/exercises", (AN_EXERCISE, to("button", "More about this exercise"))),
    "exercise, duplicate": ("/exercises", (AN_EXERCISE, by_menu("More about this exercise", "Duplicate"))),
    "exercise, delete": ("/exercises", (AN_EXERCISE, by_menu("More about this exercise", "Delete"))),
    "classes": ("/classes", ()),
    "classes, over": ("/classes?which=over", ()),
    "class": ("/classes", (A_CLASS, wait(300))),
    "class, menu of a student": ("/classes", (A_CLASS, to("button", "More about Wren Halloran"))),
    "class, rename": ("/classes", (A_CLASS, by_menu("More about this class", "Rename"))),
    "class, duplicate": ("/classes", (A_CLASS, by_menu("More about this class", "Duplicate"))),
    "class, end": ("/classes", (A_CLASS, by_menu("More about this class", "Archive class"))),
    "class, delete": ("/classes", (A_CLASS, by_menu("More about this class", "Delete"))),
    "class, everything away": (
        "/classes",
        (A_CLASS, by_menu("More about this class", "Download class data"), wait(1500)),
    ),
    "class, wipe": ("/classes", (A_CLASS, by_menu("More about Wren Halloran", "Delete student data"))),
    "class, new password": ("/classes", (A_CLASS, by_menu("More about Wren Halloran", "New password"))),
    "class results, grid": ("/desk", (AN_ISSUE, wait(400))),
    "class results, list": ("/desk", (AN_ISSUE, to("radio", "List"))),
    "class results, menu": ("/desk", (AN_ISSUE, to("button", "More about what was issued"))),
    "class results, date": ("/desk", (AN_ISSUE, by_menu("More about what was issued", "Date and tries"))),
    "class results, one student": (
        "/desk",
        (AN_ISSUE, by_menu("More about what was issued", "Extra time or tries")),
    ),
    "class results, close": ("/desk", (AN_ISSUE, by_menu("More about what was issued", "Close now"))),
    "class results, withdraw": ("/desk", (AN_ISSUE, by_menu("More about what was issued", "Withdraw"))),
    "hand in for a class": ("/desk", (AN_ISSUE, to("link", "Hand in for the class"))),
    "marking": ("/desk", MARKING),
    "marking, a finding": ("/desk", (*MARKING, key("ArrowDown"), wait(300))),
    "marking, another verdict": ("/desk", (*MARKING, key("ArrowDown"), key("o"), wait(300))),
    "marking, comment": ("/desk", (*MARKING, key("c"), wait(300))),
    "marking, record": ("/desk", (*MARKING, key("h"), wait(300))),
    "marking, keys": ("/desk", (*MARKING, key("?"), wait(300))),
    "marking, layers": ("/desk", (*MARKING, key("l"), wait(300))),
    "record": ("/record", ()),
    "account": ("/account", ()),
    "account menu": ("/desk", (to("button", "Maren Oakes"),)),
}
STUDENTS: dict[str, tuple[str, tuple[Step, ...]]] = {
    "my work": ("/work", ()),
    "an exercise": ("/work", (AN_ISSUE, wait(400))),
    "an exercise, everything open": ("/work", (AN_ISSUE, lambda p: p.locator("summary").click())),
    "a result": ("/work", (AN_ISSUE, to("link", "Try 1"), wait(500))),
    "account": ("/account", ()),
    "join": ("/join", ()),
}

EXAMINED: dict[str, str] = {
    "home": "sign in",
    "sign-in": "sign in",
    "join": "join",
    "first": "first code",
    "account": "account",
    "desk": "desk",
    "exercises": "exercises",
    "exercise": "exercise",
    "classes": "classes",
    "class": "class",
    "slips": "test_pages_that_need_something_first",
    "record": "record",
    "results": "class results, grid",
    "hand-in": "hand in for a class",
    "batch": "test_pages_that_need_something_first",
    "made": "tests/browser/test_marking_acts.py",
    "marking": "marking",
    "work": "my work",
    "task": "an exercise",
    "board": "tests/browser/test_board.py",
    "result": "a result",
    "nowhere": "nowhere",
}
"""Where each page of the router is examined: a state above, a test, or another file of tests."""


def _walk(page: Page, path: str, steps: tuple[Step, ...]) -> None:
    page.goto(path)
    expect(page.locator("main").first).to_be_visible()
    for step in steps:
        step(page)
    expect(page.locator("h1").first).to_be_visible()  # what is still on its way is no page


@pytest.mark.parametrize("state", STRANGER)
def test_a_stranger(anyone: Any, state: str) -> None:
    page = anyone()
    _walk(page, *STRANGER[state])
    assert violations(page) == []


@pytest.fixture(scope="module")
def signed_in(browser: Any, site: str) -> Any:
    """Pages of people who stay signed in for all the states."""
    from evenmark.demo.plans import PASSWORD

    known: dict[str, Page] = {}

    def page_of(who: str) -> Page:
        if who not in known:
            page = browser.new_context(base_url=site, viewport={"width": 1280, "height": 800}).new_page()
            page.goto("/sign-in")
            page.get_by_label("Sign-in name").fill(who)
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.wait_for_url("**/desk" if who == INSTRUCTOR[1] else "**/work")
            known[who] = page
        return known[who]

    yield page_of
    for page in known.values():
        page.context.close()


@pytest.mark.parametrize("state", daily(list(INSTRUCTORS), len(INSTRUCTORS) // 2))
def test_an_instructor(signed_in: Any, state: str) -> None:
    page = signed_in(INSTRUCTOR[1])
    _walk(page, *INSTRUCTORS[state])
    assert violations(page) == []


@pytest.mark.parametrize("state", daily(list(STUDENTS), len(STUDENTS) // 2))
def test_a_student(signed_in: Any, state: str) -> None:
    page = signed_in("wren")
    _walk(page, *STUDENTS[state])
    assert violations(page) == []


@pytest.mark.parametrize("state", ["a result", "an exercise"])
def test_a_student_on_a_phone(anyone: Any, state: str) -> None:
    page = anyone("wren", "/work", viewport={"width": 390, "height": 800}, has_touch=True, is_mobile=True)
    _walk(page, *STUDENTS[state])
    assert violations(page) == []


@pytest.mark.parametrize("state", ["the table of a hand-in", "slips"])
def test_pages_that_need_something_first(signed_in: Any, state: str) -> None:
    page: Page = signed_in(INSTRUCTOR[1])
    head = {"X-Even-Mark-Guard": page.request.get("/api/session").json()["guard"]}
    if state == "slips":
        made = page.request.post("/api/classes", data={"name": "Zwischenzeit"}, headers=head).json()["id"]
        roster = b"name,sign-in\nIda Wolf,ida.wolf\n"
        path = f"/api/classes/{made}/roster"
        file = {"name": "r.csv", "mimeType": "text/csv", "buffer": roster}
        assert page.request.post(path, multipart={"file": file}, headers=head).ok
        page.goto(f"/classes/{made}/slips")
        expect(page.get_by_text("Ida Wolf")).to_be_visible()
        assert violations(page) == []
        page.request.delete(f"/api/classes/{made}", headers=head)
        return
    file = {"name": "nobody.dxf", "mimeType": "application/dxf", "buffer": b"nothing"}
    batch = page.request.post("/api/issues/4/batches", multipart={"files": file}, headers=head).json()["id"]
    page.goto(f"/batches/{batch}")
    expect(page.get_by_text("nobody.dxf")).to_be_visible()
    page.wait_for_timeout(1500)
    assert violations(page) == []
    page.request.delete(f"/api/batches/{batch}", headers=head)
