"""The board: `python -m bench.board`.

In Chromium, on a server of its own: from pointer to preview in a drawing of 300 steps, by the page's worker
and by the server; a step taken and saved in one of 1,000; how soon the page can be used; two thousand
features zoomed. Then thirty boards at once: how much of a core the server takes.

Needs the browser's packages (`./test` installs them).
"""

from __future__ import annotations

import os
import random
import shutil
import signal
import statistics
import sys
import threading
import time

from playwright.sync_api import Browser, Page, sync_playwright
from scripts.cluster import data_folder

from bench.extent import sized
from bench.load import PASSWORD, ROOT, database_of, server
from bench.processes import seconds_of
from bench.steps import SHAPES
from bench.visitor import Visitor
from evenmark.core.construct.document import from_text, to_json
from evenmark.services import boards
from evenmark.services.people import make_person
from evenmark.store.database import Database

BOARDS, SECONDS, MOVES = sized(30, 2), sized(20.0, 3.0), sized(150, 5)
EVERY_STEP = 6.0
"""Seconds from one step to the next of somebody who draws."""
FLAGS = ["--no-sandbox", "--disable-background-networking", "--disable-quic"]
WATCH = """() => {
  const sheet = document.querySelector('[data-sheet]');
  window.took = [];
  window.shown = [];
  let at = 0;
  sheet.addEventListener('pointermove', () => { at = performance.now(); }, true);
  new MutationObserver((all) => {
    const element = (one) => (one.nodeType === 1 ? one : one.parentElement);
    const within = (m) => element(m.target)?.closest('[data-live]');
    if (!at || !all.some(within)) return;
    const began = at;
    at = 0;
    window.took.push(performance.now() - began);
    requestAnimationFrame(() => window.shown.push(performance.now() - began));
  }).observe(sheet, {subtree: true, childList: true, characterData: true});
}"""
FRAMES = """async () => {
  const sheet = document.querySelector('[data-sheet]');
  const box = sheet.getBoundingClientRect();
  const turn = (deltaY) => sheet.dispatchEvent(new WheelEvent('wheel', {deltaY, clientX: box.left + 300,
    clientY: box.top + 300, bubbles: true, cancelable: true}));
  const took = [];
  let last = performance.now();
  for (let n = 0; n < 90; n++) {
    turn(n % 30 < 15 ? -60 : 60);
    await new Promise(requestAnimationFrame);
    took.push(performance.now() - last);
    last = performance.now();
  }
  return took.slice(5);
}"""


def browser_program() -> str:
    """Return Debian's Chromium: the one without windows where it is there."""
    found = shutil.which("chromium-headless-shell") or shutil.which("chromium")
    if found is None:
        raise RuntimeError("Chromium is missing: ./test installs it.")
    return found


def share(values: list[float], of: float) -> float:
    """Return the value below which a share of some lies."""
    return sorted(values)[min(int(len(values) * of), len(values) - 1)]


def row(says: str, took: list[float], limit: float) -> None:
    found = share(took, 0.95)
    print(
        f"{says:<58} median {statistics.median(took):6.1f} ms   95 % {found:6.1f} ms   "
        f"limit {limit:5.0f}   {'met' if found <= limit else 'NOT MET'}"
    )


def made(database: Database, count: int, steps: int, shape: str = "mixed") -> list[int]:
    """Make people with a board of so many steps each; return the boards."""
    text = "\n".join(SHAPES[shape](steps))
    document = from_text(text)
    out = []
    with database.transaction() as session:
        for n in range(count):
            name = f"drawer{steps}x{count}n{n}"
            person = make_person(
                session, name=f"Drawer {n} Elm", sign_in=name, password=PASSWORD, role="instructor"
            )
            out.append(boards.new_board(session, person, f"{steps} steps", "mm", document).id)
    return out


def opened(browser: Browser, port: int, who: str, board: int, *, worker: bool) -> Page:
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, base_url=f"http://127.0.0.1:{port}"
    )
    if not worker:
        context.add_init_script("delete window.Worker")
    page = context.new_page()
    page.goto("/")
    page.get_by_label("Sign-in name").fill(who)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url("**/desk")
    page.goto(f"/boards/{board}")
    page.get_by_label("what to do").wait_for(timeout=60_000)
    if worker:
        page.locator("[data-worker=ready]").wait_for(timeout=90_000)
    return page


def pointer(page: Page, says: str, limit: float) -> None:
    """Begin a line, and move the pointer about; print how long each preview took until it stood in the page,
    and until the frame in which it was painted."""
    field = page.get_by_label("what to do")
    field.fill("line 0, 0; ")
    box = page.locator("[data-sheet]").bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 200, box["y"] + 200)
    page.locator("[data-live]").wait_for()
    page.evaluate(WATCH)
    chance = random.Random(3)  # noqa: S311
    for _ in range(MOVES):
        page.mouse.move(
            box["x"] + chance.uniform(60, box["width"] - 60),
            box["y"] + chance.uniform(60, box["height"] - 60),
        )
        page.wait_for_timeout(120)
    row(f"{says}", page.evaluate("window.took"), limit)
    painted = page.evaluate("window.shown")
    print(f"      painted, at 60 frames a second: 95 % {share(painted, 0.95):.1f} ms")
    field.fill("")


