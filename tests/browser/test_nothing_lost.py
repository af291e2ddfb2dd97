"""Nothing lost, nothing on the wrong person: answers held back, lost connections, second tabs, ended
sessions."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, Route, expect

from evenmark.demo.plans import PASSWORD
from tests.browser.boarding import begin, choose, draft, kept, press, settled, write


def test_nothing_is_done_to_a_drawing_that_is_not_there_yet(anyone: Any) -> None:
    page: Page = anyone("maren", "/issues/4")
    page.get_by_role("link", name="Review drawings").click()
    page.wait_for_url("**/marking/*")
    expect(page.get_by_role("heading", name="Inspection list")).to_be_visible()
    first = int(page.url.rsplit("/", 1)[1])
    page.keyboard.press("ArrowDown")
    held: list[Route] = []
    sent: list[str] = []
    page.on("request", lambda r: sent.append(r.url) if r.method == "POST" else None)
    page.route(re.compile(rf"/api/attempts/(?!{first}\b)\d+$"), lambda route: held.append(route))
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("Loading the next drawing …")).to_be_visible()
    for key in ("r", "Control+z", "o", "c"):
        page.keyboard.press(key)
    page.wait_for_timeout(300)
    assert sent == []  # neither to the one that is shown nor to the one that is to come
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.locator("main")).to_have_attribute("aria-busy", "true")
    expect(page.get_by_role("button", name=re.compile("^Return"))).to_have_count(1)
    expect(page.get_by_role("button", name=re.compile("^Return"))).to_be_disabled()
    held[0].continue_()
    expect(page.get_by_text("Loading the next drawing …")).to_have_count(0)
    second = int(page.url.rsplit("/", 1)[1])
    assert second != first
    with page.expect_request(lambda r: r.method == "POST") as asked:
        page.keyboard.press("c")
        page.get_by_label("What the student should read").fill("Held back, then said.")
        page.get_by_role("button", name="Add comment").click()
    assert f"/attempts/{second}/comments" in asked.value.url
    expect(page.get_by_text("Held back, then said.")).to_be_visible()
    page.keyboard.press("Control+z")


def fresh(page: Page, title: str) -> int:
    """Make an exercise that nobody has been issued, and return its revision."""
    guard = page.request.get("/api/session").json()["guard"]
    made = page.request.post(
        "/api/exercises/2/duplicate", multipart={"title": title}, headers={"X-Even-Mark-Guard": guard}
    )
    assert made.ok, made.text()
    return int(made.json()["revision_id"])


def test_what_could_not_be_saved_is_kept_over_a_reload_and_sent_by_itself(
    anyone: Any, faults: list[str]
) -> None:
    page: Page = anyone("maren")
    page.goto(f"/exercises/{fresh(page, 'Gate plate, once more')}")
    title = page.get_by_label("Title")
    expect(title).to_be_visible()
    before = title.input_value()
    cut = re.compile(r"/api/exercises/\d+$")
    page.route(cut, lambda route: route.abort() if route.request.method == "PATCH" else route.continue_())
    title.fill("Wheel hub, bored")
    expect(page.get_by_text("Not saved yet.")).to_be_visible()
    expect(page.get_by_text("Saved", exact=True)).to_have_count(0)
    page.get_by_label("Instructions for students").fill("Begin at the centre.")
    page.wait_for_timeout(200)
    page.on("dialog", lambda d: d.accept())
    page.reload()
    expect(page.get_by_label("Title")).to_have_value("Wheel hub, bored")
    expect(page.get_by_label("Instructions for students")).to_have_value("Begin at the centre.")
    expect(page.get_by_text("Not saved yet.")).to_be_visible()
    page.unroute(cut)
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()
    expect(page.get_by_text("Not saved yet.")).to_have_count(0)
    other: Page = anyone("maren", page.url.replace(page.url.split("/exercises")[0], ""))
    expect(other.get_by_label("Title")).to_have_value("Wheel hub, bored")
    expect(other.get_by_label("Instructions for students")).to_have_value("Begin at the centre.")
    other.get_by_label("Title").fill(before)
    expect(other.get_by_text("Saved", exact=True)).to_be_visible()
    faults[:] = [f for f in faults if "ERR_FAILED" not in f]


def test_two_tabs_on_one_exercise_lose_nothing(anyone: Any) -> None:
    here: Page = anyone("maren")
    here.goto(f"/exercises/{fresh(here, 'Shaft bracket, once more')}")
    expect(here.get_by_label("Title")).to_be_visible()
    there: Page = anyone("maren", "/exercises/" + here.url.rsplit("/", 1)[1])
    expect(there.get_by_label("Title")).to_be_visible()
    # different things: both stay, and the second is told
    here.get_by_label("Instructions for students").fill("From here.")
    expect(here.get_by_text("Saved", exact=True)).to_be_visible()
    there.get_by_label("Title").fill("Shaft bracket, again")
    expect(there.get_by_text("Changed meanwhile")).to_contain_text("the instructions")
    expect(there.get_by_text("Saved", exact=True)).to_be_visible()
    expect(there.get_by_label("Instructions for students")).to_have_value("From here.")
    # the same thing: it is asked
    here.get_by_label("Title").fill("Shaft bracket, here")
    expect(here.get_by_text("You changed")).to_contain_text("the title")
    expect(here.get_by_label("Title")).to_have_value("Shaft bracket, here")
    here.get_by_role("button", name="Keep mine").click()
    expect(here.get_by_text("Saved", exact=True)).to_be_visible()
    there.get_by_label("Title").fill("Shaft bracket, there")
    expect(there.get_by_text("You changed")).to_be_visible()
    there.get_by_role("button", name="Take theirs").click()
    expect(there.get_by_label("Title")).to_have_value("Shaft bracket, here")


def test_what_was_typed_when_a_session_ended_is_there_after_signing_in(anyone: Any) -> None:
    page: Page = anyone("maren", "/marking/20")
    expect(page.get_by_role("heading", name="Inspection list")).to_be_visible()
    page.keyboard.press("c")
    page.get_by_label("What the student should read").fill("Measure this once more.")
    page.context.clear_cookies()
    page.get_by_role("button", name="Add comment").click()
    expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
    page.get_by_label("Sign-in name").fill("maren")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url("**/marking/20")
    expect(page.get_by_role("button", name=re.compile("Comment, begun"))).to_be_visible()
    page.keyboard.press("c")
    expect(page.get_by_label("What the student should read")).to_have_value("Measure this once more.")
    # it belongs to this drawing alone
    page.get_by_role("button", name="Cancel").click()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("button", name=re.compile("Comment, begun"))).to_have_count(0)


def test_a_sentence_being_pointed_is_there_after_signing_in_again(anyone: Any, faults: list[str]) -> None:
    page: Page = anyone("maren", "/exercises", worker=True)
    begin(page, "Signed out")
    expect(page.locator("[data-worker]")).to_have_attribute("data-worker", "ready", timeout=60_000)
    write(page, "circle 0, 0; radius 40")
    settled(page)
    board = page.url
    page.route("**/api/boards/*/acts", lambda route: route.abort())
    write(page, "circle 0, 0; radius 33")  # worked out here, and not saved
    expect(page.locator("[data-saved]")).to_contain_text("kept in this browser")
    choose(page, "chain of lines")
    press(page, -20, -10)
    press(page, 20, -10)
    field = page.get_by_label("what to do")
    expect(field).to_have_value(re.compile("^chain .+; .+;"))
    pointed = field.input_value()
    page.context.clear_cookies()  # the session has run out
    page.unroute("**/api/boards/*/acts")
    page.on("dialog", lambda d: d.accept())
    page.reload()
    expect(page).to_have_url(re.compile("/sign-in"))
    page.get_by_label("Sign-in name").fill("maren")
    page.get_by_label("Password", exact=True).fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(page).to_have_url(board)
    expect(field).to_have_value(pointed)
    expect(page.locator("[data-step]")).to_have_count(2)
    settled(page)
    assert "radius 33" in kept(page)
    faults[:] = [f for f in faults if "401" not in f and "ERR_FAILED" not in f]


def test_words_of_something_issued_are_put_right_on_purpose(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises/2")
    words = page.get_by_label("Instructions for students")
    expect(words).to_be_visible()
    before = words.input_value()
    words.fill(before + " Mind the bore.")
    page.wait_for_timeout(900)
    student: Page = anyone("wren", "/work")
    student.get_by_role("link", name=re.compile("Gate plate, holes")).first.click()
    expect(student.get_by_role("heading", name="Gate plate, holes and slot")).to_be_visible()
    expect(student.get_by_text("Mind the bore.")).to_have_count(0)  # nothing half typed goes out
    page.on("dialog", lambda d: d.accept())
    page.reload()
    expect(words).to_have_value(before + " Mind the bore.")
    page.get_by_role("button", name="Save correction").click()
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()
    student.reload()
    expect(student.get_by_text("Mind the bore.")).to_be_visible()
    words.fill(before)
    page.get_by_role("button", name="Cancel").click()
    expect(words).to_have_value(before + " Mind the bore.")


def handed_in(page: Page, title: str) -> int:
    """How many tries somebody has handed in of an exercise; other tests may have."""
    work = page.request.get("/api/work").json()["work"]
    return sum(w["handed_in"] for w in work if w["title"] == title)


def test_what_the_server_will_not_take_is_shown_and_holds_nothing_up(anyone: Any, faults: list[str]) -> None:
    page: Page = anyone("rafael", "/work", worker=True)
    before = handed_in(page, "Shaft bracket in three views")
    draft(page, "Shaft bracket in three views")
    expect(page.locator("[data-worker]")).to_have_attribute("data-worker", "ready", timeout=60_000)
    field = page.get_by_label("what to do")
    field.fill('text "A\x02B"; 0, 0; height 5')  # as from a clipboard
    expect(page.locator("[data-refused]")).to_contain_text("cannot be seen or saved (U+0002)")
    field.press("Enter")
    expect(page.locator("[data-not-taken]")).to_contain_text("cannot be seen or saved")
    expect(page.locator("[data-step]")).to_have_count(0)
    page.get_by_role("button", name="Dismiss").click()
    field.fill("circle 0, 0;\u2028radius 8")
    field.press("Enter")
    expect(page.locator("[data-step='1']")).to_contain_text("radius 8")
    settled(page)

    def refuse(route: Route) -> None:
        if "radius 7" in (route.request.post_data or ""):
            says = {"code": "not-usable", "says": "It holds what cannot be kept."}
            route.fulfill(status=422, json=says)
        else:
            route.continue_()

    page.route("**/api/boards/*/acts", refuse)
    for says in ("circle 30, 0; radius 7", "circle 60, 0; radius 6", "line 0, 0; 60, 0"):
        field.fill(says)
        field.press("Enter")
    expect(page.locator("[data-not-taken]")).to_contain_text("“circle 30, 0; radius 7” was not added.")
    expect(page.locator("[data-step]")).to_have_count(3)
    settled(page)
    page.get_by_role("button", name="correct it").click()
    expect(field).to_have_value("circle 30, 0; radius 7")
    page.unroute("**/api/boards/*/acts")
    field.press("Enter")
    expect(page.locator("[data-step]")).to_have_count(4)
    settled(page)

    # the answer of handing in is lost: it is asked again, and one try is taken
    lost: list[str] = []

    def lose(route: Route) -> None:
        lost.append(route.request.headers["idempotency-key"])
        if len(lost) == 1:
            route.fetch()
            route.abort()
        else:
            route.continue_()

    page.route("**/api/boards/*/hand-in", lose)
    page.get_by_role("button", name="Hand in …").click()
    page.locator("[data-hand-in]").click()
    page.wait_for_url("**/results/*")
    assert len(lost) == 2
    assert len(set(lost)) == 1
    assert handed_in(page, "Shaft bracket in three views") == before + 1
    faults[:] = [f for f in faults if "ERR_FAILED" not in f]


def test_what_is_handed_in_is_the_list_that_is_shown(anyone: Any) -> None:
    page: Page = anyone("yuki", "/work")
    draft(page, "Shaft bracket in three views")
    write(page, "circle 0, 0; radius 8")
    settled(page)
    board = page.url.rsplit("/", 1)[1]
    guard = page.request.get("/api/session").json()["guard"]
    come = {"kind": "step", "id": 50, "says": "circle 90, 0; radius 3"}
    version = page.request.get(f"/api/boards/{board}").json()["version"]
    behind = len(page.request.get(f"/api/boards/{board}").json()["document"]["lines"])
    page.request.post(  # by another device, and this page does not know
        f"/api/boards/{board}/acts",
        data={"base": version, "acts": [[{"at": behind, "gone": [], "come": [come]}]]},
        headers={"X-Even-Mark-Guard": guard},
    )
    page.get_by_role("button", name="Hand in …").click()
    expect(page.locator("[data-says]")).to_contain_text("Changed in another tab")
    expect(page.locator("[data-step]")).to_have_count(2)
    page.get_by_role("button", name="Hand in …").click()
    page.locator("[data-hand-in]").click()
    page.wait_for_url("**/results/*")


def test_nobody_finds_what_another_has_left_in_the_browser(anyone: Any, faults: list[str]) -> None:
    page: Page = anyone("hana", "/work", worker=True)
    draft(page, "Crank link")
    expect(page.locator("[data-worker]")).to_have_attribute("data-worker", "ready", timeout=60_000)
    page.route("**/api/boards/*/acts", lambda route: route.abort())
    steps = page.locator("[data-step]").count()
    page.get_by_label("what to do").fill("circle 5, 5; radius 77")
    page.get_by_label("what to do").press("Enter")
    expect(page.locator("[data-step]")).to_have_count(steps + 1)
    expect(page.locator("[data-saved]")).to_contain_text("kept in this browser")
    page.context.clear_cookies()  # the session has ended
    page.on("dialog", lambda d: d.accept())
    page.goto("/work")
    expect(page).to_have_url(re.compile("/sign-in"))
    expect(page.locator("[data-left]")).to_contain_text("one step of a drawing")
    held = "() => JSON.stringify(localStorage)"
    assert "radius 77" in page.evaluate(held)

    def enter(name: str) -> None:
        page.get_by_label("Sign-in name").fill(name)
        page.get_by_label("Password", exact=True).fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()

    enter("felix")
    asked = page.get_by_role("dialog")
    expect(asked).to_contain_text("They can sign in and save it")
    asked.get_by_role("button", name="Let them sign in").click()
    expect(asked).to_have_count(0)
    expect(page).to_have_url(re.compile("/sign-in"))
    assert "radius 77" in page.evaluate(held)
    enter("felix")
    asked.get_by_role("button", name="Delete it and continue").click()
    expect(asked).to_have_count(0)
    assert "radius 77" not in page.evaluate(held)
    kept = page.evaluate("() => Object.keys(localStorage)")
    assert [k for k in kept if re.search("outbox|steps back|draft", k)] == []
    faults[:] = [f for f in faults if "ERR_FAILED" not in f]
