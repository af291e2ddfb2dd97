"""Files on the board: drawings laid in, lists opened, pictures traced; the worker held against the server."""

from __future__ import annotations

import io
import json
from typing import Any

import pytest
from PIL import Image, ImageDraw
from playwright.sync_api import Page, expect

from evenmark.core.construct.document import from_text, to_json
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Drawing, Line
from evenmark.core.formats.dxf_write import write_dxf as dxf
from evenmark.core.geometry.units import INCH
from evenmark.demo.parts import KIT
from tests.browser.boarding import PLATE, at, begin, draft, give, kept, settled, step_act, write
from tests.browser.test_axe import violations
from tests.extent import daily


def test_a_drawing_is_laid_in_and_drawn_on(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Laid in")
    give(page, "plate.dxf", dxf(PLATE))
    row = page.locator("[data-step='1']")
    expect(row).to_contain_text("lay in plate")
    expect(page.locator("[data-opened]")).to_contain_text("plate.dxf is on the board.")
    assert violations(page) == []
    write(page, "circle centre of circle 1; diameter 24")
    write(page, "fillet edge 1.1; edge 1.2; radius 8")
    page.get_by_role("button", name="layers").click()
    expect(page.get_by_text("bores", exact=True).first).to_be_visible()
    page.get_by_role("button", name="close", exact=True).click()
    # it comes again after the page was closed, and the list says the same
    text = kept(page)
    assert 'drawing plate: {"layers"' in text
    page.reload()
    expect(page.locator("[data-step]")).to_have_count(3)
    expect(page.locator("[data-broken]")).to_have_count(0)
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-step]")).to_have_count(1)
    page.keyboard.press("Control+z")
    expect(page.locator("[data-step]")).to_have_count(0)
    assert "drawing" not in kept(page)


def test_an_inch_drawing_is_converted_and_what_cannot_be_read_is_said(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "In millimetres")
    inches = Drawing(entities=(Line((0, 0), (2.5, 0), "0", Style(), "1"),), unit=INCH)
    give(page, "bar.dxf", dxf(inches))
    expect(page.locator("[data-opened]")).to_contain_text("converted from in to mm")
    page.locator("[data-step='1']").get_by_role("button").first.click()
    expect(page.get_by_label("length of edge 1")).to_have_count(
        0
    )  # a file's own number is read, not corrected
    expect(page.locator("[data-chosen]")).to_contain_text("63.5")
    give(page, "broken.dxf", b"  0\nSECTION\n  2\nENTI")
    expect(page.locator("[data-says]")).to_be_visible()
    give(page, "photo.png", b"no picture at all")
    expect(page.locator("[data-says]")).to_contain_text("cannot be read")
    expect(page.locator("[data-step]")).to_have_count(1)


