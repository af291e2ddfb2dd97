"""How the tests draw on the board: by typing, by pointing, by touching."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from evenmark.core.construct.document import Document, shown
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Circle, Drawing, Line, Text
from evenmark.core.geometry.units import MM

CORNERS = ((0.0, 0.0), (80.0, 0.0), (80.0, 50.0), (0.0, 50.0))
OUTLINE = Style(weight=0.5)
PLATE = Drawing(
    entities=(
        *(
            Line(a, b, "outline", OUTLINE, "1")
            for a, b in zip(CORNERS, (*CORNERS[1:], CORNERS[0]), strict=True)
        ),
        Circle((20.0, 25.0), 6.0, "bores", Style(), "2"),
        Text("P 7", (60.0, 8.0), "left bottom", 3.5, 0.0, "0", Style(), "3"),
    ),
    layers={
        "0": Layer(name="0", style=Style()),
        "outline": Layer(name="outline", style=OUTLINE),
        "bores": Layer(name="bores", style=Style(color=1, line_type="chain", dash=17.0)),
    },
    unit=MM,
)


def begin(page: Page, title: str, unit: str = "mm") -> None:
    """Begin a board of an instructor's own."""
    page.get_by_role("button", name="Draw a key").click()
    page.get_by_label("Title").fill(title)
    page.get_by_label("Unit").select_option(unit)
    page.get_by_role("button", name="Begin").click()
    expect(page.get_by_label("what to do")).to_be_visible()


def draft(page: Page, title: str) -> None:
    """Begin a student's draft, from the list of what is to be done."""
    page.get_by_role("link", name=title).first.click()
    page.get_by_role("button", name="Draw it on the board").click()
    expect(page.get_by_label("what to do")).to_be_visible()


def give(page: Page, name: str, data: bytes, kind: str = "application/octet-stream") -> None:
    """Choose a file to be opened."""
    page.get_by_label("Open a file:").set_input_files({"name": name, "mimeType": kind, "buffer": data})


def settled(page: Page) -> None:
    """Everything is saved."""
    expect(page.locator("[data-saved]")).to_have_text("saved")


def write(page: Page, says: str) -> None:
    """Type a sentence and take it."""
    field = page.get_by_label("what to do")
    count = page.locator("[data-step]").count()
    field.fill(says)
    expect(page.locator("[data-wants]")).to_contain_text("complete")
    field.press("Enter")
    expect(page.locator("[data-step]")).to_have_count(count + 1)
    expect(field).to_have_value("")


def type_all(page: Page, says: list[str]) -> None:
    """Type sentences one behind the other, as fast as a page can take them: each at one go, as from a
    clipboard. Letter by letter is a test of its own."""
    if not says:
        return
    count = page.locator("[data-step]").count()
    page.get_by_label("what to do").click()
    for one in says:
        page.keyboard.insert_text(one)
        page.keyboard.press("Enter")
    expect(page.get_by_label("what to do")).to_have_value("")
    expect(page.locator("[data-refused], [data-not-taken]")).to_have_count(0)
    expect(page.locator("[data-step]")).to_have_count(count + len(says), timeout=60_000 + 600 * len(says))
    settled(page)


def step_act(page: Page, says: str) -> None:
    """Do something with the step that is chosen."""
    page.locator("[data-acts]").get_by_role("button", name=says).click()


def values(page: Page, defined: list[tuple[str, str]]) -> None:
    """Define named values."""
    if not defined:
        return
    page.get_by_role("button", name="values", exact=True).click()
    for name, says in defined:
        page.get_by_label("Name of a new value").fill(name)
        page.get_by_label("What the new value is").fill(says)
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_label(f"What {name} is")).to_have_value(says)
    page.get_by_role("button", name="close", exact=True).click()


def type_document(page: Page, document: Document) -> None:
    """Type a document: its values, and all its steps."""
    values(page, [(i.name, i.says) for i in document.items if i.kind == "value"])
    type_all(page, shown(document))


def kept(page: Page) -> str:
    """The list as the server keeps it, as text."""
    settled(page)
    board = re.search(r"/boards/(\d+)", page.url)
    assert board is not None
    return page.request.get(f"/api/boards/{board[1]}/file.txt").text()


def hand_in(page: Page, instructor: Page | None = None) -> None:
    """Hand in what is drawn, and read in the result that it has all marks; where the instructor returns it,
    on the instructor's page."""
    settled(page)
    page.get_by_role("button", name="Hand in …").click()
    page.locator("[data-hand-in]").click()
    expect(page).to_have_url(re.compile("/results/"))
    if instructor is None:
        expect(page.get_by_text("100").first).to_be_visible()
    else:
        instructor.goto(page.url.replace("/results/", "/marking/"))
        expect(instructor.get_by_text("Everything asked for is met.")).to_be_visible()


def at(page: Page, x: float, y: float) -> tuple[float, float]:
    """Where a place of the drawing is on the screen, read off the rulers."""
    found = page.evaluate(
        """() => {
          const ticks = (which) => [...document.querySelectorAll('.ruler text')].filter(
            (t) => (t.getAttribute('text-anchor') === 'middle') === (which === 'x'));
          const box = document.querySelector('[data-sheet]').getBoundingClientRect();
          const read = (which) => ticks(which).map((t) => [Number(t.textContent.replace('−', '-')),
            which === 'x' ? Number(t.getAttribute('x')) : Number(t.getAttribute('y')) - 3.5]);
          return {x: read('x'), y: read('y'), left: box.left, top: box.top};
        }"""
    )
    (x0, px0), (x1, px1) = found["x"][0], found["x"][-1]
    (y0, py0), (y1, py1) = found["y"][0], found["y"][-1]
    return (
        found["left"] + px0 + (x - x0) * (px1 - px0) / (x1 - x0),
        found["top"] + py0 + (y - y0) * (py1 - py0) / (y1 - y0),
    )


