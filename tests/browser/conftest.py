"""The real thing for browser tests: built pages, web server and worker as processes, the demo in a database
of its own."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from scripts.cluster import Cluster
from sqlalchemy import create_engine, text

from evenmark.demo.load import INSTRUCTOR, PASSWORD, load_demo
from evenmark.store.database import Database
from evenmark.store.migrate import upgrade
from tests.conftest import ROOT

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
    return {"executable_path": "/usr/bin/chromium", "args": FLAGS}


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, object]:
    return {"viewport": {"width": 1280, "height": 800}, "locale": "en-GB"}


@pytest.fixture(scope="session")
def site(cluster: Cluster) -> Iterator[str]:
    """The address of a running Even Mark with the demo loaded."""
    admin = create_engine(cluster.url, isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text("create database site"))
    admin.dispose()
    url = cluster.url.rsplit("/", 1)[0] + "/site"
    upgrade(url)
    database = Database(url)
    load_demo(database)
    database.close()
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
        for _ in range(300):
            try:
                urllib.request.urlopen(f"{address}/api/session", timeout=2).close()
                break
            except OSError:
                time.sleep(0.1)
        yield address
    finally:
        for child in children:
            child.terminate()
        for child in children:
            child.wait(30)


@pytest.fixture
def faults() -> list[str]:
    """What the pages of a test complained about; empty at the end, or the test fails."""
    return []


@pytest.fixture
def anyone(
    browser: Browser, site: str, faults: list[str], browser_context_args: dict[str, object]
) -> Iterator[object]:
    """Opens a fresh browser for somebody: ``anyone("maren")`` is signed in, ``anyone()`` a stranger."""
    contexts = []

    def open_(sign_in: str | None = None, path: str = "/", **more: object) -> Page:
        context = browser.new_context(**{**browser_context_args, **more}, base_url=site)  # type: ignore[arg-type]
        contexts.append(context)
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
        page.goto("/")
        if sign_in:
            page.get_by_label("Sign-in name").fill(sign_in)
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.wait_for_url("**/desk" if sign_in == INSTRUCTOR[1] else "**/work")
            if path != "/":
                page.goto(path)
        return page

    yield open_
    for context in contexts:
        context.close()
    assert faults == []


expect.set_options(timeout=20_000)
