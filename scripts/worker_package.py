"""Pack the part of the core that runs in the page's worker, and the interpreter that runs it there.

    python -m scripts.worker_package

Writes ``frontend/generated/core.zip`` and ``frontend/public/assets/pyodide-VERSION/``, where what is worth it
has a packed copy beside it. The same sources give the same bytes.
"""

from __future__ import annotations

import ast
import gzip
import io
import json
import shutil
import zipfile
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1]
SOURCES = ROOT / "src"
ENTRY = "evenmark.core.board.session"
"""What answers in the page (frontend/src/board/worker.ts)."""
INTERPRETER = ROOT / "frontend" / "node_modules" / "pyodide"
FILES = ("pyodide.mjs", "pyodide.asm.js", "pyodide.asm.wasm", "python_stdlib.zip", "pyodide-lock.json")
FIXED = (1980, 1, 1, 0, 0, 0)


def worker_sources() -> dict[str, bytes]:
    """Return the files of the modules that run in the page: the one that answers there, and all that it leads
    to, by what they import."""
    found: dict[str, Path] = {}
    waiting = [ENTRY]
    while waiting:
        name = waiting.pop()
        path = _path(name)
        if path is None or name in found:
            continue
        found[name] = path
        waiting += [name.rpartition(".")[0], *_imports(path)]
    return {str(p.relative_to(SOURCES)): p.read_bytes() for p in sorted(found.values())}


def _path(name: str) -> Path | None:
    """Return the file of a module of ours; None for any other."""
    base = SOURCES.joinpath(*name.split("."))
    return next((p for p in (base / "__init__.py", base.with_suffix(".py")) if name and p.exists()), None)


def _imports(path: Path) -> Iterator[str]:
    """Yield what a module imports, where it does so at all: modules, and names that may be some."""
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            yield from (a.name for a in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module is not None:
            yield node.module
            yield from (f"{node.module}.{a.name}" for a in node.names)


def packed(sources: dict[str, bytes]) -> bytes:
    """Return sources as an archive, the same bytes for the same sources."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in sources.items():
            archive.writestr(zipfile.ZipInfo(name, FIXED), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def main() -> None:
    """Write both."""
    generated = ROOT / "frontend" / "generated"
    generated.mkdir(exist_ok=True)
    (generated / "core.zip").write_bytes(packed(worker_sources()))
    version = json.loads((INTERPRETER / "package.json").read_text())["version"]
    folder = ROOT / "frontend" / "public" / "assets" / f"pyodide-{version}"
    for old in folder.parent.glob("pyodide-*"):
        if old != folder:
            shutil.rmtree(old)
    folder.mkdir(parents=True, exist_ok=True)
    for name in FILES:
        data = (INTERPRETER / name).read_bytes()
        if name == "pyodide-lock.json":  # none of its packages are used: the list would only be loaded
            lock = json.loads(data)
            data = json.dumps({**lock, "packages": {}}).encode()
        if (folder / name).exists() and (folder / name).read_bytes() == data:
            continue
        (folder / name).write_bytes(data)
        if not name.endswith(".zip"):
            (folder / f"{name}.gz").write_bytes(gzip.compress(data, 9, mtime=0))


if __name__ == "__main__":
    main()
