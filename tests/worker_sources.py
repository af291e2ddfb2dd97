"""The part of the core that runs in the page's worker, as the architecture's contract names it."""

from __future__ import annotations

import tomllib
from pathlib import Path

ROOT = Path(__file__).parents[1]
CONTRACT = "What the page's worker runs uses the standard library alone"


def worker_sources() -> dict[str, bytes]:
    """What the contract says runs in the page: the files of its packages and modules."""
    contracts = tomllib.loads((ROOT / "pyproject.toml").read_text())["tool"]["importlinter"]["contracts"]
    names = next(c["source_modules"] for c in contracts if c["name"] == CONTRACT)
    paths = [ROOT / "src" / Path(*name.split(".")) for name in names]
    found = [
        p for path in paths for p in (path.rglob("*.py") if path.is_dir() else [path.with_suffix(".py")])
    ]
    packages = ("", "core", "core/geometry", "core/sheet")
    found += [ROOT / "src" / "evenmark" / p / "__init__.py" for p in packages]
    return {str(p.relative_to(ROOT / "src")): p.read_bytes() for p in found}