def press(page: Page, x: float, y: float) -> None:
    """Point at a place of the drawing, and press."""
    px, py = at(page, x, y)
    page.mouse.move(px - 3, py - 3)
    page.mouse.move(px, py)
    page.wait_for_timeout(60)
    page.mouse.click(px, py)


def widest(page: Page, width: int) -> int:
    """Give a page another width; return how wide what it holds is then."""
    page.set_viewport_size({"width": width, "height": 800})
    page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
    return int(page.evaluate("document.documentElement.scrollWidth"))


def tap(page: Page, x: float, y: float) -> None:
    """Touch a place of the drawing."""
    page.touchscreen.tap(*at(page, x, y))


def choose(page: Page, kind: str) -> None:
    """Choose what to draw next, by pressing it."""
    page.get_by_label("what to do").click()
    page.locator("[data-next]").get_by_role("button", name=kind, exact=True).click()


class Hands:
    """Somebody without a keyboard: presses kinds, answers, signs and places, with a mouse or a finger."""

    def __init__(self, page: Page, *, touch: bool = False) -> None:
        self.page, self.touch = page, touch
        self.field = page.get_by_label("what to do")
        pad = page.get_by_role("button", name="pad", exact=True)
        if pad.get_attribute("aria-pressed") == "false":
            pad.click()

    def _press(self, what: Any) -> None:
        if self.touch:
            what.tap()
        else:
            what.click()

    def kind(self, says: str) -> None:
        """Begin a kind of sentence."""
        self._press(self.field)
        self._press(self.page.locator("[data-next]").get_by_role("button", name=says, exact=True))

    def layer(self, name: str) -> None:
        """Draw on a usual layer from now on."""
        self._press(self.page.get_by_role("button", name="layers"))
        table = self.page.get_by_role("region", name="Values and layers")
        self._press(table.get_by_role("button", name=name, exact=True))
        self._press(table.get_by_role("button", name="close", exact=True))

    def place(self, x: float, y: float, leads_to: str) -> None:
        """Press a place; the sentence then says so. Nothing stands there where it is taken at once."""
        (tap if self.touch else press)(self.page, x, y)
        expect(self.field).to_have_value(re.compile(rf"^{re.escape(leads_to.rstrip())}\s*$"))

    def answer(self, says: str) -> None:
        """Press an answer."""
        pill = self.page.locator("[data-answers]").get_by_role("button", name=says, exact=True)
        self._press(pill)

    def signs(self, says: str) -> None:
        """Press signs of the pad."""
        for sign in says:
            named = sign if sign != "'" else "\\'"
            self._press(self.page.locator(f"[data-pad] [data-sign='{named}']"))

    def say(self, says: str) -> None:
        """Say a sentence whose kind is begun: by its answers where one goes on as it does, else by signs,
        and take it."""
        count = self.page.locator("[data-step]").count()
        for _ in range(len(says) + 1):
            value = self._settled()
            if not value or value.rstrip() == says:
                break
            assert says.startswith(value.rstrip()), (value, says)
            rest = says[len(value) :].lstrip()
            pills = self.page.locator("[data-answers] button").all_text_contents()
            said = [(p.strip(), re.escape(p.strip().replace(" ·", ";"))) for p in pills]
            fits = [p for p, as_said in said if re.match(rf"{as_said}(?![\w.])", rest)]
            if fits:
                self.answer(max(fits, key=len))
                continue
            sign = says[len(value)]
            if sign == ";":
                self._press(self.page.get_by_role("button", name="next part"))
                continue
            self._page_with(sign)
            self.signs(sign)
        if self._settled():
            self.take()
        expect(self.page.locator("[data-step]")).to_have_count(count + 1)

    def _settled(self) -> str:
        """The sentence, once the page has read what stands there."""
        expect(self.page.locator("[data-sentence]")).to_have_attribute("data-read", "yes")
        return self.field.input_value()

    def _page_with(self, sign: str) -> None:
        """Turn the pad to the page with a sign."""
        here = self.page.locator("[data-pad] [data-sign]")
        if sign in here.evaluate_all("all => all.map(one => one.dataset.sign)"):
            return
        pad = self.page.get_by_role("group", name="Pad")
        if pad.get_by_role("button", name="abc").count():
            self._press(pad.get_by_role("button", name="abc"))
        elif not sign.isalpha():
            self._press(pad.get_by_role("button", name="123"))
        if sign.isupper() and pad.get_by_role("button", name="capital").count():
            self._press(pad.get_by_role("button", name="capital"))
        elif sign.islower() and pad.get_by_role("button", name="small").count():
            self._press(pad.get_by_role("button", name="small"))

    def take(self) -> None:
        """Take the sentence."""
        count = self.page.locator("[data-step]").count()
        self._press(self.page.get_by_role("button", name="Add step"))
        expect(self.page.locator("[data-step]")).to_have_count(count + 1)
