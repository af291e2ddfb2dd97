"""The core as the page's worker runs it: in Chromium, through Pyodide, it draws the same numbers to the last
digit, and its own tests of numbers, sentences and construction hold there."""

from __future__ import annotations

import importlib.util
import io
import json
import threading
import zipfile
from collections.abc import Iterator
from functools import partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page
from scripts.worker_package import worker_sources

from tests.catalogue import EXAMPLES
from tests.conftest import ROOT
from tests.extent import only_in_full, size
from tests.same_digits import digits

PYODIDE = ROOT / "frontend" / "node_modules" / "pyodide"
TESTS = ("test_numbers", "test_sentences", "test_draw", "test_change", "test_helping", "test_steps_document")
PACKAGES = ("pytest", "_pytest", "pluggy", "iniconfig", "packaging", "pygments")
NO_HYPOTHESIS = b"""
import pytest

class Anything:
    def __getattr__(self, name): return self
    def __call__(self, *a, **k): return self
    def __or__(self, other): return self
    def __iter__(self): return iter(())

strategies = Anything()

def given(*a, **k):
    def left_out(test):
        def skipped(): pytest.skip("Hypothesis has a compiled part, which does not run here.")
        skipped.__name__ = test.__name__
        return skipped
    return left_out

def settings(*a, **k): return lambda test: test
"""
MINUTES = 4 * 60_000


def with_tests() -> dict[str, bytes]:
    """The core's own tests, and the pure Python packages that run them."""
    out = {"tests/__init__.py": b"", "tests/core/__init__.py": b""}
    for name in TESTS:
        out[f"tests/core/{name}.py"] = (ROOT / "tests" / "core" / f"{name}.py").read_bytes()
    out["tests/same_digits.py"] = (ROOT / "tests" / "same_digits.py").read_bytes()
    out["hypothesis.py"] = NO_HYPOTHESIS
    alone = importlib.util.find_spec("py")
    if alone is not None and alone.origin is not None:
        out["py.py"] = Path(alone.origin).read_bytes()
    for package in PACKAGES:
        spec = importlib.util.find_spec(package)
        assert spec is not None
        assert spec.origin is not None
        folder = Path(spec.origin).parent
        for p in folder.rglob("*.py"):
            out[str(p.relative_to(folder.parent))] = p.read_bytes()
    return out


@pytest.fixture(scope="module")
def served(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The address of a folder with Pyodide and the core."""
    folder = tmp_path_factory.mktemp("page")
    for p in PYODIDE.iterdir():
        if p.suffix in (".js", ".mjs", ".wasm", ".zip", ".json"):
            (folder / p.name).symlink_to(p)
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as z:
        for name, data in {**worker_sources(), **with_tests()}.items():
            z.writestr(name, data)
    (folder / "core.zip").write_bytes(packed.getvalue())
    (folder / "index.html").write_text("<!doctype html><title>core</title>")

    class Quiet(SimpleHTTPRequestHandler):
        def log_message(self, *_: Any) -> None:
            pass

    server = ThreadingHTTPServer(("127.0.0.1", 0), partial(Quiet, directory=str(folder)))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}/"
    server.shutdown()
    server.server_close()


@pytest.fixture
def core(page: Page, served: str) -> Page:
    """A page in which the core runs."""
    page.set_default_timeout(MINUTES)
    page.goto(served)
    page.evaluate(
        """async () => {
            const { loadPyodide } = await import("/pyodide.mjs")
            window.py = await loadPyodide({ indexURL: "/" })
            py.unpackArchive(await (await fetch("/core.zip")).arrayBuffer(), "zip", { extractDir: "/app" })
            py.runPython("import sys; sys.path.insert(0, '/app')")
        }"""
    )
    return page


def run(page: Page, python: str, **given: str) -> Any:
    """Run Python in the page, with some texts given by name."""
    return page.evaluate(
        """([python, given]) => {
            for (const name in given) py.globals.set(name, given[name])
            const found = py.runPython(python)
            return found.toJs ? found.toJs() : found
        }""",
        [python, given],
    )


def documents() -> dict[str, str]:
    """Every example of the page of steps, the demo's kit, and many angles."""
    out = {e.name: e.text for e in EXAMPLES}
    out |= {p.stem: p.read_text() for p in (ROOT / "src" / "evenmark" / "demo" / "kit").glob("*.txt")}
    out["angles"] = "\n".join(
        f"line 0, {k}; {k % 97 + 1}.37 toward {(k * 7919 % 36000) / 100}" for k in range(size(200, 1500))
    )
    out["arcs"] = "\n".join(
        f"arc centre {k % 31}.7, {k % 17}.3; from {k % 89 + 40}.21, {k % 53}.9; turn {k * 611 % 359 + 0.5}"
        for k in range(size(100, 700))
    )
    return out


def test_a_document_gives_the_same_numbers_to_the_last_digit(core: Page) -> None:
    given = documents()
    there = json.loads(
        run(
            core,
            "import json\nfrom tests.same_digits import digits\n"
            "json.dumps({k: digits(v) for k, v in json.loads(docs).items()})",
            docs=json.dumps(given),
        )
    )
    for name, text in given.items():
        assert there[name] == digits(text), name
    assert sum(map(len, there.values())) > size(4_000, 10_000)


@only_in_full
def test_the_cores_own_tests_hold_in_the_page(core: Page) -> None:
    status, said = run(
        core,
        "import contextlib, io, os, pytest\nos.chdir('/app')\nout = io.StringIO()\n"
        "with contextlib.redirect_stdout(out):\n"
        "    plain = ['-q', '-p', 'no:cacheprovider', '-p', 'no:faulthandler']\n"
        "    status = int(pytest.main([*plain, 'tests/core']))\n"
        "(status, out.getvalue()[-3000:])",
    )
    assert status == 0, said