def accepted(page: Page) -> list[float]:
    """Write steps; return how long each took until it stood in the list and was saved, ms."""
    took = []
    field = page.get_by_label("what to do")
    for n in range(sized(12, 2)):
        field.fill(f"circle {n * 7}, {n * 3}; radius 2")
        page.locator("[data-wants]", has_text="complete").wait_for()
        took.append(
            page.evaluate(
                """async () => {
                  const field = document.querySelector('[data-sentence] textarea');
                  const saved = document.querySelector('[data-saved]');
                  const list = document.querySelector('[data-steps]');
                  const last = list.lastElementChild.lastElementChild;
                  const began = performance.now();
                  const enter = {key: 'Enter', bubbles: true, cancelable: true};
                  field.dispatchEvent(new KeyboardEvent('keydown', enter));
                  const taken = () => list.lastElementChild.lastElementChild !== last;
                  while (!taken() || saved.textContent.trim() !== 'saved')
                    await new Promise((done) => setTimeout(done, 2));
                  return performance.now() - began;
                }"""
            )
        )
    return took


def usable(page: Page) -> list[float]:
    """Open the page again and again; return how long until the sheet shows what is drawn and a step can be
    written, ms."""
    took = []
    for _ in range(sized(5, 2)):
        began = time.perf_counter()
        page.reload(wait_until="commit")
        page.locator("[data-step]").first.wait_for()
        page.get_by_label("what to do").fill("circle 0, 0; radius 5")
        page.locator("[data-wants]", has_text="complete").wait_for()
        took.append((time.perf_counter() - began) * 1000)
    return took


def draws(
    port: int,
    who: str,
    board: int,
    next_id: int,
    lines: int,
    until: float,
    faults: list[str],
    *,
    points: float,
) -> None:
    """One board that is drawn on: a step now and then; ``points`` calls a second of its pointer, where no
    worker answers them."""
    try:
        visitor = Visitor(port)
        visitor.sign_in(who, PASSWORD)
        chance = random.Random(who)  # noqa: S311
        version, n = 0, 0
        time.sleep(chance.uniform(0, EVERY_STEP))
        while time.monotonic() < until:
            step = {"kind": "step", "says": f"circle {n * 9}, 60; radius 4", "id": next_id + n}
            splices = [{"at": lines + n, "gone": [], "come": [step]}]
            version = visitor.json(
                "act", "POST", f"/api/boards/{board}/acts", {"base": version, "acts": [splices]}
            )["version"]
            n += 1
            rest = time.monotonic() + EVERY_STEP
            while time.monotonic() < min(rest, until):
                if not points:
                    time.sleep(0.05)
                    continue
                args = {
                    "says": "line 0, 0; ",
                    "x": chance.uniform(0, 90),
                    "y": chance.uniform(-60, 0),
                    "reach": 4.0,
                    "pixel": 0.3,
                }
                visitor.json(
                    "point",
                    "POST",
                    f"/api/boards/{board}/ask",
                    {"version": version, "call": "point", "args": args},
                )
                time.sleep(1 / points)
    except Exception as why:
        faults.append(repr(why))


def thirty(port: int, pid: int, found: list[int], steps: int, points: float) -> float:
    """Return how much of a core the server takes while all boards are drawn on."""
    faults: list[str] = []
    document = to_json(from_text("\n".join(SHAPES["mixed"](steps))))
    until = time.monotonic() + SECONDS + EVERY_STEP
    threads = [
        threading.Thread(
            target=draws,
            args=(
                port,
                f"drawer{steps}x{BOARDS}n{n}",
                board,
                document["next"],
                len(document["lines"]),
                until,
                faults,
            ),
            kwargs={"points": points},
        )
        for n, board in enumerate(found)
    ]
    for thread in threads:
        thread.start()
    time.sleep(EVERY_STEP)  # all have signed in
    before, began = seconds_of(pid), time.monotonic()
    time.sleep(SECONDS - 1)
    share_ = (seconds_of(pid) - before) / (time.monotonic() - began)
    for thread in threads:
        thread.join()
    if faults:
        print(f"faults: {faults[:3]}", file=sys.stderr)
    return share_


def main() -> int:
    """Print the figures."""
    state = data_folder(ROOT).parent / f"board-{os.getpid()}"
    state.mkdir(parents=True)
    process, port = server(state)
    try:
        database = database_of(state)
        few, many, most = sized(300, 10), sized(1000, 20), sized(2000, 30)
        [small], [large], [wide] = (made(database, 1, n) for n in (few, many, most))
        with sync_playwright() as play:
            browser = play.chromium.launch(executable_path=browser_program(), args=FLAGS)
            page = opened(browser, port, f"drawer{few}x1n0", small, worker=True)
            pointer(page, "pointer to preview at 300 steps, in the worker", 16)
            row("the page usable again, warm cache, before the worker", usable(page), 1500)
            page.context.close()
            page = opened(browser, port, f"drawer{few}x1n0", small, worker=False)
            pointer(page, "pointer to preview at 300 steps, by the server", 50)
            page.context.close()
            page = opened(browser, port, f"drawer{many}x1n0", large, worker=True)
            row("a step at 1,000 steps taken and saved", accepted(page), 150)
            page.context.close()
            page = opened(browser, port, f"drawer{most}x1n0", wide, worker=True)
            count = page.evaluate("() => document.querySelectorAll('[data-step]').length")
            row(f"a frame of zooming, {count} steps drawn", page.evaluate(FRAMES), 34)
            browser.close()
        for points, steps, says in (
            (0.0, 120, "their own workers point"),
            (4.0, 121, "the server points for all, 4 a second each"),
        ):
            took = thirty(port, process.pid, made(database, BOARDS, steps), steps, points)
            print(f"thirty boards, {says:<46} {took:.2f} of a core   limit 0.50")
        database.close()
    finally:
        process.send_signal(signal.SIGINT)
        process.wait(60)
        shutil.rmtree(state, ignore_errors=True)
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
