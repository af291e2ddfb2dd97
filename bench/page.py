"""Documents of steps in Pyodide against the server's Python: `python -m bench.page`.

Prints how much longer the same document takes there; needs Node and the front end's packages.
"""

from __future__ import annotations

import json
import statistics
import subprocess
import tempfile
import zipfile
from pathlib import Path

from scripts.worker_package import ROOT, worker_sources

from bench.__main__ import timed
from bench.extent import sized
from bench.steps import SHAPES
from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text

STEPS = sized(1000, 20)
SCRIPT = """
import json, statistics, time
from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
def took(text):
    began = time.perf_counter()
    build(from_text(text))
    return time.perf_counter() - began
texts = json.load(open("/app/texts.json"))
json.dumps({name: statistics.median(took(text) for _ in range(7)) for name, text in texts.items()})
"""


def main() -> int:
    """Print the figures."""
    texts = {name: "\n".join(shape(STEPS)) for name, shape in SHAPES.items()}
    with tempfile.TemporaryDirectory() as folder:
        core, script = Path(folder) / "core.zip", Path(folder) / "script.py"
        with zipfile.ZipFile(core, "w") as z:
            for name, data in worker_sources().items():
                z.writestr(name, data)
            z.writestr("texts.json", json.dumps(texts))
        script.write_text(SCRIPT)
        done = subprocess.run(
            ["node", str(ROOT / "bench" / "page.mjs"), str(core), str(script)],
            check=True,
            capture_output=True,
            text=True,
        )
    there = json.loads(done.stdout.strip().splitlines()[-1])
    for name, text in texts.items():
        here = statistics.median(timed(lambda: build(from_text(text))) for _ in range(7))  # noqa: B023
        print(f"{name:<8} {STEPS} steps in Pyodide: {there[name] / here:.1f} times the server's time")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
