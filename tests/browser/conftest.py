"""The real thing for browser tests: built pages, web server and worker as processes, the demo in a database
of its own."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from bench.board import browser_program
from playwright.sync_api import Browser, Page, expect

from evenmark.demo.plans import INSTRUCTOR, PASSWORD
from tests.conftest import ROOT
from tests.template import SITE, own_server
from tests.waiting import until

FLAGS = [
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-quic",
]


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Mark everything in this folder, so that no file can forget to."""
    here = Path(__file__).parent
    for item in items:
        if item.path.is_relative_to(here):
            item.add_marker("browser")


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, object]:
    return {"executable_path": browser_program(), "args": FLAGS}


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, object]:
    return {"viewport": {"width": 1280, "height": 800}, "locale": "en-GB"}


@pytest.fixture(scope="session")
def site() -> Iterator[str]:
    """The address of a running Even Mark with the demo loaded, one for each process of the tests."""
    with own_server(f"tests-{os.getpid()}-site", demo=True) as server:
        yield from _served(f"{server.url.rsplit('/', 1)[0]}/{SITE}")


def _served(url: str) -> Iterator[str]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    environment = {**os.environ, "EVENMARK_DATABASE_URL": url, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"}
    server = [
        "-m",
        "gunicorn",
        "--bind",
        f"127.0.0.1:{port}",
        "--threads",
        "4",
        "--worker-class",
        "gthread",
        "--no-control-socket",
        "--log-level",
        "warning",
        "evenmark.web.app:from_environment()",
    ]
    children = [
        subprocess.Popen([sys.executable, *words], cwd=ROOT, env=environment)
        for words in (server, ["-m", "evenmark.jobs"])
    ]
    address = f"http://127.0.0.1:{port}"
    try:
        until(lambda: _answers(address), f"{address} did not come up")
        yield address
    finally:
        for child in children:
            child.terminate()
        for child in children:
            child.wait(30)


def _answers(address: str) -> bool:
    try:
        urllib.request.urlopen(f"{address}/api/session", timeout=2).close()
    except OSError:
        return False
    return True


@pytest.fixture
def faults() -> list[str]:
    """What the pages of a test complained about; empty at the end, or the test fails."""
    return []


@pytest.fixture
def anyone(
    browser: Browser, site: str, faults: list[str], browser_context_args: dict[str, object]
) -> Iterator[object]:
    """Opens a fresh browser for somebody: ``anyone("maren")`` is signed in, ``anyone()`` a stranger.

    Boards are answered by the server, as where no worker can run, unless ``worker`` is asked for: an
    interpreter takes seconds to start, and both give the same answers (a test of its own compares them).
    """
    contexts = []

    def open_(sign_in: str | None = None, path: str = "/", *, worker: bool = False, **more: object) -> Page:
        context = browser.new_context(**{**browser_context_args, **more}, base_url=site)  # type: ignore[arg-type]
        contexts.append(context)
        context.set_default_timeout(PATIENCE_MS)
        if not worker:
            context.add_init_script("delete window.Worker")
        page = context.new_page()
        page.on("pageerror", lambda why: faults.append(str(why)))
        page.on(
            "console",
            lambda m: faults.append(m.text) if m.type == "error" and "status of 4" not in m.text else None,
        )
        page.on(
            "request",
            lambda r: (
                None if r.url.startswith((site, "data:", "blob:")) else faults.append(f"asked for {r.url}")
            ),
        )
        if sign_in:  # by the door of the pages; how the page of it looks and works has tests of its own
            answer = context.request.post(
                "/api/sign-in", data={"sign_in": sign_in, "password": PASSWORD, "zone": ""}
            )
            assert answer.ok, answer.text()
        page.goto(path)
        if sign_in and path == "/":
            page.wait_for_url("**/desk" if sign_in == INSTRUCTOR[1] else "**/work")
        return page

    yield open_
    for context in contexts:
        context.close()
    assert faults == []


PATIENCE_MS = 60_000
"""A busy machine is slow, and nothing is wrong with it."""
expect.set_options(timeout=PATIENCE_MS)