def test_a_list_that_is_opened_asks_before_another_goes(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Opened")
    give(page, "plate.txt", b"rectangle 0, 0; 80 by 50\ncircle 20, 25; radius 8\n")
    expect(page.locator("[data-step]")).to_have_count(2)
    give(page, "link.json", json.dumps(to_json(from_text("circle 0, 0; radius 24\n"))).encode())
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("has 1 step. You can undo this.")
    dialog.get_by_role("button", name="Cancel").click()
    expect(page.locator("[data-step]")).to_have_count(2)
    give(page, "link.json", json.dumps(to_json(from_text("circle 0, 0; radius 24\n"))).encode())
    dialog.get_by_role("button", name="Replace steps").click()
    expect(page.locator("[data-step]")).to_have_count(1)
    page.keyboard.press("Control+z")
    expect(page.locator("[data-step]")).to_have_count(2)


def scan() -> bytes:
    """A picture of a plate: 1000 by 700 dots, its long edge 800 of them."""
    picture = Image.new("RGB", (1000, 700), "white")
    ImageDraw.Draw(picture).rectangle((100, 100, 900, 600), outline="black", width=4)
    out = io.BytesIO()
    picture.save(out, "PNG")
    return out.getvalue()


def lies(page: Page) -> dict[str, Any]:
    """Where the picture lies, as the server keeps it."""
    found: dict[str, Any] = page.request.get(page.url.replace("/boards/", "/api/boards/")).json()["underlay"]
    return found


def test_a_picture_is_traced_at_its_scale(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Traced")
    write(page, "rectangle 0, 0; 80 by 50")
    give(page, "scan.png", scan(), "image/png")
    box = page.locator("[data-underlay]")
    expect(box).to_be_visible()
    assert violations(page) == []
    first = lies(page)
    assert first["scale"] == pytest.approx(1.25 * max(80 / 1000, 50 / 700))
    box.get_by_role("button", name="Scale by two places").click()
    # the corners of the plate on the picture
    left, top = first["at"]
    a = (left + 100 * first["scale"], top - 600 * first["scale"])
    b = (left + 900 * first["scale"], top - 600 * first["scale"])
    page.mouse.click(*at(page, *a))
    page.mouse.click(*at(page, *b))
    expect(box.get_by_label("How far the two places are apart")).to_be_visible()
    assert violations(page) == []
    box.get_by_label("How far the two places are apart").fill("2*40")
    box.get_by_role("button", name="Scale picture").click()
    expect(box.get_by_text("How far apart are they?")).to_have_count(0)
    # a press is as exact as a dot of the screen: a third of a unit or less here
    assert lies(page)["scale"] == pytest.approx(0.1, rel=0.01)
    box.get_by_role("slider").fill("0.3")
    page.reload()
    page.get_by_role("button", name="picture", exact=True).click()
    assert lies(page)["strength"] == 0.3
    page.locator("[data-underlay]").get_by_role("button", name="Delete picture").click()
    expect(page.locator("[data-underlay]")).to_have_count(0)
    page.reload()
    expect(page.locator("[data-step]")).to_have_count(1)
    expect(page.get_by_role("button", name="picture", exact=True)).to_have_count(0)


def test_a_key_is_drawn_on_and_a_draft_begins_with_what_is_given(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    page.get_by_role("link", name="Crank link").first.click()
    page.get_by_role("button", name="More about this exercise").click()
    page.get_by_role("menuitem", name="Draw on its key").click()
    expect(page.get_by_label("what to do")).to_be_visible()
    count = page.locator("[data-step]").count()
    assert count > 5
    write(page, "circle 0, 0; radius 3")
    settled(page)
    page.get_by_role("button", name="Create key").click()
    expect(page.get_by_text("What counts")).to_be_visible()


def test_the_sheet_of_the_exercise_stands_beside(anyone: Any) -> None:
    page: Page = anyone("callum", "/work")
    draft(page, "Gate plate, holes and slot")
    expect(page.locator("[data-exercise-sheet]")).to_have_count(0)
    page.get_by_role("button", name="Exercise sheet").click()
    picture = page.get_by_role("img", name="Exercise sheet of Gate plate")
    expect(picture).to_be_visible()
    page.get_by_role("button", name="Enlarge").click()
    assert violations(page) == []
    page.reload()
    expect(picture).to_be_visible()
    page.get_by_role("button", name="Exercise sheet").click()
    expect(picture).to_have_count(0)


def test_a_bookmark_is_a_moment_to_go_back_to(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Back")
    for says in ("rectangle 0, 0; 80 by 50", "circle 20, 25; radius 8", "circle 60, 25; radius 8"):
        write(page, says)
    row = page.locator("[data-step='2']")
    row.get_by_role("button").first.click()
    step_act(page, "Bookmark before")
    page.get_by_role("button", name="here", exact=True).click()
    field = page.get_by_label("Rename: here")
    field.fill("the holes")
    field.press("Enter")
    page.get_by_role("button", name="Go back here: the holes").click()
    expect(page.get_by_role("dialog")).to_contain_text("deletes the 2 steps after “the holes”")
    page.get_by_role("dialog").get_by_role("button", name="Go back").click()
    expect(page.locator("[data-step]")).to_have_count(1)
    page.keyboard.press("Control+z")
    expect(page.locator("[data-step]")).to_have_count(3)
    assert "--- the holes" in kept(page)


def test_a_correction_shows_what_it_does_to_all_that_follows(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "Live")
    for says in (
        "circle 0, 0; radius 20",
        "circle 60, 0; radius 10",
        "line touching circle 1; circle 2; crossing left",
    ):
        write(page, says)
    row = page.locator("[data-step='1']")
    row.get_by_role("button").first.click()
    step_act(page, "Correct")
    field = page.get_by_label("what to do")
    field.fill("circle 0, 0; radius 55")
    # circles that meet have no crossing tangents: step 3 would break, and says so before it is done
    expect(page.locator("[data-would-break]")).to_contain_text("step 3 breaks: These circles")
    expect(page.locator("[data-broken]")).to_have_count(0)
    field.fill("circle 0, 0; radius 24")
    expect(page.locator("[data-would-break]")).to_have_count(0)
    field.press("Escape")
    assert "radius 20" in kept(page)


ASKED: tuple[tuple[str, dict[str, Any]], ...] = (
    ("view", {}),
    ("offered", {}),
    ("find", {"says": "round corner", "recent": ["circle by centre and size"]}),
    ("state", {"says": "circle centre of circle 1; rad", "caret": 30}),
    ("state", {"says": "circle 0, 0; radios 4", "caret": 21}),
    ("point", {"says": "line ", "x": 3.0, "y": -2.0, "reach": 6.0, "pixel": 0.2, "level": "gently"}),
    ("point", {"says": "erase ", "x": 24.0, "y": 0.5, "reach": 3.0, "pixel": 0.2}),
    ("write", {"says": "circle 5, 5; radius 7/3"}),
    ("write", {"says": "circle 5, 5; radius"}),
    ("measure", {"says": "circle 1"}),
    ("window", {"x": -200, "y": -200, "x2": 200, "y2": 200}),
    ("needed", {"steps": [1]}),
    ("line", {"line": None, "gone": False, "come": {"kind": "value", "name": "w", "says": "4 5/8"}}),
    ("kept", {}),
    ("nothing", {}),
)


@pytest.mark.parametrize("name", daily(["crank-link.txt", "cover-gasket.txt", "shaft-bracket.txt"]))
def test_the_worker_answers_as_the_server_does(anyone: Any, name: str) -> None:
    page: Page = anyone("maren", "/exercises", worker=True)
    begin(page, name)
    give(page, name, (KIT / name).read_bytes())
    expect(page.locator("[data-step]").nth(4)).to_be_visible()
    settled(page)
    asked: list[str] = []
    page.on("request", lambda r: asked.append(r.url))
    page.reload()
    expect(page.locator("[data-worker]")).to_have_attribute("data-worker", "ready", timeout=90_000)
    script = next(url for url in asked if "worker" in url and url.endswith(".js"))
    interpreter = next(url for url in asked if url.endswith("pyodide.mjs")).removesuffix("pyodide.mjs")
    core = next(url for url in asked if url.endswith(".zip") and "core" in url)
    api = page.url.replace("/boards/", "/api/boards/")
    board = page.request.get(api).json()
    theirs = page.evaluate(
        """async ({script, interpreter, core, asked}) => {
          const worker = new Worker(script, {type: 'module'});
          const said = () => new Promise((done) => { worker.onmessage = (e) => done(e.data); });
          let next = said();
          worker.postMessage({interpreter, core});
          await next;
          const out = [];
          for (const [n, [call, args]] of asked.entries()) {
            next = said();
            worker.postMessage({id: n, call, args: JSON.stringify(args)});
            out.push((await next).answer);
          }
          worker.terminate();
          return out;
        }""",
        {
            "script": script,
            "interpreter": interpreter,
            "core": core,
            # each call on the drawing as it is kept: the server takes back what a call changed
            "asked": [
                call for one in ASKED for call in (["open", {"document": board["document"]}], list(one))
            ],
        },
    )
    guard = page.request.get("/api/session").json().get("guard", "")
    for (call, args), answer in zip(ASKED, theirs[1::2], strict=True):
        mine = page.request.post(
            f"{api}/ask",
            data={"version": board["version"], "call": call, "args": args},
            headers={"X-Even-Mark-Guard": guard},
        ).json()["answer"]
        theirs_ = json.loads(answer)
        for one in (theirs_, mine):
            one.get("document", {}).pop("next", None)  # ids that were given and taken back are not used again
        assert theirs_ == mine, call
