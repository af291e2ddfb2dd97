"""Putting things right after issuing, in the real interface: withdrawing, dates, more for one student, names,
wiping, files to take away, long lists."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_nothing_lost import fresh

CLASS = "Wednesday evenings"


def choose(page: Page, menu: str, item: str) -> None:
    page.get_by_role("button", name=menu).click()
    page.get_by_role("menuitem", name=item).click()


def asked(page: Page) -> Any:
    return page.get_by_role("dialog")


@pytest.fixture(scope="module")
def group(browser: Any, site: str) -> int:
    """A class of its own with two students, one of whom has the longest name that there can be."""
    from evenmark.demo.plans import PASSWORD

    context = browser.new_context(base_url=site)
    guard = context.request.post("/api/sign-in", data={"sign_in": "maren", "password": PASSWORD}).json()[
        "guard"
    ]
    head = {"X-Even-Mark-Guard": guard}
    made = context.request.post("/api/classes", data={"name": CLASS}, headers=head).json()["id"]
    roster = f"name,sign-in\nPetra Fenn,petra.fenn\n{'Maximiliana ' * 7}Overlong,max.overlong\n"
    context.request.post(
        f"/api/classes/{made}/roster",
        multipart={"file": {"name": "r.csv", "mimeType": "text/csv", "buffer": roster.encode()}},
        headers=head,
    )
    context.close()
    return int(made)


def issue_to(page: Page, revision: int) -> None:
    page.goto(f"/exercises/{revision}")
    page.get_by_role("button", name="Issue to a class").click()
    page.get_by_role("button", name=re.compile("^Class:")).click()
    page.get_by_role("option", name=re.compile(CLASS)).click()
    page.get_by_role("button", name="Issue", exact=True).click()
    expect(page.get_by_role("link", name=re.compile(f"{CLASS}: 0 of"))).to_be_visible()


def test_issued_put_right_and_withdrawn(anyone: Any, group: int) -> None:
    page: Page = anyone("maren")
    revision = fresh(page, "Hub for the evenings")
    issue_to(page, revision)
    page.get_by_role("link", name=re.compile(f"{CLASS}: 0 of")).click()
    choose(page, "More about what was issued", "Date and tries")
    page.get_by_role("spinbutton", name="Tries").fill("7")
    page.get_by_label("Due").fill("2031-03-04T16:00")
    page.get_by_role("button", name="Save changes").click()
    expect(page.get_by_text("Changed. It is in the record.")).to_be_visible()
    expect(page.get_by_text("due Tue 4 Mar 2031, 16:00")).to_be_visible()

    choose(page, "More about what was issued", "Extra time or tries")
    page.get_by_role("spinbutton", name="More tries").fill("2")
    page.get_by_role("button", name="Allow").click()
    expect(page.get_by_text("Give a reason").or_(page.locator("textarea:invalid"))).to_be_visible()
    page.get_by_label("Reason").fill("Was ill.")
    page.get_by_role("button", name="Allow").click()
    expect(page.get_by_text("Allowed. It is in the record.")).to_be_visible()
    expect(page.get_by_role("button", name="2 more")).to_be_visible()

    choose(page, "More about what was issued", "Close now")
    page.get_by_role("button", name="Close exercise", exact=True).click()
    expect(page.get_by_text(re.compile("closed .*"))).to_be_visible()
    choose(page, "More about what was issued", "Reopen")
    expect(page.get_by_text("Reopened.")).to_be_visible()

    choose(page, "More about what was issued", "Record")
    rows = page.locator("ol li")
    expect(rows.filter(has_text="7 tries instead of")).to_have_count(1)
    expect(rows.filter(has_text="Was ill.")).to_have_count(1)
    page.go_back()
    choose(page, "More about what was issued", "Withdraw exercise")
    page.get_by_role("button", name="Withdraw exercise", exact=True).click()
    page.wait_for_url("**/classes/*")
    expect(page.get_by_text("Nothing yet. Open an exercise")).to_be_visible()
    # nobody has it any more, so that what counts can be changed without a next revision
    page.goto(f"/exercises/{revision}")
    expect(page.get_by_text("not issued yet")).to_be_visible()


def test_a_newer_revision_is_one_card_that_leads_to_the_older(anyone: Any, group: int) -> None:
    page: Page = anyone("maren")
    revision = fresh(page, "Hub in two revisions")
    issue_to(page, revision)
    page.get_by_role("tab", name="By feature").click()
    page.get_by_role("switch", name=re.compile("^Check .*(hole|bore|circle)", re.I)).first.click()
    expect(page.get_by_text("Revision 2")).to_be_visible()
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()
    issue_to(page, int(page.url.rsplit("/", 1)[1]))
    page.goto(f"/classes/{group}")
    expect(page.get_by_text("replaced by a newer revision")).to_have_count(1)
    code = page.locator("li", has_text="Petra Fenn").locator("b").inner_text()
    student: Page = anyone(None, f"/first/{code}")
    student.goto(f"/first/{code}")
    student.get_by_label("Password").fill("a few words in a row")
    student.get_by_role("button", name="Save password and sign in").click()
    cards = student.get_by_role("link", name=re.compile("Hub in two revisions"))
    expect(cards).to_have_count(1)
    expect(cards).to_contain_text("revision 2")
    cards.click()
    student.get_by_role("link", name=re.compile("Revision 1")).click()
    expect(student.get_by_text("A newer revision replaced this one")).to_be_visible()
    expect(student.get_by_label("Choose your drawing")).to_have_count(0)
    student.get_by_role("link", name="Open newer revision").click()
    expect(student.get_by_label("Choose your drawing")).to_have_count(1)


def test_a_class_is_renamed_ended_brought_back_and_a_student_wiped(anyone: Any, group: int) -> None:
    page: Page = anyone("maren", f"/classes/{group}")
    choose(page, "More about this class", "Rename")
    page.get_by_label("Name", exact=True).fill("Wednesday late")
    page.get_by_role("button", name="Rename class").click()
    expect(page.get_by_role("heading", name="Wednesday late")).to_be_visible()
    choose(page, "More about this class", "Archive class")
    page.get_by_role("button", name="Archive class").click()
    expect(page.get_by_text("This class is archived.")).to_be_visible()
    page.get_by_role("button", name="Restore class").click()
    expect(page.get_by_text("Join code")).to_be_visible()
    choose(page, "More about this class", "Rename")
    page.get_by_label("Name", exact=True).fill(CLASS)
    page.get_by_role("button", name="Rename class").click()
    expect(page.get_by_role("heading", name=CLASS)).to_be_visible()

    choose(page, "More about Petra Fenn", "Delete student data")
    dialog = asked(page)
    expect(dialog.get_by_text("The account petra.fenn is deleted, too.")).to_be_visible()
    expect(dialog.get_by_text("cannot undo this")).to_be_visible()
    page.get_by_role("button", name="Cancel").click()
    expect(page.locator("li", has_text="Petra Fenn")).to_have_count(1)
    choose(page, "More about Petra Fenn", "Delete student data")
    page.get_by_role("button", name="Delete student data").click()
    expect(page.locator("li", has_text="Petra Fenn")).to_have_count(0)
    choose(page, "More about this class", "Record")
    expect(page.get_by_text("Deleted the data of one student")).to_be_visible()
    expect(page.get_by_text("Petra Fenn")).to_have_count(0)


def test_files_to_take_away_are_made_and_fetched(anyone: Any, tmp_path: Path) -> None:
    page: Page = anyone("maren", "/issues/4")
    for item, ending in (("Drawings as one ZIP", ".zip"), ("Feedback as one PDF", ".pdf")):
        choose(page, "More about what was issued", item)
        expect(page.get_by_text("is ready")).to_be_visible(timeout=60_000)
        with page.expect_download() as got:
            page.get_by_role("link", name="Download file").click()
        file = tmp_path / f"got{ending}"
        got.value.save_as(file)
        assert got.value.suggested_filename.endswith(ending)
        page.get_by_role("button", name="Close").click()
        if ending == ".zip":
            names = zipfile.ZipFile(io.BytesIO(file.read_bytes())).namelist()
            assert all(re.search(r", try \d+\.(dxf|svg|json)$", n) for n in names)
        else:
            assert file.read_bytes().startswith(b"%PDF")
    with page.expect_download() as got:
        choose(page, "More about what was issued", "Marks as CSV")
    assert b"sign-in" in Path(got.value.path()).read_bytes()


def test_a_file_that_is_being_made_can_be_stopped(anyone: Any) -> None:
    page: Page = anyone("maren", "/issues/4")
    page.route(
        "**/api/exports/*",
        lambda r: (
            r.fulfill(
                json={
                    "id": 1,
                    "kind": "files",
                    "name": "D.zip",
                    "state": "waiting",
                    "done": 3,
                    "of": 60,
                    "size": 0,
                    "trouble": None,
                }
            )
            if r.request.method == "GET"
            else r.continue_()
        ),
    )
    choose(page, "More about what was issued", "Drawings as one ZIP")
    expect(page.get_by_text("3 of 60 drawings")).to_be_visible()
    with page.expect_request(lambda r: r.method == "DELETE" and "/api/exports/" in r.url):
        page.get_by_role("button", name="Stop").click()
    expect(asked(page)).to_have_count(0)


def test_the_sheet_is_printed_on_a_paper_of_ones_choice(anyone: Any) -> None:
    page: Page = anyone("wren", "/work/1")
    page.get_by_role("button", name=re.compile("^Paper:")).click()
    page.get_by_role("option", name="A3").click()
    with page.expect_download() as got:
        page.get_by_role("link", name="Sheet as PDF, to scale").click()
    data = Path(got.value.path()).read_bytes()
    assert b"1190.5" in data  # 420 mm in points


def test_a_list_of_two_hundred_is_searched_filtered_and_paged(anyone: Any) -> None:
    page: Page = anyone("maren")
    rows = [
        {
            "revision_id": n,
            "exercise_id": n,
            "number": 1,
            "title": f"Exercise {n}",
            "key_name": "k.dxf",
            "changed_at": "2026-11-20T10:00:00Z",
            "issued": False,
            "classes": [],
            "archived": n % 4 == 0,
        }
        for n in range(1, 201)
    ]
    page.route("**/api/exercises", lambda r: r.fulfill(json={"exercises": rows}))
    page.route("**/sheet.png", lambda r: r.abort())
    page.goto("/exercises")
    cards = page.locator("main li", has=page.locator("a[href^='/exercises/']"))
    expect(cards).to_have_count(24)
    expect(page.get_by_text("1 to 24 of 150")).to_be_visible()
    page.get_by_role("button", name="Next").click()
    expect(page.get_by_text("25 to 48 of 150")).to_be_visible()
    page.get_by_label("Find an exercise").fill("exercise 19")
    expect(page.get_by_text("10 exercises")).to_be_visible()
    expect(cards.first).to_contain_text("Exercise 19")
    page.get_by_role("button", name=re.compile("^Which exercises:")).click()
    page.get_by_role("option", name="archived").click()
    expect(page.get_by_text("2 exercises")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Find an exercise")).to_have_value("exercise 19")
    expect(page.get_by_text("2 exercises")).to_be_visible()
    page.get_by_label("Find an exercise").fill("no such thing")
    expect(page.get_by_text("Nothing found.")).to_be_visible()


@pytest.fixture
def faults() -> list[str]:
    """Pictures that are held back are no fault of the page's."""

    class Some(list[str]):
        def append(self, said: str) -> None:
            if "ERR_FAILED" not in said:
                super().append(said)

    return Some()


def test_a_key_without_dimensions_is_told_before_it_is_issued(anyone: Any) -> None:
    from evenmark.core.formats.dxf_pen import Manner
    from evenmark.core.formats.dxf_write import write_dxf
    from evenmark.demo import parts

    page: Page = anyone("maren", "/exercises?new=1")
    page.get_by_label("Choose the key drawing").set_input_files(
        {
            "name": "bare.dxf",
            "mimeType": "application/dxf",
            "buffer": write_dxf(parts.crank_link().drawing, Manner()),
        }
    )
    page.get_by_role("button", name="Create exercise").click()
    page.wait_for_url(re.compile(r"/exercises/\d+$"))
    page.get_by_role("button", name="Issue to a class").click()
    expect(page.get_by_text("The key has no dimensions")).to_be_visible()
    page.get_by_role("button", name="Cancel").click()
    choose(page, "More about this exercise", "Delete exercise")
    page.get_by_role("button", name="Delete exercise").click()
    page.wait_for_url("**/exercises")
    page.goto("/exercises/2")
    page.get_by_role("button", name="Issue to a class").click()
    expect(page.get_by_text("The key has no dimensions")).to_have_count(0)
