"""Pack the part of the core that runs in the page's worker, and the interpreter that runs it there.

    python -m scripts.worker_package

Writes ``frontend/generated/core.zip`` and ``frontend/public/assets/pyodide-VERSION/``, where what is worth it
has a packed copy beside it. The same sources give the same bytes.
"""

from __future__ import annotations

import gzip
import io
import json
import shutil
import tomllib
import zipfile
from pathlib import Path

ROOT = Path(__file__).parents[1]
CONTRACT = "What the page's worker runs uses the standard library alone"
INTERPRETER = ROOT / "frontend" / "node_modules" / "pyodide"
FILES = ("pyodide.mjs", "pyodide.asm.js", "pyodide.asm.wasm", "python_stdlib.zip", "pyodide-lock.json")
FIXED = (1980, 1, 1, 0, 0, 0)


def worker_sources() -> dict[str, bytes]:
    """Return the files of the packages and modules that the architecture's contract says run in the page."""
    contracts = tomllib.loads((ROOT / "pyproject.toml").read_text())["tool"]["importlinter"]["contracts"]
    names = next(c["source_modules"] for c in contracts if c["name"] == CONTRACT)
    paths = [ROOT / "src" / Path(*name.split(".")) for name in names]
    found = [
        p for path in paths for p in (path.rglob("*.py") if path.is_dir() else [path.with_suffix(".py")])
    ]
    packages = ("", "core", "core/geometry", "core/sheet")
    found += [ROOT / "src" / "evenmark" / p / "__init__.py" for p in packages]
    return {str(p.relative_to(ROOT / "src")): p.read_bytes() for p in sorted(set(found))}


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
